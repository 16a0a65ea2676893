"""The empty desk: what lies at hand to begin with, as large live choices with their keys."""

from __future__ import annotations

import contextlib
import re
from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QShortcut, QShowEvent
from PyQt6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.curves.vectors import apply
from holoptic.demo import DEFAULT, drawing_paths, job_names, job_path
from holoptic.desk.canvas.canvas import Canvas, Line
from holoptic.desk.canvas.start_card import PANES, StartCard
from holoptic.desk.look.theme import px
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.fields import LengthField
from holoptic.desk.widgets.notice import Notice
from holoptic.desk.widgets.rows import Row
from holoptic.errors import BadInput
from holoptic.exchange.job_file import JOB_SUFFIXES, SUFFIX, read_job
from holoptic.exchange.preview import preview_in
from holoptic.exchange.safekeeping import recent_files
from holoptic.job import pose, posed_figure
from holoptic.part.crate import AXIS_LETTERS, AXIS_NAMES, Crate
from holoptic.part.marks import crate_lines
from holoptic.part.starters import new_part
from holoptic.part.templates import templates
from holoptic.pictorial import view_of
from holoptic.units import Length, Unit
from holoptic.worker.messages import Shelved

_MOST_RECENT = 4
_BY = re.compile("[xX×]")
"""Between sizes that are written one after the other."""
_GLANCE = "glance at a drawing"
_LARGEST_GLANCE = 1_000_000
"""A job file of more bytes would keep the desk waiting."""
"""Three panes as a hand draws them: the sign of drawing views here."""
_UNITS = (
    (Unit.MM, "mm"),
    (Unit.INCH_DECIMAL, tr("in, decimal")),
    (Unit.INCH_FRACTION, tr("in, fractions")),
)


class Choices:
    """What the empty desk can do beside beginning a part."""

    def __init__(
        self,
        read: Callable[[], None],
        draw_views: Callable[[], None],
        open_file: Callable[[], None],
        open_path: Callable[[Path], None],
        demo: Callable[[], None],
        begin: Callable[[Path], None],
    ) -> None:
        self.read, self.draw_views, self.begin = read, draw_views, begin
        self.open_file, self.open_path, self.demo = open_file, open_path, demo


