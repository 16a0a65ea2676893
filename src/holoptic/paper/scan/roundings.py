"""Roundings between two straight lines: their centre hangs on the lines, so one figure is fitted.

A quarter of a circle tells its radius badly: where it begins the ink hardly leaves the line, and
what lies on the line is taken for a part of it. Tangent to both lines, its centre and its radius
are one unknown; the ink in the middle of the arc settles it (least squares by Gauss and Newton).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from holoptic.paper.scan.carriers import STEP_MM, CircleCarrier, LineCarrier, sampled_circle
from holoptic.paper.scan.ink import Ink
from holoptic.paper.scan.seeds import Circle, Places

_LEAST_ARC, _LARGEST_ARC = np.radians(35.0), np.radians(170.0)
_TOUCH_MM, _TOUCH_SHARE, _TOUCH_TURN = 0.2, 0.12, np.radians(35.0)
_REACH_MM, _REACH_SHARE = 1.5, 0.4
_LEAST_SINE = 0.35
_ROUNDS, _MIDDLE_SHARE, _FEWEST_SAMPLES = 5, 0.15, 8
_OFF_MM, _OTHER_MM, _OTHER_SHARE = 0.06, 0.3, 0.25


@dataclass(frozen=True, eq=False)
class _Side:
    """A line that an arc touches: a place on it, and its normal towards the arc's centre."""

    place: Places
    normal: Places


def fitted_rounding(
    ink: Ink, carrier: CircleCarrier, lines: Sequence[LineCarrier]
) -> CircleCarrier:
    """Return a circle of which one arc lies between two lines with its radius told by these; any
    other one as it is.
    """
    arc = _arc_of(carrier)
    if arc is None:
        return carrier
    sides = [_touched(carrier.circle, angle, lines) for angle in arc]
    if sides[0] is None or sides[1] is None:
        return carrier
    circle = _between(ink, carrier.circle, arc, (sides[0], sides[1]))
    return sampled_circle(ink, circle) if circle is not None else carrier


def _arc_of(carrier: CircleCarrier) -> tuple[float, float] | None:
    """Return from where to where the ink of a circle goes, radians, where it is one short arc."""
    there = carrier.samples.on | carrier.samples.crossed
    if there.all() or not there.any():
        return None
    start = int(np.argmin(there))
    edges = np.flatnonzero(np.diff(np.r_[0, np.roll(there, -start).astype(int), 0]))
    firsts, lasts = edges[::2], edges[1::2]
    longest = int(np.argmax(lasts - firsts))
    first, last = (start + firsts[longest]) * carrier.step, (start + lasts[longest]) * carrier.step
    is_one_arc = 2 * (lasts[longest] - firsts[longest]) > there.sum()
    return (first, last) if is_one_arc and _LEAST_ARC < last - first < _LARGEST_ARC else None


def _touched(circle: Circle, angle: float, lines: Sequence[LineCarrier]) -> _Side | None:
    """Return the line that a circle touches about an end of its arc, None where there is none."""
    out = np.array([np.cos(angle), np.sin(angle)])
    best, side = np.inf, None
    for line in lines:
        normal = np.array([-line.way[1], line.way[0]])
        far = float((circle.centre - line.place) @ normal)
        normal, far = (normal, far) if far > 0 else (-normal, -far)
        off = abs(far - circle.radius)
        if off > _TOUCH_MM + _TOUCH_SHARE * circle.radius or -(out @ normal) < np.cos(_TOUCH_TURN):
            continue
        foot = float((circle.centre - line.place) @ line.way)
        low, high = line.low, line.low + len(line.samples.on) * STEP_MM
        reach = _REACH_MM + _REACH_SHARE * circle.radius
        if low - reach < foot < high + reach and off < best:
            best, side = off, _Side(line.place, normal)
    return side


def _between(
    ink: Ink, circle: Circle, arc: tuple[float, float], sides: tuple[_Side, _Side]
) -> Circle | None:
    """Return the circle that touches two lines and whose arc lies on the ink, None for none."""
    normals = np.array([side.normal for side in sides])
    if abs(np.linalg.det(normals)) < _LEAST_SINE:
        return None
    # the centre for no radius, and how it moves as the radius grows
    start = np.linalg.solve(normals, [side.normal @ side.place for side in sides])
    along = np.linalg.solve(normals, [1.0, 1.0])
    radius, off = circle.radius, np.zeros(0)
    for _ in range(_ROUNDS):
        trial = Circle(start + radius * along, radius)
        angles, off = _middle_of(ink, trial, arc)
        pull = np.c_[np.cos(angles), np.sin(angles)] @ along + 1.0
        if len(off) < _FEWEST_SAMPLES or not np.abs(pull).max() > 0:
            return None
        radius += float((off @ pull) / (pull @ pull))
        if abs(radius - circle.radius) > _OTHER_MM + _OTHER_SHARE * circle.radius:
            return None
    if float(np.median(np.abs(off))) > _OFF_MM:
        return None
    return Circle(start + radius * along, radius)


def _middle_of(ink: Ink, circle: Circle, arc: tuple[float, float]) -> tuple[Places, Places]:
    """Return where along the middle of an arc there is ink (radians), and how far beside (mm)."""
    carrier = sampled_circle(ink, circle)
    share = _MIDDLE_SHARE * (arc[1] - arc[0])
    numbers = np.arange(round((arc[0] + share) / carrier.step),
                        round((arc[1] - share) / carrier.step))  # fmt: skip
    own = numbers % len(carrier.samples.on)
    kept = carrier.samples.on[own] & ~carrier.samples.crossed[own]
    return np.asarray(numbers[kept] * carrier.step, float), carrier.samples.middle[own][kept]
