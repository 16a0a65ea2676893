"""Ways to draw an ellipse: the published figures, and what must hold for any ellipse."""

import math

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from holoptic.curves.drawn import Arc, ArcChain, FrenchCurve, common_tangents
from holoptic.curves.methods import METHODS
from holoptic.curves.ovals import Ellipse, construct, why_not
from holoptic.curves.paper import direction, offset_from_line
from holoptic.curves.paper_arc import PaperArc

C30 = math.cos(math.radians(30))


def square_image(p, q, centre=(0.0, 0.0)):
    """The image of the circle in a square whose half sides become p and q."""
    return Ellipse.of(PaperArc(centre, p, q, 0, math.tau), (p, q))


def isometric(diameter, centre=(0.0, 0.0)):
    r = diameter / 2
    return square_image((r * C30, r / 2), (r * C30, -r / 2), centre)


@st.composite
def ellipses(draw):
    a = draw(st.floats(2, 120))
    b = a * draw(st.floats(0.12, 0.97))
    turn = draw(st.floats(-3, 3))
    return Ellipse(
        (draw(st.floats(-50, 50)), draw(st.floats(-50, 50))),
        (a * math.cos(turn), a * math.sin(turn)),
        (-b * math.sin(turn), b * math.cos(turn)),
    )


@st.composite
def rhombi(draw):
    size, turn = draw(st.floats(2, 100)), draw(st.floats(-3, 3))
    angle = math.radians(draw(st.floats(25, 155)))
    assume(abs(angle - math.pi / 2) > 0.02)
    p = size * math.cos(turn), size * math.sin(turn)
    q = size * math.cos(turn + angle), size * math.sin(turn + angle)
    return square_image(p, q)


def test_the_isometric_circle_has_the_published_axes():
    a, b = isometric(1.0).half_axes
    assert (2 * a, 2 * b) == (pytest.approx(1.2247, abs=5e-5), pytest.approx(0.7071, abs=5e-5))


def test_the_four_centre_oval_has_the_published_figures():
    made = construct("four-centre", isometric(1.0))
    assert sorted(made.radii) == pytest.approx([0.2887, 0.2887, 0.8660, 0.8660], abs=5e-5)
    assert made.axes == pytest.approx((1.1547, 0.7321), abs=1e-4)
    assert made.band == pytest.approx((-0.0350, 0.0125), abs=1e-4)
    # the centres of the long arcs are the obtuse corners, half a diameter from the middle
    long_arcs = [c for c, r in zip(made.centres, made.radii, strict=True) if r > 0.5]
    assert [math.hypot(*c) for c in long_arcs] == pytest.approx([0.5, 0.5])
    forty = construct("four-centre", isometric(40.0))
    assert forty.band == pytest.approx((-1.4, 0.5), abs=0.01)


def test_the_closer_ovals_have_the_published_figures():
    made = construct("closer", isometric(1.0))
    assert sorted(set(np.round(made.radii, 4))) == [0.2452, 0.9216]
    reach = sorted({round(math.hypot(*centre), 4) for centre in made.centres})
    assert reach == [0.3671, 0.5681]
    assert made.deviation == pytest.approx(0.0052, abs=5e-5)
    assert made.axes == pytest.approx((1.2247, 0.7071), abs=1e-4)
    assert construct("free-arcs", isometric(1.0)).deviation == pytest.approx(0.0036, abs=5e-5)


@settings(max_examples=25)
@given(ellipse=ellipses())
def test_arcs_about_the_axes_join_without_a_kink(ellipse):
    made = construct("closer", ellipse)
    arcs = made.curve.arcs
    for one, two in zip(arcs, arcs[1:] + arcs[:1], strict=True):
        assert math.dist(one.end, two.start) < 1e-9
        # centres and join lie on one line: the tangents agree
        way = direction(one.centre, two.centre)
        assert abs(offset_from_line(one.end, one.centre, way)) < 1e-7 * max(made.radii)
    a, b = ellipse.half_axes
    assert made.axes == pytest.approx((2 * a, 2 * b), rel=1e-5)
    inside, outside = made.band
    assert inside <= 0 <= outside
    assert 0 < made.deviation < 0.02 * a
    assert made.area == pytest.approx(math.pi * a * b, rel=0.06)


