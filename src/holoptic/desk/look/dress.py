"""Which look the desk wears: the one that was chosen, else that of the user's desktop."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication

from holoptic.desk.look.preferences import preference
from holoptic.desk.look.theme import CONTRAST, DARK, LIGHT, Theme

_BY_NAME = {"light": LIGHT, "dark": DARK, "contrast": CONTRAST}


def wanted_theme(app: QApplication) -> Theme:
    """Return the look that is wanted at the moment."""
    return _BY_NAME.get(preference("theme")) or _of_desktop(app)


def follow_desktop(app: QApplication, changed: Callable[[], None]) -> None:
    """Be told when the desktop goes light or dark; more contrast is looked for then too."""
    hints = app.styleHints()
    if hints is not None:
        hints.colorSchemeChanged.connect(changed)


def _of_desktop(app: QApplication) -> Theme:
    hints = app.styleHints()
    if hints is None:
        return LIGHT
    accessibility = hints.accessibility()
    if accessibility is not None and (
        accessibility.contrastPreference() == Qt.ContrastPreference.HighContrast
    ):
        return CONTRAST
    return DARK if hints.colorScheme() == Qt.ColorScheme.Dark else LIGHT
