"""The hand that draws: how far its settings spread, and which hand it is."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Hand:
    """Standard deviations of a setting with rule or dividers (mm), of an angle by square
    (degrees) and of a compass radius (mm).
    """

    setting_mm: float = 0.25
    angle_deg: float = 0.25
    compass_mm: float = 0.2
