"""The last moves of a finished sheet: dimension lines, heads, lettering between guide lines,
shading.

They begin where the drawing is done: what its points and lines give is used, the rest is set off.
What a hand does by eye there (where a thin line begins, a head, a letter) is by eye here too, but
it must lie on lines that were drawn.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from itertools import pairwise

from holoptic.catalogue import Saying, later, tr
from holoptic.curves.paper import direction, offset_from_line
from holoptic.curves.vectors import Vec2
from holoptic.job import LineEnd
from holoptic.plan.drafter import Drafter
from holoptic.plan.effort import SHADE_LINE_S
from holoptic.plan.finish import (
    TITLE_SIDE,
    Caption,
    CuttingLineToDraw,
    DimensionToDraw,
    Finish,
    HatchedFace,
    ShadedFace,
    TitleRow,
    arc_name,
    cut_head,
    cut_letter,
    cut_piece,
    hatch_line,
    head_name,
    pieces_of,
    shade_line,
    title_line,
    title_upright,
)
from holoptic.plan.instruments import (
    COMPASS,
    DIVIDERS,
    PENCIL,
    RULE,
    SQUARE_30,
    STRAIGHTEDGE,
    T_SQUARE,
    square_along,
    square_for,
)
from holoptic.plan.moves import (
    BORDER_CORNER,
    BORDER_LINE,
    CUTTING_LINES,
    DIMENSIONS,
    HATCHING,
    LETTERING,
    SHADING,
    Letters,
    Move,
    Setup,
    Verb,
    bears_letter,
)
from holoptic.plan.writing import MoveWriter
from holoptic.tolerance import PROVED_MM, SEEN_MM, SHARE
from holoptic.units.spoken import figure, on_rule

_SAME_MM = PROVED_MM / 4
_MINUTE_S = 60.0
_WAYS = (
    (later("to the right"), later("to the left")), (later("up"), later("down")),
)  # fmt: skip


_LOWER_BORDER = BORDER_LINE, BORDER_CORNER

_Drawn = tuple[str, tuple[str, str], tuple[str, str]]
"""The line of a dimension, the letters of its heads, and the line that its words stand on with a
point of it.
"""


def finished(moves: Sequence[Move], setup: Setup, paper: Drafter) -> tuple[Move, ...]:
    """Return moves, numbered, with those that finish the drawing; `paper` has what they draw."""
    whole = (*moves, *finishing_moves(setup, paper))
    return tuple(replace(move, n=number) for number, move in enumerate(whole, 1))


def finishing_moves(setup: Setup, paper: Drafter) -> list[Move]:
    """Return the moves that finish a drawing; `paper` has the drawing, and what finishes it too
    then.
    """
    if setup.finish is None:
        return []
    work = _Finishing(setup, paper)
    work.write(setup.finish)
    return work.writer.moves


class _Finishing:
    def __init__(self, setup: Setup, paper: Drafter) -> None:
        self.paper = paper
        self.writer = MoveWriter(setup)
        self._counts: dict[str, int] = {}

    def write(self, finish: Finish) -> None:
        """Write all moves."""
        self.writer.phase = HATCHING
        for k, cut in enumerate(finish.hatches, 1):
            self._hatch(cut, k)
        self.writer.phase = CUTTING_LINES
        for k, line in enumerate(finish.cutting_lines, 1):
            self._cutting_line(line, k)
        self.writer.phase = DIMENSIONS
        for k, one in enumerate(finish.dimensions, 1):
            self._dimension(one, k)
        self.writer.phase = LETTERING
        for k, caption in enumerate(finish.captions, 1):
            self._caption(caption, k)
        self._title(finish)
        self.writer.phase = SHADING
        for k, face in enumerate(finish.shades, 1):
            self._shade(face, k)

    # --- on the paper -------------------------------------------------------------------------

    def _do(
        self,
        verb: Verb,
        instrument: str,
        uses: tuple[str, ...],
        makes: tuple[str, ...],
        text: Saying,
        *,
        setting: float | None = None,
        angle: float | None = None,
        table: tuple[tuple[float, ...], ...] = (),
        letters: tuple[Letters, ...] = (),
    ) -> None:
        """Write a move and draw it, so that what comes after finds it on the paper."""
        self.writer.write(verb, instrument, uses, makes, text, setting=setting, angle=angle,
                          table=table, letters=letters)  # fmt: skip
        self.paper.carry_out(self.writer.moves[-1:])

    def _letter_name(self) -> str:
        name = self.writer.name_place((0.0, 0.0))
        while name in self.paper.points:
            name = self.writer.name_place((0.0, 0.0))
        return name

    def _named(self, what: str) -> str:
        self._counts[what] = self._counts.get(what, 0) + 1
        return f"{what} {self._counts[what]}"

    def _known(self, place: Vec2) -> str | None:
        """Return the letter of a point that lies at a place, None where there is none."""
        near = ((math.dist(at, place), name) for name, at in self.paper.points.items()
                if bears_letter(name))  # fmt: skip
        away, name = min(near, default=(math.inf, ""))
        return name if away < _SAME_MM else None

    def _point(self, place: Vec2, what: Saying) -> str:
        """Return the letter of a place; set off from the nearest letter where it has none."""
        known = self._known(place)
        if known is not None:
            return known
        near = min((name for name in self.paper.points if bears_letter(name)),
                   key=lambda name: math.dist(self.paper.points[name], place))  # fmt: skip
        (x, y), name = self.paper.points[near], self._letter_name()
        off = place[0] - x, place[1] - y
        words = later(
            "From {letter} {across} {side} and {up} {way}: {name}, {what}.", letter=near, name=name,
            across=on_rule(abs(off[0])), side=_WAYS[0][off[0] < 0], up=on_rule(abs(off[1])),
            way=_WAYS[1][off[1] < 0], what=what,
        )  # fmt: skip
        self._do("plot", DIVIDERS, (near, BORDER_LINE, self._line_at(90.0)), (name,), words,
                 table=(off,))  # fmt: skip
        return name

    def _line_at(self, angle: float) -> str:
        """Return a line on the paper that runs in a direction (degrees). Raises KeyError."""
        found = self._lines_along(angle)
        if not found:
            raise KeyError(angle)
        return found[0]

    def _lines_along(self, angle: float) -> list[str]:
        way = _way(angle)
        return [name for name, (_, along) in self.paper.lines.items()
                if abs(along[0] * way[1] - along[1] * way[0]) < SHARE]  # fmt: skip

    def _line(self, point: str, angle: float, *, meets: str | None = None) -> tuple[str, str]:
        """Draw a light line through a letter unless it is there; return it, and the letter where it
        meets another line.
        """
        place = self.paper.points[point]
        along = self._lines_along(angle)
        for name in along:
            if abs(offset_from_line(place, *self.paper.lines[name])) < _SAME_MM:
                return name, self._met(name, meets)
        name, turn = self._named(tr("thin line")), angle % 180.0
        met = self._letter_name() if meets is not None else ""
        uses, makes = ((point, meets), (name, met)) if meets is not None else ((point,), (name,))
        instrument = square_along(turn)
        words = (
            later("Set square along the axis, through {point} as far as {other}: {met}.",
                  point=point, other=meets, met=met)
            if meets is not None
            else later("Set square along the axis: a light line through {point}.", point=point)
        )  # fmt: skip
        if square_for(turn) is not None:
            self._do("draw", instrument, uses, makes, words, angle=turn)
        else:
            self._do("parallel", instrument, (uses[0], along[0], *uses[1:]), makes, words,
                     angle=turn)  # fmt: skip
        return name, met

    def _met(self, line: str, other: str | None) -> str:
        """Mark where two lines that are there cross."""
        if other is None:
            return ""
        name = self._letter_name()
        words = later("Mark {name} where {one} and {two} cross.", name=name, one=line, two=other)
        self._do("meet", PENCIL, (line, other), (name,), words)
        return name

    def _over(self, ends: tuple[str, str], line: str, path: tuple[Vec2, Vec2], name: str,
              words: Saying) -> None:  # fmt: skip
        """Go thinly over a piece of a line; its own ends are judged by eye from two letters."""
        one, two = (self.paper.points[end] for end in ends)
        way = direction(one, two) if math.dist(one, two) > _SAME_MM else direction(*path)
        at = [sum(way[k] * (place[k] - point[k]) for k in range(2))
              for place, point in zip(path, (one, two), strict=True)]  # fmt: skip
        self._do("go over", PENCIL, (*ends, line), (name,), words, angle=_degrees(way),
                 table=((round(at[0], 9), round(at[1], 9)),))  # fmt: skip

    # --- dimensions ---------------------------------------------------------------------------

    def _dimension(self, one: DimensionToDraw, k: int) -> None:
        names = [name for name, _ in pieces_of(one, k)]
        if one.arc is not None:
            self._angle(one, k, names)
            return
        line, ends, base = (self._leader if one.between is None else self._length)(one, names)
        for j, (tip, angle) in enumerate(one.heads, 1):
            at = min(ends, key=lambda name: math.dist(self.paper.points[name], tip))
            words = _END_WORDS[one.end_shape](at)
            self._do("head", PENCIL, (at, line), (head_name(k, j, one.end_shape),), words,
                     angle=angle)  # fmt: skip
        self._letter(one.letters, f"words {k}", base)

    def _length(self, one: DimensionToDraw, names: list[str]) -> _Drawn:
        """Draw extension lines along an axis, and the dimension line rolled back from the part."""
        assert one.between is not None
        starts = [self._point(place, later("an end of what is measured")) for place in one.between]
        sides: list[tuple[str, str]] = []
        for start, place, end in zip(starts, one.between, one.ends, strict=True):
            if math.dist(place, end) > _SAME_MM:
                sides.append((start, self._line(start, _angle(place, end))[0]))
            else:
                sides.append((start, ""))
        first = self._rolled_back(starts[0], sides[0][1], one.between[0], one.ends[0])
        line, second = self._dimension_line(first, sides[1], one)
        ends, unused = (first, second), iter(names)
        for (start, side), letter, path in zip(sides, ends, one.extensions, strict=True):
            if path is not None:
                words = later("Go over it thinly from a millimetre off {start} to just beyond "
                              "{end}.", start=start, end=letter)  # fmt: skip
                self._over((start, letter), side, path, next(unused), words)
        for piece, name in zip(one.pieces, unused, strict=True):
            words = later("Go thinly over the dimension line between {one} and {two}.", one=first,
                          two=second)  # fmt: skip
            self._over(ends, line, _turned(piece, self.paper, ends), name, words)
        return line, ends, (line, first)

    def _rolled_back(self, start: str, line: str, place: Vec2, end: Vec2) -> str:
        if not line:
            return start
        known = self._known(end)
        if known is not None:
            return known
        size, name = math.dist(place, end), self._letter_name()
        words = later("Roll the square back {size} from {start}: {name}.", size=on_rule(size),
                      start=start, name=name)  # fmt: skip
        self._do("set off", RULE, (start, line), (name,), words, setting=size,
                 angle=_angle(place, end))  # fmt: skip
        return name

    def _dimension_line(
        self, first: str, side: tuple[str, str], one: DimensionToDraw
    ) -> tuple[str, str]:
        angle = _angle(*one.ends)
        start, other = side
        if not other:
            return self._line(first, angle)[0], start
        known = self._known(one.ends[1])
        if known is not None:
            return self._line(first, angle)[0], known
        return self._line(first, angle, meets=other)

    def _leader(self, one: DimensionToDraw, names: list[str]) -> _Drawn:
        """Draw a leader to its elbow, and on level under the words."""
        tip = self._point(one.ends[0], later("where a leader points"))
        elbow = self._point(one.ends[1], later("where it turns"))
        leader = self._named(tr("leader"))
        self._do("join", STRAIGHTEDGE, (tip, elbow), (leader,),
                 later("Straightedge from {tip} to {elbow}.", tip=tip, elbow=elbow))  # fmt: skip
        words = later("Go thinly over the leader from {tip} to {elbow}.", tip=tip, elbow=elbow)
        self._over((tip, elbow), leader, one.pieces[0], names[0], words)
        shelf, _ = self._line(elbow, 0.0)
        words = later("On from {elbow}, level, as far as the words will reach.", elbow=elbow)
        self._over((elbow, elbow), shelf, one.pieces[1], names[1], words)
        return leader, (tip, elbow), (shelf, elbow)

    def _angle(self, one: DimensionToDraw, k: int, names: list[str]) -> None:
        """Draw the arc of an angle about its corner."""
        assert one.arc is not None
        centre, radius, first, last = one.arc
        corner = self._point(centre, later("the corner of an angle"))
        ends = [self._point(_at(centre, radius, angle), later("an end of the arc"))
                for angle in (first, last)]  # fmt: skip
        arc = self._named(tr("arc of an angle"))
        words = later("Needle on {corner}, compass {radius}: an arc from {one} to {two}.",
                      corner=corner, radius=on_rule(radius), one=ends[0], two=ends[1])  # fmt: skip
        self._do("arc", COMPASS, (corner, *ends), (arc,), words, setting=radius)
        self._do("firm in", PENCIL, (*ends, arc), (arc_name(k),),
                 later("Go over it, thin."))  # fmt: skip
        for path, name in zip(one.pieces, names, strict=False):
            begin = min(ends, key=lambda name: math.dist(self.paper.points[name], path[1]))
            line = self._named(tr("side of an angle"))
            words = later("Straightedge from {corner} to {end}.", corner=corner, end=begin)
            self._do("join", STRAIGHTEDGE, (corner, begin), (line,), words)
            self._over((corner, begin), line, path, name,
                       later("Go over it, thin, to just beyond the arc."))  # fmt: skip
        for j, (tip, angle) in enumerate(one.heads, 1):
            at = min(ends, key=lambda name: math.dist(self.paper.points[name], tip))
            self._do("head", PENCIL, (at,), (head_name(k, j, one.end_shape),),
                     later("A head at {point}, along the arc.", point=at), angle=angle)  # fmt: skip
        self._letter(one.letters, f"words {k}", _LOWER_BORDER)

    # --- lettering ----------------------------------------------------------------------------

    def _letter(self, letters: Letters, name: str, base: tuple[str, str]) -> None:
        """Rule guide lines along the line of a base, of which a point is known, and letter; words
        that run another way get level ones over the lower border.
        """
        way = _way(letters.along_deg)
        line, point = base
        if abs(_cross(self.paper.lines[line][1], way)) > SHARE:
            line, point = _LOWER_BORDER
        foot = self.paper.points[point]
        low = way[0] * (letters.at[1] - foot[1]) - way[1] * (letters.at[0] - foot[0])
        guides = self._guides(line, point, letters.along_deg, (low, low + letters.height))
        text = later("Letter {text} between them, {height} high.", text=letters.text,
                     height=figure(letters.height))  # fmt: skip
        self._do("letter", PENCIL, guides, (name,), text, letters=(letters,))

    def _guides(
        self, line: str, point: str, angle: float, offsets: Iterable[float]
    ) -> tuple[str, ...]:
        """Rule light guide lines along a line, unless they are there."""
        rows = [round(offset, 9) for offset in offsets]
        names = tuple(self._named(tr("guide")) for _ in rows)
        words = (
            later("Guide lines {low} and {high} over the lower border, light.",
                  low=on_rule(rows[0]), high=on_rule(rows[-1]))
            if line == BORDER_LINE
            else later("Guide lines along it, {apart} apart, light.",
                       apart=on_rule(abs(rows[-1] - rows[0])))
        )  # fmt: skip
        self._do("guides", square_along(angle % 180.0), (line, point), names, words, angle=angle,
                 table=tuple((row,) for row in rows))  # fmt: skip
        return names

    def _caption(self, caption: Caption, k: int) -> None:
        self._letter(caption.letters, f"caption {k}", _LOWER_BORDER)

    # --- title block ----------------------------------------------------------------------------

    def _title(self, finish: Finish) -> None:
        """Rule the rows and cells of the title block, and letter it."""
        rows = finish.title
        if not rows:
            return
        upper, _ = self._level(finish, rows[0].high, 0)
        if not finish.stands(rows[0].high):
            ends = "title corner", "title row mark 0"
            path = self.paper.points[ends[0]], self.paper.points[ends[1]]
            self._over(ends, "title side", path, TITLE_SIDE,
                       later("Go on over the side of the title block."))  # fmt: skip
        for k, row in enumerate(rows, 1):
            line, foot = self._level(finish, row.low, k)
            for j, cell in enumerate(row.cells[1:], 1):
                self._cell_side((k, j), cell.left, line, foot, upper)
            self._letter_row(row, k, line, foot)
            upper = line

    def _level(self, finish: Finish, level: float, k: int) -> tuple[str, str]:
        """Return a level line of the title block, ruled unless it stands, and its left end."""
        left = "title mark 1"
        if abs(level) < SEEN_MM:
            return BORDER_LINE, left
        if finish.stands(level):
            return "title top", "title corner"
        mark, end, line = (f"title row {what} {k}" for what in ("mark", "end", "line"))
        up = level - self.paper.points[left][1]
        words = later("Up the side of the title block set off {up}.", up=on_rule(up))
        self._do("set off", RULE, (left, "title side"), (mark,), words, setting=up, angle=90.0)
        self._do("draw", T_SQUARE, (mark, "right border"), (line, end),
                 later("A level line there to the right border."), angle=0.0)  # fmt: skip
        path = self.paper.points[mark], self.paper.points[end]
        self._over((mark, end), line, path, title_line(k), later("Go over it, thin."))
        return line, mark

    def _cell_side(
        self, at: tuple[int, int], left: float, line: str, foot: str, upper: str
    ) -> None:
        k, j = at
        mark, end, side = (f"title cell {what} {k}.{j}" for what in ("mark", "end", "side"))
        size = left - self.paper.points[foot][0]
        words = later("Along the lower line of row {k} set off {size}.", k=k, size=on_rule(size))
        self._do("set off", RULE, (foot, line), (mark,), words, setting=size, angle=0.0)
        self._do("draw", SQUARE_30, (mark, upper), (side, end),
                 later("An upright there to the line above."), angle=90.0)  # fmt: skip
        path = self.paper.points[mark], self.paper.points[end]
        self._over((mark, end), side, path, title_upright(k, j), later("Go over it, thin."))

    def _letter_row(self, row: TitleRow, k: int, line: str, foot: str) -> None:
        letters = [each for cell in row.cells for each in cell.letters]
        if not letters:
            return
        low = self.paper.points[foot][1]
        offsets = {round(each.at[1] - low, 6) for each in letters}
        offsets |= {round(max(e.at[1] + e.height - low for e in letters
                              if abs(e.at[1] - low - offset) < _SAME_MM), 6)
                    for offset in offsets}  # fmt: skip
        names = tuple(self._named(tr("guide")) for _ in offsets)
        self._do("guides", T_SQUARE, (line, foot), names,
                 later("Guide lines in row {k} of the title block, light.", k=k), angle=0.0,
                 table=tuple((offset,) for offset in sorted(offsets)))  # fmt: skip
        for j, cell in enumerate(row.cells, 1):
            if cell.letters:
                makes = tuple(f"cell {k}.{j}.{n}" for n in range(1, len(cell.letters) + 1))
                text = ": ".join(each.text for each in cell.letters)
                words = later("Letter {text}.", text=text)
                self._do("letter", PENCIL, names, makes, words, letters=cell.letters)

    # --- hatching -------------------------------------------------------------------------------

    def _hatch(self, cut: HatchedFace, k: int) -> None:
        """Hatch or fill a cut face: where the first line runs, how far apart, where to stop."""
        makes = tuple(hatch_line(k, j) for j in range(1, len(cut.lines) + 1))
        table = tuple(tuple(round(v, 9) for place in path for v in place) for path in cut.lines)
        near = [name for name, place in self.paper.points.items()
                if bears_letter(name) and math.dist(place, cut.corner) < _SAME_MM]  # fmt: skip
        corner = near[0] if near else tr("its outermost corner")
        what = tr("the cut face of {part}", part=cut.part) if cut.part else tr("the next cut face")
        words = (
            later("Fill {what}, it is thin: {count} lines close together.", what=what,
                  count=len(makes))
            if cut.is_filled
            else later(
                "Hatch {what}: the first line {first} off {corner}, at {angle:g}°, then slide the "
                "square by {pitch} each time: {count} thin lines, about {time}, each stops at the "
                "outline.",
                what=what, first=figure(round(cut.first, 1)), corner=corner,
                angle=round(cut.angle, 1), pitch=figure(round(cut.pitch, 2)), count=len(makes),
                time=_spoken_time(len(makes) * SHADE_LINE_S),
            )
        )  # fmt: skip
        along = self._lines_along(cut.angle)
        self._do("shade", square_along(cut.angle % 180.0), tuple(along[:1]), makes, words,
                 angle=cut.angle, table=table)  # fmt: skip

    # --- cutting lines --------------------------------------------------------------------------

    def _cutting_line(self, line: CuttingLineToDraw, k: int) -> None:
        """Draw where a section is cut: the chain, its thick ends and corners, arrows, letters."""
        corners = [self._point(place, later("a corner of the cutting line")) for place in line.path]
        for j, (pair, path) in enumerate(zip(pairwise(corners), pairwise(line.path), strict=True)):
            name = self._joined(*pair)
            self._over(pair, name, path, cut_piece("chain", k, j + 1),
                       later("Go thinly over it from {start} to {end}, a chain.", start=pair[0],
                             end=pair[1]))  # fmt: skip
            for n, piece in enumerate(line.thick, 1):
                if _lies_on(piece, path):
                    self._over(pair, name, piece, cut_piece("thick", k, n),
                               later("Thick at its end, or corner."))  # fmt: skip
        for j, (tail, tip) in enumerate(line.arrows, 1):
            ends = self._point(tail, later("where an arrow begins")), self._point(
                tip, later("where it points"))  # fmt: skip
            shaft = self._joined(*ends)
            self._over(ends, shaft, (tail, tip), cut_piece("arrow", k, j),
                       later("The arrow from {start} to {end}, in the direction of sight.",
                             start=ends[0], end=ends[1]))  # fmt: skip
            words = _END_WORDS["arrow"](ends[1])
            self._do("head", PENCIL, (ends[1], shaft), (cut_head(k, j),), words,
                     angle=_angle(tip, tail))  # fmt: skip
        for j, letters in enumerate(line.letters, 1):
            self._letter(letters, cut_letter(k, j), _LOWER_BORDER)

    def _joined(self, one: str, two: str) -> str:
        line = self._named(tr("cutting line"))
        words = later("Straightedge from {one} to {two}.", one=one, two=two)
        self._do("join", STRAIGHTEDGE, (one, two), (line,), words)
        return line

    # --- shading --------------------------------------------------------------------------------

    def _shade(self, face: ShadedFace, k: int) -> None:
        """Shade a face by parallel lines, closer where it turns from the light."""
        makes = tuple(shade_line(k, j) for j in range(1, len(face.lines) + 1))
        table = tuple(tuple(round(v, 9) for place in path for v in place) for path in face.lines)
        along = self._lines_along(face.slant) if face.slant is not None else []
        pitch = (
            later("{pitch} apart", pitch=figure(round(face.wide, 1)))
            if face.wide - face.close < 0.1
            else later("from {wide} to {close} apart, closer where it turns from the light",
                       wide=figure(round(face.wide, 1)), close=figure(round(face.close, 1)))
        )  # fmt: skip
        words = (
            later("Shade the next dark face by {count} thin lines, {pitch}.", count=len(makes),
                  pitch=pitch)
            if len(makes) > 1
            else later("One thin line shades the next dark strip.")
        )  # fmt: skip
        instrument = square_along(face.slant % 180.0) if face.slant is not None else PENCIL
        self._do("shade", instrument, tuple(along[:1]), makes, words, angle=face.slant,
                 table=table)  # fmt: skip


_END_WORDS: dict[LineEnd, Callable[[str], Saying]] = {
    "arrow": lambda at: later("A head at {point}, three times as long as wide.", point=at),
    "slash": lambda at: later("A short stroke at 45° through {point}, 3 long.", point=at),
    "dot": lambda at: later("A dot upon {point}.", point=at),
}


def _spoken_time(seconds: float) -> str:
    if seconds < _MINUTE_S:
        return tr("{seconds:.0f} s", seconds=max(5 * round(seconds / 5), 5))
    return tr("{minutes:.0f} min", minutes=seconds / _MINUTE_S)


def _lies_on(piece: tuple[Vec2, Vec2], path: tuple[Vec2, Vec2]) -> bool:
    """Say whether a piece lies on a straight path."""
    (x, y), (u, v) = path
    return all(
        abs(math.dist(place, (x, y)) + math.dist(place, (u, v)) - math.dist(*path)) < _SAME_MM
        for place in piece
    )


def _way(angle: float) -> Vec2:
    turn = math.radians(angle)
    return math.cos(turn), math.sin(turn)


def _at(centre: Vec2, radius: float, angle: float) -> Vec2:
    way = _way(angle)
    return centre[0] + radius * way[0], centre[1] + radius * way[1]


def _degrees(way: Vec2) -> float:
    return math.degrees(math.atan2(way[1], way[0]))


def _angle(start: Vec2, end: Vec2) -> float:
    return round(_degrees(direction(start, end)), 9) + 0.0


def _cross(one: Vec2, two: Vec2) -> float:
    return one[0] * two[1] - one[1] * two[0]


def _turned(path: tuple[Vec2, Vec2], paper: Drafter, ends: tuple[str, str]) -> tuple[Vec2, Vec2]:
    """Return a piece of a line the way round in which its letters follow each other."""
    one, two = (paper.points[end] for end in ends)
    way = two[0] - one[0], two[1] - one[1]
    on = (path[1][0] - path[0][0]) * way[0] + (path[1][1] - path[0][1]) * way[1]
    return path if on >= 0 else (path[1], path[0])
