"""Wholes: seen together as exactly as one solid, and who is in whose way."""

import math
import random
from dataclasses import replace
from itertools import combinations, pairwise

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from cast import crate, hole, length, proved
from holoptic.curves.vectors import apply, dot, unit
from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import Spread, Turn, whole_of
from holoptic.part import Body, Face, Offset, Part, Polygon, Whole
from holoptic.pictorial import draw, view_of
from holoptic.solid.relating import relate
from holoptic.solid.seeing.clearances import Clearances, Standing
from holoptic.solid.shelf import look, seen
from holoptic.tolerance import CHORD_MM
from holoptic.worker.spreading import draw_whole_apart
from same_picture import differences

UP = (0.0, 0.0, 1.0)


def body(number, part, at=(0.0, 0.0, 0.0), turn=None):
    turning = (turn or Turn()).turning()
    return Body(f"b{number}", f"{part.name} {number}", f"p{number}", part, turning, at)


def whole(*bodies):
    return Whole("whole", bodies)


def block(length, depth, height, *operations, begin="block"):
    return Part("block", crate(length, depth, height), operations, begin)


def pin(diameter, height):
    half = diameter / 2
    return Part("pin", crate(diameter, diameter, height), (
        hole("pin", diameter=diameter, u=half, v=half, mode="add"),), "empty")  # fmt: skip


@pytest.fixture(scope="module")
def lamp():
    job = read_job(job_path("lamp-put-together"))
    return whole_of(job, job.arrangements[0])[0]


@pytest.mark.parametrize("choice", [("isometric", "front-right"), ("cabinet", "rear-left-below")])
@pytest.mark.parametrize("share", [0.0, 1.0])
def test_a_whole_is_seen_as_the_kernel_sees_its_bodies_together(lamp, choice, share):
    view = view_of(*choice)
    moved = lamp.moved({b.id: (0.0, 0.0, 21.0 * share * k) for k, b in enumerate(lamp.bodies)})
    together = seen(moved)
    own = draw(together.look(view.toward_viewer), view)
    kernels = draw(together.in_kernels_way(view.toward_viewer), view)
    lines = [replace(p, strokes=tuple(s for s in p.strokes if s.role != "centre"))
             for p in (own, kernels)]  # fmt: skip
    assert not list(differences(*lines))
    assert {stroke.origin.body for stroke in own.visible} >= {2, 5, 6, 7, 8, 9}


def test_each_line_keeps_body_and_operation_wherever_it_stands(lamp):
    direction = view_of("isometric", "front-right").toward_viewer
    alone = {b.id: look(b.source, (direction,)).looks[0] for b in lamp.bodies[2:]}
    facts = look(lamp, (direction,)).facts
    for number, one in enumerate(lamp.bodies[2:], 2):
        own = [edge for edge in facts.edges if edge.body == number]
        theirs = look(one.source, ()).facts.edges
        assert [edge.operation for edge in own] == [edge.operation for edge in theirs]
        for edge, there in zip(own, theirs, strict=True):
            assert math.dist(edge.curve.middle, one.place(there.curve.middle)) < 1e-6
        outlines = {p.operation for p in alone[one.id].pieces if p.edge is None}
        assert outlines >= {
            p.operation for p in look(lamp, (direction,)).looks[0].pieces
            if p.edge is None and p.body == number
        }  # fmt: skip


def test_a_turned_body_stands_where_its_turn_brings_it():
    part = block(30, 12, 7, hole(diameter=4, u=5, v=6))
    turn = Turn(Face.LEFT, Face.FRONT, 33.0, (1.0, 2.0, 0.5))
    one = body(1, part, (11.0, -4.0, 2.5), turn)
    facts = look(whole(one), ()).facts
    plain = look(part, ()).facts
    for edge, there in zip(facts.edges, plain.edges, strict=True):
        assert math.dist(edge.curve.middle, one.place(there.curve.middle)) < 1e-6
        assert edge.operation == there.operation
    assert facts.volume == pytest.approx(plain.volume)


# --- who is in whose way ----------------------------------------------------------------------


def held(*bodies, axis=UP):
    relations = relate(whole(*bodies))
    found = next(r for r in relations.axes if r.axis == axis)
    return found.held


