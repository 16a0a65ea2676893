"""Arrangements: hidden lines against the kernel's, the slider, and how long taking apart takes.

Run: .venv/bin/python -m bench.spread [kernel | slider | parts]   (all three without a word)
"""

from __future__ import annotations

import itertools
import os
import random
import sys
import time
from collections.abc import Iterator

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
import shapely
from PyQt6.QtCore import QTimer
from PyQt6.QtTest import QTest

from bench.second_opinion import _ASIDE_MM, _KINDS, _lines, difference
from bench.stand_still import furnished, settle
from holoptic.curves.vectors import unit
from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import AS_FITS, Spread, whole_of
from holoptic.part import Body, Crate, Face, Offset, Part, Round, Whole
from holoptic.pictorial import NearCorner, Picture, draw, view_of
from holoptic.sheet import picture_item
from holoptic.sheet.part_marks import crossings
from holoptic.sheet.planning import best_layout
from holoptic.sheet.sheets import item_marks
from holoptic.solid.seeing.rays import kernel_depths
from holoptic.solid.seeing.whole import SeenWhole
from holoptic.solid.shelf import seen
from holoptic.spread.parts_list import parts_list
from holoptic.tolerance import CLEAR_MM
from holoptic.units import Length
from holoptic.worker.spreading import Apart, draw_whole_apart, relations_of

_SHARES = (0.0, 0.25, 0.5, 0.75, 1.0)
_LONGEST_MM = 0.06
_MANY = 40
_HAND_MS, _DRAG_MS = 8, 4000
"""How often a hand that drags moves the slider, and for how long."""


def lamp() -> Whole:
    """Return the harbour lamp of the demo, put together."""
    job = read_job(job_path("lamp-put-together"))
    return whole_of(job, job.arrangements[0])[0]


def apart_in(whole: Whole, kind: str, corner: str) -> Apart:
    """Return how a whole is drawn apart in a kind of pictorial."""
    return draw_whole_apart(whole, Spread(), view_of(kind, corner).toward_viewer)


def against_the_kernel() -> Iterator[tuple[str, float, bool]]:
    """Yield each picture of the lamp with the length of what differs from the kernel's, mm, and
    whether rays of the kernel's own find ours right where it does.
    """
    whole = lamp()
    for kind in _KINDS:
        for corner in NearCorner:
            view = view_of(kind, corner.value)
            apart = apart_in(whole, kind, corner.value)
            for share in _SHARES:
                solid = seen(apart.at(share))
                look = solid.look(view.toward_viewer)
                theirs = solid.in_kernels_way(view.toward_viewer)
                ours, kernels = draw(look, view), draw(theirs, view)
                most = difference(ours, kernels).most
                right = most <= _LONGEST_MM or (
                    _seen_by_rays(ours, kernels, solid, seen_when=True)
                    and _seen_by_rays(kernels, ours, solid, seen_when=False)
                )
                yield f"{kind} {corner.value} {share:.0%}", most, right


def _seen_by_rays(one: Picture, other: Picture, solid: SeenWhole, *, seen_when: bool) -> bool:
    """Say whether what only one picture shows is in sight, or hidden, as is said."""
    toward = unit(one.view.toward_viewer)
    theirs = _lines(other, ("visible",)).buffer(_ASIDE_MM)
    for stroke in one.visible:
        low, high = stroke.curve.span
        places = np.array([stroke.curve.at(low + (high - low) * k / 60) for k in range(1, 60)])
        on_paper = shapely.points(places @ np.array(one.view.matrix).T)
        places = places[~shapely.contains(theirs, on_paper)]
        if len(places) * stroke.curve.length / 60 > _LONGEST_MM:
            nearest = kernel_depths(solid.shape, toward, places)[:, 1]
            free = nearest <= places @ np.array(toward) + CLEAR_MM
            if (free.mean() > 0.5) != seen_when:
                return False
    return True


