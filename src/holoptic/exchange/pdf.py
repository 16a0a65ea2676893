"""Drawings as PDF at true scale, with the lettering embedded."""

from __future__ import annotations

import io
from collections.abc import Sequence

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import FILL_EVEN_ODD, Canvas

from holoptic.exchange.pdf_layers import PdfLayers
from holoptic.exchange.pdf_letters import write
from holoptic.sheet.drawing import CAP_HEIGHT, Drawing, Ink, Region, Words
from holoptic.sheet.hatching import hatch_lines
from holoptic.sheet.layers import LAYERS


def pdf_bytes(drawing: Drawing) -> bytes:
    """Return the drawing as a PDF of one page, exactly as large as its paper."""
    return pdf_pages([drawing])


def pdf_pages(drawings: Sequence[Drawing]) -> bytes:
    """Return drawings as the pages of a PDF; the first one gives title, author and subject.

    What stands on a layer of the drawing stands on one of the file too. A bookmark leads to each
    page that is called differently from the one before, and to what is marked there.
    """
    buffer = io.BytesIO()
    # `invariant` leaves out the time of writing: equal drawings make equal files
    canvas = Canvas(buffer, invariant=True)
    first = drawings[0]
    canvas.setTitle(first.title)
    canvas.setAuthor(first.author)
    canvas.setSubject(first.subject)
    canvas.setCreator("Holoptic")
    layers, last = PdfLayers(canvas), None
    for number, drawing in enumerate(drawings, 1):
        canvas.setPageSize((drawing.width * mm, drawing.height * mm))
        with layers.page():
            if drawing.title != last:
                _bookmark(canvas, drawing, number)
                last = drawing.title
            _page(canvas, drawing, layers)
    layers.finish()
    canvas.save()
    return buffer.getvalue()


def _page(canvas: Canvas, drawing: Drawing, layers: PdfLayers) -> None:
    canvas.setLineCap(1)
    canvas.setLineJoin(1)
    for region in drawing.regions:
        layers.on(region.layer)
        _region(canvas, region)
    for ink in drawing.inks:
        layers.on(ink.layer)
        _line(canvas, ink)
    for words in drawing.words:
        layers.on(words.layer)
        _text(canvas, words)


def _bookmark(canvas: Canvas, drawing: Drawing, number: int) -> None:
    """Let the outline lead to a page, and to the drawings on it where there are several."""
    key = f"page {number}"
    canvas.bookmarkPage(key)
    canvas.addOutlineEntry(drawing.title, key, level=0)
    for count, mark in enumerate(drawing.marks if len(drawing.marks) > 1 else (), 1):
        left, low, right, high = (edge * mm for edge in mark.box)
        place = f"{key}.{count}"
        canvas.bookmarkPage(place, "FitR", left=left, bottom=low, right=right, top=high)
        canvas.addOutlineEntry(mark.name, place, level=1)


def _line(canvas: Canvas, ink: Ink) -> None:
    canvas.setLineWidth(ink.width * mm)
    canvas.setStrokeGray(LAYERS[ink.layer].grey)
    canvas.setDash([dash * mm for dash in ink.pattern], ink.phase * mm)
    path = canvas.beginPath()
    path.moveTo(ink.path[0][0] * mm, ink.path[0][1] * mm)
    for x, y in ink.path[1:]:
        path.lineTo(x * mm, y * mm)
    canvas.drawPath(path)


def _region(canvas: Canvas, region: Region) -> None:
    if region.hatch is not None:
        for ink in hatch_lines(region):
            _line(canvas, ink)
        return
    path = canvas.beginPath()
    for (x, y), *others in region.outlines:
        path.moveTo(x * mm, y * mm)
        for u, v in others:
            path.lineTo(u * mm, v * mm)
        path.close()
    canvas.setFillGray(region.grey)
    canvas.drawPath(path, stroke=0, fill=1, fillMode=FILL_EVEN_ODD)
    canvas.setFillGray(0.0)


def _text(canvas: Canvas, words: Words) -> None:
    size = words.height / CAP_HEIGHT * mm
    if words.is_plain:
        write(canvas, words.text, size, (words.at[0] * mm, words.at[1] * mm), words.anchor)
        return
    canvas.saveState()
    (a, b), (c, d) = words.axes
    canvas.transform(a, b, c, d, words.at[0] * mm, words.at[1] * mm)
    write(canvas, words.text, size, (0, 0), words.anchor)
    canvas.restoreState()
