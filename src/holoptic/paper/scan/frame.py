"""Finding the border of any sheet, and laying the sheet flat."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np

from holoptic.checking.pictures.border import Corners, borders, flattened
from holoptic.checking.pictures.ink import Grey, darkness, threshold
from holoptic.curves.vectors import Vec2
from holoptic.paper.scan.ink import PER_MM

_MOST_LEAN = 8.0
_WORK = 1400


def find_border(picture: Grey, inner: Vec2) -> tuple[Vec2, ...] | None:
    """Return where the corners of a border lie in a picture (dots): lower left first,
    counter-clockwise as seen; None where none is found. `inner` is its size (mm), either way.
    """
    found = borders(picture, inner)
    return None if found is None else tuple((float(x), float(y)) for x, y in _upright(found))


def whole_picture(picture: Grey) -> tuple[Vec2, ...]:
    """Return the corners of a sheet that fills its picture, straightened by its level lines."""
    high, wide = picture.shape
    turn = np.radians(_lean(picture))
    middle = np.array([wide / 2, high / 2])
    corners = np.array([[0, high], [wide, high], [wide, 0], [0, 0]], float) - middle
    spin = np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]])
    return tuple((float(x), float(y)) for x, y in corners @ spin.T + middle)


def lie_flat(picture: Grey, corners: Sequence[Vec2], inner: Vec2) -> Grey:
    """Return what lies within four corners, straight and to scale, `PER_MM` dots per mm."""
    return flattened(picture, np.array(corners, float), inner, PER_MM)


def _upright(quad: Corners) -> Corners:
    """Return corners with the lower left one first, as the picture is held."""
    first = int(np.argmin(quad[:, 0] - quad[:, 1]))
    return np.roll(quad, -first, axis=0)


def _lean(picture: Grey) -> float:
    """Return by how many degrees most long lines lean (in a picture clockwise counts up)."""
    dark = darkness(picture, max(12, max(picture.shape) // 70))
    share = min(1.0, _WORK / max(dark.shape))
    size = round(dark.shape[1] * share), round(dark.shape[0] * share)
    small = cv2.resize(dark, size, interpolation=cv2.INTER_AREA)
    mask = (small > threshold(small) * max(share, 0.45)).astype(np.uint8) * 255
    found = cv2.HoughLinesP(mask, 1, np.pi / 1440, 50, minLineLength=int(0.06 * min(size)),
                            maxLineGap=6)  # fmt: skip
    if found is None:
        return 0.0
    run, rise = (found[:, 0, 2] - found[:, 0, 0]), (found[:, 0, 3] - found[:, 0, 1])
    lean = (np.degrees(np.arctan2(rise, run)) + 45.0) % 90.0 - 45.0
    near = np.abs(lean) < _MOST_LEAN
    if not near.any():
        return 0.0
    order = np.argsort(lean[near])
    heavy = np.hypot(run, rise)[near][order].cumsum()
    return float(lean[near][order][np.searchsorted(heavy, heavy[-1] / 2)])
