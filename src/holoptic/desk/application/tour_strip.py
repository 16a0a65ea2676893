"""The strip of a tour: its words while they are read, then the keys that it presses."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QPushButton, QWidget

from holoptic.catalogue import tr
from holoptic.desk.application.keys_in_hand import KeysInHand
from holoptic.desk.application.second_keys import type_key
from holoptic.desk.application.tours import TOURS, Step
from holoptic.desk.look.theme import px
from holoptic.desk.widgets.reader import tell_reader

_LEAST_MS, _LETTER_MS = 3500, 65
"""Reading takes so long, and so much more a letter: with what is done a tour takes a minute."""
_BETWEEN_KEYS_MS = 500


class TourStrip(QWidget):
    """Leads through a page of its window; the buttons go on at once, wait, and leave.

    It goes on by itself once its words have had the time to be read and nothing is being worked
    out (`is_busy`), or by F12. `done` is called after each key, as what a tour does is nobody's
    work.
    """

    def __init__(
        self, keys: KeysInHand, done: Callable[[], None], is_busy: Callable[[], bool]
    ) -> None:
        super().__init__()
        self.setObjectName("strip")
        self._keys, self._done, self._is_busy = keys, done, is_busy
        self._page = ""
        self._steps: tuple[Step, ...] = ()
        self._at = 0
        self._left: list[str] = []
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.count = QLabel()
        self.count.setObjectName("quiet")
        self.go_on_button = QPushButton(tr("Go on (F12)"))
        self.go_on_button.clicked.connect(lambda _=False: self.go_on())
        self.wait_button = QPushButton(tr("Wait"))
        self.wait_button.setToolTip(tr("Let the tour wait until it is told to go on"))
        self.wait_button.clicked.connect(lambda _=False: self._reading.stop())
        self.leave_button = QPushButton(tr("Leave (Shift+F12)"))
        self.leave_button.clicked.connect(lambda _=False: self.leave())
        row = QHBoxLayout(self)
        row.setContentsMargins(14, px(6), 8, px(6))
        row.setSpacing(12)
        row.addWidget(self.count)
        row.addWidget(self.words, 1)
        for button in (self.wait_button, self.go_on_button, self.leave_button):
            # the page keeps the focus, as its keys are pressed
            button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
            row.addWidget(button)
        self._reading = QTimer(self)
        self._reading.setSingleShot(True)
        self._reading.timeout.connect(self._read_out)
        self._pressing = QTimer(self)
        self._pressing.setInterval(_BETWEEN_KEYS_MS)
        self._pressing.timeout.connect(self._press_next)
        self.hide()

    @property
    def is_under_way(self) -> bool:
        """Whether a tour is being taken."""
        return bool(self._steps)

    def begin(self, page: str) -> None:
        """Begin the tour of a page."""
        self._page, self._steps, self._at = page, TOURS[page].steps, 0
        self.show()
        self._say()

    def _read_out(self) -> None:
        """Go on, once what the words speak of is there to be seen."""
        if self._is_busy():
            self._reading.start(_LEAST_MS)
        else:
            self.go_on()

    def go_on(self) -> None:
        """Do what the words say, and go to the next ones."""
        self._reading.stop()
        if not self.is_under_way or self._left:
            return
        step = self._steps[self._at]
        if step.into:
            self._go_into(step.into)
        self._left = [*step.keys, *step.text]
        self._press_next()
        if self._left:
            self._pressing.setInterval(_BETWEEN_KEYS_MS if step.keys else _BETWEEN_KEYS_MS // 8)
            self._pressing.start()

    def follow(self, page: str) -> None:
        """Leave the tour with its page: what it says would be pressed elsewhere."""
        if self.isVisible() and page != self._page:
            self.leave()

    def leave(self) -> None:
        """End the tour where it is."""
        self._reading.stop()
        self._pressing.stop()
        self._steps, self._left = (), []
        self.hide()

    def _go_into(self, name: str) -> None:
        """Put the cursor into a field, what stands there to be replaced."""
        window = self.window()
        for field in window.findChildren(QLineEdit) if window is not None else ():
            if field.isVisible() and field.accessibleName() == name:
                field.setFocus()
                field.selectAll()

    def _press_next(self) -> None:
        if self._left:
            key = self._left.pop(0)
            if not self._keys.press(self._page, key):
                type_key(key)
            self._done()
        if not self._left:
            self._pressing.stop()
            self._next()

    def _next(self) -> None:
        self._at += 1
        if self._at < len(self._steps):
            self._say()
            return
        self._steps = ()
        self.count.clear()
        self._tell(tr("That was the tour. The demo job stays here to be played with."))
        self.go_on_button.hide()
        self.wait_button.hide()

    def _say(self) -> None:
        self.go_on_button.show()
        self.wait_button.show()
        self.count.setText(f"{self._at + 1}/{len(self._steps)}")
        words = self._steps[self._at].words
        self._tell(words)
        self._reading.start(_LEAST_MS + _LETTER_MS * len(words))

    def _tell(self, words: str) -> None:
        self.words.setText(words)
        tell_reader(words)
