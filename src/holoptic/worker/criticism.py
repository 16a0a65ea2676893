"""What is laid before the critic: a finished plan with the picture, the views and the lengths."""

from __future__ import annotations

from collections.abc import Mapping

from holoptic.job import Posed
from holoptic.part import Part, Source, Whole
from holoptic.part.provenance import Given, given_offsets
from holoptic.part.seat import seat_of
from holoptic.pictorial import Picture
from holoptic.plan import Plan
from holoptic.plan.critic import Sitting


def sitting_of(
    plan: Plan, posed: Posed, picture: Picture | None, views: Mapping[str, Picture]
) -> Sitting:
    """Return what the critic may look at; `views` are those that distances are lifted from."""
    source = posed.source
    figure = posed.figure
    return Sitting(plan, picture, views, _givens(source), _features(source), figure.lines,
                   figure.by_hand.outfit, isinstance(source, Whole))  # fmt: skip


def _givens(source: Source) -> tuple[Given, ...]:
    """Return the lengths that a part's description gives, or those of a whole's bodies."""
    if isinstance(source, Whole):
        stood = ((body.source, seat_of(body)) for body in source.bodies)
        return tuple(
            given for part, seat in stood if isinstance(part, Part) and seat is not None
            for given in seat.givens(part)
        )  # fmt: skip
    return tuple(given_offsets(source)) if isinstance(source, Part) else ()


def _features(source: Source) -> tuple[str, ...]:
    """Return the names of a part's operations, or of a whole's bodies."""
    if isinstance(source, Whole):
        return tuple(body.name for body in source.bodies)
    return tuple(each.name for each in source.operations) if isinstance(source, Part) else ()
