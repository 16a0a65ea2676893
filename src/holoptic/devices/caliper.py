"""A caliper stand-in on a pseudo-terminal, and how its lines are read.

Protocol: text lines of ASCII, each ended by a newline, at most 60 characters.

    reading:  R <figure> <unit>      such as `R 26.48 mm` or `R 1.0425 in`, one for each press of
                                     the caliper's button
    zeroing:  Z                      the caliper was set to zero; nothing is to be filled in
    battery:  B <percent>            how full it is, such as `B 80`

Run the stand-in with a playback file, one line of the protocol a line, `#` begins a remark and
`wait 1.5` a pause in seconds:

    python -m holoptic.devices.caliper readings.txt

It prints the path of its pseudo-terminal and plays the file once somebody has opened that.
"""

from __future__ import annotations

import os
import re
import sys
import time
import tty
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.units.formats import MM_PER_INCH

SET_TO_ZERO = "Z"
"""What a caliper sends when it was set to zero."""
LONGEST_LINE = 60
LARGEST_MM = 2000.0
"""No caliper opens wider; a larger reading is a fault of the line."""

_READING = re.compile(r"R (?P<figure>-?\d{1,6}(?:\.\d{1,6})?) (?P<unit>mm|in)")
_BATTERY = re.compile(r"B (?P<percent>\d{1,3})")


@dataclass(frozen=True)
class CaliperReading:
    """A measured length: the figure as the caliper shows it, its unit, and mm."""

    figure: str
    unit: Literal["mm", "in"]
    mm: float

    @property
    def words(self) -> str:
        """What is filled into a field."""
        return f"{self.figure} {self.unit}"


def read_line(line: str) -> CaliperReading | None:
    """Return the reading in a line, None for a line that measures nothing.

    Raises BadInput for a line that is not of the protocol, and for a length that cannot be.
    """
    text = line.strip()
    if len(line) > LONGEST_LINE:
        raise BadInput(tr("the caliper sends lines that are too long"))
    if text in ("", SET_TO_ZERO) or _BATTERY.fullmatch(text):
        return None
    match = _READING.fullmatch(text)
    if match is None:
        raise BadInput(tr("the caliper sent “{text_}”, which is no reading", text_=text[:24]))
    figure = float(match["figure"])
    mm = figure if match["unit"] == "mm" else figure * MM_PER_INCH
    if mm <= 0:
        raise BadInput(tr("the caliper reads {match}: is it set to zero?", match=match["figure"]))
    if mm > LARGEST_MM:
        raise BadInput(
            tr(
                "the caliper reads {match} {match2}: no caliper is so long",
                match=match["figure"],
                match2=match["unit"],
            )
        )
    unit: Literal["mm", "in"] = "mm" if match["unit"] == "mm" else "in"
    return CaliperReading(match["figure"], unit, mm)


class LineBuffer:
    """Puts lines together from what arrives piece by piece."""

    def __init__(self) -> None:
        self._rest = b""

    def lines(self, data: bytes) -> Iterator[str]:
        """Yield the lines that are whole now; a line without an end is dropped when too long."""
        *whole, self._rest = (self._rest + data).split(b"\n")
        if len(self._rest) > 4 * LONGEST_LINE:
            self._rest = b""
        for line in whole:
            yield line.decode("ascii", "replace").rstrip("\r")


def playback(path: Path) -> list[tuple[float, str]]:
    """Return the lines of a playback file, each with the seconds to wait before it."""
    found, wait = [], 0.3
    for line in path.read_text("utf-8").splitlines():
        text = line.partition("#")[0].strip()
        if text.startswith("wait "):
            wait = min(max(float(text.removeprefix("wait ")), 0.0), 60.0)
        elif text:
            found.append((wait, text))
    return found


class Stand:
    """A caliper on a pseudo-terminal; `path` is what to open."""

    def __init__(self) -> None:
        self._master, self._slave = os.openpty()
        tty.setraw(self._slave)
        self.path = os.ttyname(self._slave)

    def send(self, line: str) -> None:
        """Send one line, as a press of the button does."""
        os.write(self._master, f"{line}\n".encode("ascii"))

    def close(self) -> None:
        """Put the caliper away."""
        os.close(self._master)
        os.close(self._slave)


def main(arguments: list[str] | None = None) -> int:
    """Play a file of readings on a pseudo-terminal."""
    given = sys.argv[1:] if arguments is None else arguments
    if len(given) != 1 or given[0] in ("-h", "--help"):
        print(tr("usage: python -m holoptic.devices.caliper FILE"), file=sys.stderr)
        return 2
    try:
        lines = playback(Path(given[0]))
    except (OSError, ValueError) as error:
        print(
            tr("caliper: {given} cannot be played: {error}", given=given[0], error=error),
            file=sys.stderr,
        )
        return 2
    stand = Stand()
    print(stand.path, flush=True)
    for wait, line in lines:
        time.sleep(wait)
        stand.send(line)
    time.sleep(2.0)  # whoever reads is given time to take the last line
    stand.close()
    return 0


if __name__ == "__main__":
    sys.exit(main())
