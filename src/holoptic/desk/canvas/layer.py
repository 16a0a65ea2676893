"""A layer of a pane: painted once, then kept as a picture and only added to."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Sequence
from typing import Generic, TypeVar

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QPainter, QPixmap

from holoptic.desk.look.painting import painting

Item = TypeVar("Item")


class Layer(Generic[Item]):
    """Items that are painted by `draw` into a picture as large as the pane.

    As long as a pane looks the same way, items that were painted are not painted again: where
    new ones follow them, as on a drawing that grows, only these are added.
    """

    def __init__(self, draw: Callable[[QPainter, Sequence[Item]], None]) -> None:
        self._draw = draw
        self.items: list[Item] = []
        self._painted = 0
        self._picture: QPixmap | None = None
        self._look: Hashable = None

    def show(self, items: Sequence[Item]) -> None:
        """Show items; those painted already stay where they come first, the very same objects."""
        kept = self.items[: self._painted]
        self.items = list(items)
        same = len(self.items) >= len(kept) and all(
            one is other for one, other in zip(kept, self.items, strict=False)
        )
        if not same:
            self._picture = None

    def paint(self, painter: QPainter, size: QSize, ratio: float, look: Hashable) -> None:
        """Paint the layer; `look` stands for all that its appearance hangs on."""
        look = (size.width(), size.height(), ratio, look)
        if self._picture is None or look != self._look:
            self._picture = QPixmap(size * ratio)
            self._picture.setDevicePixelRatio(ratio)
            self._picture.fill(Qt.GlobalColor.transparent)
            self._look, self._painted = look, 0
        if self._painted < len(self.items):
            with painting(self._picture) as brush:
                self._draw(brush, self.items[self._painted :])
            self._painted = len(self.items)
        if self.items:
            painter.drawPixmap(0, 0, self._picture)
