"""What a flat picture tells about slips: fits of strokes as rows, and how near ink is."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from holoptic.checking.causes import MEASURED_MM, Suspects
from holoptic.checking.pictures.border import AROUND_MM
from holoptic.checking.pictures.measure import Fit, FlatSheet
from holoptic.checking.placing import Placing
from holoptic.checking.rows import Row, Rows, bare_of, rows_of
from holoptic.checking.traces import Offs, Trace, dense
from holoptic.plan.errors import Places
from holoptic.tolerance import SOLVED

_NOWHERE_MM = 1_000_000.0
_FIELD_PER_MM = 5.0
_END_MM = 0.35
_CURVE_MM = 0.2
"""How far the offset of a curve scatters by itself: its ink seldom runs as smoothly as a line."""
_WINDOW_MM = 1.6
_WIDE_MM = 3.2
_OVERRUN_MM = 0.3, 0.7
_COVERED = 0.6
_FIRM_SHARE = 0.45
_CURVE_ROWS = 6
_SAME_INK_MM = 0.4
_ALONG_SINE = 0.3
_ALONG_SHARE, _TWO_LINES_MM, _BESIDE_MEANT_MM = 0.85, 0.6, 1.1
_USUAL_FIRM = 0.3
_BESIDE_MM = 2.0
_STILL_MM = 0.01
_MOST_DRIFT_MM = 2.0
"""A hand's ordinary spread moves no drawing further: it was looked for in the wrong place."""

Motion = NDArray[np.float64]
"""How far a whole drawing is moved across and up (mm), and turned (radians)."""


