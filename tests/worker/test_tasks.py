"""The whole questions that the desk asks the worker."""

from dataclasses import replace

import pytest

from cast import crate, hole, prism, stepped_block
from holoptic.errors import BadInput, PartError
from holoptic.job import (
    Orthographic,
    Posed,
    SheetOrder,
    SheetWish,
    Spread,
    TitleBlock,
    alone,
    pose,
)
from holoptic.part import Body, ImportedSolid, Part, Whole
from holoptic.plan.moves import FRAME
from holoptic.solid.pieces import Seen
from holoptic.worker.fitting import settle_gaps

PART = pose(stepped_block(), "cabinet", "front-left")
SHEET = alone(PART)


def test_presented_is_views_and_picture_of_one_solid(worker):
    presented = worker.ask("present", PART)
    assert presented.made == PART
    viewed = worker.ask("show_views", PART)
    assert [placed.name for placed in viewed.placed] == ["front", "top", "right"]
    assert (presented.picture.view.kind, presented.picture.view.corner.value) == (
        "cabinet", "front-left",
    )  # fmt: skip
    edges = {stroke.origin.edge for stroke in presented.picture.strokes}
    assert edges <= {edge.index for edge in presented.facts.edges}
    assert presented.facts.volume == pytest.approx(84 * 46 * 37.5 - 26.5 * 17.5 * 46)


def test_planned_draws_what_is_presented(worker):
    presented, planned = worker.ask("present", PART), worker.ask("plan", SHEET, PART.id)
    assert planned.figure == PART.id
    proof = worker.ask("verify", SHEET, PART.id)
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
    assert (candidate.figure, candidate.choice) == (PART.id, choice)
    assert candidate.picture.view.kind == choice[0]
    assert candidate.picture.visible


def test_a_changed_part_is_built_anew_and_an_old_one_kept(worker):
    bored = Part("p", crate(84, 46, 37.5), (hole(diameter=17, u=30, v=20),))
    first = worker.ask("present", pose(bored))
    other = worker.ask("present", pose(stepped_block()))
    again = worker.ask("present", pose(bored))
    assert first == again
    assert first.facts != other.facts


def test_looks_hold_what_was_asked_for(worker):
    seen = worker.ask("look", stepped_block(), ((1.0, -1.0, 1.0), (0.0, 0.0, 1.0)))
    assert isinstance(seen, Seen)
    assert seen.look((0.0, 0.0, 1.0)) is seen.looks[1]
    with pytest.raises(KeyError):
        seen.look((1.0, 1.0, 1.0))


def _present(worker, posed):
    return worker.ask("present", posed)


def _plan(worker, posed):
    return worker.ask("plan", alone(posed), posed.id)


def test_troubles_come_back_as_they_were_raised(worker):
    spoilt = Part("p", crate(9, 9, 9), (prism("saw", outline=[(0, 0), (9, 9), (9, 0), (0, 9)]),))
    (trouble,) = _present(worker, pose(spoilt)).troubles
    assert (trouble.operation, "“saw”" in str(trouble)) == (0, True)
    for ask in (_present, _plan):
        with pytest.raises(BadInput, match="unknown kind"):
            ask(worker, pose(stepped_block(), "sideways"))
        with pytest.raises(BadInput, match="cannot be read"):
            ask(worker, pose(ImportedSolid("gone", "/nowhere/gone.step", 0)))


def test_the_border_is_drawn_with_the_first_figure_of_a_sheet_be_it_views(worker):
    views = replace(PART, figure=replace(PART.figure, id="f0", view=Orthographic()))
    other = replace(pose(stepped_block()), figure=replace(pose(stepped_block()).figure, id="f2"))
    order = SheetOrder((views, PART, other))
    first, *later = (worker.ask("plan", order, item.id) for item in (views, PART, other))
    assert first.plan.setup.blank is not None
    assert [made.plan.setup.blank for made in later] == [None, None]
    assert {made.layout for made in (first, *later)} == {first.layout}
    assert all(worker.ask("verify", order, item.id).holds for item in (views, PART, other))


def test_a_figure_at_its_own_scale_is_planned_at_it(worker):
    small = replace(PART, figure=replace(PART.figure, scale=0.5, id="f2"))
    order = SheetOrder((PART, small), SheetWish(scale=1.0, paper="A3"))
    plan = worker.ask("plan", order, "f2").plan
    assert (plan.setup.scale, plan.setup.scale_text) == (0.5, "1:2")
    assert worker.ask("plan", order, PART.id).plan.setup.scale == 1.0
    assert worker.ask("verify", order, "f2").holds
    page = worker.ask("sheet", order, TitleBlock("work", "part")).pages[0]
    assert any(words.text.endswith(", 1:2") for words in page.words)
    card = worker.ask("card", order, "f2", 0)
    assert (card.figure, card.scale) == ("f2", 0.5)


def test_a_gap_on_a_sheet_of_what_cannot_be_made_stays_open(worker):
    hollow = Part("shell", crate(30, 20, 10), (), "empty")
    lost = Posed(pose(PART.source).figure, Whole("stack", (Body("b1", "shell", "p1", hollow),)),
                 Spread())  # fmt: skip
    asked = replace(lost, room=alone(lost, SheetWish(paper="A4", scale=1.0)))
    assert settle_gaps(asked) == asked
    assert settle_gaps(7) == 7
    assert worker.ask("shelve", asked).picture is None
    with pytest.raises(PartError):
        worker.ask("present", asked)
