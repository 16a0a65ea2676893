"""From the picture of a sheet to its views: laid flat, lines found, views boxed, levels shared."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace

from holoptic.catalogue import tr
from holoptic.checking.pictures.border import AROUND_MM
from holoptic.checking.pictures.ink import Grey
from holoptic.curves.vectors import Vec2
from holoptic.errors import BadInput
from holoptic.paper.axis_levels import Levels
from holoptic.paper.figures import Figure, given_sizes, is_beside_one
from holoptic.paper.given import Sizes, TrueLevels
from holoptic.paper.offers import Lie, Written, agreeing
from holoptic.paper.scan.axes import with_axes, without_signs
from holoptic.paper.scan.carriers import carriers_of
from holoptic.paper.scan.frame import find_border, lie_flat, whole_picture
from holoptic.paper.scan.ink import Ink
from holoptic.paper.scan.levels import Rounding, ViewFound, levels_of, outer_box, settled
from holoptic.paper.scan.meeting import met
from holoptic.paper.scan.roles import Found, roles_of
from holoptic.paper.scan.roundings import with_roundings
from holoptic.paper.scan.seeds import seeds_of
from holoptic.paper.scan.spans import dimension_lines
from holoptic.paper.scan.views import held_within, lines_in, proposed_boxes
from holoptic.paper.scan.writing import figures_of
from holoptic.progress import tell
from holoptic.reading.arrangement import Arrangement, ViewOnSheet, Wish, arrange
from holoptic.reading.lines import Bow, Box, DrawnLine, Status, Straight, moved
from holoptic.reading.sketch import GivenSize

_BORDER_MM = 1.0
_TOUCH_MM = 0.02
_SAME_BORDER, _OTHER_BORDER = 0.01, 0.2
"""Borders of another habit differ by so much of their size; a photo on a page differs by more."""
_OTHERWISE: tuple[Lie, ...] = ("mirrored", "upside down", "turned over")
_ENOUGH = 3
"""Where fewer figures agree with what is drawn, the sheet may lie otherwise."""


@dataclass(frozen=True)
class FlatSheet:
    """A sheet that was laid flat: its picture, the size within its border (mm), where the border's
    corners lay in the picture (dots), whether they were found, and the lines on it (mm, Y up);
    the name of its paper; boxes about the views, where they are known by their outlines.
    """

    picture: Grey
    size: Vec2
    corners: tuple[Vec2, ...]
    has_border: bool
    lines: tuple[Found, ...]
    paper: str = ""
    boxes: tuple[Box, ...] = ()


@dataclass(frozen=True)
class Interpreted:
    """The views of a sheet in mm of the part, the levels they share, and the scale at which the
    paper lies under them. `asked` are the levels (axis, where measured) that no figure tells, where
    places come from figures alone.
    """

    arrangement: Arrangement
    boxes: tuple[Box, ...]
    levels: tuple[Levels, ...]
    scale: float
    asked: tuple[tuple[int, float], ...] = ()


def flat_sheet(
    picture: Grey, inner: Vec2, corners: Sequence[Vec2] | None, paper: Vec2,
    is_whole_paper: bool = False,
) -> FlatSheet:  # fmt: skip
    """Return a sheet laid flat with the lines on it. `inner` is the size within its border (mm),
    long side first; `corners` are the border's, if they are known (dots, lower left first). Where
    no border is found, the picture is taken for that of a whole sheet of `paper` (mm). One that
    `is_whole_paper` for certain shows how large its border is, too.
    """
    tell(tr("looking for the border"), 0.1)
    found = tuple(corners) if corners else find_border(picture, inner)
    has_border = found is not None
    if found is None:
        found = whole_picture(picture)
    if has_border and is_whole_paper:
        inner = _border_of(found, inner, max(paper) / max(picture.shape))
    size = held_as(found, inner if has_border else paper)
    tell(tr("making the sheet straight"), 0.3)
    flat = lie_flat(picture, found, size)
    tell(tr("looking for lines"), 0.4)
    ink = ink_of(flat, has_border)
    seeds = seeds_of(ink.without_letters())
    tell(tr("following each line"), 0.7)
    lines, _ = roles_of(*with_roundings(ink, *carriers_of(ink, seeds)))
    on_paper = tuple(upright_line(line, size[1]) for line in lines)
    return FlatSheet(flat, size, found, has_border, on_paper)


def written_on(sheet: FlatSheet) -> Written:
    """Return what figures beside the dimension lines of a flat sheet say."""
    tell(tr("reading the figures"), 0.2)
    high, lines = sheet.size[1], dimension_lines(sheet.lines)
    ink = ink_of(sheet.picture, sheet.has_border)

    def upright(figure: Figure) -> Figure:
        return replace(figure, at=on_sheet(figure.at, high))

    def is_wanted(figure: Figure) -> bool:
        return is_beside_one(upright(figure), lines)

    def read(lies: Lie) -> list[GivenSize]:
        found = figures_of(ink, is_wanted, lies)
        # along a dimension line a diameter is a length
        return given_sizes(
            [replace(upright(one), text=one.text.lstrip("⌀")) for one in found], lines
        )

    sizes = read("")
    counts: dict[Lie, int] = {"": agreeing(sizes)}
    if counts[""] < _ENOUGH:  # read the wrong way round figures say anything
        counts |= {lies: agreeing(read(lies)) for lies in _OTHERWISE}
    lies = max(counts, key=lambda one: counts[one])
    return Written(tuple(sizes), lies if counts[lies] >= _ENOUGH else "")


def ink_of(flat: Grey, has_border: bool) -> Ink:
    """Return the ink within the border of a picture that lies flat."""
    return Ink(flat, AROUND_MM + (_BORDER_MM if has_border else -AROUND_MM))


def _border_of(corners: Sequence[Vec2], usual: Vec2, mm_per_dot: float) -> Vec2:
    """Return the size of a border, mm, long side first: the usual one, unless it is plainly not
    that large in a picture that shows a whole paper.
    """
    wide = (math.dist(corners[0], corners[1]) + math.dist(corners[2], corners[3])) / 2
    high = (math.dist(corners[1], corners[2]) + math.dist(corners[3], corners[0])) / 2
    seen = mm_per_dot * max(wide, high), mm_per_dot * min(wide, high)
    off = max(abs(one / other - 1.0) for one, other in zip(seen, usual, strict=True))
    return seen if _SAME_BORDER < off < _OTHER_BORDER else usual


def held_as(corners: Sequence[Vec2], inner: Vec2) -> Vec2:
    """Return the size of a sheet as it is held: wide or high."""
    wide = math.dist(corners[0], corners[1]) + math.dist(corners[2], corners[3])
    high = math.dist(corners[1], corners[2]) + math.dist(corners[3], corners[0])
    long, short = max(inner), min(inner)
    return (long, short) if wide > high else (short, long)


def upright_line(line: Found, high: float) -> Found:
    """Return a line of the flat picture on its sheet: from the lower left corner, Y up."""
    shape = line.shape
    if isinstance(shape, Straight):
        ends = on_sheet(shape.start, high), on_sheet(shape.end, high)
        return replace(line, shape=Straight(*ends))
    assert isinstance(shape, Bow)
    centre = on_sheet(shape.centre, high)
    if shape.is_closed:
        return replace(line, shape=Bow(centre, shape.radius, 0.0, math.tau))
    first = -shape.last % math.tau
    return replace(line, shape=Bow(centre, shape.radius, first,
                                   first + shape.last - shape.first))  # fmt: skip


def on_sheet(place: Vec2, high: float) -> Vec2:
    """Return a place of the flat picture (mm, Y down) on its sheet of a height (mm, Y up)."""
    return place[0] - AROUND_MM, high - (place[1] - AROUND_MM)


def interpret(
    sheet: FlatSheet, wish: Wish = "auto", sizes: Sizes = (None, None, None),
    boxes: Sequence[Box] = (), true: Sequence[TrueLevels] = ((), (), ()),
    rounding: Rounding = 0.0,
) -> Interpreted:  # fmt: skip
    """Return the views of a flat sheet. `sizes` are length, depth and height where they are known
    (mm), `boxes` those of the views (mm of paper), `true` the levels whose places are known.
    Raises BadInput for fewer than two views.
    """
    given = list(boxes) if boxes else proposed_boxes(sheet.lines, sheet.size)
    lumps = [met(with_axes(without_signs(lines_in(sheet.lines, box)))) for box in given]
    lumps = [lump for lump in lumps if any(line.role == "visible" for line in lump)]
    if len(lumps) < 2:
        raise BadInput(tr("fewer than two views were found in the picture"))
    named, rough = _named(lumps, wish)
    levels = levels_of(named, sizes, true, rounding)
    scale = _scale(levels)
    views = []
    for view in named:
        own = tidied([DrawnLine(line.shape, _status(line)) for line in settled(view, levels)])
        low = view.box[0] * scale, view.box[1] * scale
        views.append(ViewOnSheet(view.name, tuple(
            replace(line, shape=moved(line.shape, *low)) for line in own)))  # fmt: skip
    arrangement = Arrangement(rough.angle, tuple(views), rough.remarks)
    return Interpreted(arrangement, tuple(view.box for view in named), tuple(levels), scale)


def _named(lumps: Sequence[list[Found]], wish: Wish) -> tuple[list[ViewFound], Arrangement]:
    """Return lumps of lines as views by their names, and how they are laid out."""
    outers = [outer_box(lump) for lump in lumps]
    # by their boxes alone: ends that are a little off must not decide
    frames = [DrawnLine(side) for box in outers for side in sides_of(box)]
    rough = arrange(frames, wish)
    named = []
    for view in rough.views:
        k = min(range(len(outers)), key=lambda n: math.dist(outers[n][:2], view.box[:2]))
        named.append(ViewFound(view.name, tuple(held_within(lumps[k], outers[k])), outers[k]))
    return named, rough


def sides_of(box: Box) -> list[Straight]:
    """Return the four sides of a box."""
    a, b, c, d = (box[0], box[1]), (box[2], box[1]), (box[2], box[3]), (box[0], box[3])
    return [Straight(a, b), Straight(b, c), Straight(d, c), Straight(a, d)]


def _scale(levels: Sequence[Levels]) -> float:
    known = sorted(one.scale for one in levels if len(one.measured) > 1)
    return known[len(known) // 2] if known else 1.0


def _status(line: Found) -> Status:
    return line.role if line.role != "thin" else "visible"


# --- tidying --------------------------------------------------------------------------------------


def tidied(lines: Sequence[DrawnLine]) -> list[DrawnLine]:
    """Return lines with those of one status in one line joined, and no hidden line under a visible
    one.
    """
    found = [line for line in lines if not isinstance(line.shape, Straight)]
    spans: dict[tuple[str, int, float], list[tuple[float, float]]] = defaultdict(list)
    for line in lines:
        if isinstance(line.shape, Straight):
            (x, y), (u, v) = line.shape.start, line.shape.end
            if abs(x - u) < _TOUCH_MM:
                spans[line.status, 0, round(x, 3)].append((min(y, v), max(y, v)))
            elif abs(y - v) < _TOUCH_MM:
                spans[line.status, 1, round(y, 3)].append((min(x, u), max(x, u)))
            else:
                found.append(line)
    whole = {key: _joined(own) for key, own in spans.items()}
    for (status, axis, at), own in whole.items():
        left = own
        if status == "hidden":
            left = _without(own, whole.get(("visible", axis, at), []))
        for low, high in left:
            ends = ((at, low), (at, high)) if axis == 0 else ((low, at), (high, at))
            found.append(DrawnLine(Straight(*ends), status))  # type: ignore[arg-type]
    return list(dict.fromkeys(found))


def _joined(spans: list[tuple[float, float]]) -> list[tuple[float, float]]:
    found: list[tuple[float, float]] = []
    for low, high in sorted(spans):
        if found and low <= found[-1][1] + _TOUCH_MM:
            found[-1] = found[-1][0], max(found[-1][1], high)
        else:
            found.append((low, high))
    return found


def _without(
    spans: list[tuple[float, float]], others: list[tuple[float, float]]
) -> list[tuple[float, float]]:
    for low, high in others:
        left = []
        for a, b in spans:
            if high <= a or low >= b:
                left.append((a, b))
                continue
            left += [(a, low)] if low > a + 0.3 else []
            left += [(high, b)] if high < b - 0.3 else []
        spans = left
    return spans
