"""Bars that say what happened or what is wrong, with what can be done about it.

They lie over the top of the panes, never over the column with the fields, and push nothing about
under a hand. Imported before the first paint, so it needs little but Qt.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PyQt6 import sip
from PyQt6.QtCore import QEvent, QObject, Qt, QTimer
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QApplication,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.widgets.flow import Flow
from holoptic.desk.widgets.reader import tell_reader

_LEAST_MS, _MS_A_LETTER = 8000, 60
"""How long a message stands that nothing hangs on."""
_OFFER_MS = 40_000
"""How long one stands that offers something."""


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
        self._layout: QLayout
        if stacked:
            outer = QVBoxLayout(self)
            outer.addWidget(self._text)
            # many ways out must not push the page apart: what has no room goes in the next row
            self._layout = Flow()
            outer.addLayout(self._layout)
            outer.setContentsMargins(16, 6, 12, 8)
        else:
            row = QHBoxLayout(self)
            row.setContentsMargins(16, 6, 12, 6)
            row.addWidget(self._text, 1)
            self._layout = row
        self._buttons: list[QPushButton] = []
        self._back_to: QWidget | None = None
        self._asks = False
        self._end = QTimer(self)
        self._end.setSingleShot(True)
        self._end.timeout.connect(self.quiet)
        self.hide()

    @property
    def text(self) -> str:
        """The message shown."""
        return self._text.text()

    @property
    def buttons(self) -> dict[str, QPushButton]:
        """The ways out, by their words without the key before them."""
        return {button.text().partition("  ")[2] or button.text(): button
                for button in self._buttons}  # fmt: skip

    def say(self, text: str, actions: Mapping[str, Callable[[], None]] | None = None) -> None:
        """Show a message with a button for each action; an empty text hides the bar."""
        self._end.stop()
        self._asks = False
        self._text.setText(text)
        for button in self._buttons:
            self._layout.removeWidget(button)
            button.deleteLater()
        self._buttons = []
        for label, action in (actions or {}).items():
            button = QPushButton(label)
            button.clicked.connect(lambda _=False, run=action: run())
            # a click here leaves the cursor in its field
            button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
            self._layout.addWidget(button)
            self._buttons.append(button)
        self.setVisible(bool(text))
        tell_reader(text)

    def ask(self, text: str, answers: Mapping[str, Callable[[], None]]) -> None:
        """Ask a question that takes keys: each answer's number, Esc for the last of them."""
        if not self._asks:
            self._back_to = QApplication.focusWidget()
        last = len(answers) - 1
        keys = [str(number + 1) if number < last else "Esc" for number in range(len(answers))]
        self.say(text, {f"{key}  {words}": run for key, (words, run)
                        in zip(keys, answers.items(), strict=True)})  # fmt: skip
        self._asks = True
        for button in self._buttons:
            button.installEventFilter(self)
        self._buttons[0].setFocus()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Take the keys of a question before the page does."""
        if isinstance(event, QKeyEvent) and self._asks:
            button = self._answer_of(event)
            if event.type() == QEvent.Type.ShortcutOverride and button is not None:
                event.accept()
                return True
            if event.type() == QEvent.Type.KeyPress and button is not None:
                button.click()
                return True
        return super().eventFilter(watched, event)

    def _answer_of(self, event: QKeyEvent) -> QPushButton | None:
        key = "Esc" if event.key() == Qt.Key.Key_Escape else event.text()
        return next((b for b in self._buttons if b.text().partition("  ")[0] == key), None)

    def change_text(self, text: str) -> None:
        """Change the words and leave the buttons as they are, under a finger perhaps."""
        self._text.setText(text)

    def tell(self, text: str) -> None:
        """Show a message that goes away by itself, or when it is closed."""
        self.say(text, {tr("Close"): self.quiet})
        self._end.start(_LEAST_MS + _MS_A_LETTER * len(text))

    def offer(self, text: str, actions: Mapping[str, Callable[[], None]]) -> None:
        """Show a message with ways on from it, which goes away by itself where none is taken."""
        self.say(text, actions)
        self._end.start(_OFFER_MS)

    def quiet(self) -> None:
        """Hide the bar; who was asked goes back to where they were."""
        asked, back_to = self._asks and self.isAncestorOf(QApplication.focusWidget()), self._back_to
        self.say("")
        self._back_to = None
        if asked and back_to is not None and not sip.isdeleted(back_to):
            back_to.setFocus()


class Bars(QWidget):
    """Notices one under the other, lying over whatever is below; as high as those shown."""

    def __init__(
        self, parent: QWidget, notices: list[Notice], room: Callable[[], tuple[int, int, int]]
    ) -> None:
        """`room` says where they lie in the parent: left, top and width in pixels."""
        super().__init__(parent)
        self._notices = notices
        self._room = room
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for notice in notices:
            column.addWidget(notice)
            notice.installEventFilter(self)
        self.hide()

    def fit(self) -> None:
        """Lie where there is room, as high as what is shown."""
        left, top, width = self._room()
        shown = [notice for notice in self._notices if not notice.isHidden()]
        self.setVisible(bool(shown))
        height = sum(
            notice.heightForWidth(width) if notice.hasHeightForWidth() else
            notice.sizeHint().height() for notice in shown
        )  # fmt: skip
        self.setGeometry(left, top, width, height)
        self.raise_()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Follow what is said and what is not said any more."""
        if event is not None and event.type() in (
            QEvent.Type.ShowToParent, QEvent.Type.HideToParent, QEvent.Type.LayoutRequest,
        ):  # fmt: skip
            self.fit()
        return super().eventFilter(watched, event)
