"""Where decimals have a comma: shown so, typed so, kept with a point, and lists parted by more."""

import pytest
from PyQt6.QtTest import QTest

from holoptic import regional
from holoptic.desk.widgets.fields import ReadField
from holoptic.part.outline_text import outline_text
from holoptic.units import Length, Unit, show, written
from holoptic.units.spoken import measure, said, worded


@pytest.fixture
def comma(monkeypatch):
    monkeypatch.setenv("HOLOPTIC_DECIMAL", "comma")
    regional.decimal_mark.cache_clear()
    yield
    monkeypatch.undo()
    regional.decimal_mark.cache_clear()


def type_into(field, words):
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, words)


def corners_of(carve):
    fields = [field for field in carve.editor.findChildren(ReadField) if field.isVisible()]
    return next(field for field in fields if field.accessibleName() == "corners of the outline")


def test_lengths_are_shown_with_a_comma_and_kept_with_a_point(comma):
    assert (show(26.5), written(26.5)) == ("26,5", "26.5")
    assert show(79.375, Unit.INCH_FRACTION) == "3 1/8"
    assert said(f"{measure(25.4)}, {worded(44.5, '18+26.5')}") == "25,4 mm, 44,5 (18+26,5)"
    assert said(worded(26.5, "26.5")) == "26,5"
    assert said(measure(25.4), plainly=True) == "25.4 mm"
    assert Length.read("18+26,5").shown == "18+26,5"
    assert Length("bore.r+0.5", 9.0).shown == "bore.r+0,5"  # a point in a name stays one


def test_fields_show_and_take_a_comma(comma, desk, settle):
    carve, document = desk.pages["carve"], desk.session.document
    height = carve.sizes[2]
    assert height.text() == "18+19,5"
    type_into(height, "37,25")
    settle(desk)
    assert height.text() == "37,25"
    assert document.part.crate.height == Length("37.25", 37.25)
    desk.session.document.undo()


def test_a_list_is_shown_and_typed_with_commas_that_cannot_be_mistaken(comma, desk, settle):
    carve, document = desk.pages["carve"], desk.session.document
    corners = corners_of(carve)
    assert corners.text() == "L-26,5, H; L, H; L, H-12; L-26,5, H-12"
    type_into(corners, "L-20,5, H; L, H; L, H-7,25; L-20,5, H-7,25")
    settle(desk)
    assert corners.trouble == ""
    outline = document.part.operations[document.operation_index].outline
    assert outline_text(outline) == "L-20.5, H; L, H; L, H-7.25; L-20.5, H-7.25"
    type_into(corners, "12,5")  # one figure is no corner, and what parts two is said there
    assert "a comma and a space between: 26,5, 12" in corners.trouble


def test_where_decimals_have_a_point_a_glued_comma_parts_and_that_is_said(desk, settle):
    carve = desk.pages["carve"]
    corners = corners_of(carve)
    type_into(corners, "26,5, 12")
    assert "decimals have a point: 26.5, 12" in corners.trouble
