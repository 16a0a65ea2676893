"""The construction under way: which points and lines are on the paper, and how to add one.

A *spot* is a point of the part; its paper point is found by axis lines through it, since only
along the axes may distances be measured. Distances are set off along crate edges only.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from holoptic.catalogue import Saying, later, sentences, tr
from holoptic.curves.vectors import Vec2, Vec3, apply, subtract
from holoptic.part.crate import AXIS_NAMES
from holoptic.pictorial import View
from holoptic.plan.instruments import (
    DIVIDERS,
    SLIDING,
    square_along,
    square_for,
)
from holoptic.plan.lifting import Lifting, lifted
from holoptic.plan.middles import find_middle
from holoptic.plan.moves import Lift, Setup
from holoptic.plan.slants import Slants
from holoptic.plan.spots import CrateFrame, LineKey, line_key, replace_axis, spot_of
from holoptic.plan.writing import MoveWriter, both_rounded
from holoptic.tolerance import COINCIDENT_MM, ROUNDING
from holoptic.units.spoken import on_rule

_WORTH_SAYING_MM = 0.5
"""What a line shorter than this is true size, nobody asks."""

_IMPOSSIBLE = math.inf
_NEW_LINE = 1.0
_NEW_SETTING = 1.25
"""A setting costs more than a parallel: carrying a distance beats measuring it again."""
_DIAGONALS = 2.5 * _NEW_LINE
"""What the middle of four corners costs: two diagonals, and looking which."""
_RAISED_CRATE = 4.0
_FAR_SIDE = 0.05
"""Working on the hidden side of the crate is possible but less clear."""


@dataclass(frozen=True)
class Carry:
    """A distance that stands on the paper already, between two lettered points.

    It is set off from the place `centre` (mm along an axis).
    """

    centre: float
    start: str
    end: str


def _set_off_words(axis: int, is_far: bool, start: str, name: str) -> Saying:
    return later("From {start} set it off {way}: {name}.", start=start,
              way=_WAY_WORDS[axis][is_far], name=name)  # fmt: skip


class Bench(MoveWriter):
    """Writes moves; remembers which spots and lines are on the paper.

    Places of letters are those of the picture, mm at scale 1:1.
    """

    def __init__(self, view: View, frame: CrateFrame, setup: Setup, lifting: Lifting) -> None:
        super().__init__(setup)
        self.view = view
        self.whole = frame
        """The crate that holds all; the work starts from its corner."""
        self.frame = frame
        """The crate in hand, along whose edges distances are set off: the whole, or a part's."""
        self.lifting = lifting
        self.carries: dict[tuple[int, float], Carry] = {}
        """What can be carried from an auxiliary figure, by axis and place in mm."""
        self.raising: tuple[int, float, float, bool] | None = None
        """An axis, the places of base and top on it, and whether each corner is raised."""
        self._in_hand: set[Vec3] = set()
        self.apexes: dict[Vec3, tuple[Vec3, int]] = {}
        """Apexes, each with the centre of its base and the axis it stands on."""
        self.wanted: dict[tuple[int | None, int], set[float]] = defaultdict(set)
        """The places along an axis that the strokes of an operation need, mm."""
        self.halves: dict[int, list[tuple[float, float]]] = defaultdict(list)
        """Along each axis the centres of round features with their radii, mm."""
        self.centres_first = False
        """Whether distances are set off from centre lines even where none is drawn yet."""
        self.near_only = False
        """Whether lines come in from the crate's near faces only: the views are drawn there."""
        self.operation: int | None = None
        self.points: dict[Vec3, str] = {}
        self.lines: dict[LineKey, str] = {}
        self._on_line: dict[LineKey, list[Vec3]] = defaultdict(list)
        self._reference: dict[int, str] = {}
        self._line_counts = [0, 0, 0]
        self._letters: dict[Vec2, str] = {}
        self._axis_lines: dict[str, tuple[int, Vec3]] = {}
        self._joins: dict[tuple[str, str], str] = {}
        self.slants = Slants(self.write, self.tell, self._standing_through)

    # --- letters ----------------------------------------------------------------------------

    def name_point(self, spot: Vec3) -> str:
        """Put a spot on the paper under the next free letter."""
        name = self.name_place(apply(self.view.matrix, spot))
        self.points[spot] = name
        for axis in range(3):
            self._on_line[line_key(axis, spot)].append(spot)
        return name

    def letter_at(self, spot: Vec3) -> str | None:
        """Return the letter that stands where a spot falls on the paper, if there is one."""
        return self.letter_on(apply(self.view.matrix, spot))

    def letter_on(self, place: Vec2) -> str | None:
        """Return the letter that stands at a place of the picture, if there is one."""
        near = ((x, y) for x in both_rounded(place[0], 4) for y in both_rounded(place[1], 4))
        return next((self._letters[each] for each in near if each in self._letters), None)

    def name_place(self, place: Vec2) -> str:
        """Give a place the next free letter; return it."""
        name = super().name_place(place)
        self._letters.setdefault((round(place[0], 4) + 0.0, round(place[1], 4) + 0.0), name)
        return name

    def adopt(self, spot: Vec3, name: str) -> None:
        """Let a lettered point stand for a spot too, so that axis lines may start from it."""
        if spot not in self.points:
            self.points[spot] = name
            for axis in range(3):
                self._on_line[line_key(axis, spot)].append(spot)

    # --- lines ------------------------------------------------------------------------------

    def has_line(self, axis: int, spot: Vec3) -> bool:
        """Say whether the axis line through a spot is drawn."""
        return line_key(axis, spot) in self.lines

    def _falls_on_another(self, axis: int, spot: Vec3) -> bool:
        """Say whether an axis line falls on one that is drawn on the paper: then it is that one.

        Nothing is planned on such chances, but no line is drawn twice either.
        """
        name = self.standing(apply(self.view.matrix, spot), self.view.axis_angle(axis))
        if name is None:
            return False
        self.lines[line_key(axis, spot)] = name
        return True

    def ensure_line(self, axis: int, spot: Vec3, meeting: tuple[Vec3, int] | None = None) -> str:
        """Draw the axis line through a spot unless it is there.

        `meeting` = (spot, other axis) asks the new line to mark where it crosses that other
        line. Returns the line's name.
        """
        key = line_key(axis, spot)
        if key in self.lines:
            return self.lines[key]
        through = self.known_on(axis, spot)
        if through is None:
            through = self._best_end(axis, spot)
            self.ensure_point(through)
            if key in self.lines:  # finding the end point has drawn it
                return self.lines[key]
        if not self._falls_on_another(axis, spot):
            self._draw_axis_line(axis, spot, through, meeting)
        return self.lines[key]

    def _draw_axis_line(
        self, axis: int, spot: Vec3, through: Vec3, meeting: tuple[Vec3, int] | None
    ) -> None:
        angle = self.view.axis_angle(axis)
        reference = self._reference.get(axis)
        if reference is None and square_for(angle) is None:
            self._draw_first_slant(axis, spot, through, angle)
            return
        name = self.name_line(axis)
        uses: tuple[str, ...] = (self.points[through],)
        makes: tuple[str, ...] = (name,)
        if reference is not None:
            uses += (reference,)
        point, way = self.points[through], _DIRECTION_WORDS[axis]
        words: Saying = later("Through {point} draw {way}.", point=point, way=way)
        square = square_along(angle)
        if square == SLIDING and reference is not None:
            words = later("Slide the square along from {along}; through {point} draw {way}.",
                          along=self.told(reference), point=point, way=way)  # fmt: skip
        if meeting is not None:
            uses += (self.lines[line_key(meeting[1], meeting[0])],)
            makes += (self.name_point(meeting[0]),)
            words = sentences(words, later("It meets {other} at {name}.", name=makes[1],
                              other=self.told(uses[-1])))  # fmt: skip
        self.register_line(axis, spot, name)
        self.write(
            "draw" if reference is None else "parallel",
            square, uses, makes, words, angle=angle,
        )  # fmt: skip

    def _draw_first_slant(self, axis: int, spot: Vec3, through: Vec3, angle: float) -> None:
        """Draw the first line along an axis that no square has the angle of."""
        name = self.name_line(axis)
        point = self.points[through]
        self.register_line(axis, spot, name)
        at_end = through[axis] == self.frame.high[axis]
        text = later(
            "Through {point} draw {direction_words}.",
            point=point,
            direction_words=_DIRECTION_WORDS[axis],
        )
        self.slants.draw(point, angle, name, text, self.told, back=at_end)

    def join(self, start: Vec3, end: Vec3) -> str:
        """Join two spots by a straight line unless that is drawn; return the line's name."""
        first, second = self.points[start], self.points[end]
        true = math.dist(start, end)
        drawn = math.dist(self.places[first], self.places[second]) * self.setup.scale
        note = later("Measure nothing along it: {true} on the part is {drawn} here.",
                     true=on_rule(true), drawn=on_rule(drawn))  # fmt: skip
        return self.join_letters(first, second, note if drawn > _WORTH_SAYING_MM else "")

    def join_letters(self, one: str, other: str, note: Saying = "") -> str:
        """Join two letters by a straight line unless that is drawn; return the line's name."""
        first, second = sorted((one, other))
        standing = self.standing_between(one, other)
        if standing is not None:
            return standing
        if (first, second) not in self._joins:
            name = tr("line {ends}", ends=f"{first}{second}")
            self._joins[first, second] = name
            self.tell(name, later("the line from {first} to {second}", first=first, second=second))
            self.rule_through(name, first, second, note)
        return self._joins[first, second]

    def _standing_through(self, letter: str, angle: float) -> str | None:
        return self.standing(self.places[letter], angle)

    def name_line(self, axis: int) -> str:
        """Return a name that no other line has, such as `height 3`."""
        self._line_counts[axis] += 1
        return f"{AXIS_NAMES[axis]} {self._line_counts[axis]}"

    def register_line(self, axis: int, spot: Vec3, name: str) -> None:
        """Say that a line is the axis line through a spot."""
        self.lines[line_key(axis, spot)] = name
        self.note_line(name, apply(self.view.matrix, spot), self.view.axis_angle(axis))
        self._axis_lines[name] = axis, spot
        self._reference.setdefault(axis, name)

    def told(self, name: str) -> Saying:
        """Return the words for a line or a curve: an axis line by a letter on it."""
        if name not in self._axis_lines:
            return super().told(name)
        axis, spot = self._axis_lines[name]
        on_line = self._on_line[line_key(axis, spot)]
        if not on_line:
            return _AXIS_LINES[axis]
        return later("{line} through {letter}", line=_AXIS_LINES[axis],
                     letter=self.points[on_line[0]])  # fmt: skip

    def letters_on(self, axis: int, spot: Vec3) -> list[str]:
        """Return the letters that stand on the axis line through a spot."""
        return [self.points[each] for each in self._on_line[line_key(axis, spot)]]

    # --- points -----------------------------------------------------------------------------

    def foot(self, axis: int, spot: Vec3) -> Vec3:
        """Return where a spot falls along an axis on the near face of the crate."""
        near = self.frame.bound(axis, self.frame.near[axis] > 0)
        return spot_of(replace_axis(spot, axis, near))

    def ensure_point(self, spot: Vec3) -> str:
        """Put a spot on the paper in the cheapest way; return its name."""
        if spot in self.points:
            return self.points[spot]
        known = self.letter_at(spot)
        if known is not None:
            self.adopt(spot, known)
            return known
        if self._raise_apex(spot) or self._raise(spot):
            return self.points[spot]
        inner = self.frame.inner_axes(spot)
        crossing_cost, axes = self._best_crossing(spot, inner)
        if len(inner) == 1 and self._setting_cost(inner[0], spot) < crossing_cost:
            self._set_off(inner[0], spot)
        elif crossing_cost > _DIAGONALS and find_middle(self, spot, *range(3)):
            pass
        else:
            self._cross(spot, axes)
        return self.points[spot]

    def _raise_apex(self, spot: Vec3) -> bool:
        """Set an apex off up the axis from the centre of its base, which the medians give."""
        if spot not in self.apexes or spot in self._in_hand:
            return False  # its foot is looked for: that must not be found from the apex itself
        foot, axis = self.apexes[spot]
        self._in_hand.add(spot)
        self.ensure_point(foot)
        line = self.ensure_line(axis, foot)
        if spot not in self.points:
            self.set_off(axis, foot, spot, line,
                         self.lifting.lift(axis, foot, spot, self.operation))  # fmt: skip
        return True

    def _raise(self, spot: Vec3) -> bool:
        """Raise a corner from its base by the height, where that is the way to work."""
        if self.raising is None or not self.raising[3]:
            return False
        axis, base, top, _ = self.raising
        low = spot_of(replace_axis(spot, axis, base))
        if abs(spot[axis] - top) > ROUNDING or low == spot:
            return False
        self.ensure_point(low)
        line = self.ensure_line(axis, low)
        if spot not in self.points:
            self.set_off(axis, low, spot, line,
                         self.lifting.lift(axis, low, spot, self.operation))  # fmt: skip
        return True

    def _cross(self, spot: Vec3, axes: tuple[int, int]) -> None:
        first, second = axes
        if self.has_line(second, spot):
            first, second = second, first
        one = self.ensure_line(first, spot)
        if spot in self.points:
            return
        if not self.has_line(second, spot):
            self.ensure_line(second, spot, meeting=(spot, first))
            if spot in self.points:
                return
        other = self.lines[line_key(second, spot)]
        told = self.told(one), self.told(other)
        name = self.name_point(spot)
        words = later("Mark {name} where {first} and {second} cross.", name=name, first=told[0],
                      second=told[1])  # fmt: skip
        self.mark_crossing(
            (one, other), name, words,
            lambda _, line: later("It meets {other} at {name}.", other=line, name=name),
        )  # fmt: skip

    def _set_off(self, axis: int, spot: Vec3) -> None:
        carry = self.carries.get((axis, round(spot[axis], 6)))
        if carry is not None and abs(carry.centre - spot[axis]) > COINCIDENT_MM:
            self._carry(axis, spot, carry)
            return
        if self._swing(axis, spot):
            return
        far = self.lifting.counts_from_far_end(axis, spot[axis], self.operation, self.frame.near)
        corner = replace_axis(spot, axis, self.frame.bound(axis, far))
        self.ensure_point(corner)
        line = self.ensure_line(axis, corner)
        if spot in self.points:
            return
        lift = self.lifting.lift(axis, corner, spot, self.operation)
        self.set_off(axis, corner, spot, line, lift)
        self._repeat_from_other_end(axis, corner, spot, line, lift)

    def _swing(self, axis: int, spot: Vec3) -> bool:
        """Set off a half width from a centre to both sides, where both are needed."""
        for centre_at, half in self.halves[axis]:
            other_at = round(2 * centre_at - spot[axis], 6) + 0.0
            if abs(abs(spot[axis] - centre_at) - half) > COINCIDENT_MM:
                continue
            centre = spot_of(replace_axis(spot, axis, centre_at))
            other = spot_of(replace_axis(spot, axis, other_at))
            inside = self.frame.low[axis] <= other_at <= self.frame.high[axis]
            if centre in self.points and other in self.points:
                line = self.ensure_line(axis, centre)
                if spot not in self.points:
                    lift = self.lifting.lift(axis, centre, spot, self.operation)
                    self.set_off(axis, centre, spot, line, lift)
                return True
            known = centre in self.points or self.centres_first
            known = known or not self.lifting.is_given(axis, spot[axis])
            if not (inside and known) or other in self.points:
                continue
            self.ensure_point(centre)
            line = self.ensure_line(axis, centre)
            if spot not in self.points and other not in self.points:
                self._write_swing(axis, centre, spot, other, line)
            return spot in self.points
        return False

    def swing_about(self, axis: int, centre: Vec3, sides: Sequence[Vec3], along: int) -> None:
        """Set a radius off from a centre to both sides on its centre line along `axis`, where that
        takes less than bringing the sides of the square, which run `along`, in from the crate; to
        one side where the other stands.
        """
        if self.near_only or centre not in self.points:
            return
        free = [side for side in sides if side not in self.points
                and not self.has_line(along, side)]  # fmt: skip
        from_crate = sum(self._line_cost(along, side, True) for side in free)
        lines = len(free) + (not self.has_line(axis, centre))
        is_given = any(self.lifting.is_given(axis, side[axis]) for side in free)
        on_centre_line = _NEW_SETTING + lines * _NEW_LINE + (_FAR_SIDE if is_given else -_FAR_SIDE)
        if not free or on_centre_line > from_crate:
            return
        line = self.ensure_line(axis, centre)
        if len(free) == len(sides):
            self._write_swing(axis, centre, sides[1], sides[0], line)
        else:
            lift = self.lifting.lift(axis, centre, free[0], self.operation)
            self.set_off(axis, centre, free[0], line, lift)

    def _write_swing(self, axis: int, centre: Vec3, spot: Vec3, other: Vec3, line: str) -> None:
        lift = self.lifting.lift(axis, centre, spot, self.operation)
        setting = lift.true_mm * self.view.axis_scale(axis) * self.setup.scale
        angle = self.view.axis_angle(axis) + (0.0 if spot[axis] > centre[axis] else 180.0)
        names = self.name_point(spot), self.name_point(other)
        rest = self._swing_words(axis, centre, spot, names)
        self.write(
            "swing",
            DIVIDERS,
            (self.points[centre], line),
            names,
            lifted(lift, setting, rest),
            setting=setting,
            angle=_half_turn(angle),
            lift=lift,
            rest=rest,
        )

    def _repeat_from_other_end(
        self, axis: int, corner: Vec3, spot: Vec3, line: str, lift: Lift
    ) -> None:
        """Set the same distance off from the other end too, where the part is symmetrical.

        It is told by the words of the first one where it has none that were given.
        """
        low, high = self.frame.low[axis], self.frame.high[axis]
        opposite = spot_of(replace_axis(spot, axis, low + high - spot[axis]))
        other_corner = spot_of(replace_axis(corner, axis, low + high - corner[axis]))
        if (
            opposite[axis] in self.wanted[self.operation, axis]
            and abs(opposite[axis] - spot[axis]) > COINCIDENT_MM
            and opposite not in self.points
            and other_corner in self.points
        ):
            own = self.lifting.lift(axis, other_corner, opposite, self.operation)
            if own.words == on_rule(own.true_mm):
                own = replace(own, view=lift.view, words=lift.words,
                              is_worked_out=lift.is_worked_out)  # fmt: skip
            self.set_off(axis, other_corner, opposite, line, own)

    def want(self, operation: int | None, spots: Iterable[Vec3]) -> None:
        """Take note of spots that the strokes of an operation need."""
        for spot in spots:
            for axis in range(3):
                self.wanted[operation, axis].add(spot[axis])

    def _carry(self, axis: int, spot: Vec3, carry: Carry) -> None:
        """Set off a distance taken between the dividers from an auxiliary figure."""
        centre = spot_of(replace_axis(spot, axis, carry.centre))
        self.ensure_point(centre)
        line = self.ensure_line(axis, centre)
        if spot in self.points:
            return
        opposite = spot_of(replace_axis(spot, axis, 2 * carry.centre - spot[axis]))
        other = self.carries.get((axis, round(opposite[axis], 6)))
        if other is not None and opposite not in self.points:
            self._swing_carried(axis, centre, (spot, opposite), line, carry)
            return
        setting = self._carried(axis, spot, carry)
        angle = self.view.axis_angle(axis) + (0.0 if spot[axis] > carry.centre else 180.0)
        name = self.name_point(spot)
        rest = _set_off_words(axis, spot[axis] > carry.centre, self.points[centre], name)
        self.write(
            "set off",
            DIVIDERS,
            (self.points[centre], line, carry.start, carry.end),
            (name,),
            sentences(later("Take {start} to {end}, {size}, from the auxiliary figure with the "
                            "dividers.", start=carry.start, end=carry.end,
                            size=on_rule(setting)), rest),
            setting=setting,
            angle=_half_turn(angle),
            rest=rest,
        )  # fmt: skip

    def _carried(self, axis: int, spot: Vec3, carry: Carry) -> float:
        """Return how far a distance of an auxiliary figure reaches on paper, mm."""
        size = abs(spot[axis] - carry.centre)
        return size * self.view.axis_scale(axis) * self.setup.scale

    def _swing_carried(
        self, axis: int, centre: Vec3, ends: tuple[Vec3, Vec3], line: str, carry: Carry
    ) -> None:
        """Set a distance taken from an auxiliary figure off to both sides of a centre."""
        spot, opposite = ends
        setting = self._carried(axis, spot, carry)
        angle = self.view.axis_angle(axis) + (0.0 if spot[axis] > carry.centre else 180.0)
        names = self.name_point(spot), self.name_point(opposite)
        rest = self._swing_words(axis, centre, spot, names)
        take = later("Take {start} to {end}, {size}, from the auxiliary figure with the dividers.",
                     start=carry.start, end=carry.end, size=on_rule(setting))  # fmt: skip
        self.write(
            "swing", DIVIDERS, (self.points[centre], line, carry.start, carry.end), names,
            sentences(take, rest), setting=setting, angle=_half_turn(angle), rest=rest,
        )  # fmt: skip

    def _swing_words(self, axis: int, centre: Vec3, spot: Vec3, names: tuple[str, str]) -> Saying:
        return later(
            "From {centre} swing it over to both sides: {first} {way}, {second} opposite.",
            centre=self.points[centre], first=names[0], second=names[1],
            way=_WAY_WORDS[axis][spot[axis] > centre[axis]],
        )  # fmt: skip

    def from_sheet(self, place: Vec2) -> Vec2:
        """Return a place of the sheet (mm from the border) in the picture's own coordinates."""
        at = apply(self.view.matrix, self.whole.start_corner())
        return (
            at[0] + (place[0] - self.setup.start[0]) / self.setup.scale,
            at[1] + (place[1] - self.setup.start[1]) / self.setup.scale,
        )

    def set_off(self, axis: int, start: Vec3, end: Vec3, line: str, lift: Lift) -> str:
        """Set off a true distance along an axis line that is drawn; return the new point."""
        setting = lift.true_mm * self.view.axis_scale(axis) * self.setup.scale
        angle = self.view.axis_angle(axis) + (0.0 if end[axis] > start[axis] else 180.0)
        name = self.name_point(end)
        rest = _set_off_words(axis, end[axis] > start[axis], self.points[start], name)
        self.write(
            "set off", DIVIDERS, (self.points[start], line), (name,),
            lifted(lift, setting, rest),
            setting=setting, angle=_half_turn(angle), lift=lift, rest=rest,
        )  # fmt: skip
        return name

    def plot(self, spots: Sequence[Vec3], what: Saying) -> list[str]:
        """Set spots off by their offsets from the lettered point nearest to them all.

        `what` says for the sentence what they are for. Returns their names; spots that are on the
        paper already are left as they are.
        """
        new = [spot for spot in dict.fromkeys(spots) if spot not in self.points]
        if new:
            origin, axes = self._plot_origin(new)
            scales = [self.view.axis_scale(axis) * self.setup.scale for axis in axes]
            table = tuple(
                tuple(
                    round(subtract(spot, origin)[axis] * scale, 9) + 0.0
                    for axis, scale in zip(axes, scales, strict=True)
                )
                for spot in new
            )
            ways = tuple(self._reference[axis] for axis in axes)
            # the lines run the way they were drawn, which is the positive way of their axis
            names = tuple(self.name_point(spot) for spot in new)
            along = ", ".join(AXIS_NAMES[axis] for axis in axes)
            several = (
                later("{names} to {names2}", names=names[0], names2=names[-1])
                if len(names) > 1
                else names[0]
            )
            self.write(
                "plot",
                DIVIDERS,
                (self.points[origin], *ways),
                names,
                later(
                    "From {points} set off by the table, along {along}: {several}, {what}.",
                    points=self.points[origin],
                    along=along,
                    several=several,
                    what=what,
                ),
                table=table,
            )
        return [self.points[spot] for spot in spots]

    def _plot_origin(self, spots: Sequence[Vec3]) -> tuple[Vec3, list[int]]:
        """Return the lettered spot from which the fewest and shortest offsets are needed."""

        def axes_from(origin: Vec3) -> list[int]:
            return [
                axis
                for axis in range(3)
                if any(abs(spot[axis] - origin[axis]) > ROUNDING for spot in spots)
            ]

        def longest(origin: Vec3) -> float:
            return max(math.dist(origin, spot) for spot in spots)

        origin = min(self.points, key=lambda spot: (len(axes_from(spot)), longest(spot)))
        return origin, axes_from(origin) or [0]

    # --- costs ------------------------------------------------------------------------------

    def _best_crossing(self, spot: Vec3, inner: list[int]) -> tuple[float, tuple[int, int]]:
        """Return the cost and the axes of the cheapest two axis lines that cross at a spot."""
        # on a face the two lines of that face are enough; elsewhere any two will do
        free = inner if len(inner) >= 2 else []
        costs = {axis: self._line_cost(axis, spot, axis in free) for axis in range(3)}
        if self.raising is not None and not self.raising[3]:
            costs[self.raising[0]] += _RAISED_CRATE  # the crate is raised: offsets are repeated
        pairs = [(costs[a] + costs[b], (a, b)) for a, b in ((0, 1), (0, 2), (1, 2))]
        cost, axes = min(pairs)
        both_drawn = all(self.has_line(axis, spot) for axis in axes)
        return cost + (0.5 if both_drawn else 0.0), axes

    def _line_cost(self, axis: int, spot: Vec3, may_build: bool) -> float:
        if self.has_line(axis, spot):
            return 0.0
        if self.known_on(axis, spot) is not None:
            return _NEW_LINE
        if not may_build:
            return _IMPOSSIBLE
        return _NEW_LINE + self._end_cost(axis, self._best_end(axis, spot))

    def _best_end(self, axis: int, spot: Vec3) -> Vec3:
        """Return the cheaper of the two places where an axis line leaves the crate."""
        if self.near_only:
            return replace_axis(spot, axis, self.frame.bound(axis, self.frame.near[axis] > 0))
        ends = [replace_axis(spot, axis, self.frame.bound(axis, far)) for far in (False, True)]
        return min(ends, key=lambda end: self._end_cost(axis, end))

    def _end_cost(self, axis: int, end: Vec3) -> float:
        far = end[axis] == self.frame.high[axis]
        hidden = _FAR_SIDE if self.frame.on_hidden_side(axis, far) else 0.0
        return self._point_cost(end) + hidden

    def _point_cost(self, spot: Vec3) -> float:
        if spot in self.points:
            return 0.0
        inner = self.frame.inner_axes(spot)
        cost, _ = self._best_crossing(spot, inner)
        if len(inner) == 1:
            cost = min(cost, self._setting_cost(inner[0], spot))
        return cost

    def _setting_cost(self, axis: int, spot: Vec3) -> float:
        return _NEW_SETTING + (0.0 if self.has_line(axis, spot) else 2 * _NEW_LINE)

    def known_on(self, axis: int, spot: Vec3) -> Vec3 | None:
        """Return a spot that has a letter on the axis line through another, if there is one."""
        on_line = self._on_line.get(line_key(axis, spot), [])
        return on_line[0] if on_line else None


_DIRECTION_WORDS = (later("a length line"), later("a depth line"), later("an upright"))
_AXIS_LINES = (later("the length line"), later("the depth line"), later("the upright line"))
_WAY_WORDS = (
    (later("to the left along the length"), later("to the right along the length")),
    (later("forward along the depth"), later("back along the depth")),
    (later("down the height"), later("up the height")),
)


def _half_turn(angle: float) -> float:
    """Bring an angle into (−180, 180]."""
    return angle - 360.0 if angle > 180.0 else angle
