"""Slips of micrometres that a program leaves in the views that it draws."""

import math
from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from holoptic.reading.lines import Bow, DrawnLine, DrawnView, Free, Straight
from holoptic.reading.tidying import tidied

ROUND = Bow((17.5, 17.5), 17.5, 0.0, math.tau)
TOP = DrawnView("top", (DrawnLine(ROUND), DrawnLine(Straight((4.0, 17.5), (31.0, 17.5)), "hidden")))


def box(name, width, height, *more):
    corners = [(0.0, 0.0), (width, 0.0), (width, height), (0.0, height), (0.0, 0.0)]
    sides = [DrawnLine(Straight(a, b)) for a, b in pairwise(corners)]
    return DrawnView(name, (*sides, *more))


def bit(first, last, off=0.0, status="visible"):
    turns = [first + (last - first) * k / 8 for k in range(9)]
    wide = replace(ROUND, radius=ROUND.radius + off)
    return DrawnLine(Free(tuple(wide.at(turn) for turn in turns)), status)


@given(st.floats(0.0, 6.0), st.floats(0.01, 3.0), st.sampled_from(["visible", "hidden"]))
def test_what_runs_along_a_circle_is_the_circle(first, sweep, status):
    spoiled = replace(TOP, lines=(*TOP.lines, bit(first, first + sweep, 1e-3, status)))
    (found,) = tidied([spoiled])
    assert len(found.lines) == 2


def test_an_arc_takes_what_runs_along_it_and_no_more():
    arc = DrawnLine(replace(ROUND, first=1.0, last=3.0))
    along, beyond = bit(1.2, 2.8), bit(2.5, 3.5)
    (found,) = tidied([replace(TOP, lines=(arc, along, beyond))])
    assert [type(line.shape) for line in found.lines] == [Bow, Free]


def test_nothing_firm_goes_where_the_circle_is_hidden_and_no_chord_where_it_is_seen():
    hidden = replace(TOP, lines=(DrawnLine(ROUND, "hidden"), bit(0.2, 0.9)))
    chord = replace(
        TOP, lines=(DrawnLine(ROUND), DrawnLine(Straight(ROUND.at(0.2), ROUND.at(0.6))))
    )
    for view in (hidden, chord):
        assert tidied([view]) == [view]


def test_a_level_that_comes_as_two_is_the_one_that_most_tell():
    shelf = DrawnLine(Straight((0.0, 27.0), (35.0, 27.0)))
    leaning = DrawnLine(Straight((0.0, 40.0), (12.0, 27.0012)))
    curve = DrawnLine(Free(((20.0, 27.0009), (22.0, 31.0), (26.0, 33.0))), "hidden")
    front = box("front", 35.0, 57.1, shelf, leaning, curve)
    found, _ = tidied([front, box("top", 35.0, 35.0)])
    (*_, low, curved) = (line.shape for line in found.lines)
    assert low.end == pytest.approx((12.0, 27.0), abs=1e-9)
    assert curved.start == pytest.approx((20.0, 27.0), abs=1e-9)
    assert math.dist(curved.end, curve.shape.end) < 1e-9


@pytest.mark.parametrize("name", ["front", "top", "right", "left", "rear", "bottom"])
def test_what_has_no_slips_comes_back_as_it_is(name):
    more = Straight((3.0, 0.0), (3.0, 22.6)), Straight((3.05, 4.0), (30.0, 4.02))
    view = box(name, 41.3, 22.6, *map(DrawnLine, more), DrawnLine(ROUND, "centre"))
    assert tidied([view])[0] is view


def test_of_a_view_that_is_nothing_but_bits_all_is_left():
    bits = DrawnView("top", tuple(DrawnLine(Straight((k, 0.0), (k + 0.01, 0.0))) for k in range(4)))
    assert len(tidied([bits])[0].lines) == 4


def test_no_number_of_lines_asks_for_much_room():
    many = [DrawnLine(Straight((0.001 * k, 9.0), (0.001 * k + 5.0, 9.0))) for k in range(20_000)]
    (found,) = tidied([box("front", 40.0, 12.0, *many)])
    assert len(found.lines) == 4 + len(many)
