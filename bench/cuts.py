"""Cutting open: planes that move, proposals, the judge of cut solids.

Run: .venv/bin/python -m bench.cuts [rates | proposals | judge]   (without a word: all three)
"""

from __future__ import annotations

import os
import sys
import time
from collections.abc import Iterator
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))

from PyQt6.QtTest import QTest

from bench.stand_still import furnished, settle
from holoptic.demo import job_path
from holoptic.desk.session.session import Session
from holoptic.errors import BadInput
from holoptic.exchange.job_file import read_job
from holoptic.job import posed_figure
from holoptic.pictorial import NearCorner, view_of
from holoptic.solid.caches import OPENED
from holoptic.worker.tasks import propose_cuts

_STEPS = 40


def rates(only: str = "") -> Iterator[tuple[str, str, float]]:
    """Yield the demo's parts, or one of them: name, cut, pictures shown per second while its plane
    moves.
    """
    app, window = furnished()
    window.open_first(job_path(), demo=True)
    settle(window)
    window.show_page("picture")
    cut, session = window.pages["picture"].column.cut, window.session
    for index, part in enumerate(session.document.job.parts):
        if only and part.source.name != only:
            continue
        for words, axis in (("half", "length"), ("full:depth", "depth")):
            session.document.choose_part(index)
            session.document.picture_as("isometric", "front-right")
            settle(window)
            cut.take(words)
            settle(window)
            slider = cut.sliders[axis].slider
            middle = slider.value()
            start, shown = time.perf_counter(), 0
            for k in range(_STEPS):
                slider.setValue(middle + k % 20 - 10)
                while not _shows(session):
                    QTest.qWait(1)
                shown += 1
            yield part.source.name, words, shown / (time.perf_counter() - start)
    window.close_down()
    app.quit()


def _shows(session: Session) -> bool:
    """Say whether the picture is cut as that was asked for."""
    made, figure = session.answers.made, session.document.figure
    return made is not None and figure is not None and made.figure.cut == figure.cut


def proposals() -> Iterator[tuple[str, int, float]]:
    """Yield the demo's parts: name, cuts proposed, seconds it took with nothing known."""
    job = read_job(job_path())
    for part in job.parts:
        posed = posed_figure(job, job.main_figure(part.id))
        propose_cuts(posed)  # the whole part is known when somebody asks
        OPENED.clear()
        start = time.perf_counter()
        found = propose_cuts(posed)
        yield part.source.name, len(found), time.perf_counter() - start


def judge_all() -> None:
    """Print a row per solid of our own: three cuts of it in two kinds, against rays."""
    from cut_judge import CUTS, judged_cut
    from own_solids import CORNERS, KINDS, SOLIDS

    print("| solid | pictures | visible length off | area off | hatch lines astray | not held |")
    print("|---|---|---|---|---|---|")
    for number, body in enumerate(SOLIDS):
        found = []
        for turn, cut in enumerate(CUTS):
            for kind, corner in (
                (KINDS[(number + turn) % len(KINDS)], CORNERS[(number + turn) % len(CORNERS)]),
                ("isometric", NearCorner.FRONT_RIGHT),
            ):
                try:
                    found.append(judged_cut(body, cut, view_of(kind, corner)))
                except BadInput as error:
                    print(f"    {cut}: {error}", file=sys.stderr)
        lines = max(one.lines.off_percent for one in found)
        area = max(one.area_off_percent for one in found)
        strays, wrong = sum(one.strays for one in found), sum(not one.holds for one in found)
        print(f"| {body.name} | {len(found)} | {lines:.2f} % | {area:.3f} % | {strays} | {wrong} |",
              flush=True)  # fmt: skip


def main() -> None:
    """Print what is asked for."""
    asked = sys.argv[1:] or ["rates", "proposals", "judge"]
    if "rates" in asked:
        for name, words, rate in rates():
            print(f"{name:22} {words:12} {rate:5.0f} pictures/s", flush=True)
    if "proposals" in asked:
        for name, count, took in proposals():
            print(f"{name:22} {count} cuts proposed in {took:.2f} s", flush=True)
    if "judge" in asked:
        judge_all()


if __name__ == "__main__":
    main()
