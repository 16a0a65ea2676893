"""A small strict grammar for lengths; nothing is ever evaluated as code.

    sum     := product (('+' | '-') product)*
    product := signed (('*' | '/') signed)*
    signed  := ('+' | '-') signed | amount
    amount  := '(' sum ')' | NAME | feet-inch | NUMBER [UNIT]
    NUMBER  := 18 | 26.5 | 26,5 | 5/8 | 3 1/8 (a fraction has whole numbers and no spaces
                                               around its bar; anything else divides)
    UNIT    := mm | cm | m | in | ft | " | '
    feet-inch := NUMBER ' NUMBER ["]          (2'6", 2' 6 1/2")

A number without a unit is a plain number until it meets a length; a result that is still
plain is taken in the unit of the part.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass

from holoptic.catalogue import tr
from holoptic.errors import ExpressionError, UnknownName
from holoptic.units.formats import MM_PER_INCH, Unit

_UNITS_MM = {
    "mm": 1.0,
    "cm": 10.0,
    "m": 1000.0,
    "in": MM_PER_INCH,
    '"': MM_PER_INCH,
    "ft": 12 * MM_PER_INCH,
    "'": 12 * MM_PER_INCH,
}
UNIT_WORDS = frozenset(_UNITS_MM)
_LONGEST_TEXT = 200
_DEEPEST_NESTING = 40

_TOKEN = re.compile(
    r"""\s*(?:
        (?P<number>\d+\s+\d+/\d+|\d+/\d+|\d+,\d+|\d+(?:\.\d*)?|\.\d+)
      | (?P<word>[A-Za-z_][A-Za-z_0-9]*(?:\.[a-z]+)?)
      | (?P<mark>[-+*/()"'])
    )""",
    re.VERBOSE,
)

_PLAIN_NUMBER = re.compile(r"\s*(?P<number>\d+,\d+|\d+(?:\.\d*)?|\.\d+)")
"""What may follow a division bar: in L/2/3 the 2/3 is no fraction."""


@dataclass(frozen=True)
class _Token:
    kind: str
    text: str
    column: int


@dataclass(frozen=True)
class _Amount:
    """A value with its dimension: 0 a plain number, 1 a length in mm."""

    value: float
    dimension: int


def evaluate(text: str, unit: Unit = Unit.MM, names: Mapping[str, float] | None = None) -> float:
    """Return the length in mm that `text` says.

    `unit` is the unit of numbers that carry none; `names` gives lengths in mm by name.
    Raises ExpressionError, with the column of the trouble.

    >>> evaluate("18+26.5")
    44.5
    >>> evaluate("3 1/8", Unit.INCH_FRACTION)
    79.375
    """
    if len(text) > _LONGEST_TEXT:
        raise ExpressionError(tr("this sum is too long"), _LONGEST_TEXT)
    parser = _Parser(_tokens(text), len(text.rstrip()), unit, names or {})
    return parser.result()


def _tokens(text: str) -> list[_Token]:
    tokens: list[_Token] = []
    position = 0
    while text[position:].strip():
        divides = bool(tokens) and tokens[-1].text == "/"
        match = (_PLAIN_NUMBER if divides else _TOKEN).match(text, position)
        match = match or _TOKEN.match(text, position)
        if match is None:
            column = position + len(text[position:]) - len(text[position:].lstrip())
            raise ExpressionError(
                tr("“{text_}” has no meaning in a length", text_=text[column]), column
            )
        kind = match.lastgroup or ""
        if "," in match[kind] and text[match.end() : match.end() + 1] in (".", ","):
            raise ExpressionError(
                tr("a comma is read as the decimal point: write no other mark in a figure"),
                match.end(),
            )
        tokens.append(_Token(kind, match[kind], match.start(kind)))
        position = match.end()
    return tokens


class _Parser:
    """Recursive descent over the grammar above."""

    def __init__(
        self, tokens: list[_Token], end: int, unit: Unit, names: Mapping[str, float]
    ) -> None:
        self._tokens = tokens
        self._end = end
        self._at = 0
        self._depth = 0
        self._unit_mm = unit.mm
        self._names = names

    def result(self) -> float:
        if not self._tokens:
            raise ExpressionError(tr("a length is missing here"), 0)
        amount = self._sum()
        left = self._peek()
        if left is not None:
            raise ExpressionError(
                tr("“{text_}” is not expected here", text_=left.text), left.column
            )
        value = self._length(amount)
        if not math.isfinite(value):
            raise ExpressionError(tr("this is not a finite length"), 0)
        return value

    def _peek(self) -> _Token | None:
        return self._tokens[self._at] if self._at < len(self._tokens) else None

    def _take(self, marks: str) -> _Token | None:
        token = self._peek()
        if token is not None and token.kind == "mark" and token.text in marks:
            self._at += 1
            return token
        return None

    def _length(self, amount: _Amount) -> float:
        return amount.value if amount.dimension == 1 else amount.value * self._unit_mm

    def _sum(self) -> _Amount:
        total = self._product()
        while mark := self._take("+-"):
            other = self._product()
            sign = 1 if mark.text == "+" else -1
            if total.dimension == other.dimension:
                total = _Amount(total.value + sign * other.value, total.dimension)
            else:  # a plain number beside a length is in the part's unit
                total = _Amount(self._length(total) + sign * self._length(other), 1)
        return total

    def _product(self) -> _Amount:
        total = self._signed()
        while mark := self._take("*/"):
            other = self._signed()
            if mark.text == "*":
                if total.dimension + other.dimension > 1:
                    raise ExpressionError(tr("length times length is not a length"), mark.column)
                total = _Amount(total.value * other.value, total.dimension + other.dimension)
                continue
            if other.value == 0:
                raise ExpressionError(tr("this divides by zero"), mark.column)
            if other.dimension > total.dimension:
                raise ExpressionError(tr("a number cannot be divided by a length"), mark.column)
            total = _Amount(total.value / other.value, total.dimension - other.dimension)
        return total

    def _signed(self) -> _Amount:
        self._depth += 1
        if self._depth > _DEEPEST_NESTING:
            raise ExpressionError(tr("too many brackets or signs"), 0)
        try:
            if mark := self._take("+-"):
                inner = self._signed()
                return _Amount(inner.value if mark.text == "+" else -inner.value, inner.dimension)
            return self._amount()
        finally:
            self._depth -= 1

    def _amount(self) -> _Amount:
        token = self._peek()
        if token is None:
            raise ExpressionError(tr("the sum stops too early"), self._end)
        if self._take("("):
            inner = self._sum()
            if not self._take(")"):
                raise ExpressionError(tr("this bracket is never closed"), token.column)
            return inner
        self._at += 1
        if token.kind == "word":
            return self._named(token)
        if token.kind == "number":
            return self._number(token)
        raise ExpressionError(tr("“{text_}” is not expected here", text_=token.text), token.column)

    def _named(self, token: _Token) -> _Amount:
        if token.text not in self._names:
            raise UnknownName(token.text, self._names, token.column)
        return _Amount(self._names[token.text], 1)

    def _number(self, token: _Token) -> _Amount:
        value = _parse_number(token)
        unit = self._unit()
        if unit is None:
            return _Amount(value, 0)
        length = value * _UNITS_MM[unit]
        if unit == "'" and (inches := self._peek()) is not None and inches.kind == "number":
            self._at += 1
            length += _parse_number(inches) * MM_PER_INCH
            self._take('"')
        return _Amount(length, 1)

    def _unit(self) -> str | None:
        token = self._peek()
        if token is not None and token.text in _UNITS_MM and token.text not in self._names:
            self._at += 1
            return token.text
        return None


def _parse_number(token: _Token) -> float:
    """Read 18, 26.5, 5/8 or 3 1/8."""
    whole, _, fraction = token.text.rpartition(" ")
    if "/" not in token.text:
        return float(token.text.replace(",", "."))  # as people write who count so
    top, bottom = fraction.split("/")
    if int(bottom) == 0:
        raise ExpressionError(tr("this divides by zero"), token.column)
    return (float(whole) if whole.strip() else 0.0) + int(top) / int(bottom)
