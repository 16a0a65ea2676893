"""Drawings as DXF (R2010, mm): lines, arcs, circles and ellipses as what they are.

Each layer of the drawing is a layer of the file, with its own linetype and colour number. The lines
of an arrangement lie on layers of its parts: `7 lens ring`, `7 lens ring hidden` and so on. Lengths
are dimensions of the file, each with its own block of lines, heads and lettering.
"""

from __future__ import annotations

import io
import math
import re

from ezdxf.colors import RGB, rgb2int
from ezdxf.document import Drawing as Document
from ezdxf.enums import TextEntityAlignment
from ezdxf.filemanagement import new
from ezdxf.layouts.base import BaseLayout
from ezdxf.layouts.layout import Modelspace
from ezdxf.units import MM

from holoptic.curves.paper_arc import PaperArc
from holoptic.sheet.drawing import Drawing, Ink, Measure, Region, Words
from holoptic.sheet.layers import CHAIN, DASHED, LAYERS, LayerLook

_VERSION = "R2010"
_LINETYPES = {DASHED: "HOLOPTIC_DASHED", CHAIN: "HOLOPTIC_CHAIN"}
"""The usual ones by their dashes; those of other layers are called after their layer."""
_ALIGNMENTS = {
    "start": TextEntityAlignment.LEFT,
    "middle": TextEntityAlignment.CENTER,
    "end": TextEntityAlignment.RIGHT,
}
_CONTINUOUS = "CONTINUOUS"
_STYLE = "LETTERING"


def dxf_bytes(drawing: Drawing) -> bytes:
    """Return the drawing as a DXF document; one unit is one mm on the page."""
    document = _document()
    space = document.modelspace()
    for part, layer in dict.fromkeys((ink.part, ink.layer) for ink in drawing.inks if ink.part):
        _add_layer(document, LAYERS[layer], _layer_of_part(part, layer))
    for measure in drawing.measures:
        _add_measure(document, measure)
    in_blocks = {id(one) for m in drawing.measures for one in (*m.inks, *m.regions, m.words)}
    for region in drawing.regions:
        if id(region) not in in_blocks:
            _add_region(space, region)
    for ink in drawing.inks:
        if id(ink) not in in_blocks:
            _add_ink(space, ink)
    for words in drawing.words:
        if id(words) not in in_blocks:
            _add_words(space, words)
    text = io.StringIO()
    document.write(text)
    return text.getvalue().encode("utf-8")


def _document() -> Document:
    document = new(_VERSION, units=MM)
    document.header["$MEASUREMENT"] = 1
    document.header["$LWDISPLAY"] = 1
    for look in LAYERS.values():
        _add_layer(document, look, look.name)
    # no font file is named that a reader might not have: the style falls back to its own
    document.styles.add(_STYLE, font="RoutedGothic.ttf")
    return document


def _add_layer(document: Document, look: LayerLook, name: str) -> None:
    """Add a layer that looks like one of the table."""
    dashes = look.dashes
    linetype = _LINETYPES.get(dashes, f"HOLOPTIC_{look.name.upper()}") if dashes else _CONTINUOUS
    if dashes and linetype not in document.linetypes:
        strokes = [dash if k % 2 == 0 else -dash for k, dash in enumerate(dashes)]
        document.linetypes.add(linetype, [sum(dashes), *strokes], description=look.meaning)
    layer = document.layers.add(name, color=look.number, linetype=linetype)
    layer.description = look.meaning


