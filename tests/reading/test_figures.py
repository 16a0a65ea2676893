"""The figures on a sheet: wrong ones, sums that do not add up, and sizes that are wanting."""

from dataclasses import replace

import pytest

from holoptic.reading.arrangement import ViewOnSheet
from holoptic.reading.figures import figure_checks
from holoptic.reading.lines import Bow, DrawnLine, Straight
from holoptic.reading.sketch import GivenSize

AT = 200.0, 90.0
"""Where the view stands on its sheet."""


def line(start, end, status="visible"):
    (x, y), (a, b), (c, d) = AT, start, end
    return DrawnLine(Straight((x + a, y + b), (x + c, y + d)), status)


def view(*more):
    """A front view of 57 × 31 with a line upright at 19.5."""
    corners = [(0, 0), (57, 0), (57, 31), (0, 31)]
    box = [line(corners[k - 1], corners[k]) for k in range(4)]
    return ViewOnSheet("front", (*box, line((19.5, 0), (19.5, 31)), *more))


def size(start, end, written=None):
    (x, y), (a, b), (c, d) = AT, start, end
    drawn = max(abs(a - c), abs(b - d))
    return GivenSize((x + a, y + b), (x + c, y + d), drawn, drawn if written is None else written)


FIXED = size((0, 0), (57, 0)), size((0, 31), (19.5, 31)), size((0, 0), (0, 31))


def told(sizes, *views):
    return [(check.sort, check.words) for check in figure_checks(views or (view(),), sizes)]


def test_a_sheet_whose_figures_hold_all_its_lines_is_sound():
    assert told(FIXED) == []


def test_a_sheet_without_figures_is_taken_as_drawn():
    assert told(()) == []


def test_a_wrong_figure_and_the_sum_that_it_spoils_are_told():
    chain = size((0, 31), (19.5, 31)), size((19.5, 31), (57, 31), written=39.5)
    found = told((FIXED[0], *chain, FIXED[2]))
    assert ("figure", "the figure 39.5 stands on a distance of 37.5") in found
    assert ("sum", "19.5 + 39.5 add up to 59, but the whole is given as 57") in found


def test_a_line_that_no_figure_holds_is_told_where_others_are_held():
    found = figure_checks((view(line((0, 12.5), (57, 12.5))),), FIXED)
    assert [check.words for check in found] == ["no figure holds this line along the height"]
    assert found[0].path == ((0.0, 12.5), (57.0, 12.5))
    # none along the depth, as no figure is given along it; one more along the height holds it
    more = (*FIXED, size((57, 12.5), (57, 31)))
    assert told(more, view(line((0, 12.5), (57, 12.5)))) == []


@pytest.mark.parametrize("has_axis", [True, False])
def test_a_centre_line_holds_the_middle_and_a_circle_its_own_outlines(has_axis):
    x, y = AT
    circle = DrawnLine(Bow((x + 28.5, y + 15.5), 6.0, 0.0, 6.283185307179586))
    across = line((-3, 15.5), (60, 15.5), "centre")
    up = line((28.5, -3), (28.5, 34), "centre")
    found = told(FIXED, view(circle, *((across, up) if has_axis else ())))
    assert len(found) == (0 if has_axis else 2)


def test_figures_of_a_view_seen_from_behind_count_from_its_other_end():
    behind = replace(view(), name="rear")
    assert told(FIXED, behind) == []
