"""The dimensions of the parts on a sheet: proposed, given room, placed, and checked."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.dimensions import Closing, Dimension, Needs, check, keyed, needs_of, propose
from holoptic.job import Posed, Run, SheetOrder, SheetWish, SizeWish
from holoptic.keeping import Cache, about
from holoptic.part import Part, PartSource, Whole
from holoptic.sheet.dimension_ink import Drawn
from holoptic.sheet.dimension_places import PlacedDimension
from holoptic.sheet.dimensioning import (
    BETWEEN_VIEWS_MM,
    Sized,
    dimensioned,
    places_to_drag,
    rooms_needed,
)
from holoptic.sheet.frames import Box
from holoptic.sheet.planning import Item, Layout, Misfit, plan_sheet
from holoptic.solid.shelf import shape_of, sound_part
from holoptic.units import Unit
from holoptic.worker.messages import GoodPlace, GoodPlaces, PlacedSize, SizesTold

_proposed: Cache[object, tuple[Needs, tuple[Dimension, ...]]] = Cache(
    "sizes proposed for a part", 40, "every layout of its sheet asks for them", 2
)
_FIRST_ROOM_MM = 22.0
_AIR_MM = 2.0
_ROUNDS = 4
_NO_ROOM: Box = (0.0, 0.0, 0.0, 0.0)


@dataclass(frozen=True)
class SizesOf:
    """What sizes of a part are proposed for the figures of a sheet, and what they must tell."""

    name: str
    needs: Needs
    sized: Sized


def sizes_of(order: SheetOrder) -> list[SizesOf]:
    """Return the sizes proposed for each part on a sheet; arrangements have none."""
    figures: dict[str, list[Posed]] = {}
    for posed in order.posed:
        if not isinstance(posed.source, Whole):
            figures.setdefault(posed.figure.subject, []).append(posed)
    found = []
    for several in figures.values():
        posed = several[0]
        assert not isinstance(posed.source, Whole)
        with about(posed.figure.subject):
            needs, dimensions = _sizes(posed.source, order.wish.run)
        ids = tuple(each.id for each in several)
        own = keyed(dimensions, posed.figure.subject)
        found.append(SizesOf(posed.source.name, needs, Sized(ids, own)))
    return found


def _sizes(source: PartSource, run: Run) -> tuple[Needs, tuple[Dimension, ...]]:
    known = _proposed.get((source, run))
    if known is None:
        made = sound_part(source)[0] if isinstance(source, Part) else source
        needs = needs_of(shape_of(made))
        known = _proposed.keep((source, run), (needs, propose(made, needs, run)))
    return known


@dataclass(frozen=True)
class SetUp:
    """The drawings of a sheet and what is asked of it, with the room that its sizes need."""

    items: tuple[Item, ...]
    wish: SheetWish
    sizes: tuple[SizesOf, ...] = ()


def set_up(order: SheetOrder, items_at: Callable[[float | None], tuple[Item, ...]]) -> SetUp:
    """Return what is to stand on a sheet.

    `items_at` returns its drawings, views so far apart (mm at 1:1; None: as usual). Room and scale
    hang on each other, so both are tried in turns until neither changes.
    """
    items, wish = items_at(None), order.wish
    sizes = tuple(sizes_of(order)) if wish.dimensions == "auto" else ()
    marked = {item.figure for item in items if item.start is not None}
    marked = marked if wish.axis_angles == "show" else set()
    if not sizes and not marked:
        return SetUp(items, wish)
    sized = [one.sized for one in sizes]
    shown = {name for one in sized for name in one.figures} | marked
    rooms: dict[str, Box] = dict.fromkeys(shown, (_FIRST_ROOM_MM,) * 4)
    scale = 0.0
    for _ in range(_ROUNDS):
        layout = _layout(_with_rooms(items, rooms), wish)
        if layout is None:
            break
        if any(item.angle is not None for item in items) and layout.scale != scale:
            items = items_at(BETWEEN_VIEWS_MM / layout.scale)
            layout = _layout(_with_rooms(items, rooms), wish) or layout
        needed = rooms_needed(items, layout, sized, wish, order.unit, order.sizes)
        steady = layout.scale == scale and all(
            abs(a + _AIR_MM - b) <= _AIR_MM
            for name in shown
            for a, b in zip(needed.get(name, _NO_ROOM), rooms[name], strict=True)
        )
        scale = layout.scale
        if steady:
            break
        rooms = {name: _aired(needed.get(name, _NO_ROOM)) for name in shown}
    return SetUp(_with_rooms(items, rooms), wish, sizes)


def _aired(reach: Box) -> Box:
    """Return rooms with a little air where dimensions reach out at all, in tenths."""
    left, low, right, high = (round(r + _AIR_MM, 1) if r > 0 else 0.0 for r in reach)
    return left, low, right, high


def _with_rooms(items: Sequence[Item], rooms: Mapping[str, Box]) -> tuple[Item, ...]:
    return tuple(replace(item, rooms=rooms.get(item.figure, _NO_ROOM)) for item in items)


def _layout(items: Sequence[Item], wish: SheetWish) -> Layout | None:
    layouts, misfit = plan_sheet(items, wish)
    return layouts[0] if misfit is None else None


def note_of(order: SheetOrder) -> str:
    """Return by which habits the sizes of a sheet are to be read; nothing where it has none."""
    if order.wish.dimensions == "none" or all(isinstance(p.source, Whole) for p in order.posed):
        return ""
    standard = {"ISO": "ISO 129-1", "ASME": "ASME Y14.5"}[order.wish.style]
    unit = "mm" if order.unit is Unit.MM else tr("inches")
    return tr("Dimensions in {unit} after {standard}.", unit=unit, standard=standard)


def as_asked(misfit: Misfit | None, order: SheetOrder) -> Misfit | None:
    """Return a misfit whose ways out keep no room but what is asked: sizes find theirs anew."""
    if misfit is None or order.wish.dimensions == "none":
        return misfit
    ways = (
        replace(way, wish=replace(way.wish, dimensions_mm=order.wish.dimensions_mm))
        for way in misfit.ways_out
    )
    return replace(misfit, ways_out=tuple(ways))


def placed_on(found: SetUp, layout: Layout, order: SheetOrder) -> list[list[PlacedDimension]]:
    """Return the sizes of the parts whose drawings stand on a page."""
    items, sized = _on(found, layout)
    return dimensioned(items, layout, sized, order.wish, order.unit, order.sizes)


def _on(found: SetUp, layout: Layout) -> tuple[list[Item], list[Sized]]:
    """Return the drawings that stand on a page, and the sizes of their parts."""
    there = {at.figure for at in layout.placed}
    items = [item for item in found.items if item.figure in there]
    sized = [
        replace(one.sized, figures=tuple(name for name in one.sized.figures if name in there))
        for one in found.sizes
    ]
    return items, sized


def good_places_on(found: SetUp, layout: Layout, order: SheetOrder, key: str) -> GoodPlaces:
    """Return where on a page a dimension may be dragged to."""
    items, sized = _on(found, layout)
    drawn = places_to_drag(key, items, layout, sized, order.wish, order.unit, order.sizes)
    return GoodPlaces(key, tuple(GoodPlace(_middle(one), one.inks, one.words) for one in drawn))


def _middle(one: Drawn) -> Vec2:
    """Return the middle of the words of a dimension, by which its place is told."""
    return one.room.centroid.x, one.room.centroid.y


def told(
    found: SetUp, placed: Sequence[Sequence[PlacedDimension]], wishes: Sequence[SizeWish] = ()
) -> SizesTold:
    """Return what the sizes on a sheet tell, in lines; those in brackets tell nothing."""
    lines: list[str] = []
    aside = {wish.key for wish in wishes if wish.reference}
    for one, own in zip(found.sizes, placed, strict=True):
        stated = [each.dimension for each in own if each.dimension.key not in aside]
        closing: Closing = check(one.needs, stated)
        if not closing.is_complete:
            of = f" ({one.name})" if len(found.sizes) > 1 else ""
            lines += [f"{line}{of}" for line in closing.lines]
    count = sum(len(own) for own in placed)
    over = sum(each.overlaps > 0 for own in placed for each in own)
    shown = tuple(
        PlacedSize(
            each.dimension.key, each.drawn.words.text, each.drawn.room.bounds, one.sized.figures[0]
        )
        for one, own in zip(found.sizes, placed, strict=True)
        for each in own
    )
    there = {each.key for each in shown}
    lost = tuple(wish.key for wish in wishes if wish.key not in there)
    return SizesTold(tuple(lines), count, over, shown, lost)


def no_sizes(order: SheetOrder) -> SizesTold:
    """Return what is missing on a sheet without sizes."""
    bare = SetUp((), order.wish, tuple(sizes_of(order)))
    return told(bare, [[] for _ in bare.sizes])
