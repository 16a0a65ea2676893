"""Reading a sentence as a drafter reads it: letters, figures, directions."""

from __future__ import annotations

import re
from collections.abc import Collection
from dataclasses import dataclass

_LETTER = re.compile(r"\b[A-HJ-NP-Z]\d*\b(?!-)")
_TOOLS = re.compile(r"\b(?:30/60|45)(?= set square)|on the 30/60|45°(?= line)|\bA\d(?= sheet)")
_INNERMOST = re.compile(r"\([^()]*\)")
_NUMBER = re.compile(r"(?<![\w.])-?\d+(?:\.\d+)?(?![\w.]*\d)")
_NAMED = re.compile(
    r"\b(?:axis|line|level|upright|circle|tangent|curve|arc|mark|outline|figure) \d+"
)


@dataclass(frozen=True)
class Read:
    """What a sentence says: its letters in order, and its figures, mm or degrees."""

    text: str
    letters: tuple[str, ...]
    figures: tuple[float, ...]

    def says(self, *words: str) -> bool:
        """Say whether one of some words stands in the sentence, whole."""
        return any(re.search(rf"(?<!\w){re.escape(word)}(?!\w)", self.text) for word in words)


def without_given(text: str) -> str:
    """Return a sentence without the words in brackets that sizes were given in."""
    while _INNERMOST.search(text):
        text = _INNERMOST.sub("", text)
    return text


def read(text: str, letters: Collection[str]) -> Read:
    """Return what a sentence says, in a plan of these letters.

    >>> found = read("Lift 44.5 (18+26.5) from the top view. From A set it off: B1.", {"A", "B1"})
    >>> found.letters, found.figures
    (('A', 'B1'), (44.5,))
    """
    plain = without_given(text)
    named = tuple(name for name in _LETTER.findall(plain) if name in letters)
    bare = _NAMED.sub("", _TOOLS.sub("", plain))
    return Read(text, named, tuple(float(number) for number in _NUMBER.findall(bare)))
