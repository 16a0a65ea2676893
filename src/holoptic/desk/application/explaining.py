"""What is this: the control that has the focus explained, in the words it already has."""

from __future__ import annotations

import re

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractSlider,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QLineEdit,
    QToolTip,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.widgets.reader import tell_reader

_SHOWN_MS = 20_000
_TAGS = re.compile(r"<[^<>]*>")
_HOW = (
    (QAbstractSpinBox, tr("A figure: type it, or step it by ↑ and ↓.")),
    (QComboBox, tr("A list to choose from: ↑ and ↓ step through it, Alt+↓ opens it.")),
    (QLineEdit, tr("Type here; Enter takes it.")),
    (QAbstractSlider, tr("Drag it, or step it by the arrows.")),
    (QAbstractItemView, tr("A list: ↑ and ↓ go through it.")),
    (QAbstractButton, tr("Space presses it.")),
)


def explained(widget: QWidget) -> str:
    """Return what a control is, what it is for and how it is used, a line each."""
    name = widget.accessibleName()
    if isinstance(widget, QAbstractButton):
        name = name or widget.text().replace("&", "")
    tip = _TAGS.sub("", widget.toolTip())
    how = next((words for kind, words in _HOW if isinstance(widget, kind)), "")
    lines = [name[:1].upper() + name[1:], tip, widget.accessibleDescription(), how]
    told: list[str] = []
    for line in lines:
        if line and not any(line.lower() in before.lower() for before in told):
            told.append(line)
    return "\n".join(told)


def explain_focus(page: QWidget, words_of_page: str) -> None:
    """Explain what has the focus beside it; where that is the page itself, the page."""
    focus = QApplication.focusWidget()
    control = focus is not None and any(isinstance(focus, kind) for kind, _ in _HOW)
    widget = focus if focus is not None and (control or focus.accessibleName()) else page
    words = explained(widget) if widget is not page else words_of_page
    below = widget.mapToGlobal(QPoint(8, min(widget.height(), 60)))
    QToolTip.showText(below, words, widget, widget.rect(), _SHOWN_MS)
    tell_reader(words)
