"""The details on the sheet: each with its scale, and a button that takes it away."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import partial

from PyQt6.QtWidgets import QComboBox, QGridLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.theme import px
from holoptic.desk.session.session import Session
from holoptic.job import Detail, Series
from holoptic.sheet.papers import scales_of, shown_scale


@dataclass
class _Row:
    name: QLabel
    scale: QComboBox
    remove: QPushButton


class DetailsOnSheet(QWidget):
    """Rows for the details of all figures on the sheet in hand, and a button that begins one."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.begin = QPushButton(tr("Circle a detail  (O)"))
        self.begin.setCheckable(True)
        self.begin.setToolTip(tr("Press on the middle of the detail and drag its circle out"))
        self.rows: list[_Row] = []
        self._shown: list[tuple[str, Detail]] = []
        self._grid = QGridLayout()
        self._grid.setSpacing(px(3))
        self._grid.setColumnStretch(0, 1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(px(4))
        layout.addWidget(self.begin)
        layout.addLayout(self._grid)

    def refresh(self, series: Series) -> None:
        """Show the details of the sheet in hand."""
        sheet = self.session.document.sheet
        figures = sheet.figures if sheet is not None else ()
        self._shown = [(figure.id, one) for figure in figures for one in figure.details]
        while len(self.rows) < len(self._shown):
            self._add_row()
        for number, row in enumerate(self.rows):
            there = number < len(self._shown)
            for widget in (row.name, row.scale, row.remove):
                widget.setVisible(there)
            if there:
                self._show_row(row, *self._shown[number], series)

    def _add_row(self) -> None:
        number = len(self.rows)
        row = _Row(QLabel(), QComboBox(), QPushButton("×"))
        row.scale.activated.connect(partial(self._take_scale, number))
        row.remove.clicked.connect(partial(self._remove, number))
        row.remove.setFixedWidth(px(28))
        for column, widget in enumerate((row.name, row.scale, row.remove)):
            self._grid.addWidget(widget, number, column)
        self.rows.append(row)

    def _show_row(self, row: _Row, figure_id: str, detail: Detail, series: Series) -> None:
        del figure_id
        row.name.setText(tr("detail {letter}", letter=detail.letter))
        row.scale.setAccessibleName(tr("scale of detail {letter}", letter=detail.letter))
        row.remove.setToolTip(tr("Take detail {letter} away", letter=detail.letter))
        row.remove.setAccessibleName(row.remove.toolTip())
        scales = sorted({*scales_of(series), detail.scale}, reverse=True)
        row.scale.clear()
        for scale in scales:
            row.scale.addItem(shown_scale(scale, series), scale)
        row.scale.setCurrentIndex(scales.index(detail.scale))

    def _take_scale(self, number: int, index: int) -> None:
        figure_id, detail = self._shown[number]
        scale = self.rows[number].scale.itemData(index)
        changed = replace(detail, scale=scale)
        self.session.document.change_detail(figure_id, detail.letter, changed)

    def _remove(self, number: int) -> None:
        figure_id, detail = self._shown[number]
        self.session.document.change_detail(figure_id, detail.letter, None)
