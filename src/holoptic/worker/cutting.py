"""Which cuts are worth showing: those that bring most of what is hidden to light come first."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations

import shapely

from holoptic.catalogue import ntr, tr
from holoptic.curves.vectors import Vec2, apply
from holoptic.errors import HolopticError
from holoptic.job import Posed
from holoptic.keeping import about
from holoptic.part import Part, Whole
from holoptic.part.cutting import AXES, Stock, centres_of, cutter_of
from holoptic.pictorial import Picture, Stroke, draw
from holoptic.progress import tell
from holoptic.solid.shelf import look
from holoptic.tolerance import GIVEN_MM
from holoptic.worker.messages import CutProposed
from holoptic.worker.settling import sound, view_in

PROPOSED = 5
"""So many cuts stand side by side."""
_TRIED = 14
_ON_LINE_MM = 0.02
_COST = {"half": 0.0, "through": 0.3, "full": 0.5, "offset": 0.8}
"""What a cut costs, in hidden lines: a half one leaves the outside to be seen too."""
_MOST_NAMES = 2


@dataclass(frozen=True)
class _Found:
    words: str
    picture: Picture
    shown: Counter[int | None]
    lost: int

    @property
    def rank(self) -> tuple[float, str]:
        gain = sum(self.shown.values()) - 0.25 * self.lost - _COST[self.words.partition(":")[0]]
        return -gain, self.words


def propose_cuts(posed: Posed) -> tuple[CutProposed, ...]:
    """Return the cuts of a figure that show most of what is hidden in it, the best first.

    Raises PartError where nothing of its subject can be made.
    """
    whole = sound(posed.uncut())[0]
    view = view_in(posed)
    found: list[_Found] = []
    with about(posed.figure.subject):
        seen = look(whole.source, (view.toward_viewer,))
        picture = draw(seen.looks[0], view)
        source = whole.source.moved({}) if isinstance(whole.source, Whole) else whole.source
        facts = look(source, (view.toward_viewer,)).facts
        stock = Stock(source, facts.low, facts.high, view.toward_viewer)
        wanted = list(dict.fromkeys(_candidates(stock)))[:_TRIED]
        for number, words in enumerate(wanted):
            tell(tr("looking for cuts that show most"), number / len(wanted))
            try:
                cutter = cutter_of(words, stock)
                opened = draw(look(whole.source, (view.toward_viewer,), cutter).looks[0], view)
            except HolopticError:
                continue
            shown = _brought_to_light(picture, opened)
            lost = max(0, len(picture.visible) - len(opened.visible))
            found.append(_Found(words, opened, shown, lost))
    best: list[_Found] = []
    for one in sorted(found, key=lambda one: one.rank):
        if all(one.picture.strokes != other.picture.strokes for other in best):
            best.append(one)
    return tuple(
        CutProposed(one.words, titles_of(one.words), _reasons(one.shown, whole.source), one.picture)
        for one in best[:PROPOSED]
    )


def _candidates(stock: Stock) -> Iterator[str]:
    """Yield cuts worth trying: through the features that have an axis, and the middle."""
    centres = [(name, centre) for name, centre in centres_of(stock.source) if "." not in name]
    middle = stock.middle
    central = [name for name, centre in centres if all(
        abs(centre.place[axis] - middle[axis]) < GIVEN_MM
        for axis in range(3) if axis != centre.axis
    )]  # fmt: skip
    yield "half"
    yield "full:depth"
    yield "full:length"
    for name in central[:1]:
        yield f"half:through={name}"
    rows: dict[tuple[int, float], list[str]] = {}
    for name, centre in centres:
        for axis in (1, 0):
            if centre.axis != axis:
                rows.setdefault((axis, round(centre.place[axis], 3)), []).append(name)
    for (axis, _), names in sorted(rows.items(), key=lambda row: (-len(row[1]), row[0])):
        if axis == 1:
            yield f"through:{','.join(names)}"
        elif len(names) > 1:
            yield f"full:{AXES[0]}={_place(stock, names[0])}"
    others = [name for name, centre in centres if name not in central]
    for one, two in combinations([*central[:1], *others[:3]], 2):
        yield f"offset:{one},{two}"
    for name in others[:4]:
        yield f"half:through={name}"


def _place(stock: Stock, name: str) -> str:
    begins = 0.0 if isinstance(stock.source, Part) else stock.low[0]
    return f"{stock.centre(name).place[0] - begins:.6g}"


def _brought_to_light(before: Picture, after: Picture) -> Counter[int | None]:
    """Return how many hidden lines are in sight once it is cut, by their operations."""
    lines = [shapely.LineString(stroke.path) for stroke in after.visible if len(stroke.path) > 1]
    tree = shapely.STRtree(lines)
    owners = [stroke.origin for stroke in after.visible if len(stroke.path) > 1]
    shown: Counter[int | None] = Counter()
    for stroke in before.of_role("hidden"):
        spot = shapely.Point(_middle(stroke))
        near = tree.query(spot, predicate="dwithin", distance=_ON_LINE_MM)
        origin = stroke.origin
        if any(owners[k].operation == origin.operation and owners[k].body == origin.body
               for k in near.tolist()):  # fmt: skip
            shown[origin.operation if not origin.body else None] += 1
    return shown


def _middle(stroke: Stroke) -> Vec2:
    return apply(stroke.matrix, stroke.curve.middle)


def titles_of(words: str) -> tuple[str, str]:
    """Return what a cut is called where there is little room: its sort, and where it leads."""
    sort, _, rest = words.partition(":")
    names = rest.replace("through=", "").replace("_", " ").split(",")
    where = ", ".join(names[:_MOST_NAMES])
    if len(names) > _MOST_NAMES:
        where = tr("{where} and {count} more", where=where, count=len(names) - _MOST_NAMES)
    title = {
        "half": tr("half"), "full": tr("full"), "through": tr("through"), "offset": tr("stepping"),
        "broken": tr("broken out"), "plane": tr("leaning"),
    }.get(sort, sort)  # fmt: skip
    return title, where


def _reasons(shown: Counter[int | None], source: object) -> str:
    """Say what a cut brings to light."""
    count = sum(shown.values())
    if not count:
        return tr("shows nothing that was hidden")
    names: Sequence[str] = []
    if isinstance(source, Part):
        own = [index for index, _ in shown.most_common() if index is not None]
        names = [source.operations[index].name for index in own]
    lines = ntr("{count} hidden line comes to light", "{count} hidden lines come to light", count)
    if not names:
        return lines
    said = ", ".join(f"“{name}”" for name in names[:_MOST_NAMES])
    more = len(names) - _MOST_NAMES
    if more > 0:
        return tr("shows {names} and {more} more; {lines}", names=said, more=more, lines=lines)
    return tr("shows {names}; {lines}", names=said, lines=lines)
