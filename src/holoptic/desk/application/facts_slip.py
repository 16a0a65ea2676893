"""The slip under the views: the part on the desk in figures, and the cautions that apply."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import lettering, pen, px, theme
from holoptic.desk.session.session import Session
from holoptic.plan.builder import crate_bounds
from holoptic.plan.strategies import strategy_title
from holoptic.plan.words import minutes
from holoptic.units import Unit, show

CAUTION = tr(
    "A pictorial explains a part; make it from dimensioned "
    "orthographic drawings checked under your local standard. Cap "
    "compass, divider and knife points; cut away from you."
)

CAUTION_BRIEFLY = tr(
    "Explains a part; make it from checked, dimensioned drawings. Cap points; cut away from you."
)
_HEIGHT, _LOW_HEIGHT = 196, 126
_MOST_ASKED = (1, 3, 4, 5)
"""The facts that stay where room is short: crate, edges, sheet, plan; of a plan its errors."""
_LEAST_LETTERS = 10


def figures(session: Session) -> list[tuple[str, str]]:
    """Return (label, figure) pairs of the part on the desk; empty without a picture."""
    posed, facts, picture = session.document.posed, session.answers.facts, session.answers.picture
    if posed is None or facts is None or picture is None:
        return []
    unit = session.document.unit
    low, high = crate_bounds(posed.source, facts)
    sizes = " × ".join(show(b - a, unit) for a, b in zip(low, high, strict=True))
    seen_edges = {s.origin.edge for s in picture.visible if s.origin.edge is not None}
    made = session.answers.planned
    sheet = f"{made.paper.title}, {made.plan.setup.scale_text}" if made else "…"
    return [
        (tr("number"), posed.source.number or "–"),
        (tr("crate L × D × H"), f"{sizes} {unit.label}"),
        (tr("volume"), _volume(facts.volume, unit)),
        (
            tr("edges seen"),
            tr("{seen_edges} of {edges}", seen_edges=len(seen_edges), edges=len(facts.edges)),
        ),
        (tr("sheet"), sheet),
        (tr("plan"), tr("{moves} moves", moves=len(made.plan.moves)) if made else "…"),
    ]


def _volume(mm3: float, unit: Unit) -> str:
    if unit is Unit.MM:
        return tr("{mm3:.1f} cm³", mm3=mm3 / 1000)
    return tr("{mm3:.2f} in³", mm3=mm3 / unit.mm**3)


def plan_figures(session: Session) -> list[tuple[str, str]]:
    """Return (label, figure) pairs of the plan on the desk; empty without one."""
    made, unit = session.answers.planned, session.document.unit
    if made is None or made.plan.way is None or made.plan.effort is None:
        return []
    plan, way, effort, budget = made.plan, made.plan.way, made.plan.effort, made.plan.budget
    order = tr("batched") if way.order == "batched" else tr("by feature")
    if plan.saving is not None:
        spared = minutes(plan.saving.written.seconds - plan.saving.batched.seconds)
        order = (
            tr("batched, {minutes} less", minutes=spared)
            if way.order == "batched"
            else tr("by feature, {minutes} less", minutes=spared)
        )
    found = [
        (tr("way of working  (W)"), strategy_title(way.strategy)),
        (tr("order"), order),
        (
            tr("about"),
            tr("{seconds}, {moves} moves", seconds=minutes(effort.seconds), moves=len(plan.moves)),
        ),
        (
            tr("set · turned · taken up"),
            f"{effort.settings} · {effort.squares} · {effort.pick_ups}",
        ),
    ]
    if budget is not None:
        name, worst = budget.worst
        most = f", {name} {show(round(worst, 2), unit)}" if name else ""
        found.append(
            (
                tr("points off by, most  (E)"),
                f"{show(round(budget.typical, 2), unit)} {unit.label}{most}",
            )
        )
        if budget.closure:
            closes = show(round(2 * budget.closure, 1), unit)
            found.append((tr("back corner closes to"), f"± {closes} {unit.label}"))
    return found


class FactsSlip(QWidget):
    """Paints the facts as two columns of figures over the caution."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._briefly = False
        self.setFixedHeight(px(_HEIGHT))
        self._facts: list[tuple[str, str]] = []
        self._of_plan = False
        session.answers.picture_changed.connect(self.refresh)
        session.answers.plan_changed.connect(self.refresh)

    def show_plan(self, of_plan: bool) -> None:
        """Show the plan in figures, or the part."""
        self._of_plan = of_plan
        self.refresh()

    def show_briefly(self, briefly: bool) -> None:
        """Leave out what can be had elsewhere, where room is short."""
        self._briefly = briefly
        self.setFixedHeight(px(_LOW_HEIGHT if briefly else _HEIGHT))
        self.update()

    def refresh(self) -> None:
        """Take the facts of the picture shown."""
        found = plan_figures(self.session) if self._of_plan else figures(self.session)
        if found == self._facts:
            return
        self._facts = found
        self.setAccessibleDescription("; ".join(f"{a}: {b}" for a, b in self._facts))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the slip."""
        del event
        with painting(self) as painter:
            colours = theme()
            painter.fillRect(self.rect(), QColor(colours.panel))
            painter.setPen(pen(colours.line, 1))
            painter.drawLine(0, 0, self.width(), 0)
            self._paint_facts(painter)
            painter.setFont(lettering(10.5 if self._briefly else 11))
            painter.setPen(QColor(colours.quiet))
            flags = Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignBottom
            room = self.rect().adjusted(14, 0, -14, -6)
            painter.drawText(room, int(flags), CAUTION_BRIEFLY if self._briefly else CAUTION)

    def _paint_facts(self, painter: QPainter) -> None:
        """Paint labels and figures in two columns."""
        shown = _MOST_ASKED if self._briefly else range(len(self._facts))
        facts = [fact for k, fact in enumerate(self._facts) if k in shown]
        column = (self.width() - 28) / 2
        for index, (label, figure) in enumerate(facts):
            x, y = 14 + (index % 2) * column, 10 + (index // 2) * px(38)
            for words, size, bold, down in ((label, 11, False, 0), (figure, 14, True, px(15))):
                painter.setPen(QColor(theme().text if bold else theme().quiet))
                room = QRectF(x, y + down, column - 8, px(20))
                font, fitting = _fitting(words, room.width(), size, bold)
                painter.setFont(font)
                painter.drawText(room, fitting)


def _fitting(words: str, room: float, size: int, bold: bool) -> tuple[QFont, str]:
    """Return lettering in which words fit a room, down to the least that reads well, and the words:
    closer together or cut off where that is still too wide.
    """
    font = lettering(size, bold)
    while size > _LEAST_LETTERS and QFontMetricsF(font).horizontalAdvance(words) > room:
        size -= 1
        font = lettering(size, bold)
    measure = QFontMetricsF(font)
    if measure.horizontalAdvance(words) > room:
        words = measure.elidedText(words.replace(" × ", "×"), Qt.TextElideMode.ElideRight, room)
    return font, words
