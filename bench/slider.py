"""The slider of the receding angle: pictures shown per second while it moves.

Run: .venv/bin/python -m bench.slider
"""

from __future__ import annotations

import os
import time
from collections.abc import Iterator

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtTest import QTest

from bench.stand_still import furnished, settle
from holoptic.demo import job_path
from holoptic.desk.session.session import Session

_OBLIQUE = "oblique"


def rates() -> Iterator[tuple[str, int, float]]:
    """Yield the demo's parts: name, edges, pictures shown per second while the slider moves."""
    app, window = furnished()
    window.open_first(job_path(), demo=True)
    settle(window)
    window.show_page("picture")
    column, session = window.pages["picture"].column, window.session
    for index, part in enumerate(session.document.job.parts):
        session.document.choose_part(index)
        settle(window)
        column.kinds.activated.emit(column.kinds.findText(_OBLIQUE))
        settle(window)
        start = time.perf_counter()
        steps = range(20, 70)
        for degrees in steps:
            column.sliders[0].slider.setValue(degrees)
            while not _shows(session):
                QTest.qWait(1)
        rate = len(steps) / (time.perf_counter() - start)
        yield part.source.name, len(session.answers.facts.edges), rate
    window.close_down()
    app.quit()


def main() -> None:
    """Print a row per demo part."""
    for name, edges, rate in rates():
        print(f"{name:20} {edges:4} edges {rate:5.0f} pictures/s", flush=True)


def _shows(session: Session) -> bool:
    """Say whether the picture is of the kind that was asked for."""
    view, figure = session.answers.view, session.document.figure
    return view is not None and figure is not None and view.kind == figure.kind


if __name__ == "__main__":
    main()
