"""Drawings as SVG at true scale: one unit is one mm, one group per layer."""

from __future__ import annotations

import math
from xml.sax.saxutils import escape, quoteattr

from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.vectors import Vec2
from holoptic.sheet.drawing import Drawing, Ink, Words

_FAMILY = "'Routed Gothic', 'Osifont', sans-serif"
CAP_HEIGHT = 0.72
"""Height of capitals over the font size, of the lettering that ships with Holoptic."""


def svg_text(drawing: Drawing) -> str:
    """Return the drawing as an SVG document."""
    width, height = _figure(drawing.width), _figure(drawing.height)
    layers = dict.fromkeys([ink.layer for ink in drawing.inks])
    layers.update(dict.fromkeys([words.layer for words in drawing.words]))
    body = "\n".join(_group(drawing, layer) for layer in layers)
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}mm" height="{height}mm" '
        f'viewBox="0 0 {width} {height}">\n'
        f"<title>{escape(drawing.title)}</title>\n"
        f'<rect width="{width}" height="{height}" fill="#ffffff"/>\n'
        f"{body}\n</svg>\n"
    )


def _group(drawing: Drawing, layer: str) -> str:
    lines = [_line(ink, drawing.height) for ink in drawing.inks if ink.layer == layer]
    lines += [_text(words, drawing.height) for words in drawing.words if words.layer == layer]
    return f"<g id={quoteattr(layer)}>\n" + "\n".join(lines) + "\n</g>"


def _line(ink: Ink, height: float) -> str:
    if ink.arc is not None:
        shape = f'<path d="{_arc(ink.arc, height)}"'
    else:
        points = " ".join(_place(point, height) for point in ink.path)
        shape = f'<polyline points="{points}"'
    # butt ends keep dashes as long as they are meant to be
    cap = "butt" if ink.dashes else "round"
    dashes = ""
    if ink.dashes:
        dashes = f' stroke-dasharray="{" ".join(map(_figure, ink.dashes))}"'
        dashes += f' stroke-dashoffset="{_figure(ink.phase)}"' if ink.phase else ""
    return (
        f'{shape} fill="none" stroke="#000000" stroke-width="{_figure(ink.weight)}" '
        f'stroke-linecap="{cap}" stroke-linejoin="round"{dashes}/>'
    )


_LONGEST_ARC = math.radians(100)
"""Half an ellipse between rounded ends would leave its centre, and so its place, in doubt."""


def _arc(arc: PaperArc, height: float) -> str:
    """Return an arc as path data, exactly, in pieces well short of half an ellipse."""
    turned = arc.on_axes()
    radii = f"{_figure(math.hypot(*turned.a))} {_figure(math.hypot(*turned.b))}"
    # the page's Y axis points down in SVG: the lean is mirrored, and left turns become sweep 0
    lean = _figure(-math.degrees(math.atan2(turned.a[1], turned.a[0])))
    count = math.ceil((turned.last - turned.first) / _LONGEST_ARC)
    places = [
        _place(turned.at(turned.first + (turned.last - turned.first) * k / count), height)
        for k in range(count + 1)
    ]
    return f"M {places[0]} " + " ".join(f"A {radii} {lean} 0 0 {end}" for end in places[1:])


def _place(point: Vec2, height: float) -> str:
    return f"{_figure(point[0])},{_figure(height - point[1])}"


def _text(words: Words, height: float) -> str:
    x, y = words.at
    return (
        f'<text x="{_figure(x)}" y="{_figure(height - y)}" font-family="{_FAMILY}" '
        f'font-size="{_figure(words.height / CAP_HEIGHT)}" text-anchor="{words.anchor}">'
        f"{escape(words.text)}</text>"
    )


def _figure(value: float) -> str:
    """Return a number to a tenth of a micrometre, without trailing zeros."""
    text = f"{value:.4f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text
