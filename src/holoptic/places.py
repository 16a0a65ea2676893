"""Where Holoptic keeps its own files, following the XDG base directories."""

from __future__ import annotations

import json
import os
from pathlib import Path
from typing import Any


def state_folder() -> Path:
    """Return the folder of autosaved work and recent files; made if missing."""
    return _folder("XDG_STATE_HOME", ".local/state")


def config_folder() -> Path:
    """Return the folder of settings; made if missing."""
    return _folder("XDG_CONFIG_HOME", ".config")


def _folder(variable: str, fallback: str) -> Path:
    base = os.environ.get(variable, "")
    # the specification says that a relative path in the variable is to be ignored
    root = Path(base) if base.startswith("/") else Path.home() / fallback
    folder = root / "holoptic"
    folder.mkdir(parents=True, exist_ok=True)
    return folder


def read_json_object(path: Path) -> dict[str, Any]:
    """Return the object in a small JSON file of our own; empty where it cannot be read."""
    try:
        content = json.loads(path.read_text("utf-8"))
    except (OSError, ValueError):
        return {}
    return content if isinstance(content, dict) else {}
