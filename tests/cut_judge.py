"""An independent judge of cut solids: rays for what is seen, scan lines for the cut areas.

The room that a cut takes away is described here a second time, as one more primitive of `csg`.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from csg import Body, Primitive, box
from holoptic.part import ImportedSolid
from holoptic.part.cutting import Stock, cutter_of
from holoptic.pictorial import Picture, View, draw
from holoptic.solid.anatomy.kernel_shapes import tidy
from holoptic.solid.making.cutting_open import cut_open
from holoptic.solid.seeing.hidden import SeenSolid
from holoptic.solid.seeing.opened import SeenOpened
from judge import Verdict, judge

CUTS = ("full", "half", "leaning")
_TURN_DEG, _FAR = 27.0, 600.0
_LINES, _EPS = 6000, 1e-6


@dataclass(frozen=True)
class CutVerdict:
    """What rays say of the lines; the areas drawn and judged, mm²; hatch lines that stray."""

    lines: Verdict
    area: float
    judged_area: float
    strays: int

    @property
    def area_off_percent(self) -> float:
        return 100 * abs(self.area - self.judged_area) / max(self.judged_area, 1e-9)

    @property
    def holds(self) -> bool:
        return self.lines.holds and self.area_off_percent <= 0.1 and not self.strays


@dataclass(frozen=True)
class _Plane:
    place: np.ndarray
    normal: np.ndarray


def _room(cut: str, low: np.ndarray, high: np.ndarray, toward: np.ndarray):
    """Return what is taken away, the words for it, and its planes with their normals outward of
    what is left.
    """
    middle = (low + high) / 2
    signs = np.where(toward > 1e-9, 1, np.where(toward < -1e-9, -1, (1, -1, 1)))
    if cut == "leaning":
        way = np.radians(_TURN_DEG)
        normal = np.array([0.0, -np.sin(way), np.cos(way)])
        deep = float(high[2] - low[2]) * 0.45
        place = np.array([middle[0], middle[1], high[2] - deep])
        turn = np.array([[1, 0, 0], [0, np.cos(way), -np.sin(way)], [0, np.sin(way), np.cos(way)]])
        sign = 1 if normal @ toward > 0 else -1
        base = np.array([-_FAR / 2, -_FAR / 2, 0.0 if sign > 0 else -_FAR])
        at = place + turn @ base
        room = box(_FAR, _FAR, _FAR, at=tuple(at), axis=(1, 0, 0), degrees=_TURN_DEG)
        words = f"plane:face=top,in={deep!r},turn={_TURN_DEG},about=length"
        return room, words, [_Plane(place, sign * normal)]
    axes = (1,) if cut == "full" else (0, 1)
    at, planes = np.full(3, -_FAR / 2) + middle, []
    for axis in axes:
        at[axis] = middle[axis] - (0.0 if signs[axis] > 0 else _FAR)
        planes.append(_Plane(middle, signs[axis] * np.eye(3)[axis]))
    words = "full:depth" if cut == "full" else "half"
    return box(_FAR, _FAR, _FAR, at=tuple(at)), words, planes


def judged_cut(body: Body, cut: str, view: View) -> CutVerdict:
    """Return the verdict on a cut picture of a body. Raises BadInput where nothing is cut."""
    whole = SeenSolid(tidy(body.kernel_shape()))
    low, high = whole.facts.low, whole.facts.high
    toward = np.array(view.toward_viewer, float)
    room, words, planes = _room(cut, np.array(low), np.array(high), toward)
    source = ImportedSolid(body.name, "", 0)
    cutter = cutter_of(words, Stock(source, low, high, view.toward_viewer))
    found = cut_open(whole.shape, cutter)
    opened = SeenOpened(SeenSolid(found.shape), found.faces, whole.facts)
    picture = draw(opened.look(view.toward_viewer), view)
    area = sum(face.area for face in found.faces)
    judged = sum(_area(body, room, plane, np.array(low), np.array(high)) for plane in planes)
    lines = judge(body.minus(room), found.shape, picture)
    return CutVerdict(lines, area, judged, _strays(body, room, picture))


def _is_cut_there(body: Body, room: Primitive, points: np.ndarray, normal: np.ndarray):
    """Say of points whether a cut face lies there: material behind it, taken away before it."""
    before, behind = points + _EPS * normal, points - _EPS * normal
    gone = body.inside(before) & room.inside(before)
    return gone & body.inside(behind) & ~room.inside(behind)


def _area(
    body: Body, room: Primitive, plane: _Plane, low: np.ndarray, high: np.ndarray
) -> float:  # fmt: skip
    """Return the area of the cut face in a plane, by scan lines."""
    first = np.cross(plane.normal, (0.31, 0.52, 0.79))
    first /= np.linalg.norm(first)
    second = np.cross(plane.normal, first)
    middle = (low + high) / 2
    reach = np.linalg.norm(high - low)
    middle = middle - ((middle - plane.place) @ plane.normal) * plane.normal
    step = reach / _LINES
    offs = (np.arange(_LINES) + 0.5) * step - reach / 2
    origins = middle + offs[:, None] * second - reach * first
    at = np.hstack([body.crossings(origins, first), room.crossings(origins, first)])
    at = np.sort(np.where(np.isfinite(at), np.clip(at, 0, 2 * reach), 0.0), axis=1)
    middles = (at[:, 1:] + at[:, :-1]) / 2
    points = origins[:, None, :] + middles[..., None] * first
    there = _is_cut_there(body, room, points.reshape(-1, 3), plane.normal)
    return float((np.diff(at, axis=1) * there.reshape(middles.shape)).sum() * step)


def _strays(body: Body, room: Primitive, picture: Picture) -> int:
    """Return how many hatch lines leave their face."""
    count = 0
    normals = [np.array(region.normal) for region in picture.regions]
    places = [np.array(region.place) for region in picture.regions]
    for stroke in picture.of_role("hatch"):
        points = stroke.curve.even_points(41)[1:-1]
        own = [n for n, p in zip(normals, places, strict=True)
               if np.abs((points - p) @ n).max() < 1e-6]  # fmt: skip
        inside = [_is_cut_there(body, room, points, normal).all() for normal in own]
        count += not any(inside)
    return count
