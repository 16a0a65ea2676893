"""Which faces of earlier features an operation can go up to."""

from __future__ import annotations

from holoptic.part.bounds import bounds_of
from holoptic.part.crate import AXIS_LETTERS
from holoptic.part.naming import SIDES, spoken
from holoptic.part.part import Part


def faces_to_reach(part: Part, index: int) -> list[tuple[str, str]]:
    """Return the faces of earlier features that an operation can go as deep as.

    Each with a title, and the sum that says its depth inward from the operation's face.
    """
    operation = part.operations[index]
    axis, far = operation.face.normal_axis, operation.face.is_far
    found = []
    for earlier in part.operations[:index]:
        bounds = bounds_of(earlier, part.crate)
        if bounds is None:
            continue
        for side, places in zip(SIDES[axis], bounds, strict=True):
            size = part.crate.sizes[axis]
            depth = size - places[axis] if far else places[axis]
            if operation.start.mm < depth < size:
                word = f"{spoken(earlier.name)}.{side}"
                words = f"{AXIS_LETTERS[axis]}-{word}" if far else word
                found.append((f"{side} of “{earlier.name}”", words))
    return found
