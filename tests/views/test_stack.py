"""Views in a narrow pane: as large as they can be, apart from each other, side by side in line."""

from itertools import combinations

import pytest

from cast import crate, hole
from holoptic.part import Part
from holoptic.solid.shelf import look
from holoptic.views import lay_out, orthographic, view_directions
from holoptic.views.layout import layout_extent, spaced

LETTER = 9.0


def views_of(length, depth, height, number="six", angle="third"):
    part = Part(
        "plate",
        crate(length, depth, height),
        (hole("bore", u=length / 3, v=depth / 2, diameter=4),),
    )
    seen = look(part, view_directions(number))
    return lay_out(orthographic(seen, number), angle)


@pytest.mark.parametrize("angle", ["third", "first"])
@pytest.mark.parametrize("size", [(93, 54, 8.5), (37, 29, 81), (44, 41, 38), (120, 9, 14)])
@pytest.mark.parametrize("room", [(312, 450), (190, 300), (1200, 420), (200, 200)])
def test_six_views_fit_the_pane_apart_from_each_other(size, room, angle):
    placed, told = spaced(views_of(*size, angle=angle), room, LETTER)
    assert len(placed) == 6
    left, low, right, high = layout_extent(placed)
    scale = min(told, room[0] / (right - left), room[1] / (high - low))
    assert scale > 0.6 * told
    for one, two in combinations(placed, 2):
        (a, b, c, d), (e, f, g, h) = one.extent, two.extent
        gap = max(e - c, a - g, f - d, b - h)
        assert gap * scale > 2.5 * LETTER, (one.name, two.name)


@pytest.mark.parametrize(("angle", "side"), [("third", "right"), ("first", "left")])
def test_a_flat_part_is_stacked_and_what_can_stay_in_line_does(angle, side):
    usual = views_of(93, 54, 8.5, angle=angle)
    placed, scale = spaced(usual, (312, 450), LETTER)
    by_name = {view.name: view for view in placed}
    front = by_name["front"]
    for name in ("top", "bottom"):
        assert by_name[name].extent[0] == pytest.approx(front.extent[0])
    assert by_name[side].extent[1] == pytest.approx(front.extent[1])
    assert by_name[side].extent[0] > front.extent[2]
    across = sum(view.extent[2] - view.extent[0] for view in usual if view.origin[1] == 0)
    assert scale > 1.25 * 312 / across * 0.8
    assert (by_name["top"].extent[1] > front.extent[1]) == (angle == "third")
    assert [view.name for view in placed] == [view.name for view in usual]


def test_three_views_and_six_in_a_broad_pane_stay_in_projection():
    for number, room in (("three", (312, 450)), ("six", (1400, 420))):
        placed, _ = spaced(views_of(44, 41, 38, number), room, LETTER)
        rows = {view.name: round(view.extent[1], 6) for view in placed}
        assert rows["front"] == rows["right"]
        if number == "six":
            assert rows["front"] == rows["left"] == rows["rear"]
