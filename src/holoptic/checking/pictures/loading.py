"""Pictures of sheets from files: whatever a scanner or camera writes, within bounds, as grey."""

from __future__ import annotations

from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from holoptic.bounded import read_bounded
from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.quoting import name_of
from holoptic.tolerance import SOLVED

Grey = NDArray[np.uint8]
_MOST_BYTES = 200 * 1024**2
_MOST_PIXELS = 120_000_000
_ENOUGH_PIXELS = 40_000_000
"""A larger picture is halved until it has no more: an A3 scan at 600 dpi."""
_LEAST_SIDE = 200
_PDF_DPI = 300
_JPEG, _JPEG_SCANS, _JPEG_ENDS = b"\xff\xd8", b"\xff\xda", b"\xff\xd9"


def load(path: Path, number: int = 1) -> Grey:
    """Return the picture in a file, 8 bits of grey; of a PDF file that of a page, counted from 1.

    Raises BadInput for what is none.
    """
    data = read_bounded(path, _MOST_BYTES)
    if not data:
        raise BadInput(tr("{name} is empty", name=name_of(path)))
    picture = _page(data, path, number) if data[:5] == b"%PDF-" else _decoded(data, path)
    high, wide = picture.shape
    if min(high, wide) < _LEAST_SIDE:
        raise BadInput(tr("{name}: {wide} × {high} dots are too few to check a sheet",
                          name=name_of(path), wide=wide, high=high))  # fmt: skip
    while picture.size > _ENOUGH_PIXELS:
        picture = cv2.resize(picture, (picture.shape[1] // 2, picture.shape[0] // 2),
                             interpolation=cv2.INTER_AREA)  # fmt: skip
    return picture


def _decoded(data: bytes, path: Path) -> Grey:
    size = _size_told(data)
    if size is not None and size[0] * size[1] > _MOST_PIXELS:
        raise BadInput(tr("{name}: {wide} × {high} dots are more than can be checked",
                          name=name_of(path), wide=size[0], high=size[1]))  # fmt: skip
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


def _size_told(data: bytes) -> tuple[int, int] | None:
    """Return how large a PNG says that it is; None for what must be decoded to know."""
    if data[:8] == b"\x89PNG\r\n\x1a\n" and len(data) >= 24:
        return int.from_bytes(data[16:20], "big"), int.from_bytes(data[20:24], "big")
    return None


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
