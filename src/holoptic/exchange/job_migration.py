"""Job files of earlier versions, brought to the present one before they are read.

Up to version 4 a part had one picture (`choice`), with its sheet; what stood beside it on the
sheet was a list of kinds (`company`). Version 5 has figures on sheets, and ids.
Nothing is checked here: what is unsound stays so, and is refused where the file is read.
"""

from __future__ import annotations

from typing import Any

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.job import VIEW_LINES, VIEWS

_IN_TITLE = ("date", "drawn_by")
_LINES = ("hidden", "outline", "centre_lines")
_VIEW = ("kind", "corner")


def migrated(content: dict[str, Any], version: int) -> dict[str, Any]:
    """Return the content of a job file as version 5 has it. Raises BadInput where it has no form.

    Versions 1 to 3 lack what has defaults, and are read like version 4.
    """
    return content if version >= 5 else _with_figures(content)


def _with_figures(content: dict[str, Any]) -> dict[str, Any]:
    made = {key: value for key, value in content.items() if key not in _IN_TITLE}
    parts = content.get("parts", [])
    if not isinstance(parts, list) or not all(isinstance(part, dict) for part in parts):
        raise BadInput(tr("not a sound job file: parts: it should be a list of parts"))
    made["title"] = {key: content[key] for key in _IN_TITLE if content.get(key)}
    made["parts"] = [
        {"id": f"p{number}", **_without(part, "choice")} for number, part in enumerate(parts, 1)
    ]
    count = len(parts)
    made["sheets"] = []
    for number, part in enumerate(parts, 1):
        sheet, count = _sheet(number, part.get("choice", {}), count)
        made["sheets"].append(sheet)
    return made


def _sheet(number: int, choice: object, count: int) -> tuple[dict[str, Any], int]:
    """Return the sheet of a part, with the number of figures so far.

    The drawings keep the order in which version 4 set them out, as a sheet may be half drawn.
    """
    wish = choice.get("sheet", {}) if isinstance(choice, dict) else None
    company = wish.get("company", []) if isinstance(wish, dict) else None
    if not isinstance(choice, dict) or not isinstance(wish, dict) \
            or not isinstance(company, list):  # fmt: skip
        raise BadInput(
            tr(
                "not a sound job file: parts › {number} › choice has no sound form",
                number=number - 1,
            )
        )
    own = _figure(f"f{number}", f"p{number}", choice)
    figures = [(str(choice.get("kind", "isometric")), own)]
    for name in dict.fromkeys(str(name) for name in company):
        if name != figures[0][0]:
            count += 1
            figures.append((name, _beside(own, f"f{count}", name)))
    figures.sort(key=lambda item: (item[0] != VIEWS, item[0]))
    sheet = {
        "id": f"s{number}",
        "figures": [figure for _, figure in figures],
        "wish": _without(wish, "company"),
    }
    return sheet, count


def _figure(figure_id: str, subject: str, choice: dict[str, Any]) -> dict[str, Any]:
    """Return the picture of a part as a figure; what it never had stays in it, to be refused."""
    view = {key: choice[key] for key in _VIEW if key in choice}
    lines = {key: choice[key] for key in _LINES if key in choice}
    return {
        "id": figure_id, "subject": subject, "view": {**view, "type": "pictorial"},
        "lines": lines, **_without(choice, "sheet", *_VIEW, *_LINES),
    }  # fmt: skip


def _beside(own: dict[str, Any], figure_id: str, name: str) -> dict[str, Any]:
    """Return a drawing that stood beside a picture: another kind of it, or its views."""
    if name == VIEWS:
        return {"id": figure_id, "subject": own["subject"], "view": {"type": "orthographic"},
                "lines": {"hidden": VIEW_LINES.hidden}}  # fmt: skip
    return {**own, "id": figure_id, "view": {**own["view"], "kind": name}}


def _without(content: dict[str, Any], *keys: str) -> dict[str, Any]:
    return {key: value for key, value in content.items() if key not in keys}
