"""Read with a sketch by a free hand, in a real window: figures are asked for, and typed by keys."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

Key = Qt.Key


@pytest.fixture
def page(desk, press, settle):
    press(desk, Key.Key_F2)
    page = desk.pages["read"]
    if not page.is_empty:
        press(desk, Key.Key_X)
    press(desk, Key.Key_4)
    settle(desk)
    settle(desk)
    page.setFocus()
    return page


def type_figure(figure):
    for sign in figure:
        QTest.keyClick(QApplication.focusWidget(), sign)
    QTest.keyClick(QApplication.focusWidget(), Key.Key_Return)


def at(page, row):
    where = page.paper.table.item(row, 1)
    return where.data(Qt.ItemDataRole.UserRole)


def test_figures_are_asked_for_one_by_one_and_then_it_reads(desk, page, press, settle):
    readings = page.readings
    assert readings.given.is_sketch and page.paper.sketch_button.isChecked()
    assert "14 places have no figure yet" in page.remarks.item(0).text()
    press(desk, Key.Key_R)
    assert page.paper.step == "levels" and readings.reading is None
    assert "type those that are asked for" in desk.hint.text
    figures = {0: (36.5, 45.5, 50, 54.5, 63), 1: (8.5, 17, 22.5, 27, 31.5, 38.5), 2: (7, 12.5, 33)}
    measured = [own.measured for own in readings.picture.levels]
    typed = 0
    while readings.picture.asked and typed < 20:
        axis, place = at(page, page.paper.table.currentRow())
        assert page.sheet.level == (axis, place)  # lit up where it is drawn
        type_figure(f"{figures[axis][measured[axis].index(place) - 1]:g}")
        settle(desk)
        typed += 1
    assert typed == 11  # what a circle tells of itself follows
    assert page.hasFocus()
    press(desk, Key.Key_R)
    settle(desk)
    settle(desk)
    assert readings.reading.verdict == "unique"
    sizes = [own.placed[-1] for own in readings.picture.levels]
    assert sizes == [63, 38.5, 33]


def test_what_cannot_be_is_refused_and_two_figures_at_once_are_both_taken(
    desk, page, press, settle
):
    press(desk, Key.Key_R)
    type_figure("36.5")
    type_figure("45.5")  # before the first was taken up
    settle(desk)
    settle(desk)
    assert [true for _, true in page.readings.given.levels[0]] == [36.5, 45.5]
    type_figure("12")
    settle(desk)
    assert "12 mm comes after 45.5 mm" in desk.hint.text
    assert len(page.readings.given.levels[0]) == 2
    assert page.readings.arrangement is not None


def test_a_picture_is_taken_for_a_sketch_and_for_a_drawing_again(desk, page, press, settle):
    press(desk, Key.Key_H)
    settle(desk)
    settle(desk)
    assert not page.readings.given.is_sketch and not page.readings.picture.asked
    press(desk, Key.Key_H)
    settle(desk)
    settle(desk)
    assert page.readings.picture.asked
    press(desk, Key.Key_X)
    press(desk, Key.Key_1)
    settle(desk)
    press(desk, Key.Key_H)
    assert "Only a scan or a photo can be a sketch" in desk.hint.text
