"""How long the window's thread stands still while a large part comes in and is looked at.

Run: .venv/bin/python -m bench.stand_still [COLUMNS ROWS]
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import NamedTuple

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtCore import QPoint, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from bench.large_step import peak_memory, write_plate
from holoptic.demo import job_path
from holoptic.desk.application.launch import make_application
from holoptic.desk.application.window import DeskWindow
from holoptic.leftovers import Tidying

PROPOSALS = "Picture page with proposals"


class Pulse:
    """Beats every 2 ms and remembers the longest pause between two beats."""

    def __init__(self) -> None:
        self._timer = QTimer()
        self._timer.setInterval(2)
        self._timer.timeout.connect(self._beat)
        self._timer.start()
        self.restart()

    def restart(self) -> None:
        """Forget the pauses so far."""
        self._last, self.longest = time.perf_counter(), 0.0

    def _beat(self) -> None:
        now = time.perf_counter()
        self.longest = max(self.longest, now - self._last)
        self._last = now


def settle(window: DeskWindow) -> None:
    """Wait until nothing is being worked out."""
    QTest.qWait(50)
    while window.is_busy:
        QTest.qWait(10)
    QTest.qWait(100)


def furnished() -> tuple[QApplication, DeskWindow]:
    """Return an application and a furnished window on it."""
    app = make_application()
    window = DeskWindow()
    window.resize(1280, 800)
    window.show()
    QTest.qWait(50)
    window.furnish()
    Tidying()  # as in the program
    return app, window


class Still(NamedTuple):
    """Something done, the longest pause until all of it was shown, ms, and how long it took, s."""

    what: str
    longest: float
    took: float


def pauses(columns: int, rows: int) -> Iterator[Still]:
    """Yield what was done with the demo, and with a plate of holes."""
    app, window = furnished()
    pulse = Pulse()
    session = window.session

    def done(what: str, action: Callable[[], object]) -> Still:
        pulse.restart()
        start = time.perf_counter()
        action()
        settle(window)
        return Still(what, 1000 * pulse.longest, time.perf_counter() - start)

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "grille.step"
        write_plate(path, columns, rows)
        pane = window.pages["picture"].pane
        yield done("demo opened", lambda: window.open_first(job_path(), demo=True))
        yield done(f"plate of {columns * rows} holes opened", lambda: session.open_file(path))
        yield done(PROPOSALS, lambda: window.show_page("picture"))
        yield done(
            "another near corner", lambda: session.document.picture_as("isometric", "front-left")
        )
        places = [QPoint(100 + 5 * step, 200) for step in range(40)]
        yield done(
            "pointer over the picture", lambda: [QTest.mouseMove(pane, place) for place in places]
        )
        yield done("Draw page", lambda: window.show_page("draw"))
    window.close_down()
    app.quit()


def demo_memory() -> float:
    """Return the most memory, MB, that the worker has had when all of the demo was looked at."""
    app, window = furnished()
    window.open_first(job_path(), demo=True)
    settle(window)
    for index in range(len(window.session.document.job.parts)):
        window.session.document.choose_part(index)
        settle(window)
        for page in window.pages:
            window.show_page(page)
            settle(window)
    found = peak_memory(window.session.kernel.worker.pid)
    window.close_down()
    app.quit()
    return found


def main() -> None:
    """Print a row per thing done."""
    columns, rows = (int(text) for text in sys.argv[1:3]) if len(sys.argv) > 2 else (10, 6)
    for item in pauses(columns, rows):
        print(f"{item.what:34} {item.longest:6.0f} ms still, {item.took:6.1f} s", flush=True)


if __name__ == "__main__":
    main()
