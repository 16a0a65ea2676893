"""What was measured of strokes, row by row, and how likely it is for a hand of ordinary spread.

Rows hang together by the settings that move them: their covariance is that of the hand's spread and
of the error of measuring (generalised least squares; Aitken 1935). A stroke whose rows contradict
all others was measured on other ink; it is found by what leaving it out gains (the group test for
blunders; Baarda 1968).
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from holoptic.checking.traces import Offs
from holoptic.plan.errors import Places

MISSING_COSTS = 12.0
"""So much less likely (a logarithm) a sheet is for each stroke that is not found on it."""
_BARE_COSTS, _BARE_MOST = 0.5, 9.0
"""The same for each mm of a stroke that has no ink, and for all of them at most."""
_BARE_SHARE, _BARE_MM = 0.06, 1.0
"""So much of any stroke may lack ink: crossings, grain, the pencil lifted."""
_KEPT_INVERSES = 12
_MOST_WRONG = 12

Row = tuple[float, Offs, float, int]
"""An offset, how far each draw moves it, its scatter, the number of its stroke."""


@dataclass(frozen=True)
class Rows:
    """What was measured against some sheet: offsets (mm) of rows, which draw moves each by how much
    (draws × rows), how far each scatters, of which stroke it is (its number), and how many strokes
    were not found. `paths` are where the ink of those that were found lies (mm), by their numbers,
    `bare` how much of each has no ink beyond what is usual (mm).
    """

    off: Offs
    by_draw: Offs
    scatter: Offs
    stroke: NDArray[np.int64]
    missing: int
    paths: Mapping[int, Places] = field(default_factory=dict)
    bare: Mapping[int, float] = field(default_factory=dict)

    @property
    def strokes(self) -> set[int]:
        """The strokes that were found."""
        return set(self.stroke.tolist())

    def of_strokes(self, strokes: set[int]) -> Rows:
        """Return the rows of some strokes alone."""
        kept = np.isin(self.stroke, list(strokes))
        return Rows(self.off[kept], self.by_draw[:, kept], self.scatter[kept], self.stroke[kept],
                    self.missing)  # fmt: skip

    def without(self, stroke: int) -> Rows:
        """Return the same with one stroke taken as not found."""
        kept = self.stroke != stroke
        paths = {number: path for number, path in self.paths.items() if number != stroke}
        bare = {number: size for number, size in self.bare.items() if number != stroke}
        return Rows(self.off[kept], self.by_draw[:, kept], self.scatter[kept], self.stroke[kept],
                    self.missing + 1, paths, bare)  # fmt: skip


def rows_of(
    rows: Sequence[Row], draws: int, missing: int, paths: Mapping[int, Places] | None = None,
    bare: Mapping[int, float] | None = None,
) -> Rows:  # fmt: skip
    """Return single rows together; `draws` is how many settings there are."""
    if not rows:
        none = np.empty(0)
        return Rows(none, np.empty((draws, 0)), none, none.astype(int), missing)
    offs, moves, scatter, strokes = zip(*rows, strict=True)
    return Rows(np.array(offs), np.array(moves).T, np.array(scatter), np.array(strokes), missing,
                paths or {}, bare or {})  # fmt: skip


def bare_of(covered: float, length: float) -> float:
    """Return how much of a stroke of a length (mm), of which a share has ink, lacks it beyond what
    is usual; mm.
    """
    return max(0.0, (1.0 - covered - _BARE_SHARE) * length - _BARE_MM)


class Likelihood:
    """How likely rows are for a hand that scatters so far in each of its draws (mm, degrees)."""

    def __init__(self, spreads: Offs) -> None:
        self._spreads = spreads
        self._inverses: OrderedDict[bytes, Offs] = OrderedDict()

    def of(self, rows: Rows) -> float:
        """Return the logarithm of how likely what was measured is, but for a constant."""
        bare = sum(min(_BARE_COSTS * size, _BARE_MOST) for size in rows.bare.values())
        lost = MISSING_COSTS * rows.missing + bare
        if not len(rows.off):
            return -lost
        return -float(rows.off @ self.inverse(rows) @ rows.off) / 2 - lost

    def credible(self, rows: Rows) -> Rows:
        """Return what was measured without strokes of which other ink must have been measured: to
        leave one out makes the rest so much likelier that it is worth a missing stroke.
        """
        for _ in range(_MOST_WRONG):
            if not len(rows.off):
                break
            inverse = self.inverse(rows)
            told = inverse @ rows.off
            gains = {stroke: _gain(inverse, told, rows.stroke == stroke) for stroke in rows.strokes}
            worst = max(gains, key=lambda stroke: gains[stroke])
            if gains[worst] < MISSING_COSTS:
                break
            rest = rows.without(worst)
            self._keep(rest, _without(inverse, rows.stroke == worst))
            rows = rest
        return rows

    def errors(self, rows: Rows) -> Offs:
        """Return how far each draw was off, most likely, by the hand's ordinary spread (mm,
        degrees): its expectation by what was measured.
        """
        if not len(rows.off):
            return np.zeros(len(self._spreads))
        told: Offs = self._spreads**2 * (rows.by_draw @ (self.inverse(rows) @ rows.off))
        return told

    def inverse(self, rows: Rows) -> Offs:
        """Return the inverse of the rows' covariance; most slips leave the same rows."""
        known = self._inverses.get(rows.by_draw.tobytes())
        if known is not None:
            return known
        spread = rows.by_draw * self._spreads[:, None]
        covariance = spread.T @ spread + np.diag(rows.scatter**2)
        return self._keep(rows, np.asarray(np.linalg.inv(covariance)))

    def _keep(self, rows: Rows, inverse: Offs) -> Offs:
        self._inverses[rows.by_draw.tobytes()] = inverse
        if len(self._inverses) > _KEPT_INVERSES:
            self._inverses.popitem(last=False)
        return inverse


def _gain(inverse: Offs, told: Offs, of: NDArray[np.bool_]) -> float:
    """Return by how much likelier the rest is without some rows; `told` is the inverse times the
    offsets.
    """
    return float(told[of] @ np.linalg.solve(inverse[np.ix_(of, of)], told[of])) / 2


def _without(inverse: Offs, of: NDArray[np.bool_]) -> Offs:
    """Return the inverse of the covariance without some rows (of a matrix in blocks)."""
    beside = inverse[np.ix_(~of, of)]
    found: Offs = inverse[np.ix_(~of, ~of)] - beside @ np.linalg.solve(
        inverse[np.ix_(of, of)], beside.T
    )
    return found
