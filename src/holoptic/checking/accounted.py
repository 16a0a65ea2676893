"""Ink that is accounted for: a slip explains more that puts a stroke where nothing else lies."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from holoptic.checking.traces import dense
from holoptic.plan.errors import Places

_BESIDE_MM = 1.0
"""Ink that lies further from all strokes that were found is none of theirs."""

_NOWHERE_MM = 1_000_000.0


class Accounted:
    """The ink that some strokes were found on (paths of places, mm)."""

    def __init__(self, paths: Iterable[Places]) -> None:
        found = [dense(path) for path in paths]
        places = np.concatenate(found) if found else np.empty(0, complex)
        self._tree = cKDTree(np.stack([places.real, places.imag], axis=1))

    def lies_on(self, places: Places) -> NDArray[np.bool_]:
        """Say of places of any shape which of them lie on that ink; those that are NaN do not."""
        flat = np.nan_to_num(places, nan=_NOWHERE_MM).ravel()
        far, _ = self._tree.query(np.stack([flat.real, flat.imag], axis=1),
                                  distance_upper_bound=_BESIDE_MM)  # fmt: skip
        return np.asarray(np.isfinite(far).reshape(places.shape))

    def share(self, path: Places) -> float:
        """Return which share of a path lies on that ink."""
        return float(self.lies_on(dense(path)).mean())
