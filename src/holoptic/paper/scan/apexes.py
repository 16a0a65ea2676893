"""Apexes: where edges run together in a point, their ink is one long before they meet.

There a skeleton tells neither which line ends where nor how many there are. All lines that aim at
one point are taken at once: they end in it, and what was found in their common ink besides is none.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import combinations

import numpy as np

from holoptic.curves.vectors import Vec2
from holoptic.paper.scan.roles import Found
from holoptic.paper.scan.seeds import Places
from holoptic.reading.lines import Straight
from holoptic.tolerance import ROUNDING

_LONG_MM = 8.0
_AT_MM, _REFINED_MM = 0.5, 0.4
_REACH_MM, _BEYOND_MM, _STANDS_MM, _STEP_MM = 14.0, 7.0, 1.3, 0.4
_FEWEST, _FEWEST_STANDING = 3, 2
_INK_MM, _CRUMB_SHARE = 0.75, 0.75
_LEAST_SINE = 0.06


def with_apexes(lines: Sequence[Found]) -> list[Found]:
    """Return the lines of a view with those that aim at one point ending in it (mm)."""
    found = list(lines)
    for _ in range(len(lines)):
        apex = _best(found)
        if apex is None:
            break
        found = _ended(found, *apex)
    return found


def _best(lines: list[Found]) -> tuple[Vec2, list[int]] | None:
    """Return a point at which lines aim of which some do not reach it yet, and which they are."""
    able = [k for k, line in enumerate(lines) if _is_long(line)]
    best: tuple[int, Vec2, list[int]] | None = None
    for one, other in combinations(able, 2):
        place = _crossing(lines[one], lines[other])
        if place is None:
            continue
        own = _aiming(lines, able, place, _AT_MM)
        if one not in own or other not in own:
            continue  # they merely cross
        if len(own) >= _FEWEST and (best is None or len(own) > best[0]):
            place = _middle([lines[k] for k in own])
            own = [k for k in _aiming(lines, able, place, _REFINED_MM)
                   if _is_inked(lines, k, place)]  # fmt: skip
            stand = sum(_short_of(lines[k], place) < _STANDS_MM for k in own)
            if len(own) >= _FEWEST and stand >= _FEWEST_STANDING and stand < len(own):
                best = len(own), place, own
    return best[1:] if best else None


def _is_long(line: Found) -> bool:
    return (line.role in ("visible", "hidden") and isinstance(line.shape, Straight)
            and np.hypot(*_way(line)) > _LONG_MM)  # fmt: skip


def _ends(line: Found) -> tuple[Places, Places]:
    assert isinstance(line.shape, Straight)
    return np.array(line.shape.start), np.array(line.shape.end)


def _way(line: Found) -> Places:
    start, end = _ends(line)
    return np.asarray(end - start)


def _crossing(one: Found, other: Found) -> Vec2 | None:
    a, b = _way(one), _way(other)
    cross = a[0] * b[1] - a[1] * b[0]
    if abs(cross) < _LEAST_SINE * np.hypot(*a) * np.hypot(*b):
        return None
    gap = _ends(other)[0] - _ends(one)[0]
    x, y = _ends(one)[0] + a * (gap[0] * b[1] - gap[1] * b[0]) / cross
    return float(x), float(y)


def _aiming(lines: list[Found], able: list[int], place: Vec2, within: float) -> list[int]:
    """Return which lines run through a point (mm), which lies near an end of them or beyond."""
    found = []
    for k in able:
        start, way = _ends(lines[k])[0], _way(lines[k])
        long = float(np.hypot(*way))
        out = np.array(place) - start
        off = abs(out[0] * way[1] - out[1] * way[0]) / long
        along = float(out @ way) / long
        is_inside = _BEYOND_MM < along < long - _BEYOND_MM
        if off < within and not is_inside and -_REACH_MM < along < long + _REACH_MM:
            found.append(k)
    return found


def _short_of(line: Found, place: Vec2) -> float:
    """Return how far the nearer end of a line is from a point, mm."""
    return min(float(np.hypot(*(end - place))) for end in _ends(line))


def _is_inked(lines: list[Found], number: int, place: Vec2) -> bool:
    """Say whether something else lies all the way from the end of a line to a point, before it or
    beyond: a line that ends in the open, as that of a frustum, is no line to its tip, and one that
    goes on by itself does not end there.
    """
    ends = _ends(lines[number])
    near = min(ends, key=lambda end: float(np.hypot(*(end - place))))
    count = int(np.hypot(*(near - place)) / _STEP_MM)
    on_way = near + np.linspace(0.0, 1.0, count + 2)[1:-1, None] * (np.array(place) - near)
    others = [line for k, line in enumerate(lines)
              if k != number and isinstance(line.shape, Straight)]  # fmt: skip
    return _covered(on_way, others)


def _covered(places: Places, lines: Sequence[Found], share: float = 1.0) -> bool:
    """Say whether a share of places lie on lines or on the ink about them."""
    if not len(places):
        return True
    near = np.full(len(places), np.inf)
    for line in lines:
        start, way = _ends(line)[0], _way(line)
        square = max(float(way @ way), ROUNDING)
        along = np.clip((places - start) @ way / square, 0.0, 1.0)
        near = np.minimum(near, np.hypot(*(places - start - along[:, None] * way).T))
    return bool((near < _INK_MM).mean() >= share)


def _middle(lines: Sequence[Found]) -> Vec2:
    """Return the point nearest to all of some lines, the longer ones counting more."""
    table, right = np.zeros((2, 2)), np.zeros(2)
    for line in lines:
        way = _way(line)
        long = float(np.hypot(*way))
        normal = np.array([-way[1], way[0]]) / long
        table += long * np.outer(normal, normal)
        right += long * normal * float(normal @ _ends(line)[0])
    x, y = np.linalg.solve(table, right)
    return float(x), float(y)


def _ended(lines: list[Found], place: Vec2, own: list[int]) -> list[Found]:
    """Return lines with some of them ending in a point, and without what lies in their ink."""
    found = list(lines)
    for k in own:
        start, end = _ends(lines[k])
        is_start = float(np.hypot(*(start - place))) < float(np.hypot(*(end - place)))
        far = end if is_start else start
        kept = float(far[0]), float(far[1])
        shape = Straight(place, kept) if is_start else Straight(kept, place)
        found[k] = replace(lines[k], shape=shape)
    rays: list[Found] = []
    for ray in sorted((found[k] for k in own), key=lambda line: -np.hypot(*_way(line))):
        if not _is_crumb(ray, place, rays):
            rays.append(ray)
    return [line for k, line in enumerate(found)
            if line in rays or (k not in own and not _is_crumb(line, place, rays))]  # fmt: skip


def _is_crumb(line: Found, place: Vec2, rays: Sequence[Found]) -> bool:
    """Say whether a line lies in the common ink of lines that end in a point."""
    if line.role == "centre" or not isinstance(line.shape, Straight):
        return False
    start, end = _ends(line)
    if max(float(np.hypot(*(one - place))) for one in (start, end)) > _REACH_MM:
        return False
    along = start + np.linspace(0.0, 1.0, 12)[:, None] * (end - start)
    return _covered(along, rays, _CRUMB_SHARE)
