"""The underlay: a printed grid to draw over, of isometric lines or dots, oblique, or square."""

from __future__ import annotations

import math
from collections.abc import Iterator

import shapely

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2, apply
from holoptic.errors import BadInput
from holoptic.pictorial import view_of
from holoptic.sheet.drawing import Drawing, Ink, Words, rectangle
from holoptic.sheet.frames import BAR_NOTE, CAUTION, Box, check_bar
from holoptic.sheet.papers import Paper
from holoptic.tolerance import COINCIDENT_MM

DOTS = "isometric-dots"
SQUARE = "square"
OBLIQUE = "oblique"

SMALLEST_PITCH_MM, LARGEST_PITCH_MM = 2.0, 50.0
_MARGIN_MM = 10.0
_FOOT_MM = 16.0
"""Room under the grid for check bar and words."""
_FINE_MM, _STRONG_MM, _DOT_MM = 0.13, 0.25, 0.55
_STRONG_EACH = 5


def underlay(paper: Paper, kind: str, pitch: float) -> Drawing:
    """Return a grid whose cells measure `pitch` mm along the axes, filling the paper.

    `kind` is `isometric-dots`, `square`, `oblique` (45°) or any kind of pictorial. Which way is
    up is marked, and a check bar stands below. Raises BadInput.
    """
    if not SMALLEST_PITCH_MM <= pitch <= LARGEST_PITCH_MM:
        raise BadInput(
            tr(
                "a pitch of {pitch:g} mm cannot be used; choose "
                "{smallest_pitch_mm:g} to {largest_pitch_mm:g}",
                pitch=pitch,
                smallest_pitch_mm=SMALLEST_PITCH_MM,
                largest_pitch_mm=LARGEST_PITCH_MM,
            )
        )
    margin = _MARGIN_MM
    box = margin, margin + _FOOT_MM, paper.width - margin, paper.height - margin
    steps, title = _steps(kind, pitch)
    inks = list(_dots(steps, box)) if kind == DOTS else list(_lines(steps, box))
    inks.append(rectangle(*box, "border", _STRONG_MM))
    inks += check_bar(margin + 2, margin + 2)
    arrow, words = _up_mark(box)
    name = tr(
        "{title}, pitch {pitch:g} mm along the axes, {title2}",
        title=title,
        pitch=pitch,
        title2=paper.title,
    )
    words += [
        Words((margin + 58, margin + 9.5 - 3.6 * row), line, 1.7, layer="check")
        for row, line in enumerate((name, BAR_NOTE, f"{CAUTION[0]} {CAUTION[1]}"))
    ]
    return Drawing(paper.width, paper.height, (*inks, *arrow), tuple(words), name)


def _steps(kind: str, pitch: float) -> tuple[list[Vec2], str]:
    """Return the steps on paper along right, up and the receding axis, and a title."""
    if kind == SQUARE:
        return [(pitch, 0.0), (0.0, pitch)], tr("square grid")
    named = {DOTS: "isometric", OBLIQUE: "cavalier"}.get(kind, kind)
    view = view_of(named)
    length, depth, height = (
        tuple(pitch * value for value in apply(view.matrix, axis))
        for axis in ((1, 0, 0), (0, 1, 0), (0, 0, 1))
    )
    title = {DOTS: tr("isometric dots"), OBLIQUE: tr("oblique grid, 45°")}.get(
        kind, tr("{kind} grid", kind=view.short_title)
    )
    return [(length[0], length[1]), (height[0], height[1]), (depth[0], depth[1])], title


def _lines(steps: list[Vec2], box: Box) -> Iterator[Ink]:
    """Yield lines along each step through the points of the front face's grid."""
    middle = (box[0] + box[2]) / 2, (box[1] + box[3]) / 2
    reach = math.dist(box[:2], box[2:])
    for number, along in enumerate(steps):
        size = math.hypot(*along)
        way = along[0] / size, along[1] / size
        across = steps[1 if number == 0 else 0]
        apart = abs(across[0] * way[1] - across[1] * way[0])
        count = math.ceil(reach / 2 / apart)
        for k in range(-count, count + 1):
            x, y = middle[0] + k * across[0], middle[1] + k * across[1]
            # the foot of the middle keeps the line's reach even where the steps lean
            slide = (middle[0] - x) * way[0] + (middle[1] - y) * way[1]
            x, y = x + slide * way[0], y + slide * way[1]
            line = shapely.LineString([(x - reach * way[0], y - reach * way[1]),
                                       (x + reach * way[0], y + reach * way[1])])  # fmt: skip
            cut = shapely.clip_by_rect(line, *box)
            if not cut.is_empty and cut.length > COINCIDENT_MM:
                ends = tuple((float(px), float(py)) for px, py in cut.coords)
                weight = _STRONG_MM if k % _STRONG_EACH == 0 else _FINE_MM
                yield Ink("construction", ends, weight)


def _dots(steps: list[Vec2], box: Box) -> Iterator[Ink]:
    (ax, ay), (bx, by), *_ = steps
    middle = (box[0] + box[2]) / 2, (box[1] + box[3]) / 2
    reach = math.ceil(math.dist(box[:2], box[2:]) / min(math.hypot(ax, ay), math.hypot(bx, by)))
    for i in range(-reach, reach + 1):
        for j in range(-2 * reach, 2 * reach + 1):
            x, y = middle[0] + i * ax + j * bx, middle[1] + i * ay + j * by
            if box[0] < x < box[2] and box[1] < y < box[3]:
                yield Ink("construction", ((x - 0.005, y), (x + 0.005, y)), _DOT_MM)


def _up_mark(box: Box) -> tuple[list[Ink], list[Words]]:
    """Return an arrow that points up, with its word, at the right below the grid."""
    x, y = box[2] - 8, box[1] - 13
    shaft = Ink("symbol", ((x, y), (x, y + 10)), 0.5)
    head = Ink("symbol", ((x - 2, y + 6.5), (x, y + 10), (x + 2, y + 6.5)), 0.5)
    return [shaft, head], [Words((x - 4, y + 3), tr("this way up"), 2.5, "end", "symbol")]
