"""The column beside the picture: kind with its figures, near corner, which lines are drawn."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QSlider,
    QSpinBox,
    QWidget,
)

from holoptic.curves.methods import FEWEST_ORDINATES, METHOD_TITLES, METHODS, MOST_ORDINATES
from holoptic.desk.pages.picture.corner_picker import CornerPicker
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.column import Column
from holoptic.desk.widgets.fields import LengthField
from holoptic.desk.widgets.rows import Row
from holoptic.job import Choice, HandWays
from holoptic.pictorial import Family, kind_families
from holoptic.units import Length

_WIDTH = 232
HIDDEN = (("omit", "left out"), ("thin", "thin"), ("dashed", "dashed"))
OUTLINES = (("one-weight", "one weight"), ("thick-and-thin", "thick and thin"))
CENTRES = ((True, "shown"), (False, "left out"))
ANGLES = (("third", "third angle"), ("first", "first angle"))
DEPTHS = (("shift", "shift centres"), ("again", "draw again"))
RAISINGS = (("crate", "raise crate"), ("corners", "each corner"))
VIEW_COUNTS = (("three", "three"), ("six", "all six"))


class PictureColumn(Column):
    """Everything about the picture that is not chosen among the proposals."""

    def __init__(self, session: Session) -> None:
        super().__init__(_WIDTH)
        self.session = session
        self._families = kind_families()
        self.kinds = QComboBox()
        self.kinds.setAccessibleName("kind of pictorial")
        self.kinds.setToolTip("Kind of pictorial (K)")
        for family in self._families:
            self.kinds.addItem(family.title)
        self.kinds.activated.connect(self._choose_family)
        self.add("Kind", self.kinds)
        self.figures = [Figure(self._figures_moved, session.history_step_done) for _ in range(2)]
        for figure in self.figures:
            self.layers.addWidget(figure)
        self.corner = CornerPicker()
        self.corner.picked.connect(lambda corner: self._change("corner", corner, "near corner"))
        self.add("Near corner", self.corner)
        self.hidden = self._row("Hidden lines  (H)", HIDDEN, "hidden", "hidden lines")
        self.outline = self._row("Outline  (T)", OUTLINES, "outline", "outline")
        self.centres = self._row("Centre lines  (C)", CENTRES, "centre_lines", "centre lines")
        self.angle = Row(ANGLES, lambda angle: self._views(angle=angle), "Layout of the views (V)")
        self.add("Views  (V)", self.angle)
        self.views = Row(VIEW_COUNTS, lambda views: self._views(views=views), "How many views")
        self.layers.addWidget(self.views)
        self._by_hand()
        self.layers.addStretch(1)

    def _by_hand(self) -> None:
        """Add how the plan constructs circles and polygons."""
        self.circles = QComboBox()
        self.circles.setAccessibleName("circles by hand")
        self.circles.setToolTip("How the plan draws circles; a card's M changes it for one feature")
        self.circles.addItem("the usual way", None)
        for method in METHODS:
            if method != "compass":
                self.circles.addItem(METHOD_TITLES[method], method)
        self.circles.activated.connect(self._choose_circles)
        self.limit = LengthField("largest gap to the true ellipse")
        self.limit.setPlaceholderText("any")
        self.limit.may_be_empty = True
        self.limit.read.connect(lambda length: self._limit(length.mm))
        self.limit.emptied.connect(lambda: self._limit(None))
        self.limit.left.connect(self.session.history_step_done)
        row = QHBoxLayout()
        row.setSpacing(4)
        row.addWidget(self.circles, 3)
        row.addWidget(self.limit, 2)
        box = QWidget()
        box.setLayout(row)
        row.setContentsMargins(0, 0, 0, 0)
        self.add("Circles by hand, gap at most", box)
        self.ordinates = QSpinBox()
        self.ordinates.setRange(FEWEST_ORDINATES, MOST_ORDINATES)
        self.ordinates.setSuffix(" offset points")
        self.ordinates.setAccessibleName("number of offset points")
        self.ordinates.valueChanged.connect(lambda count: self._hand(ordinates=count))
        self.layers.addWidget(self.ordinates)
        self.depth_copy = Row(DEPTHS, lambda way: self._hand(depth_copy=way),
                              "A circle at another depth")  # fmt: skip
        self.layers.addWidget(self.depth_copy)
        self.raising = Row(RAISINGS, lambda way: self._hand(raising=way), "Polygons by hand")
        self.add("Polygons by hand", self.raising)

    def _choose_circles(self, index: int) -> None:
        self._hand(method=self.circles.itemData(index), own=())

    def _limit(self, mm: float | None) -> None:
        if mm is not None and mm <= 0:
            self.limit.refuse("the gap must be more than zero; leave it empty for any")
            return
        self._hand(limit_mm=mm)

    def _hand(self, **changes: object) -> None:
        part = self.session.job_part
        if part is not None:
            ways = replace(part.choice.by_hand, **changes)  # type: ignore[arg-type]
            self._change("by_hand", ways, "construction by hand", merge="by hand")

    def _row(self, title: str, choices: Sequence[tuple[object, str]], name: str, words: str) -> Row:
        row = Row(choices, lambda value: self._change(name, value, words), title)
        self.add(title, row)
        return row

    # --- showing ----------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show the choices of the part on the desk."""
        part = self.session.job_part
        self.setEnabled(part is not None)
        if part is None:
            return
        choice = part.choice
        family, values = self._family_of(choice)
        self.kinds.setCurrentIndex(self._families.index(family))
        for figure in self.figures:
            figure.hide()
        for figure, parameter, value in zip(self.figures, family.parameters, values, strict=False):
            figure.show_value(parameter.name.lower(), parameter.low, parameter.high,
                              parameter.step, value)  # fmt: skip
            figure.show()
        self.corner.show_view(self.session.view)
        self.hidden.show_value(choice.hidden)
        self.outline.show_value(choice.outline)
        self.centres.show_value(choice.centre_lines)
        self.angle.show_value(self.session.job.angle)
        self.views.show_value(self.session.job.views)
        self._show_by_hand(choice.by_hand)

    def _show_by_hand(self, ways: HandWays) -> None:
        self.circles.setCurrentIndex(self.circles.findData(ways.method))
        unit = self.session.job.unit
        self.limit.unit = unit
        if not self.limit.hasFocus():
            shown = None if ways.limit_mm is None else Length.of(ways.limit_mm, unit)
            self.limit.show_length(shown)
        self.ordinates.blockSignals(True)
        self.ordinates.setValue(ways.ordinates)
        self.ordinates.blockSignals(False)
        asked = {ways.method, *(item.method for item in ways.own)}
        self.ordinates.setVisible("offsets" in asked)
        self.depth_copy.show_value(ways.depth_copy)
        self.raising.show_value(ways.raising)

    def _family_of(self, choice: Choice) -> tuple[Family, list[float]]:
        name, *numbers = choice.kind.split(":")
        family = next(family for family in self._families if family.name == name)
        values = [float(number) for number in numbers]
        return family, values or [parameter.usual for parameter in family.parameters]

    # --- choosing ---------------------------------------------------------------------------

    def turn(self, key: int) -> bool:
        """Take the near corner that an arrow key asks for; says whether there was one."""
        corner = self.corner.turned(key)
        if corner is not None:
            self._change("corner", corner, "near corner")
        return corner is not None

    def _change(self, name: str, value: object, words: str, merge: str | None = None) -> None:
        part = self.session.job_part
        if part is not None:
            changes = {name: value}
            self.session.edit_choice(replace(part.choice, **changes), words, merge)  # type: ignore[arg-type]
        self.refresh()

    def _choose_family(self, index: int) -> None:
        family = self._families[index]
        kind = family.name if family.has_usual or not family.parameters else family.written()
        self._change("kind", kind, family.title)

    def _figures_moved(self) -> None:
        family = self._families[self.kinds.currentIndex()]
        values = [figure.value for figure in self.figures[: len(family.parameters)]]
        part = self.session.job_part
        if part is None or not values:
            return
        kind = family.written(values)
        if family.name == "trimetric" and sum(values) >= 90:
            self.session.told.emit("axis angles must together stay below 90°")
            self.refresh()
            return
        self._change("kind", kind, family.title, merge=f"figures of {family.name}")

    def _views(self, **change: object) -> None:
        job = self.session.job
        now = {"views": job.views, "angle": job.angle} | change
        self.session.lay_out_views(**now)  # type: ignore[arg-type]
        self.refresh()


