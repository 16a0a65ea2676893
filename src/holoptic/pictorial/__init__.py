"""The picture: a kind and a near corner, and the visible and hidden strokes of a solid."""

from holoptic.pictorial.kinds import (
    Family,
    NearCorner,
    Parameter,
    View,
    kind_families,
    view_of,
)
from holoptic.pictorial.picture import Picture, draw
from holoptic.pictorial.strokes import Role, Stroke

__all__ = [
    "Family",
    "NearCorner",
    "Parameter",
    "Picture",
    "Role",
    "Stroke",
    "View",
    "draw",
    "kind_families",
    "view_of",
]
