"""The sheet of moves that is being written."""

from __future__ import annotations

from holoptic.catalogue import Saying
from holoptic.curves.vectors import Vec2
from holoptic.plan.moves import Letters, Lift, Move, Setup, Verb, point_names


class MoveWriter:
    """Writes moves one after the other; gives out letters and remembers where they stand."""

    def __init__(self, setup: Setup) -> None:
        self.setup = setup
        self.phase = ""
        self.moves: list[Move] = []
        self.places: dict[str, Vec2] = {}
        """Where every lettered point lies, in the writer's own coordinates."""
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
    ) -> None:
        """Add a move to the plan."""
        number = len(self.moves) + 1
        self.moves.append(
            Move(number, self.phase, verb, instrument, uses, makes, text, setting, angle, lift,
                 table, rest=rest, letters=letters)
        )  # fmt: skip

    def name_place(self, place: Vec2) -> str:
        """Give a place the next free letter; return it."""
        name = next(self._names)
        self.places[name] = place
        return name
