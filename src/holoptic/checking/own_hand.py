"""Whose hand has drawn: how far it scatters, estimated from sheets that were checked.

Each check keeps how likely its deviations are for hands of many spreads, on a grid of logarithms;
sheets add up by adding these. With the usual hand as a loose prior the mean and the spread of what
is left tell the hand, and how surely (variance components by likelihood; Searle, Casella and
McCulloch, Variance Components, 1992).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from holoptic.checking.causes import Suspects
from holoptic.checking.rows import Rows
from holoptic.checking.traces import Offs, draws_of
from holoptic.plan.hand import Hand
from holoptic.tolerance import SOLVED

Grid = NDArray[np.float64]
STEPS_MM = tuple(float(step) for step in np.geomspace(0.05, 1.6, 11))
"""The spreads that are tried: of a setting (mm), an angle (degrees) and a compass (mm), each."""
_PRIOR = 0.8
"""How loosely the usual hand is believed (standard deviation of a logarithm)."""
_FEWEST_ROWS = 8
_MOST_ROWS = 90
_SURE_FACTOR = 1.45
"""A spread that is known this well, up or down, is told as known."""
_LOGS: Grid = np.log(np.array(STEPS_MM))


@dataclass(frozen=True)
class Spread:
    """One spread of a hand: its value, and between what it lies in two cases of three."""

    value: float
    low: float
    high: float

    @property
    def is_sure(self) -> bool:
        """Whether it is known well enough to reckon with."""
        return self.high <= _SURE_FACTOR * self.value


@dataclass(frozen=True)
class OwnHand:
    """A hand as so many checked sheets tell it: setting and compass in mm, angle in degrees."""

    setting: Spread
    angle: Spread
    compass: Spread
    sheets: int

    @property
    def hand(self) -> Hand:
        """The hand to reckon with; what is not known well is taken as usual."""
        usual = Hand()
        return Hand(
            round(self.setting.value, 2) if self.setting.is_sure else usual.setting_mm,
            round(self.angle.value, 2) if self.angle.is_sure else usual.angle_deg,
            round(self.compass.value, 2) if self.compass.is_sure else usual.compass_mm,
        )

    @property
    def is_known(self) -> bool:
        """Whether anything of it is known well."""
        return self.setting.is_sure or self.angle.is_sure or self.compass.is_sure


def likelihood_of_hands(suspects: Suspects, rows: Rows) -> tuple[float, ...] | None:
    """Return the logarithm of how likely measured offsets are for hands of all spreads, setting
    first, then angle, then compass (flat, but for a constant); None where too few were measured.
    """
    if len(rows.off) < _FEWEST_ROWS:
        return None
    some = slice(None, None, 1 + len(rows.off) // _MOST_ROWS)
    off, noise = rows.off[some], np.diag(rows.scatter[some] ** 2)
    parts = [_covariance(rows.by_draw[:, some], weights) for weights in _shares(suspects)]
    found = np.empty((len(STEPS_MM),) * 3)
    for place in np.ndindex(found.shape):
        covariance = noise + sum(
            STEPS_MM[k] ** 2 * part for k, part in zip(place, parts, strict=True)
        )
        lower = np.linalg.cholesky(covariance)
        white = np.linalg.solve(lower, off)
        found[place] = -float(white @ white) / 2 - float(np.log(np.diag(lower)).sum())
    found -= found.max()
    return tuple(round(float(value), 3) for value in found.ravel())


def _covariance(by_draw: Offs, weights: Offs) -> Offs:
    moved = by_draw * weights[:, None]
    covariance: Offs = moved.T @ moved
    return covariance


def _shares(suspects: Suspects) -> list[Offs]:
    """Return how far each draw scatters for a hand that has one spread of 1 and no others."""
    moves, meant = suspects.traced.moves, suspects.traced.meant
    return [
        np.array([draw.spread for draw in draws_of(moves, meant, hand)])
        for hand in (Hand(1.0, 0.0, 0.0), Hand(0.0, 1.0, 0.0), Hand(0.0, 0.0, 1.0))
    ]


def own_hand(told: Sequence[Sequence[float]]) -> OwnHand | None:
    """Return the hand that checked sheets tell, each by the likelihoods of its hands; None where
    there is none.
    """
    size = len(STEPS_MM)
    grids = [np.array(one, float).reshape(size, size, size)
             for one in told if len(one) == size**3 and np.isfinite(one).all()]  # fmt: skip
    if not grids:
        return None
    usual = Hand()
    total = np.sum(grids, axis=0)
    for axis, value in enumerate((usual.setting_mm, usual.angle_deg, usual.compass_mm)):
        prior = -(((_LOGS - math.log(value)) / _PRIOR) ** 2) / 2
        shape = [1, 1, 1]
        shape[axis] = size
        total = total + prior.reshape(shape)
    likely = np.exp(total - total.max())
    likely /= likely.sum()
    spreads = [_spread(likely.sum(axis=tuple({0, 1, 2} - {axis}))) for axis in range(3)]
    return OwnHand(spreads[0], spreads[1], spreads[2], len(grids))


def _spread(shares: Grid) -> Spread:
    mean = float((shares * _LOGS).sum())
    spread = math.sqrt(max(float((shares * (_LOGS - mean) ** 2).sum()), SOLVED))
    # between the steps of the grid nothing is told apart
    spread = max(spread, float(_LOGS[1] - _LOGS[0]) / math.sqrt(12.0))
    return Spread(math.exp(mean), math.exp(mean - spread), math.exp(mean + spread))
