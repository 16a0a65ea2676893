"""Where numbered levels lie: by the figures that are known, and what follows from them.

A circle lies in the middle of its sides, and is as wide as it is high; so one figure may tell
others. What no figure tells lies between its neighbours as it was drawn, and is asked for.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from statistics import median

from holoptic.paper.given import TrueLevels

Known = dict[int, float]


@dataclass(frozen=True)
class Ring:
    """A circle or an arc by the part's levels: its two axes, the numbers of its low side, centre
    and high side along each (None where there is none).
    """

    axes: tuple[int, int]
    low: tuple[int | None, int | None]
    centre: tuple[int, int]
    high: tuple[int | None, int | None]

    def halves(self, k: int) -> Iterator[tuple[int, int]]:
        """Yield pairs of numbers that lie a radius apart along its axis `k`, ascending."""
        low, centre, high = self.low[k], self.centre[k], self.high[k]
        if low is not None:
            yield low, centre
        if high is not None:
            yield centre, high


@dataclass(frozen=True)
class Placed:
    """Levels along one axis: where each is put (mm of the part), and the numbers of those that no
    figure tells.
    """

    at: tuple[float, ...]
    asked: frozenset[int]


def placed_levels(
    measured: Sequence[Sequence[float]], known: Sequence[Known], rings: Sequence[Ring]
) -> list[Placed]:
    """Return where the levels of all three axes lie. `known` are true places by number; level 0
    lies at 0.
    """
    told = [{0: 0.0, **own} for own in known]
    while any(_follow(ring, told) for ring in rings):
        pass
    scales = [s for own, at in zip(measured, told, strict=True) if (s := _scale(own, at)) > 0]
    usual = sum(scales) / len(scales) if scales else 1.0
    return [_between(own, at, usual) for own, at in zip(measured, told, strict=True)]


def known_of(measured: Sequence[float], size: float | None, true: TrueLevels) -> Known:
    """Return the true places that somebody told, by the numbers of their levels."""
    known: Known = {}
    for at, place in true:
        known[min(range(len(measured)), key=lambda n: abs(measured[n] - at))] = place
    if size is not None:
        known[len(measured) - 1] = size
    return known


def radius_of(ring: Ring, at: Sequence[Sequence[float]]) -> float:
    """Return the radius of a ring whose levels lie at places (mm): in the median of its sides, as
    one of them may lie on a level beside its own.
    """
    halves = [at[ring.axes[k]][high] - at[ring.axes[k]][low]
              for k in (0, 1) for low, high in ring.halves(k)]  # fmt: skip
    return median(halves) if halves else 0.0


def _follow(ring: Ring, told: Sequence[Known]) -> bool:
    """Add what follows from what is told of a ring; say whether something did."""
    radius = _radius_told(ring, told)
    for k, axis in enumerate(ring.axes):
        own, (low, centre, high) = told[axis], (ring.low[k], ring.centre[k], ring.high[k])
        if centre not in own and low in own and high in own:
            assert low is not None and high is not None
            own[centre] = (own[low] + own[high]) / 2
            return True
        if radius is None:
            continue
        for a, b in ring.halves(k):
            if a in own and b not in own:
                own[b] = own[a] + radius
                return True
            if b in own and a not in own:
                own[a] = own[b] - radius
                return True
    return False


def _radius_told(ring: Ring, told: Sequence[Known]) -> float | None:
    for k, axis in enumerate(ring.axes):
        own, low, high = told[axis], ring.low[k], ring.high[k]
        for a, b in ring.halves(k):
            if a in own and b in own and a != b:
                return own[b] - own[a]
        if low in own and high in own and low != high:
            assert low is not None and high is not None
            return (own[high] - own[low]) / 2
    return None


def _scale(measured: Sequence[float], told: Known) -> float:
    far = max(told)
    return told[far] / measured[far] if measured[far] > 0 else 0.0


def _between(measured: Sequence[float], told: Known, usual: float) -> Placed:
    scale = _scale(measured, told) or usual
    found: list[float] = []
    for number, at in enumerate(measured):
        below = max(n for n in told if n <= number)
        above = min((n for n in told if n > number), default=None)
        place = told[below]
        if number not in told and above is None:
            place += (at - measured[below]) * scale
        elif number not in told and above is not None:
            share = (at - measured[below]) / ((measured[above] - measured[below]) or 1.0)
            place += share * (told[above] - told[below])
        found.append(place)
    return Placed(tuple(found), frozenset(range(len(measured))) - set(told))
