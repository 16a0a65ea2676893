"""Check: a picture of the drawn sheet, what is off on it, which move caused it, what to redraw."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QGuiApplication, QImage, QShortcut, QShowEvent
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QStackedWidget, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.desk.pages.check.check_column import CheckColumn
from holoptic.desk.pages.check.check_invitation import CheckInvitation
from holoptic.desk.pages.check.checked_sheet import CheckedSheet, Deviation, deviations_of
from holoptic.desk.pages.check.distances_panel import DistancesPanel
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.caliper_line import CaliperLine
from holoptic.desk.widgets.folders import PICTURES, file_name, keep_folder, last_folder
from holoptic.desk.widgets.key_line import KeyLine
from holoptic.errors import BadInput
from holoptic.exchange.check_files import write_check
from holoptic.plan.words import stroke_names
from holoptic.sheet.frames import frame_of

_KEYS = (
    ("↓ ↑", tr("deviations")),
    ("M", tr("magnifier")),
    (tr("space"), tr("as it should be")),
    ("R", tr("redraw")),
    ("G", tr("go on drawing")),
    ("C", tr("check anew")),
    ("T", tr("report")),
    ("X", tr("put away")),
    ("F1", tr("all keys")),
)
_STATES = {
    "missing": tr("missing"), "shifted": tr("shifted by"), "short": tr("too short by"),
    "long": tr("too long by"), "light": tr("too light"), "there": "",
}  # fmt: skip


class CheckPage(QWidget):
    """The sheet under its planned strokes, and what was found.

    Signals:
        redraw_asked: Draw is to step through what is to be drawn again.
        going_on_asked(number): Draw is to go on after the move of a number.
        move_asked(number): Draw is to show the move of a number.
    """

    redraw_asked = pyqtSignal()
    going_on_asked = pyqtSignal(int)
    move_asked = pyqtSignal(int)

    def __init__(self, session: Session, caliper: CaliperLine) -> None:
        super().__init__()
        self.session = session
        self.checks = session.checks
        self.sheet = CheckedSheet()
        self.keys = KeyLine(_KEYS)
        self.distances = DistancesPanel(session)
        caliper.take_keys(self)
        self.invitation = CheckInvitation(session, self.ask_file, self.paste,
                                          self.weigh_distances)  # fmt: skip
        checked = QWidget()
        left = QVBoxLayout(checked)
        left.setContentsMargins(0, 0, 0, 0)
        left.setSpacing(0)
        left.addWidget(self.keys)
        left.addWidget(self.distances)
        left.addWidget(self.sheet, 1)
        self.stack = QStackedWidget()
        self.stack.addWidget(self.invitation)
        self.stack.addWidget(checked)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.stack, 1)
        self.column = self._make_column()
        layout.addWidget(self.column)
        self.deviations: list[Deviation] = []
        self._connect()

    def _make_column(self) -> CheckColumn:
        column = CheckColumn(self.session)
        column.chosen.connect(self._light)
        column.move_asked.connect(self.move_asked)
        self.redraw_button = column.add_button(tr("Draw that again, move by move (R)"), "mend",
                                               self.redraw)  # fmt: skip
        self.go_on_button = column.add_button(tr("Go on drawing there (G)"), "pencil",
                                              self.go_on)  # fmt: skip
        self.stop_button = column.add_button(tr("Stop (Esc)"), "remove", self.checks.stop)
        self.report_button = column.add_button(tr("Report … (T)"), "export", self.save_report)
        self.away_button = column.add_button(tr("Put the sheet away (X)"), "back",
                                             self.checks.put_away)  # fmt: skip
        return column

    def _connect(self) -> None:
        for key, run in (
            ("O", self.ask_file), ("Ctrl+V", self.paste), ("C", self.checks.check_again),
            ("1", self.invitation.take_demo), ("S", self.scan),
            ("D", self.weigh_distances), ("M", self.toggle_magnifier),
            ("Space", self.toggle_plan), ("R", self.redraw), ("G", self.go_on),
            ("T", self.save_report), ("X", self.checks.put_away), ("Esc", self._stop),
            ("Down", lambda: self._step(1)), ("Up", lambda: self._step(-1)),
        ):  # fmt: skip
            shortcut = QShortcut(key, self)
            shortcut.activated.connect(run)
        self.sheet.picked.connect(self._pick)
        self.sheet.corner_shown.connect(self._take_corner)
        self.checks.changed.connect(self.refresh)
        self.session.scanner.arrived.connect(self._take_scan)
        self.checks.progressed.connect(self.column.say_state)
        self.session.answers.plan_changed.connect(self.refresh)
        self.session.document.changed.connect(self.refresh)
        self.distances.changed.connect(lambda: self.checks.weigh(self.session.walk.readings))
        self.column.reading.returnPressed.connect(self._decide)
        self._corners: list[tuple[float, float]] = []

    # --- doing ------------------------------------------------------------------------------

    def ask_file(self) -> None:
        """Ask for a picture of the sheet and check it."""
        name, _ = QFileDialog.getOpenFileName(self, tr("Picture of the drawn sheet"),
                                              last_folder(), PICTURES)  # fmt: skip
        if name:
            keep_folder(Path(name))
            self.check(Path(name))

    def check(self, path: Path) -> None:
        """Check the picture in a file."""
        self._trying(lambda: self.checks.check(path))

    def check_image(self, image: QImage) -> None:
        """Check a picture that has no file."""
        self._trying(lambda: self.checks.check_image(image))

    def scan(self) -> None:
        """Take the page on the scanner's glass, or stop that."""
        if self.is_empty:
            self.invitation.scanner.toggle()

    def paste(self) -> None:
        """Check the picture that was copied elsewhere, or the file."""
        clipboard = QGuiApplication.clipboard()
        data = clipboard.mimeData() if clipboard is not None else None
        if clipboard is None or data is None:
            return
        files = [url.toLocalFile() for url in data.urls() if url.isLocalFile()]
        if files:
            self.check(Path(files[0]))
        elif data.hasImage():
            self.check_image(clipboard.image())
        else:
            self.session.told.emit(tr("There is no picture to paste: copy one first."))

    def weigh_distances(self) -> None:
        """Take the control distances in hand: what the rule reads is typed or measured."""
        if self.session.answers.planned is None:
            self.session.told.emit(tr("The plan is still being worked out."))
            return
        self.session.walk.follow()
        self.checks.weigh(self.session.walk.readings)
        self.distances.refresh()
        self.distances.begin()

    def _decide(self) -> None:
        """Take what was read over the distance that decides."""
        mm = self.column.reading.value_mm
        if mm is not None:
            self.setFocus()
            self.column.reading.clear()
            self.checks.decide(mm)

    def _take_scan(self, path: Path) -> None:
        """Check the page that a scanner took."""
        self._trying(lambda: self.checks.check(path, tr("page from the scanner")))

    def _trying(self, run: Callable[[], None]) -> None:
        try:
            run()
        except BadInput as error:
            words = str(error)
            self.session.told.emit(f"{words[:1].upper()}{words[1:]}.")

    def toggle_magnifier(self) -> None:
        """Take the magnifier in hand, or put it away."""
        self.sheet.magnifies = not self.sheet.magnifies
        self.sheet.update()
        self._say_state()

    def toggle_plan(self) -> None:
        """Show the sheet as it should be, or again as it is drawn."""
        self.sheet.shows_plan = not self.sheet.shows_plan
        self.sheet.update()
        self._say_state()

    def redraw(self) -> None:
        """Have Draw step through what is to be drawn again."""
        if self.redraw_button.isVisible():
            self.redraw_asked.emit()

    def go_on(self) -> None:
        """Have Draw go on after the last move that is done."""
        report = self.checks.report
        if report is not None and report.until is not None:
            self.going_on_asked.emit(report.until)

    def save_report(self) -> None:
        """Ask where to write what was found."""
        report = self.checks.report
        if report is None:
            return
        job = self.session.document.job
        proposed = str(Path(last_folder(), f"{file_name(job.name)} check.pdf"))
        name, _ = QFileDialog.getSaveFileName(self, tr("Save the report"), proposed,
                                              tr("Reports (*.pdf *.json)"))  # fmt: skip
        if not name:
            return
        keep_folder(Path(name))
        try:
            write_check(Path(name), report, self.session.document.unit, job.name, replace=True)
        except BadInput as error:
            self.session.told.emit(tr("Not exported: {error}", error=error))
        else:
            self.session.told.emit(tr("Exported {name}", name=Path(name).name))

    def _stop(self) -> None:
        if self.checks.is_busy:
            self.checks.stop()
        else:
            self.column.off.setCurrentRow(-1)
            self.sheet.light(None)

    def _take_corner(self, place: tuple[float, float]) -> None:
        """Note a corner that was shown; with the last of them the check begins anew."""
        self._corners.append(place)
        if self.sheet.asks_corners:
            self._say_state()
            return
        corners, self._corners = self._corners, []
        self.checks.use_corners(corners)

    def _step(self, way: int) -> None:
        count = len(self.deviations)
        if count:
            row = self.column.off.currentRow()
            at = (row + way) % count if row >= 0 else (0 if way > 0 else count - 1)
            self.column.off.setCurrentRow(at)

    def _pick(self, key: int | None) -> None:
        if key is not None and key < len(self.deviations):
            self.column.off.setCurrentRow(key)

    def _light(self, row: int) -> None:
        self.sheet.light(self.deviations[row] if 0 <= row < len(self.deviations) else None)

    # --- showing ----------------------------------------------------------------------------

    def showEvent(self, event: QShowEvent | None) -> None:
        """Show the sheet, and let the process that checks begin to start."""
        super().showEvent(event)
        self.checks.make_ready()
        self.refresh()

    @property
    def is_empty(self) -> bool:
        """Whether no sheet lies there."""
        return self.checks.is_empty

    def refresh(self) -> None:
        """Show the sheet and what was found."""
        if not self.isVisible():
            return
        checks = self.checks
        self.stack.setCurrentIndex(0 if self.is_empty else 1)
        self.column.setVisible(not self.is_empty)
        if self.is_empty:
            self.invitation.refresh()
            return
        report = checks.report
        deviations = self._deviations()
        if deviations != self.deviations:
            self.deviations = deviations
            self.sheet.lit = None
        self.distances.setVisible(checks.is_by_rule)
        if checks.is_by_rule:
            self.session.walk.follow()
            self.distances.refresh()
        if checks.found is not None and report is not None:
            self.sheet.show_sheet(checks.found, report, self.deviations)
        elif checks.is_by_rule and report is not None and checks.planned is not None:
            self.sheet.show_plan(frame_of(checks.planned.paper).inner, report, self.deviations)
        elif checks.cornerless is not None:
            if not self.sheet.asks_corners:
                self._corners = []
            self.sheet.ask_corners(checks.cornerless)
        else:
            self.sheet.show_none(self._why_empty())
        self.column.refresh(self.deviations)
        self._show_buttons()
        self._say_state()

    def _why_empty(self) -> str:
        if self.checks.is_by_rule:
            return tr("Lay the rule across the sheet and type what it reads, in any order.")
        return "" if self.checks.is_busy else tr("Nothing could be compared.")

    def _deviations(self) -> list[Deviation]:
        report, planned = self.checks.report, self.checks.planned
        if report is None or planned is None:
            return []
        return deviations_of(report, _STATES, stroke_names(planned.plan))

    def _show_buttons(self) -> None:
        checks = self.checks
        is_told = checks.is_explained or checks.is_by_rule
        report = checks.report if is_told and not checks.is_outdated else None
        redraw = report.redraw if report is not None and report.until is None else None
        self.redraw_button.setVisible(redraw is not None and bool(redraw.moves))
        self.go_on_button.setVisible(report is not None and report.until is not None)
        self.stop_button.setVisible(checks.is_busy)
        self.report_button.setVisible(checks.is_explained)

    def _say_state(self) -> None:
        words = []
        if self.sheet.asks_corners and self.checks.cornerless is not None:
            words.append(tr("click the border's corner: {corner}", corner=self.sheet.next_corner))
        if self.sheet.shows_plan:
            words.append(tr("as it should be"))
        if self.sheet.magnifies:
            words.append(tr("magnifier"))
        self.keys.show_state(" · ".join(words))
