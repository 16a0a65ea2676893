"""Roundings between two straight lines: looked for where lines would meet and no ink is.

A quarter of a circle tells its radius badly: where it begins the ink hardly leaves the line, and
a small one is told from a corner by a few dots. Tangent to both lines, centre and radius hang on
one figure: how far from the corner the ink crosses the line that halves it.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations, product

import numpy as np

from holoptic.paper.scan.carriers import (
    STEP_MM,
    CircleCarrier,
    LineCarrier,
    sampled,
    sampled_circle,
)
from holoptic.paper.scan.ink import Ink
from holoptic.paper.scan.seeds import Circle, Places

_LEAST_SINE = 0.35
_CORNER_MM, _MOST_MM = 0.3, 15.0
"""So far from the corner the ink lies at least, and at most."""
_LEAST_RADIUS_MM, _LARGEST_RADIUS_MM = 1.2, 40.0
_ALONG_MM, _ALONG_SHARE = 1.5, 0.8
_ARC_SHARE, _OFF_MM, _MOST_OFF_MM = 0.9, 0.08, 0.2
_ENDS_MM, _ENDS_SHARE = 1.0, 1.2
_SAME_MM, _SAME_SHARE = 0.6, 0.2


@dataclass(frozen=True, eq=False)
class Rounding:
    """An arc between two lines: its circle, and where it begins and ends on it (radians)."""

    circle: Circle
    first: float
    last: float

    def lies_on(self, places: Places) -> bool:
        """Say whether places are but those of the arc."""
        out = places - self.circle.centre
        turn = (np.arctan2(out[:, 1], out[:, 0]) - self.first) % (2 * np.pi)
        share = 0.3 * (self.last - self.first)
        within = (turn < self.last - self.first + share) | (turn > 2 * np.pi - share)
        off = float(self.circle.off(places).max())
        return bool(within.all() and off < _SAME_MM + 0.05 * self.circle.radius)


def roundings(ink: Ink, lines: Sequence[LineCarrier]) -> list[Rounding]:
    """Return the arcs that round off the corners of lines."""
    found = []
    for one, other in combinations(lines, 2):
        corner = _corner(one, other)
        if corner is None or _has_ink(ink, corner):
            continue
        for first, second in product(_ways(one, corner), _ways(other, corner)):
            rounding = _rounding(ink, corner, first, second)
            if rounding is not None:
                found.append(rounding)
    return found


def with_roundings(
    ink: Ink, lines: Sequence[LineCarrier], circles: Sequence[CircleCarrier]
) -> tuple[list[LineCarrier], list[CircleCarrier]]:
    """Return lines and circles with the arcs between lines as they are, and without what was found
    of these before.
    """
    found = roundings(ink, lines)
    left = [line for line in lines
            if not any(one.lies_on(_places(line)) for one in found)]  # fmt: skip
    others = [one for one in circles if not any(_is_same(one, arc) for arc in found)]
    return left, [*others, *(sampled_circle(ink, one.circle) for one in found)]


def _places(line: LineCarrier) -> Places:
    own = np.flatnonzero(line.samples.on)
    numbers = np.linspace(own[0], own[-1], 5) if len(own) else np.zeros(1)
    return np.array([line.at(int(number)) for number in numbers])


def _is_same(carrier: CircleCarrier, arc: Rounding) -> bool:
    """Say whether a circle is the arc, found worse before."""
    near = _SAME_MM + _SAME_SHARE * arc.circle.radius
    on = carrier.samples.on & ~carrier.samples.crossed
    return bool(np.hypot(*(carrier.circle.centre - arc.circle.centre)) < near
                and abs(carrier.circle.radius - arc.circle.radius) < near
                and on.mean() < 0.6)  # fmt: skip


def _corner(one: LineCarrier, other: LineCarrier) -> Places | None:
    """Return where two lines would meet, beyond an end of both or near it; None elsewhere."""
    cross = one.way[0] * other.way[1] - one.way[1] * other.way[0]
    if abs(cross) < _LEAST_SINE:
        return None
    gap = other.place - one.place
    place = one.place + one.way * (gap[0] * other.way[1] - gap[1] * other.way[0]) / cross
    for line in (one, other):
        along = float((place - line.place) @ line.way)
        low, high = line.low, line.low + len(line.samples.on) * STEP_MM
        if not low - 2 * _MOST_MM < along < high + 2 * _MOST_MM:
            return None
    return np.asarray(place)


def _has_ink(ink: Ink, place: Places) -> bool:
    _, on = ink.across(place[None], np.array([[1.0, 0.0]]), np.array([0.0]))
    return bool(on[0, 0])


def _ways(line: LineCarrier, corner: Places) -> Iterator[Places]:
    """Yield the ways in which a line leads away from a corner, as far as it does."""
    along = float((corner - line.place) @ line.way)
    low, high = line.low, line.low + len(line.samples.on) * STEP_MM
    if high - along > _ALONG_MM:
        yield line.way
    if along - low > _ALONG_MM:
        yield -line.way


def _rounding(ink: Ink, corner: Places, first: Places, second: Places) -> Rounding | None:
    """Return the arc between two ways out of a corner, None where there is none."""
    half = np.arccos(np.clip(first @ second, -1.0, 1.0)) / 2
    halving = (first + second) / np.hypot(*(first + second))
    far = _first_ink(ink, corner, halving)
    if far is None:
        return None
    radius = far / (1 / np.sin(half) - 1)
    if not _LEAST_RADIUS_MM < radius < _LARGEST_RADIUS_MM:
        return None
    foot = radius / np.tan(half)
    if not all(_leads_on(ink, corner, way, float(foot)) for way in (first, second)):
        return None
    circle = Circle(corner + halving * radius / np.sin(half), float(radius))
    ends = [corner + foot * way - circle.centre for way in (first, second)]
    angles = [float(np.arctan2(end[1], end[0])) for end in ends]
    turn = (angles[1] - angles[0]) % (2 * np.pi)
    start, turn = (angles[0], turn) if turn < np.pi else (angles[1], 2 * np.pi - turn)
    return Rounding(circle, start, start + turn) if _is_inked(ink, circle, start, turn) else None


def _first_ink(ink: Ink, corner: Places, way: Places) -> float | None:
    """Return how far the middle of the first ink lies from a corner along a way, mm."""
    along = np.arange(0.0, _MOST_MM, STEP_MM / 2)
    _, on = ink.across(corner + along[:, None] * way, np.repeat(way[None], len(along), 0),
                       np.array([0.0]))  # fmt: skip
    edges = np.flatnonzero(np.diff(np.r_[0, on[:, 0].astype(int), 0]))
    if len(edges) < 2 or edges[0] == 0:
        return None
    far = float(edges[0] + edges[1] - 1) / 2 * STEP_MM / 2
    return far if far > _CORNER_MM else None


def _leads_on(ink: Ink, corner: Places, way: Places, foot: float) -> bool:
    """Say whether a line begins where an arc ends, and not long before."""
    normal = np.array([-way[1], way[0]])

    def share(low: float, high: float) -> float:
        along = np.arange(low, high, STEP_MM)
        if not len(along):
            return 0.0
        samples = sampled(ink, corner + along[:, None] * way,
                          np.repeat(normal[None], len(along), 0))  # fmt: skip
        return float(samples.on.mean())

    return (share(foot, foot + _ENDS_MM + _ENDS_SHARE * min(foot, 3.0)) > _ALONG_SHARE
            and share(0.0, 0.25 * foot) < 0.5)  # fmt: skip


def _is_inked(ink: Ink, circle: Circle, start: float, turn: float) -> bool:
    """Say whether ink lies all along an arc, in the middle of its stroke."""
    angles = start + np.linspace(0.08, 0.92, max(12, int(turn * circle.radius / STEP_MM))) * turn
    out = np.c_[np.cos(angles), np.sin(angles)]
    samples = sampled(ink, circle.centre + circle.radius * out, out)
    own = samples.on & ~samples.crossed
    if samples.on.mean() < _ARC_SHARE or own.mean() < 0.5:
        return False
    off = np.abs(samples.middle[own])
    return float(np.median(off)) < _OFF_MM and float(np.percentile(off, 95)) < _MOST_OFF_MM
