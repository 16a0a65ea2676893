"""Figures of different parts and scales on one sheet, by the desk's own keys and fields."""

import json
import math
from dataclasses import replace

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from holoptic.exchange.job_file import read_job
from holoptic.exchange.whereabouts import read_whereabouts
from holoptic.job import OwnEntry
from holoptic.units import Length

Key = Qt.Key
LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def column(desk, press, settle):
    press(desk, Key.Key_F6)
    settle(desk)
    return desk.pages["sheet"].column


def add(desk, settle, part, name):
    """Choose an entry of the menu of figures, as the mouse does."""
    menu = desk.pages["sheet"].column.figures.menu()
    under = next(a.menu() for a in menu.actions() if a.text().replace("&", "") == part)
    next(a for a in under.actions() if a.text().replace("&", "") == name).trigger()
    settle(desk)


def test_two_parts_at_two_scales_stand_on_one_sheet(desk, column, press, settle, tmp_path):
    document = desk.session.document
    add(desk, settle, "wedge foot", "cabinet oblique")
    rows = [row for row in column.figures.rows if row.isVisible()]
    assert [row.text() for row in rows] == [
        "isometric, gallery block",
        "cabinet oblique, wedge foot",
    ]
    QTest.mouseClick(rows[1], LEFT)
    settle(desk)
    assert (document.job_part.source.name, document.figure.kind) == ("wedge foot", "cabinet")
    scales = column.figures.scales
    scales.setCurrentIndex(scales.findText("its own: 1:2"))
    scales.activated.emit(scales.currentIndex())
    settle(desk)
    laid = desk.session.answers.laid
    assert [laid.layout.of(item.figure).scale for item in laid.items] == [1.0, 0.5]
    written = [words.text for words in laid.pages[0].words]
    assert "wedge foot, cabinet oblique, 1:2" in written
    assert "gallery block, wedge foot" in written
    assert desk.session.answers.planned.plan.setup.scale == 0.5
    assert desk.session.answers.planned.plan.setup.blank is None
    desk.filing.save_to(tmp_path / "two.holoptic")
    sheet = json.loads((tmp_path / "two.holoptic").read_text("utf-8"))["sheets"][0]
    assert [(f["subject"], f["scale"]) for f in sheet["figures"]] == [("p1", None), ("p2", 0.5)]
    assert read_job(tmp_path / "two.holoptic") == document.job


def test_a_figure_is_removed_and_moved_by_key_and_button(desk, column, press, settle):
    document = desk.session.document
    count = len(document.job.sheets)
    add(desk, settle, "gallery block", "views")
    press(desk, Key.Key_N)
    settle(desk)
    assert document.figure.title == "views"
    press(desk, Key.Key_N)
    assert document.figure.id == "f1"
    QTest.mouseClick(column.figures.rows[1], LEFT)
    settle(desk)
    assert document.figure.title == "views"
    QTest.mouseClick(column.figures.own, LEFT)
    settle(desk)
    assert len(document.job.sheets) == count + 1
    assert document.title.sheet == f"2 of {count + 1}"
    assert column.figures.sheets.currentText().startswith(f"2 of {count + 1}: gallery block")
    press(desk, Key.Key_X)
    settle(desk)
    assert len(document.job.sheets) == count
    assert document.figure.id == "f1"
    for _ in range(3):
        document.undo()
    settle(desk)
    assert len(document.job.sheet("s1").figures) == 1


def test_a_part_whose_figures_are_gone_is_still_shown(desk, column, press, settle):
    press(desk, Key.Key_X)
    settle(desk)
    document = desk.session.document
    assert document.job_part.id == "p1"
    assert document.job.figures_of("p1") == ()
    assert desk.session.answers.picture is not None
    assert not column.figures.remove.isEnabled()
    document.picture_as("cabinet", "front-left")
    settle(desk)
    assert [figure.kind for figure in document.job.figures_of("p1")] == ["cabinet"]


