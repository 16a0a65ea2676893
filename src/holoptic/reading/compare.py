"""Two drawings of one part laid over each other: lines missing, lines too many, per view."""

from __future__ import annotations

from collections.abc import Sequence

import shapely

from holoptic.reading.lines import DrawnLine, DrawnView, Status
from holoptic.reading.planes import PLANES, canonical
from holoptic.reading.result import Difference

SAME_LINE_MM = 0.05
"""Lines nearer than this lie on each other (length, mm)."""
SHORTEST_MM = 0.2


def compare(given: Sequence[DrawnView], derived: Sequence[DrawnView]) -> list[Difference]:
    """Return where views differ from those of a part; views that only one side has are left out.

    Both are laid with their boxes on each other. Centre lines do not count.
    """
    found = []
    others = {view.name: view for view in derived}
    for view in given:
        if view.name in others and view.drawn and others[view.name].drawn:
            found += compare_view(canonical(view), canonical(others[view.name]))
    return found


def compare_view(given: DrawnView, derived: DrawnView) -> list[Difference]:
    """Return where two drawings of one view, in the same coordinates, differ."""
    found: list[Difference] = []
    for one, other, kind in ((derived, given, "missing"), (given, derived, "extra")):
        everything = _Ink(other.drawn)
        visible = _Ink([line for line in other.drawn if line.status == "visible"])
        over = _Ink([line for line in one.drawn if line.status == "visible"])
        free = {sort: _Ink(_may_be_drawn(other, sort)) for sort in ("visible", "hidden")}
        for line in one.drawn:
            whole = shapely.LineString(line.shape.path())
            path = shapely.difference(whole, free[line.status].about(whole))
            if line.status == "hidden":
                path = shapely.difference(path, over.about(whole))  # a visible line lies over it
            drawn = everything.about(whole)
            found += _stretches(shapely.difference(path, drawn), view=given.name, kind=kind,
                                status=line.status)  # fmt: skip
            if kind == "extra":
                firm = visible.about(whole)
                found += _other_status(path, line, firm, drawn, given.name)
    return found


def _may_be_drawn(view: DrawnView, status: str) -> list[DrawnLine]:
    """Return the smooth lines of a view under which a line of a status is none too many."""
    return [line for line in view.smooth if status in ("hidden", line.status)]


def _other_status(path, line: DrawnLine, visible, everything, view: str) -> list[Difference]:  # type: ignore[no-untyped-def]
    """Return the stretches of a line that are drawn in both, but with another status."""
    both = shapely.intersection(path, everything)
    if visible.is_empty:
        # where lines touch, both are lines and points: these cannot be laid over nothing
        wrong = both if line.status == "visible" else shapely.LineString()
    elif line.status == "visible":
        wrong = shapely.difference(both, visible)
    else:
        wrong = shapely.intersection(both, visible)
    return _stretches(wrong, view=view, kind="status", status=line.status)


class _Ink:
    """The room that lines take on paper. All of it at once is slow to cut with."""

    def __init__(self, lines: Sequence[DrawnLine]) -> None:
        paths = [shapely.LineString(line.shape.path()) for line in lines]
        self._areas = shapely.buffer(paths, SAME_LINE_MM, cap_style="square")
        self._tree = shapely.STRtree(self._areas)

    def about(self, path: shapely.Geometry) -> shapely.Geometry:
        """Return the room of those lines that come near a path, an empty one where none does."""
        near = self._areas[self._tree.query(path, "intersects")]
        return shapely.union_all(near) if len(near) else shapely.Polygon()


def _stretches(left: shapely.Geometry, *, view: str, kind: str, status: Status) -> list[Difference]:
    parts = getattr(left, "geoms", [left])
    return [
        Difference(view, kind, status, tuple((float(x), float(y)) for x, y in part.coords))
        for part in parts
        if part.geom_type == "LineString" and part.length > SHORTEST_MM
    ]


def paths_in_view(difference: Difference, given: DrawnView) -> tuple[tuple[float, float], ...]:
    """Return a difference's path in the coordinates in which the view was given."""
    xmin, ymin, xmax, ymax = given.box
    across, up = PLANES[given.name].turned
    return tuple(
        ((xmax - x if across else xmin + x), (ymax - y if up else ymin + y))
        for x, y in difference.path
    )
