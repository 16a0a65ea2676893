"""Pictures of sheets as files, to be shown elsewhere."""

from __future__ import annotations

import io

import cv2
from PIL import Image

from holoptic.checking.pictures.ink import Grey

_PACKED = 3
_QUALITY = 82
"""Pencil lines stay crisp, and an A3 sheet takes less than two megabytes."""


def as_jpeg(picture: Grey) -> bytes:
    """Return a grey picture as a JPEG file."""
    done, data = cv2.imencode(".jpg", picture, [cv2.IMWRITE_JPEG_QUALITY, _QUALITY])
    assert done
    return bytes(data.tobytes())


def as_png(picture: Grey, dpi: int | None = None) -> bytes:
    """Return a grey picture as a PNG file, which may say how many dots an inch it has."""
    file = io.BytesIO()
    said = {} if dpi is None else {"dpi": (dpi, dpi)}
    Image.fromarray(picture).save(file, "PNG", compress_level=_PACKED, **said)
    return file.getvalue()


def no_larger_than(picture: Grey, dots: int) -> tuple[Grey, float]:
    """Return a picture with no side longer than some dots, and how large that is to what it was."""
    share = min(1.0, dots / max(picture.shape))
    if share == 1.0:
        return picture, share
    size = round(picture.shape[1] * share), round(picture.shape[0] * share)
    small: Grey = cv2.resize(picture, size, interpolation=cv2.INTER_AREA)
    return small, share
