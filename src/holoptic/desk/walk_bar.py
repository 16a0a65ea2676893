"""The field in which an outline is walked: a step a line, with its help in view."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QFrame, QLabel, QLineEdit, QVBoxLayout, QWidget

from holoptic.errors import ExpressionError
from holoptic.part.walk import CLOSE, Walk
from holoptic.units import Unit

_HELP = (
    "r l u d 26.5  ·  r to L-12  ·  a 30 25  ·  go 40, 12\n"
    "a 150 meet  ·  close  ·  ⌫ one step back  ·  Esc ends\n"
    "behind a step: arc 21 left · arc bulge 8 right · arc smooth"
)
_ARROWS = {
    Qt.Key.Key_Right: "r ", Qt.Key.Key_Left: "l ", Qt.Key.Key_Up: "u ", Qt.Key.Key_Down: "d ",
}  # fmt: skip


class _StepField(QLineEdit):
    """A line whose arrow keys begin a step while it is empty, or its length can be typed at once.

    Signals:
        taken_back: Backspace was pressed in the empty field.
        left_off: Escape was pressed.
    """

    taken_back = pyqtSignal()
    left_off = pyqtSignal()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Begin a step by an arrow, take the last one back, or leave off."""
        if event is None:
            return
        key, text = event.key(), self.text()
        # an arrow begins a step, and corrects the way of one without a length yet
        if key in _ARROWS and (not text or text in _ARROWS.values()):
            self.setText(_ARROWS[Qt.Key(key)])
            self.textEdited.emit(self.text())
            return
        if key == Qt.Key.Key_Backspace and not text:
            self.taken_back.emit()
        elif key == Qt.Key.Key_Escape:
            self.left_off.emit()
        else:
            super().keyPressEvent(event)


class WalkBar(QFrame):
    """Reads steps; tells of the walk after each, and of the step being typed.

    Signals:
        walked(walk, ahead): the walk so far, and with the step being typed if it reads.
        closed(walk): the walk came back to its start.
        ended: it was left off.
    """

    walked = pyqtSignal(object, object)
    closed = pyqtSignal(object)
    ended = pyqtSignal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.walk = Walk()
        self._unit = Unit.MM
        self._names: Mapping[str, float] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 2, 0, 2)
        column.setSpacing(2)
        self.so_far = QLabel()
        self.so_far.setObjectName("quiet")
        self.so_far.setWordWrap(True)
        self.step = _StepField()
        self.step.setAccessibleName("next step of the outline")
        self.step.setPlaceholderText("next step: an arrow, then its length")
        self.step.textEdited.connect(self._typed)
        self.step.returnPressed.connect(self._take)
        self.step.taken_back.connect(self._back)
        self.step.left_off.connect(self.ended)
        self.problem = QLabel()
        self.problem.setObjectName("problem")
        self.problem.setWordWrap(True)
        self.help = QLabel(_HELP)
        self.help.setObjectName("quiet")
        for widget in (self.so_far, self.step, self.problem, self.help):
            column.addWidget(widget)
        self.hide()

    def begin(self, unit: Unit, names: Mapping[str, float]) -> None:
        """Begin a walk at the face's lower left corner."""
        self._unit, self._names, self.walk = unit, names, Walk()
        self.show()
        self.step.clear()
        self.step.setFocus()
        self._tell(None)

    def end(self) -> None:
        """Leave the walk."""
        self.hide()

    def go(self, place: QPointF) -> None:
        """Walk straight to a place that was clicked; a click on the start closes."""
        if len(self.walk.points) > 2 and self.walk.places[0] == (place.x(), place.y()):
            self._step(CLOSE)
        else:
            self.walk = self.walk.to((place.x(), place.y()), self._unit)
            self._tell(None)

    def _typed(self, text: str) -> None:
        ahead, trouble = None, ""
        if text.strip():
            try:
                ahead = self.walk.after(text, self._unit, self._names)
            except ExpressionError as error:
                trouble = str(error)
        self.problem.setText("")  # a step half typed is no mistake
        self.step.setToolTip(trouble)
        self._tell(ahead)

    def _take(self) -> None:
        self._step(self.step.text())

    def _step(self, text: str) -> None:
        try:
            self.walk = self.walk.after(text, self._unit, self._names)
        except ExpressionError as error:
            self.problem.setText(_under(text, error))
            self.problem.show()
            return
        self.step.clear()
        self.problem.setText("")
        self._tell(None)
        if self.walk.closed:
            self.closed.emit(self.walk)

    def _back(self) -> None:
        self.walk = self.walk.back()
        self._tell(None)

    def _tell(self, ahead: Walk | None) -> None:
        self.so_far.setText("  ·  ".join(self.walk.steps) or "begins at 0, 0 (or: at 12, 8)")
        self.problem.setVisible(bool(self.problem.text()))
        self.walked.emit(self.walk, ahead)


def _under(text: str, error: ExpressionError) -> str:
    """Return what is wrong, with what stands at the place of the trouble."""
    rest = text[error.column :].strip()
    return f"at “{rest}”: {error}" if rest and error.column else str(error)
