"""Writing into the register, and reading it: one writer at a time, each entry whole."""

from __future__ import annotations

import array
import sqlite3
from collections.abc import Iterable, Iterator, Sequence
from datetime import datetime
from pathlib import Path
from typing import Any, TypeVar

from holoptic.places import data_folder
from holoptic.register.entries import (
    CauseKept,
    CheckKept,
    DeviationKept,
    Drawn,
    MoveTime,
    Practised,
    Subject,
)
from holoptic.register.schema import PATIENCE_S, opened, reading, take_along

NAME = "register.sqlite"
_Entry = TypeVar("_Entry", Drawn, CheckKept, Practised)
_MOST_HANDS = 200
"""Of the newest checks, one's own hand is told by so many."""
_DRAWN = (
    "job, job_name, figure, title, plan, sheet, revision, kind, way, paper, scale, begun, ended, "
    "moves, done, round"
)
_CHECK = (
    "uid, job, job_name, figure, title, plan, made, source, agrees, strokes, off, extra, rms_mm, "
    "until"
)
_PRACTISED = "learner, skill, level, seed, made, seconds, share, points, hints, was_shown"


def register_path() -> Path:
    """Return the file of the register in the user's data folder."""
    return data_folder() / NAME


class Register:
    """The register in a file. Every method raises BadInput (`schema`) where that cannot be used."""

    def __init__(self, path: Path | None = None, patience_s: float = PATIENCE_S) -> None:
        self.path = path or register_path()
        self._patience = patience_s
        self.unreadable = 0
        """Of the entries that were last asked for, so many could not be read."""

    # --- writing ----------------------------------------------------------------------------

    def note_drawn(self, drawn: Drawn) -> None:
        """Note how far a drawing is. One that was finished and is begun anew is another one."""
        one = drawn.subject
        key = one.job, one.figure, one.plan
        with opened(self.path, self._patience) as book:
            row = book.execute(
                "SELECT id, round, done, moves, begun FROM drawing WHERE job = ? AND figure = ? "
                "AND plan = ? ORDER BY round DESC LIMIT 1", key,
            ).fetchone()  # fmt: skip
            is_again = row is not None and row[2] >= row[3] > 2 * drawn.done
            turn = 1 if row is None else row[1] + int(is_again)
            begun = drawn.begun.isoformat() if row is None or is_again else row[4]
            values = (
                *key[:1], one.job_name, one.figure, one.title, one.plan, drawn.sheet,
                drawn.revision, drawn.kind, drawn.way, drawn.paper, drawn.scale, begun,
                drawn.ended.isoformat(), drawn.moves, drawn.done, turn,
            )  # fmt: skip
            marks = ", ".join("?" * len(values))
            book.execute(
                f"INSERT INTO drawing ({_DRAWN}) VALUES ({marks}) ON CONFLICT (job, figure, plan, "
                "round) DO UPDATE SET job_name = excluded.job_name, title = excluded.title, "
                "sheet = excluded.sheet, revision = excluded.revision, way = excluded.way, "
                "ended = excluded.ended, done = max(done, excluded.done)", values,
            )  # fmt: skip
            number = book.execute(
                "SELECT id FROM drawing WHERE job = ? AND figure = ? AND plan = ? AND round = ?",
                (*key, turn),
            ).fetchone()[0]
            book.executemany(
                "INSERT OR REPLACE INTO move_time (drawing, move, phase, seconds) "
                "VALUES (?, ?, ?, ?)",
                [(number, time.move, time.phase, time.seconds) for time in drawn.times],
            )

    def note_check(self, check: CheckKept) -> None:
        """Note a check; of the same sheet checked again the last one counts."""
        one = check.subject
        hands = array.array("f", check.hands).tobytes() if check.hands is not None else None
        with opened(self.path, self._patience) as book:
            book.execute("DELETE FROM sheet_check WHERE uid = ?", (check.uid,))
            values = (
                check.uid, one.job, one.job_name, one.figure, one.title, one.plan,
                check.made.isoformat(), check.source, int(check.agrees), check.strokes, check.off,
                check.extra, check.rms_mm, check.until, hands,
            )  # fmt: skip
            marks = ", ".join("?" * len(values))
            number = book.execute(
                f"INSERT INTO sheet_check ({_CHECK}, hands) VALUES ({marks})", values
            ).lastrowid
            book.executemany(
                "INSERT INTO deviation VALUES (?, ?, ?, ?, ?)",
                [(number, d.stroke, d.state, d.off_mm, d.move) for d in check.deviations],
            )
            book.executemany(
                "INSERT INTO cause VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
                [(number, c.move, c.what, c.was_set, c.should, c.weight, c.slip, c.story)
                 for c in check.causes],
            )  # fmt: skip

    def note_practised(self, one: Practised) -> None:
        """Note an exercise that was done."""
        with opened(self.path, self._patience) as book:
            book.execute(
                f"INSERT INTO practice ({_PRACTISED}) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
                (
                    one.learner,
                    one.skill,
                    one.level,
                    one.seed,
                    one.made.isoformat(),
                    one.seconds,
                    one.share,
                    one.points,
                    one.hints,
                    int(one.was_shown),
                ),
            )

    def forget_learner(self, learner: str) -> None:
        """Delete all that is kept of what somebody practised."""
        with opened(self.path, self._patience) as book:
            book.execute("DELETE FROM practice WHERE learner = ?", (learner,))

    def forget(self, subject: Subject | None = None) -> None:
        """Delete all that is kept of a figure drawn by a plan; None: everything."""
        with opened(self.path, self._patience) as book:
            if subject is None:
                book.execute("DELETE FROM drawing")
                book.execute("DELETE FROM sheet_check")
                book.execute("DELETE FROM practice")
            else:
                key = subject.job, subject.figure, subject.plan
                for table in ("drawing", "sheet_check"):
                    book.execute(
                        f"DELETE FROM {table} WHERE job = ? AND figure = ? AND plan = ?", key
                    )

    def take_along(self, to: Path) -> None:
        """Copy the register as it stands into another file."""
        take_along(self.path, to)

    # --- reading ----------------------------------------------------------------------------

    def drawings(self) -> list[Drawn]:
        """Return all drawings, the newest first.

        Entries that cannot be read are left out; `unreadable` counts them.
        """
        with reading(self.path, self._patience) as book:
            if book is None:
                return []
            times = _grouped(book, "SELECT drawing, move, phase, seconds FROM move_time "
                                   "ORDER BY drawing, move")  # fmt: skip
            rows = book.execute(f"SELECT id, {_DRAWN} FROM drawing ORDER BY ended DESC").fetchall()
        return self._readable(_drawn(row, times.get(row[0], [])) for row in rows)

    def checks(self) -> list[CheckKept]:
        """Return all checks, the newest first, without what they tell of the hand.

        Entries that cannot be read are left out; `unreadable` counts them.
        """
        with reading(self.path, self._patience) as book:
            if book is None:
                return []
            wrong = _grouped(book, "SELECT sheet_check, stroke, state, off_mm, move FROM deviation "
                                   "ORDER BY rowid")  # fmt: skip
            causes = _grouped(book, "SELECT sheet_check, move, what, was_set, should, weight, "
                                    "slip, story FROM cause ORDER BY rowid")  # fmt: skip
            rows = book.execute(
                f"SELECT id, {_CHECK} FROM sheet_check ORDER BY made DESC"
            ).fetchall()
        return self._readable(
            _checked(row, wrong.get(row[0], []), causes.get(row[0], [])) for row in rows
        )

    def practised(self, learner: str | None = None) -> list[Practised]:
        """Return what was practised, by somebody or by all, in the order in which it was done.

        Entries that cannot be read are left out; `unreadable` counts them.
        """
        with reading(self.path, self._patience) as book:
            if book is None:
                return []
            where, what = ("", ()) if learner is None else ("WHERE learner = ? ", (learner,))
            rows = book.execute(
                f"SELECT {_PRACTISED} FROM practice {where}ORDER BY made, id", what
            ).fetchall()
        return self._readable(map(_practised, rows))

    def learners(self) -> list[str]:
        """Return who practised, the latest first."""
        with reading(self.path, self._patience) as book:
            if book is None:
                return []
            rows = book.execute(
                "SELECT learner FROM practice GROUP BY learner ORDER BY max(made) DESC"
            ).fetchall()
        return [str(row[0]) for row in rows]

    def hands(self) -> list[Sequence[float]]:
        """Return what the newest checks tell of the hand, each as its likelihoods."""
        with reading(self.path, self._patience) as book:
            if book is None:
                return []
            rows = book.execute(
                "SELECT hands FROM sheet_check WHERE hands IS NOT NULL ORDER BY made DESC LIMIT ?",
                (_MOST_HANDS,),
            ).fetchall()
        return list(_floats(row[0] for row in rows))

    def _readable(self, entries: Iterable[_Entry | None]) -> list[_Entry]:
        every = list(entries)
        found = [one for one in every if one is not None]
        self.unreadable = len(every) - len(found)
        return found


