"""A picture of a drawn sheet laid beside its plan: the whole way from file to report."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from holoptic.catalogue import tr
from holoptic.checking.causes import Slips, Suspect, Suspects
from holoptic.checking.deciding import deciding_between
from holoptic.checking.mending import redraw_of
from holoptic.checking.own_hand import likelihood_of_hands
from holoptic.checking.pictures.border import PER_MM, SURE_SHEET, Found, find_sheet
from holoptic.checking.pictures.done import done_until, strokes_done
from holoptic.checking.pictures.evidence import Evidence
from holoptic.checking.pictures.extra import extra_ink
from holoptic.checking.pictures.ink import Grey
from holoptic.checking.pictures.loading import load
from holoptic.checking.pictures.measure import Fit, FlatSheet
from holoptic.checking.placing import SURE, Placing
from holoptic.checking.report import Cause, CheckReport, Deciding, State, StrokeFound
from holoptic.checking.stories import cause_of
from holoptic.checking.traces import Offs, Trace, Traced
from holoptic.curves.vectors import Vec2
from holoptic.plan.errors import Places
from holoptic.plan.hand import Hand
from holoptic.progress import tell
from holoptic.tolerance import SOLVED

_LEAST_ALLOWED_MM = 0.6
_END_MM = 1.5
_BY_SLIP_MM = 0.8
_MISSING_SHARE, _LIGHT_SHARE = 0.43, 0.55
"""Of a firm stroke's strength: less is a line of construction, and less than the second light."""
_THIN_MISSING_SHARE = 0.85
"""The same of a thin line, which is not much stronger than one of construction."""
_COVERED, _CURVE_COVERED, _BROKEN_COVERED = 0.8, 0.55, 0.4
_LOOKED_AT_MM = 2.0
_ALL_INK = 0.9
_BEGUN = 0.08
"""Of a sheet that is only begun, this share of the planned lines is there at least."""
_START_MM = 12.0
"""A start point that was set off wrongly moves all of a drawing, so far at most."""
_TOLD = 0.77, 0.62, 0.92
"""Other sheets of a job have much in common with one, but less than this."""


@dataclass(frozen=True)
class Checked:
    """A report with the sheet that it is about, flat, as it is to be shown."""

    report: CheckReport
    found: Found


def check_picture(
    path: Path, figure: str, traced: Traced, hand: Hand, corners: Sequence[Vec2] | None = None
) -> Checked:
    """Return how a picture of a drawn sheet agrees with its plan. Raises BadInput for a picture
    that cannot be read, or is not of this sheet.
    """
    comparison = Comparison(path, figure, traced, hand, corners)
    return Checked(comparison.explained(), comparison.found)


class Comparison:
    """A picture of a drawn sheet laid beside its plan: what is found at once, and why later.

    Raises BadInput for a picture that cannot be read, or is not of this sheet.
    """

    def __init__(
        self, path: Path, figure: str, traced: Traced, hand: Hand,
        corners: Sequence[Vec2] | None = None,
    ) -> None:  # fmt: skip
        tell(tr("loading the picture"), 0.05)
        picture = load(path)
        tell(tr("looking for the border"), 0.15)
        self.found = find_sheet(picture, traced.inner, _Score(traced), corners)
        tell(tr("comparing the strokes"), 0.4)
        self._figure, self._traced = figure, traced
        self._sheet = FlatSheet(self.found.flat, PER_MM)
        self.evidence = Evidence(self._sheet, Suspects(traced, hand))
        self._count = strokes_done(traced.traces, self.evidence.found_as_meant())
        self._is_begun = 0 < self._count < len(traced.traces) and _explains(
            self._sheet, traced.first(self._count)
        )
        if self._is_begun:  # what is not drawn yet tells nothing of slips
            self.evidence = Evidence(self._sheet, Suspects(traced.first(self._count), hand))

    def at_once(self) -> CheckReport:
        """Return what is off, without a look for causes."""
        return self._finished(_report(self._figure, self._sheet, self.evidence, (), []))

    def explained(self) -> CheckReport:
        """Return what is off, what caused it and what to do again."""
        report = _report(self._figure, self._sheet, self.evidence, (), [])
        slips: Slips = ()
        if _asks_why(report):
            tell(tr("looking for what caused it"), 0.5)
            suspects = self.evidence.suspects
            slips, told = suspects.look(self.evidence.measure, self.evidence.nearness)
            tell(tr("telling what caused it"), 0.85)
            report = _report(self._figure, self._sheet, self.evidence, slips, told)
        return self._finished(replace(report, hands=self._hands(slips)))

    def _hands(self, slips: Slips) -> tuple[float, ...] | None:
        """Return what the sheet tells of the hand that drew it, apart from its slips."""
        suspects = self.evidence.suspects
        places = suspects.traced.on(suspects.sheets([slips]))
        rows = suspects.likelihood.credible(self.evidence.measure([one[:1] for one in places]))
        return likelihood_of_hands(suspects, rows)

    def _finished(self, report: CheckReport) -> CheckReport:
        if not self._is_begun:
            return report
        until = done_until(self._sheet, self._traced, self._count)
        return _unfinished(report, self._traced, until)


