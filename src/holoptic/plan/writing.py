"""The sheet of moves that is being written."""

from __future__ import annotations

import math
from collections.abc import Callable

from holoptic.catalogue import Saying, later, sentences
from holoptic.curves.vectors import Vec2
from holoptic.plan.instruments import PENCIL, STRAIGHTEDGE, square_for
from holoptic.plan.moves import Letters, Lift, Move, Setup, Verb, point_names

_RULED = ("draw", "parallel", "square", "join")


class MoveWriter:
    """Writes moves one after the other; gives out letters and remembers where they stand."""

    def __init__(self, setup: Setup) -> None:
        self.setup = setup
        self.phase = ""
        self.moves: list[Move] = []
        self.places: dict[str, Vec2] = {}
        """Where every lettered point lies, in the writer's own coordinates."""
        self._told: dict[str, Saying] = {}
        self._standing: dict[tuple[float, float], str] = {}
        self._names = point_names()

    def write(
        self,
        verb: Verb,
        instrument: str,
        uses: tuple[str, ...],
        makes: tuple[str, ...],
        text: Saying,
        *,
        setting: float | None = None,
        angle: float | None = None,
        lift: Lift | None = None,
        table: tuple[tuple[float, ...], ...] = (),
        rest: Saying = "",
        letters: tuple[Letters, ...] = (),
        met: tuple[Saying, ...] = (),
    ) -> None:
        """Add a move to the plan."""
        number = len(self.moves) + 1
        self.moves.append(
            Move(number, self.phase, verb, instrument, uses, makes, text, setting, angle, lift,
                 table, rest=rest, letters=letters, met=met)
        )  # fmt: skip
        if verb in _RULED:
            self._note(verb, uses, makes[0], angle)

    def note_line(self, name: str, place: Vec2, angle: float) -> None:
        """Remember that a straight line runs through a place in a direction (degrees)."""
        turn, off = _line_at(place, angle)
        self._standing.setdefault((turn, round(off, 3) + 0.0), name)

    def _note(self, verb: Verb, uses: tuple[str, ...], name: str, angle: float | None) -> None:
        ends = [each for each in uses[: 2 if verb == "join" else 1] if each in self.places]
        way = self._way(*ends) if len(ends) == 2 else angle
        if ends and way is not None:
            self.note_line(name, self.places[ends[0]], way)

    def standing(self, place: Vec2, angle: float) -> str | None:
        """Return the line through a place in a direction (degrees) that is drawn already, if there
        is one that words lead to.
        """
        turn, off = _line_at(place, angle)
        found = (self._standing.get((turn, each), "") for each in both_rounded(off, 3))
        return next((name for name in found if name and self.told(name) != name), None)

    def standing_between(self, one: str, other: str) -> str | None:
        """Return the line through two letters that is drawn already, as `standing` does."""
        return self.standing(self.places[one], self._way(one, other))

    def _way(self, one: str, other: str) -> float:
        (x, y), (u, v) = self.places[one], self.places[other]
        return math.degrees(math.atan2(v - y, u - x))

    def tell(self, name: str, words: Saying) -> None:
        """Say by which words a line or a curve is found on the paper: letters stand there, its
        name does not.
        """
        self._told[name] = words

    def told(self, name: str) -> Saying:
        """Return the words for a line or a curve on the paper."""
        return self._told.get(name, name)

    def mark_crossing(
        self, lines: tuple[str, str], name: str, words: Saying,
        met: Callable[[int, Saying], Saying],
    ) -> None:  # fmt: skip
        """Mark where two lines cross. `met` says it at the end of the move that draws one of them,
        by its number and the words for the other: so it is said where nothing comes between.
        """
        told = [self.told(line) for line in lines]
        self.write("meet", PENCIL, lines, (name,), words, met=(met(0, told[1]), met(1, told[0])))

    def rule_through(self, name: str, first: str, second: str, note: Saying = "") -> None:
        """Draw the line through two letters: by a square where one has its angle."""
        angle = round(self._way(first, second), 5)
        square = square_for(angle)
        if square is None:
            words = later("Join {first} and {second} with the straightedge.", first=first,
                          second=second)  # fmt: skip
            self.write("join", STRAIGHTEDGE, (first, second), (name,), sentences(words, note))
            return
        words = later("With the {square} draw the line through {first} and {second}.",
                      square=later(square), first=first, second=second)  # fmt: skip
        self.write("join", square, (first, second), (name,), sentences(words, note),
                   angle=float(round(angle)))  # fmt: skip

    def name_place(self, place: Vec2) -> str:
        """Give a place the next free letter; return it."""
        name = next(self._names)
        self.places[name] = place
        return name


def both_rounded(value: float, digits: int) -> tuple[float, float]:
    """Return what a value is rounded to, and what it would be just beside: equal places that are
    reckoned in two ways may fall to either side of a half.

    >>> both_rounded(0.0615, 2)
    (0.06, 0.06)
    >>> both_rounded(0.06499999, 2)
    (0.06, 0.07)
    """
    nearest = round(value, digits) + 0.0
    aside = math.copysign(10.0**-digits / 10, value - nearest)
    return nearest, round(value + aside, digits) + 0.0


def _line_at(place: Vec2, angle: float) -> tuple[float, float]:
    """Return what two lines on the paper that are one have alike: direction, rounded, and how far
    they lie from the origin (mm).
    """
    turn = round(angle % 180.0, 3) % 180.0
    x, y = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    return turn, place[1] * x - place[0] * y
