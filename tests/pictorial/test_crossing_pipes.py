"""Pipes that cross, and bores across tubes: outlines along seams, and curves behind curves."""

import pytest
from bench.classics.shapes import AXES, cut, cylinder, fuse
from shapely import LineString, union_all

from holoptic.curves.space import SampledCurve
from holoptic.pictorial import draw
from holoptic.solid.seeing import compiled
from holoptic.solid.seeing.hidden import SeenSolid
from holoptic.views.orthographic import VIEWS_BY_NAME

pytestmark = pytest.mark.skipif(
    compiled.library() is None, reason="the compiled part is missing on this machine"
)


def picture(shape, name):
    view = VIEWS_BY_NAME[name]
    return draw(SeenSolid(shape).look(view.toward_viewer), view)


def test_the_outlines_of_equal_pipes_that_cross_are_whole():
    radius = 12.5
    pipes = fuse(
        cylinder((0, 0, 0), AXES[0], radius, 47), cylinder((23.5, 0, -24), AXES[2], radius, 49)
    )
    lines = [LineString(stroke.path) for stroke in picture(pipes, "front").strokes]
    drawn = union_all([line.buffer(0.01) for line in lines])
    for x in (11.0, 36.0):  # where the upright one runs, below and above the other
        for z in (-24.0, 25.0):
            end = radius if z > 0 else -radius
            assert drawn.contains(LineString([(x, z), (x, end)]))
    for z in (-radius, radius):
        for end, x in ((0.0, 11.0), (47.0, 36.0)):
            assert drawn.contains(LineString([(end, z), (x, z)]))


def test_a_bore_across_a_tube_is_drawn_in_a_few_curves():
    tube = cut(cylinder((0, 0, 0), AXES[0], 19.2, 61.7), cylinder((-1, 0, 0), AXES[0], 12.3, 64),
               cylinder((38.3, 0, 0), (0, 0, -1), 6.6, 30))  # fmt: skip
    strokes = picture(tube, "front").strokes
    curves = [stroke for stroke in strokes if isinstance(stroke.curve, SampledCurve)]
    assert 1 <= len(curves) <= 4
    assert min(LineString(stroke.path).length for stroke in strokes) > 1.0
