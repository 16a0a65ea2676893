"""The picture as it is to stand on paper: where strokes end when ovals take an ellipse's place."""

import math

import pytest

from cast import crate, hole, intended_of, length, picture, prism
from holoptic.construction.intended import Bent, Straight
from holoptic.curves.paper import direction
from holoptic.job import HandWays
from holoptic.part import Ball, Face, Offset, Part, Round
from holoptic.part.outline import face_rings, sides_of
from holoptic.part.outline_text import read_outline
from holoptic.part.provenance import given_offsets
from holoptic.part.snapping import with_corner_at
from holoptic.units import Unit

BOX = crate(60, 50, 40)
CENTRE = Offset(length(30)), Offset(length(25))


def intended(worker, part, kind="isometric", ways=None, corner="front-right"):
    seen, drawn = picture(worker, part, kind, corner)
    return intended_of(part, seen.facts, drawn, ways=ways), drawn


@pytest.fixture
def boss(worker):
    plate = prism("plate", "add", Face.BOTTOM, [(0, 0), (60, 0), (60, 50), (0, 50)], end=9)
    part = Part("p", BOX, (plate, hole("boss", Face.BOTTOM, 34, 30, 25, 40, mode="add")),
                begin="empty")  # fmt: skip
    return intended(worker, part)


def test_outlines_of_a_cylinder_touch_both_ovals(boss):
    made, _ = boss
    outlines = [m for m in made.strokes.values() if isinstance(m, Straight) and m.generator]
    assert len(outlines) == 2
    for line in outlines:
        assert {line.start.how, line.end.how} == {"touch"}
        way = direction(*line.path)
        assert way == pytest.approx((0, math.copysign(1, way[1])), abs=1e-9)  # along the axis
        for end in (line.start, line.end):
            curve = made.curve(end.other)
            t = curve.nearest(end.place)
            slope = direction((0, 0), curve.slope(t))
            assert math.dist(curve.at(t), end.place) < 1e-8
            assert abs(way[0] * slope[1] - way[1] * slope[0]) < 1e-6


def test_arcs_end_where_their_outlines_touch(boss):
    made, drawn = boss
    touches = {end.place for m in made.strokes.values() if isinstance(m, Straight) and m.generator
               for end in (m.start, m.end)}  # fmt: skip
    foot = next(m for m in made.strokes.values() if isinstance(m, Bent) and not m.is_whole)
    assert {foot.start.how, foot.end.how} == {"touch"}
    assert {foot.start.place, foot.end.place} <= touches
    assert len(made.strokes) == len(drawn.visible)


def test_an_edge_behind_an_oval_ends_on_the_oval(worker):
    part = Part("p", crate(80, 40, 30), (
        prism("plate", "add", Face.BOTTOM, [(0, 0), (80, 0), (80, 40), (0, 40)], end=8),
        hole("boss", Face.BOTTOM, 30, 40, 22, 30, mode="add"),
    ), begin="empty")  # fmt: skip
    made, _ = intended(worker, part)
    meets = [(m, e) for m in made.strokes.values() if isinstance(m, Straight) and not m.generator
             for e in (m.start, m.end) if e.how == "meet"]  # fmt: skip
    assert meets
    for _, end in meets:
        true = made.strokes[end.other]
        assert isinstance(true, Straight | Bent)


def test_true_ellipses_cost_nothing_and_ovals_what_they_say(worker):
    part = Part("p", crate(60, 50, 12), (hole("eye", diameter=40, u=30, v=25),))
    exact, _ = intended(worker, part, ways=HandWays(method="true"))
    assert exact.worst[0] < 0.011  # the true picture is a polyline here
    oval, _ = intended(worker, part)
    assert oval.worst == (pytest.approx(1.4, abs=0.02), "eye")


def test_general_curves_go_through_as_few_points_as_will_do(worker):
    slope = prism("slope", outline=[(15, 40), (60, 40), (60, 14)])
    part = Part("p", BOX, (slope, hole("cross", Face.RIGHT, 16, 25, 24)))
    made, _ = intended(worker, part)
    curves = [m for m in made.strokes.values() if isinstance(m, Bent) and m.rim is None]
    for made_curve in curves:
        assert 5 <= len(made_curve.through) <= 33
    assert made.worst[0] < 1.0


def test_a_ball_is_a_circle_in_isometric_and_an_ellipse_in_oblique(worker):
    part = Part("p", BOX, (Ball("b", "add", Face.BOTTOM, length(36), *CENTRE, length(20)),),
                begin="empty")  # fmt: skip
    for kind, method in (("isometric", "compass"), ("cabinet", "offsets")):
        made, _ = intended(worker, part, kind)
        (rim,) = made.rims.values()
        assert rim.construction.method == method
        assert rim.axis is None


def test_a_cone_whose_apex_falls_inside_its_base_has_no_outlines(worker):
    low, high = (
        Part("p", BOX, (Round("cone", "add", Face.BOTTOM, length(44), *CENTRE, length(0),
                              length(height), length(0)),), begin="empty")
        for height in (9, 36)
    )  # fmt: skip
    for part, outlines in ((low, 0), (high, 2)):
        made, _ = intended(worker, part)
        found = [m for m in made.strokes.values() if isinstance(m, Straight) and m.generator]
        assert len(found) == outlines


# --- outlines with arcs and slopes as the desk handles them --------------------------------------


def test_sides_of_an_outline_meet_and_turn_as_said():
    words = "0, 0; 40, 0 arc 15 left; 40, 30; angle 180 length 10 arc 20 right; 0, 30"
    outline = read_outline(words, Unit.MM, BOX.names)
    sides = sides_of(outline)
    for one, two in zip(sides, sides[1:] + sides[:1], strict=True):
        assert math.dist(one.end, two.start) < 1e-12
    half = sides[1]
    assert half.sweep == pytest.approx(math.pi)
    assert half.at(0.5) == pytest.approx((55, 15))
    assert half.distance((55, 15)) == pytest.approx(0, abs=1e-12)
    assert half.distance((50, 15)) == pytest.approx(5)
    assert half.distance((20, 15)) == pytest.approx(25)  # beside the arc: to its nearer end
    assert sides[3].sweep < 0


def test_a_corner_put_into_an_outline_keeps_its_arcs():
    item = prism("p", outline=[(0, 0), (40, 0), (40, 30), (0, 30)])
    arcs = read_outline("0, 0; 40, 0 arc 15 left; 40, 30; 0, 30", Unit.MM, BOX.names)
    item = type(item)(item.name, "cut", Face.FRONT, arcs, item.start, item.end)
    changed, at = with_corner_at(item, arcs[0].__class__(length(20), length(0)))
    assert at == 1
    assert [corner.arc is not None for corner in changed.outline] == [False, False, True, False,
                                                                      False]  # fmt: skip
    (ring,) = face_rings(changed, BOX)
    assert max(u for u, _ in ring) == pytest.approx(55, abs=0.01)


def test_the_sides_of_a_circles_square_are_explained_by_its_radius():
    part = Part("p", BOX, (hole("eye", diameter=19, u=30, v=25),))
    words = {(given.axis, given.at): given.length.text for given in given_offsets(part)}
    assert words[0, 39.5] == "30+19/2"
    assert words[1, 15.5] == "25-19/2"
