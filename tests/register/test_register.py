"""The register: each entry whole, one writer at a time, nothing lost whatever its file is."""

import sqlite3
import threading
from contextlib import closing, suppress
from datetime import datetime, timedelta

import pytest

from holoptic.checking.own_hand import STEPS_MM
from holoptic.cli.main import main
from holoptic.errors import BadInput
from holoptic.register import schema
from holoptic.register.book import Register, register_path
from holoptic.register.entries import CauseKept, CheckKept, Drawn, MoveTime, Subject
from holoptic.register.schema import VERSION, Damaged, Locked, Newer, set_register_aside
from holoptic.register.tables import COLUMNS, register_csv

DAY = datetime(2026, 11, 3, 9, 30).astimezone()
BLOCK = Subject("j1", "Skerry Lamp Works: harbour lamp", "f1", "gallery block", "p1")
SHOE = Subject("j1", "Skerry Lamp Works: harbour lamp", "f2", "lantern shoe", "p2")
FLAT = tuple(0.0 for _ in range(len(STEPS_MM) ** 3))


def drawn(subject=BLOCK, done=12, at=DAY, seconds=8.0):
    times = tuple(MoveTime(n, "crate" if n < 6 else "firm in", seconds) for n in range(1, done + 1))
    return Drawn(subject, "1 of 11", "B", "isometric", "crate and carve", "A4", "1:1", at, at, 12,
                 done, times)  # fmt: skip


def checked(uid="u1", subject=BLOCK, at=DAY, agrees=False):
    cause = CauseKept(4, "setting", 25.6, 26.5, 0.9, 1, "move 4: figures changed over?")
    return CheckKept(uid, subject, at, "picture", agrees, 9, 0 if agrees else 2, 1, 0.31, None, (),
                     (cause,), FLAT)  # fmt: skip


@pytest.fixture
def register():
    return Register(patience_s=0.05)


def test_an_empty_register_is_empty_and_makes_no_file(register):
    assert (register.drawings(), register.checks(), register.hands()) == ([], [], [])
    assert not register.path.exists()


def test_what_is_noted_is_there_again(register):
    register.note_drawn(drawn())
    register.note_check(checked())
    assert register.drawings() == [drawn()]
    assert register.checks() == [checked()]
    assert [tuple(one) for one in register.hands()] == [FLAT]
    assert register.path.stat().st_mode & 0o077 == 0
    assert drawn().by_phase == {"crate": 40.0, "firm in": 56.0}


def test_a_drawing_grows_and_one_begun_anew_is_another(register):
    later = DAY + timedelta(hours=2)
    for done in (3, 7, 12):
        register.note_drawn(drawn(done=done, at=later if done == 12 else DAY))
    only = register.drawings()
    assert [(one.done, one.round, one.begun, one.ended) for one in only] == [(12, 1, DAY, later)]
    register.note_drawn(drawn(done=2, at=later + timedelta(days=1)))
    assert sorted((one.round, one.done) for one in register.drawings()) == [(1, 12), (2, 2)]


def test_of_a_sheet_that_is_checked_again_the_last_check_counts(register):
    register.note_check(checked())
    register.note_check(checked(agrees=True))
    register.note_check(checked("u2"))
    assert sorted(check.agrees for check in register.checks()) == [False, True]


def test_what_is_forgotten_is_gone_with_all_that_hangs_on_it(register):
    for subject in (BLOCK, SHOE):
        register.note_drawn(drawn(subject))
        register.note_check(checked(f"of {subject.figure}", subject))
    register.forget(BLOCK)
    assert [one.subject for one in register.drawings()] == [SHOE]
    assert [one.subject for one in register.checks()] == [SHOE]
    register.forget()
    with closing(sqlite3.connect(register.path)) as book:
        for table in ("drawing", "move_time", "sheet_check", "deviation", "cause"):
            assert book.execute(f"SELECT count(*) FROM {table}").fetchone() == (0,)


def test_a_register_of_an_earlier_version_is_brought_to_this_one(register):
    with closing(sqlite3.connect(register.path)) as book:
        book.executescript(schema._MIGRATIONS[0])
        book.execute("PRAGMA user_version = 1")
        book.execute(f"PRAGMA application_id = {schema._OURS}")
        book.execute(
            "INSERT INTO sheet_check VALUES (1, 'old', 'j1', 'lamp', 'f1', 'gallery block', 'p1', "
            "'2026-10-01T08:00:00+00:00', 'picture', 1, 9, 0, 0, 0.3, NULL)"
        )
        book.commit()
    register.note_check(checked())
    assert {check.uid for check in register.checks()} == {"old", "u1"}
    assert len(register.hands()) == 1


def test_a_newer_register_is_left_as_it_is(register, capsys):
    register.note_drawn(drawn())
    with closing(sqlite3.connect(register.path)) as book:
        book.execute(f"PRAGMA user_version = {VERSION + 1}")
    before = register.path.read_bytes()
    for use in (lambda: register.note_drawn(drawn(SHOE)), register.drawings):
        with pytest.raises(Newer):
            use()
    assert main(["register"]) == 2
    told = capsys.readouterr().err.strip()
    assert "newer version" in told
    assert "\n" not in told
    assert register.path.read_bytes() == before


@pytest.mark.parametrize("content", [b"not a database at all, only words" * 9, b"SQLite format 3\0",
                                     b"\0" * 5000])  # fmt: skip
