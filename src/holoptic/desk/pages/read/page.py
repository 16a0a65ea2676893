"""Read: the views as they were handed over, what is odd about them, and the parts they can mean."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication, QShortcut, QShowEvent
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QListWidgetItem,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.canvas.small_picture import SmallPicture
from holoptic.desk.look.icons import give_icon
from holoptic.desk.look.theme import px
from holoptic.desk.pages.read.answer_words import (
    amount,
    features,
    odd,
    outcome_words,
    title,
)
from holoptic.desk.pages.read.draft_panel import DraftPanel, first_draft
from holoptic.desk.pages.read.guide_panel import GuidePanel
from holoptic.desk.pages.read.line_groups import LineGroups
from holoptic.desk.pages.read.paper_panel import STEPS, PaperPanel, level_words
from holoptic.desk.pages.read.paper_sheet import PaperSheet
from holoptic.desk.pages.read.read_invitation import ReadInvitation
from holoptic.desk.pages.read.reading_sheet import ReadingSheet
from holoptic.desk.pages.read.remark_list import RemarkList
from holoptic.desk.pages.read.views_used import ViewsUsed
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.column import Column
from holoptic.desk.widgets.fields import LengthField
from holoptic.desk.widgets.folders import file_name, keep_folder, last_folder
from holoptic.desk.widgets.key_line import KeyLine
from holoptic.desk.widgets.rows import Row
from holoptic.foreign import DRAWING_SUFFIXES
from holoptic.job import PLAIN_LINES
from holoptic.reading.lines import Status
from holoptic.reading.result import Reading
from holoptic.units import Length

_WIDTH = 320
_ROW_HEIGHT = 28
_BOARD_HEIGHT, _LOW_BOARD_HEIGHT = 250, 200
_CARD_WIDTH = 300
_MOST = 6
_KEYS = (
    ("R", tr("read it")),
    ("M", tr("mend slips")),
    ("G", tr("guided way")),
    ("N", tr("next step")),
    ("V", tr("angle")),
    ("Alt+↓", tr("next remark")),
    ("1 to 6", tr("answers")),
    ("L", tr("lay it over")),
    (tr("Enter"), tr("take it")),
    ("X", tr("close")),
    ("F1", tr("all keys")),
)


_DRAWINGS = tr("Drawings, scans and photos ({patterns})",
               patterns=" ".join(f"*{suffix}" for suffix in DRAWING_SUFFIXES))  # fmt: skip
_CORNERS, _FEWEST_VIEWS = 4, 2
_STATUS_KEYS: dict[str, Status] = {"F": "visible", "B": "hidden", "C": "centre"}
_LINE_KEYS = (*_STATUS_KEYS, "Del", "Alt+Right", "Alt+Left")


class ReadPage(QWidget):
    """The drawing, the remarks about it, and the answers side by side."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.readings = session.readings
        self.sheet = ReadingSheet(self.readings)
        self.answers = [self._answer(number) for number in range(_MOST)]
        self.board = QWidget()
        self.board.setFixedHeight(px(_BOARD_HEIGHT))
        row = QHBoxLayout(self.board)
        row.setContentsMargins(8, 6, 8, 8)
        row.setSpacing(6)
        for answer in self.answers:
            answer.setMaximumWidth(px(_CARD_WIDTH))
            row.addWidget(answer, 1)
        row.addStretch(1)
        reading = QWidget()
        left = QVBoxLayout(reading)
        left.setContentsMargins(0, 0, 0, 0)
        left.setSpacing(0)
        left.addWidget(KeyLine(_KEYS))
        self.paper_sheet = PaperSheet()
        self.boards = QStackedWidget()
        self.boards.addWidget(self.sheet)
        self.boards.addWidget(self.paper_sheet)
        left.addWidget(self.boards, 1)
        left.addWidget(self.board)
        self.invitation = ReadInvitation(session, self.ask_file, self.draw_views, self.practise)
        self.stack = QStackedWidget()
        self.stack.addWidget(self.invitation)
        self.stack.addWidget(reading)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.stack, 1)
        self.column = self._make_column()
        layout.addWidget(self.column)
        self._connect()

    def show_briefly(self, briefly: bool) -> None:
        """Let the answers take less room, where there is little, and the ways to views say less."""
        self.invitation.what.setHidden(briefly)
        self.board.setFixedHeight(px(_LOW_BOARD_HEIGHT if briefly else _BOARD_HEIGHT))

    def _make_column(self) -> Column:
        column = Column(_WIDTH)
        self.title = QLabel(tr("No drawing yet"))
        self.title.setObjectName("heading")
        self.title.setWordWrap(True)
        column.layers.addWidget(self.title)
        self.close_button = self._button(tr("Close the drawing (X)"), "back", self.readings.close)
        self.draft_button = self._button(
            tr("Draw on the views here (D)"), "pencil", self.draw_views
        )
        for button in (self.close_button, self.draft_button):
            column.layers.addWidget(button)
        self.draft = DraftPanel(self.readings)
        self.draft.shown.connect(self.sheet.show_draft)
        self.draft.ended.connect(self.end_drawing)
        self.sheet.pane_asked.connect(self.draft.take_pane)
        self.sheet.walked_to.connect(self.draft.go)
        column.layers.addWidget(self.draft, 1)
        self.paper = PaperPanel(self.readings)
        column.layers.addWidget(self.paper)
        column.layers.addWidget(self._make_given())
        self.groups = LineGroups(self.readings)
        column.layers.addWidget(self.groups)
        self.remarks = RemarkList()
        self.remarks.currentRowChanged.connect(self._light)
        self.remarks_title = QLabel(tr("Worth a look before reading"))
        self.remarks_title.setObjectName("quiet")
        column.layers.addWidget(self.remarks_title)
        column.layers.addWidget(self.remarks)
        column.layers.setStretchFactor(self.remarks, 1)
        self.guide = GuidePanel(self.readings)
        self.guide.looked_at.connect(self.sheet.light)
        column.layers.addWidget(self.guide, 1)
        self.save_button = self._button(tr("Save these views … (DXF)"), "save", self.save_views)
        self.mend_button = self._button(tr("Mend small slips (M)"), "mend", self.mend)
        self.read_button = self._button(tr("Read it (R)"), "read", self.read)
        self.guide_button = self._button(tr("Guided way (G)"), "loop", self.readings.begin_guide)
        self.correct_button = self._button(
            tr("Draw that line so (E)"), "pencil", self.take_correction
        )
        self.outcome = QLabel()
        self.outcome.setWordWrap(True)
        self.take_button = self._button(tr("Take it into the job (Enter)"), "take", self.take)
        for widget in (
            self.save_button,
            self.mend_button,
            self.read_button,
            self.guide_button,
            self.outcome,
            self.correct_button,
            self.take_button,
        ):
            column.layers.addWidget(widget)
        return column

    def _make_given(self) -> QWidget:
        """Return how the sheet is laid out, its scale, and which of its views are read."""
        self.angle = Row(
            (("third", tr("Third angle")), ("first", tr("First angle"))),
            lambda value: self.readings.lay_out_as(str(value)),
            tr(
                "How the views are laid out (V); a label dragged onto another "
                "view changes their names"
            ),
        )
        self.length_field = LengthField(tr("overall length of the drawing"))
        self.length_field.setToolTip(tr("A known size: all views are scaled so that it holds"))
        self.used = ViewsUsed(self.readings)
        self.used.setToolTip(tr("A view that is left out is drawn by Holoptic for each answer"))
        for row in (self.angle, self.used):  # where room is short the list gives way, not words
            row.setMinimumHeight(px(_ROW_HEIGHT))
        self.given = QWidget()
        given = QVBoxLayout(self.given)
        given.setContentsMargins(0, 0, 0, 0)
        self.of_length = QWidget()
        for words, item, holder in (
            (tr("The sheet is laid out in"), self.angle, QWidget()),
            (tr("Overall length, if the file has no scale"), self.length_field, self.of_length),
            (tr("Views to read"), self.used, QWidget()),
        ):
            label = QLabel(words)
            label.setObjectName("quiet")
            column = QVBoxLayout(holder)
            column.setContentsMargins(0, 5, 0, 0)
            column.addWidget(label)
            column.addWidget(item)
            given.addWidget(holder)
        return self.given

    def _button(self, words: str, icon: str, run) -> QPushButton:  # type: ignore[no-untyped-def]
        button = QPushButton(words)
        give_icon(button, icon)
        button.clicked.connect(lambda _=False: run())
        return button

    def _answer(self, number: int) -> SmallPicture:
        answer = SmallPicture(str(number + 1))
        answer.chosen.connect(lambda: self.choose(number))
        QShortcut(answer.key, self).activated.connect(answer.chosen)
        return answer

    def _connect(self) -> None:
        for key, run in (
            ("O", self.ask_file), ("D", self.draw_views), ("R", self.read),
            ("P", self.practise), ("X", self.readings.close), ("M", self.mend),
            ("G", self.readings.begin_guide), ("T", self.guide.take_away),
            ("Backspace", self.readings.step_back), ("V", self.angle.step),
            ("L", self.lay_over), ("Return", self.take),
            ("N", self.paper.next_step), ("W", self.paper.take_written), ("Ctrl+V", self.paste),
            ("H", self.paper.take_as_sketch),
            ("E", self.take_correction), ("S", self.take_scan),
            ("Alt+Down", lambda: self._step_remark(1)), ("Alt+Up", lambda: self._step_remark(-1)),
        ):  # fmt: skip
            shortcut = QShortcut(key, self)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
            shortcut.activated.connect(run)
        self._line_keys = [QShortcut(key, self) for key in _LINE_KEYS]
        """While views are drawn, these keys belong to what is drawn."""
        for shortcut in self._line_keys:
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
            shortcut.activated.connect(partial(self._do_with_line, shortcut.key().toString()))
        self.sheet.renamed.connect(self.readings.rename_view)
        self.sheet.picked.connect(self.readings.line.choose)
        self.readings.line.chosen.connect(self._tell_line)
        self.readings.refused.connect(self.paper.refresh)
        self.paper.step_chosen.connect(lambda _: self._show_board())
        self.paper.corners_wanted.connect(self.take_corners)
        self.paper.boxes_wanted.connect(self.take_boxes)
        self.readings.raw_shown.connect(self._show_board)
        self.paper.done.connect(self.setFocus)
        self.paper.level_looked_at.connect(self.sheet.light_level)
        self.readings.sheet_changed.connect(self._show_sheet)
        self.readings.reading_changed.connect(self._show_reading)
        self.readings.corrections.changed.connect(self._show_corrections)
        self.session.document.changed.connect(self.refresh)
        self.session.views_scanner.arrived.connect(self._open_scan)

    # --- doing ------------------------------------------------------------------------------

    def ask_file(self) -> None:
        """Ask for a drawing and open it."""
        name, _ = QFileDialog.getOpenFileName(self, tr("Open a drawing"), last_folder(), _DRAWINGS)
        if name:
            keep_folder(Path(name))
            self.readings.open(Path(name))

    def read(self) -> None:
        """Read the views; of a sketch ask first for the places that no figure tells."""
        if self.paper.ask_for_levels():
            self.readings.told.emit(tr("Places come from the figures alone: type those that are "
                                       "asked for, then read it (R)."))  # fmt: skip
        else:
            self.readings.read()

    def paste(self) -> None:
        """Open a picture, or the first of some files, that was copied."""
        clipboard = QGuiApplication.clipboard()
        data = clipboard.mimeData() if clipboard is not None else None
        if clipboard is None or data is None:
            return
        files = [Path(url.toLocalFile()) for url in data.urls() if url.isLocalFile()]
        if files:
            self.readings.open(files[0])
        else:
            self.readings.open_image(clipboard.image())

    def take_scan(self) -> None:
        """Without a drawing, take the page on the scanner's glass, or stop that."""
        if self.is_empty:
            self.invitation.scanner.toggle()

    def _open_scan(self, path: Path) -> None:
        """Open the page that a scanner took, unless another drawing came to lie here meanwhile."""
        if self.is_empty:
            self.readings.open(path)
        else:
            self.readings.told.emit(tr("A drawing lies here already: close it (X), and take the "
                                       "page on the scanner's glass again (S)."))  # fmt: skip

    def _do_with_line(self, key: str) -> None:
        """Do what a key means for the line in hand, or for the box in hand."""
        line = self.readings.line
        if key in _STATUS_KEYS:
            line.take_as(_STATUS_KEYS[key])
        elif key == "Del":
            self.take_away()
        else:
            line.step(1 if key == "Alt+Right" else -1)

    def take_away(self) -> None:
        """Take the line in hand off the sheet, or the box in hand."""
        if self.boards.currentWidget() is self.paper_sheet:
            self.paper_sheet.take_away()
        else:
            self.readings.line.take_as(None)

    def take_corners(self) -> None:
        """Take the border's corners as they were dragged."""
        corners = self.paper_sheet.picture_corners()
        if len(corners) == _CORNERS:
            self.readings.tell(replace(self.readings.told_last, corners=corners, boxes=()))

    def take_boxes(self) -> None:
        """Take the boxes about the views as they were dragged."""
        boxes = tuple(self.paper_sheet.boxes)
        if len(boxes) < _FEWEST_VIEWS:
            self.readings.told.emit(tr("At least two views are needed."))
            return
        self.readings.tell(replace(self.readings.told_last, boxes=boxes))

    def choose(self, number: int) -> None:
        """Take an answer in hand; where no drawing lies there, open a demo drawing."""
        if self.is_empty:
            if number < len(self.invitation.demos):
                self.invitation.demos[number].chosen.emit()
        else:
            self.readings.choose(number)

    @property
    def is_empty(self) -> bool:
        """Whether no drawing lies there and none is being drawn."""
        return self.readings.arrangement is None and not self.readings.is_drafting

    def practise(self) -> None:
        """Draw the views of the part on the desk, to be read back."""
        part = self.session.document.job_part
        if part is not None:
            self.readings.practise(part.source)

    def draw_views(self) -> None:
        """Draw the views by hand, in panes as large as the part on the desk."""
        part, unit = self.session.document.part, self.session.document.unit
        size = (part.crate.length, part.crate.depth, part.crate.height) if part else None
        self.readings.begin_draft(first_draft(size, unit))
        self.draft.begin()

    def end_drawing(self) -> None:
        """Be done with drawing; what was drawn can be read."""
        self.readings.end_draft()
        self.setFocus()

    def save_views(self) -> None:
        """Ask where to write the views on the sheet."""
        proposed = str(Path(last_folder(), f"{file_name(self.readings.name)}.dxf"))
        name, _ = QFileDialog.getSaveFileName(
            self, tr("Save the views"), proposed, tr("Drawings (*.dxf)")
        )
        if name:
            keep_folder(Path(name))
            # the dialog asked about the name as it was typed, not about one that gets a suffix
            is_whole = name.lower().endswith(".dxf")
            path = Path(name if is_whole else f"{name}.dxf")
            self.readings.save_views(path, replace=is_whole)

    def mend(self) -> None:
        """Mend the small slips, or show the drawing again as it was."""
        if self.readings.before is None:
            self.readings.mend()
        else:
            self.readings.unmend()

    def take_correction(self) -> None:
        """Draw the line in hand of those that would make it read as that says, or the first."""
        count = len(self.readings.corrections.offered)
        row = self.remarks.currentRow()
        self.readings.corrections.take(row if 0 <= row < count else 0)

    def lay_over(self) -> None:
        """Lay the views of the answer in hand over the given ones, or take them away."""
        self.sheet.shows_answer = not self.sheet.shows_answer
        self.sheet.refresh()

    def take(self) -> None:
        """Put the answer in hand into the job, to be carved on; in the field, take its length."""
        if self.length_field.hasFocus():
            self._scale()
            return
        if self.paper.isVisible() and self.paper.take_typed():
            return
        if self.boards.currentWidget() is self.paper_sheet:
            (self.take_corners if self.paper_sheet.corners else self.take_boxes)()
            self.paper.next_step()
            return
        if self.readings.is_drafting:
            return  # Enter belongs to the step in hand
        answer = self.readings.answer
        if answer is not None:
            self.session.document.add_part(answer.taken)

    def _scale(self) -> None:
        """Scale the drawing by the length typed."""
        known = self.length_field.value_mm
        if known is None:
            return  # the field says why
        if known <= 0:
            self.length_field.refuse(tr("a length above zero is needed"))
            return
        self.readings.scale_to(known)
        self.setFocus()

    def _tell_line(self) -> None:
        """Say what can be done with the line in hand."""
        self.sheet.update()
        found = self.readings.line.line()
        if found is not None:
            name, line = found
            self.readings.told.emit(
                tr("A {status} line of the {name} view: F firm, B broken, C centre, Del takes it "
                   "away.", status=tr(line.status), name=tr(name))
            )  # fmt: skip

    def _show_board(self) -> None:
        """Show the sheet of views, or of paper where its border or its views are looked at."""
        picture, given = self.readings.picture, self.readings.given
        step = self.paper.step if picture is not None else ""
        if picture is not None and step == STEPS[0] and self.readings.raw is not None:
            self.paper_sheet.show_raw(self.readings.raw, given.corners or picture.corners)
        elif picture is not None and step == STEPS[0]:
            self.readings.ask_raw()
            step = ""
        elif picture is not None and step == STEPS[1]:
            names = [view.name for view in self.readings.arrangement.views] if (
                self.readings.arrangement) else []  # fmt: skip
            self.paper_sheet.show_flat(picture, given.boxes or picture.boxes, names)
        is_paper = step in STEPS[:2]
        self.boards.setCurrentWidget(self.paper_sheet if is_paper else self.sheet)

    def _light(self, number: int) -> None:
        spots = self.readings.spots()
        self.sheet.light(spots[number] if 0 <= number < len(spots) else None)

    def _step_remark(self, way: int) -> None:
        count = self.remarks.count()
        if count:
            self.remarks.setCurrentRow((self.remarks.currentRow() + way) % count)

    # --- showing ----------------------------------------------------------------------------

    def showEvent(self, event: QShowEvent | None) -> None:
        """Show the drawing."""
        super().showEvent(event)
        self._show_sheet()

    def _show_reading(self) -> None:
        """Show what came of reading, over the views."""
        if self.readings.reading is not None and self.boards.currentWidget() is self.paper_sheet:
            self.paper.go_to(STEPS[-1])
        self.refresh()

    def _show_corrections(self) -> None:
        """Light up the line with which it would read, unless something else is looked at."""
        self.refresh()
        if self.readings.corrections.offered and self.remarks.currentRow() < 0:
            self.remarks.setCurrentRow(0)

    def _show_sheet(self) -> None:
        self.sheet.light(None)
        self.sheet.shows_answer = False
        self.refresh()

    def refresh(self) -> None:
        """Show the drawing, the remarks and the answers."""
        if not self.isVisible():
            return
        self.stack.setCurrentIndex(0 if self.is_empty else 1)
        self.column.setVisible(not self.is_empty)
        self.invitation.refresh()
        self.sheet.refresh()
        arrangement, reading = self.readings.arrangement, self.readings.reading
        has_sheet = arrangement is not None
        self.title.setText(self.readings.name if has_sheet else tr("Views drawn here"))
        for widget in (
            self.angle,
            self.length_field,
            self.mend_button,
            self.read_button,
            self.guide_button,
        ):
            widget.setEnabled(has_sheet and self.readings.has_views)
        if arrangement is not None:
            self.angle.show_value(arrangement.angle)
            self.length_field.unit = self.session.document.unit
            self.length_field.show_length(
                Length.of(self.readings.length, self.session.document.unit)
            )
        self.groups.refresh()
        self.paper.refresh()
        self._show_board()
        self.used.refresh()
        self.guide.refresh()
        self.draft.refresh()
        self.of_length.setVisible(self.readings.picture is None)
        is_guided, is_drafting = self.readings.guide is not None, self.readings.is_drafting
        for shortcut in self._line_keys:
            shortcut.setEnabled(not is_drafting)
        rests = self.close_button, self.draft_button, self.outcome, self.given, self.read_button
        for one in (*rests, self.take_button):
            one.setVisible(not is_drafting)
        self.save_button.setVisible(has_sheet and not is_drafting)
        self.save_button.setEnabled(has_sheet and self.readings.has_views)
        aside = self.remarks, self.remarks_title, self.mend_button, self.guide_button
        for one in aside:
            one.setVisible(not is_guided and not is_drafting)
        self.draft_button.setVisible(not is_drafting and self.readings.draft is not None)
        mended = self.readings.before is not None
        self.mend_button.setText(
            tr("Show it as it was (M)") if mended else tr("Mend small slips (M)")
        )
        self.read_button.setText(
            tr("Read on, for two minutes (R)") if self.readings.ran_out else tr("Read it (R)")
        )
        self._show_remarks()
        self._show_outcome(reading)

    def _show_remarks(self) -> None:
        spots = self.readings.spots()
        arrangement = self.readings.arrangement
        words = [spot.words for spot in spots]
        words += list(arrangement.remarks) if arrangement else []
        picture = self.readings.picture
        if picture is not None and picture.asked:
            words.append(level_words(picture))
        if not words and arrangement is not None:
            words = [tr("Nothing odd was noticed.")]
        if words == [self.remarks.item(k).text() for k in range(self.remarks.count())]:  # type: ignore[union-attr]
            return
        self.remarks.clear()
        for text in words:
            self.remarks.addItem(QListWidgetItem(text))

    def _show_outcome(self, reading: Reading | None) -> None:
        self.outcome.setText(outcome_words(reading))
        answers = reading.answers if reading else ()
        self.correct_button.setVisible(bool(self.readings.corrections.offered))
        self.take_button.setEnabled(bool(answers))
        self.board.setVisible(bool(answers))
        for number, card in enumerate(self.answers):
            card.setVisible(number < len(answers))
            if number < len(answers):
                card.lit = odd(answers[number], answers)
                titles = title(reading, number), amount(answers[number])
                card.show_choice(self.readings.pictures.get(number), PLAIN_LINES, titles,
                                 features(answers[number], answers),
                                 number == self.readings.chosen)  # fmt: skip
