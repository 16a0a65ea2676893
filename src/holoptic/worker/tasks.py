"""The questions that the worker process can be asked, by name.

All long work is done here, off the window's thread: solids, hidden lines, pictures and plans.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any

from holoptic.catalogue import tr
from holoptic.construction.cards import make_card
from holoptic.construction.intended import Intended
from holoptic.curves.vectors import Vec3
from holoptic.errors import BadInput, HolopticError, PartError
from holoptic.job import (
    Angle,
    Orthographic,
    Posed,
    SheetOrder,
    Spread,
    Strategy,
    TitleBlock,
    ViewSet,
)
from holoptic.keeping import Cache, about
from holoptic.part import ImportedSolid, Part, Whole
from holoptic.part.advice import advise
from holoptic.pictorial import Picture, View, draw, view_of
from holoptic.pictorial.proposal import appraise
from holoptic.plan import Proof, prove
from holoptic.plan.builder import STEADY, crate_bounds, make_plan_and_paper, start_on_picture
from holoptic.plan.hand import Hand
from holoptic.plan.in_views.bands import with_whole_gaps
from holoptic.plan.in_views.planner import ViewsMeant, make_views_plan, start_of_views
from holoptic.plan.proof import compare
from holoptic.plan.strategies import ORDERS, STRATEGY_TITLES, strategy_title
from holoptic.progress import tell
from holoptic.sheet import compose, picture_item, plan_setup, views_item
from holoptic.sheet.details import with_details
from holoptic.sheet.drawing import Drawing
from holoptic.sheet.frames import above_mm
from holoptic.sheet.planning import ANSWERS, Item, Layout, best_layout, plan_sheet
from holoptic.sheet.sheet_list import ListedSheet, list_pages
from holoptic.solid.making.runs import make_ready as make_part_ready
from holoptic.solid.pieces import Seen, SolidFacts
from holoptic.solid.shelf import (
    inspect,
    list_assembly,
    list_solids,
    look,
    sound_part,
)
from holoptic.solid.shelf import save_step as write_step
from holoptic.spread.parts_list import ListedPart
from holoptic.units.spoken import said
from holoptic.views import PlacedView, lay_out, orthographic, view_directions
from holoptic.worker.finishing import finish_of
from holoptic.worker.messages import (
    Advised,
    Appraised,
    Candidate,
    Carded,
    Planned,
    Presented,
    SheetPlanned,
    SheetSet,
    Shelved,
    SizesTold,
    Viewed,
    WayCompared,
    WaysCompared,
)
from holoptic.worker.shades import shades_on
from holoptic.worker.sizing import SetUp, as_asked, no_sizes, note_of, placed_on, set_up, told
from holoptic.worker.spreading import (
    arrange,
    draw_whole_apart,
    list_parts,
    order_parts,
    propose_spreads,
    sound_whole,
)


def present(posed: Posed) -> Presented:
    """Return the picture of what can be made of a figure's part.

    Raises PartError where that is nothing, or BadInput.
    """
    view = _view(posed)
    made, troubles = _sound(posed)
    seen = _look(made, (view.toward_viewer,))
    picture = draw(seen.look(view.toward_viewer), view)
    return Presented(made, troubles, seen.facts, picture)


def show_views(posed: Posed, views: ViewSet = "three", angle: Angle = "third") -> Viewed:
    """Return the views of what can be made of a figure's part; raises as `present` does."""
    made = _sound(posed)[0]
    seen = _look(made, view_directions(views))
    placed = _placed(made, seen, views, angle)
    return Viewed(placed, angle, seen.facts.low, seen.facts.high)


def make_ready(posed: Posed, operation: int) -> None:
    """Prepare for an edit of one operation."""
    if isinstance(posed.source, Part):
        with about(posed.figure.subject):
            make_part_ready(posed.source, operation)


def save_step(posed: Posed, path: str) -> None:
    """Write the solid of a figure's part as a STEP file. Raises PartError or BadInput."""
    made = _settled(posed)
    with about(posed.figure.subject):
        write_step(made.source, path)


def _look(posed: Posed, directions: tuple[Vec3, ...]) -> Seen:
    """Return what is seen of a figure's part; what is found out is kept for that part."""
    with about(posed.figure.subject):
        return look(posed.source, directions)


def _sound(posed: Posed) -> tuple[Posed, tuple[PartError, ...]]:
    """Return a figure with what can be made of its subject, drawn apart where that is asked."""
    if isinstance(posed.source, Whole):
        with about(posed.figure.subject):
            whole, troubles = sound_whole(posed.source)
            if posed.spread is not None:
                toward = _view(posed).toward_viewer
                whole = draw_whole_apart(whole, posed.spread, toward).at(posed.share)
        return posed.with_source(whole), troubles
    if not isinstance(posed.source, Part):
        return posed, ()
    with about(posed.figure.subject):
        source, troubles = sound_part(posed.source)
    return (posed.with_source(source) if troubles else posed), troubles


