"""The keys of a window as its user wants them: set, shown where they are named, and changed."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import partial
from typing import NamedTuple, cast

from PyQt6.QtCore import QKeyCombination, QObject, Qt
from PyQt6.QtGui import QAction, QKeyEvent, QKeySequence, QShortcut
from PyQt6.QtWidgets import QAbstractButton, QLabel, QMenu, QWidget

from holoptic.desk.application.key_map import KEYS, TITLES
from holoptic.desk.look.own_keys import (
    ALWAYS,
    EVERYWHERE,
    FIXED,
    keep_keys,
    own_keys,
    written,
)
from holoptic.desk.look.preferences import tell_all
from holoptic.desk.widgets.key_line import KeyLine

_USUAL, _NAMED = "usual_key", "named_with_usual_keys"
_IN_BRACKETS = re.compile(r"\(([^()\s]+)\)(?=\s*$)")
"""At the end of a button's words or of a tip: the key that does the same."""


class Use(NamedTuple):
    """What a key is for: `words` says what it does at a place, `usual` is its first key."""

    place: str
    usual: str
    words: str


class KeysInHand:
    """The keys of one window; `places` are the widgets in which keys of their own count."""

    def __init__(self, window: QWidget, places: dict[str, QWidget]) -> None:
        self._window, self._places = window, places
        self._table: dict[str, dict[str, str]] = {}
        self.apply()

    def key(self, place: str, usual: str) -> str:
        """Return the key for what has a usual key at a place."""
        return self._table.get(place, {}).get(written(usual), usual)

    def apply(self) -> None:
        """Set every key as it is wanted, and name it so."""
        before, self._table = self._table, own_keys()
        for each in self._bound():
            place = self._place_of(each.parent())
            wanted = QKeySequence(self.key(place, usual_key(each)))
            if isinstance(each, QShortcut):
                each.setKey(wanted)
            else:
                each.setShortcut(wanted)
        if before or self._table:
            self.name_anew()

    def name_anew(self) -> None:
        """Name the wanted keys where the usual ones stand on what is in sight."""
        for widget in self._window.findChildren(QWidget):
            if isinstance(widget, KeyLine):
                place = self._place_of(widget)
                widget.show_keys_as(partial(self.key, place))
            if isinstance(widget, QAbstractButton | QLabel):
                self._rename(widget, "text")
            if widget.toolTip():
                self._rename(widget, "toolTip")

    def name_in_menu(self, menu: QMenu) -> None:
        """Name the wanted keys behind the tabs of a menu's words."""
        for action in menu.actions():
            words, tab, key = action.text().partition("\t")
            if tab:
                action.setText(f"{words}\t{self.key(EVERYWHERE, key)}")

    def _rename(self, widget: QWidget, name: str) -> None:
        text, usual = widget.property(name), widget.property(f"{_NAMED}_{name}")
        place = self._place_of(widget)

        def named(words: str) -> str:
            return _IN_BRACKETS.sub(lambda found: f"({self._at(place, found[1])})", words)

        if not text:
            return
        written_so = usual if usual and text == widget.property(f"{_NAMED}_{name}_shown") else text
        shown = named(written_so)
        if shown != text:
            widget.setProperty(name, shown)
        widget.setProperty(f"{_NAMED}_{name}", written_so)
        widget.setProperty(f"{_NAMED}_{name}_shown", shown)

    def _at(self, place: str, usual: str) -> str:
        """Return the key at a place, or everywhere where it is not one of the place's own."""
        here = self.key(place, usual)
        return here if here != usual else self.key(EVERYWHERE, usual)

    def press(self, place: str, usual: str) -> bool:
        """Do what a usual key does at a place, as if it were pressed; False where nothing does."""
        found = self.bound_to(place, usual)
        if isinstance(found, QAction):
            found.trigger()
        elif found is not None:
            found.activated.emit()
        return found is not None

    def bound_to(self, place: str, usual: str) -> QShortcut | QAction | None:
        """Return what a usual key would set off now, at a place or everywhere."""
        usual = written(usual) or usual
        for here in (place, EVERYWHERE):
            for each in self._bound():
                owner = each.parent()
                if usual_key(each) != usual or self._place_of(owner) != here:
                    continue
                is_in_sight = isinstance(owner, QWidget) and owner.isVisible()
                if each.isEnabled() and (isinstance(each, QAction) or is_in_sight):
                    return each
        return None

    # --- what there is ----------------------------------------------------------------------

    def uses(self, place: str) -> list[Use]:
        """Return what the keys of a place are for that can have another key, or a second one."""
        return [use for use in _uses(place) if (use.usual in FIXED) == (place == ALWAYS)]

    def stays(self, use: Use) -> bool:
        """Say whether the usual key goes on doing it when it has another one: a second one, then.

        So it is with what stands still on all pages, and with keys that no shortcut is bound to.
        """
        return use.place == ALWAYS or not self._is_bound(*use[:2])

    def second(self, page: str, key: str) -> str:
        """Return the usual key whose second one a pressed key is on a page; empty without."""
        for place in (page, EVERYWHERE, ALWAYS):
            for usual, wanted in self._table.get(place, {}).items():
                if wanted == key and (place == ALWAYS or not self._is_bound(place, usual)):
                    return usual
        return ""

    def taken(self, place: str, key: str, but: Use) -> Use | None:
        """Return what a key does already where a place counts, other than what it is asked for."""
        # a key of everywhere counts on each page too
        places = list(KEYS) if place in (EVERYWHERE, ALWAYS) else [place, EVERYWHERE, ALWAYS]
        for each in places:
            for use in self.uses(each):
                if use[:2] != but[:2] and self.key(each, use.usual) == key:
                    return use
        return None

    def change(self, use: Use, key: str) -> None:
        """Let a use have another key, in all windows."""
        keep_keys({(use.place, use.usual): key})
        tell_all()

    def exchange(self, use: Use, other: Use) -> None:
        """Let two uses have each other's key, in all windows."""
        mine, its = self.key(*use[:2]), self.key(*other[:2])
        keep_keys({use[:2]: its, other[:2]: mine})
        tell_all()

    def _is_bound(self, place: str, usual: str) -> bool:
        return any(
            usual_key(each) == usual and self._place_of(each.parent()) == place
            for each in self._bound()
        )

    def _bound(self) -> Iterator[QShortcut | QAction]:
        yield from self._window.findChildren(QShortcut)
        for action in self._window.findChildren(QAction):
            if not action.shortcut().isEmpty():
                yield action

    def _place_of(self, owner: QObject | None) -> str:
        while owner is not None:
            for name, widget in self._places.items():
                if owner is widget:
                    return name
            owner = owner.parent()
        return EVERYWHERE