def test_views_in_hand_are_not_turned_into_a_picture(desk, column, press, settle):
    document = desk.session.document
    add(desk, settle, "gallery block", "views")
    QTest.mouseClick(column.figures.rows[1], LEFT)
    settle(desk)
    press(desk, Key.Key_F7)
    settle(desk)
    assert desk.session.answers.planned.plan.is_of_views
    press(desk, Key.Key_F4)
    settle(desk)
    assert document.figure.id == "f1"
    press(desk, Key.Key_2)
    settle(desk)
    assert [figure.title for figure in document.sheet.figures][1] == "views"


def test_the_title_block_of_one_sheet_says_what_the_others_do_not(desk, column, settle):
    fields = column.title_fields

    def type_in(entry, words):
        fields[entry].setFocus()
        fields[entry].selectAll()
        QTest.keyClicks(fields[entry], words)
        QTest.keyClick(fields[entry], Key.Key_Return)
        settle(desk)

    type_in("revision", "C")
    notes = column.block.notes
    for words in ("bed in putty", "fettle all cast edges"):
        notes.add.click()
        QTest.keyClicks(QApplication.focusWidget(), words)
        QTest.keyClick(QApplication.focusWidget(), Key.Key_Return)
        settle(desk)
    written = [words.text for words in desk.session.answers.laid.pages[0].words]
    assert {"1.  bed in putty", "2.  fettle all cast edges"} <= set(written)
    notes.fields[1][0].setFocus()
    notes.fields[1][0].clear()
    QTest.keyClick(notes.fields[1][0], Key.Key_Return)
    type_in("checked_by", "G. Petrel")
    document = desk.session.document
    document.choose_part(1)
    settle(desk)
    title = document.title
    assert (title.revision, title.notes, title.checked_by) == ("", "", "G. Petrel")
    document.choose_figure("f10")
    settle(desk)
    type_in("part", "door, whole")
    assert document.title.part == "door, whole"
    assert document.job.find("latch plate").id == "p4"  # its name stays


def test_the_place_in_a_plan_survives_another_name_and_another_file(desk, press, settle, tmp_path):
    press(desk, Key.Key_F7)
    desk.pages["draw"].go_to(7)
    desk.pages["draw"].walk.flush()
    desk.session.document.rename_part("gallery block, new")
    desk.filing.save_to(tmp_path / "a.holoptic")
    (tmp_path / "b").mkdir()
    (tmp_path / "a.holoptic").rename(tmp_path / "b" / "c.holoptic")
    desk.session.document.clear()
    settle(desk)
    desk.filing.open(tmp_path / "b" / "c.holoptic")
    settle(desk)
    press(desk, Key.Key_F7)
    assert desk.pages["draw"].at == 7
    plan, job = desk.session.answers.planned.plan, desk.session.document.job
    assert read_whereabouts("another job", "f1", plan).at == 0
    assert read_whereabouts(job.id, "f2", plan).at == 0


def test_dimensions_come_with_a_key_and_say_whether_they_suffice(desk, press, settle):
    press(desk, Key.Key_F6)
    settle(desk)
    column, answers = desk.pages["sheet"].column, desk.session.answers
    assert column.sizes.told.isHidden()
    plain = answers.laid.layout
    press(desk, Key.Key_D)
    settle(desk)
    assert desk.session.document.sheet.wish.dimensions == "auto"
    assert column.sizes.told.text() == (
        "Complete: nothing missing, nothing said twice.\n14 dimensions"
    )
    assert answers.laid.layout != plain  # they need room, and the plan knows it
    assert answers.planned.layout == answers.laid.layout
    words = [each.text for each in answers.laid.pages[0].words if each.layer == "dimension"]
    assert {"84", "46", "37.5"} <= set(words)
    QTest.mouseClick(column.sizes.text_row._buttons["upright"], LEFT)
    settle(desk)
    upright = [each for each in answers.laid.pages[0].words if each.layer == "dimension"]
    assert {each.along_deg for each in upright} == {0.0}
    # the part changes, and so do its figures: nothing of them was typed
    document = desk.session.document
    part = document.job_part.source
    longer = replace(part, crate=replace(part.crate, length=Length.read("91.5")))
    document.edit(document.job.with_source(document.job_part.id, longer), "longer")
    settle(desk)
    assert "91.5" in {each.text for each in answers.laid.pages[0].words}
    press(desk, Key.Key_Z, modifier=Qt.KeyboardModifier.ControlModifier)
    press(desk, Key.Key_D)
    settle(desk)
    assert desk.session.document.sheet.wish.dimensions == "none"


