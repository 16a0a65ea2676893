"""Spread: an arrangement together and apart, the order of its parts, the gap, the proposals."""

from __future__ import annotations

from PyQt6 import sip
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QHideEvent, QResizeEvent, QShortcut, QShowEvent
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSlider,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.canvas.choice_card import show_what_fits
from holoptic.desk.canvas.small_picture import SmallPicture
from holoptic.desk.look.theme import px
from holoptic.desk.pages.spread.body_pane import BodyPane
from holoptic.desk.pages.spread.order_strip import Chip, OrderStrip
from holoptic.desk.pages.spread.spread_column import SpreadColumn
from holoptic.desk.session.on_the_way import STEPS
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.key_line import KeyLine
from holoptic.job import PLAIN_LINES, Placed
from holoptic.part import Part
from holoptic.spread import Cluster
from holoptic.units import Length
from holoptic.units.spoken import said

_KEYS = (
    (tr("space"), tr("together or apart")), ("A", tr("axis")), ("G", tr("gap")),
    ("1 to 4", tr("take a proposal")), ("N", tr("next part")), ("T", tr("tie it")),
    (tr("Ctrl+←→"), tr("move it")),
    ("+, −", tr("keep with the next, or not")), ("F1", tr("all keys")),
)  # fmt: skip
_BOARD = 196
_PROPOSED = 4
_AIR_MM = 10.0


