"""What the desk remembers of its user: a small JSON file in the XDG configuration folder.

It may never stop the program: what cannot be read is as if it were not there. The module is
read before the first paint, so it imports little.
"""

from __future__ import annotations

import contextlib
import json
from typing import Any

from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.places import config_folder, read_json_object

_FILE = "settings.json"


def read_settings() -> dict[str, Any]:
    """Return the settings as they were last kept."""
    return read_json_object(config_folder() / _FILE)


def keep_setting(name: str, value: Any) -> None:
    """Keep one setting."""
    keep_settings({name: value})


def keep_settings(several: dict[str, Any]) -> None:
    """Keep several settings."""
    text = json.dumps({**read_settings(), **several}, indent=1)
    with contextlib.suppress(BadInput):
        write_atomically(config_folder() / _FILE, text.encode("utf-8"))
