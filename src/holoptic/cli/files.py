"""The commands that make files."""

from __future__ import annotations

import argparse
import sys
from collections import Counter
from dataclasses import replace
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.cli.asked import Asked, asked_for, wish_as_asked
from holoptic.cli.sources import load_figure, load_part, patient_worker
from holoptic.cli.spreading import NOT_CLEAN
from holoptic.cli.targets import require_no_source
from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.exchange.outputs import (
    DRAWING_SUFFIXES,
    drawing_makers,
    require_suffix,
    write_by_suffix,
)
from holoptic.exchange.pdf import pdf_pages
from holoptic.exchange.pictorial_json import pictorial_json
from holoptic.exchange.plan_files import plan_makers, plan_text
from holoptic.exchange.step_file import save_step
from holoptic.foreign import STEP_SUFFIXES
from holoptic.job import (
    SheetOrder,
    all_sheets,
    alone,
    posed_figure,
    read_sections,
    sheet_order,
    title_block,
)
from holoptic.pictorial import Picture
from holoptic.pictorial.corners import check_corners
from holoptic.pictorial.strokes import ROLES
from holoptic.plan import Proof
from holoptic.plan.critic import RULES, counts
from holoptic.plan.hand import Hand
from holoptic.plan.words import way_title
from holoptic.sheet import picture_sheet, views_sheet
from holoptic.sheet.papers import paper_named
from holoptic.sheet.underlay import underlay
from holoptic.units import Unit
from holoptic.units.spoken import said
from holoptic.worker.client import Worker
from holoptic.worker.messages import (
    Candidate,
    Criticised,
    Planned,
    SheetPlanned,
    SheetSet,
    SizesTold,
    Viewed,
    WaysCompared,
)

COMPLETE = "complete"
"""What scripts read: the same in every language."""


def pictorial(options: argparse.Namespace) -> int:
    """Make the picture of a figure."""
    out = Path(options.out)
    require_suffix(out, (*DRAWING_SUFFIXES, ".json"))
    with patient_worker() as worker:
        asked = asked_for(options, worker)
        if not asked.figure.is_pictorial:
            raise BadInput(
                tr("figure “{id}” is views; say --kind, or use “views”", id=asked.figure.id)
            )
        picture = _picture(asked, worker)
    figure, sheet = asked.figure, asked.sheet
    makers = drawing_makers(
        lambda: (
            picture_sheet(
                picture, title_block(asked.job, sheet), figure.lines, sheet.wish, figure.scale
            ).drawing
        )
    )
    makers[".json"] = lambda: pictorial_json(picture, asked.source).encode("utf-8")
    write_by_suffix(out, makers, replace=options.force)
    if options.check:
        print(_corners(picture))
    return 0


def _corners(picture: Picture) -> str:
    """Say what the trihedral rule finds at the corners of a picture's straight lines."""
    drawn, hidden = (
        [(s.path[0], s.path[-1]) for s in picture.of_role(role) if s.is_straight]
        for role in ROLES[:2]
    )
    found = Counter(finding.verdict for finding in check_corners(drawn, hidden))
    words = ", ".join(f"{count} {verdict}" for verdict, count in found.most_common())
    return tr("corners: {words}", words=words or tr("none"))


def plan(options: argparse.Namespace) -> int:
    """Make the moves that draw a part, and prove or compare them on request."""
    out = Path(options.out) if options.out else None
    if out is not None:
        require_suffix(out, (".json", ".csv", ".txt", ".pdf"))
    hand = Hand(*options.hand) if options.hand else Hand()
    with patient_worker() as worker:
        asked = asked_for(options, worker)
        order, figure = sheet_order(asked.job, asked.sheet), asked.figure
        if options.figures and len(asked.sheet.figures) > 1:
            return _several_plans(options, asked, order, worker)
        if options.compare:
            compared: WaysCompared = worker.ask("compare_ways", order, figure.id, hand)
            print("\n".join(_comparison(compared)))
            return 0
        picture = _picture(asked, worker) if figure.is_pictorial else None
        title = title_block(asked.job, asked.sheet)
        made: Planned = worker.ask("plan", order, figure.id, hand, title)
        proof: Proof | None = None
        if options.verify:
            proof = worker.ask("verify", order, figure.id, title)
        read: Criticised | None = None
        if options.critic:
            read = worker.ask("criticise", order, figure.id, hand, title)
    source, unit = asked.source, asked.job.unit
    if out is not None:
        makers = plan_makers(made.plan, picture, source, made.paper, made.drafted, unit)
        write_by_suffix(out, makers, replace=options.force)
    if read is not None:
        print("\n".join(_criticism(read, unit)))
    if proof is not None:
        print(proof)
        if proof.remark:
            print(proof.remark)
        if not proof.holds:
            return 1
    if read is not None:
        return NOT_CLEAN if read.remarks else 0
    if out is None and proof is None:
        print(plan_text(made.plan, picture, source, made.paper, unit), end="")
    return 0


def _several_plans(
    options: argparse.Namespace, asked: Asked, order: SheetOrder, worker: Worker
) -> int:
    """Prove the plans of all figures that were named, as they follow each other on the sheet."""
    if options.critic:
        raise BadInput(tr("the critic reads one plan at a time: name one figure"))
    if not options.verify:
        raise BadInput(tr("several figures are proved together, with --verify; a file is of one"))
    title = title_block(asked.job, asked.sheet)
    proofs: list[Proof] = [worker.ask("verify", order, name, title) for name in order.ids]
    for figure, proof in zip(asked.sheet.figures, proofs, strict=True):
        print(f"{figure.title}: {proof}")
        if proof.remark:
            print(f"{figure.title}: {proof.remark}")
    return 0 if all(proof.holds for proof in proofs) else 1


