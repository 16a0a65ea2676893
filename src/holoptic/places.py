"""Where Holoptic keeps its own files, following the XDG base directories.

None of them may ever stop the program. What is damaged is set aside, a folder that cannot be made
is replaced by one that lasts as long as this run; `setbacks` says what happened, to be told once.
"""

from __future__ import annotations

import contextlib
import json
import os
import tempfile
from functools import cache
from pathlib import Path
from typing import Any

from holoptic.bounded import read_bounded
from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.quoting import name_of
from holoptic.regional import base_folder

_LARGEST_BYTES = 8_000_000
_told: list[str] = []


def state_folder() -> Path:
    """Return the folder of autosaved work, recent files and the log; made if missing."""
    return _folder("XDG_STATE_HOME", ".local/state")


def config_folder() -> Path:
    """Return the folder of settings; made if missing."""
    return _folder("XDG_CONFIG_HOME", ".config")


def data_folder() -> Path:
    """Return the folder of what the user has made with Holoptic: the register; made if missing."""
    return _folder("XDG_DATA_HOME", ".local/share")


def setbacks() -> list[str]:
    """Return what could not be kept or read since this was last asked, a line each."""
    told = list(dict.fromkeys(_told))
    _told.clear()
    return told


def _folder(variable: str, fallback: str) -> Path:
    folder = base_folder(variable, fallback) / "holoptic"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        # a folder that may not be entered is as good as none
        with os.scandir(folder):
            pass
    except (OSError, ValueError) as error:
        return _folder_of_this_run(str(folder), str(getattr(error, "strerror", None) or error))
    return folder


@cache
def _folder_of_this_run(folder: str, why: str) -> Path:
    made = Path(tempfile.mkdtemp(prefix="holoptic-"))
    _told.append(
        tr(
            "The folder {folder} cannot be used ({why}): what belongs there is kept in {made}",
            folder=folder,
            why=why,
            made=made,
        )
    )
    return made


def read_json_object(path: Path) -> dict[str, Any]:
    """Return the object in a small JSON file of our own; empty where there is none.

    A damaged one is set aside.
    """
    if not is_there(path):
        return {}
    try:
        content = json.loads(read_bounded(path, _LARGEST_BYTES).decode("utf-8"))
    except (BadInput, ValueError, RecursionError, MemoryError):
        set_aside(path)
        return {}
    if not isinstance(content, dict):
        set_aside(path)
        return {}
    return content


def set_aside(path: Path) -> None:
    """Give a damaged file of our own another name; there it stops nothing and can be looked at."""
    aside = path.with_name(f"{path.name}.damaged")
    with contextlib.suppress(OSError):
        path.replace(aside)
        _told.append(
            tr("{name} was damaged and is set aside as {aside}", name=name_of(path), aside=aside)
        )


def is_there(path: Path) -> bool:
    """Say whether a path is an ordinary file that can be asked about."""
    try:
        return path.is_file()
    except (OSError, ValueError):
        return False


def resolved(path: Path) -> Path:
    """Return the absolute path of a file with its links followed.

    Raises BadInput where it is no name of a file.
    """
    try:
        return Path(os.path.realpath(path))
    except (OSError, ValueError) as error:
        raise BadInput(tr("{name} is no name of a file", name=name_of(path))) from error
