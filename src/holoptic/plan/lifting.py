"""Where a distance is lifted: which view shows it, from which end, and the sum behind it."""

from __future__ import annotations

from collections import defaultdict

from holoptic.catalogue import Saying, later, sentences
from holoptic.curves.vectors import Vec3
from holoptic.part import Part, Source
from holoptic.part.provenance import Given
from holoptic.part.seat import AS_DESCRIBED, Seat
from holoptic.plan.levels import Levels
from holoptic.plan.moves import Lift
from holoptic.tolerance import COINCIDENT_MM, GIVEN_MM, ROUNDING
from holoptic.units.spoken import on_rule, worded
from holoptic.views.orthographic import VIEW_TITLES

_VIEW_ALONG = ("right", "front", "top")
"""The view that shows true what lies square to an axis."""
_AXES_OF_VIEW = {"front": (0, 2), "top": (0, 1), "right": (1, 2)}
_USUAL_VIEW = ("front", "top", "front")


class Lifting:
    """The given lengths of a part, ready to be looked up by place."""

    def __init__(self, source: Source, seat: Seat | None = AS_DESCRIBED,
                 levels: Levels | None = None) -> None:  # fmt: skip
        """Take a part and how it stands; of one that leans (None) no length is given.

        `levels` are those of the views that distances are lifted from; without them the usual
        view of a face is named.
        """
        self._levels = levels
        self._part = source if isinstance(source, Part) and seat is not None else None
        self._seat = seat or AS_DESCRIBED
        self._givens: dict[tuple[int, float], list[Given]] = defaultdict(list)
        if self._part is not None:
            for given in self._seat.givens(self._part):
                self._givens[given.axis, round(given.at, 6)].append(given)

    def counts_from_far_end(
        self, axis: int, at: float, operation: int | None, near: tuple[int, int, int]
    ) -> bool:
        """Say from which end of the crate a place is best measured: as given, else the near end."""
        given = self._given(axis, at, operation)
        return given.far if given is not None else near[axis] > 0

    def is_given(self, axis: int, at: float) -> bool:
        """Say whether somebody gave a length that leads to a place along an axis; of a solid from
        a file, whether the place is in whole hundredths.
        """
        if self._part is None:
            return abs(round(at, 2) - at) < GIVEN_MM
        return self._given(axis, at, None) is not None

    def lift(self, axis: int, start: Vec3, end: Vec3, operation: int | None) -> Lift:
        """Return where the distance between two spots along an axis is lifted."""
        given = self._given(axis, end[axis], operation)
        true = abs(end[axis] - start[axis])
        view = self._view(axis, given, operation)
        if given is not None and abs(given.length.mm - true) < COINCIDENT_MM:
            return Lift(view, start, end, true, given.length.text)
        standing = self._standing(view, axis, start, end)
        return Lift(standing or view, start, end, true, on_rule(true), standing is None)

    def crate_lift(self, axis: int, start: Vec3, end: Vec3) -> Lift:
        """Return where an overall size of the crate is lifted."""
        true = abs(end[axis] - start[axis])
        words = on_rule(true)
        if self._part is not None:
            crate = self._part.crate
            size = (crate.length, crate.depth, crate.height)[self._seat.axis_within(axis)]
            # of a part among others the crate holds what is left of it
            if abs(size.mm - true) < COINCIDENT_MM:
                words = size.text
        return Lift(_USUAL_VIEW[axis], start, end, true, words)

    def _standing(self, usual: str, axis: int, start: Vec3, end: Vec3) -> str | None:
        """Return the view to lift a distance from that nobody gave: the usual one, if both its
        ends can be seen there; None where no view shows them.
        """
        if self._levels is None:
            return usual
        others = (view for view, axes in _AXES_OF_VIEW.items() if axis in axes and view != usual)
        views = (usual, *others)
        return next((v for v in views if self._levels.stand(v, axis, start, end)), None)

    def _given(self, axis: int, at: float, operation: int | None) -> Given | None:
        """Return the given length for a place: the operation's own first, then what is
        given from the part's far end, sums before figures.
        """
        is_reversed = self._seat.is_reversed(self._seat.axis_within(axis))
        givens = self._givens.get((axis, round(at, 6)), [])
        return min(
            givens,
            key=lambda given: (
                given.operation != operation,
                given.far == is_reversed,
                not given.length.is_sum,
            ),
            default=None,
        )

    def _view(self, axis: int, given: Given | None, operation: int | None) -> str:
        """Return the view of the face that a length was given on, else of the feature in hand."""
        index = operation if given is None else given.operation
        if self._part is not None and index is not None:
            face = self._part.operations[index].face
            view = _VIEW_ALONG[self._seat.axis(face.normal_axis)]
            if axis in _AXES_OF_VIEW[view]:
                return view
        return _USUAL_VIEW[axis]


def lifted(lift: Lift, setting: float, rest: Saying) -> Saying:
    """Say where a distance is lifted, what it is on the rule if that differs, and the rest."""
    size, view = worded(lift.true_mm, lift.words), VIEW_TITLES[lift.view]
    if lift.is_worked_out:
        return sentences(later("Set {setting} on the rule: it is worked out, no view shows it.",
                               setting=on_rule(setting)), rest)  # fmt: skip
    if abs(setting - lift.true_mm) < ROUNDING:
        return sentences(later("Lift {size} from the {view}.", size=size, view=view), rest)
    return sentences(later("Lift {size}, {setting} on the rule, from the {view}.", size=size,
                           setting=on_rule(setting), view=view), rest)  # fmt: skip
