"""What a new job, a new part and its sheet begin with: as the user is used to, by the settings."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

from holoptic.catalogue import tr
from holoptic.desk.look.preferences import drawn_by, preference
from holoptic.job import Figure, Job, LineSchool
from holoptic.part.whole import PartSource
from holoptic.units import Unit

UNNAMED = tr("untitled")


def empty_job() -> Job:
    """Return a job with nothing in it, dated today."""
    job = Job(UNNAMED, unit=Unit(preference("new_unit")), angle=preference("new_angle"),
              views=preference("new_views"))  # fmt: skip
    title = replace(job.title, date=date.today().isoformat(), drawn_by=drawn_by())
    return replace(job, title=title)


def with_new_part(job: Job, part: PartSource) -> Job:
    """Return a job with one more part, seen and laid out as the user is used to."""
    lines = LineSchool(hidden=preference("new_hidden"), outline=preference("new_outline"))
    made = job.with_added(part, Figure("", "", lines=lines))
    sheet = made.sheets[-1]
    wish = replace(
        sheet.wish,
        series=preference("new_series"),
        frame=preference("new_frame"),
        dimensions=preference("new_dimensions"),
        style=preference("new_style"),
    )
    return made.with_sheet(replace(sheet, wish=wish))
