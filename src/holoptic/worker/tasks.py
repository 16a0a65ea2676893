"""The questions that the worker process can be asked, by name.

All long work is done here, off the window's thread: solids, hidden lines, pictures and plans.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from typing import Any

from holoptic.construction.cards import make_card
from holoptic.construction.intended import Intended
from holoptic.job import Angle, JobPart, ViewSet
from holoptic.part import Source
from holoptic.pictorial import View, draw, view_of
from holoptic.pictorial.proposal import appraise
from holoptic.plan import Drafter, Proof, make_plan, prove
from holoptic.plan.builder import start_on_picture
from holoptic.sheet import plan_setup
from holoptic.solid.pieces import Seen, SolidFacts
from holoptic.solid.shelf import list_solids, look, save_step
from holoptic.views import PlacedView, lay_out, orthographic, view_directions
from holoptic.worker.messages import Appraised, Candidate, Carded, Planned, Presented


def present(part: JobPart, views: ViewSet = "three", angle: Angle = "third") -> Presented:
    """Return the views and the picture of a part. Raises PartError or BadInput."""
    view = _view(part)
    seen = look(part.source, (*view_directions(views), view.toward_viewer))
    placed = _placed(part.source, seen, views, angle)
    picture = draw(seen.look(view.toward_viewer), view)
    return Presented(part, seen.facts, placed, picture, angle)


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


def plan(part: JobPart) -> Planned:
    """Return the plan of a part's picture, set up on its sheet."""
    return _planned(part)[0]


def verify(part: JobPart) -> Proof:
    """Let the virtual drafter draw a part's plan and compare. Raises DraftingError."""
    planned, intended = _planned(part)
    return prove(planned.plan, intended, planned.start)


def _planned(part: JobPart) -> tuple[Planned, Intended]:
    view = _view(part)
    seen = look(part.source, (view.toward_viewer,))
    picture = draw(seen.look(view.toward_viewer), view)
    start = start_on_picture(part.source, seen.facts, picture)
    setup, paper = plan_setup(picture, start)
    intended = Intended(part.source, seen.facts, picture, part.choice.by_hand, setup.scale)
    made = make_plan(intended, setup)
    drafted = Drafter().carry_out(made.moves)
    return Planned(part, made, paper, start, drafted), intended


def card(part: JobPart, edge: int) -> Carded:
    """Return the construction card of an edge at the scale of the part's own sheet."""
    view = _view(part)
    seen = look(part.source, (view.toward_viewer,))
    picture = draw(seen.look(view.toward_viewer), view)
    setup, _ = plan_setup(picture, start_on_picture(part.source, seen.facts, picture))
    ways = part.choice.by_hand
    made = make_card(part.source, seen.facts, picture, ways, setup.scale, edge)
    return Carded(part, edge, made, setup.scale)


def candidate(part: JobPart, kind: str, corner: str) -> Candidate:
    """Return a part's picture as it would be in another kind, from another corner."""
    view = view_of(kind, corner)
    seen = look(part.source, (view.toward_viewer,))
    return Candidate(part, (kind, corner), draw(seen.look(view.toward_viewer), view))


def appraise_kind(part: JobPart, kind: str, corners: tuple[str, ...]) -> Appraised:
    """Return what a part shows in one kind, from each of some near corners."""
    views = [view_of(kind, corner) for corner in corners]
    seen = look(part.source, tuple(view.toward_viewer for view in views))
    found = []
    for view in views:
        one = seen.look(view.toward_viewer)
        found.append(appraise(seen.facts, one, draw(one, view)))
    return Appraised(part, tuple(found))


TASKS: dict[str, Callable[..., Any]] = {
    "look": look,
    "list_solids": list_solids,
    "present": present,
    "plan": plan,
    "verify": verify,
    "card": card,
    "candidate": candidate,
    "appraise_kind": appraise_kind,
    "save_step": save_step,
}


def _view(part: JobPart) -> View:
    return view_of(part.choice.kind, part.choice.corner)
