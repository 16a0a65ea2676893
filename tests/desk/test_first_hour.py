"""What a new user meets in the first hour: half-typed words, stale fields, mishaps, questions."""

import os
import sys

import pytest
from PyQt6.QtCore import QPoint, Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QComboBox, QFileDialog

from cast import stepped_block
from holoptic.demo import job_path
from holoptic.desk.application.mishaps import Mishaps
from holoptic.desk.widgets.caret_slip import slip_in
from holoptic.diagnostics import LOG_NAME, start_log
from holoptic.exchange.safekeeping import Autosave, left_behind
from holoptic.job import job_of
from holoptic.places import state_folder
from holoptic.units import Unit

Key = Qt.Key
ALT = Qt.KeyboardModifier.AltModifier
CTRL = Qt.KeyboardModifier.ControlModifier
LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def carve(desk):
    return desk.pages["carve"]


def press(window, *keys, modifier=Qt.KeyboardModifier.NoModifier):
    for key in keys:
        QTest.keyClick(QApplication.focusWidget() or window, key, modifier)


# --- mishaps ------------------------------------------------------------------------------------


@pytest.fixture
def mishaps(desk, monkeypatch):
    """The desk's own hook in the place of the one that fails tests."""
    start_log()
    taken = Mishaps()
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    taken.install()
    taken.serve(desk.session.document.keep_safe, desk.hint.tell)
    return taken


def fail(*_):
    raise ZeroDivisionError("made to fail")


@pytest.mark.parametrize("where", ["a slot", "a paint event", "an answer of the worker"])
def test_no_exception_ends_the_program(desk, carve, settle, mishaps, monkeypatch, qtbot, where):
    desk.session.document.rename_job("precious")
    if where == "a slot":
        QTimer.singleShot(0, fail)
    elif where == "a paint event":
        monkeypatch.setattr(type(carve.editor.board), "paint_over", fail)
        carve.editor.board.repaint()
    else:
        monkeypatch.setattr(desk.session.proposals, "take_figure", fail)
        desk.session.document.choose_part(1)
    qtbot.wait_until(lambda: "went wrong" in desk.hint.text)
    settle(desk)
    assert "made to fail" in (state_folder() / LOG_NAME).read_text("utf-8")
    monkeypatch.setattr("holoptic.exchange.safekeeping.is_held", lambda _: False)
    assert left_behind()[0].job.name == "precious"  # it is on disk already
    desk.hint.quiet()
    if where == "a paint event":  # each repaint fails again: that is told once
        carve.editor.board.repaint()
        QTest.qWait(20)
        assert desk.hint.isHidden()


# --- messages -----------------------------------------------------------------------------------


def test_what_a_half_typed_sum_gets_is_gone_when_the_sum_is_complete(desk, carve, settle):
    field = carve.sizes[0]
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "30+")
    slip = slip_in(desk)
    assert slip.isVisible()
    assert slip.mapTo(desk, QPoint(0, 0)).y() >= field.mapTo(desk, QPoint(0, field.height())).y()
    QTest.keyClicks(field, "26")
    assert slip.isHidden()
    assert desk.hint.isHidden()
    QTest.keyClicks(field, "+")
    carve.sizes[1].setFocus()  # left half typed: the field tells the truth again
    assert slip.isHidden()
    assert field.text() == "30+26"


def test_a_bar_pushes_nothing_under_the_pointer(desk, carve, settle):
    places = [w.mapTo(desk, QPoint(0, 0)) for w in (carve.sizes[0], carve.pane, desk.views)]
    desk.hint.tell("A message that is long enough to need more than a single line. " * 4)
    desk.trouble.say("Something is wrong.")
    QTest.qWait(20)
    assert [w.mapTo(desk, QPoint(0, 0)) for w in (carve.sizes[0], carve.pane, desk.views)] == places
    bars = desk.hint.parentWidget()
    column = carve.sizes[0].mapTo(desk, QPoint(0, 0)).x()
    assert bars.mapTo(desk, QPoint(bars.width(), 0)).x() <= column
    assert desk.hint.height() >= desk.hint.heightForWidth(desk.hint.width())


