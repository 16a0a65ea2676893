"""A part worked out at once, and an edit of it as one step.

Operations of one mode that follow each other are one run, as their order does not matter; nor does
that of operations that lie apart. So an edited operation is worked in last where nothing that comes
after it undoes it, and the solid with all the others is kept.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache
from itertools import count
from typing import NamedTuple

from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.collections import List_TopoDS_Shape as ListOfShapes
from OCP.TopoDS import TopoDS_Shape

from holoptic.errors import PartError
from holoptic.part import Basic, Crate, Part
from holoptic.part.bounds import bounds_of
from holoptic.part.check import check
from holoptic.part.operations import Mode
from holoptic.solid.anatomy.faces import volume_within
from holoptic.solid.anatomy.kernel_shapes import SMALLEST_VOLUME, count_solids, tidy
from holoptic.solid.anatomy.skin import skin_of
from holoptic.solid.caches import LAST_WORKED_IN, SHAPES, WORKED_INTO, Made
from holoptic.solid.making.tools import block, tool_of
from holoptic.tolerance import APART_MM


class Step(NamedTuple):
    """A basic operation, and the number that stands for it in keys."""

    mode: Mode
    number: int
    basic: Basic


_MOST_NUMBERS = 20_000
_MOST_CHANGED = 12
"""Basic operations; where more differ, all are worked in anew."""

_next_number = count()


def work_in_all(part: Part, afresh: bool = False) -> TopoDS_Shape | None:
    """Return the part's solid, or None where something is wrong with it.

    With `afresh` it is worked into what is kept of a part that differs a little, and not kept.
    """
    try:
        made = check(part)
    except PartError:
        return None
    shape = _made_of(steps_of(part, made), part, afresh)
    if shape is None or count_solids(shape) != 1:
        return None
    return shape if volume_within(skin_of(shape).faces) >= SMALLEST_VOLUME else None


def steps_of(part: Part, made: Mapping[int, Iterable[Basic]]) -> list[Step]:
    """Return operations, given by index with what they come down to, as steps in their order."""
    return [
        Step(part.operations[index].mode, _number(basic), basic)
        for index, several in made.items()
        for basic in several
    ]


def make_ready(part: Part, index: int) -> TopoDS_Shape | None:
    """Work in all operations but one, so that the next edit of that one is quick.

    Returns the part's solid with that one worked in last, of which an edit will leave most faces
    and edges, the very same; None where that is how it was built, or there is none.
    """
    operations = part.operations
    if not 0 <= index < len(operations) or operations[index].off:
        return None
    off = replace(operations[index], off=True)
    work_in_all(replace(part, operations=(*operations[:index], off, *operations[index + 1 :])))
    made = work_in_all(part, afresh=True)
    return None if made is work_in_all(part) else made


@lru_cache(maxsize=_MOST_NUMBERS)
def _number(basic: Basic) -> int:  # noqa: ARG001
    """Return the number that stands for a basic operation in keys, as it is long in hashing.

    No number is given twice.
    """
    return next(_next_number)


def _made_of(steps: list[Step], part: Part, afresh: bool) -> TopoDS_Shape | None:
    """Return the shape of steps in their order; None where that fails."""
    start: Made = ("part", part.begin, part.crate.sizes)
    key = (*start, *(step.number for step in steps))
    last = set(LAST_WORKED_IN.get(start) or ())
    LAST_WORKED_IN.keep(start, tuple(step.number for step in steps))
    stays = [step for step in steps if step.number in last]
    changed = [step for step in steps if step.number not in last]
    base_key = (*start, *(step.number for step in stays))
    kept = SHAPES.get(key)
    if kept is not None and not (afresh and changed and WORKED_INTO.get(key) != base_key):
        return kept
    begins_well = part.begin == "block" or (stays and stays[0].mode == "add")
    if begins_well and _are_few(stays, changed) and _can_come_last(changed, steps, part.crate):
        base = SHAPES.get(base_key)
        if base is None:
            base = _keep(base_key, _in_runs(stays, part))
        shape = None if base is None else worked_in(base, changed, part.crate)
        WORKED_INTO.keep(key, base_key)
    else:
        shape = _in_runs(steps, part)
    return shape if afresh else _keep(key, shape)


def _are_few(stays: list[Step], changed: list[Step]) -> bool:
    return bool(stays) and 0 < len(changed) <= _MOST_CHANGED


def _can_come_last(changed: list[Step], steps: list[Step], crate: Crate) -> bool:
    """Say whether steps of one mode may be worked in after all others: what follows lies apart."""
    mode = changed[0].mode
    return all(step.mode == mode for step in changed) and all(
        other.mode == mode or lie_apart(step, other, crate)
        for step in changed
        for other in steps[steps.index(step) + 1 :]
    )


def lie_apart(one: Step, other: Step, crate: Crate) -> bool:
    """Say whether two steps have nothing to do with each other."""
    a, b = _bounds(one.basic, crate), _bounds(other.basic, crate)
    if a is None or b is None:
        return False
    return any(a[1][k] + APART_MM < b[0][k] or b[1][k] + APART_MM < a[0][k] for k in range(3))


_bounds = lru_cache(maxsize=1000)(bounds_of)


def _in_runs(steps: list[Step], part: Part) -> TopoDS_Shape | None:
    """Return the shape of steps, those of one mode at once wherever that comes to the same."""
    shape = block(part.crate) if part.begin == "block" else None
    key: Made = part.begin, part.crate.sizes
    for run in runs_of(steps, part.crate):
        shape = _after_run(shape, (*key, run[0].mode), run, part.crate)
        if shape is None:
            return None
        key = (*key, run[0].mode, *(step.number for step in run))
    return shape


def runs_of(steps: list[Step], crate: Crate) -> list[list[Step]]:
    """Return steps as runs of one mode, each step in the first run that it may be part of."""
    runs: list[list[Step]] = []
    for step in steps:
        place = None
        for run in reversed(runs):
            if run[0].mode == step.mode:
                place = run
            elif not all(lie_apart(step, other, crate) for other in run):
                break
        if place is None:
            runs.append([step])
        else:
            place.append(step)
    return runs


def _after_run(
    shape: TopoDS_Shape | None, before: Made, run: list[Step], crate: Crate
) -> TopoDS_Shape | None:
    """Return a shape after a run of operations of one mode; None where that fails.

    Where all but a few were there the last time, the shape with what stayed is kept, and the next
    edit of the same few is worked into that.
    """
    key = (*before, *(step.number for step in run))
    last = set(LAST_WORKED_IN.get(before) or ())
    LAST_WORKED_IN.keep(before, tuple(step.number for step in run))
    stays = [step for step in run if step.number in last]
    changed = [step for step in run if step.number not in last]
    kept = SHAPES.get(key)
    if kept is not None:
        return kept
    if not _are_few(stays, changed):
        return _keep(key, worked_in(shape, run, crate))
    base_key = (*before, *(step.number for step in stays))
    base = SHAPES.get(base_key)
    if base is None:
        base = _keep(base_key, worked_in(shape, stays, crate))
    return None if base is None else _keep(key, worked_in(base, changed, crate))


def _keep(key: Made, shape: TopoDS_Shape | None) -> TopoDS_Shape | None:
    return None if shape is None else SHAPES.keep(key, shape)


def worked_in(shape: TopoDS_Shape | None, run: Sequence[Step], crate: Crate) -> TopoDS_Shape | None:
    """Return a shape with several operations of one mode worked in; None where that fails."""
    tools = [tool_of(step.basic, crate) for step in run]
    if shape is None:
        shape, tools = tools[0], tools[1:]
    if not tools:
        return tidy(shape)
    make = BRepAlgoAPI_Cut() if run[0].mode == "cut" else BRepAlgoAPI_Fuse()
    for take, shapes in ((make.SetArguments, [shape]), (make.SetTools, tools)):
        several = ListOfShapes()
        for item in shapes:
            several.Append(item)
        take(several)
    make.SetToFillHistory(False)
    make.SetCheckInverted(False)  # no tool is, and no solid that was made of tools
    make.Build()
    made = make.Shape()
    if not make.IsDone() or not count_solids(made):
        return None
    skin = skin_of(made)
    if not skin.is_sound():
        return None
    return tidy(made) if skin.has_joints() else made
