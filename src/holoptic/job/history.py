"""Undo and redo without limit. Jobs are values, so the history is a list of them."""

from __future__ import annotations

from dataclasses import dataclass, replace

from holoptic.job.job import Job


@dataclass(frozen=True)
class Step:
    """A job and the edit that led to it."""

    job: Job
    edit: str
    merge: str | None = None


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
    def is_merging(self) -> bool:
        """Whether the last edit is one of a row that follow each other: typing, a slider."""
        return self._steps[self._at].merge is not None

    @property
    def undo_text(self) -> str | None:
        """The edit that undo takes back, or None."""
        return self._steps[self._at].edit if self._at > 0 else None

    @property
    def redo_text(self) -> str | None:
        """The edit that redo makes again, or None."""
        return self._steps[self._at + 1].edit if self._at + 1 < len(self._steps) else None

    def push(self, job: Job, edit: str, merge: str | None = None) -> bool:
        """Take up an edited job; what was undone is forgotten. Returns whether it differs.

        Edits that follow each other with the same `merge` word are one step: typing in a field.
        """
        if job == self.job:
            return False
        if self._saved > self._at:
            self._saved = -1  # the saved job can no longer be reached
        top = self._steps[self._at]
        del self._steps[self._at + 1 :]
        if merge is not None and top.merge == merge and self._at != self._saved:
            self._steps[self._at] = Step(job, edit, merge)
            return True
        self._steps.append(Step(job, edit, merge))
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

    def close_step(self) -> None:
        """Let the next edit be a step of its own, whatever its `merge` word."""
        self._steps[self._at] = replace(self._steps[self._at], merge=None)

    def mark_unsaved(self) -> None:
        """Remember that no job in this history is on disk."""
        self._saved = -1

    def mark_saved(self) -> None:
        """Remember that the job as it stands is on disk."""
        self._saved = self._at
