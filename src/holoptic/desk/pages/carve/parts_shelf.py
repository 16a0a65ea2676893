"""The shelf: every part of the job as a small picture, with what the parts list says of it."""

from __future__ import annotations

from functools import partial
from typing import get_args

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QShowEvent
from PyQt6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QScrollArea,
    QSpinBox,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.canvas.choice_card import ChoiceCard
from holoptic.desk.canvas.panes import small_picture
from holoptic.desk.look.theme import lettering, px, theme
from holoptic.desk.session.session import Session
from holoptic.job import PLAIN_LINES, Colour, JobPart, LineSchool
from holoptic.pictorial import Picture

_HEIGHT = 122
_CARD = 92
_CAPTION = 30
COLOURS: dict[Colour, str] = {
    "none": "#ffffff00", "brass": "#c79a2b", "iron": "#4a4f57", "slate": "#5b7a94",
    "rust": "#a8492a", "moss": "#5f7d3a", "sand": "#cdb891",
}  # fmt: skip
_MARKS = {"brass": "◆", "iron": "■", "slate": "▲", "rust": "●", "moss": "★", "sand": "▬"}
"""Colours are told apart by their marks too."""


class _PartCard(ChoiceCard):
    """One part on the shelf."""

    def __init__(self) -> None:
        super().__init__("")
        self.inset = 6
        self.thin = 0.5
        self.setFixedSize(px(_CARD), px(_CARD))
        self.item: JobPart | None = None
        self._picture: Picture | None = None
        self._lines = PLAIN_LINES

    def show_part(
        self, item: JobPart, picture: Picture | None, lines: LineSchool, chosen: bool
    ) -> None:
        """Show a part with its name, quantity and mark."""
        shown = self.item, self._lines, self.is_chosen
        if (item, lines, chosen) == shown and picture is self._picture:
            return
        self.item, self._picture, self._lines, self.is_chosen = item, picture, lines, chosen
        self.setAccessibleName(
            tr("{name}, {quantity} of it", name=item.source.name, quantity=item.quantity)
        )
        self.setToolTip(f"{item.source.name} {item.material}".strip())
        self.place()
        self.update()

    def place(self) -> None:
        """Bring the picture in over its caption."""
        if self._picture is None or self.item is None:
            self.show_lines([], None)
            return
        xmin, ymin, xmax, ymax = self._picture.extent
        below = (ymax - ymin) * px(_CAPTION) / max(self.height() - px(_CAPTION) - 12, 20)
        lines = small_picture(self._picture, self._lines)
        self.show_lines(lines, (xmin, ymin - below, xmax, ymax))

    def paint_paper(self, painter: QPainter) -> None:
        """Paint a card of paper."""
        self.paint_card(painter, theme().paper)

    def paint_over(self, painter: QPainter) -> None:
        """Write name and quantity, with the mark."""
        if self.item is not None:
            base = QRectF(8, self.height() - 22, self.width() - 14, 16)
            mark = _MARKS.get(self.item.colour, "")
            painter.setFont(lettering(11))
            if mark:
                painter.setPen(QColor(COLOURS[self.item.colour]))
                painter.drawText(base, Qt.AlignmentFlag.AlignRight, mark)
            painter.setPen(QColor(theme().ink))
            times = f"{self.item.quantity} × " if self.item.quantity > 1 else ""
            room = int(base.width()) - (16 if mark else 0)
            words = painter.fontMetrics().elidedText(
                f"{times}{self.item.source.name}", Qt.TextElideMode.ElideRight, room
            )
            painter.drawText(base, words)
        self.paint_frame(painter, theme().paper_edge)


class PartsShelf(QWidget):
    """A row of parts; the chosen one lies on the desk, its entry in the parts list beside it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("column")
        self.setFixedHeight(px(_HEIGHT))
        self._cards: list[_PartCard] = []
        row = QHBoxLayout(self)
        row.setContentsMargins(8, 4, 8, 6)
        self._strip = QWidget()
        self._row = QHBoxLayout(self._strip)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(5)
        self._row.addStretch(1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QScrollArea.Shape.NoFrame)
        scroll.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(self._strip)
        row.addWidget(scroll, 1)
        self._row.addWidget(self._entry())  # in a narrow window one scrolls to it
        session.document.changed.connect(self.refresh)
        session.shelf.changed.connect(self.refresh)
        self.hide()

    def _entry(self) -> QWidget:
        box = QWidget()
        grid = QGridLayout(box)
        grid.setContentsMargins(6, 0, 0, 0)
        grid.setSpacing(3)
        self.quantity = QSpinBox()
        self.quantity.setRange(1, 999)
        self.quantity.setAccessibleName(tr("quantity"))
        self.quantity.editingFinished.connect(lambda: self._take(quantity=self.quantity.value()))
        self.material = QLineEdit()
        self.material.setAccessibleName(tr("material note"))
        self.material.setPlaceholderText(tr("material"))
        self.material.setFixedWidth(px(112))
        self.material.editingFinished.connect(lambda: self._take(material=self.material.text()))
        self.colour = QComboBox()
        self.colour.setAccessibleName(tr("mark in the parts list"))
        for colour in get_args(Colour):
            self.colour.addItem(f"{_MARKS.get(colour, '–')} {colour}", colour)
        self.colour.activated.connect(lambda at: self._take(colour=self.colour.itemData(at)))
        fields = (("quantity", self.quantity), ("material", self.material), ("mark", self.colour))
        for number, (title, field) in enumerate(fields):
            label = QLabel(title)
            label.setObjectName("quiet")
            grid.addWidget(label, number, 0)
            grid.addWidget(field, number, 1)
        return box

    def _take(self, **changes: object) -> None:
        self.session.document.list_part(**changes)

    def toggle(self) -> None:
        """Show or hide the shelf."""
        self.setVisible(self.isHidden())

    def showEvent(self, event: QShowEvent | None) -> None:
        """Have the parts pictured from now on."""
        super().showEvent(event)
        self.session.shelf.want(True)
        self.refresh()

    def refresh(self) -> None:
        """Show the parts of the job."""
        if not self.isVisible():
            return
        job = self.session.document.job
        parts = job.parts
        while len(self._cards) > len(parts):
            card = self._cards.pop()
            self._row.removeWidget(card)
            card.deleteLater()
        while len(self._cards) < len(parts):
            card = _PartCard()
            card.chosen.connect(partial(self.session.document.choose_part, len(self._cards)))
            self._row.insertWidget(len(self._cards), card)
            self._cards.append(card)
        for number, (card, item) in enumerate(zip(self._cards, parts, strict=True)):
            lines = job.main_figure(item.id).lines
            is_chosen = number == self.session.document.part_index
            card.show_part(item, self.session.shelf.picture_of(item), lines, is_chosen)
        own = self.session.document.job_part
        if own is not None:
            if not self.quantity.hasFocus():
                self.quantity.setValue(own.quantity)
            if not self.material.hasFocus():
                self.material.setText(own.material)
            self.colour.setCurrentIndex(self.colour.findData(own.colour))
