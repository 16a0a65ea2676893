"""The commands that make files."""

from __future__ import annotations

import argparse
from collections import Counter
from dataclasses import replace
from pathlib import Path

from holoptic.cli.sources import load_part, patient_worker
from holoptic.errors import BadInput
from holoptic.exchange.job_file import STEP_SUFFIXES
from holoptic.exchange.outputs import (
    DRAWING_SUFFIXES,
    drawing_makers,
    require_suffix,
    write_by_suffix,
)
from holoptic.exchange.pictorial_json import pictorial_json
from holoptic.exchange.plan_files import plan_makers, plan_text
from holoptic.exchange.step_file import save_step
from holoptic.job import Choice, HandWays, Job, JobPart, SheetWish
from holoptic.pictorial import Picture, view_of
from holoptic.pictorial.corners import check_corners
from holoptic.pictorial.strokes import ROLES
from holoptic.plan import Proof
from holoptic.plan.hand import Hand
from holoptic.plan.words import way_title
from holoptic.sheet import TitleBlock, picture_sheet, views_sheet
from holoptic.sheet.papers import paper_named, read_scale
from holoptic.sheet.planning import require_sound
from holoptic.sheet.underlay import underlay
from holoptic.units.spoken import said
from holoptic.worker.client import Worker
from holoptic.worker.messages import (
    Candidate,
    Planned,
    SheetPlanned,
    Viewed,
    WaysCompared,
)


def pictorial(options: argparse.Namespace) -> int:
    """Make the picture of a part."""
    out = Path(options.out)
    require_suffix(out, (*DRAWING_SUFFIXES, ".json"))
    with patient_worker() as worker:
        job, part = _part(options, worker)
        picture = _picture(part, worker)
    makers = drawing_makers(lambda: picture_sheet(picture, _title(job, part), part.choice).drawing)
    makers[".json"] = lambda: pictorial_json(picture, part.source).encode("utf-8")
    write_by_suffix(out, makers)
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
    return f"corners: {words or 'none'}"


def plan(options: argparse.Namespace) -> int:
    """Make the moves that draw a part, and prove or compare them on request."""
    out = Path(options.out) if options.out else None
    if out is not None:
        require_suffix(out, (".json", ".csv", ".txt", ".pdf"))
    hand = Hand(*options.hand) if options.hand else Hand()
    with patient_worker() as worker:
        job, part = _part(options, worker)
        if options.compare:
            compared: WaysCompared = worker.ask("compare_ways", part, hand, job.views, job.angle)
            print("\n".join(_comparison(compared)))
            return 0
        picture = _picture(part, worker)
        made: Planned = worker.ask("plan", part, hand, job.views, job.angle)
        proof: Proof | None = (
            worker.ask("verify", part, job.views, job.angle) if options.verify else None
        )
    if out is not None:
        makers = plan_makers(made.plan, picture, part.source, made.paper, made.drafted, job.unit)
        write_by_suffix(out, makers)
    if proof is not None:
        print(proof)
        if proof.remark:
            print(proof.remark)
        return 0 if proof.holds else 1
    if out is None:
        print(plan_text(made.plan, picture, part.source, made.paper, job.unit), end="")
    return 0


def _comparison(compared: WaysCompared) -> list[str]:
    """Return the ways of working as a table."""
    lines = [f"{'way of working':42} {'moves':>5} {'changes':>7} {'min':>4} "
             f"{'typical':>8} {'worst':>6} {'back corner':>11}"]  # fmt: skip
    for item in compared.ways:
        budget, effort = item.budget, item.effort
        closure = f"± {2 * budget.closure:.2f}" if budget.closure else "–"
        lines.append(
            f"{way_title(item.way):42} {item.moves:5} {effort.changes:7} "
            f"{effort.seconds / 60:4.0f} {budget.typical:8.2f} {budget.worst[1]:6.2f} {closure:>11}"
        )
    return lines


def sheet(options: argparse.Namespace) -> int:
    """Make the finished sheet of a part: its picture, and what is to stand beside it."""
    out = Path(options.out)
    require_suffix(out, DRAWING_SUFFIXES)
    with patient_worker() as worker:
        job, part = _part(options, worker)
        laid: SheetPlanned = worker.ask("sheet", part, _title(job, part), job.views, job.angle)
    if laid.misfit is not None:
        raise BadInput(said(str(laid.misfit), job.unit))
    write_by_suffix(out, drawing_makers(lambda: laid.pages[0]))
    return 0


