"""The questions about drawings: opening a sheet of views, and reading views into parts."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from holoptic.curves.vectors import Vec2
from holoptic.part import Source
from holoptic.reading.arrangement import Arrangement, Wish, arrange
from holoptic.reading.checks import check_views
from holoptic.reading.derived import drawn_view
from holoptic.reading.dxf_sheet import read_dxf
from holoptic.reading.figures import figure_checks
from holoptic.reading.guide import Guide
from holoptic.reading.guided import begin, take_away
from holoptic.reading.lines import DrawnView, Status
from holoptic.reading.mending import mend
from holoptic.reading.reader import USUAL_LIMIT_S, USUAL_MOST, read_views
from holoptic.reading.result import Check, Reading
from holoptic.reading.sketch import GivenSize
from holoptic.solid.shelf import look
from holoptic.views import VIEW_NAMES, direction_of, pictures_of
from holoptic.worker.messages import SheetRead


def open_sheet(
    path: str, wish: Wish = "auto", taken: dict[tuple[str, str, int], Status] | None = None
) -> SheetRead:
    """Return the views that a DXF file holds, and what is odd about them. Raises BadInput."""
    sketch = read_dxf(Path(path), taken)
    arrangement = arrange(sketch.lines, wish)
    checks = check_sheet(arrangement, sketch.sizes)
    return SheetRead(path, sketch, arrangement, tuple(checks))


def sheet_lines(path: str) -> tuple[tuple[tuple[Vec2, ...], str], ...]:
    """Return the lines of a DXF file's views at a glance, points in mm, with their status. Raises
    BadInput.
    """
    views = arrange(read_dxf(Path(path)).lines, "auto").views
    return tuple((tuple(line.shape.path()), line.status) for view in views for line in view.lines)


def check_sheet(arrangement: Arrangement, sizes: Sequence[GivenSize] = ()) -> list[Check]:
    """Return what is odd about the figures of a sheet and about its views."""
    return [*figure_checks(arrangement.views, sizes), *check_views(arrangement.drawn_views())]


def read(
    views: tuple[DrawnView, ...], name: str, most: int = USUAL_MOST, limit_s: float = USUAL_LIMIT_S
) -> Reading:
    """Return what views mean. Raises BadInput for fewer than two planes."""
    return read_views(views, _views, name, most=most, limit_s=limit_s)


def begin_guide(views: Sequence[DrawnView], name: str) -> Guide:
    """Return the intersection of the outlines and the loops to take away. Raises BadInput."""
    return begin(views, name)


def guide_on(guide: Guide, number: int, low: float, high: float) -> Guide:
    """Return a guide with one more loop taken away. Raises BadInput."""
    return take_away(guide, number, low, high)


def mend_views(views: Sequence[DrawnView]) -> list[DrawnView]:
    """Return views with their small slips mended."""
    return mend(views)


def derive_views(source: Source) -> tuple[DrawnView, ...]:
    """Return the six views of a part as drawn lines. Raises PartError or BadInput."""
    return tuple(_views(source, VIEW_NAMES)[0])


def _views(source: Source, names: Sequence[str]) -> tuple[list[DrawnView], float]:
    seen = look(source, tuple(direction_of(name) for name in names))
    drawn = [
        drawn_view(name, picture, seen.look(picture.view.toward_viewer).smooth)
        for name, picture in pictures_of(seen, names).items()
    ]
    return drawn, seen.facts.volume
