"""Views drawn by hand: tracks in three panes that share the sizes of one part.

A pane offers the others what they have in common: a height of the front view in the side view, a
length in the top view, and a depth of the top view in the side view, carried over a line at 45°.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import NamedTuple

from holoptic.curves.vectors import Vec2
from holoptic.errors import ExpressionError
from holoptic.job import Angle
from holoptic.part.crate import AXIS_LETTERS
from holoptic.part.operations import Corner
from holoptic.part.outline import Side, sides_of
from holoptic.part.walk import Walk
from holoptic.reading.arrangement import Arrangement, ViewOnSheet
from holoptic.reading.lines import (
    Bow,
    DrawnLine,
    Shape,
    Status,
    Straight,
    box_of,
    mirrored,
    moved,
)
from holoptic.reading.planes import PLANES
from holoptic.tolerance import COINCIDENT_MM
from holoptic.units import Length, Unit

PANES = ("front", "top", "right")
_GAP_SHARE = 0.22
"""Of the mean size: room between the panes for labels, and for the transfer at 45°."""
_BEYOND_MM = 3.0
"""How far a centre line reaches beyond the pane."""


class Offer(NamedTuple):
    """A place along a pane's axis that another pane has already, and in which view."""

    length: Length
    view: str


@dataclass(frozen=True)
class Track:
    """A line or an outline in a pane, as it was walked; `mirrored` are the part's axes along which
    it stands once more on the other side of the middle.
    """

    view: str
    status: Status
    walk: Walk
    mirrored: frozenset[int] = frozenset()