def _asks_why(report: CheckReport) -> bool:
    """Say whether something is not where it should be: that a slip may explain."""
    return any(stroke.state not in ("there", "light") for stroke in report.strokes)


def _explains(sheet: FlatSheet, traced: Traced) -> bool:
    """Say whether strokes explain nearly all ink: else some of it was drawn elsewhere."""
    paths = [*(one.meant for one in traced.traces), *light_lines(traced)]
    return sheet.share_explained(paths, traced.inner, _LOOKED_AT_MM, traced.elsewhere) > _ALL_INK


def _unfinished(report: CheckReport, traced: Traced, until: int | None) -> CheckReport:
    """Return a report on the strokes that are done, with the others as missing."""
    known = {stroke.id for stroke in report.strokes}
    rest = tuple(
        StrokeFound(one.stroke, "missing", 0.0, 0.0, traced.moves[one.move].n, _pairs(one.meant))
        for one in traced.traces
        if one.stroke not in known
    )
    return replace(report, strokes=(*report.strokes, *rest), until=until)


def light_lines(traced: Traced) -> list[Places]:
    """Return the light lines of a plan, as far as they are drawn, by their ends."""
    meant = traced.meant
    return [np.array([complex(*end) for end in meant.drawn_span(name)]) for name in meant.lines]


class _Score:
    """Tells how likely a small flat picture is of the planned sheet, 0 to 1: by the share of the
    planned lines that has ink close by, in their place or all moved together, and on a sheet that
    is only begun by the share of the ink that is planned.
    """

    def __init__(self, traced: Traced) -> None:
        self._strokes = [one.meant for one in traced.traces]
        self._all = [*self._strokes, *light_lines(traced)]
        self._inner, self._elsewhere = traced.inner, traced.elsewhere

    def __call__(self, small: Grey) -> float:
        sheet = FlatSheet(small, PER_MM / 3)
        share = sheet.share_found(self._strokes, _LOOKED_AT_MM)
        if share < _BEGUN:
            return share
        explained = sheet.share_explained(self._all, self._inner, _LOOKED_AT_MM, self._elsewhere)
        moved = sheet.share_moved(self._strokes, _START_MM)
        told = (share, _TOLD[0]), (moved, _TOLD[1]), (explained, _TOLD[2])
        return min(1.0, SURE_SHEET * max(found / least for found, least in told))


def _report(
    figure: str, sheet: FlatSheet, evidence: Evidence, slips: Slips, told: list[Suspect]
) -> CheckReport:
    suspects = evidence.suspects
    traced = suspects.traced
    expected = traced.on(suspects.sheets([slips]))
    leaning = suspects.leaning(slips, evidence.measure)
    strokes = _strokes(evidence, [places[0] for places in expected], leaning)
    causes = _causes(suspects, told)
    agrees = all(stroke.state == "there" for stroke in strokes)
    guilty = suspects.moves_of(slips)
    return CheckReport(
        figure, strokes, tuple(extra_ink(sheet, evidence, slips, strokes)),
        () if agrees else causes,
        None if agrees else _deciding(suspects, told),
        None if agrees else redraw_of(traced.moves, strokes, guilty),
    )  # fmt: skip


def _deciding(suspects: Suspects, told: list[Suspect]) -> Deciding | None:
    """Return what decides between causes of the same deviations, the first that are that close."""
    for count in sorted({len(one.slips) for one in told}):
        alike = [one for one in told if len(one.slips) == count]
        found = deciding_between(suspects, *alike[:2]) if len(alike) > 1 else None
        if found is not None:
            return found
    return None