def _settled(posed: Posed) -> Posed:
    """Return a figure whose subject stands as it is drawn; a part is taken as it is."""
    return _sound(posed)[0] if isinstance(posed.source, Whole) else posed


_views: Cache[object, tuple[SolidFacts, tuple[PlacedView, ...]]] = Cache(
    "views laid out, by part, number and angle", 24, "a change of kind leaves them", 8
)


def _placed(posed: Posed, seen: Seen, views: ViewSet, angle: Angle) -> tuple[PlacedView, ...]:
    """Return the views of a figure's part; the last few are kept."""
    key = posed.source, views, angle
    with about(posed.figure.subject):
        known = _views.get(key)
        # the facts stay the same object for as long as the solid was not built or read afresh
        if known is None or known[0] is not seen.facts:
            known = _views.keep(key, (seen.facts, lay_out(orthographic(seen, views), angle)))
    return known[1]


def sheet(order: SheetOrder, title: TitleBlock) -> SheetPlanned:
    """Return how the figures of a sheet are laid out.

    What is taken already stays first among the answers; the others are free of it.
    """
    found = _set_up(order)
    items, wish = found.items, found.wish
    layouts, misfit = plan_sheet(items, wish)
    if misfit is None:
        others, _ = plan_sheet(items, replace(wish, paper=None, upright=None, scale=None))
        layouts = tuple(dict.fromkeys((layouts[0], *others)))[:ANSWERS]
    placed = [placed_on(found, layout, order) if found.sizes else [] for layout in layouts]
    pages = tuple(
        compose(
            [item for item in items if any(item.figure == at.figure for at in layout.placed)],
            layout, title, wish, sizes, shades_on(order, items, layout), note_of(order),
        ).drawing
        for layout, sizes in zip(layouts, placed, strict=True)
    )  # fmt: skip
    sizes = told(found, placed[0], order.sizes) if found.sizes and misfit is None else None
    misfit = as_asked(misfit, order)
    return SheetPlanned(items, None if misfit else layouts[0], layouts, pages, misfit, sizes)


def sheet_set(wanted: Sequence[tuple[SheetOrder, TitleBlock]]) -> SheetSet:
    """Return all sheets of a job, with a list of them before where there are several.

    One that cannot be drawn is left out, and told.
    """
    pages: list[Drawing] = []
    rows: list[ListedSheet] = []
    troubles: list[str] = []
    for number, (order, title) in enumerate(wanted):
        tell(tr("drawing sheet {sheet}", sheet=title.sheet), number / len(wanted))
        try:
            made = sheet(order, title)
            why = "" if made.misfit is None else said(str(made.misfit), order.unit)
        except HolopticError as error:
            made, why = None, error.said(order.unit)
        layout = made.layout if made is not None else None
        if made is None or layout is None:
            troubles.append(tr("sheet {sheet}: {why}", sheet=title.sheet, why=why))
        else:
            pages.append(made.pages[0])
        paper, scale = (layout.paper.title, layout.scale_text) if layout else (tr("not drawn"), "")
        rows.append(ListedSheet(title.sheet, title.part, title.number, paper, scale,
                                title.revision, title.date))  # fmt: skip
    if len(wanted) > 1:
        pages[:0] = list_pages(rows, wanted[0][1].work, wanted[0][1].drawn_by)
    return SheetSet(tuple(pages), tuple(troubles))


def check_sizes(order: SheetOrder) -> SizesTold:
    """Return whether the sizes on a sheet suffice to make its parts.

    Raises BadInput where nothing fits, or where no single part stands on the sheet.
    """
    if all(isinstance(posed.source, Whole) for posed in order.posed):
        raise BadInput(tr("an arrangement has no sizes of its own: check the sheets of its parts"))
    if order.wish.dimensions == "none":
        return no_sizes(order)
    found = _set_up(order)
    layout = best_layout(found.items, found.wish)
    return told(found, placed_on(found, layout, order), order.sizes)


_set_ups: Cache[SheetOrder, SetUp] = Cache(
    "sheets with their sizes, by what is asked", 6, "sheet, plan and check ask for the same", 2
)


def _set_up(order: SheetOrder) -> SetUp:
    """Return what is to stand on a sheet; with sizes the last ones are kept."""
    known = None
    # a file may be another one by now
    is_steady = all(not isinstance(posed.source, ImportedSolid) for posed in order.posed)
    if order.wish.dimensions == "auto" and is_steady:
        known = _set_ups.get(order)
    if known is None:
        known = set_up(order, lambda apart: _items(order, apart))
        if known.sizes and is_steady:
            _set_ups.keep(order, known)
    return known


