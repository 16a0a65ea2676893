"""Views drawn on the Read page by keys and by the mouse, then read."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

Key, LEFT = Qt.Key, Qt.MouseButton.LeftButton


@pytest.fixture
def page(empty_desk, press):
    QTest.qWait(10)  # until the pages have their places in the window
    press(empty_desk, Key.Key_F2)
    page = empty_desk.pages["read"]
    page.setFocus()
    press(empty_desk, Key.Key_D)
    assert page.draft.isVisible()
    for field, size in zip(page.draft.sizes, ("58", "36.5", "31"), strict=True):
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, size)
    page.draft.walk_bar.step.setFocus()
    return page


def walk(page, *steps):
    field = page.draft.walk_bar.step
    for step in steps:
        QTest.keyClicks(field, step)
        QTest.keyClick(field, Key.Key_Return)


def lines(page, view):
    return page.readings.draft.lines(view)


def test_a_part_is_drawn_in_three_panes_by_keys_and_read(empty_desk, page, settle, press):
    bar = page.draft.walk_bar
    walk(page, "r L", "u 12", "l 21.5", "u to H", "l to 0", "close")
    QTest.keyClick(bar.step, Key.Key_T)
    assert page.draft.view == "top"
    walk(page, "r L", "u D", "l to 0", "close", "at 58-21.5, 0", "u D", "")
    QTest.keyClick(bar.step, Key.Key_S)
    walk(page, "r D", "u H", "l to 0", "close")
    # the height of the step offers itself: the same arrow once more
    QTest.keyClick(bar.step, Key.Key_Up)
    QTest.keyClick(bar.step, Key.Key_Up)
    assert bar.step.text() == "u to 12"
    QTest.keyClick(bar.step, Key.Key_Up)
    assert bar.step.text() == "u to H"
    bar.step.clear()
    walk(page, "at 0, 12", "r D", "")
    assert len(lines(page, "right")) == 5
    QTest.keyClick(bar.step, Key.Key_Escape)
    assert not page.draft.isVisible()
    press(empty_desk, Key.Key_R)
    settle(empty_desk)
    assert "all lines are accounted for" in page.outcome.text()
    assert page.readings.answer.volume == pytest.approx(58 * 36.5 * 31 - 21.5 * 36.5 * 19)


def test_one_key_changes_the_line_and_another_the_symmetry(page):
    bar = page.draft.walk_bar
    QTest.keyClick(bar.step, Key.Key_H)
    QTest.keyClick(bar.step, Key.Key_X)
    assert "middle of L" in page.draft.symmetry.text()
    walk(page, "at 9, 0", "u H", "")
    drawn = [(line.status, line.shape.start[0]) for line in lines(page, "front")]
    assert sorted(drawn) == [("centre", 29.0), ("hidden", 9.0), ("hidden", 49.0)]
    QTest.keyClick(bar.step, Key.Key_M)
    assert page.draft.status == "centre"
    QTest.keyClick(bar.step, Key.Key_V)
    assert page.draft.status == "visible"


def test_backspace_takes_steps_and_then_lines_back(page):
    bar = page.draft.walk_bar
    walk(page, "r 20", "u 10", "")
    assert len(page.readings.draft.tracks) == 1
    QTest.keyClick(bar.step, Key.Key_Backspace)
    assert page.readings.draft.tracks == ()
    assert bar.walk.steps == ("r 20", "u 10")
    QTest.keyClick(bar.step, Key.Key_Backspace)
    assert bar.walk.steps == ("r 20",)


def test_a_step_that_cannot_be_is_refused_with_its_reason(page):
    walk(page, "r 20 arc 4 left")
    assert "misses its end points" in page.draft.walk_bar.problem.text()
    assert page.draft.walk_bar.walk.steps == ()


def test_clicks_walk_and_snap_to_what_other_panes_have(page):
    walk(page, "at 0, 17", "r L", "")
    page.draft.take_pane("right")
    sheet, draft = page.sheet, page.readings.draft

    def click(u, v):
        x, y = draft.origin("right")
        place = sheet.to_screen((x + u, y + v))
        QTest.mouseClick(sheet, LEFT, pos=QPoint(round(place.x()), round(place.y())))

    click(0.3, 17.3)
    click(36.2, 16.8)
    assert page.draft.walk_bar.walk.places == [(0, 17), (36.5, 17)]
    x, y = draft.origin("top")
    QTest.keyClick(page.draft.walk_bar.step, Key.Key_Escape)
    place = sheet.to_screen((x + 10, y + 10))
    QTest.mouseClick(sheet, LEFT, pos=QPoint(round(place.x()), round(place.y())))
    assert page.draft.view == "top"


def test_a_line_is_edited_as_text_and_deleted(page):
    walk(page, "at 5, 5", "r 20", "")
    page.draft.tracks.setCurrentRow(0)
    assert page.draft.corners.text() == "5, 5; 5+20, 5"
    page.draft.corners.selectAll()
    QTest.keyClicks(page.draft.corners, "5, 5; 30, 5")
    assert lines(page, "front")[0].shape.end == (30, 5)
    page.draft.corners.selectAll()
    QTest.keyClicks(page.draft.corners, "5, ")
    assert page.draft.corners.trouble
    page.draft.tracks.setFocus()
    QTest.keyClick(page.draft.tracks, Key.Key_Delete)
    assert page.readings.draft.tracks == ()


def test_what_was_drawn_is_there_when_one_comes_back(empty_desk, page, press, tmp_path):
    walk(page, "r L", "u H", "l to 0", "close")
    QTest.keyClick(page.draft.walk_bar.step, Key.Key_Escape)
    page.readings.save_views(tmp_path / "kept.dxf")
    assert (tmp_path / "kept.dxf").exists()
    press(empty_desk, Key.Key_D)
    assert page.draft.isVisible()
    assert len(page.readings.draft.tracks) == 1
    # and on another day
    page.readings.draft = None
    QTest.keyClick(page.draft.walk_bar.step, Key.Key_Escape)
    press(empty_desk, Key.Key_D)
    assert [track.walk.steps for track in page.readings.draft.tracks] == [
        ("r L", "u H", "l to 0", "close")
    ]


def test_all_lines_are_taken_away_and_brought_back(page):
    walk(page, "r 20", "u 10", "")
    QTest.mouseClick(page.draft.anew, LEFT)
    assert page.readings.draft.tracks == ()
    assert page.draft.anew.text() == "Bring the lines back"
    QTest.mouseClick(page.draft.anew, LEFT)
    assert len(page.readings.draft.tracks) == 1


def test_the_angle_of_other_views_leaves_what_was_drawn_aside(desk, settle, press):
    page = desk.pages["read"]
    desk.show_page("read")
    page.draw_views()
    walk(page, "r 20", "")
    QTest.keyClick(page.draft.walk_bar.step, Key.Key_Escape)
    page.practise()
    settle(desk)
    page.setFocus()
    press(desk, Key.Key_V)
    settle(desk)
    assert page.title.text() == desk.session.document.job_part.source.name
    assert len(page.readings.arrangement.views) == 3
