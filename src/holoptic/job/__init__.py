"""A job: the parts on the bench and how each is to be drawn; and the history of its edits."""

from holoptic.job.history import History
from holoptic.job.job import (
    Angle,
    Choice,
    DepthCopy,
    Firming,
    FrameBy,
    HandWays,
    Hidden,
    Job,
    JobPart,
    Order,
    Outline,
    OwnMethod,
    Raising,
    Series,
    SheetWish,
    Strategy,
    ViewSet,
)

__all__ = [
    "Angle",
    "Choice",
    "DepthCopy",
    "Firming",
    "FrameBy",
    "HandWays",
    "Hidden",
    "History",
    "Job",
    "JobPart",
    "Order",
    "Outline",
    "OwnMethod",
    "Raising",
    "Series",
    "SheetWish",
    "Strategy",
    "ViewSet",
]
