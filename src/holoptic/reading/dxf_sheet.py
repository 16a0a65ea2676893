"""Drawings from DXF: the lines in model space, each told visible, hidden or centre.

Nothing in the file is run. Whatever ezdxf cannot make sense of becomes one clear line.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import Any

from ezdxf import recover
from ezdxf.document import Drawing as Document
from ezdxf.enums import InsertUnits
from ezdxf.lldxf.const import DXFError
from ezdxf.units import MM, conversion_factor

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.foreign import require_dxf
from holoptic.reading.chords import runs_on, with_curves
from holoptic.reading.hatching import (
    CUTTING_LAYERS,
    CUTTING_TYPES,
    hatched_box,
    without_hatch,
)
from holoptic.reading.lines import Bow, Box, DrawnLine, Free, Shape, Status, Straight
from holoptic.reading.sketch import GivenSize, LineGroup, Sketch
from holoptic.tolerance import (
    COINCIDENT_MM,
    DRAWN_MM,
    FILE_CHORD_MM,
    GIVEN_MM,
    ROUNDING,
    SHARE,
    SLIGHT,
)

Key = tuple[str, str, int]
"""Layer, linetype, colour number."""
_MOST_ENTITIES = 20_000
_DEEPEST_BLOCK = 8
_FAR = 1e7
_FEWEST_CHORDS = 3
_LONGEST_BIT_MM = 1.0
_WORDS: dict[Status, tuple[str, ...]] = {
    "hidden": ("hidden", "hid", "dashed", "verdeckt", "cache", "oculta"),
    "centre": ("cent", "chain", "axis", "dashdot", "mitte", "symm"),
    "visible": ("visible", "outline", "contin", "solid", "contour", "edge"),
}
_NOT_PART = ("border", "title", "symbol", "frame", "check", "construction", "dim", "text", "hatch")


def read_dxf(path: Path, taken: dict[Key, Status] | None = None) -> Sketch:
    """Return the lines of a DXF file. `taken` tells groups of lines apart where the file does not.

    Raises BadInput with one clear line for whatever is wrong with the file.
    """
    document = _document(path)
    factor, is_given = _unit(document)
    shapes: list[tuple[Key, Shape]] = []
    told: dict[Key, tuple[Status, bool] | None] = {}
    sizes: list[GivenSize] = []
    hatched: list[Box] = []
    cutting: list[Straight] = []
    try:
        for entity, layer in _entities(document.modelspace(), "0", 0, [0]):
            if entity.dxftype() == "DIMENSION":
                sizes += _size(entity, factor)
                continue
            if entity.dxftype() == "HATCH":
                hatched += [box for box in (hatched_box(entity, factor),) if box is not None]
                continue
            if _is_cutting(entity, layer, document):
                cutting += [x for x in _shapes(entity, factor) if isinstance(x, Straight)]
                continue
            if _is_no_part(layer):
                continue
            key = _key(entity, layer, document)
            if key not in told:
                told[key] = _status(key, document)
            shapes += [(key, shape) for shape in _shapes(entity, factor)]
    except BadInput:
        raise
    except Exception as error:
        # a damaged file breaks deep inside the library in ways of its own
        raise BadInput(
            tr("{name} is no sound DXF file ({name2})", name=path.name, name2=type(error).__name__)
        ) from error
    if not shapes:
        raise BadInput(tr("{name} holds no lines in model space", name=path.name))
    counts = Counter(key for key, _ in shapes)
    found = _by_colour(told, counts)
    groups = tuple(
        LineGroup(*key, count, (taken or {}).get(key, found[key][0]), found[key][1])
        for key, count in sorted(counts.items())
    )
    statuses = {group.key: group.status for group in groups}
    lines = [DrawnLine(shape, statuses[key]) for key, shape in shapes]
    edges, further = without_hatch(_with_bits(lines))
    return Sketch(path.stem, tuple(edges), groups, tuple(sizes), is_given,
                  (*hatched, *further), tuple(cutting))  # fmt: skip


def _document(path: Path) -> Document:
    try:
        require_dxf(path)
        document, _ = recover.readfile(str(path))
    except OSError as error:
        raise BadInput(
            tr(
                "{name} cannot be read: {strerror}",
                name=path.name,
                strerror=error.strerror or error,
            )
        ) from error
    except BadInput:
        raise
    except DXFError as error:
        # some of the library's words are about its own inside
        why = str(error) if "<class" not in str(error) else type(error).__name__
        raise BadInput(tr("{name} is no DXF file: {error}", name=path.name, error=why)) from error
    except Exception as error:
        raise BadInput(
            tr("{name} is no sound DXF file ({name2})", name=path.name, name2=type(error).__name__)
        ) from error
    return document


def _unit(document: Document) -> tuple[float, bool]:
    """Return mm per unit of the file, and whether the file says."""
    code = document.header.get("$INSUNITS", 0)
    if code:
        try:
            return float(conversion_factor(InsertUnits(code), InsertUnits(MM))), True
        except (ValueError, DXFError, KeyError, TypeError, IndexError):
            pass
    inches = document.header.get("$MEASUREMENT", 1) == 0
    return (25.4, False) if inches and code == 1 else (1.0, False)


def _entities(
    space: Iterable[Any], layer: str, depth: int, seen: list[int]
) -> Iterator[tuple[Any, str]]:
    """Yield entities with their layers, blocks taken apart; what lies on layer 0 of a block lies
    on the layer of its insertion.
    """
    for entity in space:
        seen[0] += 1
        if seen[0] > _MOST_ENTITIES:
            raise BadInput(
                tr("the file holds more than {most_entities} lines", most_entities=_MOST_ENTITIES)
            )
        own = str(entity.dxf.get("layer", "0"))
        own = layer if own == "0" and depth else own
        if entity.dxftype() == "INSERT":
            if depth < _DEEPEST_BLOCK:
                yield from _entities(entity.virtual_entities(), own, depth + 1, seen)
        elif entity.dxftype() in ("LWPOLYLINE", "POLYLINE"):
            parts = list(entity.virtual_entities())
            if all(part.dxftype() == "LINE" for part in parts) and len(parts) >= _FEWEST_CHORDS:
                yield _Chain(entity, parts), own  # perhaps a curve drawn by chords
            else:
                for part in parts:
                    yield part, own
        else:
            yield entity, own


class _Chain:
    """A polyline of straight parts, asked like an entity of the file."""

    def __init__(self, entity: Any, parts: list[Any]) -> None:
        self.dxf, self.parts = entity.dxf, parts

    def dxftype(self) -> str:
        """Return the sort of entity that it is."""
        return "CHAIN"


def _chain(chain: _Chain, factor: float) -> Iterator[Shape]:
    """Yield what a polyline is: a curve where short chords follow it, else straight lines."""
    lines = [shape for part in chain.parts for shape in _shapes(part, factor)]
    yield from with_curves([line for line in lines if isinstance(line, Straight)])


def _with_bits(lines: list[DrawnLine]) -> list[DrawnLine]:
    """Take short chords that run on from a curve for the bits of it that they are."""
    found = list(lines)
    changed = True
    while changed:
        changed = False
        curves = [line.shape for line in found if isinstance(line.shape, Free)]
        ends = [pair for x in curves for pair in ((x.points[0], x.points[1]),
                                                  (x.points[-1], x.points[-2]))]  # fmt: skip
        for number, line in enumerate(found):
            if isinstance(line.shape, Straight) and _is_bit(line.shape, ends):
                found[number] = DrawnLine(Free((line.shape.start, line.shape.end)), line.status)
                changed = True
    return found


def _is_bit(line: Straight, ends: list[tuple[tuple[float, float], tuple[float, float]]]) -> bool:
    run, rise = line.end[0] - line.start[0], line.end[1] - line.start[1]
    if math.hypot(run, rise) > _LONGEST_BIT_MM or min(abs(run), abs(rise)) < GIVEN_MM:
        return False
    for end, before in ends:
        for here, there in ((line.start, line.end), (line.end, line.start)):
            if math.dist(here, end) < DRAWN_MM and runs_on(Straight(before, here),
                                                        Straight(here, there)):  # fmt: skip
                return True
    return False


def _is_cutting(entity: Any, layer: str, document: Document) -> bool:
    """Say whether an entity says where a section is cut: by its layer, or by its linetype."""
    if any(layer.lower().startswith(word) for word in CUTTING_LAYERS):
        return True
    linetype = _key(entity, layer, document)[1].lower()
    return any(word in linetype for word in CUTTING_TYPES)


def _is_no_part(layer: str) -> bool:
    return any(layer.lower().startswith(word) for word in _NOT_PART)


def _key(entity: Any, layer: str, document: Document) -> Key:
    linetype = str(entity.dxf.get("linetype", "BYLAYER"))
    colour = int(entity.dxf.get("color", 256))
    if layer in document.layers:
        own = document.layers.get(layer)
        if linetype.upper() == "BYLAYER":
            linetype = str(own.dxf.get("linetype", "CONTINUOUS"))
        if colour == 256:
            colour = abs(int(own.dxf.get("color", 7)))
    return layer, linetype, colour


def _by_colour(
    told: dict[Key, tuple[Status, bool] | None], counts: Counter[Key]
) -> dict[Key, tuple[Status, bool]]:
    """Tell lines apart by colour where neither linetype nor layer does.

    The colour of most of such lines is that of visible ones. Any other means what it means on
    lines that are clear; where no such line has it, it is not clear.
    """
    table = {key[2]: known[0] for key, known in told.items() if known is not None and known[1]}
    unknown: Counter[int] = Counter()
    for key, count in counts.items():
        if told[key] is None:
            unknown[key[2]] += count
    usual = max(unknown, key=lambda colour: unknown[colour], default=None)
    found: dict[Key, tuple[Status, bool]] = {}
    for key, known in told.items():
        if known is not None:
            found[key] = known
        elif key[2] == usual:
            found[key] = "visible", True
        else:
            found[key] = table.get(key[2], "hidden"), key[2] in table
    return found


def _status(key: Key, document: Document) -> tuple[Status, bool] | None:
    """Return how lines are to be taken by linetype, then layer, and whether that is clear; None
    where neither tells.
    """
    layer, linetype, _ = key
    names = [linetype.lower()]
    pattern: list[float] = []
    if linetype in document.linetypes:
        kind = document.linetypes.get(linetype)
        names.append(str(kind.dxf.get("description", "")).lower())
        pattern = [abs(tag.value) for tag in kind.pattern_tags.tags if tag.code == 49]
    is_plain = linetype.upper() in ("CONTINUOUS", "BYLAYER", "BYBLOCK")
    if not is_plain:
        for status in ("centre", "hidden"):
            if any(word in name for name in names for word in _WORDS[status]):
                return status, True
    for status, words in _WORDS.items():
        if any(word in layer.lower() for word in words):
            return status, True
    if is_plain:
        return None
    return ("centre" if len(pattern) > 2 else "hidden"), False


def _shapes(entity: Any, factor: float) -> Iterator[Shape]:
    """Yield the shapes of an entity in mm; nothing for what is no line."""
    kind = entity.dxftype()
    if kind == "CHAIN":
        yield from _chain(entity, factor)
    elif kind == "LINE":
        a, b = entity.dxf.start, entity.dxf.end
        start, end = _place(a, factor), _place(b, factor)
        if math.dist(start, end) > ROUNDING:
            yield Straight(start, end)
    elif kind in ("ARC", "CIRCLE"):
        yield from _round(entity, kind, factor)
    elif kind == "ELLIPSE":
        ratio = float(entity.dxf.ratio)
        if abs(ratio - 1) < SHARE:
            yield from _round_ellipse(entity, factor)
        else:
            yield from _free(entity.flattening(FILE_CHORD_MM / factor), factor)
    elif kind == "SPLINE":
        yield from _free(entity.flattening(FILE_CHORD_MM / factor), factor)


def _round(entity: Any, kind: str, factor: float) -> Iterator[Shape]:
    x, y = _place(entity.dxf.center, factor)
    radius = float(entity.dxf.radius) * factor
    if not COINCIDENT_MM < radius < _FAR:
        return
    first, turn = 0.0, math.tau
    if kind == "ARC":
        first, last = (math.radians(float(a)) for a in (entity.dxf.start_angle,
                                                        entity.dxf.end_angle))  # fmt: skip
        turn = (last - first) % math.tau or math.tau
    if float(entity.dxf.extrusion.z) < 0:  # looked at from behind: mirrored
        x, first = -x, math.pi - first - turn
    first %= math.tau
    yield Bow((x, y), radius, first, first + turn)


def _round_ellipse(entity: Any, factor: float) -> Iterator[Shape]:
    axis = entity.dxf.major_axis
    lean = math.atan2(axis.y, axis.x)
    radius = math.hypot(axis.x, axis.y) * factor
    first = float(entity.dxf.start_param)
    turn = (float(entity.dxf.end_param) - first) % math.tau or math.tau
    if COINCIDENT_MM < radius < _FAR:
        begin = (first + lean) % math.tau
        yield Bow(_place(entity.dxf.center, factor), radius, begin, begin + turn)


def _free(points: Iterable[Any], factor: float) -> Iterator[Shape]:
    path: list[tuple[float, float]] = []
    for number, point in enumerate(points):
        if number > 5000:
            raise BadInput(tr("a curve of the file is too long to be followed"))
        place = _place(point, factor)
        if not path or math.dist(path[-1], place) > ROUNDING:
            path.append(place)
    if len(path) == 2 or (len(path) > 2 and _is_straight(path)):
        yield Straight(path[0], path[-1])
    elif len(path) > 2:
        yield Free(tuple(path))


def _is_straight(path: list[tuple[float, float]]) -> bool:
    (a, b), (c, d) = path[0], path[-1]
    size = math.hypot(c - a, d - b)
    return size > COINCIDENT_MM and all(
        abs((c - a) * (y - b) - (d - b) * (x - a)) < SLIGHT * size for x, y in path
    )


def _place(point: Any, factor: float) -> tuple[float, float]:
    x, y = float(point[0]) * factor, float(point[1]) * factor
    if not (abs(x) < _FAR and abs(y) < _FAR):  # written so that NaN is refused too
        raise BadInput(tr("a line of the file lies nowhere"))
    return x, y


def _size(entity: Any, factor: float) -> Iterator[GivenSize]:
    """Yield a dimension along a line, if a figure is written on it."""
    try:
        start, end = entity.dxf.defpoint2, entity.dxf.defpoint3
        drawn = float(entity.get_measurement()) * factor
        words = str(entity.dxf.get("text", "")).replace("<>", "").strip()
        written = float(words.replace(",", ".")) * factor if words else drawn
    except (DXFError, AttributeError, TypeError, ValueError):
        return
    yield GivenSize(_place(start, factor), _place(end, factor), drawn, written)
