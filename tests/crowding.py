"""Finds widgets that lie over one another or have no room for their words."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractScrollArea,
    QAbstractSpinBox,
    QComboBox,
    QLabel,
    QLineEdit,
    QSplitterHandle,
    QStyle,
    QStyleOptionComboBox,
    QToolButton,
    QWidget,
)

from holoptic.desk.widgets.caret_slip import CaretSlip
from holoptic.desk.widgets.notice import Bars

_TRIES = 100
_SLACK = 2
"""Pixels that do not matter."""
_OVER = (Bars, CaretSlip, QSplitterHandle)
"""What lies over others on purpose."""


def crowded_for_good(window: QWidget) -> list[str]:
    """Return what is crowded once the window has laid itself out, for which it gets 3 s."""
    for _ in range(_TRIES):
        if not (found := crowded(window)):
            return []
        QTest.qWait(30)
    return found


def crowded(window: QWidget) -> list[str]:
    """Return what lies over something else, or shows its words cut off."""
    seen = [w for w in window.findChildren(QWidget) if w.isVisible() and not _is_over(w)]
    found = [words for widget in seen if (words := _cut(widget))]
    for parent in {w.parentWidget() for w in seen}:
        siblings = [w for w in seen if w.parentWidget() is parent and not w.isWindow()]
        for k, one in enumerate(siblings):
            for other in siblings[k + 1 :]:
                both = one.geometry().intersected(other.geometry())
                if both.width() > _SLACK and both.height() > _SLACK:
                    found.append(f"{name(one)} and {name(other)} overlap by {both.width()} × "
                                 f"{both.height()}")  # fmt: skip
    return found


def name(widget: QWidget) -> str:
    """What a widget is, for a message."""
    words = widget.accessibleName()
    if not words and isinstance(widget, QLabel | QAbstractButton):
        words = widget.text()
    return f"{type(widget).__name__} “{words}”"


def _is_over(widget: QWidget) -> bool:
    parent: QWidget | None = widget
    while parent is not None:
        if isinstance(parent, _OVER):
            return True
        parent = parent.parentWidget()
    return False


def _cut(widget: QWidget) -> str:
    """Return what is cut off of a widget's words, or of the widget itself by its parent."""
    parent = widget.parentWidget()
    inside = parent is None or parent.rect().adjusted(-1, -1, 1, 1).contains(widget.geometry())
    if not inside and not _scrolls(widget):
        return f"{name(widget)} reaches out of its place: {_place(widget)} in {_place(parent)}"
    needed = _needed(widget)
    if needed is None:
        return ""
    width, height = needed
    if width > widget.width() + _SLACK or height > widget.height() + _SLACK:
        return f"{name(widget)} needs {width} × {height}, has {_place(widget)}"
    return ""


def _place(widget: QWidget | None) -> str:
    return "" if widget is None else f"{widget.width()} × {widget.height()}"


def _needed(widget: QWidget) -> tuple[int, int] | None:
    """Return the width and height that the words of a widget need."""
    metrics = widget.fontMetrics()
    if widget.property("may_be_cut") is True:
        return None
    if isinstance(widget, QLabel) and widget.text():
        if widget.wordWrap():
            return 0, widget.heightForWidth(widget.width())
        box = metrics.boundingRect(QRect(0, 0, 9999, 999), 0, widget.text())
        return box.width(), min(box.height(), widget.sizeHint().height())
    if isinstance(widget, QAbstractButton) and widget.text():
        words = widget.text().replace("&", "")
        icon = 0 if widget.icon().isNull() else widget.iconSize().width()
        style = widget.toolButtonStyle() if isinstance(widget, QToolButton) else None
        if style == Qt.ToolButtonStyle.ToolButtonIconOnly and icon:
            return icon, icon
        beside = style != Qt.ToolButtonStyle.ToolButtonTextUnderIcon
        width = metrics.horizontalAdvance(words)
        return (width + icon + 6 if beside and icon else max(width, icon)), metrics.height()
    if isinstance(widget, QComboBox):
        return _needed_by_choice(widget)
    if isinstance(widget, QLineEdit | QAbstractSpinBox):
        return 0, metrics.height()
    return None


def _needed_by_choice(box: QComboBox) -> tuple[int, int]:
    option = QStyleOptionComboBox()
    box.initStyleOption(option)
    style = box.style()
    assert style is not None
    room = style.subControlRect(QStyle.ComplexControl.CC_ComboBox, option,
                                QStyle.SubControl.SC_ComboBoxEditField, box)  # fmt: skip
    lack = box.fontMetrics().horizontalAdvance(box.currentText()) - room.width()
    return box.width() + max(lack, 0), box.fontMetrics().height()


def _scrolls(widget: QWidget) -> bool:
    """Whether a widget lies in an area that scrolls to it."""
    parent = widget.parentWidget()
    grand = parent.parentWidget() if parent is not None else None
    return isinstance(parent, QAbstractScrollArea) or isinstance(grand, QAbstractScrollArea)


def popup_shows_all(box: QComboBox) -> bool:
    """Whether the open list of a drop-down shows its last entry whole."""
    view = box.view()
    assert view is not None
    last = view.visualRect(view.model().index(box.count() - 1, 0))
    port = view.viewport().rect()
    bottom = view.viewport().mapToGlobal(QPoint(0, last.bottom())).y()
    return bottom <= view.viewport().mapToGlobal(QPoint(0, port.bottom())).y()
