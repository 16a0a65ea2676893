"""Where views stand in a sketch: each is shut in by its outline, and nothing else is."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from holoptic.paper.scan.ink import PER_MM, Mask
from holoptic.reading.lines import Box

Contour = NDArray[np.integer[Any]]
_PER_MM = 3.0
_CLOSED_MM = 1.0
"""Corners that do not meet by so much are shut."""
_LEAST_SIDE_MM, _LEAST_FILLED = 8.0, 0.35
_LEAST_HOLE_MM2 = 2.0
_LINE_MM = 3.0
"""Holes beside each other are parted by a line, and what closing adds to it."""
_AROUND_MM = 1.3
"""So far beyond its outline a view's lines are drawn, and nearer nothing else begins."""
_BORDER_SHARE = 0.7
_MOST = 6


def outlined(mask: Mask) -> tuple[list[Box], Mask]:
    """Return boxes about what is shut in (mm of the flat picture, Y down), the largest first, and
    where that lies, with the lines about it.

    A dimension line with its extension lines shuts nothing in; a border about all is none.
    """
    share = _PER_MM / PER_MM
    size = round(mask.shape[1] * share), round(mask.shape[0] * share)
    small = (cv2.resize(mask * 255, size, interpolation=cv2.INTER_AREA) > 0).astype(np.uint8)
    shut = cv2.morphologyEx(small, cv2.MORPH_CLOSE, _disc(_CLOSED_MM))
    contours, tree = cv2.findContours(shut, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    inside = np.zeros_like(small)
    found: list[Box] = []
    for number in range(len(contours)):
        if tree[0][number][3] < 0:
            holes = _together(list(_holes(contours, tree[0], number)))
            box = _view_box(holes, float(size[0] * size[1]))
            if box is not None:
                found.append(box)
                cv2.drawContours(inside, holes, -1, 1, cv2.FILLED)
    found.sort(key=lambda box: -(box[2] - box[0]) * (box[3] - box[1]))
    apart: list[Box] = []
    for box in found:
        if not any(_lies_in(box, other) for other in apart):
            apart.append(box)
    wide = cv2.dilate(inside, _disc(2 * _AROUND_MM + _CLOSED_MM))
    region = cv2.resize(wide, (mask.shape[1], mask.shape[0]), interpolation=cv2.INTER_NEAREST)
    return apart[:_MOST], np.asarray(region, np.uint8)


def _disc(across_mm: float) -> Mask:
    across = round(across_mm * _PER_MM) | 1
    return np.asarray(cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (across, across)), np.uint8)


def _holes(contours: Sequence[Contour], tree: Contour, number: int) -> Iterator[Contour]:
    """Yield the contours of the holes in one."""
    child = int(tree[number][2])
    while child >= 0:
        yield contours[child]
        child = int(tree[child][0])


def _together(holes: Sequence[Contour]) -> list[Contour]:
    """Return the holes that lie beside each other about the largest: figures have some of their
    own.
    """
    left = [(cv2.boundingRect(one), one) for one in holes
            if cv2.contourArea(one) > _LEAST_HOLE_MM2 * _PER_MM**2]  # fmt: skip
    left.sort(key=lambda pair: -pair[0][2] * pair[0][3])
    kept = left[:1]
    reach = _LINE_MM * _PER_MM
    k = 0
    while k < len(kept):
        near = [pair for pair in left if all(pair is not one for one in kept)
                and _apart(pair[0], kept[k][0]) < reach]  # fmt: skip
        kept += near
        k += 1
    return [one for _, one in kept]


def _apart(one: Sequence[int], other: Sequence[int]) -> float:
    """Return how far two boxes (x, y, wide, high) lie apart."""
    gaps = [max(one[k] - other[k] - other[k + 2], other[k] - one[k] - one[k + 2]) for k in (0, 1)]
    return float(max(gaps))


def _view_box(holes: Sequence[Contour], whole: float) -> Box | None:
    """Return the box about holes that make a view (mm), None where they make none."""
    if not holes:
        return None
    x, y, wide, high = cv2.boundingRect(np.concatenate(holes))
    if wide * high > _BORDER_SHARE * whole or min(wide, high) < _LEAST_SIDE_MM * _PER_MM:
        return None
    if sum(cv2.contourArea(one) for one in holes) < _LEAST_FILLED * wide * high:
        return None
    return (x - 1) / _PER_MM, (y - 1) / _PER_MM, (x + wide + 1) / _PER_MM, (y + high + 1) / _PER_MM


def _lies_in(box: Box, other: Box) -> bool:
    x, y = (box[0] + box[2]) / 2, (box[1] + box[3]) / 2
    return other[0] < x < other[2] and other[1] < y < other[3]
