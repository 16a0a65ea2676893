"""The command that draws an arrangement apart, lists its parts, and checks it."""

from __future__ import annotations

import argparse
import sys
from dataclasses import dataclass, replace
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.cli.asked import figure_as_asked, wish_as_asked
from holoptic.cli.sources import load_arrangement, patient_worker
from holoptic.cli.targets import require_no_source
from holoptic.errors import BadInput
from holoptic.exchange.outputs import (
    DRAWING_SUFFIXES,
    drawing_makers,
    require_suffix,
    write_by_suffix,
)
from holoptic.exchange.pictorial_json import pictorial_json
from holoptic.exchange.step_file import save_step
from holoptic.foreign import STEP_SUFFIXES
from holoptic.job import (
    Arrangement,
    Figure,
    Job,
    Posed,
    Spread,
    alone,
    posed_figure,
    read_axis,
    sheet_order,
    title_block,
    whole_of,
)
from holoptic.pictorial import view_of
from holoptic.sheet import Drawing
from holoptic.spread.parts_list import parts_csv, parts_list
from holoptic.units import Length
from holoptic.units.spoken import said
from holoptic.worker.client import Worker
from holoptic.worker.messages import Arranged, Candidate, SheetPlanned, narrowed_words

_OVERLAP = "overlap {} {} {volume:.3f} mm3"
_LOCKED = "locked {}"
_COUNT = "{bodies} bodies, {parts} parts"
"""What scripts read: the same in every language."""

NOT_CLEAN = 3
"""The exit code where parts overlap, or cannot be placed, made or taken apart."""


def spread(options: argparse.Namespace) -> int:
    """Draw an arrangement apart or together, or check it."""
    if options.out is None and not options.check:
        raise BadInput(tr("say --out FILE or --check (see holoptic spread --help)"))
    out = Path(options.out) if options.out else None
    if out is not None:
        require_suffix(out, (*DRAWING_SUFFIXES, ".json", ".csv", *STEP_SUFFIXES))
    view_of(options.kind or "isometric", options.corner or "front-right")
    with patient_worker() as worker:
        asked = _asked(options, worker)
        code = asked.check() if options.check else 0
        if out is not None:
            asked.write(out, replace=options.force)
    return code


def _asked(options: argparse.Namespace, worker: Worker) -> _Asked:
    job, arrangement = load_arrangement(options.source, options.arrangement, worker)
    require_no_source(options, job)
    arrangement = replace(arrangement, spread=_wished(options, job, arrangement))
    job = job.with_arrangement(arrangement)
    found = job.spread_figure(arrangement.id, apart=not options.together)
    figure = figure_as_asked(options, found)
    sheet = job.sheet_of(figure)
    sheet = replace(sheet, figures=(figure,), wish=wish_as_asked(options, sheet.wish))
    asked = _Asked(job.with_sheet(sheet), arrangement, figure, worker)
    if figure.cut:
        worker.ask("require_cuts", alone(asked.posed))
    return asked


def _wished(options: argparse.Namespace, job: Job, arrangement: Arrangement) -> Spread:
    """Return how the arrangement is to come apart, with what the command line says laid over it."""
    wish = arrangement.spread
    if options.axis is not None:
        read_axis(options.axis)
        wish = replace(wish, axis=options.axis)
    if options.gap == "auto":
        wish = replace(wish, gap=None)
    elif options.gap is not None:
        wish = replace(wish, gap=Length.read(options.gap, job.unit))
    if options.order is not None:
        wish = replace(wish, order=_order(options.order, job, arrangement))
    return wish


def _order(words: str, job: Job, arrangement: Arrangement) -> tuple[str, ...]:
    """Return the placed parts that are named, by their own names or those of their parts."""
    whole, _ = whole_of(job, arrangement)
    found: list[str] = []
    for word in (word.strip() for word in words.split(",")):
        named = [b.id for b in whole.bodies if word in (b.id, b.name, b.source.name)]
        if not named:
            known = ", ".join(dict.fromkeys(body.name for body in whole.bodies))
            raise BadInput(
                tr("--order: no part is called “{word}” (known: {known})", word=word, known=known)
            )
        found += named
    return tuple(dict.fromkeys(found))


