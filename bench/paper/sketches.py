"""Sketches by a free hand, with and without figures about them, and read again.

Run: PYTHONPATH=. .venv/bin/python -m bench.paper.sketches [COUNT] [FIRST] [FAMILY,FAMILY]

Every figure is told that a person reads beside the sketch, in the order of the levels found; where
not as many levels were found as there are, nobody could, and the sketch counts as not understood.
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
from collections import Counter
from dataclasses import replace
from itertools import pairwise
from pathlib import Path

import cv2
import numpy as np

from bench.exercise_parts import PLAIN_FAMILIES
from bench.paper.free_hand import sketch_views
from bench.paper.raster import picture
from bench.reading import sound_parts
from holoptic.errors import HolopticError
from holoptic.paper.given import Given
from holoptic.reading.lines import DrawnView
from holoptic.worker.client import Worker
from holoptic.worker.messages import SheetRead

_SAME_SHARE = 0.005
_LIMIT_S = 8.0
_NEAREST_MM = 1.5
"""Parts with levels nearer than this are left out: a hand cannot show which comes first."""


def main() -> None:
    """Print the table, and what failed under it."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 4
    first = int(sys.argv[2]) if len(sys.argv) > 2 else 0
    families = sys.argv[3].split(",") if len(sys.argv) > 3 else list(PLAIN_FAMILIES)
    rows, took = [], []
    with tempfile.TemporaryDirectory() as folder, Worker() as worker:
        for family in families:
            tally: Counter[str] = Counter()
            for seed, part, size in list(sound_parts(worker, family, first + count))[first:]:
                views = list(worker.ask("derive_views", part)[:3])
                begin = time.monotonic()
                outcome = _one(worker, views, size, f"{family} {seed}", Path(folder, "views.png"))
                if not outcome:
                    continue
                took.append(time.monotonic() - begin)
                tally[outcome] += 1
                if outcome != "right":
                    print(f"{family} {seed}: {outcome}", flush=True)
            rows.append((family, tally))
    print("\n| family | sketches | read without help | others |\n|---|---|---|---|")
    for family, tally in rows:
        others = ", ".join(f"{n} {what}" for what, n in tally.items() if what != "right")
        whole = sum(tally.values())
        print(f"| {family} | {whole} | {tally['right']} ({100 * tally['right'] / whole:.0f} %) "
              f"| {others or '–'} |")  # fmt: skip
    whole, good = sum(sum(t.values()) for _, t in rows), sum(t["right"] for _, t in rows)
    print(f"| all | {whole} | {good} ({100 * good / whole:.0f} %) | |")
    print(f"\nopened, told and read in {np.median(took):.1f} s in the median")


def _one(worker: Worker, views: list[DrawnView], size: float, name: str, path: Path) -> str:
    """Sketch a part, tell the figures, and say what came of it; nothing where it is none that
    somebody would sketch.
    """
    sheet, levels = sketch_views(views, random.Random(name), has_figures=True)
    if any(b - a < _NEAREST_MM for own in levels for a, b in pairwise(own)):
        return ""
    dice = np.random.default_rng(sum(name.encode()))
    cv2.imwrite(str(path), picture(sheet, "pencil", dice))
    given = Given(is_sketch=True)
    try:
        opened: SheetRead = worker.ask("open_sheet", str(path), "third", None, given)
        found = opened.picture.levels if opened.picture is not None else ()
        if [len(own.measured) for own in found] != [len(own) for own in levels]:
            return "other levels found"
        told = tuple(tuple(zip(own.measured, true, strict=True))
                     for own, true in zip(found, levels, strict=True))  # fmt: skip
        opened = worker.ask("open_sheet", str(path), "third", None, replace(given, levels=told))
        shown = tuple(opened.arrangement.drawn_views())
        reading = worker.ask("read", shown, name, 6, _LIMIT_S)
    except HolopticError as error:
        return f"refused: {error}"
    if reading.verdict != "unique":
        return reading.verdict
    return "right" if abs(reading.answers[0].volume - size) <= _SAME_SHARE * size else "wrong"


if __name__ == "__main__":
    main()
