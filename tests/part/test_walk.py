"""Outlines walked step by step."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from holoptic.errors import ExpressionError
from holoptic.part.outline import sides_of
from holoptic.part.walk import Walk
from holoptic.units import Unit

NAMES = {"L": 84.0, "H": 37.5, "step": 12.0}


def walked(*steps):
    walk = Walk()
    for step in steps:
        walk = walk.after(step, Unit.MM, NAMES)
    return walk


def test_a_step_at_a_corner_in_four_words():
    walk = walked("at L-26.5, H", "r to L", "d 12", "l 26.5", "close")
    assert walk.closed
    assert walk.places == [(57.5, 37.5), (84, 37.5), (84, 25.5), (57.5, 25.5)]
    assert [(p.u.text, p.v.text) for p in walk.points] == [
        ("L-26.5", "H"), ("L", "H"), ("L", "H-12"), ("L-26.5", "H-12"),
    ]  # fmt: skip


def test_angles_meet_the_level_of_the_start():
    walk = walked("r 40", "a 120 20", "a 180 10", "d meet", "close")
    assert walk.places[-1][1] == 0
    slope = walked("at 10, 5", "r 30", "u 12", "a 200 meet")
    assert slope.places[-1] == pytest.approx((10, 17 - 30 * math.tan(math.radians(20))))
    assert walked("a 30 r 12").places[-1] == pytest.approx((12, 12 * math.tan(math.pi / 6)))
    assert walked("a 30 u 6").places[-1][1] == pytest.approx(6)


def test_arcs_stand_behind_their_step():
    walk = walked("r 40", "u 20 arc 10 left", "l 40", "close arc bulge 4 left")
    assert walk.points[1].arc.radius.mm == 10
    assert walk.points[3].arc.bulge.mm == 4
    assert [p.arc for p in walk.points[::2]] == [None, None]
    assert walked("r 30", "go 36, 6 arc smooth").points[1].arc.is_smooth


@pytest.mark.parametrize(
    ("step", "says"),
    [("r", "a step is"), ("r foo", "no length"), ("x 12", "a step is"), ("r 0", "nowhere"),
     ("l to 20", "other way"), ("a 90 r 5", "no run"), ("close", "three corners"),
     ("go 4", "a step is"), ("at 3, 3", "begins a walk"), ("r 5 arc 3", "an arc needs"),
     ("u meet", "never"), ("r 5+", "stops too early")],
)  # fmt: skip
def test_steps_that_do_not_read_are_explained(step, says):
    with pytest.raises(ExpressionError, match=says):
        walked("r 10").after(step, Unit.MM, NAMES)


def test_a_pointer_walks_too():
    walk = Walk().to((10.0, 5.0), Unit.MM).to((30.0, 5.0), Unit.MM).to((30.0, 25.0), Unit.MM)
    assert walk.steps == ("at 10, 5", "go 30, 5", "go 30, 25")
    assert walk.after("close", Unit.MM, {}).closed


steps = st.lists(
    st.tuples(st.sampled_from("rlud"), st.integers(1, 40)).map(lambda s: f"{s[0]} {s[1]}"),
    min_size=1, max_size=8,
)  # fmt: skip


@given(steps)
def test_one_step_back_is_as_if_it_had_not_been(words):
    walk = Walk()
    before = [walk]
    for step in words:
        walk = walk.after(step, Unit.MM, {})
        before.append(walk)
    for earlier in reversed(before[:-1]):
        walk = walk.back()
        assert walk == earlier


def test_taking_back_the_close_keeps_the_corners():
    walk = walked("r 40", "u 20 arc 10 left", "l 40")
    assert walk.after("close arc 10 left", Unit.MM, NAMES).back() == walk


def test_a_circle_stands_alone_about_its_centre():
    walk = walked("at 20, 9", "circle 4+3")
    assert walk.closed
    assert walk.places == [(16.5, 9), (23.5, 9)]
    assert all(side.centre == (20, 9) for side in sides_of(walk.points))
    assert walk.back().places == [(20, 9)]
    for steps in (("r 5", "circle 4"), ("at 1, 1", "circle 0")):
        with pytest.raises(ExpressionError):
            walked(*steps)


def test_an_arc_that_misses_its_ends_is_refused_where_it_is_walked():
    with pytest.raises(ExpressionError, match="misses its end points"):
        walked("r 20 arc 4 left")
    with pytest.raises(ExpressionError, match="misses its end points"):
        walked("r 20", "u 30", "close arc 4 left")
