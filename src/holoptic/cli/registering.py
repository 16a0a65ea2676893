"""The command about the register, and what other commands note in it."""

from __future__ import annotations

import argparse
import sys
from datetime import datetime
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.checking.report import CheckReport
from holoptic.cli.asked import Asked
from holoptic.errors import BadInput
from holoptic.register.book import Register
from holoptic.register.entries import Subject, check_kept
from holoptic.register.sources import uid_of_picture
from holoptic.register.tables import practice_csv, register_csv, register_lines


def register(options: argparse.Namespace) -> int:
    """Print the register: a line for each drawing, or CSV. Raises BadInput."""
    book = Register()
    if options.practice:
        sys.stdout.write(practice_csv(book.practised()))
        _tell_unreadable(book.unreadable)
        return 0
    drawings = book.drawings()
    unreadable = book.unreadable
    checks = book.checks()
    unreadable += book.unreadable
    if options.csv:
        sys.stdout.write(register_csv(drawings, checks))
    else:
        print("\n".join(register_lines(drawings, checks)))
    _tell_unreadable(unreadable)
    return 0


def _tell_unreadable(count: int) -> None:
    """Raise BadInput where entries could not be read; all others were told."""
    if count:
        raise BadInput(tr("{count} entries of the record cannot be read and are left out",
                          count=count))  # fmt: skip


def keep_check(asked: Asked, scan: Path, report: CheckReport) -> None:
    """Note a check in the register. Raises BadInput."""
    job, figure = asked.job, asked.figure
    # a command line may have laid other wishes over the figure, so it has no plan of the desk's
    subject = Subject(job.id, job.name, figure.id, job.title_of(figure.subject), "")
    uid = uid_of_picture(scan, subject)
    Register().note_check(
        check_kept(uid, subject, datetime.now().astimezone(), "picture", report, job.unit)
    )
