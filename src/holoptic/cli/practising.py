"""The command about practice: exercises as worksheets, or as data."""

from __future__ import annotations

import argparse
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.cli.sources import patient_worker
from holoptic.errors import BadInput
from holoptic.exchange.outputs import write_by_suffix
from holoptic.exchange.pdf import pdf_pages
from holoptic.exchange.practice_files import practice_json
from holoptic.practice.exercise import Exercise
from holoptic.practice.skills import checked_level, skills_of
from holoptic.practice.worksheet import worksheet
from holoptic.sheet.papers import paper_named

_MOST = 100


def practice(options: argparse.Namespace) -> int:
    """Write exercises of some skills in turn and a level, one seed after the other."""
    skills = skills_of(options.skill)
    level = checked_level(options.level)
    if not 1 <= options.count <= _MOST:
        raise BadInput(tr("--count {count}: choose between 1 and {most}", count=options.count,
                          most=_MOST))  # fmt: skip
    paper = paper_named(options.paper).turned(upright=True)
    with patient_worker() as worker:
        exercises: tuple[Exercise, ...] = worker.ask(
            "make_exercises", skills, level, options.count, options.seed
        )
    write_by_suffix(
        Path(options.out),
        {".pdf": lambda: pdf_pages(worksheet(exercises, paper)),
         ".json": lambda: practice_json(exercises).encode()},
        replace=options.force,
    )  # fmt: skip
    return 0
