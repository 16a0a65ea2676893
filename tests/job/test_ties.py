"""Placing by meaning: faces, axes, flush sides and middles, what stays free, what contradicts."""

import math
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cast import crate, hole
from holoptic.curves.space import Segment
from holoptic.curves.vectors import cross, dot, subtract, unit
from holoptic.errors import BadInput
from holoptic.exchange.job_file import job_bytes, parse_job
from holoptic.job import (
    Arrangement,
    Placed,
    Tie,
    Turn,
    freedom_of,
    job_of,
    read_tie,
    whole_of,
)
from holoptic.job.arrangements import turn_of
from holoptic.job.ties import Stand, settle
from holoptic.part import Face, ImportedSolid, Part
from holoptic.part.grips import grip_name, grip_of, grips
from holoptic.part.whole import after, rotation, turned
from holoptic.units import Length


def plate():
    return Part("latch plate", crate(61, 43, 8.5), (hole("bore", diameter=12, u=22, v=17),))


def peg():
    return Part("peg", crate(12, 12, 31), (
        hole("shank", diameter=12, u=6, v=6, mode="add"),), "empty")  # fmt: skip


def job_with(*ties, turn=Turn(), at=("5", "-7", "3")):  # noqa: B008 - a frozen value
    job = job_of("ties", [plate(), peg()])
    placed = (
        Placed("b1", "p1"),
        Placed("b2", "p2", tuple(Length.read(word) for word in at), turn, ties=ties),
    )
    return job.with_arrangement(Arrangement("a1", "pair", placed))


def settled(*ties, **how):
    job = job_with(*ties, **how)
    whole, troubles = whole_of(job, job.arrangements[0])
    return whole.bodies[1], troubles, freedom_of(job, job.arrangements[0]).get("b2", "")


ON_BORE = Tie("on", "shank", "b1", "bore")
ON_TOP = Tie("on", "bottom", "b1", "top")


def test_straight_edges_of_a_solid_from_a_file_tell_of_its_outer_faces():
    solid = ImportedSolid("cap", "/cap.step", 0, "", "step")
    box = (-3.0, 0.0, 2.0), (9.0, 7.0, 11.5)
    level = Segment((0.0, 3.0, 11.5), (4.0, 7.0, 11.5))
    words = grip_name(solid, level, box)
    assert words == "face(3,3.5,11.5; 0,0,1)"
    grip = grip_of(solid, words)
    assert (grip.sort, grip.place, grip.way) == ("face", (3.0, 3.5, 11.5), (0.0, 0.0, 1.0))
    assert grip_name(solid, Segment((0.0, 3.0, 5.0), (4.0, 3.0, 5.0)), box) is None
    assert grip_name(solid, level) is None


def test_face_on_face_leaves_two_ways_and_a_turn():
    body, troubles, free = settled(ON_TOP)
    assert (body.at, troubles) == ((5.0, -7.0, 8.5), ())
    assert free == "may still move along length, depth; may still turn about the height"


def test_axis_in_axis_and_face_on_face_leave_a_turn_alone():
    body, troubles, free = settled(ON_BORE, ON_TOP)
    assert body.place((6.0, 6.0, 0.0)) == pytest.approx((22.0, 17.0, 8.5))
    assert (troubles, free) == ((), "may still turn about the height")


def test_a_second_face_takes_the_last_turn():
    flush = Tie("flush", "front", "b1", "left")
    body, troubles, free = settled(ON_TOP, flush, Tie("middle", "depth", "b1", "depth"))
    assert (free, troubles) == ("", ())
    normal = turned(body.turning, (0.0, -1.0, 0.0))
    assert normal == pytest.approx((-1.0, 0.0, 0.0))


def test_a_part_that_lies_down_is_turned_upright_by_its_ties():
    body, troubles, _ = settled(ON_BORE, ON_TOP, turn=Turn(Face.TOP, Face.LEFT))
    assert not troubles
    assert turned(body.turning, (0.0, 0.0, 1.0)) == pytest.approx((0.0, 0.0, 1.0))
    assert body.place((6.0, 6.0, 0.0)) == pytest.approx((22.0, 17.0, 8.5))


def test_a_gap_is_kept_and_its_words_too():
    body, _, _ = settled(replace(ON_TOP, gap=Length.read("2*1.5")))
    assert body.at[2] == 11.5


def test_what_contradicts_is_named_and_the_rest_stands():
    body, troubles, _ = settled(ON_TOP, Tie("on", "bottom", "b1", "bottom"))
    (trouble,) = troubles
    assert "bottom on latch plate.bottom" in trouble.why
    sound = settled(ON_TOP)[0]
    assert (body.at, body.turning) == (sound.at, sound.turning)
    askew = Tie("flush", "top", "b1", "front")
    middle = Tie("middle", "depth", "b1", "depth")
    body, troubles, _ = settled(ON_TOP, askew, middle)
    assert "top flush latch plate.front" in troubles[0].why
    assert "contradicts" in troubles[0].why
    assert body.at == settled(ON_TOP, middle)[0].at


def test_ties_to_nothing_are_named_and_nothing_is_lost():
    for tie, why in (
        (Tie("on", "bottom", "b9", "top"), "does not stand there"),
        (Tie("on", "heel", "b1", "top"), "no “heel”"),
        (Tie("on", "shank", "b1", "top"), "axis runs in an axis"),
    ):
        body, troubles, _ = settled(tie)
        assert why in troubles[0].why
        assert body.at == (5.0, -7.0, 3.0)


