"""Operations on the clipboard."""

import pytest

from cast import hole, length, stepped_block
from holoptic.errors import BadInput
from holoptic.exchange.clip import clip_text, read_clip
from holoptic.part import InLine
from holoptic.units import Unit


def test_operations_go_there_and_back():
    for operation in (stepped_block().operations[0], hole(u=9, v=9)):
        assert read_clip(clip_text(operation, Unit.MM)) == (operation, Unit.MM)
    repeated = hole().__class__(**{**vars(hole()), "copies": InLine("u", length(9), 3)})
    assert read_clip(clip_text(repeated, Unit.INCH_DECIMAL)) == (repeated, Unit.INCH_DECIMAL)


@pytest.mark.parametrize("text", ["", "a letter", "{}", '{"format": "holoptic-operation"}',
                                  '{"format": "holoptic-operation", "unit": "mm", "operation": 3}',
                                  "[" * 5000])  # fmt: skip
def test_other_text_is_refused(text):
    with pytest.raises(BadInput, match="holds no operation"):
        read_clip(text)
