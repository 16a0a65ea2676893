"""Orthographic views: the same looks as a picture, along the axes, laid out on one sheet."""

from holoptic.views.layout import PlacedView, lay_out
from holoptic.views.orthographic import (
    VIEW_NAMES,
    VIEW_SETS,
    direction_of,
    orthographic,
    pictures_of,
    view_directions,
)

__all__ = [
    "VIEW_NAMES",
    "VIEW_SETS",
    "PlacedView",
    "direction_of",
    "lay_out",
    "orthographic",
    "pictures_of",
    "view_directions",
]
