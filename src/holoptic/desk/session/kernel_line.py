"""The window's line to the worker: questions by purpose, answers as signals, never waiting.

One question runs at a time; what is worked out ahead comes last. Of those that wait, only the
newest of each purpose is kept, and an answer that a newer question has overtaken is dropped. A
question carries the revision of what it is about; once that is another, the question is not asked
any more, and its answer is dropped.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from PyQt6 import sip
from PyQt6.QtCore import QObject, QSocketNotifier, QTimer, pyqtSignal

from holoptic.catalogue import tr
from holoptic.desk.session.revisions import Revision, Revisions
from holoptic.errors import KernelTrouble
from holoptic.worker.client import Worker
from holoptic.worker.messages import Progress

LONGEST_WORK_MS = 60_000
_KEPT = ("open", "solid", "drawing", "spread")


@dataclass(frozen=True)
class _Question:
    purpose: str
    task: str
    arguments: tuple[Any, ...]
    about: Revision | None
    ahead: bool = False


class KernelLine(QObject):
    """Asks the worker and tells of its answers.

    Signals:
        answered(purpose, value): the answer to the newest question of a purpose.
        failed(purpose, error): the same, where the task raised or the worker died.
        outdated(purpose): the question came to nothing, as what it was about is another now.
        busy_changed(working): whether anything is being worked out.
        told(progress): how far the running question is.
    """

    answered = pyqtSignal(str, object)
    failed = pyqtSignal(str, object)
    outdated = pyqtSignal(str)
    busy_changed = pyqtSignal(bool)
    told = pyqtSignal(object)

    def __init__(
        self, revisions: Revisions, parent: QObject | None = None,
        lost: Callable[[str], str] = lambda reason: tr("the solid was not worked out: {reason}",
                                                       reason=reason),
    ) -> None:  # fmt: skip
        """Make a line; `lost` says for a reason that a question came to nothing."""
        super().__init__(parent)
        self._lost = lost
        self._revisions = revisions
        self.worker = Worker(on_progress=self._pass_on)
        self._running: tuple[int, _Question] | None = None
        self._waiting: dict[str, _Question] = {}
        self._notifier: QSocketNotifier | None = None
        self._watch = QTimer(self)
        self._watch.setSingleShot(True)
        self._watch.timeout.connect(self._give_up)

    @property
    def is_busy(self) -> bool:
        """Whether a question runs or waits that somebody needs."""
        if self._running is not None and not self._running[1].ahead:
            return True
        return any(not question.ahead for question in self._waiting.values())

    def is_asked(self, purpose: str) -> bool:
        """Whether a question of a purpose runs or waits.

        Who asks again and again, as a slider does that is dragged, waits for the answer: each newer
        question would overtake the one before, and nothing be seen until the hand rests.
        """
        running = self._running is not None and self._running[1].purpose == purpose
        return running or purpose in self._waiting

    def ask(
        self, purpose: str, task: str, *arguments: Any, about: Revision | None = None,
        ahead: bool = False,
    ) -> None:  # fmt: skip
        """Ask a question about a revision; an older one of the same purpose is forgotten.

        `ahead`: nobody needs the answer yet, so that it is asked after all others.
        """
        was_busy = self.is_busy
        self._waiting[purpose] = _Question(purpose, task, arguments, about, ahead)
        if not was_busy and not ahead:
            self.busy_changed.emit(True)
        self._next()

    def forget_waiting(self) -> None:
        """Forget the questions that wait, except those about files and arrangements, which say
        themselves what they are about.
        """
        self._waiting = {key: item for key, item in self._waiting.items() if key.startswith(_KEPT)}

    def stop(self) -> None:
        """Stop what is being worked out; the worker starts afresh with the next question."""
        self._give_up(tr("the work was stopped"))

    def close(self) -> None:
        """End the worker for good."""
        self._drop_line()
        self._running, self._waiting = None, {}

    def _next(self) -> None:
        if self._running is not None or not self._waiting:
            return
        needed = (purpose for purpose, one in self._waiting.items() if not one.ahead)
        question = self._waiting.pop(next(needed, next(iter(self._waiting))))
        if not self._revisions.is_current(question.about):
            self._settle(question, None)
            return
        try:
            number = self.worker.send(question.task, *question.arguments)
        except KernelTrouble as error:
            self._drop_line()
            self._settle(question, error)
            return
        self._running = number, question
        self._listen()
        self._watch.start(LONGEST_WORK_MS)

    def _listen(self) -> None:
        if self._notifier is None:
            kind = QSocketNotifier.Type.Read
            self._notifier = QSocketNotifier(sip.voidptr(self.worker.fileno()), kind, self)
            self._notifier.activated.connect(self._receive)

    def _receive(self) -> None:
        try:
            answer = self.worker.receive()
        except Exception as error:  # an answer that cannot be unpacked is no answer either
            self._drop_line()
            if self._running is not None:
                known = isinstance(error, KernelTrouble)
                trouble = (
                    error
                    if known
                    else KernelTrouble(tr("the answer was unreadable: {error}", error=error))
                )
                self._settle(self._running[1], trouble)
            return
        if answer is None or self._running is None or answer.id != self._running[0]:
            return
        self._settle(self._running[1], answer.error, answer.value)

    def _settle(self, question: _Question, error: Exception | None, value: object = None) -> None:
        """Pass on the outcome of a question unless a newer one of its purpose waits."""
        self._running = None
        self._watch.stop()
        overtaken = question.purpose in self._waiting
        self._next()
        if not overtaken:
            if not self._revisions.is_current(question.about):
                self.outdated.emit(question.purpose)
            elif error is not None:
                self.failed.emit(question.purpose, error)
            else:
                self.answered.emit(question.purpose, value)
        if not self.is_busy and not question.ahead:
            self.busy_changed.emit(False)

    def _pass_on(self, progress: Progress) -> None:
        # a worker that tells of its work is not hanging
        if self._running is not None:
            self._watch.start(LONGEST_WORK_MS)
            self.told.emit(progress)

    def _give_up(self, reason: str = "") -> None:
        if self._running is None:
            return
        question = self._running[1]
        self._drop_line()
        reason = reason or tr("no answer after {seconds} s", seconds=LONGEST_WORK_MS // 1000)
        self._settle(question, KernelTrouble(self._lost(reason)))

    def _drop_line(self) -> None:
        self._watch.stop()
        if self._notifier is not None:
            self._notifier.setEnabled(False)
            self._notifier.deleteLater()
            self._notifier = None
        self.worker.stop()
