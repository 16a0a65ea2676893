"""From a part to its exact solid, with every failure laid at one operation's door."""

from __future__ import annotations

import math
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import groupby
from typing import TypeVar

from OCP.BRep import BRep_Builder
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import (
    BRepBuilderAPI_MakeEdge,
    BRepBuilderAPI_MakeFace,
    BRepBuilderAPI_MakePolygon,
    BRepBuilderAPI_MakeSolid,
    BRepBuilderAPI_MakeVertex,
    BRepBuilderAPI_MakeWire,
    BRepBuilderAPI_Sewing,
)
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp
from OCP.BRepLib import BRepLib
from OCP.BRepOffsetAPI import BRepOffsetAPI_ThruSections
from OCP.BRepPrimAPI import (
    BRepPrimAPI_MakeBox,
    BRepPrimAPI_MakeCone,
    BRepPrimAPI_MakeCylinder,
    BRepPrimAPI_MakePrism,
    BRepPrimAPI_MakeSphere,
    BRepPrimAPI_MakeTorus,
)
from OCP.collections import IndexedMap_TopoDS_Shape_TopTools_ShapeMapHasher as ShapeMap
from OCP.collections import List_TopoDS_Shape as ListOfShapes
from OCP.GC import GC_MakeArcOfCircle
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt, gp_Vec
from OCP.GProp import GProp_GProps
from OCP.ShapeUpgrade import ShapeUpgrade_UnifySameDomain
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp, TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Compound, TopoDS_Edge, TopoDS_Shape, TopoDS_Wire

from holoptic.curves.vectors import Vec2, Vec3, distance, subtract
from holoptic.errors import PartError
from holoptic.part import (
    Ball,
    Basic,
    CornerCut,
    Crate,
    Part,
    Polygon,
    Prism,
    Pyramid,
    Ring,
    Round,
    Strip,
)
from holoptic.part.check import check, check_crate, check_operation
from holoptic.part.operations import extent_mm
from holoptic.part.outline import Side, sides_of, strip_area
from holoptic.tolerance import COINCIDENT_MM

_SMALLEST_VOLUME = 1e-6
"""mm³; what is left below this is nothing."""


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
    if not _last_built or _last_built[0][0] is not part:
        whole = _at_once(part)
        built = build_in_stages(part) if whole is None else Built(whole, (), ())
        _last_built[:] = [(part, built)]
    return _last_built[0][1]


_last_built: list[tuple[Part, Built]] = []
"""The last one: whether a part is sound is asked right before its solid is."""


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
        words = "the crate is empty: add a first piece, or begin with a full block"
        return Built(None, tuple(volumes), (*troubles, PartError(words)))
    if stage.split_since is not None:
        index, name = stage.split_since
        words = f"“{name}” leaves the part in {stage.pieces} separate pieces"
        troubles.append(PartError(words, index))
    return Built(stage.shape, tuple(volumes), tuple(troubles))


# --- all at once ------------------------------------------------------------------------------

_runs: OrderedDict[tuple[object, ...], TopoDS_Shape] = OrderedDict()
"""Shapes after runs of operations that all cut or all add, by what led to them."""
_last_runs: OrderedDict[tuple[object, ...], tuple[Basic, ...]] = OrderedDict()
"""The last run worked in, by what led to it: an edit leaves most of it as it was."""
_KEPT_RUNS = 60
_MOST_CHANGED = 3
"""Basic operations; where more differ, the whole run is worked in at once."""


def _at_once(part: Part) -> TopoDS_Shape | None:
    """Return the part's solid, or None where something is wrong with it.

    Operations of one mode that follow each other go into one step of the kernel.
    """
    active = [index for index, operation in enumerate(part.operations) if not operation.off]
    try:
        check(part)
        made = {index: check_operation(part, index) for index in active}
    except PartError:
        return None
    shape = _block(part.crate) if part.begin == "block" else None
    key: tuple[object, ...] = part.begin, part.crate.sizes
    for mode, run in groupby(active, key=lambda index: part.operations[index].mode):
        basic = tuple(item for index in run for item in made[index])
        shape = _after_run(shape, key, basic, part.crate, mode)
        if shape is None:
            return None
        key = (*key, mode, basic)
    sound = shape is not None and volume(shape) >= _SMALLEST_VOLUME and count_solids(shape) == 1
    return shape if sound else None