def grid(options: argparse.Namespace) -> int:
    """Make an underlay to draw over."""
    out = Path(options.out)
    require_suffix(out, DRAWING_SUFFIXES)
    paper = paper_named(options.paper).turned(options.upright)
    made = underlay(paper, options.kind, options.pitch)
    write_by_suffix(out, drawing_makers(lambda: made))
    return 0


def views(options: argparse.Namespace) -> int:
    """Make the orthographic views of a part."""
    out = Path(options.out)
    require_suffix(out, DRAWING_SUFFIXES)
    with patient_worker() as worker:
        job, part = load_part(options.source, options.part, worker)
        angle = options.angle or job.angle
        shown: Viewed = worker.ask("show_views", part, options.views or job.views, angle)
    made = views_sheet(shown.placed, _title(job, part), angle, part.choice.sheet)
    write_by_suffix(out, drawing_makers(lambda: made.drawing))
    return 0


def solid(options: argparse.Namespace) -> int:
    """Make the exact solid of a part as a STEP file."""
    out = Path(options.out)
    require_suffix(out, STEP_SUFFIXES)
    with patient_worker() as worker:
        _, part = load_part(options.source, options.part, worker)
        save_step(out, lambda path: worker.ask("save_step", part.source, path))
    return 0


def _part(options: argparse.Namespace, worker: Worker) -> tuple[Job, JobPart]:
    """Return the job and the part, pictured as the command line says."""
    # a wrong kind is refused before the kernel is started for the part
    if options.kind is not None or options.corner is not None:
        view_of(options.kind or "isometric", options.corner or "front-right")
    job, part = load_part(options.source, options.part, worker)
    return job, replace(part, choice=_choice(options, part))


def _picture(part: JobPart, worker: Worker) -> Picture:
    made: Candidate = worker.ask("candidate", part, part.choice.kind, part.choice.corner)
    return made.picture


def _choice(options: argparse.Namespace, part: JobPart) -> Choice:
    """Return the part's own choices with what the command line says laid over them."""
    names = ("kind", "corner", "hidden", "outline")
    said = {name: value for name in names if (value := getattr(options, name)) is not None}
    if options.centre_lines is not None:
        said["centre_lines"] = options.centre_lines == "show"
    by_hand = _by_hand(options, part.choice.by_hand)
    return replace(part.choice, **said, by_hand=by_hand, sheet=_wish(options, part.choice.sheet))


def _wish(options: argparse.Namespace, wish: SheetWish) -> SheetWish:
    """Return what is asked of the sheet, with what the command line says laid over it."""
    said = {
        name: value
        for name, option in (
            ("margin_mm", "margin"), ("dimensions_mm", "dimensions"), ("caption_mm", "caption"),
            ("frame", "border"), ("upright", "upright"), ("series", "series"),
        )
        if (value := getattr(options, option, None)) is not None
    }  # fmt: skip
    if getattr(options, "paper", None) is not None:
        paper = paper_named(options.paper)
        said |= {"paper": paper.name, "series": paper.series}
    if getattr(options, "scale", None) is not None:
        said["scale"] = read_scale(options.scale)
    if getattr(options, "beside", None) is not None:
        said["company"] = tuple(name for name in options.beside.split(",") if name)
    made = replace(wish, **said)
    require_sound(made)
    return made


def _by_hand(options: argparse.Namespace, ways: HandWays) -> HandWays:
    """Return how circles are drawn, with what the command line says laid over it."""
    said = {
        name: value
        for name, option in (
            ("method", "circles"), ("limit_mm", "limit"), ("ordinates", "ordinates"),
            ("depth_copy", "depth_copy"), ("raising", "raise"), ("strategy", "strategy"),
            ("order", "order"), ("firming", "firming"),
        )
        if (value := getattr(options, option, None)) is not None
    }  # fmt: skip
    if "method" in said or "limit_mm" in said:
        said["own"] = ()
    return replace(ways, **said)


def _title(job: Job, part: JobPart) -> TitleBlock:
    return TitleBlock(job.name, part.source.name, part.source.number, job.date, job.drawn_by)
