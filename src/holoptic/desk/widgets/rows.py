"""A choice among a few words: a row of buttons of which one is down."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from holoptic.desk.widgets.pressed import on_toggle, show_down


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
            button.setToolTip(tip)
            on_toggle(button, partial(self._chosen, value))
            self._buttons[value] = button
            row.addWidget(button, 1)

    def show_value(self, value: object) -> None:
        """Put the button of a value down."""
        for other, button in self._buttons.items():
            show_down(button, other == value)

    def _chosen(self, value: object, _down: bool) -> None:
        """Take the choice; a button that was down stays down."""
        show_down(self._buttons[value], True)
        self._choose(value)

    def step(self) -> None:
        """Choose the next in the row."""
        values = list(self._buttons)
        down = [value for value, button in self._buttons.items() if button.isChecked()]
        at = values.index(down[0]) if down else -1
        self._choose(values[(at + 1) % len(values)])
