"""The plan as a booklet to lie beside the drawing board: settings first, then step pictures."""

from __future__ import annotations

import textwrap
from collections.abc import Iterator, Sequence

import shapely
from shapely import LineString

from holoptic.catalogue import tr
from holoptic.curves.paper import extent
from holoptic.curves.vectors import Vec2
from holoptic.exchange.booklet_page import LEFT, LOW, RIGHT, TEXT_MM, TOP, Page
from holoptic.exchange.booklet_short import figure_of, short_pages
from holoptic.exchange.pdf import pdf_pages
from holoptic.plan import Drafter, Move, Plan
from holoptic.plan.moves import bears_letter
from holoptic.plan.showing import lettered_places, light_lines, needs_whole_sheet
from holoptic.plan.words import phase_title, plan_summary
from holoptic.sheet.drawing import Drawing, Ink, Words, rectangle
from holoptic.sheet.papers import Paper
from holoptic.tolerance import COINCIDENT_MM
from holoptic.units import Unit, show
from holoptic.units.spoken import said

POINTS_CAUTION = tr("Compass, divider and knife points: cap them, cut away from you.")

_ROW_MM = 4.2
_LETTERS = 86
"""So many letters of a sentence fit its column."""
_COLUMNS = (LEFT, 29.0, 62.0, 80.0)
_MOST_PICTURES = 96
_ACROSS, _DOWN = 2, 4
_CAPTION_ROWS = 4
_FRAME_MOVES = 7
_LIGHT_MM = 0.18


def booklet_bytes(
    plan: Plan, paper: Paper, drafted: Drafter, title: str, unit: Unit = Unit.MM
) -> bytes:
    """Return the booklet as a PDF of A4 pages in a unit; `drafted` is the paper after all moves."""
    pages = short_pages(plan, title, unit)
    pages += _table_pages(plan, paper, title, unit, len(pages) + 1)
    pages += _picture_pages(plan, drafted, title, unit, len(pages) + 1)
    return pdf_pages(pages)


# --- settings ---------------------------------------------------------------------------------


def _table_pages(plan: Plan, paper: Paper, title: str, unit: Unit, number: int) -> list[Drawing]:
    pages = [Page(title, number)]
    page = pages[0]
    page.write(title, height=4.0, down=8)
    head = tr("on {paper}, scale {scale}, {count} moves", paper=paper.title,
              scale=plan.setup.scale_text, count=len(plan.moves))  # fmt: skip
    for line in (head, *plan_summary(plan), POINTS_CAUTION):
        for part in textwrap.wrap(said(line, unit), 104):
            page.write(part, height=2.3, down=4.6)
    page.y -= 3
    phase = ""
    for move in plan.moves:
        rows = _rows(move, unit)
        needed = len(rows) + (2 if move.phase != phase else 0)
        if page.y - needed * _ROW_MM < LOW:
            page = Page(title, number + len(pages))
            pages.append(page)
            phase = ""
        if move.phase != phase:
            phase = move.phase
            page.y -= _ROW_MM / 2
            page.write(phase_title(phase), height=2.6, down=_ROW_MM * 1.3)
        _write_rows(page, move, rows, unit)
    return [page.drawing() for page in pages]


def _rows(move: Move, unit: Unit) -> list[str]:
    rows = textwrap.wrap(move.said(unit), _LETTERS) or [""]
    for name, offsets in zip(move.makes, move.table, strict=False):
        if move.verb == "plot":
            rows.append(f"      {name}:  " + "   ".join(show(value, unit) for value in offsets))
    return rows


def _write_rows(page: Page, move: Move, rows: Sequence[str], unit: Unit) -> None:
    page.rule()
    page.words.append(Words((_COLUMNS[0], page.y), str(move.n), TEXT_MM))
    page.words.append(Words((_COLUMNS[1], page.y), _short(tr(move.instrument)), 1.8))
    page.words.append(Words((_COLUMNS[2], page.y), figure_of(move, unit), 2.6))
    for row in rows:
        page.write(row, _COLUMNS[3], down=_ROW_MM)


def _short(instrument: str) -> str:
    return textwrap.shorten(instrument, 26, placeholder=" …")


# --- pictures ---------------------------------------------------------------------------------


