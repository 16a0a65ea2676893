"""What stands in the register, as plain values."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime

from holoptic.checking.report import CheckReport, StrokeFound
from holoptic.units import Unit
from holoptic.units.spoken import said


@dataclass(frozen=True)
class Subject:
    """What was drawn or checked: a figure of a job, by a plan (its mark), and their names."""

    job: str
    job_name: str
    figure: str
    title: str
    plan: str


@dataclass(frozen=True)
class MoveTime:
    """How long a move took: its number, its phase, seconds."""

    move: int
    phase: str
    seconds: float


@dataclass(frozen=True)
class Drawn:
    """How far the drawing of a figure is, and how it is done; `round` counts how often it was."""

    subject: Subject
    sheet: str
    revision: str
    kind: str
    way: str
    paper: str
    scale: str
    begun: datetime
    ended: datetime
    moves: int
    done: int
    times: tuple[MoveTime, ...] = ()
    round: int = 1

    @property
    def seconds(self) -> float:
        """How long all its moves took that were timed."""
        return sum(one.seconds for one in self.times)

    @property
    def by_phase(self) -> dict[str, float]:
        """The seconds of each phase, in the order of the plan."""
        found: dict[str, float] = {}
        for one in self.times:
            found[one.phase] = found.get(one.phase, 0.0) + one.seconds
        return found


@dataclass(frozen=True)
class CauseKept:
    """A cause that a check found; `slip` counts the slips of one sheet."""

    move: int
    what: str
    was_set: float
    should: float
    weight: float
    slip: int
    story: str


@dataclass(frozen=True)
class DeviationKept:
    """A stroke that was not as it should be."""

    stroke: str
    state: str
    off_mm: float
    move: int


@dataclass(frozen=True)
class CheckKept:
    """A check and its outcome; `uid` is the same where the same sheet is checked again.

    `rms_mm` is how far the strokes that are there or shifted lie off, None where nothing was found.
    """

    uid: str
    subject: Subject
    made: datetime
    source: str
    agrees: bool
    strokes: int
    off: int
    extra: int
    rms_mm: float | None
    until: int | None = None
    deviations: tuple[DeviationKept, ...] = ()
    causes: tuple[CauseKept, ...] = ()
    hands: tuple[float, ...] | None = field(default=None, compare=False)


@dataclass(frozen=True)
class Practised:
    """An exercise that somebody did: what share of it was right (0 to 1), its points, how many
    hints were taken, and whether the answer was asked for.
    """

    learner: str
    skill: str
    level: int
    seed: int
    made: datetime
    seconds: float
    share: float
    points: int
    hints: int = 0
    was_shown: bool = False


def check_kept(
    uid: str, subject: Subject, made: datetime, source: str, report: CheckReport, unit: Unit
) -> CheckKept:
    """Return a check as it is kept."""
    wrong = report.worst_first
    return CheckKept(
        uid, subject, made, source, report.agrees, len(report.strokes), len(wrong),
        len(report.extra), _rms(report.strokes), report.until,
        tuple(DeviationKept(one.id, one.state, one.off_mm, one.move) for one in wrong),
        tuple(CauseKept(one.move, one.what, one.was_set, one.should, one.weight, one.group + 1,
                        said(str(one.story), unit)) for one in report.causes),
        report.hands,
    )  # fmt: skip


def _rms(strokes: Sequence[StrokeFound]) -> float | None:
    offs = [one.off_mm for one in strokes if one.state in ("there", "shifted", "light")]
    if not offs:
        return None
    return round(math.sqrt(sum(off * off for off in offs) / len(offs)), 3)
