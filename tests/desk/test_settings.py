"""Settings in one place, the desk's look by the desktop's wish, and the finder."""

import json

import pytest
from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtGui import QTextDocument
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QAbstractSpinBox, QComboBox, QLineEdit, QToolTip

from holoptic.desk.application.desks import Desks
from holoptic.desk.application.explaining import explained
from holoptic.desk.application.finder import deeds_of
from holoptic.desk.look import dress, preferences, theme
from holoptic.desk.look.preferences import PREFERENCES, exported, preference, reset, take_over
from holoptic.desk.look.settings import keep_setting
from holoptic.errors import BadInput
from holoptic.places import config_folder
from holoptic.units import Unit

CTRL = Qt.KeyboardModifier.ControlModifier
Key = Qt.Key


@pytest.fixture(autouse=True)
def as_at_first(qapp):
    """Whatever a test chooses is forgotten after it."""
    yield
    (config_folder() / "settings.json").unlink(missing_ok=True)
    if theme.theme() is not theme.LIGHT:  # dressing a whole desk takes a second
        theme.apply_theme(qapp, theme.LIGHT)


def press_down(row, value):
    QTest.mouseClick(row._buttons[value], Qt.MouseButton.LeftButton)


def test_settings_are_chosen_by_key_and_mouse_and_kept(desk, press):
    desks = Desks(desk)
    preferences.listen(desks.dress)
    QTest.keyClick(desk, Key.Key_Comma, CTRL)
    sheet = desk._furniture.settings_sheet
    assert sheet.isVisible()
    assert set(sheet.rows) == {one.name for one in PREFERENCES}
    press_down(sheet.rows["theme"], "contrast")
    assert theme.theme() is theme.CONTRAST
    press_down(sheet.rows["theme"], "dark")
    assert theme.theme() is theme.DARK
    press_down(sheet.rows["left_handed"], True)
    assert desk.session.ways.left_handed
    press_down(sheet.rows["new_unit"], "inch")
    press_down(sheet.rows["new_angle"], "first")
    kept = json.loads((config_folder() / "settings.json").read_text("utf-8"))
    assert (kept["theme"], kept["new_unit"]) == ("dark", "inch")
    press(desk, Key.Key_Escape)
    assert not sheet.isVisible()
    desk.session.document.history.mark_saved()
    desk.session.document.clear()
    job = desk.session.document.job
    assert (job.unit, job.angle) == (Unit.INCH_DECIMAL, "first")


@pytest.mark.parametrize("one", PREFERENCES, ids=lambda one: one.name)
@pytest.mark.parametrize("value", [None, "nonsense", 7.5, [], {"a": 1}, 1])
def test_what_is_no_choice_is_as_if_it_were_not_there(one, value):
    keep_setting(one.name, value)
    assert preference(one.name) == one.usual


def test_settings_are_taken_to_another_machine(desk, tmp_path):
    sheet = desk._furniture.settings_sheet
    keep_setting("theme", "dark")
    keep_setting("window", [1, 2, 900, 700])  # of this machine
    sheet.write_to(tmp_path / "mine.json")
    assert "window" not in json.loads((tmp_path / "mine.json").read_text("utf-8"))
    reset()
    assert preference("theme") == "system"
    sheet.take_from(tmp_path / "mine.json")
    assert preference("theme") == "dark"
    assert "Settings taken from" in desk.hint.text


@pytest.mark.parametrize("data", [b"", b"[]", b"\xff", b'{"format": "other"}', b"[" * 90_000])
def test_a_file_that_is_none_changes_nothing(data):
    keep_setting("theme", "dark")
    with pytest.raises(BadInput):
        take_over(data)
    assert preference("theme") == "dark"
    assert json.loads(exported())["theme"] == "dark"


