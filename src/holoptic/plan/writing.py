"""The sheet of moves that is being written."""

from __future__ import annotations

import math
from collections.abc import Callable

from holoptic.catalogue import Saying, later, sentences
from holoptic.curves.vectors import Vec2
from holoptic.plan.instruments import PENCIL, STRAIGHTEDGE, square_for
from holoptic.plan.moves import Letters, Lift, Move, Setup, Verb, point_names


class MoveWriter:
    """Writes moves one after the other; gives out letters and remembers where they stand."""

    def __init__(self, setup: Setup) -> None:
        self.setup = setup
        self.phase = ""
        self.moves: list[Move] = []
        self.places: dict[str, Vec2] = {}
        """Where every lettered point lies, in the writer's own coordinates."""
        self._told: dict[str, Saying] = {}
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
        (x, y), (u, v) = self.places[first], self.places[second]
        angle = round(math.degrees(math.atan2(v - y, u - x)), 5)
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
