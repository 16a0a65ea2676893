"""Keys are changed on the sheet of keys, conflicts are told, and the desk names what counts."""

import json

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShortcut
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel, QWidget

from holoptic.desk.application.finder import deeds_of
from holoptic.desk.application.key_map import KEYS
from holoptic.desk.look.own_keys import ALWAYS, EVERYWHERE, keep_keys, own_keys
from holoptic.desk.look.preferences import reset
from holoptic.desk.look.settings import keep_setting
from holoptic.places import config_folder

Key = Qt.Key
CTRL, ALT, SHIFT = (Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.AltModifier,
                    Qt.KeyboardModifier.ShiftModifier)  # fmt: skip


@pytest.fixture(autouse=True)
def as_at_first():
    yield
    (config_folder() / "settings.json").unlink(missing_ok=True)


@pytest.fixture
def sheet(desk):
    QTest.keyClick(desk, Key.Key_F1)
    return desk.key_sheet


def ask(sheet, words, usual):
    """Press the key of an entry on the sheet, as Enter on its link does."""
    sheet.search.setText(words)
    label = next(one for one in sheet.findChildren(QLabel) if f'href="{usual}"' in one.text())
    label.linkActivated.emit(usual)
    return sheet.catcher


def count_cuts(desk):
    return len(desk.session.document.part.operations)


def test_another_key_does_it_and_the_usual_one_no_more(desk, sheet, press, settle):
    catcher = ask(sheet, "cut, add", "Alt+C")
    assert catcher.isVisible()
    assert catcher.hasFocus()
    assert "“cut” (Carve), now Alt+C" in catcher.words.text()
    QTest.keyClick(catcher, Key.Key_Control, CTRL)  # held on the way to the next
    QTest.keyClick(catcher, Key.Key_J, CTRL)
    assert not catcher.isVisible()
    assert "Ctrl+J" in next(one.text() for one in sheet.findChildren(QLabel)
                            if 'href="Alt+C"' in one.text())  # fmt: skip
    press(desk, Key.Key_Escape)
    before = count_cuts(desk)
    press(desk, Key.Key_C, modifier=ALT)
    assert count_cuts(desk) == before
    press(desk, Key.Key_J, modifier=CTRL)
    assert count_cuts(desk) == before + 1
    kept = json.loads((config_folder() / "settings.json").read_text("utf-8"))["keys"]
    assert kept == {"carve": {"Alt+C": "Ctrl+J"}}


def test_a_key_is_another_in_all_windows_at_once(desk, sheet, open_window):
    other = open_window()
    QTest.keyClick(ask(sheet, "find what", "Ctrl+K"), Key.Key_F7, CTRL)
    for window in (desk, other):
        keys = {one.key().toString() for one in window.findChildren(QShortcut)}
        assert "Ctrl+F7" in keys
        assert "Ctrl+K" not in keys


def test_what_is_searched_is_changed_by_enter(desk, sheet):
    QTest.keyClicks(sheet.search, "centre lines")
    QTest.keyClick(sheet.search, Key.Key_Return)
    assert "(Picture)" in sheet.catcher.words.text()
    QTest.keyClick(sheet.catcher, Key.Key_F12, CTRL)
    assert own_keys() == {"picture": {"H": "Ctrl+F12"}}
    sheet.search.clear()
    QTest.keyClick(sheet.search, Key.Key_Return)  # nothing was searched, so nothing is meant
    assert not sheet.catcher.isVisible()


