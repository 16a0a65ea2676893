"""Picture: the part large, the proposed kinds and corners beside each other below it."""

from __future__ import annotations

from functools import partial

from PyQt6 import sip
from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QHideEvent, QKeyEvent, QResizeEvent, QShortcut, QShowEvent
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QSizePolicy,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import ntr, tr
from holoptic.desk.canvas.choice_card import show_what_fits
from holoptic.desk.canvas.panes import PicturePane
from holoptic.desk.canvas.small_picture import SmallPicture
from holoptic.desk.look.theme import px
from holoptic.desk.pages.picture.construction_card import ConstructionCard
from holoptic.desk.pages.picture.picture_column import PictureColumn
from holoptic.desk.session.cuts import led_through
from holoptic.desk.session.proposals import PROPOSED
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.notice import Notice
from holoptic.job import PLAIN_LINES
from holoptic.part import Part
from holoptic.pictorial import view_of
from holoptic.pictorial.proposal import Appraisal, reasons

_BOARD_HEIGHT, _LOW_BOARD_HEIGHT = 262, 204
"""Of the proposals and of the construction card that takes their place, pixels."""


class PicturePage(QWidget):
    """The large picture with its column, a warning where lines fall together, the proposals."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.pane = PicturePane(session)
        self.column = PictureColumn(session)
        self.warning = Notice("hint")
        self._shows_cuts = False
        self.small = [self._small(number) for number in range(PROPOSED)]
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addWidget(self.warning)
        left.addWidget(self.pane, 1)
        self.below = QStackedWidget()
        self.below.setFixedHeight(px(_BOARD_HEIGHT))
        self.below.addWidget(self._board())
        self.card = ConstructionCard()
        self.card.method_chosen.connect(session.draw_circle_by)
        self.below.addWidget(self.card)
        left.addWidget(self.below)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addLayout(left, 1)
        layout.addWidget(self.column)
        for key, run in (
            ("H", self.column.hidden.step), ("T", self.column.outline.step),
            ("C", self.column.centres.step), ("V", self.column.angle.step),
            ("K", self.column.kinds.showPopup), ("E", partial(self._step_edge, 1)),
            ("Shift+E", partial(self._step_edge, -1)),
            ("M", lambda: self._next_method(False)), ("Shift+M", lambda: self._next_method(True)),
            ("X", self._toggle_cuts), ("Shift+X", partial(self.column.cut.take, "")),
            ("B", session.cards.toggle_band), ("Escape", lambda: session.selection.select(None)),
        ):  # fmt: skip
            QShortcut(key, self).activated.connect(run)
        session.answers.picture_changed.connect(self.refresh)
        session.document.changed.connect(self.refresh)
        session.proposals.changed.connect(self._show_candidates)
        session.cards.changed.connect(self._show_card)
        session.cuts.changed.connect(self._show_candidates)
        session.selection.changed.connect(self._lead_through)

    def show_briefly(self, briefly: bool) -> None:
        """Let the proposals take less room, where there is little."""
        self.below.setFixedHeight(px(_LOW_BOARD_HEIGHT if briefly else _BOARD_HEIGHT))
        for small in self.small:
            small.setFixedHeight(px(_LOW_BOARD_HEIGHT if briefly else _BOARD_HEIGHT) - px(34))

    def _small(self, number: int) -> SmallPicture:
        small = SmallPicture(str(number + 1))
        small.setFixedHeight(px(228))
        small.chosen.connect(lambda: self.choose(number))
        QShortcut(small.key, self).activated.connect(small.chosen)
        return small

    def _board(self) -> QWidget:
        panel = QWidget()
        board = QVBoxLayout(panel)
        board.setContentsMargins(8, 0, 8, 8)
        board.setSpacing(3)
        self.heading = QLabel()
        self.heading.setObjectName("quiet")
        # long reasons must not push the views aside
        self.heading.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        board.addWidget(self.heading)
        row = QHBoxLayout()
        row.setSpacing(6)
        for small in self.small:
            row.addWidget(small, 1)
        board.addLayout(row)
        return panel

    def showEvent(self, event: QShowEvent | None) -> None:
        """Have the proposals worked out from now on."""
        super().showEvent(event)
        self.session.document.choose_pictorial()
        self.session.proposals.want(True)
        self.session.cuts.want(self._shows_cuts)
        self.session.cards.want(True)

    def hideEvent(self, event: QHideEvent | None) -> None:
        """Nobody looks at the proposals any more."""
        super().hideEvent(event)
        self.session.cuts.want(False)
        self.session.proposals.want(False)
        self.session.cards.want(False)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Turn the part by the arrow keys."""
        if event is None or not self.column.turn(event.key()):
            super().keyPressEvent(event)

    def choose(self, number: int) -> None:
        """Take the proposal of a number."""
        if self._shows_cuts:
            cuts = self.session.cuts.best
            if number < len(cuts):
                self.column.cut.take(cuts[number].words)
            return
        best = self.session.proposals.best
        if number < len(best):
            item = best[number]
            self.session.document.picture_as(item.kind, item.corner)

    def refresh(self) -> None:
        """Show proposals and choices."""
        if not self.isVisible():
            return
        self.pane.refresh()
        self.column.refresh()
        self._show_proposals()
        self._show_warning()

    def _next_method(self, for_all: bool) -> None:
        method = self.session.cards.next_method()
        if method is not None:
            self.session.draw_circle_by(method, for_all)

    def _show_card(self) -> None:
        """Show the card of the edge in hand in the place of the proposals."""
        cards = self.session.cards
        if cards.card is not None:
            self.card.show_card(cards.card, self.session.document.unit)
        elif cards.trouble is not None:
            self.session.told.emit(tr("No construction card: {why}", why=cards.trouble))
        self.below.setCurrentIndex(0 if cards.card is None else 1)
        shows = cards.card is not None and cards.shows_band
        self.pane.show_band(cards.card.band if cards.card and shows else (), cards.scale)

    def _step_edge(self, way: int) -> None:
        self.session.selection.step(way, self.session.answers.picture)

    def _show_candidates(self) -> None:
        if self.isVisible():
            self._show_proposals()
            self._show_warning()

    def _toggle_cuts(self) -> None:
        """Propose cuts in the place of kinds and corners, or those again."""
        self._shows_cuts = not self._shows_cuts
        self.session.selection.select(None)
        self.session.cuts.want(self._shows_cuts)
        self._show_proposals()

    def _lead_through(self) -> None:
        """Have the cut lead through a feature that is touched, while cuts are chosen."""
        edge, answers = self.session.selection.edge, self.session.answers
        if not (self._shows_cuts and self.isVisible()) or edge is None:
            return
        picked = answers.picture.picked(edge, answers.facts) if answers.facts and \
            answers.picture else None  # fmt: skip
        if picked is None or picked[1] is None or answers.made is None:
            return
        self.session.selection.select(None)
        now = answers.made.figure.cut
        self.column.cut.take(led_through(now, answers.made, picked[1]))

    def _show_cuts(self) -> None:
        """Show the proposed cuts as small pictures."""
        figure, cuts = self.session.document.figure, self.session.cuts
        if cuts.trouble is not None:
            self.heading.setText(tr("No cut can be proposed: {why}", why=cuts.trouble))
        elif cuts.is_waiting:
            self.heading.setText(tr("Looking for cuts that show most …"))
        else:
            self.heading.setText(
                tr("Cuts, best first: press a number, or touch features to cut through them")
            )
        for small, one in zip(self.small, cuts.best, strict=False):
            chosen = figure is not None and figure.cut == one.words
            lines = figure.lines if figure else PLAIN_LINES
            small.show_choice(one.picture, lines, one.titles, one.reasons, chosen)
        show_what_fits(self.small, len(cuts.best) if figure else 0, self.pane.width() - 16)

    def _show_proposals(self) -> None:
        if self._shows_cuts:
            self._show_cuts()
            return
        figure = self.session.document.figure
        proposed = self.session.proposals.best
        names = self._names()
        self.heading.setText(self._headline(names))
        lines = figure.lines if figure else PLAIN_LINES
        for number, small in enumerate(self.small):
            if figure is None or number >= len(proposed):
                continue
            item = proposed[number]
            choice = item.kind, item.corner
            chosen = choice == (figure.kind, figure.corner)
            picture = self.session.proposals.pictures.get(choice)
            small.show_choice(picture, lines, _titles(item), reasons(item, names), chosen)
        show_what_fits(self.small, len(proposed) if figure else 0, self.pane.width() - 16)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Show as many proposals as there is room for."""
        super().resizeEvent(event)
        QTimer.singleShot(0, self._refit)

    def _refit(self) -> None:
        if not sip.isdeleted(self) and self.isVisible():
            self._show_proposals()

    def _headline(self, names: list[str]) -> str:
        proposals, view = self.session.proposals, self.session.answers.view
        if self.session.document.figure is None:
            return ""
        if proposals.trouble is not None:
            return tr("Not everything was compared: {why}", why=proposals.trouble)
        if not proposals.best:
            return tr("Comparing kinds and near corners …")
        now = proposals.of(view)
        if now is None or now in proposals.best:
            return tr("Proposed, best first: press its number")
        return tr("Press a number.   Now: {now}.", now=reasons(now, names))

    def _show_warning(self) -> None:
        now = self.session.proposals.of(self.session.answers.view)
        pairs = now.on_one_line if now is not None else ()
        self.pane.collisions = tuple({edge for pair in pairs for edge in pair})
        self.pane.update()
        if now is None or not now.collides:
            self.warning.quiet()
            return
        words = tr("In this picture {now}.", now=self._collision(now))
        better = self.session.proposals.better_than(self.session.answers.view)
        if better is None:
            self.warning.say(words)
            return
        choice = ", ".join(_titles(better))
        words = tr("{trouble} The {choice} keeps them apart.", trouble=words, choice=choice)
        kind, corner = better.kind, better.corner
        self.warning.say(
            words, {tr("Take it"): lambda: self.session.document.picture_as(kind, corner)}
        )

    def _collision(self, item: Appraisal) -> str:
        facts = self.session.answers.facts
        if not item.on_one_line or facts is None:
            return tr("a face is seen edge-on, so that its edges fall on one line")
        names, pair = self._names(), item.on_one_line[0]
        if max(pair) >= len(facts.edges):
            return tr("distinct edges fall on one line")
        owners = []
        for edge in pair:
            index = facts.edges[edge].operation
            is_named = index is not None and index < len(names)
            owners.append(f"“{names[index or 0]}”" if is_named else tr("the crate"))
        more = len(item.on_one_line) - 1
        also = (
            " " + ntr("(and {count} more pair)", "(and {count} more pairs)", more) if more else ""
        )
        if owners[0] == owners[1]:
            return tr("two edges of {owners} fall on one line", owners=owners[0]) + also
        first, second = owners
        line = tr(
            "an edge of {first} and an edge of {second} fall on one line",
            first=first,
            second=second,
        )
        return line + also

    def _names(self) -> list[str]:
        part = self.session.document.job_part
        if part is None or not isinstance(part.source, Part):
            return []
        return [operation.name for operation in part.source.operations]


def _titles(item: Appraisal) -> tuple[str, str]:
    """Return the kind and the near corner of a candidate, in words."""
    view = view_of(item.kind, item.corner)
    return view.short_title, view.corner.title if view.corner is not None else ""
