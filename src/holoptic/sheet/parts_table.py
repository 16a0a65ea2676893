"""The parts list on a sheet: rows that grow upward from the title block. After ISO 7573."""

from __future__ import annotations

from collections.abc import Sequence

from holoptic.catalogue import tr
from holoptic.plan.moves import PartsTable
from holoptic.sheet.drawing import Ink, Words, rectangle
from holoptic.sheet.frames import (
    LIST_ROW_MM,
    TITLE_WIDTH_MM,
    fitted,
    frame_of,
    list_height,
    title_corner,
)
from holoptic.sheet.layers import OUTLINE_MM
from holoptic.sheet.papers import Paper
from holoptic.spread.parts_list import ListedPart

_COLUMNS = (
    (tr("number"), 14.0),
    (tr("name"), 58.0),
    (tr("quantity"), 16.0),
    (tr("material"), 32.0),
)
_HEAD_MM, _ENTRY_MM = 1.8, 2.5
_AIR_MM = 1.5


def table_ruling(rows: Sequence[ListedPart], paper: Paper, above: float = 0.0) -> PartsTable:
    """Return the ruling of the list for whoever draws it by hand, `above` mm over the usual title
    block.
    """
    frame = frame_of(paper)
    xmax, low = title_corner(paper)
    widths = [width for _, width in _COLUMNS]
    xmin = xmax - TITLE_WIDTH_MM - frame.left
    columns = tuple(xmin + sum(widths[:k]) for k in range(len(widths) + 1))
    levels = tuple(low + above - frame.low + k * LIST_ROW_MM for k in range(len(rows) + 2))
    entries = tuple(", ".join(text for text in entry if text) for entry in _entries(rows))
    return PartsTable(columns, levels, entries)


def _entries(rows: Sequence[ListedPart]) -> list[list[str]]:
    """Return what stands in the list, the head first."""
    return [
        [text for text, _ in _COLUMNS],
        *([str(row.number), row.name, str(row.quantity), row.material] for row in rows),
    ]


def parts_table(
    rows: Sequence[ListedPart], paper: Paper, above: float = 0.0
) -> tuple[list[Ink], list[Words]]:
    """Return the lines and words of the list, `above` mm over the usual title block of a paper."""
    xmax, low = title_corner(paper)
    low += above
    xmin, high = xmax - TITLE_WIDTH_MM, low + list_height(len(rows))
    inks = [rectangle(xmin, low, xmax, high, "title", OUTLINE_MM)]
    words: list[Words] = []
    for number, entry in enumerate(_entries(rows)):
        up = low + number * LIST_ROW_MM
        if number:
            inks.append(Ink("title", ((xmin, up), (xmax, up))))
        size = _ENTRY_MM if number else _HEAD_MM
        x = xmin
        for text, (_, width) in zip(entry, _COLUMNS, strict=True):
            if text:
                place = x + _AIR_MM, up + (LIST_ROW_MM - size) / 2
                words.append(Words(place, text, fitted(text, size, width - 2 * _AIR_MM)))
            x += width
    x = xmin
    for _, width in _COLUMNS[:-1]:
        x += width
        inks.append(Ink("title", ((x, low), (x, high))))
    return inks, words
