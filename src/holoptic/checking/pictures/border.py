"""Finding a sheet in a picture by its border, and taking it out of perspective.

Corners are in dots, (x, y) from the upper left of the picture; on the sheet they follow each other
from the lower left one counter-clockwise.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations, product

import cv2
import numpy as np
from numpy.typing import NDArray

from holoptic.catalogue import tr
from holoptic.checking.pictures.ink import Dark, Grey, darkness, threshold
from holoptic.curves.vectors import Vec2
from holoptic.errors import BadInput
from holoptic.tolerance import SOLVED

Corners = NDArray[np.float64]
_Stroke = tuple[NDArray[np.float64], NDArray[np.float64]]
"""A place on a line, and from there to its other end."""
PER_MM = 10.0
"""Dots per mm of a sheet that was taken out of its picture."""
AROUND_MM = 4.0
"""So much of what lies outside the border is taken along."""
_SMALL = 1500
_LEAST_SHARE = 0.15
"""A border takes up this share of its picture at least."""
_COVERED = 0.72
"""This share of each side of a border lies on ink at least."""
_MOST_LINES = 14
_APART = 4.0
"""Lines this near to each other are one (dots of the small picture)."""
_ASPECT = 0.16
"""Its sides are as its own are to each other within this (a logarithm): a camera leans."""
_STEPS = 400
_AS_LINED, _CLEAR_MM = 0.85, 1.5
"""Borders as well lined as the best one within this are as likely, the larger one first."""
_REACHES_MM = (2.5, 1.2, 0.7)
SURE_SHEET = 0.45
"""So sure a score must be that a sheet is the right one; where its corners were shown, somebody
knows it."""
_LEAST_SCORE = 0.2


@dataclass(frozen=True)
class Found:
    """A sheet as it was found: its picture taken out of perspective (`PER_MM` dots per mm), and
    where the border's corners lie in the picture it was taken from. `share` tells how much of the
    planned lines was found, or of the ink on a sheet that is only begun.
    """

    flat: Grey
    corners: tuple[Vec2, ...]
    share: float


def find_sheet(
    picture: Grey, inner: Vec2, score: Callable[[Grey], float],
    given: Sequence[Vec2] | None = None,
) -> Found:  # fmt: skip
    """Return the sheet in a picture: by its border of a size (mm), or by four given corners.

    `score` tells for a flat picture which share of the planned lines finds ink: it decides which
    way up the sheet lies. Raises BadInput where no border is found, or that of another sheet.
    """
    long = max(picture.shape)
    dark = darkness(picture, max(12, long // 70))
    if given is not None:
        quads = [np.array(given, float)]
    else:
        lines = _Lines(dark)
        quads = list(_framed(lines, inner)) or list(_by_three(lines, inner))
    if not quads:
        raise BadInput(tr("no border is found in the picture; give its four corners"))
    best: Found | None = None
    for quad in quads:
        fine = _refined(dark, quad, inner)
        for turn in range(4):
            corners = np.roll(fine, -turn, axis=0)
            if not _fits(corners, inner):
                continue
            small = flattened(picture, corners, inner, PER_MM / 3)
            share = score(small)
            if best is None or share > best.share:
                places = tuple((float(x), float(y)) for x, y in corners)
                best = Found(small, places, share)
        if best is not None and best.share > 1.3 * SURE_SHEET:
            break
    least = SURE_SHEET if given is None else _LEAST_SCORE
    if best is None or best.share < least:
        raise BadInput(tr("too little of the planned sheet is found in the picture; if it is the "
                          "right one, give its four corners"))  # fmt: skip
    flat = flattened(picture, np.array(best.corners), inner, PER_MM)
    return Found(flat, best.corners, best.share)


def borders(picture: Grey, inner: Vec2) -> Corners | None:
    """Return the corners of the likeliest border about as wide and high as `inner` (mm), whatever
    stands within it; None where there is none.
    """
    dark = darkness(picture, max(12, max(picture.shape) // 70))
    quads = [_refined(dark, quad, inner) for quad in _framed(_Lines(dark), inner)]
    # the edge of the paper is no line: it is bright on one side only
    shares = [_lined(dark, quad, inner) for quad in quads]
    best = max(shares, default=0.0)
    return next((quad for quad, share in zip(quads, shares, strict=True)
                 if share > _AS_LINED * best), None)  # fmt: skip


def _lined(dark: Dark, quad: Corners, inner: Vec2) -> float:
    """Return which share of the least lined side of a quadrangle is a line: dark between bright."""
    per_mm = float(np.linalg.norm(np.roll(quad, -1, axis=0) - quad, axis=1).sum()) / (
        2 * sum(inner)
    )
    least = threshold(dark)
    shares = []
    for k in range(4):
        a, b = quad[k], quad[(k + 1) % 4]
        way = (b - a) / np.linalg.norm(b - a)
        across = np.array([-way[1], way[0]])
        middle = a + np.linspace(0.03, 0.97, _STEPS)[:, None] * (b - a)
        rows = {}
        for off in (-_CLEAR_MM, -0.25, 0.0, 0.25, _CLEAR_MM):
            x, y = (middle + off * per_mm * across).astype(np.float32).T
            rows[off] = cv2.remap(dark, x[:, None], y[:, None], cv2.INTER_LINEAR,
                                  borderMode=cv2.BORDER_CONSTANT, borderValue=1)[:, 0]  # fmt: skip
        core = np.maximum(np.maximum(rows[-0.25], rows[0.25]), rows[0.0])
        beside = np.maximum(rows[-_CLEAR_MM], rows[_CLEAR_MM])
        shares.append(float(((core > least) & (beside < 0.6 * core)).mean()))
    return min(shares)


def flattened(picture: Grey, corners: Corners, inner: Vec2, per_mm: float) -> Grey:
    """Return what lies within a border, and a little around it, straight and to scale."""
    (wide, high), around = inner, AROUND_MM
    low, up = around * per_mm, (around + high) * per_mm
    target = np.array([[low, up], [(around + wide) * per_mm, up],
                       [(around + wide) * per_mm, low], [low, low]], np.float32)  # fmt: skip
    # the middle of the first dot is half a dot inside
    lens = cv2.getPerspectiveTransform(corners.astype(np.float32), target - 0.5)
    size = round((wide + 2 * around) * per_mm), round((high + 2 * around) * per_mm)
    flat: Grey = cv2.warpPerspective(picture, lens, size, flags=cv2.INTER_AREA | cv2.INTER_CUBIC,
                                     borderMode=cv2.BORDER_REPLICATE)  # fmt: skip
    return flat


def _fits(corners: Corners, inner: Vec2) -> bool:
    """Say whether corners, lower left first, counter-clockwise as seen, may be those of a sheet."""
    sides = np.linalg.norm(np.roll(corners, -1, axis=0) - corners, axis=1)
    told = np.log((sides[0] + sides[2]) / (sides[1] + sides[3])) - np.log(inner[0] / inner[1])
    return bool(abs(told) < _ASPECT)


# --- lines --------------------------------------------------------------------------------------


class _Lines:
    """The long lines of a picture at a glance: the more level ones, and the more upright."""

    def __init__(self, dark: Dark) -> None:
        self.share = min(1.0, _SMALL / max(dark.shape))
        size = round(dark.shape[1] * self.share), round(dark.shape[0] * self.share)
        small = cv2.resize(dark, size, interpolation=cv2.INTER_AREA)
        self._mask = (small > threshold(small) * max(self.share, 0.45)).astype(np.uint8)
        self._near = cv2.dilate(self._mask, np.ones((3, 3), np.uint8))
        self.least_area = _LEAST_SHARE * small.size
        found = cv2.HoughLinesP(self._mask * 255, 1, np.pi / 720, 60,
                                minLineLength=int(0.22 * min(size)), maxLineGap=10)  # fmt: skip
        self.level: list[_Stroke] = []
        self.upright: list[_Stroke] = []
        rows = [] if found is None else found[:, 0].astype(float).tolist()
        rows.sort(key=lambda row: -np.hypot(row[2] - row[0], row[3] - row[1]))
        for ax, ay, bx, by in rows:
            line = np.array([ax, ay]), np.array([bx - ax, by - ay])
            group = self.level if abs(bx - ax) > abs(by - ay) else self.upright
            if len(group) < _MOST_LINES and not any(_are_one(line, other) for other in group):
                group.append(line)

    def covered(self, quad: Corners) -> float:
        """Return which share of the least covered side of a quadrangle lies on ink."""
        shares = []
        for k in range(4):
            t = np.linspace(0.02, 0.98, 80)[:, None]
            places = quad[k] + t * (quad[(k + 1) % 4] - quad[k])
            x, y = np.round(places).astype(int).T
            inside = (x >= 0) & (y >= 0) & (x < self._near.shape[1]) & (y < self._near.shape[0])
            hit = self._near[np.clip(y, 0, self._near.shape[0] - 1),
                             np.clip(x, 0, self._near.shape[1] - 1)]  # fmt: skip
            shares.append(float((hit * inside).mean()))
        return min(shares)


def _are_one(one: _Stroke, other: _Stroke) -> bool:
    """Say whether two strokes lie in one line."""
    (p, u), (q, v) = one, other
    long = float(np.linalg.norm(u))
    ends = (q - p, q + v - p)
    return all(abs(u[0] * d[1] - u[1] * d[0]) / long < _APART for d in ends)


def _framed(lines: _Lines, inner: Vec2) -> Iterator[Corners]:
    """Yield the quadrangles of four long lines that may be the border, the likeliest first."""
    found = []
    for (one, other), (a, b) in product(combinations(lines.level, 2),
                                        combinations(lines.upright, 2)):  # fmt: skip
        corners = [_cross(one, a), _cross(one, b), _cross(other, b), _cross(other, a)]
        if any(corner is None for corner in corners):
            continue
        quad = _counter_clockwise(np.array(corners))
        area = abs(_area(quad))
        if area < lines.least_area or not any(
            _fits(np.roll(quad, -k, axis=0), inner) for k in (0, 1)
        ):
            continue
        covered = lines.covered(quad)
        if covered > _COVERED:
            found.append((round(covered, 1), area, quad))
    found.sort(key=lambda one: (-one[0], -one[1]))
    yield from (quad / lines.share for _, _, quad in found[:6])


def _area(quad: Corners) -> float:
    # thousands are looked at: by its diagonals it takes a tenth of the time
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = quad.tolist()
    return float((cx - ax) * (dy - by) - (dx - bx) * (cy - ay)) / 2


def _counter_clockwise(quad: Corners) -> Corners:
    """Return corners counter-clockwise as seen: in a picture y runs down."""
    return quad if _area(quad) < 0 else quad[::-1].copy()


def _by_three(lines: _Lines, inner: Vec2) -> Iterator[Corners]:
    """Yield quadrangles by three long lines, where the border is cut off on one side."""
    for one, other, across in _threes(_outermost(lines.level, 1), _outermost(lines.upright, 0)):
        yield from (quad / lines.share for quad in _quads_by_three(one, other, across, inner))


def _outermost(lines: list[_Stroke], axis: int) -> list[_Stroke]:
    """Return the outermost two lines, told apart by where their middles lie."""
    lines.sort(key=lambda line: float(line[0][axis] + line[1][axis] / 2))
    return lines if len(lines) < 2 else [lines[0], lines[-1]]


def _threes(
    level: list[_Stroke], upright: list[_Stroke]
) -> Iterator[tuple[_Stroke, _Stroke, _Stroke]]:
    for pair, others in ((level, upright), (upright, level)):
        if len(pair) == 2:
            yield from ((pair[0], pair[1], other) for other in others)


def _quads_by_three(
    one: _Stroke, other: _Stroke, across: _Stroke, inner: Vec2
) -> Iterator[Corners]:
    """Yield the sheets of which two lines are parallel sides and a third one lies across."""
    a, b = _cross(one, across), _cross(other, across)
    if a is None or b is None:
        return
    side = float(np.linalg.norm(b - a))
    for known, missing in (inner, inner[::-1]):
        for way in (one[1], -one[1]):
            step = way / np.linalg.norm(way) * side * missing / known
            quad = np.array([a, b, b + step, a + step])
            yield _counter_clockwise(quad)


def _cross(one: _Stroke, other: _Stroke) -> NDArray[np.float64] | None:
    (p, u), (q, v) = one, other
    turn = u[0] * v[1] - u[1] * v[0]
    if abs(turn) < SOLVED:
        return None
    t = ((q[0] - p[0]) * v[1] - (q[1] - p[1]) * v[0]) / turn
    return np.asarray(p + t * u)


# --- refining -----------------------------------------------------------------------------------


def _refined(dark: Dark, quad: Corners, inner: Vec2) -> Corners:
    """Return corners where the middles of the border's lines cross."""
    per_mm = float(np.linalg.norm(np.roll(quad, -1, axis=0) - quad, axis=1).sum()) / (
        2 * sum(inner)
    )
    for reach in _REACHES_MM:
        lines: list[_Stroke | None] = [
            _side(dark, quad[k], quad[(k + 1) % 4], reach * per_mm) for k in range(4)
        ]
        sides = [line if line is not None else (quad[k], quad[(k + 1) % 4] - quad[k])
                 for k, line in enumerate(lines)]  # fmt: skip
        corners = [_cross(sides[k - 1], sides[k]) for k in range(4)]
        if any(corner is None for corner in corners):
            return quad
        quad = np.array(corners)
    return quad


