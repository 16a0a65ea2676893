"""Strokes measured in a flat picture: how far their ink lies off, how strong it is, where it ends.

Places are complex numbers, mm from the lower left border corner; what lies off to the left of a
stroke, as it runs, is above 0.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from holoptic.checking.pictures.border import AROUND_MM
from holoptic.checking.pictures.ink import Dark, Grey, darkness, threshold
from holoptic.checking.traces import Box, Trace, lengths_along
from holoptic.curves.vectors import Vec2
from holoptic.tolerance import SOLVED

Line = NDArray[np.complex128]
Offs = NDArray[np.float64]
_STEP_MM = 0.1
_ALONG_MM = 0.6
_SOFT_MM = 0.16
_MARGIN_MM = 1.2
"""So much at each end of a stroke is left out: there other lines meet it."""
_BEYOND_MM = 8.0
_SHY = 0.03
"""Of two places where ink fits as well, the nearer: so much a fit loses for each mm."""
_WINDOWS_MM = (0.7, 0.5, 0.4)
_COVERS = 0.45
_HELD = 0.001
"""So little holds a shape where it was, where ink does not tell all of it."""
_FIRM = 0.15
_BORDER_MM = 3.0
_FEW_DOTS = 200
_MOST_COVERED = 0.45
_CENTRED_MM, _CENTRED_TIMES, _SMOOTHED = 0.9, 3, 7
_LONGEST_MM = 5000.0
"""No stroke is as long: of lines that hardly cross, a slip sends the crossing far away."""


@dataclass(frozen=True)
class Fit:
    """What ink lies along a stroke: its shape's offsets (a line: at both ends; a curve: across, up,
    wider; mm), the share of its length that has ink, the ink's strength (mm of black across), and
    how far ink reaches beyond each end (mm; less than 0: short of it), NaN where that is not told.
    `bent` is how far a curve lies off beside that shape, at each place of its trace.
    """

    shape: Offs
    covered: float
    strength: float
    beyond: tuple[float, float]
    bent: Offs | None = None

    def off(self, one: Trace, places: Line) -> Offs:
        """Return how far it lies off at places of its stroke, mm."""
        off: Offs = _basis(one, places) @ self.shape
        if self.bent is not None:
            off = off + self.bent[np.abs(places[:, None] - one.meant[None]).argmin(axis=1)]
        return off


class FlatSheet:
    """The ink of a flat picture of a sheet, `per_mm` dots per mm."""

    def __init__(self, flat: Grey, per_mm: float) -> None:
        self.per_mm, self.flat = per_mm, flat
        self.dark: Dark = darkness(flat, round(4 * per_mm))
        self.least = threshold(self.dark)
        self._soft: Dark = cv2.GaussianBlur(self.dark, (0, 0), _SOFT_MM * per_mm)

    def at(self, places: NDArray[np.complex128], soft: bool = False) -> Offs:
        """Return how dark it is at places, whatever their shape."""
        x = ((places.real + AROUND_MM) * self.per_mm - 0.5).astype(np.float32)
        y = (self.flat.shape[0] - (places.imag + AROUND_MM) * self.per_mm - 0.5).astype(np.float32)
        flat_x, flat_y = x.reshape(-1, 1), y.reshape(-1, 1)
        found = np.empty(flat_x.size, np.float64)
        for start in range(0, flat_x.size, 30_000):  # the library takes no longer columns
            rows = slice(start, start + 30_000)
            found[rows] = cv2.remap(self._soft if soft else self.dark, flat_x[rows], flat_y[rows],
                                    cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT,
                                    borderValue=0)[:, 0]  # fmt: skip
        return found.reshape(places.shape)

    def share_found(self, traces: Sequence[Line], reach: float = 0.8, light: bool = False) -> float:
        """Return which share of the lengths of strokes has ink within a reach (mm), firm or any."""
        least = self.least if light else max(self.least, _FIRM)
        steps = np.arange(-reach, reach + 0.01, 0.2)
        hit = []
        for places in traces:
            normals = _normals(places)
            middle = places[1:-1]
            dark = self.at(middle[:, None] + steps * normals[1:-1, None])
            hit.append(dark.max(axis=1) > least)
        return float(np.concatenate(hit).mean()) if hit else 1.0

    def share_moved(self, paths: Sequence[Line], most_mm: float) -> float:
        """Return which share of some strokes has ink where all of them are moved together, no
        further than so many mm across and up: where it is most.
        """
        planned = np.zeros(self.dark.shape, np.float32)
        for path in paths:
            cv2.polylines(planned, [self._dots(path)], False, 1.0, 1)
        ink = (self.dark > max(self.least, _FIRM)).astype(np.uint8)
        near = cv2.dilate(ink, np.ones((3, 3), np.uint8)).astype(np.float32)
        most = round(most_mm * self.per_mm)
        room = cv2.copyMakeBorder(near, most, most, most, most, cv2.BORDER_CONSTANT, value=0)
        # a wash of ink would explain anything
        if planned.sum() < _FEW_DOTS or near.mean() > _MOST_COVERED:
            return 0.0
        return float(cv2.matchTemplate(room, planned, cv2.TM_CCORR).max() / planned.sum())

    def _dots(self, path: Line) -> NDArray[np.int32]:
        """Return the dots of a path."""
        x = (path.real + AROUND_MM) * self.per_mm
        y = self.flat.shape[0] - (path.imag + AROUND_MM) * self.per_mm
        return np.round(np.stack([x, y], axis=1)).astype(np.int32)

    def share_explained(
        self, paths: Sequence[Line], inner: Vec2, reach: float, elsewhere: Sequence[Box] = ()
    ) -> float:
        """Return which share of the ink within the border lies along some paths; 0 where there is
        hardly any, or the paths lie so close that they would explain anything. What lies in boxes
        `elsewhere` does not count.
        """
        cover = np.zeros(self.dark.shape, np.uint8)
        for path in paths:
            wide = max(1, round(2 * reach * self.per_mm))
            cv2.polylines(cover, [self._dots(path)], False, 1, wide)
        margin = round((AROUND_MM + _BORDER_MM) * self.per_mm)
        wide, high = (round((AROUND_MM + side - _BORDER_MM) * self.per_mm) for side in inner)
        within = slice(self.flat.shape[0] - high, self.flat.shape[0] - margin), slice(margin, wide)
        dark = self.dark > max(self.least, _FIRM)
        for xmin, ymin, xmax, ymax in elsewhere:
            left, right = (max(0, round((AROUND_MM + x) * self.per_mm)) for x in (xmin, xmax))
            low, up = (self.flat.shape[0] - round((AROUND_MM + y) * self.per_mm)
                       for y in (ymin, ymax))  # fmt: skip
            dark[max(0, up) : max(0, low), left:right] = False
        ink, covered = dark[within], cover[within] > 0
        if ink.sum() < _FEW_DOTS or covered.mean() > _MOST_COVERED:
            return 0.0
        return float(covered[ink].mean())

    def fit(self, one: Trace, places: Line, window: float) -> Fit:
        """Return what ink lies along a stroke near some places of it, no further off than a window.

        `places` go with the places of the trace, one for one.
        """
        if not np.isfinite(places).all() or np.abs(np.diff(places)).sum() > _LONGEST_MM:
            return Fit(np.zeros(3 if one.is_curve else 2), 0.0, 0.0, (np.nan, np.nan))
        fine, at = _finer(one, places)
        basis, normals = _basis(one, at), _normals(fine)
        steps = np.arange(-window - 1.0, window + 1.0 + _STEP_MM / 2, _STEP_MM)
        strip = self.at(fine[:, None] + steps * normals[:, None], soft=True)
        inner = _inner(fine, one.is_closed)
        shape = _best(strip, steps, basis, inner, _grid(one, window))
        for reach in _WINDOWS_MM:
            shape = _pulled(strip, steps, basis, inner, shape, reach)
        found = np.arange(-0.5, 0.5 + _STEP_MM / 2, _STEP_MM)
        line = fine + (basis @ shape) * normals
        bent = None
        if one.is_curve:
            for _ in range(_CENTRED_TIMES):
                line = self.centred(line, normals)
            share = np.linspace(0.0, 1.0, len(line)), np.linspace(0.0, 1.0, len(one.meant))
            aside = ((line - fine) * normals.conj()).real - basis @ shape
            bent = np.interp(share[1], share[0], aside)
        across = self.at(line[:, None] + found * normals[:, None])
        across = np.where(across > self.least * 0.6, across, 0.0)
        areas = across.sum(axis=1) * _STEP_MM
        own = areas[inner]
        strength = float(np.median(own[own > 0])) if (own > 0).any() else 0.0
        covered = float((own > _COVERS * max(strength, self.least * 0.1)).mean())
        told = not (one.is_curve or one.is_broken)
        beyond = self._ends(line, strength) if told else (np.nan, np.nan)
        return Fit(shape, covered, strength, beyond, bent)

    def centred(self, path: Line, normals: Line) -> Line:
        """Return places of a curve moved across to the middle of the ink that they lie on: what a
        few figures do not tell of its shape.
        """
        steps = np.arange(-_CENTRED_MM, _CENTRED_MM + _STEP_MM / 2, _STEP_MM)
        dark = self.at(path[:, None] + steps * normals[:, None])
        dark = np.where(dark > self.least, dark, 0.0)
        total = dark.sum(axis=1)
        is_told = total > 0.3 * np.median(total)
        if is_told.sum() < _SMOOTHED:
            return path
        off = np.zeros(len(path))
        off[is_told] = (dark * steps).sum(axis=1)[is_told] / total[is_told]
        # crossing lines pull some places aside
        windows = np.lib.stride_tricks.sliding_window_view(
            np.pad(off, _SMOOTHED // 2, mode="edge"), _SMOOTHED
        )
        moved: Line = path + np.median(windows, axis=1) * normals
        return moved

    def _ends(self, line: Line, strength: float) -> tuple[float, float]:
        """Return how far ink as strong reaches beyond the ends of a straight line, mm."""
        found = []
        long = float(np.abs(line[-1] - line[0]))
        for end, other in ((line[0], line[-1]), (line[-1], line[0])):
            way = (end - other) / max(long, SOLVED)
            steps = np.arange(-min(0.8 * long, _BEYOND_MM), _BEYOND_MM, _STEP_MM)
            across = np.arange(-0.3, 0.31, _STEP_MM)
            places = end + steps[:, None] * way + across * 1j * way
            areas = self.at(places).sum(axis=1) * _STEP_MM
            # of crossing lines nothing is told: a few tenths of a mm are bridged
            strong = (areas > 0.5 * strength).astype(np.uint8)
            strong = cv2.morphologyEx(strong[None], cv2.MORPH_CLOSE, np.ones((1, 9), np.uint8))[0]
            weak = np.flatnonzero(strong == 0)
            found.append(float(steps[weak[0]]) if len(weak) and weak[0] > 0 else np.nan)
        return found[0], found[1]


def _normals(places: Line) -> Line:
    way = np.gradient(places)
    return 1j * way / np.maximum(np.abs(way), SOLVED)


def _finer(one: Trace, places: Line) -> tuple[Line, Line]:
    """Return places every half mm or so, and where on the meant stroke they belong."""
    along = lengths_along(places)
    count = max(8, int(along[-1] / _ALONG_MM) + 1)
    share, known = np.linspace(0.0, 1.0, count), np.linspace(0.0, 1.0, len(places))

    def taken(of: Line) -> Line:
        return np.interp(share, known, of.real) + 1j * np.interp(share, known, of.imag)

    return taken(places), taken(one.meant)


def _basis(one: Trace, places: Line) -> Offs:
    """Return what a stroke's shape makes of places of the meant stroke: (places, figures)."""
    if not one.is_curve:
        long = max(one.length, SOLVED)
        share = np.abs(places - one.meant[0]) / long
        line: Offs = np.array([1 - share, share], np.float64).T
        return line
    order = np.abs(places[:, None] - one.meant[None]).argmin(axis=1)
    normals = one.normals[order]
    curve: Offs = np.array([normals.real, normals.imag, np.ones(len(places))], np.float64).T
    return curve


