"""A voice that reads aloud, where the system has one; where it has none, nothing is heard."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import QObject

from holoptic.regional import language


class Voice(QObject):
    """Says one thing at a time: what is new cuts short what is being said."""

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._speech: Any = None
        self._is_tried = False

    @property
    def is_there(self) -> bool:
        """Whether a voice is installed; found out when it is first asked for."""
        if not self._is_tried:
            self._is_tried = True
            self._speech = _speech(self)
        return self._speech is not None

    def say(self, text: str) -> None:
        """Say a text, if there is a voice."""
        if self.is_there:
            self._speech.stop()
            self._speech.say(text)

    def stop(self) -> None:
        """Be silent."""
        if self._speech is not None:
            self._speech.stop()


def _speech(parent: QObject) -> Any:
    """Return Qt's speech with a voice in the desk's language, else None."""
    try:  # its library needs the system's sound, which a drawing office may do without
        from PyQt6.QtCore import QLocale  # noqa: PLC0415
        from PyQt6.QtTextToSpeech import QTextToSpeech  # noqa: PLC0415
    except ImportError:
        return None
    engines = [name for name in QTextToSpeech.availableEngines() if name != "mock"]
    if not engines:
        return None
    speech = QTextToSpeech(engines[0], parent)
    speech.setLocale(QLocale(language()))
    return speech if speech.availableVoices() else None
