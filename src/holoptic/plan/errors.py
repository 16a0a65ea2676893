"""The error to expect: many sheets drawn at once by a hand whose settings spread.

Every place is an array with one value for each sheet, a complex number in mm; every direction a
complex number of length 1. What a move does to them is exact for lines and circles; other curves
are taken as straight near the place in question, which for errors of tenths of a mm is as good.
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from holoptic.curves.drawn import ArcChain, DrawnCurve
from holoptic.curves.vectors import Vec2
from holoptic.plan.drafter import Drafter
from holoptic.plan.hand import Hand
from holoptic.plan.instruments import COMPASS, SLIDING
from holoptic.plan.moves import BORDER_CORNER, BORDER_LINE, Budget, Move, bears_letter
from holoptic.tolerance import ROUNDING, SOLVED

Places = NDArray[np.complex128]
Line = tuple[Places, Places]


@dataclass(frozen=True)
class _Round:
    """An arc or a circle: its centre and its radius on each sheet."""

    centre: Places
    radius: NDArray[np.float64]


@dataclass(frozen=True)
class _Bent:
    """A curve through or about some points: where they are, and where they should be."""

    points: tuple[Places, ...]
    meant: tuple[complex, ...]


class Sheets:
    """Sheets drawn at once; `count` of them, with the same random hand for the same `seed`."""

    def __init__(self, hand: Hand, count: int = 2000, seed: int = 11) -> None:
        self.hand, self.count = hand, count
        self._chance = np.random.default_rng(seed)
        self._meant = Drafter()
        zero = np.zeros(count, dtype=complex)
        self.points: dict[str, Places] = {BORDER_CORNER: zero}
        self.lines: dict[str, Line] = {BORDER_LINE: (zero, zero + 1)}
        self._curves: dict[str, _Round | _Bent] = {}
        self._compass = zero.real
        self._dividers = zero.real

    def draw(self, moves: Sequence[Move], meant: Drafter) -> Sheets:
        """Carry out moves; `meant` is the paper of the virtual drafter after all of them."""
        self._meant = meant
        for move in moves:
            self._actions[move.verb](self, move)
        return self

    # --- chance -----------------------------------------------------------------------------

    def _off(self, spread: float) -> NDArray[np.float64]:
        return self._chance.normal(0.0, spread, self.count) if spread else np.zeros(self.count)

    def _turned(self) -> Places:
        turned: Places = np.exp(1j * np.radians(self._off(self.hand.angle_deg)))
        return turned

    def _slip(self, move: Move) -> NDArray[np.float64]:
        """Return how far a setting is off; one that is kept is as far off as before."""
        if move.instrument == COMPASS:
            if not move.kept:
                self._compass = self._off(self.hand.compass_mm)
            return self._compass
        if not move.kept:
            self._dividers = self._off(self.hand.setting_mm)
        return self._dividers

    # --- moves ------------------------------------------------------------------------------

    def _lay(self, move: Move) -> None:
        corner, line, edge = move.makes
        at = np.full(self.count, complex(*move.table[0]))
        self.points = {corner: at}
        self.lines = {line: (at, at * 0 + 1), edge: (at, at * 0 + 1j)}

    def _set_off(self, move: Move) -> None:
        start, along = self.points[move.uses[0]], self.lines[move.uses[1]][1]
        way = cmath.exp(1j * math.radians(move.angle_deg or 0.0))
        size: NDArray[np.float64] | float = move.setting_mm or 0.0
        if len(move.uses) == 4:
            size = np.abs(self.points[move.uses[2]] - self.points[move.uses[3]])
        size = size + self._slip(move)
        sign = 1.0 if (complex(along[0]) * way.conjugate()).real > 0 else -1.0
        self.points[move.makes[0]] = start + sign * size * along
        if move.verb == "swing":
            self.points[move.makes[1]] = start - sign * size * along

    def _plot(self, move: Move) -> None:
        ways = [self.lines[name][1] for name in move.uses[1:]]
        for name, row in zip(move.makes, move.table, strict=True):
            place = self.points[move.uses[0]]
            for size, way in zip(row, ways, strict=True):
                if size:
                    place = place + (size + self._off(self.hand.setting_mm)) * way
            self.points[name] = place

    def _line(self, move: Move) -> None:
        """Draw a line: a square gives its own angle, one that is slid that of another line."""
        if move.instrument == SLIDING:
            along = self.lines[move.uses[1]][1] * (1j if move.verb == "square" else 1.0)
        else:
            along = np.full(self.count, cmath.exp(1j * math.radians(move.angle_deg or 0.0)))
            reference = self.lines[move.uses[1]][1] if move.verb == "parallel" else along
            if (along[0] * reference[0].conjugate()).real < 0:
                along = -along
        made = self.points[move.uses[0]], along * self._turned()
        self.lines[move.makes[0]] = made
        meets = move.uses[1 if move.verb == "draw" else 2 :]
        for name, other in zip(move.makes[1:], meets, strict=False):
            self.points[name] = _crossing(made, self.lines[other])

    def _meet(self, move: Move) -> None:
        at = complex(*self._meant.points[move.makes[0]])
        one, two = move.uses[:2]
        if one in self.lines:
            one, two = two, one
        # a curve is followed exactly: near a tangent its slope says little about a crossing
        first, second = self._curves.get(one), self._curves.get(two)
        if isinstance(first, _Round) and isinstance(second, _Round):
            made = _circles_cross(first, second, at)
        elif isinstance(first, _Round):
            made = _circle_crosses(first, self._line_near(two, at), at)
        elif isinstance(second, _Round):
            made = _circle_crosses(second, self._line_near(one, at), at)
        else:
            made = _crossing(self._line_near(one, at), self._line_near(two, at))
        self.points[move.makes[0]] = made

    def _join(self, move: Move) -> None:
        start, end = (self.points[name] for name in move.uses[:2])
        made = self.lines[move.makes[0]] = start, _unit(end - start)
        for name, other in zip(move.makes[1:], move.uses[2:], strict=True):
            self.points[name] = _crossing(made, self.lines[other])

    def _circle(self, move: Move) -> None:
        radius = (move.setting_mm or 0.0) + self._slip(move)
        self._curves[move.makes[0]] = _Round(self.points[move.uses[0]], radius)

    def _through(self, move: Move) -> None:
        names = move.uses
        meant = tuple(complex(*self._meant.points[name]) for name in names)
        points = tuple(self.points[name] for name in names)
        if move.verb == "trammel":  # the other ends of the axes lie opposite
            points += tuple(2 * points[0] - point for point in points[1:])
            meant += tuple(2 * meant[0] - place for place in meant[1:])
            points, meant = points[1:], meant[1:]
        self._curves[move.makes[0]] = _Bent(points, meant)

    def _touch(self, move: Move) -> None:
        line, *names = move.makes
        for name, curve in zip(names, [u for u in move.uses if u in self._curves], strict=True):
            at = complex(*self._meant.points[name])
            self.points[name] = self._line_near(curve, at)[0]
        first = move.uses[0]
        last = self.points[names[-1]]
        if first in self.lines:
            self.lines[line] = last, self.lines[first][1]
        else:
            start = self.points[first] if first in self.points else self.points[names[0]]
            self.lines[line] = start, _unit(last - start)

    def _nearest(self, move: Move) -> None:
        at = complex(*self._meant.points[move.makes[0]])
        self.points[move.makes[0]] = self._line_near(move.uses[0], at)[0]

    def _nothing(self, move: Move) -> None:
        """Do what moves no point."""

    _actions: dict[str, Callable[[Sheets, Move], None]] = {  # noqa: RUF012 - a table of methods
        "lay": _lay, "set off": _set_off, "swing": _set_off, "plot": _plot, "draw": _line,
        "parallel": _line, "square": _line, "meet": _meet, "join": _join, "circle": _circle,
        "arc": _circle, "same arc": _circle, "trammel": _through, "curve": _through,
        "freehand": _through, "touch": _touch, "nearest": _nearest, "firm in": _nothing,
        "check": _nothing, "go over": _nothing, "head": _nothing, "guides": _nothing,
        "letter": _nothing, "shade": _nothing,
    }  # fmt: skip

    @property
    def meant_curves(self) -> dict[str, DrawnCurve]:
        """The curves as they are meant to be, by their names."""
        return self._meant.curves

    def put_needle_off(self, name: str, by: Places) -> None:
        """Take the centre of a circle or an arc that was drawn as off by so much on each sheet."""
        drawn = self._curves[name]
        assert isinstance(drawn, _Round)
        self._curves[name] = _Round(drawn.centre + by, drawn.radius)

    def followed(self, name: str, places: NDArray[np.complex128]) -> Places:
        """Return where places of a curve as it is meant to be lie on each sheet: (sheets, places).

        `name` is a curve; the places lie on it on a sheet without errors.
        """
        curve, drawn = self._curves[name], self._meant.curves[name]
        if isinstance(curve, _Round) and isinstance(drawn, ArcChain):
            way = places - complex(*drawn.arcs[0].centre)
            way = way / np.maximum(np.abs(way), SOLVED)
            return curve.centre[:, None] + curve.radius[:, None] * way
        assert isinstance(curve, _Bent)
        return np.stack([at + _drift(curve, complex(at)) for at in places], axis=1)

    def _line_near(self, name: str, at: complex) -> Line:
        """Return what is drawn near a place as a line: a place on it and its direction."""
        if name in self.lines:
            return self.lines[name]
        curve = self._curves[name]
        drawn = self._meant.curves[name]
        slope = complex(*drawn.slope(drawn.nearest((at.real, at.imag))))
        along = np.full(self.count, slope / abs(slope))
        if isinstance(curve, _Round):
            way = _unit(at - curve.centre)
            return curve.centre + curve.radius * way, 1j * way
        return at + _drift(curve, at), along


def _drift(curve: _Bent, at: complex) -> Places:
    """Return how far a curve is off at a place: as its two nearest points, by their distance."""
    order = sorted(range(len(curve.meant)), key=lambda k: abs(curve.meant[k] - at))
    near = order[:2]
    gaps = [abs(curve.meant[k] - at) + ROUNDING for k in near]
    weights = [1 / gap for gap in gaps]
    drift = sum(
        (
            weight * (curve.points[k] - curve.meant[k])
            for weight, k in zip(weights, near, strict=True)
        ),
        start=np.zeros_like(curve.points[0]),
    )
    return drift / sum(weights)


def _unit(way: Places) -> Places:
    unit: Places = way / np.maximum(np.abs(way), SOLVED)
    return unit


def _crossing(one: Line, two: Line) -> Places:
    (p, u), (q, v) = one, two
    across = (u.conjugate() * v).imag
    share = ((q - p).conjugate() * v).imag / np.where(np.abs(across) < ROUNDING, ROUNDING, across)
    crossing: Places = p + share * u
    return crossing


def _circle_crosses(circle: _Round, line: Line, at: complex) -> Places:
    """Return where a line crosses a circle, near a place; where it misses, it is nearest."""
    origin, way = line
    foot = origin + way * ((circle.centre - origin) * way.conjugate()).real
    half = np.sqrt(np.maximum(circle.radius**2 - np.abs(foot - circle.centre) ** 2, 0.0))
    one, two = foot + half * way, foot - half * way
    crossing: Places = np.where(np.abs(one - at) < np.abs(two - at), one, two)
    return crossing


def _circles_cross(one: _Round, two: _Round, at: complex) -> Places:
    """Return where two circles cross, near a place: on the line through both crossings; where
    they miss each other, the place of the first that is nearest to that line.
    """
    apart = two.centre - one.centre
    distance = np.maximum(np.abs(apart), ROUNDING)
    way = apart / distance
    along = (distance**2 + one.radius**2 - two.radius**2) / (2 * distance)
    along = np.clip(along, -one.radius, one.radius)
    return _circle_crosses(one, (one.centre + along * way, 1j * way), at)


def stroke_ends(moves: Sequence[Move]) -> list[str]:
    """Return the lettered points where firm strokes begin and end, each once."""
    ends = (name for move in moves if move.verb == "firm in" for name in move.uses[:2])
    return [name for name in dict.fromkeys(ends) if bears_letter(name)]


def budget_of(
    moves: Sequence[Move], sheets: Sheets, meant: Drafter, start: str, closure: float | None
) -> Budget:
    """Return the errors of sheets that were drawn; `start` is the start point."""
    ends = stroke_ends(moves)
    off = np.sqrt((np.abs(_off_start(sheets, meant, ends, start)) ** 2).mean(axis=1))
    points: dict[str, float] = dict(zip(ends, off.tolist(), strict=True))
    typical = math.sqrt(sum(v * v for v in points.values()) / max(len(points), 1))
    worst = max(points, key=lambda name: points[name], default="")
    return Budget(sheets.count, points, typical, (worst, points.get(worst, 0.0)), closure)


_SEEN_AT_ONCE = 6.0
"""So many times the usual error are seen by any hand, which then draws the point again."""


def _off_start(sheets: Sheets, meant: Drafter, names: Sequence[str], start: str) -> Places:
    """Return how far points are off on each sheet, seen from the start point (points × sheets).

    Where lines cross flat, on a few sheets they hardly do: so far off no hand would leave a point.
    """
    drawn = np.array([sheets.points[name] for name in names]).reshape(-1, sheets.count)
    true = np.array([complex(*meant.points[name]) for name in names])
    off = drawn - sheets.points[start] - (true - complex(*meant.points[start]))[:, None]
    size = np.abs(off)
    most = _SEEN_AT_ONCE * np.median(size, axis=1, keepdims=True)
    kept: Places = off * np.minimum(1.0, most / np.maximum(size, ROUNDING))
    return kept


def errors_at(
    sheets: Sheets, meant: Drafter, names: Sequence[str], start: str
) -> NDArray[np.float64]:
    """Return the errors of points on each sheet: (sheets, 2 × points), mm, across then up."""
    off = _off_start(sheets, meant, names, start)
    errors: NDArray[np.float64] = np.stack([off.real, off.imag], axis=1).reshape(-1, sheets.count).T
    return errors


def place_of(meant: Drafter, name: str) -> Vec2:
    """Return where a point lies on a sheet without errors, mm from the border's corner."""
    return meant.points[name]
