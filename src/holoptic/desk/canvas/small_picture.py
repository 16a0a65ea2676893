"""A live small picture of the part as it could be drawn, with what speaks for it."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter
from PyQt6.QtWidgets import QWidget

from holoptic.catalogue import tr
from holoptic.desk.canvas.canvas import Line
from holoptic.desk.canvas.choice_card import ChoiceCard
from holoptic.desk.canvas.panes import small_picture
from holoptic.desk.look.theme import lettering, pen, px, theme
from holoptic.job import PLAIN_LINES, LineSchool
from holoptic.pictorial import Picture

_CAPTION = 100
_TOP = 8


class SmallPicture(ChoiceCard):
    """A small picture with kind, near corner and reasons under it."""

    def __init__(self, key: str, parent: QWidget | None = None) -> None:
        super().__init__(key, parent)
        self.titles = ("", "")
        self.reasons = ""
        self.thin = 0.65
        self._picture: Picture | None = None
        self._school = PLAIN_LINES
        self.lit: frozenset[int] = frozenset()
        """Operations whose lines are lit up."""

    def show_choice(
        self, picture: Picture | None, lines: LineSchool, titles: tuple[str, str], reasons: str,
        chosen: bool,
    ) -> None:  # fmt: skip
        """Show a picture with kind, near corner and reasons; `chosen` frames it."""
        shown = (self._school, self.titles, self.reasons, self.is_chosen)
        if picture is self._picture and (lines, titles, reasons, chosen) == shown:
            return
        self.titles, self.reasons, self.is_chosen = titles, reasons, chosen
        title = ", ".join(titles)
        self._picture, self._school = picture, lines
        self.setAccessibleName(tr("{title}, key {key}", title=title, key=self.key))
        self.setAccessibleDescription(reasons)
        self.setToolTip(
            tr("{title}: {reasons} (press {key})", title=title, reasons=reasons, key=self.key)
            if titles[0]
            else ""
        )
        self.place()

    def place(self) -> None:
        """Bring the picture in over its caption."""
        if self._picture is None:
            self.show_lines([], None)
            return
        xmin, ymin, xmax, ymax = self._picture.extent
        below = (ymax - ymin) * px(_CAPTION) / max(self.height() - px(_CAPTION) - 24, 40)
        lines = [
            Line(stroke.path, "hovered")
            for stroke in self._picture.visible
            if stroke.origin.operation in self.lit
        ]
        lines += small_picture(self._picture, self._school)
        self.show_lines(lines, (xmin, ymin - below, xmax, ymax))

    def paint_paper(self, painter: QPainter) -> None:
        """Paint a card of paper."""
        self.paint_card(painter, theme().paper)

    def paint_over(self, painter: QPainter) -> None:
        """Write the caption and draw the frame of the chosen one."""
        colours = theme()
        box = self.box
        base = box.bottom() - px(_CAPTION)
        flags = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop
        painter.setFont(lettering(11, bold=True))
        painter.setPen(QColor(colours.ink))
        for row, title in enumerate(self.titles):
            short = painter.fontMetrics().elidedText(
                title, Qt.TextElideMode.ElideRight, round(box.width() - 14)
            )
            place = QRectF(box.left() + 8, base + px(14) * row, box.width() - 12, px(16))
            painter.drawText(place, flags, short)
        painter.setFont(lettering(10.5))
        painter.setPen(QColor(colours.hidden_ink))
        words = QRectF(box.left() + 8, base + px(31), box.width() - 12, px(_CAPTION) - px(32))
        painter.drawText(words, flags | Qt.TextFlag.TextWordWrap, self.reasons)
        cap = QRectF(box.left() + 6, box.top() + _TOP - 2, px(17), px(17))
        painter.setPen(pen(colours.hidden_ink, 1))
        painter.drawRoundedRect(cap, 4, 4)
        painter.drawText(cap, Qt.AlignmentFlag.AlignCenter, self.key)
        self.paint_frame(painter, colours.paper_edge)
