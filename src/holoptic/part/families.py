"""What sorts of operation have in common: what each is given by, as a table."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from holoptic.part.operations import Operation

Depths = Literal["span", "place", "along", "none"]


@dataclass(frozen=True)
class Family:
    """What an operation is given by.

    `outline` by corners that may be walked, `centre` by a centre from two edges; `depths` by a
    span inward from a face, by one place, by a span along an edge, or not at all. `may_add` says
    that it may add material too, `on_one_face` that it lies on one crate face, `copies` that it
    may be repeated, `paths` that its outline may have several.
    """

    outline: bool = False
    centre: bool = False
    depths: Depths = "span"
    may_add: bool = True
    on_one_face: bool = True
    copies: bool = True
    paths: bool = False


_OUTLINED = Family(outline=True)
_CENTRED = Family(centre=True)
_FAMILIES: dict[str, Family] = {
    "prism": _OUTLINED,
    "strip": Family(outline=True, paths=True),
    "round": _CENTRED,
    "polygon": _CENTRED,
    "pyramid": _CENTRED,
    "slot": _CENTRED,
    "hole": Family(centre=True, may_add=False),
    "ball": Family(centre=True, depths="place"),
    "ring": Family(centre=True, depths="place"),
    "bevel": Family(depths="along", may_add=False),
    "corner": Family(depths="none", may_add=False, on_one_face=False, copies=False),
}


def family_of(operation: Operation) -> Family:
    """Return what an operation is given by."""
    return _FAMILIES[operation.type]
