"""Writing what the desk shows to files."""

from __future__ import annotations

from pathlib import Path

from holoptic.catalogue import tr
from holoptic.desk.session.session import Session
from holoptic.errors import BadInput
from holoptic.exchange.outputs import Maker, drawing_makers, write_by_suffix
from holoptic.exchange.pictorial_json import pictorial_json
from holoptic.exchange.plan_files import plan_makers
from holoptic.job import Posed
from holoptic.pictorial import Picture
from holoptic.sheet import picture_sheet, views_sheet
from holoptic.sheet.drawing import Drawing
from holoptic.sheet.underlay import underlay

UNDERLAY_PITCH_MM = 5.0


def export(session: Session, what: str, path: Path) -> None:
    """Write the picture, the views, the plan, the sheet or an underlay.

    Raises BadInput with one clear line.
    """
    write_by_suffix(path, makers_of(session, what))


def makers_of(session: Session, what: str) -> dict[str, Maker]:
    """Return the makers of the files that the picture, the views, the plan, the sheet or an
    underlay can become, by suffix.

    Raises BadInput with one clear line where there is nothing to be shown.
    """
    document, answers = session.document, session.answers
    posed, sheet, picture = document.posed, document.sheet, answers.picture
    if posed is None or sheet is None or picture is None:
        raise BadInput(tr("there is no picture yet"))
    answers.require("picture")
    if answers.troubles:
        reason = next(iter(answers.troubles.values()))
        raise BadInput(tr("{reason}; mend it, or switch it off (Alt+O)", reason=reason))
    if what == "views":
        answers.require("views")
        page = views_sheet(answers.placed, document.title, answers.angle)
        return drawing_makers(lambda: page.drawing)
    if what == "picture":
        lines, wish, scale = posed.figure.lines, sheet.wish, posed.figure.scale
        makers = drawing_makers(
            lambda: picture_sheet(picture, document.title, lines, wish, scale).drawing
        )
        makers[".json"] = lambda: pictorial_json(picture, posed.source).encode("utf-8")
        return makers
    return _makers_on_sheet(session, what, posed, picture)


def sheet_page(session: Session) -> Drawing:
    """Return the page of the sheet in hand. Raises BadInput where there is none."""
    answers = session.answers
    answers.require("sheet")
    laid = answers.laid
    if laid is None or laid.layout is None:
        raise BadInput(str(laid.misfit) if laid is not None else tr("there is no sheet yet"))
    return laid.pages[0]


def _makers_on_sheet(
    session: Session, what: str, posed: Posed, picture: Picture
) -> dict[str, Maker]:
    """Return the makers of what hangs on the sheet: itself, an underlay, the plan."""
    page = sheet_page(session)
    answers = session.answers
    laid, made = answers.laid, answers.planned
    assert laid is not None
    assert laid.layout is not None
    if what == "sheet":
        return drawing_makers(lambda: page)
    if what == "underlay":
        ground = underlay(laid.layout.paper, posed.figure.kind, UNDERLAY_PITCH_MM)
        return drawing_makers(lambda: ground)
    answers.require("plan")
    if made is None:
        raise BadInput(tr("the plan is still being worked out"))
    drawn = picture if posed.figure.is_pictorial else None
    return plan_makers(made.plan, drawn, posed.source, made.paper, made.drafted,
                       session.document.unit)  # fmt: skip
