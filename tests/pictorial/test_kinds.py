"""Every kind is a parallel projection with M · d = 0 and the axes the handbook gives."""

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from holoptic.curves.space import Segment
from holoptic.curves.vectors import apply, dot
from holoptic.errors import BadInput
from holoptic.pictorial import NearCorner, view_of
from holoptic.pictorial.measure import measure

KINDS = [
    "isometric", "isometric-projection", "cavalier", "cabinet", "oblique:30:0.6667", "dimetric",
    "trimetric:12:38", "plan-oblique", "plan-oblique:30:0.75",
]  # fmt: skip


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("corner", list(NearCorner))
def test_the_viewing_direction_vanishes_on_paper(kind, corner):
    view = view_of(kind, corner)
    assert apply(view.matrix, view.toward_viewer) == pytest.approx((0, 0), abs=1e-12)
    # the near corner is the one farthest along the direction toward the viewer
    signs = corner.signs
    others = [(x, y, z) for x in (-1, 1) for y in (-1, 1) for z in (-1, 1)]
    assert max(others, key=lambda point: dot(point, view.toward_viewer)) == signs


@pytest.mark.parametrize(
    ("kind", "corner", "angles", "scales"),
    [
        ("isometric", "front-right", (-30, 30, 90), (1, 1, 1)),
        ("isometric", "front-left", (30, 150, 90), (1, 1, 1)),
        ("isometric-projection", "front-right", (-30, 30, 90), (math.sqrt(2 / 3),) * 3),
        ("cabinet", "front-right", (0, 45, 90), (1, 0.5, 1)),
        ("cabinet", "front-left", (0, 135, 90), (1, 0.5, 1)),
        ("cavalier", "front-right", (0, 45, 90), (1, 1, 1)),
        ("oblique:60:0.75", "front-right", (0, 60, 90), (1, 0.75, 1)),
        ("dimetric", "front-right", (-7, 42, 90), (1, 0.5, 1)),
        ("dimetric", "front-left", (7, 138, 90), (1, 0.5, 1)),
        ("trimetric:30:30", "front-right", (-30, 30, 90), (1, 1, 1)),
        ("plan-oblique", "front-right", (-45, 45, 90), (1, 1, 1)),
        ("plan-oblique:30:0.75", "front-right", (-30, 60, 90), (1, 1, 0.75)),
    ],
)
def test_axes(kind, corner, angles, scales):
    view = view_of(kind, corner)
    assert [view.axis_angle(axis) for axis in range(3)] == pytest.approx(angles)
    assert [view.axis_scale(axis) for axis in range(3)] == pytest.approx(scales)


@pytest.mark.parametrize(
    ("kind", "says"),
    [
        ("perspective", "unknown kind"),
        ("oblique", "should read oblique:ANGLE:RATIO"),
        ("oblique:45:0", "ratio of 0 is impossible"),
        ("oblique:120:1", "angle of 120° is impossible"),
        ("oblique:x:1", "no number"),
        ("oblique:nan:1", "no finite number"),
        ("isometric:3", "should read isometric"),
        ("trimetric:50:45", "have no solution"),
        ("trimetric:0:45", "have no solution"),
        ("plan-oblique:95:1", "turn of 95° is impossible"),
        ("plan-oblique:45:-1", "ratio of -1 is impossible"),
    ],
)
def test_impossible_choices_are_refused_with_the_reason(kind, says):
    with pytest.raises(BadInput, match=says):
        view_of(kind)


@given(st.floats(2, 80), st.floats(2, 80))
def test_a_trimetric_is_square_to_the_paper(alpha, beta):
    assume(alpha + beta < 88)
    row_x, row_y = np.array(view_of(f"trimetric:{alpha}:{beta}").matrix)
    assert row_x @ row_y == pytest.approx(0, abs=1e-9)
    assert row_x @ row_x == pytest.approx(row_y @ row_y)
    view = view_of(f"trimetric:{alpha}:{beta}")
    assert (view.axis_angle(0), view.axis_angle(1)) == pytest.approx((-alpha, beta))
    assert max(view.axis_scale(axis) for axis in range(3)) == pytest.approx(1)


def test_true_and_drawn_differ_off_the_axes():
    line = Segment((0, 0, 0), (30, 0, 40))
    found = measure(line, view_of("isometric"))
    assert found.true == 50
    assert found.offsets == (30, 0, 40)
    x, y = 30 * math.sqrt(3) / 2, 40 - 15
    assert found.drawn == pytest.approx(math.hypot(x, y))
    assert found.angle == pytest.approx(math.degrees(math.atan2(y, x)))
