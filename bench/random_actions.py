"""What a random hand can do at the desk (see `random_hand`)."""

from __future__ import annotations

import random
import tempfile
import traceback
from collections.abc import Callable
from pathlib import Path
from types import TracebackType
from typing import Any

from PyQt6 import sip
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QComboBox,
    QFileDialog,
    QLabel,
    QLineEdit,
    QMenu,
    QWidget,
)

from bench.fuzz_step import mutated
from holoptic.demo import drawing_paths, job_names, job_path
from holoptic.desk.application.desks import take_down
from holoptic.desk.application.launch import make_application
from holoptic.desk.application.mishaps import Mishaps, cause_of
from holoptic.desk.application.window import PAGE_TITLES, DeskWindow

_SIZES = ((1280, 800), (1024, 600), (1920, 1080), (900, 620))
_TEXTS = (
    "0", "12", "18+26.5", "L/2", "H-12", "D*2-1", "3 1/8\"", "2'6\"", "-5", "1e9", "0.0001", "7..2",
    "(", "L-", "10, 0", "10, 0; 40, 0; 40, 12", "0, 0 arc 21 left; 30, 0", "angle 30 length 25",
    "run 20 rise -6.5", "0, 0; 84, 0; 84, 12 arc bulge 8 right; 0, 12", "at 12, 8", "r 26.5", "u 9",
    "l to 3", "close", "circle 17", "a 30 r 12", "go 40, 12+6", "base = 14.5; eye_r = 42/2",
    "base = base", "x", "“ü", "  ", ";", ",", "0, 0; 0, 0", "angle 90 run 4", "nan", "inf", "1/0",
    "999999999", "bolt_hole_1.x", "1/2\" = 1'", "45", "-400", "90°",
)  # fmt: skip
_PLAIN = (
    "Tab", "Return", "Escape", "Space", "Backspace", "Delete", "Up", "Down", "Left", "Right",
    "Home", "End", "PageUp", "PageDown", "F1", "F2", "F3", "F4", "F5", "F6", *"ABCDEGHKLMNOPRTUVWX",
    *"123456", "Plus", "Minus",
)  # fmt: skip
_ALT = (*"ACHBMWUDOSEGRLN", "Up", "Down", "Delete", "Period", "Comma", *"123456789")
_CTRL = (*"ZSOELNCV0A", "PageUp", "PageDown")
_MOST_PARTS = 14
_BUSY_EVERY = 25

Tell = Callable[..., None]


