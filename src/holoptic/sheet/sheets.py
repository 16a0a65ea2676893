"""Composing a sheet: the picture or the views centred in what border and title block leave."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from holoptic.curves.vectors import Vec2
from holoptic.errors import BadInput
from holoptic.job import Angle, Choice
from holoptic.pictorial import Picture
from holoptic.plan import Setup
from holoptic.sheet.drawing import (
    BORDER_MM,
    OUTLINE_MM,
    Drawing,
    Ink,
    Words,
    rectangle,
)
from holoptic.sheet.inking import picture_ink
from holoptic.sheet.papers import Paper, choices, scale_words
from holoptic.sheet.symbols import angle_symbol
from holoptic.views import PlacedView
from holoptic.views.layout import layout_extent

Box = tuple[float, float, float, float]

FILING_MARGIN_MM = 20.0
MARGIN_MM = 10.0
TITLE_WIDTH_MM = 120.0
TITLE_HEIGHT_MM = 30.0
AIR_MM = 8.0
"""Least distance of the picture from border and title block."""
CHECK_BAR_MM = 50.0

_WIDEST_LETTER = 0.78
"""Mean width of a letter over the height of capitals, on the safe side."""

CAUTION = (
    "A pictorial explains a part. Make from dimensioned orthographic drawings,",
    "checked under your local standard by whoever is responsible for the design.",
)


@dataclass(frozen=True)
class TitleBlock:
    """What the title block says."""

    work: str
    part: str
    number: str = ""
    date: str = ""


@dataclass(frozen=True)
class Sheet:
    """A composed page, and where the picture's own origin lies on it (mm), at which scale."""

    drawing: Drawing
    paper: Paper
    scale: float
    origin: Vec2


_PLAIN = Choice()
_VIEW_LINES = Choice(hidden="dashed")


def picture_sheet(picture: Picture, title: TitleBlock, choice: Choice = _PLAIN) -> Sheet:
    """Return the finished sheet of a pictorial, its lines drawn as `choice` says.

    Raises BadInput if it fits no paper.
    """
    paper, scale, origin = _place(picture.extent)
    inks = [*_frame(paper), *picture_ink(picture, choice, origin, scale)]
    words = _title_words(paper, title, picture.view.title, scale)
    inks += _title_lines(paper)
    return _sheet(paper, scale, origin, inks, words, title)


def views_sheet(placed: Sequence[PlacedView], title: TitleBlock, angle: Angle = "third") -> Sheet:
    """Return the sheet of the orthographic views, hidden lines dashed, their angle stated."""
    paper, scale, origin = _place(layout_extent(placed))
    inks = list(_frame(paper))
    for view in placed:
        at = origin[0] + scale * view.origin[0], origin[1] + scale * view.origin[1]
        inks += picture_ink(view.picture, _VIEW_LINES, at, scale)
    right, low = paper.width - MARGIN_MM, MARGIN_MM
    symbol = angle_symbol(angle, right - 14.0, low + TITLE_HEIGHT_MM - 5.0)
    inks += _title_lines(paper) + symbol
    words = _title_words(paper, title, f"{angle}-angle views", scale)
    return _sheet(paper, scale, origin, inks, words, title)


def plan_setup(picture: Picture, start_on_picture: Vec2) -> tuple[Setup, Paper]:
    """Return how a picture is set up for drawing by hand: where it stands on its sheet.

    The start point is moved to whole millimetres, which a rule can set without a lens.
    """
    paper, scale, origin = _place(picture.extent)
    corner = FILING_MARGIN_MM, MARGIN_MM
    start = tuple(
        float(round(o + scale * s - c))
        for o, s, c in zip(origin, start_on_picture, corner, strict=True)
    )
    moved = tuple(
        s - (o + scale * at - c)
        for s, o, at, c in zip(start, origin, start_on_picture, corner, strict=True)
    )
    box = _on_border(picture.extent, scale, (origin[0] + moved[0], origin[1] + moved[1]))
    width = paper.width - MARGIN_MM - FILING_MARGIN_MM
    return Setup((start[0], start[1]), scale, _rooms(paper, box), width), paper


def _on_border(extent: Box, scale: float, origin: Vec2) -> Box:
    """Return where a picture lies, in mm from the lower left border corner."""
    x, y = origin[0] - FILING_MARGIN_MM, origin[1] - MARGIN_MM
    xmin, ymin, xmax, ymax = (scale * value for value in extent)
    return x + xmin, y + ymin, x + xmax, y + ymax


def _rooms(paper: Paper, picture: Box) -> tuple[Box, ...]:
    """Return the free places right, left, above and below of a picture, the largest first."""
    area = _drawing_area(paper)
    left, low = area[0] - FILING_MARGIN_MM, area[1] - MARGIN_MM
    right, high = area[2] - FILING_MARGIN_MM, area[3] - MARGIN_MM
    rooms = [
        (picture[2] + AIR_MM, low, right, high), (left, low, picture[0] - AIR_MM, high),
        (left, picture[3] + AIR_MM, right, high), (left, low, right, picture[1] - AIR_MM),
    ]  # fmt: skip
    free = [room for room in rooms if room[2] > room[0] and room[3] > room[1]]
    return tuple(sorted(free, key=lambda r: (r[0] - r[2]) * (r[3] - r[1])))


