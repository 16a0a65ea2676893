"""What the title block of a sheet says in the end: the sheet's entries, the job's, the part's."""

from __future__ import annotations

from dataclasses import dataclass

from holoptic.job.job import Job
from holoptic.job.sheets import OwnEntry, Revision, Sheet


@dataclass(frozen=True)
class TitleBlock:
    """What the title block says; `sheet` is its number, such as `2 of 3`.

    `own` are the company's own fields, `revisions` the rows of the table over them.
    """

    work: str
    part: str
    number: str = ""
    date: str = ""
    drawn_by: str = ""
    checked_by: str = ""
    revision: str = ""
    notes: str = ""
    sheet: str = ""
    own: tuple[OwnEntry, ...] = ()
    revisions: tuple[Revision, ...] = ()


def title_block(job: Job, sheet: Sheet) -> TitleBlock:
    """Return what the title block of a sheet of a job says.

    Work and part stand there in any case: what nobody wrote is taken from the job's name, and
    from the parts that the sheet shows.
    """
    said = sheet.title.over(job.title)
    subjects = list(dict.fromkeys(figure.subject for figure in sheet.figures))
    names = ", ".join(job.title_of(subject) for subject in subjects)
    number = job.number_given(subjects[0]) if len(subjects) == 1 else ""
    return TitleBlock(
        work=said.work or job.name,
        part=said.part or names,
        number=number if said.number is None else said.number,
        date=said.date or "",
        drawn_by=said.drawn_by or "",
        checked_by=said.checked_by or "",
        revision=said.revision or (sheet.revisions[-1].letter if sheet.revisions else ""),
        notes=said.notes or "",
        sheet=job.number_of(sheet.id),
        own=said.own or (),
        revisions=sheet.revisions,
    )
