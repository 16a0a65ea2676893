"""A picture of a solid: one view, its strokes, and the bounds of what is drawn."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

from holoptic.curves.many import extent_on_paper
from holoptic.curves.space import Chord, Curve
from holoptic.curves.vectors import Vec2
from holoptic.pictorial.centres import centre_lines
from holoptic.pictorial.cut_regions import CutRegion, hatch_strokes, hatched, regions_of
from holoptic.pictorial.kinds import View
from holoptic.pictorial.merge import clean
from holoptic.pictorial.strokes import Origin, Role, Stroke
from holoptic.pictorial.weights import thick_spans
from holoptic.solid.pieces import Look, Piece, SolidFacts

AXIS_LINE = "a"
"""Begins the ids of axis lines among those of strokes."""


@dataclass(frozen=True)
class CuttingLine:
    """Where a section is cut, in another view: its letter, its corners from end to end (mm), and
    the direction of sight on paper.
    """

    letter: str
    path: tuple[Vec2, ...]
    sight: Vec2


@dataclass(frozen=True)
class Picture:
    """The strokes of one view, each once: visible ones first, then hidden, then centre lines, then
    the lines that hatch what is cut; `regions` are the cut faces themselves, `marks` say where
    others are cut.
    """

    view: View
    strokes: tuple[Stroke, ...]
    regions: tuple[CutRegion, ...] = ()
    marks: tuple[CuttingLine, ...] = ()

    @property
    def visible(self) -> tuple[Stroke, ...]:
        """The strokes that are seen."""
        return self.of_role("visible")

    @property
    def axis_lines(self) -> tuple[Stroke, ...]:
        """The stretches in sight of axes that bodies of a whole share."""
        return tuple(stroke for stroke in self.strokes if stroke.id.startswith(AXIS_LINE))

    @cached_property
    def extent(self) -> tuple[float, float, float, float]:
        """(xmin, ymin, xmax, ymax) on paper in mm at scale 1:1, of visible and hidden strokes."""
        drawn = [s.drawn for s in self.strokes if s.role in ("visible", "hidden")]
        return extent_on_paper(drawn, self.view.matrix)

    def picked(self, key: int | None, facts: SolidFacts) -> tuple[Curve, int | None] | None:
        """Return the curve that a key picks and its operation's index, or None.

        A key is an edge's index, or the negative number of an outline in this picture.
        """
        if key is None or key >= len(facts.edges):
            return None
        if key >= 0:
            return facts.edges[key].curve, facts.edges[key].operation
        stroke = self._outline(key)
        return (stroke.curve, stroke.origin.operation) if stroke is not None else None

    def body_of(self, key: int, facts: SolidFacts) -> int:
        """Return the number of the body that a key picks. Raises KeyError."""
        if 0 <= key < len(facts.edges):
            return facts.edges[key].body
        stroke = self._outline(key)
        if stroke is None:
            raise KeyError(key)
        return stroke.origin.body

    def _outline(self, key: int) -> Stroke | None:
        for stroke in self.strokes:
            is_outline = stroke.origin.edge is None and stroke.role in ("visible", "hidden")
            if is_outline and stroke.key == key:
                return stroke
        return None

    def hatched_for(self, scale: float) -> Picture:
        """Return the picture with its cut faces hatched for a scale of the sheet."""
        if not self.regions:
            return self
        regions = hatched(self.regions, self.view, scale)
        kept = tuple(stroke for stroke in self.strokes if stroke.role != "hatch")
        return replace(self, strokes=(*kept, *hatch_strokes(regions, self.view)), regions=regions)

    def of_role(self, role: Role) -> tuple[Stroke, ...]:
        """Return the strokes of one role."""
        return tuple(stroke for stroke in self.strokes if stroke.role == role)


def draw(look: Look, view: View) -> Picture:
    """Apply a view to what is seen along its direction.

    Raises ValueError if the look was taken along another direction.
    """
    if look.toward_viewer != view.toward_viewer:
        raise ValueError("the look was taken along another direction than the view's")
    cleaned = clean(look.pieces, view.matrix, frozenset(look.thick), look.toward_viewer)
    pieces = sorted(cleaned, key=_order)
    strokes = [_stroke(piece, view, number, look) for number, piece in enumerate(pieces, 1)]
    centres = [
        Stroke(f"c{number}", "centre", line, Origin(None, None), line, view.matrix)
        for number, line in enumerate(centre_lines(look.rounds, pieces, view, look.covered), 1)
    ]
    if view.corner is not None:
        centres += [
            Stroke(
                f"{AXIS_LINE}{number}", "centre", line, Origin(None, None, body), line, view.matrix
            )
            for number, (line, body) in enumerate(look.axis_lines, 1)
        ]
    regions = regions_of(look.cut_faces, view)
    return Picture(view, (*strokes, *centres, *hatch_strokes(regions, view)), regions)


def _order(piece: Piece) -> tuple[bool, int, int]:
    operation = -1 if piece.operation is None else piece.operation
    edge = 1_000_000 if piece.edge is None else piece.edge
    return not piece.visible, operation, edge


def _stroke(piece: Piece, view: View, number: int, look: Look) -> Stroke:
    role: Role = "visible" if piece.visible else "hidden"
    origin = Origin(piece.edge, piece.operation, piece.body)
    parts = look.thick.get(piece.edge, ()) if piece.edge is not None else ()
    thick = thick_spans(piece, parts) if piece.visible else ()
    # a curve seen edge-on is drawn along its chord but stays the curve that it is
    exact = piece.curve
    if isinstance(piece.curve, Chord):
        exact = piece.curve.of
        thick = (exact.span,) if thick else ()
    return Stroke(f"s{number}", role, exact, origin, piece.curve, view.matrix, thick)
