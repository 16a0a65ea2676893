"""Border and title block of a sheet: where they lie, and their lines and words."""

from __future__ import annotations

import math
import textwrap
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from holoptic.catalogue import mark, tr
from holoptic.job import OwnEntry, Revision, TitleBlock
from holoptic.plan.letter_widths import width_of
from holoptic.plan.moves import BlankSheet
from holoptic.sheet.drawing import MEAN_LETTER, Ink, Words, rectangle
from holoptic.sheet.layers import OUTLINE_MM
from holoptic.sheet.papers import Paper

Box = tuple[float, float, float, float]

_FILING_MM, _MARGIN_MM = 20.0, 10.0
"""Margins of ISO 5457: the left one is for filing."""
_INCH_MARGIN_MM = 12.7
TITLE_WIDTH_MM, _TITLE_HEIGHT_MM = 120.0, 30.0
LIST_ROW_MM = 5.5
"""Of the parts list over the title block."""
CHECK_BAR_MM = 50.0
_TICK_MM = 3.0

_NOTE_MM, _NOTE_ROW_MM = 1.8, 2.8
"""Height and rows of the cautions."""

CAUTION = (
    tr("A pictorial explains a part."),
    tr("Make from dimensioned orthographic drawings, checked under your local standard by whoever "
       "is responsible for the design."),
)  # fmt: skip


def frame_of(paper: Paper) -> BlankSheet:
    """Return where border and title block of a sheet lie."""
    left, margin = (
        (_FILING_MM, _MARGIN_MM) if paper.series == "ISO" else (_INCH_MARGIN_MM, _INCH_MARGIN_MM)
    )
    return BlankSheet(paper.name, paper.width, paper.height, left, margin, margin, margin,
                      TITLE_WIDTH_MM, _TITLE_HEIGHT_MM)  # fmt: skip


def drawing_area(paper: Paper, above: float = 0.0) -> Box:
    """Return what border and title block leave for drawings, mm from the page's corner.

    Where `above` mm stand over the title block, a parts list or more rows of it, that is what lies
    beside it, or above it, whichever is larger.
    """
    frame = frame_of(paper)
    low = frame.low + frame.title_height
    left, right, high = frame.left, paper.width - frame.right, paper.height - frame.high
    if not above:
        return left, low, right, high
    beside = left, low, right - TITLE_WIDTH_MM, high
    over = left, low + above, right, high
    return max(beside, over, key=lambda box: (box[2] - box[0]) * (box[3] - box[1]))


def list_height(rows: int) -> float:
    """Return the height of a parts list with its head, mm; 0 without rows."""
    return (rows + 1) * LIST_ROW_MM if rows else 0.0


def border_lines(paper: Paper) -> list[Ink]:
    """Return the border and the check bar."""
    frame = frame_of(paper)
    border = rectangle(frame.left, frame.low, paper.width - frame.right,
                       paper.height - frame.high, "border")  # fmt: skip
    return [border, *check_bar(frame.left + 6, frame.low + 6)]


def check_bar(x: float, y: float) -> list[Ink]:
    """Return a bar of 50 mm with ticks each 10 mm, to be measured on the printed sheet."""
    bar = Ink("check", ((x, y), (x + CHECK_BAR_MM, y)), OUTLINE_MM)
    ticks = [
        Ink("check", ((x + d, y), (x + d, y + (_TICK_MM if d in (0, CHECK_BAR_MM) else 1.8))))
        for d in (0.0, 10.0, 20.0, 30.0, 40.0, CHECK_BAR_MM)
    ]
    return [bar, *ticks]


BAR_NOTE = tr(
    "Print at 100 %: this bar must measure {check_bar_mm:g} mm before you measure here.",
    check_bar_mm=CHECK_BAR_MM,
)


def title_corner(paper: Paper) -> tuple[float, float]:
    """Return the upper right corner of the title block, mm from the page's corner."""
    frame = frame_of(paper)
    return paper.width - frame.right, frame.low + frame.title_height


