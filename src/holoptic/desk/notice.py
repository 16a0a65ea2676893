"""Messages in place: a bar under the strip, never a dialog."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)


def sentence(message: str) -> str:
    """Return an error's message with a capital, unless it begins with a file's name."""
    first = message.split(maxsplit=1)[0] if message.strip() else ""
    return message if "." in first else f"{message[:1].upper()}{message[1:]}"


class Notice(QFrame):
    """A bar with one message and the ways out of it, beside the message or under it."""

    def __init__(
        self, kind: str = "notice", parent: QWidget | None = None, stacked: bool = False
    ) -> None:
        super().__init__(parent)
        self.setObjectName(kind)
        self._text = QLabel()
        self._text.setWordWrap(True)
        self._text.setTextFormat(Qt.TextFormat.PlainText)
        self._stacked = stacked
        self._layout = QHBoxLayout()
        if stacked:
            outer = QVBoxLayout(self)
            outer.addWidget(self._text)
            outer.addLayout(self._layout)
            outer.setContentsMargins(16, 6, 12, 8)
        else:
            self.setLayout(self._layout)
            self._layout.setContentsMargins(16, 6, 12, 6)
            self._layout.addWidget(self._text, 1)
        self._buttons: list[QPushButton] = []
        self.hide()

    @property
    def text(self) -> str:
        """The message shown."""
        return self._text.text()

    def say(self, text: str, actions: Mapping[str, Callable[[], None]] | None = None) -> None:
        """Show a message with a button for each action; an empty text hides the bar."""
        self._text.setText(text)
        for button in self._buttons:
            self._layout.removeWidget(button)
            button.deleteLater()
        self._buttons = []
        for label, action in (actions or {}).items():
            button = QPushButton(label)
            button.clicked.connect(lambda _=False, run=action: run())
            if self._stacked:  # many ways out must not push the page apart
                button.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
                button.setToolTip(label)
            self._layout.addWidget(button)
            self._buttons.append(button)
        self.setVisible(bool(text))

    def change_text(self, text: str) -> None:
        """Change the words and leave the buttons as they are, under a finger perhaps."""
        self._text.setText(text)

    def tell(self, text: str) -> None:
        """Show a message that only needs to be closed."""
        self.say(text, {"Close": self.quiet})

    def quiet(self) -> None:
        """Hide the bar."""
        self.say("")
