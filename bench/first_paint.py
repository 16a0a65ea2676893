"""The window's first paint over that of an empty PyQt6 window, whole process each; and memory.

Run: .venv/bin/python -m bench.first_paint
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import tempfile
import time

_ROUNDS = 9

_EMPTY = """
import sys, time
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication, QMainWindow
app = QApplication(sys.argv[:1])
class Window(QMainWindow):
    def paintEvent(self, event):
        super().paintEvent(event)
        QTimer.singleShot(0, app.quit)
window = Window()
window.resize(1280, 800)
window.show()
app.exec()
"""

_HOLOPTIC = """
from PyQt6.QtCore import QTimer
from holoptic.desk.application.launch import make_application
from holoptic.desk.application.window import DeskWindow
app = make_application()
window = DeskWindow()
window.resize(1280, 800)
window.first_painted.connect(lambda: QTimer.singleShot(0, app.quit))
window.show()
app.exec()
"""

_DEMO = """
import resource, sys
from holoptic.cli.main import main
code = main(["demo", "--page", "draw", "--screenshot", sys.argv[1]])
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024)
sys.exit(code)
"""


def seconds(code: str) -> float:
    """Return how long a fresh interpreter takes to run `code`."""
    start = time.perf_counter()
    subprocess.run([sys.executable, "-c", code], check=True)
    return time.perf_counter() - start


def first_paint() -> tuple[float, float, float]:
    """Return what an empty window takes, and Holoptic's, in ms, and their ratio (medians)."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    seconds(_EMPTY), seconds(_HOLOPTIC)  # warm the caches
    pairs = [(seconds(_EMPTY), seconds(_HOLOPTIC)) for _ in range(_ROUNDS)]
    empty, ours = (statistics.median(column) * 1000 for column in zip(*pairs, strict=True))
    return empty, ours, statistics.median(b / a for a, b in pairs)


def main() -> None:
    """Print the ratio and the memory of the window's process."""
    empty, ours, ratio = first_paint()
    print(f"empty window {empty:.0f} ms, Holoptic's first paint {ours:.0f} ms, ratio {ratio:.2f}")
    with tempfile.TemporaryDirectory() as folder:
        command = [sys.executable, "-c", _DEMO, f"{folder}/demo.png"]
        result = subprocess.run(command, capture_output=True, text=True, check=True)
    print(f"peak memory of the window's process with the demo open {float(result.stdout):.0f} MB")


if __name__ == "__main__":
    main()
