"""Views as a free hand sketches them: lines that waver, end early or late, out of proportion."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Sequence
from itertools import pairwise

import numpy as np

from bench.paper.printing import Mark, Printed, Words
from holoptic.reading.lines import Bow, DrawnView, Free, Shape, Straight, box_of

Vec2 = tuple[float, float]
_AXES = {"front": (0, 2), "top": (0, 1), "right": (1, 2)}
_STEP_MM = 0.8
_SAME_MM = 0.02
_NEAREST_MM = 4.0
_CLEAR_MM, _EXTENSION_MM, _LETTER_MM = 1.8, 5.0, 2.6


class Hand:
    """A hand: how far its lines waver and miss, and how it misjudges lengths."""

    def __init__(self, dice: random.Random, steadiness: float = 1.0) -> None:
        self._dice = dice
        self._steadiness = steadiness

    def waver(self, path: Sequence[Vec2]) -> list[Vec2]:
        """Return a path as this hand draws it."""
        places = _resampled(path)
        long = max(math.dist(path[0], path[-1]), 4.0)
        along = np.r_[0.0, np.cumsum(np.hypot(*np.diff(places, axis=0).T))]
        off = np.zeros(len(places))
        for wave in (self._dice.uniform(40, 80), self._dice.uniform(14, 30)):
            size = self._dice.uniform(0.1, 0.35) * min(1.0, long / 30) * self._steadiness
            off += size * np.sin(2 * math.pi * along / wave + self._dice.uniform(0, 6.3))
        way = np.gradient(places, axis=0)
        way /= np.maximum(np.hypot(*way.T), 1e-9)[:, None]
        places = places + off[:, None] * np.c_[-way[:, 1], way[:, 0]]
        return [(float(x), float(y)) for x, y in places]

    def missed(self, line: Straight) -> Straight:
        """Return a line whose ends miss where they should be."""
        reach = 0.6 * self._steadiness
        over = [self._dice.uniform(-0.5, 1.0) * reach for _ in (0, 1)]
        aside = [self._dice.gauss(0, 0.35) * reach for _ in (0, 1)]
        (x, y), (u, v) = line.start, line.end
        long = max(math.dist(line.start, line.end), 1e-6)
        way = (u - x) / long, (v - y) / long
        return Straight(
            (x - over[0] * way[0] - aside[0] * way[1], y - over[0] * way[1] + aside[0] * way[0]),
            (u + over[1] * way[0] - aside[1] * way[1], v + over[1] * way[1] + aside[1] * way[0]),
        )

    def stretched(self, length: float) -> float:
        """Return a length as this hand judges it."""
        return length * math.exp(self._dice.gauss(0, 0.12 * self._steadiness))

    def jitter(self) -> float:
        """Return by how much a level carried to another view comes out elsewhere, mm."""
        return self._dice.gauss(0, 0.5 * self._steadiness)


def sketch_views(
    views: Sequence[DrawnView],
    dice: random.Random,
    steadiness: float = 1.0,
    has_figures: bool = False,
) -> tuple[Printed, tuple[list[float], list[float], list[float]]]:
    """Return a sketch of front, top and right view on A4 without a border, and where the levels of
    length, depth and height truly are (mm of the part, from its low side). With figures each of
    these stands at an extension line: below and left of the front view, left of the top view.
    """
    hand = Hand(dice, steadiness)
    own = {view.name: view.moved(-view.box[0], -view.box[1]) for view in views}
    levels = _levels(own)
    drawn = [_judged(one, hand) for one in levels]
    whole = drawn[0][-1] + drawn[1][-1], drawn[1][-1] + drawn[2][-1]
    factor = min(195.0 / whole[0], 122.0 / whole[1], 2.4)
    drawn = [_spread([at * factor for at in one]) for one in drawn]
    long, _, high = (one[-1] for one in drawn)
    gap = dice.uniform(14, 22)
    x, y = 24 + dice.uniform(0, 10), 22 + dice.uniform(0, 6)
    corners = {"front": (x, y), "top": (x, y + high + gap), "right": (x + long + gap, y)}
    sheet = Printed("A4", (297.0, 210.0), "third", 1.0, tuple(one[-1] for one in levels))
    if has_figures:
        for axis, view, k in ((0, "front", 0), (2, "front", 1), (1, "top", 1)):
            _write(sheet, (levels[axis], drawn[axis]), corners[view], k, hand)
    for name, view in own.items():
        place = _Place([(levels[a], [at + hand.jitter() for at in drawn[a]]) for a in _AXES[name]])
        for line in view.lines:
            _draw(sheet, line.shape, line.status, place, corners[name], hand, dice)
    return sheet, levels


def _write(
    sheet: Printed, levels: tuple[Sequence[float], Sequence[float]], corner: Vec2, k: int,
    hand: Hand,
) -> None:  # fmt: skip
    """Write how far levels lie from the low side, each at an extension line of its own."""
    for true, drawn in zip(*levels, strict=True):
        begin, end = corner[1 - k] - _CLEAR_MM, corner[1 - k] - _CLEAR_MM - _EXTENSION_MM
        at = corner[k] + drawn
        ends = ((at, begin), (at, end)) if k == 0 else ((begin, at), (end, at))
        path = hand.waver(hand.missed(Straight(*ends)).path())
        sheet.marks.append(Mark(Free(tuple(path)), 0.3))
        words = f"{true:.2f}".rstrip("0").rstrip(".")
        beyond = end - 1.0 - _LETTER_MM * 0.42 * len(words)
        place = (at, beyond) if k == 0 else (beyond, at)
        sheet.words.append(Words(words, place, _LETTER_MM, 90.0 if k == 0 else 0.0))


class _Place:
    """Where this hand puts places of a view: levels where it drew them."""

    def __init__(self, maps: Sequence[tuple[Sequence[float], Sequence[float]]]) -> None:
        self.maps = maps

    def __call__(self, at: Vec2) -> Vec2:
        return tuple(float(np.interp(v, *one)) for v, one in zip(at, self.maps, strict=True))


def _levels(views: dict[str, DrawnView]) -> tuple[list[float], list[float], list[float]]:
    found: list[set[float]] = [set(), set(), set()]
    for name, view in views.items():
        for line in view.drawn:
            for k, axis in enumerate(_AXES[name]):
                box = box_of([line.shape])
                found[axis] |= {round(box[k], 3), round(box[k + 2], 3)}
                found[axis] |= {round(end[k], 3) for end in (line.shape.start, line.shape.end)
                                if line.shape.start != line.shape.end}  # fmt: skip
                if isinstance(line.shape, Bow):
                    found[axis].add(round(line.shape.centre[k], 3))
    return tuple(_apart(sorted(one)) for one in found)  # type: ignore[return-value]


def _apart(levels: Sequence[float]) -> list[float]:
    kept = [levels[0]]
    for one in levels[1:]:
        if one - kept[-1] > _SAME_MM:
            kept.append(one)
    return kept


def _judged(levels: Sequence[float], hand: Hand) -> list[float]:
    found = [0.0]
    for a, b in pairwise(levels):
        found.append(found[-1] + hand.stretched(b - a))
    return found


def _spread(levels: Sequence[float]) -> list[float]:
    """Return levels on paper with none nearer than a hand draws two lines apart."""
    found = [0.0]
    for a, b in pairwise(levels):
        found.append(found[-1] + max(b - a, _NEAREST_MM))
    return found


def _draw(
    sheet: Printed, shape: Shape, status: str, place: _Place, corner: Vec2, hand: Hand,
    dice: random.Random,
) -> None:  # fmt: skip
    def on_paper(at: Vec2) -> Vec2:
        x, y = place(at)
        return x + corner[0], y + corner[1]

    if isinstance(shape, Straight):
        line = hand.missed(Straight(on_paper(shape.start), on_paper(shape.end)))
        path = hand.waver(line.path())
    elif isinstance(shape, Bow):
        path = hand.waver(_round(shape, on_paper))
    else:
        path = hand.waver([on_paper(at) for at in shape.path()])
    dashes: tuple[float, ...] = ()
    if status == "hidden":
        dashes = dice.uniform(3.0, 4.2), dice.uniform(1.4, 2.0)
    elif status == "centre":
        dashes = dice.uniform(8, 11), 1.6, 1.2, 1.6
    width = 0.45 if status == "visible" else 0.35
    sheet.marks.append(Mark(Free(tuple(path)), width, dashes))


def _round(bow: Bow, on_paper: Callable[[Vec2], Vec2]) -> list[Vec2]:
    """Return an arc about its centre on paper: a hand draws circles round, whatever it judges."""
    if not bow.is_closed:
        return _between(bow.path(), on_paper(bow.start), on_paper(bow.end))
    centre = on_paper(bow.centre)
    quarters = [on_paper(bow.at(k * math.pi / 2)) for k in range(4)]
    radius = sum(math.dist(centre, one) for one in quarters) / 4
    return Bow(centre, radius, bow.first, bow.last).path()


def _between(path: Sequence[Vec2], start: Vec2, end: Vec2) -> list[Vec2]:
    """Return a path turned and sized to lie between two places."""
    own = [complex(*at) for at in path]
    first, last = complex(*start), complex(*end)
    turn = (last - first) / (own[-1] - own[0])
    return [((first + (at - own[0]) * turn).real, (first + (at - own[0]) * turn).imag)
            for at in own]  # fmt: skip


def _resampled(path: Sequence[Vec2]) -> np.ndarray:
    places = np.array(path, float)
    along = np.r_[0.0, np.cumsum(np.hypot(*np.diff(places, axis=0).T))]
    count = max(3, round(along[-1] / _STEP_MM))
    at = np.linspace(0.0, along[-1], count + 1)
    return np.c_[np.interp(at, along, places[:, 0]), np.interp(at, along, places[:, 1])]