def _add_measure(document: Document, measure: Measure) -> None:
    """Add a length as a dimension of the file, drawn as it is on the page."""
    block = document.blocks.new_anonymous_block(type_char="D")
    for ink in measure.inks:
        _add_ink(block, ink)
    for region in measure.regions:
        level = round(255 * region.grey)
        points = region.outlines[0][:3]
        block.add_solid(points, dxfattribs={"layer": region.layer, "true_color": rgb2int(
            (level, level, level))})  # fmt: skip
    _add_words(block, measure.words)
    (a, b), (c, d) = measure.starts, measure.ends
    along = math.degrees(math.atan2(d[1] - c[1], d[0] - c[0]))
    document.modelspace().new_entity("DIMENSION", {
        "layer": measure.words.layer, "geometry": block.name, "dimtype": _ROTATED,
        "dimstyle": "Standard", "defpoint": (*d, 0.0), "defpoint2": (*a, 0.0),
        "defpoint3": (*b, 0.0), "text_midpoint": (*measure.words.at, 0.0), "angle": along,
        "oblique_angle": measure.lean_deg, "text": measure.words.text,
        "actual_measurement": measure.value,
    })  # fmt: skip


_ROTATED = 32 + 128
"""A length along a direction, with a block of its own, and words that were placed."""

_NOT_IN_LAYERS = re.compile(r"""[<>/\\":;?*|=`,\x00-\x1f]""")


def _layer_of_part(part: str, layer: str) -> str:
    """Return the layer of a part's lines, without what a layer's name may not have."""
    name = _NOT_IN_LAYERS.sub(" ", part)
    return name if layer == "visible" else f"{name} {layer}"


def _add_region(space: Modelspace, region: Region) -> None:
    """Add a region as a hatch of the file: filled, or with lines of its own pattern."""
    hatch = space.add_hatch(dxfattribs={"layer": region.layer, "hatch_style": 0})
    for outline in region.outlines:
        hatch.paths.add_polyline_path(outline, is_closed=True)
    own = region.hatch
    if own is None:
        level = round(255 * region.grey)
        hatch.set_solid_fill(
            color=LAYERS[region.layer].number, style=0, rgb=RGB(level, level, level)
        )
        return
    turn = math.radians(own.angle_deg)
    cos, sin = math.cos(turn), math.sin(turn)
    base = -own.offset * sin, own.offset * cos
    step = -own.pitch * sin, own.pitch * cos
    lines = [[own.angle_deg, base, step, []]]
    hatch.set_pattern_fill("HOLOPTIC", color=256, scale=1.0, style=0, definition=lines)


def _add_ink(space: BaseLayout, ink: Ink) -> None:
    name = _layer_of_part(ink.part, ink.layer) if ink.part else ink.layer
    looks: dict[str, object] = {"layer": name, "lineweight": round(ink.width * 100)}
    if not ink.pattern and LAYERS[ink.layer].dashes:
        looks["linetype"] = _CONTINUOUS  # a short cross, or hidden lines of the thin school
    if ink.arc is not None:
        _add_arc(space, ink.arc, looks)
    elif len(ink.path) == 2:
        space.add_line(*ink.path, dxfattribs=looks)
    else:
        is_closed = ink.path[0] == ink.path[-1]
        points = ink.path[:-1] if is_closed else ink.path
        space.add_lwpolyline(points, close=is_closed, dxfattribs=looks)


def _add_arc(space: BaseLayout, arc: PaperArc, looks: dict[str, object]) -> None:
    turned = arc.on_axes()
    radius = arc.radius
    if radius is None:
        ratio = math.hypot(*turned.b) / math.hypot(*turned.a)
        first, last = (0.0, math.tau) if arc.is_closed else (turned.first, turned.last)
        space.add_ellipse(turned.centre, turned.a, ratio, first, last, dxfattribs=looks)
    elif arc.is_closed:
        space.add_circle(arc.centre, radius, dxfattribs=looks)
    else:
        lean = math.atan2(turned.a[1], turned.a[0])
        ends = (math.degrees(turned.first + lean) % 360, math.degrees(turned.last + lean) % 360)
        space.add_arc(arc.centre, radius, *ends, dxfattribs=looks)


def _add_words(space: BaseLayout, words: Words) -> None:
    text = space.add_text(
        words.text, height=words.height, rotation=words.along_deg,
        dxfattribs={"layer": words.layer, "style": _STYLE, "oblique": words.lean_deg,
                    "width": words.stretch},
    )  # fmt: skip
    text.set_placement(words.at, align=_ALIGNMENTS[words.anchor])
