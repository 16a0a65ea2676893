"""The last moves of a finished sheet: dimensions, heads, lettering, shading; all proved."""

import math
from dataclasses import replace

import pytest
from bench.exercise_parts import PLAIN_FAMILIES, exercise

from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import (
    AS_FITS,
    PLAIN_LINES,
    VIEW_LINES,
    Figure,
    HandWays,
    Posed,
    SheetOrder,
    TitleBlock,
    view_named,
)
from holoptic.part import Body, Whole
from holoptic.plan.drafter import Drafter, DraftingError
from holoptic.plan.finish import Finish
from holoptic.plan.hand import Hand
from holoptic.plan.moves import DIMENSIONS, LETTERING, SHADING
from holoptic.plan.proof import compare
from holoptic.plan.showing import letters_in_sight, needs_whole_sheet, thin_strokes
from holoptic.worker import planning, tasks

DEMO = {part.source.name: part.source for part in read_job(job_path()).parts}
TITLE = TitleBlock("Skerry Lamp Works", "latch plate", number="SLW-133", drawn_by="A. Rook")
ASKED = replace(AS_FITS, dimensions="auto", shade="left", caption_mm=8.0)


def order_of(part, *kinds, wish=ASKED, ways=None):
    posed = [
        Posed(Figure(f"f{k}", "p1", view_named(kind),
                     VIEW_LINES if kind == "views" else PLAIN_LINES, ways or HandWays()), part)
        for k, kind in enumerate(kinds, 1)
    ]  # fmt: skip
    return SheetOrder(tuple(posed), wish)


def plan_of(order, figure="f1"):
    return tasks.plan(order, figure, Hand(), TITLE).plan


def test_an_arrangement_is_shaded_by_hand_as_it_stands():
    foot, plate = DEMO["wedge foot"], DEMO["latch plate"]
    stands = Body("a", "wedge foot", "p1", foot)
    whole = Whole("stand", (stands, Body("b", "latch plate", "p2", plate, at=(0.0, 0.0, 60.0))))
    order = order_of(whole, "isometric", wish=replace(ASKED, dimensions="none"))
    assert len(plan_of(order).setup.finish.shades) > 4
    assert tasks.verify(order, "f1", TITLE).holds


@pytest.mark.parametrize("kind", ["isometric", "cabinet", "views"])
@pytest.mark.parametrize("habit", [{}, {"style": "ASME", "text": "upright"}])
def test_the_drafter_finishes_the_sheet_as_it_is_to_stand(kind, habit):
    order = order_of(DEMO["latch plate"], kind, wish=replace(ASKED, **habit))
    assert tasks.verify(order, "f1", TITLE).holds
    plan = plan_of(order)
    finish = plan.setup.finish
    assert len(finish.dimensions) > 10
    phases = [name for name, _, _ in plan.phases][-3:]
    wanted = [DIMENSIONS, LETTERING, SHADING]
    assert phases == (wanted if kind != "views" else phases[:1] + wanted[:2])
    assert bool(finish.shades) == (kind != "views")


@pytest.mark.parametrize("family", PLAIN_FAMILIES)
def test_finished_sheets_of_exercises_are_proved(family):
    order = order_of(exercise(family, 3), "views", "isometric")
    for figure in order.ids:
        assert tasks.verify(order, figure, TITLE).holds


def test_what_stands_on_the_sheet_is_what_the_hand_letters():
    order = order_of(DEMO["gallery block"], "views", "isometric")
    lettered = [words.text for figure in order.ids
                for words in plan_of(order, figure).setup.finish.letters.values()]  # fmt: skip
    page = tasks.sheet(order, TITLE).pages[0]
    printed = [words.text for words in page.words if words.layer in ("dimension", "symbol")]
    block = [words.text for words in page.words if words.layer == "title"]
    assert sorted(lettered) == sorted([*printed, *block])
    heads = [region for region in page.regions if region.layer == "dimension"]
    assert sum(len(plan_of(order, f).setup.finish.heads) for f in order.ids) == len(heads)


