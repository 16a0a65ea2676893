"""Control distances that were read off a sheet: which setting made them what they are.

A rule across the paper tells little, but it tells it at once: with a slip in each setting in turn
the sheets that `plan.errors` draws say what every rule would read, and the readings with the hand's
spread as covariance say which slip is likely (as `causes` does with whole sheets).
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from holoptic.catalogue import tr
from holoptic.checking.causes import Slips, Suspect, Suspects
from holoptic.checking.deciding import deciding_between
from holoptic.checking.mending import redraw_of
from holoptic.checking.report import CheckReport, State, StrokeFound
from holoptic.checking.slips import Slip, setting_of
from holoptic.checking.stories import cause_of
from holoptic.checking.traces import Offs, Trace, Traced
from holoptic.plan.errors import Places, Sheets
from holoptic.plan.hand import Hand
from holoptic.plan.moves import Move
from holoptic.tolerance import SOLVED
from holoptic.units import Unit, show

READ_MM = 0.25
"""How far a reading of a scale rule scatters by itself."""
_EPS = 0.01
_LEAST_GAIN = 3.0
_LEAST_SHARE = 0.03
_MOST = 8
_OFF_MM = 0.8
"""A stroke that a slip moves further is to be drawn again."""


@dataclass(frozen=True)
class Distance:
    """A control distance: the number of its check, its ends, what the rule should read, give or
    take how much, and what it does read; mm.
    """

    move: int
    start: str
    end: str
    should_mm: float
    allowed_mm: float
    read_mm: float | None = None

    @property
    def off_mm(self) -> float:
        """How much more the rule reads than it should; 0 where it was not read."""
        return 0.0 if self.read_mm is None else self.read_mm - self.should_mm

    @property
    def agrees(self) -> bool:
        """Whether it is within what the hand's ordinary spread makes of it."""
        return abs(self.off_mm) <= self.allowed_mm


def outcome_of(distance: Distance, unit: Unit) -> str:
    """Return how a control distance stands, in words; nothing where it was not read."""
    if distance.read_mm is None:
        return ""
    if distance.agrees:
        return tr("agrees")
    off = show(abs(distance.off_mm), unit)
    return tr("{off} too much", off=off) if distance.off_mm > 0 else tr("{off} too little", off=off)


def distances_of(
    moves: Sequence[Move], readings: Mapping[int, float] | None = None
) -> tuple[Distance, ...]:
    """Return the control distances of a plan, with what was read by the number of the check."""
    readings = readings or {}
    return tuple(
        Distance(move.n, move.uses[0], move.uses[1], move.setting_mm or 0.0,
                 max(move.tolerance_mm or 0.0, 2 * READ_MM), readings.get(move.n))
        for move in moves if move.verb == "check"
    )  # fmt: skip


def check_distances(
    figure: str, traced: Traced, hand: Hand, readings: Mapping[int, float]
) -> CheckReport:
    """Return what readings tell: the likely causes, and which strokes the likeliest one moves.

    The states of the strokes are expected, not seen.
    """
    told = [one for one in distances_of(traced.moves, readings) if one.read_mm is not None]
    suspects = Suspects(traced, hand)
    found = [] if all(one.agrees for one in told) else _Rules(suspects, told).suspects()
    slips: Slips = found[0].slips if found else ()
    strokes = _expected(suspects, slips)
    guilty = suspects.moves_of(slips)
    return CheckReport(
        figure, strokes, (), tuple(cause_of(one, suspects.draws, traced.moves) for one in found),
        deciding_between(suspects, *found[:2]) if len(found) > 1 else None,
        redraw_of(traced.moves, strokes, guilty) if found else None,
    )  # fmt: skip


def _expected(suspects: Suspects, slips: Slips) -> tuple[StrokeFound, ...]:
    """Return the strokes as slips have moved them."""
    traced = suspects.traced
    places = traced.on(suspects.sheets([slips]))
    found = []
    for one, lies in zip(traced.traces, places, strict=True):
        state, off = _state(one, lies[0] - one.meant)
        meant, path = (tuple((float(p.real), float(p.imag)) for p in row)
                       for row in (one.meant, lies[0]))  # fmt: skip
        found.append(StrokeFound(one.stroke, state, round(off, 2), _OFF_MM,
                                 traced.moves[one.move].n, meant, path))  # fmt: skip
    return tuple(found)


