"""Practice on the desk: the exercise in hand, the ones made ahead, marks, and the record of it.

Exercises are made by a worker process of its own, so the job and its answers stay untouched. Which
one follows is known for either way that the present one may go, and both are made meanwhile.
"""

from __future__ import annotations

import random
import time
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from holoptic.catalogue import tr
from holoptic.checking.report import CheckReport
from holoptic.desk.look.settings import keep_setting, read_settings
from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.pasted import PastedPicture
from holoptic.desk.session.revisions import Revisions
from holoptic.desk.session.scanner import Scanner
from holoptic.devices.scanner import Glass
from holoptic.errors import BadInput
from holoptic.job import Job, pose
from holoptic.practice.exercise import Exercise, OnPaper
from holoptic.practice.marking import MOST_POINTS, Given, Marked, mark, points
from holoptic.practice.path import Attempt, Standing, as_if, next_up, standings
from holoptic.practice.skills import AT_THE_DESK, SKILLS
from holoptic.register.book import Register
from holoptic.register.entries import Practised

Wanted = tuple[str, int]
_LEARNER = "learner"
_SHEETS, _USUAL_LEVEL = "sheets", 2
_MARKING = "marking"
"""Asks how an exercise was drawn on paper."""
_GLASS_DPI = 200
_SEEDS = 1_000_000
_TRIES = 3
_LONGEST_S = 1800.0
"""Whoever takes longer has gone away meanwhile."""