def marks(kind: str, corner: str) -> tuple[int, int, int]:
    """Return how many numbers stand on the lamp's sheet, pairs of leaders that cross, and lines
    that leaders cross.
    """
    apart, view = apart_in(lamp(), kind, corner), view_of(kind, corner)
    whole = apart.at(1.0)
    picture: Picture = draw(seen(whole).look(view.toward_viewer), view)
    item = picture_item(picture, "f1", listed=parts_list(whole, apart.parting.order))
    placed = item_marks(item, best_layout([item], AS_FITS))
    return len(placed), crossings(placed), sum(mark.crossed for mark in placed)


def slider_rate(looking_ms: int) -> float:
    """Return how many pictures a second are shown while the slider of the lamp moves, after
    somebody has looked at the page for a while.
    """
    app, window = furnished()
    window.open_first(job_path("lamp-put-together"), demo=True)
    settle(window)
    window.show_page("spread")
    settle(window)
    QTest.qWait(looking_ms)
    page, spreads = window.pages["spread"], window.session.spreads
    shown = []
    spreads.way.moved.connect(lambda: shown.append(page.apart.repaint()))
    steps = itertools.cycle([*range(100), *range(100, 0, -1)])
    hand = QTimer()
    hand.timeout.connect(lambda: page.slider.setValue(next(steps)))
    hand.start(_HAND_MS)
    start = time.perf_counter()
    QTest.qWait(_DRAG_MS)
    rate = len(shown) / (time.perf_counter() - start)
    hand.stop()
    settle(window)
    window.close_down()
    app.quit()
    return rate


def stack(count: int, seed: int = 3) -> Whole:
    """Return plates, rings and pins stacked up at random."""
    chance = random.Random(seed)
    bodies, low = [], 0.0
    for number in range(count):
        wide, high = chance.randint(30, 80) + 0.5, chance.randint(6, 24) + 0.5
        bore = Round("bore", "cut", Face.TOP, _mm(chance.randint(8, 20)), Offset(_mm(wide / 2)),
                     Offset(_mm(wide / 2)), _mm(0), None)  # fmt: skip
        part = Part(f"plate {number}", Crate(_mm(wide), _mm(wide), _mm(high)), (bore,))
        at = (-wide / 2, -wide / 2, low)
        bodies.append(Body(f"b{number}", part.name, f"p{number}", part, at=at))
        low += high
    return Whole("stack", tuple(bodies))


def _mm(value: float) -> Length:
    return Length.read(f"{value:g}")


def taking_apart(whole: Whole) -> tuple[float, float]:
    """Return how long directions and order take, and then the gap with its pictures, seconds."""
    start = time.perf_counter()
    relations_of(whole, Spread())
    middle = time.perf_counter()
    apart_in(whole, "isometric", "front-right")
    return middle - start, time.perf_counter() - middle


def main() -> None:
    """Print what was asked for."""
    asked = sys.argv[1:] or ["kernel", "slider", "parts"]
    if "kernel" in asked:
        count = differing = 0
        for name, most, is_right in against_the_kernel():
            count += 1
            if most > _LONGEST_MM:
                differing += 1
                words = "rays find ours right" if is_right else "rays do not find ours right"
                print(f"  {name}: {most:.2f} mm differ, {words}", flush=True)
        print(f"{count} pictures compared with the kernel's, {differing} differ", flush=True)
    if "parts" in asked:
        for whole in (lamp(), stack(_MANY)):
            order, gap = taking_apart(whole)
            print(f"{len(whole.bodies)} bodies: order {order:.2f} s, gap {gap:.2f} s", flush=True)
        for corner in NearCorner:
            both = [marks(kind, corner.value) for kind in ("isometric", "cabinet")]
            print(f"numbers, crossing pairs, lines crossed: {corner.value} {both}")
    if "slider" in asked:
        for looking_ms in (0, 1_000, 6_000):
            rate = slider_rate(looking_ms)
            print(f"slider of the lamp, after {looking_ms / 1000:g} s: {rate:.0f} pictures/s")


if __name__ == "__main__":
    main()
