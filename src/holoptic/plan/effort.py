"""What moves cost the hand: settings, turns of the square, instruments taken up, time."""

from __future__ import annotations

from collections.abc import Hashable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

from holoptic.catalogue import tr
from holoptic.plan.instruments import COMPASS, DIVIDERS, RULE, SOFT_PENCIL, STRAIGHTEDGE
from holoptic.plan.moves import Budget, Effort, Move
from holoptic.tolerance import ROUNDING

SETTING_S, SQUARE_S, PICK_UP_S = 9.0, 4.0, 3.0
"""Seconds for a setting, for a turn of the square, for taking another instrument in hand."""

SHADE_LINE_S = 2.0
"""For a line that hatches or shades."""

_DOING_S: Mapping[str, float] = {
    "lay": 60, "set off": 5, "swing": 6, "plot": 8, "draw": 6, "parallel": 6, "square": 6,
    "meet": 3, "join": 8, "circle": 6, "arc": 6, "same arc": 6, "trammel": 60, "curve": 60,
    "freehand": 25, "touch": 12, "nearest": 4, "firm in": 7, "check": 10, "go over": 5, "head": 5,
    "guides": 8, "letter": 3, "shade": SHADE_LINE_S,
}  # fmt: skip
"""Seconds for the drawing itself; for a plot that of one point, for a letter or a line that of one
of them."""

Value = Hashable


@dataclass(frozen=True)
class Demand:
    """What a move asks for: how instruments must stand, and what is in the hand.

    `settings` and `square` are states that last until the instrument is set otherwise; `extra`
    counts settings that serve this move alone.
    """

    hand: str | None
    settings: tuple[tuple[str, Value], ...] = ()
    square: Value | None = None
    extra: int = 0


def demands(moves: Sequence[Move]) -> list[Demand]:
    """Return what each move asks for."""
    reader = _Reader()
    for move in moves:
        reader.learn(move)
    return [reader.demand(move) for move in moves]


class _Reader:
    """Knows at which angle each line was drawn and with which radius each arc."""

    def __init__(self) -> None:
        self._angles: dict[str, float | None] = {}
        self._radii: dict[str, float | None] = {}

    def learn(self, move: Move) -> None:
        by_square = move.verb in ("draw", "parallel", "square") or _joins_by_square(move)
        if by_square and move.angle_deg is not None:
            self._angles[move.makes[0]] = round(move.angle_deg % 180, 5) % 180
        elif move.verb in ("join", "touch"):
            self._angles[move.makes[0]] = None
        elif move.instrument == COMPASS and move.setting_mm is not None:
            self._radii[move.makes[0]] = round(move.setting_mm, 6)
        elif move.verb in ("curve", "trammel", "freehand", "arc", "same arc"):
            self._radii[move.makes[0]] = None

    def demand(self, move: Move) -> Demand:
        if move.verb in ("draw", "parallel", "square") or _joins_by_square(move):
            return Demand("square", square=self._angles[move.makes[0]])
        if move.verb in ("set off", "swing"):
            size = round(move.setting_mm or 0.0, 6)
            if move.instrument == DIVIDERS:
                return Demand(DIVIDERS, ((DIVIDERS, size),))
            if move.instrument == COMPASS:
                return Demand(COMPASS, ((COMPASS, size),))
            return Demand(RULE, extra=1)
        if move.verb == "plot":
            count = sum(value != 0 for row in move.table for value in row)
            return Demand(DIVIDERS, ((DIVIDERS, move.makes),), extra=max(count - 1, 0))
        if move.instrument == COMPASS:
            return Demand(COMPASS, ((COMPASS, round(move.setting_mm or 0.0, 6)),))
        if move.verb == "firm in":
            return self._firm(move)
        if move.verb == "check":
            return Demand(RULE, extra=1)
        if move.verb in ("join", "touch"):
            return Demand(STRAIGHTEDGE, square=(STRAIGHTEDGE, move.makes[0]))
        if move.verb in ("go over", "guides", "shade") and move.angle_deg is not None:
            return Demand(move.instrument, square=round(move.angle_deg % 180, 5) % 180)
        if move.verb in ("meet", "nearest", "lay"):
            return Demand(None)
        return Demand(move.instrument)

    def _firm(self, move: Move) -> Demand:
        item = move.uses[2]
        if item in self._radii:
            radii = [self._radii[name] for name in move.uses[2:]]
            if None in radii:
                return Demand(SOFT_PENCIL)
            arcs = tuple((COMPASS, radius) for radius in radii)
            return Demand(tr("{compass}, soft", compass=COMPASS), arcs[:1], extra=_changes(radii))
        angle = self._angles.get(item)
        square = (STRAIGHTEDGE, item) if angle is None else angle
        return Demand(SOFT_PENCIL, square=square)


