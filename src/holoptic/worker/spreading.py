"""Arrangements in the worker: what of them is sound, how they come apart, how far."""

from __future__ import annotations

from dataclasses import dataclass, replace

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3
from holoptic.errors import BadInput, HolopticError, PartError
from holoptic.job import Posed, Spread
from holoptic.keeping import Cache, about
from holoptic.part import Body, Part, Whole
from holoptic.pictorial import view_of
from holoptic.solid.pieces import Relations
from holoptic.solid.relating import relate
from holoptic.solid.shelf import body_solid, look, looks_alone, sound_part
from holoptic.spread import Parting, Telling, draw_apart, least_gap, take_apart
from holoptic.spread.gaps import Feature
from holoptic.spread.parts_list import ListedPart, parts_list
from holoptic.worker.messages import Arranged

_relations: Cache[object, Relations] = Cache(
    "relations of a whole, by its bodies and axes", 6, "a slider and proposals ask for them", 6
)
_parts: Cache[Part, Part] = Cache(
    "parts of wholes as they came first", 400, "they come anew with every question", 4
)
_apart: Cache[object, Apart] = Cache(
    "wholes drawn apart, by what was asked and direction", 24, "so does every picture", 24
)


@dataclass(frozen=True)
class Apart:
    """How a whole comes apart, and how far each of its bodies goes, mm.

    `features` is how many tell something, `unseen` those that are hidden with this gap.
    """

    whole: Whole
    relations: Relations
    parting: Parting
    gap: float
    moved: tuple[Vec3, ...]
    features: int
    unseen: tuple[Feature, ...]

    def at(self, share: float) -> Whole:
        """Return the whole part of the way from together (0) to apart (1)."""
        return self.whole.moved({
            body.id: (share * x, share * y, share * z)
            for body, (x, y, z) in zip(self.whole.bodies, self.moved, strict=True)
        })  # fmt: skip


def order_parts(posed: Posed) -> Arranged:
    """Return how an arrangement stands and in which order it comes apart, its gap left open.

    Raises PartError where nothing of it can be made, BadInput for a spread that cannot be.
    """
    assert isinstance(posed.source, Whole)
    with about(posed.figure.subject):
        whole, troubles = sound_whole(together(posed.source))
        relations, parting = _ordered(whole, posed.spread or Spread())
    return Arranged(whole, troubles, parting, relations.overlaps)


def arrange(posed: Posed) -> Arranged:
    """Return how an arrangement stands and comes apart in a figure.

    Raises PartError where nothing of it can be made, BadInput for a spread that cannot be.
    """
    assert isinstance(posed.source, Whole)
    toward = view_of(posed.figure.kind, posed.figure.corner).toward_viewer
    with about(posed.figure.subject):
        whole, troubles = sound_whole(posed.source)
        spread = posed.spread or Spread()
        apart = draw_whole_apart(whole, spread, toward)
        needed = apart.gap
        if posed.is_narrowed:
            needed = draw_whole_apart(whole, replace(spread, gap=None), toward).gap
    return Arranged(
        apart.at(1.0), troubles, apart.parting, apart.relations.overlaps, apart.gap,
        apart.features, apart.unseen, needed,
    )  # fmt: skip


def list_parts(whole: Whole, spread: Spread) -> tuple[ListedPart, ...]:
    """Return the parts list of a whole, numbered as its bodies follow each other."""
    return parts_list(whole, _ordered(whole, spread)[1].order)


def sound_whole(whole: Whole) -> tuple[Whole, tuple[PartError, ...]]:
    """Return a whole with what of each body can be made, and what cannot.

    Raises PartError where nothing is left.
    """
    bodies: list[Body] = []
    troubles: list[PartError] = []
    for body in whole.bodies:
        try:
            made = body
            if isinstance(body.source, Part):
                with about(body.part):
                    # the very same object: later questions compare it at a glance
                    part = _parts.get(body.source) or _parts.keep(body.source, body.source)
                    source, found = sound_part(part)
                made = replace(body, source=source)
                troubles += [PartError(f"“{body.name}”: {trouble}") for trouble in found]
            body_solid(made)
            bodies.append(made)
        except HolopticError as error:
            troubles.append(PartError(f"“{body.name}”: {error}"))
    if not bodies:
        raise (
            troubles[0]
            if troubles
            else PartError(tr("nothing stands in “{name}” yet", name=whole.name))
        )
    return replace(whole, bodies=tuple(bodies)), tuple(troubles)


def relations_of(whole: Whole, spread: Spread) -> Relations:
    """Return how the bodies of a whole stand to each other."""
    direction = spread.direction
    besides = () if direction is None else (direction,)
    key = together(whole).bodies, besides
    return _relations.get(key) or _relations.keep(key, relate(whole, besides))


def _ordered(whole: Whole, spread: Spread) -> tuple[Relations, Parting]:
    if spread.gap is not None and not 0 <= spread.gap.mm <= _LARGEST_GAP_MM:
        raise BadInput(
            tr("a gap of {gap} cannot be: from 0 to {most:g} mm", gap=spread.gap.text,
               most=_LARGEST_GAP_MM)
        )  # fmt: skip
    relations = relations_of(whole, spread)
    return relations, take_apart(relations, [body.id for body in whole.bodies], spread)


def draw_whole_apart(whole: Whole, spread: Spread, toward: Vec3) -> Apart:
    """Return how a whole is drawn apart where it is seen along a direction.

    Raises BadInput for a spread that cannot be, PartError for a body that cannot be made.
    """
    key = together(whole).bodies, spread, toward
    return _apart.get(key) or _apart.keep(key, _drawn_apart(together(whole), spread, toward))


def _drawn_apart(whole: Whole, spread: Spread, toward: Vec3) -> Apart:
    relations, parting = _ordered(whole, spread)
    numbers = {body.id: number for number, body in enumerate(whole.bodies)}
    own = {numbers[o.placed]: o.distance.mm for o in spread.own if o.placed in numbers}
    telling = Telling(looks_alone(whole, toward))

    def moved_by(gap: float) -> list[Vec3]:
        return draw_apart(parting.tier, relations, gap, own)

    def unseen_at(gap: float) -> tuple[Feature, ...]:
        ways = moved_by(gap)
        moved = whole.moved({b.id: way for b, way in zip(whole.bodies, ways, strict=True)})
        return telling.unseen(look(moved, (toward,)).looks[0])

    if spread.gap is not None:
        gap, unseen = spread.gap.mm, unseen_at(spread.gap.mm)
    else:
        found = least_gap(unseen_at)
        gap, unseen = found.gap, found.unseen
    return Apart(
        whole, relations, parting, gap, tuple(moved_by(gap)), telling.count, unseen
    )  # fmt: skip


_LARGEST_GAP_MM = 10_000.0


def together(whole: Whole) -> Whole:
    """Return a whole with all its bodies where they belong."""
    return whole.moved({})
