"""A border and a title block about views are no views."""

import math

import pytest

from holoptic.errors import BadInput
from holoptic.reading.arrangement import arrange
from holoptic.reading.frames import without_frames
from holoptic.reading.lines import Bow, DrawnLine, Straight


def box(x, y, w, h):
    corners = [(x, y), (x + w, y), (x + w, y + h), (x, y + h)]
    return [DrawnLine(Straight(corners[k - 1], corners[k])) for k in range(4)]


FRONT, TOP, RIGHT = box(20, 20, 43, 26), box(20, 60, 43, 31), box(80, 20, 31, 26)
VIEWS = [*FRONT, DrawnLine(Straight((31, 20), (31, 46))), *TOP, *RIGHT,
         DrawnLine(Bow((41.5, 75.5), 6.5, 0, math.tau))]  # fmt: skip
TITLE = [*box(120, 6, 70, 22), DrawnLine(Straight((120, 14), (190, 14))),
         DrawnLine(Straight((150, 6), (150, 28)))]  # fmt: skip


@pytest.mark.parametrize("extra", [
    box(6, 6, 184, 120),
    [*box(6, 6, 184, 120), *box(2, 2, 192, 128)],
    [*box(6, 6, 184, 120), *TITLE],
])  # fmt: skip
def test_borders_and_what_hangs_on_them_are_left_out(extra):
    assert sorted(map(str, without_frames([*extra, *VIEWS]))) == sorted(map(str, VIEWS))
    found = arrange([*extra, *VIEWS])
    assert {view.name: len(view.lines) for view in found.views} == {
        "front": 5, "top": 5, "right": 4
    }  # fmt: skip


def test_views_alone_and_the_outline_of_one_stay():
    assert without_frames(VIEWS) == VIEWS
    plate = [*FRONT, DrawnLine(Straight((31, 20), (31, 46)))]
    assert without_frames(plate) == plate


def test_three_circles_are_views():
    circles = [DrawnLine(Bow(centre, 14.5, 0, math.tau)) for centre in
               ((30, 30), (30, 75), (75, 30))]  # fmt: skip
    assert {view.name for view in arrange(circles).views} == {"front", "top", "right"}
    halves = [DrawnLine(Bow(line.shape.centre, 14.5, first, first + math.pi))
              for line in circles for first in (0, math.pi)]  # fmt: skip
    assert {view.name for view in arrange(halves).views} == {"front", "top", "right"}
    # a flat on the ball: an arc and its chord shut a view in
    first, last = math.pi / 6, 11 * math.pi / 6
    cut = [line for line in circles if line.shape.centre != (75, 30)]
    x, y = 75 + 14.5 * math.cos(first), 30 + 14.5 * math.sin(first)
    end = 75 + 14.5 * math.cos(last), 30 + 14.5 * math.sin(last)
    cut += [DrawnLine(Bow((75, 30), 14.5, first, last)), DrawnLine(Straight((x, y), end))]
    assert {view.name for view in arrange(cut).views} == {"front", "top", "right"}


def touching(first_angle: bool) -> list[DrawnLine]:
    """The views of a block with two steps without gaps, each with all its lines; what two of them
    share is drawn once, as most programs leave it.
    """
    front = [(0, 0), (43, 0), (43, 9), (30, 9), (30, 15), (17, 15), (17, 26), (0, 26)]
    up, across = (-31, -31) if first_angle else (26, 43)
    inner = [((x, up), (x, up + 31)) for x in (17, 30)]
    inner += [((across, y), (across + 31, y)) for y in (9, 15)]
    lines = [*(DrawnLine(Straight(front[k - 1], front[k])) for k in range(8)),
             *box(0, up, 43, 31), *box(across, 0, 31, 26),
             *(DrawnLine(Straight(*ends)) for ends in inner)]  # fmt: skip
    once = {frozenset((line.shape.start, line.shape.end)): line for line in lines}
    return list(once.values())


@pytest.mark.parametrize("first_angle", [False, True])
def test_views_that_touch_are_taken_apart_where_their_sizes_agree(first_angle):
    found = arrange(touching(first_angle), "first" if first_angle else "third")
    assert any("touch" in remark for remark in found.remarks)
    views = {view.name: view for view in found.drawn_views()}
    assert set(views) == {"front", "top", "right"}
    assert views["front"].box == (0, 0, 43, 26)
    assert views["top"].box == (0, 0, 43, 31)
    lengths = {name: sum(math.dist(line.shape.start, line.shape.end) for line in view.lines)
               for name, view in views.items()}  # fmt: skip
    assert lengths == pytest.approx({"front": 138, "top": 210, "right": 176})
    # the corner that the neighbours close between them is none of the front view
    ends = {end for line in views["front"].lines for end in (line.shape.start, line.shape.end)}
    assert (43, 26) not in ends


def test_a_view_that_touches_one_and_stands_apart_from_another_is_taken_apart():
    lines = [*box(0, 0, 43, 26), *box(0, 26, 43, 31), *box(60, 0, 31, 26)]
    assert {view.name: view.box for view in arrange(lines).drawn_views()} == {
        "front": (0, 0, 43, 26), "top": (0, 0, 43, 31), "right": (0, 0, 31, 26),
    }  # fmt: skip


def test_a_lone_view_is_no_two():
    with pytest.raises(BadInput, match="only one view"):
        arrange([*box(0, 0, 43, 26), DrawnLine(Straight((31, 0), (31, 26)))])