class Practice(QObject):
    """Keeps one learner practising.

    Signals:
        changed: another exercise, a mark, a hint, or another learner.
        failed(words): something went wrong that the learner should know.
        sheets_made(exercises): the exercises of a worksheet are there.
    """

    changed = pyqtSignal()
    failed = pyqtSignal(str)
    sheets_made = pyqtSignal(object)

    def __init__(self, register: Register, note: Callable[[str, Callable[[], None]], None],
                 parent: QObject | None = None) -> None:  # fmt: skip
        """Make it; `note` writes into the register what waits under a key (`Logbook`)."""
        super().__init__(parent)
        self._register, self._note = register, note
        self._line = KernelLine(
            Revisions(), self,
            lost=lambda reason: tr("no exercise was made: {reason}", reason=reason),
        )  # fmt: skip
        self._line.answered.connect(self._take)
        self._line.failed.connect(self._give_up)
        self._dice = random.Random()
        self._ready: dict[Wanted, Exercise] = {}
        self._awaited: Wanted | None = None
        self._tries = 0
        self._begun = 0.0
        self.learner = str(read_settings().get(_LEARNER, ""))
        self.skill: str | None = None
        """The only skill that is practised, None: as it comes."""
        self.level: int | None = None
        self.attempts: list[Attempt] = []
        self.exercise: Exercise | None = None
        self.marked: Marked | None = None
        self.given: Given | None = None
        self.hints = 0
        self.is_shown = self.is_noted = False
        self.points = 0
        self.done = self.earned = 0
        self.trouble = ""
        self.is_marking = False
        """Whether the picture of a sheet is being looked at."""
        self._sheet_of: Exercise | None = None
        self._pasted = PastedPicture()
        self._on_glass = 0
        self.scanner = Scanner(self)
        self.scanner.arrived.connect(self.take_sheet)
        self.scanner.refused.connect(self.failed)
        self.scanner.changed.connect(self.changed)

    # --- who and what -----------------------------------------------------------------------

    @property
    def learners(self) -> list[str]:
        """Who practises on this machine, by name."""
        try:
            found = self._register.learners()
        except BadInput as error:
            self.trouble = str(error)
            return [self.learner]
        return found if self.learner in found else [self.learner, *found]

    def be(self, learner: str) -> None:
        """Go on as somebody else."""
        name = " ".join(learner.split())[:60]
        if name != self.learner:
            self.learner = name
            keep_setting(_LEARNER, name)
            self._ready.clear()
            self.load()
            self.go_on()

    def choose(self, skill: str | None, level: int | None) -> None:
        """Practise one skill only, or a level only; None: as it comes."""
        if (skill, level) != (self.skill, self.level):
            self.skill, self.level = skill, level
            self.go_on()

    def load(self) -> None:
        """Read the record of the learner."""
        self.trouble = ""
        try:
            kept = self._register.practised(self.learner)
        except BadInput as error:
            self.trouble, kept = str(error), []
        if self._register.unreadable:
            self.trouble = tr("{count} entries of the record cannot be read and are left out",
                              count=self._register.unreadable)  # fmt: skip
        self.attempts = [Attempt(one.skill, one.level, one.share, one.made) for one in kept]
        self.done = self.earned = 0

    def standings(self) -> dict[str, Standing]:
        """Return how the learner stands in each skill."""
        return standings(self.attempts, list(SKILLS))

    # --- one exercise after the other -------------------------------------------------------

    @property
    def is_waiting(self) -> bool:
        """Whether an exercise is being made that is waited for."""
        return self._awaited is not None

    @property
    def is_busy(self) -> bool:
        """Whether anything is being made that is needed now."""
        return self.is_waiting or self._line.is_busy or self.scanner.is_busy

    def go_on(self) -> None:
        """Go on to the next exercise."""
        wanted = self._wanted(self.attempts)
        self.exercise = self.marked = self.given = None
        self.hints, self.is_shown, self.is_noted, self.points = 0, False, False, 0
        self._awaited, self._tries = wanted, 0
        ready = self._ready.pop(wanted, None)
        if ready is not None:
            self._begin(ready)
        else:
            self._ask(wanted, ahead=False)
            self.changed.emit()

    def _wanted(self, attempts: list[Attempt]) -> Wanted:
        skill, level = next_up(attempts, list(AT_THE_DESK), datetime.now().astimezone())
        if self.skill is not None:
            skill = self.skill
            level = standings(attempts, [skill])[skill].level
        return skill, level if self.level is None else self.level

    def _ask(self, wanted: Wanted, *, ahead: bool) -> None:
        seed = self._dice.randrange(_SEEDS)
        purpose = f"{'ahead' if ahead else 'now'} {wanted[0]} {wanted[1]}"
        self._line.ask(purpose, "make_exercise", *wanted, seed, ahead=ahead)

    def make_sheets(self, count: int, seed: int) -> None:
        """Have the exercises of a worksheet made: of the skill and level chosen, or of all skills
        in turn and a low level.
        """
        skills = list(SKILLS) if self.skill is None else [self.skill]
        level = _USUAL_LEVEL if self.level is None else self.level
        self._line.ask(_SHEETS, "make_exercises", skills, level, count, seed)

    def _take(self, purpose: str, value: object) -> None:
        if purpose == _SHEETS:
            self.sheets_made.emit(value)
        elif purpose == _MARKING:
            self._take_report(value)
        elif isinstance(value, Exercise):
            self._take_exercise(purpose, value)

    def _take_exercise(self, purpose: str, exercise: Exercise) -> None:
        wanted = exercise.skill, exercise.level
        if wanted == self._awaited:
            self._begin(exercise)
        elif purpose.startswith("ahead"):
            self._ready[wanted] = exercise

    def _give_up(self, purpose: str, error: Exception) -> None:
        """Try another seed; an exercise that comes of none is not waited for any longer."""
        if purpose in (_SHEETS, _MARKING):
            self.is_marking = self.is_marking and purpose != _MARKING
            self.failed.emit(str(error))
            self.changed.emit()
            return
        if self._awaited is None or purpose.startswith("ahead"):
            return
        self._tries += 1
        if self._tries < _TRIES:
            self._ask(self._awaited, ahead=False)
        else:
            self._awaited = None
            self.failed.emit(str(error))
            self.changed.emit()

    def _begin(self, exercise: Exercise) -> None:
        self._awaited = None
        self.exercise = exercise
        self._begun = time.monotonic()
        self.changed.emit()
        self._make_ahead(exercise)

    def _make_ahead(self, exercise: Exercise) -> None:
        """Have made what follows if all goes well, and if it does not."""
        now = datetime.now().astimezone()
        for score in (1.0, 0.0):
            attempts = as_if(self.attempts, exercise.skill, exercise.level, score, now)
            wanted = self._wanted(attempts)
            if wanted not in self._ready:
                self._ask(wanted, ahead=True)

    # --- on paper ---------------------------------------------------------------------------

    @property
    def takes_sheet(self) -> bool:
        """Whether the exercise in hand is drawn on paper, and not done."""
        return (self.exercise is not None and not self.is_over
                and isinstance(self.exercise.asked, OnPaper))  # fmt: skip

    def take_sheet(self, path: Path) -> None:
        """Mark the exercise in hand by the picture of a sheet."""
        if self.takes_sheet and self.exercise is not None:
            self.is_marking, self._sheet_of = True, self.exercise
            self._line.ask(_MARKING, "mark_sheet", str(path), self.exercise.asked)
            self.changed.emit()

    def take_image(self, image: QImage) -> None:
        """Mark it by a picture that has no file. Raises BadInput for what is none."""
        self.take_sheet(self._pasted.keep(image))

    def scan(self) -> None:
        """Take the sheet on the scanner's glass, or stop that. The stand-in draws it as a hand
        does, and the first time forgets a line.
        """
        if self.scanner.is_busy:
            self.scanner.stop()
        elif self.takes_sheet and self.exercise is not None:
            asked = self.exercise.asked
            assert isinstance(asked, OnPaper)
            posed = pose(asked.part, asked.kind, asked.corner)
            job = Job(asked.part.name).with_added(asked.part, posed.figure)
            forgotten = ("s1",) if self.marked is None else ()
            self._on_glass += 1
            self.scanner.scan(job, Glass("", job.figures[0].id, left_out=forgotten, dpi=_GLASS_DPI,
                                         seed=self._on_glass))  # fmt: skip

    def _take_report(self, report: object) -> None:
        self.is_marking = False
        if self._sheet_of is self.exercise and isinstance(report, CheckReport):
            self.answer(report)
        else:
            self.changed.emit()

    # --- answering --------------------------------------------------------------------------

    def answer(self, given: Given) -> None:
        """Mark an answer; the first one counts most, one after the answer was shown nothing."""
        if self.exercise is None or self.is_shown:
            return
        again = self.marked is not None
        if again and self.marked is not None and self.marked.is_right:
            return
        self.given = given
        self.marked = mark(self.exercise, given)
        self.points = max(self.points, points(self.marked, self.hints, again=again))
        if self.marked.is_right:
            self._finish()
        self.changed.emit()

    def hint(self) -> None:
        """Give the next of three hints."""
        if self.exercise is not None and not self.is_over and self.hints < len(self.exercise.hints):
            self.hints += 1
            self.changed.emit()

    def show_answer(self) -> None:
        """Show the answer; the exercise is over then."""
        if self.exercise is not None and not self.is_over:
            self.is_shown = True
            self._finish()
            self.changed.emit()

    @property
    def is_over(self) -> bool:
        """Whether the exercise in hand is done."""
        return self.is_shown or (self.marked is not None and self.marked.is_right)

    def leave(self) -> None:
        """Go on from an exercise that was marked, though it is not all right; one that was never
        marked is only passed over.
        """
        if self.exercise is not None and self.marked is not None:
            self._finish()
        self.go_on()

    def _finish(self) -> None:
        """Note what came of the exercise in hand, once."""
        if self.is_noted or self.exercise is None:
            return
        self.is_noted = True
        one, now = self.exercise, datetime.now().astimezone()
        share = self.points / MOST_POINTS
        self.attempts.append(Attempt(one.skill, one.level, share, now))
        self.done += 1
        self.earned += self.points
        seconds = min(time.monotonic() - self._begun, _LONGEST_S)
        entry = Practised(self.learner, one.skill, one.level, one.seed, now, round(seconds, 1),
                          share, self.points, self.hints, self.is_shown)  # fmt: skip
        self._note(f"practised {now.isoformat()}", lambda: self._register.note_practised(entry))
        self._make_ahead(one)

    def close(self) -> None:
        """End the process that makes exercises, and the scanner's."""
        self._line.close()
        self.scanner.close()
        self._pasted.drop()
