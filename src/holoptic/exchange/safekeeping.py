"""Autosaved work and recent files: small files in the XDG state folder.

None of them may ever stop the program: what cannot be read is as if it were not there.
"""

from __future__ import annotations

import contextlib
import json
import os
from dataclasses import dataclass
from pathlib import Path

from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.exchange.job_file import job_bytes, parse_job
from holoptic.job import Job
from holoptic.places import read_json_object, state_folder

_MOST_RECENT = 8


@dataclass(frozen=True)
class Recovered:
    """Work that a run of the program left behind: its job, and the file it belonged to."""

    job: Job
    path: Path | None
    kept: Path


class Autosave:
    """One run's safety copy: written after edits, removed when the run ends well."""

    def __init__(self) -> None:
        self._file = state_folder() / f"autosave-{os.getpid()}.holoptic"
        self._note = self._file.with_suffix(".json")

    def keep(self, job: Job, path: Path | None) -> None:
        """Write the safety copy; a full disk is no reason to disturb the work."""
        note = {"pid": os.getpid(), "path": str(path) if path else None}
        with contextlib.suppress(BadInput):
            write_atomically(self._file, job_bytes(job))
            write_atomically(self._note, json.dumps(note).encode())

    def drop(self) -> None:
        """Remove the safety copy."""
        forget(self._file)


def left_behind() -> list[Recovered]:
    """Return the work of runs that ended without saving, newest first."""
    found = []
    for file in state_folder().glob("autosave-*.holoptic"):
        note = read_json_object(file.with_suffix(".json"))
        if _is_running(note.get("pid")):
            continue
        try:
            job = parse_job(file.read_bytes())
        except (BadInput, OSError):
            continue
        path = note.get("path")
        found.append(Recovered(job, Path(path) if isinstance(path, str) else None, file))
    return sorted(found, key=lambda item: -_modified(item.kept))


def forget(kept: Path) -> None:
    """Remove a safety copy and its note."""
    for file in (kept, kept.with_suffix(".json")):
        with contextlib.suppress(OSError):
            file.unlink()


def recent_files() -> list[Path]:
    """Return the files last opened or saved that still exist, newest first."""
    names = read_json_object(state_folder() / "recent.json").get("files", [])
    paths = [Path(name) for name in names if isinstance(name, str)]
    return [path for path in paths if path.is_file()]


def remember_file(path: Path) -> None:
    """Put a file at the head of the recent ones."""
    path = path.resolve()
    files = [path, *(other for other in recent_files() if other != path)][:_MOST_RECENT]
    data = json.dumps({"files": [str(file) for file in files]}, indent=1)
    with contextlib.suppress(BadInput):
        write_atomically(state_folder() / "recent.json", data.encode())


def _is_running(pid: object) -> bool:
    if not isinstance(pid, int) or pid <= 0:
        return False
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    except OSError:
        return True
    return True


def _modified(path: Path) -> float:
    try:
        return path.stat().st_mtime
    except OSError:
        return 0.0