def test_a_pin_in_a_bore_leaves_along_it_alone():
    plate = block(40, 40, 10, hole(diameter=8, u=20, v=20))
    through = body(1, plate), body(2, pin(8, 30), (16.0, 16.0, -5.0))
    assert held(*through) == set()
    assert held(*through, axis=(1.0, 0.0, 0.0)) == {(0, 1), (1, 0)}
    # a head above the plate keeps it from going down
    head = Part("head", crate(16, 16, 36), (
        hole("shank", diameter=8, u=8, v=8, mode="add"),
        replace(hole("cap", diameter=16, u=8, v=8, mode="add"), face=Face.TOP,
                end=crate(6, 1, 1).length),
    ), "empty")  # fmt: skip
    assert held(body(1, plate), body(2, head, (12.0, 12.0, -20.0))) == {(0, 1)}


def test_a_clasp_holds_what_it_grips_both_ways():
    """The grip reaches over and under the tongue; looked at along the axis, only its top shows."""
    clasp = whole(
        body(1, block(20, 20, 4)), body(2, block(20, 20, 4), (0.0, 0.0, 12.0)),
        body(3, block(20, 4, 8), (0.0, 16.0, 4.0)), body(4, block(10, 10, 8), (5.0, 2.0, 4.0)),
    )  # fmt: skip
    relations = relate(clasp)
    up = relations.axes[0].held
    assert {(3, 1), (0, 3)} <= up
    assert (1, 3) not in up


def test_cones_that_fit_do_not_hold_each_other():
    """Seat and plug share a slanting wall: their depths are the same along it."""
    seat = Part("seat", crate(40, 40, 20), (
        replace(hole("seat", diameter=24, u=20, v=20), face=Face.TOP, end_diameter=crate(10, 1, 1)
                .length),), "block")  # fmt: skip
    plug = Part("plug", crate(24, 24, 20), (
        replace(hole("plug", diameter=24, u=12, v=12, mode="add"), face=Face.TOP,
                end_diameter=crate(10, 1, 1).length),), "empty")  # fmt: skip
    assert held(body(1, seat), body(2, plug, (8.0, 8.0, 0.0))) == {(0, 1)}


BOXES = st.tuples(*[st.integers(0, 6).map(lambda k: 7.5 * k)] * 3,
                  *[st.integers(1, 4).map(lambda k: 7.5 * k)] * 3)  # fmt: skip


@given(st.lists(BOXES, min_size=2, max_size=4))
@settings(max_examples=25)
def test_boxes_hold_each_other_as_their_corners_say(boxes):
    made = [body(k, block(*box[3:]), tuple(map(float, box[:3]))) for k, box in enumerate(boxes)]
    ranges = [[(box[a], box[a] + box[3 + a]) for a in range(3)] for box in boxes]
    relations = relate(whole(*made))
    for relation in relations.axes:
        axis = max(range(3), key=lambda a: abs(relation.axis[a]))
        for a, b in combinations(range(len(boxes)), 2):
            across = all(
                min(ranges[a][k][1], ranges[b][k][1]) > max(ranges[a][k][0], ranges[b][k][0])
                for k in range(3) if k != axis
            )  # fmt: skip
            for first, second in ((a, b), (b, a)):
                is_before = ranges[second][axis][1] > ranges[first][axis][0]
                assert ((first, second) in relation.held) == (across and is_before)
    overlaps = {(o.first, o.second): o.volume for o in relations.overlaps}
    for a, b in combinations(range(len(boxes)), 2):
        shared = math.prod(
            max(0.0, min(ranges[a][k][1], ranges[b][k][1]) - max(ranges[a][k][0], ranges[b][k][0]))
            for k in range(3)
        )
        assert overlaps.get((a, b), 0.0) == pytest.approx(shared, abs=1e-3)


def test_parts_that_touch_sideways_are_no_loose_ones():
    relations = relate(whole(body(1, pin(10, 20)), body(2, block(6, 6, 20), (10.0, 2.0, 0.0)),
                             body(3, block(4, 4, 4), (90.0, 0.0, 0.0))))  # fmt: skip
    assert relations.touching == {(0, 1)}


def test_an_overlap_is_told_with_volume_and_place():
    relations = relate(whole(body(1, block(20, 10, 10)), body(2, block(20, 10, 10),
                                                              (16.0, 4.0, 0.0))))  # fmt: skip
    (shared,) = relations.overlaps
    assert shared.volume == pytest.approx(4 * 6 * 10)
    assert shared.place == pytest.approx((18.0, 7.0, 5.0))