@dataclass(frozen=True)
class _Asked:
    """An arrangement of a job and the figure of it that is meant, alone on its sheet."""

    job: Job
    arrangement: Arrangement
    figure: Figure
    worker: Worker

    @property
    def posed(self) -> Posed:
        return posed_figure(self.job, self.figure)

    def arranged(self, task: str = "arrange") -> Arranged:
        posed = replace(self.posed, spread=self.arrangement.spread)
        made: Arranged = self.worker.ask(task, posed)
        return made

    def check(self) -> int:
        """Print what is wrong with the arrangement; return the exit code."""
        unplaced = whole_of(self.job, self.arrangement)[1]
        arranged = self.arranged("order_parts")
        names = [body.name for body in arranged.whole.bodies]
        for shared in arranged.overlaps:
            pair = names[shared.first], names[shared.second]
            print(_OVERLAP.format(*pair, volume=shared.volume))
        for group in arranged.parting.locked:
            print(_LOCKED.format(", ".join(names[number] for number in group)))
        parts = len({body.part for body in arranged.whole.bodies})
        print(_COUNT.format(bodies=len(names), parts=parts))
        for words in (*(item.why for item in unplaced), *map(str, arranged.troubles)):
            print(words, file=sys.stderr)
        _tell_aside(arranged, names)
        broken = arranged.overlaps or arranged.parting.locked or unplaced or arranged.troubles
        return NOT_CLEAN if broken else 0

    def write(self, out: Path, *, replace: bool) -> None:
        """Make the file that its suffix asks for; tell of a gap that the sheet narrowed.

        Raises BadInput.
        """
        if self.posed.room is not None and out.suffix.lower() != ".csv":
            words = narrowed_words(self.arranged())
            if words:
                print(said(words, self.job.unit), file=sys.stderr)
        if out.suffix.lower() in STEP_SUFFIXES:
            save_step(
                out, lambda path: self.worker.ask("save_step", self.posed, path), replace=replace
            )
            return
        makers = drawing_makers(self._page)
        makers[".json"] = lambda: self._json().encode("utf-8")
        makers[".csv"] = lambda: self._list().encode("utf-8")
        write_by_suffix(out, makers, replace=replace)

    def _page(self) -> Drawing:
        sheet = self.job.sheet_of(self.figure)
        order, title = sheet_order(self.job, sheet), title_block(self.job, sheet)
        laid: SheetPlanned = self.worker.ask("sheet", order, title)
        if laid.misfit is not None:
            raise BadInput(said(str(laid.misfit), self.job.unit))
        return laid.pages[0]

    def _json(self) -> str:
        figure = self.figure
        made: Candidate = self.worker.ask("candidate", self.posed, figure.kind, figure.corner)
        whole = self.arranged().whole
        left = tuple(body for body in whole.bodies if body.id in made.bodies)
        whole = replace(whole, bodies=left)
        return pictorial_json(made.picture, whole if figure.apart else whole.moved({}))

    def _list(self) -> str:
        arranged = self.arranged("order_parts")
        return parts_csv(parts_list(arranged.whole, arranged.parting.order))


def _tell_aside(arranged: Arranged, names: list[str]) -> None:
    """Tell what is worth a look but no fault: beside what scripts read."""
    if len(names) > 1:
        for number in arranged.parting.loose:
            print(tr("{name} touches nothing", name=names[number]), file=sys.stderr)
    for trouble in arranged.parting.troubles:
        about = ", ".join(names[number] for number in trouble.bodies)
        print(f"{trouble.words}: {about}", file=sys.stderr)