class Invitation(QWidget):
    """Offers a size to type, templates, drawings, files, recent work and the demo."""

    def __init__(self, session: Session, actions: Choices) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("body")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._actions = actions
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(26, 14, 26, 14)
        self._column.setSpacing(6)
        self._heading(tr("What is to be drawn?"), "title")
        first = QHBoxLayout()
        first.setSpacing(12)
        self.size_card = SizeCard(session)
        first.addWidget(self.size_card, 5)
        first.addLayout(self._make_templates(), 7)
        self._column.addLayout(first, 5)
        self._heading(tr("From what is there"))
        self._column.addLayout(self._make_sources(), 3)
        self._heading(tr("Recent work, and jobs of the demo"))
        self._recent_row = QHBoxLayout()
        self._recent_row.setSpacing(8)
        self._column.addLayout(self._recent_row, 3)
        self.recent: list[tuple[Path, StartCard]] = []
        self._unread: list[Path] = []
        session.kernel.answered.connect(self._take)
        session.document.changed.connect(self.size_card.refresh)

    def _heading(self, words: str, name: str = "heading") -> QLabel:
        label = QLabel(words)
        label.setObjectName(name)
        self._column.addWidget(label)
        return label

    def _make_templates(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setSpacing(8)
        self.templates: list[tuple[str, StartCard]] = []
        for number, title in enumerate(templates()):
            card = self._card(f"Alt+{number + 1}", title, tr("part template"),
                              partial(self.session.document.begin_part, title))  # fmt: skip
            grid.addWidget(card, number // 3, number % 3)
            self.templates.append((title, card))
        return grid

    def _make_sources(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(8)
        act = self._actions
        self.drawing = self._card(
            "Alt+R", tr("Read a drawing"), tr("two or three views, also on paper"), act.read
        )
        self.views = self._card(
            "Alt+V", tr("Draw its views"), tr("in three panes, here"), act.draw_views
        )
        self.views.show_sketch(Line(path, "visible") for path in PANES)
        self.file = self._card(
            "Alt+O", tr("Open a file"), tr("job, or solid (STEP)"), act.open_file, "open"
        )
        self.demo = self._card("Alt+D", tr("The demo"), tr("a harbour lamp, nine parts"), act.demo)
        for card in (self.drawing, self.views, self.file, self.demo):
            row.addWidget(card, 1)
        return row

    def _card(
        self, key: str, title: str, note: str, run: Callable[[], None], icon: str = ""
    ) -> StartCard:
        card = StartCard(key, title, note, icon)
        card.chosen.connect(run)
        shortcut = QShortcut(key, self)
        shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        shortcut.activated.connect(run)
        card.destroyed.connect(shortcut.deleteLater)
        return card

    # --- showing ----------------------------------------------------------------------------

    def showEvent(self, event: QShowEvent | None) -> None:
        """Have everything pictured, look recent work up, and put the cursor into the length."""
        super().showEvent(event)
        ask, unit = self.session.kernel.ask, self.session.document.unit
        self._show_recent()
        for title, _ in self.templates:
            ask(f"begin {title}", "shelve", pose(templates()[title](title, unit)))
        ask(_GLANCE, "sheet_lines", str(drawing_paths()[0]))
        self._unread = [job_path()]
        for path, card in self.recent:
            if not self._show_cover(path, card):
                self._unread.append(path)
        QTimer.singleShot(0, self._read_next)
        self.size_card.refresh()
        window = self.window()
        at = window.focusWidget() if window is not None else None
        if at is None or not isinstance(at.parent(), Notice):  # a question takes keys first
            self.size_card.fields[0].setFocus()

    def _show_recent(self) -> None:
        while self._recent_row.takeAt(0) is not None:
            pass
        for _, card in self.recent:
            card.deleteLater()
        self.recent = []
        offered = [
            (path, path.stem, path.suffix.lstrip("."), partial(self._actions.open_path, path))
            for path in recent_files()[:_MOST_RECENT]
        ]
        for name in job_names():
            if name != DEFAULT and len(offered) < _MOST_RECENT:
                path, title = job_path(name), tr(name.replace("-", " "))
                offered.append((path, title, tr("demo job"), partial(self._actions.begin, path)))
        for number, (path, title, note, run) in enumerate(offered, len(self.templates) + 1):
            card = self._card(f"Alt+{number}", title, note, run, "open")
            if note != tr("demo job"):
                card.setToolTip(f"{path} (Alt+{number})")
            self._recent_row.addWidget(card, 1)
            self.recent.append((path, card))
        if len(offered) < _MOST_RECENT:  # few cards are no wider than many
            self._recent_row.addStretch(_MOST_RECENT - len(offered))

    def _show_cover(self, path: Path, card: StartCard) -> bool:
        """Show a job by the picture that its file carries; say whether it has one."""
        lines = None
        with contextlib.suppress(BadInput, OSError):
            if path.suffix == SUFFIX and path.stat().st_size <= _LARGEST_GLANCE:
                lines = preview_in(path)
        card.show_sketch(Line(tuple(line), "visible") for line in lines or ())
        return bool(lines)

    def _read_next(self) -> None:
        """Have the first part of one more job pictured; one at a time, as the desk answers keys."""
        if not self._unread or not self.isVisible():
            return
        path = self._unread.pop(0)
        QTimer.singleShot(0, self._read_next)
        try:
            if path.suffix not in JOB_SUFFIXES or path.stat().st_size > _LARGEST_GLANCE:
                return
            job = read_job(path)
        except (BadInput, OSError):
            return  # it says so when it is opened
        if job.parts:
            shown = posed_figure(job, job.main_figure(job.parts[0].id))
            self.session.kernel.ask(f"begin {path}", "shelve", shown)

    def _take(self, purpose: str, value: object) -> None:
        if purpose == _GLANCE and isinstance(value, tuple):
            self.drawing.show_views(value)
        elif isinstance(value, Shelved) and value.picture is not None:
            cards = {f"begin {title}": card for title, card in self.templates}
            cards |= {f"begin {path}": card for path, card in self.recent}
            cards[f"begin {job_path()}"] = self.demo
            if purpose in cards:
                cards[purpose].show_picture(value.picture)


class SizeCard(QFrame):
    """Three sizes to type, with the crate they make; Enter begins the part."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("card")
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 10, 14, 12)
        column.setSpacing(6)
        title = QLabel(tr("Type its size, then Enter"))
        title.setObjectName("heading")
        column.addWidget(title)
        column.addLayout(self._make_fields())
        self.units = Row(
            _UNITS, lambda unit: session.document.use_unit(Unit(unit)), tr("The unit of the job")
        )
        column.addWidget(self.units)
        self.crate = Canvas(margin=14)
        self.crate.touchable = False
        self.crate.setMinimumSize(px(100), px(46))
        column.addWidget(self.crate, 1)

    def _make_fields(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setSpacing(6)
        self.fields: list[LengthField] = []
        for axis, (letter, name) in enumerate(zip(AXIS_LETTERS, AXIS_NAMES, strict=True)):
            field = LengthField(tr("{name} of a new part", name=name))
            field.textEdited.connect(partial(self._spread, axis))
            field.textEdited.connect(lambda _: self._show_crate())
            field.returnPressed.connect(self.begin)
            field.may_be_empty = True
            grid.addWidget(QLabel(f"{letter}  {name}"), 0, axis)
            grid.addWidget(field, 1, axis)
            self.fields.append(field)
        return grid

    def refresh(self) -> None:
        """Show the job's unit, and the sizes that a part has if none is typed."""
        if not self.isVisible():
            return
        unit = self.session.document.unit
        self.units.show_value(unit)
        for field, size in zip(self.fields, self._usual(), strict=True):
            field.unit = unit
            field.setPlaceholderText(size.text)
        self._show_crate()

    def _usual(self) -> tuple[Length, Length, Length]:
        crate = new_part("", self.session.document.unit).crate
        return crate.length, crate.depth, crate.height

    def sizes(self) -> tuple[Length, Length, Length] | None:
        """The sizes typed, the usual ones where nothing is; None where one does not read."""
        unit, found = self.session.document.unit, []
        for field, usual in zip(self.fields, self._usual(), strict=True):
            mm = field.value_mm
            if field.text().strip() and (mm is None or mm <= 0):
                return None
            found.append(Length.read(field.text(), unit) if field.text().strip() else usual)
        return found[0], found[1], found[2]

    def _spread(self, axis: int, text: str) -> None:
        """Take “83 x 41 x 37.5” for several sizes: an x leads on to the next field."""
        sizes = [size.strip() for size in _BY.split(text)]
        into = self.fields[axis : axis + len(sizes)]
        if len(sizes) == 1 or len(into) < len(sizes):
            return
        for field, size in zip(into, sizes, strict=True):
            if size or field is into[0]:
                field.fill(size)
                if field.trouble:
                    field.setFocus()
                    return
        last = into[-1]
        last.setFocus()
        if sizes[-1]:
            last.end(False)
        else:
            last.selectAll()

    def begin(self) -> None:
        """Begin a part of these sizes."""
        sizes = self.sizes()
        if sizes is not None:
            for field in self.fields:
                field.clear()
            self.session.document.begin_part(crate=Crate(*sizes))
            return
        for field in self.fields:
            if field.value_mm is not None and field.value_mm <= 0:
                field.refuse(tr("a size is more than zero"))

    def _show_crate(self) -> None:
        sizes = self.sizes()
        if sizes is None:
            return  # the last one that read stays
        view = view_of("isometric")
        high = sizes[0].mm, sizes[1].mm, sizes[2].mm
        far = 0.0, high[1], 0.0
        lines = [
            Line((apply(view.matrix, edge.start), apply(view.matrix, edge.end)),
                 "crate" if far in (edge.start, edge.end) else "visible")
            for edge in crate_lines((0.0, 0.0, 0.0), high)
        ]  # fmt: skip
        us, vs = zip(*(point for line in lines for point in line.path), strict=True)
        self.crate.show_lines(lines, (min(us), min(vs), max(us), max(vs)))
