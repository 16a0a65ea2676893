"""Views drawn by hand: the sizes, the pane and the line in hand, and the steps of a walk."""

from __future__ import annotations

from dataclasses import dataclass, replace

from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QListWidget,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.desk.session.readings import Readings
from holoptic.desk.widgets.fields import LengthField, ReadField
from holoptic.desk.widgets.rows import Row
from holoptic.desk.widgets.walk_bar import WalkBar
from holoptic.errors import ExpressionError
from holoptic.part.crate import AXIS_LETTERS, AXIS_NAMES
from holoptic.part.outline_text import outline_text, read_outline
from holoptic.part.walk import Walk
from holoptic.reading.draft import PANES, Draft, Track
from holoptic.reading.lines import Status
from holoptic.regional import in_lists, with_mark_in
from holoptic.units import Length, Unit

_STATUSES: tuple[tuple[Status, str], ...] = (
    ("visible", tr("Visible (V)")), ("hidden", tr("Hidden (H)")), ("centre", tr("Centre (M)"))
)  # fmt: skip
_VIEWS = (("front", tr("Front (F)")), ("top", tr("Top (T)")), ("right", tr("Side (S)")))
_HELP = tr(
    "↑ 12 Enter  ·  ↑ again: to the next place offered\nat 12, 8  "
    "·  r to L-12  ·  a 30 25  ·  go 40, 12\nclose  ·  circle 9  ·  "
    "Enter alone ends a line\n⌫ one step back, then the last line  "
    "·  Esc done"
)


@dataclass(frozen=True)
class InHand:
    """What the sheet shows of a draft: the draft, the pane in hand, the walk, and a step ahead."""

    draft: Draft
    view: str
    status: Status
    walk: Walk
    ahead: Walk | None


