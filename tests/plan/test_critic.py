"""The critic: silent about sound plans, and it finds every fault that is put into one."""

from dataclasses import replace

import pytest
from bench.random_parts import random_part

from cast import crate, hole, prism
from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import VIEW_LINES, Figure, Orthographic, Posed, alone, pose
from holoptic.part import Face, Part
from holoptic.pictorial import Picture
from holoptic.plan import Plan
from holoptic.plan.critic import RULES, Sitting, counts, criticise
from holoptic.plan.instruments import COMPASS
from holoptic.plan.moves import Lift, Move
from holoptic.views import orthographic, view_directions
from holoptic.worker import planning
from holoptic.worker.criticism import sitting_of
from holoptic.worker.figures import look_at, picture_of
from holoptic.worker.settling import view_in

PARTS = {part.source.name: part.source for part in read_job(job_path()).parts}


def sitting(name: str, kind: str = "isometric", hidden: str = "omit") -> Sitting:
    return sitting_at(PARTS[name], kind, hidden)


def sitting_at(part: Part, kind: str = "isometric", hidden: str = "omit") -> Sitting:
    posed = pose(part, kind)
    lines = replace(posed.figure.lines, hidden=hidden)
    posed = replace(posed, figure=replace(posed.figure, lines=lines))
    plan = planning.plan(alone(posed), posed.id).plan
    drawn: Picture = picture_of(posed, view_in(posed))[1]
    views = orthographic(look_at(posed, view_directions("three")), "three")
    return sitting_of(plan, posed, drawn, views)


@pytest.fixture(scope="module")
def wedge():
    return sitting("wedge foot")


@pytest.fixture(scope="module")
def bracket():
    return sitting("bearing bracket")


def spoilt(sound: Sitting, *moves: Move) -> Sitting:
    """The same sitting with other moves, numbered afresh."""
    numbered = tuple(replace(move, n=n) for n, move in enumerate(moves, 1))
    return replace(sound, plan=replace(sound.plan, moves=numbered))


def with_move(sound: Sitting, index: int, **changes) -> Sitting:
    moves = list(sound.plan.moves)
    moves[index] = replace(moves[index], **changes)
    return spoilt(sound, *moves)


def first(plan: Plan, verb: str, after: int = 0) -> int:
    return next(i for i, move in enumerate(plan.moves) if i >= after and move.verb == verb)


def broken(found: Sitting) -> set[str]:
    return {rule for rule, count in counts(criticise(found)).items() if count}


@pytest.mark.parametrize("hidden", ["omit", "dashed"])
@pytest.mark.parametrize(
    ("name", "kind"),
    [("wedge foot", "isometric"), ("latch plate", "cabinet"), ("gallery block", "dimetric"),
     ("lamp pedestal", "cavalier"), ("vent cowl", "isometric-projection")],
)  # fmt: skip
def test_sound_plans_get_no_remark(name, kind, hidden):
    assert criticise(sitting(name, kind, hidden)) == []


@pytest.mark.parametrize(
    ("name", "kind"),
    [("latch plate", "cabinet"), ("lamp pedestal", "isometric-projection"), ("wedge foot", "views"),
     ("bearing bracket", "isometric"), ("roof cone and finial", "views")],
)  # fmt: skip
def test_sound_plans_get_no_remark_with_their_instruments_batched(name, kind):
    views = Posed(Figure("f1", "p1", Orthographic(), VIEW_LINES), PARTS[name])
    posed = views if kind == "views" else pose(PARTS[name], kind)
    by_hand = replace(posed.figure.by_hand, order="batched")
    batched = replace(posed, figure=replace(posed.figure, by_hand=by_hand))
    assert planning.criticise(alone(batched), batched.id).remarks == ()


def test_the_sound_ones_that_are_spoilt_below_are_sound(wedge, bracket):
    assert broken(wedge) == broken(bracket) == set()
    assert list(counts(criticise(wedge))) == list(RULES)


def test_a_line_that_is_called_what_it_is_not(wedge):
    index = first(wedge.plan, "parallel")
    told = wedge.plan.moves[index].text
    wrong = told.replace("an upright", "a depth line")
    assert told != wrong
    assert "true" in broken(with_move(wedge, index, template=wrong))


def test_a_sentence_that_names_nothing(wedge):
    index = first(wedge.plan, "parallel")
    assert "enough" in broken(with_move(wedge, index, template="Draw the next line."))


def test_a_distance_that_stands_in_no_view(wedge):
    index = next(i for i, move in enumerate(wedge.plan.moves) if move.lift is not None)
    lift = wedge.plan.moves[index].lift
    nowhere = Lift(lift.view, lift.start, tuple(place + 1.2345 for place in lift.start),
                   lift.true_mm, "19.9")  # fmt: skip
    assert "lifted" in broken(with_move(wedge, index, lift=nowhere))


def test_a_distance_that_is_said_to_be_worked_out_and_stands_in_a_view(wedge):
    index = next(i for i, move in enumerate(wedge.plan.moves) if move.lift is not None)
    lift = replace(wedge.plan.moves[index].lift, is_worked_out=True)
    assert "lifted" in broken(with_move(wedge, index, lift=lift))


# made with another seed than those that the planner was tried on: ends of slanting cuts that stand
# in one view alone or in none, uprights of an auxiliary figure, arcs that lines end at
@pytest.mark.parametrize(("number", "kind"), [(985, "plan-oblique"), (254, "dimetric"),
                                              (860, "cabinet"), (809, "cavalier")])  # fmt: skip
