"""What an operation comes down to: prisms, rounds and the like, each copy for itself.

The words of lengths are kept as sums (`13+24*2`), so that the plan can say where a distance of a
copy comes from.
"""

from __future__ import annotations

import math
from dataclasses import replace

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.part.crate import AXIS_LETTERS, Crate, Face
from holoptic.part.operations import (
    AboutCentre,
    Arc,
    Ball,
    Basic,
    Bevel,
    Copies,
    Corner,
    CornerCut,
    FaceAxis,
    Hole,
    InLine,
    Mirrored,
    Offset,
    Operation,
    OutlinePoint,
    Polygon,
    Prism,
    Pyramid,
    Ring,
    Round,
    Slot,
    Strip,
    corner_places,
)
from holoptic.tolerance import ROUNDING
from holoptic.units import Length

MOST_COPIES = 60
_QUARTER = 90.0


def basics(operation: Operation, crate: Crate) -> tuple[Basic, ...]:
    """Return the basic operations that an operation comes down to; none where it is off.

    Raises ValueError with the reason for sizes and copies that cannot be.
    """
    if operation.off:
        return ()
    pieces = _pieces(counted_inward(operation, crate), crate)
    if operation.copies is None:
        return pieces
    return tuple(copy for piece in pieces for copy in _copies(piece, operation.copies, crate))


def counted_inward(operation: Operation, crate: Crate) -> Operation:
    """Return an operation with its depths counted inward from its face, in words too."""
    base = operation.base
    if base is None:
        return operation
    face = operation.face

    def depth(height: Length) -> Length:
        if not face.is_far:
            return minus(base, height)
        return minus(_end(face, crate), plus(base, height) if height.mm else base)

    if isinstance(operation, Ball | Ring):
        return replace(operation, start=depth(operation.start), base=None)
    start = _NOTHING if operation.end is None else depth(operation.end)
    changed: Operation = replace(operation, start=start, end=depth(operation.start), base=None)  # type: ignore[arg-type]
    return changed


# --- pieces -----------------------------------------------------------------------------------


def _pieces(operation: Operation, crate: Crate) -> tuple[Basic, ...]:
    if isinstance(operation, Hole):
        return _hole(operation)
    if isinstance(operation, Slot):
        return (_slot(operation, crate),)
    if isinstance(operation, Bevel):
        return (_bevel(operation, crate),)
    return (operation if operation.copies is None else replace(operation, copies=None),)


def _hole(hole: Hole) -> tuple[Round, ...]:
    bore = Round(hole.name, "cut", hole.face, hole.diameter, hole.u, hole.v, hole.start, hole.end)
    if hole.seat == "plain":
        return (bore,)
    wide = hole.seat_diameter
    if wide is None or wide.mm <= hole.diameter.mm:
        raise ValueError(tr("is {seat}: its seat must be wider than the hole", seat=hole.seat))
    if hole.seat == "counterbored":
        if hole.seat_depth is None or hole.seat_depth.mm <= 0:
            raise ValueError(tr("is counterbored: give the depth of its seat"))
        deep, far = hole.seat_depth, None
    else:
        if not 10 <= hole.seat_angle <= 170:
            raise ValueError(tr("is countersunk: its angle must lie between 10 and 170°"))
        drop = (wide.mm - hole.diameter.mm) / 2 / math.tan(math.radians(hole.seat_angle / 2))
        deep, far = figure(drop), hole.diameter
    seat = replace(bore, diameter=wide, end=plus(hole.start, deep), end_diameter=far)
    return seat, bore


def _slot(slot: Slot, crate: Crate) -> Prism:
    if slot.length.mm <= slot.width.mm:
        raise ValueError(tr("is a slot as long as it is wide: make it a hole, or longer"))
    centre_u, centre_v = _place(slot.u, slot.face, 0), _place(slot.v, slot.face, 1)
    half = Length(f"({slot.length.text}-{_product(slot.width)})/2",
                  (slot.length.mm - slot.width.mm) / 2)  # fmt: skip
    radius = Length(f"{_product(slot.width)}/2", slot.width.mm / 2)
    u, v = slot.centre_mm(crate)
    centre = Length(centre_u, u), Length(centre_v, v)
    round_end = Arc(radius, "left")
    corners = [
        Corner(minus(centre[0], half), minus(centre[1], radius)),
        Corner(plus(centre[0], half), minus(centre[1], radius), round_end),
        Corner(plus(centre[0], half), plus(centre[1], radius)),
        Corner(minus(centre[0], half), plus(centre[1], radius), round_end),
    ]
    outline: tuple[OutlinePoint, ...] = tuple(corners)
    if slot.turn % 180:
        outline = _turned_outline(outline, (u, v), slot.turn)
    return Prism(slot.name, slot.mode, slot.face, outline, slot.start, slot.end)