class DraftPanel(QWidget):
    """Draws lines into the pane in hand.

    Signals:
        shown(in_hand): what the sheet is to show, or None.
        ended: drawing is done.
    """

    shown = pyqtSignal(object)
    ended = pyqtSignal()

    def __init__(self, readings: Readings) -> None:
        super().__init__()
        self._readings = readings
        self.view = "front"
        self.status: Status = "visible"
        self._ahead: Walk | None = None
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 4, 0, 0)
        layout.setSpacing(4)
        sizes = QHBoxLayout()
        self.sizes = [self._size(axis, sizes) for axis in range(3)]
        layout.addLayout(sizes)
        self.panes = Row(_VIEWS, lambda view: self.take_pane(str(view)), tr("The pane drawn in"))
        self.statuses = Row(_STATUSES, self._take_status, tr("The kind of line drawn next"))
        self.symmetry = QPushButton()
        self.symmetry.setToolTip(
            tr("Lines drawn from now on stand on both sides of the middle (X)")
        )
        self.symmetry.clicked.connect(lambda _=False: self.next_symmetry())
        for widget in (self.panes, self.statuses, self.symmetry):
            layout.addWidget(widget)
        layout.addWidget(self._make_walk_bar())
        self.tracks = QListWidget()
        self.tracks.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.tracks.setTextElideMode(Qt.TextElideMode.ElideRight)
        self.tracks.setAccessibleName(tr("lines of the views"))
        self.tracks.currentRowChanged.connect(self._show_corners)
        delete = QShortcut(QKeySequence("Delete"), self.tracks)
        delete.activated.connect(self._delete)
        layout.addWidget(self.tracks, 1)
        self.corners = ReadField(tr("corners of the line"))
        self.corners.setPlaceholderText(tr("corners of the chosen line"))
        self.corners.textEdited.connect(self._edit_corners)
        self.done = QPushButton(tr("Done (Esc)"))
        self.done.clicked.connect(lambda _=False: self.ended.emit())
        self._dropped: Draft | None = None
        self.anew = QPushButton()
        self.anew.clicked.connect(lambda _=False: self.begin_anew())
        layout.addWidget(self.corners)
        ends = QHBoxLayout()
        ends.addWidget(self.anew, 1)
        ends.addWidget(self.done, 1)
        layout.addLayout(ends)

    def _make_walk_bar(self) -> WalkBar:
        self.walk_bar = WalkBar()
        self.walk_bar.may_stay_open = True
        self.walk_bar.help.setText(_HELP)
        self.walk_bar.step.commands = {
            "f": lambda: self.take_pane("front"), "t": lambda: self.take_pane("top"),
            "s": lambda: self.take_pane("right"), "v": lambda: self._take_status("visible"),
            "h": lambda: self._take_status("hidden"), "m": lambda: self._take_status("centre"),
            "x": self.next_symmetry,
        }  # fmt: skip
        self.walk_bar.offers = self._offers
        self.walk_bar.walked.connect(self._walked)
        self.walk_bar.closed.connect(self._finished)
        self.walk_bar.ended.connect(self._leave)
        self.walk_bar.ran_out.connect(self._take_last_back)
        return self.walk_bar

    def _size(self, axis: int, row: QHBoxLayout) -> LengthField:
        field = LengthField(tr("overall {axis}", axis=AXIS_NAMES[axis]))
        field.read.connect(lambda length: self._take_size(axis, length))
        row.addWidget(QLabel(AXIS_LETTERS[axis]))
        row.addWidget(field, 1)
        return field

    # --- showing ----------------------------------------------------------------------------

    def begin(self) -> None:
        """Begin to draw, or go on."""
        self.refresh()
        self._begin_walk()

    def refresh(self) -> None:
        """Show the draft, or nothing where none is drawn."""
        draft = self._readings.draft if self._readings.is_drafting else None
        self.setVisible(draft is not None)
        if draft is None:
            self.shown.emit(None)
            return
        for field, size in zip(self.sizes, draft.size, strict=True):
            field.unit = draft.unit
            field.show_length(size)
        self.panes.show_value(self.view)
        self.statuses.show_value(self.status)
        letters = [AXIS_LETTERS[axis] for axis in sorted(draft.symmetric)]
        self.symmetry.setText(
            tr("Symmetric about the middle of {letters} (X)", letters=' and '.join(letters))
            if letters else tr("Symmetric in no direction (X)")
        )  # fmt: skip
        words = [_words(track) for track in draft.tracks]
        if words != [item.text() for k in range(self.tracks.count())
                     if (item := self.tracks.item(k))]:  # fmt: skip
            self.tracks.clear()
            self.tracks.addItems(words)
        self.anew.setText(tr("Begin anew") if draft.tracks else tr("Bring the lines back"))
        self.anew.setEnabled(bool(draft.tracks or self._dropped))
        self._show()

    def _show(self) -> None:
        draft = self._readings.draft
        if draft is not None and self._readings.is_drafting:
            self.shown.emit(InHand(draft, self.view, self.status, self.walk_bar.walk, self._ahead))

    def _walked(self, walk: Walk, ahead: Walk | None) -> None:
        del walk
        self._ahead = ahead
        self._show()

    def _begin_walk(self) -> None:
        draft = self._readings.draft
        if draft is not None:
            self.walk_bar.begin(draft.unit, draft.names())

    # --- drawing ----------------------------------------------------------------------------

    def take_pane(self, view: str) -> None:
        """Draw in another pane."""
        if view in PANES:
            self.view = view
            self.refresh()
            self._begin_walk()

    def _take_status(self, status: object) -> None:
        self.status = next(one for one, _ in _STATUSES if one == status)
        self.refresh()
        self.walk_bar.step.setFocus()

    def next_symmetry(self) -> None:
        """Take another symmetry of the pane in hand."""
        if self._readings.draft is not None:
            self._readings.change_draft(self._readings.draft.next_symmetry(self.view))
            self.walk_bar.step.setFocus()

    def go(self, place: Vec2) -> None:
        """Walk straight to a place of the pane in hand that was clicked."""
        self.walk_bar.go(QPointF(*place))

    def begin_anew(self) -> None:
        """Take all lines away, or bring back those that were taken away last."""
        draft = self._readings.draft
        if draft is None:
            return
        if draft.tracks:
            self._dropped = draft
            self._readings.change_draft(replace(draft, tracks=()))
        elif self._dropped is not None:
            self._readings.change_draft(self._dropped)
        self._begin_walk()

    def _offers(self) -> tuple[list[Length], list[Length]]:
        draft = self._readings.draft
        if draft is None:
            return [], []
        across, up = draft.offers(self.view)
        return [offer.length for offer in across], [offer.length for offer in up]

    def _finished(self, walk: Walk) -> None:
        draft = self._readings.draft
        if draft is not None:
            self._readings.change_draft(draft.with_track(self.view, self.status, walk))
        self._begin_walk()

    def _take_last_back(self) -> None:
        """Take the last line of the pane back into the walk."""
        draft = self._readings.draft
        if draft is None:
            return
        own = [k for k, track in enumerate(draft.tracks) if track.view == self.view]
        if own:
            track = draft.tracks[own[-1]]
            self.status = track.status
            self._readings.change_draft(draft.without(own[-1]))
            self.walk_bar.resume(track.walk)

    def _leave(self) -> None:
        """Drop the walk in hand; without one, be done."""
        if self.walk_bar.walk.steps:
            self._begin_walk()
        else:
            self.ended.emit()

    def _take_size(self, axis: int, length: Length) -> None:
        draft = self._readings.draft
        if draft is not None and length.mm > 0:
            changed = draft.resized(axis, length)
            self.walk_bar.use(changed.unit, changed.names())
            self._readings.change_draft(changed)

    # --- editing ----------------------------------------------------------------------------

    def _delete(self) -> None:
        draft, number = self._readings.draft, self.tracks.currentRow()
        if draft is not None and number >= 0:
            self._readings.change_draft(draft.without(number))

    def _show_corners(self, number: int) -> None:
        draft = self._readings.draft
        if draft is not None and 0 <= number < len(draft.tracks):
            self.corners.setText(with_mark_in(outline_text(draft.tracks[number].walk.points)))
            self.corners.accept()

    def _edit_corners(self, text: str) -> None:
        draft, number = self._readings.draft, self.tracks.currentRow()
        if draft is None or not 0 <= number < len(draft.tracks):
            return
        try:
            points = read_outline(in_lists(text), draft.unit, draft.names())
            tracks = [*draft.tracks]
            track = tracks[number]
            tracks[number] = replace(track, walk=Walk(points, closed=track.walk.closed))
            changed = replace(draft, tracks=tuple(tracks))
            changed.lines(track.view)
        except ExpressionError as error:
            self.corners.refuse(str(error), error.column)
            return
        except ValueError as error:
            self.corners.refuse(str(error))
            return
        self.corners.accept()
        self._readings.change_draft(changed)
        self.tracks.setCurrentRow(number)


def _words(track: Track) -> str:
    status = tr("{status}, on both sides", status=track.status) if track.mirrored else track.status
    words = "  ".join(track.walk.steps) or outline_text(track.walk.points)
    return f"{track.view} · {status}: {words}"


def first_draft(size: tuple[Length, Length, Length] | None, unit: Unit) -> Draft:
    """Return an empty draft of the size of a part, or of a hand's breadth."""
    length, depth, height = size or (Length.of(mm, unit) for mm in _FIRST_MM)
    return Draft((length, depth, height), unit=unit)


_FIRST_MM = 72.0, 44.0, 36.0
