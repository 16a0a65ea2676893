"""Reads views into parts: cells, demands, fillings, features, and a last look at the result.

Every answer is made as a part, and its own views are laid over the given ones: nothing is taken
for read that does not account for every line.
"""

from __future__ import annotations

import time
from collections.abc import Iterator, Sequence
from contextlib import suppress
from dataclasses import replace
from itertools import combinations

import numpy as np

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.errors import BadInput, HolopticError
from holoptic.part import ImportedSolid, Operation, Part, Prism, Strip
from holoptic.part.walls import Flat
from holoptic.part.whole import PartSource
from holoptic.progress import tell
from holoptic.reading.answers import ALWAYS, ASIDE, Filling, conflict, fillings, nearest
from holoptic.reading.arcs import with_arcs
from holoptic.reading.blocks import engineered
from holoptic.reading.candidates import candidates
from holoptic.reading.clauses import Clause, Writer
from holoptic.reading.columns import Demand, all_demands
from holoptic.reading.compare import compare
from holoptic.reading.features import FeatureFinder, Recipe
from holoptic.reading.general import Refining
from holoptic.reading.guided import begin
from holoptic.reading.kernel import Kernel
from holoptic.reading.lines import DrawnView
from holoptic.reading.parts import make_part
from holoptic.reading.planes import OPPOSITE, PLANES, canonical
from holoptic.reading.result import (
    USUAL_LIMIT_S,
    USUAL_MOST,
    Answer,
    Difference,
    Reading,
    Suspect,
)
from holoptic.reading.skew_shapes import SkewShape
from holoptic.reading.space import Space
from holoptic.reading.surfaces import RingSurface, Surface
from holoptic.reading.suspecting import suspected
from holoptic.reading.third_view import ties, without_third
from holoptic.reading.tidying import tidied
from holoptic.reading.tracks import as_drawn, loosened, on_all_tracks
from holoptic.reading.wording import told, worded
from holoptic.tolerance import SAME_SHAPE, SHARE

_FEW_SKEW = 3
_SHARE_ROUND, _SHARE_PLAIN = 0.6, 0.15
"""Shares of the time that solids may be tried for: with further faces, and with those drawn."""
_SHARE_NAMED = 0.06
"""So is the share for shapes that have a name, before solids by their faces."""
_RECIPES_BUILT = 2
_DESCRIPTIONS_BUILT = 6
"""So many ways of describing an answer are built to see whether they are the same solid."""
_USUAL_VIEWS = ("front", "top", "right")


class OutOfTime(HolopticError):
    """Reading took longer than it may; the text says how far it got."""


def read_views(
    views: Sequence[DrawnView], kernel: Kernel, name: str = tr("read part"), *,
    most: int = USUAL_MOST, limit_s: float = USUAL_LIMIT_S, sections: Sequence[DrawnView] = (),
    brief: bool = False,
) -> Reading:  # fmt: skip
    """Return what views mean; where one is missing, the lines of `sections` may run in it.

    If `brief`, nothing is said of what stands against each other. Raises BadInput for fewer than
    two planes.
    """
    chosen = [with_arcs(view) for view in tidied(_one_for_each_plane(views))]
    try:
        reading = _Reader(chosen, kernel, name, most, limit_s, sections, brief).read()
    except OutOfTime as error:
        so_far = Reading("unfinished", tuple(chosen), (), notes=(str(error),))
        return so_far if brief else _with_outlines(so_far, kernel, name)
    if reading.verdict == "contradictory" and not brief:
        notes = _from_the_other_side(chosen, kernel, name, limit_s)
        reading = replace(reading, notes=(*reading.notes, *notes))
        if not reading.answers:
            reading = _with_outlines(reading, kernel, name)
    return reading


def go_together(views: Sequence[DrawnView], kernel: Kernel, limit_s: float = USUAL_LIMIT_S) -> bool:
    """Say whether some part of faces along the axes has three views. Raises OutOfTime.

    Where all lines run along the axes it has no others: an edge of a leaning face leans in a view.
    """
    return _Reader(list(views), kernel, "", 1, limit_s).agrees()


