"""Exercise sheets printed as paper of several qualities and as pages of lines, and read again.

Run: .venv/bin/python -m bench.paper [COUNT] [QUALITY;QUALITY] [FAMILY,FAMILY]
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import cv2
import numpy as np

from bench.classics.__main__ import draw_views
from bench.classics.families import FAMILIES
from bench.classics.shapes import volume
from bench.exercise_parts import PLAIN_FAMILIES
from bench.paper.pages import HABITS, pdf_bytes, svg_bytes
from bench.paper.printing import Printed, print_views
from bench.paper.raster import QUALITIES, picture
from bench.reading import sound_parts
from holoptic.errors import HolopticError
from holoptic.paper.given import Given
from holoptic.paper.offers import offered_by
from holoptic.reading.lines import DrawnView
from holoptic.reading.result import Reading
from holoptic.reading.sketch import GivenSize
from holoptic.worker.client import Worker
from holoptic.worker.messages import PictureRead, SheetRead

_LINES = tuple(f"{kind}, {habit}" for kind in ("PDF", "SVG") for habit in HABITS)
_SAME_SHARE = 0.02
"""Volumes from a picture: levels are measured to some hundredths of a mm."""
_LIMIT_S = 8.0
_LETTERED_MM = 0.006
"""Figures are lettered to the hundredth."""


@dataclass
class Subject:
    """A part's drawing: its views, its volume, and whether it is read as DXF."""

    name: str
    views: list[DrawnView]
    volume: float


@dataclass
class Tally:
    """What became of the sheets of one quality."""

    outcomes: Counter[str] = field(default_factory=Counter)
    opened: list[float] = field(default_factory=list)
    found: Counter[str] = field(default_factory=Counter)

    def row(self, name: str) -> str:
        """Return a row of the table."""
        count = sum(self.outcomes.values())
        good = self.outcomes["right"]
        one = self.outcomes["right with one line otherwise"]
        corrected = f"{one} of {self.found['lines offered']} offered"
        others = ", ".join(f"{n} {what}" for what, n in self.outcomes.items()
                           if not what.startswith("right"))  # fmt: skip
        median, late = np.percentile(self.opened, [50, 95]) if self.opened else (0.0, 0.0)
        shares = []
        for status in ("visible", "hidden"):
            whole = self.found[f"{status} drawn"]
            part = 100 * self.found[f"{status} there"] / max(whole, 1)
            false = 100 * self.found[f"{status} false"] / max(whole, 1)
            shares.append(f"{part:.1f} % ({false:.1f} %)")
        share = 100 * good / max(count, 1)
        told = self.found["sizes told"]
        offered = (f"{self.found['sizes offered']} of {told} ({self.found['sizes false']})"
                   if told else "–")  # fmt: skip
        cells = (name, count, *shares, f"{good} ({share:.0f} %)", corrected, others or "–", offered,
                 f"{median:.1f} s", f"{late:.1f} s")  # fmt: skip
        return f"| {' | '.join(map(str, cells))} |"


def subjects(worker: Worker, count: int, families: list[str], folder: Path) -> Iterator[Subject]:
    """Yield drawings of both benches of reading that are read right as DXF."""
    for family in families:
        if family in FAMILIES:
            for seed in range(count):
                solid = FAMILIES[family](random.Random(f"{family} {seed}"))
                path, angle, scale = draw_views(worker, solid, seed, folder)
                try:
                    sheet = worker.ask("open_sheet", str(path), angle)
                except HolopticError:
                    continue
                views = sheet.arrangement.drawn_views()
                yield from _readable(worker, f"{family} {seed}", views,
                                     volume(solid) * scale**3)  # fmt: skip
        else:
            for seed, part, size in sound_parts(worker, family, count):
                views = worker.ask("derive_views", part)
                yield from _readable(worker, f"{family} {seed}", list(views[:3]), size)


def _readable(worker: Worker, name: str, views: list[DrawnView], size: float) -> Iterator[Subject]:
    by_name = {view.name for view in views}
    if not {"front", "top", "right"} <= by_name:
        return
    three = [view for view in views if view.name in ("front", "top", "right")]
    try:
        reading = worker.ask("read", tuple(three), name, 6, _LIMIT_S)
    except HolopticError:
        return
    if _is_right(reading, size, 1.0):
        yield Subject(name, three, size)


def _is_right(reading: Reading, size: float, within: float) -> bool:
    return reading.verdict == "unique" and (
        abs(reading.answers[0].volume - size) <= within * _SAME_SHARE * size)  # fmt: skip


