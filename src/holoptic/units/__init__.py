"""Lengths as people write them: sums, fractions, feet and inches, and their values in mm."""

from holoptic.units.expression import evaluate
from holoptic.units.formats import Unit, show
from holoptic.units.length import Length

__all__ = ["Length", "Unit", "evaluate", "show"]
