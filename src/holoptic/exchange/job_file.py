"""The job file (`.holoptic`): UTF-8 JSON, versioned, with a published JSON Schema."""

from __future__ import annotations

import hashlib
import json
import os
from collections.abc import Iterable
from dataclasses import replace
from functools import cache
from pathlib import Path
from typing import Any
from urllib.parse import quote, unquote_to_bytes

from pydantic import TypeAdapter, ValidationError

from holoptic.bounded import read_bounded
from holoptic.catalogue import tr
from holoptic.errors import BadInput, HolopticError
from holoptic.exchange.atomic import write_atomically
from holoptic.exchange.job_bounds import require_bounds, require_few
from holoptic.exchange.job_migration import migrated
from holoptic.exchange.preview import KEY as PREVIEW
from holoptic.exchange.preview import with_preview
from holoptic.job import Job
from holoptic.part import ImportedSolid, Part
from holoptic.pictorial import view_of
from holoptic.places import resolved
from holoptic.quoting import name_of
from holoptic.sheet.planning import require_scale, require_sound

FORMAT = "holoptic-job"
VERSION = 9
"""Version 1 had no line weights, centre lines, view angle and view set, version 2 no arcs, slopes,
polygons, pyramids, balls, rings, strips and no ways to draw circles, version 3 no ways of working
and no wishes for the sheet: they had the defaults. What came to version 4 later has a default
where a file does not say it: ends and paths of strips, who draws. Version 5 has ids, figures and
sheets (`job_migration`), version 6 arrangements, and figures of them, version 7 dimensions and
shading, version 8 cuts and sections, version 9 a picture of the first figure (`preview`)."""
SUFFIX = ".holoptic"
JOB_SUFFIXES = (SUFFIX, ".json")
"""What can be opened: jobs, and solids that become the parts of a job."""
LARGEST_BYTES = 8_000_000
"""Of a job file."""
_BYTES = "bytes:"
"""Before the path of a solid's file that is not UTF-8 (RFC 3986's percent signs)."""
_MOST_FIGURES = 60
"""On a sheet: more would keep the worker busy for nothing that a reader could follow."""

_MOST_SECTIONS = 26
"""Among the views of a figure: as many as there are letters."""

_MOST_PLACED = 2000
"""In an arrangement; far above what can be read on a sheet."""


_PREVIEW_SCHEMA = {
    "description": "the visible lines of the first figure, for who shows files; may be left out",
    "type": "object",
    "properties": {
        "of": {"type": "string", "description": "a digest of all else in the file"},
        "lines": {"type": "string", "description": "x y x y …; per line, on a grid, Y up"},
    },
    "required": ["of", "lines"],
    "additionalProperties": False,
}


@cache
def _adapter() -> TypeAdapter[Job]:
    return TypeAdapter(Job)


def read_job(path: Path) -> Job:
    """Return the job in a file. Raises BadInput with one clear line."""
    data = read_bounded(path, LARGEST_BYTES)
    try:
        job = _resolve_paths(parse_job(data), path.parent)
        # a file that was never saved by a desk is told from others by what it says
        return job if job.id else replace(job, id=hashlib.sha256(data).hexdigest()[:16])
    except BadInput as error:
        raise BadInput(f"{name_of(path)}: {error}") from error


def parse_job(data: bytes) -> Job:
    """Return the job in the bytes of a job file. Raises BadInput with one clear line."""
    require_few(data)
    content = _content(data)
    version = content["version"]
    del content["format"], content["version"]
    content.pop(PREVIEW, None)  # worked out from all else, and for those who show files alone
    require_bounds(content)
    content = migrated(content, version)
    try:
        job = _adapter().validate_json(json.dumps(content), strict=True)
    except ValidationError as error:
        first = error.errors()[0]
        place = " › ".join(str(step) for step in first["loc"])
        raise BadInput(
            tr("not a sound job file: {place}: {first}", place=place, first=first["msg"])
        ) from error
    _require_sense(job)
    return _with_paths(job, _from_file)


def _content(data: bytes) -> dict[str, Any]:
    try:
        content = json.loads(data.decode("utf-8"))
    except (UnicodeDecodeError, ValueError, RecursionError) as error:
        raise BadInput(tr("not a job file, or cut off (it is no whole JSON)")) from error
    if not isinstance(content, dict) or content.get("format") != FORMAT:
        raise BadInput(tr("not a Holoptic job file"))
    version = content.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise BadInput(tr("the job file does not say its version"))
    if version > VERSION:
        raise BadInput(
            tr(
                "made by a newer Holoptic (file version {version}, this one "
                "reads up to {version2})",
                version=version,
                version2=VERSION,
            )
        )
    return content


def _require_sense(job: Job) -> None:
    _require_ids(job)
    for figure in job.figures:
        view_of(figure.kind, figure.corner)
        require_scale(figure.scale)
        if len(figure.sections) > _MOST_SECTIONS:
            raise BadInput(tr("figure {id} has too many sections", id=figure.id))
    for sheet in job.sheets:
        require_sound(sheet.wish)
    for part in job.parts:
        if isinstance(part.source, Part):
            try:
                part.source.require_honest_sums(job.unit)
            except HolopticError as error:
                raise BadInput(str(error)) from error


