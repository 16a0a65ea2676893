"""A live small picture of the part as it could be drawn, with what speaks for it."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QResizeEvent
from PyQt6.QtWidgets import QWidget

from holoptic.desk.canvas import Canvas
from holoptic.desk.panes import small_picture
from holoptic.desk.theme import SIGN, lettering, pen, theme
from holoptic.job import Choice
from holoptic.pictorial import Picture

_CAPTION = 100
_TOP = 8


class SmallPicture(Canvas):
    """A small picture that is chosen by a click or by its key.

    Signals:
        chosen: it was clicked, or Enter or space was pressed on it.
    """

    chosen = pyqtSignal()

    def __init__(self, key: str, parent: QWidget | None = None) -> None:
        super().__init__(parent, margin=10)
        self.key = key
        self.titles = ("", "")
        self.reasons = ""
        self.is_chosen = False
        self.touchable = False
        self.thin = 0.65
        self._picture: Picture | None = None
        self._choice = Choice()
        self.setMinimumSize(96, 150)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_choice(
        self, picture: Picture | None, choice: Choice, titles: tuple[str, str], reasons: str,
        chosen: bool,
    ) -> None:  # fmt: skip
        """Show a picture with kind, near corner and reasons; `chosen` frames it."""
        shown = (self._choice, self.titles, self.reasons, self.is_chosen)
        if picture is self._picture and (choice, titles, reasons, chosen) == shown:
            return
        self.titles, self.reasons, self.is_chosen = titles, reasons, chosen
        title = ", ".join(titles)
        self._picture, self._choice = picture, choice
        self.setAccessibleName(f"{title}, key {self.key}")
        self.setAccessibleDescription(reasons)
        self.setToolTip(f"{title}: {reasons} (press {self.key})" if titles[0] else "")
        self._place()

    def _place(self) -> None:
        if self._picture is None:
            self.show_lines([], None)
            return
        xmin, ymin, xmax, ymax = self._picture.extent
        below = (ymax - ymin) * _CAPTION / max(self.height() - _CAPTION - 24, 40)
        lines = small_picture(self._picture, self._choice)
        self.show_lines(lines, (xmin, ymin - below, xmax, ymax))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Keep the caption's room free."""
        super().resizeEvent(event)
        self._place()

    def paint_paper(self, painter: QPainter) -> None:
        """Paint a card of paper."""
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(theme().paper))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def paint_over(self, painter: QPainter) -> None:
        """Write the caption and draw the frame of the chosen one."""
        colours = theme()
        box = QRectF(self.rect()).adjusted(1.5, 1.5, -1.5, -1.5)
        base = box.bottom() - _CAPTION
        flags = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop
        painter.setFont(lettering(11, bold=True))
        painter.setPen(QColor(colours.ink))
        for row, title in enumerate(self.titles):
            short = painter.fontMetrics().elidedText(
                title, Qt.TextElideMode.ElideRight, round(box.width() - 14)
            )
            place = QRectF(box.left() + 8, base + 14 * row, box.width() - 12, 16)
            painter.drawText(place, flags, short)
        painter.setFont(lettering(10.5))
        painter.setPen(QColor(colours.hidden_ink))
        words = QRectF(box.left() + 8, base + 31, box.width() - 12, _CAPTION - 32)
        painter.drawText(words, flags | Qt.TextFlag.TextWordWrap, self.reasons)
        cap = QRectF(box.left() + 6, box.top() + _TOP - 2, 17, 17)
        painter.setPen(pen(colours.hidden_ink, 1))
        painter.drawRoundedRect(cap, 4, 4)
        painter.drawText(cap, Qt.AlignmentFlag.AlignCenter, self.key)
        painter.setPen(pen(SIGN, 3) if self.is_chosen else pen(colours.paper_edge, 1))
        painter.drawRoundedRect(box, 6, 6)
        if self.hasFocus():
            painter.setPen(pen(colours.ghost, 1.5, (3, 3)))
            painter.drawRoundedRect(box.adjusted(4, 4, -4, -4), 4, 4)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Choose it."""
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self.chosen.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Choose it by Enter or space while it has the focus."""
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space):
            self.chosen.emit()
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        """Show the focus."""
        super().focusInEvent(event)
        self.update()