def read_nearly(
    views: Sequence[DrawnView], kernel: Kernel, name: str = tr("read part"), *,
    limit_s: float = USUAL_LIMIT_S,
) -> Iterator[Answer]:  # fmt: skip
    """Yield parts that views mean but for what lies on one line of one of them, the nearest first.

    Raises BadInput for fewer than two planes, OutOfTime.
    """
    chosen = [with_arcs(view) for view in tidied(_one_for_each_plane(views))]
    yield from _Reader(chosen, kernel, name, 1, limit_s, brief=True).nearly()


def _with_outlines(reading: Reading, kernel: Kernel, name: str) -> Reading:
    """Return a reading without a part with what its outlines have in common instead."""
    given = list(reading.views)
    try:
        part = begin(given, name).part
        wanted = tuple(dict.fromkeys((*_USUAL_VIEWS, *(view.name for view in given))))
        views, volume = kernel.show(part, wanted)
    except HolopticError:
        return reading
    differences = tuple(compare(given, views))
    answer = Answer(part, tuple(views), volume, differences)
    if reading.verdict == "unfinished":
        note = tr("what the outlines have in common is shown meanwhile")
        return replace(reading, answers=(answer,), notes=(*reading.notes, note))
    found = reading.suspects or _suspects_of(answer)
    note = tr("no part comes near; what the outlines have in common is shown, for the guided way")
    return replace(reading, answers=(answer,), suspects=found, notes=(*reading.notes, note))


def _suspects_of(answer: Answer) -> tuple[Suspect, ...]:
    return tuple(Suspect(d.view, d.path, _DIFFERENCE_WORDS[d.kind]) for d in answer.differences)


def _from_the_other_side(
    views: list[DrawnView], kernel: Kernel, name: str, limit_s: float
) -> tuple[str, ...]:
    """Say which upright view agrees with the others once it is taken for its opposite."""
    for view in views:
        if view.name not in ("front", "right", "left", "rear"):
            continue
        other = OPPOSITE[view.name]
        turned = [replace(one, name=other) if one is view else one for one in views]
        with suppress(OutOfTime):
            if _Reader(turned, kernel, name, 1, limit_s / 4).agrees():
                return (
                    tr(
                        "the {name} view agrees with the others if it is taken for a "
                        "{other} view: it seems to be drawn from the wrong side",
                        name=tr(view.name),
                        other=tr(other),
                    ),
                )
    return ()


def _one_for_each_plane(views: Sequence[DrawnView]) -> list[DrawnView]:
    """Return one view for each depth axis, the usual ones first. Raises BadInput."""
    order = list(PLANES)
    found: dict[int, DrawnView] = {}
    for view in sorted(views, key=lambda view: order.index(view.name)):
        if view.drawn:
            found.setdefault(PLANES[view.name].depth, view)
    if len(found) < 2:
        raise BadInput(tr("at least two views in different planes are needed"))
    return list(found.values())


