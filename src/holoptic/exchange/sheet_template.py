"""Sheet templates (`.sheet.json`): what is asked of a sheet and what its title block says, as JSON.

A template says nothing of parts: paper, scale, rooms, habits of dimensions, entries of the title
block. What it does not say stays as the sheet has it.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import replace
from functools import cache
from pathlib import Path
from typing import TypeVar

from pydantic import TypeAdapter, ValidationError

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.job import Sheet, SheetWish, TitleEntries
from holoptic.sheet.planning import require_sound

FORMAT = "holoptic-sheet"
VERSION = 1
_LARGEST_BYTES = 1024 * 1024
_Said = TypeVar("_Said", SheetWish, TitleEntries)


@cache
def _adapters() -> tuple[TypeAdapter[SheetWish], TypeAdapter[TitleEntries]]:
    return TypeAdapter(SheetWish), TypeAdapter(TitleEntries)


def with_template(sheet: Sheet, path: Path) -> Sheet:
    """Return a sheet with what a template says laid over it. Raises BadInput in one line."""
    try:
        if path.stat().st_size > _LARGEST_BYTES:
            raise BadInput(tr("{name} is too large for a sheet template", name=path.name))
        content = json.loads(path.read_bytes().decode("utf-8"))
    except OSError as error:
        why = error.strerror or str(error)
        raise BadInput(tr("{name} cannot be read: {why}", name=path.name, why=why)) from error
    except (UnicodeDecodeError, ValueError, RecursionError) as error:
        raise BadInput(
            tr("{name} is no sheet template (it is no whole JSON)", name=path.name)
        ) from error
    if not isinstance(content, dict) or content.get("format") != FORMAT:
        raise BadInput(tr("{name} is no sheet template", name=path.name))
    if content.get("version") != VERSION:
        raise BadInput(tr("{name} is a sheet template of another version", name=path.name))
    for_wish, for_title = _adapters()
    wish = _laid_over(for_wish, sheet.wish, content.get("wish", {}), path)
    require_sound(wish)
    title = _laid_over(for_title, sheet.title, content.get("title", {}), path)
    return replace(sheet, wish=wish, title=title)


def _laid_over(adapter: TypeAdapter[_Said], known: _Said, said: object, path: Path) -> _Said:
    """Return what is known with what a template says laid over it."""
    if not isinstance(said, Mapping):
        raise BadInput(tr("{name} is no sheet template", name=path.name))
    own = adapter.dump_python(known, mode="json")
    try:
        return adapter.validate_json(json.dumps({**own, **said}), strict=True)
    except ValidationError as error:
        first = error.errors()[0]
        place = " › ".join(str(step) for step in first["loc"])
        raise BadInput(
            tr("{name}: {place}: {first}", name=path.name, place=place, first=first["msg"])
        ) from error


def save_template(path: Path, wish: SheetWish, title: TitleEntries) -> None:
    """Write a template; entries of the title block that say nothing are left out.

    Raises BadInput.
    """
    for_wish, for_title = _adapters()
    asked = for_wish.dump_python(wish, mode="json", exclude={"company"})
    said = for_title.dump_python(title, mode="json", exclude_none=True)
    content = {"format": FORMAT, "version": VERSION, "wish": asked, "title": said}
    write_atomically(path, (json.dumps(content, indent=1, ensure_ascii=False) + "\n").encode())
