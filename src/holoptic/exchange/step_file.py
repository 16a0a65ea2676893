"""The solid of a part as a STEP file: written by the worker, put in place in one step."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically


def save_step(path: Path, write: Callable[[str], object], *, replace: bool = True) -> None:
    """Let `write` make the file in a place of its own, then put it at `path`.

    Raises BadInput, without `replace` also where there is a file.

    The kernel writes straight to its file; a crash half-way must not leave half a file.
    """
    with tempfile.TemporaryDirectory() as folder:
        made = Path(folder) / "solid.step"
        write(str(made))
        if not made.exists():
            raise BadInput(tr("{name} could not be written", name=path.name))
        write_atomically(path, made.read_bytes(), replace=replace)
