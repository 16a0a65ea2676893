"""Set-offs: where on the crate does a distance go, from which edge, along which axis."""

from __future__ import annotations

import math
import random
from dataclasses import dataclass, replace

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.part import Face
from holoptic.pictorial import view_of
from holoptic.practice.crates import NEAR, DrawnCrate, corner_words, random_sizes
from holoptic.practice.exercise import Exercise, NotMade, Places
from holoptic.practice.eye import Eye
from holoptic.practice.sketching import LETTERS, letter

_KINDS = (
    ("isometric",), ("isometric", "cavalier"), ("cabinet",), ("cabinet", "dimetric"),
    ("cabinet", "dimetric", "plan-oblique", "isometric"),
)  # fmt: skip
_APART_MM = 5.5
_WANTED = (4, 4, 5, 5, 6)


@dataclass(frozen=True)
class _Wish:
    """Two distances on a face, each from one of its two edges."""

    face: Face
    off: tuple[int, int]
    is_far: tuple[bool, bool]

    def place(self, crate: DrawnCrate) -> Vec2:
        sizes = [crate.sizes[axis] for axis in self.face.axes]
        u, v = (size - off if far else off
                for size, off, far in zip(sizes, self.off, self.is_far, strict=True))  # fmt: skip
        point = [0.0, 0.0, 0.0]
        point[self.face.axes[0]], point[self.face.axes[1]] = u, v
        point[self.face.normal_axis] = (
            crate.sizes[self.face.normal_axis] if self.face.is_far else 0.0
        )
        return crate.at((point[0], point[1], point[2]))

    @property
    def words(self) -> tuple[str, str]:
        return tuple(  # type: ignore[return-value]
            tr("{off} from the {edge}", off=off, edge=names[far])
            for off, far, names in zip(self.off, self.is_far, self.face.edge_names, strict=True)
        )


def make(level: int, seed: int, dice: random.Random, _eye: Eye) -> Exercise:
    """Return an exercise of a level. Raises NotMade where too few places can be told apart."""
    kind = dice.choice(_KINDS[level - 1])
    view = view_of(kind, dice.choice(NEAR[:2] if level < 3 else NEAR))
    crate = DrawnCrate(view, random_sizes(dice))
    face = dice.choice(crate.faces())
    sizes = [crate.sizes[axis] for axis in face.axes]
    off = dice.randint(6, sizes[0] - 6), dice.randint(6, sizes[1] - 6)
    far = (dice.random() < 0.5, dice.random() < 0.5) if level > 1 else (False, False)
    wish = _Wish(face, off, far)
    right = wish.place(crate)
    others = _others(wish, crate)
    dice.shuffle(others)
    kept: list[tuple[Vec2, str]] = []
    for place, why in others:
        if all(math.dist(place, one) > _APART_MM for one in (right, *(k for k, _ in kept))):
            kept.append((place, why))
        if len(kept) == _WANTED[level - 1] - 1:
            break
    else:
        raise NotMade("too few places can be told apart")
    places = [(right, tr("Right: both distances are set off along the axes.")), *kept]
    dice.shuffle(places)
    number = next(k for k, (place, _) in enumerate(places) if place == right)
    one, other = wish.words
    words = tuple(letter(place, LETTERS[k]) for k, (place, _) in enumerate(places))
    figure = crate.figure(tr("{kind}, {corner}", kind=view.title, corner=corner_words(view)))
    return Exercise(
        "setoffs", level, seed,
        tr("The crate measures {length} × {depth} × {height} and is drawn 1:1. Which place on its "
           "{face} face is {one} and {other}?", length=crate.sizes[0], depth=crate.sizes[1],
           height=crate.sizes[2], face=face.title, one=one, other=other),
        (replace(figure, words=(*words, *crate.size_words())),),
        Places(tuple(place for place, _ in places), frozenset({number}),
               tuple(why for _, why in places)),
        (
            tr("Find the two edges of the {face} face first that the distances count from.",
               face=face.title),
            _axes_hint(wish, crate),
            tr("Set off {one} along that edge's neighbour, then {other}.", one=one, other=other),
        ),
        tr("Only distances along the three axes may be set off; each is multiplied by the scale of "
           "its own axis."),
        data={"kind": kind, "corner": view.corner.value if view.corner else "",
              "face": face.value, "off": list(off), "from_far": list(far)},
    )  # fmt: skip


def _axes_hint(wish: _Wish, crate: DrawnCrate) -> str:
    angles = [crate.view.axis_angle(axis) for axis in wish.face.axes]
    scales = [crate.view.axis_scale(axis) for axis in wish.face.axes]
    return tr("On this face the axes lie at {one:.0f}° and {other:.0f}°, and a mm is drawn "
              "{first:.3g} and {second:.3g} mm long.", one=angles[0], other=angles[1],
              first=scales[0], second=scales[1])  # fmt: skip


def _others(wish: _Wish, crate: DrawnCrate) -> list[tuple[Vec2, str]]:
    """Return places where hands put it that go wrong, with what went wrong."""
    face = wish.face
    sizes = [crate.sizes[axis] for axis in face.axes]
    (one, other), (first, second) = wish.off, wish.is_far
    found: list[tuple[Vec2, str]] = []

    def add(changed: _Wish, why: str) -> None:
        wide = [crate.sizes[axis] for axis in changed.face.axes]
        if all(0 <= off <= size for off, size in zip(changed.off, wide, strict=True)):
            found.append((changed.place(crate), why))

    add(replace(wish, is_far=(not first, second)), tr("This counts from the opposite edge."))
    add(replace(wish, is_far=(first, not second)), tr("This counts from the opposite edge."))
    add(replace(wish, is_far=(not first, not second)),
        tr("This counts from the opposite edges, both times."))  # fmt: skip
    add(replace(wish, off=(other, one)), tr("Here the two distances are changed over."))
    for near in crate.faces():
        if near != face:
            add(replace(wish, face=near), tr("This lies on another face."))
    for number, axis in enumerate(face.axes):
        scale = crate.view.axis_scale(axis)
        if abs(scale - 1) > 0.1:
            long = [one, other]
            long[number] = round(long[number] / scale)
            if long[number] < sizes[number]:
                add(
                    replace(wish, off=(long[0], long[1])),
                    tr("Here the full distance is set off, though its axis is drawn shorter."),
                )
    return found
