"""The column beside the sheet: what is asked of it, and what else stands on it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QGridLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QWidget,
)

from holoptic.desk.session.session import Session
from holoptic.desk.widgets.column import Column
from holoptic.desk.widgets.mm_spin import MmSpin
from holoptic.desk.widgets.rows import Row
from holoptic.job import SheetWish
from holoptic.pictorial import kind_families
from holoptic.sheet.papers import PAPERS, SERIES, paper_named, scale_words, scales_of
from holoptic.sheet.planning import VIEWS

_WIDTH = 244
_SERIES = tuple((name, name if name != "architectural" else "Arch") for name in SERIES)
_WAYS = ((None, "as fits"), (False, "lengthwise"), (True, "upright"))
FRAMES = (("draw", "drawn by hand"), ("printed", "printed"))
_ROOMS = (
    ("margin_mm", "inside the border"),
    ("dimensions_mm", "for dimensions"),
    ("caption_mm", "for captions"),
)


class SheetColumn(Column):
    """Paper, way round, scale, rooms, border, and the company of the picture."""

    def __init__(self, session: Session) -> None:
        super().__init__(_WIDTH)
        self.session = session
        self.series = Row(_SERIES, self._take_series, "Papers to choose from")
        self.add("Papers", self.series)
        self.papers = QComboBox()
        self.papers.setAccessibleName("paper")
        self.papers.activated.connect(self._take_paper)
        self.layers.addWidget(self.papers)
        self.upright = Row(_WAYS, lambda value: self._change("which way round", upright=value),
                           "Which way round (U)")  # fmt: skip
        self.layers.addWidget(self.upright)
        self.scales = QComboBox()
        self.scales.setAccessibleName("scale")
        self.scales.activated.connect(self._take_scale)
        self.add("Scale", self.scales)
        self._add_rooms()
        self.frame = Row(FRAMES, lambda value: self._change("border", frame=value),
                         "Border and title block")  # fmt: skip
        self.add("Border and title block", self.frame)
        self._add_title_block()
        self._add_company()
        self.layers.addStretch(1)

    def _add_rooms(self) -> None:
        box = QWidget()
        grid = QGridLayout(box)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        self.rooms: dict[str, MmSpin] = {}
        for row, (name, words) in enumerate(_ROOMS):
            field = MmSpin(100.0, 1)
            field.setAccessibleName(f"room kept {words}")
            field.editingFinished.connect(self._rooms_changed)
            grid.addWidget(QLabel(words), row, 0)
            grid.addWidget(field, row, 1)
            self.rooms[name] = field
        self.add("Room kept free", box)

    def _add_title_block(self) -> None:
        """Add what the title block says, to be typed over."""
        box = QWidget()
        grid = QGridLayout(box)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        session = self.session
        takers = (
            ("work", session.rename_job), ("part", session.rename_part),
            ("number", session.number_part), ("date", session.date_job),
            ("drawn by", session.sign_job),
        )  # fmt: skip
        self.title_fields: dict[str, QLineEdit] = {}
        for row, (name, take) in enumerate(takers):
            field = QLineEdit()
            field.setAccessibleName(f"{name}, in the title block")
            field.editingFinished.connect(lambda field=field, take=take: self._retitle(field, take))
            grid.addWidget(QLabel(name), row, 0)
            grid.addWidget(field, row, 1)
            self.title_fields[name] = field
        self.add("Title block", box)

    def _retitle(self, field: QLineEdit, take: Callable[[str], None]) -> None:
        """Take what was typed; a work and a part are always called something."""
        words = field.text().strip()
        may_be_empty = field not in (self.title_fields["work"], self.title_fields["part"])
        if words or may_be_empty:
            take(words)
        self._show_title()

    def _show_title(self) -> None:
        title = self.session.title
        said = {"work": title.work, "part": title.part, "number": title.number,
                "date": title.date, "drawn by": title.drawn_by}  # fmt: skip
        for name, field in self.title_fields.items():
            if not field.hasFocus() or field.text().strip() == said[name]:
                field.setText(said[name])
            if not field.hasFocus():
                field.setCursorPosition(0)  # long words show their beginning

    def _add_company(self) -> None:
        box = QWidget()
        grid = QGridLayout(box)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(2)
        kinds = [family.name for family in kind_families() if not family.parameters]
        self.company = {name: QCheckBox(name.replace("-", " ")) for name in (VIEWS, *kinds)}
        for index, (name, check) in enumerate(self.company.items()):
            check.clicked.connect(lambda on, name=name: self._invite(name, on))
            grid.addWidget(check, index, 0)
        self.add("On the same sheet", box)
        self.next = QPushButton("Draw the next of them  (N)")
        self.next.setToolTip("The other drawing is planned at its place, the border stands already")
        self.next.clicked.connect(self.take_next)
        self.layers.addWidget(self.next)

    # --- showing ----------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show what is asked of the sheet on the desk."""
        part = self.session.job_part
        self.setEnabled(part is not None)
        if part is None:
            return
        wish = part.choice.sheet
        series = wish.series if wish.paper is None else paper_named(wish.paper).series
        self.series.show_value(series)
        papers = [paper.name for paper in PAPERS if paper.series == series]
        self._fill(self.papers, papers, wish.paper)
        scales = list(scales_of(series))
        if wish.scale is not None and wish.scale not in scales:
            scales.append(wish.scale)
        words = [scale_words(scale, series) for scale in scales]
        chosen = None if wish.scale is None else scale_words(wish.scale, series)
        self._fill(self.scales, words, chosen, scales)
        self.upright.show_value(wish.upright)
        self.frame.show_value(wish.frame)
        self._show_title()
        for name, field in self.rooms.items():
            field.use_unit(self.session.job.unit)
            field.show_mm(getattr(wish, name))
        for name, check in self.company.items():
            is_own = name == part.choice.kind
            check.setChecked(is_own or name in wish.company)
            check.setEnabled(not is_own)
        self.next.setVisible(any(name != VIEWS for name in wish.company))

    def _fill(
        self, box: QComboBox, names: list[str], chosen: str | None, data: list[float] | None = None
    ) -> None:
        box.clear()
        box.addItem("as fits best", None)
        for name, value in zip(names, data or names, strict=True):
            box.addItem(name, value)
        box.setCurrentIndex(0 if chosen is None else box.findText(chosen))

    # --- choosing ---------------------------------------------------------------------------

    def _change(self, words: str, **changes: object) -> None:
        part = self.session.job_part
        if part is not None:
            wish = replace(part.choice.sheet, **changes)  # type: ignore[arg-type]
            self.take_wish(wish, words)
        self.refresh()

    def take_wish(self, wish: SheetWish, words: str) -> None:
        """Ask something else of the sheet."""
        part = self.session.job_part
        if part is not None:
            self.session.edit_choice(replace(part.choice, sheet=wish), f"sheet: {words}")

    def _take_series(self, series: object) -> None:
        self._change("papers", series=series, paper=None, scale=None)

    def _take_paper(self, index: int) -> None:
        self._change("paper", paper=self.papers.itemData(index))

    def _take_scale(self, index: int) -> None:
        self._change("scale", scale=self.scales.itemData(index))

    def _rooms_changed(self) -> None:
        self._change("rooms", **{name: field.mm for name, field in self.rooms.items()})

    def _invite(self, name: str, on: bool) -> None:
        part = self.session.job_part
        if part is not None:
            others = tuple(other for other in part.choice.sheet.company if other != name)
            self._change(name, company=(*others, name) if on else others)

    def turn(self) -> None:
        """Ask for the next way round."""
        self.upright.step()

    def take_next(self) -> None:
        """Take the next pictorial of the sheet in hand; the one before stays in its place."""
        part = self.session.job_part
        laid = self.session.laid
        if part is None or laid is None or laid.layout is None:
            return
        names = [item.name for item in laid.items if item.name != VIEWS]
        if len(names) < 2:
            return
        kind = names[(names.index(part.choice.kind) + 1) % len(names)]
        wish = part.choice.sheet
        company = tuple(name for name in (*wish.company, part.choice.kind) if name != kind)
        paper = laid.layout.paper
        wish = replace(wish, company=company, frame="printed", paper=paper.name,
                       upright=paper.is_upright, scale=laid.layout.scale)  # fmt: skip
        choice = replace(part.choice, kind=kind, sheet=wish)
        self.session.edit_choice(choice, f"draw the {kind}")
