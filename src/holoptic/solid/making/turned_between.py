"""A turned solid from the surfaces that bound it: its half section is found, and turned about.

Where round faces run into each other smoothly, as at a rounded rim, the kernel parts solids slowly
or not at all; in the plane of the half section that is no matter.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence

import numpy as np
from OCP.BRepAlgoAPI import BRepAlgoAPI_Splitter
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge
from OCP.BRepPrimAPI import BRepPrimAPI_MakeRevol
from OCP.collections import List_TopoDS_Shape as ListOfShapes
from OCP.gp import gp_Ax1, gp_Ax2, gp_Circ, gp_Dir, gp_Pnt
from OCP.IntTools import IntTools_Context
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Shape

from holoptic.curves.vectors import Vec3, add, cross, dot, mix, subtract, unit
from holoptic.part.walls import Drum, Flat, Globe, Panel, Taper, Tyre, Wall
from holoptic.solid.anatomy.kernel_shapes import tidy
from holoptic.solid.making.outlined import IsFull, fused, outlined, place_in
from holoptic.tolerance import COINCIDENT_MM, DRAWN_MM, SLIGHT

_NEAR_MM = DRAWN_MM
_BEYOND_MM = 1.0
_RINGS, _AROUND = 150, 12
_ODD_SHARE = 0.02
"""So few rings may be odd, whose places lie right beside a wall."""
Axis = tuple[Vec3, Vec3]
"""A point of it, and its way."""


def axis_of(size: Vec3, panels: Sequence[Panel], is_full: IsFull) -> Axis | None:
    """Return the axis that all panels are turned about, None where they share none, or where the
    crate takes something off the solid.
    """
    ways = [(panel.wall.centre if isinstance(panel.wall, Tyre | Taper) else panel.wall.point,
             unit(panel.wall.way))
            for panel in panels if isinstance(panel.wall, Drum | Taper | Tyre)]  # fmt: skip
    if not ways:
        return None
    axis = ways[0]
    if not all(_is_about(panel.wall, axis) for panel in panels):
        return None
    return axis if _is_alike_around(size, axis, is_full) else None


def _is_alike_around(size: Vec3, axis: Axis, is_full: IsFull) -> bool:
    """Say whether all around an axis the same is full."""
    dice = np.random.default_rng(1)
    depth = int(np.abs(axis[1]).argmax())
    u, v = (k for k in range(3) if k != depth)
    if any(abs(2 * axis[0][k] - size[k]) > _NEAR_MM for k in (u, v)) or (
        abs(size[u] - size[v]) > _NEAR_MM
    ):
        return False  # its crate would be square about the axis
    radii = dice.uniform(0, math.hypot(size[u], size[v]), _RINGS)
    turns = dice.uniform(0, math.tau, (_RINGS, 1)) + np.arange(_AROUND) * (math.tau / _AROUND)
    points = np.empty((_RINGS, _AROUND, 3))
    points[:, :, depth] = dice.uniform(0, size[depth], (_RINGS, 1))
    points[:, :, u] = axis[0][u] + radii[:, None] * np.cos(turns)
    points[:, :, v] = axis[0][v] + radii[:, None] * np.sin(turns)
    flat = points.reshape(-1, 3)
    within = ((flat > 0) & (flat < size)).all(axis=1)
    full = np.zeros(len(flat), bool)
    full[within] = is_full(flat[within])
    counts = full.reshape(_RINGS, _AROUND).sum(axis=1)
    return bool(((counts > 0) & (counts < _AROUND)).mean() < _ODD_SHARE)


def _is_about(wall: Wall, axis: Axis) -> bool:
    way = axis[1]
    if isinstance(wall, Flat):
        return _is_parallel(wall.normal, way)
    if isinstance(wall, Globe):
        return _off(wall.centre, axis) < _NEAR_MM
    centre = wall.centre if isinstance(wall, Taper | Tyre) else wall.point
    if not _is_parallel(wall.way, way) or _off(centre, axis) > _NEAR_MM:
        return False
    return not isinstance(wall, Taper) or _off(wall.tip, axis) < _NEAR_MM


def _is_parallel(one: Vec3, other: Vec3) -> bool:
    sine = cross(unit(one), unit(other))
    return math.sqrt(dot(sine, sine)) < SLIGHT


def _off(place: Vec3, axis: Axis) -> float:
    return _section_place(place, axis)[0]


def _section_place(place: Vec3, axis: Axis) -> tuple[float, float]:
    """Return how far a place is from an axis, and where along it."""
    off = subtract(place, axis[0])
    along = dot(off, axis[1])
    return math.sqrt(max(dot(off, off) - along * along, 0.0)), along


def turned_between(
    size: Vec3, panels: Sequence[Panel], is_full: IsFull, axis: Axis
) -> TopoDS_Shape:
    """Return the solid between panels that are turned about an axis."""
    point, way = axis
    ends = [dot(subtract(corner, point), way) for corner in ((0.0, 0.0, 0.0), size)]
    low, high = min(ends), max(ends)
    reach = max(size)
    frame = gp_Ax2(gp_Pnt(*point), gp_Dir(*way))
    x = frame.XDirection()
    out = (x.X(), x.Y(), x.Z())

    def at(radius: float, along: float) -> Vec3:
        return add(add(point, out, radius), way, along)

    whole = outlined([at(0, low), at(reach, low), at(reach, high), at(0, high)])
    splitter = BRepAlgoAPI_Splitter()
    wholes, tools = ListOfShapes(), ListOfShapes()
    wholes.Append(whole)
    for panel in panels:
        for edge in _edges(panel.wall, axis, at, (low, high), reach, cross(out, way)):
            tools.Append(edge)
    splitter.SetArguments(wholes)
    splitter.SetTools(tools)
    splitter.SetFuzzyValue(COINCIDENT_MM)
    splitter.Build()
    faces = [face for face in _faces(splitter.Shape()) if _is_full(face, is_full)]
    section = tidy(fused(faces))
    return tidy(BRepPrimAPI_MakeRevol(section, gp_Ax1(gp_Pnt(*point), gp_Dir(*way))).Shape())


def _edges(
    wall: Wall, axis: Axis, at: Callable[[float, float], Vec3], ends: tuple[float, float],
    reach: float, normal: Vec3,
) -> Iterator[TopoDS_Shape]:  # fmt: skip
    """Yield the edges in which a wall meets the half plane."""
    low, high = ends[0] - _BEYOND_MM, ends[1] + _BEYOND_MM
    if isinstance(wall, Flat):
        along = _section_place(wall.point, axis)[1]
        yield _straight(at(-_BEYOND_MM, along), at(reach + _BEYOND_MM, along))
    elif isinstance(wall, Drum):
        yield _straight(at(wall.radius, low), at(wall.radius, high))
    elif isinstance(wall, Taper):
        tip, base = (_section_place(place, axis)[1] for place in (wall.tip, wall.centre))
        share = ((high if base > tip else low) - tip) / (base - tip)
        yield _straight(at(0, tip), mix(at(0, tip), at(wall.radius, base), share))
    else:
        middle = wall.radius if isinstance(wall, Tyre) else 0.0
        radius = wall.thick if isinstance(wall, Tyre) else wall.radius
        centre = at(middle, _section_place(wall.centre, axis)[1])
        circle = gp_Circ(gp_Ax2(gp_Pnt(*centre), gp_Dir(*normal)), radius)
        yield BRepBuilderAPI_MakeEdge(circle).Edge()


def _straight(start: Vec3, end: Vec3) -> TopoDS_Shape:
    return BRepBuilderAPI_MakeEdge(gp_Pnt(*start), gp_Pnt(*end)).Edge()


def _faces(shape: TopoDS_Shape) -> list[TopoDS_Shape]:
    explorer, found = TopExp_Explorer(shape, TopAbs_ShapeEnum.TopAbs_FACE), []
    while explorer.More():
        found.append(explorer.Current())
        explorer.Next()
    return found


def _is_full(face: TopoDS_Shape, is_full: IsFull) -> bool:
    place = place_in(TopoDS.Face(face), IntTools_Context())
    return place is not None and bool(is_full(np.array([place]))[0])
