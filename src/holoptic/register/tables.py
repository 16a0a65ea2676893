"""The register as text: a list to read, and CSV for other programs."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence

from holoptic.catalogue import tr
from holoptic.register.entries import CheckKept, Drawn, Practised

COLUMNS = (
    "begun", "ended", "job", "figure", "sheet", "revision", "kind", "way", "paper", "scale",
    "round", "moves", "done", "minutes", "checked", "agrees", "strokes", "off", "extra", "rms_mm",
    "causes",
)  # fmt: skip
"""Of the CSV file: the same in every language."""


def checks_of(drawn: Drawn, checks: Sequence[CheckKept]) -> list[CheckKept]:
    """Return the checks of a drawing, the newest first."""
    one = drawn.subject
    key = one.job, one.figure, one.plan
    return [check for check in checks
            if (check.subject.job, check.subject.figure, check.subject.plan) == key]  # fmt: skip


def register_csv(drawings: Sequence[Drawn], checks: Sequence[CheckKept]) -> str:
    """Return a row for each drawing with its last check, and for each check of what else."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\n")
    writer.writerow(COLUMNS)
    told: set[str] = set()
    for drawn in drawings:
        own = checks_of(drawn, checks)
        told.update(check.uid for check in own)
        writer.writerow([*_drawn(drawn), *_checked(own[0] if own else None)])
    for check in checks:
        if check.uid not in told:
            one = check.subject
            names = _safe(one.job_name), _safe(one.title)
            writer.writerow(["", "", *names, *[""] * 10, *_checked(check)])
    return buffer.getvalue()


def _drawn(drawn: Drawn) -> list[str]:
    one = drawn.subject
    return [
        _time(drawn.begun.isoformat(timespec="seconds")),
        _time(drawn.ended.isoformat(timespec="seconds")), _safe(one.job_name), _safe(one.title),
        _safe(drawn.sheet), _safe(drawn.revision), drawn.kind, drawn.way, drawn.paper, drawn.scale,
        str(drawn.round), str(drawn.moves), str(drawn.done), f"{drawn.seconds / 60:.1f}",
    ]  # fmt: skip


def _checked(check: CheckKept | None) -> list[str]:
    if check is None:
        return [""] * 7
    return [
        _time(check.made.isoformat(timespec="seconds")), "yes" if check.agrees else "no",
        str(check.strokes), str(check.off), str(check.extra),
        "" if check.rms_mm is None else f"{check.rms_mm:.2f}",
        _safe("; ".join(cause.story for cause in check.causes if cause.weight >= 0.5)),
    ]  # fmt: skip


def _time(text: str) -> str:
    return text.replace("T", " ")


def _safe(text: str) -> str:
    """Return words that no spreadsheet takes for a formula."""
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text


PRACTICE_COLUMNS = (
    "made", "learner", "skill", "level", "seed", "seconds", "share", "points", "hints", "shown",
)  # fmt: skip
"""Of the CSV file about practice: the same in every language."""


def practice_csv(practised: Sequence[Practised]) -> str:
    """Return a row for each exercise that was done."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\n")
    writer.writerow(PRACTICE_COLUMNS)
    for one in practised:
        writer.writerow([
            _time(one.made.isoformat(timespec="seconds")), _safe(one.learner), _safe(one.skill),
            one.level, one.seed, f"{one.seconds:.1f}", f"{one.share:.3f}", one.points, one.hints,
            "yes" if one.was_shown else "no",
        ])  # fmt: skip
    return buffer.getvalue()


def register_lines(drawings: Sequence[Drawn], checks: Sequence[CheckKept]) -> list[str]:
    """Return the register to read, a line for each drawing."""
    if not drawings and not checks:
        return [tr("nothing is in the register yet")]
    lines = []
    for drawn in drawings:
        own = checks_of(drawn, checks)
        lines.append(f"{drawn.ended:%Y-%m-%d %H:%M}  {drawn.subject.title}, {drawn.kind}: "
                     f"{progress(drawn)}, {outcome(own[0] if own else None)}")  # fmt: skip
    alone = {check.uid for check in checks}
    for drawn in drawings:
        alone -= {check.uid for check in checks_of(drawn, checks)}
    lines += [f"{check.made:%Y-%m-%d %H:%M}  {check.subject.title}: {outcome(check)}"
              for check in checks if check.uid in alone]  # fmt: skip
    return lines


def progress(drawn: Drawn) -> str:
    """Return how far a drawing is and how long it took."""
    if drawn.done >= drawn.moves:
        return tr("done in {minutes} min", minutes=round(drawn.seconds / 60))
    return tr("{done} of {moves} moves in {minutes} min", done=drawn.done, moves=drawn.moves,
              minutes=round(drawn.seconds / 60))  # fmt: skip


def outcome(check: CheckKept | None) -> str:
    """Return what a check came to."""
    if check is None:
        return tr("not checked")
    if check.agrees:
        return tr("agrees")
    return tr("{count} off", count=check.off + check.extra)
