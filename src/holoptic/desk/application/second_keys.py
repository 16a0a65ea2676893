"""Keys pressed by the desk as if by a hand: those of a tour, and what a second key stands for."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QApplication

from holoptic.desk.application.keys_in_hand import KeysInHand, named


def press_second(keys: KeysInHand, page: str, event: QKeyEvent) -> bool:
    """Press the usual key that a pressed one stands for on a page; False where it is none.

    It is for what no widget took: in a field letters are letters.
    """
    usual = keys.second(page, named(event))
    if not usual:
        return False
    if not _is_claimed(usual) and keys.press(page, usual):
        return True
    type_key(usual)
    return True


def type_key(key: str) -> None:
    """Press a key in what has the focus, as no shortcut is bound to it."""
    focus = QApplication.focusWidget()
    if focus is not None:
        for kind in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease):
            QApplication.sendEvent(focus, _event(kind, key))


def _is_claimed(key: str) -> bool:
    """Say whether what has the focus wants a key for itself, before any shortcut."""
    focus = QApplication.focusWidget()
    asked = _event(QEvent.Type.ShortcutOverride, key)
    asked.ignore()
    if focus is not None:
        QApplication.sendEvent(focus, asked)
    return asked.isAccepted()


def _event(kind: QEvent.Type, key: str) -> QKeyEvent:
    sequence = QKeySequence("Return" if key == "Enter" else key)
    code, held = Qt.Key.Key_unknown, Qt.KeyboardModifier.NoModifier
    if sequence.count() == 1:
        code, held = sequence[0].key(), sequence[0].keyboardModifiers()
    if code == Qt.Key.Key_Tab and held == Qt.KeyboardModifier.ShiftModifier:
        code = Qt.Key.Key_Backtab  # as a keyboard sends it
    return QKeyEvent(kind, code, held, key if len(key) == 1 else "")
