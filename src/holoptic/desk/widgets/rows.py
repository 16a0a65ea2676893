"""A choice among a few words: a row of buttons of which one is down."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget


class Row(QWidget):
    """A row of buttons of which one is down: a choice among a few words."""

    def __init__(
        self, choices: Sequence[tuple[object, str]], on_choose: Callable[[object], None], tip: str
    ) -> None:
        super().__init__()
        self._choose = on_choose
        self._buttons: dict[object, QPushButton] = {}
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        for value, words in choices:
            button = QPushButton(words)
            button.setCheckable(True)
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, value=value: self._choose(value))
            self._buttons[value] = button
            row.addWidget(button, 1)

    def show_value(self, value: object) -> None:
        """Put the button of a value down."""
        for other, button in self._buttons.items():
            button.setChecked(other == value)

    def step(self) -> None:
        """Choose the next in the row."""
        values = list(self._buttons)
        down = [value for value, button in self._buttons.items() if button.isChecked()]
        at = values.index(down[0]) if down else -1
        self._choose(values[(at + 1) % len(values)])