def _inner(fine: Line, is_closed: bool) -> NDArray[np.bool_]:
    """Say which places lie away from the ends of a stroke."""
    if is_closed:
        return np.ones(len(fine), bool)
    along = lengths_along(fine)
    margin = min(_MARGIN_MM, along[-1] / 4)
    inside: NDArray[np.bool_] = (along >= margin) & (along <= along[-1] - margin)
    return inside if inside.any() else np.ones(len(fine), bool)


def _grid(one: Trace, window: float) -> Offs:
    """Return the shapes to try first."""
    step = min(0.4, window / 3)
    row = np.arange(-round(window / step), round(window / step) + 1) * step
    if not one.is_curve:
        pairs: Offs = np.stack(np.meshgrid(row, row, indexing="ij"), axis=-1).reshape(-1, 2)
        # a short line hardly turns
        most = max(0.6, 0.12 * one.length)
        near: Offs = pairs[np.abs(pairs[:, 0] - pairs[:, 1]) <= most]
        return near
    row = row[:: max(1, len(row) // 9)]
    moved: Offs = np.stack(np.meshgrid(row, row, row, indexing="ij"), axis=-1).reshape(-1, 3)
    some: Offs = moved[np.abs(moved).sum(axis=1) <= 2.2 * window]
    return some


def _best(strip: Offs, steps: Offs, basis: Offs, inner: NDArray[np.bool_], shapes: Offs) -> Offs:
    """Return of some shapes the one that most ink lies along."""
    off = shapes @ basis[inner].T
    index = np.clip(np.round((off - steps[0]) / _STEP_MM).astype(int), 0, len(steps) - 1)
    rows = np.flatnonzero(inner)
    ink = strip[rows[None, :], index]
    # so much ink is enough: a darker line further off is no better
    enough = 0.7 * np.percentile(strip, 99)
    score = np.minimum(ink, max(enough, SOLVED)).mean(axis=1) / max(enough, SOLVED)
    score -= _SHY * np.abs(off).mean(axis=1)
    return np.asarray(shapes[int(score.argmax())])


def _pulled(
    strip: Offs, steps: Offs, basis: Offs, inner: NDArray[np.bool_], shape: Offs, reach: float
) -> Offs:
    """Return a shape drawn to the middle of the ink near it: least squares, what is far weighs
    little.
    """
    off = basis @ shape
    weight = np.where(np.abs(steps - off[:, None]) <= reach, strip, 0.0)
    weight = np.maximum(weight - 0.25 * weight.max(axis=1, keepdims=True), 0.0)
    total = weight.sum(axis=1)
    is_told = inner & (total > 0.15 * np.median(total[inner])) & (total > 0)
    if is_told.sum() < 4:
        return shape
    middle = (weight * steps).sum(axis=1)[is_told] / total[is_told]
    rows = basis[is_told]
    weights = np.ones(len(rows))
    found = shape
    for _ in range(4):
        scaled = rows * weights[:, None]
        found = np.linalg.lstsq(
            np.vstack([scaled, _HELD * np.eye(rows.shape[1])]),
            np.concatenate([middle * weights, _HELD * shape]), rcond=None,
        )[0]  # fmt: skip
        rest = np.abs(rows @ found - middle)
        weights = 1.0 / (1.0 + (rest / max(2 * float(np.median(rest)), 0.03)) ** 2)
    return np.asarray(found)
