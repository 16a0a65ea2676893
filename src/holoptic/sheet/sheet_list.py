"""The list of sheets that goes before several of them: one row for each."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from holoptic.catalogue import tr
from holoptic.sheet.drawing import Drawing, Ink, Words, rectangle
from holoptic.sheet.frames import border_lines, fitted, frame_of
from holoptic.sheet.papers import paper_named

_COLUMNS = (
    (tr("sheet"), 16.0), (tr("part"), 54.0), (tr("number"), 26.0), (tr("paper"), 24.0),
    (tr("scale"), 16.0), (tr("rev."), 12.0), (tr("date"), 24.0),
)  # fmt: skip
_ROW_MM, _HEAD_MM, _TEXT_MM, _TITLE_MM = 7.0, 1.8, 2.5, 5.0
_AIR_MM = 1.5
_TOP_MM = 24.0
_FOOT_MM = 14.0


@dataclass(frozen=True)
class ListedSheet:
    """What the list says of a sheet; `paper` says why instead where it cannot be drawn."""

    sheet: str
    part: str
    number: str
    paper: str
    scale: str
    revision: str
    date: str


def list_pages(rows: Sequence[ListedSheet], work: str, author: str = "") -> list[Drawing]:
    """Return the list as pages of A4 upright, as many as it takes."""
    paper = paper_named("A4").turned(upright=True)
    frame = frame_of(paper)
    room = paper.height - frame.high - _TOP_MM - frame.low - _FOOT_MM
    each = max(1, int(room / _ROW_MM) - 1)
    chunks = [rows[first : first + each] for first in range(0, max(len(rows), 1), each)]
    title = tr("List of sheets ({work})", work=work)
    pages = []
    for some in chunks:
        left, high = frame.left + 4.0, paper.height - frame.high - _TOP_MM
        inks = border_lines(paper)
        words = [Words((left, high + 8.0), title, _TITLE_MM)]
        table, said = _table(some, left, high)
        pages.append(Drawing(paper.width, paper.height, (*inks, *table), (*words, *said), title,
                             author=author))  # fmt: skip
    return pages


def _table(rows: Sequence[ListedSheet], left: float, high: float) -> tuple[list[Ink], list[Words]]:
    wide = sum(width for _, width in _COLUMNS)
    low = high - (len(rows) + 1) * _ROW_MM
    inks = [rectangle(left, low, left + wide, high, "title")]
    words: list[Words] = []
    heads = tuple(text for text, _ in _COLUMNS)
    for number, texts in enumerate((heads, *(_texts(row) for row in rows))):
        down = high - (number + 1) * _ROW_MM
        if number < len(rows):
            inks.append(Ink("title", ((left, down), (left + wide, down))))
        size, x = _TEXT_MM if number else _HEAD_MM, left
        for text, (_, width) in zip(texts, _COLUMNS, strict=True):
            if text:
                place = x + _AIR_MM, down + (_ROW_MM - size) / 2
                words.append(Words(place, text, fitted(text, size, width - 2 * _AIR_MM)))
            x += width
    x = left
    for _, width in _COLUMNS[:-1]:
        x += width
        inks.append(Ink("title", ((x, low), (x, high))))
    return inks, words


def _texts(row: ListedSheet) -> tuple[str, ...]:
    return row.sheet, row.part, row.number, row.paper, row.scale, row.revision, row.date
