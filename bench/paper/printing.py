"""Views laid out on a sheet with border, title block and dimensions, as marks of several pens."""

from __future__ import annotations

import math
import random
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from itertools import pairwise

from holoptic.reading.lines import DrawnView, Shape, Straight, moved, scaled

Vec2 = tuple[float, float]
_PAPERS = {"A4": (297.0, 210.0), "A3": (420.0, 297.0)}
_LEFT, _RIM = 20.0, 10.0
_HEAD_MM, _TEXT_MM = 2.6, 2.6


@dataclass(frozen=True)
class Mark:
    """A line on paper: its shape (mm from the lower left corner of the sheet), width, dashes."""

    shape: Shape
    width: float
    dashes: tuple[float, ...] = ()


@dataclass(frozen=True)
class Words:
    """Letters on paper: where their middle lies, how high and which way (degrees)."""

    text: str
    at: Vec2
    height: float
    turn: float = 0.0


@dataclass
class Printed:
    """A sheet: its paper, its scale (paper to part), its marks, words and filled heads."""

    paper: str
    size: Vec2
    angle: str
    scale: float
    sizes: tuple[float, float, float]
    marks: list[Mark] = field(default_factory=list)
    words: list[Words] = field(default_factory=list)
    heads: list[tuple[Vec2, Vec2, Vec2]] = field(default_factory=list)


@dataclass(frozen=True)
class Pens:
    """Widths of visible, hidden and thin lines (mm), and dashes of hidden and centre lines."""

    visible: float
    hidden: float
    thin: float
    dash: tuple[float, float]
    chain: tuple[float, float, float, float]


def pens_of(dice: random.Random) -> Pens:
    """Return the pens of a drafter."""
    visible = dice.choice((0.5, 0.5, 0.6, 0.7))
    return Pens(visible, visible / dice.choice((1.4, 2.0)), visible / 2,
                (dice.uniform(2.4, 3.6), dice.uniform(1.0, 1.5)),
                (dice.uniform(6, 10), 1.0, dice.uniform(0.5, 1.0), 1.0))  # fmt: skip


def print_views(views: Sequence[DrawnView], dice: random.Random) -> Printed | None:
    """Return front, top and right view on a sheet, None where they have no room on A3."""
    by_name = {view.name: view for view in views}
    front, top, right = (by_name[name] for name in ("front", "top", "right"))
    sizes = [view.box for view in (front, top, right)]
    long, high = sizes[0][2] - sizes[0][0], sizes[0][3] - sizes[0][1]
    deep = sizes[1][3] - sizes[1][1]
    gap = dice.uniform(20, 26)
    for name in ("A4", "A3"):
        wide, tall = _PAPERS[name]
        room = wide - _LEFT - _RIM - 34, tall - 2 * _RIM - 62
        for scale in (1.0, 0.5):
            if (long + deep) * scale + gap < room[0] and (high + deep) * scale + gap < room[1]:
                return _laid_out((front, top, right), (long, deep, high), name, scale, gap, dice)
    return None


def _laid_out(
    views: Sequence[DrawnView], sizes: tuple[float, float, float], paper: str, scale: float,
    gap: float, dice: random.Random,
) -> Printed:  # fmt: skip
    angle = dice.choice(("third", "first"))
    long, deep, high = (size * scale for size in sizes)
    sheet = Printed(paper, _PAPERS[paper], angle, scale, sizes)
    pens = pens_of(dice)
    x = _LEFT + 20 + dice.uniform(0, 4) + (0.0 if angle == "third" else deep + gap)
    y = _RIM + 48 + dice.uniform(0, 4) + (0.0 if angle == "third" else deep + gap)
    corners = {
        "front": (x, y),
        "top": (x, y + high + gap) if angle == "third" else (x, y - deep - gap),
        "right": (x + long + gap, y) if angle == "third" else (x - deep - gap, y),
    }
    for view in views:
        low = view.box
        for line in view.lines:
            shape = scaled(moved(line.shape, -low[0], -low[1]), scale)
            sheet.marks.append(_mark(moved(shape, *corners[view.name]), line.status, pens))
    _dimension(sheet, corners, (long, deep, high), pens, dice)
    _frame(sheet, pens)
    return sheet


def _mark(shape: Shape, status: str, pens: Pens) -> Mark:
    if status == "hidden":
        return Mark(shape, pens.hidden, pens.dash)
    if status == "centre":
        return Mark(shape, pens.thin, pens.chain)
    return Mark(shape, pens.visible)


