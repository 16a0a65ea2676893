"""Sizes as ink: on the layer of their axis, clear of their words, outside the picture."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import MultiPoint, Point

from holoptic.pictorial.kinds import NearCorner, view_of
from holoptic.sheet.drawing import MEAN_LETTER
from holoptic.sheet.layers import LAYERS, SIZE_LAYERS
from holoptic.sheet.size_ink import crate_sizes, size_ink
from holoptic.units import Unit
from holoptic.views.sizes import SizeLine

AXES = st.sampled_from([(0, (1.0, 0.0)), (1, (1.0, 0.0)), (1, (0.0, 1.0)), (2, (0.0, 1.0))])
CORNERS = list(NearCorner)


def box_of(words):
    """The corners of about what words cover."""
    wide = len(words.text) * MEAN_LETTER * words.height
    (a, b), (c, d) = words.axes
    return [
        (words.at[0] + a * u + c * v, words.at[1] + b * u + d * v)
        for u in (-wide / 2, wide / 2)
        for v in (0.0, words.height)
    ]


@given(axis=AXES, long=st.floats(0.5, 300), letter=st.floats(0.2, 8), overall=st.booleans(),
       backward=st.booleans())  # fmt: skip
def test_no_line_of_a_size_runs_through_its_words(axis, long, letter, overall, backward):
    number, (x, y) = axis
    start, end = (10.0, 20.0), (10.0 + x * long, 20.0 + y * long)
    line = SizeLine(number, *((end, start) if backward else (start, end)), "12.5", overall)
    drawn = size_ink(line, letter)
    box = box_of(drawn.words)
    along = [p[0] * x + p[1] * y for p in box]
    aside = [p[0] * y + p[1] * x for p in box]
    for ink in drawn.inks:
        assert ink.layer == drawn.words.layer == SIZE_LAYERS[number]
        for part in (0.0, 0.5, 1.0):
            at = [a + part * (b - a) for a, b in zip(*ink.path, strict=True)]
            inside = min(along) < at[0] * x + at[1] * y < max(along)
            assert not (inside and min(aside) < at[0] * y + at[1] * x < max(aside))
    # the ends of the size are marked where it ends, whatever became of its line
    ticks = {tuple((a + b) / 2 for a, b in zip(*ink.path, strict=True)) for ink in drawn.inks}
    for wanted in (start, end):
        assert min(math.dist(wanted, tick) for tick in ticks) < 1e-9


def test_overall_sizes_carry_the_dashes_of_their_axis_and_those_of_features_none():
    places = (0.0, 0.0), (80.0, 0.0)
    overall = size_ink(SizeLine(0, *places, "L 80", True), 2.5)
    feature = size_ink(SizeLine(0, *places, "80"), 2.5)
    assert {ink.pattern for ink in overall.inks} == {LAYERS["length"].dashes, ()}
    assert {ink.pattern for ink in feature.inks} == {()}
    assert overall.words.height > feature.words.height
    assert len({LAYERS[name].dashes for name in SIZE_LAYERS}) == 3


@pytest.mark.parametrize("corner", CORNERS)
@pytest.mark.parametrize("letter", [1.0, 4.0])
def test_crate_sizes_stand_outside_the_picture(corner, letter):
    view = view_of("isometric", corner)
    low, high = (0.0, 0.0, 0.0), (84.5, 46.0, 37.5)
    corners = [
        tuple(sum(row[k] * p[k] for k in range(3)) for row in view.matrix)
        for p in ((x, y, z) for x in (0, 84.5) for y in (0, 46.0) for z in (0, 37.5))
    ]
    middle = tuple((min(c[k] for c in corners) + max(c[k] for c in corners)) / 2 for k in (0, 1))
    sizes = list(crate_sizes(view, low, high, middle, letter, Unit.MM))
    assert [size.words.text for size in sizes] == ["L 84.5", "D 46", "H 37.5"]
    hull = MultiPoint(corners).convex_hull
    for size in sizes:
        for x, y in (point for ink in size.inks for point in ink.path):
            assert not hull.contains(Point(x, y))
        centre = [sum(p[k] for p in box_of(size.words)) / 4 for k in (0, 1)]
        assert hull.distance(Point(centre)) > 1.5 * letter
    inches = next(crate_sizes(view, low, high, middle, letter, Unit.INCH_DECIMAL))
    assert inches.words.text == "L 3.3268"
