"""The desk in a real window, driven by real key and mouse events."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from holoptic.demo import job_path
from holoptic.desk.application.launch import make_application
from holoptic.desk.application.window import DeskWindow
from kept_worker import KeptWorker


@pytest.fixture(autouse=True)
def kept_window_worker(monkeypatch: pytest.MonkeyPatch) -> None:
    """Let each window take over the worker of the one before."""
    monkeypatch.setattr("holoptic.desk.session.kernel_line.Worker", KeptWorker)


@pytest.fixture(autouse=True)
def quick_rest(monkeypatch: pytest.MonkeyPatch) -> None:
    """Let the desk go on to sheet and plan soon, as no further key is pressed where it settles."""
    monkeypatch.setattr("holoptic.desk.session.answers._REST_MS", 30)


@pytest.fixture(scope="session")
def qapp() -> QApplication:
    return make_application()


@pytest.fixture
def open_window(qtbot) -> Iterator[Callable[[], DeskWindow]]:
    """Open furnished windows with nothing on them; all are taken down in the end."""
    opened: list[DeskWindow] = []

    def open_one() -> DeskWindow:
        window = DeskWindow()
        qtbot.add_widget(window, before_close_func=_forget_edits)
        window.resize(1280, 800)
        window.show()
        qtbot.wait_exposed(window)
        if (
            QApplication.platformName() == "wayland"
        ):  # there the display says so, and takes its time
            qtbot.wait_until(window.isActiveWindow)
        window.furnish()
        window.open_first(None)
        opened.append(window)
        return window

    yield open_one
    with KeptWorker.patient():
        for window in opened:
            window.close_down()


@pytest.fixture
def empty_desk(open_window) -> DeskWindow:
    """A furnished window with nothing on it."""
    return open_window()


@pytest.fixture
def desk(empty_desk, settle) -> DeskWindow:
    """The window with the demo job worked out."""
    empty_desk.open_first(job_path(), demo=True)
    settle(empty_desk)
    return empty_desk


@pytest.fixture
def settle(qtbot) -> Callable[[DeskWindow], None]:
    """Wait until the worker has answered everything."""
    return lambda window: qtbot.wait_until(lambda: not window.is_busy, timeout=60_000)


@pytest.fixture
def press(qtbot) -> Callable[..., None]:
    """Press keys in whatever has the focus, as a person would."""

    def press_keys(window: DeskWindow, *keys: Qt.Key, modifier=Qt.KeyboardModifier.NoModifier):
        window.activateWindow()
        for key in keys:
            QTest.keyClick(QApplication.focusWidget() or window, key, modifier)

    return press_keys


def _forget_edits(window: DeskWindow) -> None:
    window.session.document.history.mark_saved()