class SpreadPage(QWidget):
    """Two pictures of one arrangement; what is touched in one lights up in the other."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.column = SpreadColumn(session)
        self.together = BodyPane(session, tr("together"), lambda: session.spreads.together)
        self.apart = BodyPane(session, tr("apart"), lambda: session.spreads.way.picture)
        self.apart.numbered = True
        for pane in (self.together, self.apart):
            pane.picked.connect(self._pick)
        self.strip = OrderStrip()
        self.strip.chosen.connect(self._choose_chip)
        self.strip.touched.connect(self._touch_chip)
        self.strip.reordered.connect(self._reorder)
        self.small = [self._small(number) for number in range(_PROPOSED)]
        self._stack = QStackedWidget()
        self._stack.addWidget(self._desk())
        self._stack.addWidget(self._invitation())
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(self._stack)
        for key, run in (
            ("Space", self._swing), ("A", self.column.axis.step), ("G", self._type_gap),
            ("N", lambda: session.spreads.step(1)), ("Shift+N", lambda: session.spreads.step(-1)),
            ("T", self.column.hand.ties.begin), ("P", self._place),
            ("Del", self.column.hand.take_away), ("+", self._keep_together),
            ("-", self._let_apart), ("Ctrl+Right", lambda: self._move(1)),
            ("Ctrl+Left", lambda: self._move(-1)), ("Escape", lambda: session.spreads.choose(None)),
        ):  # fmt: skip
            QShortcut(key, self).activated.connect(run)
        session.spreads.changed.connect(self.refresh)
        session.spreads.way.moved.connect(self._show_apart)
        session.spreads.touched_changed.connect(self._light_up)
        session.document.changed.connect(self.refresh)
        session.selection.changed.connect(self._follow_selection)

    def _desk(self) -> QWidget:
        desk = QWidget()
        panes = QHBoxLayout()
        panes.setSpacing(4)
        panes.addWidget(self.together, 1)
        panes.addWidget(self.apart, 1)
        left = QVBoxLayout()
        left.setSpacing(0)
        left.addWidget(KeyLine(_KEYS))
        left.addLayout(panes, 1)
        left.addWidget(self._slider())
        left.addWidget(self.strip)
        left.addWidget(self._board())
        row = QHBoxLayout(desk)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addLayout(left, 1)
        row.addWidget(self.column)
        return desk

    def _slider(self) -> QWidget:
        box = QWidget()
        row = QHBoxLayout(box)
        row.setContentsMargins(px(12), 2, px(12), 2)
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, STEPS)
        self.slider.setValue(STEPS)
        self.slider.setAccessibleName(tr("from together to apart"))
        self.slider.setToolTip(tr("From together to apart (space)"))
        self.slider.valueChanged.connect(
            lambda value: self.session.spreads.way.draw_out(value / STEPS)
        )
        for words in (tr("together"), None, tr("apart")):
            if words is None:
                row.addWidget(self.slider, 1)
            else:
                label = QLabel(words)
                label.setObjectName("quiet")
                row.addWidget(label)
        return box

    def _board(self) -> QWidget:
        self.board = QWidget()
        row = QHBoxLayout(self.board)
        row.setContentsMargins(8, 0, 8, 8)
        row.setSpacing(6)
        for small in self.small:
            row.addWidget(small, 1)
        self.board.setFixedHeight(px(_BOARD))
        return self.board

    def _small(self, number: int) -> SmallPicture:
        small = SmallPicture(str(number + 1))
        small.chosen.connect(lambda: self.take(number))
        QShortcut(small.key, self).activated.connect(small.chosen)
        return small

    def _invitation(self) -> QWidget:
        """Return what is shown where no arrangement is there yet."""
        page = QWidget()
        column = QVBoxLayout(page)
        column.addStretch(1)
        self.words = QLabel(
            tr(
                "No arrangement yet. Put the parts of this job together: each stands once, side "
                "by side, ready to be turned and placed. A STEP file of an assembly brings its "
                "own."
            )
        )
        self.words.setWordWrap(True)
        self.words.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.begin = QPushButton(tr("Put the parts together  (P)"))
        self.begin.clicked.connect(self.put_together)
        column.addWidget(self.words)
        column.addWidget(self.begin, 0, Qt.AlignmentFlag.AlignCenter)
        column.addStretch(1)
        return page

    def show_briefly(self, briefly: bool) -> None:
        """Leave the proposals out where there is little room: their keys still take them."""
        self.board.setVisible(not briefly)
        self.column.tell_proposals(briefly)

    # --- what is in sight -------------------------------------------------------------------

    def showEvent(self, event: QShowEvent | None) -> None:
        """Take the arrangement in hand and have it taken apart from now on."""
        super().showEvent(event)
        self.session.document.take_spread()
        self.session.spreads.want(True)
        self.refresh()

    def hideEvent(self, event: QHideEvent | None) -> None:
        """Nobody looks any more."""
        super().hideEvent(event)
        self.session.spreads.want(False)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Show as many proposals as there is room for."""
        super().resizeEvent(event)
        QTimer.singleShot(0, self._refit)

    def _refit(self) -> None:
        if not sip.isdeleted(self) and self.isVisible():
            self._show_proposals()

    def refresh(self) -> None:
        """Show the arrangement in hand."""
        if not self.isVisible():
            return
        has_one = self.session.spreads.arrangement is not None
        self._stack.setCurrentIndex(0 if has_one else 1)
        if not has_one:
            return
        self.together.refresh()
        self._show_apart()
        self.column.refresh()
        self._show_order()
        self._show_proposals()
        self._light_up()

    def _show_apart(self) -> None:
        self.apart.refresh()
        at = round(self.session.spreads.way.share * STEPS)
        if at != self.slider.value():
            self.slider.blockSignals(True)
            self.slider.setValue(at)
            self.slider.blockSignals(False)

    def _clusters(self) -> tuple[Cluster, ...]:
        arranged = self.session.spreads.arranged
        tier = None if arranged is None else arranged.parting.tier
        return () if tier is None else tier.clusters

    def _show_order(self) -> None:
        spreads, clusters = self.session.spreads, self._clusters()
        names = spreads.names
        numbers = {body: row.number for row in spreads.listed for body in row.bodies}
        bodies = () if spreads.arranged is None else spreads.arranged.whole.bodies
        chips = tuple(
            Chip(
                tuple(bodies[number].id for number in cluster.bodies),
                " + ".join(dict.fromkeys(str(numbers[k]) for k in cluster.bodies)),
                ", ".join(names[k] for k in cluster.bodies),
                self._held_by(number),
            )
            for number, cluster in enumerate(clusters)
        )
        at = next((k for k, chip in enumerate(chips) if spreads.chosen in chip.placed), -1)
        self.strip.show_chips(chips, at, self._heading(len(chips)))

    def _held_by(self, number: int) -> str:
        """Say which clusters lie in the way of one, those that no other stands between."""
        arranged = self.session.spreads.arranged
        tier = None if arranged is None else arranged.parting.tier
        if tier is None:
            return ""
        beyond = {j for k, j in tier.after if k == number}
        next_ones = beyond - {j for k, j in tier.after if k in beyond}
        names = self.session.spreads.names
        words = ", ".join(names[b] for k in sorted(next_ones) for b in tier.clusters[k].bodies)
        return tr("held by {names}", names=words) if words else tr("nothing lies in its way")

    def _heading(self, count: int) -> str:
        arranged = self.session.spreads.arranged
        if arranged is None:
            return tr("Finding the order …")
        if not count:
            return tr("Nothing comes apart along this axis")
        if arranged.gap is None:
            return tr("In the order in which they follow each other; finding the gap …")
        seen = arranged.features - len(arranged.unseen)
        return tr(
            "In the order in which they follow each other; {seen} of {count} features seen",
            seen=seen,
            count=arranged.features,
        )

    def _show_proposals(self) -> None:
        spreads, figure = self.session.spreads, self.session.document.figure
        made = spreads.arrangement
        lines = figure.lines if figure else PLAIN_LINES
        for number, small in enumerate(self.small):
            if number < len(spreads.proposals) and made is not None:
                item = spreads.proposals[number]
                unit = self.session.document.unit
                first, _, second = said(item.title, unit).partition(", ")
                gap = made.spread.gap
                chosen = made.spread.axis == item.axis and gap is not None and gap.mm == item.gap
                small.show_choice(
                    item.picture, lines, (first, second), said(item.reasons, unit), chosen
                )
        show_what_fits(self.small, len(spreads.proposals), self.board.width() - 16)

    def _light_up(self) -> None:
        """Mark in the strip and the list what is touched or chosen in a pane."""
        spreads = self.session.spreads
        lit = {k for k, c in enumerate(self._clusters()) if spreads.touched in c.bodies}
        self.strip.light_up(lit)
        self.column.show_hand()
        self._show_order()

    def _follow_selection(self) -> None:
        """Light up the part whose line is touched or picked in a view."""
        if not self.isVisible():
            return
        selection, spreads = self.session.selection, self.session.spreads
        if selection.edge is not None:
            key = selection.edge
            selection.edge = None  # here whole parts are picked
            self._pick(key)
        spreads.touch(self.apart.body_at(selection.hovered))

    def _pick(self, key: object) -> None:
        """Take the part of a line in hand; while a tie is written, write what was picked."""
        spreads, body = self.session.spreads, self.apart.body_at(key)  # type: ignore[arg-type]
        placed = spreads.id_of(body)
        if not self.column.hand.ties.line.hasFocus() or body is None or placed is None:
            spreads.choose(placed)
            return
        made = self.session.answers.made
        whole = None if made is None else made.source
        grip = spreads.grip_at(int(key), self.session.answers.facts, whole)  # type: ignore[call-overload]
        if grip is None:
            self.session.told.emit(tr("This line tells of no face and no axis: pick another one"))
        elif placed == spreads.chosen:
            self.column.hand.ties.write(grip)
        else:
            self.column.hand.ties.write(f"{spreads.names[body]}.{grip}")

    # --- what the hand does -----------------------------------------------------------------

    def take(self, number: int) -> None:
        """Take a proposal."""
        spreads = self.session.spreads
        if number < len(spreads.proposals):
            item = spreads.proposals[number]
            gap = Length.of(item.gap, self.session.document.unit)
            spreads.change(said(item.title, self.session.document.unit), axis=item.axis, gap=gap)

    def _swing(self) -> None:
        """Go to the other end of the slider."""
        self.session.spreads.way.draw_out(0.0 if self.session.spreads.way.share > 0.5 else 1.0)
        self._show_apart()

    def _type_gap(self) -> None:
        self.column.gap.setFocus()
        self.column.gap.selectAll()

    def _place(self) -> None:
        if self.session.spreads.arrangement is None:
            self.put_together()
        else:
            self.column.open_menu()

    def put_together(self) -> None:
        """Make an arrangement of all parts of the job, side by side."""
        document = self.session.document
        job, right, placed = document.job, 0.0, []
        nothing = Length("0", 0.0)
        for number, part in enumerate(job.parts, 1):
            at = Length.of(right, document.unit), nothing, nothing
            placed.append(Placed(f"b{number}", part.id, at))
            if isinstance(part.source, Part):
                right += part.source.crate.sizes[0] + _AIR_MM
        made = job.fresh_arrangement(job.name, tuple(placed))
        document.edit_arrangement(made, tr("put the parts together"))
        document.take_spread()

    def _choose_chip(self, number: int) -> None:
        self.session.spreads.choose(self.strip.chips[number].placed[0])

    def _touch_chip(self, number: int) -> None:
        spreads = self.session.spreads
        placed = self.strip.chips[number].placed[0] if number >= 0 else None
        spreads.touch(None if placed is None else spreads.number_of(placed))

    def _move(self, way: int) -> None:
        at = self.strip.at
        to = at + way
        if at >= 0 and 0 <= to < len(self.strip.chips):
            order = list(range(len(self.strip.chips)))
            order[at], order[to] = order[to], order[at]
            self._reorder(order)

    def _reorder(self, numbers: list[int]) -> None:
        order = tuple(item for k in numbers for item in self.strip.chips[k].placed)
        self.session.spreads.change(tr("the order"), order=order)

    def _keep_together(self) -> None:
        """Let the parts in hand stay with the next ones."""
        at = self.strip.at
        if 0 <= at < len(self.strip.chips) - 1:
            pair = (*self.strip.chips[at].placed, *self.strip.chips[at + 1].placed)
            self.session.spreads.regroup(
                lambda groups: [*(g for g in groups if not set(g) & set(pair)), pair]
            )

    def _let_apart(self) -> None:
        """Let the parts in hand go apart again."""
        at = self.strip.at
        if at >= 0:
            own = set(self.strip.chips[at].placed)
            self.session.spreads.regroup(lambda groups: [g for g in groups if not set(g) & own])
