"""What a command works on: a part of a job file, a solid of a STEP file, or DXF views read."""

from __future__ import annotations

import contextlib
import sys
from pathlib import Path

from holoptic.catalogue import ntr, tr
from holoptic.errors import BadInput, HolopticError
from holoptic.exchange.job_file import JOB_SUFFIXES, read_job, write_job
from holoptic.exchange.preview import preview_of
from holoptic.foreign import DRAWING_SUFFIXES, STEP_SUFFIXES, require_readable
from holoptic.job import Arrangement, Figure, Job, JobPart, job_of, posed_figure
from holoptic.paper.given import Given
from holoptic.pictorial import Picture
from holoptic.places import resolved
from holoptic.reading.arrangement import Wish
from holoptic.reading.result import USUAL_LIMIT_S, USUAL_MOST, Reading
from holoptic.spread.from_file import with_assembly
from holoptic.worker.client import PATIENCE_S, Worker
from holoptic.worker.messages import Presented, ReadOneOf, SheetRead


def patient_worker() -> Worker:
    """Return a worker that shows on a terminal that long work goes on."""

    if not sys.stderr.isatty():
        return Worker()

    def say(words: str) -> None:
        print(f"\r{words:<70.70}", end="", file=sys.stderr, flush=True)

    return Worker(
        lambda seconds: say(tr("working out the solid … {seconds:.0f} s", seconds=seconds)),
        lambda progress: say(tr("working out the solid … {progress}", progress=progress)),
    )


def load_job(path: Path, worker: Worker, *, assembled: bool = False) -> Job:
    """Return the job in a file; the solids of a STEP file become its parts. Raises BadInput.

    Where it is asked for, how they stand together there becomes an arrangement.
    """
    require_readable(path)
    if path.suffix.lower() in STEP_SUFFIXES:
        job = job_of(path.stem, worker.ask("list_solids", str(resolved(path))))
        if assembled:
            job = with_assembly(job, worker.ask("list_assembly", str(resolved(path))))
        return job
    if path.suffix.lower() in JOB_SUFFIXES:
        return read_job(path)
    if path.suffix.lower() == ".dxf":
        reading = read_sheet(path, worker)
        if reading.verdict != "unique":
            raise BadInput(
                tr(
                    "{name}: {reading}; see “holoptic read”",
                    name=path.name,
                    reading=describe(reading),
                )
            )
        return job_of(path.stem, [reading.answers[0].taken])
    raise BadInput(tr("{name}: a source ends in .holoptic, .step, .stp or .dxf", name=path.name))


def cover_of(job: Job, worker: Worker, patience: float = PATIENCE_S) -> Picture | None:
    """Return the picture by which a job is shown; None where it has none. Raises as `present`."""
    if job.cover is None:
        return None
    shown: Presented = worker.ask("present", posed_figure(job, job.cover), patience=patience)
    return shown.picture


def write_with_cover(job: Job, path: Path, worker: Worker, *, replace: bool = True) -> None:
    """Save a job with the picture by which it is shown. Raises BadInput as `write_job` does."""
    picture = None
    with contextlib.suppress(HolopticError):  # what has no picture is saved without
        picture = cover_of(job, worker)
    lines = preview_of(picture) if picture is not None else ""
    write_job(job, path, replace=replace, preview=lines)


def open_sheet(
    path: Path, worker: Worker, wish: Wish = "auto", given: Given | None = None
) -> SheetRead:
    """Return a drawing with its views. Raises BadInput for a file without any."""
    require_readable(path)
    if path.suffix.lower() not in DRAWING_SUFFIXES:
        raise BadInput(tr("{file}: views are read from .dxf, .pdf and .svg files and from pictures "
                          "such as .png and .jpg", file=path.name))  # fmt: skip
    sheet: SheetRead = worker.ask("open_sheet", str(path.absolute()), wish, None, given)
    if sheet.picture is not None and sheet.picture.trouble:
        raise BadInput(tr("{name}: {why}", name=path.name, why=sheet.picture.trouble))
    return sheet


