"""Every page at every size, with small and large letters, on both desks: nothing is cut off."""

import os

import pytest
from PyQt6.QtCore import QMargins, QPoint, QRect, QSize, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QComboBox

from crowding import crowded_for_good, popup_shows_all
from holoptic.demo import job_path
from holoptic.desk.application import window_place
from holoptic.desk.application.window import PAGE_TITLES, DeskWindow
from holoptic.desk.application.window_place import USUAL, fitting, place, remember
from holoptic.desk.look import theme
from holoptic.desk.look.settings import keep_setting, read_settings

SIZES = {"1024 × 600": (1024, 600), "1280 × 800": (1280, 800), "1920 × 1080": (1920, 1080),
         # 3840 × 2160 at scale 2 has as much room as
         "3840 × 2160, scale 2": (1920, 1052)}  # fmt: skip
LETTERS = (1.0, 1.25, 1.5)
# `bin/test --fresh` looks at all of them; what is wrong at one was so at these too
CASES = (
    [(size, letters) for size in SIZES for letters in LETTERS]
    if os.environ.get("HOLOPTIC_EXAMPLES") == "fresh"
    else [("1024 × 600", 1.5), ("1280 × 800", 1.0)]
)  # fmt: skip


@pytest.fixture
def dressed():
    """Dress the application; and as before afterwards."""
    app = QApplication.instance()

    def dress(letters, look):
        theme.use_letters(letters)
        theme.apply_theme(app, look)

    yield dress
    dress(1.0, theme.LIGHT)


@pytest.fixture
def desk_of_size(qtbot, settle, dressed):
    """Make a desk of a size, with letters of a size, light or dark."""
    made = []

    def make(size, letters=1.0, look=theme.LIGHT, demo=True):
        dressed(letters, look)
        window = DeskWindow()
        qtbot.add_widget(
            window, before_close_func=lambda w: w.session.document.history.mark_saved()
        )
        window.resize(*size)
        window.show()
        qtbot.wait_exposed(window)
        window.furnish()
        window.open_first(job_path() if demo else None, demo=demo)
        settle(window)
        made.append(window)
        return window

    yield make
    for window in made:
        window.close_down()


def states(window, settle):
    """Bring each page, and what lies over pages, into sight; yield their names."""
    for page in PAGE_TITLES:
        window.show_page(page)
        settle(window)
        QTest.qWait(20)
        yield page
    window.pages["draw"].toggle_ways()
    settle(window)
    yield "draw, ways of working"
    window.show_page("carve")
    carve = window.pages["carve"]
    for index in (4, 8, 2):  # a polygon, a hole with copies, an upright
        window.session.document.choose_part(index)
        settle(window)
        for number in range(len(window.session.document.part.operations)):
            window.session.document.choose_operation(number)
            QTest.qWait(25)
            yield f"carve, {window.session.document.part.operations[number].name}"
    for shape in ("bevel", "corner", "strip", "slot"):
        carve.add_shape(shape)
        QTest.qWait(25)
        yield f"carve, {shape}"
    carve.shelf.toggle()
    QTest.qWait(30)
    yield "carve, the shelf"
    window.show_keys()
    QTest.qWait(30)
    yield "keys"
    window.show_keys()
    window._furniture.show_settings()
    QTest.qWait(30)
    yield "settings"
    window._furniture.show_settings()
    window._furniture.show_guide("Carve")
    QTest.qWait(30)
    yield "guide"
    window._furniture.show_guide("Carve")
    window.show_page("read")
    window.pages["read"].choose(0)
    settle(window)
    yield "read, a drawing"
    window.pages["read"].readings.read()
    settle(window)
    yield "read, an answer"


@pytest.mark.parametrize(("size", "letters"), CASES)
def test_nothing_is_cut_off_or_covered(desk_of_size, settle, size, letters):
    look = theme.DARK if letters > 1.2 else theme.LIGHT
    window = desk_of_size(SIZES[size], letters, look)
    found = {}
    for state in states(window, settle):
        if trouble := crowded_for_good(window):
            found[state] = trouble
    assert not found, "\n".join(f"{k}: {v}" for k, v in found.items())
    assert window.width() == SIZES[size][0]  # nothing pushed it wider than the screen


@pytest.fixture
def right_to_left(qapp):
    """Lay everything out as for who writes from the right."""
    qapp.setLayoutDirection(Qt.LayoutDirection.RightToLeft)
    yield
    qapp.setLayoutDirection(Qt.LayoutDirection.LeftToRight)


def test_from_right_to_left_nothing_is_cut_off_either(right_to_left, desk_of_size, settle):
    window = desk_of_size(SIZES["1280 × 800"])
    found = {}
    for page in PAGE_TITLES:
        window.show_page(page)
        settle(window)
        if trouble := crowded_for_good(window):
            found[page] = trouble
    assert not found, "\n".join(f"{k}: {v}" for k, v in found.items())
    # the strip is laid out from the right, the drawings are not turned about
    assert window._buttons["read"].x() > window._buttons["practice"].x()
    places = {view.name: view.origin[0] for view in window.views.placed}
    assert places["front"] < places["right"]
    window.show_page("picture")
    window.hint.tell("Said beside the column, not over it.")
    QTest.qWait(30)
    column = window.pages["picture"].column
    bar = QRect(window.hint.mapTo(window, QPoint(0, 0)), window.hint.size())
    assert bar.width() > 400
    assert not bar.intersects(QRect(column.mapTo(window, QPoint(0, 0)), column.size()))


