"""How a sheet was drawn and taken, as the stand-in for a scanner is told."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from holoptic.plan.hand import Hand


@dataclass(frozen=True)
class Sitting:
    """How a sheet is drawn and taken: the hand, slips (draw to mm or degrees), strokes
    left out, whether construction is rubbed out, and how it comes into the picture.
    """

    hand: Hand = field(default_factory=Hand)
    slips: Mapping[int, float] = field(default_factory=dict)
    left_out: frozenset[str] = frozenset()
    is_rubbed_out: bool = False
    is_photo: bool = False
    dpi: int = 300
    seed: int = 0
    until: int | None = None
    """So many moves are done; None: all."""
    extra: tuple[tuple[complex, complex], ...] = ()
    """Lines that the plan does not know, mm from the border's corner."""
