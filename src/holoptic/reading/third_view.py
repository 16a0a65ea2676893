"""Two views alone: in the missing plane any line along the axes may run, so all are allowed for."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import combinations, pairwise

import numpy as np

from holoptic.reading.clauses import FROM_NOTHING, Clause
from holoptic.reading.lines import Bow, DrawnLine, DrawnView, Straight
from holoptic.reading.pieces import SNAP_MM, split
from holoptic.reading.planes import PLANES
from holoptic.reading.space import Space, ViewSpace, clustered

_MOST_CIRCLES = 12
_USUAL = {0: "right", 1: "front", 2: "top"}


def without_third(
    views: Sequence[DrawnView], rounds: bool, sections: Sequence[DrawnView] = ()
) -> list[DrawnView]:
    """Return two canonical views and a third that has a line at every level of the others.

    With `rounds` also the circles that centre lines speak of; canonical `sections` in that plane
    give their lines, which may run there too.
    """
    given = {PLANES[view.name].depth for view in views}
    (missing,) = {0, 1, 2} - given
    name = _USUAL[missing]
    u, v = PLANES[name].axes
    levels = {axis: _levels(axis, views) for axis in (u, v)}
    (left, *_, right), (low, *_, high) = levels[u], levels[v]
    lines = [DrawnLine(Straight((x, low), (x, high)), "hidden") for x in levels[u]]
    lines += [DrawnLine(Straight((left, y), (right, y)), "hidden") for y in levels[v]]
    if rounds:
        middles = _centre_levels(u, views), _centre_levels(v, views)
        lines += [DrawnLine(x, "hidden") for x in _circles(levels[u], levels[v], middles)]
    for section in sections:
        if PLANES[section.name].depth == missing:
            lines += [DrawnLine(line.shape, "hidden") for line in section.drawn]
    return [*views, DrawnView(name, tuple(lines), is_guessed=True)]


def _centre_levels(axis: int, views: Sequence[DrawnView]) -> list[float]:
    """Return the levels of an axis along which centre lines run."""
    found = []
    for view in views:
        axes = PLANES[view.name].axes
        if axis not in axes:
            continue
        own = axes.index(axis)
        for line in view.lines:
            if line.status == "centre" and isinstance(line.shape, Straight):
                a, b = line.shape.start[own], line.shape.end[own]
                if abs(a - b) < SNAP_MM:
                    found.append(a)
    return found


def _circles(
    us: list[float], vs: list[float], middles: tuple[list[float], list[float]]
) -> list[Bow]:
    """Return the circles about centre lines that show equally wide in both other views."""
    found: list[Bow] = []
    for a, b in combinations(us, 2):
        if not any(abs((a + b) / 2 - middle) < 2 * SNAP_MM for middle in middles[0]):
            continue
        for c, d in combinations(vs, 2):
            on_axis = any(abs((c + d) / 2 - middle) < 2 * SNAP_MM for middle in middles[1])
            alike = abs((b - a) - (d - c)) < 2 * SNAP_MM
            if on_axis and alike and len(found) < _MOST_CIRCLES:
                centre = (a + b) / 2, (c + d) / 2
                found.append(Bow(centre, (b - a) / 2, 0.0, math.tau))
    return found


def ties(space: Space) -> list[Clause]:
    """Return the clauses that keep what is round or square of a guessed circle whole: the four
    bits between a circle and the square about it are full or empty together.
    """
    clauses = []
    for view in space.views.values():
        if not view.view.is_guessed:
            continue
        for line in view.view.lines:
            if isinstance(line.shape, Bow):
                clauses += _tied(space, view, line.shape)
    return clauses


def _tied(space: Space, view: ViewSpace, circle: Bow) -> list[Clause]:
    atoms, depth = space.atoms, view.plane.depth
    off = 0.97 * circle.radius
    bits = {
        view.faces.face_at((circle.centre[0] + a * off, circle.centre[1] + b * off))
        for a in (-1, 1) for b in (-1, 1)
    }  # fmt: skip
    clauses = []
    for slab in range(len(space.breaks[depth]) - 1):
        here = np.isin(atoms.faces[depth], list(bits)) & (atoms.slabs[depth] == slab)
        cells = sorted({int(cell) for cell in atoms.cells[here]} - {-1})
        for one, other in pairwise(cells):
            clauses += [Clause((-(one + 1), other + 1), FROM_NOTHING),
                        Clause((one + 1, -(other + 1)), FROM_NOTHING)]  # fmt: skip
    return clauses


def _levels(axis: int, views: Sequence[DrawnView]) -> list[float]:
    values: list[float] = []
    for view in views:
        axes = PLANES[view.name].axes
        if axis in axes:
            own = axes.index(axis)
            for piece in split(view.lines):
                values += [piece.start[own], piece.end[own]]
    return [float(value) for value in clustered(values)]
