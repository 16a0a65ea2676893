"""A printed sheet as a picture of several qualities: scanned, photographed, copied, pencilled."""

from __future__ import annotations

import math
from collections.abc import Callable

import cv2
import numpy as np
from numpy.typing import NDArray

from bench.paper.printing import Printed, dashed

Grey = NDArray[np.uint8]
Page = NDArray[np.float32]
_OVER = 2
_SHIFT = 4


def picture(sheet: Printed, quality: str, dice: np.random.Generator) -> Grey:
    """Return the picture of a sheet in one of `QUALITIES`."""
    return QUALITIES[quality](sheet, dice)


def _drawn(sheet: Printed, dpi: float, dice: np.random.Generator, pencil: float = 0.0) -> Page:
    """Return how dark a sheet is; a pencil wavers and is uneven."""
    per_mm = dpi / 25.4 * _OVER
    wide, tall = sheet.size
    dark = np.zeros((round(tall * per_mm), round(wide * per_mm)), np.uint8)

    def line(places: list[tuple[float, float]], width: float, level: float) -> None:
        path = np.array(places, float)
        if pencil:
            path = path + dice.normal(0, 0.03 * pencil, path.shape)
            level *= float(dice.uniform(0.75, 1.05))
            width *= float(dice.uniform(0.85, 1.2))
        dots = np.c_[path[:, 0] * per_mm, (tall - path[:, 1]) * per_mm]
        fixed = np.round(dots * 2**_SHIFT).astype(np.int32)
        cv2.polylines(dark, [fixed], False, int(255 * min(level, 1.0)),
                      max(1, round(width * per_mm)), cv2.LINE_AA, _SHIFT)  # fmt: skip

    for mark in sheet.marks:
        for piece in dashed(mark.shape.path(), mark.dashes):
            line(piece, mark.width, 0.7 if pencil else 0.95)
    for head in sheet.heads:
        dots = np.array([(x * per_mm, (tall - y) * per_mm) for x, y in head])
        cv2.fillPoly(dark, [np.round(dots).astype(np.int32)], 235)
    for words in sheet.words:
        _letter(dark, words.text, words.at, words.height, words.turn, per_mm, tall)
    size = round(wide * per_mm / _OVER), round(tall * per_mm / _OVER)
    small = cv2.resize(dark, size, interpolation=cv2.INTER_AREA)
    return np.asarray(small.astype(np.float32) / 255.0)


def _letter(dark, text, at, height, turn, per_mm, tall) -> None:  # type: ignore[no-untyped-def]
    scale = height * per_mm / 21.0
    thick = max(1, round(0.3 * per_mm))
    (wide, high), base = cv2.getTextSize(text, cv2.FONT_HERSHEY_SIMPLEX, scale, thick)
    patch = np.zeros((high + base + 8, wide + 8), np.uint8)
    cv2.putText(patch, text, (4, high + 4), cv2.FONT_HERSHEY_SIMPLEX, scale, 235, thick,
                cv2.LINE_AA)  # fmt: skip
    if turn:
        patch = np.rot90(patch, round(turn / 90))
    x = round(at[0] * per_mm - patch.shape[1] / 2)
    y = round((tall - at[1]) * per_mm - patch.shape[0] / 2)
    x, y = max(0, x), max(0, y)
    room = dark[y : y + patch.shape[0], x : x + patch.shape[1]]
    np.maximum(room, patch[: room.shape[0], : room.shape[1]], out=room)


# --- qualities ------------------------------------------------------------------------------------


def _paper(dark: Page, dice: np.random.Generator) -> Page:
    high, wide = dark.shape
    tone = cv2.resize(dice.normal(0.94, 0.008, (9, 9)), (wide, high),
                      interpolation=cv2.INTER_CUBIC).astype(np.float32)  # fmt: skip
    return np.asarray(tone * (1.0 - 0.92 * dark))


def _turned(page: Page, degrees: float, dice: np.random.Generator) -> Page:
    high, wide = page.shape
    turn = cv2.getRotationMatrix2D((wide / 2, high / 2), degrees, 1.0)
    turn[:, 2] += dice.uniform(-0.004, 0.004, 2) * wide
    return np.asarray(cv2.warpAffine(page, turn, (wide, high), flags=cv2.INTER_CUBIC,
                                     borderValue=0.97))  # fmt: skip


def _finished(page: Page, noise: float, blur: float, jpeg: int, dice: np.random.Generator) -> Grey:
    page = cv2.GaussianBlur(page, (0, 0), blur)
    page = page + dice.normal(0, noise, page.shape).astype(np.float32)
    grey = np.clip(page * 255, 0, 255).astype(np.uint8)
    if jpeg:
        grey = cv2.imdecode(cv2.imencode(".jpg", grey, [cv2.IMWRITE_JPEG_QUALITY, jpeg])[1],
                            cv2.IMREAD_GRAYSCALE)  # fmt: skip
    return grey


