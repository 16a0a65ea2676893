"""Fields that read what people write: lengths, angles, corners, names."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QFocusEvent, QHideEvent
from PyQt6.QtWidgets import QLineEdit, QWidget

from holoptic.catalogue import tr
from holoptic.desk.widgets.caret_slip import slip_in
from holoptic.desk.widgets.notice import sentence
from holoptic.errors import ExpressionError
from holoptic.regional import with_mark
from holoptic.units import Length, Unit, show

_LARGEST_TURN = 360.0


class ReadField(QLineEdit):
    """A field that says under its caret what it cannot read, as long as that is true.

    Signals:
        left: the field was left; the next typing is another edit.
    """

    left = pyqtSignal()

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(name)
        self.trouble = ""
        """Why the text cannot be used; empty where it can."""

    def setText(self, words: str | None) -> None:
        """Show other words: their beginning where they are long, unless the cursor is in them."""
        if words == self.text():
            return
        super().setText(words)
        if not self.hasFocus():
            self.setCursorPosition(0)

    def refuse(self, reason: str, column: int | None = None) -> None:
        """Mark the text as one that cannot be used, and say why under the column."""
        self.trouble = reason
        self._mark(bad=True)
        self.setToolTip(sentence(reason))
        self.setAccessibleDescription(reason)
        if self.hasFocus():
            at = len(self.text()) if column is None else min(column, len(self.text()))
            slip_in(self.window() or self).point_at(self, at, sentence(reason))

    def accept(self) -> None:
        """Take mark and slip away: the text can be used."""
        self.trouble = ""
        self._mark(bad=False)
        self.setAccessibleDescription("")
        self._take_slip_away()

    def _take_slip_away(self) -> None:
        slip = slip_in(self.window() or self)
        if slip.field is self:
            slip.hide()

    def _mark(self, bad: bool) -> None:
        if bool(self.property("bad")) == bad:
            return
        self.setProperty("bad", bad)
        style = self.style()
        if style is not None:  # a changed property only shows after a fresh polish
            style.unpolish(self)
            style.polish(self)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        """End the edit."""
        super().focusOutEvent(event)
        self._take_slip_away()
        self.left.emit()

    def hideEvent(self, event: QHideEvent | None) -> None:
        """Take the slip along."""
        super().hideEvent(event)
        self._take_slip_away()


class LengthField(ReadField):
    """A field for a length: `18+26.5`, `3 1/8"`, `L-12`.

    Left with a text that does not read, it shows the last length again.

    Signals:
        read(length): the text was typed and reads as a length.
        emptied: its text was taken away, where that means something (`may_be_empty`).
    """

    read = pyqtSignal(object)
    emptied = pyqtSignal()

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(name, parent)
        self.may_be_empty = False
        self.unit = Unit.MM
        self.names: Mapping[str, float] = {}
        self._shown: Length | None = None
        self.setPlaceholderText(name)
        self.textEdited.connect(self._read)

    def show_length(self, length: Length | None) -> None:
        """Show a length in its own words, unless the user is typing here."""
        self._shown = length
        if self.hasFocus() and self.trouble:
            return
        text = length.shown if length else ""
        # what is being typed stays in the typist's own marks
        if text != self.text() and not (self.hasFocus() and _same(text, self.text())):
            self.setText(text)
        self.accept()
        self.setToolTip(
            f"= {show(length.mm, self.unit)} {self.unit.label}" if length and length.is_sum
            else tr("takes sums and fractions, and L, D, H of the crate")
        )  # fmt: skip

    @property
    def value_mm(self) -> float | None:
        """What stands in the field, mm; None where it is empty or does not read."""
        try:
            return Length.read(self.text(), self.unit, self.names).mm
        except ExpressionError:
            return None

    def fill(self, words: str) -> None:
        """Put words into the field as if they had been typed."""
        self.setText(words)
        self._read(words)
        self.selectAll()

    def _read(self, text: str) -> None:
        if self.may_be_empty and not text.strip():
            self.accept()
            self.emptied.emit()
            return
        try:
            length = Length.read(text, self.unit, self.names)
        except ExpressionError as error:
            self.refuse(str(error), error.column)
            return
        self.accept()
        self.setToolTip(f"= {show(length.mm, self.unit)} {self.unit.label}")
        self.read.emit(length)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        """End the edit; the field tells the truth again."""
        super().focusOutEvent(event)
        if self.trouble:
            self.accept()
            self.show_length(self._shown)


def _same(one: str, other: str) -> bool:
    return one.replace(",", ".") == other.strip().replace(",", ".")


class AngleField(ReadField):
    """A field for an angle in degrees.

    Signals:
        read(angle): the text was typed and reads as an angle; None where it may be empty and is.
    """

    read = pyqtSignal(object)

    def __init__(self, name: str, may_be_empty: bool = False) -> None:
        super().__init__(name)
        self._may_be_empty = may_be_empty
        self._shown: float | None = None
        self.textEdited.connect(self._read)

    def show_angle(self, angle: float | None) -> None:
        """Show an angle, unless the user is typing here."""
        self._shown = angle
        if not self.hasFocus():
            self.setText("" if angle is None else with_mark(f"{angle:g}"))
            self.accept()

    def _read(self, text: str) -> None:
        words = text.strip().removesuffix("°")
        if not words and self._may_be_empty:
            self.accept()
            self.read.emit(None)
            return
        try:
            value = float(words.replace(",", "."))
        except ValueError:
            self.refuse(tr("an angle is a figure in degrees, such as 30"))
            return
        if not -_LARGEST_TURN <= value <= _LARGEST_TURN:
            self.refuse(tr("an angle lies between -360° and 360°"))
            return
        self.accept()
        self.read.emit(value)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        """End the edit; the field tells the truth again."""
        super().focusOutEvent(event)
        if self.trouble:
            self.show_angle(self._shown)