def read_sheet(
    path: Path, worker: Worker, wish: Wish = "auto", *, mended: bool = False,
    seconds: float = USUAL_LIMIT_S, given: Given | None = None,
) -> Reading:  # fmt: skip
    """Return what the views of a drawing mean; where nothing is wished, in the angle that agrees.
    It is given up after some `seconds`.

    Raises BadInput for a file without views.
    """
    sheet = open_sheet(path, worker, wish, given)
    reading = _read(sheet, worker, mended, seconds)
    if wish == "auto" and reading.verdict == "contradictory":
        other: Wish = "first" if sheet.arrangement.angle == "third" else "third"
        turned = _read(open_sheet(path, worker, other, given), worker, mended, seconds)
        if turned.verdict in ("unique", "several"):
            return turned
    return reading


def _read(sheet: SheetRead, worker: Worker, mended: bool, seconds: float) -> Reading:
    """Return what the views of a sheet mean; those of a picture as they are likeliest meant, or
    else as they were measured.
    """
    others = sheet.picture.others if sheet.picture is not None else ()
    ways = [arrangement.drawn_views() for arrangement in (sheet.arrangement, *others)]
    if mended:
        ways = [worker.ask("mend_views", views) for views in ways]
    asked = tuple(map(tuple, ways))
    found: ReadOneOf = worker.ask("read_one_of", asked, sheet.sketch.name, USUAL_MOST, seconds)
    return found.reading


def describe(reading: Reading) -> str:
    """Return the outcome of reading in a few words."""
    count = len(reading.answers)
    return {
        "unique": tr("the views mean one part"),
        "several": tr(
            "the views can mean {count} parts: {question}", count=count, question=reading.question
        ),
        "contradictory": _contradiction(len(reading.suspects)),
        "unfinished": "; ".join(reading.notes) or tr("the views could not be read in time"),
    }[reading.verdict]


def _contradiction(places: int) -> str:
    if not places:
        return tr("the views contradict each other: no part looks so from all sides")
    return ntr("the views contradict themselves in {count} place",
               "the views contradict themselves in {count} places", places)  # fmt: skip


def load_part(source: str, name: str | None, worker: Worker) -> tuple[Job, JobPart]:
    """Return a job and the part that a command is about. Raises BadInput."""
    job = load_job(Path(source), worker)
    if not job.parts:
        raise BadInput(tr("{name} holds no part yet", name=Path(source).name))
    return job, _part_named(job, name)


def load_arrangement(source: str, name: str | None, worker: Worker) -> tuple[Job, Arrangement]:
    """Return a job and the arrangement that a command is about. Raises BadInput."""
    job = load_job(Path(source), worker, assembled=True)
    if not job.arrangements:
        raise BadInput(tr("{name} holds no arrangement", name=Path(source).name))
    if name is None:
        return job, job.arrangements[0]
    for arrangement in job.arrangements:
        if arrangement.name == name:
            return job, arrangement
    known = ", ".join(arrangement.name for arrangement in job.arrangements)
    raise BadInput(tr("no arrangement is called “{name}” (known: {known})", name=name, known=known))


def _part_named(job: Job, name: str | None) -> JobPart:
    if name is None:
        return job.parts[0]
    try:
        return job.find(name)
    except KeyError as error:
        known = ", ".join(part.source.name for part in job.parts)
        raise BadInput(
            tr("no part is called “{name}” (known: {known})", name=name, known=known)
        ) from error


def load_figure(
    source: str, part: str | None, figure: str | None, worker: Worker
) -> tuple[Job, Figure]:
    """Return a job and the figure that a command is about: by its id, or the main one of a part.

    Raises BadInput.
    """
    job, owner = load_part(source, part, worker)
    if figure is None:
        return job, job.main_figure(owner.id)
    try:
        found = job.figure(figure)
    except KeyError as error:
        raise BadInput(
            tr("no figure is called “{figure}” (known: {job})", figure=figure, job=_known(job))
        ) from error
    if part is not None and found.subject != owner.id:
        shown = job.title_of(found.subject)
        raise BadInput(
            tr(
                "figure “{figure}” shows “{shown}”, not “{part}”",
                figure=figure,
                shown=shown,
                part=part,
            )
        )
    return job, found


def _known(job: Job) -> str:
    return ", ".join(
        f"{figure.id} {figure.title} of {job.title_of(figure.subject)}" for figure in job.figures
    )
