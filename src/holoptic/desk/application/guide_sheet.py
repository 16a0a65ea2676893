"""The user guide inside the desk: at the page in hand, with its pictures, to be searched."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtGui import QImage, QTextBlock, QTextCursor, QTextDocument
from PyQt6.QtWidgets import (
    QLabel,
    QLineEdit,
    QTextBrowser,
)

from holoptic.catalogue import tr
from holoptic.desk.application.over_sheet import OverSheet
from holoptic.desk.look.theme import px

_PACKAGE = Path(__file__).parents[2]
_PLACES = (_PACKAGE / "assets" / "guide", _PACKAGE.parents[1] / "docs")
"""In an installed package, and in a checkout."""
_NAME = "guide.md"
_WIDEST = 860
"""Of a picture, in pixels: words beside it stay in sight."""


def guide_folder() -> Path | None:
    """Return where the guide and its pictures lie; None where they were left out."""
    return next((place for place in _PLACES if (place / _NAME).is_file()), None)


class _Pages(QTextBrowser):
    """The guide; its pictures are as wide as there is room."""

    def loadResource(self, kind: int, name: QUrl) -> Any:
        """Return a picture of the guide, and nothing from elsewhere."""
        folder = guide_folder()
        if folder is None or kind != QTextDocument.ResourceType.ImageResource.value:
            return None
        file = (folder / name.path()).resolve()
        if not file.is_relative_to(folder.resolve()):
            return None
        picture = QImage(str(file))
        wide = min(px(_WIDEST), max(self.width() - 60, 200))
        if picture.width() > wide:
            smooth = Qt.TransformationMode.SmoothTransformation
            picture = picture.scaledToWidth(wide, smooth)
        return picture


class GuideSheet(OverSheet):
    """Lies over the room until it is closed again; `close` goes back to the page."""

    def __init__(self, close: Callable[[], None]) -> None:
        super().__init__(close, tr("Close (Esc)"))
        self.title.setText(tr("Guide"))
        self._is_read = False
        self.search = QLineEdit()
        self.search.setPlaceholderText(tr("search the guide; Enter goes on"))
        self.search.setAccessibleName(tr("search the guide"))
        self.search.textEdited.connect(lambda _: self._find(anew=True))
        self.search.returnPressed.connect(self._find)
        self.found = QLabel()
        self.found.setObjectName("quiet")
        self.pages = _Pages()
        self.pages.setAccessibleName(tr("user guide"))
        self.pages.setOpenLinks(False)
        self.pages.anchorClicked.connect(self._follow)
        self.lay_head(self.found, wide=self.search).addWidget(self.pages, 1)

    def open_at(self, title: str) -> None:
        """Show the guide where it speaks of a page, by the page's title."""
        folder = guide_folder()
        if folder is None:
            self.pages.setPlainText(tr("The guide was not installed with this program."))
            return
        if not self._is_read:
            self._is_read = True
            self.pages.setMarkdown((folder / _NAME).read_text("utf-8"))
        self.found.clear()
        heading = self._heading(title)
        if heading is not None:
            self._show(heading.position())
        self.search.clear()
        self.search.setFocus()

    def _heading(self, title: str) -> QTextBlock | None:
        document = self.pages.document()
        block = document.begin() if document is not None else QTextBlock()
        while block.isValid():
            if block.blockFormat().headingLevel() > 0 and block.text().startswith(title):
                return block
            block = block.next()
        return None

    def _show(self, position: int) -> None:
        """Bring a place to the top of what is in sight."""
        cursor = self.pages.textCursor()
        cursor.movePosition(QTextCursor.MoveOperation.End)
        self.pages.setTextCursor(cursor)  # from below, the place comes to the top
        cursor.setPosition(position)
        self.pages.setTextCursor(cursor)

    def _find(self, anew: bool = False) -> None:
        """Go to the next place that has what is typed, from the top again after the last."""
        words = self.search.text()
        if anew:
            cursor = self.pages.textCursor()
            cursor.setPosition(min(cursor.anchor(), cursor.position()))
            self.pages.setTextCursor(cursor)
        if not words:
            self.found.clear()
            return
        hit = self.pages.find(words)
        if not hit:
            self.pages.moveCursor(QTextCursor.MoveOperation.Start)
            hit = self.pages.find(words)
        self.found.setText("" if hit else tr("The guide does not say that."))

    def _follow(self, link: QUrl) -> None:
        """Follow a link within the guide; nothing outside is opened."""
        wanted = link.fragment().replace("-", " ").lower()
        document = self.pages.document()
        block = document.begin() if document is not None else QTextBlock()
        while wanted and block.isValid():
            if block.blockFormat().headingLevel() > 0 and block.text().lower() == wanted:
                self._show(block.position())
                return
            block = block.next()
