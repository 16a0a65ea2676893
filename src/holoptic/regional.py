"""How the user reads: the language and the decimal mark, chosen once when a process starts.

What was asked for goes first (HOLOPTIC_LANGUAGE, HOLOPTIC_DECIMAL), then the settings, then what
the desktop speaks. The catalogue needs to know before anything else is read, so this module imports
nothing of Holoptic and reads the settings file by itself; what it cannot read is as if it were not
there. The other processes of a desk are told by the same variables, so that all say the same.
"""

from __future__ import annotations

import json
import os
import re
from functools import cache
from pathlib import Path
from typing import Any

LANGUAGES = {"en": "English", "de": "Deutsch"}
"""The languages whose catalogue is complete, as each calls itself."""

CHOOSER = "HOLOPTIC_LANGUAGE"
MARK_CHOOSER = "HOLOPTIC_DECIMAL"
MARKS = {"point": ".", "comma": ","}
_MARK_OF = {"de": "comma"}
_FIGURE = re.compile(r"(?<![\w.])(\d*)\.(\d+)")
_GLUED = re.compile(r"(?<=\d),(?=\d)")
_LARGEST = 1_000_000
_DESKTOP_SAYS = ("LC_ALL", "LC_MESSAGES", "LANG")
"""In the order in which POSIX has them count."""


def base_folder(variable: str, fallback: str) -> Path:
    """Return a base directory of the XDG specification; `fallback` is below the user's own."""
    base = os.environ.get(variable, "")
    # the specification says that a relative path in the variable is to be ignored
    return Path(base) if base.startswith("/") else Path.home() / fallback


@cache
def language() -> str:
    """Return the language that texts are shown in, by its short name; `en` without any wish."""
    wanted = os.environ.get(CHOOSER, "")
    if not wanted:
        kept = _settings().get("language")
        wanted = kept if isinstance(kept, str) and kept in LANGUAGES else _of_desktop()
    os.environ[CHOOSER] = wanted
    return wanted


@cache
def decimal_mark() -> str:
    """Return the mark that is shown before the decimals of a figure: a point or a comma."""
    wanted = os.environ.get(MARK_CHOOSER, "") or _settings().get("decimal")
    if not isinstance(wanted, str) or wanted not in MARKS:
        wanted = _MARK_OF.get(language(), "point")
    os.environ[MARK_CHOOSER] = wanted
    return MARKS[wanted]


def with_mark(figure: str) -> str:
    """Return a figure written with a point as it is shown.

    >>> with_mark("26.5")
    '26.5'
    """
    return figure if decimal_mark() == "." else figure.replace(".", decimal_mark())


def with_mark_in(words: str) -> str:
    """Return words for a length, such as `18+26.5` or `bore.r/2`, with each figure as it is shown.

    A point in a name stays one.
    """
    return words if decimal_mark() == "." else _FIGURE.sub(rf"\1{decimal_mark()}\2", words)


def in_lists(text: str) -> str:
    """Return a list as it was typed with points for decimals, each letter in its place.

    Where decimals have a comma, one right between two figures is theirs; what parts two lengths of
    a list has a space behind it.
    """
    return text if decimal_mark() == "." else _GLUED.sub(".", text)


def _of_desktop() -> str:
    said = next((os.environ[name] for name in _DESKTOP_SAYS if os.environ.get(name)), "")
    plain = said.split(".")[0] in ("", "C", "POSIX")
    # LANGUAGE is a list of what one also reads, and counts only where a language is spoken at all
    several = [] if plain else os.environ.get("LANGUAGE", "").split(":")
    for each in [*several, said]:
        short = each.split(".")[0].split("_")[0]
        if short in LANGUAGES:
            return short
    return "en"


@cache
def _settings() -> dict[str, Any]:
    path = base_folder("XDG_CONFIG_HOME", ".config") / "holoptic" / "settings.json"
    try:
        with path.open("rb") as file:
            content = json.loads(file.read(_LARGEST).decode("utf-8"))
    except (OSError, ValueError, RecursionError):
        return {}
    return content if isinstance(content, dict) else {}
