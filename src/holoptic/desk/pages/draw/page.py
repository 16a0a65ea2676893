"""Draw: the paper as it stands, the next stroke ghosted, the card, the strip of moves."""

from __future__ import annotations

from PyQt6.QtGui import QHideEvent, QKeySequence, QShortcut, QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.desk.canvas.panes import ViewsPane
from holoptic.desk.pages.draw.card_window import CardWindow
from holoptic.desk.pages.draw.drawing_paper import DrawingPaper
from holoptic.desk.pages.draw.move_strip import MoveStrip
from holoptic.desk.pages.draw.reading_row import ReadingRow
from holoptic.desk.pages.draw.setting_card import SettingCard
from holoptic.desk.pages.draw.ways_column import WaysColumn
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.caliper_line import CaliperLine
from holoptic.desk.widgets.key_line import KeyLine
from holoptic.desk.widgets.misfit_notice import MisfitNotice
from holoptic.desk.widgets.voice import Voice
from holoptic.plan.card import CardText, card_text
from holoptic.sheet.planning import Layout
from holoptic.sheet.sheets import ink_before

_KEYS = (
    (tr("space"), tr("draw")),
    (tr("back"), tr("take up")),
    (tr("PgDn"), tr("phase")),
    ("V", tr("views")),
    ("W", tr("ways")),
    ("P", tr("play")),
    ("+ −", tr("pace")),
    ("L", tr("pick out")),
    ("E", tr("errors")),
    ("H", tr("construction")),
    ("K", tr("card window")),
    ("R", tr("read aloud")),
    ("J", tr("join in")),
    ("O", tr("done otherwise")),
    ("F1", tr("all keys")),
)