def _require_ids(job: Job) -> None:
    """Raise BadInput where an id stands twice or for nothing."""
    for what, ids in (("part", [part.id for part in job.parts]),
                      ("figure", [figure.id for figure in job.figures]),
                      ("sheet", [sheet.id for sheet in job.sheets])):  # fmt: skip
        _require_single(what, ids)
    subjects = [*(part.id for part in job.parts), *(made.id for made in job.arrangements)]
    _require_single(tr("part or arrangement"), subjects)
    for arrangement in job.arrangements:
        _require_single(tr("placed part"), [placed.id for placed in arrangement.placed])
        if len(arrangement.placed) > _MOST_PLACED:
            raise BadInput(
                tr(
                    "more than {most} parts are placed in “{name}”",
                    most=_MOST_PLACED,
                    name=arrangement.name,
                )
            )
    for sheet in job.sheets:
        if not sheet.figures:
            raise BadInput(tr("not a sound job file: nothing stands on sheet “{id}”", id=sheet.id))
        if len(sheet.figures) > _MOST_FIGURES:
            raise BadInput(
                tr(
                    "more than {most_figures} figures stand on sheet “{id}”",
                    most_figures=_MOST_FIGURES,
                    id=sheet.id,
                )
            )
        for figure in sheet.figures:
            if figure.subject not in subjects:
                raise BadInput(
                    tr(
                        "not a sound job file: figure “{id}” shows “{subject}”, "
                        "which is no part and no arrangement",
                        id=figure.id,
                        subject=figure.subject,
                    )
                )


def _require_single(what: str, ids: Iterable[str]) -> None:
    seen: set[str] = set()
    for item in ids:
        if not item:
            raise BadInput(tr("not a sound job file: a {what} has no id", what=what))
        if item in seen:
            raise BadInput(
                tr("not a sound job file: two {what}s have the id “{item}”", what=what, item=item)
            )
        seen.add(item)


def job_bytes(job: Job, folder: Path | None = None, preview: str = "") -> bytes:
    """Return the bytes of a job file; paths of STEP files become relative to `folder`.

    `preview` has the lines of the first figure (`preview.preview_of`), where they are known.
    """
    job = _with_paths(job, _for_file) if folder is None else _relative_paths(job, folder)
    content = {"format": FORMAT, "version": VERSION, **_adapter().dump_python(job, mode="json")}
    for sheet in content["sheets"]:
        for figure in sheet["figures"]:
            del figure["by_hand"]["outfit"]  # instruments are the drafter's, not the job's
    content = with_preview(content, preview)
    return (json.dumps(content, ensure_ascii=False, indent=1) + "\n").encode("utf-8")


def write_job(job: Job, path: Path, *, replace: bool = True, preview: str = "") -> None:
    """Save a job, with the lines of its first figure; the file before it is kept with a `~` behind
    its name.

    Raises BadInput, without `replace` also where there is a file.
    """
    data = job_bytes(job, path.parent, preview)
    write_atomically(path, data, keep_previous=True, replace=replace)


def job_schema() -> dict[str, Any]:
    """Return the JSON Schema of the job file."""
    schema = _adapter().json_schema()
    head = {
        "format": {"const": FORMAT, "description": "says what this file is"},
        "version": {"const": VERSION, "description": "grows when the format changes"},
    }
    schema["properties"] = {**head, **schema["properties"], PREVIEW: _PREVIEW_SCHEMA}
    schema["required"] = ["format", "version", *schema["required"]]
    schema["title"] = "Holoptic job file"
    del schema["$defs"]["HandWays"]["properties"]["outfit"], schema["$defs"]["Outfit"]
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema}


def _resolve_paths(job: Job, folder: Path) -> Job:
    return _with_paths(job, lambda path: str(resolved(folder / path)))


def _relative_paths(job: Job, folder: Path) -> Job:
    def relative(path: str) -> str:
        try:
            return _for_file(str(Path(path).relative_to(resolved(folder))))
        except ValueError:
            return _for_file(path)

    return _with_paths(job, relative)


def _for_file(path: str) -> str:
    """Return a path as a job file has it: one that is no text, as its bytes in the URI notation."""
    try:
        path.encode("utf-8")
    except UnicodeEncodeError:
        return _BYTES + quote(os.fsencode(path))
    return path


def _from_file(path: str) -> str:
    return os.fsdecode(unquote_to_bytes(path[len(_BYTES) :])) if path.startswith(_BYTES) else path


def _with_paths(job: Job, change: Any) -> Job:
    for part in job.parts:
        if isinstance(part.source, ImportedSolid) and part.source.path:
            job = job.with_source(part.id, replace(part.source, path=change(part.source.path)))
    return job