def _bevel(bevel: Bevel, crate: Crate) -> Prism:
    """Return a bevel as a triangle carried along its edge, on the face that the edge meets."""
    one, two = bevel.face, bevel.beside
    if one.normal_axis == two.normal_axis:
        raise ValueError(tr("is a bevel between faces that do not meet"))
    along = 3 - one.normal_axis - two.normal_axis
    ground = next(face for face in Face if face.normal_axis == along and not face.is_far)
    across = bevel.across or figure(bevel.across_mm())
    at_edge = {face.normal_axis: _end(face, crate) for face in (one, two)}
    # what is set off on one face leaves the other
    on_one = at_edge | {two.normal_axis: _inward(two, bevel.offset, crate)}
    on_two = at_edge | {one.normal_axis: _inward(one, across, crate)}
    outline = tuple(
        Corner(place[ground.axes[0]], place[ground.axes[1]]) for place in (at_edge, on_one, on_two)
    )
    return Prism(bevel.name, "cut", ground, outline, bevel.start, bevel.end)


def _end(face: Face, crate: Crate) -> Length:
    """Return where a face lies along its normal axis."""
    axis = face.normal_axis
    return Length(AXIS_LETTERS[axis], crate.sizes[axis]) if face.is_far else _NOTHING


def _inward(face: Face, length: Length, crate: Crate) -> Length:
    """Return the place so far inward from a face, along its normal axis."""
    return minus(_end(face, crate), length) if face.is_far else length


# --- copies -----------------------------------------------------------------------------------


def _copies(piece: Basic, copies: Copies, crate: Crate) -> list[Basic]:
    if isinstance(piece, CornerCut):
        raise ValueError(tr("is a corner of the crate: it can be neither repeated nor mirrored"))
    if isinstance(copies, Mirrored):
        return [piece, _mirrored(piece, copies.axis, crate)]
    if not 2 <= copies.count <= MOST_COPIES:
        raise ValueError(
            tr(
                "is repeated {count} times: choose from 2 to {most_copies}",
                count=copies.count,
                most_copies=MOST_COPIES,
            )
        )
    if isinstance(copies, InLine):
        return [_shifted(piece, copies, k) for k in range(copies.count)]
    return [_about(piece, copies, k, crate) for k in range(copies.count)]


def _shifted(piece: Basic, copies: InLine, k: int) -> Basic:
    if k == 0:
        return piece
    times = f"*{k}" if k > 1 else ""
    step = Length(f"{_product(copies.step)}{times}", copies.step.mm * k)
    if copies.axis == "w":
        end = None if piece.end is None else plus(piece.end, step)
        return _with(piece, start=plus(piece.start, step), end=end)
    which = 0 if copies.axis == "u" else 1
    if isinstance(piece, Prism | Strip):
        return _with(piece, outline=tuple(_moved(point, which, step) for point in piece.outline))
    offset: Offset = getattr(piece, copies.axis)
    moved = minus(offset.distance, step) if offset.far else plus(offset.distance, step)
    return _with(piece, **{copies.axis: replace(offset, distance=moved)})


def _moved(point: OutlinePoint, which: int, step: Length) -> OutlinePoint:
    if not isinstance(point, Corner):
        return point  # a slope follows the corner before it
    if which == 0:
        return replace(point, u=plus(point.u, step))
    return replace(point, v=plus(point.v, step))


def _about(piece: Basic, copies: AboutCentre, k: int, crate: Crate) -> Basic:
    whole = abs(abs(copies.angle) - 360.0) < ROUNDING
    turn = k * copies.angle / (copies.count if whole else copies.count - 1)
    if k == 0:
        return piece
    width, height = crate.face_size(piece.face)
    pivot = copies.u.from_near(width), copies.v.from_near(height)
    if isinstance(piece, Prism | Strip):
        return _with(piece, outline=_turned_outline(piece.outline, pivot, turn))
    if isinstance(piece, CornerCut):
        raise TypeError(tr("a corner cut is never repeated"))
    if isinstance(piece, Pyramid) and abs(turn / _QUARTER - round(turn / _QUARTER)) > ROUNDING:
        raise ValueError(
            tr("is a pyramid: it can be repeated about a centre in quarter turns only")
        )
    u, v = _turned(piece.centre_mm(crate), pivot, turn)
    moved: Basic = _with(piece, u=Offset(figure(u)), v=Offset(figure(v)))
    if isinstance(moved, Polygon):
        return _with(moved, turn=moved.turn + turn)
    if isinstance(moved, Pyramid) and round(turn / _QUARTER) % 2:
        return _with(moved, width=moved.height, height=moved.width,
                     end_width=moved.end_height, end_height=moved.end_width)  # fmt: skip
    return moved


