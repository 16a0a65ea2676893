"""Pictures of sheets from files: whatever a scanner or camera writes, within bounds, as grey."""

from __future__ import annotations

import io
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from holoptic.bounded import read_bounded
from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.foreign import LARGEST_PICTURE
from holoptic.heads import FORMATS, MOST_PIXELS, ODD_HEADS, Told, require_dots, told_in
from holoptic.quoting import name_of
from holoptic.tolerance import SOLVED

Grey = NDArray[np.uint8]
_ENOUGH_PIXELS = 40_000_000
"""A larger picture is halved until it has no more: an A3 scan at 600 dpi."""
_LEAST_SIDE = 200
_PDF_DPI = 300
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
    told = told_in(data)
    require_dots(told, path)
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


def _one_of(data: bytes, path: Path, number: int, told: Told) -> Grey:
    """Return a page of several, counted from 1; of a picture that moves the first."""
    try:
        with Image.open(io.BytesIO(data), formats=FORMATS) as image:
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
            if image.size[0] * image.size[1] > MOST_PIXELS:
                raise BadInput(_no_picture(path))
            return np.array(image.convert("L"), np.uint8)
    except ODD_HEADS as error:
        raise BadInput(_no_picture(path)) from error


def _page(data: bytes, path: Path, number: int) -> Grey:
    """Return a page of a PDF file as a picture."""
    import pypdfium2  # noqa: PLC0415 - only here

    try:
        document = pypdfium2.PdfDocument(data)
        page = document[number - 1]
        wide, high = page.get_size()
        scale = _PDF_DPI / 72.0
        if wide * high * scale * scale > MOST_PIXELS:
            scale = (MOST_PIXELS / (wide * high)) ** 0.5
        dots = page.render(scale=scale, grayscale=True).to_numpy()
        return np.ascontiguousarray(dots.reshape(dots.shape[0], dots.shape[1], -1)[:, :, 0])
    except (pypdfium2.PdfiumError, IndexError, ValueError) as error:
        raise BadInput(_no_picture(path)) from error
