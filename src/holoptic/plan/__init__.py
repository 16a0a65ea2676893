"""The way to draw a picture by hand: moves in order, and the virtual drafter that proves them."""

from holoptic.plan.builder import make_plan
from holoptic.plan.drafter import Drafter
from holoptic.plan.moves import Lift, Move, Plan, Setup
from holoptic.plan.proof import Proof, prove

__all__ = ["Drafter", "Lift", "Move", "Plan", "Proof", "Setup", "make_plan", "prove"]
