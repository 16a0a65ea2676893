"""A line that asks for the new key of something, and takes the one that is pressed."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QFocusEvent, QKeyEvent
from PyQt6.QtWidgets import QFrame, QLabel, QVBoxLayout

from holoptic.catalogue import tr
from holoptic.desk.application.keys_in_hand import KeysInHand, Use, named, title_of
from holoptic.desk.look.own_keys import ALWAYS, FIXED
from holoptic.desk.look.theme import px
from holoptic.desk.widgets.reader import tell_reader

_HELD_ALONE = (
    Qt.Key.Key_Control, Qt.Key.Key_Shift, Qt.Key.Key_Alt, Qt.Key.Key_Meta, Qt.Key.Key_AltGr,
    Qt.Key.Key_unknown, Qt.Key(0),
)  # fmt: skip


class KeyCatcher(QFrame):
    """While it has the focus the next key pressed becomes that of the use it asks for.

    `done` is called when it has one or is left.
    """

    def __init__(self, done: Callable[[], None]) -> None:
        super().__init__()
        self.setObjectName("card")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._done = done
        self._keys: KeysInHand | None = None
        self._use: Use | None = None
        self._other: Use | None = None
        self._offered = ""
        self.words = QLabel()
        self.words.setWordWrap(True)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, px(8), 12, px(8))
        column.addWidget(self.words)
        self.hide()

    def ask(self, keys: KeysInHand, use: Use) -> None:
        """Ask for the new key of a use."""
        self._keys, self._use, self._other = keys, use, None
        key = keys.key(*use[:2])
        if not keys.stays(use):
            words = tr("Press the new key for {use}, now {key}. Esc leaves it, Backspace gives "
                       "{usual} back.", use=title_of(use), key=key, usual=use.usual)  # fmt: skip
        elif key == use.usual:
            words = tr("Press a second key for {use}; {usual} stays. Esc leaves it.",
                       use=title_of(use), usual=use.usual)  # fmt: skip
        else:
            words = tr("Press another second key for {use}, now {key} beside {usual}. Esc leaves "
                       "it, Backspace takes {key} away.",
                       use=title_of(use), key=key, usual=use.usual)  # fmt: skip
        self._say(words)
        self.show()
        self.setFocus()

    def event(self, event: QEvent | None) -> bool:
        """Take keys before any shortcut or the walk by Tab does."""
        if event is not None and isinstance(event, QKeyEvent) and self._use is not None:
            if event.type() == QEvent.Type.ShortcutOverride:
                event.accept()
                return True
            if event.type() == QEvent.Type.KeyPress:
                self._press(event)
                return True
        return super().event(event)

    def _press(self, event: QKeyEvent) -> None:
        keys, use = self._keys, self._use
        if keys is None or use is None or Qt.Key(event.key()) in _HELD_ALONE:
            return
        key = named(event)
        if key == "Esc":
            self._end()
        elif key == "Backspace":
            self._take(keys, use, use.usual)
        elif key in FIXED:
            self._other = None
            self._say(
                tr("{key} stays what it is: by it one leaves, walks, takes or types.", key=key)
            )
        else:
            self._take(keys, use, key)

    def _take(self, keys: KeysInHand, use: Use, key: str) -> None:
        """Take a key that is free, or exchange it where it is pressed once more."""
        other = keys.taken(use.place, key, use)
        if other is None:
            keys.change(use, key)
            self._end()
        elif ALWAYS in (use.place, other.place):
            self._other = None
            self._say(tr("{key} is for {other} already. Press another.", key=key,
                         other=title_of(other)))  # fmt: skip
        elif self._other == other and self._offered == key:
            keys.exchange(use, other)
            self._end()
        else:
            self._other, self._offered = other, key
            self._say(
                tr(
                    "{key} is for {other} already. Press it once more to exchange the two, or "
                    "another.",
                    key=key,
                    other=title_of(other),
                )
            )

    def _say(self, words: str) -> None:
        self.words.setText(words)
        self.setAccessibleName(words)
        tell_reader(words)

    def _end(self) -> None:
        self._use = None
        self.hide()
        self._done()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        """Leave everything as it is."""
        super().focusOutEvent(event)
        if self._use is not None:
            self._use = None
            self.hide()