def test_what_names_a_key_names_the_wanted_one(desk):
    keep_keys({("carve", "Alt+C"): "Ctrl+J", (EVERYWHERE, "Ctrl+Shift+N"): "F12"})
    desk._furniture.keys.apply()
    carve = desk.pages["carve"]
    tips = [widget.toolTip() for widget in carve.findChildren(QWidget)]
    assert any(tip.endswith("(Ctrl+J)") for tip in tips)
    assert not any(tip.endswith("(Alt+C)") for tip in tips)
    deeds = {deed.words: deed.key for deed in deeds_of(desk, "carve")}
    assert deeds["cut"] == "Ctrl+J"
    menu = desk._new_menu()
    desk._furniture.keys.name_in_menu(menu)
    assert any(action.text().endswith("\tF12") for action in menu.actions())
    reset()
    desk._furniture.keys.apply()
    tips = [widget.toolTip() for widget in carve.findChildren(QWidget)]
    assert any(tip.endswith("(Alt+C)") for tip in tips)


def test_a_key_that_is_taken_is_told_and_exchanged_by_pressing_it_again(desk, sheet):
    catcher = ask(sheet, "cut, add", "Alt+C")
    QTest.keyClick(catcher, Key.Key_H, ALT)
    assert "Alt+H is for “hole” (Carve) already" in catcher.words.text()
    QTest.keyClick(catcher, Key.Key_Z, CTRL)
    assert "Ctrl+Z is for “undo” (Everywhere) already" in catcher.words.text()
    QTest.keyClick(catcher, Key.Key_H, ALT)
    assert own_keys() == {}
    QTest.keyClick(catcher, Key.Key_H, ALT)
    assert own_keys() == {"carve": {"Alt+C": "Alt+H", "Alt+H": "Alt+C"}}
    # each goes back alone only once the other has made room
    catcher = ask(sheet, "cut, add", "Alt+C")
    QTest.keyClick(catcher, Key.Key_Backspace)
    assert "Alt+C is for “hole”" in catcher.words.text()
    QTest.keyClick(catcher, Key.Key_Backspace)
    assert own_keys() == {}


def test_a_key_of_everywhere_must_be_free_on_each_page(desk, sheet):
    catcher = ask(sheet, "find what", "Ctrl+K")
    QTest.keyClick(catcher, Key.Key_B, CTRL)
    assert "(Practice) already" in catcher.words.text()


@pytest.mark.parametrize("key", [Key.Key_Tab, Key.Key_Return, Key.Key_Left, Key.Key_4])
def test_keys_by_which_one_walks_takes_and_types_stay(desk, sheet, key):
    catcher = ask(sheet, "cut, add", "Alt+C")
    QTest.keyClick(catcher, key)
    assert "stays what it is" in catcher.words.text()
    QTest.keyClick(catcher, Key.Key_Escape)
    assert not catcher.isVisible()
    assert sheet.isVisible()
    assert own_keys() == {}


def test_escape_may_have_a_second_key_and_stays_what_it_is(desk, sheet, press):
    catcher = ask(sheet, "leave, close", "Esc")
    assert "second key" in catcher.words.text()
    QTest.keyClick(catcher, Key.Key_G, CTRL)
    label = next(one for one in sheet.findChildren(QLabel) if 'href="Esc"' in one.text())
    assert "Esc · Ctrl+G" in label.text()
    press(desk, Key.Key_G, modifier=CTRL)
    assert not sheet.isVisible()
    for key, held in ((Key.Key_G, CTRL), (Key.Key_Escape, Qt.KeyboardModifier.NoModifier)):
        press(desk, Key.Key_F1)
        assert sheet.isVisible()
        press(desk, key, modifier=held)
        assert not sheet.isVisible()
    press(desk, Key.Key_F1)
    QTest.keyClick(ask(sheet, "leave, close", "Esc"), Key.Key_Backspace)
    assert own_keys() == {}


@pytest.fixture
def second_keys(desk):
    """Keys beside those that stay, all of one hand."""
    pairs = {"1": "Ctrl+R", "2": "Ctrl+W", "Left": "J", "Tab": "Ctrl+T", "Enter": "Ctrl+J"}
    keep_keys({(ALWAYS, usual): wanted for usual, wanted in pairs.items()})
    desk._furniture.keys.apply()


