"""Which lines of a sheet belong to one view, and which view that is.

Views stand in line: above and below the front view those that share its length, beside it those
that share its height. In third angle each stands on the side that it is seen from, in first angle
on the opposite one.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.job import Angle
from holoptic.reading.frames import without_frames
from holoptic.reading.lines import Bow, Box, DrawnLine, DrawnView, box_of, moved, turned
from holoptic.reading.touching import taken_apart
from holoptic.tolerance import SHARE

Wish = Literal["third", "first", "auto"]
_NEAR_MM = 0.6
_GAP_MM = 18.0
_BENT_POINTS = 8
_FEWEST_LINES = 3
_PLACES = 3
_SAME_SIZE = 0.02
"""Share of a size by which two views of one part may differ and still be taken for such."""
_STRANGE = 0.15
"""A view of one part that is off by more is none of it, if it stands out of line as well."""
_NAMES: dict[Angle, dict[str, str]] = {
    "third": {"above": "top", "below": "bottom", "right": "right", "left": "left"},
    "first": {"above": "bottom", "below": "top", "right": "left", "left": "right"},
}


@dataclass(frozen=True)
class ViewOnSheet:
    """A view on its sheet: its name, its lines as they stand there, quarter turns to undo, and
    where it is cut, if it is a section.
    """

    name: str
    lines: tuple[DrawnLine, ...]
    quarters: int = 0
    cut: str = ""

    @property
    def box(self) -> Box:
        """The box about its edges."""
        return box_of([line.shape for line in self.lines if line.status != "centre"])

    def view(self) -> DrawnView:
        """Return the view by itself, upright, with its corner at the origin."""
        xmin, ymin, _, _ = self.box
        lines = tuple(
            replace(x, shape=turned(moved(x.shape, -xmin, -ymin), self.quarters))
            for x in self.lines
        )
        view = DrawnView(self.name, lines, cut=self.cut)
        low = view.box
        return view.moved(-low[0], -low[1])


@dataclass(frozen=True)
class Arrangement:
    """The views of a sheet with the angle they are laid out in, and remarks about it."""

    angle: Angle
    views: tuple[ViewOnSheet, ...]
    remarks: tuple[str, ...] = ()

    def renamed(self, number: int, name: str) -> Arrangement:
        """Return the arrangement with a view called otherwise; whoever had the name swaps."""
        old = self.views[number].name
        views = tuple(
            replace(v, name=name if k == number else old if v.name == name else v.name)
            for k, v in enumerate(self.views)
        )
        return replace(self, views=views)

    def with_views(self, views: Sequence[DrawnView]) -> Arrangement:
        """Return the arrangement with other views, upright, at the places of its own."""
        by_name = {view.name: view for view in views}
        placed = []
        for one in self.views:
            xmin, ymin, _, _ = (round(at, _PLACES) for at in one.box)
            lines = tuple(
                replace(line, shape=moved(line.shape, xmin, ymin))
                for line in by_name[one.name].lines
            )
            placed.append(ViewOnSheet(one.name, lines, cut=one.cut))
        return replace(self, views=tuple(placed))

    def drawn_views(self) -> list[DrawnView]:
        """Return the views by themselves."""
        return [placed.view() for placed in self.views]


def arrange(lines: Sequence[DrawnLine], wish: Wish = "auto") -> Arrangement:
    """Return the views that lines on a sheet make. Raises BadInput for fewer than two."""
    clusters = clusters_of(without_frames(lines))
    remarks: list[str] = []
    if not _any_match(clusters):
        parted = taken_apart(clusters)
        if parted is not None:
            clusters = parted
            remarks.append(tr("views that touch were taken apart where their sizes agree"))
    if len(clusters) < 2:
        raise BadInput(tr("only one view was found: at least two are needed"))
    front = _front_of(clusters)
    box = _box(clusters[front])
    clusters = _without_strangers(clusters, front)
    front = next(k for k, cluster in enumerate(clusters) if _box(cluster) == box)
    sides: dict[str, int] = {}
    for number, cluster in enumerate(clusters):
        if number == front:
            continue
        side = _side(box, _box(cluster))
        if side in sides:
            remarks.append(tr("a further view stands beyond another one; it is left out"))
            if _gap(box, _box(clusters[sides[side]])) <= _gap(box, _box(cluster)):
                continue
        sides[side] = number
    agreed = wish == "auto" and "below" in sides and "above" not in sides
    angle: Angle = "first" if wish == "first" or agreed else "third"
    views = [ViewOnSheet("front", tuple(clusters[front]))]
    for side, number in sides.items():
        name = _NAMES[angle][side]
        quarters = _quarters(box, _box(clusters[number]), side)
        if quarters:
            remarks.append(
                tr("the {name} view is turned by a quarter; it is turned back", name=tr(name))
            )
        elif _is_out_of_line(box, _box(clusters[number]), side):
            remarks.append(tr("the {name} view stands a little out of line", name=tr(name)))
        views.append(ViewOnSheet(name, tuple(clusters[number]), quarters))
    return Arrangement(angle, tuple(views), tuple(dict.fromkeys(remarks)))


def side_by_side(views: Sequence[DrawnView]) -> Arrangement:
    """Return the three usual views of a part, among others perhaps, laid out in third angle."""
    by_name = {view.name: view for view in views}
    front, top, right = (by_name[name] for name in ("front", "top", "right"))
    across = front.box[2] + _GAP_MM - right.box[0]
    up = front.box[3] + _GAP_MM - top.box[1]
    placed = (
        ViewOnSheet("front", front.lines),
        ViewOnSheet("top", top.moved(0.0, up).lines),
        ViewOnSheet("right", right.moved(across, 0.0).lines),
    )
    return Arrangement("third", placed)


def clusters_of(lines: Sequence[DrawnLine]) -> list[list[DrawnLine]]:
    """Return lines in clusters whose boxes do not touch; a few loose lines make none.

    Centre lines go with the cluster that they cross most.
    """
    boxes: list[tuple[Box, list[DrawnLine]]] = []
    for line in lines:
        if line.status != "centre":
            boxes = _with(boxes, box_of([line.shape]), [line])
    found = [cluster for _, cluster in boxes if _can_be_view(cluster)]
    areas = [_box(cluster) for cluster in found]
    for line in lines:
        if line.status == "centre" and found:
            shared = [_overlap(box_of([line.shape]), area) for area in areas]
            best = max(range(len(found)), key=lambda k: shared[k])
            if shared[best] > 0:
                found[best].append(line)
    return found


def _can_be_view(cluster: Sequence[DrawnLine]) -> bool:
    """Say whether lines make a view: what shuts an area in does alone, others not so few."""
    if len(cluster) >= _FEWEST_LINES:
        return True
    bows = [line.shape for line in cluster if isinstance(line.shape, Bow)]
    if sum(bow.last - bow.first for bow in bows) > math.tau - SHARE:  # one circle, or two halves
        return True
    return _closes(cluster) and any(len(line.shape.path()) > _BENT_POINTS for line in cluster)


def _closes(cluster: Sequence[DrawnLine]) -> bool:
    """Say whether lines close: as many of their ends meet as there are, as an arc and its chord."""
    paths = [line.shape.path() for line in cluster]
    ends = [end for path in paths for end in (path[0], path[-1])]
    return all(
        sum(math.dist(end, other) < _NEAR_MM for other in ends) % 2 == 0 for end in ends
    )  # fmt: skip


def _with(
    boxes: list[tuple[Box, list[DrawnLine]]], box: Box, lines: list[DrawnLine]
) -> list[tuple[Box, list[DrawnLine]]]:
    """Return boxes with one more, joined to all that it touches."""
    apart = []
    for other, theirs in boxes:
        if _touch(box, other):
            box = min(box[0], other[0]), min(box[1], other[1]), max(box[2], other[2]), max(
                box[3], other[3]
            )  # fmt: skip
            lines = theirs + lines
        else:
            apart.append((other, theirs))
    if len(apart) == len(boxes):
        return [*apart, (box, lines)]
    return _with(apart, box, lines)  # grown, it may touch others


def _touch(a: Box, b: Box) -> bool:
    return (
        a[0] <= b[2] + _NEAR_MM and b[0] <= a[2] + _NEAR_MM
        and a[1] <= b[3] + _NEAR_MM and b[1] <= a[3] + _NEAR_MM
    )  # fmt: skip


def _overlap(a: Box, b: Box) -> float:
    across, up = min(a[2], b[2]) - max(a[0], b[0]), min(a[3], b[3]) - max(a[1], b[1])
    return max(across, 0.01) * max(up, 0.01) if across >= 0 and up >= 0 else 0.0


def _box(cluster: Sequence[DrawnLine]) -> Box:
    return box_of([line.shape for line in cluster if line.status != "centre"])


def _side(front: Box, other: Box) -> str:
    """Say on which side of the front view another stands."""
    across = (other[0] + other[2] - front[0] - front[2]) / (
        front[2] - front[0] + other[2] - other[0]
    )
    up = (other[1] + other[3] - front[1] - front[3]) / (front[3] - front[1] + other[3] - other[1])
    if abs(up) > abs(across):
        return "above" if up > 0 else "below"
    return "right" if across > 0 else "left"


def _front_of(clusters: Sequence[Sequence[DrawnLine]]) -> int:
    """Return the view that most others stand in line with; it has them on two sides."""

    def in_line(number: int) -> tuple[int, int]:
        box = _box(clusters[number])
        others = [_box(c) for k, c in enumerate(clusters) if k != number]
        sides = {_side(box, other) for other in others if _matches(box, other)}
        return len({side in ("above", "below") for side in sides}), len(sides)

    best = max(range(len(clusters)), key=in_line)
    if in_line(best)[1] == 0 or len(clusters) == 2:
        # nothing else tells: the lower left one, as sheets are mostly laid out
        return min(range(len(clusters)), key=lambda k: sum(_box(clusters[k])[:2]))
    return best


def _without_strangers(clusters: Sequence[list[DrawnLine]], front: int) -> list[list[DrawnLine]]:
    """Return clusters without what stands in line with no view and is as large as none: a bar of a
    scale, a part of a title block. Two views are always left.
    """
    box = _box(clusters[front])
    own = [cluster for k, cluster in enumerate(clusters)
           if k == front or not _is_strange(box, _box(cluster))]  # fmt: skip
    return own if len(own) > 1 else list(clusters)


def _is_strange(front: Box, other: Box) -> bool:
    side = _side(front, other)
    k = 0 if side in ("above", "below") else 1
    size = front[k + 2] - front[k]
    sizes = other[k + 2] - other[k], other[3 - k] - other[1 - k]
    is_as_large = any(abs(one - size) < _STRANGE * size for one in sizes)
    middle = abs(other[k] + other[k + 2] - front[k] - front[k + 2]) / 2
    return not is_as_large and middle > _STRANGE * size


def _matches(front: Box, other: Box) -> bool:
    """Say whether a view stands in line with another and shares the size that it should."""
    if _side(front, other) in ("above", "below"):
        return _near(front[0], other[0], front, 0) and _near(front[2], other[2], front, 0)
    return _near(front[1], other[1], front, 1) and _near(front[3], other[3], front, 1)


def _any_match(clusters: Sequence[list[DrawnLine]]) -> bool:
    boxes = [_box(cluster) for cluster in clusters]
    return any(_matches(a, b) for k, a in enumerate(boxes) for b in boxes[k + 1 :])


def _near(a: float, b: float, box: Box, axis: int) -> bool:
    return abs(a - b) <= max(_SAME_SIZE * (box[axis + 2] - box[axis]), 0.5) * 3


def _gap(a: Box, b: Box) -> float:
    return max(b[0] - a[2], a[0] - b[2], b[1] - a[3], a[1] - b[3])


def _is_out_of_line(front: Box, other: Box, side: str) -> bool:
    k = 0 if side in ("above", "below") else 1
    return abs(front[k] - other[k]) > 0.05 and abs(front[k + 2] - other[k + 2]) > 0.05


def _quarters(front: Box, other: Box, side: str) -> int:
    """Return the quarter turns that bring a view's size in line, 0 where it is already."""
    k = 0 if side in ("above", "below") else 1
    size, own = front[k + 2] - front[k], other[k + 2] - other[k]
    crosswise = other[3 - k] - other[1 - k]
    slack = max(_SAME_SIZE * size, 0.5)
    return 3 if abs(own - size) > slack and abs(crosswise - size) <= slack else 0