def _items(order: SheetOrder, apart: float | None = None) -> tuple[Item, ...]:
    """Return the figures of a sheet as drawings to be placed, in their order.

    Orthographic views stand `apart` mm from each other, at 1:1; None: as usual.
    """
    several = len({posed.figure.subject for posed in order.posed}) > 1
    items = []
    for posed in order.posed:
        item = _item(posed, order, apart)
        if several:
            item = replace(item, title=f"{posed.source.name}, {item.title}")
        above = above_mm(order.own_fields, order.revisions)
        item = replace(item, above_mm=above, at=posed.figure.at)
        items += with_details(item, posed.figure)
    return tuple(items)


def _item(posed: Posed, order: SheetOrder, apart: float | None) -> Item:
    made, figure = _sound(posed)[0], posed.figure
    if isinstance(figure.view, Orthographic):
        views = figure.view.views or order.views
        placed = _placed(made, _look(made, view_directions(views)), views, order.angle)
        if apart is not None:
            placed = lay_out({view.name: view.picture for view in placed}, order.angle, apart)
        item = views_item(placed, order.angle, figure.id, figure.lines, figure.scale)
        return replace(item, names=_names(made))
    seen, picture = _picture(made, _view(made))
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


_NO_TITLE = TitleBlock("", "")


def plan(
    order: SheetOrder, figure_id: str, hand: Hand = STEADY, title: TitleBlock = _NO_TITLE
) -> Planned:
    """Return the plan of a figure, set up on its sheet; `title` is lettered where that is asked.

    Raises BadInput without room.
    """
    return _planned(order, figure_id, hand, title)[0]


def verify(order: SheetOrder, figure_id: str, title: TitleBlock = _NO_TITLE) -> Proof:
    """Let the virtual drafter draw a figure's plan and compare. Raises DraftingError."""
    planned, meant = _planned(order, figure_id, STEADY, title)
    if isinstance(meant, ViewsMeant):
        return compare(planned.plan, meant.wanted, meant.worst)
    return prove(planned.plan, meant, planned.start)


def compare_ways(order: SheetOrder, figure_id: str, hand: Hand = STEADY) -> WaysCompared:
    """Return what each way of working on a figure costs, and the errors to expect of it."""
    found = []
    posed = order.of(figure_id)
    ways: list[Strategy | None] = [*STRATEGY_TITLES] if posed.figure.is_pictorial else [None]
    tried = [(strategy, sequence) for strategy in ways for sequence in ORDERS]
    for number, (strategy, sequence) in enumerate(tried):
        tell(
            tr("comparing the ways, {strategy_titles}", strategy_titles=strategy_title(strategy)),
            number / len(tried),
        )
        by_hand = replace(posed.figure.by_hand, strategy=strategy, order=sequence)
        other = replace(posed, figure=replace(posed.figure, by_hand=by_hand))
        made = _planned(order.with_posed(other), figure_id, hand)[0].plan
        if made.way and made.effort and made.budget:
            found.append(WayCompared(made.way, len(made.moves), made.effort, made.budget))
    return WaysCompared(figure_id, tuple(found))


def _planned(
    order: SheetOrder, figure_id: str, hand: Hand, title: TitleBlock = _NO_TITLE
) -> tuple[Planned, Intended | ViewsMeant]:
    posed, _ = _sound(order.of(figure_id))
    figure = posed.figure
    ready = _set_up(order)
    items, layout = ready.items, best_layout(ready.items, ready.wish)
    draws_border = order.wish.frame == "draw" and figure_id == order.first_drawn
    if not figure.is_pictorial:
        return _views_planned(posed, order, ready, layout, draws_border, hand, title)
    seen, picture = _picture(posed, _view(posed))
    start = start_on_picture(posed.source, seen.facts, picture)
    setup = plan_setup(layout, figure_id, start, draws_border, items)
    item = next(item for item in items if item.figure == figure_id)
    finish = finish_of(order, ready, layout, setup, item, [(0.0, 0.0)], start, title)
    setup = replace(setup, finish=finish)
    intended = Intended(posed.source, seen.facts, picture, figure.by_hand, setup.scale)
    made, drafted = make_plan_and_paper(intended, setup, hand)
    return Planned(figure_id, made, layout, start, drafted), intended


