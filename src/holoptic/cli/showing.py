"""The command that shows files to file managers: a small picture of the first figure.

It imports nothing at first that takes long: most jobs carry their picture.
"""

from __future__ import annotations

import argparse
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.exchange.preview import Line, lines_of, preview_in, preview_png
from holoptic.quoting import name_of

_PATIENCE_S = 20.0
"""What takes longer is not worth a small picture."""
_JOB = ".holoptic"


def thumbnail(options: argparse.Namespace) -> int:
    """Write the picture of a job's first figure, or of a solid, as a small PNG."""
    source, out = Path(options.source), Path(options.out)
    lines: list[Line] = []
    if source.suffix.lower() == _JOB:
        lines = list(preview_in(source) or ())
    if not lines:
        lines = _worked_out(source)
    if not lines:
        raise BadInput(tr("{name}: there is no figure to be shown", name=name_of(source)))
    write_atomically(out, preview_png(lines, options.size), replace=options.force)
    return 0


def _worked_out(source: Path) -> list[Line]:
    """Return the visible lines of the first figure, mm, as the kernel finds them."""
    from holoptic.cli.sources import cover_of, load_job  # noqa: PLC0415
    from holoptic.worker.client import Worker  # noqa: PLC0415

    with Worker() as worker:
        picture = cover_of(load_job(source, worker), worker, _PATIENCE_S)
    return lines_of(picture) if picture is not None else []
