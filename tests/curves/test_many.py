"""Many curves at once come out as each of them does alone."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from holoptic.curves.many import extent_on_paper, on_paper
from holoptic.curves.paper_arc import PaperArc, chords_of
from holoptic.curves.space import EllipticArc, SampledCurve, Segment
from holoptic.curves.vectors import apply, unit
from holoptic.pictorial import NearCorner, view_of

MATRICES = [view_of(kind, NearCorner.FRONT_LEFT).matrix for kind in ("isometric", "cabinet")]
places = st.tuples(*[st.floats(-60, 60).map(lambda x: round(x, 3))] * 3)


@st.composite
def arcs(draw):
    normal = unit(draw(st.sampled_from([(0, 0, 1), (1, 0, 0), (0.3, -1.2, 0.7)])))
    across = unit(np.cross(normal, (0.31, 0.2, -0.93)).tolist())
    major, first = draw(st.floats(1, 30)), draw(st.floats(-7, 7))
    turn = draw(st.floats(0.1, math.tau))
    return EllipticArc(
        draw(places), normal, across, major, major * draw(st.floats(0.4, 1)), first, first + turn
    )


curves = st.one_of(
    arcs(),
    st.builds(Segment, places, places),
    st.lists(places, min_size=2, max_size=6).map(tuple).map(SampledCurve),
)


@given(st.lists(curves, min_size=1, max_size=8), st.sampled_from(MATRICES))
def test_they_reach_as_far_as_each_alone(several, matrix):
    left, low, right, high = zip(*(curve.box(matrix) for curve in several), strict=True)
    assert extent_on_paper(several, matrix) == pytest.approx(
        (min(left), min(low), max(right), max(high)), abs=1e-9
    )


@given(st.lists(curves, max_size=8), st.sampled_from(MATRICES))
def test_each_lies_on_paper_where_it_lies_alone(several, matrix):
    origin = (3.5, -8.25)
    for curve, found in zip(several, on_paper(several, matrix, origin), strict=True):
        if isinstance(curve, EllipticArc):
            alone = curve.on_paper(matrix).placed(origin, 1.0)
            assert isinstance(found, PaperArc)
            assert [*found.centre, *found.a, *found.b, found.first, found.last] == pytest.approx(
                [*alone.centre, *alone.a, *alone.b, alone.first, alone.last], abs=1e-9
            )
        else:
            points = curve.points if isinstance(curve, SampledCurve) else (curve.start, curve.end)
            moved = [apply(matrix, point) + np.array(origin) for point in points]
            assert np.allclose(found, moved, atol=1e-9)


@given(st.lists(arcs(), min_size=1, max_size=6), st.sampled_from([0.4, 0.01, 0.001]))
def test_arcs_fall_into_the_pieces_of_each(several, chord):
    images = [arc.on_paper(MATRICES[0]) for arc in several]
    points = [image.points(chord) for image in images]
    alone = np.concatenate([np.hstack([path[:-1], path[1:]]) for path in points])
    assert np.allclose(chords_of(images, chord), alone, atol=1e-9)