def test_the_kernel_tells_the_same_without_the_compiled_part(lamp, monkeypatch):
    pair = [Standing(seen(whole(replace(b, moved=(0, 0, 0)))).solids[0], b.at)
            for b in lamp.bodies[3:5]]  # fmt: skip
    own = Clearances(UP).reach(*pair)
    for one in pair:
        monkeypatch.setattr(one.solid.sighting, "depths", lambda *_: None)
    assert Clearances(UP).reach(*pair) == own == (True, False, True)


def test_axis_lines_run_from_feature_to_feature_and_are_broken_behind_parts(lamp):
    view = view_of("isometric", "front-right")
    moved = lamp.moved({b.id: (0.0, 0.0, 60.0 * k) for k, b in enumerate(lamp.bodies)})
    found = look(moved, (view.toward_viewer,)).looks[0].axis_lines
    middle = [line for line, _ in found if math.dist(line.start[:2], (48.5, 33.0)) < 1e-6]
    assert len(middle) >= 6
    solid = seen(moved)
    for line in middle:
        assert line.start[2] < line.end[2]
        place = line.at(line.length * 0.37)
        depth = dot(unit(view.toward_viewer), place)
        toward = unit(view.toward_viewer)
        nearest = solid.depths(toward, np.array([place]))[0, 1]
        assert nearest <= depth + 0.02
    # where a rim hides them they end on it, not on a chord of it
    drawn = draw(look(moved, (view.toward_viewer,)).looks[0], view)
    rims = [shapely.LineString(s.path) for s in drawn.visible if not s.is_straight]
    gaps = [min(shapely.Point(apply(view.matrix, place)).distance(rim) for rim in rims)
            for line in middle for place in (line.start, line.end)]  # fmt: skip
    at_rims = [gap for gap in gaps if gap < 0.2]
    assert len(at_rims) >= 6
    assert max(at_rims) < 1.2 * CHORD_MM
    # nothing of them is told twice
    spans = sorted((line.start[2], line.end[2]) for line in middle)
    assert all(a[1] <= b[0] + 1e-9 for a, b in pairwise(spans))


@pytest.mark.parametrize("top", [Face.TOP, Face.RIGHT, Face.BOTTOM])
def test_a_turned_polygon_is_carried_from_its_auxiliary_figure(top):
    """Two nuts on a plate, however they lie: one figure does for both."""
    hexagon = Polygon("nut", "add", Face.BOTTOM, 6, length("18.5"), "across flats",
                      Offset(length(11)), Offset(length(11)), length(0), None)  # fmt: skip
    nut = Part("nut", crate(22, 22, 9.5), (hexagon,), "empty")
    plate = body(1, block(64.5, 40, 8))
    turn = Turn(Face.FRONT, top)
    nuts = [body(k, nut, (18.0 * k, 20.0, 30.0), turn) for k in (2, 3)]
    made = whole(plate, *nuts)
    view = view_of("isometric", "front-right")
    found = look(made, (view.toward_viewer,))
    plan, proof = proved(made, found.facts, draw(found.looks[0], view))
    assert proof.holds
    said = [move.text for move in plan.moves]
    assert sum("Auxiliary figure of the nut" in text for text in said) == 1
    assert any("from the auxiliary figure with the dividers" in text for text in said)


@pytest.mark.parametrize("seed", [2, 9])
def test_a_random_stack_apart_is_seen_and_drawn_by_hand(seed):
    """Plates with bores and pins through them, stacked at random: apart, pictured and proved."""
    chance, bodies, low = random.Random(seed), [], 0.0
    for number in range(4):
        wide, high = chance.randint(24, 60) + 0.5, chance.randint(5, 18) + 0.5
        bore = hole("bore", diameter=chance.randint(5, 12), u=wide / 2, v=wide / 2)
        made = block(wide, wide, high, bore, begin="block")
        bodies.append(body(number, made, (-wide / 2, -wide / 2, low)))
        low += high
    stack = whole(*bodies)
    view = view_of("isometric", "front-left")
    apart = draw_whole_apart(stack, Spread(), view.toward_viewer)
    assert not apart.unseen
    assert sorted(apart.parting.order) == [0, 1, 2, 3]
    moved = apart.at(1.0)
    seen_apart = look(moved, (view.toward_viewer,))
    drawn = draw(seen_apart.looks[0], view)
    assert {stroke.origin.body for stroke in drawn.visible} == {0, 1, 2, 3}
    assert proved(moved, seen_apart.facts, drawn)[1].holds
