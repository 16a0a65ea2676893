"""Small circles, circles in dashes, roundings, and lines that meet in a point."""

import math

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from holoptic.paper.scan.apexes import with_apexes
from holoptic.paper.scan.axes import with_axes, without_signs
from holoptic.paper.scan.carriers import carriers_of
from holoptic.paper.scan.ink import PER_MM, Ink
from holoptic.paper.scan.roles import Found, roles_of
from holoptic.paper.scan.roundings import with_roundings
from holoptic.paper.scan.seeds import seeds_of
from holoptic.reading.lines import Bow, Straight

CENTRE, SHIFT = (24.35, 19.81), 4


def dots(*places):
    return np.round(np.array(places) * PER_MM * 2**SHIFT).astype(np.int32)


def drawn_hole(radius):
    """Return a picture of a hole with short centre lines, 12 dots a mm."""
    picture = np.full((round(40 * PER_MM), round(50 * PER_MM)), 240, np.uint8)
    centre, thick = dots(CENTRE)[0], round(0.5 * PER_MM)
    cv2.circle(picture, tuple(int(x) for x in centre), int(radius * PER_MM * 2**SHIFT), 20, thick,
               cv2.LINE_AA, SHIFT)  # fmt: skip
    reach = radius + 3.0
    for along in ((1, 0), (0, 1)):
        for low, high in ((-reach, -1.9), (-1.2, -0.8), (0.0, 0.4), (1.1, reach)):
            ends = [tuple(c + a * at for c, a in zip(CENTRE, along, strict=True))
                    for at in (low, high)]  # fmt: skip
            cv2.polylines(picture, [dots(*ends)], False, 60, round(0.25 * PER_MM), cv2.LINE_AA,
                          SHIFT)  # fmt: skip
    return picture


@pytest.mark.parametrize("radius", [1.6, 2.2, 4.0])
def test_a_small_circle_lies_through_the_middle_of_its_ink(radius):
    ink = Ink(drawn_hole(radius), 0.0)
    lines, _ = roles_of(*carriers_of(ink, seeds_of(ink.without_letters())))
    (circle,) = [line.shape for line in lines if isinstance(line.shape, Bow)]
    assert circle.is_closed
    assert circle.radius == pytest.approx(radius, abs=0.05)
    assert circle.centre == pytest.approx(CENTRE, abs=0.08)


def drawn(*paths, thick=0.35):
    """Return the ink of paths (mm)."""
    picture = np.full((round(40 * PER_MM), round(50 * PER_MM)), 240, np.uint8)
    for path in paths:
        cv2.polylines(picture, [dots(*path)], False, 20, round(thick * PER_MM), cv2.LINE_AA, SHIFT)
    return Ink(picture, 0.0)


def arc(radius, first, last, centre=CENTRE):
    return [(centre[0] + radius * math.cos(a), centre[1] + radius * math.sin(a))
            for a in np.linspace(first, last, 60)]  # fmt: skip


def found_on(ink):
    found = carriers_of(ink, seeds_of(ink.without_letters()))
    return roles_of(*with_roundings(ink, *found))[0]


@pytest.mark.parametrize(
    ("radius", "dash", "gap"),
    [(4.0, 3.0, 1.2), (5.2, 3.6, 1.4), (9.0, 2.2, 1.0), (16.4, 3.0, 1.2)],
)
def test_a_circle_in_dashes_is_one_hidden_line(radius, dash, gap):
    count = round(math.tau * radius / (dash + gap))
    turn = math.tau / count
    dashes = [arc(radius, k * turn, k * turn + dash / radius) for k in range(count)]
    cross = [(CENTRE[0] - 19.0, CENTRE[1] - 4.0), (CENTRE[0] + 19.0, CENTRE[1] + 5.0)]
    lines = found_on(drawn(*dashes, cross))
    (circle,) = [line for line in lines if isinstance(line.shape, Bow)]
    assert (circle.role, circle.shape.is_closed) == ("hidden", True)
    assert circle.shape.radius == pytest.approx(radius, abs=0.06)
    assert circle.shape.centre == pytest.approx(CENTRE, abs=0.06)
    assert sum(isinstance(line.shape, Straight) for line in lines) == 1


