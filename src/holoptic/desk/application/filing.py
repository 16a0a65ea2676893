"""Jobs in and out of files: open, save, export, recover; never losing edits on the way."""

from __future__ import annotations

import contextlib
import re
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QFileDialog, QMenu, QWidget

from holoptic.catalogue import mark, tr
from holoptic.demo import job_names, job_path
from holoptic.desk.application.export import export, sheet_page
from holoptic.desk.application.take_along import TakeAlong
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.folders import file_name, keep_folder, last_folder
from holoptic.desk.widgets.notice import Notice
from holoptic.errors import BadInput, HolopticError
from holoptic.exchange.atomic import write_atomically
from holoptic.exchange.claims import ChangedOnDisk, Taken, knock
from holoptic.exchange.job_file import SUFFIX, read_job
from holoptic.exchange.outputs import require_suffix
from holoptic.exchange.own_templates import begun_from, keep_template, own_templates
from holoptic.exchange.pdf import pdf_pages
from holoptic.exchange.safekeeping import forget, left_behind, recent_files
from holoptic.foreign import DRAWING_SUFFIXES
from holoptic.job import Job
from holoptic.leftovers import put_away
from holoptic.places import is_there, setbacks
from holoptic.quoting import name_of
from holoptic.worker.messages import SheetSet

if TYPE_CHECKING:
    from PyQt6.QtPrintSupport import QPrinter

_JOB_FILTER = tr("Holoptic jobs (*{suffix})", suffix=SUFFIX)
_OPEN_FILTER = tr(
    "All that can be opened (*{suffix} *.step *.stp {drawings});;{job_filter};;"
    "Solids (*.step *.stp);;Drawings, scans and photos ({drawings})",
    suffix=SUFFIX,
    job_filter=_JOB_FILTER,
    drawings=" ".join(f"*{suffix}" for suffix in DRAWING_SUFFIXES),
)
_FIRST_SUFFIX = re.compile(r"\*(\.\w+)")
_EXPORTS = {
    mark("picture"): tr("Picture (*.svg *.pdf *.dxf *.png *.json)"),
    mark("views"): tr("Views (*.dxf *.svg *.pdf *.png)"),
    mark("sheet"): tr("Sheet (*.pdf *.svg *.dxf *.png)"),
    mark("set of sheets"): tr("All sheets with a list of them (*.pdf)"),
    mark("underlay"): tr("Underlay (*.pdf *.svg *.dxf *.png)"),
    mark("plan"): tr("Plan (*.pdf *.csv *.txt *.json)"),
    mark("solid"): tr("Solid (*.step *.stp)"),
}

_COPIES = {
    "picture": tr("Copy the picture"),
    "views": tr("Copy the views"),
    "sheet": tr("Copy the sheet"),
    "plan": tr("Copy the settings of all moves"),
}


