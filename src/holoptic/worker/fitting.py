"""Gaps that fit on the sheet: those that are left open, and those that are proposed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import TypeVar

from holoptic.catalogue import tr
from holoptic.errors import HolopticError
from holoptic.job import Posed, SheetOrder, Spread, axis_word, read_axis
from holoptic.job.arrangements import axis_title
from holoptic.keeping import Cache, about
from holoptic.part import Whole
from holoptic.pictorial import draw
from holoptic.sheet.planning import plan_sheet
from holoptic.solid.shelf import look
from holoptic.spread import take_apart
from holoptic.spread.gaps import TIGHT_MM
from holoptic.units import Length
from holoptic.units.spoken import measure
from holoptic.worker.figures import set_up_of
from holoptic.worker.messages import SpreadProposed
from holoptic.worker.settling import view_in
from holoptic.worker.spreading import Apart, draw_whole_apart, relations_of, sound_whole

PROPOSED = 4
"""So many ways of drawing apart stand side by side."""
_FINEST_MM = 1.0

Asked = TypeVar("Asked")

_kept: Cache[object, tuple[float | None]] = Cache(
    "widest gaps that fit on a sheet, by what is asked", 24, "so does every picture", 24
)


# --- a gap that is left open --------------------------------------------------------------------


def settle_gaps(asked: Asked) -> Asked:
    """Return what the worker is asked about, a figure, a sheet or anything else, with the gaps
    settled that are left open and have to fit on a sheet of a given scale.

    Such a gap is the least that shows all, or the widest for which there is room. Where there is
    none even for the tightest, it stays as it should be, and the sheet tells that it does not fit.
    Of what cannot be made it stays open too: whoever answers tells that in their own way.
    """
    if isinstance(asked, Posed):
        return _settled(asked)  # type: ignore[return-value]
    if isinstance(asked, SheetOrder):
        posed = tuple(_settled(each) for each in asked.posed)
        return replace(asked, posed=posed)
    return asked


def _settled(posed: Posed) -> Posed:
    room, spread = posed.room, posed.spread
    if room is None or spread is None or spread.gap is not None:
        return posed
    if not isinstance(posed.source, Whole):
        return posed
    try:
        with about(posed.figure.subject):
            whole, _ = sound_whole(posed.source)
            needed = draw_whole_apart(whole, spread, view_in(posed).toward_viewer).gap
            gap = _widest_in(room, replace(posed, room=None, share=1.0), spread, needed)
    except HolopticError:
        return posed
    if gap is None or gap >= needed:
        return posed
    return replace(posed, spread=_with_gap(spread, gap), is_narrowed=True)


def _widest_in(room: SheetOrder, posed: Posed, spread: Spread, needed: float) -> float | None:
    """Return the widest gap up to the one that is needed that fits, None where none does."""
    known = _kept.get((room, posed))
    if known is None:

        def fits(gap: float) -> bool:
            found = set_up_of(room.with_posed(replace(posed, spread=_with_gap(spread, gap))))
            return plan_sheet(found.items, found.wish)[1] is None

        most = needed if fits(needed) else widest(fits, TIGHT_MM, needed)
        known = _kept.keep((room, posed), (most,))
    return known[0]


def _with_gap(spread: Spread, gap: float) -> Spread:
    return replace(spread, gap=Length.of(gap))


def widest(fits: Callable[[float], bool], low: float, high: float) -> float | None:
    """Return the widest gap from low to high (mm) that fits, to a millimetre; None: not even low.

    What fits with a gap fits with a smaller one.
    """
    if not fits(low):
        return None
    while high - low > _FINEST_MM:
        middle = float(round((low + high) / 2))
        if middle in (low, high):
            break
        if fits(middle):
            low = middle
        else:
            high = middle
    return low


# --- gaps that are proposed ---------------------------------------------------------------------


@dataclass(frozen=True)
class _Tried:
    rank: tuple[float, ...]
    proposed: SpreadProposed
    fits: bool


def propose_spreads(order: SheetOrder, posed: Posed) -> tuple[SpreadProposed, ...]:
    """Return ways of drawing an arrangement apart for its sheet, the best first, each once.

    Every axis that draws anything apart is tried: with the least gap that shows all there is to
    be seen, with the tightest one, and, where the sheet that is asked for has no room for the
    first, with the widest that fits. What else stands on the sheet takes its room.
    """
    assert isinstance(posed.source, Whole)
    toward = view_in(posed).toward_viewer
    with about(posed.figure.subject):
        whole, _ = sound_whole(posed.source)
        spread = posed.spread or Spread()
        found: list[_Tried] = []
        for axis in _axes_that_part(whole, spread):
            along = replace(spread, axis=axis, gap=None)
            tried = _Trying(whole, along, axis, order, posed)
            ways = [tried(draw_whole_apart(whole, along, toward).gap), tried(TIGHT_MM)]
            if not ways[0].fits and ways[1].fits:
                most = widest(tried.fits, TIGHT_MM, ways[0].proposed.gap)
                ways += [] if most is None else [tried(most)]
            found += {one.proposed.gap: one for one in ways}.values()
        found.sort(key=lambda one: one.rank)
    return tuple(one.proposed for one in found[:PROPOSED])


def _axes_that_part(whole: Whole, spread: Spread) -> list[str]:
    """Return the axes that draw something apart, the one first that parts the most."""
    relations = relations_of(whole, spread)
    ids = [body.id for body in whole.bodies]
    counted: list[tuple[int, int, str]] = []
    for relation in relations.axes:
        word = axis_word(relation.axis)
        tier = take_apart(relations, ids, replace(spread, axis=word, order=())).tier
        if tier is not None:
            counted.append((-len(tier.clusters), len(counted), word))
    return [word for _, _, word in sorted(counted)]


@dataclass(frozen=True)
class _Trying:
    """An axis along which a whole is drawn apart, to be tried with one gap and another."""

    whole: Whole
    along: Spread
    axis: str
    order: SheetOrder
    posed: Posed

    def __call__(self, gap: float) -> _Tried:
        """Return what becomes of it with a gap."""
        wish = _with_gap(self.along, gap)
        apart = draw_whole_apart(self.whole, wish, view_in(self.posed).toward_viewer)
        return _tried(apart, self.axis, self.order, replace(self.posed, spread=wish))

    def fits(self, gap: float) -> bool:
        """Say whether it fits with a gap."""
        return self(gap).fits


def _tried(apart: Apart, axis: str, order: SheetOrder, posed: Posed) -> _Tried:
    view = view_in(posed)
    drawn = look(apart.at(1.0), (view.toward_viewer,))
    picture = draw(drawn.look(view.toward_viewer), view)
    found = set_up_of(order.with_posed(posed))
    layouts, misfit = plan_sheet(found.items, found.wish)
    seen = apart.features - len(apart.unseen)
    long = max(
        high - low for low, high in zip(drawn.facts.low, drawn.facts.high, strict=True)
    )  # fmt: skip
    shown = (
        tr("all {count} features seen", count=seen)
        if not apart.unseen
        else tr("{seen} of {count} features seen", seen=seen, count=apart.features)
    )
    paper = (
        tr("does not fit as asked")
        if misfit is not None
        else f"{layouts[0].paper.title} {layouts[0].scale_text}"
    )
    reasons = tr("{shown}, {long} long, {paper}", shown=shown, long=measure(round(long)),
                 paper=paper)  # fmt: skip
    title = tr("{axis}, gap {gap}", axis=axis_title(read_axis(axis)), gap=measure(apart.gap))
    parted = 0 if apart.parting.tier is None else len(apart.parting.tier.clusters)
    size = layouts[0].scale if misfit is None else 0.0
    rank = (float(misfit is not None), -parted, len(apart.unseen), -size, long)
    proposed = SpreadProposed(axis, apart.gap, title, reasons, picture)
    return _Tried(rank, proposed, misfit is None)
