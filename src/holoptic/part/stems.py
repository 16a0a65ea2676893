"""What features are called where nobody has named them yet: by their sort, and counted."""

from __future__ import annotations

from holoptic.catalogue import mark, tr

_TEXTS = {
    "cut": mark("cut {number}"), "add": mark("add {number}"), "hole": mark("hole {number}"),
    "boss": mark("boss {number}"), "slot": mark("slot {number}"), "bevel": mark("bevel {number}"),
    "corner": mark("corner {number}"), "rib": mark("rib {number}"),
    "round end": mark("round end {number}"), "polygon": mark("polygon {number}"),
    "cone": mark("cone {number}"), "pyramid": mark("pyramid {number}"),
    "ball": mark("ball {number}"), "ring": mark("ring {number}"), "strip": mark("strip {number}"),
    "pad": mark("pad {number}"), "slope": mark("slope {number}"),
    "opening": mark("opening {number}"), "pocket": mark("pocket {number}"),
    "groove": mark("groove {number}"), "step": mark("step {number}"),
    "notch": mark("notch {number}"),
}  # fmt: skip


def counted(stem: str, number: int) -> str:
    """Return the name of a feature of a sort, in the user's language; other stems stay as they are.

    >>> counted("hole", 2), counted("lantern eye", 1)
    ('hole 2', 'lantern eye 1')
    """
    text = _TEXTS.get(stem, mark("{stem} {number}"))
    return tr(text, stem=stem, number=number)
