"""Practice: a question, the board, and where the answer goes; one thing at a time."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QGuiApplication, QImage, QKeyEvent, QShortcut, QShowEvent
from PyQt6.QtWidgets import (
    QButtonGroup,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.checking.report import CheckReport
from holoptic.desk.look.icons import give_icon
from holoptic.desk.look.theme import px
from holoptic.desk.pages.practice.answers import Chosen, Stack, read_count
from holoptic.desk.pages.practice.board import ExerciseBoard
from holoptic.desk.pages.practice.practice_column import PracticeColumn
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.folders import PICTURES, keep_folder, last_folder
from holoptic.desk.widgets.key_line import KeyLine
from holoptic.desk.widgets.notice import sentence
from holoptic.desk.widgets.pressed import on_toggle, show_down
from holoptic.errors import BadInput
from holoptic.exchange.outputs import write_by_suffix
from holoptic.exchange.pdf import pdf_pages
from holoptic.practice.answers import answer_words
from holoptic.practice.exercise import (
    Amount,
    Choice,
    Count,
    Exercise,
    Heights,
    Lines,
    OnPaper,
    Places,
)
from holoptic.practice.marking import MOST_POINTS, Given, figure_of
from holoptic.practice.sketching import LETTERS
from holoptic.practice.skills import SKILLS
from holoptic.practice.stack_part import building, stack_figures, stack_part
from holoptic.practice.worksheet import worksheet
from holoptic.sheet.papers import paper_named
from holoptic.units import evaluate

_KEYS = (
    (tr("Enter"), tr("mark; go on")),
    ("?", tr("hint")),
    ("=", tr("show the answer")),
    ("Ctrl+Enter", tr("another one")),
    ("F1", tr("all keys")),
)
_FIELD_WIDTH = 170
_LONGEST = 40


class PracticePage(QWidget):
    """The page."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.practice = session.practice
        self._exercise: Exercise | None = None
        self.is_building = False
        self.head = QLabel()
        self.head.setObjectName("quiet")
        self.question = QLabel()
        self.question.setObjectName("heading")
        self.question.setWordWrap(True)
        self.board = ExerciseBoard()
        self.choices = QWidget()
        self._choices = QVBoxLayout(self.choices)
        self._choices.setContentsMargins(0, 0, 0, 0)
        self._choices.setSpacing(3)
        self._group = QButtonGroup(self)
        self.field = QLineEdit()
        self.field.setFixedWidth(px(_FIELD_WIDTH))
        self.field.setMaxLength(_LONGEST)
        self.field.setAccessibleName(tr("answer"))
        self.field.installEventFilter(self)
        self.unit = QLabel()
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.column = PracticeColumn()
        self.hint_button, self.answer_button, self.next_button = self.column.finish([
            (tr("Hint (?)"), "read", self.practice.hint),
            (tr("Show the answer (=)"), "look", self.practice.show_answer),
            (tr("Another one (Ctrl+Enter)"), "redo", self.practice.leave),
        ])  # fmt: skip
        self.build_button = self.column.add_button(tr("Build with cubes (Ctrl+B)"), "add",
                                                   self.build)  # fmt: skip
        self.sheet_button = self.column.add_button(tr("Worksheet … (Ctrl+T)"), "export",
                                                   self.ask_worksheet)  # fmt: skip
        self._sheet: Path | None = None
        self.on_paper = QWidget()
        self.file_button = QPushButton(tr("A picture of the sheet … (O)"))
        self.glass_button = QPushButton()
        self._lay_out()
        self._connect()
        self._begin(None)
        self.on_paper.setVisible(False)

    def _lay_out(self) -> None:
        top = QVBoxLayout()
        top.setContentsMargins(18, 10, 18, 6)
        top.setSpacing(4)
        top.addWidget(self.head)
        top.addWidget(self.question)
        ways = QHBoxLayout(self.on_paper)
        ways.setContentsMargins(0, 0, 0, 0)
        for button, icon, run in ((self.file_button, "open", self.ask_sheet),
                                  (self.glass_button, "read", self.practice.scan)):  # fmt: skip
            give_icon(button, icon)
            button.clicked.connect(lambda _=False, run=run: run())
            ways.addWidget(button)
        ways.addStretch(1)
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.field)
        row.addWidget(self.unit)
        row.addStretch(1)
        foot = QVBoxLayout()
        foot.setContentsMargins(18, 6, 18, 10)
        foot.setSpacing(6)
        foot.addWidget(self.choices)
        foot.addWidget(self.on_paper)
        foot.addLayout(row)
        foot.addWidget(self.told)
        left = QVBoxLayout()
        left.setSpacing(0)
        left.addWidget(KeyLine(_KEYS))
        left.addLayout(top)
        left.addWidget(self.board, 1)
        left.addLayout(foot)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addLayout(left, 1)
        layout.addWidget(self.column)

    def _connect(self) -> None:
        for keys, run in (
            ("Return", self.enter), ("Enter", self.enter), ("?", self.practice.hint),
            ("=", self.practice.show_answer), ("Ctrl+Return", self.practice.leave),
            ("Ctrl+Enter", self.practice.leave), ("Ctrl+B", self.build),
            ("Ctrl+T", self.ask_worksheet), ("O", self.ask_sheet), ("S", self.practice.scan),
            ("Ctrl+V", self.paste),
            ("Escape", self.stop_building),
        ):  # fmt: skip
            shortcut = QShortcut(keys, self)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
            shortcut.activated.connect(run)
        self.practice.changed.connect(self.refresh)
        self.practice.failed.connect(self.session.told)
        self.practice.sheets_made.connect(self._write_worksheet)
        self.board.answered.connect(self._follow_board)
        self.column.learner_chosen.connect(self.practice.be)
        self.column.wanted.connect(
            lambda skill, level: self.practice.choose(skill or None, level or None)
        )

    def showEvent(self, event: QShowEvent | None) -> None:
        """Begin, unless something is in hand."""
        super().showEvent(event)
        if self.practice.exercise is None and not self.practice.is_waiting:
            self.practice.load()
            self.practice.go_on()
        self.refresh()
        self.setFocus()

    def setFocus(self, *_: object) -> None:
        """Give the keys to where the answer goes."""
        (self.field if self.field.isVisible() else self.board).setFocus()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Let signs that are no part of an answer go on to the page: hint and answer."""
        is_key = event is not None and event.type() == QEvent.Type.ShortcutOverride
        if (watched is self.field and is_key and isinstance(event, QKeyEvent)
                and event.text() in ("?", "=")):  # fmt: skip
            return True  # not taken by the field, so the page's shortcut gets it
        return super().eventFilter(watched, event)

    # --- doing ------------------------------------------------------------------------------

    def enter(self) -> None:
        """Mark the answer; go on where that is done. In the field of names take the name."""
        practice = self.practice
        if self.column.is_naming:
            self.column.choose_learner()
            self.setFocus()
            return
        if self.is_building:
            self._take_stack()
            return
        if practice.exercise is None:
            return
        if practice.is_over:
            practice.leave()
            return
        if isinstance(practice.exercise.asked, OnPaper):
            self._tell()
            return
        given = self._given(practice.exercise)
        if isinstance(given, str):
            self.told.setText(given)
        else:
            practice.answer(given)

    def _given(self, exercise: Exercise) -> Given | str:
        """Return the answer, or what is missing before there is one."""
        asked, text = exercise.asked, self.field.text().strip()
        if isinstance(asked, Count):
            count = read_count(text)
            return count or tr("Type how many, or least and most: 9-11.")
        if isinstance(asked, Amount):
            try:
                return evaluate(text.replace(",", "."))
            except ValueError:
                return tr("Type a number, or a sum such as 42/2.")
        hand = self.board.hand
        given = hand.given if hand is not None else None
        return _ASKS[type(asked)] if given is None else given

    # --- on paper ---------------------------------------------------------------------------

    def ask_sheet(self) -> None:
        """Ask for a picture of the sheet and mark it."""
        if not self.practice.takes_sheet:
            return
        name, _ = QFileDialog.getOpenFileName(self, tr("Picture of the drawn sheet"),
                                              last_folder(), PICTURES)  # fmt: skip
        if name:
            keep_folder(Path(name))
            self.practice.take_sheet(Path(name))

    def paste(self) -> None:
        """Mark the picture that was copied elsewhere."""
        clipboard = QGuiApplication.clipboard()
        data = clipboard.mimeData() if clipboard is not None else None
        if not self.practice.takes_sheet or clipboard is None or data is None:
            return
        files = [url.toLocalFile() for url in data.urls() if url.isLocalFile()]
        if files:
            self.practice.take_sheet(Path(files[0]))
        elif data.hasImage():
            self.take_image(clipboard.image())
        else:
            self.session.told.emit(tr("There is no picture to paste: copy one first."))

    def take_dropped(self, files: list[Path], image: object) -> None:
        """Mark the first of some pictures that were dropped."""
        if files:
            self.practice.take_sheet(files[0])
        elif isinstance(image, QImage):
            self.take_image(image)

    def take_image(self, image: QImage) -> None:
        """Mark a picture that has no file."""
        try:
            self.practice.take_image(image)
        except BadInput as error:
            self.session.told.emit(f"{sentence(str(error))}.")

    # --- worksheets -------------------------------------------------------------------------

    def ask_worksheet(self) -> None:
        """Ask where to write a worksheet, and have its exercises made."""
        name, _ = QFileDialog.getSaveFileName(
            self, tr("Save the worksheet"), str(Path(last_folder(), "worksheet.pdf")),
            tr("Worksheets (*.pdf)")
        )  # fmt: skip
        if name:
            keep_folder(Path(name))
            self._sheet = Path(name)
            self.session.told.emit(tr("The worksheet is being made …"))
            self.practice.make_sheets(self.column.count.value(), self.column.seed.value())

    def _write_worksheet(self, exercises: tuple[Exercise, ...]) -> None:
        if self._sheet is None:
            return
        try:
            pages = worksheet(exercises, paper_named("A4").turned(upright=True))
            write_by_suffix(self._sheet, {".pdf": lambda: pdf_pages(pages)})
        except BadInput as error:
            self.session.told.emit(tr("Not exported: {error}", error=error))
        else:
            self.session.told.emit(tr("Exported {name}", name=self._sheet.name))

    # --- building ---------------------------------------------------------------------------

    def build(self) -> None:
        """Build a stack of cubes freely, on a plan of heights; the exercise in hand waits."""
        if self.is_building:
            self.stop_building()
            return
        self.is_building = True
        made = building()
        self._begin(made)
        self.head.setText(tr("build with cubes"))
        self.field.setVisible(True)
        self.field.setReadOnly(False)
        self.field.setText(_USUAL_SIDE)
        self.unit.setText(tr("mm: the side of a cube"))
        self.unit.setVisible(True)
        self.told.setText(_BUILDING)
        for button in (self.hint_button, self.answer_button, self.next_button):
            button.setEnabled(False)
        self.board.setFocus()

    def stop_building(self) -> None:
        """Go back to the exercise in hand."""
        if self.is_building:
            self.is_building = False
            self._exercise = None
            self._begin(self.practice.exercise)
            self.refresh()

    def _take_stack(self) -> None:
        """Put the stack into the job as a part, and go on with the exercise."""
        hand = self.board.hand
        document = self.session.document
        plan = tuple(map(tuple, hand.heights)) if isinstance(hand, Stack) else ()
        name = tr("stack {number}", number=len(document.job.parts) + 1)
        try:
            side = evaluate(self.field.text().replace(",", "."))
            part = stack_part(plan, side, name, document.unit)
        except ValueError:
            self.told.setText(tr("Type the side of a cube, such as 12.5."))
        except BadInput as error:
            self.told.setText(f"{sentence(str(error))}.")
        else:
            self.stop_building()
            document.add_new(part)
            self.session.told.emit(tr("{part} is in the job.", part=part.name))

    def _follow_board(self) -> None:
        self._show_choice()
        hand = self.board.hand
        if self.is_building and isinstance(hand, Stack):
            self.board.show_figures(stack_figures(tuple(map(tuple, hand.heights))))

    # --- showing ----------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show the exercise in hand, and how it was marked."""
        if not self.isVisible() or self.is_building:
            return
        practice, exercise = self.practice, self.practice.exercise
        if exercise is not self._exercise:
            self._begin(exercise)
        self.column.show_practice(practice)
        self._show_sheet(exercise)
        self.board.show_outcome(practice.marked, is_over=practice.is_over)
        self._tell()
        self._show_right_choice(exercise)
        self.field.setReadOnly(practice.is_over)
        self.next_button.setEnabled(True)
        self.hint_button.setEnabled(exercise is not None and not practice.is_over
                                    and practice.hints < len(exercise.hints))  # fmt: skip
        self.answer_button.setEnabled(exercise is not None and not practice.is_over)

    def _show_sheet(self, exercise: Exercise | None) -> None:
        """Show the ways in for a drawing on paper, and what was found of it."""
        practice = self.practice
        self.on_paper.setVisible(practice.takes_sheet)
        scanner = practice.scanner
        words = tr("The sheet on the scanner's glass (S)")
        if scanner.is_busy:
            words = tr("Stop the scanner, {percent} % (S)", percent=scanner.percent)
        elif scanner.is_stand_in:
            words = tr("The sheet on the stand-in's glass (S)")
        self.glass_button.setText(words)
        self.file_button.setEnabled(not practice.is_marking)
        self.glass_button.setEnabled(not practice.is_marking)
        if exercise is not None and isinstance(practice.given, CheckReport):
            self.board.show_figures((figure_of(practice.given), *exercise.figures))

    def _begin(self, exercise: Exercise | None) -> None:
        self._exercise = exercise
        if self.field.hasFocus():  # once it is hidden the keys would go to whatever is next
            self.board.setFocus()
        self.board.show_exercise(exercise)
        asked = exercise.asked if exercise is not None else None
        is_typed = isinstance(asked, Count | Amount)
        self.field.clear()
        self.field.setVisible(is_typed)
        self.unit.setVisible(isinstance(asked, Amount))
        self.unit.setText(asked.unit if isinstance(asked, Amount) else "")
        self._list_choices(asked)
        if exercise is None:
            self.head.setText("")
            self.question.setText(tr("An exercise is being made …"))
            self.board.setAccessibleDescription(self.question.text())
            return
        self.head.setText(tr("{skill} · level {level}", skill=SKILLS[exercise.skill].title,
                             level=exercise.level))  # fmt: skip
        self.question.setText(exercise.question)
        self.board.setAccessibleDescription(exercise.question)
        if not self.column.isAncestorOf(self.focusWidget()):
            self.setFocus()

    def _list_choices(self, asked: object) -> None:
        for button in self._group.buttons():
            self._group.removeButton(button)
            self._choices.removeWidget(button)
            button.deleteLater()
        is_words = isinstance(asked, Choice) and not asked.figures
        self.choices.setVisible(is_words)
        if not is_words or not isinstance(asked, Choice):
            return
        for number, words in enumerate(asked.words):
            button = QPushButton(f"{LETTERS[number]}   {words}")
            button.setObjectName("entry")
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            on_toggle(button, partial(self._take_choice, number))
            self._group.addButton(button, number)
            self._choices.addWidget(button)

    def _take_choice(self, number: int, down: bool) -> None:
        if down:
            self._choose(number)

    def _choose(self, number: int) -> None:
        hand = self.board.hand
        if isinstance(hand, Chosen) and not self.practice.is_over:
            hand.choose(number)
        self._show_choice()

    def _show_choice(self) -> None:
        hand = self.board.hand
        button = self._group.button(hand.number) if isinstance(hand, Chosen) and (
            hand.number is not None) else None  # fmt: skip
        if button is not None:
            show_down(button, True)

    def _show_right_choice(self, exercise: Exercise | None) -> None:
        """Show which of several words is right, once the answer was asked for."""
        asked = exercise.asked if exercise is not None else None
        if self.practice.is_shown and isinstance(asked, Choice):
            hand = self.board.hand
            if isinstance(hand, Chosen):
                hand.choose(asked.right)
            self._show_choice()

    def _tell(self) -> None:
        """Say how the answer was marked, and what follows."""
        practice, exercise = self.practice, self.practice.exercise
        if exercise is None:
            self.told.setText("")
            return
        lines = [mark.words for mark in practice.marked.marks] if practice.marked else []
        if practice.is_shown:
            lines = [tr("The answer: {answer}", answer=answer_words(exercise))]
        if practice.is_over:
            lines.append(exercise.reason)
            lines.append(tr("{points} of {most} points. Enter goes on.", points=practice.points,
                            most=MOST_POINTS))  # fmt: skip
        elif practice.is_marking:
            lines = [tr("The sheet is being looked at …")]
        elif practice.marked is not None and isinstance(exercise.asked, OnPaper):
            lines.append(tr("Mend it and show the sheet once more, or ask for the answer (=)."))
        elif practice.marked is not None:
            lines.append(tr("Change it and press Enter once more, or ask for the answer (=)."))
        else:
            lines.append(_HOW[type(exercise.asked)])
        self.told.setText("\n".join(dict.fromkeys(lines)))


_USUAL_SIDE = "12.5"
_BUILDING = tr("Arrows go from square to square, figures give the height, the space bar puts a "
               "cube on it; or click. Enter takes the stack into the job, Esc leaves.")  # fmt: skip
_ASKS: dict[type, str] = {
    Choice: tr("Choose one first, by its letter or by a click."),
    Places: tr("Mark a place first, by its letter or by a click."),
    Lines: tr("Draw a line first, from dot to dot."),
    Heights: tr("Give a square its height first."),
}
_HOW: dict[type, str] = {
    Count: tr("Type how many; least and most like 9-11."),
    Amount: tr("Type a number, or a sum."),
    Choice: tr("Choose by letter or by a click."),
    Places: tr("Mark by letter or by a click."),
    Lines: tr(
        "Drag from dot to dot. Or arrows and Home, End, Page keys move the pen, the space bar "
        "begins and ends a line, D changes to dashed, Backspace takes back."
    ),
    Heights: tr("Arrows go from square to square, figures give the height; or click."),
    OnPaper: tr(
        "Take your time at the board; then O takes a picture of the sheet, S what lies on "
        "the scanner's glass, or paste or drop one."
    ),
}
