"""Where the picture is cut open: written, chosen, or slid along an axis."""

from __future__ import annotations

from collections.abc import Callable
from typing import get_args

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QSlider, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.theme import px
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.fields import ReadField
from holoptic.desk.widgets.rows import Row
from holoptic.errors import BadInput
from holoptic.part import Part
from holoptic.part.cutting import AXES, CutSort, read_cut
from holoptic.units import Unit, show

_SORTS = (("", tr("whole")), ("half", tr("half")), ("full:depth", tr("full")))
_STEP_MM = 0.5


class CutRow(QWidget):
    """A row of the usual cuts, the words of the one in hand, and sliders that move its planes."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._is_behind: tuple[str, str] | None = None
        self.sorts = Row(_SORTS, lambda words: self.take(str(words)), tr("How it is cut open"))
        self.words = ReadField(tr("where it is cut open"))
        self.words.setPlaceholderText(tr("through:bore,pin  half  plane:…"))
        self.words.textEdited.connect(self._typed)
        self.words.editingFinished.connect(self.finish)
        self.sliders = {axis: _PlaneSlider(axis, self._slid) for axis in AXES}
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(px(4))
        for widget in (self.sorts, self.words, *self.sliders.values()):
            column.addWidget(widget)

    def refresh(self) -> None:
        """Show how the figure in hand is cut, and why it is not where it cannot be."""
        figure, made = self.session.document.figure, self.session.answers.made
        if figure is None:
            return
        begins = figure.cut.partition(":")[0]
        self.sorts.show_value({"": "", "half": "half", "full": "full:depth"}.get(begins))
        if not self.words.hasFocus():
            self.words.setText(figure.cut)
        is_now = made is not None and made.figure.cut == figure.cut
        if made is not None and is_now and self.words.text() == figure.cut:
            if made.refused:
                self.words.refuse(made.refused)
            else:
                self.words.accept()
        if self._is_behind is not None:
            (axis, place), self._is_behind = self._is_behind, None
            self._move(axis, place)
            return
        self._show_sliders(figure.cut)

    def _show_sliders(self, words: str) -> None:
        places = planes_of(words)
        facts, made = self.session.answers.facts, self.session.answers.made
        for number, axis in enumerate(AXES):
            slider = self.sliders[axis]
            slider.setVisible(axis in places and facts is not None)
            if axis in places and facts is not None and made is not None:
                low, high = facts.low[number], facts.high[number]
                begins = 0.0 if isinstance(made.source, Part) else low
                try:
                    at = float(places[axis]) if places[axis] else (low + high) / 2 - begins
                except ValueError:  # a sum: it is not slid away
                    slider.setVisible(False)
                    continue
                slider.show_place(low - begins, high - begins, at, self.session.document.unit)

    def _typed(self, words: str) -> None:
        """Take what is typed as soon as it can be read; half-typed words wait."""
        words = words.strip()
        if words and is_begun(words):
            self.words.accept()
            return
        try:
            if words:
                read_cut(words)
        except BadInput as error:
            self.words.refuse(str(error))
            return
        self.words.accept()
        self.take(words, merge=True)

    def finish(self) -> None:
        """Show the cut that is in hand, where what was typed is none."""
        self.session.document.close_step()
        figure = self.session.document.figure
        if figure is not None and self.words.trouble and not figure.cut:
            self.words.setText("")
            self.words.accept()
        self.refresh()

    def take(self, words: str, merge: bool = False) -> None:
        """Cut the figure in hand open so."""
        self.session.document.cut_open(words, merge=merge)
        self.refresh()

    # --- planes that move -------------------------------------------------------------------

    def _slid(self, axis: str, place: str) -> None:
        """Move a plane; while a picture is worked out, after it."""
        if self.session.kernel.is_asked("picture"):
            self._is_behind = axis, place
            return
        self._move(axis, place)

    def _move(self, axis: str, place: str) -> None:
        figure = self.session.document.figure
        if figure is not None and axis in planes_of(figure.cut):
            self.take(with_plane(figure.cut, axis, place), merge=True)


def is_begun(words: str) -> bool:
    """Say whether words may still become a cut, and are none yet."""
    begun = words.lower()
    return any(sort.startswith(begun) and sort != begun for sort in get_args(CutSort)) or \
        begun.rstrip(": ") in ("through", "offset", "broken", "plane")  # fmt: skip


def planes_of(words: str) -> dict[str, str]:
    """Return the planes of a cut that can be slid, each with its place as it is written.

    >>> planes_of("half:depth=20")
    {'length': '', 'depth': '20'}
    """
    try:
        asked = read_cut(words)
    except BadInput:
        return {}
    if asked.sort == "full":
        said = dict(asked.said) or dict.fromkeys(asked.listed or ("depth",), "")
        return {axis: said[axis] for axis in AXES if axis in said}
    if asked.sort == "half" and "through" not in asked.said:
        given = [axis for axis in AXES if axis in asked.said]
        named = given if len(given) == 2 else ["length", "depth"]
        return {axis: asked.said.get(axis, "") for axis in named}
    return {}


def with_plane(words: str, axis: str, place: str) -> str:
    """Return a cut with one of its planes elsewhere.

    >>> with_plane("half:depth=20,corner=rear-left", "length", "12.5")
    'half:depth=20,corner=rear-left,length=12.5'
    """
    asked = read_cut(words)
    said = {**asked.said, axis: place}
    plain = f";plain={','.join(asked.plain)}" if asked.plain else ""
    return f"{asked.sort}:{','.join(f'{k}={v}' for k, v in said.items())}{plain}"


class _PlaneSlider(QWidget):
    """A plane of the crate: where it stands along an axis."""

    def __init__(self, axis: str, moved: Callable[[str, str], None]) -> None:
        super().__init__()
        self._low = 0.0
        self.label = QLabel()
        self.label.setObjectName("quiet")
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setAccessibleName(tr("plane square to the {axis}", axis=tr(axis)))
        self.slider.valueChanged.connect(
            lambda value: moved(axis, f"{self._low + value * _STEP_MM:g}")
        )
        self._axis = axis
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.label)
        column.addWidget(self.slider)

    def show_place(self, low: float, high: float, at: float, unit: Unit) -> None:
        """Set the slider without telling anybody; lengths in mm."""
        self._low = low
        self.slider.blockSignals(True)
        self.slider.setRange(1, max(1, round((high - low) / _STEP_MM) - 1))
        self.slider.setValue(round((at - low) / _STEP_MM))
        self.slider.blockSignals(False)
        self.label.setText(f"{tr(self._axis)} {show(at, unit)}")
