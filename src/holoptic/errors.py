"""What can go wrong, as one tree.

HolopticError                 the base: its text is one clear line for the user
├── BadInput                  a file or a field that cannot be used
│   └── ExpressionError       a length that cannot be read; knows the column
├── PartError                 a part that cannot be made; knows the operation
└── KernelTrouble             the kernel's process crashed, hung or was stopped
"""

from __future__ import annotations


class HolopticError(Exception):
    """Base of everything Holoptic raises on purpose."""


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
        return type(self), (str(self), self.column)


class PartError(HolopticError, ValueError):
    """A part that cannot be made; `operation` is the culprit's index, or None for the crate."""

    def __init__(self, message: str, operation: int | None = None) -> None:
        super().__init__(message)
        self.operation = operation

    def __reduce__(self) -> tuple[type, tuple[str, int | None]]:
        # the error crosses from the worker process to the window
        return type(self), (str(self), self.operation)


class KernelTrouble(HolopticError):
    """The geometry kernel's process crashed, ran out of time or memory, or was stopped."""
