"""From a part to its exact solid, with every failure laid at one operation's door."""

from __future__ import annotations

from dataclasses import dataclass

from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.TopoDS import TopoDS_Shape

from holoptic.catalogue import tr
from holoptic.errors import PartError
from holoptic.part import (
    Basic,
    Crate,
    Part,
)
from holoptic.part.check import check_crate, check_operation
from holoptic.solid.anatomy.kernel_shapes import (
    SMALLEST_VOLUME,
    count_solids,
    tidy,
    together,
    volume,
)
from holoptic.solid.caches import LAST_BUILT, STAGES
from holoptic.solid.making.runs import work_in_all
from holoptic.solid.making.tools import block, tool_of


@dataclass(frozen=True)
class Built:
    """A part's solid, the volume after each operation (mm³), and what had to be left out and why.

    `shape` is None where nothing can be made; then there is a trouble.
    """

    shape: TopoDS_Shape | None
    volumes: tuple[float, ...]
    troubles: tuple[PartError, ...]


def build(part: Part) -> TopoDS_Shape:
    """Return the part's solid. Raises PartError with the operation that spoils it."""
    built = build_what_can_be(part)
    if built.troubles:
        raise built.troubles[0]
    assert built.shape is not None
    return built.shape


def build_what_can_be(part: Part) -> Built:
    """Return the part's solid without the operations that cannot be made; see `build_in_stages`.

    Where all can be made they are worked in at once, which takes a fraction of the time; then no
    volumes are told.
    """
    last = LAST_BUILT.get("last")
    if last is None or last[0] is not part:
        whole = work_in_all(part)
        built = build_in_stages(part) if whole is None else Built(whole, (), ())
        last = LAST_BUILT.keep("last", (part, built))
    return last[1]


def build_in_stages(part: Part) -> Built:
    """Return the part's solid, operation by operation, without those that cannot be made.

    Stages that were built before are taken from the last ones kept.
    """
    try:
        check_crate(part.crate)
    except PartError as error:
        return Built(None, (), (error,))
    stage = _first_stage(part)
    volumes: list[float] = []
    troubles: list[PartError] = []
    for index in range(len(part.operations)):
        try:
            stage = _next_stage(stage, part, index)
        except PartError as error:
            troubles.append(error)
        volumes.append(stage.volume)
    if stage.shape is None:
        words = tr("the crate is empty: add a first piece, or begin with a full block")
        return Built(None, tuple(volumes), (*troubles, PartError(words)))
    if stage.split_since is not None:
        index, name = stage.split_since
        words = tr(
            "“{name}” leaves the part in {pieces} separate pieces", name=name, pieces=stage.pieces
        )
        troubles.append(PartError(words, index))
    return Built(stage.shape, tuple(volumes), tuple(troubles))


@dataclass(frozen=True, eq=False)
class Stage:
    """The shape after some operations; None while nothing has been added to an empty crate.

    `split_since` is the operation since which the part is in several pieces.
    """

    shape: TopoDS_Shape | None
    volume: float = 0.0
    pieces: int = 1
    split_since: tuple[int, str] | None = None


def _first_stage(part: Part) -> Stage:
    key = "first", part.begin, part.crate.sizes
    known = STAGES.get(key)
    if known is not None:
        return known
    if part.begin == "empty":
        return STAGES.keep(key, Stage(None))
    full = block(part.crate)
    return STAGES.keep(key, Stage(full, volume(full)))


def _next_stage(before: Stage, part: Part, index: int) -> Stage:
    """Return the shape with one more operation. Raises PartError, and nothing is changed."""
    operation = part.operations[index]
    if operation.off:
        return before
    key = before, part.crate.sizes, index, operation
    known = STAGES.get(key)
    if known is not None:
        return known
    if before.shape is None and operation.mode == "cut":
        raise PartError(
            tr("“{name}” cuts an empty crate: add material first", name=operation.name), index
        )
    shape = before.shape
    for basic in check_operation(part, index):
        shape = _apply(shape, basic, part.crate, index)
    assert shape is not None
    made = volume(shape)
    if made < SMALLEST_VOLUME:
        raise PartError(tr("“{name}” leaves nothing of the part", name=operation.name), index)
    pieces = count_solids(shape)
    split = None if pieces == 1 else before.split_since or (index, operation.name)
    return STAGES.keep(key, Stage(shape, made, pieces, split))


def _apply(shape: TopoDS_Shape | None, operation: Basic, crate: Crate, index: int) -> TopoDS_Shape:
    tool = tool_of(operation, crate)
    if shape is None:
        return tool
    make = BRepAlgoAPI_Cut if operation.mode == "cut" else BRepAlgoAPI_Fuse
    result = make(shape, tool)
    if not result.IsDone() or not BRepCheck_Analyzer(result.Shape()).IsValid():
        raise PartError(
            tr("“{name}” could not be worked into the part", name=operation.name), index
        )
    # coplanar leftovers of this operation would trouble the next one
    return tidy(result.Shape()) if count_solids(result.Shape()) else together([])