def test_a_length_is_rolled_back_along_the_axis_and_lettered_between_guides():
    plan = plan_of(order_of(DEMO["gallery block"], "isometric"))
    own = [move for move in plan.moves if move.phase == DIMENSIONS]
    back = next(move for move in own if move.verb == "set off")
    assert back.text.startswith("Roll the square back")
    assert back.setting_mm > 9.0
    guides = next(move for move in own if move.verb == "guides")
    low, high = (row[0] for row in guides.table)
    assert math.isclose(high - low, 3.5)
    letter = own[own.index(guides) + 1]
    assert letter.verb == "letter"
    assert letter.uses == guides.makes
    assert letter.letters[0].text in letter.text
    assert {"fine", "shading"} <= set(thin_strokes(plan).values())
    at = plan.moves.index(letter)
    assert letters_in_sight(plan, at) == set()
    assert needs_whole_sheet(plan, len(plan.moves))


def test_the_title_block_is_ruled_and_lettered_with_the_border():
    order = order_of(DEMO["gallery block"], "views", "isometric")
    with_border, later = (plan_of(order, figure).setup.finish for figure in order.ids)
    said = [words.text for words in with_border.letters.values()]
    assert {"Skerry Lamp Works", "latch plate", "SLW-133", "A. Rook"} <= set(said)
    assert len(with_border.title) == 4
    assert not later.title
    assert {words.text for words in later.letters.values()} >= {"isometric drawing"}


def test_lettering_is_left_out_where_that_is_asked_and_done_alone_too():
    part = DEMO["gallery block"]
    assert plan_of(order_of(part, "isometric", wish=AS_FITS)).setup.finish is None
    left = plan_of(order_of(part, "isometric", ways=HandWays(lettering="leave"))).setup.finish
    assert left.dimensions
    assert not (left.captions or left.title)
    alone = plan_of(
        order_of(part, "isometric", wish=AS_FITS, ways=HandWays(lettering="by-hand"))
    ).setup.finish
    assert alone.title
    assert not alone.dimensions


def test_a_wrong_word_a_missing_head_and_lettering_beside_its_guides_are_found():
    order = order_of(DEMO["wedge foot"], "views")
    planned, meant = planning.planned_and_meant(order, "f1", Hand(), TITLE)
    plan = planned.plan

    def proof_of(moves):
        return compare(replace(plan, moves=tuple(moves)), meant.wanted, meant.worst)

    assert proof_of(plan.moves).holds
    at = next(k for k, move in enumerate(plan.moves)
              if move.verb == "letter" and move.letters[0].along_deg == 0.0)  # fmt: skip
    move = plan.moves[at]

    def other(letters):
        return (*plan.moves[:at], replace(move, letters=(letters,)), *plan.moves[at + 1 :])

    words = move.letters[0]
    assert proof_of(other(replace(words, text="99"))).deviation_mm == math.inf
    with pytest.raises(DraftingError, match="guide line"):
        proof_of(other(replace(words, at=(words.at[0], words.at[1] + 0.4))))
    without = [m for m in plan.moves if m.verb != "head"]
    assert proof_of(without).deviation_mm == math.inf
    shifted = [replace(m, angle_deg=m.angle_deg + 180.0) if m.verb == "head" else m
               for m in plan.moves]  # fmt: skip
    assert proof_of(shifted).deviation_mm == math.inf


def test_the_paper_shows_no_more_than_was_lettered_by_then():
    plan = plan_of(order_of(DEMO["wedge foot"], "isometric"))
    whole = Drafter().carry_out(plan.moves)
    assert set(whole.letters) == set(plan.setup.finish.letters)
    at = next(k for k, move in enumerate(plan.moves) if move.verb == "letter")
    assert not whole.as_after(plan.moves[:at]).letters
    assert len(whole.as_after(plan.moves[: at + 1]).letters) == 1
    assert Finish().paths == {}
