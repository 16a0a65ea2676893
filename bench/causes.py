"""Slips of many sorts and sizes told from where strokes lie: causes without pictures of sheets.

Run: .venv/bin/python -m bench.causes [SHEETS [RANDOM PARTS [FIRST [SORT,SORT…]]]]

Of each plan so many sheets are drawn by the hand with its ordinary spread and one slip. Ink is
where it was drawn, measured with the error of a good picture and found as far off as in one: what
pictures add to that, `bench.checking` tells.
"""

from __future__ import annotations

import random
import sys
import time
from collections import defaultdict
from collections.abc import Callable, Iterator

import numpy as np
from scipy.spatial import cKDTree

from bench.checking import is_same
from bench.exercise_parts import PLAIN_FAMILIES, SKEW_FAMILIES, exercise
from bench.random_parts import random_part
from holoptic.checking.causes import MEASURED_MM, Suspects
from holoptic.checking.placing import Placing
from holoptic.checking.report import Cause
from holoptic.checking.rows import Row, Rows, rows_of
from holoptic.checking.slips import Slip, setting_of
from holoptic.checking.stories import cause_of
from holoptic.checking.traces import Offs, SlippedSheets, Traced, dense, trace
from holoptic.demo import job_path
from holoptic.errors import HolopticError
from holoptic.exchange.job_file import read_job
from holoptic.job import Posed, alone, pose
from holoptic.plan.errors import Places
from holoptic.plan.hand import Hand
from holoptic.sheet.frames import frame_of
from holoptic.worker import planning

_WORTH_MM, _MOST_MM = 1.5, 40.0
"""A slip is thrown if it moves some stroke so far at least, and none further: that would be seen
while the sheet is drawn."""
_WINDOW_MM, _WIDE_MM, _END_MM, _ROWS = 1.6, 3.2, 0.35, (0.1, 0.3, 0.5, 0.7, 0.9)
_TRIES, _MOST_DRIFT_MM = 60, 2.0


class Ink:
    """Where a sheet's strokes lie, asked as a picture of it would be."""

    def __init__(self, suspects: Suspects, slip: Slip, seed: int) -> None:
        self._suspects = suspects
        self._dice = np.random.default_rng(seed)
        traced = suspects.traced
        offs, needle = dict(slip.offs), slip.needle
        sheets = SlippedSheets(
            suspects.hand, 1,
            lambda k, spread: np.array([self._dice.normal(0, spread) + offs.get(k, 0.0)]),
            {needle.move: np.array([needle.off])} if needle else {},
        ).draw(traced.moves, traced.meant)  # fmt: skip
        self._true = [places[0] for places in traced.on(sheets)]
        self._noise = [self._dice.normal(0, MEASURED_MM, len(path)) for path in self._true]
        self._ends = self._dice.normal(0, _END_MM, (len(self._true), 2))
        self._placing = Placing(suspects)
        self._middle = complex(np.concatenate([one.meant for one in traced.traces]).mean())
        self._motion = self._whole_motion()
        ink = np.concatenate([dense(path) for path in self._true])
        self._tree = cKDTree(np.stack([ink.real, ink.imag], axis=1))

    def _whole_motion(self) -> Offs:
        """Return how far the whole drawing lies off, as a picture is asked first of all."""
        offs: list[Offs | None] = []
        for one, path in zip(self._suspects.traced.traces, self._true, strict=True):
            off = ((path - one.meant) * one.normals.conj()).real
            offs.append(off if np.abs(off).max() < _WIDE_MM else None)
        return self._placing.motion(offs)

    def _motion_from(self, expected: list[Places]) -> Offs:
        traces = self._suspects.traced.traces
        offs = [((places[0] - one.meant) * one.normals.conj()).real
                for places, one in zip(expected, traces, strict=True)]  # fmt: skip
        known = [off if np.isfinite(off).all() else None for off in offs]
        found = np.subtract(self._motion, self._placing.motion(known))
        return found if np.hypot(*found[:2]) < _MOST_DRIFT_MM else np.zeros(3)

    def _drift(self, places: Places, motion: Offs) -> Places:
        across, up, turn = motion
        return across + 1j * up + 1j * turn * (places - self._middle)

    def measure(self, expected: list[Places]) -> Rows:
        """Return the rows that a picture would give; what lies beyond the window is not found."""
        motion = self._motion_from(expected)
        rows: list[Row] = []
        paths: dict[int, Places] = {}
        missing = 0
        for number, places in enumerate(expected):
            one = self._suspects.traced.traces[number]
            apart = self._true[number] - places[0]
            across = (apart * one.normals.conj()).real
            drifted = across - (self._drift(places[0], motion) * one.normals.conj()).real
            if not np.isfinite(across).all() or np.abs(drifted).max() > _WINDOW_MM:
                missing += 1
                continue
            rows += self._rows(number, apart, across)
            paths[number] = self._true[number]
        return rows_of(rows, len(self._suspects.draws), missing, paths)

    def _rows(self, number: int, apart: Places, across: Offs) -> Iterator[Row]:
        one, by_draw = self._suspects.traced.traces[number], self._suspects.by_draw[number]
        last = len(one.meant) - 1
        for index in [round(last * k) for k in _ROWS] if one.is_curve else [0, last]:
            moved = (by_draw[:, index] * one.normals[index].conjugate()).real
            yield float(across[index] + self._noise[number][index]), moved, MEASURED_MM, number
        if one.is_curve:
            return
        way = (one.meant[-1] - one.meant[0]) / max(one.length, 1e-9)
        for k, (index, sign) in enumerate(((0, -1.0), (-1, 1.0))):
            beyond = sign * float((apart[index] * way.conjugate()).real) + self._ends[number, k]
            if abs(beyond) < 2 * _WINDOW_MM:
                yield beyond, sign * (by_draw[:, index] * way.conjugate()).real, _END_MM, number

    def nearness(self, places: Places) -> Offs:
        """Return how far places lie from ink, mm."""
        flat = np.nan_to_num(places + self._drift(places, self._motion), nan=-1e6).ravel()
        far, _ = self._tree.query(np.stack([flat.real, flat.imag], axis=1))
        return np.asarray(far.reshape(places.shape))


