"""What is to be rubbed out: only what nothing needs any more, and only where it crowds."""

import pytest

from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import alone, pose
from holoptic.plan.card import card_text
from holoptic.plan.rubbing import to_rub_out
from holoptic.units import Unit
from holoptic.worker import planning

PARTS = {part.source.name: part.source for part in read_job(job_path()).parts}


def planned(name):
    posed = pose(PARTS[name])
    return planning.plan(alone(posed), posed.id)


@pytest.mark.parametrize("name", ["lamp pedestal", "roof cone and finial", "counterbored flange"])
def test_what_is_rubbed_out_is_needed_no_more(name):
    made = planned(name)
    starts = {first for phase, first, _ in made.plan.phases if phase.startswith("carve")}
    for index in range(len(made.plan.moves) + 1):
        names = to_rub_out(made.plan, made.drafted, index)
        assert not names or index in starts
        assert not names.intersection(use for move in made.plan.moves[index:] for use in move.uses)
        assert not names.intersection(made.drafted.strokes)


def test_it_is_told_where_construction_crowds_and_only_there():
    crowded, plain = planned("roof cone and finial"), planned("wedge foot")
    starts = [first for _, first, _ in crowded.plan.phases]
    told = {index: to_rub_out(crowded.plan, crowded.drafted, index) for index in starts}
    assert any(told.values())
    index = next(index for index, names in told.items() if names)
    count = len(told[index])
    assert count >= 8
    details = card_text(crowded.plan, index, Unit.MM, rubbed=count).details
    assert any(f"the {count} dotted lines" in line for line in details)
    assert not any(to_rub_out(plain.plan, plain.drafted, k) for k in range(len(plain.plan.moves)))
