"""Sections among the views of a drawing: hatches are no edges, and a line elsewhere says where the
part was cut.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Any

from holoptic.curves.vectors import Vec2
from holoptic.reading.arrangement import Arrangement, ViewOnSheet
from holoptic.reading.lines import Box, DrawnLine, Straight
from holoptic.tolerance import COINCIDENT_MM, DRAWN_MM

CUTTING_LAYERS = ("section", "cutting", "schnitt")
"""What the names of layers with cutting lines begin with."""
CUTTING_TYPES = ("phantom", "cutting", "divide")
_FEWEST_LINES = 4
_LEAST_LEAN_DEG = 12.0
_SAME_DEG, _SAME_PITCH = 0.6, 0.08
_WIDEST_PITCH_MM = 8.0
_AXES = {
    "front": ("length", "height"), "rear": ("length", "height"), "top": ("length", "depth"),
    "bottom": ("length", "depth"), "right": ("depth", "height"), "left": ("depth", "height"),
}  # fmt: skip
_SHOWN_AS = {"length": ("right", "left"), "depth": ("front", "rear"), "height": ("top", "bottom")}


def hatched_box(entity: Any, factor: float) -> Box | None:
    """Return the box of a hatch of a file, mm; None for one that is filled: a head of an arrow."""
    if entity.dxf.get("solid_fill", 0):
        return None
    points: list[Vec2] = []
    for path in entity.paths:
        for vertex in getattr(path, "vertices", ()):
            points.append((float(vertex[0]) * factor, float(vertex[1]) * factor))
        for edge in getattr(path, "edges", ()):
            for name in ("start", "end", "center"):
                place = getattr(edge, name, None)
                if place is not None:
                    points.append((float(place[0]) * factor, float(place[1]) * factor))
    if not points:
        return None
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return min(xs), min(ys), max(xs), max(ys)


def without_hatch(lines: Sequence[DrawnLine]) -> tuple[list[DrawnLine], list[Box]]:
    """Return lines without those that hatch something, drawn line by line: slanting, parallel, and
    evenly apart; and the boxes of what they hatch.
    """
    families: dict[tuple[int, str], list[int]] = defaultdict(list)
    for number, line in enumerate(lines):
        angle = _slant(line)
        if angle is not None and line.status != "centre":
            families[round(angle / _SAME_DEG), line.status].append(number)
    gone: set[int] = set()
    boxes: list[Box] = []
    for numbers in families.values():
        for run in _even_runs(lines, numbers):
            gone |= set(run)
            points = [end for k in run for end in _ends(lines[k])]
            boxes.append((min(x for x, _ in points), min(y for _, y in points),
                          max(x for x, _ in points), max(y for _, y in points)))  # fmt: skip
    return [line for number, line in enumerate(lines) if number not in gone], boxes


def _slant(line: DrawnLine) -> float | None:
    if not isinstance(line.shape, Straight):
        return None
    (x, y), (u, v) = line.shape.start, line.shape.end
    angle = math.degrees(math.atan2(v - y, u - x)) % 180.0
    lean = min(abs(angle - 90 * k) for k in range(3))
    return angle if lean > _LEAST_LEAN_DEG else None


def _ends(line: DrawnLine) -> tuple[Vec2, Vec2]:
    assert isinstance(line.shape, Straight)
    return line.shape.start, line.shape.end


def _even_runs(lines: Sequence[DrawnLine], numbers: Sequence[int]) -> Iterator[list[int]]:
    """Yield lines of one direction that follow each other evenly."""
    angle = _slant(lines[numbers[0]])
    if len(numbers) < _FEWEST_LINES or angle is None:
        return
    turn = math.radians(angle)
    offs = sorted(
        ((lines[k].shape.start[1] * math.cos(turn) - lines[k].shape.start[0] * math.sin(turn)), k)
        for k in numbers
    )
    levels: list[tuple[float, list[int]]] = []
    for off, k in offs:
        if levels and off - levels[-1][0] < DRAWN_MM:
            levels[-1][1].append(k)
        else:
            levels.append((off, [k]))
    run: list[tuple[float, list[int]]] = levels[:1]
    for level in levels[1:]:
        gap = level[0] - run[-1][0]
        before = run[-1][0] - run[-2][0] if len(run) > 1 else gap
        if gap < _WIDEST_PITCH_MM and abs(gap - before) < _SAME_PITCH * before + DRAWN_MM:
            run.append(level)
            continue
        if len(run) >= _FEWEST_LINES:
            yield [k for _, own in run for k in own]
        run = [run[-1], level] if gap < _WIDEST_PITCH_MM else [level]
    if len(run) >= _FEWEST_LINES:
        yield [k for _, own in run for k in own]


def with_sections(
    arrangement: Arrangement, hatched: Sequence[Box], cutting: Sequence[Straight]
) -> Arrangement:
    """Return an arrangement whose hatched views are known as sections, with where each is cut."""
    views = list(arrangement.views)
    for number, view in enumerate(views):
        if not any(_within(box, view.box) for box in hatched):
            continue
        cut = _cut_of(view, views, cutting)
        views[number] = replace(view, cut=cut or "?")
    return replace(arrangement, views=tuple(views))


def _within(inner: Box, outer: Box) -> bool:
    x, y = (inner[0] + inner[2]) / 2, (inner[1] + inner[3]) / 2
    return outer[0] <= x <= outer[2] and outer[1] <= y <= outer[3]


def _cut_of(section: ViewOnSheet, views: Sequence[ViewOnSheet], cutting: Sequence[Straight]) -> str:
    """Return where a section is cut, by a line that runs through another view from side to side."""
    axis = next((a for a, names in _SHOWN_AS.items() if section.name in names), "")
    for view in views:
        across, up = _AXES[view.name]
        if view is section or view.quarters or axis not in (across, up):
            continue
        xmin, ymin, xmax, ymax = view.box
        for line in cutting:
            (x, y), (u, v) = line.start, line.end
            if axis == across and abs(x - u) < COINCIDENT_MM and xmin < x < xmax and \
                    min(y, v) <= ymin and max(y, v) >= ymax:  # fmt: skip
                at = xmax - x if view.name in ("rear", "left") else x - xmin
                return f"full:{axis}={at:.6g}"
            if axis == up and abs(y - v) < COINCIDENT_MM and ymin < y < ymax and \
                    min(x, u) <= xmin and max(x, u) >= xmax:  # fmt: skip
                at = ymax - y if view.name == "bottom" else y - ymin
                return f"full:{axis}={at:.6g}"
    return ""
