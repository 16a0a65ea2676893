"""What an operation can go up to, and what its depths can be counted from."""

from __future__ import annotations

from dataclasses import dataclass, replace

from holoptic.part.bounds import bounds_of
from holoptic.part.crate import AXIS_LETTERS, Face
from holoptic.part.expand import counted_inward
from holoptic.part.naming import SIDES, spoken
from holoptic.part.operations import Ball, Bevel, CornerCut, Operation, Ring
from holoptic.part.part import Part
from holoptic.units import Length, Unit


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
                found.append((f"{side} of “{earlier.name}”", words))
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
    outer sides of earlier features.
    """
    operation = part.operations[index]
    face = operation.face
    axis, outer = face.normal_axis, int(face.is_far)
    opposite = next(other for other in Face if other.normal_axis == axis and other != face)
    found = [
        Base(f"in from the {face.value}", None),
        Base(f"from the {opposite.value}", "0" if face.is_far else AXIS_LETTERS[axis]),
    ]
    for earlier in part.operations[:index]:
        if not earlier.off and bounds_of(earlier, part.crate) is not None:
            side = SIDES[axis][outer]
            found.append(Base(f"{side} of “{earlier.name}”", f"{spoken(earlier.name)}.{side}"))
    return found


def counted_from(part: Part, index: int, words: str | None, unit: Unit) -> Operation:
    """Return an operation with its depths counted from something else; it stays where it is.

    One that goes through stands from there to its face.
    """
    operation = part.operations[index]
    inward = counted_inward(operation, part.crate)
    if isinstance(inward, Bevel | CornerCut):
        return operation
    if words is None:
        return inward
    base = Length.read(words, unit, part.scope(index))
    size, far = part.crate.sizes[operation.face.normal_axis], operation.face.is_far

    def height(depth: Length) -> Length:
        place = size - depth.mm if far else depth.mm
        return Length.of(place - base.mm if far else base.mm - place, unit)

    if isinstance(inward, Ball | Ring):
        return replace(inward, start=height(inward.start), base=base)
    if inward.end is None:
        return replace(inward, start=Length.of(0.0, unit), base=base)
    end = height(inward.start) if inward.start.mm else None
    return replace(inward, start=height(inward.end), end=end, base=base)
