"""Half-typed texts in every field of every shape: nothing dies, nothing sticks, nothing misleads.

Many texts of the demo are typed in full somewhere here; `bench/every_text.py` types each of them
into each field.
"""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from every_text import NEW, begin, fields_of, outline_texts, size_texts, texts_for, type_letters
from holoptic.desk.widgets.caret_slip import slip_in
from holoptic.errors import ExpressionError
from holoptic.units import Length


def require_truth(desk, field):
    """A field says what is wrong exactly while something is."""
    slip = slip_in(desk)
    assert slip.isVisible() == bool(field.trouble)
    assert bool(field.property("bad")) == bool(field.trouble)


@pytest.mark.parametrize("what", NEW)
def test_every_half_typed_text_is_taken_or_explained(desk, settle, demo_job, what):
    begin(desk, what)
    QTest.qWait(1)
    share = NEW.index(what)
    sizes, outlines = size_texts(demo_job)[share :: 2 * len(NEW)], outline_texts(demo_job)
    # those of the other shapes are of the same kind
    outlines = outlines[::2] if what in ("cut", "strip") else outlines[share::9]
    operation = desk.session.document.operation_index
    for field in fields_of(desk):
        for text in texts_for(field, sizes, outlines):
            for _ in type_letters(field, text):
                require_truth(desk, field)
            desk.pages["carve"].editor.board.grab()
    assert desk.session.document.operation_index == operation
    settle(desk)
    assert desk.session.document.job_part is not None


def test_a_length_is_taken_exactly_when_it_reads(desk, demo_job):
    begin(desk, "hole")
    QTest.qWait(1)
    field = desk.pages["carve"].editor.sizes.fields["diameter"]
    for text in size_texts(demo_job)[::2]:
        for typed in type_letters(field, text):
            try:
                reads = Length.read(typed, field.unit, field.names)
            except ExpressionError:
                assert field.trouble
            else:
                assert desk.session.document.part.operations[-1].diameter == reads


ODD = st.text("0123456789.,;|+-*/()\"' LDHarcgleftruns°", min_size=1, max_size=14)


@settings(max_examples=40)
@given(st.sampled_from(NEW), st.integers(0, 20), ODD)
def test_random_texts_kill_nothing(typed_desk, what, which, text):
    desk = typed_desk
    if desk.session.document.part.operations[-1].name.split()[0] != what:
        begin(desk, what)
        QApplication.processEvents()
    fields = fields_of(desk)
    field = fields[which % len(fields)]
    for _ in type_letters(field, text):
        require_truth(desk, field)
    desk.pages["carve"].editor.board.grab()


@pytest.fixture
def typed_desk(empty_desk):
    """A desk with a plain block; one for all random texts."""
    empty_desk.session.document.begin_part()
    begin(empty_desk, "cut")
    return empty_desk
