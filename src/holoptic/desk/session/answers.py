"""What the worker said of the figure in hand: picture, views, sheet, plan, remarks.

Every question carries the revision of what it is about (`revisions`), so what arrives here is
about the job as it stands. What failed or was stopped is told where it would have appeared.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3
from holoptic.desk.session.document import Document
from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.proposals import Proposals
from holoptic.desk.session.revisions import Revision, Revisions
from holoptic.desk.session.selection import Selection
from holoptic.desk.session.shelf import Shelf
from holoptic.desk.session.ways import Ways
from holoptic.errors import BadInput, HolopticError, KernelTrouble, PartError
from holoptic.job import Angle, Posed, SheetOrder, TitleBlock
from holoptic.part import ImportedSolid
from holoptic.part.advice import Advice
from holoptic.pictorial import Picture, View
from holoptic.plan.hand import Hand
from holoptic.solid.pieces import SolidFacts
from holoptic.views import PlacedView
from holoptic.worker.messages import Advised, Planned, Presented, SheetPlanned, Viewed

_REST_MS = 500
"""How long a hand rests between two keys: sheet and plan would keep the next picture waiting."""
WALL_LIMIT_MM = 1.0
"""A wall thinner than this is remarked upon."""

_FOLLOWING = ("sheet", "plan", "advice")
"""What is worked out after the picture, in this order."""


class Answers(QObject):
    """Asks the worker for what the desk shows, and keeps what it answered.

    Signals:
        picture_changed: the picture was worked out anew.
        views_changed: so were the views, which follow the picture; or they failed.
        sheet_changed: so was the layout of its sheet; or it failed.
        plan_changed: so was the plan of the picture; or it failed.
        trouble_changed: a trouble with the part appeared or went away.
        advice_changed: there are other remarks about the part.
    """

    picture_changed = pyqtSignal()
    views_changed = pyqtSignal()
    sheet_changed = pyqtSignal()
    plan_changed = pyqtSignal()
    trouble_changed = pyqtSignal()
    advice_changed = pyqtSignal()

    def __init__(
        self, document: Document, selection: Selection, kernel: KernelLine, revisions: Revisions,
        proposals: Proposals, ways: Ways, shelf: Shelf, parent: QObject | None = None,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._document, self._selection = document, selection
        self._kernel, self._revisions = kernel, revisions
        self._proposals, self._ways, self._shelf = proposals, ways, shelf
        self.facts: SolidFacts | None = None
        self.picture: Picture | None = None
        self.placed: tuple[PlacedView, ...] = ()
        self.views_box: tuple[Vec3, Vec3] | None = None
        self._views_apart = False
        self.angle: Angle = "third"
        self.laid: SheetPlanned | None = None
        self.planned: Planned | None = None
        self.advice: tuple[Advice, ...] = ()
        self.failed: dict[str, str] = {}
        self.trouble: str | None = None
        self.trouble_operation: int | None = None
        self.troubles: dict[int, str] = {}
        self.can_try_again = False
        self.made: Posed | None = None
        self._about: dict[str, Revision] = {}
        self._outdated: object = None
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.timeout.connect(self._ask_the_rest)
        document.replaced.connect(self.forget)
        document.edited.connect(self.ask)
        document.operation_chosen.connect(self._make_ready)
        self._takers: dict[type, Callable[[Any], None]] = {
            Presented: self._take_picture, Viewed: self._take_views, SheetPlanned: self._take_sheet,
            Planned: self._take_plan, Advised: self._take_advice,
        }  # fmt: skip

    # --- what is known ----------------------------------------------------------------------

    @property
    def view(self) -> View | None:
        """The view of the picture shown."""
        return self.picture.view if self.picture else None

    @property
    def is_busy(self) -> bool:
        """Whether something is still being worked out."""
        return self._kernel.is_busy or self._rest.isActive()

    def is_current(self, what: str) -> bool:
        """Say whether `picture`, `views`, `sheet` or `plan` show the job as it stands."""
        return what in self._about and self._revisions.is_current(self._about[what])

    def require(self, what: str) -> None:
        """Raise BadInput with a line where something is not there as the job stands."""
        if not self.is_current("picture"):
            raise BadInput(tr("the part as it stands has no picture; undo or mend it first"))
        if what in self.failed:
            why = self.failed[what]
            raise BadInput(
                tr("the views were not worked out: {why}", why=why)
                if what == "views"
                else tr("the {what} was not worked out: {why}", what=tr(what), why=why)
            )
        if not self.is_current(what):
            raise BadInput(
                tr("the views are still being worked out")
                if what == "views"
                else tr("the {what} is still being worked out", what=tr(what))
            )

    @property
    def order(self) -> SheetOrder | None:
        """The sheet in hand, its figure in hand without what cannot be made."""
        order = self._document.order
        return order.with_posed(self.made) if order is not None and self.made else None

    # --- asking -----------------------------------------------------------------------------

    def ask(self) -> None:
        """Ask the worker for what the desk shows; the last good picture stays until it answers."""
        posed, job = self._document.posed, self._document.job
        self._outdate()
        if posed is None:
            self.forget()
            self._set_trouble(None)
            self.picture_changed.emit()
            self.views_changed.emit()
            return
        self._rest.stop()
        self._kernel.forget_waiting()
        # the picture is what the hand waits for; the views take as long again
        about = self._revisions.note("picture", posed)
        self._kernel.ask("picture", "present", posed, about=about)
        shown = self._posed_for_views(posed)
        about = self._revisions.note("views", (shown.source, shown.spread, job.views, job.angle))
        # another kind or near corner leaves the views as they are
        if self._about.get("views") != about or "views" in self.failed:
            self._ask_views(shown, about)

    def show_views_apart(self, apart: bool) -> None:
        """Show an arrangement that is drawn apart so in its views too: where they are lifted from.

        Elsewhere the views are those of the whole put together.
        """
        if apart != self._views_apart:
            self._views_apart = apart
            posed = self._document.posed
            if posed is not None and posed.spread is not None:
                self.ask()

    def _posed_for_views(self, posed: Posed) -> Posed:
        plain = replace(posed, figure=replace(posed.figure, sections=()))
        return plain if self._views_apart else replace(plain, spread=None)

    def _ask_views(self, posed: Posed, about: Revision) -> None:
        job = self._document.job
        self._kernel.ask("views", "show_views", posed, job.views, job.angle, about=about)

    def draw_by(self, hand: Hand) -> None:
        """Let the plan reckon with another hand."""
        self._ways.use_hand(hand)
        if self.laid is not None and self.laid.misfit is None:
            self._ask_plan()

    def _outdate(self) -> None:
        """Let no answer count that is about the sheet as it was before an edit."""
        document = self._document
        before = self._about.get("order")
        self._about["order"] = self._revisions.note("order", document.order)
        if before != self._about["order"]:
            for what in _FOLLOWING:
                self._revisions.forget(what)
        elif self.made is not None:
            self._revisions.note("sheet", (self.order, document.title))

    def _ask_the_rest(self) -> None:
        order, made = self.order, self.made
        if order is None or made is None:
            return
        title = self._document.title
        self._ask_about("sheet", (order, title), "sheet", order, title)
        self._proposals.ask()
        self._shelf.ask()
        self._ask_about("advice", made.source, "advice", made, WALL_LIMIT_MM)
        self._make_ready()

    def _ask_about(self, purpose: str, value: object, task: str, *arguments: object) -> None:
        self._kernel.ask(purpose, task, *arguments, about=self._revisions.note(purpose, value))

    def _make_ready(self) -> None:
        """Let the worker prepare for an edit of the operation in hand, once it has time."""
        if self.made is not None and self.is_current("picture"):
            self._kernel.ask("ready", "make_ready", self.made, self._document.operation_index)

    def _ask_plan(self) -> None:
        order, made = self.order, self.made
        if order is not None and made is not None:
            hand = self._ways.hand
            # what the title block says is of no account where nobody letters it
            letters = made.id in order.ids and order.letters_by_hand(made.id)
            title = self._document.title if letters else TitleBlock("", "")
            self._ask_about("plan", (order, made.id, hand, title), "plan", order, made.id, hand,
                            title)  # fmt: skip
            self._ways.take_order(order, made.id)

    # --- taking -----------------------------------------------------------------------------

    def take(self, purpose: str, value: object) -> None:
        """Take an answer of the worker."""
        taker = self._takers.get(type(value))
        if taker is not None:
            self.failed.pop(purpose, None)
            about = self._revisions.of(purpose)
            if about is not None:
                self._about[purpose] = about
            taker(value)

    def _take_picture(self, presented: Presented) -> None:
        """Show a picture, then ask for what takes longer and can wait."""
        self._selection.carry_over(self.picture, presented.picture, presented.facts)
        file_changed = (
            isinstance(presented.made.source, ImportedSolid)
            and self.facts is not None
            and self.facts.edges != presented.facts.edges
        )
        about = self._revisions.of("views")
        if file_changed and about is not None and self._about.get("views") == about:
            self._ask_views(self._posed_for_views(presented.made), about)
        self.made, self.facts, self.picture = presented.made, presented.facts, presented.picture
        # a plan is tens of thousands of objects: they are let go when the picture has been painted
        self._outdated = self.laid, self.planned
        self.laid = self.planned = None
        self.failed = {}
        self.advice = ()
        unit = self._document.unit
        found = [(trouble.operation, trouble.said(unit)) for trouble in presented.troubles]
        self._set_trouble(None, {index: words for index, words in found if index is not None})
        self.picture_changed.emit()
        self._proposals.take_figure(presented.made, presented.facts)
        # while a slider moves, the next picture must not wait for plan and proposals of this one
        self._rest.start(_REST_MS if self._document.history.is_merging else 0)

    def _take_views(self, viewed: Viewed) -> None:
        self.placed, self.angle = viewed.placed, viewed.angle
        self.views_box = viewed.low, viewed.high
        self.views_changed.emit()
        self._outdated = None

    def _take_sheet(self, laid: SheetPlanned) -> None:
        """Show the sheet, then ask for the plan, unless there is no room for the picture."""
        self.laid = laid
        self.sheet_changed.emit()
        if laid.misfit is None:
            self._ask_plan()

    def _take_plan(self, planned: Planned) -> None:
        self.planned = planned
        self.plan_changed.emit()

    def _take_advice(self, advised: Advised) -> None:
        self.advice = advised.remarks
        self.advice_changed.emit()

    def line_of(self, error: Exception) -> str:
        """Return what a user reads of an error, in the unit of the job."""
        known = isinstance(error, HolopticError)
        return error.said(self._document.unit) if known else str(error)  # type: ignore[attr-defined]

    def take_failure(self, purpose: str, error: Exception) -> bool:
        """Tell where it would have appeared that something came to nothing; False: not its own."""
        if purpose == "picture":
            self._set_trouble(error)
            self.picture_changed.emit()
        elif purpose == "views":
            self.failed[purpose], self.placed = self.line_of(error), ()
            self.views_changed.emit()
        elif purpose == "sheet":
            self.failed[purpose], self.laid, self.planned = self.line_of(error), None, None
            self.sheet_changed.emit()
        elif purpose == "plan":
            self.failed[purpose], self.planned = self.line_of(error), None
            self.plan_changed.emit()
        return purpose in ("picture", "views", "ready", *_FOLLOWING)

    def _set_trouble(
        self, error: Exception | None, by_operation: dict[int, str] | None = None
    ) -> None:
        """Note what is wrong with the part as a whole, and with single operations of it."""
        was_wrong = self.trouble is not None or bool(self.troubles)
        self.troubles = by_operation or {}
        self.trouble = self.line_of(error) if isinstance(error, HolopticError) else None
        self.can_try_again = isinstance(error, KernelTrouble)
        self.trouble_operation = error.operation if isinstance(error, PartError) else None
        if was_wrong or self.trouble is not None or self.troubles:
            self.trouble_changed.emit()

    def forget(self) -> None:
        """Forget what was said: something else is in hand."""
        self.facts = self.picture = self.laid = self.planned = self.made = None
        self.placed, self.failed, self._about = (), {}, {}
        for what in ("picture", "views", *_FOLLOWING):
            self._revisions.forget(what)
        self._proposals.forget()
        self._selection.edge = None

    def close(self) -> None:
        """Ask nothing more."""
        self._rest.stop()
