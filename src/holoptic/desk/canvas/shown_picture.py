"""A scan or a photo on a canvas, sharp at every size."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QImage, QPainter

_LEAST_LEVEL_DOTS = 700


class ShownPicture:
    """A picture in several sizes, so that fine pencil lines stay in sight however small it is."""

    def __init__(self, image: QImage) -> None:
        self._images = [image]
        while max(self._images[-1].width(), self._images[-1].height()) > _LEAST_LEVEL_DOTS:
            last = self._images[-1]
            self._images.append(
                last.scaled(last.width() // 2, last.height() // 2,
                            Qt.AspectRatioMode.IgnoreAspectRatio,
                            Qt.TransformationMode.SmoothTransformation)
            )  # fmt: skip

    def paint(self, painter: QPainter, target: QRectF, room: QRectF) -> None:
        """Paint what of the picture, all of it in a target (pixels), lies in a room."""
        shown = target.intersected(room)
        if shown.isEmpty() or target.isEmpty():
            return
        dots = painter.deviceTransform().m11() * target.width()
        image = next((one for one in reversed(self._images) if one.width() >= dots),
                     self._images[0])  # fmt: skip
        x, y = image.width() / target.width(), image.height() / target.height()
        source = QRectF((shown.left() - target.left()) * x, (shown.top() - target.top()) * y,
                        shown.width() * x, shown.height() * y)  # fmt: skip
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(shown, image, source)
