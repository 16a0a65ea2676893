"""Curves that a file draws by chords, told from corners: they follow each other smoothly."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from holoptic.reading.lines import Free, Straight
from holoptic.tolerance import COINCIDENT_MM

_LONGEST_CHORD_MM = 4.0
_FEWEST_CHORDS = 3
_SMOOTH = 0.35
"""Radians; chords of a curve turn by less."""


def with_curves(lines: Sequence[Straight]) -> Iterator[Straight | Free]:
    """Yield what straight lines of one polyline are: a curve where short chords follow each other,
    else as they are.
    """
    run: list[Straight] = []
    for line in lines:
        if run and not runs_on(run[-1], line):
            yield from _run(run)
            run = []
        run.append(line)
    yield from _run(run)


def _run(run: list[Straight]) -> Iterator[Straight | Free]:
    if len(run) < _FEWEST_CHORDS:
        yield from run
    else:
        yield Free((run[0].start, *(line.end for line in run)))


def runs_on(a: Straight, b: Straight) -> bool:
    """Say whether a chord follows another smoothly."""
    first, second = math.dist(a.start, a.end), math.dist(b.start, b.end)
    if max(first, second) > _LONGEST_CHORD_MM or math.dist(a.end, b.start) > COINCIDENT_MM:
        return False
    turn = math.atan2(b.end[1] - b.start[1], b.end[0] - b.start[0])
    turn -= math.atan2(a.end[1] - a.start[1], a.end[0] - a.start[0])
    return abs((turn + math.pi) % math.tau - math.pi) < _SMOOTH
