"""Ways of working: whatever the order, the drawing is the same; what it costs, how sure it is."""

import math
from dataclasses import replace

import numpy as np
import pytest

from cast import crate, hole, intended_of, look, picture, prism, set_up, stepped_block
from holoptic.curves.vectors import apply
from holoptic.job import HandWays, SheetWish
from holoptic.part import Part
from holoptic.pictorial import draw, view_of
from holoptic.plan import Drafter, Setup, make_plan, prove
from holoptic.plan.best_way import best_plan
from holoptic.plan.builder import start_on_picture
from holoptic.plan.controls import CLOSURE
from holoptic.plan.effort import effort_of, weigh
from holoptic.plan.errors import Sheets, budget_of
from holoptic.plan.hand import Hand
from holoptic.plan.instruments import COMPASS, DIVIDERS, RULE, SQUARE_30
from holoptic.plan.moves import BORDER_CORNER, BORDER_LINE, FRAME, Move, bears_letter
from holoptic.plan.schedule import predecessors
from holoptic.plan.showing import FILTERS, next_passing, passes
from holoptic.plan.strategies import ORDERS, STRATEGY_TITLES
from holoptic.plan.words import plan_summary, saving_words
from holoptic.sheet.papers import paper_named

SETUP = Setup((60.0, 40.0))
KINDS = ("isometric", "cavalier", "cabinet", "dimetric", "isometric-projection")
WAYS = [(strategy, order) for strategy in STRATEGY_TITLES for order in ORDERS]


def plan_of(worker, part, kind="isometric", setup=SETUP, hand=None, **ways):
    seen, drawn = picture(worker, part, kind)
    intended = intended_of(part, seen.facts, drawn, setup.scale, HandWays(**ways))
    return make_plan(intended, setup, hand or Hand())


def bored_block():
    slot = prism("slot", outline=[(30, 0), (45, 0), (45, 9), (30, 9)])
    return Part("bored block", crate(75, 45, 32), (hole("bore", diameter=17, u=20, v=22), slot))


# --- every way draws the same picture -----------------------------------------------------------


