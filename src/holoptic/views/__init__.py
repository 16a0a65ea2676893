"""Orthographic views: the same looks as a picture, along the axes, laid out on one sheet."""

from holoptic.views.layout import PlacedView, lay_out
from holoptic.views.orthographic import VIEW_NAMES, VIEW_SETS, orthographic, view_directions

__all__ = ["VIEW_NAMES", "VIEW_SETS", "PlacedView", "lay_out", "orthographic", "view_directions"]
