"""The questions that the worker process can be asked, by name.

All long work is done here, off the window's thread: solids, hidden lines, pictures and plans.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from holoptic.construction.cards import make_card
from holoptic.construction.intended import Intended
from holoptic.errors import HolopticError, PartError
from holoptic.job import Angle, JobPart, ViewSet
from holoptic.part import Part, Source
from holoptic.part.advice import advise
from holoptic.pictorial import Picture, View, draw, view_of
from holoptic.pictorial.proposal import appraise
from holoptic.plan import Proof, prove
from holoptic.plan.builder import STEADY, make_plan_and_paper, start_on_picture
from holoptic.plan.hand import Hand
from holoptic.plan.strategies import ORDERS, STRATEGY_TITLES
from holoptic.progress import tell
from holoptic.sheet import TitleBlock, compose, picture_item, plan_setup, views_item
from holoptic.sheet.planning import ANSWERS, VIEWS, Item, best_layout, plan_sheet
from holoptic.solid.pieces import Seen, SolidFacts
from holoptic.solid.shelf import (
    inspect,
    list_solids,
    look,
    make_ready_for_edit,
    save_step,
    sound_part,
)
from holoptic.views import PlacedView, lay_out, orthographic, view_directions
from holoptic.worker.messages import (
    Advised,
    Appraised,
    Candidate,
    Carded,
    Planned,
    Presented,
    SheetPlanned,
    Shelved,
    Viewed,
    WayCompared,
    WaysCompared,
)


def present(part: JobPart) -> Presented:
    """Return the picture of what can be made of a part.

    Raises PartError where that is nothing, or BadInput.
    """
    view = _view(part)
    made, troubles = _sound(part)
    seen = look(made.source, (view.toward_viewer,))
    picture = draw(seen.look(view.toward_viewer), view)
    return Presented(part, made, troubles, seen.facts, picture)


def show_views(part: JobPart, views: ViewSet = "three", angle: Angle = "third") -> Viewed:
    """Return the views of what can be made of a part; raises as `present` does."""
    source = _sound(part)[0].source
    seen = look(source, view_directions(views))
    return Viewed(part, _placed(source, seen, views, angle), angle)


def make_ready(part: JobPart, operation: int) -> None:
    """Prepare for an edit of one operation and for its picture."""
    if isinstance(part.source, Part):
        make_ready_for_edit(part.source, operation, _view(part).toward_viewer)


def _sound(part: JobPart) -> tuple[JobPart, tuple[PartError, ...]]:
    if not isinstance(part.source, Part):
        return part, ()
    source, troubles = sound_part(part.source)
    return (replace(part, source=source) if troubles else part), troubles


_KEPT_VIEWS = 8

_kept_views: OrderedDict[object, tuple[SolidFacts, tuple[PlacedView, ...]]] = OrderedDict()


def _placed(source: Source, seen: Seen, views: ViewSet, angle: Angle) -> tuple[PlacedView, ...]:
    """Return the views of a part; the last few are kept, as a change of kind leaves them."""
    key = source, views, angle
    # the facts stay the same object for as long as the solid was not built or read afresh
    if key not in _kept_views or _kept_views[key][0] is not seen.facts:
        _kept_views[key] = seen.facts, lay_out(orthographic(seen, views), angle)
        if len(_kept_views) > _KEPT_VIEWS:
            _kept_views.popitem(last=False)
    return _kept_views[key][1]


def sheet(
    part: JobPart, title: TitleBlock, views: ViewSet = "three", angle: Angle = "third"
) -> SheetPlanned:
    """Return how the part's picture and what is to stand beside it are laid out on a sheet.

    What is taken already stays first among the answers; the others are free of it.
    """
    choice, items = part.choice, _items(part, views, angle)
    layouts, misfit = plan_sheet(items, choice.sheet)
    if misfit is None:
        others, _ = plan_sheet(items, replace(choice.sheet, paper=None, upright=None, scale=None))
        layouts = tuple(dict.fromkeys((layouts[0], *others)))[:ANSWERS]
    pages = tuple(
        compose(
            [item for item in items if any(item.name == at.name for at in layout.placed)],
            layout, title, choice, angle,
        ).drawing
        for layout in layouts
    )  # fmt: skip
    return SheetPlanned(part, items, None if misfit else layouts[0], layouts, pages, misfit)


def _items(part: JobPart, views: ViewSet, angle: Angle) -> tuple[Item, ...]:
    """Return the drawings of a sheet in an order that stays whichever of them is in hand."""
    choice = part.choice
    names = dict.fromkeys((choice.kind, *choice.sheet.company))
    items = []
    for name in sorted(names, key=lambda name: (name != VIEWS, name)):
        if name == VIEWS:
            seen = look(part.source, view_directions(views))
            items.append(views_item(_placed(part.source, seen, views, angle), angle))
        else:
            items.append(picture_item(_picture(part.source, view_of(name, choice.corner))[1]))
    return tuple(items)


def plan(
    part: JobPart, hand: Hand = STEADY, views: ViewSet = "three", angle: Angle = "third"
) -> Planned:
    """Return the plan of a part's picture, set up on its sheet. Raises BadInput without room."""
    return _planned(part, hand, views, angle)[0]


