"""The empty desk, the first steps, and the sheet of keys."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QLabel

from holoptic.demo import drawing_paths
from holoptic.desk.application.key_map import KEYS, TITLES, found, groups_for
from holoptic.desk.look.settings import read_settings
from holoptic.desk.widgets.menus import with_mnemonics
from holoptic.part.starters import SHAPES
from holoptic.part.templates import templates
from holoptic.units import Unit

Key = Qt.Key
ALT = Qt.KeyboardModifier.AltModifier
CTRL = Qt.KeyboardModifier.ControlModifier
LEFT = Qt.MouseButton.LeftButton


def press(window, *keys, modifier=Qt.KeyboardModifier.NoModifier):
    window.activateWindow()
    for key in keys:
        QTest.keyClick(QApplication.focusWidget() or window, key, modifier)


# --- the empty desk -----------------------------------------------------------------------------


def test_typing_a_size_begins_a_part(empty_desk, settle):
    for words, end in (("84", Key.Key_Tab), ("46", Key.Key_Tab), ("18+19.5", Key.Key_Return)):
        QTest.keyClicks(QApplication.focusWidget(), words)
        press(empty_desk, end)
    settle(empty_desk)
    assert empty_desk.session.document.part.crate.height.text == "18+19.5"
    assert empty_desk.session.document.part.crate.sizes == (84, 46, 37.5)
    assert empty_desk.page == "carve"
    assert not empty_desk.invitation.isVisible()


def test_sizes_may_be_typed_in_one_go(empty_desk):
    fields = empty_desk.invitation.size_card.fields
    for letter in "83.5 x 41 × 37.5":  # every half-typed state reads
        QTest.keyClicks(QApplication.focusWidget(), letter)
        assert not any(field.trouble for field in fields)
    press(empty_desk, Key.Key_Return)
    assert empty_desk.session.document.part.crate.sizes == (83.5, 41, 37.5)


def test_sizes_that_do_not_read_are_told_where_they_stand(empty_desk):
    first, second, third = empty_desk.invitation.size_card.fields
    QApplication.clipboard().setText("83x4+x12")
    press(empty_desk, Key.Key_V, modifier=CTRL)
    assert (first.text(), second.text(), third.text()) == ("83", "4+", "")
    assert second.trouble
    assert second.hasFocus()
    QTest.keyClicks(third, "12x")  # nothing comes after the height
    assert third.trouble


def test_sizes_left_out_are_the_usual_ones_and_none_is_nothing(empty_desk):
    card = empty_desk.invitation.size_card
    QTest.keyClicks(card.fields[0], "0")
    press(empty_desk, Key.Key_Return)
    assert empty_desk.session.document.job.parts == ()
    assert "more than zero" in card.fields[0].trouble
    QTest.keyClick(card.fields[0], Key.Key_Backspace)
    QTest.keyClicks(card.fields[0], "31.5")
    QTest.keyClicks(card.fields[1], "12")
    before = card.crate.lines
    QTest.keyClicks(card.fields[1], "+")  # half typed: the last crate that read stays
    assert card.crate.lines == before
    QTest.keyClick(card.fields[1], Key.Key_Backspace)
    card.units.step()
    assert empty_desk.session.document.unit is Unit.INCH_DECIMAL
    card.units.step()
    card.units.step()
    press(empty_desk, Key.Key_Return)
    assert empty_desk.session.document.part.crate.sizes == (31.5, 12, 40)


def test_everything_at_hand_is_a_live_picture_with_a_key(empty_desk, settle):
    settle(empty_desk)
    offered = empty_desk.invitation
    settle(empty_desk)
    for title, card in offered.templates:
        assert card.lines, title
    for card in (offered.drawing, offered.views, offered.demo):
        assert card.lines, card.title
    keys = [card.key for _, card in offered.templates]
    keys += [card.key for card in (offered.drawing, offered.views, offered.file, offered.demo)]
    assert len(set(keys)) == len(keys) == len(templates()) + 4


@pytest.mark.parametrize("key", ["3", "R", "V", "D"])
def test_a_key_takes_what_is_at_hand(empty_desk, settle, key):
    press(empty_desk, getattr(Key, f"Key_{key}"), modifier=ALT)
    settle(empty_desk)
    session = empty_desk.session
    if key == "3":
        assert session.document.part.names  # the bracket has lengths of its own
        assert QApplication.focusWidget() is empty_desk.pages["carve"].sizes[0]
    elif key == "D":
        assert len(session.document.job.parts) == 9
    else:
        assert empty_desk.page == "read"
        assert session.readings.is_drafting == (key == "V")


def test_after_a_new_part_the_cursor_is_in_its_length(empty_desk, settle):
    press(empty_desk, Key.Key_N, modifier=CTRL)
    QTest.keyClicks(QApplication.focusWidget(), "91.5")
    assert empty_desk.session.document.part.crate.sizes[0] == 91.5


def test_a_drawing_is_opened_like_any_file(empty_desk, settle, monkeypatch):
    chosen = str(drawing_paths()[0])
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (chosen, ""))
    press(empty_desk, Key.Key_O, modifier=ALT)
    settle(empty_desk)
    assert empty_desk.page == "read"
    assert empty_desk.session.readings.arrangement is not None


def test_the_empty_read_page_offers_what_can_be_done_now(empty_desk, settle):
    empty_desk.show_page("read")
    settle(empty_desk)
    page = empty_desk.pages["read"]
    assert not page.column.isVisible()
    assert not page.invitation.practise_card.isVisible()  # there is no part to practise on
    assert all(card.lines for card in page.invitation.demos)
    press(empty_desk, Key.Key_2)
    settle(empty_desk)
    assert page.readings.name == "stay-plate"
    assert page.column.isVisible()
    press(empty_desk, Key.Key_X)
    assert page.invitation.isVisible()
    empty_desk.session.document.begin_part()
    settle(empty_desk)
    empty_desk.show_page("read")
    assert page.invitation.practise_card.isVisible()
    assert page.invitation.practise_card.lines


# --- first steps --------------------------------------------------------------------------------


def test_the_first_steps_lead_to_the_first_firm_line(empty_desk, settle):
    strip = empty_desk.first_steps
    assert not strip.isVisible()
    press(empty_desk, Key.Key_N, modifier=CTRL)
    assert strip.isVisible()
    assert strip.done == set()
    QTest.keyClicks(QApplication.focusWidget(), "72.5")
    assert strip.done == {"crate"}
    empty_desk.pages["carve"].add_prism("cut")
    settle(empty_desk)
    assert strip.done == {"crate", "carve"}
    assert strip.labels["crate"].text().startswith("✓")
    for page in ("picture", "sheet", "draw"):
        empty_desk.show_page(page)
        settle(empty_desk)
    moves = empty_desk.session.answers.planned.plan.moves
    first = next(k for k, move in enumerate(moves) if move.verb == "firm in")
    empty_desk.pages["draw"].go_to(first + 1)
    assert len(strip.done) == 5
    assert read_settings()["first steps"] is False


def test_first_steps_are_put_away_and_brought_back(empty_desk, settle):
    empty_desk.session.document.begin_part()
    QTest.mouseClick(empty_desk.first_steps.close_button, LEFT)
    assert not empty_desk.first_steps.isVisible()
    empty_desk.session.document.begin_part()
    assert not empty_desk.first_steps.isVisible()
    press(empty_desk, Key.Key_F1)
    QTest.mouseClick(empty_desk.key_sheet.steps_button, LEFT)
    assert empty_desk.first_steps.isVisible()
    assert not empty_desk.key_sheet.isVisible()


def test_the_demo_has_no_first_steps(desk):
    assert not desk.first_steps.isVisible()


# --- keys ---------------------------------------------------------------------------------------


def words_in(widget):
    return " ".join(label.text() for label in widget.findChildren(QLabel) if label.isVisible())


def test_the_keys_of_the_page_in_hand_come_first_and_can_be_searched(desk, settle, qtbot):
    desk.show_page("draw")
    press(desk, Key.Key_F1)
    sheet = desk.key_sheet
    assert next(iter(sheet.shown)) == "draw"
    assert list(sheet.shown) == groups_for("draw")
    QTest.keyClicks(QApplication.focusWidget(), "undo")
    assert list(sheet.shown) == ["everywhere"]
    assert "Ctrl+Z" in words_in(sheet)
    QTest.keyClicks(sheet.search, "zzz")
    assert sheet.shown == {}
    assert "No key does that" in words_in(sheet)
    press(desk, Key.Key_Escape)
    assert not sheet.isVisible()
    assert desk.page == "draw"


def test_the_keys_are_printed(desk, tmp_path, monkeypatch):
    press(desk, Key.Key_F1)
    target = tmp_path / "keys"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    QTest.mouseClick(desk.key_sheet.print_button, LEFT)
    assert (tmp_path / "keys.pdf").read_bytes().startswith(b"%PDF")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "no" / "x"), ""))
    QTest.mouseClick(desk.key_sheet.print_button, LEFT)
    assert "cannot be written" in desk.hint.text


def test_every_page_has_its_keys():
    assert set(KEYS) == set(TITLES)
    assert set(found("arrows corner")) == {"picture"}
    assert groups_for("begin")[0] == "begin"


@pytest.mark.parametrize("menu", ["new", "open", "export", "more"])
def test_a_menu_opened_by_key_has_an_entry_chosen_and_letters_of_its_own(desk, menu):
    keys = {"new": (Key.Key_N, ALT), "open": (Key.Key_O, CTRL), "export": (Key.Key_E, CTRL),
            "more": (Key.Key_M, ALT)}  # fmt: skip
    press(desk, keys[menu][0], modifier=keys[menu][1])
    opened = QApplication.activePopupWidget()
    assert opened.activeAction() is not None
    titles = [action.text().partition("\t")[0] for action in opened.actions() if action.text()]
    letters = [title[title.index("&") + 1].lower() for title in titles if "&" in title]
    assert len(letters) == len(titles) == len(set(letters))
    opened.close()


def test_shapes_have_letters_of_their_own():
    titles = with_mnemonics(list(SHAPES.values()))
    letters = [title[title.index("&") + 1].lower() for title in titles]
    assert len(set(letters)) == len(SHAPES)
