"""The lines of a hatch, clipped to its region."""

from __future__ import annotations

from shapely.geometry.base import BaseGeometry

from holoptic.curves.hatching import area_within, lines_over
from holoptic.sheet.drawing import Ink, Region


def hatch_lines(region: Region) -> list[Ink]:
    """Return the lines of a region's hatch as ink. Raises ValueError for a pitch that is none."""
    hatch = region.hatch
    if hatch is None:
        return []
    lines = lines_over(area_of(region), hatch.angle_deg, hatch.pitch, hatch.offset)
    return [Ink(region.layer, line, dashes=()) for line in lines]


def area_of(region: Region) -> BaseGeometry:
    """Return what lies in an odd number of a region's outlines."""
    return area_within(region.outlines)
