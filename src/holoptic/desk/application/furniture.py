"""What the window is furnished with once it stands: session, panes, pages, menus.

Importing this module brings in the whole core, which takes a while; `launch` does it in a thread
after the first paint, so that the window answers meanwhile.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6 import sip
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage, QKeyEvent
from PyQt6.QtWidgets import QComboBox, QSplitter, QStackedWidget, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.demo import job_path
from holoptic.desk.application.explaining import explain_focus
from holoptic.desk.application.facts_slip import FactsSlip
from holoptic.desk.application.filing import Filing
from holoptic.desk.application.finder import Finder
from holoptic.desk.application.first_steps import FirstSteps
from holoptic.desk.application.guide_sheet import GuideSheet
from holoptic.desk.application.invitation import Choices, Invitation
from holoptic.desk.application.key_sheet import KeySheet
from holoptic.desk.application.keys_in_hand import KeysInHand
from holoptic.desk.application.measures import measure_line, views_line
from holoptic.desk.application.part_menu import PartMenu
from holoptic.desk.application.report_sheet import ReportSheet
from holoptic.desk.application.second_keys import press_second
from holoptic.desk.application.settings_sheet import SettingsSheet
from holoptic.desk.application.tour_strip import TourStrip
from holoptic.desk.application.tours import TOURS
from holoptic.desk.canvas.canvas import Canvas
from holoptic.desk.canvas.panes import ViewsPane
from holoptic.desk.look.preferences import listen, preference
from holoptic.desk.look.theme import px
from holoptic.desk.pages.carve.page import CarvePage
from holoptic.desk.pages.check.page import CheckPage
from holoptic.desk.pages.draw.page import DrawPage
from holoptic.desk.pages.picture.page import PicturePage
from holoptic.desk.pages.practice.page import PracticePage
from holoptic.desk.pages.read.page import ReadPage
from holoptic.desk.pages.register.page import RegisterPage
from holoptic.desk.pages.sheet.page import SheetPage
from holoptic.desk.pages.spread.page import SpreadPage
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.caliper_line import CaliperLine
from holoptic.desk.widgets.notice import Notice
from holoptic.exchange.job_file import job_bytes, job_schema, read_job
from holoptic.foreign import DRAWING_SUFFIXES, PICTURE_SUFFIXES

if TYPE_CHECKING:
    from holoptic.desk.application.window import DeskWindow

Page = (
    ReadPage | CarvePage | PicturePage | SpreadPage | SheetPage | DrawPage | CheckPage
    | RegisterPage | PracticePage
)  # fmt: skip

_USUAL_VIEWS, _PAGE_AT_EASE = 400, 752
_LEAST_VIEWS, _LEAST_PAGE = 190, 480
_WIDE_VIEWS, _NEARLY = 0.6, 40
"""The views' share of the width where they are widened; pixels that make no difference there."""
_LOW = 700
"""In a window of fewer pixels things that can be told shorter are."""


_WITHOUT_PART = ("read", "register", "practice")
"""Pages that have something to show before there is a part."""


def warm_up() -> None:
    """Do what can be done before any widget is made; safe in a thread."""
    job_schema()  # builds the reader of job files, which takes as long as the imports


