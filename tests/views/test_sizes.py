"""Sizes beside the views: each where it is seen true, none over another."""

import pytest

from cast import crate, hole, prism
from holoptic.job import pose
from holoptic.part import Face, Part
from holoptic.units import Unit
from holoptic.views.sizes import (
    Spacing,
    feature_sizes,
    levels_that_fit,
    overall_sizes,
    view_for,
)

SPACING = Spacing(2.8, -200.0, 400.0)


@pytest.fixture
def part():
    notch = prism("notch", face=Face.FRONT, outline=[(20, 30), (50, 30), (50, 12), (20, 12)])
    return Part("p", crate(84, 46, 30), (notch, hole("eye", Face.TOP, 8, 70, 9)))


@pytest.fixture
def placed(worker, part):
    return worker.ask("show_views", pose(part)).placed


def test_overall_sizes_stand_outside_the_views(part, placed):
    lines = overall_sizes(placed, (0, 0, 0), (84, 46, 30), 6.0, Unit.MM)
    assert [line.words for line in lines] == ["L 84", "D 46", "H 30"]
    assert [line.is_across for line in lines] == [True, True, False]
    for line, size in zip(lines, (84, 46, 30), strict=True):
        assert abs(line.end[0] - line.start[0]) + abs(line.end[1] - line.start[1]) == size
    low = min(view.extent[1] for view in placed)
    assert lines[0].start[1] == pytest.approx(low - 6)
    assert overall_sizes((*placed, *placed[:1]), (0, 0, 0), (1, 1, 1), 6.0, Unit.MM)
    assert overall_sizes(placed[:2], (0, 0, 0), (1, 1, 1), 6.0, Unit.MM) == []


@pytest.mark.parametrize("index", [0, 1])
def test_sizes_of_a_feature_stand_in_the_view_of_its_face(part, placed, index):
    lines = list(feature_sizes(part, index, placed, SPACING, Unit.MM))
    by_name = {view.name: view for view in placed}
    name = "front" if index == 0 else "top"
    for line in lines:
        view = view_for(line.axis, part.operations[index].face.axes, by_name)
        assert view.name == name
        xmin, ymin, xmax, ymax = view.extent
        if line.is_across:
            assert line.start[1] > ymax
            assert xmin <= min(line.start[0], line.end[0])
            assert max(line.start[0], line.end[0]) <= xmax
        else:
            assert line.start[0] < xmin
            assert ymin <= min(line.start[1], line.end[1])
    words = {line.words for line in lines}
    assert words >= ({"20", "50", "12"} if index == 0 else {"70", "9"})
    places = [
        (line.is_across, line.start[1] if line.is_across else line.start[0]) for line in lines
    ]
    assert len(places) == len(set(places))  # each has a level of its own


def test_what_has_no_room_is_left_out(part, placed):
    front = next(view for view in placed if view.name == "front")
    wide, tight = SPACING, Spacing(2.8, front.extent[0] - 4.0, 400.0)
    assert levels_that_fit(front, placed, False, wide) > levels_that_fit(
        front, placed, False, tight
    )
    kept = list(feature_sizes(part, 0, placed, tight, Unit.MM))
    assert sum(not line.is_across for line in kept) <= 1
    assert list(feature_sizes(part, 9, placed, SPACING, Unit.MM)) == []
