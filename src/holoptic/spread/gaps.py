"""How wide the gap must be: no part may hide what another one shows by itself."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from holoptic.solid.pieces import Look

Feature = tuple[int, int | None]
"""A body's number, and the number of an operation of its part; None: its crate, or a file's."""

_STILL_SEEN = 0.5
"""A feature is seen where no more than half of what it shows by itself is hidden."""
_GAPS_MM = (5.0, 8.0, 12.0, 18.0, 27.0, 40.0, 60.0, 90.0, 135.0, 200.0, 300.0)
_FINEST_MM = 0.5

TIGHT_MM = _GAPS_MM[0]
"""Parts nearer to each other than this read as one."""


class Telling:
    """The features that each body shows by itself along a direction."""

    def __init__(self, alone: Sequence[Look]) -> None:
        """Take the look at each body by itself."""
        self._alone: dict[Feature, float] = {}
        for body, look in enumerate(alone):
            for (_, operation), length in _shown(look).items():
                key = body, operation
                self._alone[key] = self._alone.get(key, 0.0) + length

    @property
    def count(self) -> int:
        """How many there are."""
        return len(self._alone)

    def unseen(self, look: Look) -> tuple[Feature, ...]:
        """Return those that are not seen where the bodies are looked at together."""
        shown = _shown(look)
        return tuple(
            feature for feature, length in self._alone.items()
            if shown.get(feature, 0.0) < _STILL_SEEN * length
        )  # fmt: skip


def _shown(look: Look) -> dict[Feature, float]:
    """Return how much of each feature is seen, mm."""
    found: dict[Feature, float] = defaultdict(float)
    for piece in look.pieces:
        if piece.visible:
            found[piece.body, piece.operation] += piece.curve.length
    return found


@dataclass(frozen=True)
class GapFound:
    """The least gap at which the most is seen, mm, and what is not seen even then."""

    gap: float
    unseen: tuple[Feature, ...]


def least_gap(unseen_at: Callable[[float], tuple[Feature, ...]]) -> GapFound:
    """Return the least gap, to half a millimetre, at which as much is seen as can be.

    `unseen_at` tells what is not seen with a gap. What is hidden by a part that never gets out of
    the way stays hidden however wide the gap.
    """
    tried: list[tuple[float, tuple[Feature, ...]]] = []
    for gap in _GAPS_MM:
        tried.append((gap, unseen_at(gap)))
        if not tried[-1][1]:
            break
    fewest = min(len(unseen) for _, unseen in tried)
    at = next(k for k, (_, unseen) in enumerate(tried) if len(unseen) == fewest)
    best, low = tried[at], tried[at - 1][0] if at else _GAPS_MM[0]
    while best[0] - low > _FINEST_MM:
        middle = round((best[0] + low) / 2 / _FINEST_MM) * _FINEST_MM
        if middle in (low, best[0]):
            break
        unseen = unseen_at(middle)
        if len(unseen) == fewest:
            best = middle, unseen
        else:
            low = middle
    return GapFound(*best)
