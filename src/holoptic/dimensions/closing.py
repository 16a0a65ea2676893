"""The closing check: do the sizes of a drawing suffice to make the part, and is none said twice?

It knows nothing of how sizes were proposed: it looks at the solid's faces (`needs_of`) and at the
sizes that stand on the sheet. Levels along each axis and lengths between them are a graph; radii,
angles and what leans stand beside it. All are rows over small changes, eliminated one by one: a
size that follows from the others is doubled, what no row settles is missing.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from holoptic.dimensions.dimension import Circle, Cone, Dimension, Level
from holoptic.dimensions.elimination import Elimination
from holoptic.dimensions.needs import Leaning, Needs, Row, off_key, turn_key
from holoptic.part.crate import AXIS_LETTERS


@dataclass(frozen=True)
class Closing:
    """What is missing, one unknown for each size that would be needed, and what is doubled."""

    missing: tuple[Level | Circle | Cone | Leaning | str, ...] = ()
    doubled: tuple[Dimension, ...] = ()

    @property
    def is_complete(self) -> bool:
        """Whether everything is told, and told once."""
        return not self.missing and not self.doubled

    @property
    def lines(self) -> list[str]:
        """What scripts read: a line for each, or `complete`."""
        found = [f"missing {_words(item)}" for item in self.missing]
        found += [f"doubled {item}" for item in self.doubled]
        return found or ["complete"]


def check(needs: Needs, dimensions: Iterable[Dimension]) -> Closing:
    """Return what is missing and what is doubled among dimensions."""
    settled = begun(needs)
    stated = list(dimensions)
    notes = [one for one in stated if one.sort == "shape"]
    doubled = []
    for one in (*notes, *(one for one in stated if one.sort != "shape")):
        told = [settled.add(row) for row in rows_of(needs, one)]
        if told and not any(told):
            doubled.append(one)
    return Closing((*needs.odd, *_missing(needs, settled)), tuple(doubled))


def begun(needs: Needs) -> Elimination:
    """Return what holds before any size is told: where the solid begins, and how faces meet."""
    settled = Elimination()
    for datum in needs.datums:
        settled.add({datum: 1.0})
    for row in needs.rows:
        settled.add(row)
    return settled


def rows_of(needs: Needs, one: Dimension) -> Iterator[Row]:
    """Yield what a dimension tells."""
    if one.sort == "length":
        yield {one.levels[1]: 1.0, one.levels[0]: -1.0}
    for circle in one.circles:
        yield {circle: 1.0}
    for cone in one.cones:
        yield {cone.angle: 1.0}
    if one.depth is not None:
        yield {one.depth[1]: 1.0, one.depth[0]: -1.0}
    if one.sort == "angle" and one.tilt is not None:
        for face in needs.leaning:
            if face.tilt == one.tilt:
                yield from ({turn_key(face, turn): 1.0} for turn in face.turns)
    for bound in one.binds:
        for axis in range(3):
            at, centre = Level.of(axis, bound.place[axis]), Level.of(axis, bound.centre[axis])
            if at != centre:
                yield {at: 1.0, centre: -1.0}
        yield from (
            needs.row_of_corner(face, bound.place) for face in needs.leaning_through([bound.place])
        )


def _missing(needs: Needs, settled: Elimination) -> Iterator[Level | Circle | Cone | Leaning]:
    """Yield one unknown after another that nothing settles, each taken as told from then on."""
    for circle in needs.circles:
        if settled.add({circle: 1.0}):
            yield circle
    ends = {Level.of(axis, needs.high[axis]) for axis in range(3)}
    for level in sorted(needs.levels, key=lambda level: (level not in ends, level)):
        if settled.add({level: 1.0}):
            yield level
    for cone in needs.cones:
        for key in (cone.size, cone.angle):
            if settled.add({key: 1.0}):
                yield cone
    for face in needs.leaning:
        for row in ({off_key(face): 1.0}, *({turn_key(face, turn): 1.0} for turn in face.turns)):
            if settled.add(row):
                yield face


def _words(item: Level | Circle | Cone | Leaning | str) -> str:
    if isinstance(item, str):
        return item
    if isinstance(item, Level):
        return f"{AXIS_LETTERS[item.axis]} {item.at:g}"
    if isinstance(item, Circle):
        first, second = item.across
        return f"diameter {2 * item.radius:g} about {first:g}, {second:g}"
    if isinstance(item, Cone):
        first, second = item.across
        return f"angle {item.degrees:.4g} of the cone about {first:g}, {second:g}"
    normal = ", ".join(f"{value:.3g}" for value in item.tilt.normal)
    return f"the face that leans along {normal}"
