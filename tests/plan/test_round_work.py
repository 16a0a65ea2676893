"""Round work, polygons and slopes in the plan: the virtual drafter draws them all."""

import math
from dataclasses import replace

import pytest

from cast import crate, hole, length, look, prism, proved
from holoptic.curves.methods import METHODS
from holoptic.job import HandWays
from holoptic.part import Ball, Face, Offset, Part, Polygon, Pyramid, Ring, Round, Strip
from holoptic.part.outline_text import read_outline
from holoptic.pictorial import draw, view_of
from holoptic.plan import Drafter
from holoptic.plan.drafter import DraftingError
from holoptic.plan.instruments import COMPASS
from holoptic.units import Unit

CENTRE = Offset(length(30)), Offset(length(25))
BOX = crate(60, 50, 40)


def outlined(text):
    return read_outline(text, Unit.MM, BOX.names)


def polygon(sides, size, measure="across flats", turn=0.0, end="30", top=None):
    return Polygon("figure", "add", Face.BOTTOM, sides, length(size), measure, *CENTRE, length(0),
                   length(end), turn, None if top is None else length(top))  # fmt: skip


def cone(top):
    return Round("cone", "add", Face.BOTTOM, length(44), *CENTRE, length(0), length(36),
                 length(top))  # fmt: skip


SLOT = "12, 15; 40, 15 arc 6 left; 40, 27; 12, 27 arc 6 left"
SHAPES = {
    "bored block": (hole("bore", diameter=31, u=30, v=25), hole("rest", diameter=40, u=30, v=25,
                                                                end=9)),
    "slot": (replace(prism("slot", face=Face.TOP, end=12), outline=outlined(SLOT)),),
    "rounded end": (replace(prism("end", face=Face.FRONT),
                            outline=outlined("60, 40; 60, 20 arc 20 left; 40, 40")),),
    "sloped bore": (prism("slope", outline=[(20, 40), (60, 40), (60, 10)]),
                    hole("bore", diameter=16, u=42, v=25)),
    "crossing bores": (hole("one", diameter=24, u=30, v=25),
                       hole("two", Face.FRONT, 18, 30, 20)),
    "skew corner": (prism("cut", outline=[(20, 40), (60, 40), (60, 12)], end=22),),
}  # fmt: skip
BUILT = {
    "cone": (cone(0),),
    "frustum": (cone(17),),
    "flat cone": (Round("cone", "add", Face.BOTTOM, length(44), *CENTRE, length(0), length(9),
                        length(0)),),
    "half ball": (hole("foot", Face.BOTTOM, 40, 30, 25, 10, mode="add"),
                  Ball("dome", "add", Face.BOTTOM, length(40), *CENTRE, length(10), "inner half")),
    "ring": (Ring("ring", "add", Face.BOTTOM, length(32), length(11), *CENTRE, length(20)),),
    "pentagon": (polygon(5, 38),),
    "turned octagon": (polygon(8, 36, "across corners", 9.0),),
    "triangle by side": (polygon(3, 40, "side", 30.0),),
    "six-sided pyramid": (polygon(6, 40, top=0),),
    "twelve-sided frustum": (polygon(12, 40, top=18),),
    "roof": (Pyramid("roof", "add", Face.BOTTOM, length(52), length(40), *CENTRE, length(0),
                     length(30), length(20), length(0)),),
    "strut": (Strip("strut", "add", Face.FRONT, outlined("8, 6; angle 50 length 36; 52, 33.6"),
                    length(7), length(5), length(30)),),
    "trestle": (replace(Strip("trestle", "add", Face.FRONT,
                              outlined("9, 0; 30, 34; 51, 0; 16, 11.3; 44, 11.3"),
                              length(6), length(5), length(30)), starts=(3,), ends="level"),),
}  # fmt: skip
KINDS = ("isometric", "cavalier", "cabinet", "dimetric")


def made(name):
    if name in SHAPES:
        return Part(name, BOX, SHAPES[name])
    return Part(name, BOX, BUILT[name], begin="empty")


@pytest.mark.parametrize("name", [*SHAPES, *BUILT])
def test_round_and_odd_shapes_are_drawn_whole(worker, name):
    part = made(name)
    for number, kind in enumerate(KINDS):
        corner = ("front-right", "front-left", "rear-right", "front-left-below")[number]
        view = view_of(kind, corner)
        seen = look(worker, part, view)
        drawn = draw(seen.looks[0], view)
        _, proof = proved(part, seen.facts, drawn)
        assert proof.holds, (kind, proof)
        assert proof.strokes == len(drawn.visible)
        assert proof.true_gap_mm < 5, proof.remark


def plan_of(worker, part, kind="isometric", ways=None):
    view = view_of(kind)
    seen = look(worker, part, view)
    return proved(part, seen.facts, draw(seen.looks[0], view), ways=ways)


@pytest.mark.parametrize("method", [m for m in METHODS if m != "compass"])
def test_every_method_is_carried_out(worker, method):
    _, proof = plan_of(worker, made("bored block"), ways=HandWays(method=method))
    assert proof.holds
    gaps = {"sketch": 1.5, "four-centre": 1.4, "closer": 0.21, "free-arcs": 0.15, "offsets": 0.15}
    assert proof.true_gap_mm == pytest.approx(gaps.get(method, 0.0), abs=0.06)


def test_a_circle_at_another_depth_shifts_its_centres(worker):
    shifted, _ = plan_of(worker, made("bored block"))
    again, proof = plan_of(worker, made("bored block"), ways=HandWays(depth_copy="again"))
    assert proof.holds
    assert any(move.verb == "same arc" for move in shifted.moves)
    assert not any(move.verb == "same arc" for move in again.moves)
    assert len(shifted.moves) < len(again.moves)


