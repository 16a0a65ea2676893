"""Which of many lines a point of the paper is nearest to: the hit test."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from holoptic.curves.vectors import Vec2
from holoptic.tolerance import LEAST_SQUARE


class Touchable:
    """Lines that stand for something, ready to be asked which one a point touches.

    Each is a polyline in mm with the key that it stands for.
    """

    def __init__(self, lines: Iterable[tuple[Iterable[Vec2], int]]) -> None:
        kept = [(list(path), key) for path, key in lines]
        self._keys = [key for path, key in kept for _ in path[1:]]
        self._starts = np.array([p for path, _ in kept for p in path[:-1]]).reshape(-1, 2)
        ends = np.array([p for path, _ in kept for p in path[1:]]).reshape(-1, 2)
        self._steps = ends - self._starts
        self._squares = np.maximum((self._steps**2).sum(axis=1), LEAST_SQUARE)

    def key_near(self, point: Vec2, reach: float) -> int | None:
        """Return the key of the nearest line within reach (mm), or None."""
        if not self._keys:
            return None
        away = np.array(point) - self._starts
        t = np.clip((away * self._steps).sum(axis=1) / self._squares, 0, 1)
        gaps = np.hypot(*(away - t[:, None] * self._steps).T)
        nearest = int(gaps.argmin())
        return self._keys[nearest] if gaps[nearest] < reach else None