def _state(one: Trace, moved: Places) -> tuple[State, float]:
    """Return what becomes of a stroke whose places are moved, and by how much (mm)."""
    across = (moved * one.normals.conj()).real
    most = float(across[int(np.abs(across).argmax())])
    if abs(most) > _OFF_MM:
        return "shifted", most
    if not one.is_curve:
        way = (one.meant[-1] - one.meant[0]) / max(one.length, SOLVED)
        ends = (moved[[0, -1]] * way.conjugate()).real * np.array([-1.0, 1.0])
        longer = float(ends[int(np.abs(ends).argmax())])
        if abs(longer) > _OFF_MM:
            return ("long" if longer > 0 else "short"), longer
    return "there", 0.0


class _Rules:
    """What rules read on sheets with slips, and which slips make of it what was read."""

    def __init__(self, suspects: Suspects, told: Sequence[Distance]) -> None:
        self._suspects = suspects
        self._ends = [(one.start, one.end) for one in told]
        count = len(suspects.draws)
        small = [(Slip(k, _EPS, "other", 0.0, 0.0),) for k in range(count)]
        self._plain = self._read(suspects.sheets([()]))[0]
        self._by_draw = (self._read(suspects.sheets(small)) - self._plain) / _EPS
        self._off = np.array([one.off_mm for one in told])
        spread = self._by_draw * suspects.spreads[:, None]
        self._inverse = np.linalg.inv(spread.T @ spread + READ_MM**2 * np.eye(len(told)))

    def _read(self, sheets: Sheets) -> Offs:
        """Return what the rules read on sheets: sheets × distances, mm."""
        return np.stack(
            [np.abs(sheets.points[a] - sheets.points[b]) for a, b in self._ends], axis=1
        )

    def suspects(self) -> list[Suspect]:
        """Return the slips that are likely, the likeliest first."""
        tried = [*self._suspects.usual, *self._suspects.together, *self._of_any_size()]
        moved = self._read(self._suspects.sheets([(slip,) for slip in tried])) - self._plain
        rest = self._off - moved
        lost = np.einsum("ki,ij,kj->k", rest, self._inverse, rest) / 2
        before = float(self._off @ self._inverse @ self._off) / 2
        best: dict[int, tuple[float, Slip]] = {}
        for slip, one in zip(tried, lost.tolist(), strict=True):
            gain = before - one + slip.worth
            if slip.draw not in best or gain > best[slip.draw][0]:
                best[slip.draw] = gain, slip
        ranked = sorted(best.values(), key=lambda one: -one[0])[:_MOST]
        if not ranked or ranked[0][0] < _LEAST_GAIN:
            return []
        shares = [math.exp(gain - ranked[0][0]) for gain, _ in ranked]
        total = sum(shares)
        found = [Suspect((slip,), gain, share / total)
                 for (gain, slip), share in zip(ranked, shares, strict=True)]  # fmt: skip
        return [one for one in found if one.weight > _LEAST_SHARE]

    def _of_any_size(self) -> list[Slip]:
        """Return for each setting the slip, of any size, that the readings point to."""
        told = np.einsum("ki,ij,kj->k", self._by_draw, self._inverse, self._by_draw)
        along = self._by_draw @ self._inverse @ self._off
        found = []
        for number, draw in enumerate(self._suspects.draws):
            if told[number] > SOLVED:
                off = float(along[number] / told[number])
                should = setting_of(self._suspects.traced.moves[draw.move], draw)
                found.append(Slip(number, off, "other", should + off, should))
        return found


def decided(report: CheckReport, read_mm: float, moves: Sequence[Move]) -> CheckReport:
    """Return a report after the distance that decides was read: the causes weighed anew by it, and
    what is to be drawn again. Raises ValueError where nothing is to be decided.
    """
    one = report.deciding
    if one is None:
        raise ValueError("nothing is to be decided")
    gap = abs(one.readings[0] - one.readings[1])
    spread = max(2 * READ_MM, gap / 6)
    likely = {move: math.exp(-(((read_mm - reading) / spread) ** 2) / 2) + SOLVED
              for move, reading in zip(one.moves, one.readings, strict=True)}  # fmt: skip
    rivals = [cause for cause in report.causes if cause.move in likely]
    weights = [cause.weight * likely[cause.move] for cause in rivals]
    total, shared = sum(weights), sum(cause.weight for cause in rivals)
    anew = {id(cause): replace(cause, weight=round(shared * weight / total, 3))
            for cause, weight in zip(rivals, weights, strict=True)}  # fmt: skip
    causes = sorted((anew.get(id(cause), cause) for cause in report.causes),
                    key=lambda cause: (-cause.weight, cause.group))  # fmt: skip
    first = {cause.group: cause.move for cause in reversed(causes)}
    redraw = redraw_of(moves, report.strokes, set(first.values()))
    return replace(report, causes=tuple(causes), deciding=None, redraw=redraw)
