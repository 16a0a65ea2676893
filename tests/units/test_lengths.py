"""Lengths as people write them."""

import math
import pickle

import pytest
from hypothesis import given
from hypothesis import strategies as st

from holoptic.errors import ExpressionError, PartError
from holoptic.part.outline_text import read_outline
from holoptic.units import Length, Unit, evaluate, show
from holoptic.units.spoken import figure, measure, said, worded

NAMES = {"L": 84.0, "R": 21.0}


@pytest.mark.parametrize(
    ("text", "unit", "mm"),
    [
        ("18+26.5", Unit.MM, 44.5),
        ("84-2*12", Unit.MM, 60.0),
        ("(84-12)/2", Unit.MM, 36.0),
        ("2*R", Unit.MM, 42.0),
        ("L/2/3", Unit.MM, 14.0),
        ("3 1/8", Unit.INCH_FRACTION, 79.375),
        ('3 1/8"', Unit.MM, 79.375),
        ("2'6\"", Unit.MM, 762.0),
        ("2' 6 1/2", Unit.MM, 774.7),
        ("1.5", Unit.INCH_DECIMAL, 38.1),
        ("1 in + 10 mm", Unit.INCH_DECIMAL, 35.4),
        ("1 cm", Unit.INCH_DECIMAL, 10.0),
        ("-(3-8)", Unit.MM, 5.0),
        ("10mm/4mm", Unit.MM, 2.5),
        (" .5 ", Unit.MM, 0.5),
    ],
)
def test_reads(text, unit, mm):
    assert evaluate(text, unit, NAMES) == pytest.approx(mm, abs=1e-12)


@pytest.mark.parametrize(
    ("text", "column", "says"),
    [
        ("", 0, "missing"),
        ("18+", 3, "too early"),
        ("18+*2", 3, "not expected"),
        ("4 $ 5", 2, "no meaning"),
        ("(4+5", 0, "never closed"),
        ("4)", 1, "not expected"),
        ("3mm*4mm", 3, "length times length"),
        ("3/(2mm)", 1, "divided by a length"),
        ("3 / 0", 2, "zero"),
        ("1 1/0", 0, "zero"),
        ("Q+1", 0, "known: L, R"),
        ("__import__('os')", 0, "no length is called"),
        ("(" * 90, 0, "too many"),
        ("9" * 300, 200, "too long"),
    ],
)
def test_refuses_with_the_place(text, column, says):
    with pytest.raises(ExpressionError, match=says) as refused:
        evaluate(text, names=NAMES)
    assert refused.value.column == column


@given(st.text(max_size=40))
def test_any_text_is_read_or_refused(text):
    try:
        value = evaluate(text)
    except ExpressionError as error:
        assert 0 <= error.column <= len(text)
    else:
        assert math.isfinite(value)


@given(st.integers(-(10**6), 10**6))
def test_shown_mm_read_back(hundredths):
    mm = hundredths / 100
    assert evaluate(show(mm)) == pytest.approx(mm, abs=1e-9)


@given(st.integers(-4000, 4000))
def test_shown_fractions_read_back(sixty_fourths):
    mm = sixty_fourths * 25.4 / 64
    shown = show(mm, Unit.INCH_FRACTION)
    # a negative mixed fraction is read as minus the whole of it
    assert evaluate(shown, Unit.INCH_FRACTION) == pytest.approx(mm, abs=1e-9)


def test_a_length_keeps_its_words():
    length = Length.read(" 18+26.5 ")
    assert (length.text, length.mm, length.is_sum) == ("18+26.5", 44.5, True)
    assert not Length.read("-4").is_sum


# --- lengths in sentences ------------------------------------------------------------------------


@given(st.floats(-5000, 5000, allow_nan=False), st.sampled_from(list(Unit)))
def test_a_marked_length_is_said_as_it_is_shown(mm, unit):
    shown = show(mm, unit)
    if shown != "0":
        assert said(figure(mm), unit) == shown
        assert said(measure(mm), unit) == f"{shown} {unit.label}"
    assert "⟦" not in said(f"{figure(mm)} and {worded(mm, 'L-2')} {measure(mm)}", unit)


def test_words_stand_behind_a_figure_where_they_say_more():
    assert said(worded(38.1, "1 1/2"), Unit.INCH_FRACTION) == "1 1/2"
    assert said(worded(38.1, "L-1/2"), Unit.INCH_FRACTION) == "1 1/2 (L-1/2)"
    assert said(worded(44.5, figure(44.5))) == "44.5"
    assert said(measure(0.0004)) == "0.0004 mm"  # small, and yet not nothing


def test_an_error_is_said_in_the_readers_unit_and_keeps_its_lengths_on_the_way():
    error = PartError(f"goes {measure(38.1)} deep", 2)
    sent = pickle.loads(pickle.dumps(error))
    assert str(sent) == "goes 38.1 mm deep"
    assert (sent.said(Unit.INCH_FRACTION), sent.operation) == ("goes 1 1/2 in deep", 2)


@pytest.mark.parametrize(
    ("text", "mm"),
    [("26,5", 26.5), ("18+26,5", 44.5), ("2*10,25 mm", 20.5), ("0,5", 0.5), ("10,5/2", 5.25),
     ("(3,5+1)*2", 9.0)],
)  # fmt: skip
def test_a_comma_is_a_decimal_point_in_a_single_length(text, mm):
    read = Length.read(text)
    assert read.mm == pytest.approx(mm)
    assert read.text == text.replace(",", ".")


@pytest.mark.parametrize("text", ["1,234.5", "1,234,5", "26,", ",5", "26, 5", "2,5,"])
def test_what_a_comma_could_mean_otherwise_is_not_guessed(text):
    with pytest.raises(ExpressionError):
        Length.read(text)


def test_in_a_list_of_places_a_comma_parts_the_two_ways():
    corner, *_ = read_outline("26,5; 40,5; 40,9", Unit.MM, {})
    assert (corner.u.mm, corner.v.mm) == (26, 5)