def _drawn(row: tuple[Any, ...], times: list[tuple[Any, ...]]) -> Drawn | None:
    """Return a drawing as it is kept, None where something else stands in its place."""
    try:
        sheet, revision, kind, way, paper, scale = map(str, row[6:12])
        begun, ended = (_moment(text) for text in row[12:14])
        took = tuple(MoveTime(int(move), str(phase), float(s)) for move, phase, s in times)
        return Drawn(Subject(*map(str, row[1:6])), sheet, revision, kind, way, paper, scale, begun,
                     ended, int(row[14]), int(row[15]), took, int(row[16]))  # fmt: skip
    except (TypeError, ValueError):
        return None


def _checked(
    row: tuple[Any, ...], wrong: list[tuple[Any, ...]], causes: list[tuple[Any, ...]]
) -> CheckKept | None:
    """Return a check as it is kept, None where something else stands in its place."""
    try:
        deviations = tuple(DeviationKept(str(stroke), str(state), float(off), int(move))
                           for stroke, state, off, move in wrong)  # fmt: skip
        slips = tuple(
            CauseKept(int(move), str(what), float(was), float(should), float(weight), int(slip),
                      str(story))
            for move, what, was, should, weight, slip, story in causes
        )  # fmt: skip
        rms = None if row[13] is None else float(row[13])
        until = None if row[14] is None else int(row[14])
        return CheckKept(str(row[1]), Subject(*map(str, row[2:7])), _moment(row[7]), str(row[8]),
                         bool(row[9]), int(row[10]), int(row[11]), int(row[12]), rms, until,
                         deviations, slips)  # fmt: skip
    except (TypeError, ValueError):
        return None


