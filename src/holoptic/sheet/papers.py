"""Papers and scales."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass


@dataclass(frozen=True)
class Paper:
    """A sheet lying on its long side; sizes in mm (ISO 5457)."""

    name: str
    width: float
    height: float


PAPERS = (
    Paper("A4", 297, 210),
    Paper("A3", 420, 297),
    Paper("A2", 594, 420),
)

SCALES = (1.0, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01, 0.005, 0.002, 0.001)
"""Full size and the reductions of ISO 5455."""

ENLARGEMENTS = (10.0, 5.0, 2.0)


def scale_words(scale: float) -> str:
    """Return a scale as a title block states it.

    >>> scale_words(0.5), scale_words(2)
    ('1:2', '2:1')
    """
    return f"{scale:g}:1" if scale >= 1 else f"1:{1 / scale:g}"


def choices() -> Iterator[tuple[Paper, float]]:
    """Yield papers and scales in the order a drafter tries them.

    Small things are enlarged on A4 rather than drawn where they cannot be read; then full size
    on A4 and A3, then reductions on A4 and A3, the largest first.
    """
    for scale in ENLARGEMENTS:
        yield PAPERS[0], scale
    for scale in SCALES:
        for paper in PAPERS[:2]:
            yield paper, scale
