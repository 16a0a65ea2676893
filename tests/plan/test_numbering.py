"""Numbers and parts list: drawn last, where the sheet has them, and proved like all else."""

from dataclasses import replace

import pytest

from cast import intended_of, picture, set_up, stepped_block
from holoptic.plan import Drafter, make_plan, prove
from holoptic.plan.builder import start_on_picture
from holoptic.plan.instruments import PENCIL, STRAIGHTEDGE, T_SQUARE
from holoptic.plan.moves import PartNumber, PartsTable
from holoptic.plan.numbering import lettered_numbers
from holoptic.plan.showing import needs_whole_sheet, thin_strokes

NUMBERS = (
    PartNumber(1, "step", (40.0, 60.0), (55.5, 63.2), 4.0),
    PartNumber(2, "foot", (40.0, 71.0), (58.0, 71.0), 4.0),
    PartNumber(3, "eye", (160.0, 50.0), (121.3, 80.4), 4.0),
)


@pytest.fixture
def numbered(worker):
    """A plan with numbers and a list, what it intends, and where it starts on the picture."""
    part = stepped_block()
    seen, drawn = picture(worker, part)
    setup, _ = set_up(part, seen.facts, drawn)
    columns = (150.0, 164.0, setup.width)  # as far as the border
    table = PartsTable(columns, (30.0, 35.5, 41.0), ("number, name", "1, step"))
    setup = replace(setup, numbers=NUMBERS, table=table)
    intended = intended_of(part, seen.facts, drawn, setup.scale)
    return make_plan(intended, setup), intended, start_on_picture(part, seen.facts, drawn)


def test_numbers_and_list_come_last_and_are_proved(numbered):
    plan, intended, start = numbered
    proof = prove(plan, intended, start)
    assert proof.holds
    assert proof.strokes == len(intended.strokes) + 2 * len(NUMBERS) + 2 + 2
    own = [move for move in plan.moves if move.phase == "numbers and list"]
    assert own == list(plan.moves[-len(own) :])
    kept = [move.kept for move in own if move.verb == "circle"]
    assert kept == [False, True, True]
    said = " ".join(move.text for move in own)
    assert "letter 3 in it" in said
    assert "letter the row under it: 1, step" in said


def test_a_number_that_stands_elsewhere_breaks_the_proof(numbered):
    plan, intended, start = numbered
    index = next(i for i, move in enumerate(plan.moves) if move.makes == ("middle of number 2",))
    wrong = replace(plan.moves[index], setting_mm=plan.moves[index].setting_mm + 0.5)
    moves = (*plan.moves[:index], wrong, *plan.moves[index + 1 :])
    assert prove(replace(plan, moves=moves), intended, start).deviation_mm >= 0.5
    without = tuple(move for move in plan.moves if move.makes != ("over leader 3",))
    assert not prove(replace(plan, moves=without), intended, start).holds


def test_numbers_are_lettered_once_their_circles_stand(numbered):
    plan, _, _ = numbered
    at = next(i for i, move in enumerate(plan.moves) if move.makes == ("over number circle 2",))
    before, after = (Drafter().carry_out(plan.moves[:end]) for end in (at, at + 1))
    assert [one.number for one in lettered_numbers(NUMBERS, before.strokes)] == [1]
    assert [one.number for one in lettered_numbers(NUMBERS, after.strokes)] == [1, 2]
    assert needs_whole_sheet(plan, at)
    assert needs_whole_sheet(plan, len(plan.moves))


def test_leaders_end_at_their_circles_and_are_thin(numbered):
    plan, _, _ = numbered
    paper = Drafter().carry_out(plan.moves)
    for one in NUMBERS:
        leader = paper.strokes[f"over leader {one.number}"]
        assert leader == (pytest.approx(one.edge), pytest.approx(one.spot))
    assert set(thin_strokes(plan)) == {f"over leader {k}" for k in (1, 2, 3)}
    assert all(move.instrument == PENCIL for move in plan.moves if "over leader 1" in move.makes)


def test_a_level_leader_is_ruled_with_the_t_square(numbered):
    plan, _, _ = numbered
    made = {name: move for move in plan.moves for name in move.makes}
    assert (made["leader 2"].instrument, made["leader 2"].angle_deg) == (T_SQUARE, 0.0)
    assert made["beginning of leader 2"].setting_mm == 18.0
    assert made["leader 1"].instrument == STRAIGHTEDGE
