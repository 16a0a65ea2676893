"""The table of letter widths against the font that is drawn with."""

import pytest

from holoptic.exchange.pdf_letters import written_width
from holoptic.plan.letter_widths import width_of
from holoptic.sheet.drawing import CAP_HEIGHT

TEXTS = ("6 × ⌀9.8, 4.2 deep", "44.5", "R6.25 (ref)", "detail A, 2:1", "SLW-133", "135°", "1 ½″")


@pytest.mark.parametrize("text", TEXTS)
def test_words_are_as_wide_as_the_font_makes_them(text):
    true = written_width(text, 3.5 / CAP_HEIGHT)
    assert width_of(text, 3.5) == pytest.approx(true, abs=0.02 * len(text))
