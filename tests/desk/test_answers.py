"""No answer about something that is another by now changes job or screen; failures are told."""

import os
import signal
from contextlib import contextmanager

import pytest
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox

from cast import stepped_block
from frozen import freeze_at
from holoptic.demo import job_path
from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.revisions import Revision, Revisions
from holoptic.errors import BadInput, KernelTrouble
from holoptic.solid.making.step import write_solid

ISO = (1.0, -1.0, 1.0)


@contextmanager
def frozen(session):
    """Let the worker stand still for as long as the hand does something."""
    pid = session.kernel.worker.pid
    os.kill(pid, signal.SIGSTOP)
    yield
    os.kill(pid, signal.SIGCONT)


def test_only_a_difference_makes_a_new_revision():
    revisions = Revisions()
    first = revisions.note("sheet", (1, 2))
    assert revisions.note("sheet", (1, 2)) == first == revisions.of("sheet")
    assert revisions.is_current(first)
    second = revisions.note("sheet", (1, 3))
    assert (revisions.is_current(first), revisions.is_current(second)) == (False, True)
    revisions.forget("sheet")
    assert not revisions.is_current(second)
    assert revisions.of("sheet") is None
    assert not revisions.is_current(revisions.note("other", 1)) or revisions.of("other")
    assert not revisions.is_current(Revision("never noted", 1))
    assert revisions.note("sheet", (1, 3)) != second  # what came back is not what was asked about


def test_an_answer_about_an_older_revision_is_dropped(qtbot):
    revisions = Revisions()
    line = KernelLine(revisions)
    told = []
    line.answered.connect(lambda purpose, _: told.append(("answered", purpose)))
    line.failed.connect(lambda purpose, _: told.append(("failed", purpose)))
    line.outdated.connect(lambda purpose: told.append(("outdated", purpose)))
    about = revisions.note("part", 1)
    line.ask("running", "look", stepped_block(), (ISO,), about=about)
    line.ask("fails", "list_solids", "/nowhere/a.step", about=about)
    line.ask("free", "look", stepped_block(), (ISO,))
    revisions.note("part", 2)
    qtbot.wait_until(lambda: not line.is_busy, timeout=20_000)
    line.close()
    assert sorted(told) == [("answered", "free"), ("outdated", "fails"), ("outdated", "running")]


@pytest.mark.parametrize("task", ["present", "show_views", "sheet", "plan"])
def test_nothing_old_is_shown_after_an_edit(desk, settle, qtbot, monkeypatch, task):
    session = desk.session
    shown = []
    for what, changed in (
        ("picture", session.answers.picture_changed), ("views", session.answers.views_changed),
        ("sheet", session.answers.sheet_changed), ("plan", session.answers.plan_changed),
    ):  # fmt: skip
        changed.connect(lambda what=what: shown.append((what, session.answers.is_current(what))))
    stopped = freeze_at(session, monkeypatch, task)
    if task == "show_views":  # another kind leaves them as they are
        session.document.lay_out_views(views="six", angle="first")
    else:
        session.document.picture_as("cabinet", "front-left")
    qtbot.wait_until(stopped, timeout=20_000)
    session.document.edit_part(stepped_block(), "another part")
    os.kill(session.kernel.worker.pid, signal.SIGCONT)
    settle(desk)
    assert shown
    assert all(current for _, current in shown)
    assert session.answers.facts.volume == pytest.approx(84 * 46 * 37.5 - 26.5 * 17.5 * 46)


def test_another_kind_does_not_ask_for_the_views_again(desk, settle, monkeypatch):
    asked, send = [], desk.session.kernel.worker.send
    monkeypatch.setattr(
        desk.session.kernel.worker, "send", lambda task, *of: asked.append(task) or send(task, *of)
    )
    desk.session.document.picture_as("cabinet", "front-left")
    settle(desk)
    assert "present" in asked
    assert "show_views" not in asked
    assert desk.session.answers.is_current("views")
    desk.session.document.lay_out_views(views="six", angle="first")
    settle(desk)
    assert asked.count("show_views") == 1
    assert len(desk.session.answers.placed) == 6


def test_the_views_follow_a_file_that_was_written_anew(desk, settle, tmp_path):
    path = tmp_path / "casting.step"
    write_solid(BRepPrimAPI_MakeBox(31, 17.5, 12).Shape(), str(path), "casting")
    desk.session.open_file(path)
    settle(desk)
    before = desk.session.answers.placed
    assert before[0].picture.extent == pytest.approx((0, 0, 31, 12))
    write_solid(BRepPrimAPI_MakeBox(44, 17.5, 9).Shape(), str(path), "casting")
    os.utime(path, ns=(1, 1))  # whatever the clock's steps are
    desk.session.document.picture_as("cabinet", "front-left")
    settle(desk)
    assert desk.session.answers.facts.high == pytest.approx((44, 17.5, 9))
    assert desk.session.answers.placed[0].picture.extent == pytest.approx((0, 0, 44, 9))


def test_a_title_that_was_changed_meanwhile_is_on_the_sheet(desk, settle, qtbot, monkeypatch):
    session = desk.session
    stopped = freeze_at(session, monkeypatch, "sheet")
    session.document.picture_as("cabinet", "front-left")
    qtbot.wait_until(stopped, timeout=20_000)
    session.document.write_in_title("drawn_by", "B. Fulmar")
    os.kill(session.kernel.worker.pid, signal.SIGCONT)
    settle(desk)
    assert "B. Fulmar" in [words.text for words in session.answers.laid.pages[0].words]


