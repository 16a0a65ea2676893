"""The setting card: what the hand sets next, in figures to be read across a table."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import lettering, pen, px, theme
from holoptic.desk.widgets.spoken_roles import Depiction
from holoptic.plan.card import CardText

_TEXT_PIXELS = ((18, 14), (16, 13), (14, 12), (12, 11))
"""Sizes of sentence and details: the largest at which all of the card has room is taken."""
_FIGURE_PIXELS, _FIGURE_SHARE = (64, 46, 36, 28), 0.38
"""Sizes of the figure, by the same rule, and how much of a narrow card it may take."""
_COUNT_PIXELS = 14
_ROOM_OF_COUNT, _MARGIN = 172, 16
_WRAPPED = Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap


class SettingCard(Depiction):
    """Paints a card; the figure is the largest thing on the desk."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(px(132))
        self.setAccessibleName(tr("setting card"))
        self._text: CardText | None = None
        self._count = ""
        self._row: QWidget | None = None

    def show_text(self, text: CardText | None, count: str) -> None:
        """Show a card; `count` says how far the work is."""
        self._text, self._count = text, count
        self._place_row()
        self.setAccessibleDescription(text.sentence if text else "")
        self.update()

    def put_in(self, row: QWidget) -> None:
        """Let a row stand on the card, under the sentence."""
        self._row = row
        row.setParent(self)
        self._place_row()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Keep the row in its place."""
        super().resizeEvent(event)
        self._place_row()

    def _place_row(self) -> None:
        if self._row is not None:
            left = self._words_left()
            hint = self._row.sizeHint()
            wide = self.width() - left - px(_MARGIN)
            # the count of moves stands at the right, where there is room for both
            if hint.width() <= wide - px(_ROOM_OF_COUNT):
                wide -= px(_ROOM_OF_COUNT)
            self._row.setGeometry(round(left), self.height() - hint.height() - px(12), round(wide),
                                  hint.height())  # fmt: skip

    @property
    def _count_shown(self) -> str:
        """What is said of how far the work is: nothing where the row needs the room; the strip
        below tells it too.
        """
        if self._row is None or self._row.isHidden():
            return self._count
        right = self._row.geometry().right()
        return self._count if right <= self.width() - px(_ROOM_OF_COUNT) else ""

    def _words_left(self) -> float:
        """Return where sentence and details begin, from the left edge of the card."""
        return 16.5 + min(px(232), _FIGURE_SHARE * (self.width() - 17)) + 22

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
        wide = min(px(232), _FIGURE_SHARE * box.width())
        left = QRectF(box.left() + 8, box.top() + 4, wide, box.height() - 8)
        for size in _FIGURE_PIXELS:
            painter.setFont(lettering(size, bold=True))
            if painter.fontMetrics().horizontalAdvance(text.figure) <= wide:
                break
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
        """Write the sentence, smaller where it is long, its details, and how far the work is."""
        colours = theme()
        painter.setFont(lettering(_COUNT_PIXELS))
        said = self._count_shown
        count = painter.fontMetrics().horizontalAdvance(said) + px(12) if said else 0
        corner = QRectF(box.right() - count, box.bottom() - px(14), count, px(18))
        painter.setPen(QColor(colours.quiet))
        painter.drawText(corner, Qt.AlignmentFlag.AlignRight, said)
        for large, small in _TEXT_PIXELS:
            painter.setFont(lettering(large, bold=True))
            used = painter.boundingRect(box, _WRAPPED, text.sentence)
            painter.setFont(lettering(small))
            rows = self._rows(painter, text, box, used.bottom(), corner)
            if all(row.width() >= wide and row.bottom() <= box.bottom() + 6 for row, wide in rows):
                break
        painter.setPen(QColor(colours.text))
        painter.setFont(lettering(large, bold=True))
        painter.drawText(box, _WRAPPED, text.sentence)
        painter.setFont(lettering(small))
        painter.setPen(QColor(colours.quiet))
        for line, (row, _) in zip(text.details, rows, strict=True):
            cut = Qt.TextElideMode.ElideRight
            painter.drawText(row, painter.fontMetrics().elidedText(line, cut, int(row.width())))

    def _rows(
        self, painter: QPainter, text: CardText, box: QRectF, under: float, corner: QRectF
    ) -> list[tuple[QRectF, int]]:
        """Return the room of each detail under a sentence, beside the count, and its width."""
        high = painter.fontMetrics().height() + 2
        y, rows = max(under + 4, box.top() + px(50)), []
        for line in text.details:
            beside = corner.width() if y + high > corner.top() else 0
            wide = painter.fontMetrics().horizontalAdvance(line)
            rows.append((QRectF(box.left(), y, box.width() - beside, high), wide))
            y += high
        return rows
