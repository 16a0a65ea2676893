"""The arrangement in hand, together and apart: what the worker says of how it comes apart."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal

from holoptic.catalogue import tr
from holoptic.curves.many import box_in_space
from holoptic.desk.session.document import Document
from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.on_the_way import OnTheWay
from holoptic.desk.session.revisions import Revisions
from holoptic.job import (
    Arrangement,
    OwnDistance,
    Placed,
    Posed,
    SheetOrder,
    Spread,
    Unplaced,
    freedom_of,
    posed_figure,
    read_tie,
    whole_of,
)
from holoptic.job.arrangements import turn_of
from holoptic.part import Whole
from holoptic.part.grips import grip_name, grip_of
from holoptic.pictorial import Picture
from holoptic.solid.pieces import SolidFacts
from holoptic.spread.parts_list import ListedPart, parts_list
from holoptic.units import Length
from holoptic.worker.messages import Arranged, Candidate, SpreadProposed

PURPOSE = "spread"
_ORDER, _HOW, _TOGETHER, _ON_THE_WAY, _PROPOSE = (
    f"{PURPOSE} {what}" for what in ("order", "how", "together", "on the way", "propose")
)


class Spreads(QObject):
    """Has the worker take the arrangement in hand apart, and keeps what it answered.

    Signals:
        changed: another arrangement is in hand, or something is known of it that was not.
        touched_changed: another body is touched or chosen.
    """

    changed = pyqtSignal()
    touched_changed = pyqtSignal()

    def __init__(
        self, document: Document, kernel: KernelLine, revisions: Revisions,
        parent: QObject | None = None,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._document, self._kernel, self._revisions = document, kernel, revisions
        self._wanted = False
        self._about: tuple[Posed, Spread, SheetOrder | None] | None = None
        self._failed: dict[str, str] = {}
        self.arranged: Arranged | None = None
        self.together: Picture | None = None
        self.way = OnTheWay(kernel, _ON_THE_WAY, self)
        self.proposals: tuple[SpreadProposed, ...] = ()
        self.touched: int | None = None
        self.chosen: str | None = None

    # --- what is known ----------------------------------------------------------------------

    @property
    def arrangement(self) -> Arrangement | None:
        """The arrangement in hand."""
        return self._document.arrangement

    @property
    def unplaced(self) -> tuple[Unplaced, ...]:
        """What of it cannot stand where it should."""
        made = self.arrangement
        return () if made is None else whole_of(self._document.job, made)[1]

    @property
    def names(self) -> list[str]:
        """The names of its bodies, by their numbers."""
        return [] if self.arranged is None else [b.name for b in self.arranged.whole.bodies]

    @property
    def listed(self) -> tuple[ListedPart, ...]:
        """Its parts list, numbered as the parts follow each other."""
        arranged = self.arranged
        return () if arranged is None else parts_list(arranged.whole, arranged.parting.order)

    def colour_of(self, number: int) -> str:
        """Return the colour that its file gives a body, or an empty text."""
        placed = () if self.arrangement is None else self.arrangement.placed
        return next((item.colour for item in placed if item.id == self.id_of(number)), "")

    def row_of(self, placed_id: str | None) -> int | None:
        """Return the number that the list gives the part of a placed one."""
        body = None if placed_id is None else self.number_of(placed_id)
        return next((row.number for row in self.listed if body in row.bodies), None)

    def number_of(self, placed_id: str) -> int | None:
        """Return the number of a placed part among the bodies, None where it is not made."""
        if self.arranged is not None:
            for number, body in enumerate(self.arranged.whole.bodies):
                if body.id == placed_id:
                    return number
        return None

    def id_of(self, number: int | None) -> str | None:
        """Return the placed part of a body's number."""
        bodies = () if self.arranged is None else self.arranged.whole.bodies
        return bodies[number].id if number is not None and number < len(bodies) else None

    @property
    def placed(self) -> Placed | None:
        """The placed part that is chosen."""
        made = self.arrangement
        if made is None or self.chosen is None:
            return None
        return next((item for item in made.placed if item.id == self.chosen), None)

    # --- asking -----------------------------------------------------------------------------

    @property
    def is_wanted(self) -> bool:
        """Whether somebody looks at it."""
        return self._wanted

    def want(self, wanted: bool) -> None:
        """Say whether somebody looks: only then anything is worked out."""
        self._wanted = wanted
        (self.way.wake if wanted else self.way.rest)()
        self.ask()

    def ask(self) -> None:
        """Have the arrangement in hand taken apart, unless that was done."""
        made, figure = self.arrangement, self._document.figure
        if made is None or figure is None:
            self._forget()
            return
        if not self._wanted:
            return
        posed = posed_figure(self._document.job, figure)
        order = self._document.order  # the proposals hang on what else stands there
        about = replace(posed, spread=None), made.spread, order
        if about == self._about:
            return
        if self._about is None or about[0].source != self._about[0].source:
            self.arranged, self.touched = None, None
        self._about = about
        self.proposals = ()
        self._send((_TOGETHER, _ORDER, _HOW, _ON_THE_WAY, _PROPOSE))

    def try_again(self) -> None:
        """Ask once more what came to nothing, stopped or not."""
        self._send(tuple(self._failed))

    def _send(self, purposes: tuple[str, ...]) -> None:
        if self._about is None:
            return
        self._failed = {}
        together, spread, order = self._about
        apart, figure = replace(together, spread=spread), together.figure
        questions: dict[str, tuple[object, ...]] = {
            _TOGETHER: ("candidate", together, figure.kind, figure.corner),
            _ORDER: ("order_parts", apart),
            _HOW: ("arrange", apart),
        }
        if order is not None:
            questions[_PROPOSE] = "propose_spreads", order.with_posed(apart), apart
        revision = self._revisions.note(PURPOSE, self._about)
        for purpose in purposes:
            if purpose == self.way.purpose:
                self.way.follow(apart, revision)
            elif purpose in questions:
                task, *arguments = questions[purpose]
                self._kernel.ask(purpose, str(task), *arguments, about=revision)
        self.changed.emit()

    # --- taking -----------------------------------------------------------------------------

    def take(self, purpose: str, value: object) -> None:
        """Take an answer of the worker."""
        if self._failed.pop(purpose, None) is not None:
            self.changed.emit()
        if isinstance(value, Arranged):
            self.arranged = value
            self.touched_changed.emit()  # which lines are those of the part in hand is known now
        elif purpose == _TOGETHER and isinstance(value, Candidate):
            self.together = value.picture
        elif purpose == self.way.purpose and isinstance(value, Candidate):
            self.way.take(value.picture)
            return
        elif purpose == self.way.ahead and isinstance(value, Candidate):
            self.way.take_ahead(value.picture)
            return
        elif purpose == _PROPOSE and isinstance(value, tuple):
            self.proposals = value
        self.changed.emit()

    def take_failure(self, purpose: str, line: str) -> bool:
        """Tell where it would have appeared that something came to nothing; False: not its own."""
        if not purpose.startswith(PURPOSE):
            return False
        if purpose != self.way.ahead:  # nobody waits for that
            self._failed[purpose] = line
            self.changed.emit()
        return True

    @property
    def trouble(self) -> str | None:
        """Why it does not stand there, drawn apart; None where it does, or will."""
        return next((why for key, why in self._failed.items() if key != _PROPOSE), None)

    @property
    def unproposed(self) -> str | None:
        """Why nothing is proposed."""
        return self._failed.get(_PROPOSE)

    def _forget(self) -> None:
        if self._about is not None:
            self._revisions.forget(PURPOSE)
            self._about = self.arranged = self.together = None
            self.way.follow(None, None)
            self.touched, self.proposals, self._failed, self.chosen = None, (), {}, None
            self.changed.emit()

    # --- what the hand does -----------------------------------------------------------------

    def touch(self, number: int | None) -> None:
        """Tell which body is touched, wherever that is."""
        if number != self.touched:
            self.touched = number
            self.touched_changed.emit()

    def choose(self, placed_id: str | None) -> None:
        """Take a placed part in hand."""
        if placed_id != self.chosen:
            self.chosen = placed_id
            self.touched_changed.emit()

    def step(self, way: int) -> None:
        """Take the next placed part in hand, or the one before."""
        made = self.arrangement
        if made is None or not made.placed:
            return
        found = [self.id_of(number) for row in self.listed for number in row.bodies]
        ids = [item for item in found if item is not None] or [item.id for item in made.placed]
        at = ids.index(self.chosen) + way if self.chosen in ids else (0 if way > 0 else -1)
        self.choose(ids[at % len(ids)])

    def change(self, words: str, merge: str | None = None, **changes: object) -> None:
        """Have the arrangement come apart in another way."""
        made = self.arrangement
        if made is not None:
            spread = replace(made.spread, **changes)  # type: ignore[arg-type]
            self._document.edit_arrangement(replace(made, spread=spread), words, merge)

    def change_placed(self, words: str, merge: str | None = None, **changes: object) -> None:
        """Turn or place the placed part in hand otherwise."""
        made, placed = self.arrangement, self.placed
        if made is not None and placed is not None:
            changed = replace(placed, **changes)  # type: ignore[arg-type]
            self._document.edit_arrangement(made.with_placed(changed), words, merge)

    @property
    def freedom(self) -> str:
        """What may still move of the placed part in hand, where it has ties."""
        made = self.arrangement
        if made is None or self.chosen is None:
            return ""
        return freedom_of(self._document.job, made).get(self.chosen, "")

    @property
    def name(self) -> str:
        """The name of the placed part in hand."""
        made = self.arrangement
        bodies = () if made is None else whole_of(self._document.job, made)[0].bodies
        return next((b.name for b in bodies if b.id == self.chosen), self.chosen or "")

    @property
    def others(self) -> dict[str, str]:
        """The ids of the other placed parts by their names."""
        made = self.arrangement
        if made is None:
            return {}
        whole, _ = whole_of(self._document.job, made)
        return {body.name: body.id for body in whole.bodies if body.id != self.chosen}

    def tie(self, text: str) -> None:
        """Tie the placed part in hand to another one. Raises BadInput for what is no tie."""
        placed, job = self.placed, self._document.job
        if placed is None:
            return
        tie = read_tie(text, self.others, job.unit)
        others = {item.id: item for item in (self.arrangement.placed if self.arrangement else ())}
        if tie.sort != "middle":
            grip_of(job.part(placed.part).source, tie.own)
            grip_of(job.part(others[tie.to].part).source, tie.other)
        self.change_placed(tr("tie {tie}", tie=text), ties=(*placed.ties, tie))

    def grip_at(self, edge: int, facts: SolidFacts | None, whole: object) -> str | None:
        """Return the name of the face or axis that an edge of a whole tells of, or None."""
        if facts is None or not isinstance(whole, Whole) or not 0 <= edge < len(facts.edges):
            return None
        found = facts.edges[edge]
        body = whole.bodies[found.body]
        own = [body.curve_of(edge.curve) for edge in facts.edges if edge.body == found.body]
        return grip_name(body.source, body.curve_of(found.curve), box_in_space(own))

    def untie(self, number: int) -> None:
        """Take a tie of the placed part in hand away; it stays where it stands."""
        placed = self.placed
        if placed is not None and number < len(placed.ties):
            kept = placed.ties[:number] + placed.ties[number + 1 :]
            changes = {"ties": kept, **self.as_it_stands()}
            self.change_placed(tr("untie"), **changes)

    def as_it_stands(self) -> dict[str, Any]:
        """Return turn and place of the placed part in hand as its ties have them."""
        made, unit = self.arrangement, self._document.job.unit
        if made is None:
            return {}
        whole, _ = whole_of(self._document.job, made)
        body = next((b for b in whole.bodies if b.id == self.chosen), None)
        if body is None:
            return {}
        at = tuple(Length.of(round(value, 2), unit) for value in body.at)
        return {"at": at, "turn": turn_of(body.turning)}

    def draw_out_by(self, distance: Length | None) -> None:
        """Draw the placed part in hand out by a distance of its own, or as the gaps have it."""
        made = self.arrangement
        if made is None or self.chosen is None:
            return
        own = tuple(item for item in made.spread.own if item.placed != self.chosen)
        if distance is not None:
            own = (*own, OwnDistance(self.chosen, distance))
        self.change(tr("own distance"), "own distance", own=own)

    def regroup(self, change: Callable[[list[tuple[str, ...]]], list[tuple[str, ...]]]) -> None:
        """Let other parts stay together."""
        made = self.arrangement
        if made is not None:
            groups = tuple(group for group in change(list(made.spread.groups)) if len(group) > 1)
            self.change(tr("what stays together"), groups=groups)
