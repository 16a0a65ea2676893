"""What the worker is asked about: a figure with its part, and a sheet with all its figures."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.job.arrangements import Arrangement, Placed, Spread
from holoptic.job.figures import (
    PLAIN_LINES,
    VIEW_LINES,
    Figure,
    LineSchool,
    Orthographic,
    Pictorial,
    ViewSet,
)
from holoptic.job.job import Angle, Job, JobPart
from holoptic.job.sheets import AS_FITS, Sheet, SheetWish, SizeWish
from holoptic.job.ties import Stand, Tie, settle
from holoptic.job.titles import TitleBlock, title_block
from holoptic.part import Body, Source, Whole
from holoptic.part.cutting import Cutter
from holoptic.units import Unit


@dataclass(frozen=True)
class Posed:
    """A figure with what it shows: all that its picture hangs on.

    `spread` is how an arrangement is drawn apart, None where it stands together; `share` how much
    of the way it is drawn out. `room` is the sheet on which it has to fit, where its scale is given
    and its gap is left open; once that is settled, `is_narrowed` says whether the sheet kept the
    gap from being as wide as it should be. `opening` is the room that its cut takes away, once that
    is known; `refused` says why it is not cut as it was asked.
    """

    figure: Figure
    source: Source
    spread: Spread | None = None
    share: float = 1.0
    opening: Cutter | None = None
    refused: str = ""
    room: SheetOrder | None = None
    is_narrowed: bool = False

    @property
    def id(self) -> str:
        """The id of the figure."""
        return self.figure.id

    def uncut(self) -> Posed:
        """Return the same figure, not cut open."""
        figure = replace(self.figure, cut="")
        return replace(self, figure=figure, opening=None, refused="")

    def with_source(self, source: Source) -> Posed:
        """Return the same figure of something else."""
        return replace(self, source=source)

    def seen(self, kind: str, corner: str) -> Posed:
        """Return the figure as a pictorial of a kind, from a near corner.

        A gap that its sheet narrowed is open again: from there others may do.
        """
        spread = self.spread
        if self.is_narrowed and spread is not None:
            spread = replace(spread, gap=None)
        figure = self.figure.seen(kind, corner)
        return replace(self, figure=figure, spread=spread, is_narrowed=False, opening=None,
                       refused="")  # fmt: skip


@dataclass(frozen=True)
class SheetOrder:
    """All that the layout of a sheet hangs on: its figures and what is asked of it.

    `views` is how many orthographic views a figure has that does not say so itself. Over the title
    block stand `own_fields` fields of the company's own, `revisions` revisions, and `notes`, a line
    each.
    """

    posed: tuple[Posed, ...]
    wish: SheetWish = AS_FITS
    views: ViewSet = "three"
    angle: Angle = "third"
    unit: Unit = Unit.MM
    sizes: tuple[SizeWish, ...] = ()
    own_fields: int = 0
    revisions: int = 0
    notes: str = ""

    def of(self, figure_id: str) -> Posed:
        """Return a figure of the sheet. Raises KeyError."""
        for item in self.posed:
            if item.id == figure_id:
                return item
        raise KeyError(figure_id)

    @property
    def first_drawn(self) -> str | None:
        """The id of the figure that is drawn first by hand: the border is drawn with it."""
        return self.posed[0].id if self.posed else None

    @property
    def ids(self) -> tuple[str, ...]:
        """The ids of its figures."""
        return tuple(item.id for item in self.posed)

    def letters_by_hand(self, figure_id: str) -> bool:
        """Say whether the hand letters title block and captions, when it draws a figure."""
        asked = self.of(figure_id).figure.by_hand.lettering
        return self.wish.dimensions == "auto" if asked is None else asked == "by-hand"

    def with_posed(self, posed: Posed) -> SheetOrder:
        """Return the order with one figure exchanged."""
        kept = tuple(posed if item.id == posed.id else item for item in self.posed)
        return replace(self, posed=kept)


def posed_figure(job: Job, figure: Figure) -> Posed:
    """Return a figure of a job with its subject. Raises KeyError.

    What cannot be placed of an arrangement is left out (`whole_of` tells why).
    """
    posed = _posed(job, figure)
    return _in_room(posed, _order(job, job.sheet_of(figure))) if _needs_room(posed) else posed


def _posed(job: Job, figure: Figure) -> Posed:
    if not job.is_arrangement(figure.subject):
        return Posed(figure, job.part(figure.subject).source)
    arrangement = job.arrangement(figure.subject)
    return Posed(
        figure, whole_of(job, arrangement)[0], arrangement.spread if figure.apart else None
    )


def _needs_room(posed: Posed) -> bool:
    return posed.spread is not None and posed.spread.gap is None


def _in_room(posed: Posed, order: SheetOrder) -> Posed:
    """Return a figure whose gap is left open with the sheet that it has to fit on, if that has a
    scale; of any other sheet the scale follows the figure.
    """
    if not _needs_room(posed) or (posed.figure.scale or order.wish.scale) is None:
        return posed
    return replace(posed, room=order)


@dataclass(frozen=True)
class Unplaced:
    """A placed part that cannot stand where it should, and why."""

    placed: str
    why: str


@dataclass(frozen=True)
class _Standing:
    """Placed parts as they stand, by their ids, with what is to be said of each."""

    names: dict[str, str]
    stands: dict[str, Stand]
    freedom: dict[str, str]
    troubles: tuple[Unplaced, ...]


def freedom_of(job: Job, arrangement: Arrangement) -> dict[str, str]:
    """Return what may still move of each placed part that has ties; empty where nothing may."""
    return _standing(job, arrangement).freedom


_KEPT = 6
_kept: list[tuple[tuple[JobPart, ...], Arrangement, _Standing]] = []
"""The last ones asked for: a desk asks many times what a job's arrangement comes down to."""


