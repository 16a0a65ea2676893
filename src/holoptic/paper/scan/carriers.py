"""Carriers: the lines and circles that seeds lie on, and the ink found again along each.

This is the key step: a picture that is sampled along a line it is known to hold tells runs of ink
and gaps cleanly, whatever crosses it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from holoptic.paper.scan.dashed_circles import dashed_circles
from holoptic.paper.scan.ink import Ink
from holoptic.paper.scan.seeds import Circle, Places, Seed, fit_circle, fit_line

STEP_MM = 0.05
_GAP_MM, _OFF_MM, _NEAR_MM, _OFF_A_MM = 4.2, 0.3, 0.2, 0.02
_LEAN_MM, _LEAN_SHARE = 0.12, 0.12
_FAR_GAP_MM, _EXACT_MM, _FIRM_MM, _TOLD_MM = 12.0, 0.15, 6.0, 1.2
_LEAST_MM = 0.9
_FIRM_SEED_MM = 0.8
_LEVEL_MM, _LEVEL_SHARE, _LEVEL_LEAN = 0.35, 0.012, 0.09
_BEYOND_MM = 1.2
_LOOK_MM, _STEP_OVER_MM = 8.0, 2.5
_CENTRINGS, _MOST_SHIFT_MM = 2, 0.5
_FEWEST_SAMPLES = 20
_TWIN_MM, _TWIN_SHARE = 0.22, 0.7
_OFFSETS = np.arange(-13, 14) * 0.06
_MIDDLE = np.array([13, 12, 14, 11, 15])
_CROSSED_MM = 1.05
_SWALLOWED_MM = 0.18
_SAME_CENTRE_MM, _SAME_RADIUS_MM = 0.6, 0.4


@dataclass(frozen=True, eq=False)
class Samples:
    """What is found along a carrier every `STEP_MM`: whether there is ink, how wide it is (mm, its
    area over its peak, whatever its grey), how much there is of it (mm of full ink, whatever the
    blur), whether another stroke crosses there, and where the middle of the ink lies beside the
    carrier (mm).
    """

    on: NDArray[np.bool_]
    wide: NDArray[np.float64]
    full: NDArray[np.float64]
    crossed: NDArray[np.bool_]
    middle: NDArray[np.float64]
    by_full: bool = False
    """Whether thickness is told by how much ink there is, not by how wide it is."""

    @property
    def mass(self) -> NDArray[np.float64]:
        """The thickness of each sample, mm."""
        return self.full if self.by_full else self.wide

    def rolled(self, by: int) -> Samples:
        """Return samples of a circle that begin elsewhere on it."""
        on, crossed = np.roll(self.on, by), np.roll(self.crossed, by)
        wide, full, middle = (np.roll(one, by) for one in (self.wide, self.full, self.middle))
        return Samples(on, wide, full, crossed, middle, self.by_full)


@dataclass(frozen=True, eq=False)
class LineCarrier:
    """A straight carrier: a place, its way, where its samples begin along it (mm); `axis` is 0 or 1
    where it is level or upright.
    """

    place: Places
    way: Places
    low: float
    samples: Samples
    axis: int | None

    def at(self, number: int) -> Places:
        """Return the place of a sample."""
        return np.asarray(self.place + (self.low + number * STEP_MM) * self.way)


@dataclass(frozen=True, eq=False)
class CircleCarrier:
    """A round carrier: its samples go round from angle 0, clockwise as seen."""

    circle: Circle
    samples: Samples
    step: float
    """Radians from sample to sample."""


def carriers_of(ink: Ink, seeds: Sequence[Seed]) -> tuple[list[LineCarrier], list[CircleCarrier]]:
    """Return the carriers of seeds, with the ink along them."""
    circles = _circles(seeds)
    straight = _off_circles([seed for seed in seeds if seed.circle is None], circles)
    for circle, dashes in dashed_circles(straight):
        circles.append(circle)
        straight = _off_circles([seed for seed in straight if seed not in dashes], [circle])
    centred: list[Circle] = []
    for circle in circles:
        exact = _centred_circle(ink, circle)
        if not _is_known(exact, centred):
            centred.append(exact)
    return (_without_twins([_sampled_line(ink, *grown) for grown in _grown(straight)]),
            [sampled_circle(ink, circle) for circle in centred])  # fmt: skip


# --- circles ------------------------------------------------------------------------------------


def _circles(seeds: Sequence[Seed]) -> list[Circle]:
    """Return the circles of round seeds, each once, made better by all that lies on them."""
    round_ones = sorted((s for s in seeds if s.circle is not None), key=lambda s: -len(s.places))
    used = [False] * len(round_ones)
    found: list[Circle] = []
    for number, seed in enumerate(round_ones):
        if used[number] or seed.circle is None:
            continue
        used[number] = True
        own, circle = [seed.places], seed.circle
        for _ in range(3):
            before = len(own)
            for k, other in enumerate(round_ones):
                grown = None if used[k] else _grown_circle(own, circle, other)
                if grown is not None:
                    own.append(other.places)
                    circle, used[k] = grown, True
            if len(own) == before:
                break
        crumbs = [s.places for s in seeds if s.circle is None and _is_crumb_of(s, circle)]
        circle = fit_circle(np.vstack([*own, *crumbs]))
        if not _is_known(circle, found):
            found.append(circle)
    return found


def _off_circles(seeds: Sequence[Seed], circles: Sequence[Circle]) -> list[Seed]:
    return [seed for seed in seeds if not any(_is_crumb_of(seed, one) for one in circles)]


def _is_known(circle: Circle, found: Sequence[Circle]) -> bool:
    return any(np.hypot(*(circle.centre - one.centre)) < _SAME_CENTRE_MM
               and abs(circle.radius - one.radius) < _SAME_RADIUS_MM for one in found)  # fmt: skip


def _grown_circle(own: list[Places], circle: Circle, seed: Seed) -> Circle | None:
    assert seed.circle is not None
    if abs(seed.circle.radius - circle.radius) > 0.35 * circle.radius + 0.5:
        return None
    if circle.off(seed.places).max() > 0.3 + 0.02 * circle.radius:
        return None
    together = np.vstack([*own, seed.places])
    grown = fit_circle(together)
    return grown if np.percentile(grown.off(together), 95) < 0.22 else None


def _is_crumb_of(seed: Seed, circle: Circle) -> bool:
    """Say whether a straight seed is but a short piece of a circle."""
    short = len(seed.places) * 0.083 < max(1.2, min(0.6 * circle.radius, 6.0))
    return short and bool(circle.off(seed.places).max() < _SWALLOWED_MM)


def _centred_circle(ink: Ink, circle: Circle) -> Circle:
    """Return a circle laid through the middle of its ink, as lines are: a small one that is crossed
    by its centre lines comes out of its seeds a tenth of a millimetre beside it.
    """
    for _ in range(_CENTRINGS):
        carrier = sampled_circle(ink, circle)
        own = carrier.samples.on & ~carrier.samples.crossed
        if own.sum() < _FEWEST_SAMPLES:
            return circle
        angles = np.flatnonzero(own) * carrier.step
        off = carrier.samples.middle[own]
        rows = np.c_[np.cos(angles), np.sin(angles), np.ones(len(angles))]
        for _ in range(2):  # once more without what lies beside it
            shift = np.linalg.lstsq(rows, off, rcond=None)[0]
            rest = np.abs(off - rows @ shift)
            kept = rest <= max(2.5 * float(np.median(rest)), 0.02)
            rows, off = rows[kept], off[kept]
        if np.abs(shift).max() > _MOST_SHIFT_MM:
            return circle
        circle = Circle(circle.centre + shift[:2], float(circle.radius + shift[2]))
    return circle


def sampled_circle(ink: Ink, circle: Circle) -> CircleCarrier:
    """Return the ink along a circle."""
    count = max(24, round(2 * np.pi * circle.radius / STEP_MM))
    angles = np.arange(count) * 2 * np.pi / count
    out = np.c_[np.cos(angles), np.sin(angles)]
    samples = sampled(ink, circle.centre + circle.radius * out, out)
    return CircleCarrier(circle, samples, 2 * np.pi / count)


# --- lines --------------------------------------------------------------------------------------


def _grown(seeds: Sequence[Seed]) -> list[tuple[Places, Places, float, float]]:
    """Return lines that straight seeds grow together to, from the longest on: a place, the way,
    and where they begin and end along it.
    """
    if not seeds:
        return []
    ends = np.array([[*seed.places[0], *seed.places[-1]] for seed in seeds])
    long = np.hypot(ends[:, 2] - ends[:, 0], ends[:, 3] - ends[:, 1])
    used = np.zeros(len(seeds), bool)
    found = []
    for number in np.argsort(-long):
        if used[number] or long[number] < _LEAST_MM:
            continue
        used[number] = True
        members = [int(number)]
        place, way = fit_line(seeds[number].places)
        while (nearest := _next_member(ends, long, used, members, place, way)) is not None:
            members.append(nearest)
            used[nearest] = True
            if long[nearest] > _FIRM_SEED_MM:
                firm = [seeds[k].places for k in members if long[k] > 0.5]
                place, way = fit_line(np.vstack(firm))
        along = (np.vstack([seeds[k].places for k in members]) - place) @ way
        found.append((place, way, float(along.min()), float(along.max())))
    return found


def _next_member(
    ends: Places, long: Places, used: NDArray[np.bool_], members: list[int], place: Places,
    way: Places,
) -> int | None:  # fmt: skip
    """Return the nearest seed that lies on a line, None where there is none within a gap."""
    normal = np.array([-way[1], way[0]])
    firsts, lasts = ends[:, :2] - place, ends[:, 2:] - place
    along = np.c_[firsts @ way, lasts @ way]
    off = np.c_[firsts @ normal, lasts @ normal]
    low, high = along[members].min(), along[members].max()
    # across crossings a dash may be lost: what lies exactly in line is looked for farther away
    is_exact = np.abs(off).max(axis=1) < _EXACT_MM
    gap = np.where(is_exact & (high - low > _FIRM_MM), _FAR_GAP_MM, _GAP_MM)
    reach = np.maximum(np.maximum(along.min(axis=1) - high, low - along.max(axis=1)), 0)
    fits = (
        ~used & (reach < np.where(long > _TOLD_MM, gap, _GAP_MM))
        & (np.abs(off).max(axis=1) < min(_OFF_MM, _NEAR_MM + _OFF_A_MM * (high - low)))
        & (np.abs(off[:, 0] - off[:, 1]) < _LEAN_MM + _LEAN_SHARE * long)
    )  # fmt: skip
    if not fits.any():
        return None
    able = np.flatnonzero(fits)
    return int(able[np.argmin(reach[able] - 0.01 * long[able])])


def _sampled_line(ink: Ink, place: Places, way: Places, low: float, high: float) -> LineCarrier:
    """Return a line sampled from end to end, and beyond as far as its ink goes on."""
    way, axis = _levelled(way, high - low)
    low, high = _reached(ink, place, way, low, -1), _reached(ink, place, way, high, 1)
    for _ in range(1 if axis is not None else 2):
        along, samples = _sampled_along(ink, place, way, low, high)
        place, way = _centred(place, way, along, samples, axis)
        axis = axis if axis is not None else _levelled(way, high - low)[1]
        way = way if axis is None else _levelled(way, high - low)[0]
    along, samples = _sampled_along(ink, place, way, low, high)
    return LineCarrier(place, way, float(along[0]), samples, axis)


def _sampled_along(
    ink: Ink, place: Places, way: Places, low: float, high: float
) -> tuple[NDArray[np.float64], Samples]:
    normal = np.array([-way[1], way[0]])
    along = np.arange(low - _BEYOND_MM, high + _BEYOND_MM, STEP_MM)
    places = place + along[:, None] * way
    return along, sampled(ink, places, np.repeat(normal[None], len(along), axis=0))


def _reached(ink: Ink, place: Places, way: Places, end: float, side: int) -> float:
    """Return how far ink goes on along a line beyond an end of it, over gaps between dashes."""
    while True:
        along = end + side * np.arange(0.0, _LOOK_MM, STEP_MM)
        normals = np.repeat(np.array([[-way[1], way[0]]]), len(along), axis=0)
        samples = sampled(ink, place + along[:, None] * way, normals)
        own = np.flatnonzero(samples.on & ~samples.crossed)
        if not len(own) or own[0] * STEP_MM > _STEP_OVER_MM:
            return end
        gaps = np.flatnonzero(np.diff(own) * STEP_MM > _STEP_OVER_MM)
        last = int(own[gaps[0]]) if len(gaps) else int(own[-1])
        if last * STEP_MM < 0.2:
            return end
        end += side * last * STEP_MM
        if len(gaps) or last * STEP_MM < _LOOK_MM - _STEP_OVER_MM:
            return end


def _centred(
    place: Places, way: Places, along: NDArray[np.float64], samples: Samples, axis: int | None
) -> tuple[Places, Places]:
    """Return a line laid through the middle of its ink."""
    own = samples.on & ~samples.crossed
    if own.sum() < _FEWEST_SAMPLES:
        return place, way
    normal = np.array([-way[1], way[0]])
    off = samples.middle[own]
    if axis is not None:
        return place + normal * float(np.median(off)), way
    slope, start = np.polyfit(along[own], off, 1)
    rest = np.abs(off - slope * along[own] - start)
    kept = rest <= max(2.5 * float(np.median(rest)), 0.02)
    slope, start = np.polyfit(along[own][kept], off[kept], 1)
    turned = way + slope * normal
    return place + start * normal, np.asarray(turned / np.hypot(*turned))


def _without_twins(lines: list[LineCarrier]) -> list[LineCarrier]:
    """Return lines without those that lie on longer ones."""
    found: list[LineCarrier] = []
    for line in sorted(lines, key=lambda line: -len(line.samples.on)):
        if not any(_lies_on(line, other) for other in found):
            found.append(line)
    return found


def _lies_on(line: LineCarrier, other: LineCarrier) -> bool:
    normal = np.array([-other.way[1], other.way[0]])
    ends = np.array([line.at(0), line.at(len(line.samples.on) - 1)]) - other.place
    if np.abs(ends @ normal).max() > _TWIN_MM:
        return False
    low, high = np.sort(ends @ other.way)
    own_low, own_high = other.low, other.low + len(other.samples.on) * STEP_MM
    shared = min(high, own_high) - max(low, own_low)
    return bool(shared > _TWIN_SHARE * (high - low))


def _levelled(way: Places, long: float) -> tuple[Places, int | None]:
    """Return a way exactly level or upright where it all but is so, and along which axis."""
    for axis in (0, 1):
        lean = abs(way[1 - axis])
        if lean < _LEVEL_LEAN and lean * long < max(_LEVEL_MM, _LEVEL_SHARE * long):
            level = np.zeros(2)
            level[axis] = 1.0
            return level, axis
    return way, None


# --- sampling -----------------------------------------------------------------------------------


def sampled(ink: Ink, places: Places, normals: Places) -> Samples:
    """Return the ink at places of a carrier whose normals are known, arrays (n, 2)."""
    dark, on = ink.across(places, normals, _OFFSETS)
    is_on = on[:, 11:16].any(axis=1)
    # the stroke itself: from its middle to where the ink ends on either side
    first = _MIDDLE[np.argmax(on[:, _MIDDLE], axis=1)][:, None]
    column = np.arange(len(_OFFSETS))[None, :]
    right = np.where((column > first) & ~on, column, len(_OFFSETS)).min(axis=1)
    left = np.where((column < first) & ~on, column, -1).max(axis=1)
    own = (column > left[:, None] - 2) & (column < right[:, None] + 2)
    profile = dark * own
    full = profile.sum(axis=1) * 0.06
    # area over peak: a weak pencil counts as wide as a strong one
    wide = full / np.clip(profile.max(axis=1), 0.1, None)
    crossed = is_on & ((right - left - 1) * 0.06 > _CROSSED_MM)
    middle = (profile * _OFFSETS).sum(axis=1) / np.clip(profile.sum(axis=1), 0.1, None)
    return Samples(np.asarray(is_on), np.asarray(wide, float), np.asarray(full, float),
                   np.asarray(crossed), np.asarray(middle, float))  # fmt: skip
