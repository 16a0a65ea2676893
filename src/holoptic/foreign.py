"""Files of other programs, looked at before anything is made of them.

What is counted here is counted while reading and costs next to nothing; so a file that holds too
much is refused at once, by whoever is asked for it, before a kernel or a library takes it up.
"""

from __future__ import annotations

import os
from pathlib import Path
from typing import BinaryIO

from holoptic.bounded import opened_for_reading, require_size, too_large
from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.quoting import name_of

PICTURE_SUFFIXES = (".png", ".jpg", ".jpeg", ".tif", ".tiff", ".bmp", ".webp", ".pdf")
STEP_SUFFIXES = (".step", ".stp")
DXF_SUFFIX, SVG_SUFFIX = ".dxf", ".svg"
DRAWING_SUFFIXES = (DXF_SUFFIX, SVG_SUFFIX, *PICTURE_SUFFIXES)
"""Of files that hold views: lines, or pictures of them."""

LARGEST_STEP = 256_000_000
"""Bytes of a STEP file."""
LARGEST_SVG, LARGEST_PDF, LARGEST_PICTURE = 32_000_000, 64_000_000, 200 * 1024**2
"""Bytes of a page of lines, and of a picture, which may lie in a PDF file too."""
_LARGEST_DXF, _LARGEST_BINARY_DXF = 64_000_000, 8_000_000
"""Bytes; nothing is counted in a DXF file that is no text."""
_HEADER, _FOOTER = b"ISO-10303-21", b"END-ISO-10303-21"
_LOOK_AHEAD = 4096
_CHUNK = 1 << 20
_MOST_STEP_ENTITIES = 3_000_000
"""A face takes some forty; so this is far above what can be pictured."""
_MOST_LINES = 20_000
_MOST_PAIRS = 500_000
"""Of group code and value; a line takes a dozen."""
_LONGEST_ROW = 4096
_PARTS = (b"VERTEX", b"SEQEND", b"ATTRIB")
"""What belongs to the entity before it."""
_BINARY = b"AutoCAD Binary DXF"


def require_readable(path: Path) -> None:
    """Raise BadInput where a STEP or DXF file is none or holds more than can be read, where a page
    or a picture is no ordinary file, too large, or says that it has too many dots.
    """
    suffix = path.suffix.lower()
    if suffix in STEP_SUFFIXES:
        require_step(path)
    elif suffix == DXF_SUFFIX:
        require_dxf(path)
    elif suffix == SVG_SUFFIX:
        require_size(path, LARGEST_SVG)
    elif suffix in PICTURE_SUFFIXES:
        require_size(path, LARGEST_PICTURE)
        _require_few_dots(path)


def _require_few_dots(path: Path) -> None:
    # seldom needed, and it takes a while to be loaded
    from holoptic.heads import require_dots, told_of  # noqa: PLC0415

    require_dots(told_of(path), path)


def require_step(path: Path) -> None:
    """Raise BadInput where a STEP file is none, is cut off, or holds too much (ISO 10303-21)."""
    with opened_for_reading(path) as file:
        size = os.fstat(file.fileno()).st_size
        start = file.read(_LOOK_AHEAD)
        file.seek(max(0, size - _LOOK_AHEAD))
        end = file.read(_LOOK_AHEAD)
        if _HEADER not in start:
            raise BadInput(tr("{name} is not a STEP file", name=name_of(path)))
        if _FOOTER not in end:
            raise BadInput(tr("{name} is cut off: its last line is missing", name=name_of(path)))
        if size > LARGEST_STEP:
            raise too_large(path, LARGEST_STEP)
        file.seek(0)
        count, before = 0, b""
        while chunk := file.read(_CHUNK):
            count += (before + chunk).count(b"\n#")
            before = chunk[-1:]
            if count > _MOST_STEP_ENTITIES:
                raise BadInput(
                    tr(
                        "{name} holds too much: more than {most} entities",
                        name=name_of(path),
                        most=_MOST_STEP_ENTITIES,
                    )
                )


def require_dxf(path: Path) -> None:
    """Raise BadInput where a DXF file holds more than can be read as views in good time.

    In text it is pairs of rows, a group code and a value; the code 0 begins an entity, or another
    thing of the file.
    """
    with opened_for_reading(path) as file:
        size = os.fstat(file.fileno()).st_size
        is_binary = file.read(len(_BINARY)) == _BINARY
        most = _LARGEST_BINARY_DXF if is_binary else _LARGEST_DXF
        if size > most:
            raise too_large(path, most)
        if is_binary:
            return
        file.seek(0)
        if _holds_too_much(file, path):
            raise BadInput(
                tr(
                    "{name} holds too much: views of more than {most} lines cannot be read",
                    name=name_of(path),
                    most=_MOST_LINES,
                )
            )


def _holds_too_much(file: BinaryIO, path: Path) -> bool:
    entities = 0
    for _ in range(_MOST_PAIRS):
        code, value = file.readline(_LONGEST_ROW), file.readline(_LONGEST_ROW)
        if not value:
            return False
        if max(len(code), len(value)) == _LONGEST_ROW:
            raise BadInput(tr("{name} is no DXF file: its rows do not end", name=name_of(path)))
        if code.strip() == b"0" and value.strip() not in _PARTS:
            entities += 1
            if entities > _MOST_LINES:
                return True
    return True