class Figure(QWidget):
    """A figure of a kind: a slider, and what it stands at."""

    def __init__(self, on_move: Callable[[], None], on_release: Callable[[], None]) -> None:
        super().__init__()
        self._step = 1.0
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 2, 0, 0)
        grid.setSpacing(4)
        self._name, self._shown = QLabel(), QLabel()
        self._name.setObjectName("quiet")
        self._shown.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.valueChanged.connect(lambda _: self._moved(on_move))
        self.slider.sliderReleased.connect(on_release)
        grid.addWidget(self._name, 0, 0)
        grid.addWidget(self._shown, 0, 1)
        grid.addWidget(self.slider, 1, 0, 1, 2)

    @property
    def value(self) -> float:
        """The figure the slider stands at."""
        return round(self.slider.value() * self._step, 6)

    def show_value(self, name: str, low: float, high: float, step: float, value: float) -> None:
        """Set the slider without telling anybody."""
        self._step = step
        self.slider.blockSignals(True)
        self.slider.setRange(round(low / step), round(high / step))
        self.slider.setValue(round(value / step))
        self.slider.blockSignals(False)
        self.slider.setAccessibleName(name)
        self._name.setText(name)
        self._shown.setText(f"{value:g}" + ("" if name == "ratio" else "°"))

    def _moved(self, on_move: Callable[[], None]) -> None:
        on_move()
