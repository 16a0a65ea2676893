"""Autosaved work and recent files: small files in the XDG state folder.

None of them may ever stop the program: what cannot be read is as if it were not there.
"""

from __future__ import annotations

import contextlib
import json
import os
import threading
from dataclasses import astuple, dataclass, fields
from pathlib import Path
from uuid import uuid4

from holoptic.bounded import read_bounded
from holoptic.errors import BadInput
from holoptic.exchange.atomic import sweep, write_atomically
from holoptic.exchange.claims import UNKNOWN, Mark
from holoptic.exchange.job_file import LARGEST_BYTES, job_bytes, parse_job
from holoptic.exchange.recently_used import note_recent
from holoptic.job import Job
from holoptic.locks import is_held, lock
from holoptic.places import is_there, read_json_object, resolved, set_aside, state_folder

_MOST_RECENT = 8
_RECENT = "recent.json"
_LOCK = ".lock"


@dataclass(frozen=True)
class Recovered:
    """Work that a run of the program left behind: its job, and the file it belonged to."""

    job: Job
    path: Path | None
    kept: Path
    mark: Mark | None = None
    """How the file was that the work began with."""


class Autosave:
    """One run's safety copy: written after edits, removed when the run ends well.

    The run holds a lock beside it, so that another one can tell whether it still goes on.
    """

    def __init__(self) -> None:
        self._file = state_folder() / f"autosave-{uuid4().hex[:16]}.holoptic"
        self._note = self._file.with_suffix(".json")
        self._lock: int | None = None
        self._turn = threading.Lock()
        self._next: tuple[Job, Path | None, Mark] | None = None
        self._thread: threading.Thread | None = None
        self.trouble = ""
        """Why the last copy could not be written; empty where it could."""

    def keep_soon(self, job: Job, path: Path | None, mark: Mark = UNKNOWN) -> None:
        """Write the safety copy in a thread of its own; of several jobs the newest."""
        self._next = job, path, mark
        if self._thread is None or not self._thread.is_alive():
            self._thread = threading.Thread(target=self._write_next, daemon=True)
            self._thread.start()

    def keep(self, job: Job, path: Path | None, mark: Mark = UNKNOWN) -> None:
        """Write the safety copy at once; a full disk is no reason to disturb the work."""
        with self._turn:
            self._next = None
            self._write(job, path, mark)

    def drop(self) -> None:
        """Remove the safety copy."""
        with self._turn:
            self._next = None
            forget(self._file)
            if self._lock is not None:
                os.close(self._lock)
                self._lock = None

    def _write_next(self) -> None:
        while self._next is not None:
            with self._turn:
                wanted, self._next = self._next, None
                if wanted is not None:
                    self._write(*wanted)

    def _write(self, job: Job, path: Path | None, mark: Mark) -> None:
        note = {"path": str(path) if path else None, "mark": list(astuple(mark))}
        try:
            if self._lock is None:
                self._lock = lock(self._file.with_suffix(_LOCK))
            write_atomically(self._note, json.dumps(note).encode(), private=True)
            write_atomically(self._file, job_bytes(job), private=True)
        except BadInput as error:
            self.trouble = str(error)
        else:
            self.trouble = ""


def left_behind() -> list[Recovered]:
    """Return the work of runs that ended without saving, newest first."""
    sweep(state_folder())
    found = []
    for file in state_folder().glob("autosave-*.holoptic"):
        note = read_json_object(file.with_suffix(".json"))
        if is_held(file.with_suffix(_LOCK)) or _is_running(note.get("pid")):
            continue
        try:
            job = parse_job(read_bounded(file, LARGEST_BYTES))
        except BadInput:
            set_aside(file)
            continue
        path = note.get("path")
        place = Path(path) if isinstance(path, str) else None
        found.append(Recovered(job, place, file, _read_mark(note.get("mark"))))
    return sorted(found, key=lambda item: -_modified(item.kept))


def _read_mark(kept: object) -> Mark | None:
    """Return the mark in a note; None in those of earlier versions."""
    if not isinstance(kept, list) or len(kept) != len(fields(Mark)):
        return None
    if not all(value is None or isinstance(value, int) for value in kept):
        return None
    return Mark(*kept)


def forget(kept: Path) -> None:
    """Remove a safety copy and its note."""
    for file in (kept, kept.with_suffix(".json"), kept.with_suffix(_LOCK)):
        with contextlib.suppress(OSError):
            file.unlink()


def recent_files() -> list[Path]:
    """Return the files last opened or saved that still exist, newest first."""
    names = read_json_object(state_folder() / _RECENT).get("files", [])
    if not isinstance(names, list):
        set_aside(state_folder() / _RECENT)
        return []
    return [Path(name) for name in names if isinstance(name, str) and is_there(Path(name))]


def remember_file(path: Path) -> None:
    """Put a file at the head of the recent ones, our own and the desktop's."""
    with contextlib.suppress(BadInput):
        path = resolved(path)
        files = [path, *(other for other in recent_files() if other != path)][:_MOST_RECENT]
        data = json.dumps({"files": [str(file) for file in files]}, indent=1)
        write_atomically(state_folder() / _RECENT, data.encode(), private=True)
    note_recent(path)


def _is_running(pid: object) -> bool:
    """Say whether a process runs; earlier versions told by it whether a run goes on."""
    if not isinstance(pid, int) or pid <= 0:
        return False
    try:
        os.kill(pid, 0)
    except (ProcessLookupError, OverflowError):
        return False
    except OSError:
        return True
    return True


def _modified(path: Path) -> float:
    try:
        return path.stat().st_mtime
    except OSError:
        return 0.0
