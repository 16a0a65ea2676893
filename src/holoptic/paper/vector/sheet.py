"""A page of lines as a sketch that Read knows: lines told apart, figures, hatches, scale."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from holoptic.paper.figures import given_sizes, scale_of, scaled_sizes
from holoptic.paper.vector.dashes import joined
from holoptic.paper.vector.looks import Key, tell
from holoptic.paper.vector.page import Page
from holoptic.reading.hatching import without_hatch
from holoptic.reading.lines import Box, DrawnLine, Status, Straight, scaled
from holoptic.reading.sketch import Sketch

_CUTTING = 6
"""A line of long, short, short says where a section is cut: six figures of dashes."""


def sketch_of(page: Page, name: str, taken: dict[Key, Status] | None = None) -> Sketch:
    """Return what a page shows, at the part's own size where its figures tell the scale; else as
    it lies on paper. `taken` says how groups of lines are meant.
    """
    strokes = joined(page.strokes)
    cutting = [s for s in strokes if len(s.look.dashes) >= _CUTTING]
    told = tell([s for s in strokes if len(s.look.dashes) < _CUTTING], page.filled, taken)
    sizes = given_sizes(page.figures, told.thin)
    scale = scale_of(sizes)
    edges, hatched = without_hatch(told.lines)
    hatched += without_hatch([DrawnLine(line) for line in told.thin])[1]
    factor = scale or 1.0
    return Sketch(
        Path(name).stem, tuple(_scaled(edges, factor)), told.groups,
        tuple(scaled_sizes(sizes, factor)), scale is not None,
        tuple(_scaled_box(box, factor) for box in hatched),
        tuple(s.shape if factor == 1.0 else scaled(s.shape, factor)  # type: ignore[misc]
              for s in cutting if isinstance(s.shape, Straight)),
    )  # fmt: skip


def _scaled(lines: Sequence[DrawnLine], factor: float) -> list[DrawnLine]:
    if factor == 1.0:
        return list(lines)
    return [DrawnLine(scaled(line.shape, factor), line.status) for line in lines]


def _scaled_box(box: Box, factor: float) -> Box:
    return box[0] * factor, box[1] * factor, box[2] * factor, box[3] * factor
