"""The commands that make files."""

from __future__ import annotations

import argparse
from dataclasses import replace
from pathlib import Path

from holoptic.cli.sources import load_part, patient_worker
from holoptic.exchange.outputs import drawing_makers, require_suffix, write_by_suffix
from holoptic.exchange.pictorial_json import pictorial_json
from holoptic.exchange.plan_files import plan_makers, plan_text
from holoptic.job import Choice, Job, JobPart
from holoptic.pictorial import Picture, draw, view_of
from holoptic.plan import make_plan, prove
from holoptic.plan.builder import start_on_picture
from holoptic.sheet import TitleBlock, picture_sheet, plan_setup, views_sheet
from holoptic.solid.pieces import Seen
from holoptic.views import lay_out, orthographic, view_directions
from holoptic.worker.client import Worker

_DRAWING_SUFFIXES = (".svg", ".pdf", ".png")


def pictorial(options: argparse.Namespace) -> int:
    """Make the picture of a part."""
    out = Path(options.out)
    require_suffix(out, (*_DRAWING_SUFFIXES, ".json"))
    with patient_worker() as worker:
        job, part, seen, picture = _picture(options, worker)
    del seen
    hidden = _choice(options, part).hidden
    makers = drawing_makers(lambda: picture_sheet(picture, _title(job, part), hidden).drawing)
    makers[".json"] = lambda: pictorial_json(picture, part.source).encode("utf-8")
    write_by_suffix(out, makers)
    return 0


def plan(options: argparse.Namespace) -> int:
    """Make the moves that draw a part, and prove them on request."""
    out = Path(options.out) if options.out else None
    if out is not None:
        require_suffix(out, (".json", ".csv", ".txt"))
    with patient_worker() as worker:
        _, part, seen, picture = _picture(options, worker)
    source = part.source
    start = start_on_picture(source, seen.facts, picture)
    setup, paper = plan_setup(picture, start)
    made = make_plan(source, seen.facts, picture, setup)
    if out is not None:
        write_by_suffix(out, plan_makers(made, picture, source, paper))
    if options.verify:
        proof = prove(made, picture, start)
        print(proof)
        return 0 if proof.holds else 1
    if out is None:
        print(plan_text(made, picture, source, paper), end="")
    return 0


def views(options: argparse.Namespace) -> int:
    """Make the orthographic views of a part."""
    out = Path(options.out)
    require_suffix(out, _DRAWING_SUFFIXES)
    with patient_worker() as worker:
        job, part = load_part(options.source, options.part, worker)
        seen: Seen = worker.ask("look", part.source, view_directions())
    placed = lay_out(orthographic(seen))
    write_by_suffix(out, drawing_makers(lambda: views_sheet(placed, _title(job, part)).drawing))
    return 0


def _picture(options: argparse.Namespace, worker: Worker) -> tuple[Job, JobPart, Seen, Picture]:
    # a wrong kind is refused before the kernel is started for the part
    if options.kind is not None or options.corner is not None:
        view_of(options.kind or "isometric", options.corner or "front-right")
    job, part = load_part(options.source, options.part, worker)
    choice = _choice(options, part)
    view = view_of(choice.kind, choice.corner)
    seen: Seen = worker.ask("look", part.source, (view.toward_viewer,))
    return job, part, seen, draw(seen.look(view.toward_viewer), view)


def _choice(options: argparse.Namespace, part: JobPart) -> Choice:
    """Return the part's own choices with what the command line says laid over them."""
    said = {name: getattr(options, name) for name in ("kind", "corner", "hidden")}
    return replace(part.choice, **{name: value for name, value in said.items() if value})


def _title(job: Job, part: JobPart) -> TitleBlock:
    return TitleBlock(job.name, part.source.name, part.source.number, job.date)
