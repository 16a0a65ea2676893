"""Bars of one width: their ends, the corners where they join, and branches."""

import math
from itertools import pairwise

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from holoptic.errors import PartError
from holoptic.part import Crate, Face, Part, Strip
from holoptic.part.check import check_operation
from holoptic.part.outline_text import outline_text, read_paths
from holoptic.part.snapping import without_corner
from holoptic.part.strips import strip_area
from holoptic.units import Length, Unit

CRATE = Crate(Length.of(96), Length.of(12.5), Length.of(71))
TRESTLE = "8, 0; L/2, 60 | L-8, 0; L/2, 60 | 22, 21; L-22, 21"


def strip(text, ends="square", width=9.0, closed=False):
    outline, starts = read_paths(text, Unit.MM, CRATE.names)
    return Strip("bars", "add", Face.FRONT, outline, Length.of(width), Length("0", 0.0), None,
                 closed=closed, starts=starts, ends=ends)  # fmt: skip


def refusal(bars):
    with pytest.raises(PartError) as caught:
        check_operation(Part("p", CRATE, (bars,), begin="empty"), 0)
    return str(caught.value)


def corners(area):
    return [tuple(round(value, 6) for value in place) for place in area.exterior.coords[:-1]]


def test_a_trestle_is_made_in_its_own_crate():
    bars = strip(TRESTLE, "level")
    assert check_operation(Part("trestle", CRATE, (bars,), begin="empty"), 0) == (bars,)
    area = strip_area(bars, CRATE)
    half = 4.5 / math.sin(math.atan2(60, 40))  # of a foot, along the floor
    legs = 1.5 * ((40 + half) ** 2 - (40 - half) ** 2)
    bar = 9 * 2 * ((40 - half) - 21 / 1.5)
    assert area.area == pytest.approx(legs + bar, rel=1e-7)
    assert len(corners(area)) == 7  # two at each foot, one at the apex, two where the bar ends
    assert len(area.interiors) == 1
    assert min(v for _, v in corners(area)) == 0


def test_square_feet_of_the_same_trestle_reach_out_of_the_crate():
    assert "reaches" in refusal(strip(TRESTLE))


@given(
    st.floats(15, 65), st.floats(-40, 40), st.floats(2, 8),
    st.sampled_from(["square", "level", "pointed"]),
)  # fmt: skip
def test_an_end_ends_where_its_path_ends(size, across, width, ends):
    bar = strip(f"48, 0; {48 + across:.4f}, {size:.4f}", ends, width)
    area = strip_area(bar, CRATE)
    length = math.hypot(round(across, 4), round(size, 4))
    half = bar.width.mm / 2
    tip = shapely.Point(48, 0)
    assert area.boundary.distance(tip) == pytest.approx(0, abs=1e-9)
    if ends == "square":
        assert area.area == pytest.approx(2 * half * length)
    elif ends == "level":  # as much is added as is taken away
        assert area.area == pytest.approx(2 * half * length)
        assert area.bounds[1] == pytest.approx(0, abs=1e-9)
    else:
        assert area.area == pytest.approx(2 * half * length - 2 * half * half)


@given(st.lists(st.integers(0, 359), min_size=2, max_size=5, unique=True))
def test_bars_that_end_at_one_point_leave_no_notch(angles):
    """However many meet: between two neighbours the outline has no corner but their common one."""
    angles = sorted(angles)
    gaps = [(b - a) % 360 for a, b in pairwise([*angles, angles[0]])]
    if min(gaps) < 25 or abs(max(gaps) - 180) < 2:
        return
    places = [(48 + 30 * math.cos(math.radians(a)), 35 + 30 * math.sin(math.radians(a)))
              for a in angles]  # fmt: skip
    text = " | ".join(f"48, 35; {u:.5f}, {v:.5f}" for u, v in places)
    area = strip_area(strip(text, width=6.0), CRATE)
    assert area.geom_type == "Polygon"
    # two corners at each free end, and one between each two neighbours
    straight = sum(abs(gap - 180) < 1e-6 for gap in gaps)
    assert len(corners(area)) == 3 * len(angles) - straight
    assert area.covers(shapely.Point(48, 35).buffer(2.9))


def test_paths_that_come_round_to_their_start_close():
    frame = strip("10, 10; 60, 10 | 60, 10; 60, 40 | 60, 40; 10, 10", width=6.0)
    area = strip_area(frame, CRATE)
    assert len(corners(area)) == 3
    assert len(area.interiors[0].coords) == 4
    closed = strip_area(strip("10, 10; 60, 10; 60, 40", width=6.0, closed=True), CRATE)
    assert area.equals(closed) or area.symmetric_difference(closed).area < 1e-6


def test_paths_are_written_as_they_are_read():
    bars = strip(TRESTLE)
    assert outline_text(bars.outline, bars.starts) == TRESTLE
    assert bars.starts == (2, 4)
    fewer = without_corner(bars, 1)
    assert (len(fewer.outline), fewer.starts) == (5, (1, 3))


@pytest.mark.parametrize("text", ["10, 0", "10, 0; 10, 0", "", "5, 5; 40, 5 | 60, 60"])
def test_too_few_corners_are_refused_in_words(text):
    bars = strip(text)
    with pytest.raises(ValueError, match="more corners"):
        strip_area(bars, CRATE)
    assert "more corners" in refusal(bars)


def test_paths_that_do_not_meet_are_named():
    assert "do not meet" in refusal(strip("10, 10; 40, 10 | 10, 40; 40, 40"))
