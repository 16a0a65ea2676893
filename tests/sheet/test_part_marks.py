"""Numbers beside an arrangement: leaders keep clear of lines and of each other."""

import numpy as np
import pytest
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st

from holoptic.sheet.part_marks import CIRCLE_MM, Outlines, _cross_each_other, crossings, place_marks
from holoptic.spread.parts_list import ListedPart

SIDE = 14.0


def box(x, y):
    return (x, y), (x + SIDE, y), (x + SIDE, y + SIDE), (x, y + SIDE), (x, y)


def row(number, *bodies):
    return ListedPart(number, f"part {number}", len(bodies), "", bodies)


def extent_of(places):
    xs, ys = zip(*places, strict=True)
    return min(xs), min(ys), max(xs) + SIDE, max(ys) + SIDE


@given(st.lists(st.integers(0, 11), min_size=2, max_size=9, unique=True))
def test_one_number_a_part_with_circles_clear_of_each_other(cells):
    places = [(20.0 * (cell % 3), 20.0 * (cell // 3)) for cell in cells]
    outlines = [Outlines(k, (box(*place),)) for k, place in enumerate(places)]
    rows = [row(k + 1, k) for k in range(len(places))]
    marks = place_marks(rows, outlines, extent_of(places))
    assert [mark.number for mark in marks] == [one.number for one in rows]
    assert crossings(marks) == 0
    for k, mark in enumerate(marks):
        outline = shapely.linestrings(box(*places[k]))
        assert outline.distance(shapely.Point(mark.spot)) < 1e-6
        for other in marks[:k]:
            gap = shapely.Point(mark.circle).distance(shapely.Point(other.circle))
            assert gap >= CIRCLE_MM


def test_a_leader_goes_the_other_way_rather_than_over_a_centre_line():
    outlines, extent = [Outlines(0, (box(0.0, 0.0),))], (0.0, 0.0, SIDE, SIDE)
    (free,) = place_marks([row(1, 0)], outlines, extent)
    assert free.circle[0] > SIDE
    upright = (SIDE + 3.0, -9.0), (SIDE + 3.0, SIDE + 9.0)
    (kept_clear,) = place_marks([row(1, 0)], outlines, extent, [upright])
    assert (kept_clear.circle[0] < 0, kept_clear.crossed) == (True, 0)


def test_lines_that_cannot_be_avoided_are_counted_and_a_hidden_part_has_no_number():
    fence = [((-2.0, -50.0), (-2.0, 50.0)), ((SIDE + 2.0, -50.0), (SIDE + 2.0, 50.0))]
    outlines, extent = [Outlines(0, (box(0.0, 0.0),))], (0.0, 0.0, SIDE, SIDE)
    (mark,) = place_marks([row(1, 0), row(2, 1)], outlines, extent, fence)
    assert (mark.number, mark.crossed) == (1, 1)
    assert mark.leader[1][0] == pytest.approx(mark.circle[0] - CIRCLE_MM / 2, abs=0.5)


COUNTS = st.integers(-9, 9).map(float)  # many that touch, or lie in one line
PIECES = st.lists(st.tuples(COUNTS, COUNTS, COUNTS, COUNTS), min_size=2, max_size=6)


@given(PIECES)
def test_leaders_cross_where_their_lines_meet(pieces):
    assume(all(piece[:2] != piece[2:] for piece in pieces))
    ends = np.array(pieces).reshape(-1, 2, 2)
    lines = shapely.linestrings(ends)
    assert (_cross_each_other(ends) == shapely.intersects(lines[:, None], lines[None])).all()
