"""A job: the parts on the bench and how each is to be drawn; and the history of its edits."""

from holoptic.job.history import History
from holoptic.job.job import Choice, Hidden, Job, JobPart

__all__ = ["Choice", "Hidden", "History", "Job", "JobPart"]
