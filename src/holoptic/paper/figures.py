"""Figures on a page: what they say, and the dimension line that each stands beside."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from statistics import median

from holoptic.curves.vectors import Vec2
from holoptic.reading.lines import Straight
from holoptic.reading.sketch import GivenSize

_LENGTH = re.compile(r"^\(?(\d{1,4}(?:[.,]\d{1,3})?)\)?(?:\s*mm)?$")
_BESIDE = 2.4
"""Times its height: how far a figure stands from its line at most."""
_ALONG = 12.0
"""Degrees by which its way may differ from that of its line."""
_BROKEN_MM = 0.4
SCALES = (1.0, 2.0, 2.5, 5.0, 10.0, 20.0, 0.5, 0.2, 0.1, 0.4, 0.05)
_AGREE = 0.012


@dataclass(frozen=True)
class Figure:
    """Words on a page: what they say, the middle of them, their height (mm), their way (degrees,
    counter-clockwise).
    """

    text: str
    at: Vec2
    height: float
    turn: float = 0.0


def length_of(text: str) -> float | None:
    """Return the length that words say, None where they say something else."""
    found = _LENGTH.match(text.strip())
    return float(found.group(1).replace(",", ".")) if found else None


def given_sizes(figures: Sequence[Figure], lines: Sequence[Straight]) -> list[GivenSize]:
    """Return the lengths written beside dimension lines: ends and distance as drawn, mm of paper.

    A line that is broken for its figure counts as one.
    """
    found = []
    for figure in figures:
        written = length_of(figure.text)
        if written is None or written <= 0:
            continue
        span = _span(figure, lines)
        if span is not None:
            found.append(GivenSize(*span, math.dist(*span), written))
    return found


def scale_of(sizes: Sequence[GivenSize]) -> float | None:
    """Return how much larger the part is than its drawing, as most figures say; None where they
    do not agree.
    """
    ratios = [size.written / size.drawn for size in sizes if size.drawn > 1.0]
    if not ratios:
        return None
    scale = median(ratios)
    agreeing = [r for r in ratios if abs(r / scale - 1) < _AGREE]
    if len(agreeing) * 2 <= len(ratios):
        return None
    usual = min(SCALES, key=lambda s: abs(math.log(s / scale)))
    return usual if abs(usual / scale - 1) < _AGREE else median(agreeing)


def scaled_sizes(sizes: Sequence[GivenSize], scale: float) -> list[GivenSize]:
    """Return sizes on a sheet of the part's own size."""
    return [size.scaled(scale) for size in sizes]


def is_beside_one(figure: Figure, lines: Sequence[Straight]) -> bool:
    """Say whether words stand beside some dimension line, whatever they say."""
    return any(_is_beside(figure, line) and _reaches(figure, line) for line in lines)


def _span(figure: Figure, lines: Sequence[Straight]) -> tuple[Vec2, Vec2] | None:
    near = [line for line in lines if _is_beside(figure, line)]
    best: tuple[float, Straight] | None = None
    for line in [*near, *_joined(near)]:
        off = _off(figure.at, line)
        middle = abs(_along(figure.at, line) - math.dist(line.start, line.end) / 2)
        fit = off + 0.02 * middle
        if _reaches(figure, line) and (best is None or fit < best[0]):
            best = fit, line
    return (best[1].start, best[1].end) if best else None


def _is_beside(figure: Figure, line: Straight) -> bool:
    turn = math.radians(figure.turn)
    way = math.cos(turn), math.sin(turn)
    (x, y), (u, v) = line.start, line.end
    long = math.hypot(u - x, v - y)
    if long < 1.0:
        return False
    lean = abs((u - x) * way[1] - (v - y) * way[0]) / long
    return lean < math.sin(math.radians(_ALONG)) and _off(figure.at, line) < _BESIDE * figure.height


def _reaches(figure: Figure, line: Straight) -> bool:
    along, long = _along(figure.at, line), math.dist(line.start, line.end)
    return -1.5 * figure.height < along < long + 1.5 * figure.height


def _joined(lines: Sequence[Straight]) -> list[Straight]:
    """Return lines that lie in one as one: the two halves beside a figure."""
    found = []
    for one, other in combinations(lines, 2):
        if _off(other.start, one) < _BROKEN_MM and _off(other.end, one) < _BROKEN_MM:
            ends = [one.start, one.end, other.start, other.end]
            low, high = max(combinations(ends, 2), key=lambda pair: math.dist(*pair))
            found.append(replace(one, start=low, end=high))
    return found


def _off(place: Vec2, line: Straight) -> float:
    (x, y), (u, v) = line.start, line.end
    long = math.hypot(u - x, v - y)
    return abs((u - x) * (place[1] - y) - (v - y) * (place[0] - x)) / max(long, _BROKEN_MM)


def _along(place: Vec2, line: Straight) -> float:
    (x, y), (u, v) = line.start, line.end
    long = math.hypot(u - x, v - y)
    return ((u - x) * (place[0] - x) + (v - y) * (place[1] - y)) / max(long, _BROKEN_MM)
