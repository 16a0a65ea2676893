"""Papers and scales."""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass, replace

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.job import Series
from holoptic.regional import in_lists, with_mark
from holoptic.tolerance import ROUNDING
from holoptic.units import Unit, evaluate

MM_PER_INCH = 25.4


@dataclass(frozen=True)
class Paper:
    """A sheet; sizes in mm as it lies before the drafter, on its long side unless turned."""

    name: str
    width: float
    height: float
    series: Series = "ISO"

    @property
    def is_upright(self) -> bool:
        """Whether the sheet stands on its short side."""
        return self.height > self.width

    @property
    def title(self) -> str:
        """What a drafter calls it, such as `A4 upright`."""
        return tr("{name} upright", name=self.name) if self.is_upright else self.name

    def turned(self, upright: bool) -> Paper:
        """Return the sheet lying on its long side, or standing on its short one."""
        long, short = max(self.width, self.height), min(self.width, self.height)
        width, height = (short, long) if upright else (long, short)
        return replace(self, width=width, height=height)


def _inches(name: str, width: float, height: float, series: Series) -> Paper:
    return Paper(name, width * MM_PER_INCH, height * MM_PER_INCH, series)


PAPERS = (
    Paper("A4", 297, 210),
    Paper("A3", 420, 297),
    Paper("A2", 594, 420),
    Paper("A1", 841, 594),
    Paper("A0", 1189, 841),
    _inches("ANSI A", 11, 8.5, "ANSI"),
    _inches("ANSI B", 17, 11, "ANSI"),
    _inches("ANSI C", 22, 17, "ANSI"),
    _inches("ANSI D", 34, 22, "ANSI"),
    _inches("ANSI E", 44, 34, "ANSI"),
    _inches("Arch A", 12, 9, "architectural"),
    _inches("Arch B", 18, 12, "architectural"),
    _inches("Arch C", 24, 18, "architectural"),
    _inches("Arch D", 36, 24, "architectural"),
    _inches("Arch E", 48, 36, "architectural"),
)
"""The sheets of each series, the smallest first (ISO 5457, ASME Y14.1; the architects' sizes)."""

SERIES: tuple[Series, ...] = ("ISO", "ANSI", "architectural")

SMALLEST_SCALE, LARGEST_SCALE = 1 / 10_000, 1000.0
"""Paper over true size: nothing smaller or larger is drawn."""

_ISO_SCALES = (10.0, 5.0, 2.0, 1.0, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01, 0.005, 0.002, 0.001)
"""The scales of ISO 5455."""

_INCHES_TO_A_FOOT = {
    3.0: '3"', 1.5: '1½"', 1.0: '1"', 0.75: '¾"', 0.5: '½"', 0.375: '⅜"', 0.25: '¼"',
    0.1875: '3⁄16"', 0.125: '⅛"', 0.0625: '1⁄16"',
}  # fmt: skip
_INCH_SCALES = (4.0, 2.0, 1.0, 0.5, *(inches / 12 for inches in _INCHES_TO_A_FOOT))
"""Full and half size, enlargements by doubling, and so many inches to a foot."""
_TO_A_FOOT = re.compile(r"""(?P<inches>\d+\s+\d+/\d+|\d+/\d+|\d+(?:\.\d+)?) \s*"?\s* = \s*1\s*'
                        (?:\s*-?\s*0\s*")?""", re.VERBOSE)  # fmt: skip


def paper_named(name: str) -> Paper:
    """Return a paper by its name. Raises BadInput."""
    for paper in PAPERS:
        if paper.name.lower() == name.strip().lower():
            return paper
    known = ", ".join(paper.name for paper in PAPERS)
    raise BadInput(tr("no paper is called “{name}” (known: {known})", name=name, known=known))


def scales_of(series: Series) -> tuple[float, ...]:
    """Return the standard scales of a series of papers, the largest first."""
    return _ISO_SCALES if series == "ISO" else _INCH_SCALES


def scale_words(scale: float, series: Series = "ISO") -> str:
    """Return a scale as a title block states it; on inch papers in inches to a foot.

    >>> scale_words(0.5), scale_words(2), scale_words(1 / 24, "ANSI")
    ('1:2', '2:1', '½" = 1\\'')
    """
    if series != "ISO":
        for inches, words in _INCHES_TO_A_FOOT.items():
            if abs(scale * 12 - inches) < ROUNDING:
                return f"{words} = 1'"
    return f"{scale:g}:1" if scale >= 1 else f"1:{1 / scale:g}"


def shown_scale(scale: float, series: Series = "ISO") -> str:
    """Return a scale as `scale_words` does, with the decimal mark that the reader is used to."""
    return with_mark(scale_words(scale, series))


def _with_plain_fractions(text: str) -> str:
    """Return a text with ½, 1½ or 3⁄16 written by plain figures: 1/2, 1 1/2, 3/16."""
    spaced = re.sub(r"(?<=\d)(?=[¼-¾⅐-⅞])", " ", text)
    return unicodedata.normalize("NFKC", spaced).replace("⁄", "/")


def read_scale(text: str) -> float:
    """Return the ratio of a scale written as 1:2, 2:1, 0.5, ½" = 1' or 1/2" = 1'; with a comma for
    decimals where they have one.

    Raises BadInput.
    """
    plain = text.strip().replace("''", '"')
    plain = in_lists(plain)  # 1:1,000 is no decimal to everybody
    to_a_foot = _TO_A_FOOT.fullmatch(_with_plain_fractions(plain))
    drawn, colon, true = plain.partition(":")
    try:
        if to_a_foot is not None:
            return evaluate(f"({to_a_foot['inches']})/12", Unit.MM)
        ratio = float(drawn) / float(true) if colon else float(drawn)
    except (ValueError, ZeroDivisionError):
        ratio = 0.0
    if not SMALLEST_SCALE <= ratio <= LARGEST_SCALE:
        raise BadInput(tr("“{text_}” is no scale; write it like 1:2, 5:1 or ½\" = 1'", text_=text))
    return ratio
