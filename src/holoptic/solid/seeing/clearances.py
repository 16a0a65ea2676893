"""Which of several solids lie in each other's way along an axis.

A solid cannot move along an axis because of another one if some line along the axis meets the
other one beyond a place where it meets the solid itself. Where lines of both solids' pictures along
the axis cross, that may change; between such places it does not. So lines are tried beside the
middle of every piece between crossings, a hair to each side.

Source: the relation "in front of" of hidden-surface removal (Newell, Newell and Sancha 1972), asked
for a translation instead of a view.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import shapely

from holoptic.curves.many import Places
from holoptic.curves.space import Curve, EllipticArc, SampledCurve
from holoptic.curves.vectors import Vec3, dot
from holoptic.solid.seeing.hidden import SeenSolid
from holoptic.solid.seeing.sight import frame_of
from holoptic.tolerance import BESIDE_MM, CLEAR_MM, PARALLEL, SHARE, SHORTEST_STROKE_MM, SOLVED

_STEPS_A_TURN = 48
"""Chords that stand for a full turn where crossings are looked for."""
_FINE = 0.25
"""Share of a piece over which its way on the picture is told."""


class Reach(NamedTuple):
    """How two solids lie along an axis.

    `holds_first` says that the second one keeps the first from moving along the axis (and so the
    first the second from moving back), `holds_second` the same the other way about; `touch` that
    one lies on the other along the axis.
    """

    holds_first: bool
    holds_second: bool
    touch: bool


@dataclass(frozen=True)
class Standing:
    """A solid that stands somewhere: set off by `offset`, mm."""

    solid: SeenSolid
    offset: Vec3

    def span(self, axis: Vec3) -> tuple[float, float]:
        """Return from where to where its bounding box reaches along an axis, mm."""
        low, high = self.solid.facts.low, self.solid.facts.high
        ends = [(along * low[k], along * high[k]) for k, along in enumerate(axis)]
        at = dot(axis, self.offset)
        return at + sum(min(pair) for pair in ends), at + sum(max(pair) for pair in ends)


class Clearances:
    """Tells along one axis how solids lie in each other's way; each is drawn once."""

    def __init__(self, axis: Vec3) -> None:
        self.axis = axis
        frame = frame_of(axis)
        self._across = np.array([frame[0:3], frame[3:6]])
        self._drawn: dict[int, _Drawn] = {}

    def reach(self, first: Standing, second: Standing) -> Reach:
        """Return how two solids lie along the axis."""
        drawn = [self._drawn_of(first), self._drawn_of(second)]
        shifts = [self._across @ np.array(one.offset) for one in (first, second)]
        window = _overlap(*(d.box + np.tile(s, 2) for d, s in zip(drawn, shifts, strict=True)))
        if window is None:
            return Reach(False, False, False)
        points = np.concatenate(list(self._places(drawn, shifts, (first, second), window)))
        if not len(points):
            return Reach(False, False, False)
        (low, high), (other_low, other_high) = (
            self._depths(one, points) for one in (first, second)
        )
        both = (low <= high) & (other_low <= other_high)
        gap, other_gap = other_high[both] - low[both], high[both] - other_low[both]
        meets = np.minimum(np.abs(gap), np.abs(other_gap)) <= CLEAR_MM
        return Reach(
            bool((gap > CLEAR_MM).any()), bool((other_gap > CLEAR_MM).any()), bool(meets.any())
        )

    def _drawn_of(self, one: Standing) -> _Drawn:
        key = id(one.solid)
        if key not in self._drawn:
            self._drawn[key] = _Drawn(one.solid, self.axis, self._across)
        return self._drawn[key]

    def _depths(self, one: Standing, points: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        found = one.solid.depths(self.axis, points - one.offset)
        found += dot(self.axis, one.offset)
        return found[:, 0], found[:, 1]

    def _places(
        self, drawn: list[_Drawn], shifts: list[np.ndarray], solids: Sequence[Standing],
        window: np.ndarray,
    ) -> Iterator[np.ndarray]:  # fmt: skip
        """Yield places (n × 3, mm) beside the lines of two pictures, within both of them."""
        for k in range(2):
            own, other = drawn[k], drawn[1 - k]
            crossings = own.crossings_with(other, shifts[1 - k] - shifts[k], window, shifts[k])
            places = own.beside_pieces(crossings, window - np.tile(shifts[k], 2))
            yield places + solids[k].offset


class _Drawn:
    """The lines of a solid seen along an axis, as chords."""

    def __init__(self, solid: SeenSolid, axis: Vec3, across: np.ndarray) -> None:
        self._across = across
        look = solid.look(axis)
        self.curves = [
            curve for curve in (piece.curve for piece in look.pieces) if self._is_seen(curve)
        ]
        ends, owners, spans = [np.empty((0, 4))], [], []
        for number, curve in enumerate(self.curves):
            places = curve.even_points(_steps(curve) + 1) @ across.T
            ends.append(np.hstack([places[:-1], places[1:]]))
            steps = np.linspace(*curve.span, len(places))
            owners += [number] * (len(places) - 1)
            spans += list(pairwise(steps.tolist()))
        self._places = Places(self.curves)
        self.chords = np.concatenate(ends)
        self.owners = np.array(owners, int)
        self.spans = np.array(spans).reshape(-1, 2)
        corners = self.chords.reshape(-1, 2)
        self.box = (
            np.concatenate([corners.min(axis=0), corners.max(axis=0)])
            if len(corners)
            else np.array([np.inf, np.inf, -np.inf, -np.inf])
        )

    def _is_seen(self, curve: Curve) -> bool:
        """Say whether a curve is a line of the picture, and no point."""
        places = curve.even_points(_steps(curve) + 1) @ self._across.T
        return float(np.abs(np.diff(places, axis=0)).sum()) > SHORTEST_STROKE_MM

    @cached_property
    def own_crossings(self) -> dict[int, list[float]]:
        """Where each curve is crossed by the others, by its parameter."""
        return _crossings(self, self.chords, self.chords)

    @cached_property
    def boxes(self) -> np.ndarray:
        """The boxes of the chords (n × 4)."""
        return np.hstack([
            np.minimum(self.chords[:, :2], self.chords[:, 2:]),
            np.maximum(self.chords[:, :2], self.chords[:, 2:]),
        ])  # fmt: skip

    def crossings_with(
        self, other: _Drawn, shift: np.ndarray, window: np.ndarray, own_shift: np.ndarray
    ) -> dict[int, list[float]]:
        """Return where curves are crossed by another picture's, which is set off by `shift`."""
        box = window - np.tile(own_shift, 2)
        near = _within(other.boxes + np.tile(shift, 2), box)
        return _crossings(self, self.chords, other.chords[near] + np.tile(shift, 2))

    def beside_pieces(self, crossings: dict[int, list[float]], window: np.ndarray) -> np.ndarray:
        """Return places (n × 3) to both sides of each piece of a curve between crossings."""
        touched = set(self.owners[_within(self.boxes, window)].tolist())
        owners: list[int] = []
        pieces: list[tuple[float, float]] = []
        for number in touched:
            stops = sorted({
                *self.curves[number].span, *crossings.get(number, ()),
                *self.own_crossings.get(number, ()),
            })  # fmt: skip
            own = [piece for piece in pairwise(stops) if piece[1] - piece[0] > SOLVED]
            pieces += own
            owners += [number] * len(own)
        if not pieces:
            return np.empty((0, 3))
        low, high = np.array(pieces).T
        # not quite the middle: what is symmetric may be crossed there
        at, reach = low + 0.4683 * (high - low), _FINE * (high - low)
        before, middle, after = (
            self._places.at(np.array(owners), t) for t in (at - reach, at, at + reach)
        )
        way = (after - before) @ self._across.T
        size = np.linalg.norm(way, axis=1)
        kept = size > SOLVED
        way = way[kept] / size[kept][:, None]
        aside = np.column_stack([-way[:, 1], way[:, 0]]) @ self._across * BESIDE_MM
        return np.concatenate([middle[kept] + aside, middle[kept] - aside])


def _steps(curve: Curve) -> int:
    if isinstance(curve, EllipticArc):
        share = (curve.last - curve.first) / (2 * np.pi)
        return max(3, int(np.ceil(_STEPS_A_TURN * share)))
    return len(curve.points) - 1 if isinstance(curve, SampledCurve) else 1


def _crossings(drawn: _Drawn, chords: np.ndarray, others: np.ndarray) -> dict[int, list[float]]:
    """Return the parameters at which curves' chords are crossed by others, ends included."""
    found: dict[int, list[float]] = defaultdict(list)
    if not len(chords) or not len(others):
        return found
    tree = shapely.STRtree(shapely.linestrings(chords.reshape(-1, 2, 2)))
    theirs, own = tree.query(shapely.linestrings(others.reshape(-1, 2, 2)))
    a, b = chords[own], others[theirs]
    d, e, f = a[:, 2:] - a[:, :2], b[:, 2:] - b[:, :2], b[:, :2] - a[:, :2]
    turn = d[:, 0] * e[:, 1] - d[:, 1] * e[:, 0]
    sizes = np.linalg.norm(d, axis=1) * np.linalg.norm(e, axis=1)
    askew = np.abs(turn) > SOLVED + PARALLEL * sizes
    with np.errstate(divide="ignore", invalid="ignore"):
        t = (f[:, 0] * e[:, 1] - f[:, 1] * e[:, 0]) / turn
        s = (f[:, 0] * d[:, 1] - f[:, 1] * d[:, 0]) / turn
    slack = SHARE
    met = askew & (t > -slack) & (t < 1 + slack) & (s > -slack) & (s < 1 + slack)
    span = drawn.spans[own[met]]
    at = span[:, 0] + np.clip(t[met], 0, 1) * (span[:, 1] - span[:, 0])
    for owner, place in zip(drawn.owners[own[met]].tolist(), at.tolist(), strict=True):
        found[owner].append(place)
    return found


def _overlap(a: np.ndarray, b: np.ndarray) -> np.ndarray | None:
    box = np.concatenate([np.maximum(a[:2], b[:2]), np.minimum(a[2:], b[2:])])
    return box if (box[:2] < box[2:]).all() else None


def _within(boxes: np.ndarray, window: np.ndarray) -> np.ndarray:
    found: np.ndarray = (
        (boxes[:, 0] <= window[2]) & (boxes[:, 2] >= window[0])
        & (boxes[:, 1] <= window[3]) & (boxes[:, 3] >= window[1])
    )  # fmt: skip
    return found
