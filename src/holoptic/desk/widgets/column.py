"""The column at the right of a page: small headings with a widget under each."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtWidgets import (
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QFrame,
    QLabel,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from holoptic.desk.look.icons import give_icon
from holoptic.desk.look.theme import px

_SCROLL_BAR = 12


class Column(QWidget):
    """A column of a fixed width; what finds no room in its height is scrolled to."""

    def __init__(self, width: int) -> None:
        super().__init__()
        self.setObjectName("column")
        self._width = px(width)
        self.setFixedWidth(self._width)
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._area = QScrollArea()
        self._area.setWidgetResizable(True)
        self._area.setFrameShape(QFrame.Shape.NoFrame)
        self._area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        around = QVBoxLayout(self)
        around.setContentsMargins(1, 0, 0, 0)
        around.addWidget(self._area)
        inner = QWidget()
        self.layers = QVBoxLayout(inner)
        self.layers.setContentsMargins(11, 8, 12, 8)
        self.layers.setSpacing(4)
        self._guarded: set[QWidget] = set()
        self._area.setWidget(inner)
        inner.installEventFilter(self)
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.focusChanged.connect(self._follow_focus)

    def add(self, title: str, widget: QWidget) -> None:
        """Put a widget under a small heading at the end."""
        label = QLabel(title)
        label.setObjectName("quiet")
        self.layers.addSpacing(5)
        self.layers.addWidget(label)
        self.layers.addWidget(widget)

    def label(self, name: str = "") -> QLabel:
        """Return words of the column that run over several lines; `name` says how they look."""
        label = QLabel()
        label.setObjectName(name)
        label.setWordWrap(True)
        label.setTextFormat(Qt.TextFormat.PlainText)
        return label

    def add_button(self, words: str, icon: str, run: Callable[[], None]) -> QPushButton:
        """Put a button at the end."""
        button = QPushButton(words)
        give_icon(button, icon)
        button.clicked.connect(lambda _=False: run())
        self.layers.addWidget(button)
        return button

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Grow for words that need more width than usual, the scroll bar beside them; let the wheel
        scroll the column and change no choice that happens to pass under the pointer.
        """
        inner = self._area.widget()
        if inner is None or event is None:
            return super().eventFilter(watched, event)
        if watched is inner and event.type() == QEvent.Type.LayoutRequest:
            self.setFixedWidth(max(self._width, inner.minimumSizeHint().width() + _SCROLL_BAR))
            self._guard_choices(inner)
        if watched is not inner and event.type() == QEvent.Type.Wheel:
            event.ignore()  # so it goes on to what holds the field
            return True
        return super().eventFilter(watched, event)

    def _guard_choices(self, inner: QWidget) -> None:
        """Watch the wheel over all fields that would take it for a choice."""
        fields = [*inner.findChildren(QComboBox), *inner.findChildren(QAbstractSpinBox)]
        for field in fields:
            if field not in self._guarded:
                self._guarded.add(field)
                field.installEventFilter(self)
                field.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def _follow_focus(self, _: QWidget | None, now: QWidget | None) -> None:
        """Bring the field with the cursor into sight, however the cursor came there."""
        if now is not None and self._area.isAncestorOf(now):
            self._area.ensureWidgetVisible(now, 0, px(40))
