"""What the window works on: the job with its history, and what the worker last said of it."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from dataclasses import replace
from datetime import date
from pathlib import Path

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from holoptic.curves.methods import Method
from holoptic.curves.vectors import Vec3
from holoptic.demo import job_path
from holoptic.desk.look.settings import keep_setting, read_settings
from holoptic.desk.session.cards import Cards, with_method
from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.proposals import Proposals
from holoptic.desk.session.readings import Readings
from holoptic.desk.session.ways import Ways
from holoptic.errors import BadInput, HolopticError, KernelTrouble, PartError
from holoptic.exchange.atomic import write_atomically
from holoptic.exchange.job_file import JOB_SUFFIXES, STEP_SUFFIXES, read_job, write_job
from holoptic.exchange.outputs import require_suffix
from holoptic.exchange.safekeeping import Autosave, remember_file
from holoptic.job import Angle, Choice, History, Job, JobPart, ViewSet
from holoptic.part import Crate, ImportedSolid, Part
from holoptic.part.advice import Advice
from holoptic.part.starters import new_part
from holoptic.part.templates import templates
from holoptic.pictorial import Picture, View
from holoptic.plan.hand import Hand
from holoptic.sheet import TitleBlock
from holoptic.solid.pieces import SolidFacts
from holoptic.units import Unit
from holoptic.views import PlacedView
from holoptic.worker.messages import (
    Advised,
    Appraised,
    Candidate,
    Carded,
    Planned,
    Presented,
    SheetPlanned,
    Shelved,
    Viewed,
    WaysCompared,
)

_AUTOSAVE_AFTER_MS = 1500
_REST_MS = 500
"""How long a hand rests between two keys: sheet and plan would keep the next picture waiting."""
_SHELF = "shelf"
UNNAMED = "untitled"
"""What a job is called until it has a name or a file."""
STEPS_MM = (0.1, 0.5, 1.0, 2.0, 5.0)
WALL_LIMIT_MM = 1.0
"""A wall thinner than this is remarked upon."""


class Session(QObject):
    """The job on the desk.

    Signals:
        job_changed: the job, or which part of it is on the desk, is another.
        picture_changed: the picture was worked out anew.
        views_changed: so were the views, which follow the picture.
        sheet_changed: so was the layout of its sheet.
        plan_changed: so was the plan of the picture.
        selection_changed: another edge is selected.
        trouble_changed: a trouble with the part appeared or went away.
        busy_changed(working): the worker works, or is done.
        advice_changed: there are other remarks about the part.
        shelf_changed: another part was pictured for the shelf.
        told(text): something to tell the user in passing.
        part_begun(wants_size): a new part was put into the job, to be carved.
    """

    job_changed = pyqtSignal()
    picture_changed = pyqtSignal()
    views_changed = pyqtSignal()
    sheet_changed = pyqtSignal()
    plan_changed = pyqtSignal()
    selection_changed = pyqtSignal()
    trouble_changed = pyqtSignal()
    busy_changed = pyqtSignal(bool)
    advice_changed = pyqtSignal()
    shelf_changed = pyqtSignal()
    told = pyqtSignal(str)
    part_begun = pyqtSignal(bool)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.history = History(Job(UNNAMED))
        self.path: Path | None = None
        self.part_index = 0
        self.operation_index = 0
        self.facts: SolidFacts | None = None
        self.placed: tuple[PlacedView, ...] = ()
        self.angle: Angle = "third"
        self.picture: Picture | None = None
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.timeout.connect(self._ask_the_rest)
        self.trouble: str | None = None
        self.trouble_operation: int | None = None
        self.can_try_again = False
        self.selected_edge: int | None = None
        self.hovered_edge: int | None = None
        self.points: tuple[Vec3, ...] = ()
        self.laid: SheetPlanned | None = None
        self.planned: Planned | None = None
        self._outdated: object = None
        self._pictured: JobPart | None = None
        self._made: JobPart | None = None
        self.troubles: dict[int, str] = {}
        self.advice: tuple[Advice, ...] = ()
        self.step_mm = _read_step()
        self._shelf: dict[tuple[object, str, str], Picture | None] = {}
        self._wants_shelf = False
        self._opening: tuple[Path, Job] | None = None
        self._solid_out: tuple[tempfile.TemporaryDirectory[str], Path] | None = None
        self._autosave = Autosave()
        self._autosave_timer = QTimer(self)
        self._autosave_timer.setSingleShot(True)
        self._autosave_timer.timeout.connect(self.keep_safe)
        self.kernel = KernelLine(self)
        self.proposals = Proposals(self.kernel, self)
        self.cards = Cards(self.kernel, self)
        self.ways = Ways(self.kernel, self)
        self.readings = Readings(self.kernel, self)
        self.readings.told.connect(self.told)
        self.kernel.answered.connect(self.readings.take)
        self.kernel.failed.connect(self.readings.take_failure)
        self.selection_changed.connect(self._follow_card)
        self.picture_changed.connect(self._follow_card)
        self.kernel.answered.connect(self._on_answer)
        self.kernel.failed.connect(self._on_failure)
        self.kernel.busy_changed.connect(self.busy_changed)

    # --- the job ----------------------------------------------------------------------------

    @property
    def job(self) -> Job:
        """The job as it stands."""
        return self.history.job

    @property
    def job_part(self) -> JobPart | None:
        """The part on the desk, or None in an empty job."""
        parts = self.job.parts
        return parts[self.part_index] if self.part_index < len(parts) else None

    @property
    def part(self) -> Part | None:
        """The part on the desk if it can be carved, else None."""
        source = self.job_part.source if self.job_part else None
        return source if isinstance(source, Part) else None

    @property
    def picture_is_current(self) -> bool:
        """Whether what is shown belongs to the part as it stands."""
        return self._pictured is not None and self._pictured == self.job_part

    @property
    def title(self) -> TitleBlock:
        """What the title block of the part on the desk says."""
        source = self.job_part.source if self.job_part else None
        name, number = (source.name, source.number) if source else ("", "")
        return TitleBlock(self.job.name, name, number, self.job.date, self.job.drawn_by)

    def replace_job(self, job: Job, path: Path | None, unsaved: bool = False) -> None:
        """Put another job on the desk, with a fresh history."""
        self.history = History(job)
        if unsaved:
            self.history.mark_unsaved()
        self.path = path
        self.part_index = self.operation_index = 0
        self._forget_picture()
        self._after_edit()

    def clear(self) -> None:
        """Put an empty job on the desk, dated today."""
        self.replace_job(Job(UNNAMED, date=date.today().isoformat()), None)

    def edit(self, job: Job, text: str, merge: str | None = None) -> None:
        """Make an edit that can be undone."""
        if self.history.push(job, text, merge):
            self._after_edit()

    def edit_part(self, part: Part, text: str, merge: str | None = None) -> None:
        """Exchange the description of the part on the desk."""
        self.edit(self.job.with_source(self.part_index, part), text, merge)

    def edit_choice(self, choice: Choice, text: str, merge: str | None = None) -> None:
        """Exchange how the part on the desk is pictured."""
        if self.job_part is not None:
            self.edit(self.job.with_choice(self.part_index, choice), text, merge)

    def lay_out_views(self, views: ViewSet, angle: Angle) -> None:
        """Show three or six views, in third or first angle."""
        job = replace(self.job, views=views, angle=angle)
        self.edit(job, f"{views} views, {angle} angle")

    def history_step_done(self) -> None:
        """Let the next edit be a step of its own: a field was left, a corner let go."""
        self.history.close_step()

    units = tuple(Unit)

    def use_unit(self, unit: Unit) -> None:
        """Write the job's lengths in another unit."""
        self.edit(self.job.in_unit(unit), f"lengths in {unit.title}")

    def begin_part(self, template: str | None = None, crate: Crate | None = None) -> None:
        """Put a new block into the job, of a crate's size, or what a template makes."""
        make = new_part if template is None else templates()[template]
        part = make(f"part {len(self.job.parts) + 1}", self.job.unit)
        if crate is not None:
            part = replace(part, crate=crate)
        self.edit(self.job.with_added(JobPart(part)), f"new {part.name}")
        self.choose_part(len(self.job.parts) - 1)
        self.part_begun.emit(crate is None)

    def add_part(self, part: Part) -> None:
        """Put a part that was read into the job, and on the desk."""
        taken = {item.source.name for item in self.job.parts}
        name = next(n for k in range(1, len(taken) + 2)
                    if (n := part.name if k == 1 else f"{part.name} {k}") not in taken)  # fmt: skip
        self.edit(self.job.with_added(JobPart(replace(part, name=name))), f"read {name}")
        self.choose_part(len(self.job.parts) - 1)
        self.part_begun.emit(False)

    def remove_part(self) -> None:
        """Take the part on the desk out of the job; undo brings it back."""
        part = self.job_part
        if part is not None:
            self.edit(self.job.without(self.part_index), f"remove {part.source.name}")

    def rename_part(self, name: str) -> None:
        """Give the part on the desk another name."""
        part = self.job_part
        if part is not None:
            renamed = replace(part.source, name=name)
            self.edit(self.job.with_source(self.part_index, renamed), f"rename {part.source.name}")

    def number_part(self, number: str) -> None:
        """Give the part on the desk its drawing number."""
        part = self.job_part
        if part is not None:
            numbered = replace(part.source, number=number)
            text = f"number of {part.source.name}"
            self.edit(self.job.with_source(self.part_index, numbered), text)

    def rename_job(self, name: str) -> None:
        """Give the job another name; it stands in the title block."""
        self.edit(replace(self.job, name=name), "rename the job")

    def date_job(self, date: str) -> None:
        """Give the job the date of the title block."""
        self.edit(replace(self.job, date=date), "date")

    def sign_job(self, drawn_by: str) -> None:
        """Say who draws; it stands in the title block."""
        self.edit(replace(self.job, drawn_by=drawn_by), "drawn by")

    def undo(self) -> None:
        """Take the last edit back."""
        self._travel(self.history.undo)

    def redo(self) -> None:
        """Make the edit again that was taken back last."""
        self._travel(self.history.redo)

    def choose_part(self, index: int) -> None:
        """Put another part of the job on the desk."""
        if 0 <= index < len(self.job.parts) and index != self.part_index:
            self.part_index, self.operation_index = index, 0
            self._forget_picture()
            self._after_edit(keep=False)

    def choose_operation(self, index: int) -> None:
        """Select an operation of the part."""
        if index != self.operation_index:
            self.operation_index = index
            self.job_changed.emit()
            self._make_ready()

    def _travel(self, step: Callable[[], bool]) -> None:
        if step():
            self._after_edit()

    def _after_edit(self, keep: bool = True) -> None:
        self.part_index = max(0, min(self.part_index, len(self.job.parts) - 1))
        count = len(self.part.operations) if self.part else 0
        self.operation_index = max(0, min(self.operation_index, count - 1))
        if keep and not self.history.is_saved:
            self._autosave_timer.start(_AUTOSAVE_AFTER_MS)
        # the worker begins while the desk shows the edit; without a part there is nothing to ask
        if self.job_part is not None:
            self._ask()
        self.readings.unit = self.job.unit
        self.job_changed.emit()
        if self.job_part is None:
            self._ask()

    # --- files ------------------------------------------------------------------------------

    def open_file(self, path: Path) -> None:
        """Open a job or STEP file; the desk changes once it is read. Raises BadInput."""
        path = path.resolve()
        if path.suffix.lower() in STEP_SUFFIXES:
            self._opening = path, self.job
            self.kernel.ask("open", "list_solids", str(path))
            return
        if path.suffix.lower() not in JOB_SUFFIXES:
            raise BadInput(f"{path.name}: open a .holoptic, .step or .stp file")
        self.replace_job(read_job(path), path)
        remember_file(path)

    def open_demo(self) -> None:
        """Open the demo job without its file, so that saving asks for a place of its own."""
        self.replace_job(read_job(job_path()), None)

    def save(self, path: Path) -> None:
        """Save the job. Raises BadInput, and nothing is lost."""
        if self.job.name == UNNAMED:
            self.edit(replace(self.job, name=path.stem), "name of the file")
        write_job(self.job, path)
        self.path = path.resolve()
        self.history.mark_saved()
        self._autosave_timer.stop()
        self._autosave.drop()
        remember_file(path)
        self.job_changed.emit()

    def keep_safe(self) -> None:
        """Write the safety copy of edits that are not saved, at once."""
        if not self.history.is_saved:
            self._autosave.keep(self.job, self.path)

    def close(self) -> None:
        """End the session; a safety copy is no longer needed."""
        self._autosave_timer.stop()
        self._autosave.drop()
        self._rest.stop()
        self.kernel.close()

    def export_solid(self, path: Path) -> None:
        """Write the solid of the part on the desk as a STEP file; tells when it is done."""
        part = self.job_part
        if part is None or not self.picture_is_current:
            raise BadInput("the part as it stands has no solid; undo or mend it first")
        require_suffix(path, STEP_SUFFIXES)
        self._solid_out = tempfile.TemporaryDirectory(), path
        made = Path(self._solid_out[0].name) / "solid.step"
        self.kernel.ask("solid", "save_step", part.source, str(made))

    def _take_solid_file(self) -> None:
        if self._solid_out is None:
            return
        folder, path = self._solid_out
        self._solid_out = None
        try:
            with folder:
                write_atomically(path, (Path(folder.name) / "solid.step").read_bytes())
        except (OSError, BadInput) as error:
            self.told.emit(f"Not exported: {error}")
        else:
            self.told.emit(f"Exported {path.name}")

    # --- picture and plan -------------------------------------------------------------------

    @property
    def view(self) -> View | None:
        """The view of the picture shown."""
        return self.picture.view if self.picture else None

    def change_step(self, way: int) -> None:
        """Drag in the next coarser (1) or finer (−1) steps."""
        at = STEPS_MM.index(self.step_mm) + way
        self.step_mm = STEPS_MM[max(0, min(at, len(STEPS_MM) - 1))]
        keep_setting("step_mm", self.step_mm)

    def want_shelf(self, wanted: bool) -> None:
        """Say whether somebody looks at the shelf: only then its parts are pictured."""
        self._wants_shelf = wanted
        self._ask_shelf()

    def shelved(self, part: JobPart) -> Picture | None:
        """Return the small picture of a part, once it was made."""
        return self._shelf.get(_shelf_key(part))

    def _ask_shelf(self) -> None:
        if not self._wants_shelf:
            return
        keys = {_shelf_key(part) for part in self.job.parts}
        self._shelf = {key: picture for key, picture in self._shelf.items() if key in keys}
        for number, part in enumerate(self.job.parts):
            if _shelf_key(part) not in self._shelf:
                self.kernel.ask(f"{_SHELF} {number}", "shelve", part)

    def _take_shelved(self, answer: Shelved) -> None:
        self._shelf[_shelf_key(answer.part)] = answer.picture
        self.shelf_changed.emit()

    def try_again(self) -> None:
        """Ask the worker once more, after it was stopped or died."""
        self._ask()

    def select_edge(self, edge: int | None) -> None:
        """Select an edge of the solid in all panes."""
        if edge != self.selected_edge or self.points:
            self.selected_edge, self.points = edge, ()
            self.selection_changed.emit()

    def hover_edge(self, edge: int | None) -> None:
        """Tell which edge the pointer touches, in whichever pane."""
        if edge != self.hovered_edge:
            self.hovered_edge = edge
            self.selection_changed.emit()

    def step_edge(self, way: int) -> None:
        """Select the next of the edges that are seen, or the one before."""
        if self.picture is None:
            return
        seen = sorted({s.origin.edge for s in self.picture.visible if s.origin.edge is not None})
        if not seen:
            return
        if self.selected_edge in seen:
            at = seen.index(self.selected_edge) + way
        else:
            at = 0 if way > 0 else -1
        self.select_edge(seen[at % len(seen)])

    def _follow_card(self) -> None:
        self.cards.follow(self._made, self.selected_edge)

    def draw_circle_by(self, method: Method, for_all: bool = False) -> None:
        """Have the circle in hand, or all of them, drawn by another method."""
        part, card = self.job_part, self.cards.card
        if part is not None and card is not None and card.alternatives:
            ways, words = with_method(part.choice.by_hand, method, card.feature, for_all)
            self.edit_choice(replace(part.choice, by_hand=ways), words)

    def pick_point(self, point: Vec3 | None) -> None:
        """Pick a point of the solid: the first or the second of a pair; None forgets both."""
        if point is None:
            self.points = ()
        else:
            self.points = (*self.points, point) if len(self.points) == 1 else (point,)
        self.selection_changed.emit()

    def _ask(self) -> None:
        """Ask the worker for what the desk shows; the last good picture stays until it answers."""
        part = self.job_part
        if part is None:
            self._forget_picture()
            self._set_trouble(None)
            self.picture_changed.emit()
            self.views_changed.emit()
            return
        self._rest.stop()
        self.kernel.forget_waiting()
        # the picture is what the hand waits for; the views take as long again
        self.kernel.ask("picture", "present", part)
        self.kernel.ask("views", "show_views", part, self.job.views, self.job.angle)

    def _on_answer(self, purpose: str, value: object) -> None:
        if purpose == "open" and isinstance(value, tuple):
            self._take_solids(value)
        elif purpose == "solid":
            self._take_solid_file()
        elif isinstance(value, Presented):
            self._take_picture(value)
        elif isinstance(value, Viewed):
            self._take_views(value)
        elif isinstance(value, SheetPlanned):
            self._take_sheet(value)
        elif isinstance(value, Planned):
            self._take_plan(value)
        elif isinstance(value, Shelved) and purpose.startswith(_SHELF):
            self._take_shelved(value)
        elif isinstance(value, Advised):
            self.advice = value.remarks if value.part == self._made else ()
            self.advice_changed.emit()
        elif isinstance(value, WaysCompared):
            self.ways.take(value)
        elif isinstance(value, Carded):
            self.cards.take(value)
        elif isinstance(value, Appraised):
            self.proposals.take_appraised(value)
        elif isinstance(value, Candidate):
            self.proposals.take_picture(value)

    def _take_solids(self, solids: tuple[ImportedSolid, ...]) -> None:
        if self._opening is None:
            return
        (path, left), self._opening = self._opening, None
        if self.job is not left:  # work that was done while it was read must not be lost
            self.told.emit(f"{path.name} is read, but you went on working meanwhile: open it again")
            return
        self.replace_job(Job(path.stem, tuple(JobPart(solid) for solid in solids)), None)
        remember_file(path)
        self.told.emit(f"{len(solids)} solid{'s' if len(solids) > 1 else ''} read from {path.name}")

    def _take_picture(self, presented: Presented) -> None:
        """Show a picture, then ask for what takes longer and can wait."""
        if presented.part != self.job_part:
            return  # overtaken by an undo; its own question is on the way
        before, is_outline = self.picture, self.selected_edge is not None and self.selected_edge < 0
        if is_outline and (before is None or before.strokes != presented.picture.strokes):
            self.selected_edge = None  # outlines are numbered anew in another picture
        self._pictured, self._made = presented.part, presented.made
        self.facts = presented.facts
        self.picture = presented.picture
        # a plan is tens of thousands of objects: they are let go when the picture has been painted
        self._outdated = self.laid, self.planned
        self.laid = self.planned = None
        self.advice = ()
        self.hovered_edge, self.points = None, ()
        if self.selected_edge is not None and self.selected_edge >= len(self.facts.edges):
            self.selected_edge = None
        found = [(t.operation, t.said(self.job.unit)) for t in presented.troubles]
        self._set_trouble(None, {index: words for index, words in found if index is not None})
        self.picture_changed.emit()
        self.proposals.take_part(presented.made, presented.facts)
        # while a slider moves, the next picture must not wait for plan and proposals of this one
        self._rest.start(_REST_MS if self.history.is_merging else 0)

    def _take_views(self, viewed: Viewed) -> None:
        if viewed.part == self._pictured:
            self.placed, self.angle = viewed.placed, viewed.angle
            self.views_changed.emit()
            self._outdated = None

    @property
    def is_busy(self) -> bool:
        """Whether something is still being worked out."""
        return self.kernel.is_busy or self._rest.isActive()

    def _ask_the_rest(self) -> None:
        if self._made is None:
            return
        self.kernel.ask("sheet", "sheet", self._made, self.title, self.job.views,
                        self.job.angle)  # fmt: skip
        self.proposals.ask()
        self._ask_shelf()
        self.kernel.ask("advice", "advice", self._made, WALL_LIMIT_MM)
        self._make_ready()

    def _make_ready(self) -> None:
        """Let the worker prepare for an edit of the operation in hand, once it has time."""
        if self._made is not None and self.picture_is_current:
            self.kernel.ask("ready", "make_ready", self._made, self.operation_index)

    def _take_sheet(self, laid: SheetPlanned) -> None:
        """Show the sheet, then ask for the plan, unless there is no room for the picture."""
        if laid.part != self._made:
            return
        self.laid = laid
        self.sheet_changed.emit()
        if laid.misfit is None:
            self._ask_plan()

    def _ask_plan(self) -> None:
        if self._made is not None:
            self.kernel.ask("plan", "plan", self._made, self.ways.hand, self.job.views,
                            self.job.angle)  # fmt: skip
            self.ways.take_part(self._made, self.job.views, self.job.angle)

    def draw_by(self, hand: Hand) -> None:
        """Let the plan reckon with another hand."""
        self.ways.use_hand(hand)
        if self.laid is not None and self.laid.misfit is None:
            self._ask_plan()

    def _take_plan(self, planned: Planned) -> None:
        if planned.part == self._made:
            self.planned = planned
            self.plan_changed.emit()

    def take_choice(self, kind: str, corner: str) -> None:
        """Picture the part in another kind, from another corner."""
        part = self.job_part
        if part is not None:
            self.edit_choice(replace(part.choice, kind=kind, corner=corner), f"{kind}, {corner}")

    def _on_failure(self, purpose: str, error: Exception) -> None:
        if purpose == "open":
            self._opening = None
            self.told.emit(str(error))
        elif purpose == "picture":
            self._set_trouble(error)
            self.picture_changed.emit()
        elif any(taker.take_failure(purpose) for taker in (self.proposals, self.cards, self.ways)):
            pass  # the others stand
        elif purpose in ("advice", "views", "ready") or purpose.startswith((_SHELF, "drawing")):
            pass  # what spoils the views spoils the picture; remarks can wait
        else:  # the picture stands; only what was to follow it does not
            self.told.emit(str(error))

    def _set_trouble(
        self, error: Exception | None, by_operation: dict[int, str] | None = None
    ) -> None:
        """Note what is wrong with the part as a whole, and with single operations of it."""
        was_wrong = self.trouble is not None or bool(self.troubles)
        self.troubles = by_operation or {}
        self.trouble = error.said(self.job.unit) if isinstance(error, HolopticError) else None
        self.can_try_again = isinstance(error, KernelTrouble)
        self.trouble_operation = error.operation if isinstance(error, PartError) else None
        if was_wrong or self.trouble is not None or self.troubles:
            self.trouble_changed.emit()

    def _forget_picture(self) -> None:
        self.facts = self.picture = self.laid = self.planned = None
        self._pictured = self._made = None
        self.placed = ()
        self.proposals.forget()
        self.selected_edge = None


def _shelf_key(part: JobPart) -> tuple[object, str, str]:
    return part.source, part.choice.kind, part.choice.corner


def _read_step() -> float:
    kept = read_settings().get("step_mm")
    return kept if kept in STEPS_MM else 0.5
