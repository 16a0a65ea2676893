"""A line of keys with what they do, always in sight on the page they belong to."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import lettering, pen, px, theme

_HEIGHT = 25
_SIDE, _GAP = 12, 13


class KeyLine(QWidget):
    """Paints keys as caps with a word behind each; what finds no room is left out at the end."""

    def __init__(self, keys: Sequence[tuple[str, str]]) -> None:
        super().__init__()
        self._usual = self._keys = tuple(keys)
        self.state = ""
        self.setFixedHeight(px(_HEIGHT))
        self.setAccessibleName(tr("keys of this page"))
        self._describe()

    def _describe(self) -> None:
        self.setAccessibleDescription("; ".join(f"{key}: {word}" for key, word in self._keys))

    def show_keys_as(self, wanted: Callable[[str], str]) -> None:
        """Show other keys, as `wanted` says for each usual one."""
        self._keys = tuple((wanted(key), word) for key, word in self._usual)
        self._describe()
        self.update()

    def show_state(self, words: str) -> None:
        """Show how things stand at the right end, such as that the plan plays."""
        if words != self.state:
            self.state = words
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the line."""
        del event
        with painting(self) as painter:
            colours = theme()
            painter.fillRect(self.rect(), QColor(colours.panel))
            painter.setFont(lettering(11, bold=True))
            end = self.width() - _SIDE
            if self.state:
                width = painter.fontMetrics().horizontalAdvance(self.state)
                painter.setPen(QColor(colours.accent))
                box = QRectF(end - width, 0, width, px(_HEIGHT))
                painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, self.state)
                end -= width + _GAP
            x = float(_SIDE)
            for key, word in self._keys:
                x = self._paint_key(painter, x, end, key, word)

    def _paint_key(self, painter: QPainter, x: float, end: float, key: str, word: str) -> float:
        """Paint a key from x on and return where the next one begins."""
        colours = theme()
        painter.setFont(lettering(11, bold=True))
        cap = painter.fontMetrics().horizontalAdvance(key) + 10
        painter.setFont(lettering(11))
        after = x + cap + 4 + painter.fontMetrics().horizontalAdvance(word)
        if after > end:
            return float(self.width())
        box = QRectF(x, 4, cap, px(_HEIGHT) - 8)
        painter.setPen(pen(colours.line, 1))
        painter.setBrush(QColor(colours.raised))
        painter.drawRoundedRect(box, 4, 4)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QColor(colours.quiet))
        painter.drawText(QRectF(x + cap + 4, 0, after - x, px(_HEIGHT)),
                         Qt.AlignmentFlag.AlignVCenter, word)  # fmt: skip
        painter.setFont(lettering(11, bold=True))
        painter.setPen(QColor(colours.text))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, key)
        return after + _GAP
