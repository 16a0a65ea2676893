"""Dragging a dimension over a crowded sheet: how long the window is held by each step of the hand.

Run: .venv/bin/python -m bench.drag_size [picture.png]   (which shows it half way)
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from statistics import median

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# nobody's own settings and places in plans
os.environ["XDG_STATE_HOME"] = os.environ["XDG_CONFIG_HOME"] = tempfile.mkdtemp()
os.environ["XDG_DATA_HOME"] = os.environ["XDG_STATE_HOME"]

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from bench.dimensions import crowded_plate
from holoptic.desk.application.launch import make_application
from holoptic.desk.application.window import DeskWindow
from holoptic.job import job_of

_STEPS = 120


def settled(window: DeskWindow) -> None:
    """Wait until nothing is being worked out."""
    QTest.qWait(30)
    while window.is_busy:
        QTest.qWait(5)
    QTest.qWait(30)


def drag(app: QApplication, picture: str | None) -> tuple[int, int, float, list[float]]:
    """Return how many dimensions there are, to how many places one may go, how long finding them
    took (ms), and how long each step of the pointer held the window (ms).
    """
    window = DeskWindow()
    window.resize(1280, 800)
    window.show()
    QTest.qWait(50)
    window.furnish()
    plate = crowded_plate()
    window.session.document.replace_job(job_of(plate.name, (plate,)), None)
    window.show_page("sheet")
    settled(window)
    QTest.keyClick(window, Qt.Key.Key_D)
    settled(window)
    view, holds = window.pages["sheet"].view, window.session.holds
    size = next(one for one in view.sizes if one.text == "310")
    left, low, right, high = size.box
    at = view.to_screen(((left + right) / 2, (low + high) / 2)).toPoint()
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=at)
    begin = time.perf_counter()
    QTest.mouseMove(view, at + QPoint(0, 6))
    while not holds.places:
        QTest.qWait(1)
    found = 1000 * (time.perf_counter() - begin)
    taken = []
    for k in range(_STEPS):
        begin = time.perf_counter()
        QTest.mouseMove(view, at + QPoint(k % 40 - 20, -2 * k))
        view.repaint()
        app.processEvents()
        taken.append(1000 * (time.perf_counter() - begin))
        if picture and k == _STEPS // 2:
            window.grab().save(picture)
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=at)
    settled(window)
    count = len(view.sizes)
    window.close_down()
    return count, len(holds.places), found, taken


def main() -> None:
    """Drag, and tell how long it took."""
    app = make_application()
    count, places, found, taken = drag(app, sys.argv[1] if len(sys.argv) > 1 else None)
    print(f"{count} dimensions; {places} places of one of them found in {found:.0f} ms")
    print(f"each step of the drag: median {median(taken):.1f} ms, longest {max(taken):.1f} ms")


if __name__ == "__main__":
    main()