class Evidence:
    """A flat picture, asked about strokes where slips would have put them."""

    def __init__(self, sheet: FlatSheet, suspects: Suspects) -> None:
        self.sheet, self.suspects = sheet, suspects
        self._fits: dict[tuple[int, bytes], Fit] = {}
        self._paths = [dense(one.meant) for one in suspects.traced.traces]
        self._placing = Placing(suspects)
        self._middle = complex(np.concatenate([t.meant for t in suspects.traced.traces]).mean())
        self.firm, self._overrun = self._usual()
        self._motion = self._whole_motion()
        self._field = self._distances()

    def _usual(self) -> tuple[float, float]:
        """Return the usual strength of a firm stroke on this sheet (mm of black across), and how
        far ink usually reaches beyond the ends of lines: other lines meet them there (mm).
        """
        traces = [t for t in self.suspects.traced.traces if not t.is_thin] or list(
            self.suspects.traced.traces
        )
        found = [self.sheet.fit(t, t.meant, _WINDOW_MM) for t in traces]
        found = [fit for fit in found if fit.covered > _COVERED]
        strengths = sorted(fit.strength for fit in found)
        ends = np.array([end for fit in found for end in fit.beyond], float)
        ends = ends[np.abs(ends) < 2 * _WINDOW_MM]
        # a sheet may lack some strokes, which leaves their light lines: the stronger half counts
        firm = float(np.median(strengths[len(strengths) // 3 :])) if strengths else _USUAL_FIRM
        # the half width of a line that crosses, and no more: what is beyond that is drawn so
        return firm, float(np.clip(np.median(ends), *_OVERRUN_MM)) if len(ends) else _OVERRUN_MM[0]

    def is_found(self, one: Trace, fit: Fit) -> bool:
        """Say whether a fit is of ink that may be a stroke's own."""
        least = _FIRM_SHARE * self.firm * (0.4 if one.is_thin else 1.0)
        covered = 0.3 if one.is_broken else _COVERED
        return fit.covered >= covered and fit.strength >= least

    def found_as_meant(self) -> list[bool]:
        """Say of each stroke whether its own ink is found about where it is meant to be."""
        expected = [one.meant[None] for one in self.suspects.traced.traces]
        return self._found(expected)[1]

    def _found(self, expected: list[Places]) -> tuple[list[Fit], list[bool]]:
        """Return the fits of strokes about where they are expected (each 1 × places), and whether
        each is of its own ink.
        """
        fits = self.fits([places[0] for places in expected])
        found = [self.is_found(one, fit)
                 for one, fit in zip(self.suspects.traced.traces, fits, strict=True)]  # fmt: skip
        self._give_back(found, fits, expected)
        return fits, found

    def fits(self, expected: Sequence[Places]) -> list[Fit]:
        """Return what ink lies near where strokes are expected; a slip moves few of them."""
        motion = self.motion_from(expected)
        return [self._fit(number, places, self._drift(places, motion))
                for number, places in enumerate(expected)]  # fmt: skip

    def _fit(self, number: int, places: Places, drift: Places) -> Fit:
        about = (places + drift)[[0, len(places) // 2, -1]]
        key = number, np.round([*places[[0, -1]], *about], 1).tobytes()
        if key not in self._fits:
            one = self.suspects.traced.traces[number]
            fit = self.sheet.fit(one, places + drift, _WINDOW_MM)
            self._fits[key] = _drifted(fit, one, drift)
        return self._fits[key]

    def motion_from(self, expected: Sequence[Places]) -> Motion:
        """Return how far the whole drawing is moved from where strokes are expected: what slips
        move all of it by is no motion besides.
        """
        traces = self.suspects.traced.traces
        offs = [((places - one.meant) * one.normals.conj()).real
                for places, one in zip(expected, traces, strict=True)]  # fmt: skip
        known = [off if np.isfinite(off).all() else None for off in offs]
        if all(off is not None and np.abs(off).max() < _STILL_MM for off in known):
            return self._motion
        found: Motion = np.subtract(self._motion, self._placing.motion(known))
        return found if np.hypot(*found[:2]) < _MOST_DRIFT_MM else np.zeros(3)

    def _drift(self, places: Places, motion: Motion) -> Places:
        """Return how far the whole drawing is moved at places: what is looked for lies there."""
        across, up, turn = motion
        moved: Places = across + 1j * up + 1j * turn * (places - self._middle)
        return moved

    def _whole_motion(self) -> Motion:
        """Return how far the whole drawing is moved (mm across, up) and turned (radians)."""
        traces = self.suspects.traced.traces
        offs: list[Offs | None] = []
        for one in traces:
            fit = self.sheet.fit(one, one.meant, _WIDE_MM)
            offs.append(fit.off(one, one.meant) if self.is_found(one, fit) else None)
        return self._placing.motion(offs)

    def beyond(self, number: int, fit: Fit) -> tuple[float, float]:
        """Return how far ink reaches beyond the ends of a line, less what it does on every line;
        NaN where another stroke is planned to go on there, so that nothing is told.
        """
        first, last = (reach - self._overrun for reach in fit.beyond)
        return self._own_end(number, 0, first), self._own_end(number, -1, last)

    def _own_end(self, number: int, index: int, reach: float) -> float:
        if np.isnan(reach) or reach < _SAME_INK_MM:
            return reach
        one = self.suspects.traced.traces[number]
        way = (one.meant[-1] - one.meant[0]) / max(one.length, SOLVED) * (-1 if index == 0 else 1)
        at = one.meant[index] + way * np.array([0.5 * reach, max(reach, 1.0)])
        for other, line in enumerate(self._paths):
            if other == number:
                continue
            off = np.abs(line[:, None] - at[None])
            near = off.argmin(axis=0)
            if (off.min(axis=0) > _BESIDE_MM).any():
                continue
            along = line[min(int(near[1]) + 1, len(line) - 1)] - line[max(int(near[1]) - 1, 0)]
            if abs((along * way.conjugate()).imag) < _ALONG_SINE * abs(along):
                return float("nan")
        return reach

    def measure(self, expected: list[Places]) -> Rows:
        """Measure the ink about the places where strokes are expected."""
        traces = self.suspects.traced.traces
        fits, found = self._found(expected)
        rows = [
            row
            for number, fit in enumerate(fits)
            if found[number]
            for row in self._rows(number, fit)
        ]
        paths = {
            number: expected[number][0] + fit.off(one, one.meant) * one.normals
            for number, (one, fit) in enumerate(zip(traces, fits, strict=True))
            if found[number]
        }
        bare = {number: bare_of(fits[number].covered, traces[number].length)
                for number in paths if not traces[number].is_broken}  # fmt: skip
        return rows_of(rows, len(self.suspects.draws), found.count(False), paths, bare)

    def _rows(self, number: int, fit: Fit) -> Iterator[Row]:
        """Yield what a stroke tells: off by how much, by which settings, how surely."""
        one, by_draw = self.suspects.traced.traces[number], self.suspects.by_draw[number]
        for index, off in zip(_rows_of(one), fit.off(one, one.meant[_rows_of(one)]), strict=True):
            across = (by_draw[:, index] * one.normals[index].conjugate()).real
            yield float(off), across, _CURVE_MM if one.is_curve else MEASURED_MM, number
        if one.is_curve:
            return
        way = (one.meant[-1] - one.meant[0]) / max(one.length, SOLVED)
        for beyond, index, sign in zip(self.beyond(number, fit), (0, -1), (-1.0, 1.0), strict=True):
            if abs(beyond) < _WINDOW_MM * 2:
                yield beyond, sign * (by_draw[:, index] * way.conjugate()).real, _END_MM, number

    def _give_back(self, found: list[bool], fits: list[Fit], expected: list[Places]) -> None:
        """Take strokes as not found that lie on the ink of another one, which they are not meant to
        lie on: the one that is moved further.
        """
        traces = self.suspects.traced.traces
        own = [k for k, one in enumerate(traces) if found[k] and not one.is_curve]
        meant = np.array([traces[k].meant[[0, -1]] for k in own]).reshape(-1, 2)
        lies = np.array([
            expected[k][0][[0, -1]] + fits[k].off(traces[k], traces[k].meant[[0, -1]])
            * traces[k].normals[[0, -1]]
            for k in own
        ]).reshape(-1, 2)  # fmt: skip
        moved = np.abs(lies - meant).max(axis=1)
        doubled = _lie_on(lies) & ~_lie_on(meant)
        for i, j in np.argwhere(doubled).tolist():
            if found[own[i]] and found[own[j]]:
                found[own[i] if moved[i] > moved[j] else own[j]] = False

    def on_other_ink(self, found: Sequence[Places | None], expected: Sequence[Places]) -> list[int]:
        """Return the numbers of strokes that were found on the ink of another one, which they are
        not expected to lie on: of two the one that was found further from where it is expected,
        within the drawing as it lies.
        """
        paths = [None if path is None else dense(path) for path in found]
        lies = _along(paths, _TWO_LINES_MM)
        known = _along([dense(places) for places in expected], _BESIDE_MEANT_MM)
        motion = self.motion_from(expected)
        moved = [
            0.0
            if path is None
            else float(np.abs(path - places - self._drift(places, motion)).max())
            for places, path in zip(expected, found, strict=True)
        ]
        taken: list[int] = []
        for i, j in sorted(lies - known, key=lambda pair: -moved[pair[0]]):
            if moved[i] > moved[j] and i not in taken and j not in taken:
                taken.append(i)
        return taken

    def nearness(self, places: Places) -> Offs:
        """Return how far places lie from firm ink, mm; places that cannot be drawn lie far off."""
        places = np.nan_to_num(places + self._drift(places, self._motion), nan=-_NOWHERE_MM)
        high, wide = self._field.shape
        # a slip may send a crossing further than a whole number can say
        x = np.clip((places.real + AROUND_MM) * _FIELD_PER_MM, 0, wide - 1).astype(int)
        up = np.clip((places.imag + AROUND_MM) * _FIELD_PER_MM, 0, high - 1).astype(int)
        y = high - 1 - up
        found: Offs = self._field[y, x]
        return found

    def _distances(self) -> Offs:
        share = _FIELD_PER_MM / self.sheet.per_mm
        size = (round(self.sheet.dark.shape[1] * share), round(self.sheet.dark.shape[0] * share))
        small = cv2.resize(self.sheet.dark, size, interpolation=cv2.INTER_AREA)
        # a firm line of this strength darkens a dot of the small picture so much at least
        least = max(self.sheet.least, 0.4 * min(0.9, self.firm * _FIELD_PER_MM / 2))
        blank = (small < least).astype(np.uint8)
        far = cv2.distanceTransform(blank, cv2.DIST_L2, 5).astype(np.float64)
        field: Offs = far / _FIELD_PER_MM
        return field


def _drifted(fit: Fit, one: Trace, drift: Places) -> Fit:
    """Return a fit beside places that were moved as one beside the places themselves."""
    if one.is_curve:
        moved = complex(drift.mean())
        return replace(fit, shape=fit.shape + np.array([moved.real, moved.imag, 0.0]))
    ends = drift[[0, -1]]
    across = (ends * one.normals[[0, -1]].conj()).real
    way = (one.meant[-1] - one.meant[0]) / max(one.length, SOLVED)
    along = (ends * way.conjugate()).real
    beyond = fit.beyond[0] - float(along[0]), fit.beyond[1] + float(along[1])
    return replace(fit, shape=fit.shape + across, beyond=beyond)


def _along(paths: Sequence[Places | None], reach: float) -> set[tuple[int, int]]:
    """Return the pairs of paths of which the first lies along the second, nearly all of it."""
    known = [(k, path) for k, path in enumerate(paths) if path is not None]
    if not known:
        return set()
    owners = np.concatenate([np.full(len(path), k) for k, path in known])
    places = np.concatenate([path for _, path in known])
    tree = cKDTree(np.stack([places.real, places.imag], axis=1))
    # between two places of a path, a mm apart, lies half of that
    near = tree.query_pairs(float(np.hypot(reach, 0.5)), output_type="ndarray")
    both = np.concatenate([near, near[:, ::-1]])
    both = both[owners[both[:, 0]] != owners[both[:, 1]]]
    found: dict[tuple[int, int], set[int]] = {}
    for place, one, other in zip(both[:, 0].tolist(), owners[both[:, 0]].tolist(),
                                 owners[both[:, 1]].tolist(), strict=True):  # fmt: skip
        found.setdefault((one, other), set()).add(place)
    lengths = {k: len(path) for k, path in known}
    return {pair for pair, some in found.items() if len(some) >= _ALONG_SHARE * lengths[pair[0]]}


def _lie_on(lines: Places) -> NDArray[np.bool_]:
    """Say of lines (n × 2 ends) which one lies within which other: (n × n)."""
    starts = lines[:, 0]
    ways = lines[:, 1] - starts
    sizes = np.maximum(np.abs(ways), SOLVED)
    off = (lines[:, None, :] - starts[None, :, None]) * (ways / sizes).conj()[None, :, None]
    beside = np.abs(off.imag).max(axis=2) < _SAME_INK_MM
    inside = (off.real.min(axis=2) > -1.0) & (off.real.max(axis=2) < sizes[None, :] + 1.0)
    found: NDArray[np.bool_] = beside & inside
    np.fill_diagonal(found, val=False)
    return found


def _rows_of(one: Trace) -> list[int]:
    """Return the places of a stroke whose offsets are taken: what tells its shape, no more."""
    last = len(one.meant) - 1
    if one.is_curve:
        # at its ends a curve runs on into others, and where it closes it is drawn over itself
        return sorted({round(last * (k + 0.5) / _CURVE_ROWS) for k in range(_CURVE_ROWS)})
    return [0, last] if last > 0 else [0]
