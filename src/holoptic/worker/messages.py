"""What crosses the line between the window's process and the worker: plain data only."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True)
class Request:
    """A question: the name of a task and its arguments."""

    id: int
    task: str
    arguments: tuple[Any, ...]


@dataclass(frozen=True)
class Answer:
    """The outcome of a request: a value, or the error that a task raised on purpose."""

    id: int
    value: Any = None
    error: Exception | None = None
