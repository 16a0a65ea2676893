"""An independent judge of the picture of any body of `csg`: rays, and no hidden-line code.

It follows every sharp edge and every outline in small steps, sends a ray to the viewer from each
step, and compares what it finds with the strokes drawn: their length, and both ways their place.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import shapely
from OCP.BRep import BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Shape

from csg import Body
from holoptic.pictorial import Picture

STEP_MM = 0.5
BEND = 0.04
"""Radians between steps of a bent curve."""
HAIR_MM = 2e-3
"""A ray that only just grazes is sent again this far to each side; the open side counts."""
COVER_MM = 0.02
SHARED_MM = 1e-4
"""Lines nearer than this on paper are one line."""
OFF_MM = 0.02
"""Ink within this of the judged line is that line."""
_CHUNK = 20_000


@dataclass(frozen=True)
class Verdict:
    """Visible lengths on paper in mm: judged, drawn, and of it missing and extra."""

    judged: float
    drawn: float
    missing: float
    extra: float
    longest_missing: float
    longest_extra: float

    @property
    def off_percent(self) -> float:
        return 100 * abs(self.drawn - self.judged) / self.judged

    @property
    def holds(self) -> bool:
        # where curves touch, the end of a line is found no better than this
        return self.off_percent <= 0.3 and max(self.longest_missing, self.longest_extra) < 0.4


def covered(body: Body, points: np.ndarray, toward: np.ndarray) -> np.ndarray:
    """Return how much material (mm) stands between each point and the viewer."""
    way = toward / np.linalg.norm(toward)
    result = np.empty(len(points))
    for start in range(0, len(points), _CHUNK):
        origins = points[start : start + _CHUNK]
        at = body.crossings(origins, way)
        at = np.where(at > 1e-9, at, np.inf)  # NaN compares false: no crossing
        at = np.sort(np.hstack([np.zeros((len(origins), 1)), at]), axis=1)
        keep = np.isfinite(at).any(axis=0)
        at = at[:, keep]
        low, high = at[:, :-1], at[:, 1:]
        real = np.isfinite(high)
        with np.errstate(invalid="ignore"):
            middle = np.where(real, (low + high) / 2, 0.0)
            size = np.where(real, high - low, 0.0)
        probes = origins[:, None, :] + middle[..., None] * way
        solid = np.zeros(real.shape, bool)
        use = real & (size > 1e-9)
        solid[use] = body.inside(probes[use])
        result[start : start + _CHUNK] = (size * solid).sum(axis=1)
    return result


def _around(toward: np.ndarray) -> np.ndarray:
    first = np.cross(toward, [0.31, 0.52, 0.79])
    first /= np.linalg.norm(first)
    second = np.cross(toward / np.linalg.norm(toward), first)
    turns = np.arange(8) * np.pi / 4 + 0.21
    return HAIR_MM * (np.cos(turns)[:, None] * first + np.sin(turns)[:, None] * second)


def sight(body: Body, points: np.ndarray, toward: np.ndarray) -> np.ndarray:
    """Say for each point whether it is seen: 0 hidden, 1 seen, 2 only a hair beside it is."""
    found = (covered(body, points, toward) < COVER_MM).astype(int)
    for hair in _around(toward):
        rest = np.flatnonzero(found == 0)
        if len(rest):
            found[rest] = 2 * (covered(body, points[rest] + hair, toward) < COVER_MM)
    return found


def _edges(shape: TopoDS_Shape) -> Iterator[BRepAdaptor_Curve]:
    seen = set()
    explorer = TopExp_Explorer(shape, TopAbs_ShapeEnum.TopAbs_EDGE)
    while explorer.More():
        edge = TopoDS.Edge(explorer.Current())
        explorer.Next()
        if BRep_Tool.Degenerated_s(edge) or hash(edge) in seen:
            continue
        seen.add(hash(edge))
        yield BRepAdaptor_Curve(edge)


def _steps(curve: BRepAdaptor_Curve) -> np.ndarray:
    """Return points along a kernel's curve, close enough for its length and its bends."""
    first, last = curve.FirstParameter(), curve.LastParameter()

    def at(t: np.ndarray) -> np.ndarray:
        points = [curve.Value(float(value)) for value in t]
        return np.array([(p.X(), p.Y(), p.Z()) for p in points])

    coarse = at(np.linspace(first, last, 33))
    ways = np.diff(coarse, axis=0)
    length = float(np.linalg.norm(ways, axis=1).sum())
    unit = ways / np.maximum(np.linalg.norm(ways, axis=1), 1e-12)[:, None]
    bend = float(np.arccos(np.clip((unit[1:] * unit[:-1]).sum(axis=1), -1, 1)).sum())
    return at(np.linspace(first, last, 2 + int(max(length / STEP_MM, bend / BEND))))


