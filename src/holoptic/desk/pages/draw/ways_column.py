"""The column of the Draw page: ways of working compared, and whose hand draws."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QHideEvent, QMouseEvent, QPainter, QPaintEvent, QShowEvent
from PyQt6.QtWidgets import QDoubleSpinBox, QGridLayout, QLabel, QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import lettering, pen, px, theme
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.column import Column
from holoptic.desk.widgets.mm_spin import MmSpin
from holoptic.desk.widgets.rows import Row
from holoptic.job import Outfit
from holoptic.plan.effort import weigh
from holoptic.plan.hand import Hand
from holoptic.plan.moves import Way
from holoptic.plan.strategies import strategy_title
from holoptic.plan.words import minutes, saving_words, way_title
from holoptic.units import Unit
from holoptic.units.spoken import measure, said
from holoptic.worker.messages import WayCompared

_WIDTH = 304
_ROW = 58
FIRMING = (("soon", tr("as soon as certain")), ("end", tr("all at the end")))
HANDS = ((False, tr("right hand")), (True, tr("left hand")))
LETTERING = ((None, tr("as the sheet")), ("by-hand", tr("by hand")), ("leave", tr("left out")))
FRAMES = (("draw", tr("draw the border")), ("printed", tr("it is printed")))


class WaysColumn(Column):
    """Offers each way of working with what it costs; sets firming, hand and spreads."""

    def __init__(self, session: Session) -> None:
        super().__init__(_WIDTH)
        self.session = session
        heading = QLabel(tr("Ways of working"))
        heading.setObjectName("heading")
        self.layers.addWidget(heading)
        self.why = QLabel()
        self.why.setObjectName("quiet")
        self.why.setWordWrap(True)
        self.layers.addWidget(self.why)
        self.table = WaysTable()
        self.table.chosen.connect(self.take)
        self.layers.addWidget(self.table)
        self.firming = Row(FIRMING, lambda value: self._hand_ways(firming=value), tr("Firming in"))
        self.add(tr("Firm in"), self.firming)
        self.frame = Row(FRAMES, self._frame, tr("Border and title block"))
        self.add(tr("Border and title block"), self.frame)
        self.lettering = Row(LETTERING, lambda value: self._hand_ways(lettering=value),
                             tr("Lettering of title block and captions"))  # fmt: skip
        self.add(tr("Title and captions"), self.lettering)
        self.left = Row(HANDS, lambda value: session.ways.use_left_hand(bool(value)),
                        tr("Which hand draws"))  # fmt: skip
        self.add(tr("Drawing with"), self.left)
        self._spreads()
        self._instruments()
        self.layers.addStretch(1)
        session.ways.changed.connect(self.refresh)

    def _spreads(self) -> None:
        """Add how far this hand's settings spread."""
        box = QWidget()
        grid = QGridLayout(box)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        self.spreads: dict[str, QDoubleSpinBox] = {}
        angle = QDoubleSpinBox()
        angle.setRange(0.0, 5.0)
        angle.setSingleStep(0.05)
        angle.setSuffix("°")
        angle.setButtonSymbols(QDoubleSpinBox.ButtonSymbols.NoButtons)
        self.setting, self.angle, self.compass = MmSpin(5.0, 2, 0.05), angle, MmSpin(5.0, 2, 0.05)
        fields = (("setting", self.setting), ("angle", angle), ("compass", self.compass))
        for column, (words, field) in enumerate(fields):
            field.setAccessibleName(tr("spread of your {words}", words=words))
            field.editingFinished.connect(self._spread_changed)
            grid.addWidget(QLabel(words), 0, column)
            grid.addWidget(field, 1, column)
        self.add(tr("Spread of your hand"), box)

    def _instruments(self) -> None:
        """Add how far this drafter's own instruments reach."""
        box = QWidget()
        grid = QGridLayout(box)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        self.outfit = {
            "least_radius": (tr("compass from"), MmSpin(20.0, 1, 0.5, 0.5)),
            "largest_radius": (tr("to"), MmSpin(1000.0, 0, 10.0, 40.0)),
            "square": (tr("set square"), MmSpin(1000.0, 0, 10.0, 50.0)),
            "rule": (tr("rule"), MmSpin(2000.0, 0, 50.0, 100.0)),
        }
        for column, (words, field) in enumerate(self.outfit.values()):
            field.setAccessibleName(tr("your instruments: {words}", words=words))
            field.editingFinished.connect(self._outfit_changed)
            grid.addWidget(QLabel(words), 0, column)
            grid.addWidget(field, 1, column)
        self.add(tr("Your instruments"), box)

    # --- showing ----------------------------------------------------------------------------

    def showEvent(self, event: QShowEvent | None) -> None:
        """Have the ways compared from now on."""
        super().showEvent(event)
        self.session.ways.want(True)
        self.refresh()

    def hideEvent(self, event: QHideEvent | None) -> None:
        """Nobody looks any more."""
        super().hideEvent(event)
        self.session.ways.want(False)

    def refresh(self) -> None:
        """Show the ways, the one in use marked."""
        made, sheet = self.session.answers.planned, self.session.document.sheet
        figure = self.session.document.figure
        if made is None or sheet is None or figure is None or made.plan.way is None:
            self.table.show_ways((), None, "")
            self.why.setText("")
            return
        way = made.plan.way
        saving = saving_words(made.plan.saving)
        why = said(way.why, self.session.document.unit)
        told = [f"{way_title(way)}: {why}.", *([f"{saving}."] if saving else [])]
        if not way.is_own and way.order == "by-feature":
            told.append(tr("One feature after the other unless you choose; batched, they mix."))
        self.why.setText(" ".join(told))
        compared = self.session.ways.compared
        self.table.unit = self.session.document.unit
        trouble = self.session.ways.trouble
        self.table.show_ways(
            compared.ways if compared else (), way,
            tr("Comparing the ways …") if trouble is None else
            tr("The ways were not compared: {why}", why=trouble),
        )  # fmt: skip
        self.firming.show_value(figure.by_hand.firming)
        self.frame.show_value(sheet.wish.frame)
        self.lettering.show_value(figure.by_hand.lettering)
        self.left.show_value(self.session.ways.left_handed)
        hand, unit = self.session.ways.hand, self.session.document.unit
        for field, mm in ((self.setting, hand.setting_mm), (self.compass, hand.compass_mm)):
            field.use_unit(unit)
            field.show_mm(mm)
        if not self.angle.hasFocus():
            self.angle.setValue(hand.angle_deg)
        for name, (_, field) in self.outfit.items():
            field.use_unit(unit)
            field.show_mm(getattr(self.session.ways.outfit, name))

    # --- choosing ---------------------------------------------------------------------------

    def take(self, number: int) -> None:
        """Take the way of a number."""
        compared = self.session.ways.compared
        if compared is not None and number < len(compared.ways):
            way = compared.ways[number].way
            # views have an order alone; what carves the pictorial stays as it is
            carving = {} if way.strategy is None else {"strategy": way.strategy}
            self._hand_ways(order=way.order, **carving)

    def _hand_ways(self, **changes: object) -> None:
        figure = self.session.document.figure
        if figure is not None:
            ways = replace(figure.by_hand, **changes)  # type: ignore[arg-type]
            self.session.document.edit_figure(replace(figure, by_hand=ways), tr("way of working"))

    def _frame(self, value: object) -> None:
        sheet = self.session.document.sheet
        if sheet is not None:
            wish = replace(sheet.wish, frame=value)  # type: ignore[arg-type]
            self.session.document.edit_wish(wish, "border")

    def _spread_changed(self) -> None:
        hand = Hand(self.setting.mm, round(self.angle.value(), 3), self.compass.mm)
        if hand != self.session.ways.hand:
            self.session.answers.draw_by(hand)

    def _outfit_changed(self) -> None:
        outfit = Outfit(**{name: field.mm for name, (_, field) in self.outfit.items()})
        if outfit != self.session.ways.outfit and outfit.is_sound:
            self.session.ways.use_outfit(outfit)
            self.session.document.draw_with(outfit)


