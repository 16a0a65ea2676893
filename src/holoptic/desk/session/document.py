"""The job on the desk with its history, what of it is in hand, and its edits.

In hand is a part or an arrangement, and a figure of it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from uuid import uuid4

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from holoptic.catalogue import tr
from holoptic.desk.look.preferences import preference
from holoptic.desk.session.file_hold import FileHold
from holoptic.desk.session.habits import UNNAMED, empty_job, with_new_part
from holoptic.errors import BadInput
from holoptic.exchange.claims import Claim, Mark
from holoptic.exchange.job_file import write_job
from holoptic.exchange.safekeeping import Autosave, remember_file
from holoptic.job import (
    VIEW_LINES,
    Angle,
    Arrangement,
    Detail,
    Figure,
    History,
    Job,
    JobPart,
    Orthographic,
    Outfit,
    OwnEntry,
    Posed,
    Revision,
    Section,
    Sheet,
    SheetOrder,
    SheetWish,
    TitleBlock,
    ViewSet,
    detail_id,
    posed_figure,
    sheet_order,
    title_block,
)
from holoptic.part import Crate, Part
from holoptic.part.starters import new_part
from holoptic.part.templates import templates
from holoptic.part.whole import PartSource
from holoptic.places import resolved
from holoptic.plan.moves import point_names
from holoptic.sheet.planning import WayOut
from holoptic.units import Unit

"""What a job is called until it has a name or a file."""


class Document(QObject):
    """The job, and what of it is in hand: a part, a figure of it, an operation.

    Signals:
        replaced: another job is on the desk, or another part or figure is in hand.
        edited: the job or the figure in hand is another; comes before `changed`, so that the
            worker begins while the desk shows the edit.
        changed: the job, or what of it is in hand, is another.
        operation_chosen: another operation of the part is in hand.
        part_begun(wants_size): a new part was put into the job, to be carved.
        unsafe(reason): no safety copy can be written; told once for each reason.
    """

    replaced = pyqtSignal()
    edited = pyqtSignal()
    changed = pyqtSignal()
    operation_chosen = pyqtSignal()
    part_begun = pyqtSignal(bool)
    unsafe = pyqtSignal(str)

    units = tuple(Unit)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.history = History(Job(UNNAMED, id=_new_id()))
        self.file = FileHold(self)
        self.outfit = Outfit()
        self.operation_index = 0
        self._subject: str | None = None
        self._figure_id: str | None = None
        self._is_apart = False
        self._at = 0
        self._last: dict[bool, str] = {}
        self._autosave = Autosave()
        self._autosave_timer = QTimer(self)
        self._autosave_timer.setSingleShot(True)
        self._autosave_timer.timeout.connect(self._keep_soon)
        self._unsafe_told = ""
        self._leaves_copy = False
        self.preview: Callable[[], str] = str
        """The lines of the job's cover as they go into its file; empty where nobody has them."""

    # --- what is there ----------------------------------------------------------------------

    @property
    def job(self) -> Job:
        """The job as it stands."""
        return self.history.job

    @property
    def path(self) -> Path | None:
        """The file that the job is saved to, or None before it has one."""
        return self.file.path

    @property
    def unit(self) -> Unit:
        """The unit that the job is written in."""
        return self.job.unit

    @property
    def job_part(self) -> JobPart | None:
        """The part in hand, or None in an empty job, or with an arrangement in hand."""
        if self._subject is None or self.job.is_arrangement(self._subject):
            return None
        return self.job.part(self._subject)

    @property
    def arrangement(self) -> Arrangement | None:
        """The arrangement in hand, or None."""
        if self._subject is None or not self.job.is_arrangement(self._subject):
            return None
        return self.job.arrangement(self._subject)

    @property
    def title_in_hand(self) -> str:
        """The name of the part or arrangement in hand; empty without one."""
        return "" if self._subject is None else self.job.title_of(self._subject)

    @property
    def subjects(self) -> tuple[str, ...]:
        """The ids of what can be taken in hand: the parts, then the arrangements."""
        job = self.job
        return *(part.id for part in job.parts), *(made.id for made in job.arrangements)

    @property
    def part_index(self) -> int:
        """Where what is in hand stands among the subjects; 0 without one."""
        return self._at if self._subject is not None else 0

    @property
    def part(self) -> Part | None:
        """The part in hand if it can be carved, else None."""
        source = self.job_part.source if self.job_part else None
        return source if isinstance(source, Part) else None

    @property
    def figure(self) -> Figure | None:
        """The figure in hand, or None in an empty job."""
        if self._subject is None:
            return None
        for figure in self.job.figures:
            if figure.id == self._figure_id:
                return figure
        if self._is_apart and self.job.is_arrangement(self._subject):
            return self.job.spread_figure(self._subject, apart=True)
        return self.job.main_figure(self._subject)

    @property
    def posed(self) -> Posed | None:
        """The figure in hand with its part."""
        figure = self.figure
        return posed_figure(self.job, self._equipped(figure)) if figure is not None else None

    @property
    def sheet(self) -> Sheet | None:
        """The sheet on which the figure in hand stands."""
        figure = self.figure
        return self.job.sheet_of(figure) if figure is not None else None

    @property
    def order(self) -> SheetOrder | None:
        """All that the layout of the sheet in hand hangs on."""
        sheet = self.sheet
        if sheet is None:
            return None
        figures = tuple(self._equipped(figure) for figure in sheet.figures)
        return sheet_order(self.job, replace(sheet, figures=figures))

    def _equipped(self, figure: Figure) -> Figure:
        """Return a figure as it is drawn with the instruments at hand."""
        return replace(figure, by_hand=replace(figure.by_hand, outfit=self.outfit))

    def draw_with(self, outfit: Outfit) -> None:
        """Draw with other instruments from now on; no edit of the job."""
        self.outfit = outfit
        self._after_edit(keep=False)

    @property
    def title(self) -> TitleBlock:
        """What the title block of the sheet in hand says."""
        sheet = self.sheet
        return title_block(self.job, sheet) if sheet is not None else TitleBlock(self.job.name, "")

    # --- the whole job ----------------------------------------------------------------------

    def replace_job(
        self, job: Job, path: Path | None, unsaved: bool = False, claim: Claim | None = None,
        mark: Mark | None = None,
    ) -> None:  # fmt: skip
        """Put another job on the desk, with a fresh history.

        `mark` says how its file was when it was read; without a `claim` on it it is not written.
        """
        self.history = History(job if job.id else replace(job, id=_new_id()))
        if unsaved:
            self.history.mark_unsaved()
        self.file.take(path, claim, mark)
        self._autosave_timer.stop()
        self._autosave.drop()  # the copy was of another job, which was saved or given up
        self._subject = self._figure_id = None
        self._at = self.operation_index = 0
        self._last = {}
        self.replaced.emit()
        self._after_edit()

    def clear(self) -> None:
        """Put an empty job on the desk, dated today."""
        self.replace_job(empty_job(), None)

    def edit(self, job: Job, text: str, merge: str | None = None) -> None:
        """Make an edit that can be undone."""
        if self.history.push(job, text, merge):
            self._after_edit()

    def undo(self) -> None:
        """Take the last edit back."""
        self._travel(self.history.undo)

    def redo(self) -> None:
        """Make the edit again that was taken back last."""
        self._travel(self.history.redo)

    def close_step(self) -> None:
        """Let the next edit be a step of its own: a field was left, a corner let go."""
        self.history.close_step()

    def use_unit(self, unit: Unit) -> None:
        """Write the job's lengths in another unit."""
        self.edit(self.job.in_unit(unit), tr("lengths in {unit}", unit=unit.title))

    def lay_out_views(self, views: ViewSet, angle: Angle) -> None:
        """Show three or six views, in third or first angle."""
        job = replace(self.job, views=views, angle=angle)
        self.edit(job, tr("{views} views, {angle} angle", views=views, angle=angle))

    # --- parts ------------------------------------------------------------------------------

    def begin_part(self, template: str | None = None, crate: Crate | None = None) -> None:
        """Put a new block into the job, of a crate's size, or what a template makes."""
        make = new_part if template is None else templates()[template]
        part = make(tr("part {number}", number=len(self.job.parts) + 1), self.job.unit)
        if crate is not None:
            part = replace(part, crate=crate)
        self._add(part, tr("new {part}"))
        self.part_begun.emit(crate is None)

    def add_part(self, part: PartSource) -> None:
        """Put a part that was read into the job, and in hand."""
        self._add(part, tr("read {part}"))
        self.part_begun.emit(False)

    def add_new(self, part: Part) -> None:
        """Put a part that was made elsewhere on the desk into the job, and in hand."""
        self._add(part, tr("new {part}"))
        self.part_begun.emit(False)

    def _add(self, part: PartSource, words: str) -> None:
        job = with_new_part(self.job, part)
        self.edit(job, words.format(part=job.parts[-1].source.name))
        self.choose_part(len(self.job.parts) - 1)

    def edit_part(self, part: Part, text: str, merge: str | None = None) -> None:
        """Exchange the description of the part in hand."""
        if self.job_part is not None:
            self.edit(self.job.with_source(self.job_part.id, part), text, merge)

    def remove_part(self) -> None:
        """Take the part in hand out of the job; undo brings it back."""
        part = self.job_part
        if part is not None:
            self.edit(self.job.without_part(part.id), tr("remove {part}", part=part.source.name))

    def rename_part(self, name: str) -> None:
        """Give the part or arrangement in hand another name."""
        if self.arrangement is not None:
            words = tr("rename {part}", part=self.arrangement.name)
            self.edit_arrangement(replace(self.arrangement, name=name), words)
        part = self.job_part
        if part is not None:
            renamed = replace(part.source, name=name)
            self.edit(
                self.job.with_source(part.id, renamed), tr("rename {part}", part=part.source.name)
            )

    def number_part(self, number: str) -> None:
        """Give the part or arrangement in hand its drawing number."""
        if self.arrangement is not None:
            words = tr("number of {part}", part=self.arrangement.name)
            self.edit_arrangement(replace(self.arrangement, number=number), words)
        part = self.job_part
        if part is not None:
            numbered = replace(part.source, number=number)
            text = tr("number of {part}", part=part.source.name)
            self.edit(self.job.with_source(part.id, numbered), text)

    def list_part(self, **changes: object) -> None:
        """Change what the parts list says of the part in hand."""
        part = self.job_part
        if part is not None:
            changed = replace(part, **changes)  # type: ignore[arg-type]
            self.edit(
                self.job.with_part(changed),
                tr("parts list: {entry}", entry=tr(next(iter(changes)))),
            )

    def choose_part(self, index: int) -> None:
        """Take another part or arrangement of the job in hand, with its main figure."""
        subjects = self.subjects
        if 0 <= index < len(subjects) and subjects[index] != self._subject:
            self._take_in_hand(subjects[index], None)

    def take_part(self) -> None:
        """Take the part in hand that was so last, where an arrangement is."""
        if self.arrangement is not None and self.job.parts:
            self._take_in_hand(self._last_of(self.job.parts, arrangements=False), None)

    def take_spread(self) -> None:
        """Take the arrangement in hand that was so last, drawn apart; nothing without one."""
        if not self.job.arrangements:
            return
        subject = self._last_of(self.job.arrangements, arrangements=True)
        figure = self.job.spread_figure(subject, apart=True)
        if self.figure != figure:
            self._take_in_hand(subject, figure.id, apart=True)

    def _last_of(
        self, items: tuple[JobPart, ...] | tuple[Arrangement, ...], *, arrangements: bool
    ) -> str:
        ids = [item.id for item in items]
        last = self._last.get(arrangements, "")
        return last if last in ids else ids[0]

    # --- arrangements -------------------------------------------------------------------------

    def edit_arrangement(
        self, arrangement: Arrangement, text: str, merge: str | None = None
    ) -> None:
        """Exchange an arrangement, or put one more into the job."""
        self.edit(self.job.with_arrangement(arrangement), text, merge)

    def remove_arrangement(self) -> None:
        """Take the arrangement in hand out of the job; undo brings it back."""
        found = self.arrangement
        if found is not None:
            self.edit(self.job.without_arrangement(found.id), tr("remove {part}", part=found.name))

    def choose_operation(self, index: int) -> None:
        """Select an operation of the part."""
        if index != self.operation_index:
            self.operation_index = index
            self.changed.emit()
            self.operation_chosen.emit()

    # --- figures and sheets -----------------------------------------------------------------

    def choose_figure(self, figure_id: str) -> None:
        """Take a figure of the job in hand, with its part."""
        figure = self.figure
        if figure is None or figure.id != figure_id:
            self._take_in_hand(self.job.figure(figure_id).subject, figure_id)

    def choose_pictorial(self) -> None:
        """Take the part's main figure in hand, where the one in hand is views."""
        figure = self.figure
        if figure is not None and not figure.is_pictorial:
            self._take_in_hand(figure.subject, None)

    def choose_next_figure(self) -> None:
        """Take the next figure of the sheet in hand, round and round."""
        figure, sheet = self.figure, self.sheet
        if figure is not None and sheet is not None and sheet.figures:
            ids = [item.id for item in sheet.figures]
            at = ids.index(figure.id) + 1 if figure.id in ids else 0
            self.choose_figure(ids[at % len(ids)])

    def choose_views(self, *, is_begun: bool) -> None:
        """Take the views of the subject in hand, put on its sheet unless they stand there: before
        the pictorial, or behind it where that `is_begun` on the board. Where views are in hand,
        take the pictorial again.
        """
        figure, sheet = self.figure, self.sheet
        if figure is None or sheet is None:
            return
        if not figure.is_pictorial:
            own = (f for f in sheet.figures if f.is_pictorial and f.subject == figure.subject)
            drawn = next(own, None)
            if drawn is not None:
                self.choose_figure(drawn.id)
            else:
                self.choose_pictorial()
            return
        views = next((f for f in sheet.figures
                      if not f.is_pictorial and f.subject == figure.subject), None)  # fmt: skip
        if views is None:
            job = self.job.with_sheet(sheet)
            views = Figure(job.fresh_figure_id(), figure.subject, Orthographic(), VIEW_LINES)
            figures = (*sheet.figures, views) if is_begun else (views, *sheet.figures)
            words = tr("views of {part} on the sheet", part=job.title_of(figure.subject))
            self.edit(job.with_sheet(replace(sheet, figures=figures)), words)
        self.choose_figure(views.id)

    def edit_figure(self, figure: Figure, text: str, merge: str | None = None) -> None:
        """Exchange a figure; one that stood nowhere gets a sheet of its own."""
        self.edit(self.job.with_figure(figure), text, merge)

    def cut_open(self, words: str, *, merge: bool = False) -> None:
        """Cut the figure in hand open where the words say, or leave it whole."""
        figure = self.figure
        if figure is not None and figure.cut != words:
            text = tr("cut open") if words else tr("whole again")
            self.edit_figure(replace(figure, cut=words), text, tr("cut") if merge else None)

    def cut_views(self, sections: tuple[Section, ...], *, merge: bool = False) -> None:
        """Have sections stand among the views in hand."""
        figure = self.figure
        if figure is not None and figure.sections != sections:
            words = tr("sections of the views")
            self.edit_figure(replace(figure, sections=sections), words, words if merge else None)

    def edit_sheet(self, sheet: Sheet, text: str, merge: str | None = None) -> None:
        """Exchange a sheet, with what is asked of it and what its title block says."""
        self.edit(self.job.with_sheet(sheet), text, merge)

    def edit_wish(self, wish: SheetWish, text: str) -> None:
        """Ask something else of the sheet in hand."""
        sheet = self.sheet
        if sheet is not None:
            self.edit_sheet(replace(sheet, wish=wish), tr("sheet: {what}", what=text))

    def put_figure(self, figure_id: str, at: tuple[float, float], wish: SheetWish) -> None:
        """Put a drawing or a detail somewhere on its sheet: its lower left corner, mm from the
        paper's. The sheet is asked for the paper and scale on which that was done.

        A fresh figure stands on a sheet from then on.
        """
        sheet = self.sheet
        if sheet is None:
            return
        moved = tuple(
            replace(
                figure,
                at=at if figure.id == figure_id else figure.at,
                details=tuple(
                    replace(one, at=at if detail_id(figure.id, one.letter) == figure_id else one.at)
                    for one in figure.details
                ),
            )
            for figure in sheet.figures
        )
        self.edit_sheet(replace(sheet, figures=moved, wish=wish), tr("move the drawing"))

    def add_detail(
        self, figure_id: str, middle: tuple[float, float], radius: float, scale: float
    ) -> None:
        """Show a round piece of a drawing at a scale of its own beside it: its middle and radius,
        mm at 1:1.
        """
        sheet = self.sheet
        figure = next((f for f in sheet.figures if f.id == figure_id), None) if sheet else None
        if figure is None or sheet is None:
            return
        used = {one.letter for other in sheet.figures for one in other.details}
        letter = next(name for name in point_names() if name not in used)
        detail = Detail(letter, middle, radius, scale)
        self.edit_figure(replace(figure, details=(*figure.details, detail)),
                         tr("detail {letter}", letter=letter))  # fmt: skip

    def change_detail(self, figure_id: str, letter: str, detail: Detail | None) -> None:
        """Exchange a detail of a drawing of the sheet in hand, or take it away."""
        sheet = self.sheet
        figure = next((f for f in sheet.figures if f.id == figure_id), None) if sheet else None
        if figure is not None:
            kept = tuple(one if one.letter != letter else detail for one in figure.details)
            details = tuple(one for one in kept if one is not None)
            self.edit_figure(replace(figure, details=details),
                             tr("detail {letter}", letter=letter))  # fmt: skip

    def put_in_rows(self) -> None:
        """Let the drawings of the sheet in hand stand in rows, wherever a hand has put them."""
        sheet = self.sheet
        if sheet is None:
            return
        kept = tuple(
            replace(figure, at=None, details=tuple(replace(one, at=None) for one in figure.details))
            for figure in sheet.figures
        )
        if kept != sheet.figures:
            self.edit_sheet(replace(sheet, figures=kept), tr("drawings in rows"))

    def take_way_out(self, way: WayOut) -> None:
        """Ask of the sheet in hand what makes everything fit."""
        if way.moved is not None:
            self.edit(self.job.on_own_sheet(way.moved), way.words)
        elif way.in_rows:
            self.put_in_rows()
        else:
            self.edit_wish(way.wish, way.words)

    def picture_as(self, kind: str, corner: str) -> None:
        """Picture the part in hand in another kind, from another corner."""
        figure = self.figure
        if figure is not None:
            self.edit_figure(figure.seen(kind, corner), f"{kind}, {corner}")

    # --- the title block --------------------------------------------------------------------

    def rename_job(self, name: str) -> None:
        """Give the job another name; it stands in the title block."""
        self.edit(replace(self.job, name=name), tr("rename the job"))

    def write_in_title(self, entry: str, words: str | None) -> None:
        """Write an entry of the title block that holds for all sheets."""
        title = replace(self.job.title, **{entry: words})  # type: ignore[arg-type]
        self.edit(replace(self.job, title=title), tr(entry.replace("_", " ")))

    def write_on_sheet(self, entry: str, words: str | None) -> None:
        """Write an entry of the title block of the sheet in hand alone."""
        sheet = self.sheet
        if sheet is not None:
            title = replace(sheet.title, **{entry: words})  # type: ignore[arg-type]
            self.edit_sheet(replace(sheet, title=title), tr(entry.replace("_", " ")))

    def write_own_fields(self, own: tuple[OwnEntry, ...], *, on_sheet: bool) -> None:
        """Write the company's own fields of the title block, for the sheet in hand or for all."""
        words, sheet = tr("fields of your own"), self.sheet
        if not on_sheet:
            self.edit(replace(self.job, title=replace(self.job.title, own=own)), words)
        elif sheet is not None:
            self.edit_sheet(replace(sheet, title=replace(sheet.title, own=own)), words)

    def write_revisions(self, revisions: tuple[Revision, ...]) -> None:
        """Write the revision table of the sheet in hand."""
        sheet = self.sheet
        if sheet is not None:
            self.edit_sheet(replace(sheet, revisions=revisions), tr("revisions"))

    # --- keeping ----------------------------------------------------------------------------

    def save(self, path: Path) -> None:
        """Save the job. Raises BadInput, and nothing is lost, neither here nor on disk.

        Raises Taken where another window has the file open, ChangedOnDisk where somebody else
        wrote the job's own file.
        """
        path = resolved(path)
        if path == self.path:
            self.file.require_mine()
        claim = self.file.claim(path)
        try:
            if self.job.name == UNNAMED:
                self.edit(replace(self.job, name=path.stem), tr("name of the file"))
            write_job(self.job, path, preview=self.preview())
        except BadInput:
            if path != self.path:
                claim.release()
            raise
        self.file.take(path, claim)
        self.history.mark_saved()
        self._autosave_timer.stop()
        self._autosave.drop()
        remember_file(path)
        self.changed.emit()

    def keep_safe(self) -> None:
        """Write the safety copy of edits that are not saved, at once."""
        if not self.history.is_saved:
            self._autosave.keep(self.job, self.path, self.file.mark)

    def keep_soon(self) -> None:
        """Write the safety copy in a thread, where the last one is older than the edits."""
        if self._autosave_timer.isActive():
            self._autosave_timer.stop()
            self._keep_soon()

    def _keep_soon(self) -> None:
        """Write the safety copy beside the work on the desk."""
        if not self.history.is_saved:
            self._autosave.keep_soon(self.job, self.path, self.file.mark)
        trouble = self._autosave.trouble  # of the copy before this one
        if trouble and trouble != self._unsafe_told:
            self.unsafe.emit(trouble)
        self._unsafe_told = trouble

    def leave_copy(self) -> None:
        """Leave the safety copy for the next start, as the program is being ended."""
        self._autosave_timer.stop()
        self._leaves_copy = not self.history.is_saved and bool(self.job.parts)

    def close(self) -> None:
        """End the work on the job; a safety copy is no longer needed."""
        self._autosave_timer.stop()
        if not self._leaves_copy:
            self._autosave.drop()
        self.file.release()

    # --- after an edit ----------------------------------------------------------------------

    def _take_in_hand(self, subject: str, figure_id: str | None, *, apart: bool = False) -> None:
        if subject != self._subject:
            self.operation_index = 0
        self._subject, self._figure_id, self._is_apart = subject, figure_id, apart
        self.replaced.emit()
        self._after_edit(keep=False)

    def _travel(self, step: Callable[[], bool]) -> None:
        if step():
            self._after_edit()

    def _after_edit(self, keep: bool = True) -> None:
        self._find_hand()
        count = len(self.part.operations) if self.part else 0
        self.operation_index = max(0, min(self.operation_index, count - 1))
        # an edit is on disk so long after it at the latest, however many others follow;
        # not started anew by each edit: while one goes on working it would never come
        if keep and not self.history.is_saved and not self._autosave_timer.isActive():
            self._autosave_timer.start(1000 * preference("safety_s"))
        self.edited.emit()
        self.changed.emit()

    def _find_hand(self) -> None:
        """Keep subject and figure in hand; where they are gone, take what stands in their place."""
        ids = self.subjects
        if self._subject not in ids:
            at = min(self._at, len(ids) - 1)
            self._subject, self._figure_id = (ids[at] if ids else None), None
        self._at = ids.index(self._subject) if self._subject in ids else 0
        if self._subject is not None:
            self._last[self.job.is_arrangement(self._subject)] = self._subject
        figure = self.figure
        if figure is not None and figure.subject != self._subject:
            figure = self.job.main_figure(self._subject or "")
        self._figure_id = figure.id if figure is not None else None


def _new_id() -> str:
    """Return what tells a job from all others."""
    return uuid4().hex[:16]
