"""Where the window opens: where it was last, and always whole within the free screen."""

from __future__ import annotations

from PyQt6.QtCore import QMargins, QRect, QSize
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QWidget

from holoptic.desk.look.settings import keep_setting, read_settings

USUAL = QSize(1280, 800)
_FRAME = QMargins(2, 38, 2, 4)
"""Room for a title bar and borders, which are not known before the window stands."""
_SETTING = "window"
_WHOLE = "window fills the screen"


def fitting(wanted: QRect, free: QRect, frame: QMargins) -> QRect:
    """Return the place inside the frame nearest to the wanted one, the frame within `free`."""
    room = free.marginsRemoved(frame)
    width, height = min(wanted.width(), room.width()), min(wanted.height(), room.height())
    left = min(max(wanted.left(), room.left()), room.right() + 1 - width)
    top = min(max(wanted.top(), room.top()), room.bottom() + 1 - height)
    return QRect(left, top, width, height)


def place(window: QWidget) -> None:
    """Give a window that is not shown yet its place: the last one, or the middle of the screen."""
    kept = _kept()
    screen = QGuiApplication.screenAt(kept.center()) if kept is not None else None
    screen = screen or QGuiApplication.primaryScreen()
    if screen is None:
        window.resize(USUAL)
        return
    free = screen.availableGeometry()
    wanted = kept
    if wanted is None:
        wanted = QRect(free.topLeft(), USUAL)
        wanted.moveCenter(free.center())
    window.setGeometry(fitting(wanted, free, _FRAME))
    if read_settings().get(_WHOLE) is True:
        window.showMaximized()


def correct(window: QWidget) -> None:
    """Bring a window that stands now wholly into the free screen, its title bar included."""
    screen = window.screen()
    if screen is None or window.isMaximized() or window.isFullScreen():
        return
    inner, outer, free = window.geometry(), window.frameGeometry(), screen.availableGeometry()
    if not free.contains(outer):
        frame = QMargins(
            inner.left() - outer.left(), inner.top() - outer.top(),
            outer.right() - inner.right(), outer.bottom() - inner.bottom(),
        )  # fmt: skip
        window.setGeometry(fitting(inner, free, frame))


def remember(window: QWidget) -> None:
    """Remember where a window stands."""
    keep_setting(_WHOLE, window.isMaximized())
    if not window.isMaximized() and not window.isFullScreen():
        at = window.geometry()
        keep_setting(_SETTING, [at.x(), at.y(), at.width(), at.height()])


def _kept() -> QRect | None:
    kept = read_settings().get(_SETTING)
    if isinstance(kept, list) and len(kept) == 4 and all(type(value) is int for value in kept):
        rect = QRect(*kept)
        if 200 <= rect.width() <= 20_000 and 200 <= rect.height() <= 20_000:
            return rect
    return None
