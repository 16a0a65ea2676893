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

from holoptic.catalogue import tr
from holoptic.curves.methods import FEWEST_ORDINATES, METHOD_TITLES, METHODS, MOST_ORDINATES
from holoptic.desk.pages.picture.corner_picker import CornerPicker
from holoptic.desk.pages.picture.cut_row import CutRow
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.column import Column
from holoptic.desk.widgets.fields import LengthField
from holoptic.desk.widgets.rows import Row
from holoptic.job import Figure, HandWays
from holoptic.pictorial import Family, Parameter, kind_families
from holoptic.regional import with_mark
from holoptic.units import Length

_WIDTH = 232
HIDDEN = (("omit", tr("left out")), ("thin", tr("thin")), ("dashed", tr("dashed")))
OUTLINES = (("one-weight", tr("one weight")), ("thick-and-thin", tr("thick and thin")))
CENTRES = ((True, tr("shown")), (False, tr("left out")))
ANGLES = (("third", tr("third angle")), ("first", tr("first angle")))
DEPTHS = (("shift", tr("shift centres")), ("again", tr("draw again")))
RAISINGS = (("crate", tr("raise crate")), ("corners", tr("each corner")))
BALLS = (("ovals", tr("three ovals")), ("short", tr("a circle alone")))
VIEW_COUNTS = (("three", tr("three")), ("six", tr("all six")))
_FIGURES = {"ANGLE": (tr("angle"), "°"), "TURN": (tr("turn"), "°"), "RATIO": (tr("ratio"), ""),
            "A": ("a", "°"), "B": ("b", "°")}  # fmt: skip
"""What the figures of a kind are called beside their sliders, and their unit."""


