"""A scanner at hand: how the page on its glass is taken, taking it, and stopping that."""

from __future__ import annotations

from PyQt6.QtWidgets import QFrame, QGridLayout, QLabel, QPushButton, QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.icons import give_icon
from holoptic.desk.session.scanner import Scanner
from holoptic.desk.widgets.rows import Row

_DPI = (150, 200, 300)


class ScannerCard(QFrame):
    """What every use of the scanner shows; `take` is told by the page that uses it.

    What only the stand-in asks is labelled by `_label` and gone where a real device is named.
    """

    def __init__(self, scanner: Scanner, of_stand_in: str) -> None:
        super().__init__()
        self.scanner = scanner
        self._of_stand_in = of_stand_in
        self.is_photo, self.chosen_dpi, self.seed = False, 200, 0
        self._labelled: list[QWidget] = []
        self.setObjectName("card")
        self.grid = QGridLayout(self)
        self.grid.setContentsMargins(14, 10, 14, 10)
        self.grid.setHorizontalSpacing(12)
        self.title = QLabel()
        self.title.setObjectName("heading")
        self.title.setWordWrap(True)
        self.looks = Row(((False, tr("scan")), (True, tr("photo"))), self._choose_looks,
                         tr("Flat under a scanner, or from a camera, leaning"))  # fmt: skip
        self.dpi = Row([(dpi, str(dpi)) for dpi in _DPI], self.choose_dpi, tr("Dots per inch"))
        self.button = QPushButton()
        give_icon(self.button, "take")
        self.button.clicked.connect(lambda _=False: self.toggle())
        self.problem = QLabel()
        self.problem.setObjectName("problem")
        self.problem.setWordWrap(True)
        scanner.changed.connect(self.refresh)
        scanner.refused.connect(self.tell)

    def _label(self, words: str, widget: QWidget, row: int, column: int) -> None:
        """Put something that only the stand-in asks into the grid, with its name before it."""
        label = QLabel(words)
        label.setObjectName("quiet")
        self.grid.addWidget(label, row, column)
        self.grid.addWidget(widget, row, column + 1)
        self._labelled += [label, widget]

    def _choose_looks(self, value: object) -> None:
        self.is_photo = bool(value)
        self.refresh()

    def choose_dpi(self, value: object) -> None:
        """Take so many dots an inch."""
        self.chosen_dpi = value if isinstance(value, int) else _DPI[-1]
        self.refresh()

    def toggle(self) -> None:
        """Take the page, or stop taking it."""
        if self.scanner.is_busy:
            self.scanner.stop()
        else:
            self.take()

    def take(self) -> None:
        """Have the scanner take the page."""
        raise NotImplementedError

    def tell(self, words: str) -> None:
        """Say what was wrong, or nothing any more."""
        self.problem.setText(f"{words[:1].upper()}{words[1:]}")
        self.problem.setVisible(bool(words))

    def refresh(self) -> None:
        """Show how things stand."""
        is_stand_in = self.scanner.is_stand_in
        self.title.setText(self._of_stand_in if is_stand_in else tr("On the scanner's glass"))
        for widget in self._labelled:
            widget.setVisible(is_stand_in)
        self.looks.show_value(self.is_photo)
        self.dpi.show_value(self.chosen_dpi)
        self.problem.setVisible(bool(self.problem.text()))
        self.button.setText(
            tr("Taking the page, {percent} %: stop (S)", percent=self.scanner.percent)
            if self.scanner.is_busy else tr("Take the page (S)")
        )  # fmt: skip
