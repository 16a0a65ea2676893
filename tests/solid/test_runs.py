"""An edit worked into what stays comes to the same solid as a part made stage by stage."""

from dataclasses import replace

import pytest
from bench.random_parts import scattered_part
from bench.solids import drilled_plate

from cast import crate, prism
from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.part import Part
from holoptic.solid.anatomy.facts import facts, no_operations
from holoptic.solid.anatomy.skin import skin_of
from holoptic.solid.making.changes import volumes_after
from holoptic.solid.making.runs import make_ready
from holoptic.solid.making.stages import build_in_stages, build_what_can_be
from holoptic.solid.seeing.hidden import SeenSolid
from holoptic.units import Length

PARTS = [part.source for part in read_job(job_path()).parts if isinstance(part.source, Part)]
KINDS = [
    (part, index) for part in PARTS
    for index in {0, len(part.operations) // 2, len(part.operations) - 1}
]  # fmt: skip


def told(shape):
    """What is known of a solid: its volume, its edges by where they run, its rounds."""
    known, _ = facts(shape, no_operations)
    places = sorted(
        tuple(round(value, 4) + 0.0 for value in edge.curve.at(sum(edge.curve.span) / 2))
        for edge in known.edges
    )
    return round(known.volume, 4), places, len(known.rounds), known.low, known.high


def edited(part, index):
    """The part with one operation a little deeper, or left out where it has no depth."""
    operation = part.operations[index]
    end = getattr(operation, "end", None)
    changed = replace(operation, off=True) if end is None else (
        replace(operation, end=Length.of(end.mm - 0.5))
    )  # fmt: skip
    operations = (*part.operations[:index], changed, *part.operations[index + 1 :])
    return replace(part, operations=operations)


@pytest.mark.parametrize(("part", "index"), KINDS, ids=lambda x: getattr(x, "name", str(x)))
def test_an_edit_comes_to_what_the_stages_come_to(part, index):
    make_ready(part, index)
    changed = edited(part, index)
    quick, staged = build_what_can_be(changed), build_in_stages(changed)
    assert [str(t) for t in quick.troubles] == [str(t) for t in staged.troubles]
    if staged.shape is not None and not staged.troubles:
        assert told(quick.shape) == told(staged.shape)


@pytest.mark.parametrize("index", range(9))
def test_what_lies_apart_may_be_worked_in_in_any_order(index):
    """Bosses and cuts as they come: an early one is edited without those after it."""
    part = scattered_part(2, columns=4, rows=2)
    made = make_ready(part, index)
    changed = edited(part, index)
    quick, staged = build_what_can_be(changed), build_in_stages(changed)
    assert told(quick.shape) == told(staged.shape)
    if index and made is not None and not changed.operations[index].off:
        before = {id(face) for face in skin_of(made).faces}
        now = {id(face) for face in skin_of(quick.shape).faces}
        assert 2 * len(before & now) > len(now)  # most of it is the very same


def test_a_cut_is_not_worked_in_after_what_fills_it_again():
    """A slot, and a bar put into it afterwards: the slot made deeper leaves the bar whole."""
    slot = prism("slot", outline=[(20, 14), (30, 14), (30, 30), (20, 30)])
    bar = prism("bar", "add", outline=[(20, 20), (30, 20), (30, 24), (20, 24)])
    part = Part("keyed", crate(60, 20, 30), (slot, bar))
    make_ready(part, 0)
    deeper = replace(slot, outline=(*(replace(c, v=Length.of(10.0)) for c in slot.outline[:2]),
                                    *slot.outline[2:]))  # fmt: skip
    changed = replace(part, operations=(deeper, bar))
    assert facts(build_what_can_be(changed).shape, no_operations)[0].volume == pytest.approx(
        60 * 20 * 30 - 10 * 20 * 20 + 10 * 4 * 20
    )


def test_a_part_that_falls_in_two_is_told_as_ever():
    saw = prism("saw", outline=[(20, 0), (24, 0), (24, 30), (20, 30)])
    part = Part("bar", crate(60, 20, 30), (saw,))
    whole = replace(part, operations=(replace(saw, end=Length.of(5.0)),))
    assert build_what_can_be(whole).troubles == ()
    make_ready(whole, 0)
    assert "2 separate pieces" in str(build_what_can_be(part).troubles[0])


def test_smooth_joins_are_kept_apart_from_edges():
    """Round ends run into straight sides: some draw a line there, the picture does not."""
    bracket = next(part for part in PARTS if part.name == "bearing bracket")
    solid = SeenSolid(build_what_can_be(bracket).shape)
    toward = (1.0, 0.0, 0.0)
    smooth = solid.look(toward).smooth
    assert smooth
    assert all(isinstance(in_sight, bool) for _, in_sight in smooth)
    drawn = {piece.curve for piece in solid.look(toward).pieces}
    assert not drawn & {curve for curve, _ in smooth}


@pytest.mark.parametrize(
    "part", [*PARTS, scattered_part(5), drilled_plate(2, 2)], ids=lambda part: part.name
)
def test_what_each_operation_changes_is_told_without_its_stages(part):
    once_more = replace(part.operations[-1], name="once more")
    off = replace(part.operations[0], off=part.begin == "block")
    part = replace(part, operations=(off, *part.operations[1:], once_more))
    staged = build_in_stages(part)
    assert not staged.troubles
    assert volumes_after(part) == pytest.approx(staged.volumes, abs=1e-4)
    assert volumes_after(part)[-1] == pytest.approx(staged.volumes[-2], abs=1e-4)  # nothing is left
