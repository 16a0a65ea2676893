"""The layers of a page: one table that every writer of files and the screen read.

A new layer is one line here. Weights are those of ISO 128, mm; dashes are mm on, mm off.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from holoptic.catalogue import tr

Tone = Literal["ink", "quiet", "light", "length", "depth", "height"]

OUTLINE_MM = 0.5
THIN_MM = 0.25
BORDER_MM = 0.7
CENTRE_MM = 0.18
SIZE_MM = 0.35

THICK_MM = 0.7
"""The heavy line of the thick-and-thin school; its light one is half as heavy."""

DASHED = (3.0, 1.5)
CHAIN = (8.0, 1.4, 0.6, 1.4)
"""Dashes of hidden lines, and of centre lines: long dash and dot."""


@dataclass(frozen=True)
class LayerLook:
    """How what stands on a layer looks.

    `grey` is its colour on paper, 0 black to 1 white; `tone` its colour on the screen, where the
    desk may be dark; `number` its colour in a DXF file.
    """

    name: str
    meaning: str
    weight: float = THIN_MM
    dashes: tuple[float, ...] = ()
    grey: float = 0.0
    tone: Tone = "ink"
    number: int = 7

    @property
    def colour(self) -> str:
        """Its colour on paper, as `#rrggbb`."""
        level = round(255 * self.grey)
        return f"#{level:02x}{level:02x}{level:02x}"


_TABLE = (
    LayerLook("border", tr("border of the sheet"), BORDER_MM),
    LayerLook("title", tr("title block")),
    LayerLook("visible", tr("visible edges and outlines"), OUTLINE_MM),
    LayerLook("hidden", tr("hidden lines"), THIN_MM, DASHED, tone="quiet", number=8),
    LayerLook("centre", tr("centre lines"), CENTRE_MM, CHAIN, tone="quiet", number=5),
    LayerLook("construction", tr("construction"), THIN_MM, (), 0.55, "light", 9),
    LayerLook("symbol", tr("symbols and captions"), tone="light"),
    LayerLook("number", tr("numbers of parts")),
    LayerLook("check", tr("check bar and cautions"), tone="light", number=8),
    LayerLook("section", tr("cutting lines and their letters"), CENTRE_MM, CHAIN),
    LayerLook("hatch", tr("hatching of cut faces"), CENTRE_MM, (), 0.0, "ink", 8),
    LayerLook("shading", tr("shading"), CENTRE_MM, (), 0.15, "quiet", 8),
    LayerLook("dimension", tr("dimensions"), number=3),
    LayerLook("length", tr("sizes along the length"), SIZE_MM, (4.8, 1.4), 0.2, "length", 5),
    LayerLook("depth", tr("sizes along the depth"), SIZE_MM, (1.9, 1.2), 0.2, "depth", 30),
    LayerLook("height", tr("sizes along the height"), SIZE_MM, (0.7, 1.2), 0.2, "height", 6),
)

LAYERS = {look.name: look for look in _TABLE}
"""By name, in the order of the table."""

SIZE_LAYERS = ("length", "depth", "height")
"""The layers of sizes, by axis; told apart by their dashes where there is no colour."""
