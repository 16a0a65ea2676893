"""What Qt itself says and reads (its dialogs, spin boxes), in the language and mark of the desk."""

from __future__ import annotations

from PyQt6.QtCore import QLibraryInfo, QLocale, Qt, QTranslator
from PyQt6.QtWidgets import QApplication

from holoptic.regional import decimal_mark, language

_COUNTS_SO = {".": "en", ",": "de"}
"""A language whose figures have that decimal mark."""


def speak(app: QApplication) -> None:
    """Let Qt speak the desk's language; texts that it does not know stay English."""
    figures = QLocale(_COUNTS_SO[decimal_mark()])
    figures.setNumberOptions(QLocale.NumberOption.OmitGroupSeparator)
    QLocale.setDefault(figures)
    spoken = QLocale(language())
    words = QTranslator(app)
    folder = QLibraryInfo.path(QLibraryInfo.LibraryPath.TranslationsPath)
    if spoken.language() != QLocale.Language.C and words.load(spoken, "qtbase", "_", folder):
        app.installTranslator(words)
    if spoken.textDirection() == Qt.LayoutDirection.RightToLeft:
        app.setLayoutDirection(Qt.LayoutDirection.RightToLeft)
