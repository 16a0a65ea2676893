"""The picture: a kind and a near corner, and the visible and hidden strokes of a solid."""

from holoptic.pictorial.kinds import NearCorner, View, view_of
from holoptic.pictorial.picture import Picture, draw
from holoptic.pictorial.strokes import Role, Stroke

__all__ = ["NearCorner", "Picture", "Role", "Stroke", "View", "draw", "view_of"]
