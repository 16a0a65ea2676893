"""The field in which an outline is walked: a step a line, with its help in view."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PyQt6.QtCore import QEvent, QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QFrame, QLabel, QLineEdit, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.errors import ExpressionError
from holoptic.part.walk import CLOSE, Walk
from holoptic.regional import in_lists
from holoptic.tolerance import COINCIDENT_MM
from holoptic.units import Length, Unit

_HELP = tr(
    "r l u d 26.5  ·  r to L-12  ·  → → on to what is there\na 30 "
    "25  ·  a 150 meet  ·  go 40, 12  ·  close  ·  circle 9\n⌫ one "
    "step back  ·  Esc ends\nbehind a step: arc 21 left · arc bulge "
    "8 right · arc smooth"
)
_ARROWS = {
    Qt.Key.Key_Right: "r ", Qt.Key.Key_Left: "l ", Qt.Key.Key_Up: "u ", Qt.Key.Key_Down: "d ",
}  # fmt: skip


_OWN_KEYS = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Backspace, Qt.Key.Key_Escape)


class _StepField(QLineEdit):
    """A line whose arrow keys begin a step while it is empty, or its length can be typed at once.

    Signals:
        taken_back: Backspace was pressed in the empty field.
        left_off: Escape was pressed.
        went_on(way): an arrow was pressed again: on to the next place that way.
    """

    taken_back = pyqtSignal()
    left_off = pyqtSignal()
    went_on = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.commands: dict[str, Callable[[], None]] = {}

    def event(self, event: QEvent | None) -> bool:
        """Keep the keys that end, drop and take back steps from the shortcuts of the page."""
        asked = isinstance(event, QKeyEvent) and event.type() == QEvent.Type.ShortcutOverride
        if isinstance(event, QKeyEvent) and asked and event.key() in _OWN_KEYS:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Begin a step by an arrow, take the last one back, or leave off."""
        if event is None:
            return
        key, text = event.key(), self.text()
        if not text and event.text() in self.commands:
            self.commands[event.text()]()
            return
        begun = next((words for arrow, words in _ARROWS.items() if arrow == key), "?")
        if text == begun or text.startswith(f"{begun}to "):
            self.went_on.emit(begun.strip())  # the same arrow once more
            return
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
        closed(walk): the walk came back to its start, or ended open where it may.
        ended: it was left off.
        ran_out: a step was to be taken back where there is none.
    """

    walked = pyqtSignal(object, object)
    closed = pyqtSignal(object)
    ended = pyqtSignal()
    ran_out = pyqtSignal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.walk = Walk()
        self.may_stay_open = False
        self.offers: Callable[[], tuple[list[Length], list[Length]]] = lambda: ([], [])
        self._unit = Unit.MM
        self._names: Mapping[str, float] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 2, 0, 2)
        column.setSpacing(2)
        self.so_far = QLabel()
        self.so_far.setObjectName("quiet")
        self.so_far.setWordWrap(True)
        self.step = _StepField()
        self.step.setAccessibleName(tr("next step of the outline"))
        self.step.setPlaceholderText(tr("next step: an arrow, then its length"))
        self.step.textEdited.connect(self._typed)
        self.step.returnPressed.connect(self._take)
        self.step.taken_back.connect(self._back)
        self.step.left_off.connect(self.ended)
        self.step.went_on.connect(self._go_on)
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

    def use(self, unit: Unit, names: Mapping[str, float]) -> None:
        """Read the steps to come in a unit, and with names."""
        self._unit, self._names = unit, names

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
        ahead, trouble, text = None, "", in_lists(text)
        if text.strip():
            try:
                ahead = self.walk.after(text, self._unit, self._names)
            except ExpressionError as error:
                trouble = str(error)
        self.problem.setText("")  # a step half typed is no mistake
        self.step.setToolTip(trouble)
        self._tell(ahead)

    def _take(self) -> None:
        text = self.step.text()
        if not text.strip() and self.may_stay_open:
            if len(self.walk.points) > 1:
                self.closed.emit(self.walk)
            return
        self._step(text)

    def _go_on(self, way: str) -> None:
        """Put the next offered place that way into the field, from there the one after it."""
        which, sign = (0 if way in "rl" else 1), (1 if way in "ru" else -1)
        text = in_lists(self.step.text())
        try:
            here = self.walk.after(text, self._unit, self._names).places[-1][which]
        except ExpressionError:  # only the arrow stands there
            here = self.walk.places[-1][which]
        ahead = [one for one in self.offers()[which] if (one.mm - here) * sign > COINCIDENT_MM]
        if ahead:
            nearest = min(ahead, key=lambda one: one.mm * sign)
            words = f"{way} to {nearest.text}"  # a step as it is typed, in every language
            self.step.setText(words)
            self.step.textEdited.emit(self.step.text())

    def _step(self, text: str) -> None:
        try:
            self.walk = self.walk.after(in_lists(text), self._unit, self._names)
        except ExpressionError as error:
            self.problem.setText(_under(text, error))
            self.problem.show()
            return
        self.step.clear()
        self.problem.setText("")
        self._tell(None)
        if self.walk.closed:
            self.closed.emit(self.walk)

    def resume(self, walk: Walk) -> None:
        """Go on with a walk that was ended."""
        self.walk = walk.back() if walk.closed else walk
        self.step.setFocus()
        self._tell(None)

    def _back(self) -> None:
        if not self.walk.steps:
            self.ran_out.emit()
            return
        self.walk = self.walk.back()
        self._tell(None)

    def _tell(self, ahead: Walk | None) -> None:
        self.so_far.setText("  ·  ".join(self.walk.steps) or tr("begins at 0, 0 (or: at 12, 8)"))
        self.problem.setVisible(bool(self.problem.text()))
        self.walked.emit(self.walk, ahead)


def _under(text: str, error: ExpressionError) -> str:
    """Return what is wrong, with what stands at the place of the trouble."""
    rest = text[error.column :].strip()
    return (
        tr("at “{left}”: {error}", left=rest, error=error) if rest and error.column else str(error)
    )