def test_a_template_is_kept_and_laid_over_another_sheet(desk, press, settle, tmp_path):
    press(desk, Key.Key_F6)
    press(desk, Key.Key_D, Key.Key_S)
    settle(desk)
    column, document = desk.pages["sheet"].column, desk.session.document
    column.keep_template(tmp_path / "works.sheet.json")
    document.choose_figure("f2")
    settle(desk)
    assert document.sheet.wish.dimensions == "none"
    column.take_template(tmp_path / "works.sheet.json")
    settle(desk)
    wish = document.sheet.wish
    assert (wish.dimensions, wish.shade) == ("auto", "left")
    assert {ink.layer for ink in desk.session.answers.laid.pages[0].inks} >= {
        "dimension", "shading",
    }  # fmt: skip
    told = []
    desk.session.told.connect(told.append)
    (tmp_path / "other.json").write_text("[]", "utf-8")
    column.take_template(tmp_path / "other.json")
    assert told == ["other.json is no sheet template"]
    assert document.sheet.wish == wish


@pytest.fixture
def sizes(desk, press, settle):
    """The dimensions of the sheet: where to ask for one, and where its words are in the window."""
    press(desk, Key.Key_F6, Key.Key_D)
    settle(desk)
    view, form = desk.pages["sheet"].view, desk.pages["sheet"].column.sizes.form

    class Sizes:
        def of(self, key):
            return next(one for one in form.shown if one.key == key)

        def saying(self, text):
            return next(one for one in form.shown if one.text == text)

        def middle(self, size):
            left, low, right, high = size.box
            return (left + right) / 2, (low + high) / 2

        def pixel(self, size):
            return view.to_screen(self.middle(size)).toPoint()

    return Sizes()


def test_a_dimension_is_taken_in_hand_lettered_and_put_back(desk, sizes, press, settle):
    page, document = desk.pages["sheet"], desk.session.document
    form = page.column.sizes.form
    overall = sizes.saying("84")
    QTest.mouseClick(page.view, LEFT, pos=sizes.pixel(overall))
    assert (form.chosen, form.isVisible()) == (overall.key, True)
    form.fields["tolerance"].setFocus()
    QTest.keyClicks(form.fields["tolerance"], "±0.2")
    QTest.keyClick(form.fields["tolerance"], Key.Key_Return)
    settle(desk)
    assert sizes.of(overall.key).text == "84 ±0.2"
    # in brackets it makes nothing complete
    QTest.mouseClick(form.reference, LEFT)
    settle(desk)
    assert sizes.of(overall.key).text == "(84 ±0.2)"
    assert "missing L 84" in page.column.sizes.told.text()
    form.reset.click()
    settle(desk)
    assert document.sheet.sizes == ()
    # the next good place is another one, and nothing overlaps there
    page.setFocus()
    press(desk, Key.Key_Period)
    settle(desk)
    assert sizes.of(overall.key).box != overall.box
    press(desk, Key.Key_Escape)
    assert form.isHidden()
    press(desk, Key.Key_E)
    assert form.chosen == form.shown[0].key


