"""Circles and the levels that they touch, brought to agree.

A slot's end was measured thrice: by its centre line, by its arc and by its sides. Reading wants
these to agree exactly; so each circle's centre lies in the middle between the levels it touches,
and its radius is the same along both axes.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from holoptic.paper.axis_levels import Levels
from holoptic.paper.scan.roles import Found
from holoptic.reading.lines import Bow, Box
from holoptic.reading.planes import PLANES

_NEAR_MM = 0.35
_PASSES = 2
"""Of circles about one centre the later one may move it under the earlier."""


@dataclass(frozen=True)
class _Along:
    """A circle along one axis of the part: the numbers of the levels of its low side, its centre,
    its high side; None where no level lies there.
    """

    axis: int
    low: int | None
    centre: int | None
    high: int | None


def agreeing(
    views: Sequence[tuple[str, Sequence[Found], Box]], levels: Sequence[Levels],
    held: Sequence[frozenset[int]], step: float,
) -> list[Levels]:  # fmt: skip
    """Return levels that agree with the circles of views (name, lines, box on paper). `held` are
    the numbers of the levels of each axis that stay; diameters are put to whole steps (mm), 0: as
    they were measured.
    """
    placed = [list(one.placed) for one in levels]
    bows = [(name, line.shape, box) for name, lines, box in views for line in lines
            if isinstance(line.shape, Bow) and line.role != "centre"]  # fmt: skip
    for _ in range(_PASSES):
        for name, bow, box in bows:
            along = list(_touched(name, bow, box, levels))
            _agree(along, bow.radius, levels, placed, held, step)
    return [replace(one, placed=tuple(own)) for one, own in zip(levels, placed, strict=True)]


def _touched(name: str, bow: Bow, box: Box, levels: Sequence[Levels]) -> Iterator[_Along]:
    plane = PLANES[name]
    for k, axis in enumerate(plane.axes):
        at = bow.centre[k] - box[k] if not plane.turned[k] else box[k + 2] - bow.centre[k]
        yield _Along(axis, *(_number(levels[axis], at + s * bow.radius) for s in (-1, 0, 1)))


def _number(levels: Levels, at: float) -> int | None:
    k = min(range(len(levels.measured)), key=lambda n: abs(levels.measured[n] - at))
    return k if abs(levels.measured[k] - at) < _NEAR_MM else None


def _agree(
    along: Sequence[_Along], measured: float, levels: Sequence[Levels],
    placed: Sequence[list[float]], held: Sequence[frozenset[int]], step: float,
) -> None:  # fmt: skip
    scale = levels[along[0].axis].scale
    radius = _radius(along, measured * scale, placed, held, step)
    for one in along:
        own, stays = placed[one.axis], held[one.axis]
        if one.centre is None:
            continue
        low = one.low if one.low in stays else None
        high = one.high if one.high in stays else None
        if low is not None and high is not None:
            own[one.centre] = (own[low] + own[high]) / 2
        elif low is not None:
            own[one.centre] = own[low] + radius
        elif high is not None:
            own[one.centre] = own[high] - radius
        for number, side in ((one.low, -1), (one.high, 1)):
            if number is not None and number not in stays and number != one.centre:
                own[number] = own[one.centre] + side * radius


def _radius(
    along: Sequence[_Along], measured: float, placed: Sequence[list[float]],
    held: Sequence[frozenset[int]], step: float,
) -> float:  # fmt: skip
    """Return the radius of a circle: half of what lies between held sides, or as it was measured,
    by its sides where they were found.
    """
    halves = []
    for one in along:
        if one.low is not None and one.high is not None:
            half = (placed[one.axis][one.high] - placed[one.axis][one.low]) / 2
            if one.low in held[one.axis] and one.high in held[one.axis]:
                return half
            halves.append(half)
    radius = float(np.median([*halves, measured]))
    return round(2 * radius / step) * step / 2 if step else radius
