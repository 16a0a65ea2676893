"""Undo and redo without limit. Jobs are values, so the history is a list of them."""

from __future__ import annotations

from dataclasses import dataclass

from holoptic.job.job import Job


@dataclass(frozen=True)
class Step:
    """A job and the edit that led to it."""

    job: Job
    edit: str


class History:
    """The jobs that were, the one that is, and the ones that were undone."""

    def __init__(self, job: Job) -> None:
        self._steps = [Step(job, "")]
        self._at = 0
        self._saved = 0

    @property
    def job(self) -> Job:
        """The job as it stands."""
        return self._steps[self._at].job

    @property
    def is_saved(self) -> bool:
        """Whether the job stands as it was last saved."""
        return self._at == self._saved

    @property
    def undo_text(self) -> str | None:
        """The edit that undo takes back, or None."""
        return self._steps[self._at].edit if self._at > 0 else None

    @property
    def redo_text(self) -> str | None:
        """The edit that redo makes again, or None."""
        return self._steps[self._at + 1].edit if self._at + 1 < len(self._steps) else None

    def push(self, job: Job, edit: str) -> bool:
        """Take up an edited job; what was undone is forgotten. Returns whether it differs."""
        if job == self.job:
            return False
        del self._steps[self._at + 1 :]
        if self._saved > self._at:
            self._saved = -1  # the saved job can no longer be reached
        self._steps.append(Step(job, edit))
        self._at += 1
        return True

    def undo(self) -> bool:
        """Go one edit back; returns whether there was one."""
        if self._at == 0:
            return False
        self._at -= 1
        return True

    def redo(self) -> bool:
        """Go one edit forward; returns whether there was one."""
        if self._at + 1 == len(self._steps):
            return False
        self._at += 1
        return True

    def mark_saved(self) -> None:
        """Remember that the job as it stands is on disk."""
        self._saved = self._at
