"""Fields that read lengths as people write them."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QPoint, pyqtSignal
from PyQt6.QtGui import QFocusEvent
from PyQt6.QtWidgets import QLineEdit, QToolTip, QWidget

from holoptic.desk.notice import sentence
from holoptic.errors import ExpressionError
from holoptic.units import Length, Unit, show


class LengthField(QLineEdit):
    """A field for a length: `18+26.5`, `3 1/8"`, `L-12`.

    Signals:
        read(length): the text was typed and reads as a length.
        refused(reason): the text was typed and does not.
        left: the field was left; the next typing is another edit.
        emptied: its text was taken away, where that means something (`may_be_empty`).
    """

    read = pyqtSignal(object)
    refused = pyqtSignal(str)
    left = pyqtSignal()
    emptied = pyqtSignal()

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(name)
        self.may_be_empty = False
        self.unit = Unit.MM
        self.names: Mapping[str, float] = {}
        self.setPlaceholderText(name)
        self.textEdited.connect(self._read)

    def show_length(self, length: Length | None) -> None:
        """Show a length in its own words, unless the user is typing here."""
        if self.hasFocus() and self.property("bad"):
            return
        text = length.text if length else ""
        if text != self.text():
            self.setText(text)
        self._mark(None)
        self.setToolTip(
            f"= {show(length.mm, self.unit)} {self.unit.label}" if length and length.is_sum
            else "takes sums and fractions, and L, D, H of the crate"
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
            self._mark(None)
            self.emptied.emit()
            return
        try:
            length = Length.read(text, self.unit, self.names)
        except ExpressionError as error:
            self._mark(str(error))
            self._explain(error)
            self.refused.emit(f"{sentence(str(error))} (column {error.column + 1})")
            return
        self._mark(None)
        self.setToolTip(f"= {show(length.mm, self.unit)} {self.unit.label}")
        self.read.emit(length)

    def _explain(self, error: ExpressionError) -> None:
        """Say what is wrong right under the place where it is."""
        if self.hasFocus():
            under = self.cursorRect().bottomLeft()
            metrics = self.fontMetrics()
            back = metrics.horizontalAdvance(self.text()[error.column : self.cursorPosition()])
            place = self.mapToGlobal(QPoint(under.x() - back, under.y() + 4))
            QToolTip.showText(place, f"⌃ {sentence(str(error))}", self)

    def _mark(self, reason: str | None) -> None:
        if bool(self.property("bad")) == (reason is not None):
            return
        self.setProperty("bad", reason is not None)
        style = self.style()
        if style is not None:  # a changed property only shows after a fresh polish
            style.unpolish(self)
            style.polish(self)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        """End the edit."""
        super().focusOutEvent(event)
        self.left.emit()
