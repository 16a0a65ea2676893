"""Lines that come in pieces which do not quite line up."""

import math
from itertools import pairwise

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from holoptic.reading.lines import Bow, DrawnLine, DrawnView, Free, Straight
from holoptic.reading.straightening import straightened

CLOSE = 1e-9


def view(*shapes, status="visible"):
    return DrawnView("front", tuple(DrawnLine(shape, status) for shape in shapes))


def pieces(start, way, longs, last_off=0.0):
    """Pieces of such lengths along a way; the last one ends so far beside."""
    turn = math.atan2(way[1], way[0])
    along = [sum(longs[:k]) for k in range(len(longs) + 1)]
    places = [(start[0] + s * math.cos(turn), start[1] + s * math.sin(turn)) for s in along]
    x, y = places[-1]
    places[-1] = x - last_off * math.sin(turn), y + last_off * math.cos(turn)
    return [Straight(a, b) for a, b in pairwise(places)]


def off(place, start, way):
    size = math.hypot(*way)
    return abs((place[0] - start[0]) * way[1] - (place[1] - start[1]) * way[0]) / size


@given(
    st.tuples(st.floats(-30, 30), st.floats(-30, 30)),
    st.floats(0.1, 6.2),
    st.lists(st.floats(3.0, 9.0), min_size=3, max_size=5),
    st.floats(3e-4, 3e-3),
    st.randoms(),
)
def test_pieces_whose_last_one_bends_are_the_line_of_the_others(start, turn, longs, slip, random):
    assume(sum(longs[:-1]) > 0.65 * sum(longs))
    way = math.cos(turn), math.sin(turn)
    bent = pieces(start, way, longs, slip)
    turned = [Straight(p.end, p.start) if random.random() < 0.5 else p for p in bent]
    random.shuffle(turned)
    (found,) = straightened(view(*turned)).lines
    for end in (found.shape.start, found.shape.end):
        assert off(end, start, way) < CLOSE
    assert math.dist(found.shape.start, found.shape.end) == pytest.approx(sum(longs), abs=1e-5)


def test_it_ends_on_the_line_that_it_meets_and_curves_follow():
    bent = pieces((2.0, 3.0), (4.0, 3.0), [5.0, 5.0, 5.0], 0.002)
    end = bent[-1].end
    upright = Straight((end[0], 30.0), (end[0], end[1]))
    curve = Free((end, (end[0] + 3.0, end[1] + 2.0), (end[0] + 9.0, end[1] + 2.5)))
    *_, line = straightened(view(*bent, upright)).lines
    assert max(line.shape.start[0], line.shape.end[0]) == pytest.approx(end[0], abs=CLOSE)
    assert off(line.shape.end, (2.0, 3.0), (4.0, 3.0)) < CLOSE
    free, line = straightened(view(*bent, curve)).lines
    assert free.shape.start in (line.shape.start, line.shape.end)
    assert free.shape.points[1:] == curve.points[1:]


def test_what_ends_where_pieces_meet_ends_on_the_line():
    bent = pieces((0.0, 0.0), (4.0, 3.0), [5.0, 5.0, 5.0, 0.4], 0.002)
    joint = bent[1].end
    beside = joint[0] + 0.001, joint[1]
    stem, _ = straightened(view(*bent, Straight((20.0, 1.0), beside))).lines
    assert off(stem.shape.end, (0.0, 0.0), (4.0, 3.0)) < CLOSE


def test_a_curve_that_is_all_but_straight_is_a_line():
    bent = pieces((1.0, 1.0), (5.0, -2.0), [4.0, 4.0, 4.0, 1.0], 0.0011)
    curve = Free((bent[0].start, *(piece.end for piece in bent)))
    (found,) = straightened(view(curve)).lines
    assert isinstance(found.shape, Straight)
    assert off(found.shape.end, (1.0, 1.0), (5.0, -2.0)) < CLOSE


def polygon(sides, radius):
    corners = [(radius * math.cos(k * math.tau / sides), radius * math.sin(k * math.tau / sides))
               for k in range(sides)]  # fmt: skip
    return [Straight(a, b) for a, b in pairwise([*corners, corners[0]])]


@pytest.mark.parametrize(
    "shapes",
    [
        pieces((0.0, 0.0), (3.0, 1.0), [4.0, 5.0, 6.0]),  # in line already
        pieces((0.0, 0.0), (3.0, 1.0), [6.0, 6.0], 0.4),  # a bend that is meant
        polygon(720, 4.0),
        polygon(64, 30.0),
        [Bow((0.0, 0.0), 9.0, 0.0, 3.0), Straight((9.0, 0.0), (9.0, -4.0))],
        [Straight((0.0, 0.0), (5.0, 0.0)), Straight((5.0, 0.0), (0.002, 0.001))],  # there and back
    ],
)
def test_what_is_meant_as_it_is_stays(shapes):
    given_view = view(*shapes)
    assert straightened(given_view) is given_view


def test_pieces_as_short_as_a_slip_are_no_trouble():
    bent = pieces((0.0, 0.0), (4.0, 3.0), [5.0, 5.0, 5.0], 0.002)
    joint = bent[0].end
    near = joint[0] + 0.001, joint[1]
    *_, found = straightened(view(bent[0], Straight(near, joint), *bent[1:])).lines
    assert off(found.shape.end, (0.0, 0.0), (4.0, 3.0)) < CLOSE


def test_visible_and_hidden_pieces_are_no_line_together():
    first, second, third = pieces((0.0, 0.0), (4.0, 3.0), [5.0, 5.0, 5.0], 0.002)
    mixed = DrawnView("front", (*view(first, second).lines, *view(third, status="hidden").lines))
    assert straightened(mixed) is mixed
    assert straightened(view(first, second, third, status="centre")).lines