def _steps(plan: Plan) -> Iterator[tuple[int, int]]:
    """Yield (first move, one past the last) of what each picture shows.

    Phases are not mixed; border and title block, and lines firmed in together, share a picture.
    """
    each = max(1, -(-len(plan.moves) // _MOST_PICTURES))
    for phase, first, last in plan.phases:
        start = first
        while start < last:
            end = start + (_FRAME_MOVES if phase == "sheet" else each)
            while end < last and plan.moves[end - 1].verb == plan.moves[end].verb == "firm in":
                end += 1
            yield start, min(end, last)
            start = end


def _picture_pages(
    plan: Plan, drafted: Drafter, title: str, unit: Unit, number: int
) -> Iterator[Drawing]:
    steps, whole = list(_steps(plan)), _Whole(drafted)
    each = _ACROSS * _DOWN
    for start in range(0, len(steps), each):
        page = Page(title, number + start // each)
        for place, (first, last) in enumerate(steps[start : start + each]):
            _picture(page, plan, whole, (first, last), place, unit)
        yield page.drawing()


def _picture(
    page: Page, plan: Plan, whole: _Whole, step: tuple[int, int], place: int, unit: Unit
) -> None:
    """Draw the paper after some moves into a cell, what they made strongly."""
    (first, last), drafted = step, whole.drafted
    width, height = (RIGHT - LEFT) / _ACROSS, (TOP + 6 - LOW) / _DOWN
    left = LEFT + (place % _ACROSS) * width + 2
    top = TOP + 6 - (place // _ACROSS) * height
    low = top - height + 4 * _CAPTION_ROWS
    box = left, low, left + width - 4, top - 2
    page.inks.append(rectangle(*box, "border", 0.13))
    after = drafted.as_after(plan.moves[:last])
    fit = _Fit(_shown(plan, drafted, first), box)
    made = {name for move in plan.moves[first:last] for name in move.makes}
    used = {name for move in plan.moves[first:last] for name in move.uses}
    page.inks += _lines(plan, whole, after, made, fit)
    page.words += [
        Words((x + 0.8, y + 0.8), name, 2.2 if name in made else 1.8)
        for name in after.points
        if bears_letter(name) and (name in made or name in used)
        for x, y in [fit.placed(after.points[name])]
    ]
    page.words += [
        Words(fit.placed(each.at), each.text, each.height * fit.scale, each.anchor, "title",
              each.along_deg, each.lean_deg)
        for each in after.letters.values()
    ]  # fmt: skip
    _caption(page, plan.moves[first:last], (left, low - 3.4), unit)


def _caption(page: Page, moves: Sequence[Move], at: Vec2, unit: Unit) -> None:
    text = " ".join(move.said(unit) for move in moves)
    numbers = f"{moves[0].n}" if len(moves) == 1 else f"{moves[0].n}–{moves[-1].n}"
    lines = textwrap.wrap(f"{numbers}  {text}", 68, max_lines=_CAPTION_ROWS - 1, placeholder=" …")
    for row, line in enumerate(lines):
        page.words.append(Words((at[0], at[1] - 3.4 * row), line, 1.8))


def _shown(plan: Plan, drafted: Drafter, first: int) -> list[Vec2]:
    """Return the places that a picture must hold."""
    if not needs_whole_sheet(plan, first):
        return lettered_places(plan, drafted, first)
    corners = [drafted.points[name] for name in drafted.points if not bears_letter(name)]
    return corners + [place for path in drafted.strokes.values() for place in path]


class _Fit:
    """Brings places of the sheet into a cell of the page."""

    def __init__(self, places: Sequence[Vec2], box: tuple[float, float, float, float]) -> None:
        xmin, ymin, xmax, ymax = extent(list(places))
        width, height = max(xmax - xmin, COINCIDENT_MM), max(ymax - ymin, COINCIDENT_MM)
        self.box = box
        self.scale = min((box[2] - box[0] - 8) / width, (box[3] - box[1] - 8) / height)
        self.origin = (
            (box[0] + box[2]) / 2 - self.scale * (xmin + xmax) / 2,
            (box[1] + box[3]) / 2 - self.scale * (ymin + ymax) / 2,
        )

    @property
    def window(self) -> tuple[float, float, float, float]:
        """What of the sheet the cell shows, mm."""
        (x, y), scale = self.origin, self.scale
        left, low, right, high = self.box
        return (left - x) / scale, (low - y) / scale, (right - x) / scale, (high - y) / scale

    def placed(self, place: Vec2) -> Vec2:
        """Return where a place of the sheet lies on the page."""
        return (
            self.origin[0] + self.scale * place[0],
            self.origin[1] + self.scale * place[1],
        )


_FINE_MM = 0.01


class _Whole:
    """All that a drafter draws, as lines in mm from the border: every picture shows some of it."""

    def __init__(self, drafted: Drafter) -> None:
        self.drafted = drafted
        self.lines = {name: LineString(drafted.drawn_span(name)) for name in drafted.lines}
        self.curves = {name: _coarser(path) for name, path in drafted.curve_paths.items()}
        self.strokes = {name: _coarser(path) for name, path in drafted.strokes.items()}


def _coarser(path: Sequence[Vec2]) -> LineString:
    """Return a path with no more points than a small picture needs."""
    return LineString(path).simplify(_FINE_MM)


def _lines(plan: Plan, whole: _Whole, after: Drafter, made: set[str], fit: _Fit) -> Iterator[Ink]:
    for name in light_lines(plan, after):
        yield from _ink(whole.lines[name], name in made, 0.4, fit)
    for name in after.curve_paths:
        yield from _ink(whole.curves[name], name in made, 0.4, fit)
    for name in after.strokes:
        yield from _ink(whole.strokes[name], True, 0.7 if name in made else 0.3, fit)


def _ink(path: LineString, strong: bool, weight: float, fit: _Fit) -> Iterator[Ink]:
    """Yield what of a path lies in the cell, strongly or as light construction."""
    layer = "visible" if strong else "construction"
    for piece in shapely.get_parts(shapely.clip_by_rect(path, *fit.window)):
        if piece.length > 0:
            ends = tuple(fit.placed((float(x), float(y))) for x, y in piece.coords)
            yield Ink(layer, ends, weight if strong else _LIGHT_MM)
