"""The questions about drawn sheets: a picture laid beside a plan, and a scanner's stand-in."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.checking.distances import check_distances
from holoptic.checking.pictures.border import AROUND_MM, PER_MM
from holoptic.checking.pictures.checker import Comparison, check_picture
from holoptic.checking.pictures.ink import Grey
from holoptic.checking.pictures.loading import load
from holoptic.checking.pictures.showing import as_jpeg, as_png, no_larger_than
from holoptic.checking.pictures.stand_in import take, take_print
from holoptic.checking.report import CheckReport
from holoptic.checking.sitting import Sitting
from holoptic.checking.traces import Box, Draw, Traced, draws_of, trace
from holoptic.curves.vectors import Vec2
from holoptic.errors import BadInput, KernelTrouble
from holoptic.job import SheetOrder, TitleBlock, alone, pose
from holoptic.keeping import Cache
from holoptic.plan.hand import Hand
from holoptic.practice.exercise import OnPaper
from holoptic.progress import tell
from holoptic.sheet.frames import frame_of
from holoptic.worker.messages import PictureShown, Planned, SheetFound, SheetTaken
from holoptic.worker.planning import plan

_SHOWN_DOTS = 2000
_GAP_MM = 8.0

_compared: Cache[int, Comparison] = Cache(
    "sheets compared", 1, "what caused the deviations is asked right after what they are"
)


def compare_drawn(
    number: int, path: str, planned: Planned, hand: Hand, corners: Sequence[Vec2] | None = None
) -> SheetFound:
    """Return a drawn sheet out of its picture, and what of it is off; `explain_drawn` goes on.

    `number` is of this check, to ask on about it. Raises BadInput.
    """
    found = Comparison(Path(path), planned.figure, traced_of(planned), hand, corners)
    _compared.keep(number, found)
    report = found.at_once()
    tell(tr("making the sheet straight"), 0.45)
    return SheetFound(planned.figure, as_jpeg(found.found.flat), PER_MM, AROUND_MM, report)


def explain_drawn(number: int) -> CheckReport:
    """Return the whole report on a sheet that was compared. Raises KernelTrouble if it is gone."""
    compared = _compared.get(number)
    if compared is None:
        raise KernelTrouble(tr("the sheet is to be compared once more"))
    return compared.explained()


def tell_distances(planned: Planned, hand: Hand, readings: dict[int, float]) -> CheckReport:
    """Return what control distances tell that were read, by the number of their check (mm)."""
    return check_distances(planned.figure, traced_of(planned), hand, readings)


def show_picture(path: str, page: int = 1) -> PictureShown:
    """Return a picture to look at, no larger than a screen needs it; of a PDF file that of a page.
    Raises BadInput.
    """
    picture = load(Path(path), page)
    small, share = no_larger_than(picture, _SHOWN_DOTS)
    return PictureShown(as_jpeg(small), share)


def check_drawn(
    path: str, order: SheetOrder, figure_id: str, title: TitleBlock, hand: Hand,
    corners: Sequence[Vec2] | None = None,
) -> CheckReport:  # fmt: skip
    """Return how the picture of a drawn sheet agrees with the plan of a figure. Raises BadInput."""
    planned = plan(order, figure_id, hand, title)
    return check_picture(Path(path), figure_id, traced_of(planned), hand, corners).report


def mark_sheet(path: str, asked: OnPaper) -> CheckReport:
    """Return what of an exercise drawn on paper is found in a picture of its sheet. Raises BadInput
    as `check_drawn` does.
    """
    posed = pose(asked.part, asked.kind, asked.corner)
    return check_drawn(path, alone(posed), posed.id, TitleBlock("", asked.part.name), Hand())


def take_sheet(
    order: SheetOrder, figure_id: str, title: TitleBlock, sitting: Sitting,
    slips: Sequence[tuple[int, float]] = (),
) -> SheetTaken:  # fmt: skip
    """Return the picture of a sheet as a hand with its slips would draw it, as PNG.

    `slips` are (number of a move, by how much its setting is off: mm, of an angle degrees).
    Raises BadInput for moves that set nothing, and for strokes that are not planned.
    """
    planned = plan(order, figure_id, sitting.hand, title)
    traced = traced_of(planned)
    draws = draws_of(traced.moves, traced.meant, sitting.hand)
    offs = {_draw_of(number, draws, traced): off for number, off in slips}
    unknown = sorted(sitting.left_out - {one.stroke for one in traced.traces})
    if unknown:
        raise BadInput(tr("no stroke is called {name}", name=unknown[0]))
    last = planned.plan.moves[-1].n
    until = None if sitting.until is None else min(max(sitting.until, 0), last)
    made = Sitting(sitting.hand, offs, sitting.left_out, sitting.is_rubbed_out, sitting.is_photo,
                   sitting.dpi, sitting.seed, until, sitting.extra)  # fmt: skip
    return SheetTaken(figure_id, _taken(take(traced, frame_of(planned.paper), made), sitting))


def take_printed(figure_id: str, printed: bytes, sitting: Sitting) -> SheetTaken:
    """Return the picture of the first page of a PDF file, printed and taken, as PNG."""
    return SheetTaken(figure_id, _taken(take_print(printed, sitting), sitting))


def _taken(picture: Grey, sitting: Sitting) -> bytes:
    """Return what was taken as a file; a scanner says how fine it takes, a camera does not."""
    return as_png(picture, None if sitting.is_photo else sitting.dpi)


def traced_of(planned: Planned) -> Traced:
    """Return the strokes of a plan, and where ink belongs to something else."""
    traced = trace(planned.plan.moves, planned.drafted, frame_of(planned.paper).inner)
    return replace(traced, elsewhere=tuple(_elsewhere(planned, traced)))


def _elsewhere(planned: Planned, traced: Traced) -> Iterator[Box]:
    """Yield where ink belongs to other drawings of the sheet, or to its title block."""
    frame = frame_of(planned.paper)
    if frame.title_width > 0:
        high = frame.title_height + planned.layout.over_title
        yield frame.inner[0] - frame.title_width, 0.0, frame.inner[0], high
    own = traced.box
    for other in planned.layout.placed:
        if other.figure == planned.figure:
            continue
        left, low, right, high = other.extent
        # their sizes and captions stand in the gap; what reaches into this drawing is its own
        for gap in (_GAP_MM, 0.0):
            box = (left - gap - frame.left, low - gap - frame.low,
                   right + gap - frame.left, high + gap - frame.low)  # fmt: skip
            if not _overlap(box, own):
                yield box
                break


def _overlap(one: Box, other: Box) -> bool:
    return (one[0] < other[2] and other[0] < one[2]) and (one[1] < other[3] and other[1] < one[3])


def _draw_of(number: int, draws: Sequence[Draw], traced: Traced) -> int:
    """Return the first setting of the move of a number."""
    for index, draw in enumerate(draws):
        if traced.moves[draw.move].n == number:
            return index
    raise BadInput(tr("move {n} sets nothing that could slip", n=number))
