"""The first page of the booklet: settings in order and no sentence, for hands that know the way."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from holoptic.catalogue import tr
from holoptic.exchange.booklet_page import LEFT, LOW, RIGHT, TOP, Page
from holoptic.plan import Move, Plan
from holoptic.plan.moves import Lift, bears_letter
from holoptic.plan.words import phase_title
from holoptic.sheet.drawing import Drawing, Words
from holoptic.units import Unit, show_set
from holoptic.views.orthographic import VIEW_TITLES

_ACROSS = 3
_ROW_MM = 4.3
_COLUMN_MM = (RIGHT - LEFT) / _ACROSS
_AT = (0.0, 7.0, 20.0)
_MOST = 44
_LEFT_OUT = ("sheet",)
"""Border and title block are known by heart."""

_NOT_SET = ("lay", "firm in", "go over", "head", "guides", "letter", "curve", "freehand")
"""What is gone over or done by hand needs no setting."""
_LEANS = ("–", "/", "|", "\\")
"""How a line leans, beside its angle."""
_RULED = ("draw", "parallel", "square", "join", "touch")


@dataclass(frozen=True)
class _Row:
    """A line of a column: the move, its figure, and where it is laid off; or a heading alone."""

    number: str
    figure: str
    where: str
    is_heading: bool = False


def short_pages(plan: Plan, title: str, unit: Unit) -> list[Drawing]:
    """Return the settings of a plan in order, in columns: one page for most parts."""
    pages: list[Page] = []
    rows = list(_rows(plan, unit))
    room = int((TOP - 14 - LOW) / _ROW_MM)
    for place, row in enumerate(_with_headings_kept(rows, room)):
        column, down = divmod(place, room)
        if column % _ACROSS == 0 and down == 0:
            page = Page(title, len(pages) + 1)
            page.write(tr("{title}: settings in order", title=title), height=3.4, down=6)
            page.write(tr("Scale {scale}. An arrow leads to what is new; an angle is that of a "
                          "line through a letter, which meets another one where it leads to.",
                          scale=plan.setup.scale_text), down=8)  # fmt: skip
            pages.append(page)
        _write(pages[-1], row, LEFT + column % _ACROSS * _COLUMN_MM, TOP - 16 - down * _ROW_MM)
    return [page.drawing() for page in pages]


def _with_headings_kept(rows: list[_Row], room: int) -> Iterator[_Row]:
    """Yield rows so that no heading stands last in its column."""
    place = 0
    for row in rows:
        if row.is_heading and place % room == room - 1:
            yield _Row("", "", "")
            place += 1
        yield row
        place += 1


def _write(page: Page, row: _Row, x: float, y: float) -> None:
    if row.is_heading:
        page.words.append(Words((x, y), row.figure, 2.0))
        return
    page.words.append(Words((x, y), row.number, 1.6))
    page.words.append(Words((x + _AT[1], y), row.figure, 2.5))
    page.words.append(Words((x + _AT[2], y), row.where, 1.7))


def _rows(plan: Plan, unit: Unit) -> Iterator[_Row]:
    phase = ""
    for move in plan.moves:
        if move.verb in _NOT_SET or move.phase in _LEFT_OUT:
            continue
        if move.phase != phase:
            phase = move.phase
            yield _Row("", phase_title(phase), "", is_heading=True)
        figure = figure_of(move, unit)
        if move.setting_mm is None and figure:
            figure += f" {_LEANS[_quarter(move.angle_deg or 0.0)]}"
        yield _Row(str(move.n), figure, _where(move)[:_MOST])


def _quarter(angle_deg: float) -> int:
    """Return 0 for level, 1 for rising to the right, 2 for upright, 3 for rising to the left."""
    turn = round(angle_deg % 180, 3) % 180
    return 0 if turn == 0 else 1 if turn < 90 else 2 if turn == 90 else 3


def figure_of(move: Move, unit: Unit) -> str:
    """Return what an instrument is set to for a move, in a unit; "" for nothing."""
    if move.setting_mm is not None:
        return show_set(move.setting_mm, unit)
    if move.angle_deg is not None and move.verb != "touch":
        turn = move.angle_deg % 180
        return f"{min(turn, 180 - turn):.3g}°"
    return ""


def _lifted_from(lift: Lift) -> str:
    return tr("worked out") if lift.is_worked_out else VIEW_TITLES[lift.view]


def _where(move: Move) -> str:
    """Say between which letters a setting goes, without words where it can be."""
    uses = [name for name in move.uses if bears_letter(name)]
    made = [name for name in move.makes if bears_letter(name)]
    view = f"  {_lifted_from(move.lift)}" if move.lift is not None else ""
    if move.verb == "check":
        return tr("check {one} – {two}", one=uses[0], two=uses[1])
    if move.verb in _RULED:
        gives = f" → {', '.join(made)}" if made else ""
        return " – ".join(uses[: 2 if move.verb == "join" else 1]) + gives
    if move.verb in ("meet", "nearest"):
        return tr("mark {name}", name=made[0] if made else move.makes[0])
    if move.verb in ("circle", "arc", "same arc"):
        ends = " – ".join(uses[1:3])
        return tr("about {needle}", needle=uses[0] if uses else move.uses[0]) + f"  {ends}"
    if len(uses) == 3 and move.verb in ("set off", "swing"):  # carried: taken from two letters
        view = f"  = {uses[1]} {uses[2]}"
    start = uses[0] if uses else tr("border")
    return f"{start} → {', '.join(made) or move.makes[0]}{view}"
