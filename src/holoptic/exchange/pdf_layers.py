"""Layers of a PDF: optional content that a reader can switch off, after ISO 32000, 8.11.

The PDF writer has no calls of its own for them, so they are put into its catalogue and resources.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from reportlab.pdfbase.pdfdoc import (
    PDFArray,
    PDFDictionary,
    PDFName,
    PDFObjectReference,
    PDFPage,
    PDFResourceDictionary,
    PDFString,
)
from reportlab.pdfgen.canvas import Canvas

from holoptic.sheet.layers import LAYERS


class PdfLayers:
    """The layers of one file; each comes with the first line that stands on it."""

    def __init__(self, canvas: Canvas) -> None:
        self._canvas = canvas
        self._document = canvas._doc
        self._groups: dict[str, PDFObjectReference] = {}
        self._open: str | None = None
        self._add_page = self._document.addPage
        self._document.addPage = self._with_resources

    @contextmanager
    def page(self) -> Iterator[None]:
        """Draw a page; the layer that is open at its end is closed with it."""
        yield
        self._close()
        self._canvas.showPage()

    def on(self, layer: str) -> None:
        """Let what is drawn from now on stand on a layer."""
        if layer == self._open:
            return
        self._close()
        if layer not in self._groups:
            group = PDFDictionary({
                "Type": PDFName("OCG"), "Name": PDFString(LAYERS[layer].meaning),
            })  # fmt: skip
            self._groups[layer] = self._document.Reference(group, f"layer.{layer}")
        self._canvas._code.append(f"/OC /{_resource(layer)} BDC")
        self._open = layer

    def finish(self) -> None:
        """Tell the reader of all layers, before the file is written."""
        groups = list(self._groups.values())
        if not groups:
            return
        shown = PDFDictionary({
            "ON": PDFArray(groups), "Order": PDFArray(groups), "Name": PDFString("Holoptic"),
        })  # fmt: skip
        catalogue = self._document.Catalog
        # the catalogue writes only entries that it knows of, and not this one
        catalogue.__NoDefault__ = [*catalogue.__NoDefault__, "OCProperties"]
        catalogue.OCProperties = PDFDictionary({"OCGs": PDFArray(groups), "D": shown})

    def _close(self) -> None:
        if self._open is not None:
            self._canvas._code.append("EMC")
            self._open = None

    def _with_resources(self, page: PDFPage) -> None:
        """Add a page with the names by which its lines call their layers."""
        resources = PDFResourceDictionary()
        resources.basicFonts()
        resources.basicProcs()
        if page.ExtGState:
            resources.ExtGState = page.ExtGState
        resources.setColorSpace(page._colorsUsed)
        resources.Properties = {_resource(name): group for name, group in self._groups.items()}
        page.Resources = resources
        self._add_page(page)


def _resource(layer: str) -> str:
    return f"Layer{layer.capitalize()}"
