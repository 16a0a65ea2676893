"""What the window is furnished with once it stands: session, panes, pages, menus.

Importing this module brings in the whole core, which takes a while; `launch` does it in a thread
after the first paint, so that the window answers meanwhile.
"""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QComboBox, QSplitter, QStackedWidget, QVBoxLayout, QWidget

from holoptic.desk.canvas import Canvas
from holoptic.desk.facts_slip import FactsSlip
from holoptic.desk.filing import Filing
from holoptic.desk.measures import measure_line, views_line
from holoptic.desk.notice import Notice
from holoptic.desk.pages.carve import CarvePage
from holoptic.desk.pages.draw import DrawPage
from holoptic.desk.pages.picture import PicturePage
from holoptic.desk.pages.read import ReadPage
from holoptic.desk.pages.sheet import SheetPage
from holoptic.desk.panes import ViewsPane
from holoptic.desk.part_menu import PartMenu
from holoptic.desk.session import Session
from holoptic.exchange.job_file import job_schema

Page = ReadPage | CarvePage | PicturePage | SheetPage | DrawPage

_VIEWS_WIDTH = 400


def warm_up() -> None:
    """Do what can be done before any widget is made; safe in a thread."""
    job_schema()  # builds the reader of job files, which takes as long as the imports


class Furniture:
    """Everything in the window's room."""

    def __init__(self, window: QWidget, parts: QComboBox, hint: Notice, question: Notice) -> None:
        self.session = Session(window)
        self.filing = Filing(self.session, hint, question, window)
        self.part_menu = PartMenu(self.session, parts, window)
        self.views = ViewsPane(self.session)
        self.facts = FactsSlip(self.session)
        self.pages: dict[str, Page] = {
            "read": ReadPage(self.session),
            "carve": CarvePage(self.session),
            "picture": PicturePage(self.session),
            "sheet": SheetPage(self.session),
            "draw": DrawPage(self.session, self.views),
        }
        self.stack = QStackedWidget()
        for page in self.pages.values():
            self.stack.addWidget(page)

    def room(self) -> QSplitter:
        """Return views and figures at the left, the page at the right."""
        self.left = left = QWidget()
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.views, 1)
        column.addWidget(self.facts)
        splitter = QSplitter(Qt.Orientation.Horizontal)
        splitter.setHandleWidth(5)
        splitter.addWidget(left)
        splitter.addWidget(self.stack)
        splitter.setStretchFactor(0, 0)
        splitter.setStretchFactor(1, 1)
        splitter.setSizes([_VIEWS_WIDTH, 2 * _VIEWS_WIDTH])
        return splitter

    def measures(self, page: str) -> str:
        """Return the line below a page: measures of what is selected, or of the views read."""
        return views_line(self.session) if page == "read" else measure_line(self.session, page)

    def fit_panes(self, window: QWidget) -> None:
        """Bring the whole content into every pane."""
        for pane in window.findChildren(Canvas):
            pane.fit()
