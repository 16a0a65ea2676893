"""Figures in the picture of a flat sheet: small lumps of ink in a row, read one row at a time."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import combinations

import cv2
import numpy as np
from numpy.typing import NDArray

from holoptic.paper.figures import Figure
from holoptic.paper.offers import Lie
from holoptic.paper.scan.ink import PER_MM, Ink
from holoptic.paper.scan.recogniser import guess

_LEAST_MM, _MOST_MM = 1.2, 5.2
"""How high letters are."""
_LONE = 0.45
"""How wide a letter is at least that stands alone, in heights."""
_APART, _ALIKE, _IN_LINE = 0.75, 1.7, 0.45
"""How far letters of a row stand apart at most, how much higher one is than another, and which
share of the lower one stands beside the higher one: in heights.
"""
_POINT = 0.36
_MARGIN = 0.22
_REACH_MM = 0.15
_MOST_ROWS = 120
_SURE = 0.6
_FIGURE = re.compile(r"^[R⌀]?\d{1,4}(\.\d{1,2})?(\+\d{1,4}(\.\d{1,2})?)?°?$")
_DIAMETER = re.compile(r"^[0Φ](?=[1-9])")
"""No figure begins with nought and another: it is the sign of a diameter."""
_MEANT = str.maketrans({",": ".", "O": "0", "o": "0", " ": "", "r": "R"})


@dataclass(frozen=True)
class _Lump:
    """A lump of ink by its number, box and size along and across the way that is read, mm."""

    number: int
    low: float
    high: float
    under: float
    over: float

    @property
    def size(self) -> float:
        """How high it is as a letter."""
        return self.over - self.under


def figures_of(ink: Ink, is_wanted: Callable[[Figure], bool], lies: Lie = "") -> list[Figure]:
    """Return the figures on a flat sheet that are read with some sureness (mm, Y down still).

    Rows lie level, or are read from the right; what stands alone is taken for level. Reading takes
    its time, so `is_wanted` is asked of each row first. On a sheet that `lies` mirrored or upside
    down each row is read so, where it stands.
    """
    found = []
    for strip, place in _strips(ink, is_wanted):
        text = _read(_turned(strip, place.turn, lies))
        if text:
            found.append(replace(place, text=text))
    return found


def _turned(strip: NDArray[np.float32], turn: float, lies: Lie) -> NDArray[np.float32]:
    """Return a strip as it would lie on a sheet that lies well."""
    if lies in ("upside down", "turned over"):
        strip = np.rot90(strip, 2)
    if lies in ("mirrored", "turned over"):
        # left and right of the sheet are over and under of what stands upright
        strip = np.flipud(strip) if turn else np.fliplr(strip)
    return np.ascontiguousarray(strip)


def _read(strip: NDArray[np.float32]) -> str:
    """Return the figure on a strip of paper; empty for none, or one that is not sure."""
    read = guess(strip)
    text = _DIAMETER.sub("⌀", read.text.translate(_MEANT))
    return text if read.sureness >= _SURE and _FIGURE.match(text) else ""


def _strips(
    ink: Ink, is_wanted: Callable[[Figure], bool]
) -> Iterator[tuple[NDArray[np.float32], Figure]]:
    """Yield the paper about each row of letters that is wanted, and where it stands."""
    _, labels, stats, _ = cv2.connectedComponentsWithStats(ink.mask, connectivity=8)
    boxes = stats[:, :4] / PER_MM
    rows = [(row, turn) for turn in (0.0, 90.0) for row in _rows(boxes, turn)]
    wanted = [(row, place) for row, turn in _larger(rows)
              if is_wanted(place := _placed(boxes, row, turn))]  # fmt: skip
    for row, place in wanted[:_MOST_ROWS]:
        yield _strip(ink, labels, boxes, row, place.turn), place


def _placed(boxes: NDArray[np.float64], row: Sequence[int], turn: float) -> Figure:
    """Return where a row stands, as a figure that says nothing yet."""
    own = boxes[list(row)]
    low, high = own[:, :2].min(axis=0), (own[:, :2] + own[:, 2:]).max(axis=0)
    middle = (low + high) / 2
    size = high - low
    return Figure("", (float(middle[0]), float(middle[1])), float(size[0 if turn else 1]), turn)


# --- rows of letters --------------------------------------------------------------------------


def _rows(boxes: NDArray[np.float64], turn: float) -> Iterator[tuple[int, ...]]:
    lumps = [_lump(k, box, turn) for k, box in enumerate(boxes) if k and max(box[2:]) < _MOST_MM]
    letters = [one for one in lumps if one.size >= _LEAST_MM]
    points = [one for one in lumps if one.size < _LEAST_MM]
    for row in _joined(letters):
        size = max(one.size for one in row)
        if len(row) == 1 and row[0].high - row[0].low < _LONE * size:
            continue  # a dash, or the like
        low, high = min(one.low for one in row), max(one.high for one in row)
        under, over = min(one.under for one in row), max(one.over for one in row)
        marks = [
            one.number for one in points
            if max(one.size, one.high - one.low) < _POINT * size * 1.6
            and low - 0.2 * size < one.low and one.high < high + 0.5 * size
            and under - 0.3 * size < one.under and one.over < over + 0.3 * size
        ]  # fmt: skip
        yield tuple(one.number for one in row) + tuple(marks)


def _lump(number: int, box: NDArray[np.float64], turn: float) -> _Lump:
    x, y, wide, high = (float(value) for value in box)
    return _Lump(number, y, y + high, x, x + wide) if turn else _Lump(
        number, x, x + wide, y, y + high)  # fmt: skip


def _joined(letters: Sequence[_Lump]) -> list[list[_Lump]]:
    """Return letters by rows."""
    row_of = {one.number: [one] for one in letters}
    ordered = sorted(letters, key=lambda one: one.low)
    for k, one in enumerate(ordered):
        for other in ordered[k + 1 :]:
            if other.low - one.high > _APART * _MOST_MM:
                break
            if row_of[one.number] is not row_of[other.number] and _are_beside(one, other):
                whole = row_of[one.number] + row_of[other.number]
                for each in whole:
                    row_of[each.number] = whole
    return list({id(row): row for row in row_of.values()}.values())


def _are_beside(one: _Lump, other: _Lump) -> bool:
    small, large = sorted((one.size, other.size))
    gap = max(one.low, other.low) - min(one.high, other.high)
    beside = min(one.over, other.over) - max(one.under, other.under)
    return large < _ALIKE * small and gap < _APART * small and beside > _IN_LINE * small


def _larger(rows: list[tuple[tuple[int, ...], float]]) -> list[tuple[tuple[int, ...], float]]:
    """Return rows without those that lie in a larger one read the other way; level ones first."""
    dropped = set()
    for (i, (one, _)), (j, (other, _)) in combinations(enumerate(rows), 2):
        if set(one) & set(other):
            dropped.add(j if len(one) >= len(other) else i)
    return [row for k, row in enumerate(rows) if k not in dropped]


def _strip(
    ink: Ink, labels: NDArray[np.int32], boxes: NDArray[np.float64], row: Sequence[int], turn: float
) -> NDArray[np.float32]:
    """Return the paper about a row, upright, with nothing on it but the row."""
    own = boxes[list(row)]
    low, high = own[:, :2].min(axis=0), (own[:, :2] + own[:, 2:]).max(axis=0)
    margin = _MARGIN * float(high[0] - low[0] if turn else high[1] - low[1])
    x, y = (max(0, round((v - margin) * PER_MM)) for v in low)
    u, v = (round((w + margin) * PER_MM) for w in high)
    room = labels[y:v, x:u]
    reach = round(_REACH_MM * PER_MM)
    mine = cv2.dilate(np.isin(room, row).astype(np.uint8), np.ones((2 * reach + 1,) * 2, np.uint8))
    paper = (1.0 - np.clip(ink.dark[y:v, x:u] * mine, 0.0, 1.0)).astype(np.float32)
    return np.ascontiguousarray(np.rot90(paper, -1)) if turn else paper
