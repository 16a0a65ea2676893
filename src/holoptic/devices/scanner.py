"""What lies on a scanner's glass, and how the lines of a scanner are read.

Protocol: text lines of UTF-8 that a scanner's program prints, each ended by a newline.

    progress:  P <percent>     how far it is, such as `P 40`
    picture:   I <path>        the page is taken; the file is a picture of it (PNG, JPEG, TIFF, PDF)
    trouble:   E <words>       it could not be taken, and why

The stand-in that ships with Holoptic (`holoptic.devices.scanner_stand`) is such a program; any
other one that prints these lines can be named by HOLOPTIC_SCANNER.
"""

from __future__ import annotations

import json
import re
from dataclasses import asdict, dataclass, fields
from pathlib import Path
from typing import Any, Literal

from holoptic.catalogue import tr
from holoptic.errors import BadInput

LONGEST_LINE = 5000
FEWEST_DPI, MOST_DPI = 72, 600
_PROGRESS = re.compile(r"P (\d{1,3})")
_SLIP = re.compile(r"(\d{1,6}):([+-]?\d{1,5}(?:\.\d{1,4})?)")
_MOST_BYTES = 100_000


@dataclass(frozen=True)
class Glass:
    """What lies on the stand-in's glass: the sheet of a figure of a job, and how it was drawn.

    `slips` are (number of a move, by how much its setting is off: mm, of an angle degrees), `hand`
    the spreads of a setting (mm), an angle (degrees) and the compass (mm), `until` the number of
    the last move that was done. Where `shows` is "views", the printed views of the figure's part
    lie there instead, with their dimensions, and nothing of how a sheet is drawn counts.
    """

    job: str
    figure: str
    slips: tuple[tuple[int, float], ...] = ()
    left_out: tuple[str, ...] = ()
    is_rubbed_out: bool = False
    is_photo: bool = False
    dpi: int = 300
    seed: int = 0
    until: int | None = None
    hand: tuple[float, float, float] | None = None
    shows: Literal["drawing", "views"] = "drawing"


@dataclass(frozen=True)
class ScannerLine:
    """A line of a scanner: its sort and what it says."""

    sort: Literal["progress", "picture", "trouble"]
    words: str


def read_line(line: str) -> ScannerLine | None:
    """Return what a line of a scanner says, None for an empty one.

    Raises BadInput for one that is not of the protocol.
    """
    text = line.strip()
    if not text:
        return None
    if len(text) > LONGEST_LINE:
        raise BadInput(tr("the scanner sends lines that are too long"))
    progress = _PROGRESS.fullmatch(text)
    if progress is not None and int(progress[1]) <= 100:
        return ScannerLine("progress", progress[1])
    if text.startswith("I ") and text[2:].strip():
        return ScannerLine("picture", text[2:].strip())
    if text.startswith("E ") and text[2:].strip():
        return ScannerLine("trouble", text[2:].strip())
    raise BadInput(tr("the scanner sent “{text_}”, which says nothing", text_=text[:24]))


def read_slip(text: str) -> tuple[int, float]:
    """Return a slip as it is written, such as 47:-0.9. Raises BadInput."""
    match = _SLIP.fullmatch(text.strip())
    if match is None:
        raise BadInput(tr("a slip is written like 47:+2.5, not “{text_}”", text_=text[:24]))
    return int(match[1]), float(match[2])


def require_dpi(dpi: int) -> int:
    """Return how many dots per inch a scan has. Raises BadInput where none has so many."""
    if not FEWEST_DPI <= dpi <= MOST_DPI:
        raise BadInput(tr("a scan has {fewest} to {most} dpi", fewest=FEWEST_DPI, most=MOST_DPI))
    return dpi


def glass_json(glass: Glass) -> str:
    """Return what lies on the glass as JSON."""
    return json.dumps(asdict(glass), ensure_ascii=False, indent=1) + "\n"


def read_glass(path: Path) -> Glass:
    """Return what lies on the glass, from a JSON file. Raises BadInput."""
    try:
        with path.open("rb") as file:
            content = json.loads(file.read(_MOST_BYTES).decode("utf-8"))
        return _glass(content)
    except BadInput:
        raise
    except (OSError, ValueError, TypeError, LookupError, RecursionError) as error:
        raise BadInput(tr("{name} does not say what lies on the glass", name=path.name)) from error


def _glass(content: dict[str, Any]) -> Glass:
    known = {field.name for field in fields(Glass)}
    if not isinstance(content, dict) or not set(content) <= known:
        raise BadInput(tr("what lies on the glass is told by other names"))
    shows = content.get("shows", "drawing")
    if shows not in ("drawing", "views"):
        raise BadInput(tr("what lies on the glass is told by other names"))
    hand, until = content.get("hand"), content.get("until")
    return Glass(
        str(content["job"]), str(content["figure"]),
        tuple((int(move), float(off)) for move, off in content.get("slips", ())),
        tuple(str(name) for name in content.get("left_out", ())),
        bool(content.get("is_rubbed_out", False)), bool(content.get("is_photo", False)),
        require_dpi(int(content.get("dpi", 300))), max(0, int(content.get("seed", 0))),
        None if until is None else int(until),
        None if hand is None else (float(hand[0]), float(hand[1]), float(hand[2])),
        shows,
    )  # fmt: skip
