"""The setting card: what the hand sets next, in figures to be read across a table."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import lettering, pen, px, theme
from holoptic.plan import Move, Plan
from holoptic.units import Unit, show
from holoptic.units.spoken import said
from holoptic.views.orthographic import VIEW_TITLES

_WORDS = {
    "lay": tr("sheet"),
    "firm in": tr("firm"),
    "join": tr("join"),
    "meet": tr("mark"),
    "nearest": tr("mark"),
    "plot": tr("offsets"),
    "curve": tr("curve"),
    "trammel": tr("ellipse"),
    "freehand": tr("by hand"),
    "touch": tr("touch"),
}
_WORTH_SAYING_MM = 0.05


@dataclass(frozen=True)
class CardText:
    """What stands on the card."""

    figure: str
    unit: str
    instrument: str
    sentence: str
    details: tuple[str, ...]


def card_text(
    plan: Plan, index: int, unit: Unit, seconds: Mapping[int, float] | None = None
) -> CardText:
    """Return what the card says before move `index`; after the last move it says so.

    `seconds` are those that moves took before, by their number.
    """
    if index >= len(plan.moves):
        gap: tuple[str, ...] = ()
        if plan.true_gap_mm >= _WORTH_SAYING_MM:
            figure = f"{show(plan.true_gap_mm, unit)} {unit.label}"
            gap = (
                tr(
                    "off the true ellipse by up to {figure}, at “{true_gap_at}”",
                    figure=figure,
                    true_gap_at=plan.true_gap_at,
                ),
            )
        return CardText("✓", "", "finished", tr("The drawing is done. Every stroke stands."), gap)
    move = plan.moves[index]
    details = _details(move, plan, unit)
    if seconds and seconds.get(move.n, 0.0) >= 1:
        minute, second = divmod(round(seconds[move.n]), 60)
        details = (*details, tr("last time   {minute}:{second:02}", minute=minute, second=second))
    return CardText(*_figure(move, unit), tr(move.instrument), move.said(unit), details)


def _figure(move: Move, unit: Unit) -> tuple[str, str]:
    if move.setting_mm is not None:
        return show(move.setting_mm, unit), unit.label
    if move.angle_deg is not None:
        turn = move.angle_deg % 180
        return f"{min(turn, 180 - turn):.3g}°", ""
    return _WORDS.get(move.verb, "…"), ""


def _details(move: Move, plan: Plan, unit: Unit) -> tuple[str, ...]:
    details = []
    lift = move.lift
    if lift is not None:
        sum_words, given = show(lift.true_mm, unit), said(lift.words, unit)
        if given != sum_words:
            sum_words = f"{given} = {sum_words}"
        details.append(
            tr(
                "lift   {view_titles}, a to b: {sum_words}",
                view_titles=VIEW_TITLES[lift.view],
                sum_words=sum_words,
            )
        )
        details.append(
            tr(
                "lay off   from {uses} to the new point {makes}",
                uses=move.uses[0],
                makes=move.makes[0],
            )
        )
        scale = plan.setup.scale
        if scale != 1:
            figure = show(move.setting_mm or 0.0, unit)
            details.append(
                tr(
                    "on the rule   {figure}, true {true_mm} at {scale_text}",
                    figure=figure,
                    true_mm=show(lift.true_mm, unit),
                    scale_text=plan.setup.scale_text or f"× {scale:g}",
                )
            )
    elif move.tolerance_mm is not None:
        details.append(
            tr(
                "allow   ± {tolerance_mm}; if it reads more, look back",
                tolerance_mm=show(move.tolerance_mm, unit),
            )
        )
    elif move.verb == "plot":
        details += _table(move, unit)
    elif move.angle_deg is not None and move.setting_mm is None:
        details.append(tr("the line   {slant}", slant=_slant(move.angle_deg % 180)))
    return tuple(details)


_TABLE_LINES, _TABLE_LETTERS = 3, 84


def _table(move: Move, unit: Unit) -> list[str]:
    """Return the offsets of a move in a few lines: as many points as the card has room for."""
    lines = [""]
    for name, row in zip(move.makes, move.table, strict=True):
        words = f"{name}: {', '.join(show(value, unit) for value in row)}"
        if lines[-1] and len(lines[-1]) + len(words) > _TABLE_LETTERS:
            if len(lines) == _TABLE_LINES:
                lines[-1] += "  …"
                break
            lines.append("")
        lines[-1] += ("     " if lines[-1] else "") + words
    return lines


def _slant(turn: float) -> str:
    """Say how a line at an angle in [0, 180) runs, as one looks at the board."""
    if turn in (0.0, 90.0):
        return "level" if turn == 0.0 else "upright"
    return tr("rises to the right") if turn < 90 else tr("rises to the left")


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
