"""Reads one line of letters in a picture, by a small network that ships with the application.

The network is the recogniser of a general one for printed letters, cut down to the letters that
stand on drawings; `assets/recogniser/README.md` says where it comes from. What it says is a guess
with a sureness, and is treated as one: figures are offered, never taken.
"""

from __future__ import annotations

from functools import cache
from importlib.resources import files
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

_HIGH, _WIDE = 48, 160
"""Dots of the network's picture; a longer line is pressed into it."""
_BLANK = 0


class Guess(NamedTuple):
    """Letters, and how sure the least sure of them is, 0 to 1."""

    text: str
    sureness: float


def guess(paper: NDArray[np.float32]) -> Guess:
    """Return what stands on a strip of paper, upright: (rows, columns), 0 ink to 1 paper."""
    high, wide = paper.shape
    width = min(_WIDE, max(8, round(wide * _HIGH / high)))
    strip = cv2.resize(paper, (width, _HIGH), interpolation=cv2.INTER_AREA)
    blob = np.zeros((1, 3, _HIGH, _WIDE), np.float32)
    blob[0, :, :, :width] = strip * 2.0 - 1.0
    network = _network()
    network.setInput(blob)
    shares = np.asarray(network.forward())[0]
    return _decoded(shares)


def _decoded(shares: NDArray[np.float32]) -> Guess:
    """Return the letters of the likeliest path: repeated ones are one, blanks part them."""
    letters, text = _letters(), ""
    sure: list[float] = []
    before = _BLANK
    for row in shares:
        best = int(np.argmax(row))
        if best == before and best != _BLANK:
            sure[-1] = max(sure[-1], float(row[best]))
        elif best != _BLANK:
            text += letters[best]
            sure.append(float(row[best]))
        before = best
    return Guess(text, min(sure, default=0.0))


@cache
def _network() -> cv2.dnn.Net:
    data = (files("holoptic") / "assets/recogniser/figures.onnx").read_bytes()
    return cv2.dnn.readNetFromONNX(np.frombuffer(data, np.uint8))


@cache
def _letters() -> list[str]:
    kept = (files("holoptic") / "assets/recogniser/characters.txt").read_text("utf-8")
    return ["", *kept.split("\n"), " "]