def _dimension(
    sheet: Printed, corners: dict[str, Vec2], sizes: tuple[float, float, float], pens: Pens,
    dice: random.Random,
) -> None:  # fmt: skip
    long, deep, high = sizes
    x, y = corners["front"]
    _size(sheet, (x, y), (x + long, y), -9.0, sheet.sizes[0], pens)
    _size(sheet, (x, y), (x, y + high), -9.0, sheet.sizes[2], pens)
    x, y = corners["top"]
    _size(sheet, (x, y), (x, y + deep), -9.0, sheet.sizes[1], pens)
    if dice.random() < 0.5:  # one more, from a visible level to the outside
        levels = sorted({
            round(mark.shape.start[0], 2) for mark in sheet.marks
            if isinstance(mark.shape, Straight) and not mark.dashes
            and abs(mark.shape.start[0] - mark.shape.end[0]) < 0.01
            and x + 3 < mark.shape.start[0] < x + long - 3
            and y <= mark.shape.start[1] <= y + deep
        })  # fmt: skip
        if levels:
            at = dice.choice(levels)
            _size(sheet, (x, y + deep), (at, y + deep), 9.0, (at - x) / sheet.scale, pens)


def _size(sheet: Printed, a: Vec2, b: Vec2, off: float, size: float, pens: Pens) -> None:
    """Add a dimension `off` mm beside two places: extension lines, heads, and its figure."""
    is_level = abs(b[1] - a[1]) < abs(b[0] - a[0])
    out = (0.0, off) if is_level else (off, 0.0)
    sign = math.copysign(1.0, off)
    for place in (a, b):
        begin = place[0] + out[0] * 0.12, place[1] + out[1] * 0.12
        end = place[0] + out[0] + (0 if is_level else 2 * sign), place[1] + out[1] + (
            2 * sign if is_level else 0)  # fmt: skip
        sheet.marks.append(Mark(Straight(begin, end), pens.thin))
    start, end = (a[0] + out[0], a[1] + out[1]), (b[0] + out[0], b[1] + out[1])
    sheet.marks.append(Mark(Straight(start, end), pens.thin))
    long = math.dist(start, end)
    way = (end[0] - start[0]) / long, (end[1] - start[1]) / long
    for tip, sense in ((start, 1.0), (end, -1.0)):
        base = tip[0] + sense * way[0] * _HEAD_MM, tip[1] + sense * way[1] * _HEAD_MM
        side = -way[1] * 0.45, way[0] * 0.45
        sheet.heads.append((tip, (base[0] + side[0], base[1] + side[1]),
                            (base[0] - side[0], base[1] - side[1])))  # fmt: skip
    middle = (start[0] + end[0]) / 2, (start[1] + end[1]) / 2
    lift = 1.0 + _TEXT_MM / 2
    at = (middle[0], middle[1] + lift) if is_level else (middle[0] - lift, middle[1])
    figure = f"{size:.2f}".rstrip("0").rstrip(".")
    sheet.words.append(Words(figure, at, _TEXT_MM, 0.0 if is_level else 90.0))


def _frame(sheet: Printed, pens: Pens) -> None:
    wide, tall = sheet.size
    box = (_LEFT, _RIM, wide - _RIM, tall - _RIM)
    sheet.marks += [Mark(side, 0.7) for side in _sides(box)]
    title = (wide - _RIM - 120, _RIM, wide - _RIM, _RIM + 30)
    sheet.marks += [Mark(side, pens.visible) for side in _sides(title)]
    for k in (1, 2):
        y = _RIM + 10.0 * k
        sheet.marks.append(Mark(Straight((title[0], y), (title[2], y)), pens.thin))
    sheet.marks.append(Mark(Straight((title[0] + 70, _RIM), (title[0] + 70, _RIM + 30)),
                            pens.thin))  # fmt: skip
    for text, at in (
        ("Skerry Lamp Works", (title[0] + 24, _RIM + 25)), ("bracket", (title[0] + 12, _RIM + 15)),
        (f"1:{1 / sheet.scale:.0f}", (title[0] + 80, _RIM + 15)),
        ("SLW-207", (title[0] + 84, _RIM + 5)),
    ):  # fmt: skip
        sheet.words.append(Words(text, at, 2.5))


def _sides(box: tuple[float, float, float, float]) -> Iterator[Straight]:
    a, b, c, d = (box[0], box[1]), (box[2], box[1]), (box[2], box[3]), (box[0], box[3])
    yield from (Straight(a, b), Straight(b, c), Straight(c, d), Straight(d, a))


def dashed(path: Sequence[Vec2], dashes: Sequence[float]) -> Iterator[list[Vec2]]:
    """Yield the dashes along a path."""
    if not dashes:
        yield list(path)
        return
    index, left, piece = 0, dashes[0], [path[0]]
    for a, b in pairwise(path):
        done, long = 0.0, math.dist(a, b)
        while long - done > left:
            done += left
            place = a[0] + (b[0] - a[0]) * done / long, a[1] + (b[1] - a[1]) * done / long
            if index % 2 == 0:
                yield [*piece, place]
            piece = [place]
            index += 1
            left = dashes[index % len(dashes)]
        left -= long - done
        if index % 2 == 0:
            piece.append(b)
    if index % 2 == 0 and len(piece) > 1:
        yield piece
