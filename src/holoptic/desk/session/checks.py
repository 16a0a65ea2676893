"""The drawn sheet laid beside the plan on the desk: what is off, and what caused it.

The check has a worker process of its own: while it looks for causes, the desk goes on answering.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from holoptic.catalogue import tr
from holoptic.checking.distances import decided
from holoptic.checking.report import CheckReport
from holoptic.curves.vectors import Vec2
from holoptic.desk.session.answers import Answers
from holoptic.desk.session.document import Document
from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.pasted import PastedPicture
from holoptic.desk.session.revisions import Revisions
from holoptic.desk.session.ways import Ways
from holoptic.errors import BadInput, KernelTrouble
from holoptic.foreign import require_readable
from holoptic.places import resolved
from holoptic.quoting import name_of
from holoptic.worker.messages import PictureShown, Planned, Progress, SheetFound

_COMPARE, _EXPLAIN, _SHOW, _WEIGH = "compare", "explain", "show", "weigh"


class Checks(QObject):
    """Has drawn sheets compared with the plan on the desk, and keeps what was found.

    Signals:
        changed: another sheet lies there, or more is known about it.
        progressed: another step of the work began.
    """

    changed = pyqtSignal()
    progressed = pyqtSignal()

    def __init__(
        self, document: Document, answers: Answers, ways: Ways, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._document, self._answers, self._ways = document, answers, ways
        self._revisions = Revisions()
        self._line = KernelLine(
            self._revisions, self,
            lost=lambda reason: tr("the sheet was not checked: {reason}", reason=reason),
        )  # fmt: skip
        self._number = 0
        self._about = self._revisions.note("sheet", self._number)
        self._corners: tuple[Vec2, ...] | None = None
        self._pasted = PastedPicture()
        self._waits = False
        self.path: Path | None = None
        self.name = ""
        self.is_by_rule = False
        """Whether control distances are weighed, and no picture."""
        self.planned: Planned | None = None
        """The plan that the sheet was laid beside."""
        self.found: SheetFound | None = None
        self.report: CheckReport | None = None
        self.is_explained = False
        self.cornerless: PictureShown | None = None
        """A picture in which no border was found: its corners are to be shown."""
        self.trouble = ""
        self.words = ""
        self._line.answered.connect(self._take)
        self._line.failed.connect(self._take_failure)
        self._line.told.connect(self._take_progress)
        answers.plan_changed.connect(self._go_on)
        answers.sheet_changed.connect(self._go_on)
        document.replaced.connect(self.put_away)

    # --- what is known ----------------------------------------------------------------------

    @property
    def is_busy(self) -> bool:
        """Whether a sheet is being compared, or waits for its plan."""
        return self._waits or self._line.is_busy

    @property
    def is_empty(self) -> bool:
        """Whether no sheet lies there."""
        return self.path is None and not self.is_by_rule

    @property
    def is_outdated(self) -> bool:
        """Whether the plan on the desk is another than the sheet was laid beside."""
        return self.report is not None and self.planned is not self._answers.planned

    # --- doing ------------------------------------------------------------------------------

    def make_ready(self) -> None:
        """Start the process that checks, before somebody has chosen a picture."""
        self._line.worker.start()

    def check(self, path: Path, name: str = "") -> None:
        """Lay the picture in a file beside the plan on the desk, once that is there.

        Raises BadInput for a file that cannot be read, and where nothing is planned.
        """
        if self._document.figure is None:
            raise BadInput(tr("put a part on the desk first: its plan is what a sheet is laid to"))
        require_readable(path)
        self.put_away()
        self.path, self.name = resolved(path), name or name_of(path)
        self._corners = None
        self._begin()

    def check_image(self, image: QImage) -> None:
        """Check a picture that was pasted or dropped. Raises BadInput as `check` does."""
        pasted = PastedPicture()
        path = pasted.keep(image)
        try:
            self.check(path, tr("pasted picture"))
        except BadInput:
            pasted.drop()
            raise
        self._pasted = pasted  # kept, so that it can be checked again

    def weigh(self, readings: Mapping[int, float]) -> None:
        """Have it told what control distances say that were read, by the number of their check."""
        planned = self._answers.planned
        if planned is None:
            return
        if not self.is_by_rule:
            self.put_away()
        self._begin_anew()
        self.is_by_rule, self.planned = True, planned
        self.name, self.trouble = tr("control distances"), ""
        if readings:
            self._line.ask(_WEIGH, "tell_distances", planned, self._ways.hand, dict(readings),
                           about=self._about)  # fmt: skip
        else:
            self.report = None
        self.changed.emit()

    def decide(self, read_mm: float) -> None:
        """Take what the rule reads over the one distance that decides between causes."""
        if self.report is not None and self.report.deciding is not None and self.planned:
            self.report = decided(self.report, read_mm, self.planned.plan.moves)
            self.changed.emit()

    def check_again(self) -> None:
        """Check the picture in hand anew, beside the plan as it is now."""
        if self.path is not None:
            self._begin()

    def use_corners(self, corners: Sequence[Vec2]) -> None:
        """Check the picture with the border's corners as they were shown (dots)."""
        self._corners = tuple(corners)
        self.check_again()

    def stop(self) -> None:
        """Stop the check that runs."""
        self._waits = False
        self._line.stop()
        self.changed.emit()

    def put_away(self) -> None:
        """Take the sheet off the desk."""
        self._drop_questions()
        self.path, self.name, self.planned, self._waits = None, "", None, False
        self.is_by_rule = False
        self._forget()
        self._pasted.drop()
        self.changed.emit()

    def close(self) -> None:
        """End the process."""
        self._line.close()
        self._pasted.drop()

    def _drop_questions(self) -> None:
        """Let nothing count any more that was asked; what runs long is not waited for."""
        self._begin_anew()
        self._line.forget_waiting()
        if self._line.is_busy:
            self._line.stop()

    def _begin_anew(self) -> None:
        """Let answers to what was asked so far count no more."""
        self._number += 1
        self._about = self._revisions.note("sheet", self._number)

    def _forget(self) -> None:
        self.found = self.report = self.cornerless = None
        self.is_explained = False
        self.trouble = self.words = ""

    def _begin(self) -> None:
        self._drop_questions()
        self._forget()
        self._waits = True
        self._go_on()
        self.changed.emit()

    def _go_on(self) -> None:
        """Compare the picture that waits, if the plan is there by now."""
        if self.is_outdated and not self._waits:
            self.changed.emit()
        if not self._waits:
            return
        planned, laid = self._answers.planned, self._answers.laid
        why = next((self._answers.failed[what] for what in ("sheet", "plan")
                    if what in self._answers.failed), "")  # fmt: skip
        if laid is not None and laid.misfit is not None:
            why = tr("the drawing has no room on its sheet")
        if why:
            self._waits = False
            self.trouble = tr("there is no plan to lay the sheet to: {why}", why=why)
            self.changed.emit()
        elif planned is not None:
            self._waits = False
            self.planned = planned
            self.words = tr("loading the picture")
            self._line.ask(_COMPARE, "compare_drawn", self._number, str(self.path), planned,
                           self._ways.hand, self._corners, about=self._about)  # fmt: skip

    # --- taking -----------------------------------------------------------------------------

    def _take(self, _: str, value: object) -> None:
        if self.is_empty:
            return  # put away meanwhile
        if isinstance(value, SheetFound):
            self.found, self.report = value, value.report
            self._line.ask(_EXPLAIN, "explain_drawn", self._number, about=self._about)
        elif isinstance(value, CheckReport):
            self.report, self.is_explained, self.words = value, True, ""
        elif isinstance(value, PictureShown):
            self.cornerless, self.words = value, ""
        self.changed.emit()

    def _take_failure(self, purpose: str, error: Exception) -> None:
        if self.is_empty:
            return
        self.trouble, self.words = str(error), ""
        if purpose == _COMPARE and not isinstance(error, KernelTrouble):
            self._line.ask(_SHOW, "show_picture", str(self.path), about=self._about)
        self.changed.emit()

    def _take_progress(self, progress: object) -> None:
        if isinstance(progress, Progress) and not self.is_empty:
            self.words = str(progress)
            self.progressed.emit()
