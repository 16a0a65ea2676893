"""A picture that was pasted or dropped, as a file that a worker can be asked about."""

from __future__ import annotations

import tempfile
from pathlib import Path

from PyQt6.QtGui import QImage

from holoptic.catalogue import tr
from holoptic.errors import BadInput


class PastedPicture:
    """Keeps the file as long as more may be asked of it."""

    def __init__(self) -> None:
        self._folder: tempfile.TemporaryDirectory[str] | None = None

    def keep(self, image: QImage) -> Path:
        """Return the file of a picture; the one before is let go. Raises BadInput for none."""
        folder = tempfile.TemporaryDirectory()
        path = Path(folder.name) / "pasted.png"
        if image.isNull() or not image.save(str(path), "PNG"):
            folder.cleanup()
            raise BadInput(tr("what was pasted is no picture"))
        self.drop()
        self._folder = folder
        return path

    def drop(self) -> None:
        """Let go of it."""
        if self._folder is not None:
            self._folder.cleanup()
            self._folder = None
