"""The Read page without a drawing: the ways to come by one, as large live choices."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from functools import partial
from itertools import pairwise

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.demo import drawing_paths, sketch_path, views_photo_path
from holoptic.desk.canvas.canvas import Line
from holoptic.desk.canvas.start_card import PANES, StartCard
from holoptic.desk.pages.read.views_scanner import ViewsScanner
from holoptic.desk.session.session import Session
from holoptic.paper.given import Given

_GLANCE = "glance at demo drawing"
_LEAN = 0.16
_BORDER = tuple((x - 12, 1.35 * y - 4) for x, y in (
    (0.0, 0.0), (76.0, 0.0), (76.0, 40.0), (0.0, 40.0), (0.0, 0.0)
))  # fmt: skip


def _leaning(place: Vec2) -> Vec2:
    """Return a place of a sheet as a camera held askew would see it."""
    x, y = place
    return x * (1 - _LEAN * y / 50) + 5 * y / 50, y * (1 - _LEAN * x / 76)


def _finely(path: Sequence[Vec2]) -> Iterator[Vec2]:
    for (x, y), (u, v) in pairwise(path):
        yield from ((x + (u - x) * k / 8, y + (v - y) * k / 8) for k in range(9))


def _by_hand(place: Vec2) -> Vec2:
    """Return a place of a drawing where a free hand may put it."""
    x, y = place
    return x + 0.35 * math.sin(0.55 * y + 0.1 * x), y + 0.35 * math.sin(0.5 * x + 0.2 * y)


class ReadInvitation(QWidget):
    """Offers a file, views drawn here, the part on the desk if there is one, and demo drawings."""

    def __init__(
        self,
        session: Session,
        open_file: Callable[[], None],
        draw_views: Callable[[], None],
        practise: Callable[[], None],
    ) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("body")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(self)
        column.setContentsMargins(26, 14, 26, 18)
        column.setSpacing(8)
        title = QLabel(tr("Views in, part out"))
        title.setObjectName("title")
        self.what = QLabel(
            tr(
                "Two or three orthographic views of a part become the part "
                "itself, with every line accounted for. Where do the views "
                "come from?"
            )
        )
        self.what.setWordWrap(True)
        self.what.setObjectName("quiet")
        column.addWidget(title)
        column.addWidget(self.what)
        self.open_card = self._card(
            "O", tr("Open a drawing"), tr("DXF, PDF, SVG, a scan or a photo"), open_file
        )
        lines = [tuple((x + 9, y - 2) for x, y in path) for path in (*PANES, _BORDER)]
        self.open_card.show_sketch(Line(path, "visible") for path in lines)
        self.draw_card = self._card(
            "D", tr("Draw the views here"), tr("three panes that help each other"), draw_views
        )
        self.draw_card.show_sketch(Line(path, "card true") for path in PANES)
        self.practise_card = self._card(
            "P", tr("Views of the part on the desk"), tr("to practise reading"), practise
        )
        self.demos = [
            self._card(str(number), path.stem.replace("-", " "), tr("demo drawing"),
                       partial(session.readings.open, path))
            for number, path in enumerate(drawing_paths(), 1)
        ]  # fmt: skip
        photo = views_photo_path()
        self.photo_card = self._card(
            str(len(self.demos) + 1), tr("wedge foot, on paper"), tr("demo photo"),
            partial(session.readings.open, photo),
        )  # fmt: skip
        self.photo_card.show_sketch(Line(tuple(map(_leaning, path)), "visible") for path in lines)
        self.demos.append(self.photo_card)
        self.sketch_card = self._card(
            str(len(self.demos) + 1), tr("wick rest, sketched"), tr("demo sketch"),
            partial(session.readings.open, sketch_path(), Given(is_sketch=True)),
        )  # fmt: skip
        self.sketch_card.show_sketch(
            Line(tuple(map(_by_hand, _finely(path))), "visible") for path in lines[:-1]
        )
        self.demos.append(self.sketch_card)
        for share, cards in ((3, (self.open_card, self.draw_card, self.practise_card)),
                             (4, self.demos)):  # fmt: skip
            row = QHBoxLayout()
            row.setSpacing(12)
            for card in cards:
                row.addWidget(card, 1)
            column.addLayout(row, share)
        self.scanner = ViewsScanner(session)
        column.addWidget(self.scanner)
        session.kernel.answered.connect(self._take)
        session.answers.views_changed.connect(self.refresh)

    def _card(self, key: str, title: str, note: str, run: Callable[[], None]) -> StartCard:
        card = StartCard(key, title, note)
        card.chosen.connect(run)
        return card

    def showEvent(self, event: QShowEvent | None) -> None:
        """Have the drawings pictured."""
        super().showEvent(event)
        for number, path in enumerate(drawing_paths()):
            self.session.kernel.ask(f"{_GLANCE} {number}", "sheet_lines", str(path))
        self.refresh()

    def refresh(self) -> None:
        """Show the views of the part on the desk, or nothing of that where there is none."""
        if not self.isVisible():
            return
        self.scanner.refresh()
        placed = self.session.answers.placed
        self.practise_card.setVisible(self.session.document.job_part is not None)
        self.practise_card.show_sketch(
            Line(tuple((x + view.origin[0], y + view.origin[1]) for x, y in stroke.path), "visible")
            for view in placed[:3] for stroke in view.picture.visible
        )  # fmt: skip

    def _take(self, purpose: str, value: object) -> None:
        for number, card in enumerate(self.demos):  # the photo is shown by its sketch
            if purpose == f"{_GLANCE} {number}" and isinstance(value, tuple):
                card.show_views(value)