class Furniture:
    """Everything in the window's room."""

    def __init__(
        self, window: DeskWindow, parts: QComboBox, hint: Notice, question: Notice
    ) -> None:
        self.session = Session(window)
        self.filing = Filing(self.session, hint, question, window)
        self.part_menu = PartMenu(self.session, parts, window)
        self.views = ViewsPane(self.session)
        self.facts = FactsSlip(self.session)
        self.read = ReadPage(self.session)
        self.caliper = CaliperLine(self.session)
        self.carve = CarvePage(self.session, self.caliper)
        self.picture = PicturePage(self.session)
        self.spread = SpreadPage(self.session)
        self.draw = DrawPage(self.session, self.views, self.caliper)
        self.check = CheckPage(self.session, self.caliper)
        self.check.redraw_asked.connect(lambda: self._redraw(window))
        self.check.going_on_asked.connect(lambda number: self._go_on_drawing(window, number))
        self.check.move_asked.connect(lambda number: self._show_move(window, number))
        self.practice = PracticePage(self.session)
        self.pages: dict[str, Page] = {
            "read": self.read,
            "carve": self.carve,
            "picture": self.picture,
            "spread": self.spread,
            "sheet": SheetPage(self.session),
            "draw": self.draw,
            "check": self.check,
            "register": RegisterPage(self.session),
            "practice": self.practice,
        }
        self.stack = QStackedWidget()
        for page in self.pages.values():
            self.stack.addWidget(page)
        self.filing.read_drawings_by(lambda path: self._read_drawing(window, path))
        self.desk = self._make_desk()
        self.invitation = Invitation(self.session, self._choices(window))
        self.first_steps = FirstSteps(self.session, self.draw.walk, lambda: self.page)
        self.key_sheet = KeySheet(
            lambda: self.show_keys_of(None),
            self._bring_steps_back,
            self.show_about,
            self.show_settings,
            hint.tell,
        )
        self.report_sheet = ReportSheet(
            lambda: self.show_keys_of(None), lambda: job_bytes(self.session.document.job), hint.tell
        )
        self.settings_sheet = SettingsSheet(lambda: self.show_keys_of(None), hint.tell)
        self.guide_sheet = GuideSheet(lambda: self.show_keys_of(None))
        self._sheets: tuple[QWidget, ...]
        self._sheets = (self.key_sheet, self.report_sheet, self.settings_sheet, self.guide_sheet)
        listen(self._take_preferences)
        self.finder = Finder(window, lambda: self.page)
        self.room = QStackedWidget()
        for widget in (self.desk, self.invitation, *self._sheets):
            self.room.addWidget(widget)

    def _make_desk(self) -> QSplitter:
        """Return views and figures at the left, the page at the right."""
        self.left = left = QWidget()
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.views, 1)
        column.addWidget(self.facts)
        splitter = QSplitter(Qt.Orientation.Horizontal)
        splitter.setHandleWidth(5)
        splitter.setChildrenCollapsible(False)
        left.setMinimumWidth(px(_LEAST_VIEWS))
        # the pages that are not in sight must not claim room from the views
        self.stack.setMinimumWidth(px(_LEAST_PAGE))
        splitter.addWidget(left)
        splitter.addWidget(self.stack)
        splitter.setStretchFactor(0, 0)
        splitter.setStretchFactor(1, 1)
        splitter.splitterMoved.connect(self._keep_split)
        self._is_split_by_hand = self._is_wide = False
        return splitter

    def _keep_split(self) -> None:
        self._is_split_by_hand, self._is_wide = True, False

    def _split(self, width: int) -> None:
        """Give the views their share of a width, unless a hand has shared it out."""
        if not self._is_split_by_hand:
            most = max(_USUAL_VIEWS, width // 4)
            views = max(px(_LEAST_VIEWS), min(width - _PAGE_AT_EASE, most))
            self.desk.setSizes([views, width - views])

    def widen_views(self) -> None:
        """Give the views most of the window, or take it back from them."""
        width = sum(self.desk.sizes())
        views = round(_WIDE_VIEWS * width)
        # where a page needs its room the views get less than they ask for
        self._is_wide = not self._is_wide and self.desk.sizes()[0] < views - _NEARLY
        self._is_split_by_hand = self._is_wide
        if self._is_wide:
            self.desk.setSizes([views, width - views])
        else:
            self._split(width)

    def _read_drawing(self, window: DeskWindow, path: Path) -> None:
        window.show_page("read")
        self.session.readings.open(path)

    def _redraw(self, window: DeskWindow) -> None:
        """Step through what a check says is to be drawn again."""
        report = self.session.checks.report
        if report is not None and report.redraw is not None:
            window.show_page("draw")
            self.draw.walk.redo(report.redraw.moves)

    def _go_on_drawing(self, window: DeskWindow, number: int) -> None:
        """Go on with the drawing after the last move that a check found done."""
        window.show_page("draw")
        self.draw.walk.go_on_after(number)

    def _show_move(self, window: DeskWindow, number: int) -> None:
        """Show a move that a check suspects, as it is to be done."""
        window.show_page("draw")
        self.draw.walk.go_to_move(number)

    def take_dropped(self, window: DeskWindow, files: list[Path], image: object) -> None:
        """Open the first of some files that were dropped; pictures are of drawn sheets, on the page
        Read of views.
        """
        if window.page == "read" and files and files[0].suffix.lower() in DRAWING_SUFFIXES:
            self.read.readings.open(files[0])
            return
        if window.page == "read" and not files and isinstance(image, QImage):
            self.read.readings.open_image(image)
            return
        is_picture = isinstance(image, QImage) or (
            files and files[0].suffix.lower() in PICTURE_SUFFIXES)  # fmt: skip
        if window.page == "practice" and is_picture and self.session.practice.takes_sheet:
            self.practice.take_dropped(files, image)
            return
        if files and files[0].suffix.lower() not in PICTURE_SUFFIXES:
            self.filing.leave_then(lambda: self.filing.open(files[0]))
        elif files or isinstance(image, QImage):
            window.show_page("check")
            if files:
                self.check.check(files[0])
            elif isinstance(image, QImage):
                self.check.check_image(image)

    def _choices(self, window: DeskWindow) -> Choices:
        def read(then: Callable[[], None] | None = None) -> None:
            window.show_page("read")
            if then is not None:
                then()

        return Choices(
            read=read,
            draw_views=lambda: read(self.read.draw_views),
            open_file=self.filing.choose_file,
            open_path=self.filing.open,
            demo=self.session.open_demo,
            begin=self.filing.begin_from,
        )

    def fit(self, width: int, height: int) -> None:
        """Make the most of a window's size: in a low one the drawings keep their room."""
        self._split(width)
        is_low = height < px(_LOW)
        self.facts.show_briefly(is_low)
        self.picture.show_briefly(is_low)
        self.spread.show_briefly(is_low)
        self.read.show_briefly(is_low)

    # --- what is in sight ---------------------------------------------------------------------

    @property
    def page(self) -> str:
        """The name of the page in hand."""
        shown = self.stack.currentWidget()
        return next(name for name, page in self.pages.items() if page is shown)

    @property
    def is_empty(self) -> bool:
        """Whether the page in hand needs a part and there is none."""
        return self.session.document.figure is None and self.page not in _WITHOUT_PART

    def follow(self) -> None:
        """Show the page in hand, or what lies at hand to begin with."""
        if self.room.currentWidget() not in self._sheets:
            self.room.setCurrentWidget(self.invitation if self.is_empty else self.desk)
        self.first_steps.follow()
        self.tour.follow(self.page)

    def show_keys_of(self, page: str | None) -> None:
        """Show the keys, those of a page first; None goes back to the page."""
        if page is not None:
            self.room.setCurrentWidget(self.key_sheet)
            self.key_sheet.open_for(page)
        elif self.room.currentWidget() in self._sheets:
            self.room.setCurrentWidget(self.desk)
            self.follow()
            self.pages[self.page].setFocus()

    def show_settings(self) -> None:
        """Show the settings, or go back from them."""
        if self.room.currentWidget() is self.settings_sheet:
            self.show_keys_of(None)
            return
        self.settings_sheet.refresh()
        self.room.setCurrentWidget(self.settings_sheet)
        self.settings_sheet.close_button.setFocus()

    def explain(self) -> None:
        """Explain what has the focus."""
        explain_focus(self.pages[self.page], self.measures())

    def show_guide(self, title: str) -> None:
        """Show the guide where it speaks of a page, or go back from it."""
        if self.room.currentWidget() is self.guide_sheet:
            self.show_keys_of(None)
            return
        self.room.setCurrentWidget(self.guide_sheet)
        self.guide_sheet.open_at(title)

    def bind_keys(self, window: DeskWindow) -> None:
        """Let the keys be as the user wants them, once all of them are there."""
        self.keys = KeysInHand(window, {"begin": self.invitation, **self.pages})
        self.key_sheet.serve(self.keys)
        self.tour = TourStrip(self.keys, self._mark_saved, lambda: window.is_busy)

    def take_key(self, event: QKeyEvent) -> bool:
        """Take a key that stands for another one; False where it does not."""
        is_beginning = self.room.currentWidget() is self.invitation
        return press_second(self.keys, "begin" if is_beginning else self.page, event)

    def leave_tour(self) -> None:
        """End the tour under way."""
        self.tour.leave()

    def _mark_saved(self) -> None:
        self.session.document.history.mark_saved()

    def begin_tour(self, window: DeskWindow, page: str) -> None:
        """Put a job of the demo on the desk, and lead through a page on it; nothing of it is kept.

        The job has an id of its own, so that places and times in the demo's plans stay the user's.
        """
        self.session.logbook.is_shut = True
        job = read_job(job_path(TOURS[page].job))
        self.session.document.replace_job(replace(job, id=f"tour-{page}"), None)
        window.show_page(page)
        self.tour.begin(page)

    def _take_preferences(self) -> None:
        """Let what was chosen count in this window."""
        if sip.isdeleted(self.session):
            return
        self.keys.apply()
        ways = self.session.ways
        if ways.left_handed != preference("left_handed"):
            ways.use_left_hand(preference("left_handed"))

    def show_about(self) -> None:
        """Show versions, and where files lie."""
        self.room.setCurrentWidget(self.report_sheet)
        self.report_sheet.show_about()

    def show_report(self) -> None:
        """Show the report of what went wrong."""
        self.room.setCurrentWidget(self.report_sheet)
        self.report_sheet.show_report()

    def _bring_steps_back(self) -> None:
        self.show_keys_of(None)
        self.first_steps.bring_back()

    def measures(self) -> str:
        """Return the line below a page: measures of what is selected, or of the views read."""
        if self.is_empty:
            return tr("The key of each choice stands on its card; F1 shows all keys.")
        page = self.page
        if page == "register":
            return tr("Nothing of the register leaves this machine.")
        if page == "practice":
            return tr("Your job stays as it is; what you practise stands in the register.")
        return views_line(self.session) if page == "read" else measure_line(self.session, page)

    def fit_panes(self, window: QWidget) -> None:
        """Bring the whole content into every pane."""
        for pane in window.findChildren(Canvas):
            pane.fit()
