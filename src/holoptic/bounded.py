"""Files are read within bounds: ordinary files alone, and never more of them than is meant.

A size that is asked for before reading may be another while one reads, and that of a device is
none; so what counts is what was read.
"""

from __future__ import annotations

import os
import stat
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import BinaryIO

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.quoting import name_of

_MEGA = 1_000_000


@contextmanager
def opened_for_reading(path: Path) -> Iterator[BinaryIO]:
    """Open an ordinary file; trouble while it is read is told as well.

    Raises BadInput with one clear line where it is none, or cannot be read.
    """
    try:
        # looked at before it is opened, as opening a device can do something, and after it
        _require_ordinary(os.stat(path), path)  # noqa: PTH116 - takes what Path.stat does not
        handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
        with os.fdopen(handle, "rb") as file:
            _require_ordinary(os.fstat(handle), path)
            yield file
    except OSError as error:
        why = error.strerror or str(error)
        raise BadInput(tr("{name} cannot be read: {why}", name=name_of(path), why=why)) from error
    except ValueError as error:
        if "null" not in str(error):
            raise
        raise BadInput(tr("{name} is no name of a file", name=name_of(path))) from error


def read_bounded(path: Path, most_bytes: int) -> bytes:
    """Return what an ordinary file holds.

    Raises BadInput with one clear line where it is none, cannot be read, or holds more.
    """
    with opened_for_reading(path) as file:
        data = file.read(most_bytes + 1)
    if len(data) > most_bytes:
        raise too_large(path, most_bytes)
    return data


def require_size(path: Path, most_bytes: int) -> None:
    """Raise BadInput unless a path is an ordinary file of no more than so many bytes."""
    with opened_for_reading(path) as file:
        if os.fstat(file.fileno()).st_size > most_bytes:
            raise too_large(path, most_bytes)


def too_large(path: Path, most_bytes: int) -> BadInput:
    """Return the refusal of a file that is too large."""
    return BadInput(
        tr(
            "{name} is too large: more than {most:.0f} MB",
            name=name_of(path),
            most=most_bytes / _MEGA,
        )
    )


def _require_ordinary(found: os.stat_result, path: Path) -> None:
    if stat.S_ISDIR(found.st_mode):
        raise BadInput(tr("{name} is a folder", name=name_of(path)))
    if not stat.S_ISREG(found.st_mode):
        raise BadInput(tr("{name} is no ordinary file", name=name_of(path)))
