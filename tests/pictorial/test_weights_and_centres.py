"""Thick and thin lines against rays, and where centre lines go."""

import math

import numpy as np
import pytest

from cast import crate, hole, picture
from csg import Body, body, box, cylinder
from holoptic.curves.space import EllipticArc
from holoptic.part import Face, Part
from holoptic.pictorial import draw, view_of
from holoptic.pictorial.weights import weighted_parts
from holoptic.solid.anatomy.kernel_shapes import tidy
from holoptic.solid.seeing.hidden import SeenSolid
from holoptic.views import orthographic, view_directions
from own_solids import SOLIDS

NAMES = ("gallery step", "hexagonal pedestal", "blind hole", "round-ended bracket", "cone frustum",
         "crossing cylinders", "stepped shaft", "hole in a slope")  # fmt: skip


def depth(solid: Body, points: np.ndarray, toward: np.ndarray) -> np.ndarray:
    """Return how far toward the viewer the nearest surface over each point lies (−inf: none)."""
    at = np.sort(solid.crossings(points, toward), axis=1)
    result = np.full(len(points), -np.inf)
    for low, high in zip(at.T[:-1], at.T[1:], strict=True):
        real = np.isfinite(low) & np.isfinite(high)
        middle = np.where(real, (low + high) / 2, 0)
        full = real & solid.inside(points + middle[:, None] * toward)
        result[full] = high[full]
    return result


@pytest.mark.parametrize("item", [b for b in SOLIDS if b.name in NAMES], ids=lambda b: b.name)
def test_lines_are_thick_where_one_face_alone_is_seen(item):
    """A face that ends at the line without being seen leaves a step in depth beside it."""
    solid = SeenSolid(tidy(item.kernel_shape()))
    for corner in ("front-right", "rear-left-below"):
        view = view_of("trimetric:17:32", corner)
        picture = draw(solid.look(view.toward_viewer), view)
        toward = np.array(view.toward_viewer) / np.linalg.norm(view.toward_viewer)
        judged = 0
        for stroke in picture.visible:
            for curve, is_thick in weighted_parts(stroke.curve, stroke.thick):
                first, last = curve.span
                t = first + (last - first) * np.array([0.2, 0.37, 0.5, 0.71, 0.85])
                points = np.array([curve.at(float(v)) for v in t])
                ahead = np.array([curve.at(float(v + 1e-4 * (last - first))) for v in t])
                side = np.cross(ahead - points, toward)
                side /= np.linalg.norm(side, axis=1)[:, None]
                steps = [
                    -depth(item, points + sign * 2e-3 * side, toward) > 0.1 for sign in (1, -1)
                ]
                has_step = steps[0] | steps[1]
                judged += len(has_step)
                assert (has_step == is_thick).mean() >= 0.8, (curve, is_thick)
        assert judged > 30


def test_a_block_has_six_thick_and_three_thin_lines(worker):
    _, drawn = picture(worker, Part("block", crate(84, 46, 37.5)))
    assert sorted(bool(stroke.thick) for stroke in drawn.visible) == [False] * 3 + [True] * 6


def test_parts_of_a_stroke_add_up_to_it(worker):
    part = Part("boss", crate(50, 50, 31), (hole("boss", diameter=33, u=25, v=25, mode="add"),),
                begin="empty")  # fmt: skip
    _, drawn = picture(worker, part)
    rim = next(s for s in drawn.visible if isinstance(s.curve, EllipticArc) and s.curve.is_closed)
    pieces = weighted_parts(rim.curve, rim.thick)
    assert {is_thick for _, is_thick in pieces} == {True, False}
    assert sum(curve.length for curve, _ in pieces) == pytest.approx(rim.curve.length)
    # the rear half of the rim is the outline: it begins where the generators touch
    thick = sum(curve.length for curve, is_thick in pieces if is_thick)
    assert thick == pytest.approx(rim.curve.length / 2, rel=1e-3)


PLATE = Part("plate", crate(70, 44, 18), (
    hole("bore", diameter=20, u=30, v=22), hole("seat", diameter=28, u=30, v=22, end=5),
    hole("pin", diameter=5, u=60, v=33, end=9),
))  # fmt: skip


def ends(strokes):
    return sorted(
        tuple(sorted((round(x, 4), round(y, 4)) for x, y in stroke.path)) for stroke in strokes
    )


def test_views_get_crosses_and_axes(worker):
    seen = worker.ask("look", PLATE, view_directions())
    views = orthographic(seen)
    # over the larger circle of each axis, with 3 mm more at each end
    assert ends(views["top"].of_role("centre")) == [
        ((13, 22), (47, 22)), ((30, 5), (30, 39)),
        ((54.5, 33), (65.5, 33)), ((60, 27.5), (60, 38.5)),
    ]  # fmt: skip
    assert ends(views["front"].of_role("centre")) == [((30, -3), (30, 21)), ((60, 6), (60, 21))]


def test_a_picture_gets_crosses_on_the_rims_that_are_seen(worker):
    _, drawn = picture(worker, PLATE)
    lengths = sorted(math.dist(*s.path) for s in drawn.of_role("centre"))
    assert lengths == pytest.approx([11, 11, 34, 34])
    places = {tuple(np.round(s.curve.at(s.curve.length / 2), 6)) for s in drawn.of_role("centre")}
    assert places == {(30, 22, 18), (60, 33, 18)}
    _, below = picture(worker, PLATE, corner="front-right-below")
    assert len(below.of_role("centre")) == 2  # the blind hole is not seen from underneath


def test_round_ends_have_centre_lines_and_fillets_have_none():
    slot = next(item for item in SOLIDS if item.name == "slot with round ends")
    fillet = body("fillet", box(50, 30, 12)).minus(cylinder(8, 20, at=(0, 0, -4)))
    for solid, count in ((slot, 4), (fillet, 0)):
        view = view_of("isometric")
        seen = SeenSolid(tidy(solid.kernel_shape()))
        drawn = draw(seen.look(view.toward_viewer), view)
        assert len(drawn.of_role("centre")) == count


def test_centre_lines_of_a_skew_bore_follow_its_own_axes(worker):
    part = Part("side", crate(40, 50, 30), (hole("eye", face=Face.RIGHT, diameter=12, u=25, v=15),))
    _, drawn = picture(worker, part)
    for stroke in drawn.of_role("centre"):
        assert stroke.curve.start[0] == stroke.curve.end[0] == 40