def _is_sharp(body: Body, curve: np.ndarray) -> bool:
    """Say whether the surface bends at an edge: a seam or a smooth joint halves a small circle."""
    turns = np.linspace(0, 2 * np.pi, 181)[:-1]
    votes = []
    for i in np.linspace(1, len(curve) - 2, 5).astype(int) if len(curve) > 4 else [len(curve) // 2]:
        along = curve[min(i + 1, len(curve) - 1)] - curve[i - 1]
        first = np.cross(along, [0.31, 0.52, 0.79])
        first /= np.linalg.norm(first)
        second = np.cross(along / np.linalg.norm(along), first)
        ring = np.cos(turns)[:, None] * first + np.sin(turns)[:, None] * second
        votes.append(abs(body.inside(curve[i] + 0.01 * ring).mean() - 0.5) > 0.02)
    return bool(np.mean(votes) > 0.5)


def _on_skin(body: Body, points: np.ndarray, toward: np.ndarray) -> np.ndarray:
    """Say which points of a primitive's outline are on the finished body's skin."""
    steps = np.gradient(points, axis=0)
    across = np.cross(steps, toward)
    across /= np.maximum(np.linalg.norm(across, axis=1), 1e-12)[:, None]
    return body.inside(points + 1e-3 * across) != body.inside(points - 1e-3 * across)


@dataclass(frozen=True)
class _Seen:
    """Paper polylines of what is seen: for certain, and by a hair."""

    surely: list[np.ndarray]
    hardly: list[np.ndarray]

    @property
    def all(self) -> list[np.ndarray]:
        return self.surely + self.hardly


def open_lines(body: Body, shape: TopoDS_Shape, picture: Picture) -> _Seen:
    """Return everything that is seen, overlaps and all."""
    toward, matrix = np.array(picture.view.toward_viewer), np.array(picture.view.matrix)
    curves = [points for points in map(_steps, _edges(shape)) if _is_sharp(body, points)]
    for _, primitive in body.steps:
        for curve in primitive.outlines(toward / np.linalg.norm(toward)):
            on_skin = _on_skin(body, curve, toward)
            curves += [curve[run] for run in _runs(on_skin) if len(run) > 1]
    points = np.vstack(curves)
    states = sight(body, points, toward)
    firsts = np.cumsum([0, *map(len, curves)])
    found = _Seen([], [])
    changes = np.flatnonzero(np.diff(states))
    changes = changes[~np.isin(changes + 1, firsts)]
    places = dict(
        zip(changes.tolist(), _changes(body, points, states, changes, toward), strict=True)
    )
    for first, last in pairwise(firsts):
        for run in np.split(
            np.arange(first, last), np.flatnonzero(np.diff(states[first:last])) + 1
        ):
            if states[run[0]]:
                before = [places[run[0] - 1][None]] if run[0] - 1 in places else []
                after = [places[run[-1]][None]] if run[-1] in places else []
                lines = found.surely if states[run[0]] == 1 else found.hardly
                lines.append(np.vstack([*before, points[run], *after]) @ matrix.T)
    return found


def _changes(
    body: Body, points: np.ndarray, states: np.ndarray, before: np.ndarray, toward: np.ndarray
) -> np.ndarray:
    """Return where the state changes between each point `before` and the next, by halving."""
    low, high = points[before].copy(), points[before + 1].copy()
    for _ in range(9):
        half = (low + high) / 2
        same = sight(body, half, toward) == states[before]
        low[same], high[~same] = half[same], half[~same]
    return (low + high) / 2


def _runs(mask: np.ndarray) -> list[np.ndarray]:
    if not len(mask):
        return []
    pieces = np.split(np.arange(len(mask)), np.flatnonzero(np.diff(mask)) + 1)
    return [run for run in pieces if mask[run[0]]]


def _midpoints(lines: list[np.ndarray]) -> tuple[np.ndarray, np.ndarray]:
    """Return the middles of all steps (n × 2) cut to at most 0.2 mm, and the steps' lengths."""
    middles, sizes = [np.empty((0, 2))], [np.empty(0)]
    for line in lines:
        for a, b in pairwise(line):
            size = float(np.hypot(*(b - a)))
            if size < 1e-9:
                continue
            count = int(size / 0.2) + 1
            t = (np.arange(count) + 0.5) / count
            middles.append(a + t[:, None] * (b - a))
            sizes.append(np.full(count, size / count))
    return np.vstack(middles), np.concatenate(sizes)


class _Lines:
    """Polylines to be asked for what lies near a point; long ones are kept in short pieces."""

    def __init__(self, lines: list[np.ndarray]) -> None:
        pieces, self._owners = [], []
        for owner, line in enumerate(lines):
            for start in range(0, len(line) - 1, 16):
                pieces.append(shapely.LineString(line[start : start + 17]))
                self._owners.append(owner)
        self._tree = shapely.STRtree(pieces)

    def count_within(self, points: np.ndarray, reach: float) -> np.ndarray:
        """Return how many of the lines pass within `reach` of each point."""
        found = self._tree.query(shapely.points(points), predicate="dwithin", distance=reach)
        pairs = np.unique(np.stack([found[0], np.array(self._owners, int)[found[1]]]), axis=1)
        return np.bincount(pairs[0], minlength=len(points))

    def gaps(self, points: np.ndarray) -> np.ndarray:
        """Return how far each point is from the nearest line."""
        gaps = np.full(len(points), np.inf)
        if len(self._tree):
            found = self._tree.query_nearest(
                shapely.points(points), return_distance=True, all_matches=False
            )
            gaps[found[0][0]] = found[1]
        return gaps


def _far(points: np.ndarray, sizes: np.ndarray, lines: _Lines) -> tuple[float, float]:
    """Return the total length of what lies off the lines, and its longest run."""
    runs = [float(sizes[run].sum()) for run in _runs(lines.gaps(points) > OFF_MM)]
    return sum(runs), max(runs, default=0.0)


def judge(body: Body, shape: TopoDS_Shape, picture: Picture) -> Verdict:
    """Compare a picture with what rays say is seen."""
    seen = open_lines(body, shape, picture)
    inked = [np.array(stroke.path) for stroke in picture.visible]
    ink_middles, ink_sizes = _midpoints(inked)
    extra, longest_extra = _far(ink_middles, ink_sizes, _Lines(seen.all))
    sure_middles, sure_sizes = _midpoints(seen.surely)
    missing, longest_missing = _far(sure_middles, sure_sizes, _Lines(inked))
    return Verdict(
        _length(seen), float(ink_sizes.sum()), missing, extra, longest_missing, longest_extra
    )


def _length(seen: _Seen) -> float:
    """Return the length seen; what falls on one line of paper counts once."""
    total = 0.0
    surely = _Lines(seen.surely)
    for lines in (seen.surely, seen.hardly):
        middles, sizes = _midpoints(lines)
        if not len(middles):
            continue
        weights = sizes / np.maximum(_Lines(lines).count_within(middles, SHARED_MM), 1)
        if lines is seen.hardly:
            # a line seen by a hair beside one that is surely seen is that same line
            weights[surely.count_within(middles, 2 * HAIR_MM) > 0] = 0.0
        total += float(weights.sum())
    return total