def test_a_second_key_does_what_a_figure_an_arrow_or_enter_does(desk, second_keys, press, settle):
    press(desk, Key.Key_F4)
    settle(desk)
    view = desk.session.document.figure.view
    press(desk, Key.Key_W, modifier=CTRL)
    taken = desk.session.document.figure.view
    assert taken != view
    press(desk, Key.Key_J)
    assert desk.session.document.figure.view.corner != taken.corner
    press(desk, Key.Key_F1)
    search = desk.key_sheet.search
    QTest.keyClicks(search, "jig")  # a letter is a letter where one types
    assert search.text() == "jig"
    search.setText("centre lines")
    QTest.keyClick(search, Key.Key_J, CTRL)
    assert desk.key_sheet.catcher.isVisible()


def test_a_second_key_walks_on_like_tab(desk, second_keys, press):
    press(desk, Key.Key_F1)
    QTest.keyClick(desk.key_sheet.search, Key.Key_T, CTRL)
    walked = desk.focusWidget()
    desk.key_sheet.search.setFocus()
    QTest.keyClick(desk.key_sheet.search, Key.Key_Tab)
    assert walked is desk.focusWidget() is not desk.key_sheet.search


def test_a_second_key_answers_a_question(desk, second_keys):
    answered = []
    desk.question.ask("Which?", {"one": lambda: answered.append(1), "two": lambda: None})
    QTest.keyClick(desk.focusWidget(), Key.Key_R, CTRL)
    assert answered == [1]


def test_what_no_shortcut_does_gets_a_second_key_too(desk, sheet, press, settle):
    ask(sheet, "begin a line", "Space")
    QTest.keyClick(sheet.catcher, Key.Key_Y, CTRL)
    press(desk, Key.Key_F11)
    page = desk.pages["practice"]
    page.build()
    hand = page.board.hand
    before = [list(row) for row in hand.heights]
    QTest.keyClick(page.board, Key.Key_Y, CTRL)
    assert [list(row) for row in hand.heights] != before


def test_a_second_key_that_is_taken_is_told_and_not_exchanged(desk, sheet):
    catcher = ask(sheet, "leave, close", "Esc")
    for _ in range(2):
        QTest.keyClick(catcher, Key.Key_K, CTRL)
        assert "Press another" in catcher.words.text()
    QTest.keyClick(catcher, Key.Key_G, CTRL)
    catcher = ask(sheet, "cut, add", "Alt+C")
    for _ in range(2):
        QTest.keyClick(catcher, Key.Key_G, CTRL)
        assert "Ctrl+G is for “leave, close, let go”" in catcher.words.text()
    assert own_keys() == {ALWAYS: {"Esc": "Ctrl+G"}}


def test_a_mark_is_taken_without_the_shift_that_makes_it(desk, sheet):
    catcher = ask(sheet, "hidden lines", "H")
    QTest.keyClick(catcher, "%", SHIFT)
    assert own_keys() == {"picture": {"H": "%"}}


@pytest.mark.parametrize(
    "kept", [7, [], {"carve": 5}, {"carve": {"Alt+C": 5}}, {"carve": {"Alt+C": "no key at all"}},
             {"carve": {"Alt+C": "Esc"}}, {"carve": {"Esc": "Alt+Q"}}],
)  # fmt: skip
def test_what_is_no_key_in_the_file_is_as_if_it_were_not_there(kept):
    keep_setting("keys", kept)
    assert own_keys() == {}


def test_nearly_every_key_of_the_map_can_be_changed(desk):
    """Left are those by which one leaves, walks, takes and types, and words such as arrows."""
    keys = desk._furniture.keys
    fixed = {"Esc", "Enter", "Return", "Left", "Right", "Up", "Down"}
    for place, entries in KEYS.items():
        can = {use.usual for use in keys.uses(place)}
        named = {key for line, _ in entries for key in line.split(", ") if "+" in key and
                 key[-1].isalpha() and " " not in key}  # fmt: skip
        assert named - fixed - can == set(), place
