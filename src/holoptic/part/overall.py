"""Overall sizes that follow from the features: `14.5+21` from a base and what stands on it."""

from __future__ import annotations

from holoptic.part.bounds import bounds_of
from holoptic.part.crate import AXIS_LETTERS
from holoptic.part.expand import plus
from holoptic.part.naming import spoken, words_used
from holoptic.part.operations import Centred
from holoptic.part.part import Part
from holoptic.part.provenance import given_offsets
from holoptic.tolerance import COINCIDENT_MM
from holoptic.units import Length


def overall_words(part: Part, axis: int) -> Length | None:
    """Return how far the added features reach along an axis, in the words that say so.

    None where nothing is added, or where what is added hangs on the crate's own size.
    """
    reaches = []
    for index, operation in enumerate(part.operations):
        bounds = (
            None if operation.off or operation.mode == "cut" else bounds_of(operation, part.crate)
        )
        if bounds is not None:
            words = _words_at(part, index, axis, bounds[1][axis])
            if words is not None:
                reaches.append(words)
    return max(reaches, key=lambda words: words.mm, default=None)


def _words_at(part: Part, index: int, axis: int, at: float) -> Length | None:
    """Return the words of the place where a feature ends; a round one's centre and radius."""
    letter = AXIS_LETTERS[axis]
    features = {spoken(operation.name) for operation in part.operations}
    found = [
        given.length for given in given_offsets(part)
        if given.axis == axis and given.operation == index and not given.far
        and abs(given.at - at) < COINCIDENT_MM
    ]  # fmt: skip
    operation = part.operations[index]
    if not found and isinstance(operation, Centred):
        found += _centre_and_radius(part, index, axis, at)
    free = [words for words in found if not words_used(words.text) & {letter, *features}]
    return min(free, key=lambda words: len(words.text), default=None)


def _centre_and_radius(part: Part, index: int, axis: int, at: float) -> list[Length]:
    diameter = getattr(part.operations[index], "diameter", None)
    if diameter is None:
        return []
    radius = Length(f"{diameter.text}/2", diameter.mm / 2)
    return [
        plus(given.length, radius) for given in given_offsets(part)
        if given.axis == axis and given.operation == index and not given.far
        and abs(given.at + radius.mm - at) < COINCIDENT_MM
    ]  # fmt: skip
