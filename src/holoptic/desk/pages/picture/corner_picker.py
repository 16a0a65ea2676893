"""The crate in the kind of the picture, with a dot on each corner that can be the near one."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPaintEvent
from PyQt6.QtWidgets import QWidget

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3, apply
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import SIGN, pen, theme
from holoptic.desk.widgets.spoken_roles import Choice
from holoptic.part.marks import crate_lines
from holoptic.pictorial import NearCorner, View

_HALF: Vec3 = (0.5, 0.42, 0.36)
_DOT = 6.0
_ORDER = tuple(NearCorner)
_NAMES = {corner.signs: corner for corner in NearCorner}


class CornerPicker(Choice):
    """Shows the crate as it is pictured; a click on a corner, or an arrow key, changes it.

    Signals:
        picked(corner): another near corner was asked for.
    """

    picked = pyqtSignal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(112)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("near corner"))
        self.setToolTip(tr("Click the corner that shall be nearest; or Left, Right, Up, Down"))
        self.setMouseTracking(True)
        self._view: View | None = None
        self.asked_for.connect(lambda number: self.picked.emit(_ORDER[number].value))

    def show_view(self, view: View | None) -> None:
        """Show the crate in a view."""
        self._view = view
        if view is not None and view.corner is not None:
            self.setAccessibleDescription(view.corner.title)
            self.tell_choice(_ORDER.index(view.corner), len(_ORDER))
        self.update()

    def turned(self, key: int) -> str | None:
        """Return the corner that an arrow key asks for, or None for another key."""
        if self._view is None or self._view.corner is None:
            return None
        right, rear, above = self._view.corner.signs
        steps = {
            Qt.Key.Key_Right: (-rear, right, above), Qt.Key.Key_Left: (rear, -right, above),
            Qt.Key.Key_Up: (right, rear, 1), Qt.Key.Key_Down: (right, rear, -1),
        }  # fmt: skip
        signs = steps.get(Qt.Key(key)) if key in list(steps) else None
        return _NAMES[signs].value if signs is not None else None

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Turn the part by an arrow key."""
        corner = self.turned(event.key()) if event is not None else None
        if corner is not None:
            self.picked.emit(corner)
        elif event is not None:
            event.ignore()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Pick the corner under the pointer."""
        if event is None or self._view is None:
            return
        places = self._places(self._view)
        gaps = {
            signs: (place - event.position()).manhattanLength() for signs, place in places.items()
        }
        nearest = min(gaps, key=lambda signs: gaps[signs])
        if gaps[nearest] < 2.5 * _DOT:
            self.picked.emit(_NAMES[nearest].value)

    def _places(self, view: View) -> dict[tuple[int, int, int], QPointF]:
        """Return where each corner of the crate lies; the picture is scaled to the room."""
        corners = {signs: apply(view.matrix, _at(signs)) for signs in _NAMES}
        across = max(x for x, _ in corners.values())
        up = max(y for _, y in corners.values())
        room = QRectF(self.rect()).adjusted(12, 10, -12, -10)
        scale = min(room.width() / (2 * across), room.height() / (2 * up))
        middle = room.center()
        return {
            signs: QPointF(middle.x() + scale * x, middle.y() - scale * y)
            for signs, (x, y) in corners.items()
        }

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the crate, its hidden edges dashed, and the corners."""
        del event
        if self._view is None or self._view.corner is None:
            return
        with painting(self) as painter:
            colours, near = theme(), self._view.corner.signs
            places = self._places(self._view)
            far = (-near[0], -near[1], -near[2])
            for line in crate_lines(_at((-1, -1, -1)), _at((1, 1, 1))):
                ends = [_signs(point) for point in (line.start, line.end)]
                dashes = (3.0, 3.0) if far in ends else ()
                painter.setPen(pen(colours.quiet, 1.0 if dashes else 1.6, dashes))
                painter.drawLine(places[ends[0]], places[ends[1]])
            for signs, place in places.items():
                is_near = signs == near
                painter.setPen(pen(SIGN if is_near else colours.quiet, 1.4))
                painter.setBrush(QColor(SIGN if is_near else colours.raised))
                size = _DOT if is_near else _DOT - 2.5
                painter.drawEllipse(place, size, size)
            if self.hasFocus():
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(pen(colours.accent, 1.5, (3, 3)))
                painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 5, 5)


def _at(signs: tuple[int, int, int]) -> Vec3:
    return signs[0] * _HALF[0], signs[1] * _HALF[1], signs[2] * _HALF[2]


def _signs(point: Vec3) -> tuple[int, int, int]:
    x, y, z = (1 if value > 0 else -1 for value in point)
    return x, y, z