def _after_run(
    shape: TopoDS_Shape | None,
    before: tuple[object, ...],
    run: tuple[Basic, ...],
    crate: Crate,
    mode: str,
) -> TopoDS_Shape | None:
    """Return a shape after a run of operations of one mode; None where that fails.

    Within a run the order does not matter. So where all but a few were there the last time, the
    shape with what stayed is kept, and the next edit of the same few is worked into that.
    """
    last = _last_runs.get((*before, mode), ())
    stays = tuple(item for item in run if item in last)
    changed = tuple(item for item in run if item not in last)
    if (*before, mode, run) not in _runs and stays and 0 < len(changed) <= _MOST_CHANGED:
        base = _kept_run(shape, (*before, mode, stays), stays, crate)
        made = None if base is None else _kept_run(base, (*before, mode, run), changed, crate)
    else:
        made = _kept_run(shape, (*before, mode, run), run, crate)
    _keep(_last_runs, (*before, mode), run)
    return made


def _kept_run(
    shape: TopoDS_Shape | None, key: tuple[object, ...], tools: Sequence[Basic], crate: Crate
) -> TopoDS_Shape | None:
    """Return what is kept under a key, or else the shape with the tools worked in."""
    if key not in _runs:
        worked = _worked_in(shape, tools, crate, tools[0].mode)
        if worked is None:
            return None
        _keep(_runs, key, worked)
    _runs.move_to_end(key)
    return _runs[key]


def make_ready(part: Part, index: int) -> None:
    """Work in all operations but one, so that the next edit of that one is quick."""
    operations = part.operations
    if 0 <= index < len(operations) and not operations[index].off:
        off = replace(operations[index], off=True)
        _at_once(replace(part, operations=(*operations[:index], off, *operations[index + 1 :])))
        _at_once(part)  # that is what the edit is compared with


_Value = TypeVar("_Value")


def _keep(
    shelf: OrderedDict[tuple[object, ...], _Value], key: tuple[object, ...], value: _Value
) -> None:
    shelf[key] = value
    if len(shelf) > _KEPT_RUNS:
        shelf.popitem(last=False)


def _worked_in(
    shape: TopoDS_Shape | None, run: Sequence[Basic], crate: Crate, mode: str
) -> TopoDS_Shape | None:
    """Return a shape with several operations of one mode worked in; None where that fails."""
    tools = [_tool(basic, crate) for basic in run]
    if shape is None:
        shape, tools = tools[0], tools[1:]
    if not tools:
        return tidy(shape)
    make = BRepAlgoAPI_Cut() if mode == "cut" else BRepAlgoAPI_Fuse()
    for take, shapes in ((make.SetArguments, [shape]), (make.SetTools, tools)):
        several = ListOfShapes()
        for item in shapes:
            several.Append(item)
        take(several)
    make.Build()
    if not make.IsDone() or not _is_valid(make.Shape(), shape):
        return None
    return tidy(make.Shape()) if count_solids(make.Shape()) else None


def _is_valid(shape: TopoDS_Shape, before: TopoDS_Shape) -> bool:
    """Check the faces of a shape that were not in a valid one before."""
    old, new = ShapeMap(), ShapeMap()
    TopExp.MapShapes_s(before, TopAbs_ShapeEnum.TopAbs_FACE, old)
    TopExp.MapShapes_s(shape, TopAbs_ShapeEnum.TopAbs_FACE, new)
    faces = (new.FindKey(index + 1) for index in range(new.Extent()))
    fresh = together([face for face in faces if not old.Contains(face)])
    return bool(BRepCheck_Analyzer(fresh).IsValid())


# --- stages -----------------------------------------------------------------------------------


@dataclass(frozen=True, eq=False)
class _Stage:
    """The shape after some operations; None while nothing has been added to an empty crate.

    `split_since` is the operation since which the part is in several pieces.
    """

    shape: TopoDS_Shape | None
    volume: float = 0.0
    pieces: int = 1
    split_since: tuple[int, str] | None = None


_KEPT_STAGES = 400

_stages: OrderedDict[tuple[object, ...], _Stage] = OrderedDict()
"""Stages by the one before and what was done to it: no early one is built again for a late edit."""


def _keep_stage(key: tuple[object, ...], stage: _Stage) -> _Stage:
    _stages[key] = stage
    if len(_stages) > _KEPT_STAGES:
        _stages.popitem(last=False)
    return stage


def _first_stage(part: Part) -> _Stage:
    key = "first", part.begin, part.crate.sizes
    if key in _stages:
        _stages.move_to_end(key)
        return _stages[key]
    if part.begin == "empty":
        return _keep_stage(key, _Stage(None))
    block = _block(part.crate)
    return _keep_stage(key, _Stage(block, volume(block)))