def _criticism(read: Criticised, unit: Unit) -> list[str]:
    """Return the critic's remarks, one a line, and how often each rule was broken."""
    lines = [said(str(remark), unit) for remark in read.remarks]
    lines += [f"{RULES[rule]}: {number}" for rule, number in counts(read.remarks).items()]
    return lines


def _comparison(compared: WaysCompared) -> list[str]:
    """Return the ways of working as a table."""
    heads = tr("way of working"), tr("moves"), tr("changes"), tr("min"), tr("typical")
    lines = ["{:42} {:>5} {:>7} {:>4} {:>8} {:>6} {:>11}".format(
        *heads, tr("worst"), tr("back corner"))]  # fmt: skip
    for item in compared.ways:
        budget, effort = item.budget, item.effort
        closure = f"± {2 * budget.closure:.2f}" if budget.closure else "–"
        lines.append(
            f"{way_title(item.way):42} {item.moves:5} {effort.changes:7} "
            f"{effort.seconds / 60:4.0f} {budget.typical:8.2f} {budget.worst[1]:6.2f} {closure:>11}"
        )
    return lines


def _all_sheets(options: argparse.Namespace) -> int:
    """Write all sheets of a job as one PDF, a list of them before; 1 where some are missing."""
    if options.out is None:
        raise BadInput(tr("say --out FILE or --check (see holoptic sheet --help)"))
    out = Path(options.out)
    require_suffix(out, (".pdf",))
    with patient_worker() as worker:
        job = asked_for(options, worker).job
        sheets = (replace(one, wish=wish_as_asked(options, one.wish)) for one in job.sheets)
        job = replace(job, sheets=tuple(sheets))
        made: SheetSet = worker.ask("sheet_set", all_sheets(job))
    if not made.pages:
        raise BadInput("; ".join(made.troubles))
    write_atomically(out, pdf_pages(made.pages), replace=options.force)
    for trouble in made.troubles:
        print(trouble, file=sys.stderr)
    return 1 if made.troubles else 0


def sheet(options: argparse.Namespace) -> int:
    """Make a finished sheet with all its figures, or check the sizes on it."""
    if options.all:
        return _all_sheets(options)
    if options.out is None and not options.check:
        raise BadInput(tr("say --out FILE or --check (see holoptic sheet --help)"))
    out = Path(options.out) if options.out else None
    if out is not None:
        require_suffix(out, DRAWING_SUFFIXES)
    if options.check and options.dimension is None:
        options.dimension = "auto"  # a sheet without any sizes needs no check
    with patient_worker() as worker:
        asked = asked_for(options, worker)
        order = sheet_order(asked.job, asked.sheet)
        code = _check_sizes(worker.ask("check_sizes", order)) if options.check else 0
        if out is None:
            return code
        laid: SheetPlanned = worker.ask("sheet", order, title_block(asked.job, asked.sheet))
    if laid.misfit is not None:
        raise BadInput(said(str(laid.misfit), asked.job.unit))
    write_by_suffix(out, drawing_makers(lambda: laid.pages[0]), replace=options.force)
    return code


def _check_sizes(told: SizesTold) -> int:
    """Print what is missing or doubled among the sizes of a sheet; return the exit code."""
    print("\n".join(told.lines) or COMPLETE)
    return 0 if told.is_complete else NOT_CLEAN


def grid(options: argparse.Namespace) -> int:
    """Make an underlay to draw over."""
    out = Path(options.out)
    require_suffix(out, DRAWING_SUFFIXES)
    paper = paper_named(options.paper).turned(options.upright)
    made = underlay(paper, options.kind, options.pitch)
    write_by_suffix(out, drawing_makers(lambda: made), replace=options.force)
    return 0


def views(options: argparse.Namespace) -> int:
    """Make the orthographic views of a part."""
    out = Path(options.out)
    require_suffix(out, DRAWING_SUFFIXES)
    with patient_worker() as worker:
        job, figure = load_figure(options.source, options.part, options.figure, worker)
        require_no_source(options, job)
        if options.section:
            figure = replace(figure, sections=read_sections(options.section))
        angle, posed = options.angle or job.angle, posed_figure(job, figure)
        worker.ask("require_cuts", alone(posed))
        shown: Viewed = worker.ask("show_views", posed, options.views or job.views, angle)
    sheet = job.sheet_of(figure)
    made = views_sheet(shown.placed, title_block(job, sheet), angle, sheet.wish)
    write_by_suffix(out, drawing_makers(lambda: made.drawing), replace=options.force)
    return 0


def solid(options: argparse.Namespace) -> int:
    """Make the exact solid of a part as a STEP file."""
    out = Path(options.out)
    require_suffix(out, STEP_SUFFIXES)
    with patient_worker() as worker:
        job, part = load_part(options.source, options.part, worker)
        require_no_source(options, job)
        posed = posed_figure(job, job.main_figure(part.id))
        save_step(out, lambda path: worker.ask("save_step", posed, path), replace=options.force)
    return 0


def _picture(asked: Asked, worker: Worker) -> Picture:
    figure, posed = asked.figure, posed_figure(asked.job, asked.figure)
    made: Candidate = worker.ask("candidate", posed, figure.kind, figure.corner)
    return made.picture
