"""Figures that were read on a sheet, as answers to what is asked of its views: sizes and levels.

They are offered, never taken: a figure may be read wrong, and one that does not agree with what
was measured is not even offered.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from holoptic.catalogue import tr
from holoptic.paper.axis_levels import SAME_LEVEL_MM, Levels
from holoptic.paper.figures import SCALES
from holoptic.paper.given import Sizes, TrueLevels
from holoptic.reading.lines import Box
from holoptic.reading.planes import PLANES
from holoptic.reading.sketch import GivenSize

_NEAR_MM = 1.0
"""How far from a level an end of a dimension may lie on paper."""
_BESIDE_MM = 45.0
_SHARED = 3
_SHARE, _OFF_MM = 0.02, 0.5
_CLOSE_SHARE, _CLOSE_MM = 0.002, 0.2
"""How far a figure and its measured length differ at most: share, and mm of paper besides."""


Lie = Literal["", "mirrored", "upside down", "turned over"]
"""How a sheet lies; turned over is mirrored and upside down."""


@dataclass(frozen=True)
class Written:
    """What figures beside dimension lines say, mm of paper, and how the sheet lies where hardly any
    can be read: so that they would be, if it lay otherwise.
    """

    sizes: tuple[GivenSize, ...] = ()
    lies: Lie = ""

    @property
    def trouble(self) -> str:
        """What is to be said of how the sheet lies."""
        return {
            "": "",
            "mirrored": tr("the sheet is mirrored: its figures read when it is turned over"),
            "turned over": tr("the sheet is mirrored: its figures read when it is turned over"),
            "upside down": tr("the sheet is upside down: turn it by two quarters"),
        }[self.lies]


@dataclass(frozen=True)
class Offer:
    """A figure between two levels of an axis (0 length, 1 depth, 2 height), by their numbers."""

    axis: int
    low: int
    high: int
    written: float


@dataclass(frozen=True)
class Offered:
    """What figures say: length, depth and height (mm), and of each axis the true places of levels
    by where those were measured.
    """

    sizes: Sizes
    levels: tuple[TrueLevels, TrueLevels, TrueLevels]

    @property
    def is_empty(self) -> bool:
        """Whether nothing is offered."""
        return not any(self.sizes) and not any(self.levels)


NOTHING = Offered((None, None, None), ((), (), ()))


def offered_by(
    figures: Sequence[GivenSize], names: Sequence[str], boxes: Sequence[Box],
    levels: Sequence[Levels],
) -> Offered:  # fmt: skip
    """Return what figures beside views say; `names` and `boxes` (mm of paper) are of the views,
    `figures` in mm of paper too.
    """
    if len(levels) < len(NOTHING.levels):
        return NOTHING
    scale = _scale(figures)
    offers = []
    for figure in _fitting(figures, scale) if scale is not None else ():
        found = _offer(figure, names, boxes, levels)
        if found is not None:
            offers.append(found)
    sizes = [_whole(offers, axis, levels) for axis in range(3)]
    places = [_places(offers, axis, levels) for axis in range(3)]
    return Offered((sizes[0], sizes[1], sizes[2]), (places[0], places[1], places[2]))


def agreeing(figures: Sequence[GivenSize]) -> int:
    """Return how many figures say what was measured, at the scale that most of them share."""
    scale = _scale(figures)
    return 0 if scale is None else sum(_agree(figure, scale) for figure in figures)


def _scale(figures: Sequence[GivenSize]) -> float | None:
    """Return the scale by which most figures are what was measured, of two equally good ones none:
    a usual scale, or one that several figures share.
    """
    drawn = [figure.written / figure.drawn for figure in figures if figure.drawn > 1.0]
    votes = [(sum(_agree(figure, scale) for figure in figures), scale)
             for scale in (*SCALES, *drawn)]  # fmt: skip
    usual, own = votes[: len(SCALES)], votes[len(SCALES) :]
    most = max((count for count, _ in usual), default=0)
    best = [scale for count, scale in usual if count == most]
    shared = max(own, default=(0, 1.0))
    is_other = shared[0] >= _SHARED and shared[0] > 2 * most  # as on paper taken for another
    if most and len(best) == 1 and not is_other:
        return best[0]
    return shared[1] if shared[0] >= _SHARED and shared[0] > most else None


def _fitting(figures: Sequence[GivenSize], scale: float) -> list[GivenSize]:
    """Return the figures that say what was measured. Where one of them says it closely, all must:
    a figure whose decimals were lost is only little beside it.
    """
    fitting = [figure for figure in figures if _agree(figure, scale)]
    close = [figure for figure in fitting if _agree(figure, scale, _CLOSE_SHARE, _CLOSE_MM)]
    return close or fitting


def _agree(figure: GivenSize, scale: float, share: float = _SHARE, off: float = _OFF_MM) -> bool:
    return abs(figure.written / scale - figure.drawn) < share * figure.drawn + off


def _offer(
    figure: GivenSize, names: Sequence[str], boxes: Sequence[Box], levels: Sequence[Levels]
) -> Offer | None:
    (x, y), (u, v) = figure.start, figure.end
    k = 0 if abs(u - x) > abs(v - y) else 1
    best: tuple[float, Offer] | None = None
    for name, box in zip(names, boxes, strict=True):
        plane = PLANES.get(name)
        middle = (figure.start[1 - k] + figure.end[1 - k]) / 2
        off = max(box[1 - k] - middle, middle - box[3 - k], 0.0)
        if plane is None or off > _BESIDE_MM:
            continue
        axis = plane.axes[k]
        ends = []
        for at in (figure.start[k], figure.end[k]):
            ends.append(_level(box[k + 2] - at if plane.turned[k] else at - box[k], levels[axis]))
        if None in ends or ends[0] == ends[1]:
            continue
        low, high = sorted(end for end in ends if end is not None)
        if best is None or off < best[0]:
            best = off, Offer(axis, low, high, figure.written)
    return best[1] if best else None


def _level(at: float, levels: Levels) -> int | None:
    measured = levels.measured
    last = len(measured) - 1
    # what lies beside an outer side is that side: the end of a centre line makes a level too
    for k in (0, last):
        if abs(measured[k] - at) < SAME_LEVEL_MM:
            return k
    k = min(range(len(measured)), key=lambda n: abs(measured[n] - at))
    return k if abs(measured[k] - at) < _NEAR_MM else None


def _whole(offers: Sequence[Offer], axis: int, levels: Sequence[Levels]) -> float | None:
    """Return the size along an axis, told outright or as a chain of figures."""
    return _from_low(offers, axis).get(len(levels[axis].measured) - 1)


def _places(offers: Sequence[Offer], axis: int, levels: Sequence[Levels]) -> TrueLevels:
    measured = levels[axis].measured
    told = _from_low(offers, axis)
    return tuple((measured[k], told[k]) for k in sorted(told) if 0 < k < len(measured) - 1)


def _from_low(offers: Sequence[Offer], axis: int) -> dict[int, float]:
    """Return the places of levels that figures lead to from the low side, the shortest way first;
    where two ways lead to different places, the level is left out.
    """
    own = [offer for offer in offers if offer.axis == axis]
    found, torn = {0: 0.0}, set()
    fresh = [0]
    while fresh:
        at = fresh.pop(0)
        for offer in own:
            for here, there, sign in ((offer.low, offer.high, 1), (offer.high, offer.low, -1)):
                if here != at:
                    continue
                place = found[here] + sign * offer.written
                if there not in found:
                    found[there] = round(place, 4)
                    fresh.append(there)
                elif not math.isclose(found[there], place, abs_tol=0.01):
                    torn.add(there)
    return {k: place for k, place in found.items() if k and k not in torn and place > 0}
