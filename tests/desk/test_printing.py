"""Printing: at exactly its size, on smaller paper as a poster whose pieces share their edges."""

from dataclasses import replace

import pypdfium2 as pdfium
import pytest
from PyQt6.QtCore import QMarginsF, QSizeF, Qt
from PyQt6.QtGui import QPageLayout, QPageSize
from PyQt6.QtPrintSupport import QPrinter

from holoptic.desk.application.printing import paper_of, print_page, sheet_printer, tiles_for
from holoptic.errors import BadInput
from holoptic.job import TitleBlock
from holoptic.sheet.drawing import Drawing, Ink
from holoptic.sheet.frames import block_rows, border_lines, title_words
from holoptic.sheet.papers import paper_named

POINTS = 72 / 25.4
LINES = ((100.0, 61.25), (40.0, 73.5))
"""How long two lines are, and how high they lie; mm."""


def page(name="A3"):
    paper = paper_named(name)
    words = title_words(paper, block_rows(TitleBlock("lamp", "plate"), "isometric", "1:1"))
    own = [Ink("visible", ((37.5, up), (37.5 + long, up))) for long, up in LINES]
    return Drawing(paper.width, paper.height, (*border_lines(paper), *own), tuple(words), "plate")


def printed(drawing, path, paper=None):
    printer = sheet_printer(drawing)
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(path))
    if paper is not None:
        size = QPageSize(QSizeF(*paper), QPageSize.Unit.Millimeter)
        way = QPageLayout.Orientation.Portrait
        printer.setPageLayout(QPageLayout(size, way, QMarginsF(0, 0, 0, 0)))
    return print_page(drawing, printer), pdfium.PdfDocument(path)


def level_lines(sheet):
    """Return where level lines of a page lie: left, right, up; mm."""
    found = []
    for item in sheet.get_objects():
        left, low, right, high = (value / POINTS for value in item.get_bounds())
        if right - left > 20 and high - low < 2:
            found.append((left, right, (low + high) / 2))
    return found


def test_a_sheet_is_printed_at_its_size(qapp, tmp_path):
    count, file = printed(page(), tmp_path / "sheet.pdf")
    assert (count, len(file)) == (1, 1)
    assert [size / POINTS for size in file[0].get_size()] == pytest.approx([420, 297], abs=0.2)
    found = []
    for long, up in LINES:
        left, right, at = min(level_lines(file[0]), key=lambda line: abs(line[2] - up))
        assert ((left + right) / 2, at) == pytest.approx((37.5 + long / 2, up), abs=0.05)
        found.append(right - left)
    # the reader counts the pencil's width in: it falls out between two lines
    assert found[0] - found[1] == pytest.approx(60, abs=0.05)


def test_on_smaller_paper_it_becomes_a_poster_that_shows_all_of_it(qapp, tmp_path):
    drawing = page("A2")
    tiles = tiles_for(drawing, (210.0, 297.0))
    assert len(tiles) == 8
    for x in range(5, 590, 13):
        for y in range(5, 416, 13):
            assert any(t.left <= x <= t.left + t.width and t.low <= y <= t.low + t.height
                       for t in tiles)  # fmt: skip
    beside = sorted({tile.left for tile in tiles})
    assert beside[1] - beside[0] == pytest.approx(tiles[0].width - 10)
    count, file = printed(drawing, tmp_path / "poster.pdf", (210.0, 297.0))
    assert (count, len(file)) == (8, 8)


def test_a_poster_that_would_be_absurd_is_refused_in_a_line():
    with pytest.raises(BadInput, match="too many"):
        tiles_for(page("A0"), (60.0, 60.0))
    with pytest.raises(BadInput, match="too small"):
        tiles_for(page("A0"), (20.0, 30.0))


def test_the_desk_prints_the_sheet_in_hand(desk, press, settle, tmp_path):
    press(desk, Qt.Key.Key_F6)
    settle(desk)
    drawing = desk.session.answers.laid.pages[0]
    printer = sheet_printer(drawing)
    assert paper_of(printer) == pytest.approx((drawing.width, drawing.height), abs=0.5)
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(tmp_path / "out.pdf"))
    desk.filing.print_sheet(printer)
    assert len(pdfium.PdfDocument(tmp_path / "out.pdf")) == 1
    assert "check bar" in desk.hint.text


def test_all_sheets_are_printed_each_on_its_paper_or_all_on_one(desk, settle, tmp_path):
    taken = []
    desk.session.ask_sheets(taken.append)
    settle(desk)
    (sheets,) = taken
    assert len(sheets.pages) == 12
    assert not sheets.troubles
    printer = sheet_printer(sheets.pages[0])
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(tmp_path / "own.pdf"))
    desk.filing.print_sheets(sheets, printer)
    found = [page.get_size() for page in pdfium.PdfDocument(tmp_path / "own.pdf")]
    for (wide, high), drawing in zip(found, sheets.pages, strict=True):
        assert wide / POINTS == pytest.approx(drawing.width, abs=0.4)
        assert high / POINTS == pytest.approx(drawing.height, abs=0.4)
    assert "12 papers" in desk.hint.text
    small = sheet_printer(replace(sheets.pages[0], width=148.0, height=210.0))
    small.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    small.setOutputFileName(str(tmp_path / "small.pdf"))
    desk.filing.print_sheets(sheets, small)
    assert len(pdfium.PdfDocument(tmp_path / "small.pdf")) > 22


def test_all_sheets_are_exported_as_one_file(desk, settle, tmp_path):
    desk.filing.export("set of sheets", tmp_path / "set.pdf")
    settle(desk)
    assert len(pdfium.PdfDocument(tmp_path / "set.pdf")) == 12
    assert "set.pdf" in desk.hint.text
    desk.filing.export("set of sheets", tmp_path / "set.svg")
    assert "must end in .pdf" in desk.hint.text
