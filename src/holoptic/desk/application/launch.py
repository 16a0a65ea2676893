"""Starting the desk: the window is painted first, then the job is opened.

With `--screenshot` the window is shown, waited for until the work has settled, pictured and left.
"""

from __future__ import annotations

import importlib
import os
import sys
import threading
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QBuffer, QIODevice, Qt, QTimer, qInstallMessageHandler
from PyQt6.QtWidgets import QApplication

from holoptic.bounded import require_size
from holoptic.catalogue import tr
from holoptic.desk import PAGES
from holoptic.desk.application.desks import Desks
from holoptic.desk.application.endings import Endings
from holoptic.desk.application.lost_display import keep_when_display_goes
from holoptic.desk.application.mishaps import Mishaps
from holoptic.desk.application.one_desk import Asked, Door, hand_over, is_wanted
from holoptic.desk.application.qt_words import speak
from holoptic.desk.application.window import DeskWindow
from holoptic.desk.application.window_place import correct, place
from holoptic.desk.look.dress import follow_desktop, wanted_theme
from holoptic.desk.look.preferences import listen, preference
from holoptic.desk.look.theme import apply_theme, letters_of_system, load_fonts, use_letters
from holoptic.diagnostics import Run, catch_faults, ended_badly
from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.leftovers import Tidying
from holoptic.places import is_there, resolved
from holoptic.quoting import name_of

_PICTURED = (1280, 800)
_STANDS_MS = 200
"""After so long the frame about a window is known."""
_TIDY_EACH_MS = 2000
_ENDED = 143
"""What shells take for “ended by SIGTERM”."""
_SETTLE_LIMIT_MS = 60_000


def launch(
    file: str | None,
    *,
    demo: bool = False,
    page: str | None = None,
    screenshot: str | None = None,
    size: tuple[int, int] | None = None,
) -> int:
    """Open the desk and return its exit code. Raises BadInput before any window is shown."""
    if page is not None and page not in PAGES:
        raise BadInput(
            tr("no page is called “{page}” (known: {pages})", page=page, pages=", ".join(PAGES))
        )
    path = _require_file(file)
    _require_screenshot_place(screenshot)
    _choose_platform()
    shares = screenshot is None and size is None and is_wanted()
    if shares and hand_over(_asked(path, page, demo)):
        return 0
    catch_faults("window")
    went_badly, run = ended_badly(), Run()
    app = make_application()
    mishaps = Mishaps()
    mishaps.install()
    window = DeskWindow()
    desks = Desks(window)
    if size is not None or screenshot is not None:
        window.resize(*(size or _PICTURED))
    else:
        place(window)
        QTimer.singleShot(_STANDS_MS, lambda: correct(window))
    window.show()
    exit_code = [0]
    photographers = []  # a timer alone would not keep one alive
    doors = []

    def open_job() -> None:
        window.furnish()
        mishaps.serve(desks.keep_safe, desks.tell)
        tidy_when_idle(desks, Tidying())
        window.open_first(path, demo=demo, page=page)
        if went_badly and screenshot is None:
            window.offer_report()
        if screenshot is not None:
            photographers.append(_Photographer(window, Path(screenshot), exit_code))
            photographers[-1].wait()
        if shares:
            doors.append(Door(desks.take))

    follow_desktop(app, desks.dress)
    listen(desks.dress)
    loader = _Loader(open_job)
    window.first_painted.connect(loader.start)
    code = _work(app, desks, run)
    for door in doors:
        door.close()
    desks.take_down()
    run.end()
    return code or exit_code[0]


def _work(app: QApplication, desks: Desks, run: Run) -> int:
    """Let the desk be worked on until one leaves; return the exit code. Edits are kept."""
    endings = Endings(lambda: QApplication.exit(_ENDED))
    app.commitDataRequest.connect(lambda _: desks.keep_safe())  # the desktop's session ends
    app.applicationStateChanged.connect(lambda _: desks.keep_soon())  # whoever logs out goes away
    keep_when_display_goes(desks.keep_safe, desks.leave_copies, run.end)
    code = app.exec()
    qInstallMessageHandler(None)
    # by a signal or with an X server one leaves without a question; what was given up is saved
    desks.keep_safe()
    desks.leave_copies()
    endings.close()
    return code


