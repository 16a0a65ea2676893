"""Check: from the picture of a drawn sheet to the moves that are drawn again, by real keys."""

import cv2
import numpy as np
import pytest
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QGuiApplication, QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from holoptic.checking.sitting import Sitting
from holoptic.demo import job_path, scan_path
from holoptic.job import sheet_order, title_block
from holoptic.plan.words import stroke_names
from holoptic.sheet.frames import frame_of

Key = Qt.Key
LEFT = Qt.MouseButton.LeftButton
ALT = Qt.KeyboardModifier.AltModifier
NONE = Qt.KeyboardModifier.NoModifier
STILL = (54, 41)
"""The moves that slipped on the demo's scan."""


@pytest.fixture
def page(desk, settle, press):
    press(desk, Key.Key_F9)
    settle(desk)
    return desk.pages["check"]


def rows(widget):
    return [widget.item(k).text() for k in range(widget.count())]


@pytest.fixture
def sheet_of(demo_job, worker, tmp_path):
    """Draw the sheet of a figure and take its picture."""

    def make(figure="f2", change=lambda picture: picture, **how):
        sheet = demo_job.sheet_of(demo_job.figure(figure))
        taken = worker.ask("take_sheet", sheet_order(demo_job, sheet), figure,
                           title_block(demo_job, sheet), Sitting(dpi=100, seed=3, **how),
                           ())  # fmt: skip
        picture = cv2.imdecode(np.frombuffer(taken.png, np.uint8), cv2.IMREAD_GRAYSCALE)
        path = tmp_path / "sheet.png"
        cv2.imwrite(str(path), change(picture))
        return path

    return make


def test_from_the_scan_to_the_moves_that_are_drawn_again(desk, page, settle, press, qtbot):
    assert page.invitation.demo_card.isVisible()
    press(desk, Key.Key_1)
    settle(desk)
    stories = rows(page.column.causes)
    assert len(stories) == 2
    assert any("Move 54" in story and "figures changed over" in story for story in stories)
    assert any("Move 41" in story and "22.5" in story for story in stories)
    off = rows(page.column.off)
    assert any("shifted" in row for row in off)
    assert any("too long" in row for row in off)
    # the list, the marks and the magnifier go together
    press(desk, Key.Key_Down, Key.Key_Down, Key.Key_M)
    assert page.column.off.currentRow() == 1
    assert page.sheet.lit is page.deviations[1]
    assert page.sheet.magnifies
    image = page.sheet.grab().toImage()
    press(desk, Key.Key_Space)
    assert page.sheet.shows_plan
    assert page.sheet.grab().toImage() != image
    press(desk, Key.Key_Space)
    # the register has kept it
    (kept,) = desk.session.logbook.register.checks()
    assert (kept.agrees, kept.source, kept.off) == (False, "picture", len(off))
    assert {cause.move for cause in kept.causes} == set(STILL)
    # Draw steps through what is to be done again, and nothing else
    again = desk.session.checks.report.redraw.moves
    press(desk, Key.Key_R)
    settle(desk)
    assert desk.page == "draw"
    walk = desk.session.walk
    done = []
    while walk.move is not None and len(done) < 200:
        if walk.move.verb != "check":
            done.append(walk.move.n)
        press(desk, Key.Key_Space)
    assert done == sorted(done)
    assert set(STILL) <= set(done) <= set(again)
    firm = {move.n for move in walk.known_plan.moves if move.verb == "firm in"}
    assert firm & set(again) == firm & set(done)


def test_a_sheet_is_put_away_and_a_plan_that_changed_is_told(desk, page, settle, press, sheet_of):
    desk.session.document.choose_figure("f2")
    settle(desk)
    page.check(sheet_of())
    settle(desk)
    assert "agrees" in page.column.state.text()
    assert rows(page.column.off) == []
    assert page.redraw_button.isHidden()
    document = desk.session.document
    document.edit_wish(document.sheet.wish.__class__(paper="A3"), "paper")
    settle(desk)
    assert "another" in page.column.state.text()
    assert desk.session.checks.is_outdated
    press(desk, Key.Key_X)
    assert page.is_empty
    assert page.invitation.isVisible()


