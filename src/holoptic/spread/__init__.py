"""Drawing an arrangement apart: what leaves along which axis, in which order, and how far."""

from holoptic.spread.distances import draw_apart
from holoptic.spread.gaps import GapFound, Telling, least_gap
from holoptic.spread.parting import Cluster, Parting, Tier, Trouble, take_apart

__all__ = [
    "Cluster",
    "GapFound",
    "Parting",
    "Telling",
    "Tier",
    "Trouble",
    "draw_apart",
    "least_gap",
    "take_apart",
]