def _mirrored(piece: Basic, axis: FaceAxis, crate: Crate) -> Basic:
    if axis == "w":
        through = Length(AXIS_LETTERS[piece.face.normal_axis], crate.thickness(piece.face))
        if isinstance(piece, Ball | Ring):
            return _with(piece, start=minus(through, piece.start))
        end = through if piece.end is None else piece.end
        return _with(piece, start=minus(through, end), end=minus(through, piece.start))
    which = 0 if axis == "u" else 1
    if isinstance(piece, Prism | Strip):
        size = Length(AXIS_LETTERS[piece.face.axes[which]], crate.face_size(piece.face)[which])
        return _with(piece, outline=_mirrored_outline(piece.outline, which, size))
    offset: Offset = getattr(piece, axis)
    if offset.centred:
        opposite = Offset(minus(_NOTHING, offset.distance), centred=True)
    else:
        opposite = Offset(offset.distance, far=not offset.far)
    moved = _with(piece, **{axis: opposite})
    if not isinstance(moved, Polygon):
        return moved
    # across u a corner at an angle a comes to lie at 180° - a, across v at -a
    return _with(moved, turn=-moved.turn if axis == "u" else 180.0 - moved.turn)


# --- outlines ---------------------------------------------------------------------------------


def _turned_outline(
    outline: tuple[OutlinePoint, ...], pivot: Vec2, turn: float
) -> tuple[OutlinePoint, ...]:
    places = (_turned(place, pivot, turn) for place in corner_places(outline))
    return tuple(
        Corner(figure(u), figure(v), point.arc)
        for point, (u, v) in zip(outline, places, strict=True)
    )


def _mirrored_outline(
    outline: tuple[OutlinePoint, ...], which: int, size: Length
) -> tuple[OutlinePoint, ...]:
    """Return an outline on the other side; its arcs turn the other way."""
    made = []
    for point, place in zip(outline, corner_places(outline), strict=True):
        own = (
            (point.u, point.v)
            if isinstance(point, Corner)
            else (figure(place[0]), figure(place[1]))
        )
        u, v = (minus(size, length) if k == which else length for k, length in enumerate(own))
        arc = point.arc and replace(point.arc, way="right" if point.arc.way == "left" else "left")
        made.append(Corner(u, v, arc))
    return tuple(made)


def _turned(place: Vec2, pivot: Vec2, turn: float) -> Vec2:
    cosine, sine = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    u, v = place[0] - pivot[0], place[1] - pivot[1]
    return (
        round(pivot[0] + u * cosine - v * sine, 9) + 0.0,
        round(pivot[1] + u * sine + v * cosine, 9) + 0.0,
    )


# --- sums -------------------------------------------------------------------------------------

_NOTHING = Length("0", 0.0)


def figure(mm: float) -> Length:
    """Return a length as a bare figure; the value is kept whole."""
    return Length(f"{mm:.4f}".rstrip("0").rstrip("."), mm)


def plus(one: Length, other: Length) -> Length:
    """Return the sum of two lengths, in words too."""
    if one.mm == 0 and not one.is_sum:
        return other
    return Length(f"{one.text}+{other.text}", one.mm + other.mm)


def minus(one: Length, other: Length) -> Length:
    """Return the difference of two lengths, in words too."""
    if other.mm == 0:
        return one
    return Length(f"{one.text}-{_product(other)}", one.mm - other.mm)


def _product(length: Length) -> str:
    """Return the words of a length so that they can be subtracted or multiplied."""
    several = any(mark in length.text[1:] for mark in "+-")
    return f"({length.text})" if several else length.text


def _place(offset: Offset, face: Face, which: int) -> str:
    """Return the words of a place on a face, counted from its near edge."""
    letter = AXIS_LETTERS[face.axes[which]]
    if offset.centred:
        return from_middle(letter, offset.distance)
    return f"{letter}-{_product(offset.distance)}" if offset.far else offset.distance.text


def from_middle(letter: str, distance: Length) -> str:
    """Return the words of a place so far from the middle of a crate size.

    >>> from_middle("D", Length("0", 0.0)), from_middle("L", Length("-7", -7.0))
    ('D/2', 'L/2-7')
    """
    if not distance.mm:
        return f"{letter}/2"
    words = distance.text
    return f"{letter}/2{words}" if words.startswith("-") else f"{letter}/2+{words}"


def _with(piece: Basic, **changes: object) -> Basic:
    """Return a piece with some of its fields exchanged."""
    changed: Basic = replace(piece, **changes)  # type: ignore[arg-type]
    return changed
