"""Every text of the demo's lengths and outlines, letter by letter, into every field of every shape.

Run: .venv/bin/python -m bench.every_text
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# nobody's own settings and safety copies
os.environ["XDG_STATE_HOME"] = os.environ["XDG_CONFIG_HOME"] = tempfile.mkdtemp()
os.environ["XDG_DATA_HOME"] = os.environ["XDG_STATE_HOME"]
sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))

from PyQt6.QtTest import QTest

from every_text import NEW, begin, fields_of, outline_texts, size_texts, texts_for, type_letters
from holoptic.demo import job_path
from holoptic.desk.application.launch import make_application
from holoptic.desk.application.mishaps import Mishaps, cause_of
from holoptic.desk.application.window import DeskWindow
from holoptic.exchange.job_file import read_job


def main() -> int:
    """Type, and print how many letters were typed and what was raised."""
    causes: list[str] = []
    mishaps = Mishaps()
    mishaps.take = lambda kind, _, trace: causes.append(cause_of(kind, trace))  # type: ignore[method-assign]
    app = make_application()
    window = DeskWindow()
    window.resize(1280, 800)
    window.show()
    QTest.qWait(50)
    window.furnish()
    mishaps.install()
    job = read_job(job_path())
    window.open_first(job_path(), demo=True)
    letters, slowest, begun = 0, 0.0, time.perf_counter()
    for what in NEW:
        begin(window, what)
        QTest.qWait(50)
        for field in fields_of(window):
            for text in texts_for(field, size_texts(job), outline_texts(job)):
                before = time.perf_counter()
                for _ in type_letters(field, text):
                    letters += 1
                    slowest = max(slowest, time.perf_counter() - before)
                    before = time.perf_counter()
        window.session.document.undo()
    taken = time.perf_counter() - begun
    print(f"{letters} letters into the fields of {len(NEW)} shapes in {taken:.0f} s; slowest "
          f"{1000 * slowest:.0f} ms; exceptions: {len(causes)} {sorted(set(causes))}")  # fmt: skip
    window.session.document.history.mark_saved()
    window.close_down()
    app.processEvents()
    return 1 if causes else 0


if __name__ == "__main__":
    sys.exit(main())
