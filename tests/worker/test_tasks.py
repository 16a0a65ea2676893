"""The whole questions that the desk asks the worker."""

import pytest

from cast import crate, hole, prism, stepped_block
from holoptic.errors import BadInput, PartError
from holoptic.job import Choice, JobPart
from holoptic.part import ImportedSolid, Part
from holoptic.plan.moves import FRAME
from holoptic.solid.pieces import Seen

PART = JobPart(stepped_block(), Choice(kind="cabinet", corner="front-left"))


def test_presented_is_views_and_picture_of_one_solid(worker):
    presented = worker.ask("present", PART)
    assert presented.part == PART
    viewed = worker.ask("show_views", PART)
    assert [placed.name for placed in viewed.placed] == ["front", "top", "right"]
    assert (presented.picture.view.kind, presented.picture.view.corner.value) == (
        "cabinet", "front-left",
    )  # fmt: skip
    edges = {stroke.origin.edge for stroke in presented.picture.strokes}
    assert edges <= {edge.index for edge in presented.facts.edges}
    assert presented.facts.volume == pytest.approx(84 * 46 * 37.5 - 26.5 * 17.5 * 46)


def test_planned_draws_what_is_presented(worker):
    presented, planned = worker.ask("present", PART), worker.ask("plan", PART)
    assert planned.part == PART
    proof = worker.ask("verify", PART)
    assert proof.holds
    drawn = [name for name in planned.drafted.strokes if not name.startswith(FRAME)]
    assert proof.strokes == len(presented.picture.visible) == len(drawn)
    assert planned.paper.name == "A4"
    spots = planned.plan.spots
    assert spots["A"] == (0, 0, 0)  # the start corner of a front-left picture


@pytest.mark.parametrize("choice", [("isometric", "rear-left"), ("dimetric", "front-right"),
                                    ("plan-oblique:30:0.75", "front-left-below")])  # fmt: skip
def test_a_candidate_is_the_picture_in_another_kind(worker, choice):
    candidate = worker.ask("candidate", PART, *choice)
    assert (candidate.part, candidate.choice) == (PART, choice)
    assert candidate.picture.view.kind == choice[0]
    assert candidate.picture.visible


def test_a_changed_part_is_built_anew_and_an_old_one_kept(worker):
    bored = Part("p", crate(84, 46, 37.5), (hole(diameter=17, u=30, v=20),))
    first = worker.ask("present", JobPart(bored))
    other = worker.ask("present", JobPart(stepped_block()))
    again = worker.ask("present", JobPart(bored))
    assert first == again
    assert first.facts != other.facts


def test_looks_hold_what_was_asked_for(worker):
    seen = worker.ask("look", stepped_block(), ((1.0, -1.0, 1.0), (0.0, 0.0, 1.0)))
    assert isinstance(seen, Seen)
    assert seen.look((0.0, 0.0, 1.0)) is seen.looks[1]
    with pytest.raises(KeyError):
        seen.look((1.0, 1.0, 1.0))


@pytest.mark.parametrize("task", ["present", "plan"])
def test_troubles_come_back_as_they_were_raised(worker, task):
    spoilt = Part("p", crate(9, 9, 9), (prism("saw", outline=[(0, 0), (9, 9), (9, 0), (0, 9)]),))
    if task == "plan":
        with pytest.raises(PartError, match="“saw”") as refused:
            worker.ask(task, JobPart(spoilt))
        assert refused.value.operation == 0
    with pytest.raises(BadInput, match="unknown kind"):
        worker.ask(task, JobPart(stepped_block(), Choice(kind="sideways")))
    with pytest.raises(BadInput, match="cannot be read"):
        worker.ask(task, JobPart(ImportedSolid("gone", "/nowhere/gone.step", 0)))
