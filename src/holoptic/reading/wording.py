"""Lengths of a part that was read, in the words that a drafter would give them.

A place at the end of the crate is `L`, one in the middle `L/2`, two about the middle `L/2-18.5` and
`L/2+18.5`; what stands on the base counts from `base.top`; what ends at the far side is set off
from there, `L-26.5`. A figure stays where no words say the same.
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import replace

from holoptic.errors import ExpressionError
from holoptic.part import (
    AboutCentre,
    Bevel,
    Corner,
    CornerCut,
    Crate,
    Face,
    Mirrored,
    Offset,
    Operation,
    Part,
    Prism,
    Strip,
)
from holoptic.part.crate import AXIS_LETTERS
from holoptic.part.naming import SIDES, feature_names, spoken
from holoptic.part.operations import Ball, Centred, Ring
from holoptic.part.part import lengths_in
from holoptic.tolerance import READ_MM, THOUSANDTHS_MM
from holoptic.units import Length

_NEAR_RING_MM = 0.02
"""Holes on a circle are drawn to two places (length, mm)."""
_FEWEST_IN_A_RING = 2
_OPPOSITE = {face: other for face in Face for other in Face
             if other.normal_axis == face.normal_axis and other != face}  # fmt: skip


def worded(part: Part) -> Part:
    """Return a part with its lengths in words, and twins about the middle as one operation."""
    made = replace(part, operations=())
    for item in _with_twins(part.operations, part.crate):
        words = _Words(made)
        made = replace(made, operations=(*made.operations, words.operation(item)))
    return made


class _Words:
    """Finds words for the places of one operation, by the crate and what stands there before."""

    def __init__(self, before: Part) -> None:
        self._crate = before.crate
        self._scope = before.scope()
        self._sides: list[dict[str, float]] = [{}, {}, {}]
        for item in before.operations:
            if item.mode == "add":
                self._note(item)

    def _note(self, item: Operation) -> None:
        places = feature_names(item, self._crate)
        for axis, sides in enumerate(SIDES):
            for side in sides:
                name = f"{spoken(item.name)}.{side}"
                at = places.get(name)
                inside = at is not None and READ_MM < at < self._crate.sizes[axis] - READ_MM
                if at is not None and inside and not self._named(axis, at):
                    self._sides[axis][name] = at

    def _named(self, axis: int, at: float) -> str | None:
        """Return the crate's or a feature's name of a place along an axis."""
        size, letter = self._crate.sizes[axis], AXIS_LETTERS[axis]
        for words, place in (("0", 0.0), (letter, size), (f"{letter}/2", size / 2)):
            if abs(at - place) <= READ_MM:
                return words
        found = (name for name, place in self._sides[axis].items() if abs(at - place) <= READ_MM)
        return next(found, None)

    def _length(self, words: str, at: float) -> Length:
        """Return a length by its words, or by its figure where they do not say quite the same."""
        try:
            length = Length.read(words, names=self._scope)
        except ExpressionError:
            return _figure(at)
        return length if abs(length.mm - at) <= READ_MM else _figure(at)

    # --- an operation ---------------------------------------------------------------------------

    def operation(self, item: Operation) -> Operation:
        """Return an operation with its places in words."""
        if isinstance(item, Bevel | CornerCut):
            return item
        if isinstance(item, Prism | Strip):
            item = replace(item, outline=self._outline(item))
        elif isinstance(item, Centred):
            item = replace(item, u=self._offset(item, 0), v=self._offset(item, 1))
        return item if isinstance(item, Ball | Ring) else self._depths(item)

    def _outline(self, item: Prism | Strip) -> tuple[Corner, ...]:
        corners = [point for point in item.outline if isinstance(point, Corner)]
        rows = [[corner.u.mm for corner in corners], [corner.v.mm for corner in corners]]
        made = [
            self._places(item.face.axes[k], rows[k], _radii(corners)) for k in (0, 1)
        ]  # fmt: skip
        return tuple(replace(corner, u=u, v=v) for corner, u, v in zip(corners, *made, strict=True))

    def _places(self, axis: int, places: Sequence[float], radii: Sequence[Length]) -> list[Length]:
        """Return the words of the places of an outline along an axis."""
        size, letter = self._crate.sizes[axis], AXIS_LETTERS[axis]
        at_far = max(places) > size - READ_MM
        at_near = min(places) < READ_MM
        about = all(any(abs(a + b - size) <= 2 * READ_MM for b in places) for a in places)
        made = []
        for at in places:
            words = self._named(axis, at)
            if words is None and about and not (at_far and at_near):
                words = f"{letter}/2{'-' if at < size / 2 else '+'}{_text(abs(at - size / 2))}"
            if words is None:
                rest = size - at
                radius = next((r for r in radii if abs(r.mm - rest) <= READ_MM), None)
                if radius is not None:
                    words = f"{letter}-{radius.text}"
                elif at_far and not at_near:
                    words = f"{letter}-{_text(rest)}"
            made.append(_figure(at) if words is None else self._length(words, at))
        return made

    def _offset(self, item: Centred, which: int) -> Offset:
        offset: Offset = (item.u, item.v)[which]
        if offset.far or offset.centred:
            return offset
        words = self._named(item.face.axes[which], offset.distance.mm)
        if words is None or words == "0":
            return offset
        return Offset(self._length(words, offset.distance.mm))

    # --- depths ---------------------------------------------------------------------------------

    def _depths(self, item: Operation) -> Operation:
        """Count the depths of an operation from what it stands on, or say them in words."""
        assert not isinstance(item, Bevel | CornerCut | Ball | Ring)
        axis, size = item.face.normal_axis, self._crate.thickness(item.face)
        end = size if item.end is None else item.end.mm
        low, high = (size - end, size - item.start.mm) if item.face.is_far else (item.start.mm, end)
        through = high > size - READ_MM
        if item.mode == "add" and low > READ_MM:
            stands = self._named(axis, low)
            if stands is not None and "." in stands:
                face = item.face if item.face.is_far else _OPPOSITE[item.face]
                height = None if through else _figure(high - low)
                base = self._length(stands, low)
                return replace(item, face=face, start=_figure(0.0), end=height, base=base)
        if item.face.is_far:
            return replace(item, end=None if item.end is None else self._inward(axis, low, size))
        if abs(low + high - size) <= 2 * READ_MM and low > READ_MM:
            letter, half = AXIS_LETTERS[axis], _text((high - low) / 2)
            return replace(item, start=self._length(f"{letter}/2-{half}", low),
                           end=self._length(f"{letter}/2+{half}", high))  # fmt: skip
        stop = None if item.end is None else self._named_length(axis, high)
        return replace(item, start=self._named_length(axis, low), end=stop)

    def _named_length(self, axis: int, at: float) -> Length:
        words = self._named(axis, at)
        return _figure(at) if words is None else self._length(words, at)

    def _inward(self, axis: int, low: float, size: float) -> Length:
        """Return a depth counted from the far end, down to a place."""
        words = self._named(axis, low)
        if words is None or "." not in words:
            return _figure(size - low)
        return self._length(f"{AXIS_LETTERS[axis]}-{words}", size - low)


def _radii(corners: Sequence[Corner]) -> list[Length]:
    return [corner.arc.radius for corner in corners
            if corner.arc is not None and corner.arc.radius is not None]  # fmt: skip


def _figure(mm: float) -> Length:
    value = _rounded(mm)
    return Length(_text(value), value + 0.0)


def _rounded(mm: float) -> float:
    """Return a place to thousandths, where it is one but for what reading adds to it."""
    near = round(mm, 3)
    return near if abs(near - mm) < THOUSANDTHS_MM else round(mm, 6)


def _text(mm: float) -> str:
    text = f"{_rounded(mm):.6f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


# --- twins --------------------------------------------------------------------------------------


def _with_rings(operations: Sequence[Operation], crate: Crate) -> list[Operation]:
    """Return operations with those that stand evenly about the middle of a face as one."""
    left = list(operations)
    made: list[Operation] = []
    while left:
        item = left.pop(0)
        twins = [other for other in left if _is_like(item, other)]
        if len(twins) >= _FEWEST_IN_A_RING and _is_ring([item, *twins], crate):
            left = [other for other in left if other not in twins]
            middle = [Offset(Length(f"{AXIS_LETTERS[axis]}/2", crate.sizes[axis] / 2))
                      for axis in item.face.axes]  # fmt: skip
            item = replace(item, copies=AboutCentre(middle[0], middle[1], len(twins) + 1))
        made.append(item)
    return made


def _is_like(one: Operation, other: Operation) -> bool:
    """Say whether two operations with a centre differ in their places alone."""
    if not isinstance(one, Centred) or not isinstance(other, Centred) or one.copies is not None:
        return False
    if type(one) is not type(other) or one.u.far or one.v.far or _turn_of(one):
        return False
    same: bool = replace(other, name=one.name, u=one.u, v=one.v) == one
    return same


def _turn_of(item: object) -> float:
    turn: float = getattr(item, "turn", 0.0)
    return turn


def _is_ring(items: Sequence[Operation], crate: Crate) -> bool:
    width, height = crate.face_size(items[0].face)
    ways = [(u - width / 2, v - height / 2) for item in items if isinstance(item, Centred)
            for u, v in [item.centre_mm(crate)]]  # fmt: skip
    radii = [math.hypot(*way) for way in ways]
    if max(radii) - min(radii) > _NEAR_RING_MM or min(radii) < 1:
        return False
    turns = sorted(math.atan2(y, x) % math.tau for x, y in ways)
    step = math.tau / len(turns)
    return all(abs((turn - turns[0]) - k * step) * radii[0] <= _NEAR_RING_MM
               for k, turn in enumerate(turns))  # fmt: skip


def _with_twins(operations: Sequence[Operation], crate: Crate) -> list[Operation]:
    """Return operations with each two that lie opposite each other across the middle as one."""
    left = _with_rings(operations, crate)
    made: list[Operation] = []
    while left:
        item = left.pop(0)
        twin = next(((k, axis) for k, other in enumerate(left)
                     if (axis := _across(item, other, crate)) is not None), None)  # fmt: skip
        if twin is not None:
            left.pop(twin[0])
            item = replace(item, copies=Mirrored("u" if twin[1] == 0 else "v"))
        made.append(item)
    return made


def _across(one: Operation, other: Operation, crate: Crate) -> int | None:
    """Return the direction on their face, 0 or 1, in which two are each other's image, or None."""
    if not _is_like(one, other):
        return None
    assert isinstance(one, Centred) and isinstance(other, Centred)
    sizes = crate.face_size(one.face)
    a, b = one.centre_mm(crate), other.centre_mm(crate)
    for k in (0, 1):
        opposite = abs(a[k] + b[k] - sizes[k]) <= READ_MM and abs(a[k] - b[k]) > READ_MM
        if opposite and abs(a[1 - k] - b[1 - k]) <= READ_MM:
            return k
    return None


# --- how much there is to say -------------------------------------------------------------------

_FIGURES_AN_OPERATION = 4
_FIGURE = re.compile(r"(?<![A-Za-z_\d.])\d+(?:\.\d+)?")


def figures_needed(part: Part) -> int:
    """Return how many figures one has to know for a part: those of its words, and its turns.

    Nought and the 2 of a middle (`L/2`) are none.
    """
    lengths = lengths_in((part.names, part.crate, part.operations))
    plain = (re.sub(r"/2\b", "", length.text) for length in lengths)
    found = sum(float(figure) != 0 for text in plain for figure in _FIGURE.findall(text))
    return found + sum(bool(_turn_of(item)) for item in part.operations)


def told(part: Part) -> int:
    """Return how much there is to say of a part: its figures, its operations, which weigh more,
    and the corners past the fourth of an outline, as a step and a slot are sooner grasped than a
    profile that holds both.
    """
    outlines = [item.outline for item in part.operations if isinstance(item, Prism)]
    corners = sum(max(len(outline) - 4, 0) for outline in outlines)
    return figures_needed(part) + _FIGURES_AN_OPERATION * len(part.operations) + corners
