"""Where the window opens: where it was last on the screen it was on, always whole within it.

Each screen keeps a place of its own, measured from its corner, so that a desk that is taken from
one set of screens to another finds its place on each.
"""

from __future__ import annotations

from PyQt6.QtCore import QMargins, QRect, QSize
from PyQt6.QtGui import QGuiApplication, QScreen
from PyQt6.QtWidgets import QWidget

from holoptic.desk.look.settings import keep_settings, read_settings

USUAL = QSize(1280, 800)
_FRAME = QMargins(2, 38, 2, 4)
"""Room for a title bar and borders, which are not known before the window stands."""
_PLACES, _LAST = "windows", "window screen"
_MOST_SCREENS, _FIGURES = 20, 5
_LEAST, _FARTHEST = 200, 20_000


def fitting(wanted: QRect, free: QRect, frame: QMargins) -> QRect:
    """Return the place inside the frame nearest to the wanted one, the frame within `free`."""
    room = free.marginsRemoved(frame)
    width, height = min(wanted.width(), room.width()), min(wanted.height(), room.height())
    left = min(max(wanted.left(), room.left()), room.right() + 1 - width)
    top = min(max(wanted.top(), room.top()), room.bottom() + 1 - height)
    return QRect(left, top, width, height)


def place(window: QWidget) -> None:
    """Give a window that is not shown yet its place: the last one on its last screen that is there,
    or the middle of the first screen.
    """
    screens = {_key(screen): screen for screen in QGuiApplication.screens()}
    last = read_settings().get(_LAST)
    screen = screens.get(last) if isinstance(last, str) else None
    screen = screen or QGuiApplication.primaryScreen()
    if screen is None:
        window.resize(USUAL)
        return
    free, kept = screen.availableGeometry(), _places().get(_key(screen))
    if kept is None:
        wanted = QRect(free.topLeft(), USUAL)
        wanted.moveCenter(free.center())
    else:
        wanted = QRect(*kept[:4]).translated(screen.geometry().topLeft())
    window.setGeometry(fitting(wanted, free, _FRAME))
    if kept is not None and kept[4]:
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
    """Remember where a window stands on its screen."""
    screen = window.screen()
    if screen is None or window.isFullScreen():
        return
    key, places = _key(screen), _places()
    at = window.geometry().translated(-screen.geometry().topLeft())
    place = [at.x(), at.y(), at.width(), at.height()]
    if window.isMaximized():  # what it goes back to stays
        place = places.pop(key, [*place, False])[:4]
    # the screen used last comes last, so that the oldest are forgotten
    kept = {name: one for name, one in places.items() if name != key}
    kept = dict([*kept.items()][1 - _MOST_SCREENS :])
    keep_settings({_PLACES: {**kept, key: [*place, window.isMaximized()]}, _LAST: key})


def _key(screen: QScreen) -> str:
    """Return what a screen is known by: its make where it says so, else its plug; and its size."""
    said = " ".join(filter(None, (screen.manufacturer(), screen.model(), screen.serialNumber())))
    size = screen.geometry().size()
    return f"{said or screen.name()} {size.width()}x{size.height()}"


def _places() -> dict[str, list[int]]:
    """Return what is kept of each screen: left, top, width, height, and whether it is filled."""
    kept = read_settings().get(_PLACES)
    found = {}
    for key, place in kept.items() if isinstance(kept, dict) else ():
        if isinstance(place, list) and len(place) == _FIGURES and _is_sound(place):
            found[key] = place
    return found


def _is_sound(place: list[object]) -> bool:
    *figures, whole = place
    if not all(type(value) is int and abs(value) <= _FARTHEST for value in figures):
        return False
    width, height = place[2], place[3]
    return type(whole) is bool and isinstance(width, int) and isinstance(height, int) and (
        width >= _LEAST and height >= _LEAST
    )  # fmt: skip