def _next_stage(before: _Stage, part: Part, index: int) -> _Stage:
    """Return the shape with one more operation. Raises PartError, and nothing is changed."""
    operation = part.operations[index]
    if operation.off:
        return before
    key = before, part.crate.sizes, index, operation
    if key in _stages:
        _stages.move_to_end(key)
        return _stages[key]
    if before.shape is None and operation.mode == "cut":
        raise PartError(f"“{operation.name}” cuts an empty crate: add material first", index)
    shape = before.shape
    for basic in check_operation(part, index):
        shape = _apply(shape, basic, part.crate, index)
    assert shape is not None
    made = volume(shape)
    if made < _SMALLEST_VOLUME:
        raise PartError(f"“{operation.name}” leaves nothing of the part", index)
    pieces = count_solids(shape)
    split = None if pieces == 1 else before.split_since or (index, operation.name)
    return _keep_stage(key, _Stage(shape, made, pieces, split))


def tidy(shape: TopoDS_Shape) -> TopoDS_Shape:
    """Join coplanar faces and collinear edges, so that no joint is drawn where none is seen."""
    unify = ShapeUpgrade_UnifySameDomain(shape, True, True, False)
    unify.Build()
    return unify.Shape()


def volume(shape: TopoDS_Shape) -> float:
    """Return the volume in mm³."""
    properties = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, properties)
    return abs(float(properties.Mass()))


def count_solids(shape: TopoDS_Shape) -> int:
    """Return how many solids a shape holds."""
    explorer = TopExp_Explorer(shape, TopAbs_ShapeEnum.TopAbs_SOLID)
    count = 0
    while explorer.More():
        count += 1
        explorer.Next()
    return count


def _block(crate: Crate) -> TopoDS_Shape:
    return BRepPrimAPI_MakeBox(*crate.sizes).Shape()


def _apply(shape: TopoDS_Shape | None, operation: Basic, crate: Crate, index: int) -> TopoDS_Shape:
    tool = _tool(operation, crate)
    if shape is None:
        return tool
    make = BRepAlgoAPI_Cut if operation.mode == "cut" else BRepAlgoAPI_Fuse
    result = make(shape, tool)
    if not result.IsDone() or not BRepCheck_Analyzer(result.Shape()).IsValid():
        raise PartError(f"“{operation.name}” could not be worked into the part", index)
    # coplanar leftovers of this operation would trouble the next one
    return tidy(result.Shape()) if count_solids(result.Shape()) else together([])


def together(shapes: Sequence[TopoDS_Shape]) -> TopoDS_Shape:
    """Return several bodies as one shape; each keeps its own faces."""
    compound = TopoDS_Compound()
    builder = BRep_Builder()
    builder.MakeCompound(compound)
    for shape in shapes:
        builder.Add(compound, shape)
    return compound


def _tool(operation: Basic, crate: Crate) -> TopoDS_Shape:
    if isinstance(operation, Prism):
        return _prism_tool(operation, crate)
    if isinstance(operation, Strip):
        return _strip_tool(operation, crate)
    if isinstance(operation, Polygon | Pyramid):
        return _tapered_tool(operation, crate)
    if isinstance(operation, CornerCut):
        return _corner_tool(operation, crate)
    return _round_tool(operation, crate)


def _corner_tool(cut: CornerCut, crate: Crate) -> TopoDS_Shape:
    """Return a tetrahedron: the corner, and the ends of the three offsets."""
    places = cut.corners_mm(crate)
    return _sewn([[p for k, p in enumerate(places) if k != left_out] for left_out in range(4)])


def _prism_tool(prism: Prism, crate: Crate) -> TopoDS_Shape:
    start, end = extent_mm(prism, crate)
    wire = BRepBuilderAPI_MakeWire()
    for side in sides_of(prism.outline):
        wire.Add(_side_edge(side, prism, crate, start))
    face = BRepBuilderAPI_MakeFace(wire.Wire(), True).Face()
    return BRepPrimAPI_MakePrism(face, _inward(prism, crate, start, end)).Shape()


def _side_edge(side: Side, prism: Prism, crate: Crate, depth: float) -> TopoDS_Edge:
    def point(place: Vec2) -> gp_Pnt:
        return gp_Pnt(*crate.place(prism.face, *place, depth))

    if side.centre is None:
        return BRepBuilderAPI_MakeEdge(point(side.start), point(side.end)).Edge()
    arc = GC_MakeArcOfCircle(point(side.start), point(side.at(0.5)), point(side.end))
    return BRepBuilderAPI_MakeEdge(arc.Value()).Edge()


