"""A job: the parts on the bench and how each is to be drawn; and the history of its edits."""

from holoptic.job.history import History
from holoptic.job.job import (
    Angle,
    Choice,
    DepthCopy,
    HandWays,
    Hidden,
    Job,
    JobPart,
    Outline,
    OwnMethod,
    Raising,
    ViewSet,
)

__all__ = [
    "Angle",
    "Choice",
    "DepthCopy",
    "HandWays",
    "Hidden",
    "History",
    "Job",
    "JobPart",
    "Outline",
    "OwnMethod",
    "Raising",
    "ViewSet",
]
