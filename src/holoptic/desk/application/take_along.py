"""What goes to other programs without a file of the user's: by the clipboard, or dragged out."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QEvent, QMimeData, QObject, QPoint, Qt, QUrl
from PyQt6.QtGui import QDrag, QGuiApplication, QMouseEvent
from PyQt6.QtWidgets import QApplication, QWidget

from holoptic.catalogue import tr
from holoptic.desk.application.export import makers_of
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.folders import file_name
from holoptic.desk.widgets.notice import Notice
from holoptic.errors import HolopticError

_FORMS = {".svg": "image/svg+xml", ".pdf": "application/pdf", ".png": "image/png"}
_SHOWN = {"sheet": "sheet", "draw": "plan"}
"""What a page shows first of all; the others show the picture."""


def shown_on(page: str) -> str:
    """Return what is taken along from a page: picture, sheet or plan."""
    return _SHOWN.get(page, "picture")


def clip_of(session: Session, what: str) -> QMimeData:
    """Return something for the clipboard in all forms that other programs may take: drawings as
    SVG, PDF and PNG, a plan as a table and as text. Raises BadInput.
    """
    makers, data = makers_of(session, what), QMimeData()
    if what == "plan":
        table = makers[".csv"]()
        data.setData("text/csv", table)
        data.setText(makers[".txt"]().decode("utf-8"))
        return data
    for suffix, form in _FORMS.items():
        data.setData(form, makers[suffix]())
    return data


class TakeAlong(QObject):
    """Copies what a page shows, and lets it be dragged out of a button as a file."""

    def __init__(self, session: Session, hint: Notice, window: QWidget) -> None:
        super().__init__(window)
        self._session, self._hint = session, hint
        self._pressed: QPoint | None = None
        self._page: Callable[[], str] = str
        self._folder: tempfile.TemporaryDirectory[str] | None = None

    def copy(self, what: str) -> None:
        """Put something into the clipboard, and say so."""
        clipboard = QGuiApplication.clipboard()
        try:
            data = clip_of(self._session, what)
        except HolopticError as error:
            self._hint.tell(tr("Not copied: {error}", error=error))
            return
        if clipboard is not None:
            clipboard.setMimeData(data)
        self._hint.tell(
            tr("Copied: the settings of all moves, as a table and as text")
            if what == "plan"
            else tr("Copied: the {what}, as SVG, PDF and PNG", what=tr(what))
        )

    def copy_shown(self) -> None:
        """Put what the page in hand shows into the clipboard."""
        self.copy(shown_on(self._page()))

    def serve(self, button: QWidget, page: Callable[[], str]) -> None:
        """Let what the page in hand shows be dragged out of a button."""
        self._page = page
        button.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Begin to drag where the button is pressed and the pointer moves off with it."""
        if isinstance(event, QMouseEvent) and isinstance(watched, QWidget):
            here = event.position().toPoint()
            if event.type() == QEvent.Type.MouseButtonPress:
                self._pressed = here if event.button() == Qt.MouseButton.LeftButton else None
            elif event.type() == QEvent.Type.MouseButtonRelease:
                self._pressed = None
            elif event.type() == QEvent.Type.MouseMove and self._pressed is not None:
                way = (here - self._pressed).manhattanLength()
                if way >= QApplication.startDragDistance():
                    self._pressed = None
                    self._drag(watched)
                    return True
        return super().eventFilter(watched, event)

    def _drag(self, button: QWidget) -> None:
        try:
            data = self.dragged()
        except HolopticError as error:
            self._hint.tell(tr("Nothing to drag out: {error}", error=error))
            return
        drag = QDrag(button)
        drag.setMimeData(data)
        drag.exec(Qt.DropAction.CopyAction)

    def close(self) -> None:
        """Let go of the files that were dragged out."""
        if self._folder is not None:
            self._folder.cleanup()
            self._folder = None

    def dragged(self) -> QMimeData:
        """Return what is dragged out: a file, and what is in it. Raises BadInput."""
        what = shown_on(self._page())
        data = clip_of(self._session, what)
        suffix = ".pdf" if what == "plan" else ".svg"
        if self._folder is None:  # kept while the window stands: who takes the file may be slow
            self._folder = tempfile.TemporaryDirectory(prefix="holoptic-")
        name = f"{file_name(self._session.document.title_in_hand)}-{what}{suffix}"
        file = Path(self._folder.name, name)
        file.write_bytes(makers_of(self._session, what)[suffix]())
        data.setUrls([QUrl.fromLocalFile(str(file))])
        return data
