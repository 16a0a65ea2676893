"""Drawing an arrangement apart: what leaves along which axis, in which order, and how far."""

from holoptic.spread.distances import draw_apart
from holoptic.spread.parting import Cluster, Parting, Tier, Trouble, take_apart

__all__ = ["Cluster", "Parting", "Tier", "Trouble", "draw_apart", "take_apart"]
