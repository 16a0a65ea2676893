"""The control distances of a plan, all at once: typed or measured in any order."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QFrame, QGridLayout, QLabel, QWidget

from holoptic.catalogue import tr
from holoptic.checking.distances import Distance, distances_of, outcome_of
from holoptic.desk.look.theme import px
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.fields import LengthField
from holoptic.units import Length, show

_FIELD_WIDTH = 116


class DistancesPanel(QFrame):
    """A row for each control distance: what the rule should read, and what it does.

    Signals:
        changed: a reading was given or taken away.
    """

    changed = pyqtSignal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("card")
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(14, 8, 14, 8)
        self._grid.setHorizontalSpacing(12)
        self._grid.setVerticalSpacing(4)
        self.fields: dict[int, LengthField] = {}
        self._words: dict[int, tuple[QLabel, QLabel]] = {}
        self._shown: tuple[int, ...] = ()

    def begin(self) -> None:
        """Put the cursor into the first field that is empty."""
        empty = (field for field in self.fields.values() if not field.text())
        field = next(empty, next(iter(self.fields.values()), None))
        if field is not None:
            field.setFocus()
            field.selectAll()

    def refresh(self) -> None:
        """Show the distances of the plan in hand."""
        walk, unit = self.session.walk, self.session.document.unit
        moves = walk.plan.moves if walk.plan is not None else ()
        told = distances_of(moves, walk.readings)
        numbers = tuple(one.move for one in told)
        if numbers != self._shown:
            self._make_rows(told)
            self._shown = numbers
        for one in told:
            words, outcome = self._words[one.move]
            words.setText(
                tr("from {start} to {end} it should read {should} ± {allowed}", start=one.start,
                   end=one.end, should=show(one.should_mm, unit),
                   allowed=show(one.allowed_mm, unit))
            )  # fmt: skip
            field = self.fields[one.move]
            field.unit = unit
            mm = one.read_mm
            if not field.hasFocus():
                field.show_length(None if mm is None else Length(show(mm, unit), mm))
            outcome.setText(outcome_of(one, unit))
            self._dress(outcome, "" if one.agrees else "problem")

    def _dress(self, label: QLabel, name: str) -> None:
        """Give words another look."""
        style = label.style()
        if label.objectName() != name and style is not None:
            label.setObjectName(name)
            style.unpolish(label)  # a changed name only shows after a fresh polish
            style.polish(label)

    def _make_rows(self, told: tuple[Distance, ...]) -> None:
        while (item := self._grid.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.deleteLater()
        self.fields, self._words = {}, {}
        for row, one in enumerate(told):
            move = QLabel(tr("move {n}", n=one.move))
            move.setObjectName("quiet")
            words, outcome = QLabel(), QLabel()
            field = LengthField(tr("what the rule reads at move {n}", n=one.move))
            field.setPlaceholderText("")
            field.setFixedWidth(px(_FIELD_WIDTH))
            field.may_be_empty = True
            field.read.connect(lambda length, n=one.move: self._note(n, length.mm))
            field.emptied.connect(lambda n=one.move: self._note(n, None))
            field.returnPressed.connect(lambda n=one.move: self._next(n))
            for column, widget in enumerate((move, words, field, outcome)):
                self._grid.addWidget(widget, row, column)
            self.fields[one.move], self._words[one.move] = field, (words, outcome)
        self._grid.setColumnStretch(3, 1)

    def _note(self, number: int, mm: float | None) -> None:
        self.session.walk.note_reading(number, mm)
        self.refresh()
        self.changed.emit()

    def _next(self, number: int) -> None:
        """Go on to the field of the next distance; from the last one the keys are the page's."""
        numbers = list(self.fields)
        at = numbers.index(number) + 1
        target: QWidget | None = self.fields[numbers[at]] if at < len(numbers) else None
        if target is None:
            parent = self.parentWidget()
            if parent is not None:
                parent.setFocus()
        else:
            target.setFocus()
