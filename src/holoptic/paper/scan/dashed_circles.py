"""Circles in dashes: no dash is round enough to tell its circle, but all of them together are.

Two dashes vote for the circle that both are tangents of; where enough others lie along it, it is
one. (The centre lies where the dashes' normals meet; an exhaustive form of the randomised circle
detection of Chen and Chung, 2001.)
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from holoptic.paper.scan.seeds import Circle, Places, Seed, fit_circle, fit_line
from holoptic.tolerance import ROUNDING

_SHORTEST_MM, _LONGEST_MM = 0.8, 6.5
_MOST_DASHES = 600
_APART_MM = 16.0
_LEAST_TURN = np.radians(8.0)
_LEAST_RADIUS_MM, _LARGEST_RADIUS_MM = 1.5, 80.0
_ALIKE_MM, _ALIKE_SHARE = 0.25, 0.05
_OFF_MM, _OFF_SHARE, _LEAN = 0.15, 0.012, 0.16
_FEWEST = 5
_COVERED, _LARGEST_GAP = 0.35, np.radians(110.0)
_EXACT_MM = 0.16


@dataclass(frozen=True, eq=False)
class _Dashes:
    """Straight seeds as dashes: their middles (n, 2), their ways (n, 2), how long they are (mm)."""

    seeds: list[Seed]
    middles: Places
    ways: Places
    long: NDArray[np.float64]


def dashed_circles(seeds: Sequence[Seed]) -> list[tuple[Circle, list[Seed]]]:
    """Return the circles along which short straight seeds lie (mm), the surest first, and which
    seeds these are.
    """
    dashes = _dashes_of(seeds)
    free = np.ones(len(dashes.seeds), bool)
    found: list[tuple[Circle, list[Seed]]] = []
    while free.sum() >= _FEWEST:
        best = _best(dashes, free)
        if best is None:
            break
        circle, own = best
        free &= ~own
        found.append((circle, [dashes.seeds[k] for k in np.flatnonzero(own)]))
    return found


def _dashes_of(seeds: Sequence[Seed]) -> _Dashes:
    short = [one for one in seeds
             if one.circle is None and _SHORTEST_MM < one.length < _LONGEST_MM]  # fmt: skip
    short = sorted(short, key=lambda one: -one.length)[:_MOST_DASHES]
    fitted = [fit_line(one.places) for one in short]
    return _Dashes(
        short, np.array([place for place, _ in fitted]).reshape(-1, 2),
        np.array([way for _, way in fitted]).reshape(-1, 2),
        np.array([one.length for one in short]),
    )  # fmt: skip


def _best(dashes: _Dashes, free: NDArray[np.bool_]) -> tuple[Circle, NDArray[np.bool_]] | None:
    """Return the circle that most dashes lie along, and which they are."""
    centres, radii = _voted(dashes, free)
    if not len(radii):
        return None
    lying = _lying(dashes, centres, radii) & free
    covered = (lying * dashes.long).sum(axis=1) / (2 * np.pi * radii)
    for number in np.argsort(-np.where(lying.sum(axis=1) >= _FEWEST, covered, 0.0))[:8]:
        own = lying[number]
        for _ in range(2):  # once more with what lies along the better circle
            if own.sum() < _FEWEST:
                break
            circle = fit_circle(np.vstack([dashes.seeds[k].places for k in np.flatnonzero(own)]))
            own = _lying(dashes, circle.centre[None], np.array([circle.radius]))[0] & free
        if own.sum() >= _FEWEST and _goes_round(dashes, circle, own):
            return circle, own
    return None


def _voted(dashes: _Dashes, free: NDArray[np.bool_]) -> tuple[Places, NDArray[np.float64]]:
    """Return centres (n, 2) and radii of the circles that have two near dashes for tangents."""
    first, second = np.triu_indices(len(dashes.seeds), 1)
    apart = np.hypot(*(dashes.middles[first] - dashes.middles[second]).T)
    a, b = dashes.ways[first], dashes.ways[second]
    cross = a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]
    turn = np.arcsin(np.clip(np.abs(cross), 0, 1))
    kept = free[first] & free[second] & (apart < _APART_MM) & (turn > _LEAST_TURN)
    first, second, cross, a, b = first[kept], second[kept], cross[kept], a[kept], b[kept]
    # where the normals meet: p + s·n(a) lies on q + t·n(b)
    gap = dashes.middles[second] - dashes.middles[first]
    along = (gap[:, 0] * b[:, 0] + gap[:, 1] * b[:, 1]) / np.where(cross, cross, 1.0)
    normals = np.c_[-a[:, 1], a[:, 0]]
    centres = dashes.middles[first] + along[:, None] * normals
    one = np.hypot(*(centres - dashes.middles[first]).T)
    other = np.hypot(*(centres - dashes.middles[second]).T)
    radii = (one + other) / 2
    alike = np.abs(one - other) < _ALIKE_MM + _ALIKE_SHARE * radii
    sized = (radii > _LEAST_RADIUS_MM) & (radii < _LARGEST_RADIUS_MM)
    return centres[alike & sized], radii[alike & sized]


def _lying(dashes: _Dashes, centres: Places, radii: NDArray[np.float64]) -> NDArray[np.bool_]:
    """Return of each circle (rows) which dashes lie along it."""
    out = dashes.middles[None] - centres[:, None]
    far = np.hypot(out[..., 0], out[..., 1])
    # the middle of a chord lies a little inside
    inside = dashes.long[None] ** 2 / (12 * np.maximum(radii[:, None], 1.0))
    off = np.abs(far + inside * 0.5 - radii[:, None])
    lean = np.abs((out * dashes.ways[None]).sum(axis=2)) / np.maximum(far, ROUNDING)
    return np.asarray((off < _OFF_MM + _OFF_SHARE * radii[:, None]) & (lean < _LEAN))


def _goes_round(dashes: _Dashes, circle: Circle, own: NDArray[np.bool_]) -> bool:
    """Say whether dashes cover a circle without a large gap, and lie on it exactly."""
    if dashes.long[own].sum() < _COVERED * 2 * np.pi * circle.radius:
        return False
    out = dashes.middles[own] - circle.centre
    angles = np.sort(np.arctan2(out[:, 1], out[:, 0]))
    gaps = np.diff(np.r_[angles, angles[0] + 2 * np.pi])
    places = np.vstack([dashes.seeds[k].places for k in np.flatnonzero(own)])
    return bool(gaps.max() < _LARGEST_GAP and np.percentile(circle.off(places), 95) < _EXACT_MM)
