"""Levels along one axis of a part: where its lines lie, as they were measured and as they are."""

from __future__ import annotations

from dataclasses import dataclass

SAME_LEVEL_MM = 0.45
"""What was measured within this of a level lies on it."""


@dataclass(frozen=True)
class Levels:
    """The levels along one axis: where they were measured from the part's low side (mm of paper),
    where they are put (mm of the part).
    """

    measured: tuple[float, ...]
    placed: tuple[float, ...]

    @property
    def scale(self) -> float:
        """How much larger the part is than what was measured, in all."""
        span = self.measured[-1] - self.measured[0]
        return (self.placed[-1] - self.placed[0]) / span if span > 0 else 1.0

    def put(self, at: float) -> float:
        """Return where a place belongs: on the nearest level, or between levels as it lies."""
        k = min(range(len(self.measured)), key=lambda n: abs(self.measured[n] - at))
        if abs(self.measured[k] - at) < SAME_LEVEL_MM:
            return self.placed[k]
        return self.placed[0] + (at - self.measured[0]) * self.scale