def test_a_damaged_register_is_told_in_a_line_and_nothing_of_it_lost(register, content, capsys):
    register.path.write_bytes(content)
    with pytest.raises(BadInput):
        register.note_drawn(drawn())
    assert register.path.read_bytes() == content
    assert main(["register", "--csv"]) == 2
    assert "\n" not in capsys.readouterr().err.strip()
    asides = [set_register_aside(register.path)]
    register.path.write_bytes(content)
    asides.append(set_register_aside(register.path))
    assert [aside.read_bytes() for aside in asides] == [content, content]
    register.note_drawn(drawn())
    assert register.drawings() == [drawn()]


def test_a_spoiled_entry_is_left_out_and_told_and_the_others_stay(register, capsys):
    register.note_drawn(drawn())
    register.note_drawn(drawn(SHOE))
    register.note_check(checked())
    with closing(sqlite3.connect(register.path)) as book:
        book.execute("UPDATE drawing SET ended = '2026-11-A3' WHERE figure = 'f1'")
        book.execute("UPDATE cause SET was_set = 'much'")
        book.execute("UPDATE drawing SET title = CAST(x'6cb3' AS TEXT) WHERE figure = 'f2'")
        book.commit()
    (left,) = register.drawings()
    assert left.subject.figure == "f2"
    assert left.subject.title == "l\N{REPLACEMENT CHARACTER}"
    assert register.unreadable == 1
    assert register.checks() == []
    assert register.unreadable == 1
    assert main(["register", "--csv"]) == 2
    told = capsys.readouterr()
    assert "2 entries" in told.err
    assert told.err.count("\n") == 1
    assert "bearing" not in told.out
    assert told.out.count("\n") == 2  # its head, and the drawing that is left


def test_a_database_of_others_is_not_written_into(register):
    with closing(sqlite3.connect(register.path)) as book:
        book.execute("CREATE TABLE recipes (name TEXT)")
        book.commit()
    with pytest.raises(Damaged):
        register.note_drawn(drawn())
    with closing(sqlite3.connect(register.path)) as book:
        assert book.execute("SELECT name FROM sqlite_master").fetchall() == [("recipes",)]


def test_while_another_window_writes_an_entry_waits(register):
    register.note_drawn(drawn())
    with closing(sqlite3.connect(register.path, isolation_level=None)) as other:
        other.execute("BEGIN IMMEDIATE")
        with pytest.raises(Locked):
            register.note_drawn(drawn(SHOE))
        assert register.drawings() == [drawn()]  # who reads need not wait
        other.execute("ROLLBACK")
    register.note_drawn(drawn(SHOE))
    assert len(register.drawings()) == 2


def test_several_writers_at_once_lose_nothing():
    subjects = [Subject("j1", "lamp", f"f{k}", "wedge foot", f"p{k}") for k in range(24)]

    def write(own):
        for subject in own:
            Register(patience_s=20.0).note_drawn(drawn(subject))

    threads = [threading.Thread(target=write, args=(subjects[k::4],)) for k in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(Register().drawings()) == len(subjects)


def test_a_register_that_another_window_makes_meanwhile_is_no_file_of_others(register, monkeypatch):
    connect, others = sqlite3.connect, []

    def other_writes(statement):
        if "sqlite_master" in statement and not others:
            others.append(statement)
            with suppress(Locked):  # it may have to wait, but must not confuse who was there first
                Register(register.path, patience_s=0.0).note_drawn(drawn(SHOE))

    def watched(*args, **options):
        book = connect(*args, **options)
        book.set_trace_callback(other_writes)
        return book

    monkeypatch.setattr(sqlite3, "connect", watched)
    register.note_drawn(drawn())
    assert others
    assert drawn() in register.drawings()


def test_an_entry_is_whole_or_not_there(register, monkeypatch):
    register.note_drawn(drawn())
    broken = checked("broken", SHOE)
    object.__setattr__(broken.causes[0], "story", None)  # the table takes no cause without one
    with pytest.raises(BadInput):
        register.note_check(broken)
    assert register.checks() == []


def test_the_command_prints_a_list_and_csv(register, capsys):
    assert main(["register"]) == 0
    assert "nothing" in capsys.readouterr().out
    register.note_drawn(drawn())
    register.note_drawn(drawn(SHOE, done=5, at=DAY - timedelta(days=1)))
    register.note_check(checked())
    assert main(["register"]) == 0
    assert "gallery block, isometric: done in 2 min, 3 off" in capsys.readouterr().out
    assert main(["register", "--csv"]) == 0
    head, first, second = capsys.readouterr().out.splitlines()
    assert head.split(",") == list(COLUMNS)
    assert "gallery block" in first
    assert "no,9,2,1,0.31,move 4: figures changed over?" in first
    assert second.endswith("lantern shoe,1 of 11,B,isometric,crate and carve,A4,1:1,1,12,5,0.7,"
                           ",,,,,,")  # fmt: skip


def test_names_are_no_formulas_in_the_table():
    harmful = Subject("j1", "=cmd()", "f1", "@part", "p1")
    text = register_csv([drawn(harmful)], [checked("u", Subject("j9", "+x", "f1", "-y", ""))])
    assert "'=cmd()" in text
    assert "'@part" in text
    assert "'+x,'-y" in text


def test_a_copy_can_be_taken_along(register, tmp_path):
    register.note_drawn(drawn())
    register.take_along(tmp_path / "copy.sqlite")
    assert Register(tmp_path / "copy.sqlite").drawings() == [drawn()]
    assert register_path() == register.path
