"""The finder: everything that can be done now, by its name, with its key.

It lists the shortcuts that are at hand where the user is, in the words of the key map; so it can
neither offer what cannot be done nor forget what can.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial

from PyQt6.QtCore import QEvent, QObject, QSize, Qt
from PyQt6.QtGui import QAction, QKeyEvent, QShortcut
from PyQt6.QtWidgets import QFrame, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.desk.application.key_map import TITLES
from holoptic.desk.application.keys_in_hand import usual_key, words_by_key
from holoptic.desk.look.own_keys import EVERYWHERE
from holoptic.desk.look.theme import px

_WIDE, _HIGH, _TOP, _ROW = 560, 380, 58, 26
_FROM_MAP = Qt.ItemDataRole.UserRole


@dataclass(frozen=True)
class Deed:
    """Something that can be done: what, where, its key, and how."""

    words: str
    place: str
    key: str
    run: Callable[[], None]

    def holds(self, wanted: list[str]) -> bool:
        """Say whether it has every one of some words."""
        text = f"{self.place} {self.words} {self.key}".lower()
        return all(word in text for word in wanted)


def deeds_of(window: QWidget, page: str) -> list[Deed]:
    """Return what can be done on a page of a window, the page's own first."""
    named = {place: words_by_key(place) for place in (page, EVERYWHERE)}
    found: dict[tuple[str, str], Deed] = {}
    for usual, key, run in _at_hand(window):
        for place, words in named.items():
            if usual in words:
                found.setdefault((place, usual), Deed(words[usual], TITLES[place], key, run))
                break
    order = {TITLES[place]: number for number, place in enumerate(named)}
    return sorted(found.values(), key=lambda deed: order[deed.place])


def _at_hand(window: QWidget) -> Iterator[tuple[str, str, Callable[[], None]]]:
    """Yield the keys that work where the user is, the usual one first, and what they run."""
    for action in window.findChildren(QAction):
        if action.isEnabled() and not action.shortcut().isEmpty():
            yield usual_key(action), action.shortcut().toString(), action.trigger
    for shortcut in window.findChildren(QShortcut):
        owner = shortcut.parent()
        at_hand = isinstance(owner, QWidget) and owner.isVisible() and owner.isEnabled()
        if shortcut.isEnabled() and at_hand:
            yield usual_key(shortcut), shortcut.key().toString(), shortcut.activated.emit


class Finder(QFrame):
    """A line to type in over a list; Enter does what is in hand, Esc leaves it."""

    def __init__(self, window: QWidget, page: Callable[[], str]) -> None:
        super().__init__(window)
        self.setObjectName("card")
        self._window, self._page = window, page
        self._deeds: list[Deed] = []
        self._back_to: QWidget | None = None
        self._keys: dict[Qt.Key, Callable[[], None]] = {
            Qt.Key.Key_Down: partial(self._step, 1), Qt.Key.Key_Up: partial(self._step, -1),
            Qt.Key.Key_Return: self._do, Qt.Key.Key_Enter: self._do, Qt.Key.Key_Escape: self.leave,
        }  # fmt: skip
        self.line = QLineEdit()
        self.line.setPlaceholderText(tr("what is to be done: mirror, save, next edge …"))
        self.line.setAccessibleName(tr("what is to be done"))
        self.line.textChanged.connect(self._fill)
        self.line.installEventFilter(self)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("what can be done now"))
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.itemClicked.connect(lambda _: self._do())
        column = QVBoxLayout(self)
        column.addWidget(self.line)
        column.addWidget(self.list)
        self.hide()

    def open(self) -> None:
        """Come up over the window with everything that can be done."""
        self._back_to = self._window.focusWidget()
        self._deeds = deeds_of(self._window, self._page())
        wide = min(px(_WIDE), self._window.width() - 40)
        high = min(px(_HIGH), self._window.height() - _TOP - 60)
        self.setGeometry((self._window.width() - wide) // 2, px(_TOP), wide, high)
        self.line.clear()
        self._fill()
        self.show()
        self.raise_()
        self.line.setFocus()

    def leave(self) -> None:
        """Go, and give the focus back."""
        self.hide()
        if self._back_to is not None:
            self._back_to.setFocus()

    @property
    def offered(self) -> list[str]:
        """The words in the list."""
        return [self._deed(row).words for row in range(self.list.count())]

    def _fill(self) -> None:
        wanted = self.line.text().lower().split()
        self.list.clear()
        for number, deed in enumerate(self._deeds):
            if deed.holds(wanted):
                item = QListWidgetItem(
                    tr("{words}   ·   {key}   ({place})", words=deed.words, key=deed.key,
                       place=deed.place)
                )  # fmt: skip
                item.setData(_FROM_MAP, number)
                item.setSizeHint(QSize(0, px(_ROW)))
                self.list.addItem(item)
        self.list.setCurrentRow(0)

    def _deed(self, row: int) -> Deed:
        item = self.list.item(row)
        assert item is not None
        number: int = item.data(_FROM_MAP)
        return self._deeds[number]

    def _do(self) -> None:
        row = self.list.currentRow()
        if row < 0:
            return
        deed = self._deed(row)
        self.leave()
        deed.run()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Take the keys that walk the list from the line, before any shortcut of the page does."""
        if not isinstance(event, QKeyEvent) or event.key() not in self._keys:
            return super().eventFilter(watched, event)
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
        elif event.type() == QEvent.Type.KeyPress:
            self._keys[Qt.Key(event.key())]()
        return True

    def _step(self, way: int) -> None:
        last = self.list.count() - 1
        self.list.setCurrentRow(max(0, min(last, self.list.currentRow() + way)))
