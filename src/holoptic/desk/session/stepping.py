"""Walking through a plan: which move is next, playing, picking out moves, the time they take."""

from __future__ import annotations

import time
from collections.abc import Callable, Collection
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from holoptic.exchange.whereabouts import Whereabouts, keep_whereabouts, read_whereabouts
from holoptic.plan import Move, Plan
from holoptic.plan.joining import joined, standing_with
from holoptic.plan.showing import FILTERS, Filter, next_passing

if TYPE_CHECKING:
    from holoptic.desk.session.session import Session

PACES_S = (0.3, 0.6, 1.2, 2.5, 5.0, 10.0, 20.0)
"""Seconds for a move while the plan plays."""
_USUAL_PACE = 2
_LONGEST_MOVE_S = 900.0
"""Somebody who takes longer went away from the board."""
_KEEP_AFTER_MS = 400


class Stepping(QObject):
    """The place in the plan of the part on the desk; remembered for each part of each job.

    Signals:
        moved: another move is next, or the plan is another, or what is picked out.
        kept: the place and the times of the moves were kept.
    """

    moved = pyqtSignal()
    kept = pyqtSignal()

    def __init__(self, session: Session, clock: Callable[[], float] = time.monotonic) -> None:
        super().__init__(session)
        self._session = session
        self._clock = clock
        self._since = clock()
        self._key: tuple[str, str] | None = None
        self._plan: Plan | None = None
        self._joined: Plan | None = None
        self.skipped: frozenset[int] = frozenset()
        """The places of moves that are not done, as what they serve stands already."""
        self._where = Whereabouts()
        self._is_new = False
        self._pace = _USUAL_PACE
        self.chosen: Filter = "all"
        self._player = QTimer(self)
        self._player.timeout.connect(self._play_on)
        self._keeper = QTimer(self)
        self._keeper.setSingleShot(True)
        self._keeper.timeout.connect(self.flush)

    # --- where --------------------------------------------------------------------------------

    @property
    def plan(self) -> Plan | None:
        """The plan that is walked through, in words that hold where some of it stands."""
        return self._joined

    @property
    def known_plan(self) -> Plan | None:
        """The plan as the worker made it."""
        return self._plan

    @property
    def at(self) -> int:
        """How many moves are done."""
        return self._where.at

    @property
    def move(self) -> Move | None:
        """The move that is next, None at the end."""
        plan = self._joined
        return plan.moves[self.at] if plan is not None and self.at < len(plan.moves) else None

    @property
    def seconds(self) -> dict[int, float]:
        """The seconds that moves took, by their number."""
        return self._where.seconds

    @property
    def readings(self) -> dict[int, float]:
        """What rules read at check moves, mm, by the number of the move."""
        return self._where.readings

    def note_reading(self, number: int, mm: float | None) -> None:
        """Note what a rule read at the check of a number; None: it was not read."""
        if self._plan is None:
            return
        self._where.readings.pop(number, None)
        if mm is not None:
            self._where.readings[number] = mm
        self._is_new = True
        self._keeper.start(_KEEP_AFTER_MS)
        self.moved.emit()

    def follow(self) -> None:
        """Take the plan on the desk; go on where it was left."""
        made = self._session.answers.planned
        if made is None:
            self.flush()
            self._plan = self._joined = None
            self.skipped = frozenset()
            self.stop()
        elif made.plan is not self._plan:
            self.flush()
            self._key = self._session.document.job.id, made.figure
            self._plan = made.plan
            self._where = read_whereabouts(*self._key, made.plan)
            self._joined, self.skipped = joined(made.plan, self._where.stands)
            self._since = self._clock()

    def flush(self) -> None:
        """Keep the place on disk, if it has changed."""
        self._keeper.stop()
        if self._is_new and self._key is not None and self._plan is not None:
            self._is_new = False
            keep_whereabouts(*self._key, self._plan, self._where)
            self.kept.emit()

    # --- steps --------------------------------------------------------------------------------

    def go_to(self, at: int) -> None:
        """Let `at` moves be done."""
        if self._plan is None:
            return
        self._where.at = max(0, min(at, len(self._plan.moves)))
        self._since = self._clock()
        self._is_new = True
        self._keeper.start(_KEEP_AFTER_MS)
        if self.at == len(self._plan.moves):
            self.stop()
        self.moved.emit()

    def go_to_move(self, number: int) -> None:
        """Let the move of a number be the next."""
        if self._plan is not None:
            self.go_to(sum(move.n < number for move in self._plan.moves))

    def step(self, way: int) -> None:
        """Draw the next move (1), which is timed, or take the last one up again (−1)."""
        if self._plan is None:
            return
        move, taken = self.move, self._clock() - self._since
        if way > 0 and move is not None and not self.is_playing and taken < _LONGEST_MOVE_S:
            self._where.seconds[move.n] = taken
        at = next_passing(self._plan, self.at, way, self.chosen)
        while at in self.skipped and at > 0:
            at = next_passing(self._plan, at, way, self.chosen)
        self.go_to(at)

    # --- what stands already --------------------------------------------------------------------

    @property
    def stands(self) -> frozenset[str]:
        """The names of what stands on the paper without the plan."""
        return frozenset(self._where.stands)

    @property
    def standing_strokes(self) -> frozenset[str]:
        """Those of them that are strokes of the drawing: border and title block come with them."""
        moves = self._plan.moves if self._plan is not None else ()
        firm = {move.makes[0] for move in moves if move.verb == "firm in" and move.phase != "sheet"}
        return frozenset(firm & self._where.stands)

    def toggle_stroke(self, stroke: str) -> None:
        """Say that a stroke stands already, or that it does not."""
        if self._plan is None:
            return
        strokes = set(self.standing_strokes)
        others = self._where.stands - standing_with(self._plan, strokes)
        strokes ^= {stroke}
        self._stand(others | standing_with(self._plan, strokes))

    def do_otherwise(self) -> None:
        """Take what the next move makes as done in another way, and go on."""
        if self._plan is not None and self.move is not None:
            at, names = self.at, set(self.move.makes)
            self._stand(self._where.stands | names)
            self.go_on(at + 1)

    def redo(self, numbers: Collection[int]) -> None:
        """Step through the moves of some numbers alone: all that other moves make stands."""
        if self._plan is not None:
            again = {name for move in self._plan.moves if move.n in numbers for name in move.makes}
            made = {name for move in self._plan.moves for name in move.makes}
            self._stand(made - again)
            first = (k for k, move in enumerate(self._plan.moves) if move.n in numbers)
            self.go_on(next(first, 0))  # checks of what stands are no part of it

    def go_on_after(self, number: int) -> None:
        """Take all moves up to that of a number as done, and go on there."""
        if self._plan is not None:
            self._stand(set())
            self.go_to(sum(move.n <= number for move in self._plan.moves))

    def go_on(self, at: int) -> None:
        """Go to the first move from `at` on that is still to be done."""
        if self._plan is not None:
            ahead = (k for k in range(at, len(self._plan.moves)) if k not in self.skipped)
            self.go_to(next(ahead, len(self._plan.moves)))

    def _stand(self, names: set[str]) -> None:
        if self._plan is not None:
            self._where.stands = set(names)
            self._joined, self.skipped = joined(self._plan, names)
            self._is_new = True
            self._keeper.start(_KEEP_AFTER_MS)
            self.moved.emit()

    def step_phase(self, way: int) -> None:
        """Go to the next phase, or to the start of this or the one before."""
        if self._plan is None:
            return
        starts = [first for _, first, _ in self._plan.phases] + [len(self._plan.moves)]
        beyond = [s for s in starts if (s > self.at if way > 0 else s < self.at)]
        if beyond:
            self.go_to(min(beyond) if way > 0 else max(beyond))

    def next_filter(self) -> None:
        """Pick out another sort of moves: steps go from one of them to the next."""
        names = list(FILTERS)
        self.chosen = names[(names.index(self.chosen) + 1) % len(names)]
        self.moved.emit()

    # --- playing ------------------------------------------------------------------------------

    @property
    def is_playing(self) -> bool:
        """Whether moves follow each other by themselves."""
        return self._player.isActive()

    @property
    def pace(self) -> float:
        """Seconds for a move while the plan plays."""
        return PACES_S[self._pace]

    def toggle_play(self) -> None:
        """Start or stop playing; from the end it begins anew."""
        if self.is_playing:
            self.stop()
        elif self._plan is not None:
            if self.at == len(self._plan.moves):
                self.go_to(0)
            self._player.start(round(1000 * self.pace))
        self.moved.emit()

    def stop(self) -> None:
        """Stop playing."""
        self._player.stop()

    def change_pace(self, way: int) -> None:
        """Play faster (1) or slower (−1)."""
        self._pace = max(0, min(self._pace - way, len(PACES_S) - 1))
        if self.is_playing:
            self._player.start(round(1000 * self.pace))
        self.moved.emit()

    def _play_on(self) -> None:
        self.step(1)
