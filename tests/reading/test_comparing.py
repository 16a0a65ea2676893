"""Two drawings of one view laid over each other."""

import random

import pytest

from holoptic.reading.compare import compare_view
from holoptic.reading.lines import Bow, DrawnLine, DrawnView, Straight

FRAME = tuple(
    DrawnLine(Straight(a, b))
    for a, b in [((0, 0), (40, 0)), ((40, 0), (40, 30)), ((40, 30), (0, 30)), ((0, 30), (0, 0))]
)


def view(*lines):
    return DrawnView("front", (*FRAME, *(DrawnLine(shape, status) for shape, status in lines)))


def told(given, derived):
    return sorted((one.kind, one.status) for one in compare_view(given, derived))


def test_a_line_that_touches_the_end_of_another_where_nothing_is_firm():
    upright = Straight((4, 5), (4, 13))
    given = view((upright, "hidden"))
    # one piece of it lies over the line, another only touches the room of a level one
    derived = view((Straight((4, 8), (4, 13)), "hidden"), (Straight((4.05, 5), (9, 5)), "hidden"))
    assert ("extra", "hidden") in told(given, derived)
    assert ("status", "hidden") not in told(given, derived)


@pytest.mark.parametrize("status", ["hidden", "visible"])
def test_a_status_is_told_along_its_stretch_alone(status):
    other = {"hidden": "visible", "visible": "hidden"}[status]
    given = view((Straight((5, 10), (25, 10)), status))
    derived = view((Straight((5, 10), (15, 10)), status), (Straight((15, 10), (25, 10)), other))
    found = [one for one in compare_view(given, derived) if one.kind == "status"]
    assert [(one.status, round(one.length)) for one in found] == [(status, 10)]


@pytest.mark.parametrize("seed", range(40))
def test_lines_that_meet_in_all_ways_are_compared_and_a_view_is_like_itself(seed):
    dice = random.Random(seed)

    def line():
        x, y = dice.choice((2, 2.05, 4, 7.1)), dice.choice((5, 5.05, 5.1, 8, 10.05))
        long, status = dice.choice((3, 5, 8.1)), dice.choice(("hidden", "visible"))
        turned = dice.choice((Straight((x, y), (x + long, y)), Straight((x, y), (x, y + long)),
                              Bow((x, y), 3.05, 0.0, dice.choice((6.2831853, 3.0)))))  # fmt: skip
        return turned, status

    one, other = (view(*(line() for _ in range(5))) for _ in range(2))
    there = sum(found.kind == "missing" for found in compare_view(one, other))
    back = sum(found.kind == "extra" for found in compare_view(other, one))
    assert (there == 0) == (back == 0)
    assert not [found for found in compare_view(one, one) if found.kind != "status"]
