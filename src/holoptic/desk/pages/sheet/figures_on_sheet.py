"""What stands on the sheet: its figures, which of them is in hand, more of them, their scales."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QMenu, QPushButton, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.desk.pages.sheet.sections_field import SectionsField
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.menus import give_mnemonics, open_under, show_whole_entries
from holoptic.desk.widgets.pressed import on_toggle, show_down
from holoptic.job import VIEW_LINES, VIEWS, Figure, Series, Sheet, view_named
from holoptic.pictorial import kind_families, view_of
from holoptic.sheet.papers import scales_of, shown_scale

_AS_SHEET = tr("as the sheet")


class FiguresOnSheet(QWidget):
    """The figures of the sheet in hand, one below the other; one of them is in hand."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.rows: list[QPushButton] = []
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(3)
        self.sheets = QComboBox()
        self.sheets.setAccessibleName(tr("sheet of the job"))
        self.sheets.activated.connect(self._take_sheet)
        layout.addWidget(self.sheets)
        self._list = QVBoxLayout()
        self._list.setSpacing(2)
        layout.addLayout(self._list)
        self.scales = QComboBox()
        self.scales.setAccessibleName(tr("scale of the figure in hand"))
        self.scales.activated.connect(self._take_scale)
        layout.addWidget(self.scales)
        self.sections = SectionsField(session)
        layout.addWidget(self.sections)
        self.add = self._button(
            tr("Add a figure …  (F)"), tr("Another kind, the views, another part"), self.open_menu
        )
        self.own = self._button(tr("Own sheet"), tr("Put the figure in hand on a sheet of its own"),
                                self.put_on_own_sheet)  # fmt: skip
        self.remove = self._button(tr("Remove  (X)"), tr("Take the figure in hand out of the job"),
                                   self.remove_figure)  # fmt: skip
        layout.addWidget(self.add)
        pair = QHBoxLayout()
        pair.setSpacing(4)
        for button in (self.own, self.remove):
            pair.addWidget(button, 1)
        layout.addLayout(pair)

    def _button(self, words: str, tip: str, run: Callable[[], None]) -> QPushButton:
        button = QPushButton(words)
        button.setToolTip(tip)
        button.clicked.connect(run)
        return button

    # --- showing ----------------------------------------------------------------------------

    def refresh(self, series: Series) -> None:
        """Show the sheet in hand with its figures; scales are those of a series of papers."""
        document = self.session.document
        sheet, figure = document.sheet, document.figure
        if sheet is None or figure is None:
            return
        self._show_sheets(sheet)
        while len(self.rows) < len(sheet.figures):
            row = QPushButton()
            row.setObjectName("entry")
            on_toggle(row, partial(self._take_row, len(self.rows)))
            self._list.addWidget(row)
            self.setTabOrder(self.rows[-1] if self.rows else self.sheets, row)
            self.rows.append(row)
        for number, row in enumerate(self.rows):
            there = number < len(sheet.figures)
            row.setVisible(there)
            if there:
                self._show_row(row, sheet.figures[number], figure)
        self._show_scale(figure, series)
        self.sections.refresh(figure)
        stands = any(item.id == figure.id for item in document.job.figures)
        self.own.setEnabled(len(sheet.figures) > 1)
        self.remove.setEnabled(stands)

    def _show_row(self, row: QPushButton, figure: Figure, in_hand: Figure) -> None:
        job = self.session.document.job
        name = job.title_of(figure.subject)
        title = kind_words(figure.title)
        if figure.apart:
            title = tr("{title}, apart", title=title)
        several = len(job.parts) + len(job.arrangements) > 1
        row.setText(f"{title}, {name}" if several else title)
        row.setToolTip(tr("{title} of {name}: figure {id}", title=title, name=name, id=figure.id))
        row.setAccessibleName(
            tr("figure {id}: {title} of {name}", id=figure.id, title=title, name=name)
        )
        show_down(row, figure.id == in_hand.id)

    def _show_sheets(self, sheet: Sheet) -> None:
        job = self.session.document.job
        self.sheets.clear()
        for number, item in enumerate(job.sheets, 1):
            parts = dict.fromkeys(job.title_of(figure.subject) for figure in item.figures)
            self.sheets.addItem(
                tr(
                    "{number} of {sheets}: {parts}",
                    number=number,
                    sheets=len(job.sheets),
                    parts=", ".join(parts),
                ),
                item.id,
            )
        self.sheets.setCurrentIndex(self.sheets.findData(sheet.id))
        self.sheets.setToolTip(self.sheets.currentText())
        self.sheets.setVisible(len(job.sheets) > 1)
        show_whole_entries(self.sheets)

    def _show_scale(self, figure: Figure, series: Series) -> None:
        scales = list(scales_of(series))
        if figure.scale is not None and figure.scale not in scales:
            scales.append(figure.scale)
        self.scales.clear()
        self.scales.addItem(_AS_SHEET, None)
        for scale in scales:
            self.scales.addItem(tr("its own: {scale}", scale=shown_scale(scale, series)), scale)
        self.scales.setCurrentIndex(0 if figure.scale is None else 1 + scales.index(figure.scale))

    # --- choosing ---------------------------------------------------------------------------

    def _take_sheet(self, index: int) -> None:
        sheet = self.session.document.job.sheet(self.sheets.itemData(index))
        drawn = [figure for figure in sheet.figures if figure.is_pictorial]
        self.session.document.choose_figure((drawn or list(sheet.figures))[0].id)

    def _take_row(self, number: int) -> None:
        sheet = self.session.document.sheet
        if sheet is not None and number < len(sheet.figures):
            self.session.document.choose_figure(sheet.figures[number].id)
            show_down(self.rows[number], True)

    def _take_scale(self, index: int) -> None:
        figure = self.session.document.figure
        if figure is not None:
            changed = replace(figure, scale=self.scales.itemData(index))
            self.session.document.edit_figure(changed, tr("scale of the figure"))

    def take_next(self) -> None:
        """Take the next figure of the sheet in hand."""
        self.session.document.choose_next_figure()

    # --- more and fewer ---------------------------------------------------------------------

    def menu(self) -> QMenu:
        """Return the menu of what can be added: kinds and views, of each part and arrangement."""
        menu = QMenu(self)
        job, subjects = self.session.document.job, self.session.document.subjects
        for subject in subjects:
            under = menu if len(subjects) == 1 else menu.addMenu(job.title_of(subject))
            if under is None:
                continue
            for name in (VIEWS, *kinds_to_add()):
                for apart in (False, True) if job.is_arrangement(subject) else (False,):
                    words = kind_words(name)
                    action = under.addAction(tr("{title}, apart", title=words) if apart else words)
                    if action is not None:
                        action.triggered.connect(partial(self.add_figure, subject, name, apart))
            give_mnemonics(under)
        if len(subjects) > 1:
            give_mnemonics(menu)
        return menu

    def open_menu(self) -> None:
        """Open the menu of what can be added."""
        open_under(self.menu(), self.add)

    def add_figure(self, subject: str, name: str, apart: bool = False) -> None:
        """Put a figure of a part or an arrangement, together or apart, on the sheet in hand: its
        views, or a kind of pictorial.
        """
        document = self.session.document
        sheet, in_hand = document.sheet, document.figure
        if sheet is None or in_hand is None:
            return
        job = document.job.with_sheet(sheet)
        view = view_named(name, in_hand.corner)
        lines = VIEW_LINES if name == VIEWS else in_hand.lines
        figure = Figure(job.fresh_figure_id(), subject, view, lines, apart=apart)
        job = job.with_figure_on(sheet.id, figure)
        title = job.title_of(subject)
        document.edit(job, tr("{name} of {name2} on the sheet", name=name, name2=title))

    def put_on_own_sheet(self) -> None:
        """Put the figure in hand on a sheet of its own."""
        document = self.session.document
        if document.figure is not None and len(self.session.document.order.posed) > 1:  # type: ignore[union-attr]
            job = document.job.on_own_sheet(document.figure.id)
            document.edit(job, tr("a sheet of its own"))

    def remove_figure(self) -> None:
        """Take the figure in hand out of the job; undo brings it back."""
        document = self.session.document
        figure = document.figure
        if figure is not None and self.remove.isEnabled():
            document.edit(
                document.job.without_figure(figure.id),
                tr("remove the {title}", title=kind_words(figure.title)),
            )


def kind_words(name: str) -> str:
    """Return what a reader calls a kind of pictorial, or views."""
    return tr("views") if name == VIEWS else view_of(name).short_title


def kinds_to_add() -> list[str]:
    """Return the kinds that need no figures of their own."""
    return [family.name for family in kind_families() if not family.parameters]
