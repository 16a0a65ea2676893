"""Border and title block of a sheet: where they lie, and their lines and words."""

from __future__ import annotations

import textwrap

from holoptic.catalogue import mark, tr
from holoptic.job import TitleBlock
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

_WIDEST_LETTER = 0.78
"""Mean width of a letter over the height of capitals, on the safe side."""

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
    return BlankSheet(paper.title, paper.width, paper.height, left, margin, margin, margin,
                      TITLE_WIDTH_MM, _TITLE_HEIGHT_MM)  # fmt: skip


def drawing_area(paper: Paper, rows: int = 0) -> Box:
    """Return what border and title block leave for drawings, mm from the page's corner.

    With a parts list of so many rows over the title block that is what lies beside it, or above
    it, whichever is larger.
    """
    frame = frame_of(paper)
    low = frame.low + frame.title_height
    left, right, high = frame.left, paper.width - frame.right, paper.height - frame.high
    if not rows:
        return left, low, right, high
    beside = left, low, right - TITLE_WIDTH_MM, high
    above = left, low + list_height(rows), right, high
    return max(beside, above, key=lambda box: (box[2] - box[0]) * (box[3] - box[1]))


def list_height(rows: int) -> float:
    """Return the height of a parts list with its head, mm."""
    return (rows + 1) * LIST_ROW_MM


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
_CELLS = (
    (("work", 60.0), (tr("drawn by"), 30.0), (tr("checked by"), 30.0)),
    (("part", 60.0), ("number", 30.0), ("revision", 30.0)),
    (("scale", 22.0), (tr("drawn as"), 38.0), ("date", 30.0), ("sheet", 30.0)),
    (("notes", 94.0), ("", 26.0)),
)
"""Rows of the title block from the top: each cell's label and width, mm.

The last cell has the symbol of the angle.
"""


def title_cells() -> tuple[tuple[tuple[float, float], ...], ...]:
    """Return the rows of the title block from the top: each cell's left edge, mm from the right
    edge of the block (less than nothing), and its width.
    """
    rows = []
    for cells in _CELLS:
        left, made = -TITLE_WIDTH_MM, []
        for _, width in cells:
            made.append((left, width))
            left += width
        rows.append(tuple(made))
    return tuple(rows)


def title_lines(paper: Paper) -> list[Ink]:
    """Return the lines of the title block."""
    xmax, ymax = title_corner(paper)
    xmin, ymin = xmax - TITLE_WIDTH_MM, ymax - _TITLE_HEIGHT_MM
    lines = [rectangle(xmin, ymin, xmax, ymax, "title", OUTLINE_MM)]
    for number, cells in enumerate(_CELLS):
        high = ymax - number * TITLE_ROW_MM
        if number:
            lines.append(Ink("title", ((xmin, high), (xmax, high))))
        x = xmin
        for _, width in cells[:-1]:
            x += width
            lines.append(Ink("title", ((x, high - TITLE_ROW_MM), (x, high))))
    return lines


def title_words(
    paper: Paper, title: TitleBlock, kind: str, scale: str, note: str = ""
) -> list[Words]:
    """Return what the title block says, with the cautions over the check bar, and a note of how the
    sheet is to be read above them.
    """
    xmax, ymax = title_corner(paper)
    xmin = xmax - TITLE_WIDTH_MM
    said = {
        mark("work"): title.work, mark("drawn by"): title.drawn_by,
        mark("checked by"): title.checked_by, mark("part"): title.part,
        mark("number"): title.number, mark("revision"): title.revision, mark("scale"): scale,
        mark("drawn as"): kind, mark("date"): title.date, mark("sheet"): title.sheet,
        mark("notes"): title.notes,
    }  # fmt: skip
    words = []
    for number, cells in enumerate(_CELLS):
        x, low = xmin, ymax - (number + 1) * TITLE_ROW_MM
        for label, width in cells:
            value = said.get(label) or ("" if label in ("notes", "") else "–")
            height = fitted(value, 3.0 if label in ("work", "part") else 2.5, width - 3)
            for text, up, size in (
                (tr(label) if label else "", TITLE_ROW_MM - 2.1, 1.5),
                (value, 1.5, height),
            ):
                if text:
                    words.append(Words((x + 1.5, low + up), text, size))
            x += width
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
    return min(height, width / (max(len(text), 1) * _WIDEST_LETTER))