TITLE_ROW_MM = _TITLE_HEIGHT_MM / 4
_NOTES_WIDTH_MM, _LETTER_MM, _ASIDE_MM = 94.0, 2.5, 1.5
_STANDARD = (
    ((mark("work"), 60.0), (mark("drawn by"), 30.0), (mark("checked by"), 30.0)),
    ((mark("part"), 60.0), (mark("number"), 30.0), (mark("revision"), 30.0)),
    ((mark("scale"), 22.0), (mark("drawn as"), 38.0), (mark("date"), 30.0), (mark("sheet"), 30.0)),
    ((mark("notes"), _NOTES_WIDTH_MM), ("", 26.0)),
)
"""Rows of every title block from the top: each cell's label and width, mm.

The last cell has the symbol of the angle.
"""
_OWN_IN_ROW = 3
_REVISION_CELLS = (14.0, 62.0, 24.0, 20.0)


@dataclass(frozen=True)
class BlockCell:
    """A cell of the title block: its width, mm, its label in small letters, and what it says."""

    width: float
    label: str = ""
    value: str = ""
    height: float = _LETTER_MM


@dataclass(frozen=True)
class BlockRow:
    """A row of the title block, its height in mm."""

    height: float
    cells: tuple[BlockCell, ...]


def above_mm(own_fields: int, revisions: int, notes: str = "") -> float:
    """Return how much a title block grows upward by own fields, revisions and notes, mm."""
    rows = math.ceil(own_fields / _OWN_IN_ROW) * TITLE_ROW_MM
    return rows + list_height(revisions) + len(note_lines(notes)) * LIST_ROW_MM


def note_lines(notes: str) -> list[str]:
    """Return the lines of notes that stand over a title block, several notes numbered; none where
    one short note stands in its cell.

    Each line of `notes` is a note.
    """
    said = [line.strip() for line in notes.splitlines() if line.strip()]
    if len(said) < 2 and width_of(notes, _LETTER_MM) <= _NOTES_WIDTH_MM - 2 * _ASIDE_MM:
        return []
    made = []
    for number, note in enumerate(said, 1):
        lines = wrapped(note, TITLE_WIDTH_MM - 2 * _ASIDE_MM - width_of("00. ", _LETTER_MM))
        made += [f"{number}.  {lines[0]}", *("     " + line for line in lines[1:])]
    return made if len(said) > 1 else [line[4:].strip() for line in made]


def wrapped(text: str, width: float, height: float = _LETTER_MM) -> list[str]:
    """Return a text in lines of at most a width, mm, its capitals `height` mm high; longer words
    are broken.
    """
    lines = [""]
    for word in text.split():
        longer = f"{lines[-1]} {word}".strip()
        if width_of(longer, height) <= width:
            lines[-1] = longer
            continue
        rest = word
        while width_of(rest, height) > width:
            count = max(k for k in range(1, len(rest)) if width_of(rest[:k], height) <= width)
            lines.append(rest[:count])
            rest = rest[count:]
        lines.append(rest)
    return [line for line in lines if line]


def block_rows(title: TitleBlock, kind: str, scale: str) -> list[BlockRow]:
    """Return the rows of a title block from the top: notes, where they do not fit their cell;
    revisions, the newest first, with their head below them; the company's own fields; then what
    every title block has.
    """
    notes = [
        BlockRow(LIST_ROW_MM, (BlockCell(TITLE_WIDTH_MM, "", line),))
        for line in note_lines(title.notes)
    ]
    return [*notes, *_revision_rows(title.revisions), *_own_rows(title.own),
            *_standard_rows(title, kind, scale)]  # fmt: skip


def _revision_rows(revisions: Sequence[Revision]) -> Iterator[BlockRow]:
    if not revisions:
        return
    head = tr("rev."), tr("change"), tr("date"), tr("by")
    rows = [(one.letter, one.change, one.date, one.by) for one in reversed(revisions)]
    for texts in (*rows, head):
        height = 1.8 if texts is head else 2.5
        cells = tuple(
            BlockCell(width, "", text, height)
            for text, width in zip(texts, _REVISION_CELLS, strict=True)
        )
        yield BlockRow(LIST_ROW_MM, cells)


