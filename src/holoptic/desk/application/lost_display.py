"""The last moment in which work can be kept where the display goes away under the desk."""

from __future__ import annotations

import sys
from collections.abc import Callable

from PyQt6.QtCore import (
    QMessageLogContext,
    QtMsgType,
    qFormatLogMessage,
    qInstallMessageHandler,
)

_LAST_WORDS = "Wayland connection broke"


def keep_when_display_goes(*steps: Callable[[], None]) -> None:
    """Do `steps` once a Wayland compositor is gone, as when its session ends.

    Of an X server that is gone Qt's loop returns. Without a compositor Qt warns and leaves the
    process at once, and nobody is asked anything: its warning is all that is heard. Other words
    of Qt go to standard error, as they would.
    """

    def hear(kind: QtMsgType, context: QMessageLogContext, words: str | None) -> None:
        told = words or ""
        print(qFormatLogMessage(kind, context, told), file=sys.stderr)
        if _LAST_WORDS in told:
            for step in steps:
                step()

    qInstallMessageHandler(hear)
