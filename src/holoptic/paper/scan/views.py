"""Which of the lines on a flat sheet belong to a view: boxes proposed, or as they were given."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

from holoptic.paper.scan.roles import Found
from holoptic.reading.lines import Box, Straight, box_of

_APART_MM = 3.5
_LEAST_MM = 4.0
_AT_BORDER_MM = 1.2
_AROUND_MM = 2.0
_FEWEST_LINES = 3
_MOST = 6
_SHORT_MM = 12.0
_CRUMB_MM = 0.3
_LONG_SHARE = 0.35


def proposed_boxes(lines: Sequence[Found], size: tuple[float, float]) -> list[Box]:
    """Return boxes about lumps of visible lines (mm), the largest first; what hangs on the border
    of the sheet of a size is none.
    """
    lumps: list[tuple[Box, int]] = []
    for line in lines:
        if line.role == "visible":
            lumps = _with(lumps, box_of([line.shape]), 1)
    wide, high = size
    boxes = [
        box for box, count in lumps
        if min(box[2] - box[0], box[3] - box[1]) > _LEAST_MM
        and (count >= _FEWEST_LINES or _holds_round(lines, box)) and _holds_long(lines, box)
        and not (box[0] < _AT_BORDER_MM or box[1] < _AT_BORDER_MM
                 or box[2] > wide - _AT_BORDER_MM or box[3] > high - _AT_BORDER_MM)
    ]  # fmt: skip
    boxes.sort(key=lambda box: -(box[2] - box[0]) * (box[3] - box[1]))
    return boxes[:_MOST]


def _holds_long(lines: Sequence[Found], box: Box) -> bool:
    """Say whether some visible line is long beside a lump: letters are many and short."""
    side = max(box[2] - box[0], box[3] - box[1])
    for line in lines:
        if line.role == "visible" and is_within(line, box):
            own = box_of([line.shape])
            if max(own[2] - own[0], own[3] - own[1]) > _LONG_SHARE * side:
                return True
    return False


def _holds_round(lines: Sequence[Found], box: Box) -> bool:
    return any(not isinstance(line.shape, Straight) and line.role == "visible"
               and is_within(line, box) for line in lines)  # fmt: skip


def lines_in(lines: Sequence[Found], box: Box) -> list[Found]:
    """Return the lines of a view that a box is drawn about, thin ones only where they are short."""
    return [line for line in lines if is_within(line, box) and (
        line.role != "thin" or (isinstance(line.shape, Straight)
        and math.dist(line.shape.start, line.shape.end) < _SHORT_MM)
    )]  # fmt: skip


def held_within(lines: Sequence[Found], box: Box) -> list[Found]:
    """Return the lines of a view with its hidden ones cut off at its outer sides: beyond them an
    extension line goes on where a hidden edge ends, no thicker than that.
    """
    kept = []
    for line in lines:
        if line.role == "hidden" and line.axis is not None and isinstance(line.shape, Straight):
            cut = _cut(line.shape, line.axis, box)
            if cut is not None:
                kept.append(replace(line, shape=cut))
        else:
            kept.append(line)
    return kept


def _cut(line: Straight, k: int, box: Box) -> Straight | None:
    low, high = (min(max(end[k], box[k]), box[k + 2]) for end in (line.start, line.end))
    if abs(high - low) < _CRUMB_MM:
        return None
    ends = [(at, end[1]) if k == 0 else (end[0], at)
            for at, end in ((low, line.start), (high, line.end))]  # fmt: skip
    return Straight(ends[0], ends[1])


def is_within(line: Found, box: Box) -> bool:
    """Say whether the middle of a line lies in a box, or little beside it."""
    own = box_of([line.shape])
    x, y = (own[0] + own[2]) / 2, (own[1] + own[3]) / 2
    return (box[0] - _AROUND_MM < x < box[2] + _AROUND_MM
            and box[1] - _AROUND_MM < y < box[3] + _AROUND_MM)  # fmt: skip


def _with(lumps: list[tuple[Box, int]], box: Box, count: int) -> list[tuple[Box, int]]:
    apart = []
    for other, own in lumps:
        if _touch(box, other):
            box = (min(box[0], other[0]), min(box[1], other[1]),
                   max(box[2], other[2]), max(box[3], other[3]))  # fmt: skip
            count += own
        else:
            apart.append((other, own))
    if len(apart) == len(lumps):
        return [*apart, (box, count)]
    return _with(apart, box, count)


def _touch(a: Box, b: Box) -> bool:
    return (a[0] - _APART_MM < b[2] and b[0] - _APART_MM < a[2]
            and a[1] - _APART_MM < b[3] and b[1] - _APART_MM < a[3])  # fmt: skip
