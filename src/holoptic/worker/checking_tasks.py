"""The questions about drawn sheets: a picture laid beside a plan, and a scanner's stand-in."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.checking.pictures.checker import check_picture
from holoptic.checking.pictures.stand_in import as_png, take
from holoptic.checking.report import CheckReport
from holoptic.checking.sitting import Sitting
from holoptic.checking.traces import Draw, Traced, draws_of, trace
from holoptic.curves.vectors import Vec2
from holoptic.errors import BadInput
from holoptic.job import SheetOrder, TitleBlock
from holoptic.plan.hand import Hand
from holoptic.sheet.frames import frame_of
from holoptic.worker.messages import Planned, SheetTaken
from holoptic.worker.planning import plan


def check_drawn(
    path: str, order: SheetOrder, figure_id: str, title: TitleBlock, hand: Hand,
    corners: Sequence[Vec2] | None = None,
) -> CheckReport:  # fmt: skip
    """Return how the picture of a drawn sheet agrees with the plan of a figure. Raises BadInput."""
    planned = plan(order, figure_id, hand, title)
    return check_picture(Path(path), figure_id, _traced(planned), hand, corners).report


def take_sheet(
    order: SheetOrder, figure_id: str, title: TitleBlock, sitting: Sitting,
    slips: Sequence[tuple[int, float]] = (),
) -> SheetTaken:  # fmt: skip
    """Return the picture of a sheet as a hand with its slips would draw it, as PNG.

    `slips` are (number of a move, by how much its setting is off: mm, of an angle degrees).
    Raises BadInput for moves that set nothing, and for strokes that are not planned.
    """
    planned = plan(order, figure_id, sitting.hand, title)
    traced = _traced(planned)
    draws = draws_of(traced.moves, traced.meant, sitting.hand)
    offs = {_draw_of(number, draws, traced): off for number, off in slips}
    unknown = sorted(sitting.left_out - {one.stroke for one in traced.traces})
    if unknown:
        raise BadInput(tr("no stroke is called {name}", name=unknown[0]))
    last = planned.plan.moves[-1].n
    until = None if sitting.until is None else min(max(sitting.until, 0), last)
    made = Sitting(sitting.hand, offs, sitting.left_out, sitting.is_rubbed_out, sitting.is_photo,
                   sitting.dpi, sitting.seed, until, sitting.extra)  # fmt: skip
    return SheetTaken(figure_id, as_png(take(traced, frame_of(planned.paper), made)))


def _traced(planned: Planned) -> Traced:
    return trace(planned.plan.moves, planned.drafted, frame_of(planned.paper).inner)


def _draw_of(number: int, draws: Sequence[Draw], traced: Traced) -> int:
    """Return the first setting of the move of a number."""
    for index, draw in enumerate(draws):
        if traced.moves[draw.move].n == number:
            return index
    raise BadInput(tr("move {n} sets nothing that could slip", n=number))