def test_ties_that_lead_round_leave_the_first_where_it_was_placed():
    job = job_with(ON_TOP)
    made = job.arrangements[0]
    first = replace(made.placed[0], ties=(Tie("on", "top", "b2", "bottom"),))
    job = job.with_arrangement(made.with_placed(first))
    whole, troubles = whole_of(job, job.arrangements[0])
    assert not troubles
    low = whole.bodies[0].place((0.0, 0.0, 8.5))[2], whole.bodies[1].at[2]
    assert low[0] == pytest.approx(low[1])


def test_parts_follow_when_what_they_stand_on_changes():
    job = job_with(ON_BORE, ON_TOP)
    thicker = replace(job.parts[0].source, crate=crate(61, 43, 14))
    whole, _ = whole_of(job.with_source("p1", thicker), job.arrangements[0])
    assert whole.bodies[1].at[2] == pytest.approx(14)


def test_ties_live_in_the_job_file():
    job = job_with(ON_BORE, replace(ON_TOP, gap=Length.read("1.5+2")))
    assert parse_job(job_bytes(job)) == job


@pytest.mark.parametrize("text, tie", [
    ("bottom on latch plate.top", ON_TOP),
    ("  shank on latch plate.bore ", ON_BORE),
    ("front flush latch plate.front + 2.5",
     Tie("flush", "front", "b1", "front", Length.read("2.5"))),
    ("bottom on latch plate.top - 3", Tie("on", "bottom", "b1", "top", Length.read("-3"))),
    ("depth middle latch plate", Tie("middle", "depth", "b1", "depth")),
    ("axis(1,2,3; 0,0,1) on latch plate.bore", Tie("on", "axis(1,2,3; 0,0,1)", "b1", "bore")),
])  # fmt: skip
def test_ties_are_read_as_they_are_written(text, tie):
    read = read_tie(text, {"latch plate": "b1", "latch": "b7"})
    assert read == tie
    assert read_tie(read.words("latch plate"), {"latch plate": "b1"}) == tie


@pytest.mark.parametrize("text", ["", "bottom", "bottom on", "bottom on nothing.top",
                                  "bottom on latch plate", "top middle latch plate",
                                  "bottom under latch plate.top"])  # fmt: skip
def test_half_typed_ties_are_refused(text):
    with pytest.raises(BadInput):
        read_tie(text, {"latch plate": "b1"})


def test_copies_have_axes_of_their_own_and_a_cuts_walls_face_inward():
    found = dict(grips(plate()))
    assert found["bore"].place[:2] == (22.0, 17.0)
    assert found["bore.left"].way == (1.0, 0.0, 0.0)
    assert found["top"].way == (0.0, 0.0, 1.0)
    assert grip_of(plate(), "face(1,2,3; 0,0,-2)").way == (0.0, 0.0, -1.0)
    for words in ("nose", "face(1,2; 0,0,1)", "axis(1,2,3; 0,0,0)", "face(a,b,c; 0,0,1)"):
        with pytest.raises(BadInput):
            grip_of(plate(), words)


WAYS = st.tuples(*[st.floats(-1, 1)] * 3).filter(lambda v: dot(v, v) > 0.1).map(unit)


@given(WAYS, st.floats(-3, 3), WAYS, WAYS, st.tuples(*[st.floats(-60, 60)] * 3))
def test_from_any_stand_a_pin_comes_into_its_bore(axis, angle, other, start, at):
    turning = after(rotation(other, 0.7), rotation(axis, angle))
    base = Stand(plate(), rotation(start, 1.1), (3.0, 4.0, 5.0))
    found = settle(Stand(peg(), turning, at), [(ON_BORE, base), (ON_TOP, base)], {"b1": "plate"})
    assert not found.conflict
    bore, shank = base.held(grip_of(plate(), "bore")), found.stand.held(grip_of(peg(), "shank"))
    off = cross(subtract(bore.place, shank.place), bore.way)
    assert math.sqrt(dot(off, off)) < 1e-6
    top, bottom = base.held(grip_of(plate(), "top")), found.stand.held(grip_of(peg(), "bottom"))
    assert dot(top.way, bottom.way) == pytest.approx(-1)
    assert dot(subtract(bottom.place, top.place), top.way) == pytest.approx(0, abs=1e-6)


@given(WAYS, st.floats(-3.1, 3.1))
def test_every_rotation_is_a_turn_and_comes_back(axis, angle):
    turning = rotation(axis, angle)
    back = turn_of(turning).turning()
    for row, other in zip(turning, back, strict=True):
        assert row == pytest.approx(other, abs=2e-6)


@pytest.mark.parametrize("front", Face)
@pytest.mark.parametrize("top", Face)
def test_the_twenty_four_turns_keep_axes_parallel(front, top):
    turn = Turn(front, top)
    if front.normal_axis == top.normal_axis:
        with pytest.raises(BadInput, match="do not meet"):
            turn.turning()
        return
    turning = turn.turning()
    assert turn_of(turning) == turn
    rows = [tuple(round(value) for value in row) for row in turning]
    assert rows == [tuple(row) for row in turning]
    assert dot(cross(turning[0], turning[1]), turning[2]) == 1
