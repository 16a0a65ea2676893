"""Where strokes lie on sheets drawn by hands that slip: places along each, sheet by sheet.

All places are complex numbers, mm from the lower left border corner, as the border lies on the
sheet: a border that was drawn by hand is what the sheet is found by, so it counts as true.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from holoptic.curves.vectors import Vec2
from holoptic.plan.drafter import Drafter
from holoptic.plan.errors import Places, Sheets
from holoptic.plan.hand import Hand
from holoptic.plan.moves import CENTRE_LINES, FRAME, HIDDEN_LINES, Move
from holoptic.tolerance import SOLVED

PITCH_MM = 3.0
"""Places along a stroke are this far apart (length, mm), or a little less."""
_CURVE_PITCH_MM = 1.2
_FEWEST, _MOST = 4, 160
CORNERS = (
    "lower left border corner", "lower right border corner", "upper right border corner",
    "upper left border corner",
)  # fmt: skip
Offs = NDArray[np.float64]
Box = tuple[float, float, float, float]


@dataclass(frozen=True)
class Draw:
    """One setting that a hand makes: the move (its index), and which of the move's settings.

    `spread` is how far it usually scatters: mm, for an angle degrees.
    """

    move: int
    part: int
    spread: float
    is_angle: bool


class SlippedSheets(Sheets):
    """Sheets on which each setting is off by what a function says: (number of the draw, spread) to
    an array with one value for each sheet. `needles` say of moves, by their index, how far off the
    compass's needle stood on each sheet.
    """

    def __init__(
        self, hand: Hand, count: int, off: Callable[[int, float], Offs],
        needles: Mapping[int, Places] | None = None,
    ) -> None:  # fmt: skip
        super().__init__(hand, count)
        self._needles = needles or {}
        self.draws: list[Draw] = []
        self._off_of = off
        self._move = self._part = 0
        self._turns = False

    def draw(self, moves: Sequence[Move], meant: Drafter) -> SlippedSheets:
        """Carry out moves as the hand did; `meant` is the paper of the virtual drafter."""
        self._meant = meant
        for number, move in enumerate(moves):
            self._move, self._part = number, 0
            self._actions[move.verb](self, move)
            if number in self._needles:
                self.put_needle_off(move.makes[0], self._needles[number])
        return self

    def _off(self, spread: float) -> Offs:
        off = self._off_of(len(self.draws), spread)
        self.draws.append(Draw(self._move, self._part, spread, self._turns))
        self._part += 1
        return off

    def _turned(self) -> Places:
        self._turns = True
        turned = super()._turned()
        self._turns = False
        return turned


def lengths_along(path: NDArray[np.complex128]) -> Offs:
    """Return how far each place of a path lies from its start, along it (mm)."""
    return np.concatenate([[0.0], np.cumsum(np.abs(np.diff(path)))])


def dense(path: Places) -> Places:
    """Return places along a path, every mm or so."""
    along = lengths_along(path)
    at = np.linspace(0.0, along[-1], max(3, int(along[-1]) + 1))
    places: Places = np.interp(at, along, path.real) + 1j * np.interp(at, along, path.imag)
    return places


def draws_of(moves: Sequence[Move], meant: Drafter, hand: Hand) -> list[Draw]:
    """Return the settings that a hand makes in some moves, in order."""
    return SlippedSheets(hand, 1, lambda _, __: np.zeros(1)).draw(moves, meant).draws


@dataclass(frozen=True)
class Trace:
    """A stroke in places from end to end: as it is meant (n), and how it is drawn over.

    `move` is the index of the move that makes it; `is_round` tells circles, `is_closed` those that
    return to their first place.
    """

    stroke: str
    move: int
    meant: NDArray[np.complex128]
    is_curve: bool
    is_closed: bool
    is_thin: bool
    is_broken: bool
    """Dashed or a chain of dashes and dots."""

    @property
    def length(self) -> float:
        """How long it is, mm."""
        return float(np.abs(np.diff(self.meant)).sum())

    @property
    def normals(self) -> NDArray[np.complex128]:
        """The unit normals at its places, to its left."""
        way = np.gradient(self.meant)
        return 1j * way / np.maximum(np.abs(way), SOLVED)


@dataclass(frozen=True)
class Traced:
    """The strokes of a plan, and how places along them hang on its moves."""

    moves: tuple[Move, ...]
    meant: Drafter
    inner: Vec2
    """Width and height inside the border, mm."""
    traces: tuple[Trace, ...] = field(default=())
    elsewhere: tuple[Box, ...] = ()
    """Where ink belongs to other drawings of the sheet, or to its title block (x and y of the lower
    left and of the upper right corner, mm)."""

    @property
    def box(self) -> Box:
        """The least box that holds all strokes."""
        places = np.concatenate([one.meant for one in self.traces])
        return (float(places.real.min()), float(places.imag.min()),
                float(places.real.max()), float(places.imag.max()))  # fmt: skip

    def first(self, count: int) -> Traced:
        """Return the same with the first strokes alone, in the order of the plan."""
        order = sorted(self.traces, key=lambda one: one.move)[:count]
        return replace(self, traces=tuple(order))

    def on(self, sheets: Sheets) -> list[Places]:
        """Return the places of each stroke on sheets that were drawn: (sheets, places), each."""
        true = _as_border_lies(sheets, self.inner)
        return [true(places) for places in self.on_paper(sheets)]

    def on_paper(self, sheets: Sheets) -> list[Places]:
        """Return the same as they lie on the paper, whatever the border looks like."""
        return [_places(sheets, self.moves[one.move], one, self._nearest(sheets, one))
                for one in self.traces]  # fmt: skip

    def _nearest(self, sheets: Sheets, one: Trace) -> NDArray[np.int64]:
        """Return for each place of a stroke which of the curves that it runs along is nearest."""
        known = self._nearest_curves
        if one.stroke not in known:
            names = self.moves[one.move].uses[2:] if one.is_curve else ()
            curves = [sheets.meant_curves[name] for name in names] if len(names) > 1 else []
            gaps = np.array([[abs(complex(*curve.at(curve.nearest((p.real, p.imag)))) - p)
                              for p in one.meant] for curve in curves])  # fmt: skip
            known[one.stroke] = gaps.argmin(axis=0) if curves else np.zeros(0, int)
        return known[one.stroke]

    @cached_property
    def _nearest_curves(self) -> dict[str, NDArray[np.int64]]:
        return {}


def trace(moves: Sequence[Move], meant: Drafter, inner: Vec2, pitch: float = PITCH_MM) -> Traced:
    """Return the strokes of a plan; those of the border are no strokes, but what it is found by."""
    found = []
    for number, move in enumerate(moves):
        if move.verb not in ("firm in", "go over") or move.makes[0].startswith(FRAME):
            continue
        path = np.array([complex(*place) for place in meant.strokes[move.makes[0]]])
        if np.abs(np.diff(path)).sum() < SOLVED:
            continue
        found.append(_trace(number, move, path, pitch, meant))
    return Traced(tuple(moves), meant, inner, tuple(found))


def _trace(
    number: int, move: Move, path: NDArray[np.complex128], pitch: float, meant: Drafter
) -> Trace:
    along = lengths_along(path)
    is_curve = move.uses[2] in meant.curves
    pitch = _CURVE_PITCH_MM if is_curve else pitch
    count = int(np.clip(np.ceil(along[-1] / pitch) + 1, _FEWEST, _MOST))
    at = np.linspace(0.0, along[-1], count)
    places = np.interp(at, along, path.real) + 1j * np.interp(at, along, path.imag)
    is_thin = move.verb == "go over"
    is_closed = is_curve and abs(path[0] - path[-1]) < pitch / 10
    return Trace(move.makes[0], number, places, is_curve, is_closed, is_thin,
                 is_thin and move.phase in _BROKEN)  # fmt: skip


_BROKEN = frozenset({HIDDEN_LINES, CENTRE_LINES})


def _places(sheets: Sheets, move: Move, one: Trace, nearest: NDArray[np.int64]) -> Places:
    """Return where the places of a stroke lie on each sheet, as drawn; of a stroke along several
    curves each place lies on the nearest.
    """
    start, end = (sheets.points[name] for name in move.uses[:2])
    if not one.is_curve:
        if move.verb == "go over":
            way = sheets.lines[move.uses[2]][1]
            meant = np.exp(1j * math.radians(move.angle_deg or 0.0))
            way = way * (1.0 if (way[0] * meant.conjugate()).real > 0 else -1.0)
            start, end = start + move.table[0][0] * way, end + move.table[0][1] * way
        share = np.linspace(0.0, 1.0, len(one.meant))
        return start[:, None] + share * (end - start)[:, None]
    names = move.uses[2:]
    if len(names) == 1:
        return sheets.followed(names[0], one.meant)
    places = np.empty((sheets.count, len(one.meant)), complex)
    for k, name in enumerate(names):
        own = nearest == k
        if own.any():
            places[:, own] = sheets.followed(name, one.meant[own])
    return places


def _as_border_lies(sheets: Sheets, inner: Vec2) -> Callable[[Places], Places]:
    """Return what takes places from the paper to the border as it was drawn, the true one then.

    Where its corners have fallen together or in a line, nothing is told: NaN.
    """
    if not all(name in sheets.points for name in CORNERS):
        return lambda places: places
    width, height = inner
    true = np.array([0j, width + 0j, complex(width, height), 1j * height])
    drawn = np.stack([sheets.points[name] for name in CORNERS], axis=1)
    is_flat = _are_flat(drawn)
    rows = homographies(np.where(is_flat[:, None], true, drawn), true)
    rows[is_flat] = np.nan

    def move(places: Places) -> Places:
        x, y = places.real, places.imag
        a = rows[:, :, None]
        under = a[:, 6] * x + a[:, 7] * y + 1.0
        across = (a[:, 0] * x + a[:, 1] * y + a[:, 2]) / under
        up = (a[:, 3] * x + a[:, 4] * y + a[:, 5]) / under
        moved: Places = across + 1j * up
        return moved

    return move


def _are_flat(corners: Places) -> NDArray[np.bool_]:
    """Say of four places each (n × 4) whether three of them lie in a line or fall together."""
    sides = np.roll(corners, -1, axis=1) - corners
    turns = (sides.conj() * np.roll(sides, -1, axis=1)).imag
    return np.asarray((np.abs(turns) < 1.0).any(axis=1))


def homographies(some: Places, others: NDArray[np.complex128]) -> NDArray[np.float64]:
    """Return the projective maps (n × 8) that take four places (n × 4) to four others (4): the
    direct linear way (Hartley and Zisserman, Multiple View Geometry, 4.1).
    """
    count = len(some)
    a, b = np.zeros((count, 8, 8)), np.zeros((count, 8))
    for k in range(4):
        x, y, u, v = some[:, k].real, some[:, k].imag, others[k].real, others[k].imag
        one = np.ones(count)
        a[:, 2 * k, :3] = np.stack([x, y, one], axis=1)
        a[:, 2 * k, 6:] = np.stack([-u * x, -u * y], axis=1)
        a[:, 2 * k + 1, 3:6] = np.stack([x, y, one], axis=1)
        a[:, 2 * k + 1, 6:] = np.stack([-v * x, -v * y], axis=1)
        b[:, 2 * k], b[:, 2 * k + 1] = u, v
    return np.asarray(np.linalg.solve(a, b[:, :, None])[:, :, 0], np.float64)
