"""The questions that the worker process can be asked, by name.

All long work is done here, off the window's thread: solids, hidden lines, pictures and plans.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from importlib import import_module
from typing import Any

from holoptic.catalogue import tr
from holoptic.construction.cards import make_card
from holoptic.errors import BadInput, HolopticError
from holoptic.job import Angle, Posed, SheetOrder, TitleBlock, ViewSet
from holoptic.keeping import about
from holoptic.part import Part, Whole
from holoptic.part.advice import advise
from holoptic.pictorial import draw, view_of
from holoptic.pictorial.proposal import appraise
from holoptic.progress import tell
from holoptic.sheet import compose
from holoptic.sheet.drawing import Drawing
from holoptic.sheet.planning import ANSWERS, best_layout, plan_sheet
from holoptic.sheet.sheet_list import ListedSheet, list_pages
from holoptic.solid.making.runs import make_ready as make_part_ready
from holoptic.solid.shelf import inspect, list_assembly, list_solids, look
from holoptic.solid.shelf import save_step as write_step
from holoptic.units.spoken import said
from holoptic.views import view_directions
from holoptic.worker.cutting import propose_cuts
from holoptic.worker.figures import look_at, picture_of, placed_views, set_up_of
from holoptic.worker.fitting import propose_spreads, settle_gaps
from holoptic.worker.messages import (
    Advised,
    Appraised,
    Candidate,
    Carded,
    GoodPlaces,
    Presented,
    SheetPlanned,
    SheetSet,
    Shelved,
    SizesTold,
    Viewed,
)
from holoptic.worker.planning import compare_ways, criticise, plan, verify
from holoptic.worker.sections import section_troubles
from holoptic.worker.settling import settled, sound, view_in
from holoptic.worker.shades import shades_on
from holoptic.worker.sizing import as_asked, good_places_on, no_sizes, note_of, placed_on, told
from holoptic.worker.spreading import arrange, order_parts


def present(posed: Posed) -> Presented:
    """Return the picture of what can be made of a figure's part.

    Raises PartError where that is nothing, or BadInput.
    """
    view = view_in(posed)
    made, troubles = sound(posed)
    seen = look_at(made, (view.toward_viewer,))
    picture = draw(seen.look(view.toward_viewer), view)
    return Presented(made, troubles, seen.facts, picture)


def show_views(posed: Posed, views: ViewSet = "three", angle: Angle = "third") -> Viewed:
    """Return the views of what can be made of a figure's part; raises as `present` does."""
    made = sound(posed.uncut())[0]
    seen = look_at(made, view_directions(views))
    placed = placed_views(made, seen, views, angle)
    return Viewed(placed, angle, seen.facts.low, seen.facts.high)


def make_ready(posed: Posed, operation: int) -> None:
    """Prepare for an edit of one operation."""
    if isinstance(posed.source, Part):
        with about(posed.figure.subject):
            make_part_ready(posed.source, operation)


def save_step(posed: Posed, path: str) -> None:
    """Write the solid of a figure's part as a STEP file. Raises PartError or BadInput."""
    made = settled(posed)
    with about(posed.figure.subject):
        write_step(made.source, path)


def sheet(order: SheetOrder, title: TitleBlock) -> SheetPlanned:
    """Return how the figures of a sheet are laid out.

    What is taken already stays first among the answers; the others are free of it.
    """
    found = set_up_of(order)
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
    return SheetPlanned(items, None if misfit else layouts[0], layouts, pages, misfit, sizes,
                        _cut_troubles(order))  # fmt: skip


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
            made = sheet(settle_gaps(order), title)
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
    found = set_up_of(order)
    layout = best_layout(found.items, found.wish)
    return told(found, placed_on(found, layout, order), order.sizes)


def good_places(order: SheetOrder, key: str) -> GoodPlaces:
    """Return where on its sheet a dimension may be dragged to.

    Raises BadInput where nothing fits.
    """
    found = set_up_of(order)
    return good_places_on(found, best_layout(found.items, found.wish), order, key)


def shelve(posed: Posed) -> Shelved:
    """Return the picture of what can be made of a figure's part."""
    try:
        return Shelved(posed.id, picture_of(sound(posed)[0], view_in(posed))[1])
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
    posed = settled(order.of(figure_id))
    seen, picture = picture_of(posed, view_in(posed))
    found = set_up_of(order)
    layouts, misfit = plan_sheet(found.items, found.wish)
    scale = layouts[0].of(figure_id).scale if misfit is None else posed.figure.scale or 1.0
    made = make_card(posed.source, seen.facts, picture, posed.figure.by_hand, scale, edge)
    return Carded(figure_id, edge, made, scale)