def _clean(sheet: Printed, dice: np.random.Generator) -> Grey:
    page = _turned(_paper(_drawn(sheet, 300, dice), dice), float(dice.uniform(-0.3, 0.3)), dice)
    return _finished(page, 0.006, 0.5, 0, dice)


def _ordinary(sheet: Printed, dice: np.random.Generator) -> Grey:
    dark = _drawn(sheet, float(dice.choice((200, 300))), dice)
    page = _turned(_paper(dark, dice), float(dice.uniform(-1.5, 1.5)), dice)
    return _finished(page, 0.02, 0.8, 82, dice)


def _at(dpi: int) -> Callable[[Printed, np.random.Generator], Grey]:
    def make(sheet: Printed, dice: np.random.Generator) -> Grey:
        page = _turned(_paper(_drawn(sheet, dpi, dice), dice), float(dice.uniform(-1, 1)), dice)
        return _finished(page, 0.012, 0.6, 88, dice)

    return make


def _pencil(sheet: Printed, dice: np.random.Generator) -> Grey:
    dark = _drawn(sheet, 300, dice, pencil=1.0)
    grain = cv2.GaussianBlur(dice.normal(0, 1, dark.shape).astype(np.float32), (0, 0), 0.8)
    dark = np.clip(dark * (1 + 0.25 * grain), 0, 1).astype(np.float32)
    page = _turned(_paper(dark, dice), float(dice.uniform(-1, 1)), dice)
    return _finished(page, 0.015, 0.6, 88, dice)


def _copy(sheet: Printed, dice: np.random.Generator) -> Grey:
    """Return a copy of a copy: two thresholds, stretched a little, with specks."""
    page = _drawn(sheet, 300, dice)
    for _ in range(2):
        page = cv2.GaussianBlur(page, (0, 0), 0.9) + dice.normal(0, 0.05, page.shape)
        page = (page > dice.uniform(0.34, 0.46)).astype(np.float32)
    high, wide = page.shape
    page = cv2.resize(page, (round(wide * 0.994), high), interpolation=cv2.INTER_AREA)
    specks = dice.random(page.shape) > 0.99996
    page = np.maximum(page, cv2.dilate(specks.astype(np.float32), np.ones((3, 3))))
    page = _turned((1 - 0.9 * page).astype(np.float32), float(dice.uniform(-0.8, 0.8)), dice)
    return _finished(page, 0.01, 0.5, 85, dice)


def _photo(sheet: Printed, dice: np.random.Generator) -> Grey:
    """Return a photo: in perspective, curled a little, through a lens, unevenly lit."""
    page = _paper(_drawn(sheet, 250, dice), dice)
    high, wide = page.shape
    corners = np.array([[0, 0], [wide, 0], [wide, high], [0, high]], np.float32)
    size_of = np.array([wide, high])
    at = corners + 0.08 * size_of + dice.uniform(-0.055, 0.055, (4, 2)) * size_of
    size = int(wide * 1.16), int(high * 1.16)
    lens = cv2.getPerspectiveTransform(corners, at.astype(np.float32))
    page = cv2.warpPerspective(page, lens, size, flags=cv2.INTER_CUBIC, borderValue=0.42)
    page = _through_lens(page, dice)
    y, x = np.mgrid[0 : 1 : size[1] * 1j, 0 : 1 : size[0] * 1j].astype(np.float32)
    a, b = dice.uniform(-0.3, 0.3, 2)
    light = 0.9 + a * (x - 0.5) + b * (y - 0.5) - 0.3 * ((x - 0.5) ** 2 + (y - 0.5) ** 2)
    return _finished(page * light.astype(np.float32), 0.018, 0.9, 85, dice)


def _through_lens(page: Page, dice: np.random.Generator) -> Page:
    """Return a picture with a barrel's distortion and a sheet that curls by a fraction of a mm."""
    high, wide = page.shape
    y, x = np.mgrid[0:high, 0:wide].astype(np.float32)
    u, v = (x - wide / 2) / wide, (y - high / 2) / wide
    barrel = 1 + float(dice.uniform(0.0, 0.004)) * (u * u + v * v) * 4
    curl = float(dice.uniform(0, 0.0012)) * wide * np.sin(math.pi * (v * 1.3 + 0.5))
    return np.asarray(cv2.remap(page, wide / 2 + u * wide * barrel,
                                (high / 2 + v * wide * barrel + curl * u).astype(np.float32),
                                cv2.INTER_CUBIC, borderValue=0.42))  # fmt: skip


QUALITIES: dict[str, Callable[[Printed, np.random.Generator], Grey]] = {
    "clean scan": _clean, "ordinary scan": _ordinary, "photo": _photo, "pencil": _pencil,
    "copy of a copy": _copy, "150 dpi": _at(150), "600 dpi": _at(600),
}  # fmt: skip
