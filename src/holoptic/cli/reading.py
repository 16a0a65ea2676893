"""The commands about views: reading them into a part, and comparing them with one."""

from __future__ import annotations

import argparse
import contextlib
import math
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from holoptic.catalogue import ntr, tr
from holoptic.cli.sources import (
    describe,
    load_part,
    open_sheet,
    patient_worker,
    read_sheet,
    write_with_cover,
)
from holoptic.cli.targets import require_free
from holoptic.errors import BadInput, HolopticError
from holoptic.exchange.job_file import JOB_SUFFIXES
from holoptic.exchange.outputs import require_suffix
from holoptic.exchange.step_file import save_step
from holoptic.foreign import STEP_SUFFIXES
from holoptic.job import job_of, pose
from holoptic.paper.given import Given, Sizes, TrueLevels
from holoptic.paper.offers import Written, offered_by
from holoptic.part import Part
from holoptic.part.crate import AXIS_NAMES
from holoptic.part.whole import PartSource
from holoptic.reading.compare import compare as compare_views
from holoptic.reading.compare import paths_in_view
from holoptic.reading.lines import DrawnView
from holoptic.reading.result import Correction, Difference, Reading
from holoptic.tolerance import COINCIDENT_MM
from holoptic.units import evaluate
from holoptic.units.spoken import said
from holoptic.worker.client import Worker
from holoptic.worker.messages import PictureRead

_LARGEST_MM = 100_000
_EXITS = {"unique": 0, "several": 3, "contradictory": 4, "unfinished": 4}


def read(options: argparse.Namespace) -> int:
    """Read the views of a drawing into a part; say what was found."""
    source, out = Path(options.views), Path(options.out)
    given = _given(options)
    require_suffix(out, (*JOB_SUFFIXES, *STEP_SUFFIXES))
    with patient_worker() as worker:
        sheet = open_sheet(source, worker, options.arrangement, given)
        if options.levels is not None:
            given = with_levels(given, sheet.picture, options.levels)
            sheet = open_sheet(source, worker, options.arrangement, given)
        if sheet.picture is not None:
            _tell_picture(sheet.picture)
            if options.size is None and not options.sketch:
                with contextlib.suppress(HolopticError):  # the views are read all the same
                    _tell_written(sheet.picture, worker.ask("read_figures", str(source), given))
        for check in sheet.checks:
            print(f"{check.view or tr('sheet')}: {said(check.words)}{_place(check.path)}")
        for remark in sheet.arrangement.remarks:
            print(tr("sheet: {what}", what=remark))
        if sheet.picture is not None and sheet.picture.asked:
            _tell_asked(sheet.picture)
            return _EXITS["unfinished"]
        reading = read_sheet(source, worker, options.arrangement, mended=options.mend,
                             seconds=options.seconds, given=given)  # fmt: skip
        print(f"{source.name}: {describe(reading)}")
        for suspect in (*reading.suspects, *reading.conflict):
            print(f"{suspect.view}: {suspect.words}{_place(suspect.path)}")
        for note in reading.notes:
            print(note)
        if options.correct and reading.verdict == "contradictory":
            reading = _corrected(reading, source.stem, worker)
        _write(reading, out, options, worker)
    return _EXITS[reading.verdict]


def _corrected(reading: Reading, name: str, worker: Worker) -> Reading:
    """Return what contradictory views mean with one line drawn otherwise, and say which; where
    there is none, the reading as it is.
    """
    found: tuple[Correction, ...] = worker.ask("correct", reading.views, name)
    for correction in found:
        print(tr("{words}: then it reads", words=said(correction.words)))
    if not found:
        print(tr("no single line was found with which it reads"))
        return reading
    return found[0].reading


def _given(options: argparse.Namespace) -> Given:
    """Return what the options say of a sheet on paper. Raises BadInput."""
    sizes: Sizes = (None, None, None)
    if options.size is not None:
        words = options.size.split(",")
        try:
            length, depth, height = (evaluate(word) if word.strip() else None for word in words)
        except ValueError as error:
            raise BadInput(tr("--size: length, depth and height in mm, such as 84,46,37.5; one "
                              "that is not known stays empty")) from error  # fmt: skip
        sizes = length, depth, height
        if any(size is not None and not 0 < size < _LARGEST_MM for size in sizes):
            raise BadInput(tr("--size: each is above zero and below {most} mm", most=_LARGEST_MM))
    given = Given(options.page, options.paper, sizes=sizes, is_sketch=options.sketch)
    given.inner()  # says so where there is no such paper
    return given


def with_levels(given: Given, picture: PictureRead | None, words: str) -> Given:
    """Return what is given with the true places of levels, in order, one that is not known left
    empty. Raises BadInput where there are not as many as levels were found.
    """
    if picture is None or not picture.levels:
        raise BadInput(tr("--levels: no levels were measured, as it is no picture of views"))
    lists = words.split(";")
    if len(lists) != len(AXIS_NAMES):
        raise BadInput(tr("--levels: three lists, such as 12.5,84;46;9,37.5; one that is not known "
                          "stays empty"))  # fmt: skip
    found = [
        _true_levels(one, levels.measured[1:], axis)
        for one, levels, axis in zip(lists, picture.levels, AXIS_NAMES, strict=True)
    ]
    return replace(given, levels=(found[0], found[1], found[2]))


