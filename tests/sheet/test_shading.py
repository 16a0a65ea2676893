"""Shading: dark faces are lined along an axis, bright ones stay plain, no line leaves its face."""

from dataclasses import replace

import numpy as np
import pytest
import shapely

from cast import crate, hole, prism
from holoptic.curves.vectors import unit
from holoptic.part import Body, Face, Offset, Part, Ring, Round, Whole
from holoptic.pictorial import draw, view_of
from holoptic.sheet.drawing import moved
from holoptic.sheet.shading import shading
from holoptic.solid.shelf import seen, shape_of
from holoptic.units import Length

AT = (31.7, 44.2)


def shaded(part, light, kind="isometric", scale=1.0):
    view = view_of(kind)
    solid = seen(part)
    picture = draw(solid.look(view.toward_viewer), view)
    toward = unit(view.toward_viewer)

    def nearest(points):
        return solid.depths(toward, points)[:, 1]

    return picture, shading(picture, AT, scale, shape_of(part), nearest, light)


def block():
    outline = [(0, 0), (62, 0), (62, 14), (35, 14), (35, 31), (0, 31)]
    return Part("step", crate(62, 27, 31), (
        prism("step", "add", Face.FRONT, outline), hole("bore", u=50, v=13)), "empty")  # fmt: skip


def test_no_light_no_lines():
    assert shaded(block(), "none")[1] == []


@pytest.mark.parametrize("kind", ["isometric", "cabinet", "trimetric:15:40"])
def test_the_side_away_from_the_light_is_darker(kind):
    def dark_on(light):
        """Return the length of shading right and left of the near upright edge."""
        picture, inks = shaded(block(), light, kind)
        x = picture.view.matrix[0][0] * 62 + AT[0]
        lines = [shapely.LineString(ink.path) for ink in inks]
        assert all(ink.layer == "shading" for ink in inks)
        right = sum(line.length for line in lines if line.centroid.x > x)
        return right, sum(line.length for line in lines) - right

    (right_l, left_l), (right_r, left_r) = dark_on("left"), dark_on("right")
    assert right_l > right_r
    assert left_r > left_l


def test_lines_lie_along_an_axis_and_within_the_outline():
    picture, inks = shaded(block(), "left", scale=2.0)
    drawn = [shapely.LineString(moved(s.path, AT, 2.0)) for s in picture.visible]
    outline = shapely.convex_hull(shapely.union_all(drawn)).buffer(0.2)
    ways = [np.array([row[k] for row in picture.view.matrix]) for k in range(3)]
    for ink in inks:
        line = shapely.LineString(ink.path)
        assert outline.contains(line)
        (a, b), (c, d) = ink.path[0], ink.path[-1]
        way = np.array([c - a, d - b]) / np.hypot(c - a, d - b)
        sines = [abs(way[0] * w[1] - way[1] * w[0]) / np.hypot(*w) for w in ways]
        assert min(sines) < 1e-6


def test_on_a_round_face_lines_draw_closer_where_it_turns_away():
    post = Round("post", "add", Face.BOTTOM, hole(diameter=44).diameter, hole(u=31).u,
                 hole(v=31).v, hole().start, None)  # fmt: skip
    _, inks = shaded(Part("post", crate(62, 62, 40), (post,), "empty"), "left")
    upright = sorted({round(ink.path[0][0], 3) for ink in inks
                      if abs(ink.path[0][0] - ink.path[-1][0]) < 1e-6})  # fmt: skip
    gaps = np.diff(upright)
    assert len(gaps) > 12
    assert gaps[-4:].max() < gaps[2:6].min()


@pytest.mark.parametrize("mode", ["cut", "add"])
def test_rings_are_shaded_in_circles_about_their_axis_from_either_side(mode):
    disc = Round("disc", "add", Face.BOTTOM, Length.of(50), Offset(Length.of(35)),
                 Offset(Length.of(35)), Length.of(0), Length.of(24))  # fmt: skip
    ring = Ring("ring", mode, Face.TOP, Length.of(50), Length.of(9), Offset(Length.of(35)),
                Offset(Length.of(35)), Length.of(12))  # fmt: skip
    part = Part("collar", crate(70, 70, 24), (disc, ring), "empty")
    plain = replace(part, operations=(disc,))
    (_, with_ring), (_, without) = shaded(part, "left"), shaded(plain, "left")
    curved = [ink for ink in with_ring if len(ink.path) > 2]
    assert len(curved) > 5
    assert not any(len(ink.path) > 2 for ink in without)
    picture = shaded(part, "left")[0]
    drawn = [shapely.LineString(moved(s.path, AT, 1.0)) for s in picture.visible]
    outline = shapely.convex_hull(shapely.union_all(drawn)).buffer(0.2)
    assert all(outline.contains(shapely.LineString(ink.path)) for ink in curved)


def test_bodies_apart_are_shaded_as_each_alone_and_one_before_another_covers_its_lines():
    one, other = block(), Part("boss", crate(24, 24, 19), (
        Round("boss", "add", Face.BOTTOM, Length.of(24), Offset(Length.of(12)),
              Offset(Length.of(12)), Length.of(0), Length.of(19)),), "empty")  # fmt: skip

    def together(at):
        return Whole("both", (Body("a", "step", "p1", one), Body("b", "boss", "p2", other, at=at)))

    def long(part):
        return sum(shapely.LineString(ink.path).length for ink in shaded(part, "left")[1])

    alone = long(one) + long(other)
    assert long(together((0.0, 0.0, 90.0))) == pytest.approx(alone, rel=0.002)
    before = long(together((30.0, -30.0, 0.0)))
    assert long(one) < before < alone - 50
