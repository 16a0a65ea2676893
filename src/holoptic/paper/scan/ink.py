"""The ink of a sheet that lies flat: how dark, where it is, and what of it is letters.

Places are in mm from the upper left of the flat picture, Y down, until a sheet is made of them.
"""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from holoptic.checking.pictures.ink import Dark, Grey, darkness

PER_MM = 12.0
"""Dots per mm of a flat sheet that lines are looked for on."""
Mask = NDArray[np.uint8]
Reals = NDArray[np.floating[Any]]
_PAPER_MM, _SMOOTH_MM, _AROUND_MM = 4.0, 0.08, 1.2
_LEAST_DARK, _OF_DARKEST, _NOISE_TIMES = 0.12, 0.42, 6.0
_LEAST_SPOT_MM2, _LEAST_HOLE_MM2 = 0.06, 0.05
_LETTER_MM, _SLIM_MM = 5.2, 0.75
_SLIM_STROKE_MM, _SLIM_SHARE = 0.8, 0.35
_FULL = 90.0


class Ink:
    """The ink of a flat sheet: `dark` (0 to 1, about 1 on full strokes) and `mask`."""

    def __init__(self, flat: Grey, border_mm: float) -> None:
        """Find the ink; what lies within `border_mm` of the picture's edge is none."""
        dark = cv2.GaussianBlur(darkness(flat, round(_PAPER_MM * PER_MM)), (0, 0),
                                _SMOOTH_MM * PER_MM)  # fmt: skip
        mask = _binarised(dark)
        rim = round(border_mm * PER_MM)
        if rim > 0:
            mask[:rim], mask[-rim:], mask[:, :rim], mask[:, -rim:] = 0, 0, 0, 0
        self.mask: Mask = mask
        level = float(np.percentile(dark[mask > 0], _FULL)) if mask.any() else 1.0
        self.dark: Dark = np.clip(dark / max(level, _LEAST_DARK), 0.0, 1.3).astype(np.float32)
        self._at = mask.astype(np.float32)

    def without_letters(self) -> Mask:
        """Return the mask without small lumps that are no dashes: letters and figures."""
        count, labels, stats, _ = cv2.connectedComponentsWithStats(self.mask, connectivity=8)
        wide, high = stats[:, 2] / PER_MM, stats[:, 3] / PER_MM
        area, long = stats[:, 4] / PER_MM**2, np.hypot(wide, high)
        is_slim = np.minimum(wide, high) < _SLIM_MM
        # a slanting dash is a lump too, but one that is all stroke
        is_dash = (area < 1.8) & (area / (0.3 * long + 1.0 / PER_MM) < 1.25) & (long < 3.6)
        is_letter = (np.maximum(wide, high) < _LETTER_MM) & ~is_slim & ~is_dash
        is_letter[0] = False
        for number in np.flatnonzero(is_letter):
            is_letter[number] = not _is_stroke(labels, int(number), stats[number])
        left = self.mask.copy()
        if count > 1:
            left[is_letter[labels]] = 0
        return left

    def across(
        self, places: Reals, normals: Reals, offsets: Reals
    ) -> tuple[NDArray[np.float32], NDArray[np.bool_]]:
        """Return how dark it is, and whether it is ink, at places moved along their normals: arrays
        (places, offsets).
        """
        at = places[:, None, :] + offsets[None, :, None] * normals[:, None, :]
        x, y = (at[..., k].astype(np.float32) * np.float32(PER_MM) for k in (0, 1))
        dark = cv2.remap(self.dark, x, y, cv2.INTER_LINEAR, borderValue=0)
        on = cv2.remap(self._at, x, y, cv2.INTER_LINEAR, borderValue=0) > 0.5
        return np.asarray(dark, np.float32), np.asarray(on)


def _is_stroke(labels: NDArray[np.int32], number: int, stats: NDArray[np.int32]) -> bool:
    """Say whether a lump is slim whichever way it lies: a dash of a circle, or one that leans."""
    x, y, wide, high, _ = (int(one) for one in stats)
    rows, columns = np.nonzero(labels[y : y + high, x : x + wide] == number)
    _, sides, _ = cv2.minAreaRect(np.c_[columns, rows].astype(np.float32))
    slim, long = min(sides) / PER_MM, max(sides) / PER_MM
    return bool(slim < _SLIM_STROKE_MM and slim < _SLIM_SHARE * long)


def _binarised(dark: Dark) -> Mask:
    size = round(_AROUND_MM * PER_MM) | 1
    darkest = cv2.dilate(dark, np.ones((size, size), np.uint8))
    some = dark[::5, ::5]
    middle = float(np.median(some))
    noise = 1.4826 * float(np.median(np.abs(some - middle)))
    least = max(_LEAST_DARK, middle + _NOISE_TIMES * noise)
    mask: Mask = (dark > np.maximum(least, _OF_DARKEST * darkest)).astype(np.uint8)
    for wanted, area, connectivity in ((1, _LEAST_SPOT_MM2, 8), (0, _LEAST_HOLE_MM2, 4)):
        lumps = (mask == wanted).astype(np.uint8)
        _, labels, stats, _ = cv2.connectedComponentsWithStats(lumps, connectivity=connectivity)
        is_small = stats[:, cv2.CC_STAT_AREA] < area * PER_MM**2
        is_small[0] = False
        mask[is_small[labels]] = 1 - wanted
    return mask
