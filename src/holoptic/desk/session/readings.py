"""The drawing that is being read: its sheet, the views found on it, and what they can mean."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.desk.look.settings import keep_setting, read_settings
from holoptic.desk.session.corrections import PURPOSE as _CORRECT
from holoptic.desk.session.corrections import Corrections
from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.line_in_hand import LineInHand
from holoptic.desk.session.pasted import PastedPicture
from holoptic.desk.session.revisions import Revisions
from holoptic.desk.session.written_figures import PURPOSE as _FIGURES
from holoptic.desk.session.written_figures import WrittenFigures
from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.job import pose
from holoptic.paper.given import Given
from holoptic.part import Source
from holoptic.pictorial import Picture
from holoptic.reading.arrangement import Arrangement, ViewOnSheet, side_by_side
from holoptic.reading.draft import Draft
from holoptic.reading.draft_text import draft_of, draft_words
from holoptic.reading.guide import Guide
from holoptic.reading.lines import DrawnView, Status, scaled
from holoptic.reading.planes import PLANES
from holoptic.reading.result import (
    LONG_LIMIT_S,
    USUAL_LIMIT_S,
    USUAL_MOST,
    Answer,
    Check,
    Reading,
)
from holoptic.reading.sketch import LineGroup, Sketch
from holoptic.units import Unit
from holoptic.units.spoken import said
from holoptic.worker.messages import PictureRead, PictureShown, ReadOneOf, SheetRead, Shelved

_SHEET, _READ, _MEND, _DERIVE, _ANSWER, _GUIDE = (
    "drawing sheet", "drawing read", "drawing mend", "drawing derive", "drawing answer",
    "drawing guide",
)  # fmt: skip
_RAW = "drawing raw"
_VIEWS, _SOURCE = "views on the sheet", "source of views"
"""What questions are about: the views as they are, and where they come from."""
_DRAFT = "views drawn by hand"
Taken = dict[tuple[str, str, int], Status]
"""How groups of lines that look alike are taken."""
_GAP_MM = 18.0
_FEWEST = 2


@dataclass(frozen=True)
class Spot:
    """Something to be looked at on the sheet: its place in sheet mm, and what it is about."""

    path: tuple[Vec2, ...]
    words: str
    grave: bool
    brief: str = ""
    """What is said on the sheet, where the words are long."""


class Readings(QObject):
    """Has the worker open, mend and read drawings.

    Signals:
        sheet_changed: another drawing, or its views are taken otherwise.
        reading_changed: there is another outcome of reading, or none any more.
        told(text): something to tell in passing.
        opening(name): a file is being opened.
        raw_shown: the picture is there as it was handed over.
        refused: what was asked for could not be done; what was there stands.
    """

    sheet_changed = pyqtSignal()
    reading_changed = pyqtSignal()
    told = pyqtSignal(str)
    opening = pyqtSignal(str)
    raw_shown = pyqtSignal()
    refused = pyqtSignal()

    def __init__(
        self, kernel: KernelLine, revisions: Revisions, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._kernel = kernel
        self._revisions = revisions
        self.name = ""
        self.unit = Unit.MM
        self.sketch: Sketch | None = None
        self.arrangement: Arrangement | None = None
        self.before: Arrangement | None = None
        self.whole: Arrangement | None = None
        self.checks: tuple[Check, ...] = ()
        self.reading: Reading | None = None
        self.pictures: dict[int, Picture] = {}
        self.chosen = 0
        self.draft: Draft | None = None
        self.is_drafting = False
        self._shows_draft = False
        self.guide: Guide | None = None
        self._steps: list[Guide] = []
        self._path: Path | None = None
        self._taken: Taken = {}
        self._asked: tuple[Path, Taken, Given] = Path(), {}, Given()
        self.given = Given()
        """What is told of a sheet on paper."""
        self.pages = 1
        self.picture: PictureRead | None = None
        self.figures = WrittenFigures(kernel, revisions, self)
        self.figures.lies_otherwise.connect(self.told)
        self.line = LineInHand(self)
        self.corrections = Corrections(self)
        self.found: Arrangement | None = None
        """The views as they were found, as long as nothing of them was changed."""
        self.pasted = PastedPicture()
        self.raw: PictureShown | None = None
        """The picture as it was handed over, once it was asked for."""

    # --- the sheet --------------------------------------------------------------------------

    def open(self, path: Path, given: Given | None = None) -> None:
        """Open a drawing, of which something may be told; the sheet changes once it is read."""
        self.is_drafting = self._shows_draft = False
        self.opening.emit(path.name)
        self._ask_to_open(path, {}, given or Given())

    def _ask_to_open(self, path: Path, taken: Taken, given: Given, angle: str = "auto") -> None:
        """Have a drawing opened; what was said of it counts once that can be done."""
        self._asked = path, taken, given
        self._ask_for_sheet(_SHEET, "open_sheet", str(path), angle, dict(taken), given)

    def open_image(self, image: QImage) -> None:
        """Open a picture that was pasted or dropped."""
        try:
            self.open(self.pasted.keep(image))
        except BadInput as error:
            self.told.emit(str(error))

    def tell(self, given: Given) -> None:
        """Tell something of a sheet on paper; the sheet changes once it is taken up."""
        if self._path is None or given == self.told_last:
            return
        is_laid = self.arrangement is not None and given.corners == self.given.corners
        angle = self.arrangement.angle if self.arrangement and is_laid else "auto"
        self._ask_to_open(self._path, self._taken, given, angle)

    @property
    def told_last(self) -> Given:
        """What was told of the sheet on paper last, taken up already or not yet."""
        return self._asked[2] if self._asked[0] == self._path else self.given

    def ask_raw(self) -> None:
        """Have the picture shown as it was handed over."""
        if self._path is not None and self.raw is None:
            about = self._revisions.note("raw picture", (self._path, self.given.page))
            self._kernel.ask(_RAW, "show_picture", str(self._path), self.given.page, about=about)

    def take_line_group(self, group: LineGroup, status: Status) -> None:
        """Take all lines that look alike for visible, hidden or centre lines."""
        if self._path is not None:
            self._ask_to_open(self._path, {**self._taken, group.key: status}, self.given)

    def lay_out_as(self, angle: str) -> None:
        """Take the sheet for third or first angle."""
        if self._shows_draft and self.draft is not None:
            self.change_draft(replace(self.draft, angle="third" if angle == "third" else "first"))
        if self._path is not None:
            self._ask_to_open(self._path, self._taken, self.given, angle)

    def rename_view(self, number: int, name: str) -> None:
        """Take a view for another one; the view that had the name takes its own."""
        if self.arrangement is not None and name in PLANES:
            self.rearrange(self.arrangement.renamed(number, name))

    @property
    def length(self) -> float:
        """The overall length of the part as the front view shows it, mm; 0 without one."""
        front = self._placed("front") or self._placed("rear")
        return front.box[2] - front.box[0] if front else 0.0

    def scale_to(self, length: float) -> None:
        """Scale the drawing so that the overall length is what is known, mm."""
        if self.arrangement is None or self.length <= 0 or length <= 0:
            self.told.emit(tr("A front view and a length above zero are needed."))
            return
        factor = length / self.length
        if self.sketch is not None:  # the figures stay; the distances that they stand on do not
            sizes = tuple(size.scaled(factor) for size in self.sketch.sizes)
            self.sketch = replace(self.sketch, sizes=sizes)
        views = []
        for view in self.arrangement.views:
            lines = (replace(line, shape=scaled(line.shape, factor)) for line in view.lines)
            views.append(replace(view, lines=tuple(lines)))
        self.rearrange(replace(self.arrangement, views=tuple(views)))

    def use_view(self, name: str, used: bool) -> None:
        """Read with a view or without it: what it would show is then drawn by Holoptic."""
        if self.arrangement is None or self.whole is None:
            return
        names = {view.name for view in self.arrangement.views} - {name}
        names |= {name} if used else set()
        whole = self.whole
        if len(names) >= _FEWEST:
            kept = tuple(view for view in whole.views if view.name in names)
            self.rearrange(replace(whole, views=kept))
            self.whole = whole
        else:
            self.told.emit(tr("At least two views are needed."))
            self.sheet_changed.emit()

    def close(self) -> None:
        """Take the drawing off the page; views drawn here are kept."""
        self.is_drafting = self._shows_draft = False
        self._path, self.name = None, ""
        self._revisions.forget(_SOURCE)
        self.sketch = self.before = None
        self._put_picture_away()
        self._set_views(None)
        self.checks = ()
        self._forget_reading()
        self.sheet_changed.emit()

    def practise(self, source: Source) -> None:
        """Draw the views of a part, to be read back."""
        self.is_drafting = self._shows_draft = False
        self._path = None
        self.name = source.name
        self._ask_for_sheet(_DERIVE, "derive_views", source)

    def mend(self) -> None:
        """Mend the small slips of the drawing; `before` keeps what it was."""
        if self.arrangement is not None and self.has_views:
            self.ask_about_views(_MEND, "mend_views", self.arrangement.drawn_views())

    def correct(self, views: Sequence[DrawnView], reading: Reading) -> None:
        """Take views with a line drawn otherwise, and what they mean; `before` keeps them."""
        if self.arrangement is not None:
            before = self.before or self.arrangement
            self.rearrange(self.arrangement.with_views(views))
            self.before = before
            self._take_reading(reading)

    def unmend(self) -> None:
        """Take the drawing as it was before it was mended or corrected."""
        if self.before is not None:
            before, self.before = self.before, None
            self.rearrange(before)

    # --- drawing the views here ---------------------------------------------------------------

    def begin_draft(self, draft: Draft) -> None:
        """Draw views by hand, or go on with those begun before, also on another day."""
        self.draft = self.draft or draft_of(read_settings().get(_DRAFT)) or draft
        self.is_drafting = self._shows_draft = True
        self._path = None
        self._revisions.forget(_SOURCE)
        self.name, self.sketch, self.before = tr("drawn here"), None, None
        self._put_picture_away()
        self._show_draft()

    def change_draft(self, draft: Draft) -> None:
        """Take the views as they are now drawn."""
        self.draft = draft
        keep_setting(_DRAFT, draft_words(draft))
        self._show_draft()

    def end_draft(self) -> None:
        """Be done with drawing: the views stay on the sheet, to be read."""
        self.is_drafting = False
        self.sheet_changed.emit()

    def save_views(self, path: Path, *, replace: bool = True) -> None:
        """Write the views on the sheet as a drawing (DXF); without `replace` over no file."""
        from holoptic.reading.dxf_views import views_dxf  # noqa: PLC0415 - late: it loads ezdxf

        if self.arrangement is None:
            return
        try:
            write_atomically(path, views_dxf(self.arrangement), replace=replace)
        except (OSError, BadInput) as error:
            self.told.emit(tr("Not saved: {error}", error=error))
        else:
            self.told.emit(tr("Saved as {name}", name=path.name))

    def _show_draft(self) -> None:
        arrangement = self.draft.arrangement() if self.draft else None
        if arrangement is not None:
            self.rearrange(arrangement)
            return
        self._set_views(None)
        self.checks = ()
        self._forget_reading()
        self.sheet_changed.emit()

    # --- the guided way -----------------------------------------------------------------------

    def begin_guide(self) -> None:
        """Begin the guided way: the outlines intersected, loops to be taken away one by one."""
        if self.arrangement is not None and self.has_views:
            self._forget_reading()
            self.ask_about_views(_GUIDE, "begin_guide", self.arrangement.drawn_views(), self.name)

    def take_away(self, number: int, low: float, high: float) -> None:
        """Take a loop away between two levels."""
        if self.guide is not None:
            self._steps.append(self.guide)
            self.ask_about_views(_GUIDE, "guide_on", self.guide, number, low, high)

    def step_back(self) -> None:
        """Put back what was taken away last."""
        if self._steps:
            self._take_guide(self._steps.pop())

    def loop_on_sheet(self, number: int) -> tuple[Vec2, ...]:
        """Return a loop of the guide as it lies on the sheet."""
        placed = self._placed(self.guide.loops[number].view) if self.guide else None
        if self.guide is None or placed is None:
            return ()
        loop = self.guide.loops[number]
        across, up = PLANES[loop.view].turned
        xmin, ymin, xmax, ymax = placed.view().box
        flipped = tuple(
            ((xmax - x if across else xmin + x), (ymax - y if up else ymin + y))
            for x, y in loop.path
        )
        return self.on_sheet(loop.view, flipped)

    def _take_guide(self, guide: Guide) -> None:
        self.guide = guide
        answer = Answer(guide.part, (), 0.0)
        views = tuple(self.arrangement.drawn_views()) if self.arrangement else ()
        note = tr("the guided way: take loops away until the part is there")
        self._take_reading(Reading("unfinished", views, (answer,), notes=(note,)))

    # --- reading ----------------------------------------------------------------------------

    def read(self) -> None:
        """Have the views read; where the time ran out, for longer."""
        if self.arrangement is not None and self.has_views:
            limit = LONG_LIMIT_S if self.ran_out else USUAL_LIMIT_S
            self._forget_reading()
            views = tuple(self.arrangement.drawn_views())
            if self.picture is not None and self.picture.others and self.is_as_found:
                others = (tuple(one.drawn_views()) for one in self.picture.others)
                self.ask_about_views(_READ, "read_one_of", (views, *others), self.name,
                                     USUAL_MOST, limit)  # fmt: skip
            else:
                self.ask_about_views(_READ, "read", views, self.name, USUAL_MOST, limit)

    @property
    def has_views(self) -> bool:
        """Whether there is something to be read: a picture may lie there without any views yet."""
        return self.arrangement is not None and bool(self.arrangement.views)

    @property
    def is_as_found(self) -> bool:
        """Whether the views are those of the picture, none changed or left out."""
        return self.before is None and self.arrangement is self.found

    @property
    def ran_out(self) -> bool:
        """Whether reading was given up for want of time, so that it may go on."""
        return self.reading is not None and self.reading.verdict == "unfinished"

    @property
    def answer(self) -> Answer | None:
        """The answer in hand."""
        answers = self.reading.answers if self.reading else ()
        return answers[self.chosen] if self.chosen < len(answers) else None

    def choose(self, number: int) -> None:
        """Take another answer in hand."""
        if self.reading is not None and number < len(self.reading.answers):
            self.chosen = number
            self.reading_changed.emit()

    def spots(self) -> list[Spot]:
        """Return what is odd on the sheet: what would make it read first, then what the reading
        found against it.
        """
        found = [
            Spot(self.on_sheet(one.view, one.path),
                 said(tr("{words}: then it reads (E)", words=one.words), self.unit), False,
                 tr("then it reads (E)"))
            for one in self.corrections.offered
        ]  # fmt: skip
        if self.reading is not None:
            for suspect in self.reading.suspects:
                path = self.on_sheet(suspect.view, suspect.path)
                found.append(Spot(path, f"{tr(suspect.view)}: {suspect.words}", True))
            for suspect in self.reading.conflict:
                path = self.on_sheet(suspect.view, suspect.path)
                found.append(Spot(path, f"{tr(suspect.view)}: {suspect.words}", False))
        for check in self.checks:
            where = check.view or "sheet"
            path = self.on_sheet(check.view, check.path) if check.view else check.path
            found.append(
                Spot(path, said(f"{tr(where)}: {check.words}", self.unit), not check.can_be_mended)
            )
        return found

    def on_sheet(self, name: str, path: tuple[Vec2, ...]) -> tuple[Vec2, ...]:
        """Return a path of a view, in the view's own mm, as it lies on the sheet."""
        placed = self._placed(name)
        if placed is None:
            return path
        xmin, ymin, xmax, _ = placed.box
        if placed.quarters == 0:
            return tuple((x + xmin, y + ymin) for x, y in path)
        return tuple((xmax - y, ymin + x) for x, y in path) if placed.quarters == _THREE else path

    def overlay(self) -> list[tuple[str, DrawnView]]:
        """Return the views of the answer in hand that the sheet has too, moved onto it."""
        found = []
        for view in self.answer.views if self.answer else ():
            placed = self._placed(view.name)
            if placed is not None and placed.quarters == 0:
                low, own = view.box, placed.box
                found.append((view.name, view.moved(own[0] - low[0], own[1] - low[1])))
        return found

    def drawn_view(self) -> tuple[str, DrawnView] | None:
        """Return the view that Holoptic drew for want of a third one, at its place on the sheet."""
        if self.answer is None or self.arrangement is None or len(self.arrangement.views) > _FEWEST:
            return None
        depths = {PLANES[view.name].depth for view in self.arrangement.views}
        missing = (v for v in self.answer.views if PLANES[v.name].depth not in depths)
        view = next(missing, None)
        if view is None:
            return None
        front = self._placed("front") or self.arrangement.views[0]
        xmin, ymin, xmax, ymax = front.box
        low, _, _, high = view.box
        third = self.arrangement.angle == "third"
        if view.name == "right":
            width = view.box[2] - low
            at = xmax + _GAP_MM if third else xmin - _GAP_MM - width
            return view.name, view.moved(at - low, ymin - view.box[1])
        up = ymax + _GAP_MM - view.box[1] if third else ymin - _GAP_MM - high
        return view.name, view.moved(xmin - low, up)

    def _placed(self, name: str) -> ViewOnSheet | None:
        views = self.arrangement.views if self.arrangement else ()
        return next((view for view in views if view.name == name), None)

    # --- answers of the worker --------------------------------------------------------------

    def ask_about_views(self, purpose: str, task: str, *arguments: object) -> None:
        """Ask about the views as they now are."""
        about = self._revisions.note(_VIEWS, self.arrangement)
        self._kernel.ask(purpose, task, *arguments, about=about)

    def _ask_for_sheet(self, purpose: str, task: str, *arguments: object) -> None:
        """Ask for other views; none that were asked for before may come instead."""
        about = self._revisions.note(_SOURCE, (purpose, *arguments))
        self._kernel.ask(purpose, task, *arguments, about=about)

    def take(self, purpose: str, value: object) -> None:
        """Take an answer of the worker, if it is about drawings and not overtaken."""
        if purpose == _SHEET and isinstance(value, SheetRead):
            self._take_sheet(value)
        elif purpose == _FIGURES:
            self.figures.take(value)
        elif purpose == _CORRECT:
            self.corrections.take_answer(value)
        elif purpose == _RAW and isinstance(value, PictureShown):
            self.raw = value
            self.raw_shown.emit()
        elif purpose == _DERIVE and isinstance(value, tuple):
            self.sketch, self.before = None, None
            self._put_picture_away()
            self.rearrange(side_by_side(value))
        elif purpose == _MEND and isinstance(value, list) and self.arrangement is not None:
            self.before = self.arrangement
            self.rearrange(self.arrangement.with_views(value))
        elif purpose == f"{_SHEET} checks" and isinstance(value, list):
            self.checks = tuple(value)
            self.sheet_changed.emit()
        elif purpose == _GUIDE and isinstance(value, Guide):
            self._take_guide(value)
        elif purpose == _READ and isinstance(value, Reading):
            self._take_reading(value)
        elif purpose == _READ and isinstance(value, ReadOneOf):
            self._take_one_of(value)
        elif purpose.startswith(_ANSWER) and isinstance(value, Shelved) and value.picture:
            self.pictures[int(purpose.rsplit(" ", 1)[1])] = value.picture
            self.reading_changed.emit()

    def _take_sheet(self, sheet: SheetRead) -> None:
        self.name, self.sketch, self.before = sheet.sketch.name, sheet.sketch, None
        self.checks = sheet.checks
        path, self._taken, given = self._asked
        if (path, given.page) != (self._path, self.given.page):
            self.raw = None
        self._path, self.given = path, given
        self.picture, self.pages = sheet.picture, sheet.pages
        self.rearrange(sheet.arrangement, checked=True)
        if sheet.picture is not None:
            if given.is_sketch:
                self.figures.forget()  # a free hand's figures are not read by a machine
            else:
                self.figures.ask(path, given)
            if sheet.picture.trouble:
                self.told.emit(sheet.picture.trouble)
        else:
            self.figures.forget()

    def take_failure(self, purpose: str, error: Exception) -> None:
        """Tell what could not be done with a drawing."""
        if purpose == _FIGURES:
            self.figures.forget()
        elif purpose.startswith("drawing") and not purpose.startswith(_ANSWER):
            if purpose == _SHEET and self._path is not None:
                self._asked = self._path, self._taken, self.given
            self.told.emit(str(error))
            self.refused.emit()

    def _take_reading(self, reading: Reading) -> None:
        self.reading, self.chosen, self.pictures = reading, 0, {}
        for number, answer in enumerate(reading.answers):
            self.ask_about_views(f"{_ANSWER} {number}", "shelve", pose(answer.part))
        self.corrections.ask(reading)
        self.reading_changed.emit()

    def _take_one_of(self, found: ReadOneOf) -> None:
        """Take what was read of a sheet whose levels may be meant in several ways: say which."""
        if found.number and self.picture is not None:
            arrangement = self.picture.others[found.number - 1]
            self._set_views(arrangement)
            self.sheet_changed.emit()
            self.told.emit(tr("It reads with its levels taken otherwise: see the list of levels."))
        self._take_reading(found.reading)

    def _put_picture_away(self) -> None:
        self.picture = self.raw = None
        self.figures.forget()
        self.pages = 1

    def _set_views(self, arrangement: Arrangement | None) -> None:
        self.arrangement = self.whole = arrangement
        self.line.number = None
        self._revisions.note(_VIEWS, arrangement)

    def rearrange(self, arrangement: Arrangement, checked: bool = False) -> None:
        """Take the views otherwise; what was read of them counts no more."""
        self._set_views(arrangement)
        self.found = arrangement if checked else None
        self._forget_reading()
        self.sheet_changed.emit()
        if not checked:
            sizes = self.sketch.sizes if self.sketch else ()
            self.ask_about_views(f"{_SHEET} checks", "check_sheet", arrangement, sizes)

    def _forget_reading(self) -> None:
        self.reading, self.pictures, self.chosen = None, {}, 0
        self.corrections.forget()
        self.guide, self._steps = None, []
        self.reading_changed.emit()


_THREE = 3
