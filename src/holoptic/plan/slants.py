"""Lines at any angle: by a square that has it, along an earlier line, or through two points."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Protocol

from holoptic.catalogue import Saying, later, mark, sentences, tr
from holoptic.plan.instruments import RULE, SLIDING, STRAIGHTEDGE, T_SQUARE, square_for
from holoptic.plan.moves import Verb
from holoptic.units.spoken import on_rule

_BASE_MM = 80.0
"""How far the second point of a slanting line is set off: far enough to be sure of the angle."""

_HELPING_NAMES = (
    mark("slant level {count}"), mark("slant mark {count}"), mark("slant upright {count}"),
    mark("slant end {count}"),
)  # fmt: skip


class Writer(Protocol):
    """What writes a move into the plan."""

    def __call__(  # noqa: D102 - the class says it
        self, verb: Verb, instrument: str, uses: tuple[str, ...], makes: tuple[str, ...],
        text: Saying, *, setting: float | None = None, angle: float | None = None,
    ) -> None: ...  # fmt: skip


class Slants:
    """Draws lines at an angle; remembers which directions are on the paper."""

    def __init__(
        self, write: Writer, tell: Callable[[str, Saying], None],
        standing: Callable[[str, float], str | None],
    ) -> None:  # fmt: skip
        """Take what writes moves, what says the words for a line, and what finds the line that
        runs through a letter in a direction.
        """
        self._write, self._tell, self._standing = write, tell, standing
        self._drawn: dict[float, str] = {}
        self._count = 0

    def draw(
        self, point: str, angle: float, name: str, text: Saying,
        told: Callable[[str], Saying], back: bool = False,
    ) -> None:  # fmt: skip
        """Draw the line `name` through a point at an angle (degrees); `text` is a whole sentence.

        `told` says by which words a line is found on the paper. `back` says that the drawing lies
        behind the point: there a second point is looked for.
        """
        square = square_for(angle)
        turn = _turn(angle)
        if square is not None:
            self._write("draw", square, (point,), (name,), text, angle=angle)
        elif turn in self._drawn:
            along = self._drawn[turn]
            self._write(
                "parallel",
                SLIDING,
                (point, along),
                (name,),
                sentences(text, later("It is parallel to {along}.", along=told(along))),
                angle=angle,
            )
        elif _turn(angle + 90) in self._drawn:
            along = self._drawn[_turn(angle + 90)]
            self._write(
                "square",
                SLIDING,
                (point, along),
                (name,),
                sentences(text, later("It is square to {along}.", along=told(along))),
                angle=angle,
            )
        else:
            self._through_two_points(point, angle, name, text, back)
        self._drawn.setdefault(turn, name)

    def _through_two_points(
        self, point: str, angle: float, name: str, text: Saying, back: bool
    ) -> None:
        """Set off a run and a rise with the rule, and join."""
        self._count += 1
        level, mark, upright, end = (tr(what, count=self._count) for what in _HELPING_NAMES)
        run, rise = run_and_rise(angle + 180 if back else angle)
        across, up = on_rule(abs(run)), on_rule(abs(rise))
        standing = self._standing(point, 0.0)
        if standing is None:
            self._write("draw", T_SQUARE, (point,), (level,),
                        later("No square has the angle of the next line: to find it by two "
                              "points, draw a light level line through {point}.", point=point),
                        angle=0.0)  # fmt: skip
            self._tell(level, later("the level line through {middle}", middle=point))
        words = (
            later("Along the level line through {point} set off {size} to the right: a mark.",
                  size=across, point=point)
            if run > 0
            else later("Along the level line through {point} set off {size} to the left: a mark.",
                       size=across, point=point)
        )  # fmt: skip
        why = later("No square has the angle of the next line: it is found by two points.")
        self._write("set off", RULE, (point, standing or level), (mark,),
                    words if standing is None else sentences(why, words),
                    setting=abs(run), angle=0.0 if run > 0 else 180.0)  # fmt: skip
        self._write("draw", square_for(90.0) or "", (mark,), (upright,),
                    later("Through the mark draw a light upright."), angle=90.0)  # fmt: skip
        self._write(
            "set off",
            RULE,
            (mark, upright),
            (end,),
            (
                later(
                    "From the mark set off {size} upward, along the upright: the second mark.",
                    size=up,
                )
                if rise > 0
                else later(
                    "From the mark set off {size} downward, along the upright: the second mark.",
                    size=up,
                )
            ),
            setting=abs(rise),
            angle=90.0 if rise > 0 else -90.0,
        )
        # a line runs from the first point joined to the second, whichever was there before
        ends = (end, point) if back else (point, end)
        self._write(
            "join",
            STRAIGHTEDGE,
            ends,
            (name,),
            sentences(text, later("It joins {point} with the second mark.", point=point)),
            angle=angle,
        )


def run_and_rise(angle: float) -> tuple[float, float]:
    """Return how far a line at an angle (degrees) goes across and up, mm; the longer is round."""
    across, up = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    size = _BASE_MM / max(abs(across), abs(up))
    return size * across, size * up


def _turn(angle: float) -> float:
    turn = round(angle % 180, 5)
    return 0.0 if turn == 180.0 else turn