@pytest.mark.parametrize("number", range(0, 9, 2))  # all of them in `bench.ways`
def test_every_way_of_working_is_proved(worker, demo_job, number):
    part = demo_job.parts[number].source
    for index, (strategy, order) in enumerate(WAYS[number // 2 % 2 :: 2]):
        view = view_of(KINDS[(number + index) % len(KINDS)])
        seen = look(worker, part, view)
        drawn = draw(seen.looks[0], view)
        ways = HandWays(strategy=strategy, order=order, firming=("soon", "end")[index % 2])
        intended = intended_of(part, seen.facts, drawn, 1.0, ways)
        proof = prove(make_plan(intended, SETUP), intended,
                      start_on_picture(part, seen.facts, drawn))  # fmt: skip
        assert proof.holds, (strategy, order, view.kind, proof)
        assert proof.strokes == len(drawn.visible)


def test_the_usual_way_is_told_with_its_reason(worker, demo_job):
    straight = plan_of(worker, stepped_block()).way
    assert (straight.strategy, straight.why) == (
        "crate-and-carve", "nothing is round: the crate carries the rest",
    )  # fmt: skip
    ring = plan_of(worker, demo_job.find("lens ring").source).way
    assert ring.strategy == "centre-lines-first"
    assert "1 round feature" in ring.why
    own = plan_of(worker, stepped_block(), strategy="faces-first").way
    assert own.is_own


def test_centre_lines_come_before_what_hangs_on_them(worker):
    plan = plan_of(worker, bored_block(), strategy="centre-lines-first")
    names = [name for name, _, _ in plan.phases]
    assert names.index("centre lines") == names.index("crate") + 1


def test_faces_first_draws_on_the_near_faces(worker):
    plan = plan_of(worker, stepped_block(), strategy="faces-first")
    faces = {name for name, _, _ in plan.phases if name.startswith("face:")}
    assert faces
    assert faces <= {"face: front face", "face: right face", "face: top face"}


# --- economy ------------------------------------------------------------------------------------


@pytest.mark.parametrize("order", ORDERS)
def test_only_what_is_needed_is_drawn(worker, demo_job, order):
    for number in (0, 2, 4):
        plan = plan_of(worker, demo_job.parts[number].source, order=order)
        used = {name for move in plan.moves for name in move.uses}
        for move in plan.moves:
            method = move.phase in ("sheet", "start", "crate")
            if move.verb not in ("firm in", "check") and not method:
                assert used & set(move.makes), move


def test_equal_distances_share_a_setting_and_are_not_lifted_twice(worker):
    plan = plan_of(worker, bored_block())
    set_off = [m for m in plan.moves if m.instrument == DIVIDERS and m.verb != "plot"]
    seen = set()
    standing = None
    for move in set_off:
        size = round(move.setting_mm, 6)
        if move.kept:
            assert size == standing
        elif size in seen:
            assert len(move.uses) == 4  # taken from the paper
        seen.add(size)
        standing = size
    assert any(move.kept for move in set_off)


def test_symmetric_halves_are_swung_over(worker):
    plan = plan_of(worker, bored_block(), strategy="centre-lines-first")
    swung = [move for move in plan.moves if move.verb == "swing"]
    assert swung
    whole = Drafter().carry_out(plan.moves)
    for move in swung:
        centre, one, two = (np.array(whole.points[n]) for n in (move.uses[0], *move.makes))
        assert centre == pytest.approx((one + two) / 2)


def test_lines_are_firmed_in_as_soon_as_certain_or_all_at_the_end(worker):
    soon, end = (plan_of(worker, stepped_block(), firming=way).moves for way in ("soon", "end"))
    first_firm = next(i for i, move in enumerate(soon) if move.verb == "firm in")
    assert any(move.verb in ("draw", "parallel") for move in soon[first_firm:])
    tail = end[next(i for i, move in enumerate(end) if move.verb == "firm in") :]
    assert {move.verb for move in tail} <= {"firm in", "check"}


# --- batching -----------------------------------------------------------------------------------


@pytest.mark.parametrize("number", [0, 2, 4, 8])
def test_batching_spares_changes_within_what_the_moves_allow(worker, demo_job, number):
    part = demo_job.parts[number].source
    plan = plan_of(worker, part, order="batched")
    saving = plan.saving
    assert saving.least.changes <= saving.batched.changes < saving.written.changes
    assert saving.least.seconds <= saving.batched.seconds < saving.written.seconds
    assert "no order gets below" in saving_words(saving)
    for index, before in enumerate(predecessors(plan.moves)):
        assert all(other < index for other in before)
    by_feature = plan_of(worker, part)
    # a crossing is marked by whichever move draws one of its lines just before
    drawn, usual = ({name for m in p.moves for name in m.makes} for p in (plan, by_feature))
    assert drawn == usual
    assert plan_summary(plan)[2].endswith(f"below {saving.least.changes}")


def test_batching_keeps_sheet_start_and_crate_in_front_and_orders_them_within_themselves(worker):
    seen, drawn = picture(worker, bored_block())
    setup, _ = set_up(bored_block(), seen.facts, drawn, SheetWish(frame="draw"))
    written, sorted_out = (
        plan_of(worker, bored_block(), setup=setup, order=order).moves
        for order in ("by-feature", "batched")
    )
    in_front = ("sheet", "start", "crate")
    stages = [in_front.index(m.phase) if m.phase in in_front else 3 for m in sorted_out]
    assert stages == sorted(stages)

    def of_the_sheet(moves):
        return [move for move in moves if move.phase == "sheet"]

    assert effort_of(of_the_sheet(sorted_out)).changes < effort_of(of_the_sheet(written)).changes


def test_effort_counts_settings_turns_and_instruments():
    def off(size, kept=False):
        return Move(0, "p", "set off", DIVIDERS, ("A", "l"), (f"P{size}{kept}",), "", size, 0.0,
                    kept=kept)  # fmt: skip

    line = Move(0, "p", "draw", SQUARE_30, ("A",), ("u",), "", None, 90.0)
    other = replace(line, makes=("w",), angle_deg=30.0)
    effort = effort_of(
        [off(5.0), off(5.0, True), line, replace(line, makes=("v",)), off(7.0), other]
    )
    assert (effort.settings, effort.squares, effort.pick_ups) == (2, 2, 4)


# --- errors -------------------------------------------------------------------------------------


def chain(count, size=30.0, from_one_corner=False):
    """Set-offs along the lower border: each from the one before, or all from the corner."""
    names = [BORDER_CORNER, *(f"P{k}" for k in range(1, count + 1))]
    return [
        Move(k + 1, "p", "set off", RULE,
             (BORDER_CORNER if from_one_corner else names[k], BORDER_LINE), (names[k + 1],), "",
             size * (k + 1) if from_one_corner else size, 0.0)
        for k in range(count)
    ]  # fmt: skip


@pytest.mark.parametrize(("count", "sigma"), [(1, 0.25), (4, 0.25), (9, 0.1)])
def test_errors_of_a_chain_add_up_by_the_root_of_its_length(count, sigma):
    moves = chain(count)
    sheets = Sheets(Hand(sigma, 0.0, 0.0), 20_000).draw(moves, Drafter().carry_out(moves))
    spread = float(np.std(sheets.points[f"P{count}"].real))
    assert spread == pytest.approx(sigma * math.sqrt(count), rel=0.03)
    assert float(np.mean(sheets.points[f"P{count}"].real)) == pytest.approx(30 * count, abs=0.02)


def test_measuring_from_one_corner_keeps_the_error_of_one_setting():
    moves = chain(9, from_one_corner=True)
    sheets = Sheets(Hand(0.25, 0.0, 0.0), 20_000).draw(moves, Drafter().carry_out(moves))
    assert float(np.std(sheets.points["P9"].real)) == pytest.approx(0.25, rel=0.03)


def test_an_angle_moves_what_lies_far_along_the_line():
    moves = [
        *chain(1),
        Move(2, "p", "draw", SQUARE_30, ("P1",), ("u",), "", None, 90.0),
        Move(3, "p", "set off", DIVIDERS, ("P1", "u"), ("Q",), "", 100.0, 90.0),
        Move(4, "p", "circle", COMPASS, ("Q",), ("c",), "", 20.0),
        Move(5, "p", "meet", "pencil", ("c", "u", ), ("R",), ""),
    ]  # fmt: skip
    moves[4] = replace(moves[4], uses=("c", "u", "P1"))
    sheets = Sheets(Hand(0.0, 0.25, 0.2), 20_000).draw(moves, Drafter().carry_out(moves))
    across = float(np.std(sheets.points["Q"].real))
    assert across == pytest.approx(100 * math.radians(0.25), rel=0.03)
    reach = np.abs(sheets.points["R"] - sheets.points["Q"])
    assert float(np.std(reach)) == pytest.approx(0.2, rel=0.03)
    assert float(np.std(sheets.points["R"].imag)) == pytest.approx(0.2, rel=0.05)


def test_where_circles_cross_flat_few_sheets_do_not_make_the_error_of_all():
    """Two circles that hardly overlap: on some sheets they miss each other."""
    flat = [
        *chain(2),
        Move(3, "p", "circle", COMPASS, ("P1",), ("a",), "", 15.02),
        Move(4, "p", "circle", COMPASS, ("P2",), ("b",), "", 15.02),
        Move(5, "p", "meet", "pencil", ("a", "b", BORDER_CORNER), ("R",), ""),
        Move(6, "p", "firm in", "pencil", ("R", "P1", "a"), ("s",), ""),
    ]  # fmt: skip
    meant = Drafter().carry_out(flat[:-1])
    sheets = Sheets(Hand(0.25, 0.0, 0.2), 20_000).draw(flat, meant)
    raw = np.abs(sheets.points["R"] - complex(*meant.points["R"]))
    budget = budget_of(flat, sheets, meant, BORDER_CORNER, None)
    assert np.median(raw) < budget.points["R"] <= np.sqrt(np.mean(raw**2))
    assert raw.max() < 40  # as far as the circles reach, no farther
    plain = np.abs(sheets.points["P1"] - complex(*meant.points["P1"]))
    assert budget.points["P1"] == pytest.approx(float(np.sqrt(np.mean(plain**2))), rel=1e-3)


def test_a_steady_hand_makes_no_error(worker):
    still = plan_of(worker, bored_block(), hand=Hand(0.0, 0.0, 0.0)).budget
    usual = plan_of(worker, bored_block()).budget
    assert still.typical < 1e-3
    assert usual.typical > 0.1
    assert usual.worst[1] == max(usual.points.values())
    assert 0.05 < usual.closure < 3


def test_the_same_hand_draws_the_same_sheets(worker):
    moves = plan_of(worker, bored_block()).moves
    meant = Drafter().carry_out(moves)
    one, two = (Sheets(Hand(), 50).draw(moves, meant) for _ in range(2))
    for name, place in meant.points.items():
        assert np.array_equal(one.points[name], two.points[name])
        assert abs(complex(*place) - one.points[name].mean()) < 3


def test_control_distances_catch_a_wrong_setting(worker, demo_job):
    for number in (0, 1, 4):
        plan = plan_of(worker, demo_job.parts[number].source)
        checks = [move for move in plan.moves if move.verb == "check"]
        assert checks[0].text.startswith(CLOSURE)
        assert len(checks) >= 2
        assert all(move.tolerance_mm > 0 for move in checks)
        assert all(f"± {move.tolerance_mm:g}" in move.text for move in checks)
        # a depth set off 8 mm too long is found by one of them, where it spoils the drawing
        index = next(i for i, m in enumerate(plan.moves) if m.phase == "crate" and m.lift
                     and m.lift.start[1] != m.lift.end[1])  # fmt: skip
        moves = list(plan.moves)
        moves[index] = replace(moves[index], setting_mm=moves[index].setting_mm + 8)
        right, spoilt = (Drafter().carry_out(each) for each in (plan.moves, moves))
        off = [abs(reading - m.setting_mm) > m.tolerance_mm for m, reading in spoilt.readings]
        assert any(off) == any(
            spoilt.strokes[name] != right.strokes[name] for name in right.strokes
        )
        assert any(off) or number == 4  # the pedestal's hexagons stand on none of the far edges


# --- the sheet and the scale --------------------------------------------------------------------


def test_border_and_title_block_are_drawn_first(worker):
    part = stepped_block()
    seen, drawn = picture(worker, part)
    setup, _ = set_up(part, seen.facts, drawn, SheetWish(paper="A4", upright=True, scale=0.5))
    plan = make_plan(intended_of(part, seen.facts, drawn, 0.5), setup)
    assert plan.moves[0].verb == "lay"
    assert [name for name, _, _ in plan.phases][:3] == ["sheet", "start", "crate"]
    strokes = Drafter().carry_out(plan.moves).strokes
    frame = [path for name, path in strokes.items() if name.startswith(FRAME)]
    corners = {(round(x, 6), round(y, 6)) for path in frame for x, y in path}
    assert {(0, 0), (180, 0), (180, 277), (0, 277), (60, 30), (60, 0), (180, 30)} <= corners
    assert len(frame) == 6
    printed, _ = set_up(part, seen.facts, drawn, SheetWish(frame="printed"))
    assert printed.blank is None
    lifted = next(move for move in plan.moves if move.lift)
    assert lifted.setting_mm == pytest.approx(lifted.lift.true_mm / 2)
    assert lifted.lift.true_mm == 37.5
    assert "37.5, 18.8 on the rule" in lifted.text  # half of it, to the tenth that a rule shows


def test_the_picture_drawn_by_hand_is_centred_on_its_sheet(worker):
    part = stepped_block()
    seen, drawn = picture(worker, part)
    setup, paper = set_up(part, seen.facts, drawn)
    plan = make_plan(intended_of(part, seen.facts, drawn, setup.scale), setup)
    strokes = Drafter().carry_out(plan.moves).strokes
    xs = [x for name, path in strokes.items() if not name.startswith(FRAME) for x, _ in path]
    width = paper_named(paper.name).width - 30
    assert (min(xs) + max(xs)) / 2 == pytest.approx(width / 2, abs=0.51)


def test_no_square_has_seven_degrees_two_points_find_them(worker):
    plan = plan_of(worker, stepped_block(), "dimetric")
    slants = [move for move in plan.moves if "No square has the angle" in move.text]
    assert slants
    whole = Drafter().carry_out(plan.moves)
    view = view_of("dimetric")
    for axis, name in ((0, "length 1"), (1, "depth 1")):
        along = whole.lines[name][1]
        image = apply(view.matrix, tuple(float(k == axis) for k in range(3)))
        assert along[0] * image[1] - along[1] * image[0] == pytest.approx(0, abs=1e-9)


# --- picking out --------------------------------------------------------------------------------


def test_steps_go_from_one_picked_out_move_to_the_next(worker):
    plan = plan_of(worker, bored_block())
    count = len(plan.moves)
    for chosen in FILTERS:
        stops, at = [], 0
        while at < count:
            at = next_passing(plan, at, 1, chosen)
            stops.append(at)
        wanted = [i for i, move in enumerate(plan.moves) if i > 0 and passes(move, chosen)]
        assert stops == [*wanted, count]
        assert next_passing(plan, 0, -1, chosen) == 0
    assert all(bears_letter(name) for name in plan.budget.points)


# --- the best way -------------------------------------------------------------------------------


def test_the_default_way_is_the_best_of_all(worker):
    for part in (bored_block(), stepped_block()):
        seen, drawn = picture(worker, part)
        made = {
            strategy: make_plan(
                intended_of(part, seen.facts, drawn, 1.0, HandWays(strategy=strategy)), SETUP
            )
            for strategy in STRATEGY_TITLES
        }
        plan, paper = best_plan(intended_of(part, seen.facts, drawn, 1.0), SETUP)
        costs = {strategy: weigh(one.effort, one.budget) for strategy, one in made.items()}
        # a twentieth is what the usual way has on the others
        assert costs[plan.way.strategy] <= min(costs.values()) * 1.08
        assert not plan.way.is_own
        assert plan.moves == made[plan.way.strategy].moves
        assert set(paper.strokes) >= {stroke.id for stroke in drawn.visible}


def test_a_way_that_was_chosen_is_taken_whatever_it_costs(worker):
    part = stepped_block()
    seen, drawn = picture(worker, part)
    for strategy in STRATEGY_TITLES:
        ways = HandWays(strategy=strategy)
        plan, _ = best_plan(intended_of(part, seen.facts, drawn, 1.0, ways), SETUP)
        assert (plan.way.strategy, plan.way.is_own) == (strategy, True)


def test_a_plain_block_takes_no_more_moves_than_a_careful_hand(worker):
    plan = plan_of(worker, Part("block", crate(84, 46, 37.5), ()))
    verbs = [move.verb for move in plan.moves if move.phase not in ("sheet", "start")]
    assert verbs.count("firm in") == 9
    assert verbs.count("check") == 1
    assert len(verbs) == 2 + 3 + 6 + 1 + 9  # the upright through the start point is an axis too