def test_the_question_about_edits_takes_keys_and_goes_with_the_next_edit(desk, carve):
    desk.show_page("picture")
    desk.session.document.picture_as("cabinet", "front-left")
    press(desk, Key.Key_N, modifier=CTRL | Qt.KeyboardModifier.ShiftModifier)
    assert desk.question.isVisible()
    press(desk, Key.Key_Escape)
    assert desk.question.isHidden()
    desk.filing.new_job()
    answers = desk.question.buttons
    desk.session.document.rename_job("newer work")
    assert desk.question.isHidden()
    answers["Go on without"].click()  # under the finger already when the edit came
    assert desk.session.document.job.name == "newer work"
    desk.question.quiet()
    desk.filing.new_job()
    press(desk, Key.Key_2)  # and not the second proposal of the page
    assert desk.session.document.job.parts == ()


def test_recovered_work_does_not_replace_newer_work_unasked(empty_desk):
    autosave = Autosave()
    autosave.keep(job_of("left behind", [stepped_block()]), None)
    os.close(autosave._lock)  # as when its process is killed
    empty_desk.filing.offer_recovery()
    offered = empty_desk.question.buttons["Bring it back"]
    empty_desk.session.document.begin_part("Bracket")
    offered.click()
    assert "not saved" in empty_desk.question.text
    assert empty_desk.session.document.job.parts[0].source.names
    empty_desk.question.buttons["Go on without"].click()
    assert empty_desk.session.document.job.name == "left behind"


def test_a_solid_that_is_read_late_does_not_replace_newer_work(desk, settle):
    desk.session.open_file(job_path().with_name("round-parts.step"))
    desk.session.document.rename_part("newer")
    settle(desk)
    assert desk.session.document.job_part.source.name == "newer"
    assert "open it again" in desk.hint.text
    desk.session.open_file(job_path().with_name("round-parts.step"))
    settle(desk)
    assert desk.session.document.job.name == "round-parts"


def test_the_footer_speaks_of_edges_only_where_there_are_some(desk):
    for page, speaks in (("picture", True), ("sheet", False), ("draw", False), ("read", False)):
        desk.show_page(page)
        assert ("Touch an edge" in desk.measures.text()) == speaks


# --- the editor ---------------------------------------------------------------------------------


def test_the_editor_never_shows_an_operation_that_is_not_there(desk, carve, settle):
    desk.session.document.choose_operation(3)
    carve.editor.name.setFocus()
    press(desk, Key.Key_Delete, modifier=ALT)
    assert carve.editor.name.text() == desk.session.document.part.operations[2].name
    carve.editor.corners.setFocus()
    desk.session.document.history.mark_saved()
    desk.session.document.clear()
    desk.session.document.begin_part()
    assert carve.editor.name.isHidden() or not carve.editor.name.isVisible()
    assert not carve.editor.corners.isVisible()
    assert not carve.editor.end_field.isVisible()
    desk.session.document.add_part(desk.session.document.part)
    carve.add_prism("cut")
    assert carve.editor.name.text() == "cut 1"


@pytest.mark.parametrize("leave", ["another operation", "another page"])
def test_a_list_left_open_says_nothing_to_another_operation(desk, carve, settle, leave):
    carve.add_shape("corner")
    settle(desk)
    box = next(f for f in carve.editor.sizes.fields.values() if isinstance(f, QComboBox))
    box.showPopup()
    view = box.view()
    if leave == "another page":
        desk.show_page("sheet")
    desk.session.document.choose_operation(0)
    assert not view.isVisible()
    before = desk.session.document.part
    carve.editor.sizes.changed.emit("top", False)  # as a list that is late would
    assert desk.session.document.part == before


def test_a_typed_depth_wins_over_through(desk, carve, settle):
    carve.add_hole()
    field = carve.editor.end_field
    assert carve.editor.through.isChecked()
    field.setFocus()
    QTest.keyClicks(field, "7.5")
    assert desk.session.document.part.operations[-1].end.mm == 7.5
    assert not carve.editor.through.isChecked()
    press(desk, Key.Key_A, Key.Key_Delete, modifier=CTRL)
    press(desk, Key.Key_Backspace)
    assert desk.session.document.part.operations[-1].end is None
    assert carve.editor.through.isChecked()


def test_a_new_operation_goes_in_last_and_says_so(desk, carve):
    desk.session.document.choose_operation(0)
    carve.add_hole()
    assert desk.session.document.operation_index == 4
    assert "goes in last, after “key slot”" in desk.hint.text
    desk.hint.quiet()
    carve.add_hole()  # after the last one nothing needs to be said
    assert desk.hint.isHidden()


