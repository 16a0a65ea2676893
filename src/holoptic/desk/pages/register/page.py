"""Register: the list of drawings, time and error over time, one's own hand."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShortcut, QShowEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QFileDialog,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.checking.own_hand import OwnHand, own_hand
from holoptic.desk.pages.register.plots import NO_CHECKS, NO_TIMES, Mark, TimePlot
from holoptic.desk.pages.register.register_column import RegisterColumn
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.folders import keep_folder, last_folder
from holoptic.desk.widgets.key_line import KeyLine
from holoptic.desk.widgets.notice import Notice, sentence
from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.register.entries import CheckKept, Drawn, Subject
from holoptic.register.tables import checks_of, outcome, practice_csv, progress, register_csv

_KEYS = (
    ("↓ ↑", tr("drawings")),
    ("H", tr("reckon with your own hand")),
    ("T", tr("table (CSV)")),
    ("K", tr("take the register along")),
    (tr("Del"), tr("delete")),
    ("F1", tr("all keys")),
)
_HEADINGS = (tr("drawn"), tr("figure"), tr("kind, way"), tr("sheet"), tr("how far"),
             tr("checked"))  # fmt: skip
_STRETCHED = 2
_MOST_LEARNERS = 4


class _Row:
    """A row of the list: a drawing with its checks, or checks of what was not drawn here."""

    def __init__(self, drawn: Drawn | None, checks: Sequence[CheckKept]) -> None:
        self.drawn, self.checks = drawn, list(checks)

    @property
    def subject(self) -> Subject:
        """What it is about."""
        return self.drawn.subject if self.drawn is not None else self.checks[0].subject

    @property
    def cells(self) -> tuple[str, ...]:
        """The words in its columns."""
        one, check = self.drawn, self.checks[0] if self.checks else None
        when = one.ended if one is not None else self.checks[0].made
        kind = ", ".join(filter(None, (one.kind, one.way))) if one is not None else ""
        sheet = ""
        if one is not None:
            rev = tr("rev. {revision}", revision=one.revision) if one.revision else ""
            sheet = ", ".join(filter(None, (one.sheet, rev, one.paper)))
        return (
            f"{when:%Y-%m-%d %H:%M}", self.subject.title, kind, sheet,
            progress(one) if one is not None else "", outcome(check),
        )  # fmt: skip


class RegisterPage(QWidget):
    """The book of the work."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.logbook = session.logbook
        self.rows: list[_Row] = []
        self.own: OwnHand | None = None
        self._learners: list[str] = []
        self.question = Notice("question")
        self.table = self._make_table()
        self.empty = QLabel()
        self.empty.setWordWrap(True)
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.times = TimePlot(tr("minutes for a drawing; a cross: not finished yet"), NO_TIMES)
        self.errors = TimePlot(tr("mm off, rms of all strokes; a cross: the sheet deviates"),
                               NO_CHECKS)  # fmt: skip
        self.practised = TimePlot(tr("practice, points of 12; a cross: the answer was shown"), "")
        plots = QHBoxLayout()
        plots.setSpacing(8)
        plots.setContentsMargins(8, 8, 8, 8)
        plots.addWidget(self.times, 1)
        plots.addWidget(self.errors, 1)
        plots.addWidget(self.practised, 1)
        left = QVBoxLayout()
        left.setSpacing(0)
        left.addWidget(KeyLine(_KEYS))
        left.addWidget(self.question)
        left.addWidget(self.empty, 3)
        left.addWidget(self.table, 3)
        left.addLayout(plots, 2)
        self.column = RegisterColumn()
        self.hand_button = self.column.add_button(tr("Reckon with this hand (H)"), "take",
                                                  self.use_own_hand)  # fmt: skip
        self.column.layers.addStretch(1)
        self.table_button = self.column.add_button(tr("Table … (T)"), "export", self.save_table)
        self.practice_button = self.column.add_button(tr("Table of practice … (P)"), "export",
                                                      self.save_practice)  # fmt: skip
        self.along_button = self.column.add_button(tr("Take it along … (K)"), "save",
                                                   self.take_along)  # fmt: skip
        self.delete_button = self.column.add_button(tr("Delete … (Del)"), "remove", self.ask_delete)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addLayout(left, 1)
        layout.addWidget(self.column)
        self._connect()

    def _make_table(self) -> QTableWidget:
        table = QTableWidget(0, len(_HEADINGS))
        table.setHorizontalHeaderLabels(list(_HEADINGS))
        table.setAccessibleName(tr("drawing list"))
        table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        table.setShowGrid(False)
        table.setWordWrap(False)
        side, head = table.verticalHeader(), table.horizontalHeader()
        if side is not None and head is not None:
            side.hide()
            head.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
            head.setSectionResizeMode(_STRETCHED, QHeaderView.ResizeMode.Stretch)
            head.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft)
        return table

    def _connect(self) -> None:
        for key, run in (
            ("H", self.use_own_hand), ("T", self.save_table), ("P", self.save_practice),
            ("K", self.take_along),
            ("Del", self.ask_delete), ("Down", lambda: self._step(1)),
            ("Up", lambda: self._step(-1)),
        ):  # fmt: skip
            QShortcut(key, self).activated.connect(run)
        self.table.itemSelectionChanged.connect(self._show_row)
        self.logbook.changed.connect(self.refresh)
        self.session.ways.changed.connect(self._show_hand)

    # --- doing ------------------------------------------------------------------------------

    def use_own_hand(self) -> None:
        """Let the error budget reckon with one's own hand."""
        if self.own is not None and self.own.is_known:
            self.session.answers.draw_by(self.own.hand)
            self.session.told.emit(tr("Plans reckon with your own hand now (Draw, W)."))

    def save_table(self) -> None:
        """Ask where to write the register as CSV."""
        register = self.logbook.register
        self._save("register.csv", lambda: register_csv(register.drawings(), register.checks()))

    def save_practice(self) -> None:
        """Ask where to write what was practised as CSV."""
        self._save("practice.csv", lambda: practice_csv(self.logbook.register.practised()))

    def _save(self, usual: str, table: Callable[[], str]) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, tr("Save the table"), str(Path(last_folder(), usual)), tr("Tables (*.csv)")
        )
        if name:
            keep_folder(Path(name))
            self._trying(lambda: write_atomically(Path(name), table().encode()), Path(name).name)

    def take_along(self) -> None:
        """Ask where to copy the register to."""
        name, _ = QFileDialog.getSaveFileName(
            self, tr("Take the register along"),
            str(Path(last_folder(), "register-copy.sqlite")), tr("Registers (*.sqlite)")
        )  # fmt: skip
        if name:
            keep_folder(Path(name))
            self._trying(lambda: self.logbook.register.take_along(Path(name)), Path(name).name)

    def _trying(self, run: Callable[[], None], name: str) -> None:
        try:
            run()
        except BadInput as error:
            self.session.told.emit(tr("Not exported: {error}", error=error))
        else:
            self.session.told.emit(tr("Exported {name}", name=name))

    def ask_delete(self) -> None:
        """Ask what is to be deleted: it does not come back."""
        row = self._row()
        ways: dict[str, Callable[[], None]] = {}

        def offer(words: str, forget: Callable[[], None]) -> None:
            def run() -> None:
                self.question.quiet()
                forget()

            ways[words] = run

        if row is not None:
            subject = row.subject
            offer(tr("Delete {name}", name=subject.title), lambda: self.logbook.forget(subject))
        for learner in self._learners[:_MOST_LEARNERS]:
            words = (tr("Delete what {name} practised", name=learner) if learner
                     else tr("Delete what was practised without a name"))  # fmt: skip
            offer(words, lambda learner=learner: self.logbook.forget_learner(learner))  # type: ignore[misc]
        if not ways:
            return
        offer(tr("Delete everything"), lambda: self.logbook.forget(None))
        ways[tr("Keep it")] = self.question.quiet
        self.question.ask(tr("What is deleted from the register does not come back."), ways)

    def _step(self, way: int) -> None:
        if self.rows:
            at = (self.table.currentRow() + way) % len(self.rows)
            self.table.selectRow(at)

    # --- showing ----------------------------------------------------------------------------

    def showEvent(self, event: QShowEvent | None) -> None:
        """Read the register."""
        super().showEvent(event)
        self.refresh()

    def refresh(self) -> None:
        """Show the register as it stands."""
        if not self.isVisible():
            return
        self.session.walk.flush()
        before = self._row()
        trouble = ""
        try:
            register = self.logbook.register
            drawings, unreadable = register.drawings(), register.unreadable
            checks, unreadable = register.checks(), unreadable + register.unreadable
            if unreadable:
                trouble = tr("{count} entries of the record cannot be read and are left out",
                             count=unreadable)  # fmt: skip
            self.own = own_hand(self.logbook.register.hands())
        except BadInput as error:
            drawings, checks, self.own, trouble = [], [], None, str(error)
        self.rows = _rows(drawings, checks)
        self._fill_table()
        self.empty.setText(f"{sentence(trouble)}." if trouble else tr(
            "The register keeps itself: what is drawn with the space bar, and each sheet that is "
            "checked. It stays on this machine."))  # fmt: skip
        self.empty.setVisible(bool(trouble) or not self.rows)
        self.table.setVisible(bool(self.rows))
        for button in (self.table_button, self.along_button, self.delete_button):
            button.setEnabled(bool(self.rows))
        if self.rows:
            same = (k for k, row in enumerate(self.rows)
                    if before is not None and row.subject == before.subject)  # fmt: skip
            self.table.selectRow(next(same, 0))
        self._show_row()
        self._show_hand()
        self._show_practice()

    def _show_practice(self) -> None:
        """Show how practice went; without any there is no plot of it."""
        try:
            practised = self.logbook.register.practised()
        except BadInput:
            practised = []
        self.practised.setVisible(bool(practised))
        self._learners = list(dict.fromkeys(one.learner for one in reversed(practised)))
        for button in (self.along_button, self.delete_button):
            button.setEnabled(bool(self.rows or practised))
        self.practice_button.setVisible(bool(practised))
        self.practised.show_marks([
            Mark(one.made, float(one.points), not one.was_shown, False) for one in practised
        ])  # fmt: skip

    def _fill_table(self) -> None:
        self.table.blockSignals(True)
        self.table.setRowCount(len(self.rows))
        for number, row in enumerate(self.rows):
            for column, words in enumerate(row.cells):
                self.table.setItem(number, column, QTableWidgetItem(words))
        self.table.blockSignals(False)

    def _row(self) -> _Row | None:
        at = self.table.currentRow()
        return self.rows[at] if 0 <= at < len(self.rows) else None

    def _show_row(self) -> None:
        row = self._row()
        self.column.show_drawing(row.drawn if row else None, row.checks if row else ())
        drawings = [one for one in self.rows if one.drawn is not None]
        self.times.show_marks([
            Mark(one.drawn.ended, one.drawn.seconds / 60, one.drawn.done >= one.drawn.moves,
                 one is row)
            for one in drawings if one.drawn is not None
        ])  # fmt: skip
        self.errors.show_marks([
            Mark(check.made, check.rms_mm, check.agrees, one is row)
            for one in self.rows for check in one.checks
            if check.rms_mm is not None and check.source == "picture"
        ])  # fmt: skip

    def _show_hand(self) -> None:
        self.column.show_hand(self.own, self.session.ways.hand)
        is_new = (
            self.own is not None and self.own.is_known and self.own.hand != self.session.ways.hand
        )
        self.hand_button.setVisible(is_new)


def _rows(drawings: Sequence[Drawn], checks: Sequence[CheckKept]) -> list[_Row]:
    """Return the rows of the list, the newest first."""
    rows, told = [], set()
    for drawn in drawings:
        own = checks_of(drawn, checks) if drawn.subject not in told else []
        told.add(drawn.subject)
        rows.append(_Row(drawn, own))
    alone: dict[Subject, list[CheckKept]] = {}
    keys = {(one.job, one.figure, one.plan) for one in told}
    for check in checks:
        one = check.subject
        if (one.job, one.figure, one.plan) not in keys:
            alone.setdefault(one, []).append(check)
    return [*rows, *(_Row(None, own) for own in alone.values())]
