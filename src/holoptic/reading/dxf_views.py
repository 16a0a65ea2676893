"""Views as a DXF file, as they lie on their sheet: what `dxf_sheet` reads again."""

from __future__ import annotations

import io
import math

from ezdxf.filemanagement import new
from ezdxf.layouts.layout import Modelspace
from ezdxf.units import MM

from holoptic.reading.arrangement import Arrangement
from holoptic.reading.lines import Bow, DrawnLine, Straight

_LAYERS = {"visible": (7, "CONTINUOUS"), "hidden": (8, "HIDDEN"), "centre": (5, "CENTRE")}
_DASHES = {"HIDDEN": [6.0, 4.0, -2.0], "CENTRE": [18.0, 12.0, -2.0, 2.0, -2.0]}


def views_dxf(arrangement: Arrangement) -> bytes:
    """Return views as a DXF document (R2010, mm), with a layer for each status of line."""
    document = new("R2010", units=MM)
    for name, pattern in _DASHES.items():
        document.linetypes.add(name, pattern)
    for name, (colour, linetype) in _LAYERS.items():
        document.layers.add(name, color=colour, linetype=linetype)
    space = document.modelspace()
    for placed in arrangement.views:
        for line in placed.lines:
            _add(space, line)
    text = io.StringIO()
    document.write(text)
    return text.getvalue().encode("utf-8")


def _add(space: Modelspace, line: DrawnLine) -> None:
    looks, shape = {"layer": line.status}, line.shape
    if isinstance(shape, Straight):
        space.add_line(shape.start, shape.end, dxfattribs=looks)
    elif isinstance(shape, Bow) and shape.is_closed:
        space.add_circle(shape.centre, shape.radius, dxfattribs=looks)
    elif isinstance(shape, Bow):
        ends = math.degrees(shape.first), math.degrees(shape.last)
        space.add_arc(shape.centre, shape.radius, *ends, dxfattribs=looks)
    else:
        space.add_lwpolyline(shape.path(), dxfattribs=looks)
