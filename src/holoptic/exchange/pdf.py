"""Drawings as PDF at true scale, with the lettering embedded."""

from __future__ import annotations

import io
from collections.abc import Sequence
from functools import cache
from pathlib import Path

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import FILL_EVEN_ODD, Canvas

from holoptic.sheet.drawing import CAP_HEIGHT, Drawing, Ink, Region, Words
from holoptic.sheet.hatching import hatch_lines
from holoptic.sheet.layers import LAYERS

_FONT = "RoutedGothic"
_FONT_FILE = Path(__file__).parent.parent / "assets" / "fonts" / "RoutedGothic.ttf"


def pdf_bytes(drawing: Drawing) -> bytes:
    """Return the drawing as a PDF of one page, exactly as large as its paper."""
    return pdf_pages([drawing])


def pdf_pages(drawings: Sequence[Drawing]) -> bytes:
    """Return drawings as the pages of a PDF; the first one gives the title."""
    _register_font()
    buffer = io.BytesIO()
    # `invariant` leaves out the time of writing: equal drawings make equal files
    canvas = Canvas(buffer, invariant=True)
    canvas.setTitle(drawings[0].title)
    canvas.setCreator("Holoptic")
    for drawing in drawings:
        canvas.setPageSize((drawing.width * mm, drawing.height * mm))
        canvas.setLineCap(1)
        canvas.setLineJoin(1)
        for region in drawing.regions:
            _region(canvas, region)
        for ink in drawing.inks:
            _line(canvas, ink)
        for words in drawing.words:
            _text(canvas, words)
        canvas.showPage()
    canvas.save()
    return buffer.getvalue()


@cache
def _register_font() -> None:
    pdfmetrics.registerFont(TTFont(_FONT, str(_FONT_FILE)))


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
    canvas.setFont(_FONT, words.height / CAP_HEIGHT * mm)
    draw = {
        "start": canvas.drawString,
        "middle": canvas.drawCentredString,
        "end": canvas.drawRightString,
    }[words.anchor]
    if words.is_plain:
        draw(words.at[0] * mm, words.at[1] * mm, words.text)
        return
    canvas.saveState()
    (a, b), (c, d) = words.axes
    canvas.transform(a, b, c, d, words.at[0] * mm, words.at[1] * mm)
    draw(0, 0, words.text)
    canvas.restoreState()
