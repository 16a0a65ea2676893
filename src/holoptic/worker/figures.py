"""The figures of a sheet as drawings: what is seen of them, their views, their places and sizes."""

from __future__ import annotations

from dataclasses import replace

from holoptic.curves.vectors import Vec3
from holoptic.job import Angle, Orthographic, Posed, SheetOrder, Spread, ViewSet
from holoptic.keeping import Cache, about
from holoptic.part import ImportedSolid, Whole
from holoptic.pictorial import Picture, View, draw
from holoptic.plan.builder import start_on_picture
from holoptic.sheet import picture_item, views_item
from holoptic.sheet.details import with_details
from holoptic.sheet.frames import above_mm
from holoptic.sheet.planning import Item
from holoptic.solid.pieces import Seen, SolidFacts
from holoptic.solid.shelf import look
from holoptic.spread.parts_list import ListedPart
from holoptic.views import PlacedView, orthographic, view_directions
from holoptic.worker.sections import place_with_sections
from holoptic.worker.settling import sound, view_in
from holoptic.worker.sizing import SetUp, set_up
from holoptic.worker.spreading import list_parts


def look_at(posed: Posed, directions: tuple[Vec3, ...]) -> Seen:
    """Return what is seen of a figure's part; what is found out is kept for that part."""
    with about(posed.figure.subject):
        return look(posed.source, directions, posed.opening)


_views: Cache[object, tuple[SolidFacts, tuple[PlacedView, ...]]] = Cache(
    "views laid out, by part, number and angle", 24, "a change of kind leaves them", 8
)


def placed_views(posed: Posed, seen: Seen, views: ViewSet, angle: Angle) -> tuple[PlacedView, ...]:
    """Return the views of a figure's part; the last few are kept."""
    key = posed.source, views, angle, posed.figure.sections
    with about(posed.figure.subject):
        known = _views.get(key)
        # the facts stay the same object for as long as the solid was not built or read afresh
        if known is None or known[0] is not seen.facts:
            placed = place_with_sections(posed, orthographic(seen, views), angle)
            known = _views.keep(key, (seen.facts, placed))
    return known[1]


_set_ups: Cache[SheetOrder, SetUp] = Cache(
    "sheets with their sizes, by what is asked", 6, "sheet, plan and check ask for the same", 2
)


def set_up_of(order: SheetOrder) -> SetUp:
    """Return what is to stand on a sheet; with sizes the last ones are kept."""
    known = None
    # a file may be another one by now
    is_steady = all(
        not isinstance(posed.source, ImportedSolid) or posed.source.step for posed in order.posed
    )
    if order.wish.dimensions == "auto" and is_steady:
        known = _set_ups.get(order)
    if known is None:
        known = set_up(order, lambda apart: items_of(order, apart))
        if known.sizes and is_steady:
            _set_ups.keep(order, known)
    return known


def items_of(order: SheetOrder, apart: float | None = None) -> tuple[Item, ...]:
    """Return the figures of a sheet as drawings to be placed, in their order.

    Orthographic views stand `apart` mm from each other, at 1:1; None: as usual.
    """
    several = len({posed.figure.subject for posed in order.posed}) > 1
    items = []
    for posed in order.posed:
        item = _item(posed, order, apart)
        if several:
            item = replace(item, title=f"{posed.source.name}, {item.title}")
        above = above_mm(order.own_fields, order.revisions, order.notes)
        item = replace(item, above_mm=above, at=posed.figure.at)
        items += with_details(item, posed.figure)
    return tuple(items)


def _item(posed: Posed, order: SheetOrder, apart: float | None) -> Item:
    made, figure = sound(posed)[0], posed.figure
    if isinstance(figure.view, Orthographic):
        views = figure.view.views or order.views
        placed = placed_views(made, look_at(made, view_directions(views)), views, order.angle)
        if apart is not None:
            seen = look_at(made, view_directions(views))
            placed = place_with_sections(made, orthographic(seen, views), order.angle, apart)
        item = views_item(placed, order.angle, figure.id, figure.lines, figure.scale)
        return replace(item, names=_names(made))
    seen, picture = picture_of(made, view_in(made))
    start = start_on_picture(made.source, seen.facts, picture)
    listed = _listed(made) if figure.is_numbered else ()
    item = picture_item(picture, figure.id, figure.lines, figure.scale, listed)
    return replace(item, names=_names(made), start=start)


def _names(posed: Posed) -> tuple[str, ...]:
    source = posed.source
    return tuple(body.name for body in source.bodies) if isinstance(source, Whole) else ()


def _listed(posed: Posed) -> tuple[ListedPart, ...]:
    """Return the parts list of an arrangement, as its parts follow each other."""
    if not isinstance(posed.source, Whole):
        return ()
    with about(posed.figure.subject):
        return list_parts(posed.source, posed.spread or Spread())


def picture_of(posed: Posed, view: View) -> tuple[Seen, Picture]:
    """Return what is seen of a figure's part in a pictorial, and its picture."""
    seen = look_at(posed, (view.toward_viewer,))
    return seen, draw(seen.look(view.toward_viewer), view)
