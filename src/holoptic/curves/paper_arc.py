"""Elliptic arcs on paper: what the image of a circle is, exactly."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from holoptic.curves.vectors import Vec2
from holoptic.tolerance import CHORD_MM, ROUNDING

_ROUND = ROUNDING
"""Relative difference of the half axes below which an ellipse is a circle."""


@dataclass(frozen=True)
class PaperArc:
    """centre + a · cos t + b · sin t for t from `first` to `last` (radians); lengths in mm.

    `a` and `b` are conjugate half diameters: square to each other only if the arc is so given.
    """

    centre: Vec2
    a: Vec2
    b: Vec2
    first: float
    last: float

    @property
    def is_closed(self) -> bool:
        """Whether it goes all the way round."""
        return self.last - self.first > math.tau - ROUNDING

    @property
    def runs_left(self) -> bool:
        """Whether it turns counter-clockwise with growing parameter."""
        return self.a[0] * self.b[1] - self.a[1] * self.b[0] > 0

    def at(self, t: float) -> Vec2:
        """Return the point at parameter t."""
        cosine, sine = math.cos(t), math.sin(t)
        return (
            self.centre[0] + self.a[0] * cosine + self.b[0] * sine,
            self.centre[1] + self.a[1] * cosine + self.b[1] * sine,
        )

    def path(self, chord: float = CHORD_MM) -> list[Vec2]:
        """Return its polyline, mm, no more than `chord` off the arc."""
        return [(x, y) for x, y in self.points(chord).tolist()]

    def points(self, chord: float = CHORD_MM) -> np.ndarray:
        """Return the corners (n × 2, mm) of a polyline no more than `chord` off the arc.

        The arc is the image of a circle of radius 1 under a map that stretches by no more than
        its norm √(a² + b²); a step of angle h stands off by norm · (1 − cos h/2).
        """
        (x, y), (ax, ay), (bx, by) = self.centre, self.a, self.b
        norm = math.hypot(ax, ay, bx, by)
        half_step = math.acos(max(1 - chord / norm, 0.5)) if norm > chord else 1.0
        steps = max(2, math.ceil((self.last - self.first) / (2 * half_step)))
        t = self.first + (self.last - self.first) / steps * np.arange(steps + 1)
        cosine, sine = np.cos(t), np.sin(t)
        across, up = x + ax * cosine + bx * sine, y + ay * cosine + by * sine
        return np.column_stack([across, up])

    @property
    def box(self) -> tuple[float, float, float, float]:
        """(xmin, ymin, xmax, ymax) of the arc itself, mm."""
        across = self._reach(self.a[0], self.b[0], self.centre[0])
        up = self._reach(self.a[1], self.b[1], self.centre[1])
        return across[0], up[0], across[1], up[1]

    def _reach(self, a: float, b: float, middle: float) -> tuple[float, float]:
        """Return the least and the largest value of middle + a · cos t + b · sin t."""
        far = math.hypot(a, b)
        ends = [middle + a * math.cos(t) + b * math.sin(t) for t in (self.first, self.last)]
        turning = math.atan2(b, a)  # there it is largest, and least half a turn on
        largest = middle + far if self._passes(turning) else max(ends)
        least = middle - far if self._passes(turning + math.pi) else min(ends)
        return least, largest

    def _passes(self, t: float) -> bool:
        return (t - self.first) % math.tau <= self.last - self.first

    def placed(self, origin: Vec2, scale: float) -> PaperArc:
        """Return the arc scaled and then moved by `origin`."""
        x, y = self.centre
        return PaperArc(
            (origin[0] + scale * x, origin[1] + scale * y),
            (scale * self.a[0], scale * self.a[1]),
            (scale * self.b[0], scale * self.b[1]),
            self.first,
            self.last,
        )

    def on_axes(self) -> PaperArc:
        """Return the same arc with `a` as its half major and `b` as its half minor axis.

        The turned parameter runs counter-clockwise. The axes are where |at(t) − centre| is
        largest and smallest: tan 2t = 2 a·b / (a² − b²) (Rytz's construction, in figures).
        """
        (ax, ay), (bx, by) = self.a, self.b
        turn = math.atan2(2 * (ax * bx + ay * by), ax * ax + ay * ay - bx * bx - by * by) / 2
        cosine, sine = math.cos(turn), math.sin(turn)
        major = ax * cosine + bx * sine, ay * cosine + by * sine
        minor = bx * cosine - ax * sine, by * cosine - ay * sine
        first, last = self.first - turn, self.last - turn
        if not self.runs_left:
            minor = -minor[0], -minor[1]
            first, last = -last, -first
        return PaperArc(self.centre, major, minor, first, last)

    @property
    def radius(self) -> float | None:
        """The radius in mm if it is an arc of a circle, else None."""
        arc = self.on_axes()
        major, minor = math.hypot(*arc.a), math.hypot(*arc.b)
        return major if major - minor <= _ROUND * major else None


def chords_of(arcs: Sequence[PaperArc], chord: float) -> np.ndarray:
    """Return the straight pieces (n × 4: x, y to x, y; mm) of arcs, one arc after the other, each
    as its `points` have them.
    """
    figures = np.array([(*arc.centre, *arc.a, *arc.b, arc.first, arc.last) for arc in arcs])
    norm = np.sqrt((figures[:, 2:6] ** 2).sum(axis=1))
    half_step = np.arccos(np.maximum(1 - chord / np.maximum(norm, chord), 0.5))
    half_step[norm <= chord] = 1.0
    first, last = figures[:, 6], figures[:, 7]
    steps = np.maximum(2, np.ceil((last - first) / (2 * half_step))).astype(int)
    arc = np.repeat(np.arange(len(arcs)), steps)
    number = np.arange(len(arc)) - np.repeat(np.cumsum(steps) - steps, steps)
    x, y, ax, ay, bx, by = figures[arc, :6].T
    ends = []
    for k in (number, number + 1):
        t = first[arc] + ((last - first) / steps)[arc] * k
        cosine, sine = np.cos(t), np.sin(t)
        ends += [x + ax * cosine + bx * sine, y + ay * cosine + by * sine]
    return np.column_stack(ends)
