"""The sizes on a sheet: whether they are proposed, by whose habits, and whether they suffice."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget

from holoptic.catalogue import ntr, tr
from holoptic.desk.look.theme import px
from holoptic.desk.pages.sheet.size_form import SizeForm
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.rows import Row
from holoptic.job import SheetWish

_SIZES = (("none", tr("none")), ("auto", tr("proposed")))
_RUNS = (("given", tr("as given")), ("chain", tr("chain")), ("edge", tr("one edge")))
_STYLES = (("ISO", "ISO"), ("ASME", "ASME"))
_TEXTS = (("sheared", tr("sheared")), ("upright", tr("upright")))
_LIGHTS = (("none", tr("none")), ("left", tr("left")), ("right", tr("right")))
_ENDS = (("arrow", tr("arrows")), ("slash", tr("slashes")), ("dot", tr("dots")))
_ANGLES = (("none", tr("no axis angles")), ("show", tr("axis angles")))
_MOST_LINES = 5


class Shading(Row):
    """From where the light falls on pictorials that are shaded."""

    def __init__(self, change: Callable[..., None]) -> None:
        super().__init__(_LIGHTS, lambda value: change(tr("shading"), shade=value),
                         tr("Shading by parallel lines (S)"))  # fmt: skip


class SizesOnSheet(QWidget):
    """Rows for what is asked of the sizes, and a line that says what they suffice for."""

    def __init__(
        self, session: Session, change: Callable[..., None], mark_size: Callable[[], None]
    ) -> None:
        super().__init__()
        self.session = session
        self.form = SizeForm(session, mark_size)
        self.sizes = Row(
            _SIZES, lambda value: change(tr("dimensions"), dimensions=value), tr("Dimensions (D)")
        )
        self.run_row = Row(
            _RUNS, lambda value: change(tr("run of lengths"), run=value),
            tr("As they were given, each from the one before, or all from one edge"),
        )  # fmt: skip
        self.style_row = Row(
            _STYLES, lambda value: change(tr("habits"), style=value),
            tr("By whose habits dimensions are drawn"),
        )  # fmt: skip
        self.text_row = Row(
            _TEXTS, lambda value: change(tr("lettering"), text=value),
            tr("Lettered in the plane of the size, or upright"),
        )  # fmt: skip
        self.ends_row = Row(
            _ENDS, lambda value: change(tr("ends of lines"), ends=value),
            tr("How the lines of lengths end"),
        )  # fmt: skip
        self.angles_row = Row(
            _ANGLES, lambda value: change(tr("axis angles"), axis_angles=value),
            tr("The angles at which the axes of a pictorial run"),
        )  # fmt: skip
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.told.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.told.setAccessibleName(tr("whether the dimensions suffice"))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(px(4))
        for widget in (
            self.sizes,
            self.run_row,
            self.style_row,
            self.text_row,
            self.ends_row,
            self.angles_row,
            self.told,
            self.form,
        ):
            column.addWidget(widget)

    def refresh(self, wish: SheetWish) -> None:
        """Show what is asked, and what the sizes on the sheet suffice for."""
        self.sizes.show_value(wish.dimensions)
        self.run_row.show_value(wish.run)
        self.style_row.show_value(wish.style)
        self.text_row.show_value(wish.text)
        self.angles_row.show_value(wish.axis_angles)
        self.ends_row.show_value(wish.ends)
        is_auto = wish.dimensions == "auto"
        self.run_row.setVisible(is_auto)
        self.style_row.setVisible(is_auto)
        self.text_row.setVisible(is_auto)
        self.ends_row.setVisible(is_auto)
        self.told.setVisible(is_auto)
        self.told.setText(self._told())
        self.form.refresh()

    def _told(self) -> str:
        laid = self.session.answers.laid
        if laid is None or laid.misfit is not None:
            return ""
        if laid.sizes is None:
            return tr("An arrangement has a parts list instead of sizes.")
        sizes = laid.sizes
        words = [
            tr("Complete: nothing missing, nothing said twice.")
            if sizes.is_complete
            else "\n".join(sizes.lines[:_MOST_LINES])
        ]
        if len(sizes.lines) > _MOST_LINES:
            more = len(sizes.lines) - _MOST_LINES
            words.append(ntr("and {count} more", "and {count} more", more))
        words.append(ntr("{count} dimension", "{count} dimensions", sizes.count))
        if sizes.overlapping:
            words.append(ntr("{count} of them overlaps something",
                             "{count} of them overlap something", sizes.overlapping))  # fmt: skip
        if sizes.lost:
            lost = ", ".join(sizes.lost)
            words.append(tr("Asked of dimensions that are not there any more: {lost}", lost=lost))
        return "\n".join(words)
