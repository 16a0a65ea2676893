"""What tells one checked sheet from another."""

from __future__ import annotations

import hashlib
from datetime import date
from pathlib import Path

from holoptic.errors import BadInput
from holoptic.register.entries import Subject


def uid_of_picture(path: Path, subject: Subject) -> str:
    """Return the mark of a picture checked for a figure: the same for the same file again.

    Raises BadInput where the file has gone.
    """
    try:
        with path.open("rb") as file:
            told = hashlib.file_digest(file, "sha256").hexdigest()
    except OSError as error:
        raise BadInput(f"{path.name}: {error.strerror}") from error
    return _mark("picture", told, subject)


def uid_of_distances(day: date, subject: Subject) -> str:
    """Return the mark of control distances read on a day for a figure."""
    return _mark("distances", day.isoformat(), subject)


def _mark(sort: str, told: str, subject: Subject) -> str:
    key = "\n".join((sort, told, subject.job, subject.figure))
    return hashlib.sha256(key.encode()).hexdigest()[:32]
