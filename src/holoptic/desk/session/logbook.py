"""Keeping the register: what is drawn and checked on this desk is noted by itself.

What cannot be written at once, as another window writes, waits and is written with the next entry;
a register that cannot be used is told of once, and the work goes on.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from holoptic.catalogue import tr
from holoptic.checking.report import CheckReport
from holoptic.errors import BadInput
from holoptic.exchange.whereabouts import plan_mark
from holoptic.job import Orthographic
from holoptic.plan.words import way_title
from holoptic.register.book import Register
from holoptic.register.entries import CheckKept, Drawn, MoveTime, Subject, check_kept
from holoptic.register.schema import Damaged, Locked, set_register_aside
from holoptic.register.sources import uid_of_distances, uid_of_picture
from holoptic.sheet.papers import scale_words
from holoptic.worker.messages import Planned

if TYPE_CHECKING:
    from holoptic.desk.session.session import Session

_PATIENCE_S = 0.15
"""The window must not wait longer for another one that writes."""
_AGAIN_MS = 3000
WORTH_SECONDS = 30.0
"""Who has timed less has looked through a plan, and drawn nothing."""


class Logbook(QObject):
    """Notes in the register what this desk does.

    Signals:
        changed: something was noted, or forgotten.
    """

    changed = pyqtSignal()

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self._session = session
        self.register = Register(patience_s=_PATIENCE_S)
        self.is_shut = False
        """While it is nothing is noted: what is done in a tour is nobody's work."""
        self._waiting: dict[str, Callable[[], None]] = {}
        self._told: set[str] = set()
        self._noted: CheckKept | None = None
        self._seen: CheckReport | None = None
        self._again = QTimer(self)
        self._again.setSingleShot(True)
        self._again.setInterval(_AGAIN_MS)
        self._again.timeout.connect(self.write)
        session.walk.kept.connect(self._note_drawn)
        session.checks.changed.connect(self._note_check)

    # --- noting -----------------------------------------------------------------------------

    def _subject(self, planned: Planned) -> Subject:
        job = self._session.document.job
        try:
            title = job.title_of(job.figure(planned.figure).subject)
        except KeyError:  # an arrangement drawn apart has a figure of no sheet
            figure = self._session.document.figure
            title = job.title_of(figure.subject) if figure is not None else planned.figure
        return Subject(job.id, job.name, planned.figure, title, plan_mark(planned.plan))

    def _note_drawn(self) -> None:
        """Note how far the drawing in hand is, once it is worth it."""
        walk, planned = self._session.walk, self._session.answers.planned
        total = sum(walk.seconds.values())
        if planned is None or planned.plan is not walk.known_plan or total < WORTH_SECONDS:
            return
        drawn = self._drawn(planned, datetime.now().astimezone())
        key = f"drawn {drawn.subject.job} {drawn.subject.figure}"
        self._waiting[key] = lambda: self.register.note_drawn(drawn)
        self.write()

    def _drawn(self, planned: Planned, now: datetime) -> Drawn:
        document, walk = self._session.document, self._session.walk
        phases = {move.n: move.phase for move in planned.plan.moves}
        times = tuple(
            MoveTime(number, phases[number], round(seconds, 1))
            for number, seconds in sorted(walk.seconds.items()) if number in phases
        )  # fmt: skip
        figure, title, way = document.figure, document.title, planned.plan.way
        is_views = figure is not None and isinstance(figure.view, Orthographic)
        return Drawn(
            self._subject(planned), title.sheet if title else "", title.revision if title else "",
            "views" if is_views else (figure.kind if figure is not None else ""),
            way_title(way) if way is not None else "", planned.paper.title,
            scale_words(planned.layout.scale, planned.paper.series), now, now,
            len(planned.plan.moves), walk.at, times,
        )  # fmt: skip

    def _note_check(self) -> None:
        """Note what a check came to, once it is all known."""
        checks = self._session.checks
        report, planned = checks.report, checks.planned
        is_told = checks.is_explained or (checks.is_by_rule and bool(self._session.walk.readings))
        if report is None or planned is None or not is_told or report is self._seen:
            return
        self._seen = report
        now, subject = datetime.now().astimezone(), self._subject(planned)
        try:
            uid = (uid_of_distances(now.date(), subject) if checks.path is None
                   else uid_of_picture(checks.path, subject))  # fmt: skip
        except BadInput:
            return  # the picture has gone, and with it what it could be known by
        source = "distances" if checks.is_by_rule else "picture"
        unit = self._session.document.unit
        check = check_kept(uid, subject, now, source, report, unit)
        if self._noted is not None and _same(self._noted, check):
            return
        self._noted = check
        self._waiting[f"check {uid}"] = lambda: self.register.note_check(check)
        self.write()

    def note(self, key: str, run: Callable[[], None]) -> None:
        """Write an entry into the register as soon as that can be done."""
        self._waiting[key] = run
        self.write()

    def forget(self, subject: Subject | None) -> None:
        """Delete what is kept of a figure drawn by a plan; None: everything."""
        self._delete(lambda: self.register.forget(subject))

    def forget_learner(self, learner: str) -> None:
        """Delete what somebody practised."""
        self._delete(lambda: self.register.forget_learner(learner))

    def _delete(self, run: Callable[[], None]) -> None:
        try:
            run()
        except BadInput as error:
            self._session.told.emit(tr("Not deleted: {error}", error=error))
        self.changed.emit()

    # --- writing ----------------------------------------------------------------------------

    def write(self) -> None:
        """Write what waits; what another window keeps from being written waits on."""
        if self.is_shut:
            self._waiting.clear()
            return
        for key, run in list(self._waiting.items()):
            try:
                run()
            except Locked:
                self._again.start()
                return
            except Damaged:
                self._set_aside()
                return
            except BadInput as error:
                self._tell(error)
            del self._waiting[key]
            self.changed.emit()

    def _set_aside(self) -> None:
        """Give a damaged register another name, where it can be looked at, and begin a new one."""
        try:
            aside = set_register_aside(self.register.path)
        except BadInput as error:
            self._tell(error)
            self._waiting.clear()
            return
        self._session.told.emit(
            tr("The register was damaged: it is set aside as {name}, and a new one is begun.",
               name=aside.name)
        )  # fmt: skip
        self._again.start(0)

    def _tell(self, error: BadInput) -> None:
        """Say once why nothing is noted."""
        words = str(error)
        if words not in self._told:
            self._told.add(words)
            self._session.told.emit(tr("Nothing is noted in the register: {error}", error=error))

    def close(self) -> None:
        """Write what still waits."""
        self._again.stop()
        self.register = Register(self.register.path, patience_s=1.0)
        self.write()
        self._again.stop()


def _same(one: CheckKept, other: CheckKept) -> bool:
    """Say whether two checks say the same of the same sheet."""
    return (one.uid, one.deviations, one.causes, one.extra) == (
        other.uid, other.deviations, other.causes, other.extra,
    )  # fmt: skip
