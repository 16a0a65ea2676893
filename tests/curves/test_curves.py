"""Curves in space and lines on paper."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from holoptic.curves.paper import (
    crossing,
    direction,
    distance_to_segment,
    extent,
    offset_from_line,
    position_on_line,
)
from holoptic.curves.space import EllipticArc, SampledCurve, Segment
from holoptic.curves.vectors import apply, cross, distance, dot, middle, unit
from holoptic.pictorial import view_of

ISO = view_of("isometric").matrix
sizes = st.floats(0.5, 400)
angles = st.floats(-6, 6)


@st.composite
def arcs(draw):
    normal = unit(tuple(draw(st.floats(-1, 1)) + 1.5 * sign for sign in (1, -1, 1)))
    x_axis = unit(cross(normal, (0.2, 0.5, 0.9)))
    major = draw(sizes)
    minor = major * draw(st.sampled_from([1.0, 0.6, 0.1]))
    first = draw(angles)
    return EllipticArc((3, -7, 11), normal, x_axis, major, minor, first,
                       first + draw(st.floats(0.01, 2 * math.pi)))  # fmt: skip


@given(arcs())
def test_an_arc_flattens_within_its_chord_error(arc):
    path = np.array(arc.path(ISO))
    assert path[0] == pytest.approx(apply(ISO, arc.start), abs=1e-9)
    assert path[-1] == pytest.approx(apply(ISO, arc.end), abs=1e-9)
    for t in np.linspace(arc.first, arc.last, 31):
        point = apply(ISO, arc.at(float(t)))
        gap = min(distance_to_segment(point, tuple(a), tuple(b)) for a, b in zip(path, path[1:]))  # noqa: B905, RUF007
        assert gap <= 0.0101


@given(arcs())
def test_the_box_of_an_arc_just_holds_its_image(arc):
    fine = np.array([apply(ISO, arc.at(float(t))) for t in np.linspace(arc.first, arc.last, 400)])
    xmin, ymin, xmax, ymax = arc.box(ISO)
    slack = 1e-3 * arc.major  # the samples may miss the very turning points
    assert (fine >= np.array([xmin, ymin]) - 1e-9).all()
    assert (fine <= np.array([xmax, ymax]) + 1e-9).all()
    assert fine.min(axis=0) == pytest.approx([xmin, ymin], abs=slack)
    assert fine.max(axis=0) == pytest.approx([xmax, ymax], abs=slack)


@given(arcs(), st.floats(0.1, 0.4), st.floats(0.5, 0.9))
def test_a_piece_of_an_arc_lies_on_it(arc, low, high):
    span = arc.last - arc.first
    piece = arc.piece(arc.first + low * span, arc.first + high * span)
    assert distance(piece.start, arc.at(arc.first + low * span)) < 1e-9
    assert piece.length <= arc.length + 1e-9


def test_the_length_of_a_circle_and_of_an_ellipse():
    circle = EllipticArc((0, 0, 0), (0, 0, 1), (1, 0, 0), 10, 10, 0, 2 * math.pi)
    assert circle.length == pytest.approx(2 * math.pi * 10)
    assert circle.is_closed
    ellipse = EllipticArc((0, 0, 0), (0, 0, 1), (1, 0, 0), 10, 5, 0, 2 * math.pi)
    # Ramanujan's first approximation is good to 1e-5 here
    assert ellipse.length == pytest.approx(math.pi * (45 - math.sqrt(35 * 25)), rel=1e-3)


def test_a_segment_by_its_distance():
    segment = Segment((0, 0, 0), (30, 0, 40))
    assert segment.at(25) == (15, 0, 20)
    assert segment.piece(10, 40).length == pytest.approx(30)
    assert Segment((1, 1, 1), (1, 1, 1)).at(0) == (1, 1, 1)


def test_a_sampled_curve_is_cut_between_its_points():
    curve = SampledCurve(((0, 0, 0), (10, 0, 0), (10, 10, 0)))
    assert curve.length == 20
    piece = curve.piece(0.5, 1.5)
    assert piece.points == ((5, 0, 0), (10, 0, 0), (10, 5, 0))
    assert curve.at(2) == curve.end


@given(st.floats(0, 6), st.floats(0.1, 3), st.floats(-50, 50), st.floats(-50, 50))
def test_two_lines_cross_on_both(angle, turn, x, y):
    one = (math.cos(angle), math.sin(angle))
    two = (math.cos(angle + turn), math.sin(angle + turn))
    place = crossing((0, 0), one, (x, y), two)
    assert offset_from_line(place, (0, 0), one) == pytest.approx(0, abs=1e-6)
    assert offset_from_line(place, (x, y), two) == pytest.approx(0, abs=1e-6)


def test_parallel_lines_do_not_cross():
    assert crossing((0, 0), (1, 0), (0, 5), (1, 0)) is None
    assert crossing((0, 0), (1, 0), (0, 5), (-1, 0)) is None


def test_positions_and_offsets_of_points():
    along = direction((1, 1), (1, 9))
    assert position_on_line((4, 6), (1, 1), along) == 5
    assert offset_from_line((4, 6), (1, 1), along) == -3  # right of the direction
    assert distance_to_segment((4, 12), (1, 1), (1, 8)) == 5
    assert distance_to_segment((4, 5), (1, 1), (1, 1)) == 5
    assert extent([(3, 1), (-2, 8)]) == (-2, 1, 3, 8)


def test_vectors():
    assert dot(cross((1, 2, 3), (4, 5, 6)), (1, 2, 3)) == 0
    assert middle((0, 0, 0), (2, 4, 6)) == (1, 2, 3)
    with pytest.raises(ZeroDivisionError):
        unit((0, 0, 0))