def test_random_parts_with_slanting_cuts_get_no_remark(number, kind):
    assert criticise(sitting_at(random_part(number), kind, "dashed")) == []


def test_a_figure_finer_than_a_rule(wedge):
    index = next(i for i, move in enumerate(wedge.plan.moves) if move.lift is not None)
    text = wedge.plan.moves[index].text.replace("41", "41.237")
    assert "lifted" in broken(with_move(wedge, index, template=text))


def test_what_a_later_feature_needs_alone_is_not_made_before(bracket):
    moves = list(bracket.plan.moves)
    phases = [phase for phase, _, _ in bracket.plan.phases if phase.startswith("carve")]
    hole = next(i for i, move in enumerate(moves)
                if move.phase == phases[-1] and move.verb == "set off")  # fmt: skip
    moves[hole] = replace(moves[hole], phase=phases[0])
    assert "sequence" in broken(spoilt(bracket, *moves))


def test_a_line_that_is_left_out(wedge):
    last = max(i for i, move in enumerate(wedge.plan.moves) if move.verb == "firm in")
    moves = [move for i, move in enumerate(wedge.plan.moves) if i != last]
    assert "whole" in broken(spoilt(wedge, *moves))


def test_a_compass_that_no_hand_can_set(bracket):
    index = next(i for i, move in enumerate(bracket.plan.moves)
                 if move.verb in ("arc", "circle") and move.instrument == COMPASS)  # fmt: skip
    moves = list(bracket.plan.moves)
    moves[index] = replace(moves[index], verb="circle", uses=moves[index].uses[:1], setting_mm=1.2)
    found = [remark for remark in criticise(spoilt(bracket, *moves[: index + 1]))
             if remark.rule == "round" and remark.move == index + 1]  # fmt: skip
    assert found


def test_a_move_without_use(wedge):
    moves = list(wedge.plan.moves)
    index = next(i for i, move in enumerate(moves)
                 if move.verb == "parallel" and move.phase.startswith("carve"))  # fmt: skip
    idle = replace(moves[index], uses=moves[index].uses[:2], makes=("idle line",))
    found = spoilt(wedge, *moves[:index], idle, *moves[index:])
    assert any(remark.rule == "thrift" and remark.move == index + 1 for remark in criticise(found))


def test_two_moves_where_one_is_enough(wedge):
    moves = list(wedge.plan.moves)
    index = next(i for i, move in enumerate(moves)
                 if move.verb == "parallel" and len(move.makes) == 2)  # fmt: skip
    both = moves[index]
    line = replace(both, uses=both.uses[:2], makes=both.makes[:1])
    mark = replace(both, verb="meet", uses=(both.makes[0], both.uses[2]), makes=both.makes[1:])
    found = criticise(spoilt(wedge, *moves[:index], line, mark, *moves[index + 1 :]))
    assert any(remark.rule == "length" and remark.move == index + 2 for remark in found)


def test_a_middle_that_was_measured_though_its_corners_stand():
    ring = sitting("lens ring")
    moves = list(ring.plan.moves)
    index = next(i for i, move in enumerate(moves) if "the middle of the face" in move.text)
    middle = moves[index].makes[1]
    lift = next(move.lift for move in moves if move.lift is not None)
    across, back = (
        replace(next(move for move in moves if line in move.makes), phase=moves[index].phase)
        for line in ("length 2", "depth 2")
    )
    bare = replace(moves[index], instrument="dividers", table=(), verb="set off")
    reach = 67.0  # half of the crate's 67 at 2:1
    measured = [
        replace(bare, uses=("E", "length 2"), makes=("Y9",), setting_mm=reach, lift=lift,
                angle_deg=across.angle_deg),
        replace(across, uses=("Y9", "depth 1"), makes=("depth 77",), angle_deg=back.angle_deg),
        replace(bare, uses=("B", "depth 2"), makes=("Z9",), setting_mm=reach, lift=lift,
                angle_deg=back.angle_deg),
        replace(across, uses=("Z9", "length 1", "depth 77"), makes=("length 77", middle)),
    ]  # fmt: skip
    found = spoilt(ring, *moves[:index], *measured, *moves[index + 1 :])
    assert "centres" not in broken(ring)
    assert "centres" in broken(found)


def test_a_middle_of_a_step_that_was_measured(monkeypatch):
    step = prism("step", outline=[(45, 18), (74, 18), (74, 31), (45, 31)])
    part = Part("rack foot", crate(74, 46, 31), (step, hole("bore", Face.TOP, 14, 59.5, 23)))
    assert "centres" not in broken(sitting_at(part))
    monkeypatch.setattr("holoptic.plan.middles._corners_about", lambda *_: None)
    assert "centres" in broken(sitting_at(part))


def test_what_stands_already(bracket):
    moves = list(bracket.plan.moves)
    index = next(i for i, move in enumerate(moves) if move.verb == "meet")
    again = replace(moves[index], makes=("Y9",))
    found = spoilt(bracket, *moves[: index + 1], again, *moves[index + 1 :])
    assert any("stands already" in str(remark) for remark in criticise(found))
    line = next(move for move in moves if move.verb == "parallel" and len(move.makes) == 1)
    again = replace(line, makes=("depth 99",))
    found = spoilt(bracket, *moves[: line.n], again, *moves[line.n :])
    assert any("depth 99 stands already" in str(remark) for remark in criticise(found))
