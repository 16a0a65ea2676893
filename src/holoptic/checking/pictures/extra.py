"""Ink that no stroke and no construction explains."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from holoptic.checking.causes import Slips
from holoptic.checking.pictures.border import AROUND_MM
from holoptic.checking.pictures.evidence import Evidence
from holoptic.checking.pictures.measure import FlatSheet
from holoptic.checking.report import Extra, StrokeFound
from holoptic.curves.vectors import Vec2
from holoptic.plan.drafter import Drafter
from holoptic.plan.moves import FRAME

_PER_MM = 5.0
_LEAST_MM = 4.0
_WIDE_MM = 2.0
_BORDER_MM = 3.0
_FIRM = 0.45
_STRAIGHT = 3.0


def extra_ink(
    sheet: FlatSheet, evidence: Evidence, slips: Slips, strokes: Sequence[StrokeFound]
) -> Iterator[Extra]:
    """Yield lines as strong as firm strokes, apart from all that is planned or was found."""
    traced = evidence.suspects.traced
    share = _PER_MM / sheet.per_mm
    size = round(sheet.dark.shape[1] * share), round(sheet.dark.shape[0] * share)
    small = cv2.resize(sheet.dark, size, interpolation=cv2.INTER_AREA)
    least = max(sheet.least, _FIRM * min(0.9, evidence.firm * _PER_MM / 2))
    mask = (small > least).astype(np.uint8)
    cover = _Cover(mask.shape)
    width, height = traced.inner
    cover.line([(0, 0), (width, 0), (width, height), (0, height), (0, 0)], _BORDER_MM)
    cover.beyond(width, height)
    for xmin, ymin, xmax, ymax in traced.elsewhere:
        cover.box([(xmin, ymin), (xmax, ymin), (xmax, ymax), (xmin, ymax)])
    for stroke in strokes:
        cover.line(stroke.meant, _WIDE_MM)
        if stroke.path:
            cover.line(stroke.path, _WIDE_MM)
    _cover_rest(cover, traced.meant)
    sheets = evidence.suspects.sheets([slips])
    for name in traced.meant.lines:
        if name in sheets.lines and len(slips):
            continue
        cover.line(traced.meant.drawn_span(name), _WIDE_MM / 2)
    mask[cover.mask > 0] = 0
    count, _, stats, _ = cv2.connectedComponentsWithStats(mask, connectivity=8)
    labels = cv2.connectedComponents(mask, connectivity=8)[1]
    for number in range(1, count):
        if max(stats[number, cv2.CC_STAT_WIDTH], stats[number, cv2.CC_STAT_HEIGHT]) < (
            _LEAST_MM * _PER_MM * 0.7
        ):
            continue
        found = _line_of(np.argwhere(labels == number), mask.shape[0])
        if found is not None and found.length >= _LEAST_MM:
            yield found


class _Cover:
    """What is explained, as a mask over the flat sheet."""

    def __init__(self, shape: tuple[int, ...]) -> None:
        self.mask = np.zeros(shape[:2], np.uint8)

    def line(self, path: Sequence[Vec2], wide_mm: float) -> None:
        """Cover what lies along a path."""
        points = np.round([self._dot(place) for place in path]).astype(np.int32)
        cv2.polylines(self.mask, [points], False, 1, max(1, round(wide_mm * _PER_MM)))

    def box(self, corners: Sequence[Vec2]) -> None:
        """Cover what lies within corners."""
        points = np.round([self._dot(place) for place in corners]).astype(np.int32)
        cv2.fillConvexPoly(self.mask, points, 1)

    def beyond(self, width: float, height: float) -> None:
        """Cover what lies outside the border."""
        left, low = np.round(self._dot((0.0, 0.0))).astype(int)
        right, up = np.round(self._dot((width, height))).astype(int)
        self.mask[:up], self.mask[low:] = 1, 1
        self.mask[:, :left], self.mask[:, right:] = 1, 1

    def _dot(self, place: Vec2) -> tuple[float, float]:
        high = self.mask.shape[0]
        return (place[0] + AROUND_MM) * _PER_MM, high - (place[1] + AROUND_MM) * _PER_MM


def _cover_rest(cover: _Cover, meant: Drafter) -> None:
    """Cover frames, heads, letters, and lines that are drawn by eye."""
    for name, path in meant.strokes.items():
        cover.line(path, 2 * _BORDER_MM if name.startswith(FRAME) else _WIDE_MM)
    for path in meant.curve_paths.values():
        cover.line(path, _WIDE_MM)
    for (x, y), _ in meant.heads.values():
        cover.box([(x - 4, y - 4), (x + 4, y - 4), (x + 4, y + 4), (x - 4, y + 4)])
    for words in meant.letters.values():
        turn = np.radians(words.along_deg)
        way = np.array([np.cos(turn), np.sin(turn)])
        up = np.array([-way[1], way[0]])
        back = {"start": 0.0, "middle": 0.5, "end": 1.0}[words.anchor] * words.width
        start = np.array(words.at) - back * way - 2.0 * way - 2.0 * up
        along, high = (words.width + 4.0) * way, (words.height * 1.6 + 4.0) * up
        corners = (start, start + along, start + along + high, start + high)
        cover.box([(float(c[0]), float(c[1])) for c in corners])


def _line_of(dots: NDArray[np.int64], rows: int) -> Extra | None:
    """Return dots (row, column) as a line, None where they are a blot."""
    y, x = (rows - dots[:, 0]) / _PER_MM - AROUND_MM, dots[:, 1] / _PER_MM - AROUND_MM
    middle = np.array([x.mean(), y.mean()])
    off = np.stack([x, y], axis=1) - middle
    _, sizes, ways = np.linalg.svd(off, full_matrices=False)
    if sizes[0] < _STRAIGHT * sizes[1]:
        return None
    along = off @ ways[0]
    start, end = middle + along.min() * ways[0], middle + along.max() * ways[0]
    return Extra((round(float(start[0]), 2), round(float(start[1]), 2)),
                 (round(float(end[0]), 2), round(float(end[1]), 2)))  # fmt: skip
