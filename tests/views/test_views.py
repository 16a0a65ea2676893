"""The orthographic views and where they stand."""

import pytest
from hypothesis import assume, given, settings

from cast import crate, hole, parts, prism, stepped_block
from holoptic.errors import PartError
from holoptic.part import Face, Part
from holoptic.views import VIEW_NAMES, lay_out, orthographic, view_directions
from holoptic.views.layout import layout_extent
from holoptic.views.orthographic import paper_point


def views_of(worker, part):
    return orthographic(worker.ask("look", part, view_directions()))


def spans(strokes, role, axis=0):
    return sorted(
        tuple(sorted((round(s.path[0][axis], 6), round(s.path[-1][axis], 6))))
        for s in strokes if s.role == role
    )  # fmt: skip


@settings(max_examples=15)
@given(part=parts())
def test_views_never_overlap_and_share_their_edges(worker, part):
    try:
        placed = lay_out(views_of(worker, part))
    except PartError:
        assume(False)
    front, top, right = (view.extent for view in placed)
    assert top[1] >= front[3] + 17.9
    assert right[0] >= front[2] + 17.9
    # length is shared with the view above, height with the view beside
    assert (front[0], front[2]) == pytest.approx((top[0], top[2]), abs=1e-6)
    assert (front[1], front[3]) == pytest.approx((right[1], right[3]), abs=1e-6)
    whole = layout_extent(placed)
    assert whole == (front[0], front[1], right[2], top[3])


def test_a_slot_from_below_is_hidden_from_above(worker):
    slot = prism("slot", face=Face.BOTTOM, outline=[(20, 0), (35, 0), (35, 46), (20, 46)], end=6.5)
    views = views_of(worker, Part("p", crate(84, 46, 37.5), (slot,)))
    assert spans(views["top"].strokes, "hidden") == [(20, 20), (35, 35)]
    assert spans(views["front"].strokes, "hidden") == []


def test_a_through_hole_shows_as_two_hidden_generators(worker):
    bored = Part("p", crate(84, 46, 37.5), (hole(diameter=17, u=30, v=20),))
    views = views_of(worker, bored)
    assert spans(views["front"].strokes, "hidden") == [(21.5, 21.5), (38.5, 38.5)]
    assert spans(views["right"].strokes, "hidden") == [(11.5, 11.5), (28.5, 28.5)]
    assert [s for s in views["top"].strokes if s.role == "hidden"] == []


def test_points_of_the_part_are_found_in_each_view():
    point = (12.0, 34.0, 56.0)
    found = {name: paper_point(name, point) for name in VIEW_NAMES}
    assert found == {
        "front": (12, 56), "top": (12, 34), "right": (34, 56),
        "left": (-34, 56), "rear": (-12, 56), "bottom": (12, -34),
    }  # fmt: skip


@pytest.mark.parametrize(
    ("angle", "above", "below", "left", "right"),
    [("third", "top", "bottom", "left", "right"), ("first", "bottom", "top", "right", "left")],
)
def test_six_views_stand_on_their_sides(worker, angle, above, below, left, right):
    seen = worker.ask("look", stepped_block(), view_directions("six"))
    placed = {view.name: view.extent for view in lay_out(orthographic(seen, "six"), angle)}
    front = placed["front"]
    assert placed[above][1] > front[3]
    assert placed[below][3] < front[1]
    assert placed[left][2] < front[0]
    assert front[2] < placed[right][0]
    assert max(placed["left"][2], placed["right"][2]) < placed["rear"][0]
    for name in (above, below):  # in line with the front view
        assert (placed[name][0], placed[name][2]) == (front[0], front[2])
    for name in ("left", "right", "rear"):
        assert (placed[name][1], placed[name][3]) == (front[1], front[3])


def test_opposite_views_are_mirrored(worker):
    seen = worker.ask("look", stepped_block(), view_directions("six"))
    views = orthographic(seen, "six")
    for name, other in (("front", "rear"), ("right", "left")):
        wide = {round(x, 6) for stroke in views[name].strokes for x, _ in stroke.path}
        assert {-x + 0.0 for x in wide} == {
            round(x, 6) + 0.0 for stroke in views[other].strokes for x, _ in stroke.path
        }


def test_a_direction_that_was_not_looked_along_is_refused(worker):
    seen = worker.ask("look", stepped_block(), view_directions()[:1])
    with pytest.raises(KeyError):
        orthographic(seen)
