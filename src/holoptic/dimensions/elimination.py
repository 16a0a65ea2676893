"""Linear rows over named unknowns, eliminated one by one: what is settled, what is said twice."""

from __future__ import annotations

from collections.abc import Hashable, Mapping

from holoptic.tolerance import SLIGHT

Row = Mapping[Hashable, float]
"""Coefficients by unknown; a row says that their sum does not change."""


class Elimination:
    """Rows that hold, each kept by one of its unknowns; Gauss's elimination, sparse."""

    def __init__(self) -> None:
        self._kept: dict[Hashable, dict[Hashable, float]] = {}

    def add(self, row: Row) -> bool:
        """Let a row hold; says whether it tells anything that the others did not."""
        rest = self._reduced(row)
        if not rest:
            return False
        pivot = max(rest, key=lambda key: abs(rest[key]))
        size = rest[pivot]
        self._kept[pivot] = {key: value / size for key, value in rest.items()}
        return True

    def settles(self, row: Row) -> bool:
        """Whether a row follows from those that hold."""
        return not self._reduced(row)

    def _reduced(self, row: Row) -> dict[Hashable, float]:
        """Return what is left of a row; unknowns are taken out in the order they came in."""
        rest = dict(row)
        largest = max((abs(value) for value in rest.values()), default=0.0)
        while True:
            known = next((key for key in rest if key in self._kept), None)
            if known is None:
                break
            share = rest[known]
            for key, value in self._kept[known].items():
                made = rest.get(key, 0.0) - share * value
                if key == known or abs(made) < SLIGHT * largest:
                    rest.pop(key, None)
                else:
                    rest[key] = made
        return {key: value for key, value in rest.items() if abs(value) > SLIGHT * largest}
