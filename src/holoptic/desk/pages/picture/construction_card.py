"""The construction card: one line's construction drawn large, its figures, the other ways."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from PyQt6.QtCore import QEvent, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QHelpEvent, QMouseEvent, QPainter
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QSizePolicy, QToolTip, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.construction.cards import Alternative, Card, Figure
from holoptic.curves.paper import extent
from holoptic.desk.canvas.canvas import Box, Canvas, Line
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import drafting_lettering, lettering, pen, px, shade, theme
from holoptic.tolerance import SHOWN_MM
from holoptic.units import Unit, show
from holoptic.units.spoken import said

_STYLES = {
    "true": "card true", "oval": "visible", "construction": "light", "offset": "card offset",
    "edge": "visible",
}  # fmt: skip
_ROW = 23.0
_HEAD = 20.0
_BARS, _BAR_LENGTH = 110, 24
"""Where the bars of the alternatives begin, and the longest of them, in pixels."""


class CardDrawing(Canvas):
    """The construction with its letters."""

    def __init__(self) -> None:
        super().__init__(margin=22)
        self.touchable = False
        self.setAccessibleName(tr("construction drawn large"))
        self._card: Card | None = None

    def show_card(self, card: Card) -> None:
        """Show the drawing of a card."""
        self._card = card
        lines = [Line(line.path, _STYLES[line.role]) for line in card.lines]
        self.show_lines(lines, _shown_extent(card))

    def paint_over(self, painter: QPainter) -> None:
        """Letter the points, each letter away from the middle."""
        if self._card is None:
            return
        box = QRectF(self.rect())
        places = [(letter, self.to_screen(place)) for letter, place in self._card.marks]
        marks = [(letter, place) for letter, place in places if box.contains(place)]
        if not marks:
            return
        middle = sum((place for _, place in marks), QPointF()) / len(marks)
        painter.setFont(drafting_lettering(13))
        for letter, place in marks:
            painter.setPen(pen(theme().ghost, 1.4))
            painter.setBrush(QColor(theme().paper))
            painter.drawEllipse(place, 2.6, 2.6)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            way = place - middle
            size = max((way.x() ** 2 + way.y() ** 2) ** 0.5, 1.0)
            box = QRectF(0, 0, 14, 14)
            box.moveCenter(place + way / size * 12)
            painter.fillRect(box, shade(theme().paper, 170))
            painter.setPen(QColor(theme().ghost))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, letter)


def _shown_extent(card: Card) -> Box:
    """Return what the drawing shows: all of it, unless far arc centres would make it small."""
    whole = extent([point for line in card.lines for point in line.path])
    curve = extent([p for line in card.lines if line.role in ("true", "edge") for p in line.path])
    reach = _FARTHEST * max(curve[2] - curve[0], curve[3] - curve[1])
    return (
        max(whole[0], curve[0] - reach), max(whole[1], curve[1] - reach),
        min(whole[2], curve[2] + reach), min(whole[3], curve[3] + reach),
    )  # fmt: skip


_FARTHEST = 0.25
"""How far beyond the curve the drawing reaches, in sizes of the curve."""


@contextmanager
def _headed(widget: QWidget, left: float, words: str) -> Iterator[QPainter]:
    """Paint a table under its head."""
    with painting(widget) as painter:
        painter.setFont(lettering(12))
        painter.setPen(QColor(theme().quiet))
        box = QRectF(left, 0, widget.width() - left, px(_HEAD))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, words)
        yield painter


class FigureTable(QWidget):
    """The figures of a card in two columns."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(tr("figures of the construction"))
        self.rows: list[tuple[str, str]] = []
        self._unit = Unit.MM

    def show_figures(self, figures: tuple[Figure, ...], unit: Unit) -> None:
        """Show figures in a unit."""
        self._unit = unit
        self.rows = [(figure.label, figure_text(figure, unit)) for figure in figures]
        self.setAccessibleDescription("; ".join(f"{name} {value}" for name, value in self.rows))
        self.update()

    def paintEvent(self, event: object) -> None:
        """Paint label and value of each row."""
        del event
        with _headed(self, 0, tr("figures on paper, {label}", label=self._unit.label)) as painter:
            height = min(px(_ROW), (self.height() - px(_HEAD)) / max(len(self.rows), 1))
            for number, (label, value) in enumerate(self.rows):
                box = QRectF(0, px(_HEAD) + number * height, self.width() - 6, height)
                painter.setFont(lettering(12))
                painter.setPen(QColor(theme().quiet))
                painter.drawText(
                    box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, label
                )
                painter.setFont(lettering(13, bold=True))
                painter.setPen(QColor(theme().text))
                painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
                                 value)  # fmt: skip


