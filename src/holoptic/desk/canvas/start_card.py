"""A large choice to begin with: a small live drawing, its words, and its key."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter
from PyQt6.QtWidgets import QWidget

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.desk.canvas.canvas import Line
from holoptic.desk.canvas.choice_card import ChoiceCard
from holoptic.desk.canvas.panes import small_picture
from holoptic.desk.look.icons import pixmap
from holoptic.desk.look.theme import lettering, pen, px, theme
from holoptic.job import PLAIN_LINES
from holoptic.pictorial import Picture

_CAPTION = 40
_ICON = 34
_LEAST = (118, 92)

PANES = (
    ((0.0, 0.0), (30.0, 0.0), (30.0, 9.0), (16.0, 9.0), (16.0, 20.0), (0.0, 20.0), (0.0, 0.0)),
    ((0.0, 26.0), (30.0, 26.0), (30.0, 42.0), (0.0, 42.0), (0.0, 26.0)),
    ((16.0, 26.0), (16.0, 42.0)),
    ((36.0, 0.0), (52.0, 0.0), (52.0, 20.0), (36.0, 20.0), (36.0, 0.0)),
    ((36.0, 9.0), (52.0, 9.0)),
)
"""Three small views, for whoever begins with views."""


class StartCard(ChoiceCard):
    """Shows what one begins with; without a drawing of its own, an icon."""

    def __init__(
        self, key: str, title: str, note: str = "", icon: str = "", parent: QWidget | None = None
    ) -> None:
        super().__init__(key, parent)
        self.thin = 0.6
        self.title, self.note, self._icon = title, note, icon
        self._lines: list[Line] = []
        self.setMinimumSize(px(_LEAST[0]), px(_LEAST[1]))
        self.setAccessibleName(tr("{title}, key {key}", title=title, key=key))
        self.setAccessibleDescription(note)
        self.setToolTip(f"{title}: {note} ({key})" if note else f"{title} ({key})")

    def show_picture(self, picture: Picture) -> None:
        """Show a part's picture."""
        self._take(small_picture(picture, PLAIN_LINES))

    def show_views(self, lines: Iterable[tuple[tuple[Vec2, ...], str]]) -> None:
        """Show the lines of a drawing, each with its style."""
        self._take(Line(path, style) for path, style in lines)

    def show_sketch(self, lines: Iterable[Line]) -> None:
        """Show lines of its own."""
        self._take(lines)

    def _take(self, lines: Iterable[Line]) -> None:
        self._lines = list(lines)
        self.place()

    def place(self) -> None:
        """Bring the drawing in over its caption."""
        points = [point for line in self._lines for point in line.path]
        if not points:
            self.show_lines([], None)
            return
        us, vs = zip(*points, strict=True)
        high = max(vs) - min(vs)
        below = high * px(_CAPTION) / max(self.height() - px(_CAPTION) - 20, 20)
        self.show_lines(self._lines, (min(us), min(vs) - below, max(us), max(vs)))

    def paint_paper(self, painter: QPainter) -> None:
        """Paint a card of paper."""
        self.paint_card(painter, theme().paper)

    def paint_over(self, painter: QPainter) -> None:
        """Write what it is, and its key."""
        colours, box = theme(), self.box
        if not self._lines and self._icon:
            size = px(_ICON)
            left = round(box.center().x() - size / 2)
            top = round((box.top() + box.bottom() - px(_CAPTION) - size) / 2)
            painter.drawPixmap(left, top, pixmap(self._icon, size, colours.hidden_ink))
        words = QRectF(box.left() + 9, box.bottom() - px(_CAPTION), box.width() - 16, px(17))
        self._write(painter, words, self.title, colours.ink, bold=True)
        words.translate(0, px(16))
        self._write(painter, words, self.note, colours.hidden_ink)
        painter.setFont(lettering(11))
        width = painter.fontMetrics().horizontalAdvance(self.key) + 10
        cap = QRectF(box.left() + 7, box.top() + 7, width, px(17))
        painter.setPen(pen(colours.hidden_ink, 1))
        painter.setBrush(QColor(colours.paper))
        painter.drawRoundedRect(cap, 4, 4)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawText(cap, Qt.AlignmentFlag.AlignCenter, self.key)
        self.paint_frame(painter, colours.paper_edge)

    def _write(
        self, painter: QPainter, box: QRectF, words: str, colour: str, bold: bool = False
    ) -> None:
        painter.setFont(lettering(12.5 if bold else 11, bold))
        painter.setPen(QColor(colour))
        cut = Qt.TextElideMode.ElideRight
        short = painter.fontMetrics().elidedText(words, cut, round(box.width()))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, short)
