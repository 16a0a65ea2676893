"""Where a command may write: an existing file only by --force, what it works on never."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import TYPE_CHECKING

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.places import is_there
from holoptic.quoting import name_of

if TYPE_CHECKING:
    from holoptic.job import Job


def require_target(options: argparse.Namespace) -> None:
    """Raise BadInput where the file that a command is to make must not be written.

    This comes before any work, so that nobody waits for a refusal.
    """
    for target in (getattr(options, "out", None), getattr(options, "screenshot", None)):
        if target is None:
            continue
        for source in ("source", "views", "file"):
            named = getattr(options, source, None)
            if isinstance(named, str):
                _require_other(Path(target), Path(named))
        require_free(Path(target), options.force)


def require_free(target: Path, force: bool) -> None:
    """Raise BadInput where there is a file already and it is not said to be replaced."""
    if not force and is_there(target):
        raise BadInput(
            tr("{name} is there already; say --force to replace it", name=name_of(target))
        )


def require_no_source(options: argparse.Namespace, job: Job) -> None:
    """Raise BadInput where the file to be made is one that the job's solids are read from."""
    from holoptic.part import ImportedSolid  # noqa: PLC0415 - the window must not wait for it

    if getattr(options, "out", None) is None:
        return
    for part in job.parts:
        if isinstance(part.source, ImportedSolid):
            _require_other(Path(options.out), Path(part.source.path))


def _require_other(target: Path, source: Path) -> None:
    try:
        is_same = target.samefile(source)
    except (OSError, ValueError):
        return
    if is_same:
        raise BadInput(
            tr("{name} is what this is made from: it is not replaced", name=name_of(target))
        )
