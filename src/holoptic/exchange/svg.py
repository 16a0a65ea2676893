"""Drawings as SVG at true scale: one unit is one mm, one group per layer, or per part.

The lines of an arrangement are in groups of its parts, and in those by layer.
"""

from __future__ import annotations

import math
from xml.sax.saxutils import escape, quoteattr

from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.vectors import Vec2
from holoptic.sheet.drawing import CAP_HEIGHT, Drawing, Ink, Region, Words
from holoptic.sheet.hatching import hatch_lines
from holoptic.sheet.layers import LAYERS

_FAMILY = "'Routed Gothic', 'Osifont', sans-serif"


def svg_text(drawing: Drawing) -> str:
    """Return the drawing as an SVG document."""
    width, height = _figure(drawing.width), _figure(drawing.height)
    layers = dict.fromkeys(region.layer for region in drawing.regions)
    layers.update(dict.fromkeys(ink.layer for ink in drawing.inks if not ink.part))
    layers.update(dict.fromkeys(words.layer for words in drawing.words))
    parts = dict.fromkeys(ink.part for ink in drawing.inks if ink.part)
    groups = [_part(drawing, part) for part in parts]
    body = "\n".join([*groups, *(_group(drawing, layer) for layer in layers)])
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}mm" height="{height}mm" '
        f'viewBox="0 0 {width} {height}">\n'
        f"<title>{escape(drawing.title)}</title>\n"
        f'<rect width="{width}" height="{height}" fill="#ffffff"/>\n'
        f"{body}\n</svg>\n"
    )


def _part(drawing: Drawing, part: str) -> str:
    """Return the lines of a part of an arrangement."""
    number, _, name = part.partition(" ")
    own = [ink for ink in drawing.inks if ink.part == part]
    layers = []
    for layer in dict.fromkeys(ink.layer for ink in own):
        lines = "\n".join(_line(ink, drawing.height) for ink in own if ink.layer == layer)
        layers.append(f"<g class={quoteattr(layer)}>\n{lines}\n</g>")
    head = f'<g id="part-{number}">\n<title>{escape(name)}</title>'
    return head + "\n" + "\n".join(layers) + "\n</g>"


def _group(drawing: Drawing, layer: str) -> str:
    lines = [_region(region, drawing.height) for region in drawing.regions if region.layer == layer]
    inks = (ink for ink in drawing.inks if ink.layer == layer and not ink.part)
    lines += [_line(ink, drawing.height) for ink in inks]
    lines += [_text(words, drawing.height) for words in drawing.words if words.layer == layer]
    return f"<g id={quoteattr(layer)}>\n" + "\n".join(lines) + "\n</g>"


def _line(ink: Ink, height: float) -> str:
    if ink.arc is not None:
        shape = f'<path d="{_arc(ink.arc, height)}"'
    else:
        points = " ".join(_place(point, height) for point in ink.path)
        shape = f'<polyline points="{points}"'
    # butt ends keep dashes as long as they are meant to be
    cap = "butt" if ink.pattern else "round"
    dashes = ""
    if ink.pattern:
        dashes = f' stroke-dasharray="{" ".join(map(_figure, ink.pattern))}"'
        dashes += f' stroke-dashoffset="{_figure(ink.phase)}"' if ink.phase else ""
    colour = LAYERS[ink.layer].colour
    return (
        f'{shape} fill="none" stroke="{colour}" stroke-width="{_figure(ink.width)}" '
        f'stroke-linecap="{cap}" stroke-linejoin="round"{dashes}/>'
    )


def _region(region: Region, height: float) -> str:
    if region.hatch is not None:
        return "\n".join(_line(ink, height) for ink in hatch_lines(region))
    outlines = " ".join(
        f"M {' L '.join(_place(point, height) for point in outline)} Z"
        for outline in region.outlines
    )
    level = round(255 * region.grey)
    return f'<path d="{outlines}" fill="#{level:02x}{level:02x}{level:02x}" fill-rule="evenodd"/>'


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
    place = f'x="{_figure(x)}" y="{_figure(height - y)}"'
    if not words.is_plain:
        # the page's Y axis points down in SVG, and so does that of the letters
        (a, b), (c, d) = words.axes
        turned = (a, -b, -c, d, x, height - y)
        place = f'transform="matrix({" ".join(map(_figure, turned))})"'
    return (
        f'<text {place} font-family="{_FAMILY}" '
        f'font-size="{_figure(words.height / CAP_HEIGHT)}" text-anchor="{words.anchor}">'
        f"{escape(words.text)}</text>"
    )


def _figure(value: float) -> str:
    """Return a number to a tenth of a micrometre, without trailing zeros."""
    text = f"{value:.4f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text