def test_a_reading_that_is_no_length_says_so_and_the_next_fills_the_same_field(desk, carve, qtbot):
    press(desk, Key.Key_G, modifier=ALT)
    field = carve.sizes[0]
    field.setFocus()
    press(desk, Key.Key_R, modifier=ALT)
    qtbot.wait_until(lambda: "no length" in desk.hint.text)
    QTest.mouseClick(desk.hint.buttons["Close"], LEFT)
    assert QApplication.focusWidget() is field
    press(desk, Key.Key_R, modifier=ALT)
    qtbot.wait_until(lambda: field.text() == "92.04")
    press(desk, Key.Key_G, modifier=ALT)


@pytest.mark.parametrize("leave", ["Return", "a click elsewhere", "another page"])
def test_a_name_is_typed_in_place_and_left_in_any_way(desk, settle, leave):
    desk.part_menu.rename_part()
    desk.part_menu.rename_part()  # asked for twice: once is enough
    QTest.keyClicks(desk.part_menu.line, "lamp block")
    if leave == "Return":
        QTest.keyClick(desk.part_menu.line, Key.Key_Return)
    elif leave == "another page":
        desk.show_page("picture")
    else:
        QTest.mouseClick(desk.pages["carve"].sizes[0], LEFT)
        desk.pages["carve"].sizes[0].setFocus()
    QTest.qWait(20)
    assert not desk.part_menu.line.isVisible()
    assert desk.session.document.job_part.source.name == "lamp block"


# --- the sheet and files ------------------------------------------------------------------------


def test_the_title_block_is_edited_on_the_sheet_page(desk, settle):
    desk.show_page("sheet")
    fields = desk.pages["sheet"].column.title_fields
    for name, words in (("number", "SLW-200"), ("date", "2026-11-27"), ("drawn_by", "A. Skua")):
        fields[name].setFocus()
        fields[name].selectAll()
        QTest.keyClicks(fields[name], words)
        QTest.keyClick(fields[name], Key.Key_Return)
    fields["work"].setFocus()
    fields["work"].clear()
    fields["part"].setFocus()
    assert (
        fields["work"].text() == desk.session.document.job.name
    )  # a work is always called something
    settle(desk)
    title = desk.session.document.title
    assert (title.number, title.date, title.drawn_by) == ("SLW-200", "2026-11-27", "A. Skua")
    written = [words.text for words in desk.session.answers.laid.pages[0].words]
    assert {"SLW-200", "2026-11-27", "A. Skua"} <= set(written)
    desk.session.document.undo()
    assert desk.session.document.title.drawn_by == ""


def test_a_job_takes_its_name_from_its_file_until_it_has_one(empty_desk, tmp_path):
    empty_desk.session.document.begin_part()
    empty_desk.filing.save_to(tmp_path / "tide bell.holoptic")
    assert empty_desk.session.document.job.name == "tide bell"
    assert empty_desk.session.document.history.is_saved
    empty_desk.session.document.rename_job("lantern")
    empty_desk.filing.save_to(tmp_path / "other.holoptic")
    assert empty_desk.session.document.job.name == "lantern"


def test_dialogs_start_where_the_last_file_was(desk, tmp_path, monkeypatch):
    begun = []

    def ask(_parent, _title, start="", *_):
        begun.append(start)
        return str(tmp_path / "lamp.holoptic"), ""

    monkeypatch.setattr(QFileDialog, "getSaveFileName", ask)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", ask)
    desk.filing.save_as()
    assert begun[-1].endswith("Skerry Lamp Works harbour lamp.holoptic")
    desk.filing.choose_file()
    assert begun[-1] == str(tmp_path)
    desk.filing._ask_export("plan")
    assert begun[-1] == str(tmp_path / "gallery block plan.pdf")


def test_an_inch_job_speaks_in_inches(desk, settle):
    desk.session.document.use_unit(Unit.INCH_FRACTION)
    desk.show_page("draw")
    settle(desk)
    plan, page = desk.session.answers.planned.plan, desk.pages["draw"]
    for number, move in enumerate(plan.moves):
        page.go_to(number)
        sentence = page.card.accessibleDescription()
        assert sentence == move.said(Unit.INCH_FRACTION)
        assert "⟦" not in sentence
    figures = dict(desk._furniture.facts._facts)
    assert "in" in figures["back corner closes to"].split()
    desk.show_page("carve")
    assert "in³" in dict(desk._furniture.facts._facts)["volume"]
    field = desk.pages["carve"].editor.end_field
    desk.session.document.choose_operation(2)
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "3")
    settle(desk)
    assert "goes 3 in deep" in desk.session.answers.troubles[2]
