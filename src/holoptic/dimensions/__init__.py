"""Dimensions: what of a part sizes must tell, which are proposed, whether they suffice."""

from holoptic.dimensions.closing import Closing, check
from holoptic.dimensions.dimension import Dimension, Level, Sort
from holoptic.dimensions.needs import Needs, needs_of
from holoptic.dimensions.proposing import keyed, propose

__all__ = [
    "Closing",
    "Dimension",
    "Level",
    "Needs",
    "Sort",
    "check",
    "keyed",
    "needs_of",
    "propose",
]
