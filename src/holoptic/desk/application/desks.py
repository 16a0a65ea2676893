"""The windows of one run of the program: each has a job, and they share nothing else."""

from __future__ import annotations

import os
from pathlib import Path

from PyQt6 import sip
from PyQt6.QtCore import QObject, QRect, QTimer
from PyQt6.QtWidgets import QApplication

from holoptic.desk.application.one_desk import Asked
from holoptic.desk.application.window import PAGE_TITLES, DeskWindow
from holoptic.desk.application.window_place import correct, place
from holoptic.desk.look.dress import wanted_theme
from holoptic.desk.look.theme import apply_theme, theme
from holoptic.places import is_there, resolved

_STANDS_MS = 200
_BESIDE = 28
"""Pixels: a further window shows that there is one behind it."""


class Desks(QObject):
    """Keeps the windows, and opens one for each job that is asked for."""

    def __init__(self, first: DeskWindow) -> None:
        super().__init__()
        self._windows: list[DeskWindow] = []
        self._add(first)

    @property
    def windows(self) -> list[DeskWindow]:
        """The windows that stand, the one first opened first."""
        self._windows = [window for window in self._windows if not sip.isdeleted(window)]
        return self._windows

    @property
    def is_busy(self) -> bool:
        """Whether something is worked out for one of them."""
        return any(window.is_busy for window in self._furnished)

    @property
    def _furnished(self) -> list[DeskWindow]:
        return [window for window in self.windows if hasattr(window, "session")]

    def take(self, asked: Asked) -> None:
        """Do what a later start asks for: show its job where it is open, else open it."""
        if asked.token:
            os.environ["XDG_ACTIVATION_TOKEN"] = asked.token
        # the caller waits for an answer, and must not wait until a job is read
        QTimer.singleShot(0, lambda: self._open(asked))

    def _open(self, asked: Asked) -> None:
        if not self._furnished:
            return
        path = Path(asked.path) if asked.path is not None else None
        window = self._window_for(path, asked.demo)
        if path is not None and is_there(path) and not self._has(window, path):
            window.open_first(path, demo=asked.demo)
        if asked.page in PAGE_TITLES:
            window.show_page(asked.page)
        window.come_forward()

    def _window_for(self, path: Path | None, demo: bool) -> DeskWindow:
        """Return the window that has a file, one with nothing on it, or a new one."""
        front = QApplication.activeWindow()
        last = front if front in self._furnished else self._furnished[-1]
        assert isinstance(last, DeskWindow)
        if path is None:
            return last
        for window in self._furnished:
            if not demo and self._has(window, path):
                return window
        for window in self._furnished:
            document = window.session.document
            if not document.job.parts and document.history.is_saved:
                return window
        return self._begin(last)

    def begin_tour(self, asking: DeskWindow, page: str) -> None:
        """Lead through a page in a window of its own, or where nothing lies on the desk yet."""
        document = asking.session.document
        is_free = not document.job.parts and document.history.is_saved
        window = asking if is_free else self._begin(asking)
        window.begin_tour(page)
        window.come_forward()

    def _has(self, window: DeskWindow, path: Path) -> bool:
        return window.session.document.path == resolved(path)

    def _begin(self, beside: DeskWindow) -> DeskWindow:
        window = DeskWindow()
        place(window)
        if not window.isMaximized():
            at = beside.geometry().topLeft()
            window.setGeometry(QRect(at.x() + _BESIDE, at.y() + _BESIDE, window.width(),
                                     window.height()))  # fmt: skip
        window.show()
        QTimer.singleShot(_STANDS_MS, lambda: _correct(window))
        window.furnish()
        self._add(window)
        return window

    def _add(self, window: DeskWindow) -> None:
        self._windows.append(window)
        window.closed.connect(lambda: self._let_go(window))
        window.tour_asked.connect(lambda page: self.begin_tour(window, page))

    def _let_go(self, window: DeskWindow) -> None:
        """End what a closed window had going on, while others stand."""
        if len(self.windows) > 1 and window in self._windows:
            self._windows.remove(window)
            window.close_down()
            window.deleteLater()

    def dress(self) -> None:
        """Wear the look that is wanted now."""
        app = QApplication.instance()
        if isinstance(app, QApplication) and theme() is not wanted_theme(app):
            apply_theme(app, wanted_theme(app))
            for window in self._furnished:
                window.take_theme()

    def keep_safe(self) -> None:
        """Keep a copy of all edits that are not saved, which the next start offers."""
        for window in self._furnished:
            window.session.document.keep_safe()

    def keep_soon(self) -> None:
        """Have what is not in a copy yet written to one, without waiting for it."""
        for window in self._furnished:
            window.session.document.keep_soon()

    def leave_copies(self) -> None:
        """Leave the copies for the next start."""
        for window in self._furnished:
            window.session.document.leave_copy()

    def tell(self, words: str) -> None:
        """Tell something in all windows."""
        for window in self._furnished:
            window.hint.tell(words)

    def take_down(self) -> None:
        """Take all windows apart."""
        for window in self.windows:
            take_down(window)


def _correct(window: DeskWindow) -> None:
    if not sip.isdeleted(window):
        correct(window)


def take_down(window: DeskWindow) -> None:
    """End what a window has going on and take it apart.

    Left to the end of the process Python and Qt would take it apart in an order of chance, and
    now and then die of it.
    """
    window.close_down()
    sip.delete(window)
