"""How the lines of a drawing are told apart: shown where the file itself does not say."""

from __future__ import annotations

from PyQt6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.desk.session.readings import Readings
from holoptic.reading.lines import Status
from holoptic.reading.sketch import LineGroup

_ROUND: dict[Status, Status] = {"visible": "hidden", "hidden": "centre", "centre": "visible"}


class LineGroups(QWidget):
    """A button for each sort of line that is not clear; pressing it takes it for the next."""

    def __init__(self, readings: Readings) -> None:
        super().__init__()
        self._readings = readings
        self._layout = QVBoxLayout(self)
        self._layout.setContentsMargins(0, 4, 0, 0)
        self._layout.setSpacing(4)
        label = QLabel(tr("The file does not say how these lines are meant:"))
        label.setWordWrap(True)
        label.setObjectName("quiet")
        self._layout.addWidget(label)
        self._buttons: list[QPushButton] = []

    def refresh(self) -> None:
        """Show the sorts that are not clear, or nothing."""
        sketch = self._readings.sketch
        groups = [group for group in sketch.groups if not group.is_clear] if sketch else []
        for button in self._buttons:
            button.deleteLater()
        self._buttons = [self._button(group) for group in groups]
        for button in self._buttons:
            self._layout.addWidget(button)
        self.setVisible(bool(groups))

    def _button(self, group: LineGroup) -> QPushButton:
        look = tr("{lower}, colour {colour}", lower=group.linetype.lower(), colour=group.colour)
        button = QPushButton(
            tr(
                "{count} on “{layer}”, {look}: {status}",
                count=group.count,
                layer=group.layer,
                look=look,
                status=group.status,
            )
        )
        button.setToolTip(tr("Take these lines for the next sort: visible, hidden, centre"))
        button.clicked.connect(
            lambda _=False: self._readings.take_line_group(group, _ROUND[group.status])
        )
        return button