def _side(
    dark: Dark, a: NDArray[np.float64], b: NDArray[np.float64], reach: float
) -> _Stroke | None:
    """Return the line through the ink near a side, None where there is hardly any."""
    way = (b - a) / np.linalg.norm(b - a)
    across = np.array([-way[1], way[0]])
    share = np.linspace(0.02, 0.98, _STEPS)[:, None]
    off = np.arange(-reach, reach + 0.5, 0.5)
    places = a + share * (b - a)
    x = (places[:, 0:1] + off * across[0]).astype(np.float32)
    y = (places[:, 1:2] + off * across[1]).astype(np.float32)
    strip = cv2.remap(dark, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT, borderValue=0)
    least = threshold(dark)
    strip = np.where(strip > least, strip, 0.0)
    weight = strip.sum(axis=1)
    is_there = weight > 0.5 * np.median(weight[weight > 0]) if (weight > 0).any() else weight > 0
    if is_there.sum() < _STEPS // 10:
        return None
    along = share[is_there, 0]
    middle = (strip[is_there] * off).sum(axis=1) / weight[is_there]
    for _ in range(8):  # what other lines pull aside is left out
        slope, start = np.polyfit(along, middle, 1)
        rest = np.abs(middle - slope * along - start)
        kept = rest <= max(2.5 * float(np.median(rest)), 0.35)
        if kept.all():
            break
        along, middle = along[kept], middle[kept]
    p = a + start * across
    q = b + (slope + start) * across
    return p, q - p
