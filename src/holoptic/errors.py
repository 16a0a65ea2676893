"""What can go wrong, as one tree.

HolopticError                 the base: its text is one clear line for the user
├── BadInput                  a file or a field that cannot be used
│   └── ExpressionError       a length that cannot be read; knows the column
│       └── UnknownName       it uses a name that no length has
├── PartError                 a part that cannot be made; knows the operation
└── KernelTrouble             the kernel's process crashed, hung or was stopped
"""

from __future__ import annotations

from collections.abc import Iterable
from difflib import get_close_matches
from typing import TYPE_CHECKING

from holoptic.catalogue import tr
from holoptic.quoting import one_line

if TYPE_CHECKING:
    from holoptic.units.formats import Unit


class HolopticError(Exception):
    """Base of everything Holoptic raises on purpose. Its text may have lengths marked (in mm)."""

    def __str__(self) -> str:
        return self.said()

    def said(self, unit: Unit | None = None) -> str:
        """Return the text with its lengths in a unit, mm without one."""
        # here, as reading lengths raises these errors itself
        from holoptic.units.formats import Unit  # noqa: PLC0415
        from holoptic.units.spoken import said  # noqa: PLC0415

        # what a file is quoted with may be anything: it is cut to a line
        return one_line(said(super().__str__(), unit or Unit.MM))


class BadInput(HolopticError):
    """A file, an option or a field that cannot be used as it is."""


class ExpressionError(BadInput, ValueError):
    """A length expression that cannot be read.

    `column` is the place of the trouble in the text, counted from 0.
    """

    def __init__(self, message: str, column: int = 0) -> None:
        super().__init__(message)
        self.column = column

    def __reduce__(self) -> tuple[type, tuple[str, int]]:
        return type(self), (self.args[0], self.column)


class UnknownName(ExpressionError):
    """A length expression with a name that no length has; says which come near."""

    def __init__(self, name: str, known: Iterable[str] = (), column: int = 0) -> None:
        words = list(known)
        near = get_close_matches(name, words, 3, 0.5)
        plain = ", ".join(sorted(word for word in words if "." not in word)) or tr("none here")
        hint = (
            tr("did you mean {names}?", names=" or ".join(near))
            if near
            else tr("known: {plain}", plain=plain)
        )
        super().__init__(tr("no length is called “{name}” ({hint})", name=name, hint=hint), column)
        self.name = name

    def __reduce__(self) -> tuple[type, tuple[str, int]]:
        return ExpressionError, (self.args[0], self.column)


class PartError(HolopticError, ValueError):
    """A part that cannot be made; `operation` is the culprit's index, or None for the crate."""

    def __init__(self, message: str, operation: int | None = None) -> None:
        super().__init__(message)
        self.operation = operation

    def __reduce__(self) -> tuple[type, tuple[str, int | None]]:
        # the error crosses from the worker process to the window
        return type(self), (self.args[0], self.operation)


class KernelTrouble(HolopticError):
    """The geometry kernel's process crashed, ran out of time or memory, or was stopped."""
