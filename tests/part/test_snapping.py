"""What a hand does on the face board, as geometry."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cast import crate, hole, prism
from holoptic.part import Face, Part
from holoptic.part.snapping import handles_of, nearest_corner, snapped, with_handle_at
from holoptic.units import Unit

CRATE = crate(84, 46, 37.5)
NOTCH = prism("notch", face=Face.FRONT, outline=[(20, 30), (50, 30), (50, 12), (20, 12)])


@given(u=st.floats(-20, 120), v=st.floats(-20, 80), number=st.integers(0, 3))
def test_a_corner_goes_where_it_is_put_and_stays_on_its_face(u, v, number):
    moved = with_handle_at(NOTCH, number, (u, v), CRATE, Unit.MM)
    places = handles_of(moved, CRATE)
    wanted = min(max(u, 0.0), 84.0), min(max(v, 0.0), 37.5)
    assert places[number] == pytest.approx(wanted, abs=6e-3)  # written to a hundredth
    before = handles_of(NOTCH, CRATE)
    assert [p for k, p in enumerate(places) if k != number] == [
        p for k, p in enumerate(before) if k != number
    ]


@pytest.mark.parametrize("counted", [{}, {"far": True}, {"centred": True}])
@pytest.mark.parametrize("unit", [Unit.MM, Unit.INCH_DECIMAL])
def test_a_centre_is_counted_as_before(counted, unit):
    eye = hole("eye", Face.FRONT, 8, 30, 10)
    eye = replace(eye, u=replace(eye.u, **counted))
    moved = with_handle_at(eye, 0, (41.5, 20.25), CRATE, unit)
    assert handles_of(moved, CRATE)[0] == pytest.approx((41.5, 20.25), abs=6e-3)
    assert (moved.u.far, moved.u.centred) == (eye.u.far, eye.u.centred)


def test_a_place_snaps_to_what_is_given_else_to_the_grid():
    part = Part("p", CRATE, (NOTCH, hole("eye", Face.FRONT, 8, 70, 9)))
    assert snapped(part, 1, (50.4, 12.3), 0.6, Unit.MM) == (50.0, 12.0)
    assert snapped(part, 1, (60.3, 20.3), 0.1, Unit.MM) == (60.5, 20.5)
    assert snapped(part, 1, (500.0, -3.0), 0.1, Unit.MM) == (84.0, 0.0)
    corners = handles_of(NOTCH, CRATE)
    assert nearest_corner(corners, (49.0, 29.0), 2.0) == 1
    assert nearest_corner(corners, (35.0, 20.0), 2.0) is None