class _Reader:
    def __init__(
        self, views: list[DrawnView], kernel: Kernel, name: str, most: int, limit_s: float,
        sections: Sequence[DrawnView] = (), brief: bool = False,
    ) -> None:  # fmt: skip
        self._brief = brief
        self._sections = [canonical(view) for view in sections]
        self._given, self._kernel, self._name, self._most = views, kernel, name, most
        self._show = kernel.show
        self._end = time.monotonic() + limit_s
        self._limit_s = limit_s
        self._wanted = tuple(dict.fromkeys((*_USUAL_VIEWS, *(view.name for view in views))))
        self._notes: tuple[str, ...] = ()
        self._cut_short = False
        self._tried: set[PartSource] = set()
        self._ways: dict[PartSource, Sequence[Recipe]] = {}
        self._space: Space
        self._demands: list[Demand]
        self._shapes: tuple[SkewShape, ...] = ()

    def read(self) -> Reading:
        """Return what the views mean."""
        self._tell(tr("sorting the lines into cells"), 0.05)
        whole = [canonical(view) for view in self._given]
        if len(whole) == 3:
            return self._read_three(whole, two=False)
        reading = self._read_three(without_third(whole, True, self._sections), two=True)
        if reading.verdict in ("unique", "several"):
            return reading
        return self._read_three(without_third(whole, False, self._sections), two=True)

    def agrees(self) -> bool:
        """Say whether three views go together, with faces along the axes alone."""
        whole = [canonical(view) for view in self._given]
        return len(whole) == 3 and isinstance(self._try(whole, (), two=False), Reading)

    def nearly(self) -> Iterator[Answer]:
        """Yield parts that all of three views show but for one track: all on one line of a view,
        those first that need the least change there.
        """
        views = [canonical(view) for view in self._given]
        if len(views) != 3:
            return
        everywhere = on_all_tracks(views, Space(views, ()).breaks)
        self._space = Space(everywhere, ())
        counts = {PLANES[view.name].depth: len(view.lines) for view in views}
        self._demands = as_drawn(self._collect(), counts)
        self._tell(tr("looking for one line that may be wrong"), 0.7)
        for filling in loosened(self._space, self._demands):
            answer = self._answer(FeatureFinder(self._space, ()).recipes(filling))
            if answer is not None:
                yield answer

    def _read_three(self, views: list[DrawnView], two: bool) -> Reading:
        """Read three views: with faces along the axes alone, and if need be with other shapes."""
        surfaces = tuple(candidates(views))
        # where several sloping faces close, plain reading only takes its time
        is_skew = sum(isinstance(surface.wall, Flat) for surface in surfaces) >= _FEW_SKEW
        if is_skew and (general := self._general(views, surfaces, two)):
            return general
        plain = self._try(views, (), two)
        if isinstance(plain, Reading):
            return plain
        space, demands = self._space, self._demands
        shapes = () if two else tuple(suspected(views, space.sizes))
        named = self._named_at_once(views, shapes) if shapes else ()
        if isinstance(named, Reading):
            return named
        if not is_skew and (general := self._general(views, surfaces, two)):
            return general
        if named is None:
            self._tell(tr("looking for cones, balls, pyramids and skew corners"), 0.7)
            skew = self._try(views, shapes, two)
            if isinstance(skew, Reading):
                return skew
        if self._brief:
            return Reading("contradictory", tuple(self._given), ())
        self._space, self._demands, self._shapes = space, demands, ()
        told = self._contradiction(*plain)
        explained = [answer for answer in told.answers if not answer.differences]
        # what accounts for every line is read, however it was found
        return self._conclude([self._engineered(explained[0])], two) if explained else told

    def _named_at_once(
        self, views: list[DrawnView], shapes: tuple[SkewShape, ...]
    ) -> Reading | tuple[list[Clause], list[Filling]] | None:
        """Return the outcome of reading with some shapes if it comes soon, None where it does not:
        mostly it does where one stands on a block, which takes solids by their faces longest.
        """
        self._tell(tr("looking for cones, balls, pyramids and skew corners"), 0.65)
        end, self._end = self._end, time.monotonic() + self._limit_s * _SHARE_NAMED
        try:
            found = self._try(views, shapes, two=False)
        except OutOfTime:
            return None
        finally:
            self._end = end
        if self._cut_short:
            self._notes, self._cut_short = (), False
            return None
        return found

    def _general(
        self, views: list[DrawnView], surfaces: tuple[Surface | RingSurface, ...], two: bool
    ) -> Reading | None:
        """Return a solid bounded by its faces that views can mean."""
        self._tell(tr("looking for faces that are edge-on in no view"), 0.65)
        self._space = Space(views, surfaces)
        self._demands = self._collect()
        refining = Refining(self._space, self._demands, ties(self._space) if two else (),
                            self._given, self._kernel, self._name, self._wanted,
                            lambda: self._tell(tr("trying solids"), 0.8))  # fmt: skip
        end = time.monotonic() + self._limit_s * (_SHARE_ROUND if surfaces else _SHARE_PLAIN)
        try:
            found = list(refining.answers(2, end))
        finally:
            refining.close()
        if not found:
            return None
        self._shapes = () if two else tuple(suspected(views, self._space.sizes))
        answers = [self._named(filling) or answer for answer, filling in found]
        if any(isinstance(answer.part, ImportedSolid) for answer in answers):
            note = tr("no features that have a name make it: it is a solid bounded by its faces")
            self._notes = (*self._notes, note)
        return self._conclude(answers, two)

    def _named(self, filling: Filling) -> Answer | None:
        """Return a part whose features make a filling, in an engineer's words; None for none."""
        self._tried.clear()
        ways = FeatureFinder(self._space, self._shapes).recipes(filling)
        answer = self._answer(ways)
        if answer is None or answer.differences:
            return None
        self._ways[answer.part] = ways
        return self._engineered(answer)

    def _try(
        self, views: list[DrawnView], shapes: tuple[SkewShape, ...], two: bool
    ) -> Reading | tuple[list[Clause], list[Filling]]:
        """Return the outcome of reading with some shapes; without an answer, clauses and fillings
        to go on from.
        """
        self._shapes = shapes
        self._tried.clear()
        surfaces = dict.fromkeys(s for shape in shapes for s in shape.surfaces())
        self._space = Space(views, tuple(surfaces))
        self._demands = self._collect()
        self._tell(tr("weighing what can be full and what empty"), 0.6)
        writer = Writer(self._space.count)
        writer.write_all(self._demands)
        clauses = [*writer.clauses, *(ties(self._space) if two else ())]
        found = self._fillings(clauses)
        answers = self._answers(found)
        if len(answers) == 1:
            answers = [self._engineered(answers[0])]
        else:  # side by side they stay as they were found: what differs is told by that
            answers = [replace(answer, described=self._engineered(answer).part)
                       for answer in answers]  # fmt: skip
        return self._conclude(answers, two) if answers else (clauses, found)

    def _collect(self, switches: bool = True) -> list[Demand]:
        found = []
        for demand in all_demands(self._space, switches):
            found.append(demand)
            if len(found) % 64 == 0:
                share = len(found) / (len(found) + 2000)
                self._tell(tr("seeing what each line demands"), 0.1 + 0.5 * share)
        return found

    def _tell(self, words: str, share: float) -> None:
        tell(words, share)
        if time.monotonic() > self._end:
            raise OutOfTime(
                tr(
                    "not read within {limit_s:.0f} s; it got as far as {words}",
                    limit_s=self._limit_s,
                    words=words,
                )
            )

    def _fillings(self, clauses: list[Clause]) -> list[Filling]:
        """Return fillings that meet all demands; where there is none, without those that lie only
        near what they mean: the last look at the part tells whether they hold.
        """
        count = self._space.sampled
        for left_out in ((), ("free",), ("free", "switch")):
            kept = [c for c in clauses if self._sort_of(c) not in left_out]
            found = fillings(kept, count, 4 * self._most)
            whole = [filling for filling in found if self._is_one_body(filling)]
            if whole:
                return whole
        return []

    def _sort_of(self, clause: Clause) -> str:
        return "line" if clause.source < 0 else self._demands[clause.source].sort

    def _is_one_body(self, filling: Filling) -> bool:
        """Say whether the full cells hang together."""
        parent = list(range(len(filling)))

        def find(item: int) -> int:
            while parent[item] != item:
                parent[item] = parent[parent[item]]
                item = parent[item]
            return item

        for a, b in self._space.neighbours():
            if filling[a] and filling[b]:
                parent[find(a)] = find(b)
        return len({find(int(cell)) for cell in np.flatnonzero(filling)}) == 1

    def _answers(self, found: list[Filling]) -> list[Answer]:
        """Return the parts of fillings whose views account for all lines, the plainest first."""
        finder = FeatureFinder(self._space, self._shapes)
        answers: list[Answer] = []
        taken: list[Filling] = []
        recipes = [(filling, finder.recipes(filling)) for filling in found]
        recipes = sorted((x for x in recipes if x[1]), key=lambda x: x[1][0].cost)
        for number, (filling, ways) in enumerate(recipes):
            if len(answers) == self._most:
                break  # the plainest come first
            if answers and time.monotonic() > self._end:
                self._notes = (tr("time ran out: there may be further readings"),)
                self._cut_short = True
                break
            self._tell(tr("finding its features"), 0.7 + 0.3 * number / len(recipes))
            if any(self._is_same(filling, other) for other in taken):
                continue
            answer = self._answer(ways)
            if answer is None or answer.differences:
                continue
            self._ways[answer.part] = ways
            taken.append(filling)
            twin = next((x for x in answers if self._is_same_part(answer, x)), None)
            if twin is None:
                answers.append(answer)
            elif _plainness(answer.part) < _plainness(twin.part):
                answers[answers.index(twin)] = answer
        answers.sort(key=lambda answer: _plainness(answer.part))
        return answers[: self._most]

    def _engineered(self, answer: Answer) -> Answer:
        """Return an answer in the features and words of an engineer: the way of describing its
        solid that needs the fewest figures.
        """
        recipes = self._ways.get(answer.part, ())
        described = [part for recipe in recipes for part in self._descriptions(recipe)]
        described.sort(key=told)
        for part in described[:_DESCRIPTIONS_BUILT]:
            try:
                views, volume = self._show(part, self._wanted)
            except HolopticError:
                continue
            same = abs(volume - answer.volume) <= SHARE * volume
            if same and not compare(self._given, views):
                return Answer(part, tuple(views), volume, ())
        return answer

    def _descriptions(self, recipe: Recipe) -> Iterator[Part]:
        try:
            part = make_part(self._name, self._space.sizes, recipe)
            yield worded(engineered(part))
            yield worded(part)
        except (HolopticError, ValueError):
            return

    def _is_same(self, one: Filling, other: Filling) -> bool:
        """Say whether fillings differ in bits alone that are too small to be told apart."""
        atoms = self._space.atoms
        inside = atoms.cells >= 0
        apart = inside & (one[atoms.cells] != other[atoms.cells])
        return bool(atoms.volumes[apart].sum() < SAME_SHAPE * atoms.volumes.sum())

    def _is_same_part(self, one: Answer, other: Answer) -> bool:
        """Say whether answers are one solid in two descriptions: as large, and alike all round."""
        if abs(one.volume - other.volume) > SHARE * one.volume:
            return False
        names = tuple(PLANES)
        return not compare(self._show(one.part, names)[0], self._show(other.part, names)[0])

    def _answer(self, recipes: Sequence[Recipe]) -> Answer | None:
        """Return the best part made by some recipes, or None where none can be made."""
        best: Answer | None = None
        built = 0
        for recipe in recipes:
            if built == _RECIPES_BUILT:
                break  # all describe one solid; a second one may be built more cleanly
            try:
                part = make_part(self._name, self._space.sizes, recipe)
                if part in self._tried:
                    break  # another filling came to the same
                self._tried.add(part)
                views, volume = self._show(part, self._wanted)
            except HolopticError:
                continue
            built += 1
            differences = tuple(compare(self._given, views))
            if best is None or _amount(differences) < _amount(best.differences):
                best = Answer(part, tuple(views), volume, differences)
            if not differences:
                break
        return best

    def _conclude(self, answers: list[Answer], two: bool) -> Reading:
        notes = self._notes
        if two:
            notes = (tr("read from two views: the third one is drawn by Holoptic"), *notes)
        if len(answers) == 1 and not self._cut_short:
            return Reading("unique", tuple(self._given), tuple(answers), notes=notes)
        question = _question(answers, {view.name for view in self._given})
        return Reading(
            "several", tuple(self._given), tuple(answers), question=question, notes=notes
        )

    def _contradiction(self, clauses: list[Clause], found: list[Filling]) -> Reading:
        """Return the nearest part and what stands against it."""
        self._tried.clear()
        finder = FeatureFinder(self._space, self._shapes)
        if found:  # the cells agree, but no part made of them shows all lines
            answers = [a for f in found[:2] if (a := self._answer(finder.recipes(f)))]
            if answers:
                best = min(answers, key=lambda answer: _amount(answer.differences))
                return self._against(best, ())
            note = tr("its faces are of a sort that is not read into features yet")
            return Reading("contradictory", tuple(self._given), (), notes=(note,))
        self._tell(tr("looking for what cannot be true together"), 0.8)
        weights = [3 if demand.lines else 2 for demand in self._demands]
        weights = [1 if d.sort in ("free", "switch") else w
                   for w, d in zip(weights, self._demands, strict=True)]  # fmt: skip
        near = nearest(clauses, self._space.count, weights, self._space.neighbours())
        if near is None:
            return Reading("contradictory", tuple(self._given), ())
        best_answer = self._answer(finder.recipes(near.filling[: self._space.sampled]))
        reading = self._against(best_answer, self._suspects(near.broken))
        return replace(reading, conflict=self._conflict(clauses))

    def _conflict(self, clauses: list[Clause]) -> tuple[Suspect, ...]:
        """Return the fewest lines that cannot be true together with what is left blank."""
        lines: list[tuple[str, tuple[Vec2, ...]]] = []
        groups: dict[int, int] = {}
        for index, demand in enumerate(self._demands):
            if demand.sort in ("free", "switch"):
                groups[index] = ASIDE  # these can be wrong by themselves
            elif not demand.lines:
                groups[index] = ALWAYS
            else:
                view = self._space.views[demand.depth].view
                line = view.name, tuple(view.lines[min(demand.lines)].shape.path())
                if line not in lines:
                    lines.append(line)
                groups[index] = lines.index(line)
        found = sorted(conflict(clauses, groups, self._space.count))
        words = (
            tr("this line cannot be true with what is left blank") if len(found) == 1
            else tr("one of {found} lines that cannot be true together", found=len(found))
        )  # fmt: skip
        return tuple(Suspect(*lines[group], words) for group in found)

    def _against(self, answer: Answer | None, suspects: tuple[Suspect, ...]) -> Reading:
        found = list(suspects)
        if answer is not None and not found:
            found = list(_suspects_of(answer))
        answers = () if answer is None else (answer,)
        return Reading("contradictory", tuple(self._given), answers, tuple(found))

    def _suspects(self, broken: Sequence[int]) -> tuple[Suspect, ...]:
        """Return the lines and places whose demands do not hold, each line once."""
        found: dict[object, Suspect] = {}
        for index in broken:
            demand = self._demands[index]
            view = self._space.views[demand.depth].view
            if demand.lines:
                for line in demand.lines:
                    path = tuple(view.lines[line].shape.path())
                    words = tr("no edge can lie here that is {seen}", seen=tr(demand.seen))
                    found.setdefault((view.name, line), Suspect(view.name, path, words))
            else:
                place = (round(demand.place[0], 1), round(demand.place[1], 1))
                words = tr("an edge should show here, but nothing is drawn")
                found.setdefault((view.name, place), Suspect(view.name, (demand.place,), words))
        return tuple(found.values())


