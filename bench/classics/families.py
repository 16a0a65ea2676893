"""Families of exercise solids, wide ones: of each sort a dice throws sizes, places and extras."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Sequence

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepFilletAPI import BRepFilletAPI_MakeChamfer, BRepFilletAPI_MakeFillet
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Edge, TopoDS_Shape

from bench.classics.shapes import (
    AXES,
    Point,
    ball,
    below,
    box,
    common,
    cone,
    cut,
    cylinder,
    fuse,
    hull,
    oblique,
    prism,
    ring,
    stood,
    turned,
    volume,
)

Dice = random.Random
Plane2 = tuple[float, float]
_UP = AXES[2]


def _mm(dice: Dice, low: float, high: float) -> float:
    return round(dice.uniform(low, high), 1)


def _ngon(count: int, radius: float, turn: float, centre: Plane2 = (0.0, 0.0)) -> list[Plane2]:
    """Return a regular polygon; `turn` degrees from a corner on the right."""
    angles = [math.radians(turn + 360 * k / count) for k in range(count)]
    return [(centre[0] + radius * math.cos(a), centre[1] + radius * math.sin(a)) for a in angles]


def _odd_polygon(dice: Dice, count: int, radius: float) -> list[Plane2]:
    """Return a convex polygon that is not regular, its corners on an oval."""
    while True:
        turns = sorted(dice.uniform(0, 360) for _ in range(count))
        gaps = [(b - a) % 360 for a, b in zip(turns, [*turns[1:], turns[0]], strict=True)]
        if min(gaps) > 150 / count and max(gaps) < 170:
            break
    flat = dice.uniform(0.7, 1.0)
    return [(round(radius * math.cos(math.radians(t)), 1),
             round(flat * radius * math.sin(math.radians(t)), 1)) for t in turns]  # fmt: skip


def _flat_turn(dice: Dice, count: int) -> float:
    """Return how a regular polygon stands: on a side, on a corner, or with one to a side."""
    return dice.choice((-90 + 180 / count, -90.0, 0.0, 180.0, 180 / count))


def _at(points: Sequence[Plane2], height: float) -> list[Point]:
    return [(x, y, height) for x, y in points]


def _polygon(dice: Dice, count: int, radius: float) -> list[Plane2]:
    if dice.random() < 0.6:
        return _ngon(count, radius, _flat_turn(dice, count))
    return _odd_polygon(dice, count, radius)


def lying_prism(dice: Dice) -> TopoDS_Shape:
    """Return a prism along any axis, on a side or an edge; hollow, stacked or stepped at times."""
    count, radius, long = dice.randint(3, 8), _mm(dice, 14, 28), _mm(dice, 30, 70)
    outline = _polygon(dice, count, radius)
    shape = prism(_at(outline, 0.0), (0, 0, long))
    extra = dice.choice(("none", "none", "hollow", "bore", "stacked", "two"))
    if extra == "hollow":
        share = dice.uniform(0.45, 0.7)
        inner = [(round(share * x, 3), round(share * y, 3)) for x, y in outline]
        shape = cut(shape, prism(_at(inner, -1.0), (0, 0, long + 2)))
    if extra == "bore":
        deep = dice.choice((long + 2, round(long * 0.6, 1)))
        shape = cut(shape, cylinder((0, 0, long + 1), (0, 0, -1), _mm(dice, 3, 5.5), deep))
    if extra == "stacked":
        other = _ngon(dice.randint(3, 8), radius * dice.uniform(0.35, 0.55), _flat_turn(dice, 4))
        shape = fuse(shape, prism(_at(other, long), (0, 0, _mm(dice, 8, 24))))
    axis = dice.randrange(3)
    shape = stood(shape, axis)
    if extra == "two":
        low = -radius - _mm(dice, 5, 10)
        size = radius + 6.0
        # what stands on an edge is let in a little
        let_in = dice.choice((0.0, 3.0)) if _rests(shape) else 3.0
        shape = fuse(shape, box((-size, -size, low), (size, size, _lowest(shape) + let_in)))
    return shape


def _rests(shape: TopoDS_Shape) -> bool:
    """Say whether it stands on a face, not on an edge or a corner."""
    low = _lowest(shape)
    below_it = common(shape, box((-999, -999, low - 1), (999, 999, low + 0.01)))
    return volume(below_it) > 0.5


def _lowest(shape: TopoDS_Shape) -> float:
    from OCP.Bnd import Bnd_Box
    from OCP.BRepBndLib import BRepBndLib

    found = Bnd_Box()
    BRepBndLib.AddOptimal_s(shape, found, False, False)
    return float(found.CornerMin().Z())


def pyramid(dice: Dice) -> TopoDS_Shape:
    """Return a pyramid: right or oblique, whole or cut, upside down, hollow, on a slab."""
    count, radius, high = dice.randint(3, 8), _mm(dice, 16, 30), _mm(dice, 24, 50)
    base = _polygon(dice, count, radius)
    tip = (0.0, 0.0) if dice.random() < 0.6 else (_mm(dice, -18, 18), _mm(dice, -18, 18))
    shape = hull(_at(base, 0.0), [(*tip, high)])
    sort = dice.choice(("whole", "whole", "level", "slanting", "hollow", "slab"))
    if sort == "level":
        top = round(high * dice.uniform(0.4, 0.8), 1)
        shape = common(shape, box((-99, -99, -1), (99, 99, top)))
    if sort == "slanting":
        shape = common(shape, _slanting(dice, high))
    if sort == "hollow":
        shape = cut(shape, cylinder((0, 0, -1), _UP, radius * 0.22, high * 0.35 + 1))
    if sort == "slab":
        size, thick = radius + _mm(dice, 2, 8), _mm(dice, 6, 12)
        return fuse(shape, box((-size, -size, -thick), (size, size, 0)))
    way = dice.random()
    if way < 0.2:
        return turned(shape, AXES[0], 180)
    return stood(shape, dice.randrange(3)) if way < 0.5 else shape


def _slanting(dice: Dice, high: float) -> TopoDS_Shape:
    """Return what lies below a plane that is edge-on in front or side view."""
    slope = dice.uniform(0.25, 0.6) * dice.choice((-1, 1))
    normal = (slope, 0.0, 1.0) if dice.random() < 0.5 else (0.0, slope, 1.0)
    return below((0.0, 0.0, high * dice.uniform(0.4, 0.6)), normal)


def cone_like(dice: Dice) -> TopoDS_Shape:
    """Return a cone or frustum on any axis, whole, cut, bored, on a disc or block, or half."""
    radius, high = _mm(dice, 14, 26), _mm(dice, 24, 52)
    top = dice.choice((0.0, 0.0, round(radius * dice.uniform(0.3, 0.75), 1)))
    shape = cone((0, 0, 0), _UP, radius, top, high)
    sort = dice.choice(("whole", "slanting", "bore", "disc", "block", "half", "counterbore"))
    if sort == "slanting":
        shape = common(shape, _slanting(dice, high))
    if sort in ("bore", "counterbore"):
        bore = round((top or radius * 0.4) * dice.uniform(0.4, 0.7), 1)
        shape = cut(shape, cylinder((0, 0, -1), _UP, bore, high + 2 if top else high * 0.4))
        if sort == "counterbore":
            wide = round(bore + (radius - bore) * 0.4, 1)
            shape = cut(shape, cylinder((0, 0, -1), _UP, wide, 1 + high * 0.15))
    if sort == "disc":
        thick = _mm(dice, 5, 10)
        wide = radius + dice.choice((0.0, _mm(dice, 3, 8)))
        shape = fuse(shape, cylinder((0, 0, -thick), _UP, wide, thick))
    if sort == "block":
        size, thick = radius + dice.choice((0.0, _mm(dice, 3, 8))), _mm(dice, 6, 12)
        shape = fuse(shape, box((-size, -size, -thick), (size, size, 0)))
    if sort == "half":
        shape = common(shape, box((-99, 0, -99), (99, 99, 99)))
    return stood(shape, dice.randrange(3)) if sort != "block" or dice.random() < 0.3 else shape


def oblique_cone(dice: Dice) -> TopoDS_Shape:
    """Return a cone whose tip does not stand over the middle of its base: whole, cut level or by a
    slanting plane, on a disc or a block, bored, upside down, along each axis.
    """
    radius, high = _mm(dice, 14, 24), _mm(dice, 26, 48)
    tip = _mm(dice, -22, 22), dice.choice((0.0, _mm(dice, -12, 12))), high
    shape = oblique(radius, tip)
    sort = dice.choice(("whole", "whole", "level", "slanting", "disc", "block", "bore"))
    top = round(high * dice.uniform(0.35, 0.6), 1)
    if sort in ("level", "disc", "bore"):
        shape = cut(shape, box((-99, -99, top), (99, 99, 99)))
    if sort == "slanting":
        shape = common(shape, _slanting(dice, high))
    thick = _mm(dice, 5, 10)
    if sort == "disc":
        wide = radius + _mm(dice, 3, 8)
        shape = fuse(shape, cylinder((0, 0, -thick), _UP, wide, thick))
    if sort == "block":
        size = radius + _mm(dice, 3, 8)
        shape = fuse(shape, box((-size, -size, -thick), (size, size, 0)))
    if sort == "bore":
        share = top / high
        drill = round(radius * (1 - share) * dice.uniform(0.4, 0.7), 1)
        at = round(tip[0] * share / 2, 1), round(tip[1] * share / 2, 1), -1
        if abs(tip[0] * share / 2) + drill < radius * (1 - share):
            shape = cut(shape, cylinder(at, _UP, drill, 99))
    return stood(shape, dice.randrange(3))


def shaft(dice: Dice) -> TopoDS_Shape:
    """Return a cylinder with flats, a keyway, a cross hole, a shoulder or a slanting end."""
    radius, long = _mm(dice, 12, 22), _mm(dice, 40, 80)
    shape = cylinder((0, 0, 0), _UP, radius, long)
    if dice.random() < 0.4:
        shape = fuse(shape, cylinder((0, 0, long), _UP, round(radius * dice.uniform(0.5, 0.8), 1),
                                     _mm(dice, 10, 20)))  # fmt: skip
    sorts = dice.sample(("flat", "flats", "keyway", "hole", "end"), dice.randint(1, 2))
    deep = round(radius * dice.uniform(0.5, 0.8), 1)
    if "flat" in sorts:
        shape = cut(shape, box((-99, deep, round(long * 0.55, 1)), (99, 99, 199)))
    elif "flats" in sorts:
        top = round(long * 0.4, 1)
        one, other = box((-99, deep, -1), (99, 99, top)), box((-99, -99, -1), (99, -deep, top))
        shape = cut(shape, one, other)
    if "keyway" in sorts:
        wide = _mm(dice, 3, 5)
        floor = round(radius * dice.uniform(0.6, 0.8), 1)
        shape = cut(shape, box((-wide, -99, -1), (wide, -floor, round(long * 0.45, 1))))
    if "hole" in sorts:
        bore = dice.choice((radius, round(radius * dice.uniform(0.25, 0.6), 1)))
        if bore == radius:
            shape = fuse(shape, cylinder((-radius * 2, 0, long * 0.5), AXES[0], bore, radius * 4))
        else:
            shape = cut(shape, cylinder((-99, 0, round(long * 0.5, 1)), AXES[0], bore, 198))
    if "end" in sorts:
        slope = dice.uniform(0.3, 0.8)
        shape = common(shape, below((0, 0, round(long * 0.8, 1)), (slope, 0, 1)))
    return stood(shape, dice.randrange(3))


def tube(dice: Dice) -> TopoDS_Shape:
    """Return a tube with cross holes and slots."""
    radius, long = _mm(dice, 14, 24), _mm(dice, 36, 70)
    inner = round(radius * dice.uniform(0.5, 0.8), 1)
    shape = cut(cylinder((0, 0, 0), _UP, radius, long), cylinder((0, 0, -1), _UP, inner, long + 2))
    for extra in dice.sample(("hole", "blind", "slot", "flange"), dice.randint(1, 2)):
        if extra in ("hole", "blind"):
            bore = round(inner * dice.uniform(0.3, 0.8), 1)
            start = -99.0 if extra == "hole" else 0.0
            shape = cut(shape, cylinder((start, 0, round(long * 0.62, 1)), AXES[0], bore, 199))
        if extra == "slot":
            wide = round(inner * dice.uniform(0.2, 0.6), 1)
            shape = cut(shape, box((-wide, -99, -1), (wide, dice.choice((0.0, 99.0)),
                                                      round(long * 0.3, 1))))  # fmt: skip
        if extra == "flange":
            wide, thick = radius + _mm(dice, 4, 9), _mm(dice, 4, 8)
            shape = fuse(shape, cut(cylinder((0, 0, long - thick), _UP, wide, thick),
                                    cylinder((0, 0, 0), _UP, inner, long + 2)))  # fmt: skip
    return stood(shape, dice.randrange(3))


def ball_like(dice: Dice) -> TopoDS_Shape:
    """Return a ball, a part of one, one with flats or a hole, or one on a neck."""
    radius = _mm(dice, 14, 26)
    shape = ball((0, 0, 0), radius)
    sort = dice.choice(("whole", "half", "flat", "flats", "hole", "neck", "quarter", "slab"))
    deep = round(radius * dice.uniform(0.4, 0.85), 1)
    if sort == "half":
        shape = common(shape, box((-99, -99, 0), (99, 99, 99)))
    if sort == "quarter":
        shape = common(shape, box((0, -99, 0), (99, 99, 99)))
    if sort == "flat":
        shape = common(shape, box((-99, -99, -deep), (99, 99, 99)))
    if sort == "flats":
        shape = common(shape, box((-99, -99, -deep), (99, 99, deep)))
    if sort == "hole":
        shape = cut(shape, cylinder((0, 0, -99), _UP, round(radius * 0.35, 1), 198))
    if sort == "neck":
        neck = round(radius * dice.uniform(0.35, 0.6), 1)
        shape = fuse(shape, cylinder((0, 0, -radius - _mm(dice, 10, 24)), _UP, neck, radius + 30))
        shape = fuse(shape, cylinder((0, 0, 0), _UP, neck, 1.0))
        shape = common(shape, box((-99, -99, -99), (99, 99, radius)))
    if sort == "slab":
        size = radius + _mm(dice, 2, 8)
        shape = fuse(common(shape, box((-99, -99, 0), (99, 99, 99))),
                     box((-size, -size, -_mm(dice, 6, 12)), (size, size, 0)))  # fmt: skip
    return stood(shape, dice.randrange(3))


def rounded(dice: Dice) -> TopoDS_Shape:
    """Return a ring, a block with rounded edges, or a disc whose round edges are broken."""
    sort = dice.choice(("ring", "edges", "three", "disc", "chamfer", "inside"))
    if sort == "ring":
        thick = _mm(dice, 4, 8)
        return stood(ring((0, 0, 0), _UP, thick + _mm(dice, 6, 18), thick), dice.randrange(3))
    if sort in ("disc", "chamfer"):
        radius, long = _mm(dice, 14, 26), _mm(dice, 14, 40)
        shape = cylinder((0, 0, 0), _UP, radius, long)
        if dice.random() < 0.5:
            shape = cut(shape, cylinder((0, 0, -1), _UP, round(radius * 0.4, 1), long + 2))
        rims = [e for e in _edges(shape) if _is_round(e, radius)]
        size = _mm(dice, 1.5, 4)
        sorts = {"disc": BRepFilletAPI_MakeFillet, "chamfer": BRepFilletAPI_MakeChamfer}
        make = sorts[sort](shape)
        for rim in rims[: dice.randint(1, len(rims))]:
            make.Add(size, rim)
        return stood(make.Shape(), dice.randrange(3))
    a, b, c = _mm(dice, 40, 70), _mm(dice, 30, 50), _mm(dice, 24, 44)
    shape = box((0, 0, 0), (a, b, c))
    size = _mm(dice, 4, 9)
    if sort == "inside":
        at = round(a * 0.4, 1), round(c * 0.4, 1)
        shape = cut(shape, box((at[0], -1, at[1]), (a + 1, b + 1, c + 1)))
        inner = [e for e in _edges(shape) if _is_along(e, 1, at)]
        make = BRepFilletAPI_MakeFillet(shape)
        for edge in inner:
            make.Add(size, edge)
        return make.Shape()
    make = BRepFilletAPI_MakeFillet(shape)
    edges = _edges(shape)
    if sort == "three":
        for edge in edges:
            if all(abs(x - y) < 1e-6 for x, y in zip(_far(edge), (a, 0.0, c), strict=True)):
                make.Add(size, edge)
        return make.Shape()
    for edge in dice.sample(edges, 1):
        make.Add(size, edge)
    return make.Shape()


def _edges(shape: TopoDS_Shape) -> list[TopoDS_Edge]:
    found: list[TopoDS_Edge] = []
    explorer = TopExp_Explorer(shape, TopAbs_ShapeEnum.TopAbs_EDGE)
    while explorer.More():
        edge = TopoDS.Edge(explorer.Current())
        if not any(edge.IsSame(other) for other in found):
            found.append(edge)
        explorer.Next()
    return found


def _ends(edge: TopoDS_Edge) -> tuple[Point, Point]:
    curve = BRepAdaptor_Curve(edge)
    a, b = (curve.Value(t) for t in (curve.FirstParameter(), curve.LastParameter()))
    return (a.X(), a.Y(), a.Z()), (b.X(), b.Y(), b.Z())


def _far(edge: TopoDS_Edge) -> Point:
    """Return the end of an edge that lies at the right, in front and above."""
    return max(_ends(edge), key=lambda p: p[0] - p[1] + p[2])


def _is_round(edge: TopoDS_Edge, radius: float) -> bool:
    curve = BRepAdaptor_Curve(edge)
    return (curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle
            and abs(curve.Circle().Radius() - radius) < 1e-6)  # fmt: skip


def _is_along(edge: TopoDS_Edge, axis: int, at: Plane2) -> bool:
    others = [k for k in range(3) if k != axis]
    return all(abs(p[k] - x) < 1e-6 for p in _ends(edge) for k, x in zip(others, at, strict=True))


def on_slope(dice: Dice) -> TopoDS_Shape:
    """Return a wedge with a hole square to its slope, a slot in it, or a boss on it."""
    a, b, c = _mm(dice, 50, 80), _mm(dice, 32, 50), _mm(dice, 34, 54)
    low = round(c * dice.uniform(0.2, 0.5), 1)
    start = round(a * dice.uniform(0.1, 0.35), 1)
    outline = [(0.0, 0.0, 0.0), (a, 0.0, 0.0), (a, 0.0, low), (start, 0.0, c), (0.0, 0.0, c)]
    shape = prism(outline, (0, b, 0))
    run, rise = a - start, c - low
    size = math.hypot(run, rise)
    normal = (rise / size, 0.0, run / size)
    middle = ((start + a) / 2, round(b * dice.uniform(0.4, 0.6), 1), (c + low) / 2)
    sort = dice.choice(("hole", "blind", "slot", "cross slot", "boss"))
    radius = round(min(b, size) * dice.uniform(0.12, 0.2), 1)
    if sort == "hole":
        start_at = tuple(m + 60 * n for m, n in zip(middle, normal, strict=True))
        shape = cut(shape, cylinder(start_at, tuple(-n for n in normal), radius, 160))
    if sort in ("blind", "boss"):
        deep = _mm(dice, 6, 10)
        way = normal if sort == "boss" else tuple(-n for n in normal)
        start = tuple(m - 3 * w for m, w in zip(middle, way, strict=True))
        pin = cylinder(start, way, radius, deep + 3)
        shape = fuse(shape, pin) if sort == "boss" else cut(shape, pin)
    if sort == "slot":
        deep = _mm(dice, 4, 8)
        y = middle[1]
        floor = [tuple(m - deep * n for m, n in zip(middle, normal, strict=True))]
        point = floor[0]
        tool = common(box((-99, y - radius, -99), (199, y + radius, 199)),
                      below(point, tuple(-n for n in normal)))  # fmt: skip
        shape = cut(shape, tool)
    if sort == "cross slot":
        deep, wide = _mm(dice, 4, 8), radius
        along = (run / size, 0.0, -rise / size)
        corners = [
            tuple(m + s * wide * t + h * n for m, t, n in zip(middle, along, normal, strict=True))
            for s, h in ((-1, -deep), (1, -deep), (1, 30), (-1, 30))
        ]
        tool = prism([(x, -1.0, z) for x, _, z in corners], (0, b + 2, 0))
        shape = cut(shape, tool)
    return stood(shape, dice.choice((2, 2, 0, 1)))


def ribbed(dice: Dice) -> TopoDS_Shape:
    """Return an upright cylinder on a base with ribs that run up to it."""
    radius, high = _mm(dice, 10, 16), _mm(dice, 34, 54)
    base = _mm(dice, 6, 10)
    reach = radius + _mm(dice, 14, 24)
    thick = round(radius * dice.uniform(0.25, 0.6), 1)
    square = dice.random() < 0.5
    shape = (box((-reach, -reach, 0), (reach, reach, base)) if square
             else cylinder((0, 0, 0), _UP, reach, base))  # fmt: skip
    shape = fuse(shape, cylinder((0, 0, 0), _UP, radius, high))
    end = round(reach * 0.92, 1)
    top = round(base + (high - base) * dice.uniform(0.5, 0.85), 1)
    for turn in dice.choice(((0,), (0, 180), (0, 90, 180, 270))):
        outline = [(0.0, -thick, base), (end, -thick, base), (radius * 0.7, -thick, top),
                   (0.0, -thick, top)]  # fmt: skip
        shape = fuse(shape, turned(prism(outline, (0, 2 * thick, 0)), _UP, turn))
    if dice.random() < 0.6:
        shape = cut(shape, cylinder((0, 0, -1), _UP, round(radius * 0.5, 1), high + 2))
    return shape


def skew_cut(dice: Dice) -> TopoDS_Shape:
    """Return a block, stepped at times, cut by a plane through three points anywhere."""
    a, b, c = _mm(dice, 44, 76), _mm(dice, 34, 56), _mm(dice, 30, 50)
    shape = box((0, 0, 0), (a, b, c))
    if dice.random() < 0.4:
        shape = cut(shape, box((-1, -1, round(c * 0.6, 1)), (round(a * 0.35, 1), b + 1, c + 1)))
    while True:
        signs = [dice.choice((-1, 1)), dice.choice((-1, 1)), 1]
        reach = [dice.uniform(0.35, 1.2) * size for size in (a, b, c)]
        corner = [a if signs[0] > 0 else 0.0, b if signs[1] > 0 else 0.0, c]
        points = []
        for k in range(3):
            p = list(corner)
            p[k] = round(p[k] - signs[k] * reach[k], 1)
            points.append(p)
        normal = tuple(s / r for s, r in zip(signs, reach, strict=True))
        made = common(shape, below(tuple(points[0]), normal))  # type: ignore[arg-type]
        if made is not None:
            return made


FAMILIES: dict[str, Callable[[Dice], TopoDS_Shape]] = {
    "lying prisms": lying_prism,
    "any pyramids": pyramid,
    "any cones": cone_like,
    "oblique cones": oblique_cone,
    "shafts": shaft,
    "tubes": tube,
    "balls": ball_like,
    "rings and rounds": rounded,
    "on slopes": on_slope,
    "ribs to cylinders": ribbed,
    "skew planes": skew_cut,
}

LAMP_PARTS = {
    "lying prisms": "ridge bar",
    "any pyramids": "roof point",
    "any cones": "smoke funnel",
    "oblique cones": "wind scoop",
    "shafts": "hoist spindle",
    "tubes": "burner sleeve",
    "balls": "finial",
    "rings and rounds": "lens seat",
    "on slopes": "hinge wedge",
    "ribs to cylinders": "stay socket",
    "skew planes": "corner shoe",
}
"""What each sort is at the Skerry Lamp Works."""
