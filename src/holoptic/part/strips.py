"""Strips of constant width: the area of their paths, their ends and where they join.

A strip's paths are the centre lines of bars. Where two of them end at one point they join with a
mitred corner, where one ends on the course of another it is a branch; only ends that are free are
cut as the strip says.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

import shapely

from holoptic.catalogue import tr
from holoptic.curves.paper import direction, offset_from_line
from holoptic.curves.vectors import Vec2
from holoptic.part.crate import Crate
from holoptic.part.operations import Ends, Strip, corner_places
from holoptic.tolerance import COINCIDENT_MM, PARALLEL

_MITRE_LIMIT = 20.0

Path = tuple[Vec2, ...]


def strip_paths(strip: Strip) -> list[Path]:
    """Return the paths of a strip as corners in mm, none of them doubled.

    Raises ValueError with the reason for paths with arcs or too few corners.
    """
    if any(point.arc is not None for point in strip.outline):
        raise ValueError(tr("is a strip with an arc: its path has straight sides only"))
    places = corner_places(strip.outline)
    bounds = [0, *strip.starts, len(places)]
    paths = []
    for number, (first, last) in enumerate(pairwise(bounds)):
        path = _without_doubles(places[first:last])
        if len(path) < (3 if strip.closed and number == 0 else 2):
            raise ValueError(tr("needs more corners for its path"))
        paths.append(path)
    return paths


def strip_area(strip: Strip, crate: Crate) -> shapely.Polygon | shapely.MultiPolygon:
    """Return the area of a strip on its face. Raises ValueError as `strip_paths` does."""
    paths = strip_paths(strip)
    half = strip.width.mm / 2
    rings = [paths.pop(0)] if strip.closed else []
    paths, joined = _joined(paths)
    rings += joined
    bodies = [
        shapely.LinearRing(ring).buffer(half, join_style="mitre", mitre_limit=_MITRE_LIMIT)
        for ring in rings
    ]
    lines = [shapely.LineString(path) for path in paths]
    lines += [shapely.LinearRing(ring) for ring in rings]
    size = crate.face_size(strip.face)
    for number, path in enumerate(paths):
        others = lines[:number] + lines[number + 1 :]
        bodies.append(_body(path, half, strip.ends, size, others))
    if len(bodies) == 1:
        return bodies[0]
    united = shapely.union_all(bodies, grid_size=COINCIDENT_MM)
    return _clean(united)


def _without_doubles(places: Sequence[Vec2]) -> Path:
    kept: list[Vec2] = []
    for place in places:
        if not kept or math.dist(kept[-1], place) > COINCIDENT_MM:
            kept.append(place)
    return tuple(kept)


# --- joining ------------------------------------------------------------------------------------


def _joined(paths: list[Path]) -> tuple[list[Path], list[Path]]:
    """Join paths that end at one point into longer ones; returns those, and those that close.

    At a point where more than two end, the two with the widest gap between them are joined: the
    others lie inside their corner.
    """
    rings: list[Path] = []
    done: list[Vec2] = []
    while (found := _pair_to_join(paths, done)) is not None:
        one, other, joined, node = found
        done.append(node)
        paths = [path for number, path in enumerate(paths) if number not in (one, other)]
        if math.dist(joined[0], joined[-1]) <= COINCIDENT_MM:
            rings.append(joined[:-1])
        else:
            paths.append(joined)
    return paths, rings


def _pair_to_join(paths: list[Path], done: list[Vec2]) -> tuple[int, int, Path, Vec2] | None:
    """Return the numbers of two paths that are to be joined, the path they make, and where they
    meet; not at a point where two have been joined.
    """
    ends = [(number, path[::way]) for number, path in enumerate(paths) for way in (1, -1)]
    for number, path in ends:
        if any(math.dist(path[0], node) <= COINCIDENT_MM for node in done):
            continue
        here = [
            (k, p) for k, p in ends if k != number and math.dist(p[0], path[0]) <= COINCIDENT_MM
        ]
        if not here:
            continue
        (k, a), (m, b) = _widest([(number, path), *here])
        if k != m:
            return k, m, (*a[::-1], *b[1:]), path[0]
    return None


def _widest(ends: list[tuple[int, Path]]) -> tuple[tuple[int, Path], tuple[int, Path]]:
    """Return the two neighbours, going round, with the widest angle between them."""

    def heading(end: tuple[int, Path]) -> float:
        x, y = direction(end[1][0], end[1][1])
        return math.atan2(y, x)

    order = sorted(ends, key=heading)
    pairs = list(zip(order, order[1:] + order[:1], strict=True))
    return max(pairs, key=lambda pair: (heading(pair[1]) - heading(pair[0])) % math.tau)


# --- ends ---------------------------------------------------------------------------------------


def _body(
    path: Path, half: float, ends: Ends, size: Vec2, others: Sequence[shapely.Geometry]
) -> shapely.Polygon | shapely.MultiPolygon:
    area = shapely.LineString(path).buffer(
        half, cap_style="flat", join_style="mitre", mitre_limit=_MITRE_LIMIT
    )
    if ends == "square" or area.geom_type != "Polygon":
        return area
    ring = list(area.exterior.coords)[:-1]
    for tip, before in ((path[0], path[1]), (path[-1], path[-2])):
        if not any(other.distance(shapely.Point(tip)) <= half for other in others):
            ring = _with_end(ring, tip, direction(before, tip), half, ends, size)
    return shapely.Polygon(ring, [list(hole.coords) for hole in area.interiors])


def _with_end(
    ring: list[Vec2], tip: Vec2, ahead: Vec2, half: float, ends: Ends, size: Vec2
) -> list[Vec2]:
    """Return the ring of a bar with its square end at `tip` cut in another way.

    An end that lies inside the bar itself has no corners in the ring and stays as it is.
    """
    square = [_beside(tip, ahead, sign * half) for sign in (1, -1)]
    at = [_index_of(ring, corner) for corner in square]
    if at[0] is None or at[1] is None:
        return ring
    if ends == "pointed":
        cut = [[_along(corner, ahead, -half)] for corner in square]
        cut[0 if (at[0] + 1) % len(ring) == at[1] else 1].append(tip)
    else:
        cut = [[corner] for corner in _level_corners(tip, ahead, half, size)]
    made = dict(zip(at, cut, strict=True))
    return [place for k, corner in enumerate(ring) for place in made.get(k, [corner])]


def _level_corners(tip: Vec2, ahead: Vec2, half: float, size: Vec2) -> list[Vec2]:
    """Return the corners of an end that is cut along the crate's edge it stands on.

    An end inside the face is cut level where the bar runs up rather than across, else upright.
    """
    normal = (-ahead[1], ahead[0])
    edges = [min(abs(tip[k]), abs(tip[k] - size[k])) <= COINCIDENT_MM for k in (0, 1)]
    runs_up = abs(ahead[1]) >= abs(ahead[0])
    level = edges[1] if edges[0] != edges[1] else runs_up
    if abs(normal[0] if level else normal[1]) <= PARALLEL:
        level = not level  # a bar along an edge cannot be cut along it
    reach = half / (normal[0] if level else normal[1])
    x, y = tip
    return [(x + sign * reach, y) if level else (x, y + sign * reach) for sign in (1, -1)]


def _beside(place: Vec2, ahead: Vec2, distance: float) -> Vec2:
    return place[0] - ahead[1] * distance, place[1] + ahead[0] * distance


def _along(place: Vec2, ahead: Vec2, distance: float) -> Vec2:
    return place[0] + ahead[0] * distance, place[1] + ahead[1] * distance


def _index_of(ring: list[Vec2], corner: Vec2) -> int | None:
    gaps = [math.dist(place, corner) for place in ring]
    nearest = min(range(len(ring)), key=gaps.__getitem__)
    return nearest if gaps[nearest] <= COINCIDENT_MM else None


# --- tidying ------------------------------------------------------------------------------------


def _clean(area: shapely.Geometry) -> shapely.Polygon | shapely.MultiPolygon:
    """Return an area without corners that lie straight between their neighbours."""
    pieces = [
        shapely.Polygon(_cornered(piece.exterior), [_cornered(hole) for hole in piece.interiors])
        for piece in getattr(area, "geoms", [area])
    ]
    return pieces[0] if len(pieces) == 1 else shapely.MultiPolygon(pieces)


def _cornered(ring: shapely.LinearRing) -> list[Vec2]:
    places = list(ring.coords)[:-1]
    kept = [
        place
        for k, place in enumerate(places)
        if _off_line(place, places[k - 1], places[(k + 1) % len(places)]) > COINCIDENT_MM
    ]
    return kept if len(kept) > 2 else places


def _off_line(place: Vec2, start: Vec2, end: Vec2) -> float:
    return abs(offset_from_line(place, start, direction(start, end)))