def _asked(path: Path | None, page: str | None, demo: bool) -> Asked:
    token = os.environ.get("XDG_ACTIVATION_TOKEN") or os.environ.get("DESKTOP_STARTUP_ID")
    return Asked(str(resolved(path)) if path is not None else None, page, demo, token)


def tidy_when_idle(desks: Desks, tidying: Tidying) -> None:
    """Look for rings of objects when nothing is worked out and no hand drags anything."""

    def look() -> None:
        if not desks.is_busy and QApplication.mouseButtons() == Qt.MouseButton.NoButton:
            tidying.look()

    timer = QTimer(QApplication.instance())
    timer.timeout.connect(look)
    timer.start(_TIDY_EACH_MS)


def make_application() -> QApplication:
    """Return the application, dressed in the theme that was last used."""
    existing = QApplication.instance()
    app = existing if isinstance(existing, QApplication) else QApplication(sys.argv[:1])
    app.setApplicationName("Holoptic")
    app.setDesktopFileName("holoptic")
    load_fonts()
    if existing is None:
        speak(app)
        chosen = preference("letters")
        use_letters(letters_of_system(app.font()) if chosen == "system" else float(chosen))
    apply_theme(app, wanted_theme(app))
    return app


def _require_file(file: str | None) -> Path | None:
    if file is None:
        return None
    path = Path(file)
    if not is_there(path):
        if os.path.lexists(path):
            require_size(path, 1 << 40)  # says what it is instead
        raise BadInput(tr("{name} cannot be read: there is no such file", name=name_of(path)))
    return path


def _require_screenshot_place(screenshot: str | None) -> None:
    if screenshot is not None and not resolved(Path(screenshot)).parent.is_dir():
        raise BadInput(
            tr("{screenshot} cannot be written: there is no such folder", screenshot=screenshot)
        )


def _choose_platform() -> None:
    """Go on without a display where there is none, and say so."""
    if os.environ.get("QT_QPA_PLATFORM"):
        return
    if not (os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY")):
        print(tr("holoptic: no display found, going on off screen"), file=sys.stderr)
        os.environ["QT_QPA_PLATFORM"] = "offscreen"


class _Loader:
    """Imports the core in a thread once the window stands, so that it answers meanwhile."""

    def __init__(self, when_done: Callable[[], None]) -> None:
        self._when_done = when_done
        self._thread = threading.Thread(target=_import_core, daemon=True)
        self._timer = QTimer()
        self._timer.setInterval(10)
        self._timer.timeout.connect(self._look)

    def start(self) -> None:
        """Begin to import."""
        self._thread.start()
        self._timer.start()

    def _look(self) -> None:
        if not self._thread.is_alive():
            self._timer.stop()
            self._when_done()


def _import_core() -> None:
    """Import what the window is furnished with; widgets are made later, in the window's thread."""
    importlib.import_module("holoptic.desk.application.furniture").warm_up()


class _Photographer:
    """Waits until the desk has settled, saves its picture, and ends the program."""

    def __init__(self, window: DeskWindow, target: Path, exit_code: list[int]) -> None:
        self.window, self.target, self.exit_code = window, target, exit_code
        self.waited = 0

    def wait(self) -> None:
        """Look again in a moment."""
        QTimer.singleShot(150, self._look)

    def _look(self) -> None:
        self.waited += 150
        if self.window.is_busy and self.waited < _SETTLE_LIMIT_MS:
            self.wait()
            return
        made = QBuffer()
        made.open(QIODevice.OpenModeFlag.WriteOnly)
        self.window.grab().save(made, "PNG")
        try:
            write_atomically(self.target, made.data().data())
        except BadInput as error:
            print(f"holoptic: {error}", file=sys.stderr)
            self.exit_code[0] = 2
        QApplication.exit(self.exit_code[0])
