"""Over forty solids of our own: planes, cones, balls, rings, spline faces, skew and crossing."""

from __future__ import annotations

import math

from csg import Ball, Body, Column, Cone, Ring, Taper, Turned, body, box, cylinder, regular

_X, _Y, _Z = (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)


def _plane_solids() -> list[Body]:
    block = body("gallery step", box(84, 46, 37.5))
    wedge = Column(((0, 0), (47, 0), (0, 29.5)), 31, at=(-1, 14, 0), axis=_X, degrees=90)
    return [
        block.minus(box(40, 60, 30, at=(57.5, -5, 20))),
        body("skew corner cut", box(61, 43.5, 29)).minus(
            box(80, 80, 80, at=(40, -10, 14), axis=(1, 2, 0.4), degrees=37)
        ),
        body("wedge foot", box(72.5, 38, 13.5)).plus(
            Column(((0, 0), (49, 0), (0, 27.5)), 38, at=(0, 38, 13.5), axis=_X, degrees=90)
        ),
        body("turned block", box(52, 33.5, 21, axis=(0.3, 0.2, 1), degrees=27)).minus(
            box(30, 60, 30, at=(31, -10, 12.5), axis=(0.3, 0.2, 1), degrees=27)
        ),
        body("notched wedge", wedge).minus(box(14, 12, 40, at=(9, -4, -5))),
        body("hexagonal pedestal", regular(6, 31.5, 17.5)).plus(
            regular(6, 20.5, 14, at=(0, 0, 17.5))
        ),
        body("vent cowl", Taper(4, 41, 23, 27.5, axis=_Z, degrees=45)),
        body("hollow cowl", Taper(4, 41, 23, 27.5)).minus(Taper(4, 36, 18, 27.5, at=(0, 0, -0.5))),
        body("eight-sided cowl", Taper(8, 33, 14.5, 22)).plus(box(12, 9, 31, at=(-6, -4.5, 0))),
        body("two bodies", box(30, 22, 17)).plus(box(13, 40, 11, at=(41, -7, 6))),
        body("bridge", box(70, 26, 33)).minus(
            box(34, 40, 21.5, at=(18, -5, -1)), box(9.5, 40, 8, at=(30, -5, 27))
        ),
    ]


def _drilled_solids() -> list[Body]:
    plate = body("counterbored flange", cylinder(39, 13.5)).minus(cylinder(15.5, 20, at=(0, 0, -3)))
    for i in range(6):
        turn = math.radians(60 * i + 11)
        x, y = 27.5 * math.cos(turn), 27.5 * math.sin(turn)
        plate = plate.minus(cylinder(3.4, 20, at=(x, y, -3)), cylinder(5.7, 9, at=(x, y, 8.2)))
    block = box(58, 41, 26)
    return [
        plate,
        body("through hole", block).minus(cylinder(11.2, 40, at=(27, 19, -5))),
        body("deep thin hole", block).minus(cylinder(3.1, 40, at=(21, 23, -5))),
        body("blind hole", block).minus(cylinder(9.4, 40, at=(27, 19, 12.5))),
        body("countersunk hole", block).minus(
            cylinder(5.2, 40, at=(27, 19, -5)), Cone(5.2, 12.2, 7, at=(27, 19, 19.5)),
            cylinder(12.2, 5, at=(27, 19, 26.0 - 1e-9)),
        ),
        body("skew hole", block).minus(
            cylinder(7.3, 90, at=(9, 5, -20), axis=(0.4, -1, 0.2), degrees=-34)
        ),
        body("crossing holes", block).minus(
            cylinder(8.1, 60, at=(31, -5, 13), axis=_X, degrees=-90),
            cylinder(6.2, 80, at=(-5, 20, 13), axis=_Y, degrees=90),
        ),
        body("half open hole", block).minus(cylinder(10.4, 40, at=(30, 4, -5))),
        body("slot with round ends", box(66, 27, 9)).minus(
            box(31, 8.6, 20, at=(16, 9, -5)), cylinder(4.3, 20, at=(16, 13.3, -5)),
            cylinder(4.3, 20, at=(47, 13.3, -5)),
        ),
        body("hole in a slope", box(55, 36, 30)).minus(
            box(90, 80, 60, at=(18, -20, 30), axis=_Y, degrees=31),
            cylinder(7.7, 60, at=(37, 17, -5)),
        ),
    ]  # fmt: skip


