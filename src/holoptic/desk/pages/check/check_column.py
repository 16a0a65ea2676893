"""The column beside a checked sheet: what is off, what caused it, and what to do about it."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtWidgets import QListWidget, QListWidgetItem

from holoptic.catalogue import ntr, tr
from holoptic.checking.report import CheckReport
from holoptic.desk.look.theme import px
from holoptic.desk.pages.check.checked_sheet import Deviation
from holoptic.desk.pages.check.marks import mark_icon
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.column import Column
from holoptic.desk.widgets.fields import LengthField
from holoptic.desk.widgets.notice import sentence
from holoptic.units.spoken import said

_WIDTH = 316
_LEAST_LIST, _LEAST_CAUSES = 108, 96


class _List(QListWidget):
    """A list that asks for no more than a few rows, and takes what room there is."""

    def __init__(self, least: int) -> None:
        super().__init__()
        self._least = least
        self.setMinimumHeight(least)

    def sizeHint(self) -> QSize:
        """Return the room that it asks for."""
        return QSize(super().sizeHint().width(), self._least)


class CheckColumn(Column):
    """What a check has found, in lists, with the ways to go on.

    Signals:
        chosen(row): a deviation was chosen from the list.
        move_asked(number): a cause is to be looked at in Draw.
    """

    chosen = pyqtSignal(int)
    move_asked = pyqtSignal(int)

    def __init__(self, session: Session) -> None:
        super().__init__(_WIDTH)
        self.session = session
        self._shown: list[Deviation] = []
        self.title = self.label("heading")
        self.layers.addWidget(self.title)
        self.state = self.label()
        self.layers.addWidget(self.state)
        self.trouble = self.label("problem")
        self.layers.addWidget(self.trouble)
        self.off = self._list(tr("what is off, the worst first"), _LEAST_LIST)
        self.off.currentRowChanged.connect(self.chosen)
        self.off_title = self.label("quiet")
        self.layers.addSpacing(5)
        self.layers.addWidget(self.off_title)
        self.layers.addWidget(self.off)
        self.layers.setStretchFactor(self.off, 3)
        self.causes = self._list(tr("what may have caused it, the likeliest first"), _LEAST_CAUSES)
        self.causes.setToolTip(tr("A double click shows the move in Draw"))
        self.causes.itemActivated.connect(self._ask_move)
        self.add(tr("What may have caused it"), self.causes)
        self.layers.setStretchFactor(self.causes, 2)
        self.decides = self.label("next")
        self.layers.addWidget(self.decides)
        self.reading = LengthField(tr("what the rule reads there"))
        self.layers.addWidget(self.reading)
        self.again = self.label()
        self.layers.addWidget(self.again)

    def _list(self, name: str, least: int) -> QListWidget:
        made = _List(px(least))
        made.setAccessibleName(name)
        made.setWordWrap(True)
        return made

    def _ask_move(self, item: QListWidgetItem) -> None:
        number = item.data(Qt.ItemDataRole.UserRole)
        if number is not None:
            self.move_asked.emit(number)

    # --- showing ----------------------------------------------------------------------------

    def refresh(self, deviations: list[Deviation]) -> None:
        """Show what is known of the sheet in hand."""
        checks = self.session.checks
        report = checks.report
        self.title.setText(checks.name)
        self.title.setToolTip(str(checks.path or ""))
        self.trouble.setText(sentence(checks.trouble))
        self.trouble.setVisible(bool(checks.trouble))
        self.say_state()
        self.off_title.setText(
            tr("What will be off by the likeliest cause  (↓ ↑)") if checks.is_by_rule
            else tr("What is off, the worst first  (↓ ↑)")
        )  # fmt: skip
        self._show_rows(deviations)
        self._show_causes(report)
        decides = _deciding(report) if report is not None else ""
        self.decides.setText(decides)
        self.decides.setVisible(bool(decides))
        self.reading.unit = self.session.document.unit
        self.reading.setVisible(bool(decides))
        is_told = checks.is_explained or checks.is_by_rule
        again = self._again(report) if report is not None and is_told else ""
        self.again.setText(again)
        self.again.setVisible(bool(again))

    def say_state(self) -> None:
        """Say how far the check is, or what it came to."""
        checks = self.session.checks
        words = checks.words[:1].upper() + checks.words[1:]
        if checks.is_busy and not checks.words:
            words = tr("Waiting for the plan …")
        if checks.report is not None and not checks.words:
            words = _expected(checks.report) if checks.is_by_rule else _outcome(checks.report)
        if checks.is_outdated:
            words = tr("The plan is another now: C checks anew.")
        self.state.setText(words)
        self.state.setVisible(bool(words))

    def _show_rows(self, deviations: list[Deviation]) -> None:
        if deviations == self._shown:
            return
        self._shown = list(deviations)
        self.off.blockSignals(True)
        self.off.clear()
        for one in deviations:
            self.off.addItem(QListWidgetItem(mark_icon(one.sort), one.words))
        self.off.blockSignals(False)

    def _show_causes(self, report: CheckReport | None) -> None:
        unit = self.session.document.unit
        self.causes.clear()
        if report is None:
            return
        is_told = self.session.checks.is_explained or self.session.checks.is_by_rule
        if not is_told:
            self.causes.addItem(tr("It is being looked for …"))
        several = len({cause.group for cause in report.causes}) > 1
        for cause in sorted(report.causes, key=lambda cause: (cause.group, -cause.weight)):
            words = sentence(said(str(cause.story), unit))
            sure = f"{100 * cause.weight:.0f} %"
            if several:
                sure = tr("Slip {number}, {sure}", number=cause.group + 1, sure=sure)
            item = QListWidgetItem(f"{sure}: {words}")
            item.setData(Qt.ItemDataRole.UserRole, cause.move)
            self.causes.addItem(item)
        if is_told and not report.causes and not report.agrees:
            self.causes.addItem(tr("No single wrong setting explains it."))

    def _again(self, report: CheckReport) -> str:
        redraw = report.redraw
        if redraw is None or not redraw.moves:
            return ""
        rub_out = ntr("{count} stroke", "{count} strokes", len(redraw.rub_out))
        moves = ntr("{count} move", "{count} moves", len(redraw.moves))
        return tr("To put it right: rub out {strokes}, draw {moves} again.",
                  strokes=rub_out, moves=moves)  # fmt: skip


def _outcome(report: CheckReport) -> str:
    if report.agrees:
        return tr("The sheet agrees with its plan within tolerance.")
    wrong = ntr("{count} deviation", "{count} deviations",
                len(report.worst_first) + len(report.extra))  # fmt: skip
    if report.until is not None:
        return tr("Done up to move {n}; {wrong}, of what is not drawn yet too.", n=report.until,
                  wrong=wrong)  # fmt: skip
    return tr("{wrong} on {count} strokes.", wrong=wrong, count=len(report.strokes))


def _expected(report: CheckReport) -> str:
    count = len(report.worst_first)
    if not report.causes:
        return tr("What was read agrees with the plan within the spread of the hand.")
    return ntr("{count} stroke is expected to be off by the likeliest cause.",
               "{count} strokes are expected to be off by the likeliest cause.", count)  # fmt: skip


def _deciding(report: CheckReport) -> str:
    one = report.deciding
    if one is None:
        return ""
    return tr("Measure from {start} to {end} to decide: {first} mm after move {n}, {second} mm "
              "after move {m}.", start=one.start, end=one.end, first=f"{one.readings[0]:.1f}",
              second=f"{one.readings[1]:.1f}", n=one.moves[0], m=one.moves[1])  # fmt: skip
