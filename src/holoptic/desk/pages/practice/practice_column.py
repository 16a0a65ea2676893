"""The column beside the board: who practises, what, how it goes, and the hints."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPaintEvent
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QSpinBox, QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import lettering, px, shade, theme
from holoptic.desk.session.practice import Practice
from holoptic.desk.widgets.column import Column
from holoptic.desk.widgets.spoken_roles import Depiction
from holoptic.practice.exercise import LEVELS
from holoptic.practice.marking import MOST_POINTS
from holoptic.practice.path import Standing
from holoptic.practice.skills import SKILLS

_WIDTH = 296
_ROW, _NAME_WIDTH = 15, 192


def _spin(low: int, high: int, value: int) -> QSpinBox:
    spin = QSpinBox()
    spin.setRange(low, high)
    spin.setValue(value)
    return spin


class SkillBars(Depiction):
    """A bar for each skill, as far as it is mastered; the one in hand is marked."""

    def __init__(self) -> None:
        super().__init__()
        self._standings: dict[str, Standing] = {}
        self._now = ""
        self.setAccessibleName(tr("skills"))
        self.setFixedHeight(px(_ROW) * len(SKILLS))

    def show_standings(self, standings: dict[str, Standing], now: str) -> None:
        """Show how a learner stands, and which skill is in hand."""
        self._standings, self._now = standings, now
        self.setAccessibleDescription("; ".join(
            tr("{skill} {share:.0f} %", skill=SKILLS[name].title, share=100 * one.mastery)
            for name, one in standings.items() if one.count
        ))  # fmt: skip
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint names and bars."""
        del event
        with painting(self) as painter:
            painter.setFont(lettering(11))
            high, room = px(_ROW), self.width() - px(_NAME_WIDTH)
            for row, (name, one) in enumerate(self._standings.items()):
                y = row * high
                is_now = name == self._now
                painter.setPen(QColor(theme().accent if is_now else theme().text))
                words = painter.fontMetrics().elidedText(
                    SKILLS[name].title, Qt.TextElideMode.ElideRight, px(_NAME_WIDTH) - 14
                )
                sign = "▸ " if is_now else ""
                painter.drawText(QRectF(0, y, px(_NAME_WIDTH), high),
                                 Qt.AlignmentFlag.AlignVCenter, sign + words)  # fmt: skip
                bar = QRectF(px(_NAME_WIDTH), y + high * 0.3, room, high * 0.4)
                painter.fillRect(bar, shade(theme().line, 150))
                if one.count:
                    bar.setWidth(room * one.mastery)
                    painter.fillRect(bar, QColor(theme().accent))


class PracticeColumn(Column):
    """Everything beside the board.

    Signals:
        learner_chosen(name): somebody else practises.
        wanted(skill, level): what is to be practised, "" and 0: as it comes.
    """

    learner_chosen = pyqtSignal(str)
    wanted = pyqtSignal(str, int)

    def __init__(self) -> None:
        super().__init__(_WIDTH)
        self.learner = QComboBox()
        self.learner.setEditable(True)
        self.learner.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
        self.learner.setAccessibleName(tr("who practises"))
        line = self.learner.lineEdit()
        if line is not None:
            line.setMaxLength(60)
            line.setAccessibleName(tr("your name"))
            line.setPlaceholderText(tr("your name, if you like"))
            line.editingFinished.connect(self.choose_learner)
        self.learner.activated.connect(lambda _: self.choose_learner())
        self.add(tr("who practises"), self.learner)
        self.skill = QComboBox()
        self.skill.setAccessibleName(tr("what is practised"))
        self.skill.addItem(tr("as it comes"), "")
        for name, skill in SKILLS.items():
            self.skill.addItem(skill.title, name)
        self.skill.setMaxVisibleItems(self.skill.count())
        self.level = QComboBox()
        self.level.setAccessibleName(tr("level of the exercises"))
        self.level.addItem(tr("level as it comes"), 0)
        for level in range(1, LEVELS + 1):
            self.level.addItem(tr("level {level}", level=level), level)
        for box in (self.skill, self.level):
            box.activated.connect(lambda _: self._want())
        self.add(tr("what is practised"), self.skill)
        self.layers.addWidget(self.level)
        self.score = self.label()
        self.add(tr("so far"), self.score)
        self.hints = self.label()
        self.add(tr("hints"), self.hints)
        self.bars = SkillBars()
        self.add(tr("how you stand"), self.bars)
        self.count, self.seed = _spin(1, 100, 6), _spin(1, 999_999, 1)
        self.count.setAccessibleName(tr("how many exercises"))
        self.seed.setAccessibleName(tr("seed of the worksheet"))
        row = QHBoxLayout()
        row.addWidget(self.count, 2)
        row.addWidget(QLabel(tr("seed")))
        row.addWidget(self.seed, 3)
        held = QWidget()
        held.setLayout(row)
        row.setContentsMargins(0, 0, 0, 0)
        self.add(tr("worksheet: how many"), held)
        self.trouble = self.label("problem")
        self.layers.addWidget(self.trouble)

    def finish(self, buttons: list[tuple[str, str, Callable[[], None]]]) -> list[QWidget]:
        """Put buttons at the end."""
        self.layers.addStretch(1)
        return [self.add_button(words, sign, run) for words, sign, run in buttons]

    @property
    def is_naming(self) -> bool:
        """Whether a name is being typed."""
        line = self.learner.lineEdit()
        return self.learner.hasFocus() or (line is not None and line.hasFocus())

    def choose_learner(self) -> None:
        """Let whose name stands there practise."""
        self.learner_chosen.emit(self.learner.currentText())

    def _want(self) -> None:
        self.wanted.emit(str(self.skill.currentData()), int(self.level.currentData()))

    def show_practice(self, practice: Practice) -> None:
        """Show how the practice goes."""
        self.learner.blockSignals(True)
        names = practice.learners
        if [self.learner.itemText(k) for k in range(self.learner.count())] != names:
            self.learner.clear()
            self.learner.addItems(names)
        if not self.learner.hasFocus():
            self.learner.setCurrentText(practice.learner)
        self.learner.blockSignals(False)
        self.score.setText(
            tr("{done} done, {points} of {most} points", done=practice.done,
               points=practice.earned, most=MOST_POINTS * practice.done)
            if practice.done else tr("nothing yet today")
        )  # fmt: skip
        now = practice.exercise.skill if practice.exercise is not None else ""
        self.bars.show_standings(practice.standings(), now)
        exercise = practice.exercise
        given = exercise.hints[: practice.hints] if exercise is not None else ()
        self.hints.setText("\n".join(f"{k}  {words}" for k, words in enumerate(given, 1))
                           or tr("Three; each costs a quarter."))  # fmt: skip
        self.trouble.setText(practice.trouble)
        self.trouble.setVisible(bool(practice.trouble))