def test_a_bore_in_the_middle_of_a_floor_is_centred_by_its_diagonals(worker):
    step = prism("step", outline=[(45, 18), (74, 18), (74, 31), (45, 31)])
    part = Part("rack foot", crate(74, 46, 31), (step, hole("bore", Face.TOP, 14, 59.5, 23)))
    plan, proof = plan_of(worker, part)
    assert proof.holds
    bore = [move for move in plan.moves if move.phase == "carve: bore"]
    centre = bore[1].makes[-1]
    assert [move.verb for move in bore[:2]] == ["join", "join"]
    assert plan.spots[centre] == (59.5, 23.0, 18.0)
    # its radius is set off from there along both centre lines, once lifted and once kept
    swung = [move for move in bore if move.verb == "swing"]
    assert [move.uses[0] for move in swung] == [centre, centre]
    assert not any(move.verb == "set off" for move in bore)


def test_diagonals_that_hardly_cross_give_no_middle(worker):
    step = prism("step", outline=[(67, 18), (74, 18), (74, 31), (67, 31)])
    part = Part("rack edge", crate(74, 76, 31), (step, hole("bore", Face.TOP, 5, 70.5, 38)))
    plan, proof = plan_of(worker, part)
    assert proof.holds
    assert not any("halfway" in move.text for move in plan.moves)


def test_only_the_arcs_that_are_seen_are_drawn(worker):
    plan, proof = plan_of(worker, made("rounded end"))
    assert proof.holds
    assert 1 <= sum(move.verb in ("arc", "same arc") for move in plan.moves) <= 4


def test_offsets_of_a_hexagon_are_carried_from_half_a_figure(worker):
    plan, proof = plan_of(worker, Part("p", BOX, (polygon(6, 36),), begin="empty"))
    assert proof.holds
    figure = [move for move in plan.moves if move.phase.startswith("figure")]
    assert "half of it is enough" in figure[0].text
    assert 2 <= sum("at the corner" in move.text for move in figure) <= 4  # what is needed of half
    carried = [move for move in plan.moves if move.verb == "swing" and len(move.uses) == 4]
    assert len(carried) >= 2  # to both sides at once
    # what is carried is what lies on the paper: a wrong figure spoils the drawing
    wrong = [
        replace(move, setting_mm=move.setting_mm + 1)
        if move in figure and move.instrument == "compass" else move
        for move in plan.moves
    ]  # fmt: skip
    right, spoilt = (Drafter().carry_out(moves).strokes for moves in (plan.moves, wrong))
    assert any(right[name] != spoilt[name] for name in right)


def test_a_polygon_is_raised_by_the_crate_or_by_its_corners(worker):
    part = Part("p", BOX, (polygon(6, 36),), begin="empty")
    by_crate, one = plan_of(worker, part)
    by_corner, two = plan_of(worker, part, ways=HandWays(raising="corners"))
    assert one.holds
    assert two.holds

    def raised(plan):
        return sum("up the height" in move.text for move in plan.moves)

    assert raised(by_corner) > raised(by_crate)


OF_PROJECTION = math.sqrt(2 / 3)


@pytest.mark.parametrize(
    ("kind", "share"),
    [("isometric", 1.0), ("dimetric", 1.0), ("isometric-projection", OF_PROJECTION)],
)
def test_an_auxiliary_figure_is_as_large_as_the_axes_have_it(worker, kind, share):
    plan, proof = plan_of(worker, Part("p", BOX, (polygon(6, 36),), begin="empty"), kind=kind)
    assert proof.holds
    corner = next(move for move in plan.moves if move.instrument == COMPASS)
    radius = 18 / math.cos(math.pi / 6)
    assert corner.setting_mm == pytest.approx(radius * share * plan.setup.scale)
    carried = [move for move in plan.moves if "from the auxiliary figure" in move.text]
    assert len(carried) >= 2


def test_an_apex_stands_over_the_centre_of_its_base(worker):
    plan, proof = plan_of(worker, made("six-sided pyramid"))
    assert proof.holds
    apex = next(name for name, spot in plan.spots.items() if spot == (30, 25, 30))
    foot = next(name for name, spot in plan.spots.items() if spot == (30, 25, 0))
    move = next(move for move in plan.moves if apex in move.makes)
    assert (move.verb, move.uses[0]) == ("set off", foot)


def test_the_drafter_refuses_a_compass_that_does_not_reach(worker):
    plan, _ = plan_of(worker, made("bored block"))
    index = next(i for i, move in enumerate(plan.moves) if move.verb == "arc")
    moves = list(plan.moves)
    moves[index] = replace(moves[index], setting_mm=moves[index].setting_mm + 0.1)
    with pytest.raises(DraftingError, match="does not reach"):
        Drafter().carry_out(moves)


def test_a_balls_circle_says_what_an_oval_would_cost(worker):
    ball = Ball("finial", "add", Face.BOTTOM, length(36), *CENTRE, length(20))
    part = Part("p", BOX, (ball,), begin="empty")
    with_ovals, proof = plan_of(worker, part)
    assert proof.holds
    (circle,) = (move for move in with_ovals.moves if move.verb == "circle")
    assert "round the ball's three ovals" in circle.text
    assert sum(move.verb == "arc" for move in with_ovals.moves) == 12
    plan, proof = plan_of(worker, part, ways=HandWays(balls="short"))
    assert proof.holds
    (circle,) = (move for move in plan.moves if move.verb == "circle")
    assert circle.setting_mm == pytest.approx(1.2247 * 18, abs=0.001)
    assert "1.2247 × the ball's radius" in circle.text
    assert "5.7 % small" in circle.text
