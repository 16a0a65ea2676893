"""Whether two pictures show the same, however their strokes are cut."""

from __future__ import annotations

from collections.abc import Iterator

import shapely

from holoptic.pictorial import Picture
from holoptic.tolerance import CHORD_MM

_SAME_MM = 2 * CHORD_MM
_SHARES = (0.02, 0.3, 0.5, 0.7, 0.98)


def differences(one: Picture, other: Picture) -> Iterator[str]:
    """Yield where the lines of one picture lie off those of the other, role by role."""
    for role in ("visible", "hidden", "centre"):
        lines = [[stroke.path for stroke in p.of_role(role)] for p in (one, other)]
        for number, (own, others) in enumerate((lines, lines[::-1])):
            theirs = shapely.MultiLineString(others)
            for path in own:
                probe = shapely.LineString(path)
                places = [
                    probe.interpolate(share, normalized=True)
                    for share in (0.02, 0.3, 0.5, 0.7, 0.98)
                ]
                off = max(theirs.distance(place) for place in places) if others else probe.length
                if off > _SAME_MM:
                    yield f"{role} line only in picture {number}: {path[0]} to {path[-1]}, {off:g}"
