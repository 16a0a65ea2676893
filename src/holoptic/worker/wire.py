"""How questions and answers cross between the processes: as data, whatever is sent.

The worker reads foreign files with a geometry kernel that was not made for hostile ones, so the
window does not trust it: what arrives may name classes of ours that hold data, and little else.
Nothing that arrives can have anything run (Python's documentation of `pickle`, “Restricting
globals”).
"""

from __future__ import annotations

import importlib
import io
import pickle
from dataclasses import is_dataclass
from enum import Enum
from functools import cache
from multiprocessing.connection import Connection
from typing import Any

from holoptic.errors import HolopticError

_ROOMS = frozenset({
    "checking", "construction", "curves", "dimensions", "errors", "job", "part", "pictorial",
    "plan", "practice", "reading", "sheet", "spread", "units", "views", "catalogue",
})  # fmt: skip
_MODULES = frozenset({
    "holoptic.paper.axis_levels", "holoptic.paper.given", "holoptic.paper.offers",
    "holoptic.solid.pieces", "holoptic.worker.messages",
})  # fmt: skip
"""Of rooms with much else in them, which the window must not import."""
_OTHERS = frozenset({
    ("holoptic.plan.drafter", "Drafter"),
    ("holoptic.curves.drawn", "Arc"), ("holoptic.curves.drawn", "ArcChain"),
    ("holoptic.curves.drawn", "TrammelEllipse"), ("holoptic.curves.drawn", "FrenchCurve"),
    ("holoptic.curves.drawn", "FreehandArcs"), ("holoptic.pictorial.strokes", "PickKey"),
})  # fmt: skip
"""Classes of ours that hold data without being values."""
_PLAIN = frozenset({
    ("builtins", "complex"), ("builtins", "set"), ("builtins", "frozenset"),
    ("builtins", "bytearray"), ("builtins", "range"), ("builtins", "slice"),
    ("builtins", "list"), ("builtins", "dict"), ("builtins", "tuple"), ("builtins", "int"),
    ("builtins", "float"), ("builtins", "str"),  # what a defaultdict begins with
    ("collections", "Counter"), ("collections", "defaultdict"),
    ("collections", "OrderedDict"), ("collections", "deque"),
    ("datetime", "date"), ("datetime", "datetime"), ("fractions", "Fraction"),
    ("shapely.io", "from_wkb"),  # how regions cross: as well-known binary
    ("pathlib", "PosixPath"), ("pathlib", "PurePosixPath"),
    ("numpy", "ndarray"), ("numpy", "dtype"),
    ("numpy._core.multiarray", "_reconstruct"), ("numpy._core.multiarray", "scalar"),
    ("numpy._core.numeric", "_frombuffer"),
    ("numpy.core.multiarray", "_reconstruct"), ("numpy.core.multiarray", "scalar"),
    ("numpy.core.numeric", "_frombuffer"),
})  # fmt: skip
_LARGEST_BYTES = 1 << 30


class Foreign(pickle.UnpicklingError):
    """Something arrived that is no answer of ours."""


def put(line: Connection, message: object) -> None:
    """Send a message down a line. Raises OSError where that is closed.

    The line's own `send` asks Python about every object, and takes several times as long.
    """
    line.send_bytes(pickle.dumps(message, pickle.HIGHEST_PROTOCOL))


def take(line: Connection) -> Any:
    """Return the next message of a line that is not to be trusted.

    Raises Foreign where it holds anything but data, EOFError or OSError where the line ended.
    """
    return read_message(line.recv_bytes(_LARGEST_BYTES))


def read_message(data: bytes) -> Any:
    """Return the message in some bytes. Raises Foreign where it holds anything but data."""
    try:
        return _Reader(io.BytesIO(data)).load()
    except Foreign:
        raise
    except Exception as error:
        raise Foreign(f"no message of ours: {type(error).__name__}") from error


class _Reader(pickle.Unpickler):
    """Knows the classes that hold data."""

    def find_class(self, module: str, name: str) -> Any:
        """Return a class that may cross. Raises Foreign for anything else."""
        return _known(module, name)


@cache
def _known(module: str, name: str) -> Any:
    if (module, name) in _PLAIN:
        return getattr(importlib.import_module(module), name)
    path = module.split(".")
    if module in _MODULES or (path[0] == "holoptic" and path[1:2] and path[1] in _ROOMS):
        found = getattr(importlib.import_module(module), name, None)
        is_ours = isinstance(found, type) and found.__module__ == module
        if is_ours and ((module, name) in _OTHERS or _holds_data(found)):
            return found
    raise Foreign(f"{module}.{name} is not among what crosses")


def _holds_data(found: Any) -> bool:
    return is_dataclass(found) or issubclass(found, Enum | HolopticError | tuple)
