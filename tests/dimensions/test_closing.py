"""Sizes are proposed complete and proved so; the check finds what is taken away or said twice."""

from dataclasses import replace

import pytest
from bench.exercise_parts import PLAIN_FAMILIES, SKEW_FAMILIES, exercise
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from cast import crate, hole, parts, prism
from holoptic.demo import job_path
from holoptic.dimensions import Dimension, Level, check, needs_of, propose
from holoptic.errors import PartError
from holoptic.exchange.job_file import read_job
from holoptic.part import (
    AboutCentre,
    Ball,
    Corner,
    Face,
    Hole,
    Offset,
    Part,
    Prism,
    Ring,
    Round,
    Slope,
)
from holoptic.solid.pieces import Wall
from holoptic.solid.shelf import shape_of
from holoptic.units import Length

_length = Length.of
SLOW = settings(
    max_examples=25, deadline=None, suppress_health_check=[HealthCheck.too_slow]
)  # solids are built


def sizes_of(part):
    needs = needs_of(shape_of(part))
    return needs, propose(part, needs)


def words(part):
    return [str(one) for one in sizes_of(part)[1]]


def plate(*operations):
    base = prism("plate", "add", Face.BOTTOM, [(0, 0), (71, 0), (71, 47), (0, 47)], 0, 13)
    return Part("plate", crate(71, 47, 13), (base, *operations), "empty")


@SLOW
@given(parts())
def test_any_part_gets_sizes_that_suffice_and_none_follows_from_others(part):
    try:
        needs, sizes = sizes_of(part)
    except PartError:
        assume(False)
    assert check(needs, sizes).lines == ["complete"]


@SLOW
@given(parts(rounds=False), st.data())
def test_a_size_taken_away_is_missing_and_one_more_is_doubled(part, data):
    try:
        needs, sizes = sizes_of(part)
    except PartError:
        assume(False)
    left_out = data.draw(st.sampled_from(sizes))
    missing = check(needs, [one for one in sizes if one is not left_out])
    assert len(missing.missing) == 1
    assert missing.doubled == ()
    axis = data.draw(st.integers(0, 2))
    low, high = data.draw(
        st.lists(st.sampled_from(sorted(x for x in needs.levels if x.axis == axis)),
                 min_size=2, max_size=2, unique=True))  # fmt: skip
    more = Dimension("length", abs(high.at - low.at), levels=(low, high))
    closing = check(needs, [*sizes, more])
    assert (closing.missing, closing.doubled) == ((), (more,))


@pytest.mark.parametrize("family", [*PLAIN_FAMILIES, *SKEW_FAMILIES])
def test_exercise_parts_of_every_family_are_sized_completely(family):
    needs, sizes = sizes_of(exercise(family, 3))
    assert check(needs, sizes).lines == ["complete"]


@pytest.mark.parametrize("name", ["harbour-lamp", "lamp-put-together"])
def test_demo_parts_are_sized_completely(name):
    for part in read_job(job_path(name)).parts:
        needs, sizes = sizes_of(part.source)
        assert check(needs, sizes).lines == ["complete"], part.source.name


def test_what_was_given_is_proposed_each_once():
    part = plate(hole("bore", diameter=12, u=22, v=17), hole("pin", diameter=6.5, u=58, v=17))
    assert words(part) == [
        "diameter 12 of bore", "diameter 6.5 of pin", "L 0 to 71", "D 0 to 47", "H 0 to 13",
        "L 0 to 22 of bore", "D 0 to 17 of bore", "L 0 to 58 of pin",
    ]  # fmt: skip


@pytest.mark.parametrize(("run", "along"), [
    ("chain", ["L 0 to 71", "L 0 to 22 of bore", "L 22 to 58 of pin"]),
    ("edge", ["L 0 to 71", "L 0 to 22 of bore", "L 0 to 58 of pin"]),
])  # fmt: skip
def test_lengths_run_in_a_chain_or_from_one_edge(run, along):
    part = plate(hole("bore", diameter=12, u=22, v=17), hole("pin", diameter=6.5, u=58, v=17))
    needs = needs_of(shape_of(part))
    sizes = propose(part, needs, run)
    assert [str(one) for one in sizes if one.sort == "length" and one.axis == 0] == along
    assert check(needs, sizes).is_complete


def test_equal_holes_say_their_diameter_once_and_their_depth_with_it():
    row = hole("pin", diameter=6.5, u=14, v=17, end=5)
    part = plate(row, replace(row, name="other", u=Offset(_length(55.5))))
    needs, sizes = sizes_of(part)
    (pins,) = (one for one in sizes if one.sort == "diameter")
    assert (len(pins.circles), pins.depth) == (2, (Level(2, 13.0), Level(2, 8.0)))
    assert check(needs, sizes).is_complete
    shallow = replace(pins, depth=None)
    assert check(needs, [shallow if one is pins else one for one in sizes]).lines == ["missing H 8"]
    one_only = replace(pins, circles=pins.circles[:1])
    assert check(needs, [one_only if one is pins else one for one in sizes]).lines == [
        "missing diameter 6.5 about 55.5, 17"
    ]


def test_countersinks_rings_balls_and_holes_about_a_centre_need_sizes_of_their_own():
    middle = Offset(_length(35.5)), Offset(_length(23.5))
    seat = Hole("screw", "cut", Face.TOP, _length(5.5), Offset(_length(11)), Offset(_length(12)),
                _length(0), None, "countersunk", _length(10.5), None, 90.0)  # fmt: skip
    ring = Ring("groove", "cut", Face.TOP, _length(26), _length(3), *middle, _length(0))
    needs, sizes = sizes_of(plate(seat, ring))
    assert check(needs, sizes).is_complete
    assert {"diameter 10.5 of screw", "diameter 26 of groove"} <= set(map(str, sizes))
    without = [replace(one, cones=()) for one in sizes]
    assert check(needs, without).lines == ["missing angle 90 of the cone about 11, 12"]
    ball = Ball("knob", "add", Face.TOP, _length(22), *middle, _length(4))
    evenly = AboutCentre(*middle, 5)
    screws = Round("screw", "cut", Face.TOP, _length(4.5), Offset(_length(19)), middle[1],
                   _length(0), None, copies=evenly)  # fmt: skip
    high = replace(plate(screws, ball), crate=crate(71, 47, 40))
    high = replace(high, operations=(*high.operations[:-1], replace(ball, start=_length(24))))
    needs, sizes = sizes_of(high)
    assert check(needs, sizes).is_complete
    assert "shape 33 of screw" in map(str, sizes)


def test_a_slope_given_by_its_angle_says_the_angle():
    outline = (Corner(_length(0), _length(0)), Corner(_length(64), _length(0)),
               Slope(angle=90.0, rise=_length(11)), Slope(angle=152.0, run=_length(-40)),
               Corner(_length(0), _length(11 + 40 * 0.5317094)))  # fmt: skip
    part = Part("wedge", crate(64, 21, 33), (
        Prism("wedge", "add", Face.FRONT, outline, _length(0), None),), "empty")  # fmt: skip
    needs, sizes = sizes_of(part)
    assert "angle 152 of wedge" in map(str, sizes)
    assert check(needs, sizes).is_complete


def test_what_no_size_of_these_sorts_tells_is_named():
    shape = shape_of(plate())
    leaning = Wall("cylinder", (9.0, 9.0, 0.0), (0.0, 0.6, 0.8), 4.0)
    needs = needs_of(replace(shape, walls=(*shape.walls, leaning)))
    assert check(needs, propose(plate(), needs)).lines == ["missing a cylinder whose axis leans"]
