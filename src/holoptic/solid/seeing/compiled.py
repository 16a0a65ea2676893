"""The compiled part: where it lies, how it is made, and what it is called with.

It is made at set-up (`python -m holoptic.solid.seeing.compiled`), never while somebody waits. Its
file bears the source's own hash, so that it is never that of another version; where it is missing
the kernel's way serves.
"""

from __future__ import annotations

import ctypes
import hashlib
import os
import platform
import shutil
import subprocess
import sys
import tempfile
from functools import cache
from pathlib import Path

SOURCE = Path(__file__).parent / "native" / "hidden_lines.c"
_OPTIONS = ("-std=c11", "-O2", "-fPIC", "-shared")
# a sum must come out the same wherever it is worked out
_STEADY = ("-ffp-contract=off",)

_INT = ctypes.POINTER(ctypes.c_int32)
_REAL = ctypes.POINTER(ctypes.c_double)
_BYTE = ctypes.POINTER(ctypes.c_uint8)


class SolidC(ctypes.Structure):
    """What does not depend on the direction, as the compiled part takes it."""

    _fields_ = (
        ("faces", ctypes.c_int32), ("edges", ctypes.c_int32), ("uses", ctypes.c_int32),
        ("face_kind", _INT), ("frame", _REAL), ("sizes", _REAL), ("sign", _REAL), ("uv", _REAL),
        ("is_whole", _BYTE), ("is_sheet", _BYTE), ("has_apex", _BYTE),
        ("ring_start", _INT), ("rings", _REAL),
        ("edge_kind", _INT), ("curve", _REAL), ("span", _REAL), ("beside", _INT),
        ("reversed", _BYTE), ("flags", _BYTE), ("sample_start", _INT), ("samples", _REAL),
        ("use", _INT),
        ("net_start", _INT), ("net_size", _INT), ("net", _REAL),
        ("lean_start", _INT), ("lean", _REAL), ("body", _INT), ("bodies", ctypes.c_int32),
        ("body_box", _REAL),
    )  # fmt: skip


class SeenC(ctypes.Structure):
    """What is seen, as the compiled part gives it."""

    _fields_ = (
        ("pieces", ctypes.c_int32), ("lines", ctypes.c_int32), ("points", ctypes.c_int32),
        ("line", _INT), ("from_to", _REAL), ("sight", _BYTE),
        ("kind", _INT), ("edge", _INT), ("face", _INT), ("reach", _REAL), ("mark", _BYTE),
        ("curve", _REAL),
        ("point_start", _INT), ("point", _REAL),
    )  # fmt: skip


def path() -> Path:
    """Return where the compiled part of this very source lies for this machine."""
    marks = hashlib.sha256(SOURCE.read_bytes())
    marks.update(" ".join((*_OPTIONS, *_STEADY, platform.machine(), sys.platform)).encode())
    return SOURCE.with_name(f"hidden_lines-{marks.hexdigest()[:16]}.so")


@cache
def library() -> ctypes.CDLL | None:
    """Return the compiled part, or None where there is none."""
    try:
        found = ctypes.CDLL(str(path()))
    except OSError:
        return None
    found.see.argtypes = (ctypes.POINTER(SolidC), _REAL, ctypes.POINTER(SeenC))
    found.see.restype = ctypes.c_int
    found.mark_edges.argtypes = (ctypes.POINTER(SolidC), _BYTE)
    found.mark_edges.restype = ctypes.c_int
    found.depths.argtypes = (ctypes.POINTER(SolidC), _REAL, ctypes.c_int32, _REAL, _REAL)
    found.depths.restype = ctypes.c_int
    found.release.argtypes = (ctypes.POINTER(SeenC),)
    found.release.restype = None
    return found


def build() -> bool:
    """Compile it where that was not done yet; say whether it is there."""
    target = path()
    if target.exists():
        return True
    compiler = next(filter(None, map(shutil.which, ("cc", "gcc", "clang"))), None)
    if compiler is None or not os.access(target.parent, os.W_OK):
        return False
    with tempfile.TemporaryDirectory(dir=target.parent) as folder:
        made = Path(folder) / target.name
        command = [compiler, *_OPTIONS, *_STEADY, str(SOURCE), "-o", str(made), "-lm"]
        if subprocess.run(command, check=False).returncode:
            return False
        made.replace(target)
    for old in target.parent.glob("hidden_lines-*.so"):
        if old != target:
            old.unlink(missing_ok=True)
    return True


if __name__ == "__main__":
    raise SystemExit(0 if build() else 1)