_DIFFERENCE_WORDS = {
    "missing": tr("the nearest part shows a line here that is not drawn"),
    "extra": tr("the nearest part shows no line here"),
    "status": tr("the nearest part shows this line, but not as it is drawn"),
}


def _operations(part: PartSource) -> tuple[Operation, ...]:
    return part.operations if isinstance(part, Part) else ()


def _plainness(part: PartSource) -> int:
    """Return how much there is to say of a part: the plainest comes first."""
    return sum(
        3 + len(operation.outline) if isinstance(operation, Prism | Strip) else 4
        for operation in _operations(part)
    )


def _amount(differences: Sequence[Difference]) -> float:
    return sum(difference.length for difference in differences)


def _question(answers: Sequence[Answer], given: set[str]) -> str:
    """Say what would decide between answers: the view that shows them most apart."""
    best, most = "", 0.0
    for one, other in combinations(answers[:4], 2):
        for view in one.views:
            twin = next((v for v in other.views if v.name == view.name), None)
            if twin is None or view.name in given:
                continue
            apart = _amount(compare([view], [twin]))
            if apart > most:
                best, most = view.name, apart
    first, second = (_operations(answer.part) for answer in answers[:2])
    odd = next((o.name for o in first if o not in second), "")
    if best:
        which = tr("which {best} view is meant?", best=tr(best))
        return f"{which} {tr('They differ in “{odd}”.', odd=odd)}" if odd else which
    return tr("how deep is “{odd}”?", odd=odd) if odd else tr("which of these is meant?")