@dataclass(frozen=True)
class Draft:
    """What is drawn so far: the part's length, depth and height, the tracks, and along which of
    these axes the part is symmetric.
    """

    size: tuple[Length, Length, Length]
    angle: Angle = "third"
    unit: Unit = Unit.MM
    tracks: tuple[Track, ...] = ()
    symmetric: frozenset[int] = frozenset()

    # --- panes --------------------------------------------------------------------------------

    def pane_size(self, view: str) -> Vec2:
        """Return width and height of a pane, mm."""
        across, up = PLANES[view].axes
        return self.size[across].mm, self.size[up].mm

    def names(self) -> dict[str, float]:
        """Return what L, D and H stand for, mm."""
        return {name: size.mm for name, size in zip(AXIS_LETTERS, self.size, strict=True)}

    @property
    def gap(self) -> float:
        """The room between panes, mm."""
        return _GAP_SHARE * sum(size.mm for size in self.size) / 3

    def origin(self, view: str) -> Vec2:
        """Return where a pane's lower left corner lies on the sheet, mm."""
        length, depth, height = (size.mm for size in self.size)
        third = self.angle == "third"
        if view == "top":
            return 0.0, height + self.gap if third else -depth - self.gap
        if view == "right":
            return (length + self.gap if third else -depth - self.gap), 0.0
        return 0.0, 0.0

    def transfer(self, depth: float) -> list[Vec2]:
        """Return how a depth goes from the top view over the line at 45° into the side view."""
        (_, top), (side, _) = self.origin("top"), self.origin("right")
        corner = side + depth, top + depth
        length, _, height = (size.mm for size in self.size)
        third = self.angle == "third"
        return [
            (length if third else 0.0, corner[1]),
            corner,
            (corner[0], height if third else 0.0),
        ]

    def pane_at(self, place: Vec2) -> str | None:
        """Return the pane in or nearest about which a place of the sheet lies, or None."""

        def off(view: str) -> float:
            (x, y), (width, height) = self.origin(view), self.pane_size(view)
            return max(x - place[0], place[0] - x - width, y - place[1], place[1] - y - height)

        nearest = min(PANES, key=off)
        return nearest if off(nearest) < self.gap / 2 else None

    # --- drawing ------------------------------------------------------------------------------

    def with_track(self, view: str, status: Status, walk: Walk) -> Draft:
        """Return the draft with one more track, mirrored as the part is symmetric."""
        axes = self.symmetric & set(PLANES[view].axes)
        return replace(self, tracks=(*self.tracks, Track(view, status, walk, frozenset(axes))))

    def resized(self, axis: int, size: Length) -> Draft:
        """Return the draft with another length, depth or height; what was walked by it follows."""
        sizes = [*self.size]
        sizes[axis] = size
        made = replace(self, size=(sizes[0], sizes[1], sizes[2]))
        return replace(made, tracks=tuple(made._walked_again(track) for track in self.tracks))

    def _walked_again(self, track: Track) -> Track:
        walk = Walk()
        try:
            for step in track.walk.steps:
                walk = walk.after(step, self.unit, self.names())
        except ExpressionError:  # a step that has no room any more: the line stays as it was
            return track
        return replace(track, walk=walk) if walk.steps else track

    def without(self, number: int) -> Draft:
        """Return the draft without a track."""
        return replace(self, tracks=(*self.tracks[:number], *self.tracks[number + 1 :]))

    def next_symmetry(self, view: str) -> Draft:
        """Return the draft with another symmetry of a pane: none, across, up, both."""
        across, up = PLANES[view].axes
        states = [frozenset(), frozenset({across}), frozenset({up}), frozenset({across, up})]
        now = states.index(self.symmetric & {across, up})
        others = self.symmetric - {across, up}
        return replace(self, symmetric=others | states[(now + 1) % len(states)])

    def lines(self, view: str) -> list[DrawnLine]:
        """Return the lines of a pane in its own mm, each once, axes of symmetry among them."""
        found: dict[DrawnLine, None] = {}
        for track in self.tracks:
            if track.view == view:
                found |= dict.fromkeys(self._track_lines(track))
        if found:
            found |= dict.fromkeys(self._axes(view))
        return list(found)

    def _track_lines(self, track: Track) -> list[DrawnLine]:
        size, axes = self.pane_size(track.view), PLANES[track.view].axes
        shapes = [_shape(side) for side in sides_of(track.walk.points, track.walk.closed)]
        for which, axis in enumerate(axes):
            if axis in track.mirrored:
                across = which == 0
                other = [
                    moved(mirrored(s, across, not across), size[0] * across, size[1] * (not across))
                    for s in shapes
                ]
                shapes += [shape for shape in other if not _is_among(shape, shapes)]
        return [DrawnLine(shape, track.status) for shape in shapes]

    def _axes(self, view: str) -> list[DrawnLine]:
        """Return the centre lines along which a pane is symmetric."""
        (width, height), axes = self.pane_size(view), PLANES[view].axes
        found: list[Shape] = []
        if axes[0] in self.symmetric:
            x = width / 2
            found.append(Straight((x, -_BEYOND_MM), (x, height + _BEYOND_MM)))
        if axes[1] in self.symmetric:
            y = height / 2
            found.append(Straight((-_BEYOND_MM, y), (width + _BEYOND_MM, y)))
        return [DrawnLine(shape, "centre") for shape in found]

    def arrangement(self) -> Arrangement | None:
        """Return the views drawn so far on their sheet; None before the first line."""
        placed = []
        for view in PANES:
            lines = self.lines(view)
            if any(line.status != "centre" for line in lines):
                x, y = self.origin(view)
                on_sheet = (replace(line, shape=moved(line.shape, x, y)) for line in lines)
                placed.append(ViewOnSheet(view, tuple(on_sheet)))
        return Arrangement(self.angle, tuple(placed)) if placed else None

    # --- offers -------------------------------------------------------------------------------

    def offers(self, view: str) -> tuple[list[Offer], list[Offer]]:
        """Return what is offered in a pane, across and up, in order: the sizes, the middles, and
        what the other panes and the pane itself have along the same axis of the part.
        """
        across, up = PLANES[view].axes
        return self._offers_along(across, view), self._offers_along(up, view)

    def _offers_along(self, axis: int, view: str) -> list[Offer]:
        size = self.size[axis]
        letter = AXIS_LETTERS[axis]
        found = [Offer(Length("0", 0.0), view), Offer(Length(letter, size.mm), view)]
        if axis in self.symmetric:
            found.append(Offer(Length(f"{letter}/2", size.mm / 2), view))
        others = [name for name in PANES if name != view]
        for name in (*others, view):
            if axis in PLANES[name].axes:
                which = PLANES[name].axes.index(axis)
                found += [Offer(length, name) for length in self._places(name, which)]
        found.sort(key=lambda offer: offer.length.mm)  # (stable: words of other panes come first)
        kept: list[Offer] = []
        for offer in found:
            if not kept or offer.length.mm - kept[-1].length.mm > COINCIDENT_MM:
                kept.append(offer)
        return kept

    def _places(self, view: str, which: int) -> list[Length]:
        """Return where the lines of a pane begin, end or turn along one of its axes."""
        words: dict[float, Length] = {}
        for track in self.tracks:
            if track.view == view and track.status != "centre":
                corners = (point for point in track.walk.points if isinstance(point, Corner))
                for length in ((corner.u, corner.v)[which] for corner in corners):
                    words.setdefault(round(length.mm, 6), length)
        found = []
        for line in self.lines(view):
            if line.status == "centre":
                continue
            box = box_of([line.shape])
            for value in (box[which], box[which + 2]):
                at = round(value, 6)
                found.append(words.get(at, Length.of(at, self.unit)))
        return found


def _shape(side: Side) -> Shape:
    if side.centre is None:
        return Straight(side.start, side.end)
    start, end = (side.start, side.end) if side.left else (side.end, side.start)
    x, y = side.centre
    first = math.atan2(start[1] - y, start[0] - x) % math.tau
    turn = (math.atan2(end[1] - y, end[0] - x) - first) % math.tau
    return Bow(side.centre, side.radius, first, first + turn)


def _is_among(shape: Shape, shapes: list[Shape]) -> bool:
    """Say whether a shape is there already, maybe the other way round: one on the axis is."""
    return any(_is_same(shape, other) for other in shapes)


def _is_same(a: Shape, b: Shape) -> bool:
    if isinstance(a, Straight) and isinstance(b, Straight):
        pairs = ((a.start, b.start), (a.end, b.end)), ((a.start, b.end), (a.end, b.start))
        return any(all(math.dist(p, q) < COINCIDENT_MM for p, q in pair) for pair in pairs)
    if isinstance(a, Bow) and isinstance(b, Bow):
        middles = (bow.at((bow.first + bow.last) / 2) for bow in (a, b))
        return math.dist(*middles) < COINCIDENT_MM and abs(a.radius - b.radius) < COINCIDENT_MM
    return False
