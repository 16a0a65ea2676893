"""A page of an SVG file: its lines, words and small filled shapes (SVG 1.1).

Nothing in the file is run, and nothing outside it is loaded.
"""

from __future__ import annotations

import io
import math
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import svgelements as svg

from holoptic.bounded import read_bounded
from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.errors import BadInput
from holoptic.foreign import LARGEST_SVG
from holoptic.paper.figures import Figure
from holoptic.paper.vector.beziers import Cubic, line_as_cubic, shapes_of
from holoptic.paper.vector.page import Look, Page, Stroke
from holoptic.quoting import name_of
from holoptic.reading.lines import Box

_PER_INCH = 96.0
_MM = 25.4 / _PER_INCH
_MOST_THINGS = 30_000
_LARGEST_FILLED_MM = 6.0
_CAP_SHARE = 0.72
_PALEST = 235
_USE = "{http://www.w3.org/2000/svg}use"
_HREF = "href", "{http://www.w3.org/1999/xlink}href"


def read_svg(path: Path) -> Page:
    """Return what an SVG file shows, as a page. Raises BadInput."""
    data = read_bounded(path, LARGEST_SVG)
    _require_bounded(data, path)
    try:
        found = svg.SVG.parse(io.BytesIO(data), reify=True, ppi=_PER_INCH)
        return _page(found)
    except BadInput:
        raise
    except Exception as error:  # a damaged file breaks deep inside the library in its own ways
        raise BadInput(tr("{name} is no sound SVG file ({why})", name=name_of(path),
                          why=type(error).__name__)) from error  # fmt: skip


def _require_bounded(data: bytes, path: Path) -> None:
    """Raise BadInput for a file that is no SVG, or grows beyond bounds where it uses itself."""
    if b"<!ENTITY" in data:
        raise BadInput(tr("{name} defines words of its own: save it as plain SVG",
                          name=name_of(path)))  # fmt: skip
    try:
        root = ElementTree.fromstring(data)
    except (ElementTree.ParseError, ValueError, LookupError) as error:
        raise BadInput(tr("{name} is no sound SVG file, or only a part of one",
                          name=name_of(path))) from error  # fmt: skip
    if root.tag.rpartition("}")[2] != "svg":
        raise BadInput(tr("{name} is not an SVG file", name=name_of(path)))
    named = {item.get("id"): item for item in root.iter() if item.get("id")}
    known: dict[int, int] = {}
    if _weight(root, named, known, frozenset()) > _MOST_THINGS:
        raise BadInput(tr("{name} holds more than {most} lines", name=name_of(path),
                          most=_MOST_THINGS))  # fmt: skip


def _weight(item: Any, named: dict[Any, Any], known: dict[int, int], within: frozenset[int]) -> int:
    """Return how many things an element stands for, with what it uses."""
    key = id(item)
    if key in within or len(within) > 60:
        return _MOST_THINGS + 1  # it uses itself, or is nested beyond sense
    if key not in known:
        inside = within | {key}
        total = 1 + sum(_weight(child, named, known, inside) for child in item)
        total += len(item.get("d", "")) // 400
        if item.tag in (_USE, "use"):
            used = next((item.get(name) for name in _HREF if item.get(name)), "")
            target = named.get((used or "").lstrip("#"))
            if target is not None:
                total += _weight(target, named, known, inside)
        known[key] = min(total, _MOST_THINGS + 1)
    return known[key]


def _page(found: svg.SVG) -> Page:
    strokes: list[Stroke] = []
    figures: list[Figure] = []
    filled: list[Box] = []
    pictured = 0.0
    wide, high = float(found.width or 0) * _MM, float(found.height or 0) * _MM
    for item in found.elements():
        if _is_unseen(item):
            continue
        if isinstance(item, svg.Image):
            pictured += abs(float(item.width or 0) * float(item.height or 0)) * _MM * _MM
        elif isinstance(item, svg.Text):
            figures += _figure(item, high)
        elif isinstance(item, svg.Shape):
            _take_shape(item, high, strokes, filled)
    area = max(wide * high, 1.0)
    return Page((wide, high), tuple(strokes), tuple(figures), tuple(filled),
                min(1.0, pictured / area))  # fmt: skip


def _is_unseen(item: Any) -> bool:
    values = getattr(item, "values", None) or {}
    return values.get("display") == "none" or values.get("visibility") in ("hidden", "collapse")


