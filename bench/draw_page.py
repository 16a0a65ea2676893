"""Stepping through long plans on the Draw page, and drawing thousands of sheets at once.

Run: .venv/bin/python -m bench.draw_page
"""

from __future__ import annotations

import os
import tempfile
import time
from collections.abc import Iterator
from statistics import median

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# nobody's own settings and places in plans
os.environ["XDG_STATE_HOME"] = os.environ["XDG_CONFIG_HOME"] = tempfile.mkdtemp()
os.environ["XDG_DATA_HOME"] = os.environ["XDG_STATE_HOME"]

from PyQt6.QtTest import QTest

from holoptic.demo import job_path
from holoptic.desk.application.launch import make_application
from holoptic.desk.application.window import DeskWindow
from holoptic.exchange.job_file import read_job
from holoptic.job import alone, posed_figure
from holoptic.plan import Drafter
from holoptic.plan.errors import Sheets
from holoptic.plan.hand import Hand
from holoptic.worker import tasks


def steps() -> Iterator[tuple[str, list[float]]]:
    """Yield by demo part how long each step takes, ms: the repaint of paper, card, strip and views
    included.
    """
    app = make_application()
    window = DeskWindow()
    window.resize(1280, 800)
    window.show()
    QTest.qWait(50)
    window.furnish()
    window.open_first(job_path(), demo=True)
    for index in range(len(window.session.document.job.parts)):
        window.session.document.choose_part(index)
        while window.is_busy:
            QTest.qWait(20)
        window.show_page("draw")
        page = window.pages["draw"]
        page.go_to(0)
        taken = []
        for _ in page.walk.plan.moves:
            begin = time.perf_counter()
            page.walk.step(1)
            app.processEvents()
            taken.append(1000 * (time.perf_counter() - begin))
        yield window.session.document.job.parts[index].source.name, taken
    window.close_down()


def sheets() -> None:
    """Print how long 2,000 sheets of each demo plan take to draw."""
    print("\n| part | moves | 2,000 sheets |\n|---|---|---|")
    job = read_job(job_path())
    for part in job.parts:
        posed = posed_figure(job, job.main_figure(part.id))
        moves = tasks.plan(alone(posed), posed.id).plan.moves
        meant = Drafter().carry_out(moves)
        begin = time.perf_counter()
        Sheets(Hand(), 2000).draw(moves, meant)
        print(f"| {part.source.name} | {len(moves)} | {time.perf_counter() - begin:.2f} s |")


def main() -> None:
    """Print both tables."""
    print("| part | moves | median step | slowest |\n|---|---|---|---|")
    for name, taken in steps():
        print(f"| {name} | {len(taken)} | {median(taken):.1f} ms | {max(taken):.1f} ms |")
    sheets()


if __name__ == "__main__":
    main()
