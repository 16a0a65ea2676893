"""Names of files and folders that hardly anybody thinks of."""

from __future__ import annotations

import os
import traceback
from pathlib import Path

from bench.trust.tally import Tally, run_command
from holoptic.demo import job_path
from holoptic.errors import BadInput
from holoptic.exchange.job_file import read_job, write_job
from holoptic.exchange.safekeeping import recent_files, remember_file

NAMES = (
    b"plain", b"two words", b"\xff\xfe", b"caf\xe9", "…–„ü".encode(), b"a\nb", b"a\tb\rc", b"-",
    b"--out", b"~", b"%s%d", b"{name}", b"'\"`$(true)", b"x" * 246, b"&<b>", b"a\\b",
    "\u202eevil".encode(), "\U0001f528".encode(), b".hidden", b"a;b", b"*?[", b"\x1b[31m",
)  # fmt: skip


def try_names(tally: Tally, folder: Path) -> None:
    """Save, open, remember and picture jobs under odd names, in odd folders."""
    job = read_job(job_path())
    for name in NAMES:
        text = os.fsdecode(name)
        for place in (folder / f"{text}.holoptic", folder / f"in {text}"[:250] / "lamp.holoptic"):
            what = "odd names"
            try:
                place.parent.mkdir(exist_ok=True)
                write_job(job, place)
                write_job(job, place)
                remember_file(place)
                is_whole = read_job(place) == job and place.resolve() in recent_files()
                tally.note(what, "loaded" if is_whole else "lost", repr(place))
            except BadInput as error:
                tally.note(what, "refused" if "\n" not in str(error) else "traceback", str(error))
            except BaseException:
                tally.note(what, "traceback", traceback.format_exc())
            out = place.with_suffix(".svg")
            end, said = run_command("pictorial", str(place), f"--out={out}")
            if end == "loaded" and not out.exists():
                end = "lost"
            tally.note("odd names on the command line", end, f"{name!r}: {said}")
