"""Thick and thin: from which thickness on the lines of a sheet are thick, if there are two sorts.

A line's thickness is told by how wide it is (its area over its peak), which no grey of the pencil
changes; where a picture is so coarse that all lines are as wide as its blur, by how much ink there
is, which no blur changes. What parts the lines of a sheet better, counts.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from holoptic.tolerance import SOLVED

_LEAST_SEPARATION = 1.28
"""Two sorts differ by this at least; within one, lines differ by 1.17."""
_FEWEST = 4


@dataclass(frozen=True)
class Parted:
    """Where thin ends and thick begins, 0 where all is of one sort, and how well that parts them:
    the share of the variance between the two sorts, 0 to 1.
    """

    least: float
    share: float


def parted(thicknesses: Sequence[float], lengths: Sequence[float]) -> Parted:
    """Return the thickness that parts lines of some lengths best (Otsu 1979), as a ratio."""
    kept = [(t, w) for t, w in zip(thicknesses, lengths, strict=True) if t > 0 and w > 0]
    if len(kept) < _FEWEST:
        return Parted(0.0, 0.0)
    kept.sort()
    logs = np.log([t for t, _ in kept])
    heavy = np.array([w for _, w in kept], float)
    cut, between = _best_cut(logs, heavy)
    low = float(np.average(logs[:cut], weights=heavy[:cut]))
    high = float(np.average(logs[cut:], weights=heavy[cut:]))
    mean = float(np.average(logs, weights=heavy))
    spread = float(np.average((logs - mean) ** 2, weights=heavy))
    if high - low < np.log(_LEAST_SEPARATION):
        return Parted(0.0, 0.0)
    return Parted(float(np.exp((low + high) / 2)), between / max(spread, SOLVED))


def _best_cut(logs: NDArray[np.float64], heavy: NDArray[np.float64]) -> tuple[int, float]:
    total, whole = heavy.sum(), (heavy * logs).sum()
    below, sums = np.cumsum(heavy)[:-1], np.cumsum(heavy * logs)[:-1]
    low, high = sums / below, (whole - sums) / (total - below)
    between = below * (total - below) * (high - low) ** 2 / total**2
    best = int(between.argmax())
    return best + 1, float(between[best])
