"""A part worked out at once: operations of one mode that follow each other are one step.

Runs are kept, so that an edit of one operation is one step too.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Hashable, Sequence
from dataclasses import replace
from functools import lru_cache
from itertools import count, groupby
from typing import Generic, TypeVar

from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.collections import List_TopoDS_Shape as ListOfShapes
from OCP.TopoDS import TopoDS_Shape

from holoptic.errors import PartError
from holoptic.part import Basic, Crate, Part
from holoptic.part.check import check
from holoptic.solid.faces import volume_within
from holoptic.solid.shapes import SMALLEST_VOLUME, count_solids, tidy
from holoptic.solid.skin import skin_of
from holoptic.solid.tools import block, tool_of

_Key = TypeVar("_Key", bound=Hashable)
_Value = TypeVar("_Value")
_Run = tuple[int, ...]
"""Basic operations that all cut or all add, by their numbers."""


class _Kept(Generic[_Key, _Value]):
    """The last values, those used longest ago let go."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._values: OrderedDict[_Key, _Value] = OrderedDict()

    def get(self, key: _Key) -> _Value | None:
        if key in self._values:
            self._values.move_to_end(key)
        return self._values.get(key)

    def keep(self, key: _Key, value: _Value) -> _Value:
        self._values[key] = value
        if len(self._values) > self._most:
            self._values.popitem(last=False)
        return value


_MOST_RUNS = 60
_MOST_NUMBERS = 20_000
_MOST_CHANGED = 3
"""Basic operations; where more differ, the whole run is worked in at once."""

_shapes: _Kept[tuple[object, ...], TopoDS_Shape] = _Kept(_MOST_RUNS)
"""Shapes after runs, by what led to them."""
_last: _Kept[tuple[object, ...], _Run] = _Kept(_MOST_RUNS)
"""The last run worked in, by what led to it: an edit leaves most of it as it was."""
_worked_into: _Kept[tuple[object, ...], _Run] = _Kept(_MOST_RUNS)
"""The runs that were worked into shapes that were there, by what those were made of."""
_next_number = count()


def work_in_all(part: Part, afresh: bool = False) -> TopoDS_Shape | None:
    """Return the part's solid, or None where something is wrong with it.

    With `afresh` it is worked into what is kept of a part that differs a little, and not kept.
    """
    try:
        made = check(part)
    except PartError:
        return None
    shape = block(part.crate) if part.begin == "block" else None
    key: tuple[object, ...] = part.begin, part.crate.sizes
    for mode, several in groupby(made, key=lambda index: part.operations[index].mode):
        basic = {_number(item): item for index in several for item in made[index]}
        shape = _after_run(shape, (*key, mode), basic, part.crate, afresh)
        if shape is None:
            return None
        key = (*key, mode, *basic)
    if shape is None or count_solids(shape) != 1:
        return None
    return shape if volume_within(skin_of(shape).faces) >= SMALLEST_VOLUME else None


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


def _after_run(
    shape: TopoDS_Shape | None,
    before: tuple[object, ...],
    tools: dict[int, Basic],
    crate: Crate,
    afresh: bool,
) -> TopoDS_Shape | None:
    """Return a shape after a run of operations of one mode; None where that fails.

    Within a run the order does not matter. So where all but a few were there the last time, the
    shape with what stayed is kept, and the next edit of the same few is worked into that.
    """
    run = tuple(tools)
    last = set(_last.get(before) or ())
    stays = tuple(number for number in run if number in last)
    changed = [tools[number] for number in run if number not in last]
    _last.keep(before, run)
    made = _shapes.get((*before, run))
    is_at_hand = not changed or _worked_into.get((*before, run)) == stays
    if made is not None and (is_at_hand or not afresh):
        return made
    if not stays or not 0 < len(changed) <= _MOST_CHANGED:
        made = _worked_in(shape, list(tools.values()), crate)
    else:
        base = _shapes.get((*before, stays))
        if base is None:
            base = _kept(before, stays, _worked_in(shape, [tools[n] for n in stays], crate))
        made = None if base is None else _worked_in(base, changed, crate)
        _worked_into.keep((*before, run), stays)
    return made if afresh else _kept(before, run, made)


def _kept(before: tuple[object, ...], run: _Run, shape: TopoDS_Shape | None) -> TopoDS_Shape | None:
    return None if shape is None else _shapes.keep((*before, run), shape)


def _worked_in(
    shape: TopoDS_Shape | None, run: Sequence[Basic], crate: Crate
) -> TopoDS_Shape | None:
    """Return a shape with several operations of one mode worked in; None where that fails."""
    tools = [tool_of(basic, crate) for basic in run]
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
