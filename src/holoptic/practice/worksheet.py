"""Worksheets: exercises as pages, their answers with the main steps, and how they are marked."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.practice.answers import answer_figures, answer_words, points_of
from holoptic.practice.exercise import (
    Amount,
    Choice,
    Count,
    Exercise,
    Figure,
    Heights,
    Lines,
    OnPaper,
    Places,
)
from holoptic.practice.sketching import LETTERS, moved
from holoptic.practice.skills import SKILLS
from holoptic.sheet.drawing import Drawing, Ink, Region, Words
from holoptic.sheet.frames import BAR_NOTE, check_bar, wrapped
from holoptic.sheet.papers import Paper

_MARGIN_MM, _HEAD_MM, _FOOT_MM = 14.0, 16.0, 14.0
_TEXT_MM, _SMALL_MM, _TITLE_MM = 2.4, 1.9, 3.6
_LINE = 1.9
"""Distance of base lines over the height of capitals."""
_GAP_MM, _INDENT_MM = 7.0, 8.0
_DOT_MM = 0.45
_CAPTION_MM = 46.0
"""A caption of more than a letter has so much room at least."""


@dataclass
class _Page:
    """A page that is filled from the top."""

    paper: Paper
    title: str
    number: int
    with_name: bool
    inks: list[Ink] = field(default_factory=list)
    words: list[Words] = field(default_factory=list)
    regions: list[Region] = field(default_factory=list)
    y: float = 0.0

    def __post_init__(self) -> None:
        self.y = self.paper.height - _MARGIN_MM - _HEAD_MM

    @property
    def wide(self) -> float:
        return self.paper.width - 2 * _MARGIN_MM

    @property
    def room(self) -> float:
        return self.y - _MARGIN_MM - _FOOT_MM

    def write(self, text: str, x: float, height: float = _TEXT_MM) -> None:
        """Write a line of text and go down."""
        self.y -= height
        self.words.append(Words((x, self.y), text, height))
        self.y -= height * (_LINE - 1)

    def put(self, figure: Figure) -> None:
        """Draw a figure where it stands."""
        self.inks += (Ink("construction", ((x - 0.005, y), (x + 0.005, y)), _DOT_MM)
                      for x, y in figure.dots)  # fmt: skip
        self.inks += figure.inks
        self.words += figure.words
        self.regions += figure.regions

    def drawing(self) -> Drawing:
        """Return the finished page."""
        left, top = _MARGIN_MM, self.paper.height - _MARGIN_MM
        words = [Words((left, top - _TITLE_MM), self.title, _TITLE_MM)]
        inks = [Ink("border", ((left, top - 6.5), (self.paper.width - _MARGIN_MM, top - 6.5)),
                    0.25)]  # fmt: skip
        if self.with_name:
            words.append(Words((left, top - 12.5), tr("Name"), _TEXT_MM))
            inks.append(Ink("title", ((left + 14, top - 13), (left + 84, top - 13)), 0.18))
            words.append(Words((left + 92, top - 12.5), tr("Date"), _TEXT_MM))
            inks.append(Ink("title", ((left + 103, top - 13), (left + 140, top - 13)), 0.18))
        inks += check_bar(left, _MARGIN_MM - 4)
        words.append(Words((left + 54, _MARGIN_MM - 3.5), BAR_NOTE, 1.7, layer="check"))
        words.append(Words((self.paper.width - _MARGIN_MM, _MARGIN_MM - 3.5), f"{self.number}",
                           _TEXT_MM, "end"))  # fmt: skip
        return Drawing(self.paper.width, self.paper.height, (*self.inks, *inks),
                       (*self.words, *words), self.title, tuple(self.regions))  # fmt: skip


def worksheet(exercises: Sequence[Exercise], paper: Paper) -> list[Drawing]:
    """Return the pages: exercises first, then answers, then how they are marked.

    They hang on the exercises and the paper alone.
    """
    title = _title(exercises)
    pages = _Pages(paper)
    pages.begin(tr("Practice: {title}", title=title), with_name=True)
    _add_in_columns(pages, exercises)
    pages.begin(tr("Answers: {title}", title=title), with_name=False)
    for number, exercise in enumerate(exercises, 1):
        pages.add(_answer_block(number, exercise, pages.page.wide))
    pages.begin(tr("Marking: {title}", title=title), with_name=False)
    for number, exercise in enumerate(exercises, 1):
        pages.add(_marking_block(number, exercise))
    total = sum(map(points_of, exercises))
    pages.add(_Block([_Text(tr("{total} points in all", total=total), 0.0, _TEXT_MM)]))
    return pages.drawings()


def _title(exercises: Sequence[Exercise]) -> str:
    first = exercises[0]
    if any(one.skill != first.skill for one in exercises):
        return tr("level {level}, seed {seed}", level=first.level, seed=first.seed)
    return tr("{skill}, level {level}, seed {seed}", skill=SKILLS[first.skill].title,
              level=first.level, seed=first.seed)  # fmt: skip


def _add_in_columns(pages: _Pages, exercises: Sequence[Exercise]) -> None:
    """Add exercises two beside each other where all of them are narrow enough, else one."""
    wide = pages.page.wide
    half = (wide - _GAP_MM) / 2
    narrow = [_exercise_block(number, one, half) for number, one in enumerate(exercises, 1)]
    if any(block.wide > half or block.high > pages.page.room for block in narrow):
        for number, one in enumerate(exercises, 1):
            pages.add(_exercise_block(number, one, wide))
        return
    for first in range(0, len(narrow), 2):
        pages.add_beside(narrow[first : first + 2], half + _GAP_MM)


# --- blocks ---------------------------------------------------------------------------------


@dataclass(frozen=True)
class _Text:
    words: str
    x: float
    height: float
    goes_on: bool = False
    """What follows stands on the same line."""


@dataclass(frozen=True)
class _Row:
    """Figures beside each other: their places and what they take up (mm)."""

    figures: tuple[tuple[Figure, Vec2], ...]
    high: float


@dataclass(frozen=True)
class _Block:
    """What stays on one page."""

    lines: Sequence[_Text | _Row]

    @property
    def high(self) -> float:
        return _GAP_MM + sum(
            line.high + 2 if isinstance(line, _Row) else 0.0 if line.goes_on
            else line.height * _LINE for line in self.lines
        )  # fmt: skip

    @property
    def wide(self) -> float:
        """How far its figures reach, mm."""
        return max((x + figure.box[2] for line in self.lines if isinstance(line, _Row)
                    for figure, (x, _) in line.figures), default=0.0)  # fmt: skip


class _Pages:
    def __init__(self, paper: Paper) -> None:
        self._paper = paper
        self._pages: list[_Page] = []

    @property
    def page(self) -> _Page:
        return self._pages[-1]

    def begin(self, title: str, *, with_name: bool) -> None:
        self._pages.append(_Page(self._paper, title, len(self._pages) + 1, with_name))

    def add(self, block: _Block) -> None:
        """Add a block; where there is no room for it, on a further page."""
        self.add_beside([block], 0.0)

    def add_beside(self, blocks: Sequence[_Block], apart: float) -> None:
        """Add blocks beside each other, `apart` mm from left to left."""
        high = max(block.high for block in blocks)
        if high > self.page.room and self.page.words:
            self.begin(self.page.title, with_name=False)
        top = self.page.y
        for number, block in enumerate(blocks):
            self.page.y = top
            self._put(block, _MARGIN_MM + number * apart)
        self.page.y = top - high

    def _put(self, block: _Block, left: float) -> None:
        page = self.page
        for line in block.lines:
            if isinstance(line, _Text):
                at = page.y
                page.write(line.words, left + line.x, line.height)
                if line.goes_on:
                    page.y = at
                continue
            for figure, (x, y) in line.figures:
                page.put(moved(figure, (left + x, page.y - line.high + y)))
            page.y -= line.high + 2

    def drawings(self) -> list[Drawing]:
        return [page.drawing() for page in self._pages]


def _texts(text: str, width: float, x: float = _INDENT_MM, height: float = _TEXT_MM) -> list[_Text]:
    return [_Text(line, x, height) for line in wrapped(text, width - x, height)]


def _exercise_block(number: int, exercise: Exercise, wide: float) -> _Block:
    lines: list[_Text | _Row] = []
    question = wrapped(exercise.question, wide - _INDENT_MM, _TEXT_MM)
    lines.append(_Text(f"{number}", 0.0, _TEXT_MM, goes_on=True))
    lines += [_Text(line, _INDENT_MM, _TEXT_MM) for line in question]
    lines += _rows(exercise.figures, wide)
    asked = exercise.asked
    if isinstance(asked, Choice):
        if asked.figures:
            lettered = [replace(figure, caption=f"{LETTERS[k]}   {asked.words[k]}".strip())
                        for k, figure in enumerate(asked.figures)]  # fmt: skip
            lines += _rows(lettered, wide)
        else:
            for k, words in enumerate(asked.words):
                lines += _texts(f"{LETTERS[k]}   {words}", wide, _INDENT_MM + 4)
    lines += _texts(_answer_line(asked), wide)
    return _Block(lines)


def _answer_line(asked: object) -> str:
    blank = "_" * 12
    if isinstance(asked, Count):
        if asked.least == asked.most:
            return tr("Answer: {blank}", blank=blank)
        return tr("At least {blank}   at most {other}", blank=blank, other=blank)
    if isinstance(asked, Amount):
        return tr("Answer: {blank} {unit}", blank=blank, unit=asked.unit)
    if isinstance(asked, Lines):
        return tr("Draw on the dots.")
    if isinstance(asked, OnPaper):
        return tr("Draw on a sheet of its own.")
    if isinstance(asked, Heights):
        rows, columns = len(asked.heights), len(asked.heights[0])
        return tr("Draw the plan of {rows} × {columns} squares with its heights, the front below.",
                  rows=rows, columns=columns)  # fmt: skip
    if isinstance(asked, Places) and not asked.one_will_do and len(asked.right) > 1:
        return tr("Answers: {blank}", blank=blank)
    return tr("Answer: {blank}", blank=blank)


def _answer_block(number: int, exercise: Exercise, wide: float) -> _Block:
    lines: list[_Text | _Row] = [_Text(f"{number}   {answer_words(exercise)}", 0.0, _TEXT_MM)]
    lines += _texts(exercise.reason, wide, height=_SMALL_MM)
    for count, hint in enumerate(exercise.hints, 1):
        lines += _texts(tr("step {count}: {hint}", count=count, hint=hint), wide, height=_SMALL_MM)
    lines += _rows([replace(one, dots=()) for one in answer_figures(exercise)], wide)
    return _Block(lines)


def _marking_block(number: int, exercise: Exercise) -> _Block:
    points = points_of(exercise)
    asked = exercise.asked
    if isinstance(asked, Lines | OnPaper):
        rule = tr("a point for each line that is right, one less for each that is too many")
    elif isinstance(asked, Amount):
        rule = tr("right within {within:.1f} {unit}", within=asked.within, unit=asked.unit)
    elif isinstance(asked, Heights):
        rule = tr("a point for each square of the plan that is right")
    elif isinstance(asked, Places) and not asked.one_will_do:
        rule = tr("a point for each letter that is named or left out rightly")
    elif points > 1:
        rule = tr("a point each for least and most")
    else:
        rule = tr("right or wrong")
    words = tr("{number}   {answer}   ({points}: {rule})", number=number,
               answer=answer_words(exercise), points=points, rule=rule)  # fmt: skip
    return _Block([_Text(words, 0.0, _SMALL_MM)])


def _rows(figures: Sequence[Figure], wide: float) -> list[_Row]:
    """Return figures in rows, at true size where they fit, each with its caption below."""
    rows: list[_Row] = []
    row: list[tuple[Figure, Vec2]] = []
    x, high = _INDENT_MM, 0.0
    for one in figures:
        left, low, right, top = one.box
        caption = wrapped(one.caption, max(right - left, _CAPTION_MM), _SMALL_MM)
        foot = len(caption) * _SMALL_MM * _LINE + 1.5
        width = max(right - left, _CAPTION_MM if len(one.caption) > 1 else 0.0)
        if row and x + width > wide:
            rows.append(_settled(row, high))
            row, x, high = [], _INDENT_MM, 0.0
        words = tuple(
            Words((left, low - 3.0 - _SMALL_MM * _LINE * (k + 0.6)), line, _SMALL_MM, "start",
                  "symbol") for k, line in enumerate(caption)
        )  # fmt: skip
        whole = replace(one, words=(*one.words, *words))
        row.append((whole, (x - left, foot + 3.0 - low)))
        high = max(high, top - low + foot + 6.0)
        x += width + 10.0
    return [*rows, _settled(row, high)] if row else rows


def _settled(row: list[tuple[Figure, Vec2]], high: float) -> _Row:
    return _Row(tuple(row), high)
