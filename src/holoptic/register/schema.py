"""The register's file: its tables, and how one of an earlier version becomes one of this."""

from __future__ import annotations

import contextlib
import sqlite3
import time
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.quoting import name_of

_PRIVATE = 0o600
PATIENCE_S = 2.0
"""How long a command waits while another window writes."""

_PAUSE_S = 0.01
"""Between two tries."""

_MIGRATIONS = (
    """
    CREATE TABLE drawing (
        id INTEGER PRIMARY KEY,
        job TEXT NOT NULL, job_name TEXT NOT NULL, figure TEXT NOT NULL, title TEXT NOT NULL,
        plan TEXT NOT NULL, round INTEGER NOT NULL DEFAULT 1,
        sheet TEXT NOT NULL DEFAULT '', revision TEXT NOT NULL DEFAULT '',
        kind TEXT NOT NULL DEFAULT '', way TEXT NOT NULL DEFAULT '',
        paper TEXT NOT NULL DEFAULT '', scale TEXT NOT NULL DEFAULT '',
        begun TEXT NOT NULL, ended TEXT NOT NULL,
        moves INTEGER NOT NULL, done INTEGER NOT NULL,
        UNIQUE (job, figure, plan, round)
    );
    CREATE TABLE move_time (
        drawing INTEGER NOT NULL REFERENCES drawing (id) ON DELETE CASCADE,
        move INTEGER NOT NULL, phase TEXT NOT NULL, seconds REAL NOT NULL,
        PRIMARY KEY (drawing, move)
    );
    CREATE TABLE sheet_check (
        id INTEGER PRIMARY KEY, uid TEXT NOT NULL UNIQUE,
        job TEXT NOT NULL, job_name TEXT NOT NULL, figure TEXT NOT NULL, title TEXT NOT NULL,
        plan TEXT NOT NULL, made TEXT NOT NULL, source TEXT NOT NULL, agrees INTEGER NOT NULL,
        strokes INTEGER NOT NULL, off INTEGER NOT NULL, extra INTEGER NOT NULL,
        rms_mm REAL, until INTEGER
    );
    CREATE TABLE deviation (
        sheet_check INTEGER NOT NULL REFERENCES sheet_check (id) ON DELETE CASCADE,
        stroke TEXT NOT NULL, state TEXT NOT NULL, off_mm REAL NOT NULL, move INTEGER NOT NULL
    );
    CREATE TABLE cause (
        sheet_check INTEGER NOT NULL REFERENCES sheet_check (id) ON DELETE CASCADE,
        move INTEGER NOT NULL, what TEXT NOT NULL, was_set REAL NOT NULL, should REAL NOT NULL,
        weight REAL NOT NULL, slip INTEGER NOT NULL, story TEXT NOT NULL
    );
    """,
    # what a sheet tells of the hand that drew it came later
    """
    ALTER TABLE sheet_check ADD COLUMN hands BLOB;
    CREATE INDEX of_drawing ON sheet_check (job, figure, plan);
    """,
    # practice came later
    """
    CREATE TABLE practice (
        id INTEGER PRIMARY KEY,
        learner TEXT NOT NULL, skill TEXT NOT NULL, level INTEGER NOT NULL, seed INTEGER NOT NULL,
        made TEXT NOT NULL, seconds REAL NOT NULL, share REAL NOT NULL, points INTEGER NOT NULL,
        hints INTEGER NOT NULL, was_shown INTEGER NOT NULL
    );
    CREATE INDEX of_learner ON practice (learner, made);
    """,
)
VERSION = len(_MIGRATIONS)
_OURS = 0x484F4C4F
"""What tells a register from other SQLite files: the application's id."""


class Damaged(BadInput):
    """The register cannot be read as one."""


class Newer(BadInput):
    """The register was written by a later version."""


class Locked(BadInput):
    """Somebody else writes; a little later it goes."""


@contextmanager
def opened(path: Path, patience_s: float = PATIENCE_S) -> Iterator[sqlite3.Connection]:
    """Open a register, made and brought to this version where needed; what is done is kept whole
    or not at all.

    Raises Damaged, Newer, Locked, or BadInput where its file cannot be used.
    """
    try:
        with closing(sqlite3.connect(path, timeout=patience_s, isolation_level=None)) as book:
            _prepare(book, path, patience_s)
            book.execute("BEGIN IMMEDIATE")
            try:
                yield book
            except BaseException:
                with contextlib.suppress(sqlite3.Error):
                    book.execute("ROLLBACK")
                raise
            book.execute("COMMIT")
    except (sqlite3.Error, UnicodeDecodeError) as error:
        raise _told(error, path) from error


