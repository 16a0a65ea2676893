"""The picture as JSON (format `holoptic-pictorial`)."""

from __future__ import annotations

import json
import math
from typing import Any

from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.part import Part, PartSource, Source, Whole
from holoptic.pictorial import Picture, Stroke
from holoptic.pictorial.cut_regions import CutRegion

FORMAT = "holoptic-pictorial"
VERSION = 1


def pictorial_json(picture: Picture, source: Source) -> str:
    """Return the picture with all its strokes, hidden ones too, as JSON text."""
    content = {
        "format": FORMAT,
        "version": VERSION,
        "units": "mm",
        "kind": picture.view.kind,
        "corner": picture.view.corner.value if picture.view.corner else None,
        "matrix": picture.view.matrix,
        "toward_viewer": picture.view.toward_viewer,
        "extent": [_place(value) for value in picture.extent],
        "strokes": [_stroke(stroke, source) for stroke in picture.strokes],
    }
    if picture.regions:
        content["regions"] = [_region(region) for region in picture.regions]
    if isinstance(source, Whole):
        content["bodies"] = [
            {"body": number, "part": body.source.name, "moved": _point(body.moved)}
            for number, body in enumerate(source.bodies)
        ]
    return json.dumps(content, ensure_ascii=False, indent=1) + "\n"


def _stroke(stroke: Stroke, source: Source) -> dict[str, Any]:
    return {
        "id": stroke.id,
        "role": stroke.role,
        "curve": _curve(stroke.curve),
        "source": _source(stroke, source),
        "body": stroke.origin.body,
        "part": _part_of(stroke, source).name,
        "weight": _weight(stroke),
        "path": [[_place(x), _place(y)] for x, y in stroke.path],
    }


def _region(region: CutRegion) -> dict[str, Any]:
    """Return a cut face as it is seen: its true area, its outline on paper and holes in it."""
    outline, *holes = ([[_place(x), _place(y)] for x, y in ring] for ring in region.rings)
    return {
        "body": region.body,
        "area_mm2": _place(region.area),
        "outline": outline,
        "holes": holes,
        "fill": region.fill,
    }


def _weight(stroke: Stroke) -> str:
    """Return how the thick-and-thin school draws a stroke: both where it changes on the way."""
    if stroke.role != "visible" or not stroke.thick:
        return "thin"
    return "thick" if stroke.thick == (stroke.curve.span,) else "both"


def _source(stroke: Stroke, source: Source) -> dict[str, Any]:
    operation, part = stroke.origin.operation, _part_of(stroke, source)
    name = None
    if isinstance(part, Part):
        name = "crate" if operation is None else part.operations[operation].name
    return {"part": part.name, "operation": name, "edge": stroke.origin.edge}


def _part_of(stroke: Stroke, source: Source) -> PartSource:
    return source.bodies[stroke.origin.body].source if isinstance(source, Whole) else source


def _curve(curve: Curve) -> dict[str, Any]:
    """Return the exact curve in space, mm and degrees."""
    if isinstance(curve, Segment):
        return {"type": "line", "start": _point(curve.start), "end": _point(curve.end)}
    if isinstance(curve, EllipticArc):
        shape: dict[str, Any] = {"type": "circle", "radius": _place(curve.major)}
        if not curve.is_circle:
            shape = {
                "type": "ellipse",
                "major": _place(curve.major),
                "minor": _place(curve.minor),
            }
        return shape | {
            "centre": _point(curve.centre),
            "normal": _point(curve.normal),
            "x_axis": _point(curve.x_axis),
            "start_deg": _place(math.degrees(curve.first)),
            "end_deg": _place(math.degrees(curve.last)),
        }
    return {"type": "curve", "points": [_point(point) for point in curve.points]}


def _point(point: tuple[float, float, float]) -> list[float]:
    return [_place(value) for value in point]


def _place(value: float) -> float:
    return round(value, 9) + 0.0
