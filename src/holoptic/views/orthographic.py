"""The six orthographic views as projections like any other."""

from __future__ import annotations

from collections.abc import Sequence

from holoptic.catalogue import tr
from holoptic.curves.vectors import Matrix23, Vec2, Vec3, apply
from holoptic.job import ViewSet
from holoptic.pictorial import Picture, View, draw
from holoptic.solid.pieces import Seen


def _view(name: str, title: str, matrix: Matrix23, toward_viewer: Vec3) -> View:
    return View(name, title, None, matrix, toward_viewer)


_UP = (0.0, 0.0, 1.0)

VIEWS_BY_NAME = {
    view.kind: view
    for view in (
        _view("front", tr("front view"), ((1.0, 0.0, 0.0), _UP), (0.0, -1.0, 0.0)),
        _view("top", tr("top view"), ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0)), (0.0, 0.0, 1.0)),
        _view("right", tr("right-side view"), ((0.0, 1.0, 0.0), _UP), (1.0, 0.0, 0.0)),
        _view("left", tr("left-side view"), ((0.0, -1.0, 0.0), _UP), (-1.0, 0.0, 0.0)),
        _view("rear", tr("rear view"), ((-1.0, 0.0, 0.0), _UP), (0.0, 1.0, 0.0)),
        _view("bottom", tr("bottom view"), ((1.0, 0.0, 0.0), (0.0, -1.0, 0.0)), (0.0, 0.0, -1.0)),
    )
}
VIEW_NAMES = tuple(VIEWS_BY_NAME)
VIEW_TITLES = {name: view.title for name, view in VIEWS_BY_NAME.items()}
VIEW_SETS: dict[ViewSet, tuple[str, ...]] = {"three": VIEW_NAMES[:3], "six": VIEW_NAMES}


def view_directions(views: ViewSet = "three") -> tuple[Vec3, ...]:
    """Return the directions that the views of a set are looked at from."""
    return tuple(direction_of(name) for name in VIEW_SETS[views])


def direction_of(name: str) -> Vec3:
    """Return the direction that a view is looked at from."""
    return VIEWS_BY_NAME[name].toward_viewer


def pictures_of(seen: Seen, names: Sequence[str]) -> dict[str, Picture]:
    """Return views by their names. Raises KeyError if their directions were not looked along."""
    named = ((name, VIEWS_BY_NAME[name]) for name in names)
    return {name: draw(seen.look(view.toward_viewer), view) for name, view in named}


def orthographic(seen: Seen, views: ViewSet = "three") -> dict[str, Picture]:
    """Return the views of a set; raises as `pictures_of` does."""
    return pictures_of(seen, VIEW_SETS[views])


def paper_point(name: str, point: Vec3) -> Vec2:
    """Return where a point of the part lies in the view called `name`, in that view's own mm."""
    return apply(VIEWS_BY_NAME[name].matrix, point)
