"""A solid from the surfaces that bound it, where it is known of every place whether it is full."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product

import numpy as np
from OCP.BOPTools import BOPTools_AlgoTools3D
from OCP.BRepAlgoAPI import BRepAlgoAPI_Splitter
from OCP.BRepBuilderAPI import (
    BRepBuilderAPI_MakeEdge,
    BRepBuilderAPI_MakeSolid,
    BRepBuilderAPI_MakeVertex,
    BRepBuilderAPI_MakeWire,
    BRepBuilderAPI_Sewing,
)
from OCP.BRepClass3d import BRepClass3d_SolidClassifier
from OCP.BRepOffsetAPI import BRepOffsetAPI_ThruSections
from OCP.BRepPrimAPI import (
    BRepPrimAPI_MakeBox,
    BRepPrimAPI_MakeCone,
    BRepPrimAPI_MakeCylinder,
    BRepPrimAPI_MakeSphere,
    BRepPrimAPI_MakeTorus,
)
from OCP.collections import List_TopoDS_Shape as ListOfShapes
from OCP.gp import gp_Ax2, gp_Circ, gp_Dir, gp_Pnt
from OCP.IntTools import IntTools_Context
from OCP.Standard import Standard_Failure
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum, TopAbs_State
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Face, TopoDS_Shape

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3, add, distance, dot, mix, subtract, unit
from holoptic.errors import BadInput
from holoptic.part.walls import Drum, Flat, Globe, Panel, Taper, Tyre
from holoptic.solid.anatomy.kernel_shapes import count_solids, solids_of, tidy
from holoptic.solid.making.outlined import IsFull, outlined, spot_in
from holoptic.solid.making.turned_between import axis_of, turned_between
from holoptic.tolerance import COINCIDENT_MM, KERNEL_MM, SLIGHT

_STEPS_MM = (0.03, 0.008, 0.002)
"""So far inside its face a place of a cell is looked for (length, mm)."""
_SEWN_MM = KERNEL_MM
_ODD_ANGLE = 0.5716
_BEYOND_MM = 0.7
"""So far a panel reaches over its box, so that panels cross (length, mm)."""
_SOWN = 23
"""Places along each side of a crate at which it is asked whether a face lies there."""


def solid_between(size: Vec3, panels: Sequence[Panel], is_full: IsFull) -> TopoDS_Shape:
    """Return the solid whose faces lie on some panels or on the crate, which begins at the origin.

    The panels part the crate into cells, each of which is full or empty as a whole.
    Raises BadInput where no single solid comes of it.
    """
    try:
        return _solid_between(size, panels, is_full)
    except Standard_Failure as error:
        raise BadInput(tr("its faces bound no single solid")) from error


def _solid_between(size: Vec3, panels: Sequence[Panel], is_full: IsFull) -> TopoDS_Shape:
    axis = axis_of(size, panels, is_full)
    if axis is not None:
        return turned_between(size, panels, is_full, axis)
    reach = 2 * distance((0.0, 0.0, 0.0), size)
    faces = [face for panel in panels for face in _faces_of(panel, panels, reach)]
    try:
        return _of_cells(_cells(BRepPrimAPI_MakeBox(*size).Shape(), faces), is_full)
    except (BadInput, Standard_Failure):
        # where it only touches the crate the kernel may not part the two
        wider = _wider_crate(size, is_full)
        if wider is None:
            raise
    return _of_cells(_cells(wider, faces), _within(size, is_full))


def _of_cells(cells: Sequence[TopoDS_Shape], is_full: IsFull) -> TopoDS_Shape:
    """Return what is full of a crate in pieces, as one solid."""
    full = [cell for cell, is_in in zip(cells, _told(cells, is_full), strict=True) if is_in]
    if not full:
        raise BadInput(tr("nothing is left between its faces"))
    solid = tidy(_skin_of(full))
    if count_solids(solid) != 1:
        raise BadInput(tr("its faces bound no single solid"))
    return solid


def _wider_crate(size: Vec3, is_full: IsFull) -> TopoDS_Shape | None:
    """Return a crate that stands off on each side on which no face of the solid lies; None where
    one does on all of them.
    """
    low, high = [0.0] * 3, list(size)
    for axis in range(3):
        for at, ends, sign in ((0.0, low, 1.0), (size[axis], high, -1.0)):
            if not is_full(_sown(size, axis, at + sign * _STEPS_MM[-1])).any():
                ends[axis] = at - sign * _BEYOND_MM / 2
    if low == [0.0] * 3 and high == list(size):
        return None
    return BRepPrimAPI_MakeBox(gp_Pnt(*low), gp_Pnt(*high)).Shape()


def _sown(size: Vec3, axis: int, at: float) -> np.ndarray:
    """Return places all over a plane square to an axis (n × 3, mm)."""
    shares = (np.arange(_SOWN) + 0.5) / _SOWN
    spread = [shares * size[k] if k != axis else np.array([at]) for k in range(3)]
    return np.stack(np.meshgrid(*spread), axis=-1).reshape(-1, 3)


def _within(size: Vec3, is_full: IsFull) -> IsFull:
    """Return what tells of places that may lie out of the crate too."""

    def told(places: np.ndarray) -> np.ndarray:
        inside = ((places > 0) & (places < size)).all(axis=1)
        found = np.zeros(len(places), bool)
        found[inside] = is_full(places[inside])
        return found

    return told


def _cells(crate: TopoDS_Shape, faces: Sequence[TopoDS_Shape]) -> list[TopoDS_Shape]:
    """Return the crate in pieces."""
    if not faces:
        return [crate]
    crates, tools = ListOfShapes(), ListOfShapes()
    crates.Append(crate)
    for face in faces:
        tools.Append(face)
    splitter = BRepAlgoAPI_Splitter()
    splitter.SetArguments(crates)
    splitter.SetTools(tools)
    splitter.SetFuzzyValue(COINCIDENT_MM)
    splitter.Build()
    if not splitter.IsDone():
        raise BadInput(tr("its faces do not part the crate"))
    return solids_of(splitter.Shape())


def _told(cells: Sequence[TopoDS_Shape], is_full: IsFull) -> np.ndarray:
    """Return for each cell whether it is full, asked at a place inside it."""
    places = [_inside(cell) for cell in cells]
    known = [place for place in places if place is not None]
    answers = iter(is_full(np.array(known).reshape(-1, 3)).tolist())
    return np.array([place is not None and next(answers) for place in places])


def _inside(cell: TopoDS_Shape) -> Vec3 | None:
    """Return a place inside a cell, None for one that is too thin to have any."""
    context = IntTools_Context()
    for step in _STEPS_MM:
        explorer = TopExp_Explorer(cell, TopAbs_ShapeEnum.TopAbs_FACE)
        while explorer.More():
            place = _behind(TopoDS.Face(explorer.Current()), step, context)
            if place is not None and _holds(cell, place):
                return place
            explorer.Next()
    return None


def _behind(face: TopoDS_Face, step: float, context: IntTools_Context) -> Vec3 | None:
    """Return a place behind the middle of a face, as seen from outside."""
    spot = spot_in(face, context)
    if spot is None:
        return None
    place, (u, v) = spot
    normal = gp_Dir()
    if not BOPTools_AlgoTools3D.GetNormalToSurface_s(
        context.SurfaceAdaptor(face).Surface().Surface(), u, v, normal
    ):
        return None
    sign = 1.0 if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED else -1.0
    return add(place, (normal.X(), normal.Y(), normal.Z()), sign * step)


def _holds(cell: TopoDS_Shape, place: Vec3) -> bool:
    classifier = BRepClass3d_SolidClassifier(cell, gp_Pnt(*place), COINCIDENT_MM)
    return bool(classifier.State() == TopAbs_State.TopAbs_IN)


def _skin_of(cells: Sequence[TopoDS_Shape]) -> TopoDS_Shape:
    """Return cells as one solid: the faces between two of them are left out."""
    if len(cells) == 1:
        return cells[0]
    faces: list[TopoDS_Shape] = []
    for cell in cells:
        explorer = TopExp_Explorer(cell, TopAbs_ShapeEnum.TopAbs_FACE)
        while explorer.More():
            if explorer.Current().Orientation() != TopAbs_Orientation.TopAbs_INTERNAL:
                faces.append(explorer.Current())
            explorer.Next()
    counts: dict[int, list[TopoDS_Shape]] = {}
    for face in faces:
        alike = counts.setdefault(hash(face), [])
        alike.append(face)
    sewing = BRepBuilderAPI_Sewing(_SEWN_MM)
    for alike in counts.values():
        for face in alike:
            if sum(face.IsSame(other) for other in alike) == 1:
                sewing.Add(face)
    sewing.Perform()
    make = BRepBuilderAPI_MakeSolid()
    explorer = TopExp_Explorer(sewing.SewedShape(), TopAbs_ShapeEnum.TopAbs_SHELL)
    while explorer.More():
        make.Add(TopoDS.Shell(explorer.Current()))
        explorer.Next()
    if not make.IsDone():
        raise BadInput(tr("its faces bound no single solid"))
    return make.Solid()


def _faces_of(panel: Panel, panels: Sequence[Panel], reach: float) -> list[TopoDS_Shape]:
    """Return a panel as a face, a little larger than its box."""
    wall, box = panel.wall, _corners(panel)
    if isinstance(wall, Flat):
        outline = _clipped(wall, panel, reach)
        return [outlined(outline)] if len(outline) >= 3 else []
    if isinstance(wall, Drum):
        way = unit(wall.way)
        along = [dot(subtract(corner, wall.point), way) for corner in box]
        start = add(wall.point, way, min(along) - _BEYOND_MM)
        length = max(along) - min(along) + 2 * _BEYOND_MM
        return [BRepPrimAPI_MakeCylinder(_frame(start, way), wall.radius, length).Face()]
    if isinstance(wall, Globe):
        frame = _frame(wall.centre, _pole_of(panels))
        return [BRepPrimAPI_MakeSphere(frame, wall.radius).Face()]
    if isinstance(wall, Tyre):
        frame = _frame(wall.centre, wall.way)
        return [BRepPrimAPI_MakeTorus(frame, wall.radius, wall.thick).Face()]
    return [_cone(wall, box)]


def _pole_of(panels: Sequence[Panel]) -> Vec3:
    """Return the way in which poles of balls lie: where a bore or a flat takes them off."""
    walls = [panel.wall for panel in panels]
    bores = [wall.way for wall in walls if isinstance(wall, Drum)]
    flats = [wall.normal for wall in walls if isinstance(wall, Flat)]
    return next(iter((*bores, *flats)), (0.0, 0.0, 1.0))


def _corners(panel: Panel) -> list[Vec3]:
    xs, ys, zs = zip(panel.low, panel.high, strict=True)
    return list(product(xs, ys, zs))


def _clipped(flat: Flat, panel: Panel, reach: float) -> list[Vec3]:
    """Return the corners of a plane within a box (Sutherland and Hodgman, 1974)."""
    frame = gp_Ax2(gp_Pnt(*flat.point), gp_Dir(*flat.normal))
    x, y = frame.XDirection(), frame.YDirection()
    across, up = (x.X(), x.Y(), x.Z()), (y.X(), y.Y(), y.Z())
    signs = ((-1, -1), (1, -1), (1, 1), (-1, 1))
    outline = [add(add(flat.point, across, a * reach), up, b * reach) for a, b in signs]
    for axis in range(3):
        for limit, sign in (
            (panel.low[axis] - _BEYOND_MM, 1.0),
            (panel.high[axis] + _BEYOND_MM, -1.0),
        ):
            kept: list[Vec3] = []
            for before, here in zip([outline[-1], *outline[:-1]], outline, strict=True):
                a, b = (sign * (p[axis] - limit) for p in (before, here))
                if (a < 0) != (b < 0):
                    kept.append(mix(before, here, a / (a - b)))
                if b >= 0:
                    kept.append(here)
            outline = kept
            if not outline:
                return []
    return outline


def _cone(wall: Taper, box: Sequence[Vec3]) -> TopoDS_Shape:
    """Return a cone from its tip beyond a box."""
    axis = subtract(wall.centre, wall.tip)
    along = dot(axis, unit(wall.way))
    size = distance(wall.centre, wall.tip)
    is_right = abs(abs(along) - size) < COINCIDENT_MM
    ends = [dot(subtract(corner, wall.tip), unit(wall.way)) / along for corner in box]
    share = max(*ends, SLIGHT) + _BEYOND_MM / size
    radius = wall.radius * share
    if is_right:
        return BRepPrimAPI_MakeCone(_frame(wall.tip, axis), 0.0, radius, share * size).Face()
    far = add(wall.tip, axis, share)
    circle = gp_Circ(_frame(far, wall.way), radius)
    loft = BRepOffsetAPI_ThruSections(False, True)
    loft.AddWire(BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(circle).Edge()).Wire())
    loft.AddVertex(BRepBuilderAPI_MakeVertex(gp_Pnt(*wall.tip)).Vertex())
    loft.Build()
    return loft.Shape()


def _frame(point: Vec3, way: Vec3) -> gp_Ax2:
    """Return a frame turned by an odd angle: where a round face closes nothing else should lie."""
    frame = gp_Ax2(gp_Pnt(*point), gp_Dir(*way))
    return frame.Rotated(frame.Axis(), _ODD_ANGLE)
