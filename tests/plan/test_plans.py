"""The plan draws the picture: proved by the virtual drafter."""

import math
from dataclasses import replace

import pytest
from hypothesis import assume, given, settings

from cast import (
    VIEWS,
    crate,
    intended_of,
    look,
    parts,
    picture,
    prism,
    proved,
    stepped_block,
)
from holoptic.errors import PartError
from holoptic.part import Crate, Face, Part
from holoptic.pictorial import draw, view_of
from holoptic.plan import Drafter, Setup, make_plan, prove
from holoptic.plan.builder import start_on_picture
from holoptic.plan.drafter import DraftingError
from holoptic.plan.instruments import square_for
from holoptic.plan.lying_instruments import instrument_shapes
from holoptic.plan.moves import BORDER_CORNER, BORDER_LINE
from holoptic.units import Length

SETUP = Setup((60.0, 40.0))


def plan_of(worker, part, kind="isometric", corner="front-right", setup=SETUP):
    seen, drawn = picture(worker, part, kind, corner)
    return make_plan(intended_of(part, seen.facts, drawn, setup.scale), setup), seen, drawn


@settings(max_examples=40)
@given(part=parts(rounds=False))
def test_any_straight_edged_part_is_drawn_whole(worker, part):
    try:
        seen = look(worker, part, *VIEWS)
    except PartError:
        assume(False)
    for view in VIEWS:
        drawn = draw(seen.look(view.toward_viewer), view)
        _, proof = proved(part, seen.facts, drawn, Setup((60.0, 40.0), 0.5))
        assert proof.deviation_mm < 0.001
        assert proof.strokes == len(drawn.visible)
        assert proof.true_gap_mm < 1e-9


@pytest.mark.parametrize("number", range(9))
@pytest.mark.parametrize("kind", ["isometric", "cavalier", "cabinet"])
def test_demo_parts_are_proved(worker, demo_job, number, kind):
    item = demo_job.parts[number]
    view = view_of(kind, ("front-right", "front-left", "rear-left-below")[number % 3])
    seen = look(worker, item.source, view)
    drawn = draw(seen.looks[0], view)
    _, proof = proved(item.source, seen.facts, drawn)
    assert proof.holds
    assert proof.strokes == len(drawn.visible)


def test_a_wrong_setting_is_found(worker):
    part = stepped_block()
    plan, seen, drawn = plan_of(worker, part)
    start, intended = (
        start_on_picture(part, seen.facts, drawn),
        intended_of(part, seen.facts, drawn),
    )
    assert prove(plan, intended, start).holds
    index = next(i for i, move in enumerate(plan.moves) if move.lift is not None)
    moves = list(plan.moves)
    moves[index] = replace(moves[index], setting_mm=moves[index].setting_mm + 0.05)
    proof = prove(replace(plan, moves=tuple(moves)), intended, start)
    assert proof.deviation_mm >= 0.049
    assert not proof.holds


def test_a_stroke_left_out_is_found(worker):
    plan, seen, drawn = plan_of(worker, stepped_block())
    without = tuple(move for move in plan.moves if "s1" not in move.makes)
    proof = prove(replace(plan, moves=without), intended_of(stepped_block(), seen.facts, drawn),
                  start_on_picture(stepped_block(), seen.facts, drawn))  # fmt: skip
    assert proof.deviation_mm > 1


def test_no_move_uses_what_is_not_on_the_paper(worker, demo_job):
    for item in demo_job.parts:
        plan, _, _ = plan_of(worker, item.source)
        known = {BORDER_CORNER, BORDER_LINE}
        for number, move in enumerate(plan.moves, 1):
            assert move.n == number
            assert set(move.uses) <= known
            assert not set(move.makes) & known
            known |= set(move.makes)


def test_distances_are_set_off_along_axes_only(worker, demo_job):
    angles = {-30.0, 150.0, 30.0, -150.0, 90.0, -90.0, 0.0}
    for item in demo_job.parts:
        plan, _, _ = plan_of(worker, item.source)
        # along an oval's own axes the rule sets off figures, the dividers never do
        settings_off = [m for m in plan.moves if m.verb == "set off" and m.instrument == "dividers"]
        assert {move.angle_deg for move in settings_off} <= angles


def test_each_move_explains_its_distance(worker):
    step = prism("step", outline=[(57.5, 37.5), (84, 37.5), (84, 20), (57.5, 20)])
    sums = Length.read("18+19.5")
    part = Part("p", Crate(Length.read("84"), Length.read("46"), sums), (step,))
    plan, _, _ = plan_of(worker, part)
    lifted = [move for move in plan.moves if move.lift]
    assert "Lift 37.5 (18+19.5) from the front view. From A" in lifted[0].text
    for move in lifted:
        assert move.text.endswith(".")
        assert move.lift.true_mm == pytest.approx(math.dist(move.lift.start, move.lift.end))
        assert move.setting_mm == pytest.approx(move.lift.true_mm)