def _strip_tool(strip: Strip, crate: Crate) -> TopoDS_Shape:
    start, end = extent_mm(strip, crate)
    area = strip_area(strip)

    def wire(ring: Sequence[Vec2]) -> TopoDS_Wire:
        return _polygon_wire([crate.place(strip.face, u, v, start) for u, v in ring[:-1]])

    outer = BRepBuilderAPI_MakeFace(wire(list(area.exterior.coords)), True).Face()
    shape: TopoDS_Shape = BRepPrimAPI_MakePrism(outer, _inward(strip, crate, start, end)).Shape()
    for hole in area.interiors:
        inner = BRepBuilderAPI_MakeFace(wire(list(hole.coords)), True).Face()
        tool = BRepPrimAPI_MakePrism(inner, _inward(strip, crate, start, end)).Shape()
        shape = BRepAlgoAPI_Cut(shape, tool).Shape()
    return shape


def _tapered_tool(item: Polygon | Pyramid, crate: Crate) -> TopoDS_Shape:
    """Return a polygon or rectangle carried inward to its other end, which may be an apex."""
    if isinstance(item, Pyramid):
        ends = item.end_width.mm, item.end_height.mm
        if min(ends) < COINCIDENT_MM < max(ends):
            return _ridge_tool(item, crate)
    start, end = extent_mm(item, crate)
    sections = BRepOffsetAPI_ThruSections(True, True)
    for share, depth in ((0.0, start), (1.0, end)):
        corners = [crate.place(item.face, u, v, depth) for u, v in item.corners_mm(crate, share)]
        if max(distance(corners[0], corner) for corner in corners) < COINCIDENT_MM:
            apex = BRepBuilderAPI_MakeVertex(gp_Pnt(*corners[0]))
            sections.AddVertex(apex.Vertex())
        else:
            sections.AddWire(_polygon_wire(corners))
    sections.Build()
    return sections.Shape()


def _ridge_tool(item: Pyramid, crate: Crate) -> TopoDS_Shape:
    """Return a roof: four faces over a rectangle that meet in a ridge."""
    start, end = extent_mm(item, crate)
    base = [crate.place(item.face, u, v, start) for u, v in item.corners_mm(crate)]
    ridge = [crate.place(item.face, u, v, end) for u, v in item.corners_mm(crate, 1.0)]
    return _sewn([base, *([base[k], base[k - 1], ridge[k - 1], ridge[k]] for k in range(4))])


def _sewn(sides: Sequence[Sequence[Vec3]]) -> TopoDS_Shape:
    """Return the solid within plane sides, each given by its corners."""
    sewing = BRepBuilderAPI_Sewing()
    for side in sides:
        corners = [c for k, c in enumerate(side) if distance(c, side[k - 1]) > COINCIDENT_MM]
        sewing.Add(BRepBuilderAPI_MakeFace(_polygon_wire(corners), True).Face())
    sewing.Perform()
    solid = BRepBuilderAPI_MakeSolid(TopoDS.Shell(sewing.SewedShape())).Solid()
    BRepLib.OrientClosedSolid_s(solid)
    return solid


def _polygon_wire(corners: Sequence[Vec3]) -> TopoDS_Wire:
    polygon = BRepBuilderAPI_MakePolygon()
    for corner in corners:
        polygon.Add(gp_Pnt(*corner))
    polygon.Close()
    return polygon.Wire()


def _round_tool(item: Round | Ball | Ring, crate: Crate) -> TopoDS_Shape:
    start, end = extent_mm(item, crate)
    way = _inward(item, crate, start, end)
    middle = start if isinstance(item, Round) else item.start.mm
    centre = crate.place(item.face, *item.centre_mm(crate), middle)
    axis = gp_Ax2(gp_Pnt(*centre), gp_Dir(way))
    if isinstance(item, Ring):
        return BRepPrimAPI_MakeTorus(axis, item.diameter.mm / 2, item.thickness.mm / 2).Shape()
    if isinstance(item, Ball):
        low = -math.pi / 2 if item.part != "inner half" else 0.0
        high = math.pi / 2 if item.part != "outer half" else 0.0
        return BRepPrimAPI_MakeSphere(axis, item.diameter.mm / 2, low, high).Shape()
    first, last = item.radius_at(0.0), item.radius_at(1.0)
    if abs(first - last) < COINCIDENT_MM:
        return BRepPrimAPI_MakeCylinder(axis, first, end - start).Shape()
    return BRepPrimAPI_MakeCone(axis, first, last, end - start).Shape()


def _inward(operation: Basic, crate: Crate, start: float, end: float) -> gp_Vec:
    low, high = (crate.place(operation.face, 0, 0, depth) for depth in (start, end))
    return gp_Vec(*subtract(high, low))
