"""One form for each way in which operations are given: by an outline, a centre, depths."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QLabel, QPushButton, QWidget

from holoptic.catalogue import tr
from holoptic.desk.widgets.fields import LengthField, ReadField
from holoptic.desk.widgets.menus import show_whole_entries
from holoptic.desk.widgets.pressed import on_toggle, show_down
from holoptic.part import Offset, Operation
from holoptic.part.families import Depths
from holoptic.part.operations import Centred, OutlinePoint, reference_of
from holoptic.part.outline_text import outline_text
from holoptic.part.reach import Base
from holoptic.regional import with_mark_in
from holoptic.units import Length

_OUTLINE_HELP = tr(
    "across, up; across, up; … from the face's near edges\n0, 0 arc "
    "21 left — an arc from this corner to the next\nangle 30 length "
    "25 — a slope from the corner before (or: run, rise)"
)


def quiet(text: str) -> QLabel:
    """Return a label that does not press itself forward."""
    label = QLabel(text)
    label.setObjectName("quiet")
    return label


class OutlineForm(QWidget):
    """The corners of an outline as text, and the way to walk them.

    Signals:
        typed(text): the text of the corners is another.
        left: the hand has left the field.
        settled: an edit is done.
        walk_asked: the outline is to be walked.
    """

    typed = pyqtSignal(str)
    left = pyqtSignal()
    settled = pyqtSignal()
    walk_asked = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        self.corners = ReadField(tr("corners of the outline"))
        self.corners.setToolTip(_OUTLINE_HELP)
        self.corners.textEdited.connect(self.typed)
        self.corners.left.connect(self.left)
        self.corners.returnPressed.connect(self.settled)
        self.walk_button = QPushButton(tr("walk"))
        self.walk_button.setToolTip(tr("Walk the outline step by step (Alt+W)"))
        self.walk_button.clicked.connect(self.walk_asked)
        row.addWidget(quiet(tr("corners")))
        row.addWidget(self.corners, 1)
        row.addWidget(self.walk_button)
        self.taken: tuple[OutlinePoint, ...] | None = None
        """The outline that the text was last read into."""

    def show_outline(
        self, outline: tuple[OutlinePoint, ...], starts: tuple[int, ...], is_other: bool
    ) -> None:
        """Show an outline in its words; what is being typed stays as it is."""
        typing = self.corners.hasFocus() and not is_other
        if typing and (self.corners.trouble or outline == self.taken):
            return
        self.corners.setText(with_mark_in(outline_text(outline, starts)))
        self.corners.accept()


class CentreForm(QWidget):
    """The centre of an operation: from which edges, how far.

    Signals:
        moved(side, length): the centre is another; `side` is u or v.
        referred(side, reference): it is to be measured from another edge (`part.operations`).
    """

    moved = pyqtSignal(str, object)
    referred = pyqtSignal(str, int)

    def __init__(self, field: Callable[..., LengthField]) -> None:
        super().__init__()
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        grid.addWidget(quiet(tr("centre from the edges")), 0, 0, 1, 4)
        self.from_edge: dict[str, QComboBox] = {}
        self.distance: dict[str, LengthField] = {}
        for number, side in enumerate(("u", "v")):
            edge = QComboBox()
            edge.setAccessibleName(tr("edge that the centre is measured from, {side}", side=side))
            edge.activated.connect(lambda index, side=side: self.referred.emit(side, index))
            distance = field(
                tr("distance of the centre, {side}", side=side),
                lambda length, side=side: self.moved.emit(side, length),
            )
            grid.addWidget(edge, 1, 2 * number)
            grid.addWidget(distance, 1, 2 * number + 1)
            self.from_edge[side], self.distance[side] = edge, distance
        grid.setColumnMinimumWidth(0, 84)
        grid.setColumnMinimumWidth(2, 84)

    def show_centre(self, operation: Centred) -> None:
        """Show where the centre of an operation is."""
        for side, names in zip(("u", "v"), operation.face.edge_names, strict=True):
            offset: Offset = getattr(operation, side)
            edge = self.from_edge[side]
            titles = [*names, tr("centre line")]
            if titles != [edge.itemText(i) for i in range(edge.count())]:
                edge.clear()
                edge.addItems(titles)
            edge.setCurrentIndex(reference_of(offset))
            self.distance[side].show_length(offset.distance)


class DepthForm(QWidget):
    """How deep an operation goes, from where, and what its depths are counted from.

    Signals:
        changed(name, length): `start` or `end` is another; an end None goes through.
        through_asked(through): it is to go through, or no longer.
        counted_from(words): the depths are to be counted from something else, None the face.
        reach_asked: it is to go as deep as a face.
    """

    changed = pyqtSignal(str, object)
    through_asked = pyqtSignal(bool)
    counted_from = pyqtSignal(object)
    reach_asked = pyqtSignal()

    def __init__(self, field: Callable[..., LengthField]) -> None:
        super().__init__()
        self.start_field = field(tr("from depth"), lambda length: self._change("start", length))
        self.end_field = field(tr("to depth"), lambda length: self._change("end", length))
        self.end_field.setPlaceholderText(tr("through"))
        self.end_field.may_be_empty = True
        self.end_field.emptied.connect(lambda: self._change("end", None))
        self.through = QPushButton(tr("through"))
        self.through.setProperty("tight", True)
        on_toggle(self.through, self.through_asked.emit)
        self.counted = QComboBox()
        self.counted.setAccessibleName(tr("what the depths are counted from"))
        self.counted.setToolTip(
            tr(
                "Inward from its face, or heights above the opposite face or "
                "above an earlier feature"
            )
        )
        self.counted.setMinimumContentsLength(8)
        self.counted.setProperty("may_be_cut", True)  # it may hold a long name of a feature
        self.counted.activated.connect(lambda index: self.counted_from.emit(self._words[index]))
        self.up_to = QPushButton(tr("up to"))
        self.up_to.setToolTip(tr("As deep as a face of an earlier feature (Alt+U)"))
        self.up_to.setProperty("tight", True)
        self.up_to.clicked.connect(self.reach_asked)
        self._counted_label = quiet(tr("depth"))
        self._from_label, self._to_label = quiet(tr("from")), quiet(tr("to"))
        self._words: list[str | None] = []
        self._lay_out()

    def _lay_out(self) -> None:
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        grid.addWidget(self._counted_label, 0, 0)
        grid.addWidget(self.counted, 0, 1, 1, 4)
        for column, widget in enumerate((self._from_label, self.start_field, self._to_label,
                                         self.end_field, self.through, self.up_to)):  # fmt: skip
            grid.addWidget(widget, 1, column)
        grid.setColumnStretch(1, 1)
        grid.setColumnStretch(3, 1)

    def _change(self, name: str, length: Length | None) -> None:
        self.changed.emit(name, length)

    def show_depths(self, operation: Operation, depths: Depths, bases: list[Base]) -> None:
        """Show the depths of an operation; `bases` is what they may be counted from."""
        self.start_field.show_length(operation.start)
        words = {"along": tr("along it from"), "place": tr("at")}.get(depths, tr("from"))
        self._from_label.setText(words)
        self._counted_label.setVisible(depths != "along")
        self.counted.setVisible(depths != "along")
        if depths != "along":
            self._show_bases(bases, operation.base.text if operation.base is not None else None)
        for widget in (self.end_field, self.through, self._to_label, self.up_to):
            widget.setVisible(depths != "place")
        self.end_field.show_length(operation.end)
        show_down(self.through, operation.end is None)
        away, face = operation.base is not None, operation.face.title
        self.through.setText(tr("to {face}", face=face) if away else tr("through"))
        self.end_field.setPlaceholderText(face if away else tr("through"))

    def _show_bases(self, bases: list[Base], words: str | None) -> None:
        if words not in [base.words for base in bases]:
            bases = [*bases, Base(tr("above {words}", words=words), words)]
        self._words = [base.words for base in bases]
        titles = [base.title for base in bases]
        if titles != [self.counted.itemText(k) for k in range(self.counted.count())]:
            self.counted.clear()
            self.counted.addItems(titles)
            show_whole_entries(self.counted)
        self.counted.setCurrentIndex(self._words.index(words))
