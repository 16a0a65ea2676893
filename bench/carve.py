"""From a key to the picture: a part of thirty operations, edited early, in the middle and late.

First in the worker alone, then in the window: a key is pressed in the depth field, and the clock
runs until the window has painted the new picture.

Run: .venv/bin/python -m bench.carve
"""

from __future__ import annotations

import os
import tempfile
import time
from collections.abc import Callable, Iterator
from dataclasses import replace
from statistics import median

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# nobody's own settings
os.environ["XDG_STATE_HOME"] = os.environ["XDG_CONFIG_HOME"] = tempfile.mkdtemp()
os.environ["XDG_DATA_HOME"] = os.environ["XDG_STATE_HOME"]

from PyQt6.QtCore import QEventLoop, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from bench.solids import comb, drilled_plate, mixed_slab
from holoptic.desk.application.launch import make_application
from holoptic.desk.application.window import DeskWindow
from holoptic.job import job_of, pose
from holoptic.job.job import with_operation
from holoptic.leftovers import Tidying
from holoptic.part import Ball, Part
from holoptic.units import Length
from holoptic.worker.client import Worker

_ROUNDS = 8


def edited(part: Part, index: int, number: int) -> Part:
    """Return the part with the depth of one operation changed a little, never to the same."""
    operation = part.operations[index]
    end = getattr(operation, "end", None)
    deep = 5.0 + 0.01 * index if end is None else end.mm
    return with_operation(part, index, replace(operation, end=Length.of(deep + 0.1 * number)))


def places(part: Part) -> dict[str, int]:
    """Return the operations that are edited: those that have a depth, or may have one."""
    deep = [k for k, item in enumerate(part.operations) if not isinstance(item, Ball)]
    return {"the last": deep[-1], "the middle": deep[len(deep) // 2], "the first": deep[0]}


def in_the_worker(part: Part) -> None:
    """Print how long picture and views take after an edit, the worker's line included."""
    with Worker() as worker:
        for name, index in places(part).items():
            worker.ask("present", pose(part))
            worker.ask("make_ready", pose(part), index)  # as the desk does when it rests
            pictures, views = [], []
            for number in range(_ROUNDS):
                changed = pose(edited(part, index, number + 1))
                begin = time.perf_counter()
                worker.ask("present", changed)
                pictured = time.perf_counter()
                worker.ask("show_views", changed)
                pictures.append(1000 * (pictured - begin))
                views.append(1000 * (time.perf_counter() - pictured))
            _print_row(f"{part.name} | worker | {name}", pictures, views)


def at_the_desk(app: QApplication, part: Part) -> Iterator[tuple[str, list[float], list[float]]]:
    """Yield by operation how long it takes from a key to the painted picture, and from there to
    the painted views; ms.
    """
    window = DeskWindow()
    window.resize(1280, 800)
    window.show()
    window.furnish()
    Tidying()  # as in the program
    session = window.session
    for name, index in places(part).items():
        session.document.replace_job(job_of("bench", [edited(part, index, 30)]), None)
        window.show_page("carve")
        session.document.choose_operation(index)
        window.activateWindow()
        field = window.pages["carve"].editor.end_field
        _wait(lambda: not window.is_busy)
        pictures, views = [], []
        # the digit that stands there already would change nothing
        for digit in [digit for digit in "123456789" if digit != field.text()[-1]][:_ROUNDS]:
            _wait(lambda: not window.is_busy)
            field.setFocus()
            field.setSelection(len(field.text()) - 1, 1)
            shown, placed = session.answers.picture, session.answers.placed
            begin = time.perf_counter()
            QTest.keyClick(field, Qt.Key(ord(digit)))
            _wait(lambda shown=shown: session.answers.picture is not shown)
            app.processEvents()
            pictures.append(1000 * (time.perf_counter() - begin))
            _wait(lambda placed=placed: session.answers.placed is not placed)
            app.processEvents()
            views.append(1000 * (time.perf_counter() - begin) - pictures[-1])
        yield name, pictures, views
    session.document.history.mark_saved()
    window.close_down()


def _wait(done: Callable[[], bool]) -> None:
    """Let the window work as it does for a hand: asleep until something happens."""
    wait_for_more = QEventLoop.ProcessEventsFlag.WaitForMoreEvents
    while not done():
        QApplication.processEvents(wait_for_more)


def _print_row(title: str, pictures: list[float], views: list[float]) -> None:
    print(
        f"| {title} | {median(pictures):.0f} ms | {min(pictures):.0f} ms | {median(views):.0f} ms |"
    )


def main() -> None:
    """Print both tables as one."""
    app = make_application()
    print("| part | where | edited | picture, median | fastest | views after it, median |")
    print("|---|---|---|---|---|---|")
    for part in (drilled_plate(5, 3), mixed_slab(), comb(30)):
        in_the_worker(part)
        for name, pictures, views in at_the_desk(app, part):
            _print_row(f"{part.name} | window | {name}", pictures, views)


if __name__ == "__main__":
    main()
