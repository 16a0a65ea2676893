"""Sections among the views, written on the Sheet page while the views are in hand."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from holoptic.exchange.job_file import read_job
from holoptic.job import Section

Key = Qt.Key


@pytest.fixture
def views(desk, settle):
    """The views of the counterbored flange, in hand on the Sheet page."""
    document = desk.session.document
    document.choose_part(8)
    settle(desk)
    document.choose_views(is_begun=False)
    desk.show_page("sheet")
    settle(desk)
    return desk


def test_sections_are_typed_and_stand_on_sheet_and_board(views, settle, tmp_path):
    field = views.pages["sheet"].column.figures.sections.words
    document, answers = views.session.document, views.session.answers
    field.setFocus()
    for letter in "A=through:bore":
        QTest.keyClicks(field, letter)
        settle(views)
    assert document.figure.sections == (Section("A", "through:bore"),)
    assert field.trouble == ""
    page = answers.laid.pages[0]
    assert "A–A" in [words.text for words in page.words]
    assert any(region.hatch is not None for region in page.regions)
    names = [phase for phase, _, _ in answers.planned.plan.phases]
    assert names[-1] == "cutting lines"
    assert all(not view.picture.regions for view in answers.placed)  # what is lifted from is whole
    views.filing.save_to(tmp_path / "sections.holoptic")
    assert read_job(tmp_path / "sections.holoptic") == document.job


def test_sections_that_cannot_be_are_told_in_the_field(views, settle):
    field = views.pages["sheet"].column.figures.sections.words
    field.setFocus()
    QTest.keyClicks(field, "A=full:length=300")
    settle(views)
    assert "misses it" in field.trouble
    assert not any(region.hatch for region in views.session.answers.laid.pages[0].regions)
    field.selectAll()
    QTest.keyClicks(field, "half")
    QTest.keyClick(field, Key.Key_Return)
    settle(views)
    assert "write it like A=" in field.trouble
    views.session.document.choose_figure(views.session.document.sheet.figures[1].id)
    settle(views)
    assert views.pages["sheet"].column.figures.sections.isHidden()
