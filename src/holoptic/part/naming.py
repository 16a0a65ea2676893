"""Names that sums may use: lengths of the part's own, and places of its features.

`base`, `eye_r` are lengths named by the maker; `L`, `D`, `H` the crate's sizes; `eye.x`, `step.top`
where earlier features lie: their middle along length (x), depth (y) and height (z), and their
left, right, front, rear, bottom and top.
"""

from __future__ import annotations

import re
from collections.abc import Iterable

from holoptic.catalogue import tr
from holoptic.part.bounds import bounds_of
from holoptic.part.crate import AXIS_LETTERS, Crate
from holoptic.part.operations import Operation
from holoptic.units.expression import UNIT_WORDS

SIDES = (("left", "right"), ("front", "rear"), ("bottom", "top"))
_OUTLINE_WORDS = {
    "arc", "angle", "length", "run", "rise", "left", "right", "large", "smooth", "bulge", "at",
    "go", "to", "close", "meet", "r", "l", "u", "d", "a",
}  # fmt: skip
_NAME = re.compile(r"[A-Za-z][A-Za-z_0-9]*")


def why_not_a_name(name: str, taken: Iterable[str]) -> str:
    """Return why a length cannot be called so, or an empty text."""
    if not _NAME.fullmatch(name):
        return tr(
            "a name begins with a letter; letters, figures and _ may follow: choose another name"
        )
    if name in AXIS_LETTERS:
        return tr("{name} is a size of the crate: choose another name", name=name)
    if name in UNIT_WORDS:
        return tr("{name} is a unit: choose another name", name=name)
    if name in _OUTLINE_WORDS:
        return tr("{name} means something in an outline: choose another name", name=name)
    return tr("that name is taken: choose another name") if name in set(taken) else ""


def spoken(name: str) -> str:
    """Return what a feature is called in sums.

    >>> spoken("bolt hole 1")
    'bolt_hole_1'
    """
    word = re.sub(r"[^a-z0-9]+", "_", name.lower()).strip("_")
    return word if word[:1].isalpha() else f"f_{word}"


def feature_names(operation: Operation, crate: Crate) -> dict[str, float]:
    """Return the places of a feature by name, mm from the crate's left, front and bottom."""
    bounds = bounds_of(operation, crate)
    if bounds is None:
        return {}
    word, found = spoken(operation.name), {}
    for axis, (low, high, middle) in enumerate(zip(*bounds, "xyz", strict=True)):
        near, far = SIDES[axis]
        found[f"{word}.{near}"], found[f"{word}.{far}"] = low, high
        found[f"{word}.{middle}"] = (low + high) / 2
    return found


def words_used(text: str) -> set[str]:
    """Return the names that a sum uses; of a feature's place the feature alone."""
    words = re.findall(r"[A-Za-z_][A-Za-z_0-9]*(?:\.[a-z]+)?", text)
    return {word.partition(".")[0] for word in words if word not in UNIT_WORDS}


def with_name_changed(text: str, old: str, new: str) -> str:
    """Return a sum with a name, or a feature's name before its place, exchanged."""
    return re.sub(rf"(?<![A-Za-z_0-9.]){re.escape(old)}(?![A-Za-z_0-9])", new, text)
