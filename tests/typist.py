"""Builds a part in the window as a person with a keyboard alone would; counts the keys pressed."""

from __future__ import annotations

from itertools import pairwise

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QPushButton, QWidget

from holoptic.desk.application.window import DeskWindow
from holoptic.desk.widgets.menus import with_mnemonics
from holoptic.part import Ball, Corner, Operation, Part, Polygon, Prism, Pyramid, Ring, Round
from holoptic.part.outline_text import outline_text
from holoptic.part.starters import SHAPES

Key = Qt.Key
ALT, CTRL, SHIFT = (
    Qt.KeyboardModifier.AltModifier,
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
)
_MOST_TABS = 60


def _is_wayland() -> bool:
    return QApplication.platformName() == "wayland"


def name_of(widget: QWidget | None) -> str:
    """What a screen reader would call a widget."""
    if isinstance(widget, QPushButton) and not widget.accessibleName():
        return widget.text()
    return widget.accessibleName() if widget is not None else ""


class Typist:
    """Presses keys in whatever has the focus."""

    def __init__(self, window: DeskWindow) -> None:
        self.window = window
        self.presses = 0

    def press(self, key: Qt.Key, modifier=Qt.KeyboardModifier.NoModifier) -> None:
        """Press one key, in an open menu if there is one."""
        target = QApplication.activePopupWidget() or QApplication.focusWidget() or self.window
        QTest.keyClick(target, key, modifier)
        QApplication.processEvents()  # a person is slower than the window
        self.presses += 1

    def type(self, text: str) -> None:
        """Type over what stands in the field: all of it is selected when one comes to it."""
        field = QApplication.focusWidget()
        if field.selectedText() != field.text():
            self.press(Key.Key_A, CTRL)
        QTest.keyClicks(field, text)
        self.presses += len(text)

    def go_to(self, name: str) -> None:
        """Go to a widget by Tab."""
        for _ in range(_MOST_TABS):
            if name_of(QApplication.focusWidget()) == name:
                return
            self.press(Key.Key_Tab)
        raise LookupError(f"Tab does not lead to “{name}”")

    def fill(self, name: str, text: str) -> None:
        """Go to a field and type it, unless it says so already."""
        self.go_to(name)
        if QApplication.focusWidget().text() != text:
            self.type(text)

    def choose(self, name: str, word: str) -> None:
        """Go to a list of choices and take one by the arrow keys."""
        self.go_to(name)
        box = QApplication.focusWidget()
        way = box.findText(word) - box.currentIndex()
        for _ in range(abs(way)):
            self.press(Key.Key_Down if way > 0 else Key.Key_Up)
        assert box.currentText() == word

    # --- a part -------------------------------------------------------------------------------

    def build(self, part: Part) -> None:
        """Describe a part from an empty desk on, the cursor in the length."""
        crate = part.crate
        for length in (crate.length, crate.depth, crate.height):
            QTest.keyClicks(QApplication.focusWidget(), length.text)
            self.presses += len(length.text)
            self.press(Key.Key_Return if length is crate.height else Key.Key_Tab)
        if part.begin == "empty":
            self.press(Key.Key_Down)  # what the operations begin from is asked next
        for operation in part.operations:
            self._operation(operation)

    def _operation(self, operation: Operation) -> None:
        self._begin(operation)
        self.type(operation.name)
        mode = self.window.session.document.part.operations[
            self.window.session.document.operation_index
        ].mode
        if mode != operation.mode:
            self.go_to(operation.mode)
            self.press(Key.Key_Space)
        self.choose("crate face", operation.face.value)
        if isinstance(operation, Prism):
            self._outline(operation)
        else:
            self._sizes(operation)
            self._centre(operation)
        self._depths(operation)

    def _begin(self, operation: Operation) -> None:
        if isinstance(operation, Prism):
            self.press(Key.Key_C if operation.mode == "cut" else Key.Key_A, ALT)
        elif isinstance(operation, Round) and operation.end_diameter is None:
            self.press(Key.Key_H if operation.mode == "cut" else Key.Key_B, ALT)
        else:
            shapes = {
                Round: "cone",
                Polygon: "polygon",
                Pyramid: "pyramid",
                Ball: "ball",
                Ring: "ring",
            }
            self.press(Key.Key_M, ALT)
            title = with_mnemonics(list(SHAPES.values()))[
                list(SHAPES).index(shapes[type(operation)])
            ]
            letter = title[title.index("&") + 1]
            if QApplication.activePopupWidget() is None and _is_wayland():
                self._take_from_menu(title)
            else:
                self.press(getattr(Key, f"Key_{letter.upper()}"))

    def _take_from_menu(self, title: str) -> None:
        """Take what a letter would: such a display closes menus that no real key has opened."""
        menus = (button.menu() for button in self.window.findChildren(QPushButton))
        actions = (action for menu in menus if menu is not None for action in menu.actions())
        next(action for action in actions if action.text().startswith(title)).trigger()
        QApplication.processEvents()
        self.presses += 1

    def _outline(self, prism: Prism) -> None:
        """Walk an outline of steps along the axes, write any other as text."""
        corners = [point for point in prism.outline if isinstance(point, Corner) and not point.arc]
        level = len(corners) == len(prism.outline) and all(
            (a.u.mm == b.u.mm) != (a.v.mm == b.v.mm)
            for a, b in zip(corners, corners[1:] + corners[:1], strict=True)
        )
        if not level:
            self.fill("corners of the outline", outline_text(prism.outline))
            return
        self.press(Key.Key_W, ALT)
        first = corners[0]
        self._step(f"at {first.u.text}, {first.v.text}")
        for a, b in pairwise(corners):
            across = a.u.mm != b.u.mm
            here, there = (a.u, b.u) if across else (a.v, b.v)
            arrow = {(True, True): Key.Key_Right, (True, False): Key.Key_Left,
                     (False, True): Key.Key_Up, (False, False): Key.Key_Down}  # fmt: skip
            self.press(arrow[across, there.mm > here.mm])
            self._step(f"to {there.text}")
        self._step("close")

    def _step(self, words: str) -> None:
        QTest.keyClicks(QApplication.focusWidget(), words)
        self.presses += len(words)
        self.press(Key.Key_Return)

    def _sizes(self, operation: Operation) -> None:
        if isinstance(operation, Polygon):
            self.go_to("sides")
            for _ in range(abs(operation.sides - 6)):
                self.press(Key.Key_Up if operation.sides > 6 else Key.Key_Down)
            self.fill("size", operation.size.text)
            self.choose("is its", operation.measure)
            self.fill("turn °", f"{operation.turn:g}")
            if operation.end_size is not None:
                self.fill("far size", operation.end_size.text)
        elif isinstance(operation, Pyramid):
            for name in ("width", "height"):
                self.fill(name, getattr(operation, name).text)
            for name in ("width", "height"):
                self.fill(f"far {name}", getattr(operation, f"end_{name}").text)
        else:
            self.fill("diameter", operation.diameter.text)
            if isinstance(operation, Ring):
                self.fill("thickness", operation.thickness.text)
            if isinstance(operation, Round) and operation.end_diameter is not None:
                self.fill("far diameter", operation.end_diameter.text)

    def _centre(self, operation: Operation) -> None:
        for side in "uv":
            given = getattr(operation, side)
            if given.far:
                self.go_to(f"edge that the centre is measured from, {side}")
                self.press(Key.Key_Down)
            self.fill(f"distance of the centre, {side}", given.distance.text)

    def _depths(self, operation: Operation) -> None:
        self.fill("from depth", operation.start.text)
        if isinstance(operation, Ball | Ring):
            return
        part, at = self.window.session.document.part, self.window.session.document.operation_index
        if operation.end is not None:
            self.fill("to depth", operation.end.text)  # a depth that is typed wins over through
        elif part.operations[at].end is not None:
            self.go_to("through")
            self.press(Key.Key_Space)
