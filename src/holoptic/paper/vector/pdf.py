"""A page of a PDF file: its lines, words and small filled shapes (ISO 32000).

Nothing in the file is run; PDFium reads it, in a process of its own.
"""

from __future__ import annotations

import ctypes
import math
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pypdfium2
from pypdfium2 import raw

from holoptic.bounded import read_bounded
from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.errors import BadInput
from holoptic.foreign import LARGEST_PDF
from holoptic.paper.figures import Figure
from holoptic.paper.vector.beziers import Cubic, line_as_cubic, shapes_of
from holoptic.paper.vector.page import Look, Page, Stroke
from holoptic.quoting import name_of
from holoptic.reading.lines import Box

_MM = 25.4 / 72.0
_MOST_STROKES, _MOST_OBJECTS, _DEEPEST = 20_000, 60_000, 8
_LARGEST_FILLED_MM = 6.0
_MOST_LETTERS = 200
_Matrix = tuple[float, float, float, float, float, float]
_STRAIGHT_ON: _Matrix = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


def count_pages(path: Path) -> int:
    """Return how many pages a PDF file has. Raises BadInput."""
    with _opened(path) as document:
        return len(document)


def read_pdf(path: Path, number: int = 1) -> Page:
    """Return a page of a PDF file, counted from 1. Raises BadInput."""
    with _opened(path) as document:
        if not 1 <= number <= len(document):
            raise BadInput(tr("{name} has no page {number}: it has {count}", name=name_of(path),
                              number=number, count=len(document)))  # fmt: skip
        try:
            page = document[number - 1]
            return _Reader(page, path).page()
        except pypdfium2.PdfiumError as error:
            raise BadInput(tr("page {number} of {name} cannot be read", number=number,
                              name=name_of(path))) from error  # fmt: skip


def _opened(path: Path) -> pypdfium2.PdfDocument:
    data = read_bounded(path, LARGEST_PDF)
    if b"%PDF-" not in data[:1024]:
        raise BadInput(tr("{name} is not a PDF file", name=name_of(path)))
    try:
        return pypdfium2.PdfDocument(data)
    except pypdfium2.PdfiumError as error:
        if raw.FPDF_GetLastError() == raw.FPDF_ERR_PASSWORD:
            raise BadInput(tr("{name} is locked by a password: save it without one",
                              name=name_of(path))) from error  # fmt: skip
        raise BadInput(tr("{name} is no sound PDF file, or only a part of one",
                          name=name_of(path))) from error  # fmt: skip


class _Reader:
    """Collects what is on a page."""

    def __init__(self, page: Any, path: Path) -> None:
        self._page, self._path = page, path
        left, low, right, high = page.get_cropbox()
        self._turn = page.get_rotation() // 90 % 4
        self._low = left, low
        self._size = (right - left) * _MM, (high - low) * _MM
        self._text = raw.FPDFText_LoadPage(page)
        self._strokes: list[Stroke] = []
        self._figures: list[Figure] = []
        self._filled: list[Box] = []
        self._pictured = 0.0
        self._seen = 0

    def page(self) -> Page:
        """Return the page, upright as it is shown."""
        try:
            count = raw.FPDFPage_CountObjects(self._page)
            for number in range(count):
                self._take(raw.FPDFPage_GetObject(self._page, number), _STRAIGHT_ON, 0)
        finally:
            raw.FPDFText_ClosePage(self._text)
        wide, high = self._size
        size = (high, wide) if self._turn % 2 else (wide, high)
        return Page(size, tuple(self._strokes), tuple(self._figures), tuple(self._filled),
                    min(1.0, self._pictured / max(wide * high, 1.0)))  # fmt: skip

    def _take(self, thing: Any, outer: _Matrix, depth: int) -> None:
        self._seen += 1
        if self._seen > _MOST_OBJECTS or len(self._strokes) > _MOST_STROKES:
            raise BadInput(tr("{name} holds more than {most} lines", name=name_of(self._path),
                              most=_MOST_STROKES))  # fmt: skip
        kind = raw.FPDFPageObj_GetType(thing)
        if kind == raw.FPDF_PAGEOBJ_FORM:
            if depth < _DEEPEST:
                inner = _after(_matrix(thing), outer)
                for number in range(raw.FPDFFormObj_CountObjects(thing)):
                    self._take(raw.FPDFFormObj_GetObject(thing, number), inner, depth + 1)
        elif kind == raw.FPDF_PAGEOBJ_PATH:
            self._take_path(thing, outer)
        elif kind == raw.FPDF_PAGEOBJ_TEXT:
            self._take_text(thing, outer)
        elif kind == raw.FPDF_PAGEOBJ_IMAGE:
            a, b, c, d, _, _ = _after(_matrix(thing), outer)
            self._pictured += abs(a * d - b * c) * _MM * _MM

    def _take_path(self, thing: Any, outer: _Matrix) -> None:
        fill, stroke = ctypes.c_int(), ctypes.c_int()
        raw.FPDFPath_GetDrawMode(thing, fill, stroke)
        matrix = _after(_matrix(thing), outer)
        runs = [[tuple(self._to(matrix, p) for p in cubic) for cubic in run]
                for run in _runs(thing)]  # fmt: skip
        if not stroke.value:
            places = [p for run in runs for cubic in run for p in cubic]
            if fill.value and places:
                xs, ys = [x for x, _ in places], [y for _, y in places]
                box = min(xs), min(ys), max(xs), max(ys)
                if max(box[2] - box[0], box[3] - box[1]) < _LARGEST_FILLED_MM:
                    self._filled.append(box)
            return
        look = _look(thing, matrix)
        if look is None:
            return
        for run in runs:
            self._strokes += [Stroke(shape, look) for shape in shapes_of(run)]  # type: ignore[arg-type]

    def _take_text(self, thing: Any, outer: _Matrix) -> None:
        length = raw.FPDFTextObj_GetText(thing, self._text, None, 0)
        if not 2 < length <= 2 * _MOST_LETTERS:
            return
        buffer = ctypes.create_string_buffer(length)
        raw.FPDFTextObj_GetText(
            thing, self._text, ctypes.cast(buffer, ctypes.POINTER(ctypes.c_ushort)), length
        )
        words = buffer.raw.decode("utf-16-le", "ignore").rstrip("\0").strip()
        corners = raw.FS_QUADPOINTSF()
        if not words or not raw.FPDFPageObj_GetRotatedBounds(thing, corners):
            return
        box = [self._to(outer, (getattr(corners, f"x{k}"), getattr(corners, f"y{k}")))
               for k in (1, 2, 3, 4)]  # fmt: skip
        middle = sum(x for x, _ in box) / 4, sum(y for _, y in box) / 4
        a, b, c, d, _, _ = _after(_matrix(thing), outer)
        size = ctypes.c_float()
        raw.FPDFTextObj_GetFontSize(thing, size)
        tall = size.value * math.hypot(c, d) * _MM
        turn = math.degrees(math.atan2(b, a)) - 90.0 * self._turn
        self._figures.append(Figure(words, middle, tall * _CAP_SHARE, (turn + 180) % 360 - 180))

    def _to(self, matrix: _Matrix, place: Vec2) -> Vec2:
        """Return a place of a file as it lies on the page upright, mm."""
        a, b, c, d, e, f = matrix
        x = (a * place[0] + c * place[1] + e - self._low[0]) * _MM
        y = (b * place[0] + d * place[1] + f - self._low[1]) * _MM
        wide, high = self._size
        turned = (x, y), (y, wide - x), (wide - x, high - y), (high - y, x)
        return turned[self._turn]  # so many quarters to the right