class Hand:
    """One hand at one window."""

    def __init__(self, dice: random.Random, tell: Tell) -> None:
        self.dice, self.tell = dice, tell
        self.folder = Path(tempfile.mkdtemp())
        self._lay_out_files()
        self._patch()
        self.app = make_application()
        self.window = DeskWindow()
        self.window.resize(*dice.choice(_SIZES))
        self.window.show()
        self.window.furnish()
        mishaps = Mishaps()
        mishaps.take = self._note  # type: ignore[method-assign]
        mishaps.install()
        self.window.open_first(job_path() if dice.random() < 0.5 else None, demo=True)

    def _note(
        self, kind: type[BaseException], error: BaseException | None, trace: TracebackType | None
    ) -> None:
        words = "".join(traceback.format_exception(kind, error, trace)[-6:])
        self.tell("mishap", cause=cause_of(kind, trace), trace=words)

    # --- files and dialogs --------------------------------------------------------------------

    def _lay_out_files(self) -> None:
        """Lay out files to open: sound, damaged, empty, and of other sorts."""
        sound = [job_path(name) for name in job_names()] + drawing_paths()
        sound += list(job_path().parent.glob("*.step"))
        for path in sound:
            content = path.read_bytes()
            (self.folder / path.name).write_bytes(content)
            damaged = mutated(content, self.dice)
            (self.folder / f"damaged-{path.name}").write_bytes(damaged)
        (self.folder / "empty.holoptic").write_bytes(b"")
        (self.folder / "words.txt").write_text("no drawing", "utf-8")

    def _patch(self) -> None:
        def ask_open(*_: Any) -> tuple[str, str]:
            there = [*sorted(self.folder.iterdir()), Path("/nowhere.holoptic")]
            name = str(self.dice.choice(there)) if self.dice.random() < 0.8 else ""
            return name, ""

        def ask_save(*_: Any) -> tuple[str, str]:
            end = self.dice.choice(
                (".holoptic", ".svg", ".pdf", ".dxf", ".png", ".json", ".csv", ".txt", ".step", "",
                 ".odd")
            )  # fmt: skip
            name = f"out-{self.dice.randrange(4)}{end}"
            return (str(self.folder / name) if self.dice.random() < 0.8 else ""), ""

        QFileDialog.getOpenFileName = staticmethod(ask_open)  # type: ignore[method-assign,assignment]
        QFileDialog.getSaveFileName = staticmethod(ask_save)  # type: ignore[method-assign,assignment]

    # --- acting -------------------------------------------------------------------------------

    def work(self, count: int) -> None:
        """Do `count` actions."""
        ways: tuple[tuple[int, Callable[[], None]], ...] = (
            (20, self.type_text), (22, self.press), (14, self.click), (6, self.drag),
            (8, self.press_button), (7, self.begin_shape), (4, self.choose), (4, self.go_to_page),
            (2, self.menu), (1, self.resize), (1, self.new_part), (1, self.undo),
            (1, self.open_file), (1, self.close),
        )  # fmt: skip
        weights = [weight for weight, _ in ways]
        for number in range(count):
            _, way = self.dice.choices(ways, weights)[0]
            try:
                way()
            except Exception as error:  # raised straight through a call, not through a slot
                self._note(type(error), error, error.__traceback__)
            QTest.qWait(1)
            if number % _BUSY_EVERY == 0:
                QTest.qWait(60)
            if not self.window.isVisible():
                self.window.show()
        self.window.session.document.history.mark_saved()
        take_down(self.window)

    def say(self, words: str) -> None:
        """Tell what is about to be done."""
        self.tell("action", words=f"[{self.window.page}] {words}")

    def _widgets(self, kind: type[QWidget] = QWidget) -> list[Any]:
        root = QApplication.activePopupWidget() or self.window
        return [w for w in root.findChildren(kind) if w.isVisible() and w.isEnabled()]

    def _target(self) -> QWidget:
        return QApplication.activePopupWidget() or QApplication.focusWidget() or self.window

    def _place(self, widget: QWidget) -> QPoint:
        return QPoint(
            self.dice.randrange(max(widget.width(), 1)),
            self.dice.randrange(max(widget.height(), 1)),
        )

    def type_text(self) -> None:
        """Type a text, or a beginning of one, into a field."""
        fields = self._widgets(QLineEdit)
        if fields and self.dice.random() < 0.8:
            self.dice.choice(fields).setFocus()
        target, text = self._target(), self.dice.choice(_TEXTS)
        text = text[: self.dice.randint(1, len(text))]
        self.say(f"type “{text}” into {_name(target)}")
        if self.dice.random() < 0.6:
            QTest.keyClick(target, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
        for letter in text:
            if letter.isascii():
                QTest.keyClick(self._target(), letter)
        if self.dice.random() < 0.5:
            QTest.keyClick(self._target(), self.dice.choice((Qt.Key.Key_Return, Qt.Key.Key_Tab)))

    def press(self) -> None:
        """Press a key, alone or with Alt, Ctrl or Shift."""
        modifiers = Qt.KeyboardModifier
        modifier, keys = self.dice.choice(
            ((modifiers.NoModifier, _PLAIN), (modifiers.NoModifier, _PLAIN),
             (modifiers.AltModifier, _ALT), (modifiers.ControlModifier, _CTRL),
             (modifiers.ShiftModifier, ("E", "M", "Tab", "Up", "A")))
        )  # fmt: skip
        key, target = self.dice.choice(keys), self._target()
        self.say(f"press {modifier.name} {key} in {_name(target)}")
        QTest.keyClick(target, getattr(Qt.Key, f"Key_{key}"), modifier)

    def click(self) -> None:
        """Click anywhere on anything, sometimes with Shift, twice, or with the other button."""
        widgets = self._widgets()
        if not widgets:
            return
        widget = self.dice.choice(widgets)
        place = self._place(widget)
        self.say(f"click {_name(widget)} at {place.x()}, {place.y()}")
        button = Qt.MouseButton.LeftButton if self.dice.random() < 0.9 else (
            Qt.MouseButton.RightButton)  # fmt: skip
        modifier = Qt.KeyboardModifier.ShiftModifier if self.dice.random() < 0.1 else (
            Qt.KeyboardModifier.NoModifier)  # fmt: skip
        if self.dice.random() < 0.1:
            QTest.mouseDClick(widget, button, modifier, place)
        else:
            QTest.mouseClick(widget, button, modifier, place)

    def drag(self) -> None:
        """Drag something from one place to another."""
        widgets = self._widgets()
        if not widgets:
            return
        widget = self.dice.choice(widgets)
        begin, end = self._place(widget), self._place(widget)
        self.say(f"drag {_name(widget)} from {begin.x()}, {begin.y()} to {end.x()}, {end.y()}")
        left = Qt.MouseButton.LeftButton
        QTest.mousePress(widget, left, Qt.KeyboardModifier.NoModifier, begin)
        for share in (0.3, 0.6, 1.0):
            if sip.isdeleted(widget):
                return  # it was let go of on the way
            QTest.mouseMove(widget, begin + (end - begin) * share)
            QTest.qWait(1)
        if sip.isdeleted(widget):
            return
        QTest.mouseRelease(widget, left, Qt.KeyboardModifier.NoModifier, end)

    def press_button(self) -> None:
        """Press one of the buttons in sight."""
        buttons = self._widgets(QAbstractButton)
        if buttons:
            button = self.dice.choice(buttons)
            self.say(f"press the button {_name(button)}")
            button.click()

    def begin_shape(self) -> None:
        """Begin an operation of any shape."""
        carve = self.window.pages["carve"]
        if self.window.session.document.part is None or not carve.isVisible():
            return
        menu = next((m for m in carve.findChildren(QMenu) if len(m.actions()) > 8), None)
        if menu is None:
            return
        action = self.dice.choice([a for a in menu.actions() if a.isEnabled()])
        self.say(f"begin {action.text()}")
        action.trigger()

    def choose(self) -> None:
        """Choose something else in a drop-down list."""
        boxes = [box for box in self._widgets(QComboBox) if box.count()]
        if boxes:
            box = self.dice.choice(boxes)
            index = self.dice.randrange(box.count())
            self.say(f"choose {box.itemText(index)} in {_name(box)}")
            box.setCurrentIndex(index)
            box.activated.emit(index)

    def go_to_page(self) -> None:
        """Go to another page."""
        name = self.dice.choice(list(PAGE_TITLES))
        self.say(f"go to {name}")
        self.window.show_page(name)

    def menu(self) -> None:
        """Take an entry of an open menu, or of one of the window's."""
        makers = (self.window._new_menu, self.window.filing.open_menu,
                  self.window.filing.export_menu)  # fmt: skip
        menu = self.dice.choice(makers)()
        entries = [action for action in menu.actions() if action.isEnabled() and action.text()]
        action = self.dice.choice(entries)
        self.say(f"take the entry “{action.text()}”")
        action.trigger()

    def resize(self) -> None:
        """Make the window another size."""
        size = self.dice.choice(_SIZES)
        self.say(f"resize to {size[0]} × {size[1]}")
        self.window.resize(*size)

    def new_part(self) -> None:
        """Begin a part, while there are not too many."""
        if len(self.window.session.document.job.parts) < _MOST_PARTS:
            self.say("new part")
            self.window.part_menu.new_part()

    def undo(self) -> None:
        """Take several edits back at once."""
        self.say("undo thrice")
        for _ in range(3):
            self.window.session.document.undo()

    def open_file(self) -> None:
        """Open a file, damaged or not, as the open menu does."""
        path = self.dice.choice(sorted(self.folder.iterdir()))
        self.say(f"open {path.name}")
        if path.suffix == ".dxf":
            self.window.session.readings.open(path)
        else:
            self.window.filing.open(path)

    def close(self) -> None:
        """Try to close the window; with edits it asks first."""
        self.say("close the window")
        self.window.close()


def _name(widget: QWidget) -> str:
    own = widget.accessibleName()
    if not own and isinstance(widget, QAbstractButton | QLabel):
        own = widget.text()[:40]
    return f"{type(widget).__name__} “{own}”"
