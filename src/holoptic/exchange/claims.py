"""Which window has which job open: told by locks, which end with the process that holds them.

Process numbers would not do: they come round again, and in a container they all are small.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
from dataclasses import dataclass
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.locks import is_held, lock
from holoptic.places import resolved, state_folder
from holoptic.quoting import name_of

_PRIVATE = 0o600


class Taken(BadInput):
    """A job that another window has open."""


class ChangedOnDisk(BadInput):
    """A file that somebody else wrote since it was read."""


@dataclass(frozen=True)
class Mark:
    """What tells one state of a file from another; all of it None where there is no file."""

    device: int | None = None
    inode: int | None = None
    size: int | None = None
    modified_ns: int | None = None

    @property
    def is_there(self) -> bool:
        """Whether there was a file."""
        return self.inode is not None


UNKNOWN = Mark()
"""The mark of no file."""


def mark_of(path: Path) -> Mark:
    """Return the mark of a file as it is now."""
    try:
        found = path.stat()
    except (OSError, ValueError):
        return UNKNOWN
    return Mark(found.st_dev, found.st_ino, found.st_size, found.st_mtime_ns)


class Claim:
    """The claim of a window on a job file, for as long as it has it open."""

    def __init__(self, path: Path) -> None:
        """Claim a file. Raises Taken where another window has it open."""
        self.path = resolved(path)
        place = _place(self.path)
        self._handle = lock(place)
        if self._handle is None and is_held(place):
            raise Taken(tr("{name} is open in another window", name=name_of(path)))
        self.knocks = knock_place(self.path)
        """A file that appears or changes when another window asks for this one."""

    def release(self) -> None:
        """Give the file free."""
        if self._handle is not None:
            with contextlib.suppress(OSError):
                os.close(self._handle)
            self._handle = None


def knock(path: Path) -> None:
    """Ask the window that has a file open to come forward."""
    with contextlib.suppress(OSError):
        handle = os.open(knock_place(resolved(path)), os.O_WRONLY | os.O_CREAT, _PRIVATE)
        os.write(handle, b"knock\n")
        os.close(handle)


def knock_place(path: Path) -> Path:
    """Return the file by which the window that has `path` open is asked to come forward."""
    return _place(path).with_suffix(".knock")


def _place(path: Path) -> Path:
    digest = hashlib.sha256(os.fsencode(path)).hexdigest()[:16]
    return state_folder() / f"open-{digest}.lock"
