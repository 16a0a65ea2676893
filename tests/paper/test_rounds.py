"""Small round lines with their centre lines: where they lie, and what the lines across them are."""

import math

import cv2
import numpy as np
import pytest

from holoptic.paper.scan.axes import with_axes
from holoptic.paper.scan.carriers import carriers_of
from holoptic.paper.scan.ink import PER_MM, Ink
from holoptic.paper.scan.roles import Found, roles_of
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