def test_an_unfinished_sheet_goes_on_in_draw(desk, page, settle, press, sheet_of):
    desk.session.document.choose_figure("f2")
    settle(desk)
    moves = desk.session.answers.planned.plan.moves
    firm = [move.n for move in moves if move.verb == "firm in" and move.phase != "sheet"]
    until = firm[len(firm) // 2]
    page.check(sheet_of(until=until))
    settle(desk)
    assert not page.go_on_button.isHidden()
    press(desk, Key.Key_G)
    settle(desk)
    assert desk.page == "draw"
    assert desk.session.walk.move.n == pytest.approx(until + 1, abs=3)


def test_what_is_no_sheet_is_told_in_a_line(desk, page, settle, press, tmp_path):
    empty = tmp_path / "empty.png"
    empty.write_bytes(b"")
    page.check(empty)
    settle(desk)
    assert "empty" in page.column.trouble.text()
    press(desk, Key.Key_X)
    QGuiApplication.clipboard().setText("no picture")
    QTest.keyClick(page, Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    assert "no picture to paste" in desk.hint._text.text()
    assert page.is_empty
    page.check(tmp_path / "nowhere.png")
    settle(desk)
    assert "\n" not in page.column.trouble.text()


def test_where_no_border_is_found_its_corners_are_asked_for(desk, page, settle, sheet_of, qtbot):
    desk.session.document.choose_figure("f2")
    settle(desk)
    frame = frame_of(desk.session.answers.planned.paper)
    corners = []

    def without_border(picture):
        """Paint the border over, and note where its corners were."""
        high, wide = picture.shape
        dots = 100 / 25.4
        paper = desk.session.answers.planned.paper
        left = (wide - paper.width * dots) / 2 + frame.left * dots
        low = high - (high - paper.height * dots) / 2 - frame.low * dots
        across, up = (side * dots for side in frame.inner)
        corners.extend([(left, low), (left + across, low), (left + across, low - up),
                        (left, low - up)])  # fmt: skip
        clean = picture.copy()
        tone, edge = int(np.median(picture)), round(3.5 * dots)
        inside = np.zeros_like(picture)
        cv2.rectangle(inside, (round(left) + edge, round(low - up) + edge),
                      (round(left + across) - edge, round(low) - edge), 255, -1)  # fmt: skip
        clean[inside == 0] = tone
        return clean

    page.check(sheet_of(change=without_border, is_rubbed_out=True))
    settle(desk)
    assert desk.session.checks.trouble
    assert page.sheet.asks_corners
    assert page.sheet.next_corner in page.keys.state
    share = desk.session.checks.cornerless.share
    for x, y in corners:
        place = page.sheet.to_screen((x * share, -y * share))
        QTest.mouseClick(page.sheet, LEFT, NONE, QPoint(round(place.x()), round(place.y())))
    qtbot.wait_until(lambda: desk.session.checks.report is not None, timeout=60_000)
    there = [one for one in desk.session.checks.report.strokes if one.state != "missing"]
    assert len(there) > 0.8 * len(desk.session.checks.report.strokes)


def test_a_picture_is_pasted_or_dropped_and_a_job_too(desk, settle, press, sheet_of, qtbot):
    desk.session.document.choose_figure("f2")
    settle(desk)
    path = sheet_of()
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    drop(desk, data)
    qtbot.wait_until(lambda: desk.page == "check", timeout=5000)
    assert desk.session.checks.name == "sheet.png"
    press(desk, Key.Key_X)
    assert desk.pages["check"].is_empty
    QGuiApplication.clipboard().setImage(QImage(str(path)))
    press(desk, Key.Key_V, modifier=Qt.KeyboardModifier.ControlModifier)
    settle(desk)
    assert desk.session.checks.name == "pasted picture"
    assert desk.session.checks.report.agrees
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(job_path("round-parts")))])
    desk.session.document.history.mark_saved()
    drop(desk, data)
    qtbot.wait_until(lambda: desk.session.document.path is not None, timeout=5000)
    settle(desk)
    assert desk.pages["check"].is_empty


def test_a_file_that_is_dragged_to_be_moved_stays_where_it_is(desk):
    data, move = QMimeData(), Qt.DropAction.MoveAction
    data.setUrls([QUrl.fromLocalFile(str(job_path("round-parts")))])
    only = QDragEnterEvent(QPoint(200, 200), move, data, LEFT, NONE)
    QApplication.sendEvent(desk, only)
    assert not only.isAccepted()
    either = QDragEnterEvent(QPoint(200, 200), Qt.DropAction.CopyAction | move, data, LEFT, NONE)
    either.setDropAction(move)
    QApplication.sendEvent(desk, either)
    assert either.isAccepted()
    assert either.dropAction() == Qt.DropAction.CopyAction


def drop(desk, data):
    entering = QDragEnterEvent(QPoint(200, 200), Qt.DropAction.CopyAction, data, LEFT, NONE)
    QApplication.sendEvent(desk, entering)
    assert entering.isAccepted()
    event = QDropEvent(QPointF(200, 200), Qt.DropAction.CopyAction, data, LEFT, NONE)
    QApplication.sendEvent(desk, event)


