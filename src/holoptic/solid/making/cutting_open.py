"""A solid cut open: what a cutter leaves of it, and the faces where it was cut."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from OCP.Bnd import Bnd_Box
from OCP.BRepAlgoAPI import BRepAlgoAPI_Common, BRepAlgoAPI_Cut
from OCP.BRepBndLib import BRepBndLib
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakePolygon
from OCP.BRepGProp import BRepGProp
from OCP.BRepPrimAPI import BRepPrimAPI_MakePrism
from OCP.BRepTools import BRepTools, BRepTools_WireExplorer
from OCP.gp import gp_Pnt, gp_Vec
from OCP.GProp import GProp_GProps
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Edge, TopoDS_Face, TopoDS_Shape, TopoDS_Wire

from holoptic.catalogue import tr
from holoptic.curves.space import Curve, SampledCurve, Segment
from holoptic.curves.vectors import Vec3, subtract
from holoptic.errors import BadInput
from holoptic.part import Part
from holoptic.part.cutting import Cutter
from holoptic.part.expand import basics
from holoptic.part.naming import spoken
from holoptic.solid.anatomy.edge_curves import curve_of, xyz
from holoptic.solid.anatomy.faces import face_of, faces_of, volume_within
from holoptic.solid.anatomy.kernel_shapes import SMALLEST_VOLUME
from holoptic.solid.making.tools import tool_of
from holoptic.solid.pieces import CutFace, Ring
from holoptic.tolerance import LEAST_SQUARE, PARALLEL, REGULAR_MM, SHARE, SLIGHT

_PLAIN_FEATURES = frozenset({"rib", "web", "spoke"})
_PLAIN_PARTS = frozenset({
    "pin", "shaft", "axle", "spindle", "bolt", "screw", "nut", "rivet", "ball", "key", "washer",
    "dowel",
})  # fmt: skip
"""What is not hatched where it is cut lengthwise, by words of its name."""
_LEAST_AREA_MM2 = 0.01
_FINE_TURN = math.radians(1.5)


@dataclass(frozen=True)
class CutOpen:
    """What is left of a solid, and its cut faces; `is_cut` says whether anything went, `is_left`
    whether anything stayed.
    """

    shape: TopoDS_Shape
    faces: tuple[CutFace, ...]
    is_cut: bool
    is_left: bool = True


@dataclass(frozen=True)
class PlainFeature:
    """A feature that is not hatched: its operation, its own solid, and what others add."""

    operation: int
    own: TopoDS_Shape
    others: tuple[TopoDS_Shape, ...]


def plain_features(part: Part, names: Sequence[str]) -> list[PlainFeature]:
    """Return the features of a part that convention leaves plain where they are cut lengthwise:
    those that are named, or, where none is, ribs, webs and spokes.
    """
    wanted = [index for index, one in enumerate(part.operations)
              if not one.off and one.mode == "add" and (
                  _is_named(one.name, names) if names
                  else set(spoken(one.name).split("_")) & _PLAIN_FEATURES
              )]  # fmt: skip
    if not wanted:
        return []
    added = {
        index: [tool_of(basic, part.crate) for basic in basics(one, part.crate)]
        for index, one in enumerate(part.operations)
        if not one.off and one.mode == "add"
    }
    return [
        PlainFeature(index, tool, tuple(
            other for at, tools in added.items() if at not in wanted for other in tools
        ))
        for index in wanted for tool in added[index]
    ]  # fmt: skip


def is_plain_part(name: str, names: Sequence[str], found: CutOpen, solid: TopoDS_Shape) -> bool:
    """Say whether a part of an arrangement stays uncut: it is named, or none is, it is a pin, a
    bolt or the like, and it would be cut lengthwise.
    """
    if names or not set(spoken(name).split("_")) & _PLAIN_PARTS:
        return _is_named(name, names)
    sizes = _sizes(solid)
    long = max(range(3), key=lambda axis: sizes[axis])
    is_ball = min(sizes) > sizes[long] * (1 - SLIGHT)
    return is_ball or all(abs(face.normal[long]) < PARALLEL for face in found.faces)


def _is_named(name: str, names: Sequence[str]) -> bool:
    return spoken(name) in {spoken(one) for one in names}


def cut_open(
    shape: TopoDS_Shape, cutter: Cutter, body: int = 0, plain: Sequence[PlainFeature] = ()
) -> CutOpen:
    """Return what a cutter leaves of a solid; nothing may be left. `plain` is not hatched.

    The faces where it was cut are those that come from the cutter's own. Raises BadInput where the
    kernel cannot do it.
    """
    tool = _room(cutter)
    cut = BRepAlgoAPI_Cut(shape, tool)
    if not cut.IsDone():
        raise BadInput(tr("it cannot be cut there: move the plane a little"))
    made = cut.Shape()
    # as they bound what is left, not as they bounded the room
    left = {hash(face): face for face in _faces(made)}
    # the faces tell the volume sooner than the kernel does, and it is asked for again
    if volume_within(faces_of(shape)) - volume_within(faces_of(made)) < SMALLEST_VOLUME:
        return CutOpen(shape, (), is_cut=False)
    images = (image for side in _faces(tool) for image in list(cut.Modified(side)) or [side])
    # where the room ends in a face that was there before, nothing is cut
    before = {hash(image) for face in _faces(shape) for image in (face, *cut.Modified(face))}
    own = [left[hash(image)] for image in images if hash(image) in left.keys() - before]
    # the round walls of what is broken out are no cut faces that could be hatched
    faces = [_cut_face(face, body, plain) for face in own if face_of(face).normal is not None]
    return CutOpen(made, tuple(one for one in faces if one.area > _LEAST_AREA_MM2), is_cut=True,
                   is_left=bool(left))  # fmt: skip


def _room(cutter: Cutter) -> TopoDS_Shape:
    if cutter.feature is not None:
        return tool_of(*cutter.feature)
    polygon = BRepBuilderAPI_MakePolygon()
    for point in cutter.outline:
        polygon.Add(gp_Pnt(*point))
    polygon.Close()
    base = BRepBuilderAPI_MakeFace(polygon.Wire(), True)
    if not base.IsDone():
        raise BadInput(tr("the outline of the cut crosses itself"))
    return BRepPrimAPI_MakePrism(base.Face(), gp_Vec(*cutter.way)).Shape()


def _faces(shape: TopoDS_Shape) -> list[TopoDS_Face]:
    explorer, found = TopExp_Explorer(shape, TopAbs_ShapeEnum.TopAbs_FACE), []
    while explorer.More():
        found.append(TopoDS.Face(explorer.Current()))
        explorer.Next()
    return found


def _cut_face(face: TopoDS_Face, body: int, plain: Sequence[PlainFeature]) -> CutFace:
    properties = GProp_GProps()
    # left to itself the kernel is off by 0.3 % where free curves bound a face
    BRepGProp.SurfaceProperties_s(face, properties, SHARE)
    normal = face_of(face).normal
    assert normal is not None  # a cutter has plane sides
    outer = BRepTools.OuterWire_s(face)
    wires = [outer, *(wire for wire in _wires(face) if not wire.IsSame(outer))]
    # an edge that lies in a face and does not bound it is a wire by itself
    rings = tuple(ring for ring in (_ring(wire, face) for wire in wires) if len(ring) > 2)
    area = abs(float(properties.Mass()))
    made = CutFace(body, area, rings[0][0], normal, rings)
    areas, borders = [], []
    for feature in plain:
        if not _is_lengthwise(feature.own, normal):
            continue
        for own in _faces(_left_plain(face, feature)):
            areas.append(tuple(_ring(wire, own) for wire in _wires(own)))
            borders += [(line, feature.operation) for line in _inner_lines(own, face)]
    return made._replace(plain=tuple(areas), borders=tuple(borders))


def _is_lengthwise(own: TopoDS_Shape, normal: Vec3) -> bool:
    """Say whether a plane cuts a feature lengthwise: square to where it is thinnest."""
    sizes = _sizes(own)
    thin = min(range(3), key=lambda axis: sizes[axis])
    return abs(normal[thin]) > 1 - PARALLEL


def _sizes(shape: TopoDS_Shape) -> Vec3:
    box = Bnd_Box()
    BRepBndLib.Add_s(shape, box, False)
    return subtract(xyz(box.CornerMax()), xyz(box.CornerMin()))


def _left_plain(face: TopoDS_Face, feature: PlainFeature) -> TopoDS_Shape:
    area = BRepAlgoAPI_Common(face, feature.own).Shape()
    for other in feature.others:
        area = BRepAlgoAPI_Cut(area, other).Shape()
    return area


def _inner_lines(area: TopoDS_Face, face: TopoDS_Face) -> Iterator[Segment]:
    """Yield the straight borders of an area that are none of its cut face's."""
    outer = [curve_of(edge) for edge in _edges(face)]
    for edge in _edges(area):
        curve = curve_of(edge)
        if isinstance(curve, Segment) and not any(
            _holds(other, curve.middle) for other in outer
        ):  # fmt: skip
            yield curve