def test_depth_is_halved_in_cabinet_and_all_on_a_half_size_sheet(worker):
    plan, _, _ = plan_of(worker, stepped_block(), "cabinet", setup=Setup((60, 40), 0.5))
    depth = next(m for m in plan.moves if m.lift and m.lift.start[1] != m.lift.end[1])
    length = next(m for m in plan.moves if m.lift and m.lift.start[0] != m.lift.end[0])
    assert (depth.lift.true_mm, depth.setting_mm) == (46, pytest.approx(46 / 4))
    assert (length.lift.true_mm, length.setting_mm) == (84, pytest.approx(42))
    assert "11.5 on the rule" in depth.text


def test_the_back_corner_is_checked_before_carving(worker):
    plan, _, _ = plan_of(worker, stepped_block())
    phases = [name for name, _, _ in plan.phases]
    assert phases[:2] == ["start", "crate"]
    crate_moves = [move for move in plan.moves if move.phase == "crate"]
    closing = next(move for move in crate_moves if move.verb == "check")
    assert closing.setting_mm == pytest.approx(84)
    assert "must close" in closing.text
    assert closing.tolerance_mm > 0


def test_a_distance_is_measured_once_and_carried(worker):
    # the step's height is set off once although it is needed on three edges
    plan, _, _ = plan_of(worker, stepped_block())
    heights = [m for m in plan.moves if m.lift and m.lift.true_mm == pytest.approx(20)]
    assert len(heights) == 1


def test_lines_off_the_axes_are_joined(worker):
    wedge = Part("w", crate(72.5, 38, 41), (prism(outline=[(23, 41), (72.5, 41), (72.5, 13.5)]),))
    plan, _, _ = plan_of(worker, wedge)
    joins = [move for move in plan.moves if move.verb == "join"]
    assert len(joins) == 2
    assert all(move.angle_deg is None for move in joins)


@pytest.mark.parametrize("corner", ["rear-left", "front-right-below", "rear-right-below"])
def test_plans_from_other_corners(worker, corner):
    seen, drawn = picture(worker, stepped_block(), "isometric", corner)
    assert proved(stepped_block(), seen.facts, drawn)[1].holds


def test_a_view_has_no_plan(worker):
    seen, drawn = picture(worker, stepped_block())
    flat = replace(drawn, view=replace(view_of("isometric"), corner=None))
    with pytest.raises(ValueError, match="needs a pictorial"):
        make_plan(intended_of(stepped_block(), seen.facts, flat), SETUP)


def test_the_drafter_refuses_what_hands_cannot_do(worker):
    plan, _, _ = plan_of(worker, stepped_block())
    by_verb = {move.verb: move for move in plan.moves}
    with pytest.raises(DraftingError, match="not on the paper yet"):
        Drafter().carry_out([by_verb["firm in"]])
    done = plan.moves[: plan.moves.index(by_verb["set off"])]
    tilted = replace(by_verb["set off"], angle_deg=by_verb["set off"].angle_deg + 5)
    with pytest.raises(DraftingError, match="not along its line"):
        Drafter().carry_out([*done, tilted])
    wrong_square = replace(plan.moves[1], instrument="T-square")
    with pytest.raises(DraftingError, match="no such angle"):
        Drafter().carry_out([plan.moves[0], wrong_square])


@pytest.mark.parametrize(
    ("angle", "square"),
    [(0, "T-square"), (180, "T-square"), (150, "30/60 set square"), (90, "30/60 set square"),
     (135, "45 set square"), (-45, "45 set square"), (15, "45 set square on the 30/60"),
     (105, "45 set square on the 30/60"), (7, None)],
)  # fmt: skip
def test_which_square_gives_which_angle(angle, square):
    assert square_for(angle) == square


def test_instruments_lie_on_their_lines(worker, demo_job):
    plan, _, _ = plan_of(worker, demo_job.parts[1].source)
    whole = Drafter().carry_out(plan.moves)
    for index, move in enumerate(plan.moves):
        before = Drafter().carry_out(plan.moves[:index])
        after = Drafter().carry_out(plan.moves[: index + 1])
        shapes = instrument_shapes(move, before, after)
        assert shapes
        if move.verb in ("draw", "parallel") and "set square" in move.instrument:
            origin, along = whole.lines[move.makes[0]]
            body = shapes[-1].path  # the square itself, after the T-square
            gaps = [abs(along[0] * (y - origin[1]) - along[1] * (x - origin[0])) for x, y in body]
            assert sorted(gaps)[1] < 1e-6  # two of its corners lie on the line
        if move.verb == "set off" and move.instrument == "dividers":
            legs = shapes[0].path
            assert legs[0] == before.points[move.uses[0]]
            assert legs[-1] == after.points[move.makes[0]]


def test_face_right_cuts_are_lifted_from_the_side_view(worker):
    slot = prism("slot", face=Face.RIGHT, outline=[(16, 0), (30, 0), (30, 6.5), (16, 6.5)])
    plan, _, _ = plan_of(worker, Part("p", crate(84, 46, 37.5), (slot,)))
    views = {move.lift.view for move in plan.moves if move.lift and "carve" in move.phase}
    assert views == {"right"}