def verify(part: JobPart, views: ViewSet = "three", angle: Angle = "third") -> Proof:
    """Let the virtual drafter draw a part's plan and compare. Raises DraftingError."""
    planned, intended = _planned(part, STEADY, views, angle)
    return prove(planned.plan, intended, planned.start)


def compare_ways(
    part: JobPart, hand: Hand = STEADY, views: ViewSet = "three", angle: Angle = "third"
) -> WaysCompared:
    """Return what each way of working on a part costs, and the errors to expect of it."""
    found = []
    tried = [(strategy, order) for strategy in STRATEGY_TITLES for order in ORDERS]
    for number, (strategy, order) in enumerate(tried):
        tell(f"comparing the ways, {STRATEGY_TITLES[strategy]}", number / len(tried))
        by_hand = replace(part.choice.by_hand, strategy=strategy, order=order)
        other = replace(part, choice=replace(part.choice, by_hand=by_hand))
        made = _planned(other, hand, views, angle)[0].plan
        if made.way and made.effort and made.budget:
            found.append(WayCompared(made.way, len(made.moves), made.effort, made.budget))
    return WaysCompared(part, tuple(found))


def _planned(part: JobPart, hand: Hand, views: ViewSet, angle: Angle) -> tuple[Planned, Intended]:
    seen, picture = _picture(part.source, _view(part))
    start = start_on_picture(part.source, seen.facts, picture)
    wish = part.choice.sheet
    items = _items(part, views, angle) if wish.company else (picture_item(picture),)
    layout = best_layout(items, wish)
    setup = plan_setup(layout, picture.view.kind, start, wish)
    intended = Intended(part.source, seen.facts, picture, part.choice.by_hand, setup.scale)
    made, drafted = make_plan_and_paper(intended, setup, hand)
    return Planned(part, made, layout, start, drafted), intended


def _picture(source: Source, view: View) -> tuple[Seen, Picture]:
    seen = look(source, (view.toward_viewer,))
    return seen, draw(seen.look(view.toward_viewer), view)


def shelve(part: JobPart) -> Shelved:
    """Return the picture of what can be made of a part."""
    try:
        source = sound_part(part.source)[0] if isinstance(part.source, Part) else part.source
        return Shelved(part, _picture(source, _view(part))[1])
    except HolopticError:
        return Shelved(part, None)


def advice(part: JobPart, limit_mm: float) -> Advised:
    """Return what a careful drafter would ask about a part. Raises PartError."""
    if not isinstance(part.source, Part):
        return Advised(part, ())
    volumes, walls = inspect(part.source)
    return Advised(part, advise(part.source, volumes, walls, limit_mm))


def card(part: JobPart, edge: int) -> Carded:
    """Return the construction card of an edge at the scale of the part's own sheet."""
    seen, picture = _picture(part.source, _view(part))
    layouts, misfit = plan_sheet([picture_item(picture)], part.choice.sheet)
    scale = layouts[0].scale if misfit is None else 1.0
    made = make_card(part.source, seen.facts, picture, part.choice.by_hand, scale, edge)
    return Carded(part, edge, made, scale)


def candidate(part: JobPart, kind: str, corner: str) -> Candidate:
    """Return a part's picture as it would be in another kind, from another corner."""
    return Candidate(part, (kind, corner), _picture(part.source, view_of(kind, corner))[1])


def appraise_kind(part: JobPart, kind: str, corners: tuple[str, ...]) -> Appraised:
    """Return what a part shows in one kind, from each of some near corners."""
    views = [view_of(kind, corner) for corner in corners]
    seen = look(part.source, tuple(view.toward_viewer for view in views))
    found = []
    for view in views:
        one = seen.look(view.toward_viewer)
        found.append(appraise(seen.facts, one, draw(one, view)))
    return Appraised(part, tuple(found))


def _later(name: str) -> Callable[..., Any]:
    """Return a task of reading; what reading needs is loaded when it is first asked for."""

    def task(*arguments: Any) -> Any:
        from holoptic.worker import reading_tasks  # noqa: PLC0415

        return getattr(reading_tasks, name)(*arguments)

    return task


TASKS: dict[str, Callable[..., Any]] = {
    "look": look,
    "list_solids": list_solids,
    "present": present,
    "show_views": show_views,
    "make_ready": make_ready,
    "sheet": sheet,
    "plan": plan,
    "compare_ways": compare_ways,
    "verify": verify,
    "shelve": shelve,
    "advice": advice,
    "card": card,
    "candidate": candidate,
    "appraise_kind": appraise_kind,
    "save_step": save_step,
    "open_sheet": _later("open_sheet"),
    "sheet_lines": _later("sheet_lines"),
    "read": _later("read"),
    "derive_views": _later("derive_views"),
    "check_sheet": _later("check_sheet"),
    "mend_views": _later("mend_views"),
    "begin_guide": _later("begin_guide"),
    "guide_on": _later("guide_on"),
}


def _view(part: JobPart) -> View:
    return view_of(part.choice.kind, part.choice.corner)
