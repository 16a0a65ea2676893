"""Lengths as people write them: sums, fractions, feet and inches, and their values in mm."""

from holoptic.units.expression import evaluate
from holoptic.units.formats import Unit, show, show_set, written, written_set
from holoptic.units.length import Length

__all__ = ["Length", "Unit", "evaluate", "show", "show_set", "written", "written_set"]
