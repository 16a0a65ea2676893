"""A job: the parts on the bench and how each is to be drawn; and the history of its edits."""

from holoptic.job.history import History
from holoptic.job.job import Angle, Choice, Hidden, Job, JobPart, Outline, ViewSet

__all__ = ["Angle", "Choice", "Hidden", "History", "Job", "JobPart", "Outline", "ViewSet"]