def _strokes(
    evidence: Evidence, expected: list[Places], leaning: list[Places]
) -> tuple[StrokeFound, ...]:
    """Return the states of strokes that lie about where they are expected; `leaning` is the same
    with the errors of the hand, which they are looked for with.
    """
    traces = evidence.suspects.traced.traces
    found: list[Places] = []
    offs: list[Offs | None] = []
    fits = evidence.fits(leaning)
    for one, places, fit in zip(traces, leaning, fits, strict=True):
        found.append(places + fit.off(one, one.meant) * one.normals)
        off = ((found[-1] - one.meant) * one.normals.conj()).real
        offs.append(None if _is_missing(evidence, one, fit) else off)
    inked = [None if off is None else path for off, path in zip(offs, found, strict=True)]
    for number in evidence.on_other_ink(inked, leaning):
        offs[number] = None
    within, allowed = Placing(evidence.suspects).within(offs)
    most = [max(_LEAST_ALLOWED_MM, one) for one in allowed]
    return tuple(
        _stroke(evidence, number, fits[number], (expected[number], leaning[number]),
                found[number], offs[number], within[number], most[number])
        for number in range(len(traces))
    )  # fmt: skip


def _stroke(
    evidence: Evidence, number: int, fit: Fit, about: tuple[Places, Places], found: Places,
    off: Offs | None, within: Offs | None, allowed: float,
) -> StrokeFound:  # fmt: skip
    """Return the state of one stroke, of which it is known how far it lies off; `about` is where
    slips put it, and where it was looked for.
    """
    expected, leaning = about
    one = evidence.suspects.traced.traces[number]
    move = evidence.suspects.traced.moves[one.move].n
    state: State = "missing"
    most = 0.0
    if off is not None and within is not None:
        most = float(off[int(np.abs(off).argmax())])
        is_light = fit.strength < _LIGHT_SHARE * _firm(evidence, one)
        state = "light" if is_light else "there"
        beyond, end = _ends_off(one, leaning, evidence.beyond(number, fit))
        most_beyond = max(_END_MM, SURE * evidence.suspects.end_scatter(number))
        # what a slip moves is off by more than chance, however far chance could have moved it
        by_slip = (expected - one.meant) * one.normals.conj()
        if np.abs(by_slip.real).max() > _BY_SLIP_MM:
            allowed = min(allowed, _BY_SLIP_MM)
        if np.abs(by_slip.imag[[0, -1]]).max() > _BY_SLIP_MM:
            most_beyond = min(most_beyond, _BY_SLIP_MM)
        if np.abs(within).max() > allowed or (allowed == _BY_SLIP_MM and abs(most) > allowed):
            state = "shifted"
        elif beyond < -most_beyond:
            state, most = "short", beyond
        elif beyond > most_beyond:
            state, most = "long", beyond
        if state in ("short", "long"):
            found = found.copy()
            found[end] += beyond * _outward(one, end)
    path = () if state == "missing" else _pairs(found)
    return StrokeFound(one.stroke, state, round(most, 3), round(allowed, 3), move,
                       _pairs(one.meant), path)  # fmt: skip


def _firm(evidence: Evidence, one: Trace) -> float:
    return evidence.firm * (0.45 if one.is_thin else 1.0)


def _is_missing(evidence: Evidence, one: Trace, fit: Fit) -> bool:
    """Say whether there is no more than a line of construction."""
    covered = _CURVE_COVERED if one.is_curve else _COVERED
    if one.is_broken:
        covered = _BROKEN_COVERED
    least = _THIN_MISSING_SHARE if one.is_thin else _MISSING_SHARE
    return fit.covered < covered or fit.strength < least * _firm(evidence, one)


def _ends_off(one: Trace, expected: Places, reaches: tuple[float, float]) -> tuple[float, int]:
    """Return by how much a line is longer than it should be at an end, the most of both (mm), and
    which end that is (0 or -1).
    """
    ends = []
    for index, beyond in zip((0, -1), reaches, strict=True):
        if one.is_curve or np.isnan(beyond):
            continue
        moved = ((expected[index] - one.meant[index]) * _outward(one, index).conjugate()).real
        ends.append((float(beyond + moved), index))
    return max(ends, key=lambda end: abs(end[0]), default=(0.0, 0))


def _outward(one: Trace, end: int) -> complex:
    """Return the way out of a line at an end (0 or -1), of length one."""
    way = complex((one.meant[-1] - one.meant[0]) / max(one.length, SOLVED))
    return -way if end == 0 else way


def _causes(suspects: Suspects, told: list[Suspect]) -> tuple[Cause, ...]:
    found = [cause_of(one, suspects.draws, suspects.traced.moves) for one in told]
    return tuple(sorted(found, key=lambda cause: (-cause.weight, cause.group)))


def _pairs(places: Places) -> tuple[Vec2, ...]:
    return tuple((round(float(p.real), 3), round(float(p.imag), 3)) for p in places)
