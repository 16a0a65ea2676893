"""One line of a drawing drawn otherwise: what most contradictions come down to.

A scan or a photo, and a hurried hand, leave one end too long, one line out, one line firm that is
broken. Each such change of one line is a correction; those with which the views have one meaning
are offered, and none is taken by itself.
"""

from __future__ import annotations

import math
import time
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import combinations

import shapely

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.errors import HolopticError
from holoptic.reading.compare import SAME_LINE_MM, SHORTEST_MM, compare_view
from holoptic.reading.lines import Bow, DrawnLine, DrawnView, Shape, Straight
from holoptic.reading.planes import PLANES, canonical
from holoptic.reading.result import Answer, Correction, Reading
from holoptic.reading.tracks import enclosed
from holoptic.tolerance import NEAR_LINE_MM
from holoptic.units.spoken import figure

MOST_OFFERED = 3
_MOST_CLOSING = 6
"""So many lines that close an outline are tried in each view."""
_MOST_PAIRS = 400
"""So many pairs of ends are looked at for them: of a large drawing there are very many."""


@dataclass(frozen=True)
class Change:
    """One line of a view drawn otherwise, in the view's canonical coordinates (mm).

    `before` is the line as it was drawn, None for one that was left out; `after` are the lines in
    its place. `views` are all views with it, `path` is the line in the view's own coordinates.
    """

    view: str
    before: DrawnLine | None
    after: tuple[DrawnLine, ...]
    views: tuple[DrawnView, ...]
    path: tuple[Vec2, ...]

    @property
    def words(self) -> str:
        """What it changes, in words."""
        view, before, after = tr(self.view), self.before, self.after
        if before is None:
            return tr("{view} view: a {status} line that is not drawn, {place}", view=view,
                      status=tr(after[0].status), place=_place(after[0].shape))  # fmt: skip
        told = {"view": view, "status": tr(before.status), "place": _place(before.shape)}
        if not after:
            return tr("{view} view: the {status} line {place} left out", **told)
        if len(after) == 1 and _is_same(after[0].shape, before.shape):
            other = tr(after[0].status)
            return tr("{view} view: the {status} line {place} taken for {other}", **told,
                      other=other)  # fmt: skip
        places = ", ".join(_place(line.shape) for line in after)
        return tr("{view} view: the {status} line {place} drawn as {places}", **told, places=places)


def corrected(
    views: Sequence[DrawnView], near: Iterable[Answer],
    read: Callable[[tuple[DrawnView, ...], float], Reading], limit_s: float,
) -> tuple[Correction, ...]:  # fmt: skip
    """Return corrections of contradictory views with which they have one meaning, the most
    likely first; of those that come to the same part the first.

    `near` are parts that come near to what is drawn; `read` reads views within so many seconds.
    """
    found: list[Correction] = []
    end = time.monotonic() + limit_s
    for change in changes(views, near):
        left = end - time.monotonic()
        if left <= 0 or len(found) == MOST_OFFERED:
            break
        try:
            told = read(change.views, left)
        except (HolopticError, ValueError):
            continue
        if told.verdict == "unique" and not any(_same(told, one.reading) for one in found):
            found.append(Correction(change.view, change.path, change.words, change.views, told))
    return tuple(found)


def _same(one: Reading, other: Reading) -> bool:
    return one.answers[0].views == other.answers[0].views


def changes(views: Sequence[DrawnView], near: Iterable[Answer]) -> Iterator[Change]:
    """Yield changes of one line that may be meant, the most likely first: lines drawn as a near
    part shows them that differs there alone, and gaps of outlines closed, of open ones first.
    """
    own = [canonical(view) for view in views]
    for number, view in enumerate(own):
        if _is_open(view):
            yield from _closed(own, number)
    for answer in near:
        shown = list(_as_shown(own, answer))
        if len(shown) == 1:
            yield _changed(own, *shown[0])
    for number, view in enumerate(own):
        if not _is_open(view):
            yield from _closed(own, number)


_Edit = tuple[int, list[DrawnLine], DrawnLine | None, tuple[DrawnLine, ...]]
"""Number of a view, its lines afterwards, the line that changes and what stands instead."""


def _changed(
    views: list[DrawnView], number: int, lines: list[DrawnLine], before: DrawnLine | None,
    after: tuple[DrawnLine, ...],
) -> Change:  # fmt: skip
    made = replace(views[number], lines=tuple(lines))
    # turning round twice changes nothing
    turned = tuple(canonical(made if k == number else one) for k, one in enumerate(views))
    line = before or after[0]
    across, up = PLANES[made.name].turned
    _, _, xmax, ymax = made.box
    path = tuple((xmax - x if across else x, ymax - y if up else y) for x, y in line.shape.path())
    return Change(made.name, before, after, turned, path)


def _is_open(view: DrawnView) -> bool:
    """Say whether lines of a view enclose nothing."""
    drawn = shapely.union_all([shapely.LineString(line.shape.path()) for line in view.drawn])
    return bool(drawn.difference(enclosed(view).buffer(SAME_LINE_MM)).length > SHORTEST_MM)


