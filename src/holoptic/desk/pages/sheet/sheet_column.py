"""The column beside the sheet: what is asked of it, and what else stands on it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.pages.sheet.block_fields import BlockFields
from holoptic.desk.pages.sheet.details_on_sheet import DetailsOnSheet
from holoptic.desk.pages.sheet.figures_on_sheet import FiguresOnSheet
from holoptic.desk.pages.sheet.sizes_on_sheet import Shading, SizesOnSheet
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.column import Column
from holoptic.desk.widgets.folders import keep_folder, last_folder
from holoptic.desk.widgets.mm_spin import MmSpin
from holoptic.desk.widgets.rows import Row
from holoptic.errors import BadInput
from holoptic.exchange.sheet_template import save_template, with_template
from holoptic.job import SheetWish
from holoptic.sheet.papers import PAPERS, SERIES, paper_named, scales_of, shown_scale

_WIDTH = 244
_TEMPLATES = tr("Sheet templates (*.json)")
_SERIES = tuple((name, name if name != "architectural" else "Arch") for name in SERIES)
_WAYS = ((None, tr("as fits")), (False, tr("lengthwise")), (True, tr("upright")))
FRAMES = (("draw", tr("drawn by hand")), ("printed", tr("printed")))
_ENTRIES = {
    "work": tr("work"),
    "part": tr("part"),
    "number": tr("number"),
    "drawn_by": tr("drawn by"),
    "checked_by": tr("checked by"),
    "revision": tr("revision"),
    "date": tr("date"),
}
_OF_SHEET = ("revision",)
"""What each sheet says for itself; the other entries hold for all of them."""
_ROOMS = (
    ("margin_mm", tr("inside the border")),
    ("dimensions_mm", tr("for dimensions")),
    ("caption_mm", tr("for captions")),
)


class SheetColumn(Column):
    """What stands on the sheet, paper, way round, scale, rooms, border, title block."""

    def __init__(self, session: Session, mark_size: Callable[[], None]) -> None:
        super().__init__(_WIDTH)
        self.session = session
        self._add_figures()
        self.sizes = SizesOnSheet(session, self._change, mark_size)
        self.add(tr("Dimensions  (D)"), self.sizes)
        self.shading = Shading(self._change)
        self.add(tr("Shading, light from the …  (S)"), self.shading)
        self.series = Row(_SERIES, self._take_series, tr("Papers to choose from"))
        self.add(tr("Papers"), self.series)
        self.papers = QComboBox()
        self.papers.setAccessibleName(tr("paper"))
        self.papers.activated.connect(self._take_paper)
        self.layers.addWidget(self.papers)
        self.upright = Row(_WAYS, lambda value: self._change(tr("which way round"), upright=value),
                           tr("Which way round (U)"))  # fmt: skip
        self.layers.addWidget(self.upright)
        self.scales = QComboBox()
        self.scales.setAccessibleName(tr("scale"))
        self.scales.activated.connect(self._take_scale)
        self.add(tr("Scale"), self.scales)
        self._add_rooms()
        self.frame = Row(FRAMES, lambda value: self._change("border", frame=value),
                         tr("Border and title block"))  # fmt: skip
        self.add(tr("Border and title block"), self.frame)
        self._add_templates()
        self._add_title_block()
        self.layers.addStretch(1)

    def _add_rooms(self) -> None:
        box = QWidget()
        grid = QGridLayout(box)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        self.rooms: dict[str, MmSpin] = {}
        for row, (name, words) in enumerate(_ROOMS):
            field = MmSpin(100.0, 1)
            field.setAccessibleName(tr("room kept {words}", words=words))
            field.editingFinished.connect(self._rooms_changed)
            grid.addWidget(QLabel(words), row, 0)
            grid.addWidget(field, row, 1)
            self.rooms[name] = field
        self.add(tr("Room kept free"), box)

    def _add_templates(self) -> None:
        box = QWidget()
        row = QHBoxLayout(box)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        for words, tip, run in (
            (tr("Take …"), tr("Lay a template over this sheet"), self._choose_template),
            (tr("Keep …"), tr("Keep what this sheet asks for as a template"), self._name_template),
        ):
            button = QPushButton(words)
            button.setToolTip(tip)
            button.clicked.connect(run)
            row.addWidget(button, 1)
        self.add(tr("Sheet template"), box)

    def _choose_template(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, tr("Sheet template"), last_folder(), _TEMPLATES)
        if name:
            keep_folder(Path(name))
            self.take_template(Path(name))

    def _name_template(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, tr("Sheet template"), str(Path(last_folder()) / "works.sheet.json"), _TEMPLATES
        )
        if name:
            keep_folder(Path(name))
            self.keep_template(Path(name))

    def take_template(self, path: Path) -> None:
        """Lay a template over the sheet in hand; what it cannot be is told."""
        document, sheet = self.session.document, self.session.document.sheet
        if sheet is None:
            return
        try:
            document.edit_sheet(with_template(sheet, path), tr("sheet template"))
        except BadInput as error:
            self.session.told.emit(str(error))
        self.refresh()

    def keep_template(self, path: Path) -> None:
        """Keep what the sheet in hand asks for, and what its title block says, as a template."""
        document, sheet = self.session.document, self.session.document.sheet
        if sheet is None:
            return
        try:
            save_template(path, sheet.wish, sheet.title.over(document.job.title))
        except BadInput as error:
            self.session.told.emit(str(error))
            return
        self.session.told.emit(tr("{name} keeps this sheet as a template", name=path.name))

    def _add_title_block(self) -> None:
        """Add what the title block says, to be typed over."""
        box = QWidget()
        grid = QGridLayout(box)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        self.title_fields: dict[str, QLineEdit] = {}
        for row, (entry, name) in enumerate(_ENTRIES.items()):
            field = QLineEdit()
            field.setAccessibleName(tr("{name}, in the title block", name=name))
            field.editingFinished.connect(partial(self._retitle, entry))
            grid.addWidget(QLabel(name), row, 0)
            grid.addWidget(field, row, 1)
            self.title_fields[entry] = field
        self.add(tr("Title block"), box)
        self.block = BlockFields(self.session)
        self.add(tr("Over the title block, notes"), self.block)

    def _retitle(self, entry: str) -> None:
        """Take what was typed, where it is said; a work and a part are always called something."""
        document, words = self.session.document, self.title_fields[entry].text().strip()
        sheet, job = document.sheet, document.job
        if sheet is None or words == getattr(document.title, entry):
            self._show_title()
            return
        several = len({figure.subject for figure in sheet.figures}) > 1
        on_sheet = getattr(sheet.title, entry) is not None or entry in _OF_SHEET
        if on_sheet or (several and entry in ("part", "number")):
            # an entry that was emptied is again what the job and the part say
            document.write_on_sheet(entry, words or None)
        elif getattr(job.title, entry) is not None or entry not in ("work", "part", "number"):
            document.write_in_title(entry, words or None)
        elif entry == "number":
            document.number_part(words)
        elif words:
            (document.rename_job if entry == "work" else document.rename_part)(words)
        self._show_title()

    def _show_title(self) -> None:
        title = self.session.document.title
        self.block.refresh()
        self.block.follow(self.title_fields["date"])
        for entry, field in self.title_fields.items():
            said = getattr(title, entry)
            if not field.hasFocus() or field.text().strip() == said:
                field.setText(said)
            if not field.hasFocus():
                field.setCursorPosition(0)  # long words show their beginning

    def _add_figures(self) -> None:
        self.figures = FiguresOnSheet(self.session)
        self.add(tr("On this sheet"), self.figures)
        self.next = QPushButton(tr("Draw the next of them  (N)"))
        self.next.setToolTip(
            tr("The other figure is planned at its place, the border stands already")
        )
        self.next.clicked.connect(self.figures.take_next)
        self.layers.addWidget(self.next)
        self.details = DetailsOnSheet(self.session)
        self.layers.addWidget(self.details)

    # --- showing ----------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show what is asked of the sheet in hand, and what stands on it."""
        sheet = self.session.document.sheet
        self.setEnabled(sheet is not None)
        if sheet is None:
            return
        wish = sheet.wish
        series = wish.series if wish.paper is None else paper_named(wish.paper).series
        self.series.show_value(series)
        papers = [paper.name for paper in PAPERS if paper.series == series]
        self._fill(self.papers, papers, wish.paper)
        scales = list(scales_of(series))
        if wish.scale is not None and wish.scale not in scales:
            scales.append(wish.scale)
        words = [shown_scale(scale, series) for scale in scales]
        chosen = None if wish.scale is None else shown_scale(wish.scale, series)
        self._fill(self.scales, words, chosen, scales)
        self.upright.show_value(wish.upright)
        self.frame.show_value(wish.frame)
        self.sizes.refresh(wish)
        self.shading.show_value(wish.shade)
        self._show_title()
        for name, field in self.rooms.items():
            field.use_unit(self.session.document.unit)
            field.show_mm(getattr(wish, name))
        self.figures.refresh(series)
        self.details.refresh(series)
        sheet = self.session.document.sheet
        self.next.setVisible(sheet is not None and len(sheet.figures) > 1)

    def _fill(
        self, box: QComboBox, names: list[str], chosen: str | None, data: list[float] | None = None
    ) -> None:
        box.clear()
        box.addItem(tr("as fits best"), None)
        for name, value in zip(names, data or names, strict=True):
            box.addItem(name, value)
        box.setCurrentIndex(0 if chosen is None else box.findText(chosen))

    # --- choosing ---------------------------------------------------------------------------

    def _change(self, words: str, **changes: object) -> None:
        sheet = self.session.document.sheet
        if sheet is not None:
            self.take_wish(replace(sheet.wish, **changes), words)  # type: ignore[arg-type]
        self.refresh()

    def take_wish(self, wish: SheetWish, words: str) -> None:
        """Ask something else of the sheet."""
        self.session.document.edit_wish(wish, words)

    def _take_series(self, series: object) -> None:
        self._change("papers", series=series, paper=None, scale=None)

    def _take_paper(self, index: int) -> None:
        self._change("paper", paper=self.papers.itemData(index))

    def _take_scale(self, index: int) -> None:
        self._change("scale", scale=self.scales.itemData(index))

    def _rooms_changed(self) -> None:
        self._change("rooms", **{name: field.mm for name, field in self.rooms.items()})

    def turn(self) -> None:
        """Ask for the next way round."""
        self.upright.step()
