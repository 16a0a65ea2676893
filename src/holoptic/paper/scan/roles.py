"""What runs of ink along a carrier are: visible lines, dashes, chains, or thin lines of no part.

Pitch outranks thickness: pieces with even gaps are dashes however thick they came out.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from holoptic.paper.scan.carriers import STEP_MM, CircleCarrier, LineCarrier, Samples
from holoptic.paper.scan.thickness import Parted, parted
from holoptic.reading.lines import Bow, Shape, Straight

Role = Literal["visible", "hidden", "centre", "thin"]
_CLOSE_MM, _CLOSE_ROUND_MM = 0.35, 0.45
_LEAST_GAP_MM, _MOST_GAP_MM, _GROUP_GAP_MM = 0.4, 2.6, 2.6
_DASH_MM, _LONGEST_DASH_MM, _DOT_MM, _LONG_MM = 4.4, 9.0, 1.3, 5.0
_SINGLE_THIN_MM, _SINGLE_DASH_MM, _SHORTEST_MM = 4.6, 1.2, 0.8
_AS_WIDE = 1.5
_LONGEST_CHAIN_MM = 10.5
_CLEARLY = 0.06
"""By so much better ink must part lines than their width, to count."""
_WHOLE, _WHOLE_OR_CROSSED = 0.9, 0.93
_FEWEST_DASHES = 3
_DASHED_ROUND = 0.35
"""Share of a circle that dashes cover at least."""


@dataclass(frozen=True)
class Found:
    """A line that was found on a flat sheet (mm, Y down still): what it is, and its axis where it
    is level (0) or upright (1). An end is `cut` where its ink goes on, only thinner: where it ends
    is less sure then.
    """

    role: Role
    shape: Shape
    axis: int | None = None
    cut: tuple[bool, bool] = (False, False)


@dataclass(frozen=True)
class _Run:
    """Ink without a gap: from sample to sample, how thick, and whether that is thick."""

    first: int
    last: int
    mass: float
    is_thick: bool = False

    @property
    def long(self) -> float:
        """How long, mm."""
        return (self.last - self.first) * STEP_MM


def roles_of(
    lines: Sequence[LineCarrier], circles: Sequence[CircleCarrier]
) -> tuple[list[Found], float]:
    """Return what lies on carriers, and from which thickness on lines are thick (mm; 0: all are of
    one thickness).
    """
    by_width, by_ink = (_parted_by(lines, circles, by_full=by) for by in (False, True))
    by_full = by_ink.share > by_width.share + _CLEARLY
    least = (by_ink if by_full else by_width).least
    lines = [replace(one, samples=replace(one.samples, by_full=by_full)) for one in lines]
    circles = [replace(one, samples=replace(one.samples, by_full=by_full)) for one in circles]
    found: list[Found] = []
    for line in lines:
        found += _line_roles(line, _runs(line.samples, STEP_MM, _CLOSE_MM), least)
    for carrier in circles:
        found += _circle_roles(carrier, least)
    return found, least


def _parted_by(
    lines: Sequence[LineCarrier], circles: Sequence[CircleCarrier], *, by_full: bool
) -> Parted:
    """Return what parts thick from thin, told by width or by how much ink there is."""
    masses, lengths = [], []
    for line in lines:
        for run in _runs(replace(line.samples, by_full=by_full), STEP_MM, _CLOSE_MM):
            if run.long > 1.0:
                masses.append(run.mass)
                lengths.append(run.long)
    for carrier in circles:
        kept = carrier.samples.on & ~carrier.samples.crossed
        if kept.mean() > 0.5:
            samples = replace(carrier.samples, by_full=by_full)
            masses.append(float(np.median(samples.mass[kept])))
            lengths.append(float(kept.sum()) * STEP_MM)
    return parted(masses, lengths)


# --- runs ---------------------------------------------------------------------------------------


def _runs(samples: Samples, step: float, close: float) -> list[_Run]:
    """Return the runs of ink; where a stroke crosses, what lies on both sides tells."""
    state = np.where(samples.crossed, 2, samples.on.astype(int))
    count, k = len(state), 0
    while k < count:
        if state[k] != 2:
            k += 1
            continue
        end = k
        while end < count and state[end] == 2:
            end += 1
        before = state[k - 1] if k else 0
        after = state[end] if end < count else 0
        goes_on = before == 1 and after == 1
        ends_there = bool(before or after) and (end - k) * step < 0.9
        state[k:end] = 1 if goes_on or ends_there else 0
        k = end
    edges = np.flatnonzero(np.diff(np.r_[0, state, 0]))
    pairs: list[list[int]] = []
    for first, last in zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True):
        if pairs and (first - pairs[-1][1]) * step < close:
            pairs[-1][1] = last
        else:
            pairs.append([first, last])
    return [_Run(first, last, _mass(samples, first, last)) for first, last in pairs]


def _mass(samples: Samples, first: int, last: int) -> float:
    kept = samples.on[first:last] & ~samples.crossed[first:last]
    return float(np.median(samples.mass[first:last][kept])) if kept.any() else 0.0


def _line_roles(carrier: LineCarrier, runs: list[_Run], least: float) -> list[Found]:
    pieces = [piece for run in runs for piece in _parted(carrier.samples, run, least)]
    firsts, lasts = ({run.first for run in runs}, {run.last for run in runs})
    found = []
    for role, first, last in _decoded(pieces, least):
        (x, y), (u, v) = carrier.at(first), carrier.at(last)
        found.append(Found(role, Straight((float(x), float(y)), (float(u), float(v))),
                           carrier.axis, (first not in firsts, last not in lasts)))  # fmt: skip
    return found


def _parted(samples: Samples, run: _Run, least: float) -> list[_Run]:
    """Return a run cut where its thickness changes: an extension line may go on from an edge, and
    a dash touch a visible line.
    """
    if least <= 0 or run.long < 3.0:
        return [run]
    inside = slice(run.first, run.last)
    mass = np.where(samples.crossed[inside] | ~samples.on[inside], np.nan, samples.mass[inside])
    is_thick = _smoothed(mass) > least
    cuts = np.flatnonzero(np.diff(is_thick.astype(int))) + 1
    bounds = [0, *cuts.tolist(), len(mass)]
    spans = [[a, b] for a, b in pairwise(bounds)]
    spans = _without_short(spans, round(1.4 / STEP_MM))
    return [
        _Run(run.first + a, run.first + b, _mass(samples, run.first + a, run.first + b))
        for a, b in spans
    ]  # fmt: skip


def _smoothed(mass: NDArray[np.float64]) -> NDArray[np.float64]:
    """Return thickness by the median of a millimetre about each sample; gaps take their
    neighbours'.
    """
    known = np.flatnonzero(~np.isnan(mass))
    if not len(known):
        return np.zeros(len(mass))
    filled = np.interp(np.arange(len(mass)), known, mass[known])
    half = round(0.6 / STEP_MM)
    padded = np.pad(filled, half, mode="edge")
    windows = np.lib.stride_tricks.sliding_window_view(padded, 2 * half + 1)
    return np.asarray(np.median(windows, axis=1))


def _without_short(spans: list[list[int]], least: int) -> list[list[int]]:
    """Return spans with short ones joined to their neighbours: chance, no change."""
    while len(spans) > 1:
        k = min(range(len(spans)), key=lambda n: spans[n][1] - spans[n][0])
        if spans[k][1] - spans[k][0] >= least:
            break
        if 0 < k < len(spans) - 1:
            spans[k - 1 : k + 2] = [[spans[k - 1][0], spans[k + 1][1]]]
        elif k == 0:
            spans[:2] = [[spans[0][0], spans[1][1]]]
        else:
            spans[-2:] = [[spans[-2][0], spans[-1][1]]]
    return spans


# --- roles along lines ----------------------------------------------------------------------------


def _decoded(runs: list[_Run], least: float) -> list[tuple[Role, int, int]]:
    runs = _dashes_by_pitch([replace(run, is_thick=run.mass > least) for run in runs])
    found: list[tuple[Role, int, int]] = []
    group: list[_Run] = []

    def done() -> None:
        found.extend(("thin", run.first, run.last) for run in _extensions_of(group))
        role = _role_of(group) if group else None
        if role == "hidden":  # the width of a stroke across is no dash
            while len(group) > 1 and group[-1].long < _AS_WIDE * group[-1].mass:
                group.pop()
            while len(group) > 1 and group[0].long < _AS_WIDE * group[0].mass:
                group.pop(0)
        if role is not None:
            found.append((role, group[0].first, group[-1].last))
        group.clear()

    for run in runs:
        if run.is_thick:
            done()
            if run.long > max(_SHORTEST_MM, _AS_WIDE * run.mass):  # else a stroke across
                found.append(("visible", run.first, run.last))
            continue
        if group and (run.first - group[-1].last) * STEP_MM > _GROUP_GAP_MM:
            done()
        group.append(run)
    done()
    return _joined(found)


def _extensions_of(group: list[_Run]) -> list[_Run]:
    """Take the long thin runs at the ends of dashes out of a group, and return them: an extension
    line may lead on from where a hidden line ends.
    """
    taken: list[_Run] = []
    for at in (0, -1):
        rest = [run.long for run in group if run is not group[at]]
        is_dashed = len(rest) > 1 and np.median(rest) < _DASH_MM
        if is_dashed and max(rest) < _LONGEST_DASH_MM and group[at].long > _LONGEST_CHAIN_MM:
            taken.append(group.pop(at))
    return taken


def _joined(found: list[tuple[Role, int, int]]) -> list[tuple[Role, int, int]]:
    """Return lines of one carrier with a short thick piece between dashes taken for one of them."""
    k = 1
    while k < len(found) - 1:
        (before, first, end), (role, a, b), (after, begin, last) = found[k - 1 : k + 2]
        is_dash = (b - a) * STEP_MM < _LONGEST_DASH_MM
        gap = max(a - end, begin - b) * STEP_MM
        if (
            (before, role, after) == ("hidden", "visible", "hidden")
            and is_dash
            and (gap < _GROUP_GAP_MM)
        ):
            found[k - 1 : k + 2] = [("hidden", first, last)]
        else:
            k += 1
    return found


def _dashes_by_pitch(runs: list[_Run]) -> list[_Run]:
    """Return runs of which those that follow each other with even gaps are not thick."""
    k = 0
    while k < len(runs):
        end = k
        while end + 1 < len(runs) and _gap(runs[end], runs[end + 1]):
            end += 1
        long = np.array([run.long for run in runs[k : end + 1]])
        is_dashed = np.median(long) < _DASH_MM and long.max() < _LONGEST_DASH_MM
        is_chain = (long < _DOT_MM).any() and (long > _LONG_MM).any()
        if end - k >= 2 and (is_dashed or is_chain):
            runs[k : end + 1] = [replace(run, is_thick=False) for run in runs[k : end + 1]]
        k = end + 1
    return runs


def _gap(one: _Run, other: _Run) -> bool:
    return _LEAST_GAP_MM < (other.first - one.last) * STEP_MM < _MOST_GAP_MM


def _role_of(group: list[_Run]) -> Role | None:
    """Return what pieces are that follow each other with gaps, None for crumbs."""
    long = np.array([run.long for run in group])
    total = (group[-1].last - group[0].first) * STEP_MM
    dots, longs = int((long < 1.35).sum()), int((long > 5.2).sum())
    if len(long) == 1:
        if long[0] > _SINGLE_THIN_MM:
            return "thin"
        return "hidden" if long[0] > _SINGLE_DASH_MM else None
    role: Role = "hidden"
    if len(long) - dots - longs > max(dots + longs, 2):
        return role  # dashes, some of which were made longer or shorter by what crosses them
    if longs and dots:
        role = "centre"
    elif longs and total > 9:
        role = "centre" if np.median(long) > 4.6 else "hidden"
    elif dots > 0.6 * len(long):
        return None
    elif longs and len(long) == 2 and long.max() > 8.6:
        role = "thin"
    if role == "centre" and long.max() > _LONGEST_CHAIN_MM:
        role = "thin"  # a thin solid line with something at its end
    return role


# --- roles along circles ------------------------------------------------------------------------


def _circle_roles(carrier: CircleCarrier, least: float) -> list[Found]:
    samples, circle = carrier.samples, carrier.circle
    centre = float(circle.centre[0]), float(circle.centre[1])
    kept = samples.on & ~samples.crossed
    thick = float(np.median(samples.mass[kept])) if kept.any() else 0.0
    is_thick = least <= 0 or thick > 0.9 * least
    if samples.on.mean() > _WHOLE or (samples.on | samples.crossed).mean() > _WHOLE_OR_CROSSED:
        role: Role = "visible" if is_thick else "thin"
        return [Found(role, Bow(centre, circle.radius, 0.0, 2 * np.pi))]
    start = int(np.argmin(samples.on))
    rolled = samples.rolled(-start)
    runs = _runs(rolled, circle.radius * carrier.step, _CLOSE_ROUND_MM)
    along = circle.radius * carrier.step
    dashes = [run for run in runs if 1.0 < (run.last - run.first) * along < _DASH_MM]
    covered = sum((run.last - run.first) * carrier.step for run in dashes)
    gaps = [b.first - a.last for a, b in pairwise(runs)] + [len(samples.on) - runs[-1].last]
    is_even = len(dashes) == len(runs) == _FEWEST_DASHES and max(gaps) * along < _GROUP_GAP_MM
    is_dashed = len(dashes) > _FEWEST_DASHES and len(dashes) >= 0.7 * len(runs)
    if (is_even or is_dashed) and covered > _DASHED_ROUND * 2 * np.pi:
        return [Found("hidden", Bow(centre, circle.radius, 0.0, 2 * np.pi))]
    found = []
    for run in runs:
        long = (run.last - run.first) * along
        if long > max(1.5, 0.25 * circle.radius) and (least <= 0 or run.mass > 0.9 * least):
            first = (start + run.first) * carrier.step
            last = (start + run.last) * carrier.step
            found.append(Found("visible", Bow(centre, circle.radius, first, last)))
    return found
