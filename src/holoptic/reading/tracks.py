"""Which single track of a contradictory drawing may be wrong: all that lies on one line of a view.

The demands of a track are left out, and it is asked whether the others can hold together. What
can be full and empty then tells how the track has to be drawn: an end elsewhere, a line that was
left out, firm for broken.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely
from pysat.solvers import Cadical153

from holoptic.reading.answers import Filling, nearest
from holoptic.reading.clauses import Clause, Writer
from holoptic.reading.columns import Demand
from holoptic.reading.compare import SHORTEST_MM
from holoptic.reading.lines import DrawnLine, DrawnView, Straight
from holoptic.reading.planes import PLANES
from holoptic.reading.space import Space, ViewSpace
from holoptic.tolerance import COINCIDENT_MM

_ASIDE = ("free", "switch")
"""Demands that lie only near what they mean: they can be wrong by themselves."""
_SECONDS = 2.0


@dataclass(frozen=True)
class Track:
    """A line of a view: level or upright at a place, or else the line of the view by its number."""

    depth: int
    axis: int | None
    at: float


def loosened(space: Space, demands: Sequence[Demand]) -> Iterator[Filling]:
    """Yield, for each track without which the rest can hold, the filling that keeps most of it:
    those first that need the fewest changes.
    """
    clauses, tracks = _written(space, demands)
    found: list[tuple[int, int, int, Filling]] = []
    for track in _loose(space.count, clauses, tracks):
        kept = [
            clause if clause.source >= 0 and tracks[clause.source] in (track, None)
            else replace(clause, source=-1)
            for clause in clauses
        ]  # fmt: skip
        near = nearest(kept, space.count, [1] * len(demands), space.neighbours(), _SECONDS)
        if near is not None:
            broken = sum(tracks[source] == track for source in near.broken)
            found.append((broken, len(near.broken), len(found), near.filling))
    for *_, filling in sorted(found, key=lambda one: one[:3]):
        yield filling[: space.sampled]


def on_all_tracks(views: Sequence[DrawnView], breaks: Sequence[np.ndarray]) -> list[DrawnView]:
    """Return canonical views with broken lines added wherever a level or upright line can be: on
    all breaks, within the outline. They come after the lines that are drawn.
    """
    return [_on_all_tracks(view, breaks) for view in views]


def _on_all_tracks(view: DrawnView, breaks: Sequence[np.ndarray]) -> DrawnView:
    inside = enclosed(view)
    xmin, ymin, xmax, ymax = view.box
    across, up = PLANES[view.name].axes
    carriers = [((x, ymin), (x, ymax)) for x in breaks[across].tolist() if xmin < x < xmax]
    carriers += [((xmin, y), (xmax, y)) for y in breaks[up].tolist() if ymin < y < ymax]
    added = []
    for carrier in carriers:
        within = shapely.LineString(carrier).intersection(inside)
        for part in getattr(within, "geoms", [within]):
            if part.geom_type == "LineString" and part.length > SHORTEST_MM:
                start, *_, end = [(float(x), float(y)) for x, y in part.coords]
                added.append(DrawnLine(Straight(start, end), "hidden"))
    return replace(view, lines=(*view.lines, *added))


def enclosed(view: DrawnView) -> shapely.Geometry:
    """Return what the lines of a view enclose, mm²."""
    drawn = shapely.union_all([shapely.LineString(line.shape.path()) for line in view.drawn])
    return shapely.union_all(list(shapely.polygonize([drawn]).geoms))


def as_drawn(demands: Sequence[Demand], counts: dict[int, int]) -> list[Demand]:
    """Return demands of views on all tracks as what is drawn demands them: the lines from the count
    on of the view along each depth were added, so nothing is drawn there.
    """
    return [
        replace(demand, seen="absent", lines=())
        if demand.lines and min(demand.lines) >= counts[demand.depth] else demand
        for demand in demands
    ]  # fmt: skip


def _written(
    space: Space, demands: Sequence[Demand]
) -> tuple[list[Clause], dict[int, Track | None]]:
    """Return the clauses of demands, and the track of each demand; None where it may be wrong."""
    tracks = {number: _track_of(space, demand) for number, demand in enumerate(demands)}
    groups: dict[Track | None, list[int]] = {}
    for number, track in tracks.items():
        groups.setdefault(track, []).append(number)
    writer = Writer(space.count)
    for numbers in groups.values():
        writer.forget()  # what two tracks say both holds where one of them is left out
        for number in numbers:
            writer.write(demands[number], number)
    return writer.clauses, tracks


def _track_of(space: Space, demand: Demand) -> Track | None:
    if demand.sort in _ASIDE:
        return None
    view = space.views[demand.depth]
    if not demand.lines:
        return _break_at(view, demand)
    number = min(demand.lines)
    shape = view.view.lines[number].shape
    if isinstance(shape, Straight):
        for axis in (0, 1):
            if abs(shape.start[axis] - shape.end[axis]) < COINCIDENT_MM:
                return Track(demand.depth, axis, _on_break(view, axis, shape.start[axis]))
    return Track(demand.depth, None, number)


def _break_at(view: ViewSpace, demand: Demand) -> Track:
    """Return the break that a place lies on where nothing is drawn."""
    off = [float(np.abs(view.faces.breaks[k] - demand.place[k]).min()) for k in (0, 1)]
    axis = 0 if off[0] <= off[1] else 1
    return Track(demand.depth, axis, _on_break(view, axis, demand.place[axis]))


def _on_break(view: ViewSpace, axis: int, value: float) -> float:
    breaks = view.faces.breaks[axis]
    return float(breaks[np.abs(breaks - value).argmin()])


def _loose(cells: int, clauses: Sequence[Clause], tracks: dict[int, Track | None]) -> list[Track]:
    """Return the tracks without whose demands all others can hold."""
    asked = list(dict.fromkeys(track for track in tracks.values() if track is not None))
    top = max((abs(x) for clause in clauses for x in clause.literals), default=cells)
    selector = {track: top + 1 + k for k, track in enumerate(asked)}
    with Cadical153() as solver:
        solver.add_clause(list(range(1, cells + 1)))  # something is there
        for clause in clauses:
            track = tracks[clause.source] if clause.source >= 0 else None
            if clause.source < 0:
                solver.add_clause(list(clause.literals))
            elif track is not None:
                solver.add_clause([*clause.literals, -selector[track]])
        everything = list(selector.values())
        if solver.solve(assumptions=everything):
            return []  # what contradicts may be wrong by itself
        core = set(solver.get_core() or ())
        return [
            track for track in asked
            if selector[track] in core
            and solver.solve(assumptions=[v for v in everything if v != selector[track]])
        ]  # fmt: skip