def test_the_scanner_takes_the_page_on_its_glass(desk, page, settle, qtbot):
    desk.session.document.choose_figure("f2")
    settle(desk)
    form = page.invitation.scanner
    form.slips.setFocus()
    QTest.keyClicks(form.slips, "4;2")
    QTest.keyClick(form.slips, Key.Key_Return)
    assert "written like" in form.problem.text()
    form.slips.clear()
    assert not desk.session.scanner.is_busy
    form.left_out.setFocus()
    QTest.keyClicks(form.left_out, "Q-Z9")
    QTest.keyClick(form.left_out, Key.Key_Return)
    assert "Q-Z9" in form.problem.text()
    form.left_out.clear()
    named = next(name for name in page_names(desk) if "–" in name)
    QTest.keyClicks(form.left_out, named.replace("–", "-"))
    form.dpi._buttons[150].click()
    QTest.keyClick(form.left_out, Key.Key_Return)
    assert desk.session.scanner.is_busy
    qtbot.wait_until(lambda: not desk.session.scanner.is_busy, timeout=60_000)
    settle(desk)
    assert desk.session.checks.name == "page from the scanner"
    assert f"{named}: missing" in rows(page.column.off)


def page_names(desk):
    return stroke_names(desk.session.answers.planned.plan).values()


def test_a_scanner_that_cannot_be_used_is_told(desk, page, qtbot, monkeypatch, tmp_path):
    form = page.invitation.scanner
    for device in (str(tmp_path / "nowhere"), "/bin/false"):
        monkeypatch.setenv("HOLOPTIC_SCANNER", device)
        page.refresh()
        assert form.slips.isHidden()
        form.take()
        qtbot.wait_until(lambda: not desk.session.scanner.is_busy, timeout=10_000)
        assert form.problem.text().startswith("The scanner")
    script = tmp_path / "scanner"
    script.write_text(f"#!/bin/sh\necho P 50\necho I {scan_path()}\n")
    script.chmod(0o755)
    monkeypatch.setenv("HOLOPTIC_SCANNER", str(script))
    form.take()
    qtbot.wait_until(lambda: not page.is_empty, timeout=10_000)
    page.checks.put_away()


def test_control_distances_are_typed_in_any_order(desk, settle, press, qtbot):
    desk.show_page("draw")
    settle(desk)
    draw, walk = desk.pages["draw"], desk.session.walk
    checks = [move for move in walk.plan.moves if move.verb == "check"]
    walk.go_to_move(checks[0].n)
    assert draw.reading.isVisible()
    press(desk, Key.Key_D)
    QTest.keyClicks(QApplication.focusWidget(), f"{checks[0].setting_mm + 4:.1f}")
    press(desk, Key.Key_Return)
    assert walk.move.n == checks[0].n
    assert "4 too much" in draw.reading.outcome.text()
    # one that agrees leads on
    walk.go_to_move(checks[1].n)
    press(desk, Key.Key_D)
    QTest.keyClicks(QApplication.focusWidget(), f"{checks[1].setting_mm:.1f}")
    press(desk, Key.Key_Return)
    assert walk.move is None or walk.move.n > checks[1].n
    press(desk, Key.Key_F9)
    press(desk, Key.Key_D)
    settle(desk)
    page = desk.pages["check"]
    assert page.distances.fields[checks[0].n].text() == f"{checks[0].setting_mm + 4:g}"
    assert page.column.causes.count() > 0
    assert page.deviations
    # the caliper fills the field in hand
    field = page.distances.fields[checks[-1].n]
    field.setFocus()
    press(desk, Key.Key_G, modifier=ALT)
    press(desk, Key.Key_R, modifier=ALT)  # it is set to zero first
    press(desk, Key.Key_R, modifier=ALT)
    qtbot.wait_until(lambda: field.text() != "", timeout=5000)
    assert walk.readings[checks[-1].n] > 0
    settle(desk)
    # what is taken away is not weighed any more
    for number in list(walk.readings):
        page.distances.fields[number].setFocus()
        page.distances.fields[number].selectAll()
        press(desk, Key.Key_Backspace)
    settle(desk)
    assert walk.readings == {}
    assert page.column.causes.count() == 0


def test_readings_are_kept_with_the_place_in_the_plan(desk, settle):
    desk.show_page("draw")
    settle(desk)
    walk = desk.session.walk
    number = next(move.n for move in walk.plan.moves if move.verb == "check")
    walk.note_reading(number, 83.2)
    walk.flush()
    desk.session.document.choose_part(1)
    settle(desk)
    desk.pages["draw"].refresh()
    assert walk.readings == {}
    desk.session.document.choose_part(0)
    settle(desk)
    desk.pages["draw"].refresh()
    assert walk.readings == {number: 83.2}