class Filing:
    """What the desk does with files; its outcome is told in the hint bar."""

    def __init__(self, session: Session, hint: Notice, question: Notice, window: QWidget) -> None:
        self._session = session
        self._hint = hint
        self._question = question
        self._window = window
        self.take_along = TakeAlong(session, hint, window)
        self._asked_about: Job | None = None
        self._open_drawing: Callable[[Path], None] = session.readings.open
        session.document.changed.connect(self._drop_question)
        session.document.unsafe.connect(self._tell_unsafe)
        session.document.file.changed_outside.connect(self._ask_about_change)

    def read_drawings_by(self, read: Callable[[Path], None]) -> None:
        """Say what is done with a drawing that is opened."""
        self._open_drawing = read

    # --- open -------------------------------------------------------------------------------

    def open_first(self, path: Path | None, *, demo: bool) -> None:
        """Open what the command line named, else the last job, else an empty one.

        A demo job is opened without its file, so that saving asks for a place of its own.
        """
        recent = recent_files()
        if demo and path is not None:
            self._session.document.replace_job(read_job(path), None)
        elif path is not None or recent:
            self.open(path or recent[0])
        else:
            self._session.document.clear()

    def open(self, path: Path) -> None:
        """Open a job, a STEP file or a drawing; what cannot be read leaves the desk as it is."""
        if path.suffix.lower() in DRAWING_SUFFIXES:
            self._open_drawing(path)
            return
        try:
            self._session.open_file(path)
        except Taken as error:
            self._ask_about_taken(path, str(error))
        except BadInput as error:
            self._hint.tell(str(error))

    def _ask_about_taken(self, path: Path, told: str) -> None:
        """Another window has the job: look at it here, or go there."""

        def look() -> None:
            self._quiet()
            try:
                self._session.open_file(path, to_look_at=True)
            except BadInput as error:
                self._hint.tell(str(error))

        def go_there() -> None:
            self._quiet()
            knock(path)

        self._ask(
            told + ".",
            {
                tr("Open it to look at"): look,
                tr("Go there"): go_there,
                tr("Leave it"): self._quiet,
            },
        )

    def template_menu(self) -> QMenu:
        """Return the menu of jobs to begin with: the user's own templates, and the demo's."""
        menu = QMenu(tr("New job from"), self._window)
        for path in own_templates():
            menu.addAction(path.stem.replace("&", "&&"), partial(self._ask_to_begin, path))
        if not menu.isEmpty():
            menu.addSeparator()
        for name in job_names():
            words = tr("Demo: {name}", name=name.replace("-", " "))
            menu.addAction(words, partial(self._ask_to_begin, job_path(name)))
        return menu

    def _ask_to_begin(self, path: Path) -> None:
        self.leave_then(lambda: self.begin_from(path))

    def begin_from(self, path: Path) -> None:
        """Begin a job with what a template has; saving asks for a place of its own."""
        try:
            self._session.document.replace_job(begun_from(path), None)
        except BadInput as error:
            self._hint.tell(str(error))

    def keep_as_template(self) -> None:
        """Keep the job on the desk to begin others from, under its name."""
        document = self._session.document
        name = file_name(document.job.name)
        try:
            keep_template(document.job, name, document.preview())
        except (BadInput, OSError) as error:
            self._hint.tell(tr("Not kept: {error}", error=error))
            return
        self._hint.tell(
            tr("“{name}” is kept: New, then “New job from”, begins others from it", name=name)
        )

    def open_menu(self) -> QMenu:
        """Return the menu of a file to choose and of recent ones."""
        menu = QMenu(self._window)
        menu.addAction(tr("Choose a file …"), self.choose_file)
        for path in recent_files():
            menu.addAction(
                name_of(path).replace("&", "&&"),
                lambda path=path: self.leave_then(lambda: self.open(path)),
            )
        return menu

    def choose_file(self) -> None:
        """Ask for a file and open it."""
        name, _ = QFileDialog.getOpenFileName(self._window, "Open", last_folder(), _OPEN_FILTER)
        if name:
            keep_folder(Path(name))
            self.leave_then(lambda: self.open(Path(name)))

    def new_job(self) -> None:
        """Clear the desk for another job."""
        self.leave_then(self._session.document.clear)

    # --- save -------------------------------------------------------------------------------

    def save(self) -> None:
        """Save the job to its file, or ask for one."""
        file = self._session.document.file
        if file.path is None or file.is_read_only:
            self.save_as()
        else:
            self.save_to(file.path)

    def save_as(self) -> None:
        """Ask for a file and save the job there."""
        job = self._session.document.job.name
        proposed = str(
            self._session.document.path or Path(last_folder(), f"{file_name(job)}{SUFFIX}")
        )
        name, _ = QFileDialog.getSaveFileName(self._window, tr("Save as"), proposed, _JOB_FILTER)
        if name:
            self.save_as_named(Path(name))

    def save_as_named(self, path: Path) -> None:
        """Save under a name that was chosen; one without a suffix gets it, and is asked about."""
        keep_folder(path)
        written = path if path.suffix else path.with_suffix(SUFFIX)
        if written == path or not is_there(written):
            self.save_to(written)
            return

        def replace_it() -> None:
            self._quiet()
            self.save_to(written)

        # the dialog asked about the name without a suffix, which is another file
        self._ask(
            tr("{name} is there already.", name=name_of(written)),
            {
                tr("Replace it"): replace_it,
                tr("Save elsewhere"): self._then(self.save_as),
                tr("Do not save"): self._quiet,
            },
        )

    def save_to(self, path: Path) -> None:
        """Save the job to a file; the hint says how it went."""
        try:
            self._session.document.save(path)
        except ChangedOnDisk:
            self._ask_about_change()
            return
        except BadInput as error:
            self._hint.say(
                tr("Not saved: {error}", error=error), {tr("Save elsewhere"): self.save_as}
            )
            return
        self._hint.tell(tr("Saved as {name}", name=path.name))

    def _ask_about_change(self) -> None:
        """Somebody else wrote the job's file: neither their work nor ours may be lost."""
        path = self._session.document.path
        if path is None:
            return
        self._ask(
            tr("{name} was changed on disk by somebody else.", name=name_of(path)),
            {
                tr("Keep mine beside it"): self._then(lambda: self._keep_beside(path)),
                tr("Take theirs"): self._then(lambda: self.open(path)),
                tr("Save as …"): self._then(self.save_as),
                tr("Decide later"): self._quiet,
            },
        )

    def _keep_beside(self, path: Path) -> None:
        """Save the job under a name that nobody has, beside the file that was changed."""
        count, beside = 1, path
        while beside.exists():
            ending = tr("mine") if count == 1 else tr("mine {count}", count=count)
            beside = path.with_name(f"{path.stem} ({ending}){path.suffix}")
            count += 1
        self.save_to(beside)

    def _then(self, run: Callable[[], None]) -> Callable[[], None]:
        """Return an answer that takes its question away and does something."""

        def answer() -> None:
            self._quiet()
            run()

        return answer

    def _tell_unsafe(self, reason: str) -> None:
        self._hint.tell(tr("No safety copy of your work can be kept: {reason}", reason=reason))

    # --- export -----------------------------------------------------------------------------

    def export_menu(self) -> QMenu:
        """Return the menu of what can be taken away as a file."""
        menu = QMenu(self._window)
        menu.addAction(tr("Save the job as …\tCtrl+Shift+S"), self.save_as)
        menu.addAction(tr("Print the sheet …\tCtrl+P"), self.ask_print)
        menu.addAction(tr("Print all sheets …\tCtrl+Shift+P"), self.ask_print_all)
        menu.addSeparator()
        for what in _EXPORTS:
            menu.addAction(
                tr("Export the {what} …", what=tr(what)), lambda what=what: self._ask_export(what)
            )
        menu.addSeparator()
        for what, words in _COPIES.items():
            menu.addAction(words, lambda what=what: self.take_along.copy(what))
        return menu

    def ask_print(self) -> None:
        """Ask which printer takes the sheet, and on which paper."""
        try:
            page = sheet_page(self._session)
        except BadInput as error:
            self._hint.tell(tr("Not printed: {error}", error=error))
            return
        # imported late: the first window must not wait for what prints
        from PyQt6.QtPrintSupport import QPrintDialog  # noqa: PLC0415

        from holoptic.desk.application.printing import sheet_printer  # noqa: PLC0415

        printer = sheet_printer(page)
        dialog = QPrintDialog(printer, self._window)
        dialog.setWindowTitle(tr("Print the sheet at 100 %"))
        if dialog.exec() == QPrintDialog.DialogCode.Accepted:
            self.print_sheet(printer)

    def print_sheet(self, printer: QPrinter) -> None:
        """Print the sheet at 100 %; on smaller paper as a poster."""
        from holoptic.desk.application.printing import print_page  # noqa: PLC0415

        try:
            count = print_page(sheet_page(self._session), printer)
        except BadInput as error:
            self._hint.tell(tr("Not printed: {error}", error=error))
            return
        words = (
            tr("Printed. Measure the check bar: 50 mm")
            if count == 1
            else tr(
                "Printed as a poster on {count} papers: cut at the crosses, glue them over "
                "each other, and measure the check bar: 50 mm",
                count=count,
            )
        )
        self._hint.tell(words)

    def ask_print_all(self) -> None:
        """Have all sheets drawn, then ask which printer takes them."""
        try:
            self._session.ask_sheets(self._ask_printer_for)
        except BadInput as error:
            self._hint.tell(tr("Not printed: {error}", error=error))

    def _ask_printer_for(self, sheets: SheetSet) -> None:
        from PyQt6.QtPrintSupport import QPrintDialog  # noqa: PLC0415

        from holoptic.desk.application.printing import sheet_printer  # noqa: PLC0415

        if not sheets.pages:
            raise BadInput("; ".join(sheets.troubles))
        printer = sheet_printer(sheets.pages[0])
        dialog = QPrintDialog(printer, self._window)
        dialog.setWindowTitle(tr("Print all sheets at 100 %"))
        if dialog.exec() == QPrintDialog.DialogCode.Accepted:
            self.print_sheets(sheets, printer)

    def print_sheets(self, sheets: SheetSet, printer: QPrinter) -> None:
        """Print several sheets at 100 %, each on its own paper, or as posters on another one."""
        from holoptic.desk.application.printing import print_pages  # noqa: PLC0415

        try:
            count = print_pages(sheets.pages, printer)
        except BadInput as error:
            self._hint.tell(tr("Not printed: {error}", error=error))
            return
        told = tr("Printed on {count} papers. Measure the check bar: 50 mm", count=count)
        self._hint.tell("; ".join((told, *sheets.troubles)))

    def _write_sheets(self, sheets: SheetSet, path: Path) -> None:
        if not sheets.pages:
            raise BadInput("; ".join(sheets.troubles))
        write_atomically(path, pdf_pages(sheets.pages))
        told = tr("Exported {name}", name=path.name)
        self._hint.tell("; ".join((told, *sheets.troubles)))

    def _ask_export(self, what: str) -> None:
        title = tr("Export the {what}", what=tr(what))
        name = self._session.document.title_in_hand
        stem = file_name(f"{name} {what}" if name else what)
        suffix = _FIRST_SUFFIX.findall(_EXPORTS[what])[0]
        name, _ = QFileDialog.getSaveFileName(
            self._window, title, str(Path(last_folder(), f"{stem}{suffix}")), _EXPORTS[what]
        )
        if name:
            keep_folder(Path(name))
            self.export(what, Path(name))

    def export(self, what: str, path: Path) -> None:
        """Write the picture, the views, the plan or the solid by the suffix of `path`."""
        try:
            if what == "solid":
                self._session.export_solid(path)
                return
            if what == "set of sheets":
                require_suffix(path, (".pdf",))
                self._session.ask_sheets(lambda sheets: self._write_sheets(sheets, path))
                return
            export(self._session, what, path)
        except HolopticError as error:
            self._hint.tell(tr("Not exported: {error}", error=error))
            return
        finally:
            put_away()
        self._hint.tell(tr("Exported {name}", name=path.name))

    # --- edits that are not saved -----------------------------------------------------------

    def leave_then(self, go: Callable[[], None]) -> None:
        """Leave the present job for another, unless it has edits that are not saved.

        The question is about the job as it stands: an edit takes it away, so that no answer to it
        can discard newer work.
        """
        job = self._session.document.job
        if self._session.document.history.is_saved or not job.parts:
            go()
            return

        def anyway() -> None:
            self._quiet()
            if self._session.document.job is job or self._session.document.history.is_saved:
                go()
            else:
                self.leave_then(go)

        def save_first() -> None:
            self.save()
            if self._session.document.history.is_saved:
                anyway()

        self._ask(
            tr("This job has edits that are not saved."),
            {
                tr("Save and go on"): save_first,
                tr("Go on without"): anyway,
                tr("Stay"): self._quiet,
            },
        )

    def _ask(self, words: str, answers: dict[str, Callable[[], None]]) -> None:
        self._asked_about = self._session.document.job
        self._question.ask(words, answers)

    def _quiet(self) -> None:
        self._asked_about = None
        self._question.quiet()

    def _drop_question(self) -> None:
        """Take a question away that an edit has made stale."""
        if self._asked_about is not None and self._session.document.job is not self._asked_about:
            self._quiet()

    def tell_setbacks(self) -> None:
        """Tell once what of our own files was damaged, or cannot be kept."""
        told = setbacks()
        if told:
            self._hint.tell("\n".join(told))

    def offer_recovery(self) -> None:
        """Offer the newest work that a run of the program left behind."""
        found = left_behind()
        self.tell_setbacks()
        if not found:
            return
        item = found[0]

        def take() -> None:
            self._question.quiet()
            self.leave_then(bring_back)

        def bring_back() -> None:
            document = self._session.document
            claim = None
            if item.path is not None:
                with contextlib.suppress(BadInput):  # where another window has it: to look at only
                    claim = document.file.claim(item.path)
            document.replace_job(item.job, item.path, unsaved=True, claim=claim, mark=item.mark)
            document.keep_safe()  # before the older copy goes
            forget(item.kept)
            document.file.look()

        def drop() -> None:
            forget(item.kept)
            self._question.quiet()

        self._question.ask(
            tr("Work on “{name}” was not saved when Holoptic last ended.", name=item.job.name),
            {tr("Bring it back"): take, tr("Discard it"): drop, tr("Later"): self._question.quiet},
        )
