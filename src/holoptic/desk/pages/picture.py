"""Picture: kind, near corner and hidden lines, chosen among small live pictures of the part."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QShortcut
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout, QWidget

from holoptic.desk.canvas import Canvas
from holoptic.desk.panes import PicturePane, small_picture
from holoptic.desk.session import CANDIDATES, Session
from holoptic.desk.theme import SIGN, lettering, pen, theme
from holoptic.job import Choice, Hidden
from holoptic.pictorial import Picture

HIDDEN_SCHOOLS: tuple[tuple[Hidden, str], ...] = (
    ("omit", "left out"), ("thin", "thin"), ("dashed", "dashed"),
)  # fmt: skip
_CAPTION = 38


class SmallPicture(Canvas):
    """A live small picture that is chosen by a click or by its key.

    Signals:
        chosen: it was clicked, or Enter or space was pressed on it.
    """

    chosen = pyqtSignal()

    def __init__(self, key: str, parent: QWidget | None = None) -> None:
        super().__init__(parent, margin=10)
        self.key = key
        self.title = ""
        self.remark = ""
        self.is_chosen = False
        self.touchable = False
        self.thin = 0.65
        self.setMinimumSize(96, 120)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_choice(
        self, picture: Picture | None, hidden: Hidden, title: str, remark: str, chosen: bool
    ) -> None:
        """Show a picture with its caption; `chosen` frames it."""
        self.title, self.remark, self.is_chosen = title, remark, chosen
        self.setAccessibleName(f"{title}, key {self.key}")
        self.setToolTip(f"{title}: press {self.key}")
        if picture is None:
            self.show_lines([], None)
            return
        xmin, ymin, xmax, ymax = picture.extent
        below = (ymax - ymin) * _CAPTION / max(self.height() - _CAPTION - 20, 40)
        self.show_lines(small_picture(picture, hidden), (xmin, ymin - below, xmax, ymax))

    def paint_paper(self, painter: QPainter) -> None:
        """Paint a card of paper."""
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(theme().paper))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def paint_over(self, painter: QPainter) -> None:
        """Write the caption and draw the frame of the chosen one."""
        colours = theme()
        box = QRectF(self.rect()).adjusted(1.5, 1.5, -1.5, -1.5)
        base = box.bottom() - _CAPTION
        painter.setFont(lettering(12, bold=True))
        painter.setPen(QColor(colours.ink))
        left = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(QRectF(box.left() + 8, base, box.width() - 12, 18), left, self.title)
        painter.setFont(lettering(11))
        painter.setPen(QColor(colours.hidden_ink))
        painter.drawText(QRectF(box.left() + 8, base + 17, box.width() - 12, 16), left, self.remark)
        cap = QRectF(box.left() + 6, box.top() + 6, 17, 17)
        painter.setPen(pen(colours.hidden_ink, 1))
        painter.drawRoundedRect(cap, 4, 4)
        painter.drawText(cap, Qt.AlignmentFlag.AlignCenter, self.key)
        painter.setPen(pen(SIGN, 3) if self.is_chosen else pen(colours.paper_edge, 1))
        painter.drawRoundedRect(box, 6, 6)
        if self.hasFocus():
            painter.setPen(pen(colours.ghost, 1.5, (3, 3)))
            painter.drawRoundedRect(box.adjusted(4, 4, -4, -4), 4, 4)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Choose it."""
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self.chosen.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Choose it by Enter or space while it has the focus."""
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space):
            self.chosen.emit()
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        """Show the focus."""
        super().focusInEvent(event)
        self.update()


class PicturePage(QWidget):
    """The large picture over two rows of choices."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.pane = PicturePane(session)
        self.small: dict[tuple[str, str], SmallPicture] = {}
        self.schools: dict[Hidden, SmallPicture] = {}
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(6)
        layout.addWidget(self.pane, 1)
        layout.addLayout(self._choices())
        session.picture_changed.connect(self.refresh)
        session.candidates_changed.connect(self.refresh)
        session.job_changed.connect(self.refresh)

    def _choices(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setContentsMargins(8, 0, 8, 8)
        row.setSpacing(6)
        row.addLayout(self._group("Kind and near corner", self._kind_row()), 4)
        row.addSpacing(8)
        row.addLayout(self._group("Hidden lines", self._school_row()), 3)
        return row

    def _group(self, title: str, row: QHBoxLayout) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(3)
        label = QLabel(title)
        label.setObjectName("quiet")
        column.addWidget(label)
        column.addLayout(row)
        return column

    def _kind_row(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        for number, candidate in enumerate(CANDIDATES, 1):
            small = self._small(str(number))
            small.chosen.connect(lambda candidate=candidate: self.choose(*candidate))
            self.small[candidate] = small
            row.addWidget(small)
        return row

    def _school_row(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        for number, (school, _) in enumerate(HIDDEN_SCHOOLS, len(CANDIDATES) + 1):
            small = self._small(str(number))
            small.chosen.connect(lambda school=school: self.choose_hidden(school))
            self.schools[school] = small
            row.addWidget(small)
        return row

    def _small(self, key: str) -> SmallPicture:
        small = SmallPicture(key)
        small.setFixedHeight(158)
        shortcut = QShortcut(key, self)
        shortcut.activated.connect(small.chosen)
        return small

    def choose(self, kind: str, corner: str) -> None:
        """Picture the part in a kind, from a near corner."""
        part = self.session.job_part
        if part is not None:
            choice = replace(part.choice, kind=kind, corner=corner)
            self.session.edit_choice(choice, f"picture as {kind}, {corner}")

    def choose_hidden(self, school: Hidden) -> None:
        """Choose what becomes of hidden lines."""
        part = self.session.job_part
        if part is not None:
            choice = replace(part.choice, hidden=school)
            self.session.edit_choice(choice, f"hidden lines {school}")

    def refresh(self) -> None:
        """Show the candidates of the part on the desk; `show_page` asks for it too."""
        if not self.isVisible():
            return
        part = self.session.job_part
        choice = part.choice if part else Choice()
        for (kind, corner), small in self.small.items():
            picture = self.session.candidates.get((kind, corner))
            title = f"{kind} {corner.removeprefix('front-')}"
            chosen = (kind, corner) == (choice.kind, choice.corner)
            small.show_choice(picture, choice.hidden, title, _remark(picture), chosen)
        for school, words in HIDDEN_SCHOOLS:
            small = self.schools[school]
            picture = self.session.picture
            remark = _hidden_remark(picture)
            small.show_choice(picture, school, words, remark, school == choice.hidden)


def _remark(picture: Picture | None) -> str:
    """Say what a choice shows, in figures."""
    if picture is None:
        return ""
    edges = {stroke.origin.edge for stroke in picture.visible if stroke.origin.edge is not None}
    return f"{len(edges)} edges seen"


def _hidden_remark(picture: Picture | None) -> str:
    if picture is None:
        return ""
    count = len(picture.strokes) - len(picture.visible)
    return f"{count} hidden"
