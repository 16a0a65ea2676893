"""The picture that a job file carries of its first figure, for whoever shows files.

File managers want a picture within a second, and the geometry kernel takes longer than that to
start. So a desk that saves a job lays the lines it has on screen beside it: places on a grid, told
to be those of this very job by a digest of all else in the file. What was changed by another hand
since has no picture rather than a wrong one.

The module serves a command that must answer quickly, so it imports little.
"""

from __future__ import annotations

import hashlib
import io
import json
import re
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from holoptic.bounded import read_bounded
from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.quoting import name_of

if TYPE_CHECKING:
    from holoptic.curves.vectors import Vec2
    from holoptic.pictorial import Picture

KEY = "preview"
GRID = 1600
"""The larger side of the figure in steps of the grid."""
LARGEST_SIZE = 1024
"""Of a picture, dots a side."""
_LONGEST = 120_000
"""Characters of all lines: a large assembly is shown with the lines that come first."""
_LARGEST_BYTES = 8_000_000
_MARGIN = 0.09
_PAPER, _EDGE, _INK = "#fdfcf7", "#c9c5b8", "#1b1d22"
_LINES = re.compile(r"(?:\d{1,4} \d{1,4}(?: \d{1,4} \d{1,4})+(?:;|$))+")

Line = Sequence["Vec2"]


def preview_of(picture: Picture) -> str:
    """Return the visible lines of a picture: `x y x y …;…` in steps of the grid, Y up; empty where
    there are none.
    """
    # imported late: who shows a preview needs none of it
    import numpy as np  # noqa: PLC0415
    import shapely  # noqa: PLC0415

    lines = lines_of(picture)
    if not lines:
        return ""
    places = np.concatenate([np.asarray(line, dtype=float) for line in lines])
    low = places.min(axis=0)
    step = (places.max(axis=0) - low).max() / GRID or 1.0
    # all at once: saving waits for this
    numbers = np.repeat(np.arange(len(lines)), [len(line) for line in lines])
    plain = shapely.simplify(shapely.linestrings((places - low) / step, indices=numbers), 0.7)
    found, of = shapely.get_coordinates(plain, return_index=True)
    # rounded twice: a middle between two steps must fall the same way on every machine
    whole = np.rint(np.round(found, 6)).astype(int)
    told, length = [], 0
    for line in np.split(whole, np.flatnonzero(np.diff(of)) + 1):
        words = " ".join(map(str, line.ravel().tolist()))
        length += len(words) + 1
        if length > _LONGEST:
            break
        told.append(words)
    return ";".join(told)


def lines_of(picture: Picture) -> list[Line]:
    """Return the visible lines of a picture, mm."""
    return [stroke.path for stroke in picture.visible if len(stroke.path) > 1]


def with_preview(content: dict[str, Any], lines: str) -> dict[str, Any]:
    """Return the content of a job file with its picture beside it."""
    return {**content, KEY: {"of": digest(content), "lines": lines}} if lines else content


def digest(content: dict[str, Any]) -> str:
    """Return what tells the content of a job file from any other, however it is laid out."""
    rest = {key: value for key, value in content.items() if key != KEY}
    text = json.dumps(rest, sort_keys=True, separators=(",", ":"))
    return hashlib.sha256(text.encode("utf-8", "surrogatepass")).hexdigest()[:32]


def preview_in(path: Path) -> list[list[tuple[int, int]]] | None:
    """Return the lines that a job file carries of itself, in steps of the grid; None without.

    Raises BadInput for what is no job file.
    """
    lines = preview_kept(path)
    if not lines:
        return None
    found = []
    for words in lines.rstrip(";").split(";"):
        values = [min(int(word), GRID) for word in words.split()]
        found.append(list(zip(values[::2], values[1::2], strict=True)))
    return found


def preview_kept(path: Path) -> str:
    """Return the lines that a job file carries of itself as `preview_of` told them; empty without.

    Raises BadInput for what is no job file.
    """
    data = read_bounded(path, _LARGEST_BYTES)
    try:
        content = json.loads(data.decode("utf-8"))
    except (ValueError, RecursionError) as error:
        raise BadInput(tr("{name}: not a job file, or cut off (it is no whole JSON)",
                          name=name_of(path))) from error  # fmt: skip
    told = content.get(KEY) if isinstance(content, dict) else None
    if not isinstance(told, dict) or told.get("of") != digest(content):
        return ""
    lines = told.get("lines")
    if not isinstance(lines, str) or len(lines) > _LONGEST or not _LINES.fullmatch(lines):
        return ""
    return lines


def preview_png(lines: Sequence[Line], size: int) -> bytes:
    """Return lines on paper as a PNG of so many dots a side; Y up, in any unit.

    Raises BadInput for a size that is none.
    """
    from PIL import Image, ImageDraw  # noqa: PLC0415

    if not 16 <= size <= LARGEST_SIZE:
        raise BadInput(tr("--size {size}: choose between 16 and {most}", size=size,
                          most=LARGEST_SIZE))  # fmt: skip
    finer = 4 if size <= LARGEST_SIZE // 2 else 2
    dots = size * finer
    image = Image.new("RGB", (dots, dots), _PAPER)
    draw = ImageDraw.Draw(image)
    draw.rectangle((0, 0, dots - 1, dots - 1), outline=_EDGE, width=finer)
    left, low, width, height = _box(lines)
    room = dots * (1 - 2 * _MARGIN)
    scale = room / (max(width, height) or 1.0)
    across, down = (dots - width * scale) / 2, (dots + height * scale) / 2
    thick = max(finer, round(dots / 190))
    for line in lines:
        places = [(across + (x - left) * scale, down - (y - low) * scale) for x, y in line]
        draw.line(places, fill=_INK, width=thick, joint="curve")
    made = io.BytesIO()
    image.resize((size, size), Image.Resampling.LANCZOS).save(made, "PNG")
    return made.getvalue()


def _box(lines: Sequence[Line]) -> tuple[float, float, float, float]:
    """Return left, low, width and height of lines."""
    across = [x for line in lines for x, _ in line]
    up = [y for line in lines for _, y in line]
    return min(across), min(up), max(across) - min(across), max(up) - min(up)
