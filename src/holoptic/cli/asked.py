"""What a command line asks for: a figure of a job, with what its options say laid over it."""

from __future__ import annotations

import argparse
from dataclasses import dataclass, replace
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.cli.sources import load_arrangement, load_figure
from holoptic.cli.targets import require_no_source
from holoptic.errors import BadInput
from holoptic.exchange.sheet_template import with_template
from holoptic.job import (
    VIEW_LINES,
    VIEWS,
    Figure,
    HandWays,
    Job,
    Orthographic,
    Pictorial,
    Sheet,
    SheetWish,
    posed_figure,
    read_sections,
    sheet_order,
    view_named,
)
from holoptic.part import Source
from holoptic.part.cutting import read_cut
from holoptic.pictorial import view_of
from holoptic.sheet.papers import paper_named, read_scale
from holoptic.sheet.planning import require_sound
from holoptic.worker.client import Worker


@dataclass(frozen=True)
class Asked:
    """What a command is about: a figure of a job, with what the command line says laid over it."""

    job: Job
    figure: Figure

    @property
    def sheet(self) -> Sheet:
        """The sheet on which the figure stands."""
        return self.job.sheet_of(self.figure)

    @property
    def source(self) -> Source:
        """What the figure shows; an arrangement stands together."""
        return posed_figure(self.job, self.figure).source


def asked_for(options: argparse.Namespace, worker: Worker) -> Asked:
    """Return what a command line asks for. Raises BadInput."""
    # a wrong kind is refused before the kernel is started for the part
    if options.kind != VIEWS and (options.kind is not None or options.corner is not None):
        view_of(options.kind or "isometric", options.corner or "front-right")
    job, found = _found(options, worker)
    require_no_source(options, job)
    figure = figure_as_asked(options, found)
    sheet = job.sheet_of(found)
    if getattr(options, "template", None) is not None:
        sheet = with_template(sheet, Path(options.template))
    sheet = replace(sheet.with_figure(figure), wish=wish_as_asked(options, sheet.wish))
    if getattr(options, "beside", None) is not None:
        others = _beside(options.beside, figure)
        sheet = replace(sheet, figures=(figure, *others))
    if getattr(options, "figures", None) is not None:
        sheet = replace(sheet, figures=_figures(options.figures, job, figure))
        figure = sheet.figures[0]
    asked = Asked(job.with_sheet(sheet), figure)
    if any(one.cut or one.sections for one in sheet.figures):
        worker.ask("require_cuts", sheet_order(asked.job, asked.sheet))
    return asked


def _found(options: argparse.Namespace, worker: Worker) -> tuple[Job, Figure]:
    """Return the job and the figure that are meant: of a part, or of an arrangement."""
    name, apart = getattr(options, "arrangement", None), getattr(options, "spread", False)
    if name is None and not apart:
        return load_figure(options.source, options.part, options.figure, worker)
    if options.part is not None or options.figure is not None:
        raise BadInput(tr("--arrangement goes without --part and --figure"))
    job, arrangement = load_arrangement(options.source, name, worker)
    return job, job.spread_figure(arrangement.id, apart=apart)


def _beside(names: str, figure: Figure) -> list[Figure]:
    """Return what else is to stand on the sheet of a figure; one stands there once."""
    made: list[Figure] = []
    for name in dict.fromkeys(names.split(",")):
        if name and name != figure.title:
            view = view_named(name, figure.corner)
            if isinstance(view, Pictorial):
                view_of(view.kind, view.corner)
            lines = figure.lines if isinstance(view, Pictorial) else VIEW_LINES
            other = replace(figure, id=f"{figure.id} {name}", view=view, lines=lines)
            made.append(other)
    return made


def _figures(names: str, job: Job, figure: Figure) -> tuple[Figure, ...]:
    """Return the figures that stand on a sheet: of the job by their ids, or seen in a named way."""
    known = {one.id: one for one in job.figures}
    made: list[Figure] = []
    for name in dict.fromkeys(filter(None, names.split(","))):
        if name in known:
            made.append(known[name])
        elif name == figure.title:
            made.append(figure)
        else:
            made += _beside(name, figure)
    if not made:
        raise BadInput(tr("--figures: name at least one figure"))
    return tuple(made)


def figure_as_asked(options: argparse.Namespace, figure: Figure) -> Figure:
    """Return a figure with what the command line says laid over it."""
    said = {name: value for name in ("hidden", "outline")
            if (value := getattr(options, name)) is not None}  # fmt: skip
    if options.centre_lines is not None:
        said["centre_lines"] = options.centre_lines == "show"
    school = VIEW_LINES if options.kind == VIEWS and figure.is_pictorial else figure.lines
    made = replace(figure, lines=replace(school, **said),
                   by_hand=_by_hand(options, figure.by_hand))  # fmt: skip
    if options.kind == VIEWS:
        made = replace(made, view=Orthographic())
    elif options.kind is not None or options.corner is not None:
        made = made.seen(options.kind or figure.kind, options.corner or figure.corner)
    if getattr(options, "scale", None) is not None:
        made = replace(made, scale=None)
    if getattr(options, "section", None):
        made = replace(made, sections=read_sections(options.section))
    if getattr(options, "cut", None) is not None:
        if options.cut != "none":
            read_cut(options.cut)
        made = replace(made, cut="" if options.cut == "none" else options.cut)
    return made


def wish_as_asked(options: argparse.Namespace, wish: SheetWish) -> SheetWish:
    """Return what is asked of the sheet, with what the command line says laid over it."""
    said = {
        name: value
        for name, option in (
            ("margin_mm", "margin"), ("dimensions_mm", "dimensions"), ("caption_mm", "caption"),
            ("frame", "border"), ("upright", "upright"), ("series", "series"),
            ("dimensions", "dimension"), ("run", "run_of_lengths"), ("style", "style"),
            ("text", "text"), ("shade", "shade"), ("axis_angles", "axis_angles"),
            ("ends", "ends"),
        )
        if (value := getattr(options, option, None)) is not None
    }  # fmt: skip
    if getattr(options, "paper", None) is not None:
        paper = paper_named(options.paper)
        said |= {"paper": paper.name, "series": paper.series}
    if getattr(options, "scale", None) is not None:
        said["scale"] = read_scale(options.scale)
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
            ("lettering", "lettering"), ("balls", "balls"), ("outfit", "instruments"),
        )
        if (value := getattr(options, option, None)) is not None
    }  # fmt: skip
    if "method" in said or "limit_mm" in said:
        said["own"] = ()
    return replace(ways, **said)
