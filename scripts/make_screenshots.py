"""Make docs/screenshots from the demo data: one picture of each main view.

Run: .venv/bin/python scripts/make_screenshots.py
"""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtTest import QTest

from holoptic.demo import job_path
from holoptic.desk.launch import make_application
from holoptic.desk.window import DeskWindow

TARGET = Path(__file__).parent.parent / "docs" / "screenshots"


class Studio:
    """A window with the demo job, to be brought into a state and pictured."""

    def __init__(self) -> None:
        self.app = make_application()
        self.window = DeskWindow()
        self.window.resize(1280, 800)
        self.window.show()
        QTest.qWait(50)
        self.window.furnish()
        self.window.open_first(job_path(), demo=True)
        self.settle()

    def settle(self) -> None:
        """Wait until nothing is being worked out."""
        QTest.qWait(30)
        while self.window.is_busy:
            QTest.qWait(20)
        QTest.qWait(60)

    def part(self, index: int) -> None:
        """Put a part on the desk."""
        self.window.session.choose_part(index)
        self.settle()

    def take(self, name: str) -> None:
        """Save the window's picture."""
        self.settle()
        self.window.grab().save(str(TARGET / f"{name}.png"))
        print(name)

    def draw_until(self, wanted: Callable[[int], bool]) -> None:
        """Go to the first move that is wanted on the Draw page."""
        self.window.show_page("draw")
        page, made = self.window.pages["draw"], self.window.session.plan()
        assert made is not None
        page.go_to(next(i for i in range(len(made.plan.moves) + 1) if wanted(i)))  # type: ignore[union-attr]


def main() -> None:
    """Take every picture."""
    TARGET.mkdir(parents=True, exist_ok=True)
    studio = Studio()
    session = studio.window.session
    studio.take("carve")
    studio.part(2)
    session.choose_operation(3)
    studio.take("carve-hole")
    studio.window.show_page("picture")
    rib = [e for e in session.facts.edges if e.operation == 2]
    session.select_edge(max(rib, key=lambda edge: edge.curve.length).index)
    studio.take("picture")
    session.select_edge(None)
    studio.part(0)
    moves = session.planned.plan.moves
    lift = next(i for i, move in enumerate(moves) if move.lift and move.lift.words == "L-26.5")
    studio.draw_until(lambda i: i == lift)
    studio.take("draw-set-off")
    studio.part(1)
    join = next(i for i, move in enumerate(session.planned.plan.moves) if move.verb == "join")
    studio.draw_until(lambda i: i == join - 1)
    studio.take("draw-square")
    firm = [i for i, move in enumerate(session.planned.plan.moves) if move.verb == "firm in"]
    studio.draw_until(lambda i: i == firm[len(firm) // 2])
    studio.window.swap_theme()
    studio.take("draw-firm-in-dark")
    studio.window.swap_theme()
    studio.draw_until(lambda i: i == len(session.planned.plan.moves))
    studio.take("draw-done")
    studio.window.close_down()


if __name__ == "__main__":
    main()
