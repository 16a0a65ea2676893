"""Read with a sheet on paper, in a real window: the four steps, single lines, and back."""

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QGuiApplication, QImage, QTransform
from PyQt6.QtTest import QTest
from tests.paper.sheets import drawn, written

from holoptic.demo import job_path, views_photo_path
from holoptic.exchange.job_file import read_job

Key, LEFT = Qt.Key, Qt.MouseButton.LeftButton
CONTROL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def page(desk, press):
    press(desk, Key.Key_F2)
    return desk.pages["read"]


@pytest.fixture
def photo(desk, page, settle):
    page.readings.open(views_photo_path())
    settle(desk)
    settle(desk)
    page.setFocus()
    return page


def drag(widget, start, end):
    QTest.mousePress(widget, LEFT, pos=start)
    for share in (0.3, 0.7, 1.0):
        QTest.mouseMove(widget, start + (end - start) * share)
    QTest.mouseRelease(widget, LEFT, pos=end)


def spot(sheet, place):
    return QPointF(sheet.to_screen(place)).toPoint()


def test_a_photo_is_confirmed_step_by_step_and_read(desk, photo, settle, press):
    page = photo
    assert page.boards.currentWidget() is page.paper_sheet
    assert len(page.paper_sheet.corners) == 4
    assert "border was found" in page.paper.border_words.text()
    press(desk, Key.Key_N)
    assert len(page.paper_sheet.boxes) == 3
    assert page.paper_sheet.names == ["front", "top", "right"]
    press(desk, Key.Key_N)
    assert page.boards.currentWidget() is page.sheet
    length = page.paper.sizes[0]
    length.setFocus()
    for sign in "72.5":
        QTest.keyClick(length, sign)
    press(desk, Key.Key_Return)
    settle(desk)
    assert page.readings.given.sizes == (72.5, None, None)
    assert page.paper.step == "levels"
    texts = [page.paper.table.item(row, 2).text() for row in range(page.paper.table.rowCount())]
    assert {"72.5", "38", "41"} <= set(texts)
    press(desk, Key.Key_R)
    settle(desk)
    settle(desk)
    assert page.readings.reading.verdict == "unique"
    assert page.boards.currentWidget() is page.sheet
    press(desk, Key.Key_Return)
    settle(desk)
    assert desk.session.document.job_part.source.name == "wedge-foot-views"


def test_the_page_on_the_scanners_glass_is_opened(empty_desk, press, qtbot, monkeypatch, tmp_path):
    desk, page = empty_desk, empty_desk.pages["read"]
    press(desk, Key.Key_F2)
    form, scanner = page.invitation.scanner, desk.session.views_scanner
    press(desk, Key.Key_S)
    assert "Nothing lies on the stand-in's glass" in form.problem.text()
    assert not scanner.is_busy
    script = tmp_path / "scanner"
    script.write_text(f"#!/bin/sh\necho P 50\necho I {views_photo_path()}\n")
    script.chmod(0o700)
    monkeypatch.setenv("HOLOPTIC_SCANNER", str(script))
    form.refresh()
    assert not form.looks.isVisible()  # a real device takes what lies there
    press(desk, Key.Key_S)
    qtbot.wait_until(lambda: not page.is_empty, timeout=60_000)
    assert page.readings.name == "wedge-foot-views"
    assert desk.session.checks.found is None  # it is no drawn sheet to be checked
    press(desk, Key.Key_S)
    assert not scanner.is_busy  # with a drawing there is nothing to take
    with qtbot.wait_signal(page.readings.told) as told:  # it came while another was opened
        desk.session.views_scanner.arrived.emit(views_photo_path())
    assert "lies here already" in told.args[0]


def test_the_stand_in_prints_the_part_on_the_desk(desk, page, settle, press, qtbot):
    form, scanner = page.invitation.scanner, desk.session.views_scanner
    assert "views of gallery block" in form.title.text()
    form.choose_dpi(150)
    press(desk, Key.Key_S)
    assert scanner.is_busy
    assert "stop (S)" in form.button.text()
    press(desk, Key.Key_S)
    assert not scanner.is_busy
    press(desk, Key.Key_S)
    qtbot.wait_until(lambda: not page.is_empty, timeout=60_000)
    settle(desk)
    assert page.readings.name == "gallery block"
    assert page.paper.paper.currentData() == "A3"
    assert page.readings.length == pytest.approx(84.0, abs=0.3)


