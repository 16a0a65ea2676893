"""Pieces of a sketch: what of its skeleton is straight or round, as far as a free hand goes."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from holoptic.paper.scan.ink import PER_MM, Mask
from holoptic.paper.scan.seeds import (
    Circle,
    Places,
    Seed,
    chains_of,
    farthest,
    fit_circle,
    fit_line,
)

_CRUMB_MM = 0.6
"""Where strokes cross, the skeleton has bits that short; so have corners that are drawn past."""
_STEADY_MM, _WAVER, _MOST_MM = 0.25, 0.02, 0.9
"""A straight line is off by so much, and by that share of its length more."""
_ROUND_MM, _ROUND_SHARE = 0.3, 0.06
_SMALLEST_MM, _LARGEST_MM, _SHORTEST_MM = 1.2, 120.0, 3.5
_LEAST_TURN = 0.9
"""Radians that a piece turns by at least, to be round."""
_CORNER_MM, _CORNER = 2.0, 0.42
"""How far to both sides of a place its turn is measured, and radians that are a corner."""
_FEWEST, _DEEPEST = 6, 12


def pieces_of(mask: Mask) -> list[Seed]:
    """Return the straight and round pieces of what a mask shows, places in mm."""
    found = [piece for chain in chains_of(mask) for piece in _split(chain / PER_MM, 0)]
    return [piece for piece in found if along(piece.places) > _CRUMB_MM]


def along(places: Places) -> float:
    """Return how long a chain of places is, mm."""
    some = np.concatenate([places[:-1:4], places[-1:]])
    return float(np.hypot(*np.diff(some, axis=0).T).sum())


def _split(places: Places, depth: int) -> Iterator[Seed]:
    if len(places) < _FEWEST:
        return
    middle, way = fit_line(places)
    off = np.abs((places - middle) @ np.array([-way[1], way[0]]))
    chord = float(np.hypot(*(places[-1] - places[0])))
    if np.percentile(off, 95) < min(_MOST_MM, _STEADY_MM + _WAVER * chord):
        yield Seed(places)
        return
    circle = round_through(places)
    corner = _corner(places, circle.radius) if circle is not None else None
    if circle is not None and corner is None:
        yield Seed(places, circle)
    elif depth < _DEEPEST:
        at = corner or farthest(places)
        yield from _split(places[: at + 1], depth + 1)
        yield from _split(places[at:], depth + 1)


def _corner(places: Places, radius: float) -> int | None:
    """Return the number of the place where a chain turns more at once than its circle and a hand
    would; None where nowhere.
    """
    reach = min(round(_CORNER_MM * PER_MM), len(places) // 4)
    if reach < 2:
        return None
    before = places[reach:-reach] - places[: -2 * reach]
    after = places[2 * reach :] - places[reach:-reach]
    cross = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
    turn = np.abs(np.arctan2(cross, (before * after).sum(axis=1)))
    at = int(turn.argmax())
    return at + reach if turn[at] > reach / PER_MM / radius + _CORNER else None


def round_through(places: Places) -> Circle | None:
    """Return the circle that places lie on as far as a free hand goes, None where on none."""
    circle = fit_circle(places)
    if not _SMALLEST_MM < circle.radius < _LARGEST_MM:
        return None
    if along(places) < max(_LEAST_TURN * circle.radius, _SHORTEST_MM):
        return None
    within = _ROUND_MM + _ROUND_SHARE * circle.radius
    return circle if np.percentile(circle.off(places), 95) < within else None
