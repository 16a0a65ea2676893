"""How wide the letters of the sheet's font are, over the height of its capitals.

Whoever places words must know what they take up before any font is loaded. A test holds the table
against the font.
"""

from __future__ import annotations

_GROUPS = (
    (0.30, "'"),
    (0.35, "′"),
    (0.39, " !.:ijl|"),
    (0.40, ",;"),
    (0.42, "[]"),
    (0.46, "I"),
    (0.47, "()t"),
    (0.48, "1"),
    (0.51, "f…"),
    (0.52, '"`'),
    (0.56, "-″"),
    (0.58, "r"),
    (0.59, "{}"),
    (0.65, "°"),
    (0.67, "svxy"),
    (0.68, "$z"),
    (0.69, "*^–“”"),
    (0.72, "ck"),
    (0.74, "Je"),
    (0.77, "o"),
    (0.78, "/\\_"),
    (0.79, "hnu"),
    (0.80, "abdgpq"),
    (0.85, "½¼¾⅛⅜⅝⅞"),
    (0.86, "XZ"),
    (0.87, "+<=>?×±"),
    (0.88, "~"),
    (0.89, "LY"),
    (0.90, "F"),
    (0.91, "#023456789GKS"),
    (0.92, "P"),
    (0.93, "ACTV"),
    (0.94, "BDEw"),
    (0.95, "R"),
    (0.97, "HU"),
    (0.98, "N"),
    (1.00, "OQ"),
    (1.06, "&"),
    (1.13, "M"),
    (1.17, "%m⌀"),
    (1.18, "W"),
    (1.19, "@"),
)
_WIDTHS = {letter: width for width, letters in _GROUPS for letter in letters}
_OTHER = 1.0
"""What any other letter is taken for."""


def width_of(text: str, height: float) -> float:
    """Return how wide a line of lettering is, mm, with capitals of a height."""
    return height * sum(_WIDTHS.get(letter, _OTHER) for letter in text)