class PictureColumn(Column):
    """Everything about the picture that is not chosen among the proposals."""

    def __init__(self, session: Session) -> None:
        super().__init__(_WIDTH)
        self.session = session
        self._families = kind_families()
        self._is_behind = False
        self.kinds = QComboBox()
        self.kinds.setAccessibleName(tr("kind of pictorial"))
        self.kinds.setToolTip(tr("Kind of pictorial (K)"))
        for family in self._families:
            self.kinds.addItem(family.title)
        self.kinds.activated.connect(self._choose_family)
        self.add(tr("Kind"), self.kinds)
        moved, released = self._figures_moved, session.document.close_step
        self.sliders = [KindSlider(moved, released) for _ in range(2)]
        for figure in self.sliders:
            self.layers.addWidget(figure)
        self.corner = CornerPicker()
        self.corner.picked.connect(self._see_from)
        self.add(tr("Near corner"), self.corner)
        self.cut = CutRow(session)
        self.add(tr("Cut open  (X)"), self.cut)
        self.hidden = self._row(tr("Hidden lines  (H)"), HIDDEN, "hidden", tr("hidden lines"))
        self.outline = self._row(tr("Outline  (T)"), OUTLINES, "outline", "outline")
        self.centres = self._row(
            tr("Centre lines  (C)"), CENTRES, "centre_lines", tr("centre lines")
        )
        self.angle = Row(
            ANGLES, lambda angle: self._views(angle=angle), tr("Layout of the views (V)")
        )
        self.add(tr("Views  (V)"), self.angle)
        self.views = Row(VIEW_COUNTS, lambda views: self._views(views=views), tr("How many views"))
        self.layers.addWidget(self.views)
        self._by_hand()
        self.layers.addStretch(1)

    def _by_hand(self) -> None:
        """Add how the plan constructs circles and polygons."""
        self.circles = QComboBox()
        self.circles.setAccessibleName(tr("circles by hand"))
        self.circles.setToolTip(
            tr("How the plan draws circles; a card's M changes it for one feature")
        )
        self.circles.addItem(tr("the usual way"), None)
        for method in METHODS:
            if method != "compass":
                self.circles.addItem(METHOD_TITLES[method], method)
        self.circles.activated.connect(self._choose_circles)
        self.limit = LengthField(tr("largest gap to the true ellipse"))
        self.limit.setPlaceholderText(tr("any"))
        self.limit.may_be_empty = True
        self.limit.read.connect(lambda length: self._limit(length.mm))
        self.limit.emptied.connect(lambda: self._limit(None))
        self.limit.left.connect(self.session.document.close_step)
        row = QHBoxLayout()
        row.setSpacing(4)
        row.addWidget(self.circles, 3)
        row.addWidget(self.limit, 2)
        box = QWidget()
        box.setLayout(row)
        row.setContentsMargins(0, 0, 0, 0)
        self.add(tr("Circles by hand, gap at most"), box)
        self.ordinates = QSpinBox()
        self.ordinates.setRange(FEWEST_ORDINATES, MOST_ORDINATES)
        self.ordinates.setSuffix(" " + tr("offset points"))
        self.ordinates.setAccessibleName(tr("number of offset points"))
        self.ordinates.valueChanged.connect(lambda count: self._hand(ordinates=count))
        self.layers.addWidget(self.ordinates)
        self.depth_copy = Row(DEPTHS, lambda way: self._hand(depth_copy=way),
                              tr("A circle at another depth"))  # fmt: skip
        self.layers.addWidget(self.depth_copy)
        self.raising = Row(RAISINGS, lambda way: self._hand(raising=way), tr("Polygons by hand"))
        self.add(tr("Polygons by hand"), self.raising)
        self.balls = Row(BALLS, lambda way: self._hand(balls=way), tr("Balls by hand"))
        self.add(tr("Balls by hand"), self.balls)

    def _choose_circles(self, index: int) -> None:
        self._hand(method=self.circles.itemData(index), own=())

    def _limit(self, mm: float | None) -> None:
        if mm is not None and mm <= 0:
            self.limit.refuse(tr("the gap must be more than zero; leave it empty for any"))
            return
        self._hand(limit_mm=mm)

    def _hand(self, **changes: object) -> None:
        figure = self.session.document.figure
        if figure is not None:
            ways = replace(figure.by_hand, **changes)  # type: ignore[arg-type]
            changed = replace(figure, by_hand=ways)
            self._take(changed, tr("construction by hand"), merge=tr("by hand"))

    def _row(self, title: str, choices: Sequence[tuple[object, str]], name: str, words: str) -> Row:
        row = Row(choices, lambda value: self._draw_lines(name, value, words), title)
        self.add(title, row)
        return row

    # --- showing ----------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show how the figure in hand is drawn."""
        figure = self.session.document.figure
        self.setEnabled(figure is not None)
        if figure is None:
            return
        if self._is_behind:
            # a hand drags on: what it has come to meanwhile, before anything is set back
            self._figures_moved()
            return
        family, values = self._family_of(figure.kind)
        self.kinds.setCurrentIndex(self._families.index(family))
        for slider, parameter, value in zip(self.sliders, family.parameters, values, strict=False):
            slider.show_value(parameter, value)
        for number, slider in enumerate(self.sliders):
            slider.setVisible(number < len(family.parameters))
        self.corner.show_view(self.session.answers.view)
        self.cut.refresh()
        self.hidden.show_value(figure.lines.hidden)
        self.outline.show_value(figure.lines.outline)
        self.centres.show_value(figure.lines.centre_lines)
        self.angle.show_value(self.session.document.job.angle)
        self.views.show_value(self.session.document.job.views)
        self._show_by_hand(figure.by_hand)

    def _show_by_hand(self, ways: HandWays) -> None:
        self.circles.setCurrentIndex(self.circles.findData(ways.method))
        unit = self.session.document.unit
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
        self.balls.show_value(ways.balls)

    def _family_of(self, kind: str) -> tuple[Family, list[float]]:
        name, *numbers = kind.split(":")
        family = next(family for family in self._families if family.name == name)
        values = [float(number) for number in numbers]
        return family, values or [parameter.usual for parameter in family.parameters]

    # --- choosing ---------------------------------------------------------------------------

    def turn(self, key: int) -> bool:
        """Take the near corner that an arrow key asks for; says whether there was one."""
        corner = self.corner.turned(key)
        if corner is not None:
            self._see_from(corner)
        return corner is not None

    def _see_from(self, corner: str) -> None:
        figure = self.session.document.figure
        if figure is not None:
            self._take(figure.seen(figure.kind, corner), tr("near corner"))

    def _see_as(self, kind: str, words: str, merge: str | None = None) -> None:
        figure = self.session.document.figure
        if figure is not None:
            self._take(figure.seen(kind, figure.corner), words, merge)

    def _draw_lines(self, name: str, value: object, words: str) -> None:
        figure = self.session.document.figure
        if figure is not None:
            lines = replace(figure.lines, **{name: value})  # type: ignore[arg-type]
            self._take(replace(figure, lines=lines), words)

    def _take(self, figure: Figure, words: str, merge: str | None = None) -> None:
        self.session.document.edit_figure(figure, words, merge)
        self.refresh()

    def _choose_family(self, index: int) -> None:
        family = self._families[index]
        kind = family.name if family.has_usual or not family.parameters else family.written()
        self._see_as(kind, family.title)

    def _figures_moved(self) -> None:
        """Take the figures where the sliders stand; while a picture is worked out, after it."""
        self._is_behind = self.session.kernel.is_asked("picture")
        if self._is_behind:
            return
        family = self._families[self.kinds.currentIndex()]
        values = [slider.value for slider in self.sliders[: len(family.parameters)]]
        if self.session.document.figure is None or not values:
            return
        kind = family.written(values)
        if family.name == "trimetric" and sum(values) >= 90:
            self.session.told.emit(tr("axis angles must together stay below 90°"))
            self.refresh()
            return
        self._see_as(kind, family.title, merge=tr("figures of {name}", name=family.name))

    def _views(self, **change: object) -> None:
        job = self.session.document.job
        now = {"views": job.views, "angle": job.angle} | change
        self.session.document.lay_out_views(**now)  # type: ignore[arg-type]
        self.refresh()


class KindSlider(QWidget):
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

    def show_value(self, parameter: Parameter, value: float) -> None:
        """Set the slider without telling anybody."""
        self._step = step = parameter.step
        self.slider.blockSignals(True)
        self.slider.setRange(round(parameter.low / step), round(parameter.high / step))
        self.slider.setValue(round(value / step))
        self.slider.blockSignals(False)
        name, unit = _FIGURES.get(parameter.name, (parameter.name, "°"))
        self.slider.setAccessibleName(name)
        self._name.setText(name)
        self._shown.setText(with_mark(f"{value:g}") + unit)

    def _moved(self, on_move: Callable[[], None]) -> None:
        on_move()
