"""Plans of figures as they stand on their sheet: made, proved, judged and compared."""

from __future__ import annotations

from dataclasses import replace

from holoptic.catalogue import tr
from holoptic.construction.intended import Intended
from holoptic.job import Posed, SheetOrder, Strategy, TitleBlock
from holoptic.plan import Proof, prove
from holoptic.plan.best_way import best_plan
from holoptic.plan.builder import STEADY, crate_bounds, start_on_picture
from holoptic.plan.critic import criticise as read_critically
from holoptic.plan.hand import Hand
from holoptic.plan.in_views.bands import with_whole_gaps
from holoptic.plan.in_views.planner import ViewsMeant, make_views_plan, start_of_views
from holoptic.plan.levels import Levels
from holoptic.plan.proof import compare
from holoptic.plan.strategies import ORDERS, STRATEGY_TITLES, strategy_title
from holoptic.progress import tell
from holoptic.sheet import plan_setup
from holoptic.sheet.planning import Layout, best_layout
from holoptic.views import PlacedView, orthographic, view_directions
from holoptic.worker.criticism import sitting_of
from holoptic.worker.figures import look_at, picture_of, set_up_of
from holoptic.worker.finishing import finish_of
from holoptic.worker.messages import Criticised, Planned, WayCompared, WaysCompared
from holoptic.worker.settling import sound, view_in
from holoptic.worker.sizing import SetUp

_NO_TITLE = TitleBlock("", "")


def plan(
    order: SheetOrder, figure_id: str, hand: Hand = STEADY, title: TitleBlock = _NO_TITLE
) -> Planned:
    """Return the plan of a figure, set up on its sheet; `title` is lettered where that is asked.

    Raises BadInput without room.
    """
    return planned_and_meant(order, figure_id, hand, title)[0]


def verify(order: SheetOrder, figure_id: str, title: TitleBlock = _NO_TITLE) -> Proof:
    """Let the virtual drafter draw a figure's plan and compare. Raises DraftingError."""
    planned, meant = planned_and_meant(order, figure_id, STEADY, title)
    if isinstance(meant, ViewsMeant):
        return compare(planned.plan, meant.wanted, meant.worst)
    return prove(planned.plan, meant, planned.start)


def criticise(
    order: SheetOrder, figure_id: str, hand: Hand = STEADY, title: TitleBlock = _NO_TITLE
) -> Criticised:
    """Let the critic read a figure's plan. Raises BadInput without room."""
    posed, _ = sound(order.of(figure_id))
    plan = planned_and_meant(order, figure_id, hand, title)[0].plan
    picture = picture_of(posed, view_in(posed))[1] if posed.figure.is_pictorial else None
    views = orthographic(look_at(posed, view_directions("three")), "three")
    return Criticised(figure_id, tuple(read_critically(sitting_of(plan, posed, picture, views))))


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
        made = planned_and_meant(order.with_posed(other), figure_id, hand)[0].plan
        if made.way and made.effort and made.budget:
            found.append(WayCompared(made.way, len(made.moves), made.effort, made.budget))
    return WaysCompared(figure_id, tuple(found))


def planned_and_meant(
    order: SheetOrder, figure_id: str, hand: Hand, title: TitleBlock = _NO_TITLE
) -> tuple[Planned, Intended | ViewsMeant]:
    """Return a figure's plan on its sheet, and what the plan is to draw.

    Raises BadInput without room.
    """
    posed, _ = sound(order.of(figure_id))
    figure = posed.figure
    ready = set_up_of(order)
    items, layout = ready.items, best_layout(ready.items, ready.wish)
    draws_border = order.wish.frame == "draw" and figure_id == order.first_drawn
    if not figure.is_pictorial:
        return _views_planned(posed, order, ready, layout, draws_border, hand, title)
    seen, picture = picture_of(posed, view_in(posed))
    start = start_on_picture(posed.source, seen.facts, picture)
    setup = plan_setup(layout, figure_id, start, draws_border, items)
    item = next(item for item in items if item.figure == figure_id)
    finish = finish_of(order, ready, layout, setup, item, [(0.0, 0.0)], start, title)
    setup = replace(setup, finish=finish)
    intended = Intended(posed.source, seen.facts, picture, figure.by_hand, setup.scale,
                        figure.lines)  # fmt: skip
    levels = Levels(
        lambda: orthographic(look_at(posed, view_directions("three")), "three")
    )  # found where a distance is wanted that nobody gave
    made, drafted = best_plan(intended, setup, hand, levels)
    return Planned(figure_id, made, layout, start, drafted), intended


def _views_planned(
    posed: Posed, order: SheetOrder, ready: SetUp, layout: Layout, draws_border: bool, hand: Hand,
    title: TitleBlock,
) -> tuple[Planned, ViewsMeant]:  # fmt: skip
    """Return the plan of views as they are laid out on a sheet."""
    figure = posed.figure
    item = next(item for item in ready.items if item.figure == figure.id)
    placed = tuple(PlacedView(picture.view.kind, picture, at) for picture, at in item.pictures)
    facts = look_at(posed, (placed[0].picture.view.toward_viewer,)).facts
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
