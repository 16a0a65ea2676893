"""The caliper on the desk: its readings fill the length field that has the focus."""

from __future__ import annotations

import contextlib
import os
from pathlib import Path

from PyQt6 import sip
from PyQt6.QtCore import QObject, QSocketNotifier
from PyQt6.QtGui import QShortcut
from PyQt6.QtWidgets import QApplication, QWidget

from holoptic.catalogue import tr
from holoptic.demo import playback_path
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.fields import LengthField
from holoptic.devices.caliper import (
    SET_TO_ZERO,
    CaliperReading,
    LineBuffer,
    Stand,
    playback,
    read_line,
)
from holoptic.errors import BadInput
from holoptic.units import Unit

_SAME_SHARE = 0.02
"""A second reading within so much of the first says that the first was meant."""
_SANE_SHARE = 3.0
"""A reading so many times larger or smaller than what stands in the field is asked about."""


class CaliperLine(QObject):
    """Listens to a caliper's terminal. Without a device a stand-in plays the demo's readings."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self._session = session
        self._buffer = LineBuffer()
        self._file: int | None = None
        self._notifier: QSocketNotifier | None = None
        self._stand: Stand | None = None
        self._doubted: CaliperReading | None = None
        self._lines: list[tuple[float, str]] = []

    def take_keys(self, page: QWidget) -> None:
        """Let the keys of the caliper be taken on a page."""
        QShortcut("Alt+G", page).activated.connect(self.toggle)
        QShortcut("Alt+R", page).activated.connect(self.press)

    @property
    def is_open(self) -> bool:
        """Whether a caliper is listened to."""
        return self._file is not None

    def toggle(self) -> None:
        """Take the caliper in hand, or put it away."""
        if self.is_open:
            self.close()
            self._session.told.emit(tr("The caliper is put away."))
            return
        device = os.environ.get("HOLOPTIC_CALIPER")
        if device is None:
            self._stand = Stand()
            device = self._stand.path
            self._lines = playback(playback_path())
        try:
            self.open(Path(device))
        except OSError as error:
            self._session.told.emit(
                tr(
                    "The caliper at {device} cannot be opened: {strerror}",
                    device=device,
                    strerror=error.strerror,
                )
            )
            return
        self._session.told.emit(
            tr(
                "Caliper in hand: its readings fill the field with the cursor. "
                "Alt+R measures (stand-in), Alt+G puts it away."
            )
        )

    def open(self, device: Path) -> None:
        """Listen to a terminal. Raises OSError."""
        self.close(keep_stand=True)
        self._file = os.open(device, os.O_RDONLY | os.O_NONBLOCK | os.O_NOCTTY)
        self._notifier = QSocketNotifier(sip.voidptr(self._file), QSocketNotifier.Type.Read, self)
        self._notifier.activated.connect(self._arrived)

    def close(self, keep_stand: bool = False) -> None:
        """Stop listening."""
        if self._notifier is not None:
            self._notifier.setEnabled(False)
            self._notifier.deleteLater()
            self._notifier = None
        if self._file is not None:
            with contextlib.suppress(OSError):
                os.close(self._file)
            self._file = None
        if self._stand is not None and not keep_stand:
            self._stand.close()
            self._stand = None

    def press(self) -> None:
        """Press the stand-in's button: it sends its next reading."""
        if self._stand is not None and self._lines:
            _, line = self._lines.pop(0)
            self._lines.append((0.0, line))
            self._stand.send(line)

    def _arrived(self) -> None:
        if self._file is None:
            return
        try:
            data = os.read(self._file, 4096)
        except BlockingIOError:
            return
        except OSError:
            data = b""
        if not data:
            self.close()
            self._session.told.emit(tr("The caliper has gone; Alt+G takes it in hand again."))
            return
        for line in self._buffer.lines(data):
            self._take(line)

    def _take(self, line: str) -> None:
        try:
            reading = read_line(line)
        except BadInput as error:
            self._session.told.emit(f"{str(error)[:1].upper()}{str(error)[1:]}.")
            return
        if reading is not None:
            self._fill(reading)
        elif line.strip() == SET_TO_ZERO:
            self._session.told.emit(
                tr(
                    "The caliper was set to zero (Z), which is no length: the "
                    "field stays as it is. Measure again."
                )
            )

    def _fill(self, reading: CaliperReading) -> None:
        """Fill the field in hand, unless the reading is far from what stands there."""
        field = QApplication.focusWidget()
        if not isinstance(field, LengthField):
            self._session.told.emit(
                tr("Measured {words}: put the cursor into a length first.", words=reading.words)
            )
            return
        before = field.value_mm
        odd = before is not None and not (
            before / _SANE_SHARE <= reading.mm <= before * _SANE_SHARE
        )
        again = self._doubted is not None and (
            abs(reading.mm - self._doubted.mm) <= _SAME_SHARE * abs(reading.mm)
        )
        if odd and not again:
            self._doubted = reading
            self._session.told.emit(
                tr(
                    "Measured {words}, far from what stands there: measure it again to take it.",
                    words=reading.words,
                )
            )
            return
        self._doubted = None
        plain = (reading.unit == "mm") == (self._session.document.unit is Unit.MM)
        field.fill(reading.figure if plain else reading.words)