def test_wrong_sizes_and_levels_are_told_and_change_nothing(desk, photo, settle, press):
    page = photo
    page.paper.go_to("sizes")
    field = page.paper.sizes[1]
    field.setFocus()
    for sign in "54..":
        QTest.keyClick(field, sign)
    press(desk, Key.Key_Return)
    assert field.trouble
    assert page.readings.given.sizes == (None, None, None)
    field.clear()
    QTest.keyClicks(field, "-3")
    press(desk, Key.Key_Return)
    assert page.readings.given.sizes == (None, None, None)
    page.paper.go_to("levels")
    before = page.paper.table.item(1, 2).text()
    page.paper.table.item(1, 2).setText("twelve")
    assert page.paper.table.item(1, 2).text() == before
    page.paper.table.item(1, 2).setText("12.5")
    settle(desk)
    assert page.readings.picture.levels[0].placed[1] == pytest.approx(12.5)


def test_figures_are_offered_and_taken_by_a_key(desk, photo, settle, press, qtbot):
    page = photo
    figures = page.readings.figures
    qtbot.wait_until(lambda: not figures.offered(page.readings.picture).is_empty, timeout=20_000)
    assert page.readings.given.sizes == (None, None, None)  # offered, not taken
    page.setFocus()
    press(desk, Key.Key_W)  # shown before it can be taken
    assert page.readings.given.sizes == (None, None, None)
    assert page.paper.step == "sizes"
    assert "L 72.5 · D 38 · H 41" in page.paper.written_sizes.text()
    field = page.paper.sizes[1]
    field.setFocus()
    QTest.keyClicks(field, "38.5")  # what somebody types counts more than what a machine reads
    press(desk, Key.Key_Return)
    settle(desk)
    page.paper.go_to("sizes")
    assert "D 38" not in page.paper.written_sizes.text()
    press(desk, Key.Key_W)
    settle(desk)
    assert page.readings.given.sizes == (72.5, 38.5, 41.0)
    assert not page.paper.written_sizes.isVisible()
    page.paper.go_to("levels")
    table = page.paper.table
    rows = [[table.item(row, k).text() for k in (0, 3)] for row in range(table.rowCount())]
    assert ["L", "57.5"] in rows
    assert ["D", "26"] in rows
    QTest.mouseClick(page.paper.written_levels, LEFT)
    settle(desk)
    assert 57.5 in page.readings.picture.levels[0].placed
    page.setFocus()
    press(desk, Key.Key_W)
    assert "No figure" in desk.hint.text
    page.readings.close()
    assert page.readings.figures.offered(None).is_empty
    press(desk, Key.Key_W)
    assert "none lies here" in desk.hint.text


def test_boxes_and_corners_are_dragged(desk, photo, settle):
    page = photo
    sheet = page.paper_sheet
    corner = sheet.corners[2]
    drag(sheet, spot(sheet, corner), spot(sheet, corner) + QPoint(-3, 2))
    assert sheet.corners[2] != corner
    page.take_corners()
    settle(desk)
    assert page.readings.given.corners is not None
    page.paper.go_to("views")
    before = list(sheet.boxes)
    sheet.setFocus()
    QTest.keyClick(sheet, Key.Key_Tab)
    assert sheet.in_hand == 1
    QTest.keyClick(sheet, Key.Key_Delete)
    assert sheet.boxes == [before[0], before[2]]
    low, high = (before[1][0] - 2, before[1][3] + 2), (before[1][2] + 2, before[1][1] - 2)
    drag(sheet, spot(sheet, low), spot(sheet, high))
    assert len(sheet.boxes) == 3
    page.take_boxes()
    settle(desk)
    assert len(page.readings.arrangement.views) == 3
    for _ in range(3):
        sheet.setFocus()
        QTest.keyClick(sheet, Key.Key_Delete)
    page.take_boxes()
    assert "two views" in desk.hint.text


