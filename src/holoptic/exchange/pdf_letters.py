"""Letters of a PDF: those that its lettering lacks are lent by another font, run by run."""

from __future__ import annotations

from functools import cache
from itertools import groupby
from pathlib import Path

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from holoptic.sheet.drawing import Anchor

_FONTS = Path(__file__).parent.parent / "assets" / "fonts"
_OWN, _LENT = "RoutedGothic", "Inter-Letters"
_SHARE = {"start": 0.0, "middle": 0.5, "end": 1.0}


def write(canvas: Canvas, text: str, size: float, at: tuple[float, float], anchor: Anchor) -> None:
    """Write a line of text, `size` points high; `anchor` says which part of it lies at `at`."""
    x, y = at
    x -= _SHARE[anchor] * written_width(text, size)
    for font, run in _runs(text):
        canvas.setFont(font, size)
        canvas.drawString(x, y, run)
        x += pdfmetrics.stringWidth(run, font, size)


def written_width(text: str, size: float) -> float:
    """Return how wide a line of text is, points."""
    return float(sum(pdfmetrics.stringWidth(run, font, size) for font, run in _runs(text)))


def _runs(text: str) -> list[tuple[str, str]]:
    """Return a text in runs, each with the font that has its letters."""
    own, lent = _known()

    def font_of(letter: str) -> str:
        return _LENT if ord(letter) not in own and ord(letter) in lent else _OWN

    return [(font, "".join(run)) for font, run in groupby(text, font_of)]


@cache
def _known() -> tuple[frozenset[int], frozenset[int]]:
    """Return which letters either font has, by their numbers; both are known to the PDF then."""
    found = []
    for name in (_OWN, _LENT):
        font = TTFont(name, str(_FONTS / f"{name}.ttf"))
        pdfmetrics.registerFont(font)
        found.append(frozenset(font.face.charToGlyph))
    return found[0], found[1]
