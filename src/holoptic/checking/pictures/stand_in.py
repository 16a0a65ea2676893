"""A sheet as paper and pencil would look on a scanner or a photo: a stand-in for both.

A hand of chosen spreads and slips draws a plan; its lines are put on paper as a pencil would,
uneven, with construction left or rubbed out, and the paper is laid on a scanner or photographed.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import cv2
import numpy as np
import pypdfium2
from numpy.typing import NDArray

from holoptic.checking.sitting import Sitting
from holoptic.checking.traces import SlippedSheets, Traced, lengths_along
from holoptic.plan.drafter import Drafter
from holoptic.plan.moves import FRAME, BlankSheet, Move

Grey = NDArray[np.uint8]
_FIRM_MM, _THIN_MM, _LIGHT_MM = 0.5, 0.28, 0.18
_FIRM, _THIN, _LIGHT, _RUBBED, _PRINTED = 0.72, 0.6, 0.3, 0.07, 0.9
"""Widths of lines, and how dark the pencil leaves them."""
_OVER = 2
"""The paper is drawn so many times finer than it is scanned."""
_SHIFT = 4
_LEAST_DPI, _MOST_DPI = 72, 600


def take(traced: Traced, paper: BlankSheet, sitting: Sitting) -> Grey:
    """Return the picture of a drawn sheet; `paper` tells its size and margins (mm)."""
    dice = np.random.default_rng(sitting.seed)
    hand = sitting.hand
    sheets = SlippedSheets(
        hand, 1, lambda k, spread: np.array([dice.normal(0, spread) + sitting.slips.get(k, 0.0)])
    ).draw(traced.moves, traced.meant)
    ink = _Ink(paper, _dpi(sitting), dice)
    _draw_sheet(ink, traced, sheets, sitting)
    return _taken(ink.done(), sitting, dice)


def take_print(printed: bytes, sitting: Sitting) -> Grey:
    """Return the picture of a printed sheet, the first page of a PDF file of our own.

    Of the sitting only counts how the sheet comes into the picture.
    """
    page = pypdfium2.PdfDocument(printed)[0]
    dots = page.render(scale=_dpi(sitting) / 72.0, grayscale=True).to_numpy()
    dark = 1.0 - dots.reshape(dots.shape[0], dots.shape[1], -1)[:, :, 0].astype(np.float32) / 255
    return _taken(dark, sitting, np.random.default_rng(sitting.seed))


class _Ink:
    """Darkness on a sheet, 0 to 1, finer than it is scanned."""

    def __init__(self, paper: BlankSheet, dpi: int, dice: np.random.Generator) -> None:
        self._paper, self._dice = paper, dice
        self.per_mm = dpi / 25.4 * _OVER
        size = round(paper.height * self.per_mm), round(paper.width * self.per_mm)
        self._dark = np.zeros(size, np.uint8)

    def line(self, places: Sequence[complex], width: float, dark: float) -> None:
        """Draw along places (mm from the border's corner); where lines cross the darker counts."""
        if len(places) < 2:
            return
        x = (np.real(places) + self._paper.left) * self.per_mm
        y = (self._paper.height - self._paper.low - np.imag(places)) * self.per_mm
        level = int(255 * np.clip(dark * self._dice.uniform(0.85, 1.12), 0.0, 1.0))
        wide = max(1, round(width * self._dice.uniform(0.9, 1.12) * self.per_mm))
        low = np.floor([x.min() - wide - 2, y.min() - wide - 2]).astype(int)
        high = np.ceil([x.max() + wide + 2, y.max() + wide + 2]).astype(int)
        low = np.clip(low, 0, [self._dark.shape[1], self._dark.shape[0]])
        high = np.clip(high, 0, [self._dark.shape[1], self._dark.shape[0]])
        if (high <= low).any():
            return
        patch = np.zeros((high[1] - low[1], high[0] - low[0]), np.uint8)
        points = np.stack([x - low[0], y - low[1]], axis=1) * (1 << _SHIFT)
        cv2.polylines(patch, [np.round(points).astype(np.int32)], False, level, wide, cv2.LINE_AA,
                      _SHIFT)  # fmt: skip
        window = self._dark[low[1] : high[1], low[0] : high[0]]
        np.maximum(window, patch, out=window)

    def words(self, text: str, at: complex, height: float, turn_deg: float) -> None:
        """Letter a line of text, its lower left corner at a place."""
        scale = height * self.per_mm / 22.0
        (wide, high), _ = cv2.getTextSize(text, cv2.FONT_HERSHEY_SIMPLEX, scale, 1)
        if wide < 2 or high < 2:
            return
        patch = np.zeros((high * 2, wide + 4), np.uint8)
        thick = max(1, round(_THIN_MM * self.per_mm))
        cv2.putText(patch, text, (2, high + high // 2), cv2.FONT_HERSHEY_SIMPLEX, scale,
                    int(255 * _THIN), thick, cv2.LINE_AA)  # fmt: skip
        x = (at.real + self._paper.left) * self.per_mm
        y = (self._paper.height - self._paper.low - at.imag) * self.per_mm
        turn = math.radians(turn_deg)
        c, s = math.cos(turn), math.sin(turn)
        base = high + high // 2
        move = np.array([[c, s, x - 2 * c - base * s], [-s, c, y + 2 * s - base * c]])
        size = self._dark.shape[1], self._dark.shape[0]
        np.maximum(self._dark, cv2.warpAffine(patch, move, size), out=self._dark)

    def done(self) -> NDArray[np.float32]:
        """Return the darkness as it is scanned: uneven as graphite on grained paper."""
        high, wide = (side // _OVER for side in self._dark.shape)
        dark = cv2.resize(self._dark, (wide, high), interpolation=cv2.INTER_AREA)
        grain = self._dice.normal(1.0, 0.22, (high, wide)).astype(np.float32)
        patches = self._dice.normal(1.0, 0.16, (high // 40 + 2, wide // 40 + 2))
        slow = cv2.resize(patches, (wide, high), interpolation=cv2.INTER_CUBIC)
        uneven = dark.astype(np.float32) / 255.0 * grain * slow.astype(np.float32)
        found: NDArray[np.float32] = np.clip(uneven, 0.0, 1.0).astype(np.float32)
        return found


def _draw_sheet(ink: _Ink, traced: Traced, sheets: SlippedSheets, sitting: Sitting) -> None:
    done = traced.moves[: sitting.until]
    _draw_border(ink, traced, sheets, done)
    _draw_construction(ink, traced.meant, sheets, done,
                       _RUBBED if sitting.is_rubbed_out else _LIGHT)  # fmt: skip
    for one, places in zip(traced.traces, traced.on_paper(sheets), strict=True):
        if one.stroke not in sitting.left_out and one.move < len(done):
            _pencil(ink, places[0], one.is_thin, one.is_broken)
    _draw_by_eye(ink, traced.meant, done)
    for start, end in sitting.extra:
        ink.line([start, end], _FIRM_MM, _FIRM)


def _draw_border(ink: _Ink, traced: Traced, sheets: SlippedSheets, done: Sequence[Move]) -> None:
    for move in done:
        if move.verb == "firm in" and move.makes[0].startswith(FRAME):
            ends = [complex(sheets.points[name][0]) for name in move.uses[:2]]
            ink.line(ends, _FIRM_MM, _FIRM)
    if not any(name.startswith(FRAME) for name in traced.meant.strokes):
        width, height = traced.inner
        corners = [0j, width + 0j, complex(width, height), 1j * height, 0j]
        ink.line(corners, _FIRM_MM, _PRINTED)


def _draw_construction(
    ink: _Ink, meant: Drafter, sheets: SlippedSheets, done: Sequence[Move], dark: float
) -> None:
    for move in done:
        for name in move.makes:
            if name in meant.curve_paths and name in sheets.meant_curves:
                path = np.array([complex(*place) for place in meant.curve_paths[name]])
                ink.line(list(sheets.followed(name, path)[0]), _LIGHT_MM, dark)
            elif name in meant.lines and name in sheets.lines and move.verb != "guides":
                ink.line(_light_line(name, meant, sheets), _LIGHT_MM, dark)


def _draw_by_eye(ink: _Ink, meant: Drafter, done: Sequence[Move]) -> None:
    """Draw shading, heads and letters: they lie where they are meant to, near enough."""
    for move in done:
        if move.verb == "shade":
            for name in move.makes:
                ink.line([complex(*place) for place in meant.strokes[name]], _THIN_MM, _THIN)
        if move.verb == "head" and move.makes[0] in meant.heads:
            _head(ink, *meant.heads[move.makes[0]])
        for words in move.letters:
            share = {"start": 0.0, "middle": 0.5, "end": 1.0}[words.anchor]
            back = np.exp(1j * math.radians(words.along_deg)) * words.width * share
            ink.words(words.text, complex(*words.at) - back, words.height, words.along_deg)


def _light_line(name: str, meant: Drafter, sheets: SlippedSheets) -> list[complex]:
    """Return the ends of a light line as it was drawn: as long as it was meant to be."""
    through, along = sheets.lines[name]
    origin = meant.lines[name][0]
    way = complex(along[0])
    ends = []
    for end in meant.drawn_span(name):
        size = math.dist(end, origin)
        meant_way = complex(end[0] - origin[0], end[1] - origin[1])
        sign = 1.0 if (meant_way * way.conjugate()).real >= 0 else -1.0
        ends.append(complex(through[0]) + sign * size * way)
    return ends


def _pencil(ink: _Ink, places: NDArray[np.complex128], is_thin: bool, is_broken: bool) -> None:
    width, dark = (_THIN_MM, _THIN) if is_thin else (_FIRM_MM, _FIRM)
    if not is_broken:
        ink.line(list(places), width, dark)
        return
    along = lengths_along(places)
    for start in np.arange(0.0, along[-1], 4.0):
        at = np.linspace(start, min(start + 3.0, along[-1]), 6)
        dash = np.interp(at, along, places.real) + 1j * np.interp(at, along, places.imag)
        ink.line(list(dash), width, dark)


def _head(ink: _Ink, tip: tuple[float, float], body_deg: float) -> None:
    at, way = complex(*tip), np.exp(1j * math.radians(body_deg))
    for side in (-1, 0, 1):
        ink.line([at, at + 3.0 * way * np.exp(0.16j * side)], _THIN_MM, _THIN)


# --- paper, scanner, camera ---------------------------------------------------------------------


def _dpi(sitting: Sitting) -> int:
    return int(np.clip(sitting.dpi, _LEAST_DPI, _MOST_DPI))


def _taken(dark: NDArray[np.float32], sitting: Sitting, dice: np.random.Generator) -> Grey:
    page = _on_paper(dark, dice)
    return photographed(page, dice) if sitting.is_photo else _scan(page, dice)


def _on_paper(dark: NDArray[np.float32], dice: np.random.Generator) -> NDArray[np.float32]:
    """Return how bright the sheet is, 0 to 1: warm white, not quite even."""
    high, wide = dark.shape
    tone = cv2.resize(dice.normal(0.93, 0.008, (9, 9)), (wide, high),
                      interpolation=cv2.INTER_CUBIC).astype(np.float32)  # fmt: skip
    page: NDArray[np.float32] = tone * (1.0 - 0.92 * dark)
    return page


def _scan(page: NDArray[np.float32], dice: np.random.Generator) -> Grey:
    """Return a page as a scanner gives it: a little turned, blurred, with noise."""
    high, wide = page.shape
    turn = cv2.getRotationMatrix2D((wide / 2, high / 2), dice.uniform(-1.2, 1.2), 1.0)
    turn[:, 2] += dice.uniform(-0.004, 0.004, 2) * wide
    page = cv2.warpAffine(page, turn, (wide, high), flags=cv2.INTER_CUBIC, borderValue=0.97)
    page = cv2.GaussianBlur(page, (0, 0), 0.55)
    return _grey(page + dice.normal(0, 0.012, page.shape).astype(np.float32))


def photographed(page: NDArray[np.float32], dice: np.random.Generator) -> Grey:
    """Return a page as a camera held over it by hand gives it: in perspective, unevenly lit."""
    high, wide = page.shape
    margin = 0.08
    corners = np.array([[0, 0], [wide, 0], [wide, high], [0, high]], np.float32)
    size = int(wide * (1 + 2 * margin)), int(high * (1 + 2 * margin))
    size_of = np.array([wide, high])
    at = corners + margin * size_of + dice.uniform(-0.055, 0.055, (4, 2)) * size_of
    lens = cv2.getPerspectiveTransform(corners, at.astype(np.float32))
    page = cv2.warpPerspective(page, lens, size, flags=cv2.INTER_CUBIC, borderValue=0.42)
    y, x = np.mgrid[0 : 1 : size[1] * 1j, 0 : 1 : size[0] * 1j].astype(np.float32)
    a, b = dice.uniform(-0.3, 0.3, 2)
    light = 0.9 + a * (x - 0.5) + b * (y - 0.5) - 0.3 * ((x - 0.5) ** 2 + (y - 0.5) ** 2)
    page = cv2.GaussianBlur(page * light.astype(np.float32), (0, 0), 0.9)
    return _grey(page + dice.normal(0, 0.018, page.shape).astype(np.float32))


def _grey(page: NDArray[np.float32]) -> Grey:
    grey: Grey = np.clip(page * 255.0, 0, 255).astype(np.uint8)
    return grey