@contextmanager
def reading(path: Path, patience_s: float = PATIENCE_S) -> Iterator[sqlite3.Connection | None]:
    """Open a register to read; None where there is none yet. Raises as `opened` does.

    One of an earlier version is brought to this one first.
    """
    if not path.is_file():
        yield None
        return
    try:
        with closing(sqlite3.connect(path, timeout=patience_s, isolation_level=None)) as book:
            _prepare(book, path, patience_s)
            # a letter that is spoiled is no reason to lose all entries
            book.text_factory = lambda data: data.decode("utf-8", "replace")
            yield book
    except (sqlite3.Error, UnicodeDecodeError) as error:
        raise _told(error, path) from error


def _prepare(book: sqlite3.Connection, path: Path, patience_s: float) -> None:
    """Bring a register to this version. Raises Newer and Damaged, or what SQLite says."""
    book.execute("PRAGMA foreign_keys = ON")
    version, ours, is_empty = _state(book)
    if version > VERSION:
        raise Newer(tr("{name} is of a newer version of Holoptic ({version}); it is left as it is",
                       name=name_of(path), version=version))  # fmt: skip
    if version == VERSION and ours == _OURS:
        return
    if ours != _OURS and not is_empty:
        raise Damaged(tr("{name} is no register of Holoptic; it is left as it is",
                         name=name_of(path)))  # fmt: skip
    _let_readers_in(book, patience_s)
    book.execute("BEGIN IMMEDIATE")
    # another window may have done it meanwhile
    version = int(book.execute("PRAGMA user_version").fetchone()[0])
    for script in _MIGRATIONS[version:]:
        for statement in filter(str.strip, script.split(";")):
            book.execute(statement)
    book.execute(f"PRAGMA user_version = {VERSION}")
    book.execute(f"PRAGMA application_id = {_OURS}")
    book.execute("COMMIT")
    with contextlib.suppress(OSError):
        path.chmod(_PRIVATE)


def _state(book: sqlite3.Connection) -> tuple[int, int, bool]:
    """Return a file's version, whose it is, and whether nothing is in it yet.

    All three of one moment: asked for one after the other, another window could make the register
    between them, and it would look like a file of others.
    """
    book.execute("BEGIN")
    version = int(book.execute("PRAGMA user_version").fetchone()[0])
    ours = int(book.execute("PRAGMA application_id").fetchone()[0])
    is_empty = book.execute("SELECT count(*) FROM sqlite_master").fetchone()[0] == 0
    book.execute("COMMIT")
    return version, ours, is_empty


def _let_readers_in(book: sqlite3.Connection, patience_s: float) -> None:
    """Let others read while one writes. SQLite waits for nobody here, so that is done by hand."""
    end = time.monotonic() + patience_s
    while True:
        try:
            book.execute("PRAGMA journal_mode = WAL")
            return
        except sqlite3.OperationalError as error:
            if error.sqlite_errorcode != sqlite3.SQLITE_BUSY or time.monotonic() >= end:
                raise
        time.sleep(_PAUSE_S)


def _told(error: sqlite3.Error | UnicodeDecodeError, path: Path) -> BadInput:
    """Return what a user reads of a trouble with the register.

    What SQLite says of a damaged schema quotes it, and may be no text at all.
    """
    words, name = str(error), name_of(path)
    if "locked" in words or "busy" in words:
        return Locked(tr("{name} is being written by another window or program; try again",
                         name=name))  # fmt: skip
    if isinstance(error, sqlite3.OperationalError) and "malformed" not in words:
        return BadInput(tr("{name} cannot be used: {why}", name=name, why=words))
    return Damaged(tr("{name} is damaged; it is left as it is", name=name))


def set_register_aside(path: Path) -> Path:
    """Give a damaged register a name that is free, and return it; nothing of it is lost.

    Raises BadInput where that cannot be done.
    """
    number = 1
    while (aside := path.with_name(f"{path.name}.damaged-{number}")).exists():
        number += 1
    try:
        for suffix in ("", "-wal", "-shm"):
            file = path.with_name(path.name + suffix)
            if file.exists():
                file.rename(aside.with_name(aside.name + suffix))
    except OSError as error:
        raise BadInput(tr("{name} is damaged and cannot be set aside: {why}", name=name_of(path),
                          why=error.strerror or error)) from error  # fmt: skip
    return aside


def take_along(path: Path, to: Path) -> None:
    """Copy a register as it stands into another file. Raises BadInput."""
    try:
        with closing(sqlite3.connect(path, timeout=PATIENCE_S)) as book:
            _prepare(book, path, PATIENCE_S)
            with closing(sqlite3.connect(to)) as copy:
                book.backup(copy)
                copy.execute("PRAGMA journal_mode = DELETE")  # one file, to be carried away
    except sqlite3.Error as error:
        raise _told(error, path) from error