@settings(max_examples=40)
@given(ellipse=rhombi())
def test_the_four_centre_oval_touches_every_side_in_its_middle(ellipse):
    made = construct("four-centre", ellipse)
    p, q = ellipse.half_sides
    for middle, side in zip(made.joins, (q, p, q, p), strict=True):
        t = made.curve.nearest(middle)
        assert math.dist(made.curve.at(t), middle) < 1e-9 * math.hypot(*p)
        slope = direction((0, 0), made.curve.slope(t + 1e-6))
        along = direction((0, 0), side)
        assert abs(slope[0] * along[1] - slope[1] * along[0]) < 1e-4
    # symmetrical about its centre
    points = made.curve.many(np.linspace(0, 2, 9))
    mirrored = made.curve.many(np.linspace(2, 4 - 1e-12, 9))
    assert np.allclose(points, -mirrored, atol=1e-6)


@settings(max_examples=20)
@given(ellipse=rhombi())
def test_every_method_says_how_far_it_is_off(ellipse):
    for method in METHODS:
        if why_not(method, ellipse):
            continue
        made = construct(method, ellipse)
        assert made.deviation >= 0
        assert made.deviation == pytest.approx(max(-made.band[0], made.band[1]))
        t = np.linspace(made.curve.first, made.curve.last, 500)
        gaps = np.abs(ellipse.distances(made.curve.many(t)))
        assert gaps.max() <= 1.01 * made.deviation + 1e-9 * ellipse.half_axes[0]


@settings(max_examples=30)
@given(ellipse=ellipses(), turn=st.floats(0, 6.28), out=st.floats(-0.1, 3))
def test_distances_from_an_ellipse_are_the_shortest(ellipse, turn, out):
    size = ellipse.half_axes[0]
    point = np.array([[ellipse.centre[0] + (1 + out) * size * math.cos(turn),
                       ellipse.centre[1] + (1 + out) * size * math.sin(turn)]])  # fmt: skip
    near = min(math.dist(ellipse.arc.at(k * math.tau / 2000), point[0]) for k in range(2000))
    assert abs(ellipse.distances(point)[0]) == pytest.approx(near, abs=0.003 * size)


def test_offsets_come_as_close_as_wanted():
    gaps = [construct("offsets", isometric(60), count).deviation for count in (8, 12, 24, 48)]
    assert gaps == sorted(gaps, reverse=True)
    assert gaps[-1] < 0.005


def test_what_cannot_be_used_says_why():
    cabinet = square_image((10, 0), (3.5, 3.5))
    assert "parallelogram" in why_not("four-centre", cabinet)
    with pytest.raises(ValueError, match="no rhombus"):
        construct("four-centre", cabinet)
    sloped = Ellipse((0, 0), (9, 0), (0, 4))
    assert "does not lie along two axes" in why_not("four-centre", sloped)
    assert "true circle" in why_not("closer", Ellipse((0, 0), (9, 0), (0, 9)))
    assert "edge-on" in why_not("offsets", Ellipse((0, 0), (9, 0), (0, 1e-9)))


def test_a_straightedge_touches_two_circles_from_outside():
    one = ArcChain([Arc((0, 0), 10, 0, math.tau)], closed=True)
    other = ArcChain([Arc((40, 0), 4, 0, math.tau)], closed=True)
    pairs = common_tangents(one, other)
    assert len(pairs) == 2
    for t, s in pairs:
        p, q = one.at(t), other.at(s)
        # the length of an outer tangent: √(d² − (R − r)²)
        assert math.dist(p, q) == pytest.approx(math.sqrt(40**2 - 6**2))


def test_a_french_curve_goes_through_its_points_smoothly():
    points = [(0.0, 0.0), (10.0, 6.0), (22.0, 5.0), (30.0, -4.0)]
    curve = FrenchCurve(points)
    for point in points:
        assert math.dist(curve.at(curve.nearest(point)), point) < 1e-9
    for knot in curve.knots[1:-1]:
        assert curve.slope(knot - 1e-7) == pytest.approx(curve.slope(knot + 1e-7), abs=1e-5)
