"""The Check page without a sheet: the ways by which a drawn one comes here, as large choices."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.demo import DEMO_ID, SCANNED_FIGURE, scan_path
from holoptic.desk.canvas.canvas import Line
from holoptic.desk.canvas.start_card import StartCard
from holoptic.desk.pages.check.scanner_form import ScannerForm
from holoptic.desk.session.session import Session

_SHEET = ((2.0, 2.0), (86.0, 2.0), (86.0, 58.0), (2.0, 58.0), (2.0, 2.0))
_BLOCK = (
    ((16.0, 26.0), (44.0, 10.0), (72.0, 26.0), (72.0, 33.0), (58.0, 41.0), (58.0, 46.0),
     (44.0, 54.0), (16.0, 38.0), (16.0, 26.0)),
    ((16.0, 38.0), (30.0, 30.0), (30.0, 25.0), (44.0, 17.0), (72.0, 33.0)),
    ((30.0, 30.0), (58.0, 46.0)), ((30.0, 25.0), (58.0, 41.0)), ((44.0, 17.0), (44.0, 10.0)),
)  # fmt: skip
_RULED = ((16.0, 38.0), (44.0, 54.0)), ((44.0, 10.0), (58.0, 46.0))
_SLIPPED = ((33.0, 23.0), (61.0, 39.0))


class CheckInvitation(QWidget):
    """Offers a file, what was copied, the scanner, and the demo's scan where its job lies there."""

    def __init__(
        self, session: Session, open_file: Callable[[], None], paste: Callable[[], None],
        weigh: Callable[[], None],
    ) -> None:  # fmt: skip
        super().__init__()
        self.session = session
        self.setObjectName("body")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(self)
        column.setContentsMargins(26, 14, 26, 18)
        column.setSpacing(8)
        title = QLabel(tr("Sheet in, slip out"))
        title.setObjectName("title")
        self.what = QLabel()
        self.what.setWordWrap(True)
        self.what.setObjectName("quiet")
        column.addWidget(title)
        column.addWidget(self.what)
        self.open_card = self._card("O", tr("Open a picture"), tr("a scan, a photo or a PDF"),
                                    open_file)  # fmt: skip
        self.open_card.show_sketch(self._sketch())
        self.paste_card = self._card("Ctrl+V", tr("Paste a picture"), tr("or drop one anywhere"),
                                     paste)  # fmt: skip
        self.paste_card.show_sketch(Line(path, "card true") for path in (_SHEET, *_BLOCK))
        self.rule_card = self._card("D", tr("Type control distances"),
                                    tr("or measure them, in any order"), weigh)  # fmt: skip
        self.rule_card.show_sketch([*(Line(path, "light") for path in (_SHEET, *_BLOCK)),
                                    *(Line(path, "lift") for path in _RULED)])  # fmt: skip
        self.demo_card = self._card("1", tr("The demo's scan"), tr("the gallery block, two slips"),
                                    self.take_demo)  # fmt: skip
        self.demo_card.show_sketch([*self._sketch(), Line(_SLIPPED, "collision")])
        self.cards = QHBoxLayout()
        self.cards.setSpacing(12)
        for card in (self.open_card, self.paste_card, self.rule_card, self.demo_card):
            self.cards.addWidget(card, 1)
        column.addLayout(self.cards, 1)
        self.scanner = ScannerForm(session)
        column.addWidget(self.scanner)

    def _sketch(self) -> list[Line]:
        return [Line(_SHEET, "visible"), *(Line(path, "light") for path in _BLOCK)]

    def _card(self, key: str, title: str, note: str, run: Callable[[], None]) -> StartCard:
        card = StartCard(key, title, note)
        card.chosen.connect(run)
        return card

    def take_demo(self) -> None:
        """Check the demo's scan beside the plan of its figure."""
        if not self.demo_card.isVisible():
            return
        document = self.session.document
        document.choose_figure(SCANNED_FIGURE)
        self.session.checks.check(scan_path(), tr("the demo's scan"))

    def showEvent(self, event: QShowEvent | None) -> None:
        """Say what a sheet would be laid beside."""
        super().showEvent(event)
        self.refresh()

    def refresh(self) -> None:
        """Say of which figure a sheet is wanted."""
        document = self.session.document
        figure = document.figure
        name = document.job.title_of(figure.subject) if figure is not None else ""
        self.what.setText(
            tr("Put the drawn sheet under a scanner, or take a photo with its whole border in it. "
               "It is laid beside the plan of {name}: what is missing, off or too much is "
               "marked, and the move that caused it is named.", name=name)
        )  # fmt: skip
        self.scanner.refresh()
        known = {one.id for one in document.job.figures}
        self.demo_card.setVisible(document.job.id == DEMO_ID and SCANNED_FIGURE in known)
