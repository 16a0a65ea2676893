"""From the moves as they are first written to a finished plan: what every plan goes through."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from holoptic.job import Order, Outfit
from holoptic.plan.controls import with_controls
from holoptic.plan.drafter import Drafter
from holoptic.plan.economy import marked_with_lines, needed, share_settings
from holoptic.plan.effort import effort_of
from holoptic.plan.finishing import finished
from holoptic.plan.hand import Hand
from holoptic.plan.moves import Budget, Effort, Move, Saving, Setup
from holoptic.plan.postponing import postponed
from holoptic.plan.schedule import batched
from holoptic.plan.too_short import told_where_too_short


@dataclass(frozen=True)
class Draft:
    """The moves of a plan before anything is checked or finished, what is saved by their order,
    and what the virtual drafter has on its paper after them.
    """

    moves: tuple[Move, ...]
    saving: Saving | None
    paper: Drafter


@dataclass(frozen=True)
class Completed:
    """The moves of a plan, numbered, with what they cost and spare and the errors to expect, and
    what the virtual drafter has on its paper after them.
    """

    moves: tuple[Move, ...]
    paper: Drafter
    effort: Effort
    saving: Saving | None
    budget: Budget


def drafted(
    written: Sequence[Move], order: Order, features: Mapping[str, str] | None = None
) -> Draft:
    """Return moves without what nothing hangs on, their settings shared; batched if that is the
    order, else each with the feature that needs it. `features` has that of each stroke by name.
    """
    kept = needed(written)
    moves, saving = share_settings(marked_with_lines(postponed(kept, features or {}))), None
    if order == "batched":
        before, (reordered, least) = effort_of(moves), batched(marked_with_lines(kept))
        moves = share_settings(marked_with_lines(reordered))
        saving = Saving(before, effort_of(moves), least)
    return Draft(tuple(moves), saving, Drafter().carry_out(moves))


def completed(draft: Draft, setup: Setup, hand: Hand, outfit: Outfit) -> Completed:
    """Return a draft with control distances put in and what finishes the drawing at the end."""
    told = told_where_too_short(draft.moves, draft.paper, outfit)
    moves, budget = with_controls(told, draft.paper, hand)
    whole = finished(moves, setup, draft.paper)
    return Completed(whole, draft.paper, effort_of(whole), draft.saving, budget)
