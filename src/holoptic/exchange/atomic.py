"""Files are written whole or not at all."""

from __future__ import annotations

import contextlib
import os
import shutil
import tempfile
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.errors import BadInput


def write_atomically(path: Path, data: bytes, *, keep_previous: bool = False) -> None:
    """Write `data` to `path` so that a crash at any moment leaves the old file or the new one.

    With `keep_previous` the file that was there stays beside it with a `~` behind its name.
    Raises BadInput with one line where the place cannot be written.
    """
    try:
        _write(path, data, keep_previous)
    except OSError as error:
        raise BadInput(
            tr(
                "{name} cannot be written: {strerror}",
                name=path.name,
                strerror=error.strerror or error,
            )
        ) from error


def _write(path: Path, data: bytes, keep_previous: bool) -> None:
    handle, name = tempfile.mkstemp(prefix=f".{path.name}.", dir=path.parent)
    temporary = Path(name)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        temporary.chmod(_mode_for(path))
        if keep_previous and path.exists():
            _keep(path)
        temporary.replace(path)
    except BaseException:
        with contextlib.suppress(OSError):
            temporary.unlink()
        raise
    _sync_folder(path.parent)


def _keep(path: Path) -> None:
    """Give the present file a second name, then let that name replace the older copy at once."""
    older = path.with_name(f"{path.name}~")
    step = path.with_name(f".{path.name}.keep")
    with contextlib.suppress(FileNotFoundError):
        step.unlink()
    try:
        os.link(path, step)
    except OSError:  # a file system without hard links
        shutil.copy2(path, step)
    step.replace(older)


def _mode_for(path: Path) -> int:
    if path.exists():
        return path.stat().st_mode & 0o777
    mask = os.umask(0)
    os.umask(mask)
    return 0o666 & ~mask


def _sync_folder(folder: Path) -> None:
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)