Throw = Callable[[Suspects, random.Random], Slip | None]


def _any(suspects: Suspects, dice: random.Random) -> Slip:
    draw = dice.randrange(len(suspects.draws))
    one = suspects.draws[draw]
    off = dice.choice((-1, 1)) * (dice.uniform(2, 9) if one.is_angle else dice.uniform(2, 6))
    should = setting_of(suspects.traced.moves[one.move], one)
    return Slip(draw, off, "other", should + off, should)


def _usual(*sorts: str) -> Throw:
    def throw(suspects: Suspects, dice: random.Random) -> Slip | None:
        moves, draws = suspects.traced.moves, suspects.draws
        fitting = [slip for slip in (*suspects.usual, *suspects.together) if slip.sort in sorts
                   and moves[draws[slip.draw].move].phase != "sheet"]  # fmt: skip
        return dice.choice(fitting) if fitting else None

    return throw


THROWN = {
    "any size": _any,
    "figures changed over": _usual("figures"),
    "graduation": _usual("graduation"),
    "half or double": _usual("half", "whole", "diameter"),
    "wrong way": _usual("wrong way"),
    "other length": _usual("other length"),
    "edge for centre": _usual("edge"),
    "other square": _usual("angle", "mirror"),
    "two lengths changed over": _usual("changed"),
    "feature from the wrong end": _usual("wrong end"),
    "arc from the wrong corner": _usual("needle"),
}