class WaysTable(QWidget):
    """Paints the ways as rows; a click takes one.

    Signals:
        chosen(number): the row of a number was clicked, from 0.
    """

    chosen = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self._ways: tuple[WayCompared, ...] = ()
        self.line = ""
        self._now: Way | None = None
        self.unit = Unit.MM
        self.setFixedHeight(6 * px(_ROW))
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName(tr("ways of working compared"))

    def show_ways(self, ways: tuple[WayCompared, ...], now: Way | None, otherwise: str) -> None:
        """Show ways, the one in use framed; or a line, where there are none."""
        self._ways, self._now, self.line = ways, now, otherwise
        self.setAccessibleDescription(
            "; ".join(f"{k}: {_costs(w, self.unit)}" for k, w in enumerate(ways, 1))
        )
        self.update()

    def place_of(self, number: int) -> float:
        """Return the middle of a row, pixels from the top."""
        return (number + 0.5) * px(_ROW)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the rows."""
        del event
        with painting(self) as painter:
            colours = theme()
            if not self._ways:
                painter.setPen(QColor(colours.quiet))
                wrapped = int(Qt.TextFlag.TextWordWrap)
                painter.drawText(self.rect().adjusted(0, 10, 0, 0), wrapped, self.line)
            praises = praise_of(self._ways)
            for number, item in enumerate(self._ways):
                self._paint_row(painter, number, item, praises[number])

    def _paint_row(self, painter: QPainter, number: int, item: WayCompared, praise: str) -> None:
        colours = theme()
        box = QRectF(1, number * px(_ROW) + 1, self.width() - 2, px(_ROW) - 4)
        now = self._now is not None and (self._now.strategy, self._now.order) == (
            item.way.strategy, item.way.order,
        )  # fmt: skip
        painter.setPen(pen(colours.accent, 2) if now else pen(colours.line, 1))
        painter.setBrush(QColor(colours.raised))
        painter.drawRoundedRect(box, 5, 5)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QColor(colours.text))
        painter.setFont(lettering(12, bold=True))
        order = tr("batched") if item.way.order == "batched" else tr("by feature")
        title = f"{number + 1}  {strategy_title(item.way.strategy)}, {order}"
        painter.drawText(box.adjusted(8, 3, -4, 0), 0, title)
        painter.setFont(lettering(11))
        painter.setPen(QColor(colours.quiet))
        painter.drawText(box.adjusted(px(22), px(21), -4, 0), 0, _costs(item, self.unit))
        painter.setPen(QColor(colours.accent))
        painter.drawText(box.adjusted(px(22), px(38), -4, 0), 0, praise)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take the way under the pointer."""
        if event is not None:
            number = int(event.position().y() // px(_ROW))
            if 0 <= number < len(self._ways):
                self.chosen.emit(number)


def praise_of(ways: Sequence[WayCompared]) -> list[str]:
    """Return what is said of each way beside the others: one is the quickest, one the surest and
    one the best of both; of equal ones the first. Where all are equal nothing is.
    """
    praises: list[list[str]] = [[] for _ in ways]
    for word, cost in (
        (tr("quickest"), lambda one: round(one.effort.seconds / 60)),
        (tr("surest"), lambda one: round(one.budget.typical, 2)),
        (tr("best of both"), lambda one: weigh(one.effort, one.budget)),
    ):
        costs = [cost(one) for one in ways]
        if costs and min(costs) < max(costs):
            praises[costs.index(min(costs))].append(word)
    return [" · ".join(words) for words in praises]


def _costs(item: WayCompared, unit: Unit) -> str:
    off = said(measure(round(item.budget.typical, 2)), unit)
    return tr(
        "{seconds}, {moves} moves; points {off} off",
        seconds=minutes(item.effort.seconds),
        moves=item.moves,
        off=off,
    )
