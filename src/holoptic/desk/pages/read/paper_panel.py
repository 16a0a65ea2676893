"""What a reader confirms of a sheet on paper: its border, its views, its sizes, its levels."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QPushButton,
    QSpinBox,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import ntr, tr
from holoptic.desk.session.readings import Readings
from holoptic.desk.widgets.fields import LengthField
from holoptic.desk.widgets.rows import Row
from holoptic.errors import BadInput, ExpressionError
from holoptic.paper.given import Given, Sizes, TrueLevels
from holoptic.part.crate import AXIS_LETTERS, AXIS_NAMES
from holoptic.reading.figures import plain_mm
from holoptic.regional import with_mark_in
from holoptic.sheet.papers import PAPERS
from holoptic.units import Length
from holoptic.worker.messages import PictureRead

STEPS = ("border", "views", "sizes", "levels")
_TABLE_HEIGHT = 150


class PaperPanel(QWidget):
    """The four steps, one at a time; all is proposed, so each is passed by N.

    Signals:
        step_chosen(name): another step is looked at.
        boxes_wanted, corners_wanted: what was dragged on the sheet is to be taken.
        done: what was typed was taken; the keys belong to the page again.
        level_looked_at(level): the axis and the place (mm) of the level in hand, None for none.
    """

    step_chosen = pyqtSignal(str)
    corners_wanted = pyqtSignal()
    boxes_wanted = pyqtSignal()
    done = pyqtSignal()
    level_looked_at = pyqtSignal(object)

    def __init__(self, readings: Readings) -> None:
        super().__init__()
        self._readings = readings
        self.step = STEPS[0]
        self.is_shown = False
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 4, 0, 0)
        layout.setSpacing(4)
        self.pages = self._make_pages()
        layout.addWidget(self.pages)
        self.row = Row(
            ((STEPS[0], tr("Border")), (STEPS[1], tr("Views")), (STEPS[2], tr("Sizes")),
             (STEPS[3], tr("Levels"))),
            lambda value: self.go_to(str(value)),
            tr("What was found of the sheet, to be confirmed (N)"),
        )  # fmt: skip
        layout.addWidget(self.row)
        self.steps = (self._border_page(), self._views_page(), self._sizes_page(),
                      self._levels_page())  # fmt: skip
        for page in self.steps:
            layout.addWidget(page)
        self._is_filling = False
        readings.figures.changed.connect(self.refresh)

    # --- the four pages -----------------------------------------------------------------------

    def _make_pages(self) -> QWidget:
        box = QWidget()
        row = QHBoxLayout(box)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(QLabel(tr("Page of the file")))
        self.page_number = QSpinBox()
        self.page_number.setAccessibleName(tr("page of the file"))
        self.page_number.valueChanged.connect(self._choose_page)
        row.addWidget(self.page_number)
        row.addStretch(1)
        return box

    def _border_page(self) -> QWidget:
        page, layout = _page()
        self.border_words = _words(layout)
        self.sketch_button = QPushButton(tr("Sketched by a free hand (H)"))
        self.sketch_button.setCheckable(True)
        self.sketch_button.setToolTip(tr("Lines are taken by their order and meeting, places by "
                                         "the figures alone"))  # fmt: skip
        self.sketch_button.clicked.connect(lambda _=False: self.take_as_sketch())
        layout.addWidget(self.sketch_button)
        self.paper = QComboBox()
        self.paper.setAccessibleName(tr("paper of the sheet"))
        for paper in PAPERS:
            self.paper.addItem(paper.name, paper.name)
        self.paper.activated.connect(self._choose_paper)
        layout.addWidget(self.paper)
        row = QHBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        self.frame_width = LengthField(tr("width within the border"))
        self.frame_height = LengthField(tr("height within the border"))
        for field in (self.frame_width, self.frame_height):
            row.addWidget(field)
        self.frame_fields = QWidget()
        self.frame_fields.setLayout(row)
        layout.addWidget(self.frame_fields)
        self.corner_button = QPushButton(tr("Take these corners"))
        self.corner_button.clicked.connect(lambda _=False: self.corners_wanted.emit())
        layout.addWidget(self.corner_button)
        self.turn_button = QPushButton(tr("Turn the sheet by a quarter"))
        self.turn_button.clicked.connect(lambda _=False: self.turn())
        layout.addWidget(self.turn_button)
        return page

    def _views_page(self) -> QWidget:
        page, layout = _page()
        words = _words(layout)
        words.setText(tr("A box about each view, nothing else in it. Drag an edge; drag on clean "
                         "paper for another box; Del takes the one in hand away, arrows move it, "
                         "Tab takes the next."))  # fmt: skip
        self.box_button = QPushButton(tr("Take these boxes"))
        self.box_button.clicked.connect(lambda _=False: self.boxes_wanted.emit())
        layout.addWidget(self.box_button)
        return page

    def _sizes_page(self) -> QWidget:
        page, layout = _page()
        _words(layout).setText(tr("Length, depth and height as the figures on the sheet say. What "
                                  "is left empty is taken as it was measured."))  # fmt: skip
        self.sizes: list[LengthField] = []
        for letter, name in zip(AXIS_LETTERS, AXIS_NAMES, strict=True):
            row = QHBoxLayout()
            row.addWidget(QLabel(letter))
            field = LengthField(tr(name))
            field.may_be_empty = True
            row.addWidget(field, 1)
            layout.addLayout(row)
            self.sizes.append(field)
        self.written_sizes = _written_button(layout, self.take_written)
        return page

    def _levels_page(self) -> QWidget:
        page, layout = _page()
        self.level_words = _words(layout)
        self.table = QTableWidget(0, 4)
        self.table.setAccessibleName(tr("levels of the sheet"))
        self.table.setHorizontalHeaderLabels([tr("axis"), tr("measured"), tr("is"), tr("written")])
        head = self.table.horizontalHeader()
        if head is not None:
            head.setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        side = self.table.verticalHeader()
        if side is not None:
            side.setVisible(False)
        self.table.setMinimumHeight(_TABLE_HEIGHT)
        self.table.cellChanged.connect(self._take_level)
        self.table.currentCellChanged.connect(lambda row, *_: self._look_at(row))
        layout.addWidget(self.table)
        self.written_levels = _written_button(layout, self.take_written)
        return page

    # --- doing ------------------------------------------------------------------------------

    def go_to(self, step: str) -> None:
        """Look at a step."""
        self.step = step
        self.row.show_value(step)
        for number, page in enumerate(self.steps):
            page.setVisible(STEPS[number] == step)
        self.step_chosen.emit(step)
        self._look_at(self.table.currentRow())

    def take_as_sketch(self) -> None:
        """Take the picture for a sketch by a free hand, or for a drawing again."""
        given = self._readings.told_last
        if self._readings.picture is None:
            self._readings.told.emit(tr("Only a scan or a photo can be a sketch; none lies here."))
            return
        self._readings.tell(replace(given, is_sketch=not given.is_sketch, corners=None, boxes=(),
                                    levels=((), (), ())))  # fmt: skip

    def _look_at(self, row: int) -> None:
        """Tell which level is in hand, while the levels are looked at."""
        where = self.table.item(row, 1) if self.step == STEPS[3] else None
        picture = self._readings.picture
        if where is None or picture is None:
            self.level_looked_at.emit(None)
            return
        axis, measured = where.data(Qt.ItemDataRole.UserRole)
        own = picture.levels[axis]
        if measured in own.measured:
            at = own.measured if picture.asked else own.placed
            self.level_looked_at.emit((axis, at[own.measured.index(measured)]))

    def ask_for_levels(self) -> bool:
        """Show the first place of a sketch that no figure tells; say whether there is one."""
        asked = self._readings.picture.asked if self._readings.picture is not None else ()
        if not asked:
            return False
        self.go_to(STEPS[3])
        self._go_to_asked()
        return True

    def _go_to_asked(self, first: int = 0) -> None:
        """Put the cursor on the first place from a row on that no figure tells."""
        asked = self._readings.picture.asked if self._readings.picture is not None else ()
        for row in range(first, self.table.rowCount()):
            where = self.table.item(row, 1)
            cell = self.table.item(row, 2)
            if where is not None and where.data(Qt.ItemDataRole.UserRole) in asked:
                self.table.setCurrentCell(row, 2)
                self.table.setFocus()
                # at once: figures are keys of the page outside of a field
                self.table.editItem(cell)
                return
        self.done.emit()

    def turn(self) -> None:
        """Take the sheet for turned by a quarter: it was handed over lying, or upside down."""
        picture, given = self._readings.picture, self._readings.given
        if picture is not None:
            first, *rest = given.corners or picture.corners
            self._readings.tell(replace(given, corners=(*rest, first), boxes=()))

    def next_step(self) -> None:
        """Look at the next step; what this one proposes stands."""
        if self._readings.picture is not None:
            self.go_to(STEPS[(STEPS.index(self.step) + 1) % len(STEPS)])

    def take_typed(self) -> bool:
        """Take what stands in the fields that have the cursor; say whether there were such."""
        if any(field.hasFocus() for field in self.sizes):
            self._take_sizes()
            return True
        if self.frame_width.hasFocus() or self.frame_height.hasFocus():
            self._take_frame()
            return True
        if self._edited_row() >= 0:
            self.table.setFocus()  # what is typed in a cell is taken as the cursor leaves it
            return True
        return self.table.hasFocus()

    def _take_sizes(self) -> None:
        found: list[float | None] = []
        for field in self.sizes:
            value = field.value_mm
            if field.text().strip() and value is None:
                return  # the field says why
            if value is not None and value <= 0:
                field.refuse(tr("a length above zero is needed"))
                return
            found.append(value)
        sizes: Sizes = found[0], found[1], found[2]
        self._readings.tell(replace(self._readings.told_last, sizes=sizes))
        self.next_step()
        self.done.emit()

    def take_written(self) -> None:
        """Take the figures as they were read on the sheet: sizes, and at the levels those too.

        Before that they are shown: nothing is taken that nobody has seen.
        """
        if self._readings.picture is not None and self.step not in STEPS[2:]:
            self.go_to(STEPS[2])
            return
        offered, given = (
            self._readings.figures.offered(self._readings.picture),
            self._readings.given,
        )
        sizes = [own or read for own, read in zip(given.sizes, offered.sizes, strict=True)]
        levels = list(given.levels)
        if self.step == STEPS[3]:
            levels = [_with_read(own, read)
                      for own, read in zip(given.levels, offered.levels, strict=True)]  # fmt: skip
        taken = replace(given, sizes=(sizes[0], sizes[1], sizes[2]),
                        levels=(levels[0], levels[1], levels[2]))  # fmt: skip
        if taken == given:
            self._readings.told.emit(self._why_none())
            return
        self._readings.tell(taken)

    def _why_none(self) -> str:
        if self._readings.picture is None:
            return tr("Figures are read on scans and photos; none lies here.")
        if not self._readings.figures.are_read:
            return tr("The figures are still being read.")
        return tr("No figure that could be read on this sheet is left to be taken.")

    def _take_frame(self) -> None:
        wide, high = self.frame_width.value_mm, self.frame_height.value_mm
        if wide is None or high is None:
            return  # the fields say why
        try:
            given = replace(self._readings.told_last, frame=(wide, high), boxes=())
            given.inner()
        except BadInput as error:
            self.frame_width.refuse(str(error))
            return
        self._readings.tell(given)

    def _choose_paper(self) -> None:
        name = str(self.paper.currentData())
        self._readings.tell(replace(self._readings.told_last, paper=name, frame=None, boxes=()))

    def _choose_page(self, number: int) -> None:
        if not self._is_filling:
            self._readings.tell(Given(page=number, paper=self._readings.given.paper))

    def _take_level(self, row: int, column: int) -> None:
        if self._is_filling or column != 2:
            return
        item, where = self.table.item(row, 2), self.table.item(row, 1)
        if item is None or where is None:
            return
        axis, measured = where.data(Qt.ItemDataRole.UserRole)
        try:
            true = Length.read(item.text(), self._readings.unit).mm
        except ExpressionError as error:
            self._readings.told.emit(tr("Not taken: {error}", error=error))
            self.refresh()
            return
        told = self._readings.told_last
        levels = list(told.levels)
        kept: TrueLevels = tuple(pair for pair in levels[axis] if pair[0] != measured)
        levels[axis] = (*kept, (measured, true))
        self._readings.tell(replace(told, levels=(levels[0], levels[1], levels[2])))
        if self._readings.picture is not None and self._readings.picture.is_sketch:
            self._go_to_asked(row + 1)

    # --- showing ------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show what is known of the sheet; nothing where it is none on paper."""
        picture, given = self._readings.picture, self._readings.given
        self._is_filling = True
        self.page_number.setRange(1, max(1, self._readings.pages))
        self.page_number.setValue(given.page)
        self.pages.setVisible(self._readings.pages > 1)
        self.row.setVisible(picture is not None)
        for number, page in enumerate(self.steps):
            page.setVisible(picture is not None and STEPS[number] == self.step)
        self.setVisible(picture is not None or self._readings.pages > 1)
        if picture is not None:
            self.row.show_value(self.step)
            self.paper.setCurrentIndex(max(0, self.paper.findData(picture.paper)))
            wide, high = picture.size
            self.frame_width.show_length(Length.of(round(wide, 1)))
            self.frame_height.show_length(Length.of(round(high, 1)))
            self.border_words.setText(_border_words(picture))
            self.sketch_button.setChecked(picture.is_sketch)
            self.frame_fields.setVisible(not picture.is_sketch)
            self.level_words.setText(level_words(picture))
            for k, (field, size) in enumerate(zip(self.sizes, given.sizes, strict=True)):
                field.show_length(Length.of(size) if size is not None else None)
                if picture.levels:
                    found = with_mark_in(plain_mm(round(picture.levels[k].placed[-1], 2)))
                    field.setPlaceholderText(tr("{length} as measured", length=found))
            self._fill_table()
            self._show_written()
        self._is_filling = False
        if picture is not None and picture.is_sketch:
            self._leave_what_is_told()
        self._look_at(self.table.currentRow())

    def _show_written(self) -> None:
        """Offer the figures that were read: they may be read wrong, so somebody takes them."""
        offered, given = (
            self._readings.figures.offered(self._readings.picture),
            self._readings.given,
        )
        told = [f"{letter} {plain_mm(size)}" for letter, size, own in
                zip(AXIS_LETTERS, offered.sizes, given.sizes, strict=True)
                if size is not None and own is None]  # fmt: skip
        self.written_sizes.setVisible(bool(told))
        sizes = with_mark_in(" · ".join(told))
        self.written_sizes.setText(tr("Take as written: {sizes} (W)", sizes=sizes))
        places = [pair for own, read in zip(given.levels, offered.levels, strict=True)
                  for pair in read if pair[0] not in dict(own)]  # fmt: skip
        self.written_levels.setVisible(bool(places or told))
        self.written_levels.setText(tr("Take all that is written (W)"))

    def _leave_what_is_told(self) -> None:
        """Go on from an empty field whose figure followed from another one."""
        row, typed = self._edited_row(), self.table.focusWidget()
        where = self.table.item(row, 1) if row >= 0 else None
        picture = self._readings.picture
        if where is None or picture is None or not isinstance(typed, QLineEdit) or typed.text():
            return
        if where.data(Qt.ItemDataRole.UserRole) not in picture.asked:
            self.table.setFocus()
            self._is_filling = True
            self._fill_table()
            self._is_filling = False
            self._go_to_asked(row)

    def _edited_row(self) -> int:
        """Return the row whose figure is being typed, -1 where none is."""
        typed = self.table.focusWidget()
        is_typed = isinstance(typed, QLineEdit) and typed.isVisible()
        return self.table.currentRow() if is_typed else -1

    def _fill_table(self) -> None:
        picture = self._readings.picture
        assert picture is not None
        offered = self._readings.figures.offered(picture)
        rows = [(axis, measured, placed) for axis, own in enumerate(picture.levels)
                for measured, placed in zip(own.measured, own.placed, strict=True)]  # fmt: skip
        self.table.setRowCount(len(rows))
        in_hand = self._edited_row()
        for number, (axis, measured, placed) in enumerate(rows):
            drawn = round(measured * picture.scale, 2) + 0.0  # nothing is not below nothing
            ends = {picture.levels[axis].measured[-1]: offered.sizes[axis]}
            read = {**dict(offered.levels[axis]), **ends}.get(measured)
            written = plain_mm(read) if read is not None else ""
            place = plain_mm(placed)
            if (axis, measured) in picture.asked:
                place, written = "", tr("asked")
            words = AXIS_LETTERS[axis], f"{drawn:.2f}", place, written
            for column, text in enumerate(words):
                if (number, column) == (in_hand, 2):
                    continue  # what is being typed stays
                item = QTableWidgetItem(with_mark_in(text))
                if column != 2:
                    item.setFlags(item.flags() & ~Qt.ItemFlag.ItemIsEditable)
                if column == 1:
                    item.setData(Qt.ItemDataRole.UserRole, (axis, measured))
                self.table.setItem(number, column, item)


