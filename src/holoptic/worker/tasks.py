"""The questions that the worker process can be asked, by name.

All long work is done here, off the window's thread: solids, hidden lines, pictures and plans.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from holoptic.job import Angle, JobPart, ViewSet
from holoptic.pictorial import View, draw, view_of
from holoptic.plan import make_plan
from holoptic.plan.builder import start_on_picture
from holoptic.sheet import plan_setup
from holoptic.solid.shelf import list_solids, look, save_step
from holoptic.views import lay_out, orthographic, view_directions
from holoptic.worker.messages import Candidate, Planned, Presented


def present(part: JobPart, views: ViewSet = "three", angle: Angle = "third") -> Presented:
    """Return the views and the picture of a part. Raises PartError or BadInput."""
    view = _view(part)
    seen = look(part.source, (*view_directions(views), view.toward_viewer))
    placed = lay_out(orthographic(seen, views), angle)
    picture = draw(seen.look(view.toward_viewer), view)
    return Presented(part, seen.facts, placed, picture, angle)


def plan(part: JobPart) -> Planned:
    """Return the plan of a part's picture, set up on its sheet."""
    view = _view(part)
    seen = look(part.source, (view.toward_viewer,))
    picture = draw(seen.look(view.toward_viewer), view)
    start = start_on_picture(part.source, seen.facts, picture)
    setup, paper = plan_setup(picture, start)
    return Planned(part, make_plan(part.source, seen.facts, picture, setup), paper, start)


def candidate(part: JobPart, kind: str, corner: str) -> Candidate:
    """Return a part's picture as it would be in another kind, from another corner."""
    view = view_of(kind, corner)
    seen = look(part.source, (view.toward_viewer,))
    return Candidate(part, (kind, corner), draw(seen.look(view.toward_viewer), view))


TASKS: dict[str, Callable[..., Any]] = {
    "look": look,
    "list_solids": list_solids,
    "present": present,
    "plan": plan,
    "candidate": candidate,
    "save_step": save_step,
}


def _view(part: JobPart) -> View:
    return view_of(part.choice.kind, part.choice.corner)