def _own_rows(own: Sequence[OwnEntry]) -> Iterator[BlockRow]:
    for first in range(0, len(own), _OWN_IN_ROW):
        some = own[first : first + _OWN_IN_ROW]
        width = TITLE_WIDTH_MM / len(some)
        cells = (BlockCell(width, entry.label, entry.value or "–") for entry in some)
        yield BlockRow(TITLE_ROW_MM, tuple(cells))


def _standard_rows(title: TitleBlock, kind: str, scale: str) -> Iterator[BlockRow]:
    said = {
        "work": title.work, "drawn by": title.drawn_by, "checked by": title.checked_by,
        "part": title.part, "number": title.number, "revision": title.revision, "scale": scale,
        "drawn as": kind, "date": title.date, "sheet": title.sheet,
        "notes": tr("over the title block") if note_lines(title.notes) else title.notes.strip(),
    }  # fmt: skip
    for cells in _STANDARD:
        made = [
            BlockCell(width, tr(label) if label else "",
                      said.get(label) or ("" if label in ("notes", "") else "–"),
                      3.0 if label in ("work", "part") else 2.5)
            for label, width in cells
        ]  # fmt: skip
        yield BlockRow(TITLE_ROW_MM, tuple(made))


def rows_with_place(paper: Paper, rows: Sequence[BlockRow]) -> Iterator[tuple[BlockRow, float]]:
    """Yield the rows of a title block, each with its lower edge, mm from the page's corner."""
    high = title_corner(paper)[1] - _TITLE_HEIGHT_MM + sum(row.height for row in rows)
    for row in rows:
        high -= row.height
        yield row, high


def title_lines(paper: Paper, rows: Sequence[BlockRow]) -> list[Ink]:
    """Return the lines of a title block."""
    xmax, ymax = title_corner(paper)
    xmin, ymin = xmax - TITLE_WIDTH_MM, ymax - _TITLE_HEIGHT_MM
    top = ymin + sum(row.height for row in rows)
    lines = [rectangle(xmin, ymin, xmax, top, "title", OUTLINE_MM)]
    for row, low in rows_with_place(paper, rows):
        if low > ymin:
            lines.append(Ink("title", ((xmin, low), (xmax, low))))
        x = xmin
        for cell in row.cells[:-1]:
            x += cell.width
            lines.append(Ink("title", ((x, low), (x, low + row.height))))
    return lines


def title_words(paper: Paper, rows: Sequence[BlockRow], note: str = "") -> list[Words]:
    """Return what a title block says, with the cautions over the check bar, and a note of how the
    sheet is to be read above them.
    """
    xmin = title_corner(paper)[0] - TITLE_WIDTH_MM
    words = []
    for row, low in rows_with_place(paper, rows):
        x = xmin
        for cell in row.cells:
            height = fitted(cell.value, cell.height, cell.width - 3)
            up = 1.5 if row.height == TITLE_ROW_MM else (row.height - height) / 2
            if cell.label:
                top = low + row.height - 2.1
                words.append(Words((x + 1.5, top), cell.label, fitted(cell.label, 1.5,
                                                                      cell.width - 3)))  # fmt: skip
            if cell.value:
                words.append(Words((x + 1.5, low + up), cell.value, height))
            x += cell.width
    return words + _cautions(paper, xmin, note)


def _cautions(paper: Paper, until: float, note: str) -> list[Words]:
    """Return the cautions over the check bar, in as many rows as there are before `until` (mm)."""
    frame = frame_of(paper)
    left = frame.left + 6
    letters = int((until - left - 3) / (_NOTE_MM * MEAN_LETTER))
    texts = (note, " ".join(CAUTION), BAR_NOTE)
    rows = [row for text in texts for row in textwrap.wrap(text, letters)]
    bar_top = frame.low + 6 + _TICK_MM + 1.5
    return [
        Words((left, bar_top + _NOTE_ROW_MM * (len(rows) - 1 - row)), line, _NOTE_MM, layer="check")
        for row, line in enumerate(rows)
    ]


def fitted(text: str, height: float, width: float) -> float:
    """Return a height of lettering, at most `height`, at which a text fits a width (mm)."""
    return min(height, width / width_of(text, 1.0)) if text else height
