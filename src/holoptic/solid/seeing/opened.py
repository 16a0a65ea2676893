"""A solid that is cut open, or several, seen with the faces where they are cut."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from functools import cached_property

import numpy as np
import shapely
from shapely.ops import polygonize

from holoptic.curves.space import Segment
from holoptic.curves.vectors import Vec3, add, cross, dot, subtract, unit
from holoptic.solid.pieces import CutFace, Look, Piece, Ring, SolidFacts
from holoptic.solid.seeing.hidden import SeenSolid
from holoptic.solid.seeing.whole import SeenWhole
from holoptic.tolerance import CLEAR_MM, GIVEN_MM

_TRIED = 400
"""So many places of a face are asked at most whether something lies before them."""
_CHORDS = 96
_LEAST_CELL_MM2 = 0.001


class SeenOpened:
    """What is left, with its cut faces; box and volume stay those of the uncut one.

    It is asked as `SeenSolid` and `SeenWhole` are.
    """

    def __init__(
        self, left: SeenSolid | SeenWhole, faces: Sequence[CutFace], uncut: SolidFacts
    ) -> None:
        self._left, self._faces, self._uncut = left, tuple(faces), uncut

    @property
    def cut_faces(self) -> tuple[CutFace, ...]:
        """The faces where it is cut, whichever way they are turned."""
        return self._faces

    @cached_property
    def facts(self) -> SolidFacts:
        """What stays the same from wherever it is seen."""
        uncut = self._uncut
        return replace(self._left.facts, low=uncut.low, high=uncut.high, boxes=uncut.boxes,
                       volume=uncut.volume)  # fmt: skip

    def look(self, toward_viewer: Vec3) -> Look:
        """Return what is seen along a direction, cut faces too."""
        look = self._left.look(toward_viewer)
        if look.cut_faces:
            return look
        toward = unit(toward_viewer)
        turned = [face for face in self._faces if dot(face.normal, toward) > GIVEN_MM]
        seen = tuple(face._replace(seen=tuple(self._seen(face, look))) for face in turned)
        borders = [
            Piece(None, operation, line, True, face.body)
            for face in turned for line, operation in face.borders
        ]  # fmt: skip
        return replace(look, cut_faces=seen, pieces=(*look.pieces, *borders))

    def depths(self, axis: Vec3, points: np.ndarray) -> np.ndarray:
        """Return from where to where lines meet what is left, as `SeenSolid.depths` does."""
        return self._left.depths(axis, points)

    def _seen(self, face: CutFace, look: Look) -> Iterator[tuple[Ring, ...]]:
        """Yield the pieces of a cut face that are in sight."""
        sheet = _Sheet(face, look.toward_viewer)
        area = shapely.Polygon(*_outer_and_holes(sheet.rings)).buffer(0)
        spots = _spots(area)
        if not self._covered(sheet, spots).any():
            yield face.rings
            return
        lines = [shapely.LineString(sheet.flat(path)) for path in _paths(look) if len(path) > 1]
        lines += [shapely.LinearRing(ring) for ring in sheet.rings]
        cells = [
            cell for cell in polygonize(shapely.union_all(lines, grid_size=GIVEN_MM))
            if cell.area > _LEAST_CELL_MM2 and area.contains(cell.representative_point())
        ]  # fmt: skip
        if not cells:
            return
        inside = np.array([(c.representative_point().x, c.representative_point().y) for c in cells])
        free = ~self._covered(sheet, inside)
        left = shapely.union_all([cell for cell, on in zip(cells, free, strict=True) if on])
        for piece in getattr(left, "geoms", [left]):
            if isinstance(piece, shapely.Polygon) and piece.area > _LEAST_CELL_MM2:
                rings = (piece.exterior, *piece.interiors)
                yield tuple(sheet.lifted(list(ring.coords)[:-1]) for ring in rings)

    def _covered(self, sheet: _Sheet, spots: np.ndarray) -> np.ndarray:
        """Say of places of a face (n × 2) whether something lies before them."""
        points = np.array(sheet.lifted(spots.tolist()))
        toward = np.array(sheet.toward)
        nearest = self._left.depths(sheet.toward, points)[:, 1]
        covered: np.ndarray = nearest > points @ toward + CLEAR_MM
        return covered


class _Sheet:
    """A cut face as it is seen along a direction, on a sheet square to that; and the way back."""

    def __init__(self, face: CutFace, toward_viewer: Vec3) -> None:
        self.toward = unit(toward_viewer)
        start = (0.0, 0.0, 1.0) if abs(self.toward[2]) < 0.9 else (1.0, 0.0, 0.0)
        self._first = unit(cross(start, self.toward))
        self._second = cross(self.toward, self._first)
        self._face = face
        self.rings = [self.flat(ring) for ring in face.rings]

    def flat(self, points: Iterable[Vec3]) -> list[tuple[float, float]]:
        """Return places as they are seen, mm."""
        return [(dot(point, self._first), dot(point, self._second)) for point in points]

    def lifted(self, flat: Iterable[Sequence[float]]) -> Ring:
        """Return the places of the face that are seen there."""
        face, made = self._face, []
        slope = dot(face.normal, self.toward)
        for u, v in flat:
            point = add(add((0.0, 0.0, 0.0), self._first, u), self._second, v)
            off = dot(subtract(face.place, point), face.normal) / slope
            made.append(add(point, self.toward, off))
        return tuple(made)


def _outer_and_holes(
    rings: Sequence[Sequence[tuple[float, float]]],
) -> tuple[Sequence[tuple[float, float]], Sequence[Sequence[tuple[float, float]]]]:
    return rings[0], rings[1:]


def _paths(look: Look) -> Iterator[list[Vec3]]:
    """Yield the lines in sight as chords."""
    for piece in look.pieces:
        if piece.visible:
            count = 2 if isinstance(piece.curve, Segment) else _CHORDS
            yield [(x, y, z) for x, y, z in piece.curve.even_points(count).tolist()]


def _spots(area: shapely.Geometry) -> np.ndarray:
    """Return places within an area (n × 2), about evenly, a hair off its border too."""
    inner = area.buffer(-GIVEN_MM)
    low_x, low_y, high_x, high_y = area.bounds
    step = max(np.sqrt((high_x - low_x) * (high_y - low_y) / _TRIED), GIVEN_MM)
    xs = np.arange(low_x + step / 2, high_x, step)
    ys = np.arange(low_y + step / 2, high_y, step)
    grid = np.array([(x, y) for x in xs for y in ys]).reshape(-1, 2)
    border = [
        np.array(part.exterior.coords)
        for part in getattr(inner, "geoms", [inner])
        if isinstance(part, shapely.Polygon) and not part.is_empty
    ]
    spots = np.vstack([grid, *border]) if border else grid
    inside: np.ndarray = spots[shapely.contains_xy(area, spots[:, 0], spots[:, 1])]
    if len(inside):
        return inside
    spot = area.representative_point()
    return np.array([(spot.x, spot.y)])
