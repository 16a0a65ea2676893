"""The border about a sheet's views, and what hangs on it: a title block, marks, a second line."""

from __future__ import annotations

from collections.abc import Sequence

import shapely

from holoptic.linked import group_numbers
from holoptic.reading.lines import Box, DrawnLine, Straight, box_of

_ON_SIDE_MM = 0.3
_TOUCH_MM = 0.05
_COVERED = 0.97
"""Share of each side of a box along which a border's line must run."""
_FEWEST_WITHIN = 2
_MOST_BORDERS = 4


def without_frames(lines: Sequence[DrawnLine]) -> list[DrawnLine]:
    """Return lines without a border that runs all around them, and without all that touches it.

    A view is no border: others stand beside it.
    """
    left = list(lines)
    for _ in range(_MOST_BORDERS):
        groups = _groups(left)
        border = _border(left, groups)
        if border is None:
            break
        left = [line for line, group in zip(left, groups, strict=True) if group != border]
    return left


def _border(lines: Sequence[DrawnLine], groups: Sequence[int]) -> int | None:
    """Return the group of lines that holds a border about all others, None where there is none."""
    drawn = [line.shape for line in lines if line.status != "centre"]
    if not drawn:
        return None
    box = box_of(drawn)
    sides = [_on_sides(line, box) for line in lines]
    found = {group for group, side in zip(groups, sides, strict=True) if side}
    for group in found:
        own = [line for line, g in zip(lines, groups, strict=True) if g == group]
        others = {g for line, g in zip(lines, groups, strict=True)
                  if g != group and line.status != "centre"}  # fmt: skip
        if len(others) >= _FEWEST_WITHIN and all(_is_covered(own, box, k) for k in range(4)):
            return group
    return None


def _on_sides(line: DrawnLine, box: Box) -> bool:
    return any(_span_on(line, box, side) is not None for side in range(4))


def _span_on(line: DrawnLine, box: Box, side: int) -> tuple[float, float] | None:
    """Return where along a side of a box (left, bottom, right, top) a line runs."""
    if line.status == "centre" or not isinstance(line.shape, Straight):
        return None
    axis = side % 2
    ends = line.shape.start, line.shape.end
    if any(abs(end[axis] - box[side]) > _ON_SIDE_MM for end in ends):
        return None
    low, high = sorted(end[1 - axis] for end in ends)
    return low, high


def _is_covered(lines: Sequence[DrawnLine], box: Box, side: int) -> bool:
    axis = 1 - side % 2
    spans = sorted(span for line in lines if (span := _span_on(line, box, side)) is not None)
    covered, at = 0.0, box[axis]
    for low, high in spans:
        covered += max(0.0, high - max(low, at))
        at = max(at, high)
    return covered >= _COVERED * (box[axis + 2] - box[axis])


def _groups(lines: Sequence[DrawnLine]) -> list[int]:
    """Return for each line the number of the group that hangs together with it."""
    paths = [shapely.LineString(line.shape.path()) for line in lines]
    tree = shapely.STRtree(paths)
    pairs = tree.query(paths, "dwithin", _TOUCH_MM).T
    found: list[int] = group_numbers(len(paths), pairs).tolist()
    return found