def _moment(text: str) -> datetime:
    """Return a time as it is kept. Raises ValueError for none, and for one of no time zone."""
    found = datetime.fromisoformat(text)
    if found.tzinfo is None:
        raise ValueError(text)
    return found


def _practised(row: tuple[Any, ...]) -> Practised | None:
    """Return an entry as it is kept, None where something else stands in its place."""
    try:
        made = _moment(row[4])
        if not 0 <= float(row[6]) <= 1:
            return None
        return Practised(str(row[0]), str(row[1]), int(row[2]), int(row[3]), made, float(row[5]),
                         float(row[6]), int(row[7]), int(row[8]), bool(row[9]))  # fmt: skip
    except (TypeError, ValueError):
        return None


def _floats(blobs: Iterator[bytes]) -> Iterator[Sequence[float]]:
    for blob in blobs:
        values = array.array("f")
        values.frombytes(blob[: len(blob) - len(blob) % values.itemsize])
        yield values.tolist()


def _grouped(book: sqlite3.Connection, query: str) -> dict[int, list[tuple[Any, ...]]]:
    """Return rows by what stands in their first column."""
    found: dict[int, list[tuple[Any, ...]]] = {}
    for number, *rest in book.execute(query):
        found.setdefault(number, []).append(tuple(rest))
    return found