def _take_shape(item: svg.Shape, high: float, strokes: list[Stroke], filled: list[Box]) -> None:
    path = svg.Path(item)
    runs = [[_placed(cubic, high) for cubic in run] for run in _runs(path)]
    look = _look(item)
    if look is not None:
        for run in runs:
            strokes += [Stroke(shape, look) for shape in shapes_of(run)]
    elif item.fill is not None and item.fill.value is not None:
        places = [place for run in runs for cubic in run for place in cubic]
        if places:
            xs, ys = [x for x, _ in places], [y for _, y in places]
            box = min(xs), min(ys), max(xs), max(ys)
            if max(box[2] - box[0], box[3] - box[1]) < _LARGEST_FILLED_MM:
                filled.append(box)


def _placed(cubic: Cubic, high: float) -> Cubic:
    """Return a cubic in mm, Y up."""
    a, b, c, d = ((x * _MM, high - y * _MM) for x, y in cubic)
    return a, b, c, d


def _look(item: svg.Shape) -> Look | None:
    """Return how a shape is drawn, None where it has no line that is seen."""
    colour = item.stroke
    if colour is None or colour.value is None or colour.opacity == 0:
        return None
    red, green, blue = int(colour.red), int(colour.green), int(colour.blue)
    # of a mirrored circle the library leaves the width as it was
    width = float(item.implicit_stroke_width or 0.0) * _MM
    if width <= 0 or min(red, green, blue) > _PALEST:
        return None
    scale = math.sqrt(abs(item.transform.determinant)) if item.transform is not None else 1.0
    raw_width = float(svg.Length(item.values.get("stroke-width", 1) or 1).value(ppi=_PER_INCH) or 1)
    grown = width / _MM / raw_width if raw_width else scale
    words = str(item.values.get("stroke-dasharray") or "none").replace(",", " ").split()
    return Look(round(width, 3), _dashes(words, grown * _MM), (red << 16) + (green << 8) + blue)


def _dashes(words: list[str], scale: float) -> tuple[float, ...]:
    found = []
    for word in words[:16]:
        try:
            found.append(round(float(svg.Length(word).value(ppi=_PER_INCH)) * scale, 3))
        except (TypeError, ValueError):
            return ()
    if len(found) % 2:
        found += found
    return tuple(found) if any(found) else ()


def _figure(item: svg.Text, high: float) -> Iterator[Figure]:
    words = str(item.text or "").strip()
    if not words:
        return
    a, b, c, d, e, f = (float(getattr(item.transform, name)) for name in "abcdef")
    tall = float(item.font_size or 16.0) * _CAP_SHARE
    x, y = float(item.x or 0), float(item.y or 0)
    # about 0.62 of the height for each sign: enough to tell what the words stand beside
    long = 0.62 * tall * len(words)
    shift = {"middle": 0.0, "end": -long / 2}.get(str(item.anchor), long / 2)
    x, y = x + shift, y - tall / 2
    at: Vec2 = (a * x + c * y + e) * _MM, high - (b * x + d * y + f) * _MM
    yield Figure(words, at, tall * math.hypot(c, d) * _MM, -math.degrees(math.atan2(b, a)))


def _runs(path: svg.Path) -> Iterator[list[Cubic]]:
    """Yield the pieces of a path that hang together, as cubics."""
    run: list[Cubic] = []
    for segment in path.segments():
        if isinstance(segment, svg.Move):
            if run:
                yield run
            run = []
            continue
        run += _cubics(segment)
    if run:
        yield run


def _cubics(segment: Any) -> Iterator[Cubic]:
    if segment.start is None or segment.end is None:
        return
    if isinstance(segment, svg.Arc):
        for piece in segment.as_cubic_curves():
            yield from _cubics(piece)
    elif isinstance(segment, svg.CubicBezier):
        yield (_xy(segment.start), _xy(segment.control1), _xy(segment.control2), _xy(segment.end))
    elif isinstance(segment, svg.QuadraticBezier):
        a, b, c = _xy(segment.start), _xy(segment.control), _xy(segment.end)
        yield (a, ((a[0] + 2 * b[0]) / 3, (a[1] + 2 * b[1]) / 3),
               ((c[0] + 2 * b[0]) / 3, (c[1] + 2 * b[1]) / 3), c)  # fmt: skip
    elif _xy(segment.start) != _xy(segment.end):
        yield line_as_cubic(_xy(segment.start), _xy(segment.end))


def _xy(point: Any) -> Vec2:
    return float(point.x), float(point.y)
