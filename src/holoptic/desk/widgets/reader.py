"""News for screen readers: what a sighted user would see change without looking for it.

A reader speaks when the description of what has the focus changes, so news are said there, and the
description goes back to what it was when the focus moves on.
"""

from __future__ import annotations

from PyQt6 import sip
from PyQt6.QtCore import QObject
from PyQt6.QtWidgets import QApplication, QComboBox, QWidget


class _Reader(QObject):
    """Says news as the description of the widget in focus."""

    def __init__(self) -> None:
        super().__init__()
        self._widget: QWidget | None = None
        self._before = self._said = ""
        self._follows: QApplication | None = None

    def tell(self, text: str) -> None:
        """Say a text, if somebody is there to hear it."""
        app, focus = QApplication.instance(), QApplication.focusWidget()
        if not text or focus is None or not isinstance(app, QApplication):
            return
        if self._follows is not app:
            app.focusChanged.connect(self._moved_on)
            self._follows = app
        if focus is not self._widget:
            self._give_back()
            self._widget, self._before = focus, focus.accessibleDescription()
        self._said = text
        focus.setAccessibleDescription(text)

    def _moved_on(self, _: QWidget | None, focus: QWidget | None) -> None:
        if focus is not self._widget:
            self._give_back()

    def _give_back(self) -> None:
        widget, self._widget = self._widget, None
        if widget is None or sip.isdeleted(widget):
            return
        if widget.accessibleDescription() == self._said:  # it says nothing else of its own by now
            widget.setAccessibleDescription(self._before)


_reader: list[_Reader] = []


def tell_reader(text: str) -> None:
    """Have a screen reader say a text."""
    if not _reader or sip.isdeleted(_reader[0]):
        _reader[:] = [_Reader()]
    _reader[0].tell(text)


def describe_choices(window: QWidget) -> None:
    """Let every list to choose from tell what is chosen in it.

    On Linux such a list is read by what is chosen; its own name stands in no other place.
    """
    for box in window.findChildren(QComboBox):
        if not box.accessibleDescription():
            box.setAccessibleDescription(box.accessibleName())
