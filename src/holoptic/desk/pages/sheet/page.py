"""Sheet: the page as it will be, the answers that fit below it, what is asked of it beside it."""

from __future__ import annotations

from functools import partial

from PyQt6 import sip
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QResizeEvent, QShortcut, QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.desk.canvas.choice_card import show_what_fits
from holoptic.desk.look.theme import px
from holoptic.desk.pages.sheet.sheet_column import SheetColumn
from holoptic.desk.pages.sheet.sheet_view import PageView, SheetAnswer
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.key_line import KeyLine
from holoptic.desk.widgets.misfit_notice import MisfitNotice
from holoptic.sheet.frames import frame_of
from holoptic.sheet.papers import scales_of
from holoptic.sheet.planning import ANSWERS, accepted
from holoptic.units.spoken import said
from holoptic.worker.messages import SheetPlanned

_BOARD_HEIGHT = 190
_KEYS = (
    (tr("1 to 5"), tr("take an answer")), ("D", tr("dimensions")), ("S", tr("shading")),
    ("U", tr("way round")), ("A", tr("as fits best")), ("N", tr("next drawing")),
    ("F", tr("add a figure")), ("F1", tr("all keys")),
)  # fmt: skip


class SheetPage(QWidget):
    """The sheet planned before the first line; one key accepts an answer."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.misfit = MisfitNotice(session)
        self.view = PageView()
        self.column = SheetColumn(session, self._mark_size)
        self.answers = [self._answer(number) for number in range(ANSWERS)]
        board = QHBoxLayout()
        board.setContentsMargins(8, 6, 8, 8)
        board.setSpacing(6)
        for answer in self.answers:
            board.addWidget(answer, 1)
        below = QWidget()
        below.setLayout(board)
        below.setFixedHeight(px(_BOARD_HEIGHT))
        left = QVBoxLayout()
        left.setSpacing(0)
        for widget in (self.misfit, KeyLine(_KEYS), self.view, below):
            left.addWidget(widget, 1 if widget is self.view else 0)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addLayout(left, 1)
        layout.addWidget(self.column)
        for key, run in (
            ("D", self.column.sizes.sizes.step), ("S", self.column.shading.step),
            ("U", self.column.turn), ("N", self.column.figures.take_next), ("A", self._as_fits),
            ("E", partial(self.column.sizes.form.step, 1)),
            ("Shift+E", partial(self.column.sizes.form.step, -1)),
            (".", self.column.sizes.form.pass_over),
            ("Esc", partial(self.column.sizes.form.choose, "")),
            ("F", self.column.figures.open_menu), ("R", session.document.put_in_rows),
            ("O", self.column.details.begin.toggle),
            ("X", self.column.figures.remove_figure),
        ):  # fmt: skip
            QShortcut(key, self).activated.connect(run)
        self.view.size_chosen.connect(self.column.sizes.form.choose)
        self.view.size_dragged.connect(self.column.sizes.form.put)
        self.view.size_held.connect(self._hold_size)
        session.holds.changed.connect(self._show_places)
        self.view.figure_chosen.connect(self._take_figure)
        self.view.figure_dragged.connect(self._put_figure)
        self.view.circled.connect(self._add_detail)
        self.column.details.begin.toggled.connect(self._begin_circle)
        answers = session.answers
        for changed in (answers.picture_changed, answers.sheet_changed, answers.plan_changed,
                        session.document.changed):  # fmt: skip
            changed.connect(self.refresh)

    def _answer(self, number: int) -> SheetAnswer:
        answer = SheetAnswer(str(number + 1))
        answer.chosen.connect(lambda: self.choose(number))
        QShortcut(answer.key, self).activated.connect(answer.chosen)
        return answer

    def showEvent(self, event: QShowEvent | None) -> None:
        """Show the sheet on the desk."""
        super().showEvent(event)
        self.refresh()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Show as many answers as there is room for."""
        super().resizeEvent(event)
        QTimer.singleShot(0, self._refit)

    def _refit(self) -> None:
        if not sip.isdeleted(self):
            self.refresh()

    def choose(self, number: int) -> None:
        """Take the answer of a number, or the way out where nothing fits."""
        laid, sheet = self.session.answers.laid, self.session.document.sheet
        if laid is None or sheet is None or number >= len(laid.layouts):
            return
        if laid.misfit is not None:
            self.misfit.take(number)
            return
        layout = laid.layouts[number]
        words = tr(
            "{title} at {scale_text}", title=layout.paper.title, scale_text=layout.scale_text
        )
        self.column.take_wish(accepted(sheet.wish, layout), words)

    def _hold_size(self, key: str) -> None:
        """Find out where a dimension that is being dragged may stand."""
        self.session.holds.take_hold(self.session.answers.order, key)

    def _show_places(self) -> None:
        self.view.show_places(self.session.holds.places)

    def _take_figure(self, figure_id: str) -> None:
        """Take a drawing of the sheet in hand."""
        if any(figure.id == figure_id for figure in self.session.document.job.figures):
            self.session.document.choose_figure(figure_id)

    def _put_figure(self, figure_id: str, at: tuple[float, float]) -> None:
        """Put a drawing where it was dragged to."""
        laid, sheet = self.session.answers.laid, self.session.document.sheet
        if laid is not None and laid.layout is not None and sheet is not None:
            wish = accepted(sheet.wish, laid.layout)
            self.session.document.put_figure(figure_id, (round(at[0], 2), round(at[1], 2)), wish)

    def _begin_circle(self, on: bool) -> None:
        """Let the next drag on a drawing circle a detail, or not."""
        self.view.is_circling = on
        shape = Qt.CursorShape.CrossCursor if on else Qt.CursorShape.ArrowCursor
        self.view.setCursor(shape)

    def _add_detail(self, figure_id: str, middle: Vec2, radius: float) -> None:
        """Show what was circled larger, beside its drawing."""
        if not figure_id:
            self.session.told.emit(tr("Press on the drawing of which you want a detail"))
            return
        self.column.details.begin.setChecked(False)
        laid = self.session.answers.laid
        if laid is None or laid.layout is None:
            return
        at = laid.layout.of(figure_id)
        place = tuple(round((middle[k] - at.origin[k]) / at.scale, 2) for k in range(2))
        larger = [s for s in scales_of(laid.layout.paper.series) if s >= 2 * at.scale]
        scale = min(larger, default=2 * at.scale)
        self.session.document.add_detail(figure_id, (place[0], place[1]),
                                         round(radius / at.scale, 2), scale)  # fmt: skip

    def _as_fits(self) -> None:
        """Ask for no paper and no scale any more."""
        self.column._change(tr("as fits best"), paper=None, upright=None, scale=None)

    def refresh(self) -> None:
        """Show the sheet, the answers, and what is asked."""
        if not self.isVisible():
            return
        self.misfit.refresh()
        self.column.refresh()
        self.view.unit = self.session.document.unit
        laid = self.session.answers.laid
        self._show_page(laid)
        self._mark_size()
        for number, answer in enumerate(self.answers):
            self._show_answer(answer, laid, number)
        show_what_fits(self.answers, len(laid.layouts) if laid else 0, self.view.width() - 16)

    def _mark_size(self) -> None:
        """Mark the dimension in hand on the page."""
        form = self.column.sizes.form
        self.view.sizes, self.view.chosen = form.shown, form.chosen
        self.view.update()

    def _show_page(self, laid: SheetPlanned | None) -> None:
        if laid is None or laid.layout is None:
            self.view.empty_text = self._why_empty(laid)
            self.view.show_page(None, None)
            return
        self.view.figures = laid.layout.placed
        made = self.session.answers.planned
        start = (frame_of(laid.layout.paper), made.plan.setup.start) if made else None
        self.view.show_page(laid.pages[0], start)

    def _why_empty(self, laid: SheetPlanned | None) -> str:
        failed = self.session.answers.failed.get("sheet")
        if failed is not None:
            return tr("The sheet: {failed}.", failed=failed)
        if laid is not None:
            return tr("It will not fit as asked: take one of the ways out.")
        return tr("The sheet appears here with the first part.")

    def _show_answer(self, answer: SheetAnswer, laid: SheetPlanned | None, number: int) -> None:
        if laid is None or number >= len(laid.layouts):
            answer.show_answer(None, "", "", False)
            return
        layout = laid.layouts[number]
        title = f"{layout.paper.title}, {layout.scale_text}"
        reasons = layout.reasons
        if laid.misfit is not None:
            reasons = laid.misfit.ways_out[number].words
        reasons = said(reasons, self.session.document.unit)
        answer.show_answer(laid.pages[number], title, reasons, layout == laid.layout)
