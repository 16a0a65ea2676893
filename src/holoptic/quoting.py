"""Words that come from outside - names of files, contents of files - as they may be shown.

A name may hold line breaks, control characters, or bytes that are no letters at all; whatever is
shown of it is one line, not too long, and can be written anywhere.
"""

from __future__ import annotations

import os
import re
from pathlib import Path

_CONTROL = re.compile(r"[\x00-\x1f\x7f-\x9f\u2028\u2029]+")
_SURROGATE = re.compile(r"[\ud800-\udfff]")
_LONGEST_NAME = 80
_LONGEST_LINE = 700


def one_line(text: str, most: int = _LONGEST_LINE) -> str:
    """Return text in one line of at most `most` letters, with nothing that cannot be encoded."""
    flat = _SURROGATE.sub("\N{REPLACEMENT CHARACTER}", _CONTROL.sub(" ", text[: 4 * most]))
    return flat if len(flat) <= most else f"{flat[: most - 1]}…"


def name_of(path: Path | str) -> str:
    """Return the name of a file as it may be shown: its end stays, as that tells what it is."""
    name = os.path.basename(path) or os.fspath(path)  # noqa: PTH119 - a path that may hold NUL
    flat = one_line(name, max(len(name), 1))
    if len(flat) <= _LONGEST_NAME:
        return flat
    return f"{flat[: _LONGEST_NAME - 21]}…{flat[-20:]}"
