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
    """Be told when the desktop goes light or dark, and that it wants more contrast or less once
    one comes back from where that was chosen: PyQt has no signal for it.
    """
    hints = app.styleHints()
    if hints is not None:
        hints.colorSchemeChanged.connect(changed)
    contrast = [_wants_contrast(app)]

    def look_again(state: Qt.ApplicationState) -> None:
        wanted = _wants_contrast(app)
        if state == Qt.ApplicationState.ApplicationActive and wanted != contrast[0]:
            contrast[0] = wanted
            changed()

    app.applicationStateChanged.connect(look_again)


def _of_desktop(app: QApplication) -> Theme:
    hints = app.styleHints()
    if hints is None:
        return LIGHT
    if _wants_contrast(app):
        return CONTRAST
    return DARK if hints.colorScheme() == Qt.ColorScheme.Dark else LIGHT


def _wants_contrast(app: QApplication) -> bool:
    hints = app.styleHints()
    accessibility = hints.accessibility() if hints is not None else None
    return (
        accessibility is not None
        and accessibility.contrastPreference() == Qt.ContrastPreference.HighContrast
    )
