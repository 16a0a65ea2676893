"""The slider of the receding angle: pictures shown per second while it moves.

Run: .venv/bin/python -m bench.slider
"""

from __future__ import annotations

import os
import time

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtTest import QTest

from bench.stand_still import furnished, settle
from holoptic.demo import job_path

_OBLIQUE = "oblique"


def main() -> None:
    """Print a row per demo part."""
    app, window = furnished()
    window.open_first(job_path(), demo=True)
    settle(window)
    window.show_page("picture")
    column, session = window.pages["picture"].column, window.session
    for index, part in enumerate(session.job.parts):
        session.choose_part(index)
        settle(window)
        column.kinds.activated.emit(column.kinds.findText(_OBLIQUE))
        settle(window)
        start = time.perf_counter()
        steps = range(20, 70)
        for degrees in steps:
            column.figures[0].slider.setValue(degrees)
            while session.view is None or session.view.kind != session.job_part.choice.kind:
                QTest.qWait(1)
        rate = len(steps) / (time.perf_counter() - start)
        print(f"{part.source.name:20} {len(session.facts.edges):4} edges {rate:5.0f} pictures/s")
    window.close_down()
    app.quit()


if __name__ == "__main__":
    main()
