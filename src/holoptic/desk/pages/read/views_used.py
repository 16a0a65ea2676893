"""Which views of the sheet are read."""

from __future__ import annotations

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from holoptic.catalogue import tr
from holoptic.desk.session.readings import Readings
from holoptic.desk.widgets.pressed import on_toggle, show_down


class ViewsUsed(QWidget):
    """A button for each view found on the sheet; it is down while the view is read."""

    def __init__(self, readings: Readings) -> None:
        super().__init__()
        self._readings = readings
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(4)
        self.buttons: dict[str, QPushButton] = {}

    def refresh(self) -> None:
        """Show the views."""
        whole, used = self._readings.whole, self._readings.arrangement
        names = [view.name for view in whole.views] if whole else []
        if names != list(self.buttons):
            for button in self.buttons.values():
                button.deleteLater()
            self.buttons = {name: self._button(name) for name in names}
        shown = {view.name for view in used.views} if used else set()
        for name, button in self.buttons.items():
            show_down(button, name in shown)

    def _button(self, name: str) -> QPushButton:
        button = QPushButton(tr(name))
        on_toggle(button, lambda used: self._readings.use_view(name, used))
        self._row.addWidget(button, 1)
        return button
