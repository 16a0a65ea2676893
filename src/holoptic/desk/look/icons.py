"""Holoptic's own icons: drawn from a few lines each, in the colour of the text."""

from __future__ import annotations

from functools import cache

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QIcon, QPixmap, QPolygonF
from PyQt6.QtWidgets import QAbstractButton, QWidget

from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import Theme, pen, theme

_NAME_PROPERTY = "icon_name"
_GRID = 24
_SHARPNESS = 3
"""Icons are drawn three times as large and scaled down by Qt for every display."""

# each icon: strokes on a grid of 24 × 24, Y down
_LINES: dict[str, list[list[tuple[float, float]]]] = {
    "new": [[(6, 3), (14, 3), (18, 7), (18, 21), (6, 21), (6, 3)], [(14, 3), (14, 7), (18, 7)],
            [(12, 11), (12, 17)], [(9, 14), (15, 14)]],
    "open": [[(3, 19), (3, 6), (9, 6), (11, 8), (19, 8), (19, 11)],
             [(3, 19), (7, 11), (22, 11), (18, 19), (3, 19)]],
    "save": [[(4, 13), (4, 20), (20, 20), (20, 13)], [(12, 3), (12, 14)],
             [(8, 10), (12, 14), (16, 10)]],
    "export": [[(4, 13), (4, 20), (20, 20), (20, 13)], [(12, 15), (12, 4)],
               [(8, 8), (12, 4), (16, 8)]],
    "undo": [[(8, 4), (4, 8), (8, 12)],
             [(4, 8), (14, 8), (18, 10), (19.5, 14), (18, 18), (14, 20)]],
    "redo": [[(16, 4), (20, 8), (16, 12)],
             [(20, 8), (10, 8), (6, 10), (4.5, 14), (6, 18), (10, 20)]],
    "look": [[(12, 4), (12, 20)], [(12, 4), (17, 6), (20, 12), (17, 18), (12, 20), (7, 18), (4, 12),
             (7, 6), (12, 4)], [(14.5, 7), (14.5, 17)], [(17, 9), (17, 15)]],
    "keys": [[(3, 7), (21, 7), (21, 18), (3, 18), (3, 7)], [(6, 10.5), (7, 10.5)],
             [(10, 10.5), (11, 10.5)], [(14, 10.5), (15, 10.5)], [(17.5, 10.5), (18.5, 10.5)],
             [(7, 14.5), (17, 14.5)]],
    "cut": [[(3, 8), (9, 5), (21, 8), (21, 17), (12, 21), (3, 17), (3, 8)], [(12, 21), (12, 16),
            (7, 14), (7, 9.5), (3, 8)], [(12, 16), (21, 12)]],
    "cut round": [[(3, 6), (21, 6), (21, 18), (3, 18), (3, 6)],
                  [(12, 9), (14.2, 9.8), (15, 12), (14.2, 14.2), (12, 15), (9.8, 14.2), (9, 12),
                   (9.8, 9.8), (12, 9)]],
    "add": [[(3, 14), (12, 18), (21, 14), (21, 18), (12, 22), (3, 18), (3, 14)],
            [(12, 3), (12, 11)], [(8, 7), (16, 7)]],
    "add round": [[(5, 15), (5, 20), (19, 20), (19, 15)], [(8, 15), (8, 9), (9.5, 7.5), (12, 7),
                  (14.5, 7.5), (16, 9), (16, 15)], [(3, 15), (21, 15)], [(12, 1.5), (12, 5)],
                  [(10.2, 3.2), (13.8, 3.2)]],
    "mend": [[(3, 12), (9, 12)], [(15, 12), (21, 12)], [(8, 8), (12, 12), (16, 8)],
             [(12, 12), (12, 4)]],
    "read": [[(3, 4), (9, 4), (9, 10), (3, 10), (3, 4)], [(3, 14), (9, 14), (9, 20), (3, 20),
             (3, 14)], [(12, 12), (15, 12)], [(17, 8), (21, 6), (21, 16), (17, 18), (17, 8)],
             [(17, 8), (13.5, 6.5)], [(21, 6), (17.5, 4.5), (13.5, 6.5)]],
    "loop": [[(4, 8), (13, 5), (20, 9), (19, 17), (9, 20), (4, 15), (4, 8)], [(9, 12), (15, 12)]],
    "take": [[(4, 13), (12, 16), (20, 13), (20, 18), (12, 21), (4, 18), (4, 13)],
             [(12, 3), (12, 12)], [(8, 8), (12, 12), (16, 8)]],
    "pencil": [[(4, 20), (6, 14), (16, 4), (20, 8), (10, 18), (4, 20)], [(6, 14), (10, 18)]],
    "back": [[(13, 6), (7, 12), (13, 18)], [(7, 12), (19, 12)]],
    "remove": [[(5, 12), (19, 12)]],
    "up": [[(6, 14), (12, 8), (18, 14)]],
    "down": [[(6, 10), (12, 16), (18, 10)]],
    "mark": [[(12, 21), (12, 10)], [(12, 10), (3, 5)], [(12, 10), (21, 5)], [(3, 5), (3, 12)],
             [(21, 5), (21, 12)], [(3, 12), (12, 21), (21, 12)]],
}  # fmt: skip


def icon(name: str, colour: str | None = None) -> QIcon:
    """Return an icon by name. Raises KeyError for an unknown one."""
    return _icon(name, colour, theme())


@cache
def _icon(name: str, colour: str | None, colours: Theme) -> QIcon:
    """Return an icon in the colours of a theme; kept, as a list has one in each row."""
    made = QIcon(pixmap(name, _GRID, colour))
    made.addPixmap(pixmap(name, _GRID, colours.accent_text), QIcon.Mode.Selected)
    made.addPixmap(pixmap(name, _GRID, colours.off), QIcon.Mode.Disabled)
    return made


def give_icon(button: QAbstractButton, name: str) -> None:
    """Give a button an icon that `renew_icons` will draw again for another theme."""
    button.setProperty(_NAME_PROPERTY, name)
    button.setIcon(icon(name))


def renew_icons(window: QWidget) -> None:
    """Draw the icons of all buttons of a window in the colours of the present theme."""
    for button in window.findChildren(QAbstractButton):
        name = button.property(_NAME_PROPERTY)
        if name:
            button.setIcon(icon(name))


def pixmap(name: str, size: int, colour: str | None = None) -> QPixmap:
    """Return an icon as a pixmap of `size` device-independent pixels."""
    image = QPixmap(size * _SHARPNESS, size * _SHARPNESS)
    image.fill(Qt.GlobalColor.transparent)
    with painting(image) as painter:
        painter.scale(size * _SHARPNESS / _GRID, size * _SHARPNESS / _GRID)
        painter.setPen(pen(colour or theme().text, 1.7))
        for line in _LINES[name]:
            painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in line]))
    image.setDevicePixelRatio(_SHARPNESS)
    return image
