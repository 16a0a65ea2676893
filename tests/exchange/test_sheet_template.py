"""Sheet templates: what they say goes over a sheet, what they cannot be is one line."""

import json
from dataclasses import replace

import pytest

from holoptic.errors import BadInput
from holoptic.exchange.sheet_template import save_template, with_template
from holoptic.job import AS_FITS, Sheet, TitleEntries

ASKED = replace(AS_FITS, paper="A3", upright=True, dimensions="auto", style="ASME", margin_mm=11.5)


def template(tmp_path, **content):
    path = tmp_path / "works.sheet.json"
    path.write_text(json.dumps({"format": "holoptic-sheet", "version": 1, **content}), "utf-8")
    return path


def test_a_template_comes_back_as_it_was_saved(tmp_path):
    path = tmp_path / "works.sheet.json"
    save_template(path, ASKED, TitleEntries(work="Skerry Lamp Works", checked_by="O. Fenn"))
    made = with_template(Sheet("s1", title=TitleEntries(part="latch plate")), path)
    assert made.wish == ASKED
    assert made.title == TitleEntries(
        work="Skerry Lamp Works", part="latch plate", checked_by="O. Fenn"
    )


def test_what_it_does_not_say_stays(tmp_path):
    path = template(tmp_path, wish={"scale": 0.5})
    assert with_template(Sheet("s1", wish=ASKED), path).wish == replace(ASKED, scale=0.5)


@pytest.mark.parametrize(
    ("content", "says"),
    [
        ({"wish": {"paper": "A9"}}, "A9"),
        ({"wish": {"colour": "red"}}, "colour"),
        ({"wish": {"margin_mm": -4.0}}, "margin"),
        ({"title": {"drawn_by": 7}}, "drawn_by"),
        ({"wish": []}, "no sheet template"),
        ({"version": 9}, "another version"),
        ({"format": "holoptic-job"}, "no sheet template"),
    ],
)
def test_what_a_template_cannot_be_is_one_line(tmp_path, content, says):
    with pytest.raises(BadInput, match=says) as caught:
        with_template(Sheet("s1"), template(tmp_path, **content))
    assert "\n" not in str(caught.value)


@pytest.mark.parametrize("data", [b"", b"[1, 2", b"\xff\xfe", b"[" * 100_000])
def test_a_file_from_elsewhere_is_no_template(tmp_path, data):
    path = tmp_path / "other.json"
    path.write_bytes(data)
    with pytest.raises(BadInput, match=r"other\.json"):
        with_template(Sheet("s1"), path)
    with pytest.raises(BadInput, match="cannot be read"):
        with_template(Sheet("s1"), tmp_path / "missing.json")