def test_a_dragged_dimension_snaps_on_the_way_to_good_places(desk, sizes, press, settle):
    page, session = desk.pages["sheet"], desk.session
    view, document = page.view, session.document
    small = sizes.saying("46")
    start, goal = sizes.pixel(small), sizes.pixel(small) + QPoint(0, 90)
    QTest.mousePress(view, LEFT, pos=start)
    QTest.mouseMove(view, start + QPoint(4, 30))
    settle(desk)
    QTest.mouseMove(view, goal)
    places = session.holds.places
    snapped = min(places, key=lambda place: math.dist(place.at, view.to_paper(QPointF(goal)))).at
    before = session.answers.laid.layout.placed[0].origin
    QTest.mouseRelease(view, LEFT, pos=goal)
    settle(desk)
    assert page.column.sizes.form.chosen == small.key
    after = session.answers.laid.layout.placed[0].origin  # room is kept for where it is now
    x, y = sizes.middle(sizes.of(small.key))
    near = snapped[0] - before[0], snapped[1] - before[1]
    assert (x - after[0], y - after[1]) == pytest.approx(near, abs=0.02)
    assert document.sheet.size(small.key).near == pytest.approx(near, abs=0.01)
    assert session.answers.laid.sizes.overlapping == 0
    press(desk, Key.Key_Z, modifier=Qt.KeyboardModifier.ControlModifier)
    settle(desk)
    assert document.sheet.size(small.key).near is None


def test_what_was_asked_of_a_dimension_that_is_gone_is_told(desk, press, settle):
    press(desk, Key.Key_F6, Key.Key_D)
    settle(desk)
    form, document = desk.pages["sheet"].column.sizes.form, desk.session.document
    slot = next(one for one in form.shown if "key_slot" in one.key)
    form.choose(slot.key)
    form.pass_over()
    settle(desk)
    part = document.job_part.source
    document.edit(document.job.with_source(
        document.job_part.id, replace(part, operations=part.operations[:-1])), "less")  # fmt: skip
    settle(desk)
    told = desk.pages["sheet"].column.sizes.told.text()
    assert f"not there any more: {slot.key}" in told
    assert document.sheet.sizes  # undo brings the feature back, and with it its place


def test_own_fields_and_revisions_are_typed_over_the_title_block(desk, press, settle):
    press(desk, Qt.Key.Key_F6)
    settle(desk)
    document, block = desk.session.document, desk.pages["sheet"].column.block
    block.own.add.click()
    for words, key in (("order", Key.Key_Tab), ("L-0417", Key.Key_Return)):
        QTest.keyClicks(QApplication.focusWidget(), words)
        QTest.keyClick(QApplication.focusWidget(), key)
    assert document.job.title.own == (OwnEntry("order", "L-0417"),)
    settle(desk)
    assert "L-0417" in [words.text for words in desk.session.answers.laid.pages[0].words]
    for _ in range(2):
        block.revisions.add.click()
    assert [one.letter for one in document.sheet.revisions] == ["A", "B"]
    assert document.title.revision == "B"
    letter = block.revisions.fields[0][0]
    letter.setFocus()
    letter.selectAll()
    QTest.keyClick(letter, Qt.Key.Key_Delete)
    QTest.keyClick(letter, Qt.Key.Key_Return)
    assert [one.letter for one in document.sheet.revisions] == ["B"]
    document.undo()
    assert [one.letter for one in document.sheet.revisions] == ["A", "B"]


def test_a_drawing_is_dragged_and_stands_in_its_row_again(desk, column, press, settle):
    document, view = desk.session.document, desk.pages["sheet"].view
    document.edit_wish(replace(document.sheet.wish, paper="A2", scale=1.0), "larger")
    settle(desk)
    add(desk, settle, "gallery block", "views")
    before = desk.session.answers.laid.layout.of("f1").extent
    middle = (before[0] + before[2]) / 2, (before[1] + before[3]) / 2
    start = view.to_screen(middle).toPoint()
    QTest.mousePress(view, LEFT, pos=start)
    for step in range(1, 6):
        QTest.mouseMove(view, start + QPoint(-6 * step, -4 * step))
    assert view._drawing.is_moved
    view.grab()
    QTest.mouseRelease(view, LEFT, pos=start + QPoint(-30, -20))
    settle(desk)
    after = desk.session.answers.laid.layout.of("f1").extent
    assert after[0] < before[0] - 5
    assert after[1] > before[1] + 3
    assert document.job.figure("f1").at == pytest.approx(after[:2])
    QTest.mousePress(view, LEFT, pos=view.to_screen((after[0] + 9, after[1] + 9)).toPoint())
    far = view.to_screen((-60.0, 20.0)).toPoint()
    QTest.mouseMove(view, far)
    QTest.mouseRelease(view, LEFT, pos=far)
    settle(desk)
    assert "where it was put" in desk.session.answers.laid.misfit.trouble
    press(desk, Key.Key_1)
    settle(desk)
    assert document.job.figure("f1").at is None
    assert desk.session.answers.laid.layout.of("f1").extent == before