def test_a_line_is_taken_otherwise_by_keys_or_touch(desk, photo, settle, press):
    page = photo
    page.paper.go_to("levels")
    page.setFocus()
    press(desk, Key.Key_Right, modifier=Qt.KeyboardModifier.AltModifier)
    line = page.readings.arrangement.views[0].lines[0]
    for key, status in ((Key.Key_B, "hidden"), (Key.Key_C, "centre"), (Key.Key_F, "visible")):
        press(desk, key)
        assert page.readings.arrangement.views[0].lines[0].status == status
    count = sum(len(view.lines) for view in page.readings.arrangement.views)
    path = line.shape.path()
    middle = ((path[0][0] + path[-1][0]) / 2, (path[0][1] + path[-1][1]) / 2)
    QTest.mouseClick(page.sheet, LEFT, pos=spot(page.sheet, middle))
    assert page.readings.line.number == 0
    press(desk, Key.Key_Delete)
    assert sum(len(view.lines) for view in page.readings.arrangement.views) == count - 1
    settle(desk)


def test_what_is_pasted_or_no_picture(desk, page, settle, press, tmp_path):
    QGuiApplication.clipboard().setImage(QImage(str(views_photo_path())))
    press(desk, Key.Key_V, modifier=CONTROL)
    settle(desk)
    settle(desk)
    assert page.readings.picture is not None
    broken = tmp_path / "broken.png"
    broken.write_bytes(views_photo_path().read_bytes()[:3000])
    page.readings.open(broken)
    settle(desk)
    assert "broken.png" in desk.hint.text
    assert page.readings.picture is not None
    QGuiApplication.clipboard().clear()


def test_pages_of_a_file_are_chosen(desk, page, settle, worker, tmp_path):
    from pypdf import PdfReader, PdfWriter

    part = next(p.source for p in read_job(job_path()).parts if p.source.name == "wedge foot")
    path = written(drawn(worker, part), tmp_path / "views.pdf")
    writer = PdfWriter()
    for _ in range(2):
        writer.add_page(PdfReader(path).pages[0])
    writer.add_blank_page(595, 842)
    writer.write(path)
    page.readings.open(path)
    settle(desk)
    assert page.paper.pages.isVisible()
    assert not page.paper.row.isVisible()
    page.paper.page_number.setValue(2)
    settle(desk)
    assert page.readings.given.page == 2
    page.paper.page_number.setValue(3)
    settle(desk)
    settle(desk)
    assert "views" in desk.hint.text  # an empty page is a picture without any
    page.paper.page_number.setValue(1)
    settle(desk)
    assert page.readings.picture is None
    assert len(page.readings.arrangement.views) == 3


def test_views_are_boxed_by_hand_where_none_are_found(desk, page, settle, press, tmp_path):
    image = QImage(1400, 1000, QImage.Format.Format_Grayscale8)
    image.fill(240)
    image.save(str(tmp_path / "blank.png"))
    page.readings.open(tmp_path / "blank.png")
    settle(desk)
    settle(desk)
    assert "views" in desk.hint.text
    assert "No border" in page.paper.border_words.text()
    assert not page.read_button.isEnabled()
    page.setFocus()
    for _ in range(4):
        press(desk, Key.Key_N)
    for key in (Key.Key_R, Key.Key_M, Key.Key_G, Key.Key_B):
        press(desk, key)
    page.paper.go_to("views")
    sheet = page.paper_sheet
    for low, high in (((20, 20), (90, 70)), ((20, 100), (90, 150))):
        drag(sheet, spot(sheet, low), spot(sheet, high))
    assert len(sheet.boxes) == 2
    page.take_boxes()
    settle(desk)
    assert not page.readings.has_views


def test_a_sheet_that_lies_upside_down_is_turned(desk, page, settle, tmp_path):
    image = QImage(str(views_photo_path()))
    image.transformed(QTransform().rotate(180)).save(str(tmp_path / "over.png"))
    page.readings.open(tmp_path / "over.png")
    settle(desk)
    settle(desk)
    assert page.readings.arrangement.angle == "first"  # as it looks from there
    for _ in range(2):
        QTest.mouseClick(page.paper.turn_button, LEFT)
        settle(desk)
        settle(desk)
    assert {view.name for view in page.readings.arrangement.views} == {"front", "top", "right"}
    assert page.readings.arrangement.angle == "third"
    assert [round(one.placed[-1]) for one in page.readings.picture.levels] == [72, 38, 41]