class AlternativeList(QWidget):
    """The ways to draw the circle, each with a bar for how far it is off.

    Signals:
        chosen(method): a row was clicked.
    """

    chosen = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(tr("ways to draw it"))
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.items: tuple[Alternative, ...] = ()
        self._unit = Unit.MM

    def show_items(self, items: tuple[Alternative, ...], unit: Unit) -> None:
        """Show the alternatives."""
        self.items, self._unit = items, unit
        said = (f"{item.title}: {self._words(item)}" for item in items)
        self.setAccessibleDescription("; ".join(said))
        self.update()

    def row_rect(self, number: int) -> QRectF:
        """Return the place of a row, in pixels."""
        return QRectF(0, px(_HEAD) + number * px(_ROW), self.width() - 2, px(_ROW))

    def _words(self, item: Alternative) -> str:
        if item.deviation is None:
            return item.note
        if item.deviation < SHOWN_MM:
            return "exact"
        share = f"{100 * (item.share or 0.0):.2g} %"
        return f"{show(item.deviation, self._unit)}  ·  {share}"

    def paintEvent(self, event: object) -> None:
        """Paint head and rows."""
        del event
        with _headed(
            self, 6, tr("gap on paper, {label}, and of ⌀", label=self._unit.label)
        ) as painter:
            worst = max((item.deviation or 0.0 for item in self.items), default=0.0) or 1.0
            for number, item in enumerate(self.items):
                self._paint_row(painter, self.row_rect(number), item, worst)

    def _paint_row(
        self, painter: QPainter, box: QRectF, item: Alternative, worst: float
    ) -> None:  # fmt: skip
        colours = theme()
        if item.chosen:
            painter.setPen(pen(colours.accent, 1.6))
            painter.setBrush(shade(colours.accent, 30))
            painter.drawRoundedRect(box.adjusted(1, 1, -1, -1), 5, 5)
            painter.setBrush(Qt.BrushStyle.NoBrush)
        left = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        usable = item.deviation is not None
        painter.setFont(lettering(12.5, bold=item.chosen))
        painter.setPen(QColor(colours.text if usable else colours.quiet))
        painter.drawText(box.adjusted(8, 0, 0, 0), left, item.title)
        start = box.left() + _BARS
        painter.setFont(lettering(11.5))
        if not usable:
            painter.setPen(QColor(colours.quiet))
            words = painter.fontMetrics().elidedText(
                item.note, Qt.TextElideMode.ElideRight, round(box.right() - start - 4)
            )
            painter.drawText(box.adjusted(_BARS, 0, 0, 0), left, words)
            return
        share = (item.deviation or 0.0) / worst
        bar = QRectF(start, box.center().y() - 3, max(2.0, _BAR_LENGTH * share), 6)
        painter.fillRect(bar, QColor(colours.ghost if share > 0 else colours.accent))
        painter.setPen(QColor(colours.text))
        painter.drawText(box.adjusted(_BARS + _BAR_LENGTH + 6, 0, 0, 0), left, self._words(item))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Choose the row under the pointer, if it can be used."""
        if event is None:
            return
        for number, item in enumerate(self.items):
            if item.deviation is not None and self.row_rect(number).contains(event.position()):
                self.chosen.emit(item.method)

    def event(self, event: QEvent | None) -> bool:
        """Explain in full why a way cannot be used."""
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            rows = enumerate(self.items)
            at = event.pos().toPointF()
            notes = [item.note for k, item in rows if self.row_rect(k).contains(at)]
            if notes and notes[0]:
                QToolTip.showText(event.globalPos(), tr("Not here: {notes}", notes=notes[0]), self)
            return True
        return super().event(event)


class ConstructionCard(QWidget):
    """The card of the selected edge.

    Signals:
        method_chosen(method): another way to draw the circle was clicked.
    """

    method_chosen = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(tr("construction card"))
        self.title = QLabel()
        self.title.setObjectName("heading")
        self.remark = QLabel()
        self.remark.setWordWrap(True)
        self.keys = QLabel()
        for label in (self.remark, self.keys):
            label.setObjectName("quiet")
        for label in (self.title, self.remark, self.keys):
            # long words must not push the views aside
            label.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.drawing = CardDrawing()
        self.drawing.setFixedWidth(206)
        self.figures = FigureTable()
        self.ways = AlternativeList()
        self.ways.chosen.connect(self.method_chosen)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(10, 2, 8, 6)
        layout.setSpacing(2)
        layout.addWidget(self.title)
        layout.addWidget(self.remark)
        row = QHBoxLayout()
        row.setSpacing(10)
        row.addWidget(self.drawing)
        row.addWidget(self.figures, 10)
        row.addWidget(self.ways, 13)
        layout.addLayout(row, 1)
        layout.addWidget(self.keys)

    def show_card(self, card: Card, unit: Unit) -> None:
        """Show a card with its lengths in a unit."""
        title = said(card.title, unit)
        self.title.setText(f"“{card.feature}” · {title}")
        remark = said(card.remark, unit)
        self.remark.setText(remark[:1].upper() + remark[1:])
        self.setAccessibleDescription(f"{title}. {remark}")
        self.drawing.show_card(card)
        self.figures.show_figures(card.figures, unit)
        self.ways.setVisible(bool(card.alternatives))
        self.ways.show_items(card.alternatives, unit)
        self.keys.setText(
            tr("M: next way for this feature    Shift+M: for all    B: show the gap    Esc: close")
            if card.alternatives
            else tr("Esc: close")
        )


def figure_text(figure: Figure, unit: Unit) -> str:
    """Return a figure as it is written, with what it becomes behind an arrow."""
    values = [figure.value] if figure.drawn is None else [figure.value, figure.drawn]
    if figure.quantity == "angle":
        return f"{figure.value:.4g}°"
    if figure.quantity == "area":
        return " → ".join(f"{value / 100:.4g}" for value in values) + " cm²"
    return " → ".join(show(value, unit) for value in values)
