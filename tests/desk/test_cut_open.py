"""Cutting open on the Picture page: proposed, typed, touched, slid; refused in its place."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton

from holoptic.desk.pages.picture.cut_row import is_begun, planes_of, with_plane
from holoptic.exchange.job_file import read_job

Key = Qt.Key


@pytest.fixture
def flange(desk, settle):
    """The counterbored flange on the Picture page."""
    desk.session.document.choose_part(8)
    desk.session.document.picture_as("isometric", "front-right")
    desk.show_page("picture")
    settle(desk)
    return desk


def cut_of(desk):
    return desk.session.document.figure.cut


def test_a_cut_is_proposed_taken_by_its_number_and_taken_back(flange, press, settle, tmp_path):
    page, session = flange.pages["picture"], flange.session
    press(flange, Key.Key_X)
    settle(flange)
    best = session.cuts.best
    assert len(best) == 5
    assert "come to light" in best[0].reasons
    assert [small._picture for small in page.small] == [one.picture for one in best]
    press(flange, Key.Key_2)
    settle(flange)
    assert cut_of(flange) == best[1].words
    assert session.answers.picture.regions
    assert session.answers.picture.strokes == best[1].picture.strokes
    assert all(not view.picture.regions for view in session.answers.placed)  # the views stay whole
    flange.filing.save_to(tmp_path / "cut.holoptic")
    assert read_job(tmp_path / "cut.holoptic") == session.document.job
    press(flange, Key.Key_X)
    assert page.small[0]._picture is not best[0].picture
    press(flange, Key.Key_Z, modifier=Qt.KeyboardModifier.ControlModifier)
    settle(flange)
    assert cut_of(flange) == ""
    assert not session.answers.picture.regions


def test_a_cut_is_typed_and_what_cannot_be_is_said_in_the_field(flange, settle):
    page, session = flange.pages["picture"], flange.session
    field = page.column.cut.words
    field.setFocus()
    for words in ("thr", "through:bor"):
        field.clear()
        QTest.keyClicks(field, words)
        settle(flange)
        assert not session.answers.picture.regions
    assert "known: plate" in field.trouble
    QTest.keyClicks(field, "e")
    settle(flange)
    assert (cut_of(flange), field.trouble) == ("through:bore", "")
    assert {round(r.place[1], 3) for r in session.answers.picture.regions} == {41.5}
    field.clear()
    QTest.keyClicks(field, "full:height=90")
    settle(flange)
    assert "misses it" in field.trouble
    assert not session.answers.picture.regions  # it stays uncut
    field.clear()
    QTest.keyClicks(field, "sawn")
    assert "begin with full:" in field.trouble
    page.pane.setFocus()
    settle(flange)
    assert field.text() == cut_of(flange) == "full:height=90"  # what is asked still
    assert "misses it" in field.trouble
    field.setFocus()
    field.selectAll()
    QTest.keyClick(field, Key.Key_Delete)
    settle(flange)
    assert (cut_of(flange), field.trouble) == ("", "")


def test_touched_features_lead_the_cut_and_a_slider_moves_its_plane(flange, press, settle):
    page, session = flange.pages["picture"], flange.session
    press(flange, Key.Key_X)
    settle(flange)
    for name, words in (("bore", "through:bore"), ("hub", "through:bore,hub"),
                        ("hub", "through:bore")):  # fmt: skip
        index = [one.name for one in session.document.part.operations].index(name)
        stroke = next(s for s in session.answers.picture.visible
                      if s.origin.operation == index and s.origin.edge is not None)  # fmt: skip
        session.selection.select(stroke.key)
        settle(flange)
        assert cut_of(flange) == words
        assert session.selection.edge is None
    half = page.column.cut.sorts.findChildren(QPushButton)[1]
    QTest.mouseClick(half, Qt.MouseButton.LeftButton)
    settle(flange)
    assert cut_of(flange) == "half"
    sliders = page.column.cut.sliders
    assert sliders["length"].isVisible()
    assert sliders["height"].isHidden()
    for _ in range(3):
        sliders["length"].slider.setValue(sliders["length"].slider.value() - 10)
    settle(flange)
    assert cut_of(flange) == "half:length=26.5"
    assert {round(r.place[0], 3) for r in session.answers.picture.regions
            if abs(r.normal[0]) > 0.5} == {26.5}  # fmt: skip
    press(flange, Key.Key_X, modifier=Qt.KeyboardModifier.ShiftModifier)
    settle(flange)
    assert cut_of(flange) == ""


def test_the_sheet_and_the_plan_show_the_cut(flange, press, settle):
    flange.session.document.cut_open("half")
    settle(flange)
    flange.show_page("sheet")
    settle(flange)
    laid, planned = flange.session.answers.laid, flange.session.answers.planned
    assert sum(region.hatch is not None for region in laid.pages[0].regions) == 3
    names = [phase for phase, _, _ in planned.plan.phases]
    assert names.index("cutting plane") < names.index("cut face: plate")
    assert names[-1] == "hatching"


@pytest.mark.parametrize(
    ("words", "planes", "moved"),
    [
        ("full", {"depth": ""}, "full:depth=3"),
        ("full:height=4", {"height": "4"}, "full:height=3"),
        ("half;plain=rib", {"length": "", "depth": ""}, "half:length=3;plain=rib"),
        ("half:depth=1,height=2", {"depth": "1", "height": "2"}, "half:depth=3,height=2"),
    ],
)
def test_planes_that_can_be_slid(words, planes, moved):
    assert planes_of(words) == planes
    assert with_plane(words, next(iter(planes)), "3") == moved


def test_begun_words_are_waited_for():
    assert is_begun("ha")
    assert is_begun("through:")
    assert not is_begun("half")
    assert not is_begun("sawn")
    assert planes_of("through:bore") == planes_of("half:through=bore") == planes_of("sawn") == {}
