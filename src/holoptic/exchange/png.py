"""Drawings as PNG: the PDF page, rendered."""

from __future__ import annotations

import io

import pypdfium2

from holoptic.exchange.pdf import pdf_bytes
from holoptic.sheet.drawing import Drawing

DOTS_PER_INCH = 200
_POINTS_PER_INCH = 72


def png_bytes(drawing: Drawing, dpi: int = DOTS_PER_INCH) -> bytes:
    """Return the drawing as a PNG that states its resolution."""
    document = pypdfium2.PdfDocument(pdf_bytes(drawing))
    try:
        page = document[0]
        image = page.render(scale=dpi / _POINTS_PER_INCH).to_pil()
        buffer = io.BytesIO()
        image.save(buffer, "PNG", dpi=(dpi, dpi))
        page.close()
    finally:
        document.close()
    return buffer.getvalue()