def test_without_a_choice_the_desktop_is_followed(qapp, monkeypatch):
    class Hints:
        def __init__(self, scheme, contrast):
            self.colorScheme = lambda: scheme
            self.accessibility = lambda: self
            self.contrastPreference = lambda: contrast

    plain, high = Qt.ContrastPreference.NoPreference, Qt.ContrastPreference.HighContrast
    for scheme, contrast, wanted in (
        (Qt.ColorScheme.Dark, plain, theme.DARK), (Qt.ColorScheme.Light, plain, theme.LIGHT),
        (Qt.ColorScheme.Unknown, plain, theme.LIGHT), (Qt.ColorScheme.Dark, high, theme.CONTRAST),
    ):  # fmt: skip
        monkeypatch.setattr(qapp, "styleHints", lambda s=scheme, c=contrast: Hints(s, c))
        assert dress.wanted_theme(qapp) is wanted
    keep_setting("theme", "light")
    assert dress.wanted_theme(qapp) is theme.LIGHT


def test_the_desktop_is_followed_while_the_desk_stands(qapp, monkeypatch):
    told, contrast = [], [Qt.ContrastPreference.NoPreference]
    hints = qapp.styleHints()

    class Hints:
        colorSchemeChanged = hints.colorSchemeChanged  # noqa: N815
        accessibility = staticmethod(lambda: Hints)
        contrastPreference = staticmethod(lambda: contrast[0])  # noqa: N815

    monkeypatch.setattr(qapp, "styleHints", lambda: Hints)
    dress.follow_desktop(qapp, lambda: told.append("again"))
    hints.colorSchemeChanged.emit(Qt.ColorScheme.Dark)
    assert len(told) == 1
    away, back = Qt.ApplicationState.ApplicationInactive, Qt.ApplicationState.ApplicationActive
    qapp.applicationStateChanged.emit(away)
    contrast[0] = Qt.ContrastPreference.HighContrast  # chosen in the desktop's own settings
    for state in (away, back, away, back):
        qapp.applicationStateChanged.emit(state)
    assert len(told) == 2


def test_the_finder_does_what_is_found_by_its_name(desk, settle):
    desk.show_page("picture")
    settle(desk)
    QTest.keyClick(desk, Key.Key_K, CTRL)
    finder = desk._furniture.finder
    assert finder.isVisible()
    assert len(finder.offered) > 12
    QTest.keyClicks(finder.line, "near")
    QTest.keyClicks(finder.line, "zzz")
    assert finder.offered == []
    QTest.keyClick(finder.line, Key.Key_Return)  # nothing there, nothing happens
    finder.line.selectAll()
    QTest.keyClicks(finder.line, "sheet of keys")
    finder.line.selectAll()
    QTest.keyClicks(finder.line, "next edge")
    assert finder.offered[0].startswith("next edge")
    QTest.keyClick(finder.line, Key.Key_Return)
    assert not finder.isVisible()
    assert desk.session.selection.edge is not None
    QTest.keyClick(desk, Key.Key_K, CTRL)
    QTest.keyClick(finder.line, Key.Key_Escape)
    assert not finder.isVisible()


def test_the_finder_offers_what_can_be_done_and_nothing_else(desk, settle):
    found = {}
    for page in ("carve", "picture", "sheet", "draw"):
        desk.show_page(page)
        settle(desk)
        found[page] = {deed.key for deed in deeds_of(desk, page)}
    everywhere = set.intersection(*found.values())
    assert {"Ctrl+S", "Ctrl+K", "F1"} <= everywhere
    assert "Alt+H" in found["carve"]
    assert "Alt+H" not in found["picture"]
    assert "Ctrl+Z" not in found["carve"]  # nothing was done yet that could be undone
    desk.session.document.rename_part("other")
    desk.show_page("carve")
    assert "Ctrl+Z" in {deed.key for deed in deeds_of(desk, "carve")}
    desk.session.document.history.mark_saved()


