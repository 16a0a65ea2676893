"""The ways to draw a circle's image by hand, by name."""

from __future__ import annotations

from typing import Literal, get_args

from holoptic.catalogue import tr

Method = Literal["compass", "sketch", "four-centre", "closer", "free-arcs", "offsets", "true"]
METHODS: tuple[Method, ...] = get_args(Method)
"""From the simplest by hand to the most laborious."""

METHOD_TITLES: dict[Method, str] = {
    "compass": tr("true circle"),
    "sketch": tr("freehand sketch"),
    "four-centre": tr("four-centre oval"),
    "closer": tr("closer oval"),
    "free-arcs": tr("best four arcs"),
    "offsets": tr("offset points"),
    "true": tr("true ellipse"),
}

FEWEST_ORDINATES, MOST_ORDINATES = 6, 72
USUAL_ORDINATES = 12
"""Points of a circle that are carried over by their offsets."""