def main() -> None:
    """Print the table, and what failed under it."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 2
    wanted = sys.argv[2].split(";") if len(sys.argv) > 2 else [*_LINES, *QUALITIES]
    families = sys.argv[3].split(",") if len(sys.argv) > 3 else [*PLAIN_FAMILIES, *FAMILIES]
    tallies = {quality: Tally() for quality in wanted}
    failures = []
    with tempfile.TemporaryDirectory() as folder, Worker() as worker:
        for subject in subjects(worker, count, families, Path(folder)):
            printed = print_views(subject.views, random.Random(subject.name))
            if printed is None:
                continue
            for quality in wanted:
                outcome = _one(worker, subject, printed, quality, Path(folder), tallies[quality])
                tallies[quality].outcomes[outcome] += 1
                if outcome != "right":
                    failures.append(f"{subject.name}, {quality}: {outcome}")
                    print(failures[-1], flush=True)
    print("\n| sheet | sheets | visible found (false) | hidden found (false) | read without help | "
          "with one line otherwise | others | sizes offered (wrong) | median | 95 % |")  # fmt: skip
    print("|---|---|---|---|---|---|---|---|---|---|")
    for quality, tally in tallies.items():
        print(tally.row(quality))


def _one(
    worker: Worker, subject: Subject, printed: Printed, quality: str, folder: Path, tally: Tally
) -> str:
    """Print a sheet, read it again, and say what came of it."""
    path = _write(subject, printed, quality, folder)
    sizes = printed.sizes
    given = Given(paper=printed.paper, sizes=sizes)
    begin = time.monotonic()
    try:
        sheet: SheetRead = worker.ask("open_sheet", str(path), printed.angle, None, given)
    except HolopticError as error:
        tally.opened.append(time.monotonic() - begin)
        return f"refused: {error}"
    tally.opened.append(time.monotonic() - begin)
    others = sheet.picture.others if sheet.picture else ()
    first, tried = "", []
    _count_lines(subject, sheet, tally)
    if sheet.picture is not None:
        written = worker.ask("read_figures", str(path), given)
        _count_figures(written.sizes, sheet.picture, sizes, tally)
    for arrangement in (sheet.arrangement, *others):
        try:
            reading = worker.ask("read", tuple(arrangement.drawn_views()), "read", 6, _LIMIT_S)
        except HolopticError as error:
            first = first or f"unread: {error}"
            continue
        if reading.verdict == "unique":
            return "right" if _is_right(reading, subject.volume, 1.0) else "wrong"
        first = first or reading.verdict
        tried.append(reading)
    if any(_is_corrected(worker, reading, subject, tally) for reading in tried):
        return "right with one line otherwise"
    return first


def _is_corrected(worker: Worker, reading: Reading, subject: Subject, tally: Tally) -> bool:
    """Say whether the first line that is offered otherwise brings the right part."""
    if reading.verdict != "contradictory":
        return False
    found = worker.ask("correct", reading.views, "read", _LIMIT_S)
    is_right = bool(found) and _is_right(found[0].reading, subject.volume, 1.0)
    tally.found["lines offered"] += bool(found)
    tally.found["lines wrong"] += bool(found) and not is_right
    return is_right


def _count_lines(subject: Subject, sheet: SheetRead, tally: Tally) -> None:
    """Compare the length of lines by role, view by view, sampled every half millimetre."""
    own = {view.name: view for view in sheet.arrangement.drawn_views()}
    for view in subject.views:
        low = view.box
        there = own.get(view.name)
        for status in ("visible", "hidden"):
            drawn = _places([x.shape for x in view.moved(-low[0], -low[1]).lines
                             if x.status == status])  # fmt: skip
            found = _places([x.shape for x in there.lines if x.status == status]) if there else []
            tally.found[f"{status} drawn"] += len(drawn)
            tally.found[f"{status} there"] += _near(drawn, found)
            tally.found[f"{status} false"] += len(found) - _near(found, drawn)


def _count_figures(
    figures: tuple[GivenSize, ...], under: PictureRead, sizes: tuple[float, ...], tally: Tally
) -> None:
    """Compare what is offered as length, depth and height with what is written on the sheet."""
    offered = offered_by(figures, under.names, under.boxes, under.levels).sizes
    for size, read in zip(sizes, offered, strict=True):
        is_right = read is not None and abs(read - size) < _LETTERED_MM
        tally.found["sizes told"] += 1
        tally.found["sizes offered"] += is_right
        tally.found["sizes false"] += read is not None and not is_right


def _places(shapes) -> list[tuple[float, float]]:  # type: ignore[no-untyped-def]
    found = []
    for shape in shapes:
        path = np.array(shape.path())
        steps = np.hypot(*np.diff(path, axis=0).T)
        along = np.r_[0, np.cumsum(steps)]
        at = np.arange(0.25, along[-1], 0.5)
        found += list(zip(np.interp(at, along, path[:, 0]), np.interp(at, along, path[:, 1]),
                          strict=True))  # fmt: skip
    return found


def _near(some, others) -> int:  # type: ignore[no-untyped-def]
    if not some or not others:
        return 0
    from scipy.spatial import KDTree

    far, _ = KDTree(np.array(others)).query(np.array(some))
    return int((far < 0.6).sum())


def _write(subject: Subject, printed: Printed, quality: str, folder: Path) -> Path:
    kind, _, habit = quality.partition(", ")
    if kind in ("PDF", "SVG"):
        path = folder / f"views.{kind.lower()}"
        make = pdf_bytes if kind == "PDF" else svg_bytes
        path.write_bytes(make(printed, habit, random.Random(subject.name)))
        return path
    path = folder / "views.png"
    dice = np.random.default_rng(abs(hash_of(subject.name + quality)))
    cv2.imwrite(str(path), picture(printed, quality, dice))
    return path


def hash_of(words: str) -> int:
    """Return a number of words, the same on every machine."""
    return int.from_bytes(words.encode()[-7:], "big")


if __name__ == "__main__":
    main()
