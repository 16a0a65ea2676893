"""Outlines of faces taken together: closed runs of straight sides and arcs."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable

from holoptic.curves.vectors import Vec2
from holoptic.reading.faces import Faces
from holoptic.reading.outline import Outline, Side
from holoptic.reading.pieces import ViewPiece
from holoptic.tolerance import DRAWN_MM, SHARE, THOUSANDTHS_MM


class Neighbours:
    """Which faces lie on either side of each piece of a view."""

    def __init__(self, faces: Faces) -> None:
        self.pieces = faces.pieces
        self.beside: list[tuple[int, int]] = []
        for piece in faces.pieces:
            place = piece.at(0.4937)
            x, y = piece.normal_at(place)
            self.beside.append((
                faces.face_at((place[0] + THOUSANDTHS_MM * x, place[1] + THOUSANDTHS_MM * y)),
                faces.face_at((place[0] - THOUSANDTHS_MM * x, place[1] - THOUSANDTHS_MM * y)),
            ))  # fmt: skip

    def groups(
        self, faces: set[int], over: Callable[[ViewPiece], bool] = lambda _: True
    ) -> list[frozenset[int]]:
        """Return faces in groups that hang together over a common line, of some lines."""
        left, found = set(faces), []
        joined: dict[int, set[int]] = defaultdict(set)
        for piece, (a, b) in zip(self.pieces, self.beside, strict=True):
            if a in faces and b in faces and over(piece):
                joined[a].add(b)
                joined[b].add(a)
        while left:
            group, todo = set(), [left.pop()]
            while todo:
                face = todo.pop()
                group.add(face)
                todo += [other for other in joined[face] if other not in group]
            left -= group
            found.append(frozenset(group))
        return found

    def outlines(self, faces: frozenset[int]) -> list[Outline] | None:
        """Return the outlines of faces taken together, or None where they do not close."""
        ways: dict[Vec2, list[tuple[Vec2, ViewPiece, bool]]] = defaultdict(list)
        for piece, (positive, negative) in zip(self.pieces, self.beside, strict=True):
            if (positive in faces) == (negative in faces):
                continue
            # the faces lie left of the way we go
            forward = _is_left_of(piece) == (positive in faces)
            start, end = (piece.start, piece.end) if forward else (piece.end, piece.start)
            ways[start].append((end, piece, forward))
        found = []
        while ways:
            loop = _walk(ways)
            if loop is None:
                return None
            found.append(Outline(tuple(_joined(loop))))
        return found


def _is_left_of(piece: ViewPiece) -> bool:
    """Say whether a piece's normal points to the left of the way from its start to its end."""
    place = piece.at(0.4937)
    x, y = piece.normal_at(place)
    ahead = piece.at(0.6)
    return (ahead[0] - place[0]) * y - (ahead[1] - place[1]) * x > 0


def _walk(ways: dict[Vec2, list[tuple[Vec2, ViewPiece, bool]]]) -> list[Side] | None:
    """Take one closed loop out of the ways; where several go on, the sharpest left turn."""
    start = at = next(iter(ways))
    loop: list[Side] = []
    while not loop or at != start:
        onward = ways.get(at)
        if not onward:
            return None
        onward.sort(key=lambda way: _turn(loop[-1], at, way[1], way[2]) if loop else 0.0)
        end, piece, _ = onward.pop()
        if not onward:
            del ways[at]
        left = True
        if piece.centre is not None:
            (ax, ay), (bx, by), (cx, cy) = at, end, piece.centre
            left = (ax - cx) * (by - cy) - (ay - cy) * (bx - cx) > 0
        loop.append(Side(at, end, piece.centre, piece.radius, left))
        at = end
    return loop


def _turn(before: Side, at: Vec2, piece: ViewPiece, forward: bool) -> float:
    """Return how far a way turns to the left from the side before it."""
    ahead = piece.at(0.02 if forward else 0.98)
    if before.centre is None:
        came = at[0] - before.start[0], at[1] - before.start[1]
    else:
        x, y = at[0] - before.centre[0], at[1] - before.centre[1]
        came = (-y, x) if before.left else (y, -x)
    turn = math.atan2(ahead[1] - at[1], ahead[0] - at[0]) - math.atan2(came[1], came[0])
    return (turn + math.pi) % math.tau - math.pi


def _joined(loop: list[Side]) -> list[Side]:
    """Join sides that run on in one line or round one centre."""
    found = list(loop)
    k = 0
    while len(found) > 1 and k < len(found):
        one, two = found[k], found[(k + 1) % len(found)]
        both = _together(one, two)
        if both is None:
            k += 1
            continue
        following = (k + 1) % len(found)
        found[k] = both
        del found[following]
        k = max(k - 1, 0) if following else max(len(found) - 1, 0)
    return found


def _together(one: Side, two: Side) -> Side | None:
    if (one.centre is None) != (two.centre is None):
        return None
    if one.centre is None or two.centre is None:
        (a, b), (c, d), (e, f) = one.start, one.end, two.end
        sine = (c - a) * (f - d) - (d - b) * (e - c)
        size = math.hypot(c - a, d - b) * math.hypot(e - c, f - d)
        ahead = (c - a) * (e - c) + (d - b) * (f - d) > 0
        return Side(one.start, two.end) if ahead and abs(sine) < SHARE * size else None
    same = math.dist(one.centre, two.centre) < DRAWN_MM and abs(one.radius - two.radius) < DRAWN_MM
    if not same or one.left != two.left:
        return None
    return Side(one.start, two.end, one.centre, one.radius, one.left)
