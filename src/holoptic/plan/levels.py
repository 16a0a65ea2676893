"""The levels of the views: where their lines end, are centred or turn, to lift distances between.

Looked for when first asked: most distances are given, and stand where they were given.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping

from holoptic.curves.space import Curve, EllipticArc
from holoptic.curves.vectors import Vec3, cross
from holoptic.pictorial import Picture

_PLACES = 2
"""Decimals of levels, mm."""
_HALF_SIZE = 0.5
"""A view shows an axis that is longer than this in it; the views show axes true or as points."""


class Levels:
    """The levels of some views along the axes that each of them shows."""

    def __init__(self, views: Callable[[], Mapping[str, Picture]]) -> None:
        """Take what gives the views by their names."""
        self._views = views
        self._found: dict[str, tuple[set[float], ...]] | None = None

    def names(self) -> list[str]:
        """Return the names of the views."""
        return list(self._levels())

    def stand(self, view: str, axis: int, start: Vec3, end: Vec3) -> bool:
        """Say whether a view shows both ends of a distance along an axis; a half width stands to
        either side of its middle, where it starts.
        """
        levels = self._levels().get(view)
        if levels is None:
            return False
        mirrored = 2 * start[axis] - end[axis]
        return _is_in(levels[axis], start[axis]) and any(
            _is_in(levels[axis], at) for at in (end[axis], mirrored)
        )

    def _levels(self) -> dict[str, tuple[set[float], ...]]:
        if self._found is None:
            self._found = {name: _levels_of(view) for name, view in self._views().items()}
        return self._found


def _is_in(levels: set[float], at: float) -> bool:
    return any(round(at + step, _PLACES) in levels for step in (-0.01, 0.0, 0.01))


def _levels_of(view: Picture) -> tuple[set[float], ...]:
    levels: tuple[set[float], ...] = (set(), set(), set())
    shown = [axis for axis in range(3)
             if math.hypot(*(row[axis] for row in view.view.matrix)) > _HALF_SIZE]  # fmt: skip
    for stroke in view.strokes:
        for spot in _telling_spots(stroke.curve):
            for axis in shown:
                levels[axis].add(round(spot[axis], _PLACES))
    return levels


def _telling_spots(curve: Curve) -> Iterator[Vec3]:
    yield curve.start
    yield curve.end
    if isinstance(curve, EllipticArc):
        yield curve.centre
        first, last = curve.span
        across = cross(curve.normal, curve.x_axis)
        for axis in range(3):
            turn = math.atan2(curve.minor * across[axis], curve.major * curve.x_axis[axis])
            for t in (turn + k * math.pi for k in range(-4, 5)):
                if first <= t <= last:
                    yield curve.at(t)
