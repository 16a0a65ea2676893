"""Draw the desktop's icons at all sizes: scripts/make_icons.py, after a change of an SVG."""

import os
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication, QImage, QPainter
from PyQt6.QtSvg import QSvgRenderer

FOLDER = Path(__file__).parents[1] / "src" / "holoptic" / "assets" / "integration" / "icons"
SIZES = (16, 24, 32, 48, 64, 128, 256)


def main() -> None:
    """Draw them."""
    app = QGuiApplication([])
    for drawing in sorted(FOLDER.glob("*.svg")):
        renderer = QSvgRenderer(str(drawing))
        for size in SIZES:
            image = QImage(size, size, QImage.Format.Format_ARGB32)
            image.fill(Qt.GlobalColor.transparent)
            painter = QPainter(image)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            renderer.render(painter)
            painter.end()
            target = FOLDER / str(size) / f"{drawing.stem}.png"
            target.parent.mkdir(exist_ok=True)
            image.save(str(target))
    del app


if __name__ == "__main__":
    main()