def _standing(job: Job, arrangement: Arrangement) -> _Standing:
    """Return how placed parts stand, as `_settled` does; the last answers are kept."""
    for parts, known, standing in _kept:
        if parts is job.parts and known is arrangement:
            return standing
    made = _settled(job, arrangement)
    _kept.insert(0, (job.parts, arrangement, made))
    del _kept[_KEPT:]
    return made


def _settled(job: Job, arrangement: Arrangement) -> _Standing:
    """Return how the placed parts of an arrangement stand by their turns, places and ties.

    A part is settled after those that its ties hold it to; where ties lead round, those that come
    first in the arrangement stand as they were placed. What has a tie that cannot be met, or that
    holds by nothing, stands as it was placed too, and is told.
    """
    troubles: list[Unplaced] = []
    names = _names(job, arrangement)
    stands: dict[str, Stand] = {}
    for placed in arrangement.placed:
        if placed.id not in names:
            why = tr("“{placed}”: its part is not in the job any more", placed=placed.id)
            troubles.append(Unplaced(placed.id, why))
            continue
        try:
            turning = placed.turn.turning()
            stands[placed.id] = Stand(job.part(placed.part).source, turning, placed.place)
        except BadInput as error:
            troubles.append(Unplaced(placed.id, f"“{names[placed.id]}”: {error}"))
    freedom: dict[str, str] = {}
    waiting = [item for item in arrangement.placed if item.ties and item.id in stands]
    while waiting:
        open_ids = {item.id for item in waiting}
        ready = [w for w in waiting if not {tie.to for tie in w.ties} & (open_ids - {w.id})]
        placed = (ready or waiting)[0]
        waiting.remove(placed)
        try:
            ties = [(tie, _other(tie, placed, stands)) for tie in placed.ties]
            settled = settle(stands[placed.id], ties, names)
        except BadInput as error:
            troubles.append(Unplaced(placed.id, f"“{names[placed.id]}”: {error}"))
            continue
        if settled.conflict:
            why = f"“{names[placed.id]}”: {settled.conflict}"
            troubles.append(Unplaced(placed.id, why))
        stands[placed.id], freedom[placed.id] = settled.stand, settled.freedom
    return _Standing(names, stands, freedom, tuple(troubles))


def _other(tie: Tie, placed: Placed, stands: dict[str, Stand]) -> Stand:
    if tie.to not in stands or tie.to == placed.id:
        raise BadInput(tr("it is tied to a part that does not stand there"))
    return stands[tie.to]


def _names(job: Job, arrangement: Arrangement) -> dict[str, str]:
    """Return the names of placed parts; those of one part are told apart by a number."""
    quantities, seen = arrangement.quantities(), Counter[str]()
    known = {part.id: part.source.name for part in job.parts}
    names = {}
    for placed in arrangement.placed:
        if placed.part in known:
            seen[placed.part] += 1
            several = quantities[placed.part] > 1
            number = f" {seen[placed.part]}" if several else ""
            names[placed.id] = f"{known[placed.part]}{number}"
    return names


def whole_of(job: Job, arrangement: Arrangement) -> tuple[Whole, tuple[Unplaced, ...]]:
    """Return what an arrangement comes down to, and what of it cannot be placed as it should."""
    found = _standing(job, arrangement)
    bodies = []
    for placed in arrangement.placed:
        stand = found.stands.get(placed.id)
        if stand is not None:
            name, material = found.names[placed.id], job.part(placed.part).material
            bodies.append(
                Body(placed.id, name, placed.part, stand.source, stand.turning, stand.at,
                     material=material, colour=placed.colour)
            )  # fmt: skip
    return Whole(arrangement.name, tuple(bodies), arrangement.number), found.troubles


def sheet_order(job: Job, sheet: Sheet) -> SheetOrder:
    """Return what the layout of a sheet hangs on."""
    order = _order(job, sheet)
    return replace(order, posed=tuple(_in_room(posed, order) for posed in order.posed))


def _order(job: Job, sheet: Sheet) -> SheetOrder:
    posed = tuple(_posed(job, figure) for figure in sheet.figures)
    said = sheet.title.over(job.title)
    return SheetOrder(posed, sheet.wish, job.views, job.angle, job.unit, sheet.sizes,
                      len(said.own or ()), len(sheet.revisions), said.notes or "")  # fmt: skip


def views_order(job: Job, figure: Figure) -> SheetOrder:
    """Return an order for the three views of a figure's part by themselves, with its sizes.

    Raises KeyError where the figure is of several parts.
    """
    source = job.part(figure.subject).source
    seen = Figure(figure.id, figure.subject, Orthographic(), VIEW_LINES)
    laid = sheet_order(job, job.sheet_of(figure))
    return replace(laid, posed=(Posed(seen, source),), wish=SheetWish(dimensions="auto"),
                   views="three", sizes=())  # fmt: skip


def all_sheets(job: Job) -> tuple[tuple[SheetOrder, TitleBlock], ...]:
    """Return the sheets of a job with what their title blocks say."""
    return tuple((sheet_order(job, sheet), title_block(job, sheet)) for sheet in job.sheets)


def pose(
    source: Source, kind: str = "isometric", corner: str = "front-right",
    lines: LineSchool = PLAIN_LINES,
) -> Posed:  # fmt: skip
    """Return something posed by itself, outside of a job."""
    return Posed(Figure("f1", "p1", Pictorial(kind, corner), lines), source)


def alone(posed: Posed, wish: SheetWish = AS_FITS) -> SheetOrder:
    """Return an order for one figure on a sheet of its own."""
    return SheetOrder((posed,), wish)
