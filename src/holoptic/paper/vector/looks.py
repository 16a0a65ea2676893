"""How the lines of a page are meant: visible, hidden, centre, or no line of the part at all.

Dashes tell hidden lines, chains centre lines; of solid lines the thick ones are visible, the thin
ones belong to dimensions, and where all are alike, those with arrowheads and what they end on do.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from holoptic.paper.vector.page import Look, Stroke
from holoptic.reading.lines import Box, DrawnLine, Status, Straight, box_of
from holoptic.reading.sketch import LineGroup

Key = tuple[str, str, int]
_THIN = 0.75
"""Solid lines thinner than the thick ones by this are no edges."""
_WEIGHTY = 0.12
"""Share of the solid lines that the thick ones are at least."""
_CHAIN = 4
_ALL_ALONG, _BORDER_MM = 0.5, 12.0
"""A border's line is as long as that share of the sheet, and no further inside."""
_HEAD_MM, _ON_MM, _BEYOND_MM = 0.35, 0.3, 5.0


@dataclass(frozen=True)
class Told:
    """The lines of a page that are the part's, and those that are not; how they look in groups."""

    lines: tuple[DrawnLine, ...]
    thin: tuple[Straight, ...]
    groups: tuple[LineGroup, ...]


def key_of(look: Look) -> Key:
    """Return by what lines that look alike are told: width, dashes, colour."""
    dashes = "solid" if not look.dashes else "chain" if len(look.dashes) >= _CHAIN else "dashed"
    return f"{look.width:.2f} mm", dashes, look.colour


def tell(
    strokes: Sequence[Stroke], filled: Sequence[Box], taken: dict[Key, Status] | None = None
) -> Told:
    """Return which lines of a page are the part's, and how each is meant; `taken` says so of
    groups.
    """
    least = _least_width(strokes)
    aside = set(_with_arrows(strokes, filled)) if least == 0.0 else set[int]()
    lines: list[DrawnLine] = []
    thin: list[Straight] = []
    counts: dict[Key, int] = defaultdict(int)
    statuses: dict[Key, Status] = {}
    for number, stroke in enumerate(strokes):
        key, look = key_of(stroke.look), stroke.look
        is_aside = number in aside or (not look.dashes and look.width < least)
        if is_aside and key not in (taken or {}):
            if isinstance(stroke.shape, Straight):
                thin.append(stroke.shape)
            continue
        status = (taken or {}).get(key) or _status(look)
        counts[key] += 1
        statuses[key] = status
        lines.append(DrawnLine(stroke.shape, status))
    groups = tuple(LineGroup(*key, counts[key], statuses[key], True) for key in sorted(counts))
    return Told(tuple(lines), tuple(thin), groups)


def _status(look: Look) -> Status:
    if not look.dashes:
        return "visible"
    return "centre" if len(look.dashes) >= _CHAIN else "hidden"


def _least_width(strokes: Sequence[Stroke]) -> float:
    """Return from which width on solid lines are edges; 0 where all are alike."""
    lengths: dict[float, float] = defaultdict(float)
    border = _border(strokes)
    for number, stroke in enumerate(strokes):
        if not stroke.look.dashes and number not in border:
            path = stroke.shape.path()
            lengths[stroke.look.width] += sum(math.dist(a, b) for a, b in pairwise(path))
    total = sum(lengths.values())
    thick = max((w for w, long in lengths.items() if long > _WEIGHTY * total), default=0.0)
    is_told = any(width < _THIN * thick for width in lengths)
    return _THIN * thick if is_told else 0.0


def _border(strokes: Sequence[Stroke]) -> set[int]:
    """Return the numbers of the strokes that run along the outside of all: those of a border."""
    if not strokes:
        return set()
    outside = box_of([stroke.shape for stroke in strokes])
    found = set()
    for number, stroke in enumerate(strokes):
        box = box_of([stroke.shape])
        for axis in (0, 1):
            long = box[axis + 2] - box[axis] > _ALL_ALONG * (outside[axis + 2] - outside[axis])
            low, high = box[1 - axis], box[3 - axis]
            is_out = (abs(high - outside[1 - axis]) < _BORDER_MM
                      or abs(low - outside[3 - axis]) < _BORDER_MM)  # fmt: skip
            if long and is_out and isinstance(stroke.shape, Straight):
                found.add(number)
    return found


def _with_arrows(strokes: Sequence[Stroke], filled: Sequence[Box]) -> list[int]:
    """Return the numbers of dimension lines, which end in arrowheads, and of what they end on."""
    straight = [(k, s.shape) for k, s in enumerate(strokes)
                if isinstance(s.shape, Straight) and not s.look.dashes]  # fmt: skip
    sizes = [
        (k, line) for k, line in straight
        if any(_is_in(end, box) for end in (line.start, line.end) for box in filled)
    ]  # fmt: skip
    found = {k for k, _ in sizes}
    for k, line in straight:
        if k not in found and any(_ends_on(size, line) for _, size in sizes):
            found.add(k)
    return sorted(found)


def _is_in(place: tuple[float, float], box: Box) -> bool:
    return (box[0] - _HEAD_MM <= place[0] <= box[2] + _HEAD_MM
            and box[1] - _HEAD_MM <= place[1] <= box[3] + _HEAD_MM)  # fmt: skip


def _ends_on(size: Straight, line: Straight) -> bool:
    """Say whether a dimension line ends on a line across it, little before that one's own end."""
    (ax, ay), (bx, by) = line.start, line.end
    long = math.dist(line.start, line.end)
    if long < _ON_MM:
        return False
    way = (bx - ax) / long, (by - ay) / long
    run = (size.end[0] - size.start[0]) * way[0] + (size.end[1] - size.start[1]) * way[1]
    if abs(run) > 0.1 * math.dist(size.start, size.end):
        return False
    for x, y in (size.start, size.end):
        along = (x - ax) * way[0] + (y - ay) * way[1]
        off = abs((y - ay) * way[0] - (x - ax) * way[1])
        beyond = min(along, long - along)
        if off < _ON_MM and 0.0 < beyond < _BEYOND_MM:
            return True
    return False
