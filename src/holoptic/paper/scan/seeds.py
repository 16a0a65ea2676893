"""Seeds: the pieces of a skeleton that are straight or round, from where lines grow."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy import ndimage
from skimage.morphology import skeletonize

from holoptic.paper.scan.ink import PER_MM, Mask
from holoptic.tolerance import ROUNDING

Places = NDArray[np.float64]
_LINE_MM, _CIRCLE_MM = 0.16, 0.14
_SAGITTA_MM = 0.3
_LEAST_ROUND_MM, _LARGEST_RADIUS_MM = 1.5, 150.0
_FEWEST = 4
_CORNER_DOTS, _STRAIGHT_SHARE = 9, 0.3
"""Of the height of an arc, a straight line is off by so much at most."""
_DEEPEST = 12
_NEIGHBOURS = ((-1, 0), (0, 1), (1, 0), (0, -1), (-1, -1), (-1, 1), (1, 1), (1, -1))


@dataclass(frozen=True, eq=False)
class Circle:
    """A circle: its centre (mm) and its radius."""

    centre: Places
    radius: float

    def off(self, places: Places) -> Places:
        """Return how far places lie off it."""
        return np.asarray(np.abs(np.hypot(*(places - self.centre).T) - self.radius))


@dataclass(frozen=True, eq=False)
class Seed:
    """A piece of a skeleton: its places in order (n, 2), mm, and its circle where it is round."""

    places: Places
    circle: Circle | None = None

    @property
    def length(self) -> float:
        """How long it is, mm."""
        return float(np.hypot(*(self.places[-1] - self.places[0])))


def seeds_of(mask: Mask) -> list[Seed]:
    """Return the straight and round pieces of the skeleton of a mask."""
    return [seed for chain in chains_of(mask) for seed in _split(chain / PER_MM, 0)]


def fit_line(places: Places) -> tuple[Places, Places]:
    """Return a place on the line that runs through places, and its way."""
    middle = places.mean(axis=0)
    (xx, xy), (_, yy) = np.cov((places - middle).T, bias=True)
    turn = 0.5 * np.arctan2(2 * xy, xx - yy)
    return middle, np.array([np.cos(turn), np.sin(turn)])


def fit_circle(places: Places) -> Circle:
    """Return the circle through places by algebraic least squares (Kåsa 1976)."""
    middle = places.mean(axis=0)
    own = places - middle
    table = np.c_[2 * own, np.ones(len(own))]
    x, y, rest = np.linalg.lstsq(table, (own**2).sum(axis=1), rcond=None)[0]
    radius = float(np.sqrt(max(rest + x * x + y * y, ROUNDING)))
    return Circle(middle + np.array([x, y]), radius)


def chains_of(mask: Mask) -> Iterator[Places]:
    """Yield the dots of a skeleton between its junctions, in order, (x, y)."""
    skeleton = skeletonize(mask > 0)
    around = cv2.filter2D(skeleton.astype(np.uint8), -1, np.ones((3, 3), np.float32)) - 1
    labels, _ = ndimage.label(skeleton & (around <= 2), np.ones((3, 3)))
    rows, columns = np.nonzero(labels)
    numbers = labels[rows, columns]
    order = np.argsort(numbers, kind="stable")
    cuts = np.flatnonzero(np.diff(numbers[order])) + 1
    for own in np.split(order, cuts):
        if len(own) >= _FEWEST - 1:
            yield _in_order(list(zip(rows[own].tolist(), columns[own].tolist(), strict=True)))


def _in_order(dots: list[tuple[int, int]]) -> Places:
    left = set(dots)
    here = next((dot for dot in dots if _count_beside(dot, left) <= 1), dots[0])
    path = [here]
    left.discard(here)
    while True:
        row, column = here
        step = next(((row + a, column + b) for a, b in _NEIGHBOURS
                     if (row + a, column + b) in left), None)  # fmt: skip
        if step is None:
            return np.array(path, float)[:, ::-1]
        path.append(step)
        left.discard(step)
        here = step


def _count_beside(dot: tuple[int, int], dots: set[tuple[int, int]]) -> int:
    return sum((dot[0] + a, dot[1] + b) in dots for a, b in _NEIGHBOURS)


def _split(places: Places, depth: int) -> Iterator[Seed]:
    """Yield the straight and round pieces of a chain (mm)."""
    if len(places) < _FEWEST:
        return
    middle, way = fit_line(places)
    off = np.abs((places - middle) @ np.array([-way[1], way[0]]))
    if np.percentile(off, 97) < _LINE_MM:
        yield Seed(places)
        return
    circle = _circle_of(places)
    if circle is not None:
        yield Seed(places, circle)
    elif depth >= _DEEPEST:
        yield Seed(places)
    else:
        at = farthest(places)
        yield from _split(places[: at + 1], depth + 1)
        yield from _split(places[at:], depth + 1)


def _circle_of(places: Places) -> Circle | None:
    long = len(places) / PER_MM
    if long < _LEAST_ROUND_MM:
        return None
    circle = fit_circle(places)
    if not 1.0 < circle.radius < _LARGEST_RADIUS_MM:
        return None
    if np.percentile(circle.off(places), 97) >= _CIRCLE_MM:
        return None
    chord = float(np.hypot(*(places[-1] - places[0])))
    if _is_straight_between(places, circle):
        return None
    is_bent = chord * chord / (8 * circle.radius) > _SAGITTA_MM or long > 4 * circle.radius
    return circle if is_bent else None


def _is_straight_between(places: Places, circle: Circle) -> bool:
    """Say whether but the ends of a chain are bent: a short side of thick strokes is rounded off by
    its corners.
    """
    cut = min(_CORNER_DOTS, len(places) // 4)
    inner = places[cut:-cut]
    if len(inner) < _CORNER_DOTS:
        return False
    middle, way = fit_line(inner)
    off = np.abs((inner - middle) @ np.array([-way[1], way[0]]))
    long = float(np.hypot(*(inner[-1] - inner[0])))
    return float(np.percentile(off, 90)) < _STRAIGHT_SHARE * long * long / (8 * circle.radius)


def farthest(places: Places) -> int:
    """Return the number of the place farthest from the chord, away from both ends."""
    chord = places[-1] - places[0]
    long = float(np.hypot(*chord))
    if long < ROUNDING:
        return len(places) // 2
    off = np.abs((places - places[0]) @ np.array([-chord[1], chord[0]]) / long)
    least = 2 if len(places) > 6 else 1
    return int(np.clip(off.argmax(), least, len(places) - 1 - least))
