"""Writing what the desk shows to files."""

from __future__ import annotations

from pathlib import Path

from holoptic.desk.session.session import Session
from holoptic.errors import BadInput
from holoptic.exchange.outputs import drawing_makers, write_by_suffix
from holoptic.exchange.pictorial_json import pictorial_json
from holoptic.exchange.plan_files import plan_makers
from holoptic.sheet import picture_sheet, views_sheet
from holoptic.sheet.underlay import underlay

UNDERLAY_PITCH_MM = 5.0


def export(session: Session, what: str, path: Path) -> None:
    """Write the picture, the views, the plan, the sheet or an underlay.

    Raises BadInput with one clear line.
    """
    part, picture, laid, made = session.job_part, session.picture, session.laid, session.planned
    if part is None or picture is None or laid is None:
        raise BadInput("there is no picture yet")
    if not session.picture_is_current:
        raise BadInput("the part as it stands has no picture; undo or mend it first")
    if session.troubles:
        reason = next(iter(session.troubles.values()))
        raise BadInput(f"{reason}; mend it, or switch it off (Alt+O)")
    if laid.layout is None:
        raise BadInput(str(laid.misfit))
    if what == "sheet":
        makers = drawing_makers(lambda: laid.pages[0])
    elif what == "underlay":
        ground = underlay(laid.layout.paper, part.choice.kind, UNDERLAY_PITCH_MM)
        makers = drawing_makers(lambda: ground)
    elif made is None:
        raise BadInput("the plan is still being worked out")
    elif what == "plan":
        makers = plan_makers(
            made.plan, picture, part.source, made.paper, made.drafted, session.job.unit
        )
    elif what == "views":
        makers = drawing_makers(
            lambda: views_sheet(session.placed, session.title, session.angle).drawing
        )
    else:
        choice = part.choice
        makers = drawing_makers(lambda: picture_sheet(picture, session.title, choice).drawing)
        makers[".json"] = lambda: pictorial_json(picture, part.source).encode("utf-8")
    write_by_suffix(path, makers)