class DrawPage(QWidget):
    """Paper, card and strip; space draws the next move, back takes it up again."""

    def __init__(self, session: Session, views: ViewsPane, caliper: CaliperLine) -> None:
        super().__init__()
        self.session = session
        self.views = views
        self.walk = session.walk
        self.misfit = MisfitNotice(session)
        self.paper = DrawingPaper()
        self.keys = KeyLine(_KEYS)
        self.card = SettingCard()
        self.reading = ReadingRow(self.walk)
        self.reading.read.connect(lambda: self._end_reading(goes_on=True))
        self.reading.deviates.connect(lambda: self._end_reading(goes_on=False))
        self.card.put_in(self.reading)
        caliper.take_keys(self)
        self.strip = MoveStrip()
        self.strip.jumped.connect(self.walk.go_to)
        self.paper.picked.connect(self._pick_stroke)
        self.column = WaysColumn(session)
        self.column.hide()
        self.window_card: CardWindow | None = None
        self.voice = Voice(self)
        self.reads_aloud = False
        self._said = ""
        self._layout: Layout | None = None
        self._lay_out()
        self._take_keys()
        self.walk.moved.connect(self.refresh)
        session.answers.picture_changed.connect(self.refresh)
        session.answers.sheet_changed.connect(self.refresh)
        session.answers.plan_changed.connect(self.refresh)
        session.ways.changed.connect(self.refresh)

    def _lay_out(self) -> None:
        left = QVBoxLayout()
        left.setSpacing(0)
        for widget in (self.misfit, self.keys, self.paper, self.card, self.strip):
            left.addWidget(widget, 1 if widget is self.paper else 0)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addLayout(left, 1)
        layout.addWidget(self.column)

    def _take_keys(self) -> None:
        walk, session = self.walk, self.session
        for keys, run in (
            (("Space", "Right"), lambda: walk.step(1)),
            (("Backspace", "Left"), lambda: walk.step(-1)),
            (("Home",), lambda: walk.go_to(0)), (("End",), lambda: walk.go_to(10**6)),
            (("PgDown",), lambda: self._turn_page(1)), (("PgUp",), lambda: self._turn_page(-1)),
            (("R",), self.toggle_reading), (("J",), self.toggle_asking),
            (("O",), walk.do_otherwise), (("D",), self._begin_reading),
            (("P",), walk.toggle_play), (("+", "="), lambda: walk.change_pace(1)),
            (("-",), lambda: walk.change_pace(-1)), (("L",), walk.next_filter),
            (("V",), self.toggle_views), (("N",), session.document.choose_next_figure),
            (("W",), self.toggle_ways), (("E",), self.toggle_errors),
            (("H",), self.toggle_light), (("K",), self.toggle_card_window),
        ):  # fmt: skip
            for key in keys:
                QShortcut(QKeySequence(key), self).activated.connect(run)
        for number in range(6):
            numbered = QShortcut(str(number + 1), self)
            numbered.activated.connect(lambda number=number: self._take_way(number))

    # --- what the keys do -------------------------------------------------------------------

    @property
    def at(self) -> int:
        """How many moves are done."""
        return self.walk.at

    def go_to(self, index: int) -> None:
        """Show the paper with `index` moves done."""
        self.walk.go_to(index)

    def toggle_views(self) -> None:
        """Go over from the pictorial to the views on its sheet, or back."""
        self.session.document.choose_views(is_begun=self.walk.at > 0)

    def toggle_ways(self) -> None:
        """Show or hide the ways of working."""
        self.column.setVisible(self.column.isHidden())

    def _take_way(self, number: int) -> None:
        if not self.misfit.isHidden():
            self.misfit.take(number)
        elif self.column.isVisible():
            self.column.take(number)

    def toggle_errors(self) -> None:
        """Show or hide the errors to expect."""
        self.paper.shows_errors = not self.paper.shows_errors
        self.refresh()

    def toggle_light(self) -> None:
        """Show the firm lines alone, or the construction too."""
        self.paper.shows_light = not self.paper.shows_light
        self.refresh()

    def toggle_asking(self) -> None:
        """Ask which strokes are drawn already; then go on with the first move that is left."""
        if self.walk.plan is None:
            return
        self.paper.is_asking = not self.paper.is_asking
        if self.paper.is_asking:
            self.refresh()
        else:
            self.walk.go_on(self.at)  # what was walked through is done

    def _pick_stroke(self, key: int | None) -> None:
        if self.paper.is_asking and key is not None:
            self.walk.toggle_stroke(self.paper.asked[key])

    def _begin_reading(self) -> None:
        """Put the cursor where the rule's reading goes."""
        if self.reading.isVisible():
            self.reading.field.setFocus()
            self.reading.field.selectAll()

    def _end_reading(self, goes_on: bool) -> None:
        """Give the keys back to the page; what agrees is done."""
        self.setFocus()
        if goes_on:
            self.walk.step(1)

    def toggle_reading(self) -> None:
        """Begin or end to read each card aloud; page keys then go move by move."""
        self.reads_aloud = not self.reads_aloud
        self._said = ""
        if not self.reads_aloud:
            self.voice.stop()
        self.refresh()

    def _turn_page(self, way: int) -> None:
        """Go on by a phase; while it is read aloud by a move, so that the one pedal of a foot
        switch, or a presenter's two keys, are enough.
        """
        if self.reads_aloud:
            self.walk.step(way)
        else:
            self.walk.step_phase(way)

    def _read(self, text: CardText) -> None:
        """Say card and sentence, once."""
        words = ". ".join(word for word in (f"{text.figure} {text.unit}".strip(), text.instrument,
                                            text.sentence) if word.strip("✓… "))  # fmt: skip
        if self.reads_aloud and words != self._said:
            self._said = words
            self.voice.say(words)

    def toggle_card_window(self) -> None:
        """Open or close the card in a window of its own."""
        if self.window_card is not None:
            self.window_card.close()
            return
        self.window_card = CardWindow(self, self.walk.step, self.walk.toggle_play)
        self.window_card.closed.connect(self._card_window_closed)
        self.refresh()
        self.window_card.show()

    def _card_window_closed(self) -> None:
        if self.window_card is not None:
            self.window_card.deleteLater()
            self.window_card = None

    # --- showing ----------------------------------------------------------------------------

    def showEvent(self, event: QShowEvent | None) -> None:
        """Go on where the work was left."""
        super().showEvent(event)
        self.refresh()

    def hideEvent(self, event: QHideEvent | None) -> None:
        """Remember where the work was left."""
        super().hideEvent(event)
        self.walk.stop()
        self.walk.flush()
        self.voice.stop()
        self.paper.is_asking = False

    def refresh(self) -> None:
        """Show the plan of the picture on the desk."""
        if not self.isVisible():
            return
        self.walk.follow()
        made, plan = self.session.answers.planned, self.walk.plan
        self.misfit.refresh()
        self.keys.show_state(self._state())
        if made is None or plan is None:
            self.paper.clear(self._why_empty())
            self._show_card(None, "")
            self.reading.hide()
            self.strip.show_plan(None, 0, "all", {})
            self.views.show_lift(None)
            return
        self.paper.unit = self.session.document.unit
        self.paper.left_handed = self.session.ways.left_handed
        if made.layout is not self._layout:  # each plan comes with its own
            self._layout = made.layout
            laid = self.session.answers.laid
            items = laid.items if laid is not None else ()
            self.paper.show_earlier(ink_before(items, made.layout, made.figure), made.paper)
        self.paper.show_state(plan, made.paper, made.drafted, self.at, self.walk.stands,
                              self.walk.skipped)  # fmt: skip
        text = card_text(plan, self.at, self.session.document.unit, self.walk.seconds,
                         len(self.paper.rubbed))  # fmt: skip
        self._show_card(
            text,
            tr(
                "{at} of {moves} moves done{time}",
                at=self.at,
                moves=len(plan.moves),
                time=self._time(),
            ),
        )
        self._read(text)
        self.reading.refresh(self.session.document.unit)
        self.strip.unit = self.session.document.unit
        self.strip.show_plan(plan, self.at, self.walk.chosen, self.walk.seconds,
                             self.walk.skipped)  # fmt: skip
        self.views.show_lift(self.walk.move.lift if self.walk.move else None)
        if self.column.isVisible():
            self.column.refresh()

    def _show_card(self, text: CardText | None, count: str) -> None:
        self.card.show_text(text, count)
        if self.window_card is not None:
            self.window_card.card.show_text(text, count)

    def _why_empty(self) -> str:
        laid, failed = self.session.answers.laid, self.session.answers.failed
        for what in ("sheet", "plan"):
            if what in failed:
                return tr("The {what}: {failed}.", what=what, failed=failed[what])
        if laid is not None and laid.misfit is not None:
            return tr("There is no room for this drawing: take one of the ways out above.")
        if self.session.document.figure is not None:
            return tr("The plan is being worked out …")
        return tr("No plan yet: describe a part on the Carve page first.")

    def _time(self) -> str:
        total = sum(self.walk.seconds.values())
        return " · " + tr("{total:.0f} min at the board", total=total / 60) if total >= 60 else ""

    def _state(self) -> str:
        words = []
        if self.walk.is_playing:
            words.append(tr("playing, {pace:g} s a move", pace=self.walk.pace))
        if self.walk.chosen != "all":
            words.append(tr("{chosen} only", chosen=self.walk.chosen))
        if self.paper.is_asking:
            words.append(tr("click what you have drawn already; J goes on"))
        if self.walk.skipped:
            words.append(tr("{count} moves skipped", count=len(self.walk.skipped)))
        if self.reads_aloud:
            heard = tr("read aloud, page keys draw")
            silent = tr("page keys draw; no voice is installed to read aloud")
            words.append(heard if self.voice.is_there else silent)
        if not self.paper.shows_light:
            words.append(tr("firm lines only"))
        return " · ".join(words)