def _holds(curve: Curve, point: Vec3) -> bool:
    points = curve.even_points(2 if isinstance(curve, Segment) else 257)
    a, b = points[:-1], points[1:]
    along, off = b - a, np.array(point) - a
    share = np.clip(
        (off * along).sum(axis=1) / np.maximum((along**2).sum(axis=1), LEAST_SQUARE), 0, 1
    )
    gap = np.linalg.norm(off - share[:, None] * along, axis=1).min()
    return bool(gap < REGULAR_MM)


def _edges(face: TopoDS_Face) -> list[TopoDS_Edge]:
    explorer, found = TopExp_Explorer(face, TopAbs_ShapeEnum.TopAbs_EDGE), []
    while explorer.More():
        found.append(TopoDS.Edge(explorer.Current()))
        explorer.Next()
    return found


def _wires(face: TopoDS_Face) -> list[TopoDS_Wire]:
    explorer, found = TopExp_Explorer(face, TopAbs_ShapeEnum.TopAbs_WIRE), []
    while explorer.More():
        found.append(TopoDS.Wire(explorer.Current()))
        explorer.Next()
    return found


def _ring(wire: TopoDS_Wire, face: TopoDS_Face) -> Ring:
    """Return a wire as corners, curves in small chords."""
    corners: list[Vec3] = []
    explorer = BRepTools_WireExplorer(wire, face)
    while explorer.More():
        edge = explorer.Current()
        points = _corners(curve_of(edge))
        if edge.Orientation() == TopAbs_Orientation.TopAbs_REVERSED:
            points.reverse()
        corners += points[:-1]
        explorer.Next()
    return tuple(corners)


def _corners(curve: Curve) -> list[Vec3]:
    """Return the ends of a curve with corners between them where it bends."""
    if isinstance(curve, Segment):
        return [curve.start, curve.end]
    if isinstance(curve, SampledCurve):
        return [*curve.points]
    count = max(2, math.ceil((curve.last - curve.first) / _FINE_TURN)) + 1
    return [(x, y, z) for x, y, z in curve.even_points(count).tolist()]