def candidate(posed: Posed, kind: str, corner: str) -> Candidate:
    """Return a figure's picture as it would be in another kind, from another corner."""
    made = settled(settle_gaps(posed.seen(kind, corner)))
    picture = picture_of(made, view_of(kind, corner))[1]
    source = made.source
    bodies = tuple(body.id for body in source.bodies) if isinstance(source, Whole) else ()
    return Candidate(posed.id, (kind, corner), picture, made.refused, bodies)


def require_cuts(order: SheetOrder) -> None:
    """Raise BadInput where a figure of a sheet cannot be cut as it is asked."""
    troubles = _cut_troubles(order)
    if troubles:
        raise BadInput("; ".join(troubles))


def _cut_troubles(order: SheetOrder) -> tuple[str, ...]:
    """Return what of a sheet's cuts and sections cannot be as it is asked, a line each."""
    troubles: list[str] = []
    for posed in order.posed:
        if posed.figure.is_pictorial and posed.figure.cut:
            refused = sound(posed)[0].refused
            words = posed.figure.cut
            troubles += [tr("cut “{words}”: {why}", words=words, why=refused)] if refused else []
        elif not posed.figure.is_pictorial and posed.figure.sections:
            troubles += section_troubles(settled(posed))
    return tuple(troubles)


def appraise_kind(posed: Posed, kind: str, corners: tuple[str, ...]) -> Appraised:
    """Return what a part shows in one kind, from each of some near corners."""
    views = [view_of(kind, corner) for corner in corners]
    found = []
    made = settled(posed)
    seen = look_at(made, tuple(view.toward_viewer for view in views))
    for view, corner in zip(views, corners, strict=True):
        if made.figure.cut:  # the near part goes, and that is another one
            made = settled(posed.seen(kind, corner))
            seen = look_at(made, (view.toward_viewer,))
        one = seen.look(view.toward_viewer)
        found.append(appraise(seen.facts, one, draw(one, view)))
    return Appraised(tuple(found))


def _later(name: str, room: str = "reading_tasks") -> Callable[..., Any]:
    """Return a task of another room; what it needs is loaded when it is first asked for."""

    def task(*arguments: Any) -> Any:
        return getattr(import_module(f"holoptic.worker.{room}"), name)(*arguments)

    return task


def perform(task: str, arguments: Sequence[Any]) -> Any:
    """Return the answer to a question; gaps that have to fit on a sheet are settled before."""
    return TASKS[task](*map(settle_gaps, arguments))


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
    "good_places": good_places,
    "plan": plan,
    "compare_ways": compare_ways,
    "criticise": criticise,
    "verify": verify,
    "shelve": shelve,
    "advice": advice,
    "card": card,
    "candidate": candidate,
    "require_cuts": require_cuts,
    "appraise_kind": appraise_kind,
    "save_step": save_step,
    "order_parts": order_parts,
    "arrange": arrange,
    "propose_spreads": propose_spreads,
    "propose_cuts": propose_cuts,
    "open_sheet": _later("open_sheet"),
    "read_figures": _later("read_figures"),
    "sheet_lines": _later("sheet_lines"),
    "read": _later("read"),
    "read_one_of": _later("read_one_of"),
    "correct": _later("correct"),
    "derive_views": _later("derive_views"),
    "check_sheet": _later("check_sheet"),
    "mend_views": _later("mend_views"),
    "begin_guide": _later("begin_guide"),
    "guide_on": _later("guide_on"),
    "check_drawn": _later("check_drawn", "checking_tasks"),
    "compare_drawn": _later("compare_drawn", "checking_tasks"),
    "show_picture": _later("show_picture", "checking_tasks"),
    "tell_distances": _later("tell_distances", "checking_tasks"),
    "explain_drawn": _later("explain_drawn", "checking_tasks"),
    "take_sheet": _later("take_sheet", "checking_tasks"),
    "take_printed": _later("take_printed", "checking_tasks"),
    "mark_sheet": _later("mark_sheet", "checking_tasks"),
    "make_exercise": _later("make_exercise", "practice_tasks"),
    "make_exercises": _later("make_exercises", "practice_tasks"),
}