def test_views_that_were_stopped_are_neither_shown_nor_exported(
    desk, settle, qtbot, tmp_path, monkeypatch
):
    session = desk.session
    stopped = freeze_at(session, monkeypatch, "show_views")
    session.document.lay_out_views("six", "first")
    qtbot.wait_until(stopped, timeout=20_000)
    session.kernel.stop()
    qtbot.wait_until(lambda: not desk.is_busy, timeout=20_000)
    assert session.answers.placed == ()
    assert "the work was stopped" in desk.views.empty_text
    out = tmp_path / "v.svg"
    desk.filing.export("views", out)
    assert "the views were not worked out" in desk.hint.text
    assert not out.exists()
    session.answers.ask()
    settle(desk)
    desk.filing.export("views", out)
    assert out.exists()
    assert "first-angle views" in out.read_text("utf-8")


@pytest.mark.parametrize(("purpose", "page"), [("sheet", "sheet"), ("sheet", "draw"),
                                               ("plan", "draw")])  # fmt: skip
def test_what_fails_is_told_where_it_would_have_been(desk, settle, tmp_path, purpose, page):
    desk.show_page(page)
    desk.session.kernel.failed.emit(purpose, KernelTrouble("the kernel gave up"))
    shown = desk.pages[page].view if page == "sheet" else desk.pages[page].paper
    assert "the kernel gave up" in shown.empty_text
    desk.filing.export(purpose, tmp_path / "out.pdf")
    assert f"the {purpose} was not worked out: the kernel gave up" in desk.hint.text
    assert not (tmp_path / "out.pdf").exists()
    desk.session.answers.ask()
    settle(desk)
    desk.filing.export(purpose, tmp_path / "out.pdf")
    assert (tmp_path / "out.pdf").read_bytes().startswith(b"%PDF")


def test_what_is_compared_and_carded_is_told_in_place_when_it_fails(desk, settle):
    session, lost = desk.session, KernelTrouble("the kernel gave up")
    desk.show_page("picture")
    settle(desk)
    session.proposals.forget()
    session.kernel.failed.emit("appraise isometric", lost)
    assert "the kernel gave up" in desk.pages["picture"].heading.text()
    session.selection.select(0)
    session.kernel.failed.emit("card", lost)
    assert session.cards.card is None
    assert "No construction card: the kernel gave up" in desk.hint.text
    desk.show_page("draw")
    settle(desk)
    session.ways.compared = None
    session.kernel.failed.emit("ways", lost)
    assert "the kernel gave up" in desk.pages["draw"].column.table.line
    session.answers.ask()
    desk.show_page("picture")
    settle(desk)
    assert "gave up" not in desk.pages["picture"].heading.text()


@pytest.mark.parametrize("what", ["picture", "views", "sheet", "underlay", "plan", "solid"])
def test_nothing_is_exported_that_is_not_current(desk, settle, tmp_path, what):
    with frozen(desk.session):
        desk.session.document.edit_part(stepped_block(), "another part")
        out = tmp_path / ("out.step" if what == "solid" else "out.pdf")
        desk.filing.export(what, out)
        assert "Not exported" in desk.hint.text
    settle(desk)
    assert not out.exists()


def test_a_sheet_whose_wish_changed_is_not_exported_before_it_is_laid_out(desk, settle):
    with frozen(desk.session):
        desk.pages["sheet"].column._change("scale", scale=0.5)
        with pytest.raises(BadInput, match="the sheet is still being worked out"):
            desk.session.answers.require("sheet")
    settle(desk)
    desk.session.answers.require("sheet")


def test_two_solids_are_exported_at_once(desk, settle, tmp_path):
    told = []
    desk.session.told.connect(told.append)
    with frozen(desk.session):
        desk.filing.export("solid", tmp_path / "one.step")
        desk.filing.export("solid", tmp_path / "two.step")
    settle(desk)
    assert sorted(path.name for path in tmp_path.glob("*.step")) == ["one.step", "two.step"]
    assert sorted(told) == ["Exported one.step", "Exported two.step"]


def test_a_solid_is_exported_as_it_stood(desk, settle, tmp_path):
    part = desk.session.document.part
    with frozen(desk.session):
        desk.filing.export("solid", tmp_path / "one.step")
        desk.session.document.edit_part(stepped_block(), "another part")
    settle(desk)
    desk.filing.export("solid", tmp_path / "two.step")
    settle(desk)
    desk.session.open_file(tmp_path / "one.step")
    settle(desk)
    first = desk.session.answers.facts.volume
    desk.session.open_file(tmp_path / "two.step")
    settle(desk)
    assert part.name == "gallery block"
    assert first != pytest.approx(desk.session.answers.facts.volume)


def test_a_solid_that_cannot_be_read_while_another_job_is_opened(desk, settle):
    with frozen(desk.session):
        desk.session.open_file(job_path().with_name("round-parts.step"))
        desk.session.open_file(job_path("round-parts"))
    settle(desk)
    assert desk.session.document.job.name == "Skerry Lamp Works: round parts"
    assert "open it again" in desk.hint.text
