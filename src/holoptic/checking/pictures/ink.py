"""How dark a picture is against its own paper, whatever the light."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

Grey = NDArray[np.uint8]
Dark = NDArray[np.float32]
_LEAST = 0.07
"""Less dark than this against the paper is never ink."""
_BESIDE = 0.62
_NOISE_TIMES = 5.0


def darkness(picture: Grey, reach: int) -> Dark:
    """Return how dark each dot is against the brightest within `reach` dots: 0 paper, 1 black.

    The paper is a closing (the brightest, then the darkest of these), which no line survives.
    """
    shrunk = max(1, reach // 12)
    small = cv2.resize(picture, (max(1, picture.shape[1] // shrunk),
                                 max(1, picture.shape[0] // shrunk)),
                       interpolation=cv2.INTER_AREA)  # fmt: skip
    size = max(3, reach // shrunk) | 1
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    closed = cv2.morphologyEx(small, cv2.MORPH_CLOSE, kernel)
    paper = cv2.GaussianBlur(np.where(_is_beside(closed), 0, closed), (0, 0), size / 3)
    paper = cv2.resize(paper, (picture.shape[1], picture.shape[0]), interpolation=cv2.INTER_LINEAR)
    bright = picture.astype(np.float32) / np.maximum(paper.astype(np.float32), 8.0)
    dark: Dark = np.clip(1.0 - bright, 0.0, 1.0)
    return dark


def _is_beside(closed: Grey) -> NDArray[np.bool_]:
    """Say of each dot whether it lies beside the paper: far darker than the brightest around."""
    share = 96.0 / max(closed.shape)
    size = max(4, round(closed.shape[1] * share)), max(4, round(closed.shape[0] * share))
    tiny = cv2.resize(closed, size, interpolation=cv2.INTER_AREA)
    around = cv2.GaussianBlur(cv2.dilate(tiny, np.ones((33, 33), np.uint8)), (0, 0), 8)
    around = cv2.resize(around, (closed.shape[1], closed.shape[0]))
    beside: NDArray[np.bool_] = closed < _BESIDE * around
    return beside


def threshold(dark: Dark) -> float:
    """Return from which darkness on a dot is ink: above the paper's own noise."""
    some = dark[:: max(1, dark.shape[0] // 600), :: max(1, dark.shape[1] // 600)]
    middle = float(np.median(some))
    noise = float(np.median(np.abs(some - middle))) * 1.4826
    return max(_LEAST, middle + _NOISE_TIMES * noise)
