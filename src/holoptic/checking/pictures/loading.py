"""Pictures of sheets from files: whatever a scanner or camera writes, within bounds, as grey."""

from __future__ import annotations

import io
import struct
from pathlib import Path
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from holoptic.bounded import read_bounded
from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.foreign import LARGEST_PICTURE
from holoptic.quoting import name_of
from holoptic.tolerance import SOLVED

Grey = NDArray[np.uint8]
_MOST_PIXELS = 120_000_000
_ENOUGH_PIXELS = 40_000_000
"""A larger picture is halved until it has no more: an A3 scan at 600 dpi."""
_LEAST_SIDE = 200
_PDF_DPI = 300
_FORMATS = ("PNG", "JPEG", "TIFF", "BMP", "WEBP")
"""Nothing else is opened: some formats have other programs run to be read."""
_OF_SEVERAL = ("PNG", "TIFF", "WEBP")
_PNG = b"\x89PNG\r\n\x1a\n"
_ODD_HEADS = (OSError, ValueError, SyntaxError, struct.error, EOFError, TypeError, KeyError,
              IndexError, AttributeError, ZeroDivisionError, MemoryError)  # fmt: skip
"""What reading the head of a damaged picture may raise."""
Image.MAX_IMAGE_PIXELS = None  # bounds are our own, and said in dots
_JPEG, _JPEG_SCANS, _JPEG_ENDS = b"\xff\xd8", b"\xff\xda", b"\xff\xd9"


def load(path: Path, number: int = 1) -> Grey:
    """Return the picture in a file, 8 bits of grey; of a PDF file that of a page, counted from 1.

    Raises BadInput for what is none.
    """
    data = read_bounded(path, LARGEST_PICTURE)
    if not data:
        raise BadInput(tr("{name} is empty", name=name_of(path)))
    read = _page if data[:5] == b"%PDF-" else _decoded
    picture = read(data, path, number)
    high, wide = picture.shape
    if min(high, wide) < _LEAST_SIDE:
        raise BadInput(tr("{name}: {wide} × {high} dots are too few to check a sheet",
                          name=name_of(path), wide=wide, high=high))  # fmt: skip
    while picture.size > _ENOUGH_PIXELS:
        picture = cv2.resize(picture, (picture.shape[1] // 2, picture.shape[0] // 2),
                             interpolation=cv2.INTER_AREA)  # fmt: skip
    return picture


def _decoded(data: bytes, path: Path, number: int) -> Grey:
    told = _told(data)
    if told is not None and told.wide * told.high > _MOST_PIXELS:
        raise BadInput(tr("{name}: {wide} × {high} dots are more than can be checked",
                          name=name_of(path), wide=told.wide, high=told.high))  # fmt: skip
    if told is not None and told.pictures > 1:
        return _one_of(data, path, number, told)
    if data[:2] == _JPEG and data.rfind(_JPEG_ENDS) < data.rfind(_JPEG_SCANS):
        raise BadInput(_no_picture(path))  # the library would paint grey what is missing
    try:
        picture = cv2.imdecode(np.frombuffer(data, np.uint8),
                               cv2.IMREAD_ANYDEPTH | cv2.IMREAD_GRAYSCALE)  # fmt: skip
    except cv2.error as error:
        raise BadInput(_no_picture(path)) from error
    if picture is None:
        raise BadInput(_no_picture(path))
    if picture.dtype != np.uint8:
        low, high = float(picture.min()), float(picture.max())
        picture = ((picture - low) * (255.0 / max(high - low, SOLVED))).astype(np.uint8)
    return np.ascontiguousarray(picture)


def _no_picture(path: Path) -> str:
    return tr("{name} is no picture that can be read, or only a part of one", name=name_of(path))


class Told(NamedTuple):
    """What the head of a picture says, before it is decoded: dots, dots an inch along both sides
    (0 where it says nothing), and how many pictures it holds.
    """

    wide: int
    high: int
    dpi: tuple[float, float]
    pictures: int


def told_of(path: Path) -> Told | None:
    """Return what the head of a picture says; None where nobody can tell. Raises BadInput."""
    return _told(read_bounded(path, LARGEST_PICTURE))


def _told(data: bytes) -> Told | None:
    try:
        with Image.open(io.BytesIO(data), formats=_FORMATS) as image:
            dpi = image.info.get("dpi", (0, 0))
            wide, high = image.size
            # a telephone's JPEG may hold small pictures of itself behind the one that is meant
            several = getattr(image, "n_frames", 1) if image.format in _OF_SEVERAL else 1
            return Told(wide, high, (float(dpi[0]), float(dpi[1])), several)
    except _ODD_HEADS:
        pass
    if data[:8] == _PNG and len(data) >= 24:  # a damaged head, which others may yet decode
        wide, high = (int.from_bytes(data[at : at + 4], "big") for at in (16, 20))
        return Told(wide, high, (0.0, 0.0), 1)
    return None


def _one_of(data: bytes, path: Path, number: int, told: Told) -> Grey:
    """Return a page of several, counted from 1; of a picture that moves the first."""
    try:
        with Image.open(io.BytesIO(data), formats=_FORMATS) as image:
            is_pages = image.format == "TIFF"
            if is_pages and not 1 <= number <= told.pictures:
                raise BadInput(
                    tr(
                        "{name} has no page {number}: it has {count}",
                        name=name_of(path),
                        number=number,
                        count=told.pictures,
                    )
                )
            image.seek(number - 1 if is_pages else 0)
            if image.size[0] * image.size[1] > _MOST_PIXELS:
                raise BadInput(_no_picture(path))
            return np.array(image.convert("L"), np.uint8)
    except _ODD_HEADS as error:
        raise BadInput(_no_picture(path)) from error


def _page(data: bytes, path: Path, number: int) -> Grey:
    """Return a page of a PDF file as a picture."""
    import pypdfium2  # noqa: PLC0415 - only here

    try:
        document = pypdfium2.PdfDocument(data)
        page = document[number - 1]
        wide, high = page.get_size()
        scale = _PDF_DPI / 72.0
        if wide * high * scale * scale > _MOST_PIXELS:
            scale = (_MOST_PIXELS / (wide * high)) ** 0.5
        dots = page.render(scale=scale, grayscale=True).to_numpy()
        return np.ascontiguousarray(dots.reshape(dots.shape[0], dots.shape[1], -1)[:, :, 0])
    except (pypdfium2.PdfiumError, IndexError, ValueError) as error:
        raise BadInput(_no_picture(path)) from error