def _views_planned(
    posed: Posed, order: SheetOrder, ready: SetUp, layout: Layout, draws_border: bool, hand: Hand,
    title: TitleBlock,
) -> tuple[Planned, ViewsMeant]:  # fmt: skip
    """Return the plan of views as they are laid out on a sheet."""
    figure = posed.figure
    item = next(item for item in ready.items if item.figure == figure.id)
    placed = tuple(PlacedView(picture.view.kind, picture, at) for picture, at in item.pictures)
    facts = _look(posed, (placed[0].picture.view.toward_viewer,)).facts
    low, high = crate_bounds(posed.source, facts)
    placed = with_whole_gaps(placed, low, high, layout.of(figure.id).scale)
    start = start_of_views(placed, low)
    setup = plan_setup(layout, figure.id, start, draws_border, ready.items)
    origins = [view.origin for view in placed]
    finish = finish_of(order, ready, layout, setup, item, origins, start, title)
    setup = replace(setup, finish=finish)
    meant = ViewsMeant(posed.source, placed, low, high, figure.lines, figure.by_hand, setup)
    made, drafted = make_views_plan(meant, hand)
    return Planned(figure.id, made, layout, start, drafted), meant


def _picture(posed: Posed, view: View) -> tuple[Seen, Picture]:
    seen = _look(posed, (view.toward_viewer,))
    return seen, draw(seen.look(view.toward_viewer), view)


def shelve(posed: Posed) -> Shelved:
    """Return the picture of what can be made of a figure's part."""
    try:
        return Shelved(posed.id, _picture(_sound(posed)[0], _view(posed))[1])
    except HolopticError:
        return Shelved(posed.id, None)


def advice(posed: Posed, limit_mm: float) -> Advised:
    """Return what a careful drafter would ask about a figure's part. Raises PartError."""
    if not isinstance(posed.source, Part):
        return Advised(())
    with about(posed.figure.subject):
        volumes, walls = inspect(posed.source)
    return Advised(advise(posed.source, volumes, walls, limit_mm))


def card(order: SheetOrder, figure_id: str, edge: int) -> Carded:
    """Return the construction card of an edge of a figure, at its scale on its sheet."""
    posed = _settled(order.of(figure_id))
    seen, picture = _picture(posed, _view(posed))
    found = _set_up(order)
    layouts, misfit = plan_sheet(found.items, found.wish)
    scale = layouts[0].of(figure_id).scale if misfit is None else posed.figure.scale or 1.0
    made = make_card(posed.source, seen.facts, picture, posed.figure.by_hand, scale, edge)
    return Carded(figure_id, edge, made, scale)


def candidate(posed: Posed, kind: str, corner: str) -> Candidate:
    """Return a figure's picture as it would be in another kind, from another corner."""
    made = _settled(posed.seen(kind, corner))
    return Candidate(posed.id, (kind, corner), _picture(made, view_of(kind, corner))[1])


def appraise_kind(posed: Posed, kind: str, corners: tuple[str, ...]) -> Appraised:
    """Return what a part shows in one kind, from each of some near corners."""
    views = [view_of(kind, corner) for corner in corners]
    seen = _look(_settled(posed), tuple(view.toward_viewer for view in views))
    found = []
    for view in views:
        one = seen.look(view.toward_viewer)
        found.append(appraise(seen.facts, one, draw(one, view)))
    return Appraised(tuple(found))


def _later(name: str) -> Callable[..., Any]:
    """Return a task of reading; what reading needs is loaded when it is first asked for."""

    def task(*arguments: Any) -> Any:
        from holoptic.worker import reading_tasks  # noqa: PLC0415

        return getattr(reading_tasks, name)(*arguments)

    return task


TASKS: dict[str, Callable[..., Any]] = {
    "look": look,
    "list_solids": list_solids,
    "list_assembly": list_assembly,
    "present": present,
    "show_views": show_views,
    "make_ready": make_ready,
    "sheet": sheet,
    "sheet_set": sheet_set,
    "check_sizes": check_sizes,
    "plan": plan,
    "compare_ways": compare_ways,
    "verify": verify,
    "shelve": shelve,
    "advice": advice,
    "card": card,
    "candidate": candidate,
    "appraise_kind": appraise_kind,
    "save_step": save_step,
    "order_parts": order_parts,
    "arrange": arrange,
    "propose_spreads": propose_spreads,
    "open_sheet": _later("open_sheet"),
    "sheet_lines": _later("sheet_lines"),
    "read": _later("read"),
    "derive_views": _later("derive_views"),
    "check_sheet": _later("check_sheet"),
    "mend_views": _later("mend_views"),
    "begin_guide": _later("begin_guide"),
    "guide_on": _later("guide_on"),
}


def _view(posed: Posed) -> View:
    return view_of(posed.figure.kind, posed.figure.corner)
