"""What the head of a picture says, before anything of it is decoded."""

from __future__ import annotations

import io
import struct
from pathlib import Path
from typing import BinaryIO, NamedTuple

from PIL import Image

from holoptic.bounded import opened_for_reading
from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.quoting import name_of

FORMATS = ("PNG", "JPEG", "TIFF", "BMP", "WEBP")
"""Nothing else is opened: some formats have other programs run to be read."""
ODD_HEADS = (OSError, ValueError, SyntaxError, struct.error, EOFError, TypeError, KeyError,
             IndexError, AttributeError, ZeroDivisionError, MemoryError)  # fmt: skip
"""What reading the head of a damaged picture may raise."""
MOST_PIXELS = 120_000_000
Image.MAX_IMAGE_PIXELS = None  # bounds are our own, and said in dots
_OF_SEVERAL = ("PNG", "TIFF", "WEBP")
_PNG = b"\x89PNG\r\n\x1a\n"


class Told(NamedTuple):
    """What the head of a picture says: dots, dots an inch along both sides (0 where it says
    nothing), and how many pictures it holds.
    """

    wide: int
    high: int
    dpi: tuple[float, float]
    pictures: int


def told_by(file: BinaryIO) -> Told | None:
    """Return what the head of a picture in an open file says; None where nobody can tell."""
    try:
        with Image.open(file, formats=FORMATS) as image:
            dpi = image.info.get("dpi", (0, 0))
            wide, high = image.size
            # a telephone's JPEG may hold small pictures of itself behind the one that is meant
            several = getattr(image, "n_frames", 1) if image.format in _OF_SEVERAL else 1
            return Told(wide, high, (float(dpi[0]), float(dpi[1])), several)
    except ODD_HEADS:
        pass
    return _of_png(file)


def _of_png(file: BinaryIO) -> Told | None:
    """Return the size in a head that is damaged, which others may yet decode."""
    try:
        file.seek(0)
        data = file.read(24)
    except ValueError:  # it was closed over its damage
        return None
    if data[:8] == _PNG and len(data) == 24:
        wide, high = (int.from_bytes(data[at : at + 4], "big") for at in (16, 20))
        return Told(wide, high, (0.0, 0.0), 1)
    return None


def told_in(data: bytes) -> Told | None:
    """Return the same of a picture that was read."""
    return told_by(io.BytesIO(data))


def told_of(path: Path) -> Told | None:
    """Return the same of a picture in a file. Raises BadInput where it cannot be read."""
    with opened_for_reading(path) as file:
        return told_by(file)


def require_dots(told: Told | None, path: Path) -> None:
    """Raise BadInput where a picture says that it has more dots than are decoded."""
    if told is not None and told.wide * told.high > MOST_PIXELS:
        raise BadInput(tr("{name}: {wide} × {high} dots are more than can be checked",
                          name=name_of(path), wide=told.wide, high=told.high))  # fmt: skip
