"""Whether sentences are true, and whether each suffices by itself."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator

from holoptic.catalogue import tr
from holoptic.plan.critic.remarks import Remark
from holoptic.plan.critic.sitting import Sitting
from holoptic.plan.critic.text import Read, read
from holoptic.plan.instruments import COMPASS, RULE, SLIDING, STRAIGHTEDGE, square_for
from holoptic.plan.moves import LETTERING, Move, bears_letter

_TURN_DEG = 0.01
_ROUND_MM = 0.051
"""A figure is read to a tenth."""

_AXIS_WORDS = (("length",), ("depth",), ("upright", "height"))
_CURVE_WORDS = ("circle", "arc", "arcs", "oval", "ovals", "ellipse", "curve")
_RULE_WAYS = {
    "to the right": 0.0, "upward": 90.0, "to the left": 180.0, "downward": 270.0,
}  # fmt: skip
_AXIS_WAYS = (
    ("to the left along the length", "to the right along the length"),
    ("forward along the depth", "back along the depth"),
    ("down the height", "up the height"),
)
_SUM = re.compile(r"(?P<parts>[\d.]+(?: [+−] [\d.]+)+) = (?P<total>[\d.]+\d)")

_TOO_LONG = re.compile(
    r"longer than the rule: (?:(?P<times>\d+) times )?(?P<step>[\d.]+\d)(?: first)?, "
    r"then (?P<rest>[\d.]+\d|\d) from there"
)
_NO_FIGURES = re.compile(
    r"Number \d+|(?:number|list) (?:circle|upright|level) \d+|leader \d+|letter \d+ in it|"
    r"letter the row under it: .*"
)
"""Numbers that are names: of parts, of the lines about them, and what stands in their list."""

_WRITTEN_NAMES = ("border", "edge", "side", "top", "45° line", "number upright", "number circle",
                  "leader", "list upright", "list level")  # fmt: skip
"""Lines of a sheet that have a name of their own."""

_POINTS_BACK = ("this line", "draw an upright there", "On it set off", "cuts it")
"""Words for what only the sentence before has named."""

_DRAWN_BY_EYE = ("letter", "guides", "shade", "head", "go over", "lay")


def judge_sentences(sitting: Sitting) -> Iterator[Remark]:
    """Yield what is false or wanting in the sentences of a plan."""
    for index, move in enumerate(sitting.plan.moves):
        said = read(move.english, sitting.letters)
        yield from _false_letters(sitting, index, move, said)
        if move.verb in _DRAWN_BY_EYE or move.phase == LETTERING:
            continue
        yield from _false_figures(sitting, move, said)
        yield from _false_ways(sitting, move, said)
        yield from _false_join(sitting, move, said)
        yield from _wanting(sitting, index, move, said)


# --- what is false ------------------------------------------------------------------------------


def _false_letters(sitting: Sitting, index: int, move: Move, said: Read) -> Iterator[Remark]:
    for name in said.letters:
        if move.verb != "lay" and sitting.made_at.get(name, -1) > index:
            yield Remark("true", move.n, tr("{name} is not on the paper yet", name=name))


def _false_figures(sitting: Sitting, move: Move, said: Read) -> Iterator[Remark]:
    """Every figure must be one that the move sets, lifts, reads or that lies on the paper."""
    known = [value for value in (move.setting_mm, move.tolerance_mm) if value is not None]
    if move.lift is not None:
        known.append(move.lift.true_mm)
    if move.angle_deg is not None:
        turn = move.angle_deg % 180
        known += [turn, 180 - turn, abs(move.angle_deg)]
    is_figure = move.phase.startswith("figure") or "Auxiliary figure" in move.english
    if move.verb in ("plot", "circle") or is_figure:
        return  # a table has its figures beside it; a figure's size stands for a radius
    scale = sitting.plan.setup.scale
    spots = sitting.plan.spots
    places = sitting.paper.points
    known += [radius for radius in map(sitting.radius, move.uses) if radius is not None]
    known += [
        _apart(sitting.angle_of(line), 0.0) for line in move.uses if line in sitting.paper.lines
    ]
    named = dict.fromkeys((*move.uses, *move.makes, *said.letters))
    for one in named:
        for other in named:
            if one in places and other in places:
                known += [math.dist(places[one], places[other]),
                          math.dist(places[one], places[other]) / scale]  # fmt: skip
            if one in spots and other in spots:
                known.append(math.dist(spots[one], spots[other]))
    yield from _false_sums(move)
    plain = _NO_FIGURES.sub("", _TOO_LONG.sub("", _SUM.sub("", move.english)))
    for value in read(plain, sitting.letters).figures:
        if all(abs(abs(value) - other) > _ROUND_MM for other in known):
            yield Remark("true", move.n, tr("nothing of this move is {value:g}: {text}",
                                            value=value, text=move.text))  # fmt: skip


def _false_sums(move: Move) -> Iterator[Remark]:
    """What is said to add up must, and so must the parts of what is longer than the rule."""
    told = list(_sums(move.english))
    parts = _TOO_LONG.search(move.english)
    if parts is not None:
        total = int(parts["times"] or 1) * float(parts["step"]) + float(parts["rest"])
        told.append((total, move.setting_mm or 0.0))
    for total, value in told:
        if abs(total - value) > _ROUND_MM:
            yield Remark("true", move.n, tr("that adds up to {total:g}, not to {value:g}",
                                            total=total, value=value))  # fmt: skip


def _sums(text: str) -> Iterator[tuple[float, float]]:
    """Yield for each sum in a sentence what it adds up to and what it is said to be."""
    for found in _SUM.finditer(text):
        parts = found["parts"].replace(" + ", " ").replace(" − ", " -").split()
        yield sum(map(float, parts)), float(found["total"])


def _false_ways(sitting: Sitting, move: Move, said: Read) -> Iterator[Remark]:
    """A direction that is said must be the one that is drawn."""
    angles = sitting.axis_angles
    if move.verb in ("draw", "parallel", "join", "touch", "square") and angles is not None:
        line = move.makes[0]
        for axis, word in enumerate(("a length line", "a depth line", "an upright")):
            if said.says(f"draw {word}"):
                away = _apart(sitting.angle_of(line), angles[axis])
                upright = axis == 2 and _apart(sitting.angle_of(line), 90.0) < _TURN_DEG
                if away > _TURN_DEG and not upright:
                    yield Remark("true", move.n, tr("{word} it is not", word=word))
    if move.verb == "set off" and move.angle_deg is not None:
        ways: dict[str, float] = dict(_RULE_WAYS) if move.instrument == RULE else {}
        if angles is not None:
            for axis, words in enumerate(_AXIS_WAYS):
                ways |= {words[0]: angles[axis] + 180.0, words[1]: angles[axis]}
        for word, angle in ways.items():
            if said.says(word) and _turn_apart(move.angle_deg, angle) > 90.0:
                yield Remark("true", move.n, tr("it does not go {word}", word=word))


def _false_join(sitting: Sitting, move: Move, said: Read) -> Iterator[Remark]:
    if move.verb != "join":
        return
    angle = sitting.angle_of(move.makes[0])
    angles = sitting.axis_angles
    if "along no axis" in said.text and angles is not None:
        for axis, word in enumerate(("length", "depth", "height")):
            if _apart(angle, angles[axis]) < _TURN_DEG:
                yield Remark("true", move.n, tr("said to lie along no axis, and runs as the "
                                                "{word} does on paper", word=word))  # fmt: skip
    square = square_for(round(angle, 5))
    if square is not None and move.instrument == STRAIGHTEDGE:
        yield Remark("true", move.n, tr("joined by a straightedge, although the {square} rules it",
                                        square=tr(square)))  # fmt: skip


# --- what is wanting ----------------------------------------------------------------------------


def _wanting(sitting: Sitting, index: int, move: Move, said: Read) -> Iterator[Remark]:
    for words in _POINTS_BACK:
        if words in move.english:
            yield Remark("enough", move.n, tr("“{words}” names nothing", words=words))
    for name in (*move.uses, *move.makes):
        if bears_letter(name) and name not in said.letters and not _goes_without(move, name):
            yield Remark("enough", move.n, tr("{name} is not named: {text}", name=name,
                                              text=move.text))  # fmt: skip
    for name in move.uses:
        is_item = name in sitting.paper.lines or name in sitting.paper.curves
        if is_item and not _is_told(sitting, index, move, said, name):
            yield Remark("enough", move.n, tr("nobody can tell which {name} is: {text}", name=name,
                                              text=move.text))  # fmt: skip
    yield from _unset(move, said)


def _goes_without(move: Move, name: str) -> bool:
    """Say whether a letter need not be said: points between the first and the last of a row."""
    return move.verb in ("plot", "curve") and name not in (move.uses[0], move.makes[-1])


def _unset(move: Move, said: Read) -> Iterator[Remark]:
    if move.setting_mm is None or move.verb == "check":
        return
    if all(abs(value - move.setting_mm) > _ROUND_MM for value in said.figures):
        yield Remark("enough", move.n, tr("the setting {size:.4g} is not said: {text}",
                                          size=move.setting_mm, text=move.text))  # fmt: skip
    if move.instrument == COMPASS and not said.says("needle", "Needle", "compass", "Compass"):
        yield Remark("enough", move.n, tr("no needle is set: {text}", text=move.text))


def _is_told(sitting: Sitting, index: int, move: Move, said: Read, item: str) -> bool:
    """Say whether the words of a move tell a line or a curve from all others on the paper."""
    if move.verb == "parallel" and item == move.uses[1] and move.instrument != SLIDING:
        return True  # the square has the angle, no line is needed for it
    if move.verb == "square" and item == move.uses[1] and square_for(move.angle_deg or 0.0):
        return True
    if move.verb == "circle" and said.says("ovals"):
        return True  # of the ball whose middle the needle stands on
    if said.says(item) and any(word in item for word in _WRITTEN_NAMES):
        return True
    at = sitting.made_at.get(item, -1)
    before = [name for name in said.letters if sitting.made_at.get(name, index) < index]
    on = sitting.letters_on(item, dict.fromkeys(before))
    if item in sitting.paper.curves:
        return _is_curve_told(sitting, said, on, at)
    if len(on) >= 2:
        return True
    words = _line_words(sitting, sitting.angle_of(item))
    if move.verb in ("plot", "touch") and said.says(*words):
        return True  # it only gives the direction
    has_mark = not on and said.says("mark")
    return (len(on) == 1 or has_mark) and said.says(*words)


def _is_curve_told(sitting: Sitting, said: Read, on: list[str], at: int) -> bool:
    if not said.says(*_CURVE_WORDS) and not (len(on) >= 2 and said.says("round", "bow")):
        return False
    if len(on) >= 1:
        return True
    maker = sitting.plan.moves[at]
    needle = next(iter(sitting.needles(maker)), None)
    if needle is None or needle not in said.letters:
        return False
    twins = [
        move for move in sitting.plan.moves[: at + 1]
        if move.instrument == COMPASS and move.uses[:1] == (needle,) and move is not maker
        and move.verb == maker.verb
    ]  # fmt: skip
    size = maker.setting_mm or 0.0
    return not twins or any(abs(value - size) < _ROUND_MM for value in said.figures)


def _line_words(sitting: Sitting, angle: float) -> list[str]:
    """Return the words that tell a line at an angle from others through the same letter."""
    words = []
    if _apart(angle, 0.0) < _TURN_DEG:
        words += ["level", "to the right", "to the left"]
    if _apart(angle, 90.0) < _TURN_DEG:
        words += ["upright", "up", "down"]
    for axis, along in enumerate(sitting.axis_angles or ()):
        if _apart(angle, along) < _TURN_DEG:
            words += _AXIS_WORDS[axis]
    side = "right" if angle < 90.0 else "left"
    words.append(f"rises at {_apart(angle, 0.0):.4g}° to the {side}")
    return [*words, "axis", "perpendicular", "ray", "tangent"]


def _apart(one: float, other: float) -> float:
    """Return the angle between two lines, degrees."""
    turn = abs(one - other) % 180
    return min(turn, 180 - turn)


def _turn_apart(one: float, other: float) -> float:
    """Return the angle between two directions, degrees."""
    turn = abs(one - other) % 360
    return min(turn, 360 - turn)
