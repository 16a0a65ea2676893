"""Which construction a circle gets, and what its card says."""

import math

import pytest

from cast import crate, hole, length, look, picture, prism, proved, stepped_block
from holoptic.construction.cards import make_card
from holoptic.construction.rims import chosen, ellipse_of
from holoptic.curves.space import EllipticArc, Segment
from holoptic.job import HandWays, pose
from holoptic.part import Ball, Face, Offset, Part
from holoptic.pictorial import draw, view_of
from holoptic.units.spoken import said

CIRCLE = EllipticArc((20, 20, 6), (0, 0, 1), (1, 0, 0), 8.5, 8.5, 0, math.tau)


def method(kind, ways=HandWays(), arc=CIRCLE, scale=1.0):  # noqa: B008
    made, why = chosen(ellipse_of(arc, view_of(kind)), ways, "eye", scale)
    return made.method, why


def test_the_usual_way_is_the_four_centre_oval_where_it_can_be_had():
    assert method("isometric")[0] == "four-centre"
    assert method("cavalier")[0] == "four-centre"
    assert method("plan-oblique") == ("compass", "its image is a true circle")
    closer, why = method("cabinet")
    assert closer == "closer"
    assert "no rhombus" in why


def test_a_limit_takes_the_simplest_that_holds_it_on_paper():
    assert method("isometric", HandWays(limit_mm=1.0))[0] == "four-centre"
    assert method("isometric", HandWays(limit_mm=0.5))[0] == "closer"
    assert method("isometric", HandWays(limit_mm=1.0), scale=2.0)[0] == "closer"
    assert method("isometric", HandWays(limit_mm=1e-9))[0] == "true"


def test_a_feature_may_have_its_own_way():
    ways = HandWays(method="offsets").with_own("eye", "closer")
    assert method("isometric", ways)[0] == "closer"
    assert method("isometric", ways.with_own("eye", None))[0] == "offsets"
    # what cannot be had gives way to the next best, and says so
    other, why = method("cabinet", HandWays(method="four-centre"))
    assert other == "closer"
    assert why.startswith("no four-centre oval: the square")
    assert why.count("no four-centre") == 1


def test_a_sloped_circle_is_drawn_by_offsets():
    slope = math.sqrt(0.5)
    arc = EllipticArc((20, 20, 6), (slope, 0, slope), (0, 1, 0), 8, 8, 0, math.tau)
    assert method("isometric", arc=arc)[0] == "offsets"


@pytest.fixture
def bored(worker):
    part = Part("p", crate(60, 50, 12), (hole("eye", diameter=40, u=30, v=25),))
    view = view_of("isometric")
    seen = look(worker, part, view)
    return part, seen.facts, draw(seen.looks[0], view)


def test_the_card_of_a_circle(bored):
    part, facts, drawn = bored
    edge = next(e.index for e in facts.edges if isinstance(e.curve, EllipticArc))
    card = make_card(part, facts, drawn, HandWays(), 1.0, edge)
    assert (card.feature, said(card.title)) == ("eye", "four-centre oval for ⌀ 40")
    off = {item.method: item for item in card.alternatives}
    assert off["four-centre"].chosen
    assert off["four-centre"].deviation == pytest.approx(1.4, abs=0.01)
    assert off["four-centre"].share == pytest.approx(0.035, abs=1e-4)
    assert off["closer"].deviation == pytest.approx(0.21, abs=0.01)
    assert off["compass"].deviation is None
    assert "no circle" in off["compass"].note
    figures = {figure.label: figure for figure in card.figures}
    assert figures["long axis"].value == pytest.approx(48.99, abs=0.01)
    assert figures["long axis"].drawn == pytest.approx(46.19, abs=0.01)
    assert figures["small radius"].value == pytest.approx(11.55, abs=0.01)
    assert len(card.marks) >= 8
    assert max(gap.gap for gap in card.band) == pytest.approx(0.5, abs=0.01)
    half = make_card(part, facts, drawn, HandWays(), 0.5, edge)
    assert half.alternatives[2].deviation == pytest.approx(0.7, abs=0.01)


def test_the_card_of_a_slope_warns_of_the_protractor(worker):
    wedge = Part("w", crate(72.5, 38, 41), (prism("slope", outline=[(23, 41), (72.5, 41),
                                                                   (72.5, 13.5)]),))  # fmt: skip
    cards = {}
    for kind in ("isometric", "cabinet"):
        view = view_of(kind)
        seen = look(worker, wedge, view)
        facts, drawn = seen.facts, draw(seen.looks[0], view)
        edge = next(
            e.index
            for e in facts.edges
            if isinstance(e.curve, Segment) and e.curve.start[0] != e.curve.end[0]
            and e.curve.start[2] != e.curve.end[2]
        )  # fmt: skip
        cards[kind] = make_card(wedge, facts, drawn, HandWays(), 1.0, edge)
    figures = {figure.label: figure.value for figure in cards["isometric"].figures}
    assert figures["true length"] == pytest.approx(math.hypot(49.5, 27.5))
    assert figures["true angle to the length"] == pytest.approx(29.05, abs=0.01)
    assert (figures["offset along the length"], figures["offset along the height"]) == (
        pytest.approx(49.5), pytest.approx(27.5),
    )  # fmt: skip
    assert "No protractor here" in cards["isometric"].remark
    assert "may be used" in cards["cabinet"].remark


def test_edges_along_the_axes_have_no_card(worker):
    part = stepped_block()
    seen, drawn = picture(worker, part)
    facts = seen.facts
    assert all(make_card(part, facts, drawn, HandWays(), 1.0, e.index) is None for e in facts.edges)
    assert make_card(part, facts, drawn, HandWays(), 1.0, 999) is None


def test_the_card_of_a_ball_tells_its_radius_by_kind(worker):
    middle = Offset(length(20))
    ball = Ball("finial", "add", Face.BOTTOM, length(30), middle, middle, length(20))
    part = Part("p", crate(40, 40, 40), (ball,), begin="empty")
    said = {}
    for kind in ("isometric", "isometric-projection", "cabinet"):
        seen, drawn = picture(worker, part, kind)
        (outline,) = {stroke.key for stroke in drawn.visible}
        assert outline < 0
        said[kind] = make_card(part, seen.facts, drawn, HandWays(), 1.0, outline)
    assert "1.2247 × the ball's radius" in said["isometric"].remark
    assert "5.7 % small" in said["isometric"].remark
    assert "circle of its own radius" in said["isometric-projection"].remark
    assert "ellipse here" in said["cabinet"].remark
    assert said["cabinet"].title.startswith("offset points")


def test_an_outline_without_an_operation_takes_a_way_of_its_own(worker, tmp_path):
    middle = Offset(length(20))
    ball = Ball("finial", "add", Face.BOTTOM, length(30), middle, middle, length(20))
    path = str(tmp_path / "ball.step")
    worker.ask("save_step", pose(Part("p", crate(40, 40, 40), (ball,), begin="empty")), path)
    (solid,) = worker.ask("list_solids", path)
    seen, drawn = picture(worker, solid, "cabinet")
    key = drawn.visible[0].key
    usual = make_card(solid, seen.facts, drawn, HandWays(), 1.0, key)
    own = HandWays().with_own(usual.feature, "true")
    assert make_card(solid, seen.facts, drawn, own, 1.0, key).title.startswith("true ellipse")
    plan, proof = proved(solid, seen.facts, drawn, ways=own)
    assert proof.holds
    assert any(move.verb == "trammel" for move in plan.moves)
