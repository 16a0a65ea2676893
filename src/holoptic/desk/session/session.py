"""What the window works on: the document, what is selected in it, and what the worker answered."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from holoptic.bounded import require_size
from holoptic.catalogue import ntr, tr
from holoptic.curves.methods import Method
from holoptic.demo import job_path
from holoptic.desk.look.settings import keep_setting, read_settings
from holoptic.desk.session.answers import Answers
from holoptic.desk.session.cards import Cards, with_method
from holoptic.desk.session.checks import Checks
from holoptic.desk.session.cover import Cover
from holoptic.desk.session.cuts import PURPOSE as CUTS
from holoptic.desk.session.cuts import Cuts
from holoptic.desk.session.document import Document
from holoptic.desk.session.holds import Holds
from holoptic.desk.session.job_loader import JobLoader, Outcome
from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.logbook import Logbook
from holoptic.desk.session.practice import Practice
from holoptic.desk.session.proposals import Proposals
from holoptic.desk.session.readings import Readings
from holoptic.desk.session.revisions import Revisions
from holoptic.desk.session.scanner import Scanner
from holoptic.desk.session.selection import Selection
from holoptic.desk.session.shelf import PURPOSE as SHELF
from holoptic.desk.session.shelf import Shelf
from holoptic.desk.session.spreads import PURPOSE as SPREAD
from holoptic.desk.session.spreads import Spreads
from holoptic.desk.session.stepping import Stepping
from holoptic.desk.session.ways import Ways
from holoptic.errors import BadInput, HolopticError
from holoptic.exchange.atomic import sweep, write_atomically
from holoptic.exchange.claims import Claim, Mark, mark_of
from holoptic.exchange.job_file import JOB_SUFFIXES, read_job
from holoptic.exchange.outputs import require_suffix
from holoptic.exchange.safekeeping import remember_file
from holoptic.foreign import LARGEST_STEP, STEP_SUFFIXES
from holoptic.job import Job, all_sheets, job_of
from holoptic.part import ImportedSolid
from holoptic.places import resolved
from holoptic.quoting import name_of
from holoptic.spread.from_file import with_assembly
from holoptic.worker.messages import (
    Appraised,
    Candidate,
    Carded,
    GoodPlaces,
    SheetSet,
    Shelved,
    WaysCompared,
)

_ASSEMBLY = "open assembly"
STEPS_MM = (0.1, 0.5, 1.0, 2.0, 5.0)


@dataclass(frozen=True)
class _BeingRead:
    """A job that is being read: its file, the claim on it, how it was, and the job before it."""

    path: Path
    claim: Claim | None
    mark: Mark
    before: Job


class Session(QObject):
    """Puts together what the window works on, and hands each answer to whom it is for.

    Signals:
        busy_changed(working): the worker works, or is done.
        told(text): something to tell the user in passing.
    """

    busy_changed = pyqtSignal(bool)
    told = pyqtSignal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.step_mm = _read_step()
        self._opening: Path | None = None
        self._being_read: _BeingRead | None = None
        self._solids: tuple[ImportedSolid, ...] = ()
        self._solids_out: dict[str, tuple[tempfile.TemporaryDirectory[str], Path]] = {}
        self._sheets_out: dict[str, Callable[[SheetSet], None]] = {}
        self._exports = 0
        revisions = self.revisions = Revisions()
        kernel = self.kernel = KernelLine(revisions, self)
        self.document = Document(self)
        self.loader = JobLoader(self)
        self.selection = Selection(self)
        self.proposals = Proposals(kernel, revisions, self)
        self.cards = Cards(kernel, revisions, self)
        self.holds = Holds(kernel, revisions, self)
        self.cuts = Cuts(kernel, revisions, self)
        self.ways = Ways(kernel, revisions, self)
        self.document.outfit = self.ways.outfit
        self.readings = Readings(kernel, revisions, self)
        self.shelf = Shelf(self.document, kernel, revisions, self)
        self.spreads = Spreads(self.document, kernel, revisions, self)
        self.answers = Answers(self.document, self.selection, kernel, revisions, self.proposals,
                               self.ways, self.shelf, self)  # fmt: skip
        self.cover = Cover(self.document, self.answers, self)
        self.checks = Checks(self.document, self.answers, self.ways, self)
        self.scanner, self.views_scanner = Scanner(self), Scanner(self)
        self.walk = Stepping(self)
        self.logbook = Logbook(self)
        self.practice = Practice(self.logbook.register, self.logbook.note, self)
        self.document.edited.connect(self._note_job)
        self.document.edited.connect(self.spreads.ask)  # after the picture, which comes first
        self.readings.told.connect(self.told)
        self.selection.changed.connect(self._follow_card)
        self.answers.picture_changed.connect(self._follow_card)
        kernel.answered.connect(self._on_answer)
        kernel.failed.connect(self._on_failure)
        kernel.outdated.connect(self._on_outdated)
        kernel.busy_changed.connect(self.busy_changed)

    # --- files ------------------------------------------------------------------------------

    def open_file(self, path: Path, *, to_look_at: bool = False) -> None:
        """Open a job or STEP file; the desk changes once it is read.

        `to_look_at` opens a job that another window has open; it can be saved elsewhere only.
        Raises BadInput, and Taken where another window has the job open.
        """
        path = resolved(path)
        if path.suffix.lower() in STEP_SUFFIXES:
            require_size(path, LARGEST_STEP)  # what is in it the worker looks at
            self._opening = path
            about = self.revisions.note("job", self.document.job)
            self.kernel.ask("open", "list_solids", str(path), about=about)
            return
        if path.suffix.lower() not in JOB_SUFFIXES:
            raise BadInput(tr("{name}: open a .holoptic, .step or .stp file", name=name_of(path)))
        if self._being_read is not None and self._being_read.path == path:
            return  # a second click on a large job
        claim = None if to_look_at else self.document.file.claim(path)
        asked = self._being_read = _BeingRead(path, claim, mark_of(path), self.document.job)
        late: list[bool] = []  # whether nobody waits for the outcome here any more
        self.loader.load(path, lambda outcome: self._take_job(asked, outcome, bool(late)))
        late.append(True)

    def _take_job(self, asked: _BeingRead, outcome: Outcome, late: bool) -> None:
        """Put a job that was read on the desk, unless another one was asked for, or edited."""
        is_newest = self._being_read is asked
        if is_newest:
            self._being_read = None
        went_on = late and (not is_newest or self.document.job is not asked.before)
        if not isinstance(outcome, Exception) and not went_on:
            self.document.replace_job(outcome, asked.path, claim=asked.claim, mark=asked.mark)
            remember_file(asked.path)
            sweep(asked.path.parent, asked.path.name)
            return
        if asked.claim is not None and asked.path != self.document.path:
            asked.claim.release()
        if not isinstance(outcome, Exception):
            outcome = BadInput(_went_on(asked.path))
        if not late or not isinstance(outcome, HolopticError):
            raise outcome
        if is_newest:
            self.told.emit(str(outcome))

    def open_demo(self) -> None:
        """Open the demo job without its file, so that saving asks for a place of its own."""
        self.document.replace_job(read_job(job_path()), None)

    def close(self) -> None:
        """End the session."""
        self.document.close()
        self.walk.flush()
        self.logbook.close()
        self.answers.close()
        self.checks.close()
        self.readings.pasted.drop()
        for folder, _ in self._solids_out.values():
            folder.cleanup()
        self.scanner.close()
        self.views_scanner.close()
        self.practice.close()
        self.kernel.close()

    def export_solid(self, path: Path) -> None:
        """Write the solid of the part in hand as a STEP file; tells when it is done."""
        posed = self.document.posed
        if posed is None or not self.answers.is_current("picture"):
            raise BadInput(tr("the part as it stands has no solid; undo or mend it first"))
        require_suffix(path, STEP_SUFFIXES)
        self._exports += 1
        purpose = f"solid {self._exports}"
        folder = tempfile.TemporaryDirectory()
        self._solids_out[purpose] = folder, path
        made = Path(folder.name) / "solid.step"
        self.kernel.ask(purpose, "save_step", posed, str(made))

    def ask_sheets(self, then: Callable[[SheetSet], None]) -> None:
        """Have all sheets of the job drawn; `then` takes them. Raises BadInput without any."""
        wanted = all_sheets(self.document.job)
        if not wanted:
            raise BadInput(tr("no figure stands on a sheet yet"))
        self._exports += 1
        purpose = f"sheets {self._exports}"
        self._sheets_out[purpose] = then
        self.kernel.ask(purpose, "sheet_set", wanted)

    def _take_sheets(self, purpose: str, sheets: SheetSet) -> None:
        """Hand all sheets on; what is not among them is told."""
        then = self._sheets_out.pop(purpose)
        try:
            then(sheets)
        except BadInput as error:
            self.told.emit(tr("Not exported: {error}", error=error))

    def _take_solid_file(self, purpose: str) -> None:
        folder, path = self._solids_out.pop(purpose)
        try:
            with folder:
                write_atomically(path, (Path(folder.name) / "solid.step").read_bytes())
        except (OSError, BadInput) as error:
            self.told.emit(tr("Not exported: {error}", error=error))
        else:
            self.told.emit(tr("Exported {name}", name=path.name))

    def _take_solids(self, solids: tuple) -> None:  # type: ignore[type-arg]
        """Open the solids of a file; of several ask first how they stand together."""
        if self._opening is None:
            return
        if len(solids) > 1:
            self._solids = solids
            about = self.revisions.of("job")
            self.kernel.ask(_ASSEMBLY, "list_assembly", str(self._opening), about=about)
            return
        self._open_solids(solids, ())

    def _open_solids(self, solids: tuple, stands: tuple) -> None:  # type: ignore[type-arg]
        path, self._opening = self._opening, None
        if path is None:
            return
        job = with_assembly(job_of(path.stem, solids), stands)
        self.document.replace_job(job, None)
        remember_file(path)
        count = sum(solid.index is not None for solid in solids)  # the whole is none of them
        self.told.emit(
            ntr(
                "{count} solid read from {name}",
                "{count} solids read from {name}",
                max(count, 1),
                name=path.name,
            )
        )

    def _note_job(self) -> None:
        self.revisions.note("job", self.document.job)
        self.readings.unit = self.document.unit

    # --- what the hand does -----------------------------------------------------------------

    def change_step(self, way: int) -> None:
        """Drag in the next coarser (1) or finer (−1) steps."""
        at = STEPS_MM.index(self.step_mm) + way
        self.step_mm = STEPS_MM[max(0, min(at, len(STEPS_MM) - 1))]
        keep_setting("step_mm", self.step_mm)

    def draw_circle_by(self, method: Method, for_all: bool = False) -> None:
        """Have the circle in hand, or all of them, drawn by another method."""
        figure, card = self.document.figure, self.cards.card
        if figure is not None and card is not None and card.alternatives:
            ways, words = with_method(figure.by_hand, method, card.feature, for_all)
            self.document.edit_figure(replace(figure, by_hand=ways), words)

    def _follow_card(self) -> None:
        made = self.answers.made
        self.cuts.follow(made)
        self.cards.follow(self.answers.order, made.id if made else "", self.selection.edge)

    # --- answers ----------------------------------------------------------------------------

    def _on_answer(self, purpose: str, value: object) -> None:
        if purpose == "open" and isinstance(value, tuple):
            self._take_solids(value)
        elif purpose == _ASSEMBLY and isinstance(value, tuple):
            self._open_solids(self._solids, value)
        elif purpose in self._solids_out:
            self._take_solid_file(purpose)
        elif isinstance(value, SheetSet):
            self._take_sheets(purpose, value)
        elif purpose.startswith("drawing"):
            self.readings.take(purpose, value)
        elif purpose == CUTS and isinstance(value, tuple):
            self.cuts.take(value)
        elif purpose.startswith(SPREAD):
            self.spreads.take(purpose, value)
        elif not self._take_aside(purpose, value):
            self.answers.take(purpose, value)

    def _take_aside(self, purpose: str, value: object) -> bool:
        """Give what belongs to neither picture, sheet nor plan to whom it is for; False: nobody."""
        if isinstance(value, Shelved):
            if purpose.startswith(SHELF):
                self.shelf.take(value)
        elif isinstance(value, WaysCompared):
            self.ways.take(value)
        elif isinstance(value, Carded):
            self.cards.take(value)
        elif isinstance(value, GoodPlaces):
            self.holds.take(value)
        elif isinstance(value, Appraised):
            self.proposals.take_appraised(value)
        elif isinstance(value, Candidate):
            self.proposals.take_picture(value)
        else:
            return False
        return True

    def _on_failure(self, purpose: str, error: Exception) -> None:
        if purpose == _ASSEMBLY:
            self._open_solids(self._solids, ())  # the parts are there all the same
        elif purpose == "open":
            path, self._opening = self._opening, None
            told = str(error)
            # what the kernel cannot take is the fault of what it was given
            is_named = path is None or told.startswith(path.name)
            self.told.emit(told if is_named or path is None else f"{name_of(path)}: {told}")
        elif purpose in self._solids_out:
            folder, path = self._solids_out.pop(purpose)
            folder.cleanup()
            self.told.emit(tr("Not exported: {name}: {error}", name=path.name, error=error))
        elif purpose in self._sheets_out:
            del self._sheets_out[purpose]
            self.told.emit(tr("Not exported: {error}", error=error))
        elif purpose.startswith("drawing"):
            self.readings.take_failure(purpose, error)
        elif purpose.startswith((SHELF, "begin", "glance")):
            pass  # a small picture less
        elif not self.answers.take_failure(purpose, error) and not any(
            taker.take_failure(purpose, self.answers.line_of(error))
            for taker in (
                self.proposals,
                self.cards,
                self.cuts,
                self.holds,
                self.ways,
                self.spreads,
            )
        ):
            self.told.emit(str(error))

    def _on_outdated(self, purpose: str) -> None:
        if purpose in ("open", _ASSEMBLY) and self._opening is not None:
            path, self._opening = self._opening, None
            self.told.emit(_went_on(path))


def _went_on(path: Path) -> str:
    return tr(
        "{name} is read, but you went on working meanwhile: open it again", name=name_of(path)
    )


def _read_step() -> float:
    kept = read_settings().get("step_mm")
    return kept if kept in STEPS_MM else 0.5