def _border_words(picture: PictureRead) -> str:
    if picture.is_sketch:
        return tr("A sketch has no border. Of a photo drag the four corners onto those of its "
                  "paper.")  # fmt: skip
    if picture.has_border:
        return tr("The border was found. Is it that of this paper, or has it a size of its own?")
    return tr("No border was found: the picture is taken for the whole sheet. Drag the four "
              "corners onto the border.")  # fmt: skip


def level_words(picture: PictureRead) -> str:
    """Return what is to be done with the levels of a picture."""
    words = tr("Where lines lie along each axis, from the left, the front, the floor. Type the "
               "true figure where it is known.")  # fmt: skip
    if not picture.asked:
        return words
    return ntr("{count} place has no figure yet: it is asked for, and lit up on the sheet.",
               "{count} places have no figure yet: they are asked for, and lit up on the sheet.",
               len(picture.asked))  # fmt: skip


def _with_read(own: TrueLevels, read: TrueLevels) -> TrueLevels:
    return (*own, *(pair for pair in read if pair[0] not in dict(own)))


def _written_button(layout: QVBoxLayout, run: Callable[[], None]) -> QPushButton:
    button = QPushButton()
    button.setToolTip(tr("Figures beside dimension lines as a machine reads them: look at them "
                         "before you take them"))  # fmt: skip
    button.clicked.connect(lambda _=False: run())
    button.hide()
    layout.addWidget(button)
    return button


def _page() -> tuple[QWidget, QVBoxLayout]:
    page = QWidget()
    layout = QVBoxLayout(page)
    layout.setContentsMargins(0, 4, 0, 0)
    layout.setSpacing(4)
    return page, layout


def _words(layout: QVBoxLayout) -> QLabel:
    label = QLabel()
    label.setWordWrap(True)
    label.setObjectName("quiet")
    layout.addWidget(label)
    return label
