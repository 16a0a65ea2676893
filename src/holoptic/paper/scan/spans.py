"""Dimension lines in a picture: thin lines that reach from one extension line to the next."""

from __future__ import annotations

from collections.abc import Sequence

from holoptic.curves.vectors import Vec2
from holoptic.paper.scan.roles import Found
from holoptic.reading.lines import Straight

_HEAD_MM = 4.2
"""An arrowhead is thick, so the thin line is found without it."""
_OVER_MM = 0.8
_FLAT_MM = 0.5
_FEW = 3


def dimension_lines(lines: Sequence[Found]) -> list[Straight]:
    """Return the thin lines of a sheet along its sides, each as far as the line across that its
    heads point to; of a sheet drawn with one pen all lines.
    """
    along = [line for line in lines if line.axis is not None and isinstance(line.shape, Straight)]
    thin = [line for line in along if line.role == "thin"]
    some = thin if len(thin) >= _FEW else [x for x in along if x.role in ("thin", "visible")]
    return [_reaching(line, along) for line in some]


def _reaching(line: Found, others: Sequence[Found]) -> Straight:
    k = line.axis
    assert k is not None
    assert isinstance(line.shape, Straight)
    at = (line.shape.start[1 - k] + line.shape.end[1 - k]) / 2
    low, high = sorted((line.shape.start[k], line.shape.end[k]))
    across = [_across(other, k, at) for other in others if other.axis == 1 - k]
    places = [place for place in across if place is not None]
    first = min((p for p in places if -_OVER_MM < low - p < _HEAD_MM),
                key=lambda p: abs(low - p), default=low)  # fmt: skip
    last = min((p for p in places if -_OVER_MM < p - high < _HEAD_MM),
               key=lambda p: abs(p - high), default=high)  # fmt: skip
    return Straight(_place(k, first, at), _place(k, last, at))


def _across(line: Found, k: int, at: float) -> float | None:
    """Return where a line across comes by a dimension line at a height, None where it does not."""
    assert isinstance(line.shape, Straight)
    (x, y), (u, v) = line.shape.start, line.shape.end
    ends = sorted((y, v) if k == 0 else (x, u))
    if not ends[0] - _FLAT_MM < at < ends[1] + _FLAT_MM:
        return None
    return (x + u) / 2 if k == 0 else (y + v) / 2


def _place(k: int, along: float, across: float) -> Vec2:
    return (along, across) if k == 0 else (across, along)
