"""The setting card: what the hand sets next, in figures to be read across a table."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import lettering, pen, px, theme
from holoptic.plan.card import CardText


class SettingCard(QWidget):
    """Paints a card; the figure is the largest thing on the desk."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(px(132))
        self.setAccessibleName(tr("setting card"))
        self._text: CardText | None = None
        self._count = ""

    def show_text(self, text: CardText | None, count: str) -> None:
        """Show a card; `count` says how far the work is."""
        self._text, self._count = text, count
        self.setAccessibleDescription(text.sentence if text else "")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint figure, instrument, sentence and details."""
        del event
        with painting(self) as painter:
            colours = theme()
            box = QRectF(self.rect()).adjusted(8.5, 4.5, -8.5, -4.5)
            painter.setPen(pen(colours.line, 1))
            painter.setBrush(QColor(colours.raised))
            painter.drawRoundedRect(box, 8, 8)
            if self._text is not None:
                self._paint_text(painter, self._text, box)

    def _paint_text(self, painter: QPainter, text: CardText, box: QRectF) -> None:
        colours, middle = theme(), Qt.AlignmentFlag.AlignCenter
        left = QRectF(box.left() + 8, box.top() + 4, px(232), box.height() - 8)
        painter.setFont(lettering(64 if len(text.figure) <= 5 else 46, bold=True))
        painter.setPen(QColor(colours.text))
        painter.drawText(left.adjusted(0, 0, 0, -px(26)), middle, text.figure)
        painter.setFont(lettering(15, bold=True))
        painter.setPen(QColor(colours.accent))
        under = f"{text.unit} · {text.instrument}" if text.unit else text.instrument
        painter.drawText(left.adjusted(0, left.height() - px(34), 0, -4), middle, under)
        painter.setPen(pen(colours.line, 1))
        painter.drawLine(round(left.right() + 6), round(box.top() + 14),
                         round(left.right() + 6), round(box.bottom() - 14))  # fmt: skip
        right = QRectF(left.right() + 22, box.top() + 10, box.right() - left.right() - 36,
                       box.height() - 18)  # fmt: skip
        self._paint_sentence(painter, text, right)

    def _paint_sentence(self, painter: QPainter, text: CardText, box: QRectF) -> None:
        colours = theme()
        painter.setFont(lettering(18, bold=True))
        painter.setPen(QColor(colours.text))
        flags = Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap
        used = painter.boundingRect(box, flags, text.sentence)
        painter.drawText(box, flags, text.sentence)
        painter.setFont(lettering(14))
        painter.setPen(QColor(colours.quiet))
        y = max(used.bottom() + 6, box.top() + px(50))
        for line in text.details:
            painter.drawText(QRectF(box.left(), y, box.width(), px(20)), line)
            y += px(19)
        corner = QRectF(box.right() - px(200), box.bottom() - px(14), px(200), px(18))
        painter.drawText(corner, Qt.AlignmentFlag.AlignRight, self._count)
