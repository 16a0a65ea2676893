"""Makes the font that lends PDFs the letters that their own font lacks: the desk's, as TrueType.

Run: .venv/bin/python scripts/make_letters.py   (after the desk's font was changed)
"""

from __future__ import annotations

from pathlib import Path

from fontTools.pens.cu2quPen import Cu2QuPen
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.subset import Options, Subsetter
from fontTools.ttLib import TTFont, newTable

_FONTS = Path(__file__).parent.parent / "src" / "holoptic" / "assets" / "fonts"
_SOURCE, _MADE = _FONTS / "Inter-Regular.otf", _FONTS / "Inter-Letters.ttf"
_BLOCKS = ((0x20, 0x250), (0x370, 0x530), (0x1E00, 0x1F00), (0x2000, 0x20D0), (0x2190, 0x2300))
"""Latin, Greek and Cyrillic letters, Latin ones with marks, punctuation, arrows and signs."""
_OTHER_TABLES = ("CFF ", "GSUB", "GPOS", "GDEF", "VORG", "STAT", "DSIG")
_NEAR = 1.0
"""Units of the font by which its curves may be off."""


def main() -> None:
    """Write the font."""
    font = TTFont(_SOURCE)
    known = font.getBestCmap()
    options = Options(layout_features=[], hinting=False, notdef_outline=True)
    subsetter = Subsetter(options)
    subsetter.populate(unicodes=[at for low, high in _BLOCKS for at in range(low, high)
                                 if at in known])  # fmt: skip
    subsetter.subset(font)
    _as_truetype(font)
    font.save(_MADE)
    print(f"{_MADE.name}: {len(font.getGlyphOrder())} letters, {_MADE.stat().st_size} bytes")


def _as_truetype(font: TTFont) -> None:
    """Turn the cubic outlines of a font into quadratic ones."""
    outlines, names = font.getGlyphSet(), font.getGlyphOrder()
    glyphs = {}
    for name in names:
        pen = TTGlyphPen(outlines)
        outlines[name].draw(Cu2QuPen(pen, _NEAR, reverse_direction=True))
        glyphs[name] = pen.glyph()
    font["loca"], table = newTable("loca"), newTable("glyf")
    font["glyf"] = table
    table.glyphOrder, table.glyphs = names, glyphs
    for glyph in glyphs.values():
        glyph.recalcBounds(table)
    for tag in _OTHER_TABLES:
        if tag in font:
            del font[tag]
    limits = font["maxp"]
    limits.tableVersion = 0x00010000
    for name in ("maxTwilightPoints", "maxStorage", "maxFunctionDefs", "maxInstructionDefs",
                 "maxStackElements", "maxSizeOfInstructions", "maxComponentElements", "maxPoints",
                 "maxContours", "maxCompositePoints", "maxCompositeContours",
                 "maxComponentDepth"):  # fmt: skip
        setattr(limits, name, 0)
    limits.maxZones = 1
    font["post"].formatType = 3.0
    font.sfntVersion = "\x00\x01\x00\x00"


if __name__ == "__main__":
    main()
