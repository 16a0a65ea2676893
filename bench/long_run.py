"""A working day in one go: does window or worker grow, or keep files open?

Run: .venv/bin/python -m bench.long_run [EDITS]     (2,400 stand for eight hours; half an hour)
"""

from __future__ import annotations

import os
import random
import sys
import tempfile
import time
from dataclasses import replace
from pathlib import Path

from PyQt6.QtTest import QTest

from holoptic.demo import job_path
from holoptic.desk.application.desks import Desks
from holoptic.desk.application.launch import make_application, tidy_when_idle
from holoptic.desk.application.window import PAGE_TITLES, DeskWindow
from holoptic.leftovers import Tidying
from holoptic.part import Part
from holoptic.units import Length

HOURS = 8
_SETTLE_EACH, _EXPORT_EACH, _SAVE_EACH, _UNDO_EACH = 4, 25, 40, 7
_KINDS = ("isometric", "cabinet", "dimetric", "cavalier", "trimetric:20:35", "oblique:30:0.75")
_CORNERS = ("front-right", "front-left", "rear-right", "front-right-below")
_EXPORTS = (("picture", ".svg"), ("views", ".dxf"), ("sheet", ".pdf"), ("plan", ".json"),
            ("plan", ".pdf"), ("picture", ".png"))  # fmt: skip


def main() -> int:
    """Print size and open files of both processes each simulated hour; 1 where they grew."""
    edits = int(sys.argv[1]) if len(sys.argv) > 1 else 2400
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    with tempfile.TemporaryDirectory() as place:
        for kept, name in (("STATE", "s"), ("CONFIG", "c"), ("DATA", "d")):
            os.environ[f"XDG_{kept}_HOME"] = f"{place}/{name}"
        return _work(edits, Path(place))


def _work(edits: int, folder: Path) -> int:
    application = make_application()  # kept: Qt ends with it
    window = DeskWindow()
    window.resize(1280, 800)
    window.show()
    window.furnish()
    desks = Desks(window)
    tidy_when_idle(desks, Tidying())
    window.open_first(job_path(), demo=True)
    dice, begin = random.Random(5), time.monotonic()
    first_look = max(1, edits // (HOURS * 6))  # after ten minutes
    rows: list[tuple[int, ...]] = []
    print(
        "| hour | window MB | worker MB | window's files | worker's files |\n|---|---|---|---|---|"
    )
    for number in range(1, edits + 1):
        _do(window, number, dice, folder)
        if number == first_look or number % (edits // HOURS) == 0:
            rows.append(_measured(window))
            print(f"| {number * HOURS / edits:.1f} | " + " | ".join(map(str, rows[-1])) + " |",
                  flush=True)  # fmt: skip
    print(f"{edits} edits, {time.monotonic() - begin:.0f} s")
    window.session.document.history.mark_saved()
    desks.take_down()
    application.processEvents()
    first, last = rows[0], rows[-1]
    largest = [max(sizes) for sizes in zip(*rows, strict=True)]
    grown = [b / a - 1 for a, b in zip(first[:2], largest[:2], strict=True)]
    at_end = [b / a - 1 for a, b in zip(first[:2], last[:2], strict=True)]
    for name, most, end in zip(("window", "worker"), grown, at_end, strict=True):
        print(f"{name} {end:+.1%} at the end, {most:+.1%} at most since ten minutes")
    return int(max(grown) > 0.10 or last[2] > first[2] + 2 or last[3] > first[3] + 2)


def _do(window: DeskWindow, number: int, dice: random.Random, folder: Path) -> None:
    document = window.session.document
    window.show_page(dice.choice(list(PAGE_TITLES)[1:]))
    document.choose_part(dice.randrange(len(document.job.parts)))
    part = document.part
    if isinstance(part, Part) and dice.random() < 0.6:
        length = part.crate.height.mm + dice.choice((-0.5, 0.5))
        crate = replace(part.crate, height=Length.of(length))
        document.edit_part(replace(part, crate=crate), "height")
    else:
        document.picture_as(dice.choice(_KINDS), dice.choice(_CORNERS))
    if number % _UNDO_EACH == 0:
        document.undo()
    QTest.qWait(20)
    if number % _SETTLE_EACH == 0 or number % _EXPORT_EACH == 0:
        _settle(window)
    if number % _EXPORT_EACH == 0:
        what, suffix = dice.choice(_EXPORTS)
        window.filing.export(what, folder / f"out{suffix}")
    if number % _SAVE_EACH == 0:
        window.filing.save_to(folder / "day.holoptic")


def _settle(window: DeskWindow) -> None:
    while window.is_busy:
        QTest.qWait(10)


def _measured(window: DeskWindow) -> tuple[int, int, int, int]:
    """Return MB of window and worker, and how many files each has open."""
    _settle(window)
    QTest.qWait(2500)  # both look for rings of objects when nobody waits
    pids = os.getpid(), window.session.kernel.worker.pid or 0
    return (*(_megabytes(pid) for pid in pids),  # type: ignore[return-value]
            *(len(list(Path(f"/proc/{pid}/fd").iterdir())) for pid in pids))  # fmt: skip


def _megabytes(pid: int) -> int:
    status = Path(f"/proc/{pid}/status").read_text()
    return int(next(line.split()[1] for line in status.splitlines() if "VmRSS" in line)) // 1024


if __name__ == "__main__":
    sys.exit(main())
