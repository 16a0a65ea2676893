"""The three orthographic views as projections like any other."""

from __future__ import annotations

from holoptic.curves.vectors import Vec2, Vec3, apply
from holoptic.pictorial import Picture, View, draw
from holoptic.solid.pieces import Seen

FRONT = View("front", "front view", None, ((1.0, 0.0, 0.0), (0.0, 0.0, 1.0)), (0.0, -1.0, 0.0))
TOP = View("top", "top view", None, ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0)), (0.0, 0.0, 1.0))
RIGHT = View("right", "right-side view", None, ((0.0, 1.0, 0.0), (0.0, 0.0, 1.0)), (1.0, 0.0, 0.0))

_VIEWS = {view.kind: view for view in (FRONT, TOP, RIGHT)}
VIEW_NAMES = tuple(_VIEWS)
VIEW_TITLES = {name: view.title for name, view in _VIEWS.items()}


def view_directions() -> tuple[Vec3, ...]:
    """Return the directions that the three views are looked at from."""
    return tuple(view.toward_viewer for view in _VIEWS.values())


def orthographic(seen: Seen) -> dict[str, Picture]:
    """Return the views by name. Raises KeyError if their directions were not looked along."""
    return {name: draw(seen.look(view.toward_viewer), view) for name, view in _VIEWS.items()}


def paper_point(name: str, point: Vec3) -> Vec2:
    """Return where a point of the part lies in the view called `name`, in that view's own mm."""
    return apply(_VIEWS[name].matrix, point)