_CAP_SHARE = 0.72
"""Of a type size: how high its capitals and figures are, about."""


def _matrix(thing: Any) -> _Matrix:
    found = raw.FS_MATRIX()
    if not raw.FPDFPageObj_GetMatrix(thing, found):
        return _STRAIGHT_ON
    return found.a, found.b, found.c, found.d, found.e, found.f


def _after(inner: _Matrix, outer: _Matrix) -> _Matrix:
    """Return a matrix that does the inner one first."""
    a, b, c, d, e, f = inner
    g, h, i, j, k, m = outer
    return (a * g + b * i, a * h + b * j, c * g + d * i, c * h + d * j,
            e * g + f * i + k, e * h + f * j + m)  # fmt: skip


def _look(thing: Any, matrix: _Matrix) -> Look | None:
    """Return how a path is drawn, None where nothing of it is seen."""
    a, b, c, d, _, _ = matrix
    scale = math.sqrt(abs(a * d - b * c)) * _MM
    width, count = ctypes.c_float(), raw.FPDFPageObj_GetDashCount(thing)
    raw.FPDFPageObj_GetStrokeWidth(thing, width)
    red, green, blue, alpha = (ctypes.c_uint() for _ in range(4))
    raw.FPDFPageObj_GetStrokeColor(thing, red, green, blue, alpha)
    if alpha.value == 0 or min(red.value, green.value, blue.value) > _PALEST:
        return None
    dashes: tuple[float, ...] = ()
    if 0 < count <= 16:
        array = (ctypes.c_float * count)()
        if raw.FPDFPageObj_GetDashArray(thing, array, count) and any(array):
            dashes = tuple(round(x * scale, 3) for x in array)
    colour = (red.value << 16) + (green.value << 8) + blue.value
    return Look(round(width.value * scale, 3), dashes, colour)


_PALEST = 235
"""White and all but white lines cover something; they are no lines."""


def _runs(thing: Any) -> Iterator[list[Cubic]]:
    """Yield the pieces of a path that hang together, as cubics."""
    run: list[Cubic] = []
    start = here = (0.0, 0.0)
    ways: list[Vec2] = []
    for number in range(raw.FPDFPath_CountSegments(thing)):
        segment = raw.FPDFPath_GetPathSegment(thing, number)
        x, y = ctypes.c_float(), ctypes.c_float()
        raw.FPDFPathSegment_GetPoint(segment, x, y)
        place, kind = (x.value, y.value), raw.FPDFPathSegment_GetType(segment)
        if not all(map(math.isfinite, place)):
            continue
        if kind == raw.FPDF_SEGMENT_MOVETO:
            if run:
                yield run
            run, start, here, ways = [], place, place, []
        elif kind == raw.FPDF_SEGMENT_LINETO:
            run.append(line_as_cubic(here, place))
            here = place
        elif kind == raw.FPDF_SEGMENT_BEZIERTO:
            ways.append(place)
            if len(ways) == 3:
                run.append((here, ways[0], ways[1], ways[2]))
                here, ways = place, []
        if raw.FPDFPathSegment_GetClose(segment) and here != start:
            run.append(line_as_cubic(here, start))
            here = start
    if run:
        yield run
