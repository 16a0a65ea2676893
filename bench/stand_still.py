"""How long the window's thread stands still while a large part comes in and is looked at.

Run: .venv/bin/python -m bench.stand_still [COLUMNS ROWS]
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtCore import QPoint, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from bench.large_step import write_plate
from holoptic.demo import job_path
from holoptic.desk.application.launch import make_application
from holoptic.desk.application.window import DeskWindow


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
    return app, window


def report(window: DeskWindow, pulse: Pulse, what: str, action: Callable[[], object]) -> None:
    """Do something and print the longest pause until all of it is shown."""
    pulse.restart()
    start = time.perf_counter()
    action()
    settle(window)
    print(f"{what:34} {1000 * pulse.longest:6.0f} ms still, {time.perf_counter() - start:6.1f} s")


def main() -> None:
    """Print a row per thing done."""
    columns, rows = (int(text) for text in sys.argv[1:3]) if len(sys.argv) > 2 else (10, 6)
    app, window = furnished()
    pulse = Pulse()
    session = window.session
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "grille.step"
        write_plate(path, columns, rows)
        pane = window.pages["picture"].pane
        report(window, pulse, "demo opened", lambda: window.open_first(job_path(), demo=True))
        report(window, pulse, f"plate of {columns * rows} holes opened",
               lambda: session.open_file(path))  # fmt: skip
        report(window, pulse, "Picture page with proposals", lambda: window.show_page("picture"))
        report(window, pulse, "another near corner",
               lambda: session.document.picture_as("isometric", "front-left"))  # fmt: skip
        places = [QPoint(100 + 5 * step, 200) for step in range(40)]
        report(window, pulse, "pointer over the picture",
               lambda: [QTest.mouseMove(pane, place) for place in places])  # fmt: skip
        report(window, pulse, "Draw page", lambda: window.show_page("draw"))
    window.close_down()
    app.quit()


if __name__ == "__main__":
    main()