def _true_levels(words: str, measured: Sequence[float], axis: str) -> TrueLevels:
    if not words.strip():
        return ()
    figures = words.split(",")
    if len(figures) != len(measured):
        raise BadInput(tr("--levels: along the {axis_names} {count} places were found after the "
                          "first, not {given}", axis_names=axis, count=len(measured),
                          given=len(figures)))  # fmt: skip
    try:
        return tuple((at, evaluate(one)) for at, one in zip(measured, figures, strict=True)
                     if one.strip())  # fmt: skip
    except ValueError as error:
        raise BadInput(tr("--levels: {error}", error=error)) from error


def _tell_asked(picture: PictureRead) -> None:
    """Say which places no figure tells: nothing of a sketch is guessed."""
    for axis, name in enumerate(AXIS_NAMES):
        own = [at for k, at in picture.asked if k == axis]
        if own:
            numbers = ", ".join(str(picture.levels[axis].measured.index(at)) for at in own)
            print(tr("not told along the {axis_names}: places {numbers} of {count} after the first",
                     axis_names=name, numbers=numbers,
                     count=len(picture.levels[axis].measured) - 1))  # fmt: skip
    print(tr("not read: --size and --levels tell where these lie"))


def _tell_picture(picture: PictureRead) -> None:
    """Say how the picture was taken, and where levels were found."""
    if not picture.has_border and not picture.is_sketch:
        print(tr("sheet: no border was found; the picture is taken for the whole paper"))
    for axis, levels in zip(AXIS_NAMES, picture.levels, strict=True):
        places = ", ".join(f"{place:.2f}" for place in levels.placed)
        print(tr("levels along the {axis_names}: {places}", axis_names=axis, places=places))


def _tell_written(picture: PictureRead, written: Written) -> None:
    """Say which sizes seem to be written on the sheet; a machine reads them, so none is taken."""
    if written.trouble:
        print(tr("sheet: {what}", what=written.trouble))
    offered = offered_by(written.sizes, picture.names, picture.boxes, picture.levels)
    if any(offered.sizes):
        sizes = ",".join("" if size is None else f"{size:g}" for size in offered.sizes)
        print(tr("written on the sheet, it seems: length, depth, height {sizes}; --size {sizes} "
                 "takes them", sizes=sizes))  # fmt: skip


def _write(reading: Reading, out: Path, options: argparse.Namespace, worker: Worker) -> None:
    """Write the answers; of a contradiction the nearest part, so that it can be looked at."""
    answers = reading.answers if options.all else reading.answers[:1]
    numbered = [out.with_stem(f"{out.stem}-{number}") for number in range(1, len(answers) + 1)]
    paths = numbered if len(answers) > 1 else [out]
    for path in paths:  # all or none
        require_free(path, options.force)
    for path, answer in zip(paths, answers, strict=False):
        if path.suffix.lower() in STEP_SUFFIXES:
            posed = pose(answer.taken)
            save_step(
                path,
                lambda made, posed=posed: worker.ask("save_step", posed, made),  # type: ignore[misc]
                replace=options.force,
            )
        else:
            job = job_of(out.stem, [answer.taken])
            write_with_cover(job, path, worker, replace=options.force)
        print(f"{path.name}: {_features(answer.taken)}")


def _features(part: PartSource) -> str:
    if not isinstance(part, Part):
        return tr("a solid by its faces")
    return ", ".join(operation.name for operation in part.operations) or tr("a plain block")


def compare(options: argparse.Namespace) -> int:
    """List the lines that the views of a file lack or have too many, against a part."""
    source = Path(options.views)
    with patient_worker() as worker:
        _, part = load_part(options.source, options.part, worker)
        sheet = open_sheet(source, worker, options.arrangement)
        given = sheet.arrangement.drawn_views()
        found = compare_views(given, worker.ask("derive_views", part.source))
    by_name = {view.name: view for view in given}
    for difference in found:
        print(_line(difference, by_name[difference.view]))
    views = ", ".join(by_name)
    print(_summary(len(found), views))
    return 4 if found else 0


def _summary(count: int, views: str) -> str:
    if not count:
        return tr("{views}: every line agrees", views=views)
    return ntr("{count} difference in {views}", "{count} differences in {views}", count,
               views=views)  # fmt: skip


def _line(difference: Difference, given: DrawnView) -> str:
    kind = {"status": tr("visible and hidden exchanged")}.get(difference.kind, difference.kind)
    path = paths_in_view(difference, given)
    return (
        f"{difference.view}: {kind}, {difference.status}, {difference.length:.2f} mm{_place(path)}"
    )


def _place(path: tuple[tuple[float, float], ...]) -> str:
    if not path:
        return ""
    (a, b), (c, d) = path[0], path[-1]
    start = f" at ({a:.2f}, {b:.2f})"
    return start if math.dist((a, b), (c, d)) < COINCIDENT_MM else f"{start} to ({c:.2f}, {d:.2f})"
