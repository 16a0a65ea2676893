"""Painting that ends whatever happens: Qt must not be left with a painter at work."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from PyQt6.QtGui import QPaintDevice, QPainter


@contextmanager
def painting(on: QPaintDevice) -> Iterator[QPainter]:
    """Give a smooth painter on a widget or a picture, and end it, also after an exception."""
    painter = QPainter(on)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    try:
        yield painter
    finally:
        painter.end()