def test_dashes_of_straight_lines_make_no_circle():
    rows = [[((x, y), (x + 3.0, y + 0.1 * k)) for x in range(4, 44, 4)]
            for k, y in enumerate((6, 12, 18, 24, 30))]  # fmt: skip
    lines = found_on(drawn(*(dash for row in rows for dash in row)))
    assert lines
    assert all(isinstance(line.shape, Straight) for line in lines)


@pytest.mark.parametrize(
    ("radius", "lean"), [(1.6, 0.0), (2.5, 0.0), (8.0, 0.0), (3.4, 0.35), (8.0, -0.3)]
)
def test_a_rounding_between_two_lines_touches_both(radius, lean):
    """Its ink leaves the lines slowly: by itself the arc tells its radius badly."""
    c, s = math.cos(lean), math.sin(lean)
    corner = (35.0, 10.0)
    ways = (-1.0, 0.0), (s, c)
    half = math.acos(sum(a * b for a, b in zip(*ways, strict=True))) / 2
    far = radius / math.tan(half)
    feet = [tuple(x + far * w for x, w in zip(corner, way, strict=True)) for way in ways]
    middle = tuple(a + b for a, b in zip(*ways, strict=True))
    out = radius / math.sin(half) / math.hypot(*middle)
    centre = tuple(x + out * m for x, m in zip(corner, middle, strict=True))
    angles = sorted(math.atan2(y - centre[1], x - centre[0]) for x, y in feet)
    ends = [tuple(x + 22.0 * w for x, w in zip(corner, way, strict=True)) for way in ways]
    path = arc(radius, *angles, centre)
    if math.dist(path[0], feet[0]) > math.dist(path[-1], feet[0]):
        path.reverse()
    lines = found_on(drawn([ends[0], feet[0], *path, feet[1], ends[1]], thick=0.5))
    (bow,) = [line.shape for line in lines if isinstance(line.shape, Bow)]
    assert bow.radius == pytest.approx(radius, abs=0.08)
    assert bow.centre == pytest.approx(centre, abs=0.12)


@pytest.mark.parametrize("size", [2.0, 4.5])
def test_a_bevelled_corner_is_no_rounding(size):
    corner = (35.0, 10.0)
    lines = found_on(drawn([(12.0, 10.0), (corner[0] - size, 10.0), (35.0, 10.0 + size),
                            (35.0, 32.0)], thick=0.5))  # fmt: skip
    assert len(lines) == 3
    assert all(isinstance(line.shape, Straight) for line in lines)


def test_a_short_side_of_thick_strokes_is_straight():
    """Its corners are blunt, so that its skeleton is bent at both ends."""
    box = [(10.0, 10.0), (38.0, 10.0), (38.0, 15.0), (10.0, 15.0), (10.0, 10.0)]
    lines = found_on(drawn(box, thick=0.9))
    assert len(lines) == 4
    assert all(isinstance(line.shape, Straight) for line in lines)


def visible(start, end):
    return Found("visible", Straight(start, end))


def test_edges_that_run_together_end_in_one_point():
    """As they are found: two stop short of it in common ink, where a third lies that is none."""
    tip = (20.0, 5.0)
    lines = [
        visible((4.0, 35.0), (17.6, 9.4)), visible((8.0, 35.0), (18.4, 9.1)),
        visible((20.0, 35.0), tip), visible((30.0, 35.0), tip),
        visible((17.0, 10.0), (19.6, 5.6)), visible((2.0, 35.0), (32.0, 35.0)),
    ]  # fmt: skip
    found = with_apexes(lines)
    assert len(found) == 5
    for line, before in zip(found[:4], lines[:4], strict=True):
        assert line.shape.start == before.shape.start
        assert line.shape.end == pytest.approx(tip, abs=0.15)
    assert found[4] == lines[5]


