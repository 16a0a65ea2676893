"""Where the last file was: dialogs start there; and how files are named in them."""

from __future__ import annotations

import re
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.desk.look.settings import keep_setting, read_settings
from holoptic.exchange.safekeeping import recent_files
from holoptic.foreign import PICTURE_SUFFIXES

_SETTING = "folder"
PICTURES = tr("Pictures of a sheet ({patterns})",
              patterns=" ".join(f"*{suffix}" for suffix in PICTURE_SUFFIXES))  # fmt: skip
"""The sorts of files that a drawn sheet comes in, for a dialog."""


def last_folder() -> str:
    """Return the folder of the last file that was opened, saved or exported; empty without one."""
    kept = read_settings().get(_SETTING)
    recent = [str(path.parent) for path in recent_files()[:1]]
    for folder in (kept, *recent):
        if isinstance(folder, str) and Path(folder).is_dir():
            return folder
    return ""


def keep_folder(path: Path) -> None:
    """Remember the folder of a file that was chosen."""
    keep_setting(_SETTING, str(path.resolve().parent))


def file_name(words: str) -> str:
    """Return words as the name of a file.

    >>> file_name("Skerry Lamp Works: harbour lamp / picture")
    'Skerry Lamp Works harbour lamp picture'
    """
    return re.sub(r'[\\/:*?"<>|\s]+', " ", words).strip(" .") or "untitled"
