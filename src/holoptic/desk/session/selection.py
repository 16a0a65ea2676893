"""What is selected on the desk: an edge in all panes, an edge under the pointer, two points."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from holoptic.curves.vectors import Vec3
from holoptic.pictorial import Picture
from holoptic.solid.pieces import SolidFacts


class Selection(QObject):
    """The edge and the points in hand; edges are named by their pick keys.

    Signals:
        changed: something else is selected or touched.
    """

    changed = pyqtSignal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.edge: int | None = None
        self.hovered: int | None = None
        self.points: tuple[Vec3, ...] = ()

    def select(self, edge: int | None) -> None:
        """Select an edge of the solid in all panes."""
        if edge != self.edge or self.points:
            self.edge, self.points = edge, ()
            self.changed.emit()

    def hover(self, edge: int | None) -> None:
        """Tell which edge the pointer touches, in whichever pane."""
        if edge != self.hovered:
            self.hovered = edge
            self.changed.emit()

    def step(self, way: int, picture: Picture | None) -> None:
        """Select the next of the edges that are seen in a picture, or the one before."""
        if picture is None:
            return
        seen = sorted({s.origin.edge for s in picture.visible if s.origin.edge is not None})
        if not seen:
            return
        at = seen.index(self.edge) + way if self.edge in seen else 0 if way > 0 else -1
        self.select(seen[at % len(seen)])

    def pick_point(self, point: Vec3 | None) -> None:
        """Pick a point of the solid: the first or the second of a pair; None forgets both."""
        if point is None:
            self.points = ()
        else:
            self.points = (*self.points, point) if len(self.points) == 1 else (point,)
        self.changed.emit()

    def carry_over(self, before: Picture | None, after: Picture, facts: SolidFacts) -> None:
        """Keep what another picture still has; tells nobody, as the picture is told of."""
        is_outline = self.edge is not None and self.edge < 0
        if is_outline and (before is None or before.strokes != after.strokes):
            self.edge = None  # outlines are numbered anew in another picture
        self.hovered, self.points = None, ()
        if self.edge is not None and self.edge >= len(facts.edges):
            self.edge = None