def _place(extent: Box) -> tuple[Paper, float, Vec2]:
    """Return paper, scale and origin for something of a given extent, centred."""
    width, height = extent[2] - extent[0], extent[3] - extent[1]
    for paper, scale in choices():
        area = _drawing_area(paper)
        if scale * width <= area[2] - area[0] and scale * height <= area[3] - area[1]:
            origin = tuple(
                (low + high) / 2 - scale * (a + b) / 2
                for low, high, a, b in zip(area[:2], area[2:], extent[:2], extent[2:], strict=True)
            )
            return paper, scale, (origin[0], origin[1])
    raise BadInput("the part is too large for any paper, even at 1:1000")


def _drawing_area(paper: Paper) -> Box:
    return (
        FILING_MARGIN_MM + AIR_MM,
        MARGIN_MM + TITLE_HEIGHT_MM + AIR_MM,
        paper.width - MARGIN_MM - AIR_MM,
        paper.height - MARGIN_MM - AIR_MM,
    )


def _sheet(
    paper: Paper, scale: float, origin: Vec2, inks: list[Ink], words: list[Words], title: TitleBlock
) -> Sheet:
    page_title = f"{title.part} ({title.work})"
    drawing = Drawing(paper.width, paper.height, tuple(inks), tuple(words), page_title)
    return Sheet(drawing, paper, scale, origin)


def _frame(paper: Paper) -> list[Ink]:
    left, low = FILING_MARGIN_MM, MARGIN_MM
    border = rectangle(
        left, low, paper.width - MARGIN_MM, paper.height - MARGIN_MM, "border", BORDER_MM
    )
    return [border, *_check_bar(left + 6, low + 6)]


def _check_bar(x: float, y: float) -> list[Ink]:
    """Return a bar of 50 mm with ticks each 10 mm, to be measured on the printed sheet."""
    bar = Ink("check", ((x, y), (x + CHECK_BAR_MM, y)), OUTLINE_MM)
    ticks = [
        Ink("check", ((x + d, y), (x + d, y + (3.0 if d in (0, CHECK_BAR_MM) else 1.8))))
        for d in (0.0, 10.0, 20.0, 30.0, 40.0, CHECK_BAR_MM)
    ]
    return [bar, *ticks]


def _title_box(paper: Paper) -> Box:
    right, low = paper.width - MARGIN_MM, MARGIN_MM
    return right - TITLE_WIDTH_MM, low, right, low + TITLE_HEIGHT_MM


def _title_lines(paper: Paper) -> list[Ink]:
    xmin, ymin, xmax, ymax = _title_box(paper)
    rows = [ymin + 10, ymin + 20]
    lines = [Ink("title", ((xmin, y), (xmax, y))) for y in rows]
    columns = [(xmin + 40, ymin, ymin + 10), (xmin + 80, ymin, ymin + 20)]
    lines += [Ink("title", ((x, low), (x, high))) for x, low, high in columns]
    return [rectangle(xmin, ymin, xmax, ymax, "title", OUTLINE_MM), *lines]


def _title_words(paper: Paper, title: TitleBlock, kind: str, scale: float) -> list[Words]:
    xmin, ymin, _, _ = _title_box(paper)
    cells = [
        (xmin, ymin + 20, 120.0, "work", title.work),
        (xmin, ymin + 10, 80.0, "part", title.part),
        (xmin + 80, ymin + 10, 40.0, "number", title.number or "–"),
        (xmin, ymin, 40.0, "scale", scale_words(scale)),
        (xmin + 40, ymin, 40.0, "drawn as", kind),
        (xmin + 80, ymin, 40.0, "date", title.date or "–"),
    ]
    words = []
    for x, y, width, label, value in cells:
        height = _fitted(value, 3.5 if label in ("work", "part") else 2.8, width - 3)
        words.append(Words((x + 1.5, y + 7.0), label, 1.8))
        words.append(Words((x + 1.5, y + 2.0), value, height))
    left, low = FILING_MARGIN_MM + 6, MARGIN_MM
    bar_note = f"Print at 100 %: this bar must measure {CHECK_BAR_MM:g} mm before you measure here."
    notes = (*CAUTION, bar_note)
    words += [
        Words((left, low + 20.5 - 4.0 * row), line, 1.8, layer="check")
        for row, line in enumerate(notes)
    ]
    return words


def _fitted(text: str, height: float, width: float) -> float:
    """Return a height of lettering, at most `height`, at which a text fits a width (mm)."""
    return min(height, width / (max(len(text), 1) * _WIDEST_LETTER))