def test_the_guide_opens_at_the_page_in_hand_and_is_searched(desk, settle, press):
    sheet = desk._furniture.guide_sheet
    for page, heading in (("spread", "Spread"), ("check", "Check: the drawn sheet")):
        desk.show_page(page)
        settle(desk)
        QTest.keyClick(desk, Key.Key_F1, Qt.KeyboardModifier.ShiftModifier)
        assert sheet.isVisible()
        block = sheet.pages.textCursor().block()
        assert block.blockFormat().headingLevel() > 0
        assert block.text().startswith(heading)
        press(desk, Key.Key_Escape)
        assert not sheet.isVisible()
    QTest.keyClick(desk, Key.Key_F1, Qt.KeyboardModifier.ShiftModifier)
    QTest.keyClicks(sheet.search, "four-centre")
    assert sheet.pages.textCursor().selectedText().lower() == "four-centre"
    first = sheet.pages.textCursor().position()
    QTest.keyClick(sheet.search, Key.Key_Return)
    assert sheet.pages.textCursor().position() != first
    sheet.search.selectAll()
    QTest.keyClicks(sheet.search, "no such words")
    assert sheet.found.text() == "The guide does not say that."


def test_the_guide_shows_its_own_pictures_and_no_others(desk):
    pages = desk._furniture.guide_sheet.pages
    kind = QTextDocument.ResourceType.ImageResource.value
    assert not pages.loadResource(kind, QUrl("screenshots/carve.png")).isNull()
    assert pages.loadResource(kind, QUrl("../src/holoptic/assets/icons/down.svg")) is None
    assert pages.loadResource(kind, QUrl("file:///etc/hostname")) is None


@pytest.mark.parametrize("page", ["read", "carve", "picture", "sheet", "check", "practice"])
def test_every_control_can_say_what_it_is(desk, settle, page):
    desk.show_page(page)
    settle(desk)
    controls = [
        widget for kind in (QAbstractButton, QLineEdit, QComboBox, QAbstractSpinBox)
        for widget in desk.findChildren(kind)
        if widget.isVisible() and widget.focusPolicy() != Qt.FocusPolicy.NoFocus
        and not isinstance(widget.parent(), QComboBox | QAbstractSpinBox)
    ]  # fmt: skip
    assert len(controls) > 8
    for widget in controls:
        lines = explained(widget).splitlines()
        assert len(lines) >= 2, lines
        assert len({line.lower() for line in lines}) == len(lines)


def test_what_is_this_by_key(desk, settle):
    desk.show_page("carve")
    settle(desk)
    field = next(f for f in desk.findChildren(QLineEdit) if f.accessibleName() == "crate length")
    field.setFocus()
    QTest.keyClick(field, Key.Key_F1, CTRL)
    assert QToolTip.text().startswith("Crate length\n")
    assert field.accessibleDescription().startswith("Crate length")
    desk.pages["carve"].setFocus()
    QTest.keyClick(desk, Key.Key_F1, CTRL)
    assert "Touch an edge" in QToolTip.text()
    QToolTip.hideText()


def test_new_jobs_parts_and_sheets_begin_as_the_user_is_used_to(desk, press, settle):
    QTest.keyClick(desk, Key.Key_Comma, CTRL)
    sheet = desk._furniture.settings_sheet
    for name, value in {
        "new_hidden": "dashed", "new_outline": "thick-and-thin", "new_series": "ANSI",
        "new_frame": "printed", "new_dimensions": "auto", "new_style": "ASME",
    }.items():  # fmt: skip
        sheet.rows[name]._buttons[value].click()
    sheet.drawn_by.setFocus()
    QTest.keyClicks(sheet.drawn_by, "Ailsa")
    press(desk, Key.Key_Escape)
    before = desk.session.document.figure
    assert before.lines.hidden == "omit"  # what is there stays as it is
    desk.session.document.history.mark_saved()
    desk.session.document.clear()
    desk.session.document.begin_part("L-block")
    settle(desk)
    document = desk.session.document
    assert (document.figure.lines.hidden, document.figure.lines.outline) == (
        "dashed", "thick-and-thin",
    )  # fmt: skip
    wish = document.job.sheets[-1].wish
    assert (wish.series, wish.frame, wish.dimensions, wish.style) == (
        "ANSI", "printed", "auto", "ASME",
    )  # fmt: skip
    assert document.job.title.drawn_by == "Ailsa"
    assert json.loads(exported())["drawn_by"] == "Ailsa"
    reset()
    assert (preference("new_series"), json.loads(exported())["drawn_by"]) == ("ISO", "")
