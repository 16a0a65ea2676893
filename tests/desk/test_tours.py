"""Each page's tour is made of keys that really do something, and leaves nothing behind."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from holoptic.desk import PAGES
from holoptic.desk.application import tour_strip
from holoptic.desk.application.desks import Desks
from holoptic.desk.application.tours import TOURS
from holoptic.desk.widgets.fields import ReadField
from holoptic.part.outline_text import outline_text

Key = Qt.Key
SHIFT = Qt.KeyboardModifier.ShiftModifier


def test_every_page_has_a_tour_of_about_a_minute():
    assert set(TOURS) == set(PAGES)
    for page, tour in TOURS.items():
        read_s = sum(3.5 + 0.065 * len(step.words) for step in tour.steps)
        assert 25 < read_s < 60, page


@pytest.mark.parametrize("page", sorted(set(TOURS) - {"spread"}))
def test_a_tour_goes_through_its_page(empty_desk, settle, qtbot, page):
    empty_desk.begin_tour(page)
    settle(empty_desk)
    tour, keys = empty_desk._furniture.tour, empty_desk._furniture.keys
    for number, step in enumerate(TOURS[page].steps, 1):
        assert tour.words.text() == step.words
        assert tour.count.text() == f"{number}/{len(TOURS[page].steps)}"
        for key in step.keys:
            if key != "A":  # a letter answers the question on the board
                assert keys.bound_to(page, key), f"{page}: nothing is bound to {key}"
        QTest.keyClick(empty_desk, Key.Key_F12)
        qtbot.wait_until(lambda: not tour._left, timeout=20_000)
        settle(empty_desk)
        assert empty_desk.page == page
        assert [f.trouble for f in empty_desk.findChildren(ReadField) if f.trouble] == []
    assert "That was the tour" in tour.words.text()
    assert not tour.is_under_way
    assert empty_desk.session.document.history.is_saved  # nobody is asked to save a tour
    assert empty_desk.session.logbook.register.drawings() == []


def test_the_keys_of_a_tour_do_something(empty_desk, settle, qtbot):
    empty_desk.begin_tour("draw")
    settle(empty_desk)
    page, tour = empty_desk.pages["draw"], empty_desk._furniture.tour
    reached = []
    for _ in TOURS["draw"].steps:
        tour.go_on()
        qtbot.wait_until(lambda: not tour._left, timeout=20_000)
        reached.append(page.at)
    assert reached[:4] == sorted(set(reached[:4]))
    assert reached[-1] == 0


def test_the_tour_of_carving_cuts_doubles_and_takes_all_back(empty_desk, settle, qtbot):
    empty_desk.begin_tour("carve")
    settle(empty_desk)
    document, tour = empty_desk.session.document, empty_desk._furniture.tour
    counts = [len(document.part.operations)]
    for _ in TOURS["carve"].steps:
        tour.go_on()
        qtbot.wait_until(lambda: not tour._left, timeout=20_000)
        settle(empty_desk)
        counts.append(len(document.part.operations))
    first = counts[0]
    assert counts == [first, first + 1, first + 1, first + 2, first + 2, first + 2]
    assert outline_text(document.part.operations[first].outline) == TOURS["carve"].steps[1].text


def test_a_tour_waits_until_what_it_speaks_of_is_there(empty_desk, settle, qtbot, monkeypatch):
    monkeypatch.setattr(tour_strip, "_LEAST_MS", 30)
    monkeypatch.setattr(tour_strip, "_LETTER_MS", 0)
    empty_desk.begin_tour("draw")
    tour = empty_desk._furniture.tour
    assert empty_desk.is_busy
    while empty_desk.is_busy:
        assert tour._at == 0
        qtbot.wait(20)
    qtbot.wait_until(lambda: tour._at > 0)


def test_a_letter_answers_in_the_tour_of_practice(empty_desk, settle, qtbot):
    empty_desk.begin_tour("practice")
    settle(empty_desk)
    tour, practice = empty_desk._furniture.tour, empty_desk.session.practice
    for _ in range(2):
        tour.go_on()
        qtbot.wait_until(lambda: not tour._left, timeout=20_000)
    assert practice.marked is not None


def test_a_tour_takes_a_window_of_its_own_and_is_left_by_a_key(desk, settle):
    desks = Desks(desk)
    job = desk.session.document.job
    QTest.keyClick(desk, Key.Key_F12)
    assert len(desks.windows) == 2
    window = desks.windows[1]
    settle(window)
    assert window._furniture.tour.isVisible()
    assert desk.session.document.job is job
    assert not desk._furniture.tour.isVisible()
    QTest.keyClick(window, Key.Key_F12, SHIFT)
    assert not window._furniture.tour.isVisible()
    window.begin_tour("picture")
    window.show_page("sheet")  # what it says would be pressed elsewhere
    assert not window._furniture.tour.is_under_way
    window.session.document.history.mark_saved()
    window.close()
    assert len(desks.windows) == 1
