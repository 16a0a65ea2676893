"""Buttons that are up or down, for whichever hand presses them.

A screen reader toggles a button without clicking it, so `clicked` never comes. What a button does
hangs on `toggled` here, and the desk puts buttons up and down without that signal.
"""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QSignalBlocker
from PyQt6.QtWidgets import QAbstractButton


def on_toggle(button: QAbstractButton, run: Callable[[bool], object]) -> None:
    """Make a button one that stays down, and run something when a hand puts it down or up."""
    button.setCheckable(True)
    button.toggled.connect(run)


def show_down(button: QAbstractButton, down: bool) -> None:
    """Put a button down or up because that is how things stand: nothing runs."""
    blocker = QSignalBlocker(button)
    button.setChecked(down)
    blocker.unblock()