def _closed(views: list[DrawnView], number: int) -> Iterator[Change]:
    for line in _closing(views[number]):
        yield _changed(views, number, [*views[number].lines, line], None, (line,))


def _closing(view: DrawnView) -> list[DrawnLine]:
    """Return lines from end to end with which the outline encloses more: what is left of an outer
    line that is missing or too short. Those between ends that meet little else come first.
    """
    paths = [shapely.LineString(line.shape.path()) for line in view.drawn]
    drawn = shapely.union_all(paths)
    area = enclosed(view).area
    ends = dict.fromkeys(_rounded(end) for x in view.drawn for end in (x.shape.start, x.shape.end))
    meeting = {end: sum(path.distance(shapely.Point(end)) < SAME_LINE_MM for path in paths)
               for end in ends}  # fmt: skip
    pairs = sorted(combinations(ends, 2), key=lambda ab: (meeting[ab[0]] + meeting[ab[1]],
                                                          math.dist(*ab)))  # fmt: skip
    found: list[DrawnLine] = []
    for a, b in pairs[:_MOST_PAIRS]:
        line = shapely.LineString((a, b))
        if line.length < SHORTEST_MM or line.crosses(drawn) or _lies_on(line, drawn):
            continue
        made = DrawnLine(Straight(a, b))
        more = enclosed(replace(view, lines=(*view.lines, made))).area - area
        if more > SHORTEST_MM * line.length:
            found.append(made)
        if len(found) == _MOST_CLOSING:
            break
    return found


def _rounded(place: Vec2) -> Vec2:
    return round(place[0], 4), round(place[1], 4)


def _lies_on(line: shapely.LineString, drawn: shapely.Geometry) -> bool:
    return bool(line.intersection(drawn.buffer(SAME_LINE_MM)).length > line.length / 2)


def _as_shown(views: list[DrawnView], answer: Answer) -> Iterator[_Edit]:
    """Yield each track on which a part has other lines, drawn as that part shows them; a track is
    all that lies on one carrier.
    """
    shown = {view.name: canonical(view) for view in answer.views if view.drawn}
    for number, view in enumerate(views):
        if view.name not in shown:
            continue
        twin = shown[view.name]
        tracks: list[Shape] = []
        for difference in compare_view(view, twin):
            line = _line_at(twin if difference.kind == "missing" else view, difference.path)
            if line is not None and not any(_on_track(one, line.shape) for one in tracks):
                tracks.append(line.shape)
        for track in tracks:
            there = [x for x in view.drawn if _on_track(track, x.shape)]
            instead = tuple(x for x in twin.drawn if _on_track(track, x.shape))
            kept = [line for line in view.lines if line not in there]
            before = next((x for x in there if not _is_among(x, instead)), None)
            after = tuple(x for x in instead if not _is_among(x, there))
            if before or after:
                yield number, [*kept, *instead], before, after


def _is_among(line: DrawnLine, others: Sequence[DrawnLine]) -> bool:
    return any(line.status == x.status and _is_same(line.shape, x.shape) for x in others)


def _is_same(one: Shape, other: Shape) -> bool:
    """Say whether two shapes are one, maybe the other way round."""
    paths = [shapely.LineString(shape.path()) for shape in (one, other)]
    return bool(paths[0].hausdorff_distance(paths[1]) < SAME_LINE_MM)


def _line_at(view: DrawnView, path: Sequence[Vec2]) -> DrawnLine | None:
    """Return the line of a view that a path lies on, by the middle of the path."""
    if len(path) < 2:
        return None
    middle = shapely.LineString(path).interpolate(0.5, normalized=True)
    near = min(
        view.drawn, key=lambda x: shapely.LineString(x.shape.path()).distance(middle), default=None
    )
    if near is None or shapely.LineString(near.shape.path()).distance(middle) > SAME_LINE_MM:
        return None
    return near


def _on_track(track: Shape, shape: Shape) -> bool:
    """Say whether a shape has the carrier of another: the same line, or the same circle."""
    if isinstance(track, Straight) and isinstance(shape, Straight):
        return all(_off(track, end) < SAME_LINE_MM for end in (shape.start, shape.end))
    if isinstance(track, Bow) and isinstance(shape, Bow):
        apart = math.dist(track.centre, shape.centre)
        return apart + abs(track.radius - shape.radius) < SAME_LINE_MM
    return track == shape


def _off(line: Straight, place: Vec2) -> float:
    """Return how far a place lies beside the carrier of a line."""
    (ax, ay), (bx, by) = line.start, line.end
    length = math.dist(line.start, line.end)
    if length < NEAR_LINE_MM:
        return math.dist(line.start, place)
    return abs((bx - ax) * (place[1] - ay) - (by - ay) * (place[0] - ax)) / length


def _place(shape: Shape) -> str:
    if isinstance(shape, Bow) and shape.is_closed:
        x, y = (figure(round(value, 3)) for value in shape.centre)
        return tr("about ({x}, {y})", x=x, y=y)
    x, y, u, v = (figure(round(value, 3)) for value in (*shape.start, *shape.end))
    return tr("from ({x}, {y}) to ({u}, {v})", x=x, y=y, u=u, v=v)
