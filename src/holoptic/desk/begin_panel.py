"""What an empty desk offers: a new part, the demo, and the jobs last worked on."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QGridLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from holoptic.desk.icons import give_icon
from holoptic.desk.session import Session
from holoptic.errors import BadInput
from holoptic.exchange.safekeeping import recent_files
from holoptic.part.templates import templates

_MOST_SHOWN = 5


class BeginPanel(QWidget):
    """Buttons to begin with; the recent jobs are looked up whenever it is shown."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._recent: list[QPushButton] = []
        self._layout = QVBoxLayout(self)
        self._layout.setContentsMargins(28, 60, 28, 40)
        self._layout.setSpacing(8)
        heading = QLabel("Begin with")
        heading.setObjectName("heading")
        self._layout.addWidget(heading)
        new = QPushButton("A new part (Ctrl+N)")
        give_icon(new, "add")
        new.clicked.connect(lambda _=False: session.begin_part())
        kinds = QGridLayout()
        kinds.setSpacing(6)
        for number, title in enumerate(templates()):
            kind = QPushButton(f"&{number + 1}  {title}")
            kind.setToolTip("A starting point, to be changed at once")
            kind.clicked.connect(lambda _=False, title=title: session.begin_part(title))
            kinds.addWidget(kind, number // 2, number % 2)
        demo = QPushButton("The demo: a harbour lamp")
        give_icon(demo, "mark")
        demo.clicked.connect(session.open_demo)
        self._layout.addWidget(new)
        self._layout.addLayout(kinds)
        self._layout.addWidget(demo)
        other = QLabel("Ctrl+O opens a job, or the solids of a STEP file.")
        other.setObjectName("quiet")
        self._layout.addWidget(other)
        self._layout.addStretch(1)

    def showEvent(self, event: QShowEvent | None) -> None:
        """Offer the jobs last worked on."""
        super().showEvent(event)
        for button in self._recent:
            button.deleteLater()
        self._recent = [self._recent_button(path) for path in recent_files()[:_MOST_SHOWN]]
        for row, button in enumerate(self._recent, 4):
            self._layout.insertWidget(row, button)

    def _recent_button(self, path: Path) -> QPushButton:
        button = QPushButton(path.name)
        give_icon(button, "open")
        button.setToolTip(str(path))
        button.clicked.connect(lambda: self._open(path))
        return button

    def _open(self, path: Path) -> None:
        try:
            self._session.open_file(path)
        except BadInput as error:
            self._session.told.emit(str(error))
