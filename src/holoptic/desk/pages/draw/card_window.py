"""The setting card in a small window of its own that stays on top: for small screens."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QCloseEvent, QShortcut
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.theme import px
from holoptic.desk.pages.draw.setting_card import SettingCard
from holoptic.desk.widgets.key_line import KeyLine

_KEYS = (
    (tr("space"), tr("draw")),
    (tr("back"), tr("take up")),
    ("P", tr("play")),
    ("Esc", tr("close")),
)


class CardWindow(QWidget):
    """A window with nothing but the card; its keys walk through the plan.

    Signals:
        closed: the window was closed.
    """

    closed = pyqtSignal()

    def __init__(
        self, parent: QWidget, step: Callable[[int], None], play: Callable[[], None]
    ) -> None:
        super().__init__(parent, Qt.WindowType.Window | Qt.WindowType.WindowStaysOnTopHint)
        self.setWindowTitle(tr("Next move – Holoptic"))
        self.card = SettingCard()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.card)
        column.addWidget(KeyLine(_KEYS))
        self.setFixedHeight(self.card.height() + px(25))
        self.setMinimumWidth(420)
        self.resize(620, self.height())
        for keys, way in (
            (("Space", "Right", "PgDown"), 1),
            (("Backspace", "Left", "PgUp"), -1),
        ):
            for key in keys:
                QShortcut(key, self).activated.connect(lambda way=way: step(way))
        QShortcut("P", self).activated.connect(play)
        QShortcut("Escape", self).activated.connect(self.close)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Tell that the window is gone."""
        super().closeEvent(event)
        self.closed.emit()