@pytest.mark.parametrize("letters", LETTERS)
def test_an_empty_desk_and_a_begun_part_have_room(desk_of_size, settle, letters):
    window = desk_of_size((1024, 600), letters, demo=False)
    assert crowded_for_good(window) == []
    window.show_page("read")
    assert crowded_for_good(window) == []
    window.session.document.begin_part()
    settle(window)
    assert window.first_steps.isVisible()
    assert crowded_for_good(window) == []


def test_open_lists_show_their_last_entry(desk_of_size, settle):
    window = desk_of_size((1280, 800))
    for page in PAGE_TITLES:
        window.show_page(page)
        settle(window)
        for box in window.findChildren(QComboBox):
            if box.isVisible() and 1 < box.count() <= box.maxVisibleItems():
                box.showPopup()
                QTest.qWait(5)
                assert popup_shows_all(box), box.accessibleName()
                box.hidePopup()


# --- where the window opens ---------------------------------------------------------------------

FREE = QRect(0, 28, 1280, 772)
FRAME = QMargins(1, 30, 1, 1)


@pytest.mark.parametrize(
    "wanted",
    [QRect(0, 0, 1280, 800), QRect(900, 500, 1280, 800), QRect(-400, -90, 700, 500),
     QRect(5, 60, 900, 600)],
)  # fmt: skip
def test_a_window_opens_whole_with_its_title_bar(wanted):
    found = fitting(wanted, FREE, FRAME)
    assert FREE.contains(found.marginsAdded(FRAME))
    if FREE.contains(wanted.marginsAdded(FRAME)):
        assert found == wanted


def test_a_window_opens_where_it_was_last(qtbot):
    first, second = DeskWindow(), DeskWindow()
    for window in (first, second):
        qtbot.add_widget(window)
    screen = QApplication.primaryScreen().availableGeometry()
    first.setGeometry(screen.left() + 30, screen.top() + 60, 740, 560)
    remember(first)
    place(second)
    assert second.geometry() == first.geometry()
    (key,) = read_settings()["windows"]
    for odd in ("x", [1, 2, 900, 700], [1, 2, -5, 9, False], [0, 0, 10**9, 5, False], None,
                [0, 0, 900, 700, 1], [0.5, 0, 900, 700, False]):  # fmt: skip
        keep_setting("windows", {key: odd})
        place(second)
        assert second.size() == USUAL.boundedTo(second.size())
        assert screen.contains(second.geometry())
    keep_setting("windows", [key])
    keep_setting("window screen", "a screen that is no longer there")
    place(second)
    assert screen.intersects(second.geometry())


@pytest.mark.parametrize("size", ["1024 × 600"])
def test_nothing_of_an_arrangement_is_cut_off(desk_of_size, settle, foot_job, size):
    window = desk_of_size(SIZES[size], demo=False)
    window.filing.open(foot_job)
    settle(window)
    page, found = window.pages["spread"], {}
    for state, do in {
        "whole": lambda: window.show_page("spread"),
        "a part in hand": lambda: page.session.spreads.choose("b4"),
        "another axis": lambda: page.session.spreads.change("axis", axis="length"),
    }.items():
        do()
        settle(window)
        if trouble := crowded_for_good(window):
            found[state] = trouble
    assert not found


def test_the_views_are_widened_on_every_page_and_narrow_again(desk, press, settle):
    keys = {"carve": "F3", "picture": "F4", "sheet": "F6", "draw": "F7"}
    for name, key in keys.items():
        press(desk, getattr(Qt.Key, f"Key_{key}"))
        settle(desk)
        before = desk.views.width()
        press(desk, Qt.Key.Key_F8)
        desk.views.repaint()
        assert desk.views.width() > 1.3 * before, name
        press(desk, Qt.Key.Key_F8)
        assert desk.views.width() == before, name
    desk.resize(1024, 600)
    QTest.qWait(50)
    before = desk.views.width()
    press(desk, Qt.Key.Key_F8)
    assert desk.views.width() > 1.3 * before
    press(desk, Qt.Key.Key_F8)
    assert abs(desk.views.width() - before) < 10


def test_each_screen_keeps_a_place_of_its_own(qtbot, monkeypatch):
    window = DeskWindow()
    qtbot.add_widget(window)
    monkeypatch.setattr(window_place, "_key", lambda _: "at the office")
    window.setGeometry(40, 80, 760, 540)
    remember(window)
    monkeypatch.setattr(window_place, "_key", lambda _: "at home")
    place(window)  # a screen that it never stood on
    assert window.width() != 760
    window.setGeometry(10, 50, 900, 600)
    remember(window)
    monkeypatch.setattr(window_place, "_key", lambda _: "at the office")
    place(window)
    assert window.geometry().size() == QSize(760, 540)
    for number in range(40):
        monkeypatch.setattr(window_place, "_key", lambda _, number=number: f"screen {number}")
        remember(window)
    assert len(read_settings()["windows"]) == 20
