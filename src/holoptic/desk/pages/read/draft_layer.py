"""What the sheet shows while views are drawn on it: panes, offers, the 45° line, the walk."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.desk.canvas.canvas import Box, Canvas, stroke_pen
from holoptic.desk.look.theme import SIGN, lettering, pen, shade, theme
from holoptic.desk.pages.read.draft_panel import InHand
from holoptic.part.outline import Side, polyline, sides_of
from holoptic.part.walk import Walk
from holoptic.reading.draft import PANES, Draft
from holoptic.reading.planes import PLANES
from holoptic.units import show

_REACH_PIXELS = 9.0


def draft_extent(draft: Draft) -> Box:
    """Return the box about the three panes, sheet mm."""
    corners = []
    for view in PANES:
        (x, y), (width, height) = draft.origin(view), draft.pane_size(view)
        corners += [(x, y), (x + width, y + height)]
    xs, ys = zip(*corners, strict=True)
    return min(xs), min(ys), max(xs), max(ys)


def snapped(in_hand: InHand, place: Vec2, pixels_per_mm: float) -> Vec2:
    """Return the place of the pane in hand that a place of the sheet means.

    Each coordinate snaps to what is offered there within reach, else to half millimetres.
    """
    origin, reach = in_hand.draft.origin(in_hand.view), _REACH_PIXELS / pixels_per_mm
    found = []
    for value, start, offers in zip(place, origin, in_hand.draft.offers(in_hand.view), strict=True):
        at = value - start
        nearest = min((offer.length.mm for offer in offers), key=lambda mm: abs(mm - at))
        found.append(nearest if abs(nearest - at) <= reach else round(at * 2) / 2)
    return found[0], found[1]


def paint_panes(painter: QPainter, sheet: Canvas, in_hand: InHand) -> None:
    """Paint the frames of the panes, the one in hand strongly, and what it is offered."""
    draft = in_hand.draft
    for view in PANES:
        box = _frame(sheet, draft, view)
        is_own = view == in_hand.view
        painter.fillRect(box, shade(theme().marker, 26 if is_own else 0))
        painter.setPen(stroke_pen("crate") if not is_own else pen(theme().ghost, 1.2, (2, 3)))
        painter.drawRect(box)
        label = QRectF(box.left(), box.top() - 26, 88, 20)
        paint_label(painter, label, view, 255 if is_own else 120)
    _paint_offers(painter, sheet, in_hand)


def _frame(sheet: Canvas, draft: Draft, view: str) -> QRectF:
    (x, y), (width, height) = draft.origin(view), draft.pane_size(view)
    return QRectF(sheet.to_screen((x, y + height)), sheet.to_screen((x + width, y)))


def paint_label(painter: QPainter, box: QRectF, name: str, alpha: int) -> None:
    """Paint the label of a view."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(shade(SIGN, alpha))
    painter.drawRoundedRect(box, 5, 5)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setFont(lettering(12, bold=True))
    painter.setPen(QColor("#ffffff"))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, tr("{name} view", name=tr(name)))


def _paint_offers(painter: QPainter, sheet: Canvas, in_hand: InHand) -> None:
    """Carry what the other panes have into the pane in hand, as light lines."""
    draft, view = in_hand.draft, in_hand.view
    axes = PLANES[view].axes
    (x, y), (width, height) = draft.origin(view), draft.pane_size(view)
    (_, top), (side, _) = draft.origin("top"), draft.origin("right")
    depth = draft.size[1].mm
    ends = (side, top), (side + depth, top + depth)
    sheet.draw_path(painter, ends, pen(theme().lift, 1.4))
    painter.setPen(pen(theme().lift, 1.0, (2, 3), alpha=170))
    for which, offers in enumerate(draft.offers(view)):
        for offer in offers:
            if offer.view == view:
                continue
            at = offer.length.mm
            inside = ((x + at, y), (x + at, y + height)) if which == 0 else (
                (x, y + at), (x + width, y + at)
            )  # fmt: skip
            if axes[which] == 1 and {view, offer.view} == {"top", "right"}:
                sheet.draw_path(painter, draft.transfer(at), painter.pen())
            else:
                source = draft.origin(offer.view)
                end = (x + at, source[1]) if which == 0 else (source[0], y + at)
                sheet.draw_path(painter, (inside[0], end), painter.pen())
            sheet.draw_path(painter, inside, painter.pen())


def paint_walk(painter: QPainter, sheet: Canvas, in_hand: InHand, pointer: Vec2 | None) -> None:
    """Paint the walk so far, the step ahead with its length, and where the walk stands."""
    walk = in_hand.walk
    steps = sides_of(walk.points, closed=walk.closed)
    _paint_sides(painter, sheet, in_hand, steps, pen(theme().ghost, 2.6))
    ahead: list[Side] = []
    if in_hand.ahead is not None:
        ahead = _further(in_hand.ahead, len(steps))
    elif pointer is not None and walk.steps:
        ahead = [Side(walk.places[-1], pointer)]
    _paint_sides(painter, sheet, in_hand, ahead, pen(theme().lift, 2, (6, 3)))
    shown = in_hand.ahead or walk
    ends = [walk.places[-1], *([shown.places[-1]] if in_hand.ahead else [])]
    painter.setPen(pen(theme().ghost, 2))
    for number, place in enumerate(ends):
        painter.setBrush(QColor(theme().paper if number else theme().ghost))
        painter.drawEllipse(sheet.to_screen(_on_sheet(in_hand, place)), 4.5, 4.5)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for side in ahead:
        _paint_size(painter, sheet, in_hand, side)


def _further(ahead: Walk, count: int) -> list[Side]:
    return sides_of(ahead.points, closed=ahead.closed)[count:]


def _on_sheet(in_hand: InHand, place: Vec2) -> Vec2:
    x, y = in_hand.draft.origin(in_hand.view)
    return x + place[0], y + place[1]


def _paint_sides(
    painter: QPainter, sheet: Canvas, in_hand: InHand, sides: list[Side], with_pen: QPen
) -> None:
    for side in sides:
        path = [*polyline([side]), side.end]
        sheet.draw_path(painter, [_on_sheet(in_hand, place) for place in path], with_pen)


def _paint_size(painter: QPainter, sheet: Canvas, in_hand: InHand, side: Side) -> None:
    size = side.radius if side.centre else (
        (side.end[0] - side.start[0]) ** 2 + (side.end[1] - side.start[1]) ** 2
    ) ** 0.5  # fmt: skip
    words = f"{'R ' if side.centre else ''}{show(size, in_hand.draft.unit)}"
    painter.setFont(lettering(12, bold=True))
    box = QRectF(painter.fontMetrics().boundingRect(words)).adjusted(-4, -1, 4, 1)
    steep = abs(side.end[1] - side.start[1]) > abs(side.end[0] - side.start[0])
    beside = QPointF(10 + box.width() / 2, 0) if steep else QPointF(0, -14)
    box.moveCenter(sheet.to_screen(_on_sheet(in_hand, side.at(0.5))) + beside)
    painter.fillRect(box, shade(theme().paper, 230))
    painter.setPen(QColor(theme().ink))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)