def _joins_by_square(move: Move) -> bool:
    """Say whether a line through two points is drawn by a square that has its angle."""
    return move.verb == "join" and move.instrument != STRAIGHTEDGE


def _changes(values: Sequence[object]) -> int:
    return sum(a != b for a, b in pairwise(values))


class Desk:
    """How the instruments stand while moves are done; adds up what changes cost."""

    def __init__(self) -> None:
        self.hand: str | None = None
        self.stand: dict[str, Value] = {}
        self.settings = self.squares = self.pick_ups = 0

    def cost(self, demand: Demand) -> float:
        """Return the seconds that a demand's changes would take now."""
        # without calls and tuples: batching asks this some hundred thousand times
        stand = self.stand
        seconds = demand.extra * SETTING_S
        for device, value in demand.settings:
            if stand.get(device) != value:
                seconds += SETTING_S
        if demand.square is not None and stand.get("square") != demand.square:
            seconds += SQUARE_S
        if demand.hand is not None and demand.hand != self.hand:
            seconds += PICK_UP_S
        return seconds

    @property
    def seconds(self) -> float:
        """What all changes so far have taken, without the drawing itself."""
        return _seconds(self.settings, self.squares, self.pick_ups)

    def meet(self, demand: Demand) -> None:
        """Set the instruments as a demand asks."""
        stand = self.stand
        self.settings += demand.extra
        for device, value in demand.settings:
            if stand.get(device) != value:
                self.settings += 1
                stand[device] = value
        if demand.square is not None and stand.get("square") != demand.square:
            self.squares += 1
            stand["square"] = demand.square
        if demand.hand is not None and demand.hand != self.hand:
            self.pick_ups += 1
            self.hand = demand.hand


def doing_seconds(moves: Iterable[Move]) -> float:
    """Return the time for the drawing itself, without setting anything."""
    return sum(_DOING_S[move.verb] * _count(move) for move in moves)


def _count(move: Move) -> int:
    """Return how many points, letters or lines a move makes of which each takes its time."""
    if move.verb == "letter":
        return sum(len(words.text) for words in move.letters)
    return max(len(move.table), 1) if move.verb in ("plot", "shade") else 1


def weigh(effort: Effort, budget: Budget) -> float:
    """Return what a way costs: minutes times mm of error; the least is the best."""
    return effort.seconds / 60 * max(budget.typical, ROUNDING)


def effort_of(moves: Sequence[Move]) -> Effort:
    """Return what moves cost in this order."""
    desk = Desk()
    for demand in demands(moves):
        desk.meet(demand)
    return effort(desk.settings, desk.squares, desk.pick_ups, doing_seconds(moves))


def effort(settings: int, squares: int, pick_ups: int, doing_s: float) -> Effort:
    """Return an effort from its counts and the seconds of the drawing itself."""
    seconds = _seconds(settings, squares, pick_ups) + doing_s
    return Effort(settings, squares, pick_ups, seconds)


def _seconds(settings: int, squares: int, pick_ups: int) -> float:
    return settings * SETTING_S + squares * SQUARE_S + pick_ups * PICK_UP_S
