"""What a part is held by when it is placed: faces and axes, by the names that sums know too.

`top` is a face of the crate, `plate.top` a side of a feature, `bore` the axis of a round feature or
a polygon; of several copies `bore 2` is the second. Of solids that come from a file, which have no
features, a place and a direction are written out: `axis(12,4,0; 0,0,1)`, `face(0,0,9; 0,0,1)`.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Literal

from holoptic.catalogue import tr
from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.curves.vectors import Vec3, cross, dot, subtract, unit
from holoptic.errors import BadInput
from holoptic.part.bounds import bounds_of
from holoptic.part.crate import Face
from holoptic.part.expand import basics
from holoptic.part.naming import SIDES, spoken
from holoptic.part.operations import Basic, Centred, CornerCut, Operation
from holoptic.part.part import Part
from holoptic.part.whole import PartSource
from holoptic.tolerance import COINCIDENT_MM, GIVEN_MM

Sort = Literal["face", "axis"]
_WRITTEN = re.compile(r"(?P<sort>face|axis)\s*\((?P<place>[^;()]*);(?P<way>[^;()]*)\)")


@dataclass(frozen=True)
class Grip:
    """A face with a place on it and its outward normal, or an axis with its direction; mm."""

    sort: Sort
    place: Vec3
    way: Vec3


def grip_of(source: PartSource, words: str) -> Grip:
    """Return what a part is held by under a name. Raises BadInput where it has no such thing."""
    words = words.strip()
    written = _WRITTEN.fullmatch(words)
    if written is not None:
        return _written(written)
    if isinstance(source, Part):
        for name, grip in _grips(source, words):
            if name == words:
                return grip
        begin = words.partition(".")[0][:3]
        near = ", ".join(name for name, _ in grips(source) if name.startswith(begin))
        known = near or ", ".join(face.value for face in Face)
        raise BadInput(
            tr(
                "“{name}” has no “{words}” (known: {known} …)",
                name=source.name,
                words=words,
                known=known,
            )
        )
    raise BadInput(
        tr(
            "“{name}” comes from a file and has no named faces: pick a line in the picture",
            name=source.name,
        )
    )


def _written(found: re.Match[str]) -> Grip:
    try:
        x, y, z = (float(figure) for figure in found["place"].split(","))
        a, b, c = (float(figure) for figure in found["way"].split(","))
        if not all(map(math.isfinite, (x, y, z, a, b, c))):
            raise ValueError
        sort: Sort = "face" if found["sort"] == "face" else "axis"
        return Grip(sort, (x, y, z), unit((a, b, c)))
    except (ValueError, ZeroDivisionError) as error:
        raise BadInput(
            tr("“{words}” needs six figures: x,y,z; and a direction", words=found[0])
        ) from error


def written_grip(grip: Grip) -> str:
    """Return a grip as it is written for a solid that comes from a file."""
    place, way = (",".join(f"{v + 0.0:.6g}" for v in each) for each in (grip.place, grip.way))
    return f"{grip.sort}({place}; {way})"


def grips(part: Part) -> Iterator[tuple[str, Grip]]:
    """Yield everything that a part can be held by, with its name."""
    return _grips(part, "")


def _grips(part: Part, words: str) -> Iterator[tuple[str, Grip]]:
    """Yield what a part can be held by, of its features those alone that words may mean."""
    yield from _faces_of_box((0.0, 0.0, 0.0), part.crate.sizes)
    for operation in part.operations:
        if words.startswith(spoken(operation.name)) or not words:
            yield from _axes(operation, part)
            yield from _sides(operation, part)


def _faces_of_box(low: Vec3, high: Vec3) -> Iterator[tuple[str, Grip]]:
    for face in Face:
        place = [(a + b) / 2 for a, b in zip(low, high, strict=True)]
        place[face.normal_axis] = (high if face.is_far else low)[face.normal_axis]
        yield face.value, Grip("face", (place[0], place[1], place[2]), _outward(face))


def _axes(operation: Operation, part: Part) -> Iterator[tuple[str, Grip]]:
    try:
        made = basics(operation, part.crate)
    except ValueError:
        return
    axes: list[Grip] = []
    for basic in made:
        grip = _axis(basic, part)
        if grip is not None and not any(_is_same_line(grip, other) for other in axes):
            axes.append(grip)
    word = spoken(operation.name)
    for number, grip in enumerate(axes, 1):
        yield (word if len(axes) == 1 else f"{word} {number}"), grip


def _axis(basic: Basic, part: Part) -> Grip | None:
    if not isinstance(basic, Centred):
        return None
    place = part.crate.place(basic.face, *basic.centre_mm(part.crate), 0.0)
    return Grip("axis", place, _outward(basic.face))


def _is_same_line(one: Grip, other: Grip) -> bool:
    off = cross(subtract(one.place, other.place), one.way)
    return dot(off, off) < COINCIDENT_MM and abs(dot(one.way, other.way)) > 1 - COINCIDENT_MM


def _sides(operation: Operation, part: Part) -> Iterator[tuple[str, Grip]]:
    """Yield the sides of a feature; those of a cut face inward, as its walls do."""
    bounds = bounds_of(operation, part.crate)
    if bounds is None:
        return
    is_cut = isinstance(operation, CornerCut) or operation.mode == "cut"
    word, (low, high) = spoken(operation.name), bounds
    for axis, (near, far) in enumerate(SIDES):
        for side, at, sign in ((near, low, -1.0), (far, high, 1.0)):
            place = [(a + b) / 2 for a, b in zip(low, high, strict=True)]
            place[axis] = at[axis]
            way = [0.0, 0.0, 0.0]
            way[axis] = -sign if is_cut else sign
            yield (
                f"{word}.{side}",
                Grip("face", (place[0], place[1], place[2]), (way[0], way[1], way[2])),
            )


def grip_name(source: PartSource, curve: Curve, box: tuple[Vec3, Vec3] | None = None) -> str | None:
    """Return the name of what a line of a part tells of, None where it tells of nothing.

    A circle tells of its axis; a straight line of a face that it lies in, of the crate rather than
    of a feature, level rather than upright: one may write another. Of a solid that comes from a
    file only the outermost faces are known, by its `box` (low and high corner, mm).
    """
    if isinstance(curve, EllipticArc) and curve.is_circle:
        axis = Grip("axis", curve.centre, curve.normal)
        for name, grip in grips(source) if isinstance(source, Part) else ():
            if grip.sort == "axis" and _is_same_line(axis, grip):
                return name
        return written_grip(axis)
    if not isinstance(curve, Segment):
        return None
    if isinstance(source, Part):
        known: Iterable[tuple[str, Grip]] = grips(source)
    else:
        outer = _faces_of_box(*box) if box is not None else ()
        known = ((written_grip(grip), grip) for _, grip in outer)
    faces = [
        (abs(grip.way[2]) < 1 - GIVEN_MM, "." in name, name)
        for name, grip in known
        if grip.sort == "face" and all(
            abs(dot(grip.way, subtract(end, grip.place))) < GIVEN_MM
            for end in (curve.start, curve.end)
        )
    ]  # fmt: skip
    return min(faces)[2] if faces else None


def _outward(face: Face) -> Vec3:
    way = [0.0, 0.0, 0.0]
    way[face.normal_axis] = 1.0 if face.is_far else -1.0
    return way[0], way[1], way[2]