def _round_solids() -> list[Body]:
    bracket = (
        body("round-ended bracket", box(62, 14.5, 21))
        .plus(cylinder(31, 14.5, at=(31, 14.5, 21), axis=_X, degrees=90))
        .minus(cylinder(13.2, 40, at=(31, 30, 21), axis=_X, degrees=90))
    )
    roof = body("roof cone and ball", cylinder(29, 5.5)).plus(
        Cone(25.5, 4.2, 27, at=(0, 0, 5.5)), Ball(7.3, at=(0, 0, 36))
    )
    return [
        bracket,
        roof,
        body("ball", Ball(21.5)),
        body("half ball", Ball(23)).minus(box(90, 90, 40, at=(-45, -45, -40))),
        body("drilled ball", Ball(23)).minus(cylinder(8.4, 60, at=(0, 0, -30))),
        body("skew-drilled ball", Ball(24.5)).minus(
            cylinder(7.2, 90, at=(0, 4, -45), axis=(1, 0.3, 0), degrees=29)
        ),
        body("cone", Cone(24, 0, 41)),
        body("flat cone", Cone(31, 0, 8.5)),
        body("cone frustum", Cone(26, 11.5, 23)).minus(cylinder(6.4, 40, at=(0, 0, -5))),
        body("leaning cone", Cone(19, 6.5, 30, axis=(1, 0.4, 0), degrees=24)),
        body("notched cone", Cone(27, 9, 33)).minus(box(60, 60, 40, at=(6, -30, 14))),
        body("sloped cylinder", cylinder(18.5, 44)).minus(
            box(120, 120, 60, at=(-50, -60, 26), axis=_Y, degrees=22)
        ),
        body("crossing cylinders", cylinder(14.5, 62)).plus(
            cylinder(10.2, 68, at=(-34, 0, 29), axis=_Y, degrees=90)
        ),
        body("equal crossing cylinders", cylinder(12.5, 58, at=(0, 0, -29))).plus(
            cylinder(12.5, 58, at=(-29, 0, 0), axis=_Y, degrees=90)
        ),
        body("skew crossing cylinders", cylinder(16, 50)).plus(
            cylinder(8.8, 55, at=(0, 5, 18), axis=(0.2, 1, 0), degrees=63)
        ),
        body("stepped shaft", cylinder(9.5, 21)).plus(
            cylinder(17, 11, at=(0, 0, 21)), cylinder(6.3, 26, at=(0, 0, 32))
        ),
        body("lying tube", cylinder(20.5, 47, axis=_Y, degrees=90)).minus(
            cylinder(15.5, 60, at=(-5, 0, 0), axis=_Y, degrees=90)
        ),
        body("cut tube", cylinder(22, 36)).minus(
            cylinder(16.5, 50, at=(0, 0, -5)), box(50, 50, 30, at=(-4, -60, 13))
        ),
    ]


def _ring_solids() -> list[Body]:
    ring = Ring(26, 8.5)
    lens = body("lens ring", cylinder(31, 11)).minus(
        Cone(27, 22, 14, at=(0, 0, -1)), Ring(31, 3.1, at=(0, 0, 5.5))
    )
    return [
        body("ring", ring),
        body("leaning ring", Ring(24, 6.5, axis=(1, 0.3, 0), degrees=38)),
        body("half ring", ring).minus(box(90, 60, 60, at=(-45, -60, -30))),
        body("ring on a plate", box(76, 76, 9, at=(-38, -38, -9))).plus(ring),
        lens,
        body("hook", cylinder(6.2, 34, at=(21, 0, 0))).plus(Ring(21, 6.2, axis=_X, degrees=90)),
        body("chimney", Turned((16, 27, 3, 21, 12), 52)),
        body("drilled chimney", Turned((19, 8, 26, 14), 43)).minus(
            cylinder(5.2, 80, at=(-40, 0, 20), axis=_Y, degrees=90)
        ),
        body("vase with a foot", Turned((12, 12, 25, 17), 37, at=(0, 0, 7))).plus(
            box(33, 33, 7, at=(-16.5, -16.5, 0))
        ),
    ]


SOLIDS = (*_plane_solids(), *_drilled_solids(), *_round_solids(), *_ring_solids())
KINDS = ("isometric", "dimetric", "trimetric:18:31", "cavalier", "cabinet", "plan-oblique:35:0.8")
CORNERS = ("front-right", "front-left", "rear-right", "rear-left-below", "front-right-below",
           "rear-left")  # fmt: skip