def usual_key(bound: QShortcut | QAction) -> str:
    """Return the key that something has from the start, as Qt writes it."""
    usual = cast(str | None, bound.property(_USUAL))
    if usual is None:
        sequence = bound.key() if isinstance(bound, QShortcut) else bound.shortcut()
        usual = sequence.toString()
        bound.setProperty(_USUAL, usual)
    return usual


def title_of(use: Use) -> str:
    """Return what a use is called, with its place."""
    return f"“{use.words}” ({TITLES[use.place]})"


def words_by_key(place: str) -> dict[str, str]:
    """Return what each key of a place does, by the usual key as Qt writes it."""
    return {use.usual: use.words for use in _uses(place)}


def named(event: QKeyEvent) -> str:
    """Return a pressed key as Qt writes it, a mark without the Shift that only makes it so."""
    pressed = event.keyCombination()
    text = event.text()
    if text and text.isprintable() and not text.isalnum() and text != " ":
        held = pressed.keyboardModifiers() & ~Qt.KeyboardModifier.ShiftModifier
        pressed = QKeyCombination(held, pressed.key())
    return QKeySequence(pressed).toString()


def _uses(place: str) -> Iterator[Use]:
    for keys, what in KEYS.get(place, ()):
        several, meant = keys.split(", "), what.split(", ")
        each = meant if len(meant) == len(several) else [what] * len(several)
        for key, words in zip(several, each, strict=True):
            usual = written(key)
            if usual:
                yield Use(place, usual, words)
