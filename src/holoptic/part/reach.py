"""What an operation can go up to, and what its depths can be counted from."""

from __future__ import annotations

from dataclasses import dataclass, replace

from holoptic.catalogue import tr
from holoptic.part.bounds import bounds_of
from holoptic.part.crate import AXIS_LETTERS, Crate, Face
from holoptic.part.expand import counted_inward
from holoptic.part.naming import SIDES, spoken
from holoptic.part.operations import (
    Ball,
    Bevel,
    CornerCut,
    Operation,
    Polygon,
    Prism,
    Pyramid,
    Ring,
    Round,
    Strip,
)
from holoptic.part.part import Part
from holoptic.tolerance import COINCIDENT_MM
from holoptic.units import Length, Unit

_Turnable = Prism | Strip | Round | Polygon | Pyramid
"""What can be described from the opposite crate face just as well."""


def faces_to_reach(part: Part, index: int) -> list[tuple[str, str]]:
    """Return the faces of earlier features that an operation can go as deep as.

    Each with a title, and the sum that says it as the operation's `end` is counted.
    """
    operation = part.operations[index]
    axis, far, base = operation.face.normal_axis, operation.face.is_far, operation.base
    size = part.crate.sizes[axis]
    found = []
    for earlier in part.operations[:index]:
        bounds = bounds_of(earlier, part.crate)
        if bounds is None:
            continue
        for side, places in zip(SIDES[axis], bounds, strict=True):
            word = f"{spoken(earlier.name)}.{side}"
            end, words = _counted(places[axis], word, base, far, size, axis)
            if operation.start.mm < end and (base is not None or end < size):
                found.append((tr("{side} of “{name}”", side=side, name=earlier.name), words))
    return found


def _counted(
    place: float, word: str, base: Length | None, far: bool, size: float, axis: int
) -> tuple[float, str]:
    """Return a place as a depth inward, or as a height above a base, mm, and its words."""
    if base is None:
        return (size - place, f"{AXIS_LETTERS[axis]}-{word}") if far else (place, word)
    if far:
        return place - base.mm, f"{word}-({base.text})" if base.mm else word
    return base.mm - place, f"{base.text}-{word}"


@dataclass(frozen=True)
class Base:
    """What the depths of an operation can be counted from; `words` None: inward from its face."""

    title: str
    words: str | None


def bases_for(part: Part, index: int) -> list[Base]:
    """Return what an operation's depths can be counted from: its face, the opposite one, and the
    sides of earlier features that room is left beyond, heights going outward from them.

    An addition may stand on either side of a feature, whichever face it was begun on.
    """
    operation = part.operations[index]
    face = operation.face
    axis = face.normal_axis
    found = [
        Base(tr("in from the {value}", value=face.title), None),
        Base(
            tr("from the {value}", value=_opposite(face).title),
            "0" if face.is_far else AXIS_LETTERS[axis],
        ),
    ]
    ways = [face.is_far]
    if operation.mode == "add" and isinstance(operation, _Turnable):
        ways.append(not face.is_far)
    for earlier in part.operations[:index]:
        bounds = None if earlier.off else bounds_of(earlier, part.crate)
        if bounds is None:
            continue
        for far in ways:
            place = bounds[int(far)][axis]
            room = part.crate.sizes[axis] - place if far else place
            if room > COINCIDENT_MM:
                side = SIDES[axis][int(far)]
                found.append(
                    Base(
                        tr("{side} of “{name}”", side=side, name=earlier.name),
                        f"{spoken(earlier.name)}.{side}",
                    )
                )
    return found


def counted_from(part: Part, index: int, words: str | None, unit: Unit) -> Operation:
    """Return an operation with its depths counted from something else; it stays where it is.

    One that goes through stands from there to its face, an addition no deeper than there. One that
    is to stand on the other side of a feature is described from the opposite crate face.
    """
    inward = counted_inward(part.operations[index], part.crate)
    if isinstance(inward, Bevel | CornerCut):
        return part.operations[index]
    if words is None:
        return inward
    axis = inward.face.normal_axis
    far = words == "0" or words.endswith(f".{SIDES[axis][1]}")
    if far != inward.face.is_far and isinstance(inward, _Turnable):
        inward = _turned(inward, part.crate, unit)
    base = Length.read(words, unit, part.scope(index))
    size, far = part.crate.sizes[axis], inward.face.is_far

    def height(depth: Length) -> Length:
        place = size - depth.mm if far else depth.mm
        return Length.of(place - base.mm if far else base.mm - place, unit)

    if isinstance(inward, Ball | Ring):
        return replace(inward, start=height(inward.start), base=base)
    if inward.end is None:
        return replace(inward, start=Length.of(0.0, unit), base=base)
    end = height(inward.start) if inward.start.mm else None
    start = height(inward.end)
    top = end.mm if end is not None else size - base.mm if far else base.mm
    if inward.mode == "add" and start.mm < 0 < top:
        start = Length.of(0.0, unit)  # what reached into the feature now stands on it
    return replace(inward, start=start, end=end, base=base)


def _opposite(face: Face) -> Face:
    return next(f for f in Face if f.normal_axis == face.normal_axis and f is not face)


def _turned(operation: _Turnable, crate: Crate, unit: Unit) -> _Turnable:
    """Return the same body described from the opposite crate face, whose axes are the same."""
    size = crate.thickness(operation.face)
    start = 0.0 if operation.end is None else size - operation.end.mm
    through = operation.end is None and operation.start.mm == 0
    end = None if through else Length.of(size - operation.start.mm, unit)
    ends: dict[str, object] = {}
    if isinstance(operation, Round) and operation.end_diameter is not None:
        ends = {"diameter": operation.end_diameter, "end_diameter": operation.diameter}
    elif isinstance(operation, Polygon) and operation.end_size is not None:
        ends = {"size": operation.end_size, "end_size": operation.size}
    elif isinstance(operation, Pyramid):
        ends = {"width": operation.end_width, "height": operation.end_height,
                "end_width": operation.width, "end_height": operation.height}  # fmt: skip
    return replace(operation, face=_opposite(operation.face), start=Length.of(start, unit),
                   end=end, **ends)  # type: ignore[arg-type] # fmt: skip
