"""What a part is: a crate and an ordered list of operations; pure, validated data."""

from holoptic.part.check import check
from holoptic.part.crate import Crate, Face
from holoptic.part.operations import Corner, Mode, Offset, Operation, Prism, Round
from holoptic.part.part import Begin, ImportedSolid, Part, Source

__all__ = [
    "Begin",
    "Corner",
    "Crate",
    "Face",
    "ImportedSolid",
    "Mode",
    "Offset",
    "Operation",
    "Part",
    "Prism",
    "Round",
    "Source",
    "check",
]
