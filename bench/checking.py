"""Drawn sheets of the stand-in laid beside their plans: what is measured, found, and told.

Run: .venv/bin/python -m bench.checking [TRIALS] [FIGURE,FIGURE…] [SLIP,NONE,TWO,MISSING]

`missing` leaves out three strokes, slips nowhere and asks for no causes: it takes two seconds.

A trial draws a figure of the demo job with the hand's ordinary spread, mostly with slips, and takes
it as a scan or a photo. Offsets are judged against where the strokes were really drawn.
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
from collections import defaultdict
from pathlib import Path

import numpy as np

from holoptic.checking.causes import Suspects
from holoptic.checking.pictures.checker import Comparison
from holoptic.checking.pictures.showing import as_png
from holoptic.checking.pictures.stand_in import take
from holoptic.checking.sitting import Sitting
from holoptic.checking.traces import SlippedSheets, Traced, trace
from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import sheet_order
from holoptic.plan.hand import Hand
from holoptic.plan.moves import BlankSheet
from holoptic.sheet.frames import frame_of
from holoptic.worker.client import Worker

_WAYS = (("scan", 300), ("scan", 200), ("photo", 300), ("scan", 150), ("photo", 200))
_WORTH_MM = 1.5
"""A slip is looked for if it moves some stroke so far at least."""
_ALIKE = 0.05


class Tally:
    """What came of the trials of one way of taking sheets."""

    def __init__(self) -> None:
        self.offs: list[float] = []
        self.missing = self.missing_found = self.strokes = self.false = 0
        self.slips = self.first = self.three = self.none = self.none_right = 0
        self.sizes: list[float] = []
        self.seconds: list[float] = []


def main() -> None:
    """Print the tables."""
    trials = int(sys.argv[1]) if len(sys.argv) > 1 else 20
    wanted = [int(k) for k in sys.argv[2].split(",")] if len(sys.argv) > 2 else None
    sorts = sys.argv[3].split(",") if len(sys.argv) > 3 else ["slip", "slip", "slip", "none"]
    tallies: dict[tuple[str, int], Tally] = defaultdict(Tally)
    misses: list[str] = []
    with tempfile.TemporaryDirectory() as folder:
        for number, traced, paper in _plans(wanted):
            suspects = Suspects(traced, Hand())
            for trial in range(trials):
                dice = random.Random(f"check {number} {trial}")
                way = _WAYS[trial % len(_WAYS)]
                _try(suspects, paper, way, sorts[trial % len(sorts)], dice, tallies[way],
                     Path(folder), misses, f"figure {number}, trial {trial}")  # fmt: skip
    _print(tallies)
    print("\n".join(misses))


def _plans(wanted: list[int] | None) -> list[tuple[int, Traced, BlankSheet]]:
    job = read_job(job_path())
    figures = [figure for sheet in job.sheets for figure in sheet.figures]
    found = []
    with Worker() as worker:
        for number in wanted if wanted is not None else range(9):
            figure = figures[number]
            made = worker.ask("plan", sheet_order(job, job.sheet_of(figure)), figure.id)
            frame = frame_of(made.paper)
            found.append((number, trace(made.plan.moves, made.drafted, frame.inner), frame))
    return found


def _try(
    suspects: Suspects, paper: BlankSheet, way: tuple[str, int], sort: str, dice: random.Random,
    tally: Tally, folder: Path, misses: list[str], title: str,
) -> None:  # fmt: skip
    traced = suspects.traced
    slips = {} if sort in ("none", "missing") else _thrown(suspects, dice, 1 + (sort == "two"))
    names = [one.stroke for one in traced.traces]
    count = min(3, len(names) // 8) if sort == "missing" else int(dice.random() < 0.5)
    left_out = frozenset(dice.sample(names, count))
    seed = dice.randrange(10**6)
    sitting = Sitting(Hand(), slips, left_out, dice.random() < 0.4, way[0] == "photo", way[1], seed)
    path = folder / "sheet.png"
    path.write_bytes(as_png(take(traced, paper, sitting)))
    started = time.perf_counter()
    try:
        comparison = Comparison(path, "figure", traced, Hand())
        report = comparison.at_once() if sort == "missing" else comparison.explained()
    except Exception as error:
        misses.append(f"{title}: {error}")
        return
    tally.seconds.append(time.perf_counter() - started)
    true = _true_offs(traced, sitting)
    offs = dict(zip(names, true, strict=True))
    for stroke in report.strokes:
        off, ends = offs[stroke.id]
        is_out = stroke.id in left_out
        tally.strokes += 1
        tally.missing += is_out
        tally.missing_found += is_out and stroke.state == "missing"
        if is_out:
            continue
        if stroke.state == "missing":
            tally.false += 1
        elif stroke.state in ("there", "shifted"):
            tally.offs.append(abs(stroke.off_mm) - off)
            tally.false += stroke.state == "shifted" and off < 0.6 * stroke.allowed_mm
        tally.false += stroke.state in ("short", "long") and ends < 0.75
        tally.false += stroke.state == "light"
    if sort != "missing":
        _judge_causes(suspects, slips, report.causes, tally, misses, title)


def _judge_causes(
    suspects: Suspects, slips: dict[int, float], causes: tuple, tally: Tally, misses: list[str],
    title: str,
) -> None:  # fmt: skip
    moves = suspects.traced.moves
    if not slips:
        tally.none += 1
        tally.none_right += not causes
        if causes:
            misses.append(f"{title}: none, told {causes[0].story}")
        return
    for draw, size in slips.items():
        tally.slips += 1
        right = [is_same(suspects, draw, size, cause) for cause in causes]
        groups = [[k for k, cause in enumerate(causes) if cause.group == group]
                  for group in sorted({cause.group for cause in causes})]  # fmt: skip
        firsts = [group[0] for group in groups]
        tally.first += any(right[k] for k in firsts)
        tally.three += any(right[k] for group in groups for k in group[:3])
        if any(right[k] for k in firsts):
            cause = causes[next(k for k in firsts if right[k])]
            tally.sizes.append(abs((cause.was_set - cause.should) / size))
        else:
            told = [(c.move, round(c.was_set - c.should, 1), c.weight) for c in causes[:4]]
            number = moves[suspects.draws[draw].move].n
            misses.append(f"{title}: move {number} off {size:+.2f}, told {told}")


def is_same(suspects: Suspects, draw: int, size: float, cause: object) -> bool:
    """Say whether a cause is the slip, or one whose effect on all strokes is the same."""
    moves = suspects.traced.moves
    if moves[suspects.draws[draw].move].n == cause.move:  # type: ignore[attr-defined]
        return True
    mine = effect_of(suspects, draw) * size
    for other, one in enumerate(suspects.draws):
        if moves[one.move].n != cause.move:  # type: ignore[attr-defined]
            continue
        off = cause.was_set - cause.should  # type: ignore[attr-defined]
        theirs = effect_of(suspects, other) * off
        if np.linalg.norm(mine - theirs) < max(_ALIKE * np.linalg.norm(mine),
                                               0.5 * np.sqrt(np.count_nonzero(mine))):  # fmt: skip
            return True
    return False


def effect_of(suspects: Suspects, draw: int) -> np.ndarray:
    """Return how far a setting moves all places across their strokes, for a unit of a slip."""
    return np.concatenate([
        (places[draw] * one.normals.conj()).real
        for one, places in zip(suspects.traced.traces, suspects.by_draw, strict=True)
    ])  # fmt: skip


def _thrown(suspects: Suspects, dice: random.Random, count: int) -> dict[int, float]:
    """Return slips of settings that matter, of sizes that nobody would tune to."""
    found: dict[int, float] = {}
    while len(found) < count:
        draw = dice.randrange(len(suspects.draws))
        is_angle = suspects.draws[draw].is_angle
        size = dice.choice((-1, 1)) * (dice.uniform(2, 9) if is_angle else dice.uniform(2, 6))
        if np.abs(effect_of(suspects, draw) * size).max() > _WORTH_MM:
            found[draw] = size
    return found


def _true_offs(traced: Traced, sitting: Sitting) -> list[tuple[float, float]]:
    """Return how far each stroke was really drawn off: across, and along at its ends; mm."""
    dice = np.random.default_rng(sitting.seed)
    sheets = SlippedSheets(
        sitting.hand, 1,
        lambda k, spread: np.array([dice.normal(0, spread) + sitting.slips.get(k, 0.0)]),
    ).draw(traced.moves, traced.meant)  # fmt: skip
    found = []
    for one, places in zip(traced.traces, traced.on(sheets), strict=True):
        off = places[0] - one.meant
        across = np.abs((off * one.normals.conj()).real).max()
        along = np.abs((off * (1j * one.normals).conj()).real)[[0, -1]].max()
        found.append((float(across), float(along)))
    return found


def _print(tallies: dict[tuple[str, int], Tally]) -> None:
    print("| taken as | sheets | offsets, rms | missing found | false alarms | first | among three "
          "| size, median | none told right | median time |")  # fmt: skip
    print("|---|---|---|---|---|---|---|---|---|---|")
    for (kind, dpi), one in sorted(tallies.items()):
        offs = np.array(one.offs or [0.0])
        kept = np.abs(offs) < 3 * max(0.1, float(np.median(np.abs(offs))))
        print(
            f"| {kind}, {dpi} dpi | {len(one.seconds)} "
            f"| {np.sqrt((offs[kept] ** 2).mean()):.3f} mm ({1 - kept.mean():.1%} on other ink) "
            f"| {one.missing_found} of {one.missing} | {one.false} of {one.strokes} "
            f"({one.false / max(one.strokes, 1):.1%}) | {_share(one.first, one.slips)} "
            f"| {_share(one.three, one.slips)} | {np.median(one.sizes or [0]):.2f} "
            f"| {one.none_right} of {one.none} | {np.median(one.seconds or [0]):.1f} s |"
        )


def _share(some: int, of: int) -> str:
    return f"{some} of {of} ({some / max(of, 1):.0%})"


if __name__ == "__main__":
    main()