def _orders(random_parts: int, first: int) -> Iterator[tuple[str, str, Posed]]:
    """Yield demo parts, exercises and random parts, isometric and cabinet in turns."""
    kinds = "isometric", "cabinet"
    for part in read_job(job_path()).parts:
        for kind in kinds if not first else ():
            yield "demo", f"{part.source.name}, {kind}", pose(part.source, kind)
    families = (*sorted(PLAIN_FAMILIES), *sorted(SKEW_FAMILIES))
    for number in range(first, first + random_parts):
        one = (exercise(families[number // 2 % len(families)], number) if number % 2
               else random_part(number))  # fmt: skip
        kind = kinds[number // 2 % 2]
        yield "made up", f"{one.name} {number}, {kind}", pose(one, kind)


def _traced(posed: Posed) -> Traced:
    made = planning.plan(alone(posed), posed.id)
    return trace(made.plan.moves, made.drafted, frame_of(made.paper).inner)


class _Tally:
    def __init__(self) -> None:
        self.sheets = self.first = self.three = self.told = 0
        self.sizes: list[float] = []
        self.seconds: list[float] = []


def _judged(suspects: Suspects, slip: Slip, seed: int, tally: _Tally) -> str:
    """Count what is told of one sheet; return how it was missed."""
    ink = Ink(suspects, slip, seed)
    started = time.perf_counter()
    _, found = suspects.look(ink.measure, ink.nearness)
    tally.seconds.append(time.perf_counter() - started)
    tally.sheets += 1
    causes = [cause_of(one, suspects.draws, suspects.traced.moves) for one in found]
    tally.told += bool(causes)
    wrong = suspects.moves_of((slip,))

    def is_right(cause: Cause) -> bool:
        return cause.move in wrong or (
            slip.has_size and is_same(suspects, slip.draw, slip.off, cause)
        )

    groups = [[c for c in causes if c.group == group] for group in range(2)]
    tally.three += any(is_right(c) for one in groups for c in one[:3])
    hit = next((one[0] for one in groups if one and is_right(one[0])), None)
    if hit is not None:
        tally.first += 1
        tally.sizes.append(abs((hit.was_set - hit.should) / slip.off))
        return ""
    told = [(c.move, round(c.was_set - c.should, 1), c.weight) for c in causes[:4]]
    return f"moves {sorted(wrong)}, {slip.should:.2f} off {slip.off:+.2f}, told {told}"


def _is_worth(suspects: Suspects, slip: Slip) -> bool:
    traced = suspects.traced
    moved = traced.on(suspects.sheets([(slip,)]))
    offs = np.concatenate([
        np.abs(((places[0] - one.meant) * one.normals.conj()).real)
        for places, one in zip(moved, traced.traces, strict=True)
    ])  # fmt: skip
    return bool(np.isfinite(offs).all() and _WORTH_MM < offs.max() < _MOST_MM)


def main() -> None:
    """Print the table, and what was missed."""
    words = sys.argv[1:]
    sheets, parts, first = (int(words[k]) if len(words) > k else (1, 40, 0)[k] for k in range(3))
    sorts = words[3].split(",") if len(words) > 3 else list(THROWN)
    tallies: dict[tuple[str, str], _Tally] = defaultdict(_Tally)
    for group, name, posed in _orders(parts, first):
        try:
            suspects = Suspects(_traced(posed), Hand())
        except HolopticError:
            continue  # of some random parts nothing is left
        for sort in sorts:
            for trial in range(sheets):
                dice = random.Random(f"{name} {sort} {trial}")
                for _ in range(_TRIES):
                    slip = THROWN[sort](suspects, dice)
                    if slip is not None and _is_worth(suspects, slip):
                        break
                else:
                    continue
                missed = _judged(suspects, slip, dice.randrange(10**6), tallies[group, sort])
                if missed:
                    print(f"  {name}, {sort}: {missed}", flush=True)
    _print(tallies)


def _print(tallies: dict[tuple[str, str], _Tally]) -> None:
    print("| parts | slip | sheets | told | first | among three | size, median | s, median |")
    print("|---|---|---|---|---|---|---|---|")
    for (group, sort), one in sorted(tallies.items()):
        print(f"| {group} | {sort} | {one.sheets} | {one.told / one.sheets:.0%} "
              f"| {one.first} ({one.first / one.sheets:.0%}) | {one.three / one.sheets:.0%} "
              f"| {np.median(one.sizes or [0]):.2f} | {np.median(one.seconds):.2f} |")  # fmt: skip
    all_of = list(tallies.values())
    count = sum(one.sheets for one in all_of)
    print(f"together {count}: first {sum(one.first for one in all_of) / count:.1%}, "
          f"among three {sum(one.three for one in all_of) / count:.1%}")  # fmt: skip


if __name__ == "__main__":
    main()