PLACE = st.tuples(*[st.integers(0, 40).map(float)] * 2)
EDGE = st.tuples(PLACE, PLACE).filter(lambda ends: ends[0] != ends[1])


@given(st.lists(EDGE, max_size=12, unique=True))
def test_whatever_lines_meet_none_comes_into_being(edges):
    lines = [visible(*ends) for ends in edges]
    found = with_apexes(lines)
    assert len(found) <= len(lines)
    assert all(math.isfinite(x) for line in found for end in (line.shape.start, line.shape.end)
               for x in end)  # fmt: skip


def test_lines_that_cross_where_parallel_ones_end_meet_in_no_point():
    cross = [visible((5.0, 20.0), (35.0, 20.0)), visible((20.0, 5.0), (20.0, 35.0))]
    rows = [visible((2.0, y), (20.0, y)) for y in (19.9, 20.0, 20.1)]
    assert with_apexes([*cross, *rows]) == [*cross, *rows]


def test_edges_of_a_frustum_keep_their_ends():
    """They aim at one point, but nothing is drawn up to there."""
    lines = [visible((4.0, 35.0), (12.0, 20.0)), visible((12.0, 35.0), (16.0, 20.0)),
             visible((20.0, 35.0), (20.0, 20.0)), visible((36.0, 35.0), (28.0, 20.0)),
             visible((12.0, 20.0), (28.0, 20.0))]  # fmt: skip
    assert with_apexes(lines) == lines


def hidden(start, end):
    return Found("hidden", Straight(start, end), 0 if start[1] == end[1] else 1)


ROUND = Found("visible", Bow((20.0, 10.0), 2.2, 0.0, math.tau))
AXIS = hidden((12.8, 10.0), (27.2, 10.0))


def test_dashes_through_a_circle_that_end_in_nothing_are_its_centre_line():
    assert [line.role for line in with_axes([ROUND, AXIS])] == ["visible", "centre"]


@pytest.mark.parametrize(
    "lines",
    [
        pytest.param([ROUND, AXIS, Found("visible", Straight((27.2, 0.0), (27.2, 30.0)), 1)],
                     id="it ends at an edge"),
        pytest.param([ROUND, hidden((12.8, 11.0), (27.2, 11.0))], id="beside the middle"),
        pytest.param([ROUND, hidden((12.8, 10.0), (40.0, 10.0))], id="longer on one side"),
        pytest.param([ROUND, hidden((18.5, 10.0), (21.5, 10.0))], id="within the circle"),
    ],
)  # fmt: skip
def test_other_dashes_stay_hidden_lines(lines):
    assert with_axes(lines) == lines


@pytest.mark.parametrize("is_before", [False, True])
def test_an_extension_line_does_not_lengthen_the_dashes_it_leads_on_from(is_before):
    def along(*spans):
        return [[(50.0 - x if is_before else x, 20.0) for x in span] for span in spans]

    dashes = along((6.0, 9.0), (10.2, 13.2), (14.4, 17.4), (18.6, 21.6))
    edge = [[(6.0, y), (40.0, y)] for y in (8.0, 8.2, 8.4)]  # side by side: one thick line
    lines = found_on(drawn(*dashes, *along((22.6, 40.0)), *edge, thick=0.3))
    (broken,) = [line.shape for line in lines if line.role == "hidden"]
    ends = sorted(x for x, _ in (broken.start, broken.end))
    assert ends == pytest.approx(sorted(50.0 - x if is_before else x for x in (6.0, 21.6)), abs=0.4)


def test_the_loop_of_a_letter_is_no_hole():
    loop, small = (
        Found("visible", Bow(at, 1.0, 0.0, math.tau)) for at in ((9.0, 3.0), (20.0, 10.0))
    )
    axis = Found("centre", Straight((17.0, 10.0), (23.0, 10.0)), 0)
    assert without_signs([loop, small, axis, ROUND]) == [small, axis, ROUND]