def test_a_detail_is_circled_with_the_mouse_scaled_and_taken_away(desk, column, press, settle):
    document, view = desk.session.document, desk.pages["sheet"].view
    document.edit_wish(replace(document.sheet.wish, paper="A2", scale=1.0), "larger")
    settle(desk)
    left, low, right, high = desk.session.answers.laid.layout.of("f1").extent
    middle = view.to_screen(((left + right) / 2, (low + high) / 2)).toPoint()
    press(desk, Key.Key_O)
    assert column.details.begin.isChecked()
    QTest.mousePress(view, LEFT, pos=middle)
    QTest.mouseMove(view, middle + QPoint(12, 0))
    QTest.mouseMove(view, middle + QPoint(25, 5))
    view.grab()
    QTest.mouseRelease(view, LEFT, pos=middle + QPoint(25, 5))
    settle(desk)
    (detail,) = document.job.figure("f1").details
    assert (detail.letter, detail.scale) == ("A", 2.0)
    assert detail.radius > 5
    assert not view.is_circling
    placed = desk.session.answers.laid.layout.of("f1 A")
    QTest.mouseClick(view, LEFT, pos=view.to_screen(placed.extent[:2]).toPoint() + QPoint(9, -9))
    assert document.figure.id == "f1"
    row = column.details.rows[0]
    row.scale.setCurrentIndex(row.scale.findText("5:1"))
    row.scale.activated.emit(row.scale.currentIndex())
    settle(desk)
    assert document.job.figure("f1").details[0].scale == 5.0
    QTest.mouseClick(row.remove, LEFT)
    settle(desk)
    assert document.job.figure("f1").details == ()
    assert not row.remove.isVisible()


def test_one_types_on_from_field_to_field_while_the_sheet_is_worked_out(
    desk, column, press, settle
):
    press(desk, Key.Key_D)
    settle(desk)
    press(desk, Key.Key_E)
    form, document = column.sizes.form, desk.session.document
    key = form.chosen
    form.fields["prefix"].setFocus()
    QTest.keyClicks(QApplication.focusWidget(), "typ ")
    QTest.keyClick(QApplication.focusWidget(), Key.Key_Tab)
    assert desk.session.answers.laid is None or desk.is_busy
    assert QApplication.focusWidget() is form.fields["suffix"]
    for words, next_key in (("2x", Key.Key_Tab), ("±0.1", Key.Key_Return)):
        QTest.keyClicks(QApplication.focusWidget(), words)
        QTest.keyClick(QApplication.focusWidget(), next_key)
    settle(desk)
    wish = document.sheet.size(key)
    assert (wish.prefix, wish.suffix, wish.tolerance) == ("typ ", "2x", "±0.1")
    assert form.isVisible()
    column.sizes.sizes.step()
    settle(desk)
    assert document.sheet.wish.dimensions == "none"
    assert not form.isVisible()


def test_the_wheel_changes_no_choice_that_passes_under_it(desk, column, settle):
    before = desk.session.document.sheet
    for field in (column.scales, column.papers, *column.rooms.values()):
        place = QPointF(field.rect().center())
        turn = QWheelEvent(
            place, QPointF(field.mapToGlobal(field.rect().center())), QPoint(), QPoint(0, -240),
            Qt.MouseButton.NoButton, Qt.KeyboardModifier.NoModifier,
            Qt.ScrollPhase.NoScrollPhase, False,
        )  # fmt: skip
        QApplication.sendEvent(field, turn)
    settle(desk)
    assert desk.session.document.sheet == before
