"""What a part is: a crate and an ordered list of operations; pure, validated data."""

from holoptic.part.check import check
from holoptic.part.crate import Crate, Face
from holoptic.part.operations import (
    Arc,
    Ball,
    Corner,
    Mode,
    Offset,
    Operation,
    OutlinePoint,
    Polygon,
    Prism,
    Pyramid,
    Ring,
    Round,
    Slope,
    Strip,
)
from holoptic.part.part import Begin, ImportedSolid, Part, Source

__all__ = [
    "Arc",
    "Ball",
    "Begin",
    "Corner",
    "Crate",
    "Face",
    "ImportedSolid",
    "Mode",
    "Offset",
    "Operation",
    "OutlinePoint",
    "Part",
    "Polygon",
    "Prism",
    "Pyramid",
    "Ring",
    "Round",
    "Slope",
    "Source",
    "Strip",
    "check",
]
