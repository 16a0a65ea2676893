"""Joining a plan in the middle: what stands is skipped, and what is left still draws the rest."""

import random

import numpy as np
import pytest

from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import alone, pose
from holoptic.plan import Drafter
from holoptic.plan.instruments import COMPASS, DIVIDERS
from holoptic.plan.joining import joined, needless, standing_with
from holoptic.worker import planning

PARTS = {part.source.name: part.source for part in read_job(job_path()).parts}


def plan_of(name, kind="isometric"):
    posed = pose(PARTS[name], kind)
    return planning.plan(alone(posed), posed.id).plan


def strokes_of(plan):
    return [move.makes[0] for move in plan.moves
            if move.verb == "firm in" and move.phase != "sheet"]  # fmt: skip


def test_where_nothing_stands_nothing_is_skipped():
    plan = plan_of("wedge foot")
    assert joined(plan, ()) == (plan, frozenset())


def test_where_all_stands_nothing_of_the_drawing_is_left():
    plan = plan_of("wedge foot")
    stands = standing_with(plan, strokes_of(plan))
    skipped = needless(plan, stands)
    left = [move for index, move in enumerate(plan.moves) if index not in skipped]
    assert {move.verb for move in left} <= {"check", "set off", "go over"}
    assert {move.phase for move in left} <= {"crate", "carve: slope", "check", "centre lines"}


@pytest.mark.parametrize("name", ["wedge foot", "bearing bracket", "lens ring"])
@pytest.mark.parametrize("seed", range(4))
def test_the_rest_is_drawn_from_what_stands(name, seed):
    plan = plan_of(name)
    strokes = strokes_of(plan)
    drawn = random.Random(seed).sample(strokes, len(strokes) // 2)
    stands = standing_with(plan, drawn)
    rest, skipped = joined(plan, stands)
    assert skipped
    whole = Drafter().carry_out(plan.moves)
    assert 0 in skipped  # the sheet lies there
    paper = whole.as_after((), stands)
    paper.carry_out(move for index, move in enumerate(rest.moves) if index not in skipped)
    for stroke in strokes:
        assert np.allclose(paper.strokes[stroke], whole.strokes[stroke])


@pytest.mark.parametrize("name", ["bearing bracket", "lens ring"])
def test_no_setting_is_kept_from_a_move_that_was_skipped(name):
    plan = plan_of(name)
    strokes = strokes_of(plan)
    rest, skipped = joined(plan, standing_with(plan, strokes[: len(strokes) // 2]))
    now = {}
    for index, move in enumerate(rest.moves):
        if index in skipped or move.instrument not in (DIVIDERS, COMPASS) or not move.setting_mm:
            continue
        size = round(move.setting_mm, 6)
        assert not move.kept or now.get(move.instrument) == size
        assert ("as they are" in move.text or "as it is" in move.text) <= move.kept
        now[move.instrument] = size


def test_a_move_that_was_done_otherwise_is_skipped_with_what_served_it_alone():
    plan = plan_of("wedge foot")
    index = next(i for i, move in enumerate(plan.moves)
                 if move.phase.startswith("carve") and len(move.makes) == 2)  # fmt: skip
    skipped = needless(plan, plan.moves[index].makes)
    assert index in skipped
    users = [
        i for i, move in enumerate(plan.moves) if set(move.uses) & set(plan.moves[index].makes)
    ]
    assert not skipped.intersection(users)
