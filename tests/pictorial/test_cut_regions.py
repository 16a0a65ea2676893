"""Hatching: the direction that no outline has, one pitch for a part, another for its neighbour."""

import math
from itertools import pairwise

import pytest
import shapely
from bench.exercise_parts import PLAIN_FAMILIES, exercise

from cast import crate, prism
from holoptic.errors import BadInput
from holoptic.part import Body, Face, Part, Whole
from holoptic.part.cutting import Stock, cutter_of
from holoptic.pictorial import draw, view_of
from holoptic.pictorial.cut_regions import LEAST_CLEAR_DEG
from holoptic.sheet.hatching import hatch_lines
from holoptic.sheet.inking import cut_areas
from holoptic.solid.shelf import look, seen

FAMILIES = sorted(PLAIN_FAMILIES)


def cut(source, words, kind="isometric", corner="front-right"):
    view = view_of(kind, corner)
    facts = seen(source).facts
    cutter = cutter_of(words, Stock(source, facts.low, facts.high, view.toward_viewer))
    return draw(look(source, (view.toward_viewer,), cutter).looks[0], view)


def block(*sizes):
    return Part("block", crate(*sizes), (), "block")


def between(one, other):
    return abs((one - other + 90) % 180 - 90)


def test_in_isometric_lines_run_at_60_degrees_mirrored_on_the_second_plane():
    depth, length = sorted(cut(block(47, 39, 28), "half").regions, key=lambda r: abs(r.normal[0]))
    assert (depth.angle_deg, length.angle_deg) == pytest.approx((120.0, 60.0)) or (
        depth.angle_deg, length.angle_deg) == pytest.approx((60.0, 120.0))  # fmt: skip
    assert depth.pitch == length.pitch
    (level,) = cut(block(47, 39, 28), "full:height=9").regions
    assert min(between(level.angle_deg, angle) for angle in (0, 90)) < 1e-6


@pytest.mark.parametrize("kind", ["isometric", "cabinet", "cavalier", "dimetric",
                                  "trimetric:21:37", "plan-oblique:30:0.8"])  # fmt: skip
@pytest.mark.parametrize("seed", range(3))
def test_no_line_runs_nearly_along_a_long_outline_or_leaves_its_face(kind, seed):
    family = FAMILIES[(seed + len(kind)) % len(FAMILIES)]
    part = exercise(family, seed)
    for words in ("half", "full:depth", "full:height"):
        try:
            picture = cut(part, words, kind)
        except BadInput:
            continue
        areas = [region.outline.buffer(0.01) for region in picture.regions]
        strokes = picture.of_role("hatch")
        assert strokes
        for stroke in strokes:
            assert any(area.contains(shapely.LineString(stroke.path)) for area in areas)
        for region in picture.regions:
            ring = region.rings[0]
            long = 0.3 * max(region.outline.bounds[2] - region.outline.bounds[0],
                             region.outline.bounds[3] - region.outline.bounds[1])  # fmt: skip
            ways = {
                round(math.degrees(math.atan2(v - y, u - x)) % 180, 3)
                for (x, y), (u, v) in pairwise([*ring, ring[0]])
                if math.hypot(u - x, v - y) >= long
            }
            if len(ways) < 5:
                assert all(between(region.angle_deg, way) >= LEAST_CLEAR_DEG - 1e-6 for way in ways)


def test_neighbours_differ_and_one_part_has_one_pitch():
    lower, upper = block(60, 40, 20), block(60, 40, 9)
    whole = Whole("two", (Body("a", "lower", "p1", lower),
                          Body("b", "upper", "p2", upper, at=(0, 0, 20))))  # fmt: skip
    for kind in ("isometric", "cabinet"):
        picture = cut(whole, "full:depth=20", kind)
        by_body = {region.body: region for region in picture.regions}
        assert between(by_body[0].angle_deg, by_body[1].angle_deg) >= 25


def test_the_pitch_follows_size_and_scale_and_thin_walls_are_filled():
    thin = Part("tray", crate(80, 50, 30), (
        prism("hollow", "cut", Face.TOP, [(0.8, 5), (79.2, 5), (79.2, 45), (0.8, 45)], 0, 22),
    ), "block")  # fmt: skip
    picture = cut(thin, "full:depth=20")
    (floor,) = picture.regions  # walls and floor are one face
    assert floor.fill == "hatch"
    ring = Part("wall", crate(80, 50, 30), (
        prism("through", "cut", Face.TOP, [(0.8, 5), (79.2, 5), (79.2, 45), (0.8, 45)]),
    ), "block")  # fmt: skip
    walls = cut(ring, "full:depth=20")
    assert {region.fill for region in walls.regions} == {"solid"}
    assert {region.fill for region in walls.hatched_for(5.0).regions} == {"hatch"}
    small, large = (cut(block(*sizes), "full:depth").regions[0].pitch
                    for sizes in ((12, 9, 8), (180, 90, 140)))  # fmt: skip
    assert small < large
    for scale in (0.5, 1.0, 2.0):
        (area,) = cut_areas(cut(block(60, 40, 30), "full:depth"), (31.0, 17.0), scale)
        assert 1.0 <= area.hatch.pitch <= 4.0
        assert len(hatch_lines(area)) > 8


def test_ribs_cut_lengthwise_stay_plain_and_can_be_asked_for():
    web = prism("rib", "add", Face.FRONT, [(20, 12), (52, 12), (20, 40)], 17, 23)
    part = Part("shelf", crate(70, 40, 45), (
        prism("base", "add", Face.FRONT, [(0, 0), (70, 0), (70, 12), (0, 12)]),
        prism("back", "add", Face.FRONT, [(0, 12), (20, 12), (20, 45), (0, 45)]), web,
    ), "empty")  # fmt: skip
    lengthwise = cut(part, "full:depth=20")
    (region,) = lengthwise.regions
    assert region.area == pytest.approx(70 * 12 + 20 * 33 + 32 * 28 / 2)
    assert region.hatched.area < region.outline.area - 300
    assert len([s for s in lengthwise.visible if s.origin.operation == 2]) >= 3
    across = cut(part, "full:length=30")
    assert all(r.hatched.area == pytest.approx(r.outline.area) for r in across.regions)
    (asked,) = cut(part, "full:depth=20;plain=none").regions
    assert asked.hatched.area == pytest.approx(asked.outline.area)
