"""What the setting card says before a move: one large figure, the sentence, and some details."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from holoptic.catalogue import tr
from holoptic.plan.moves import Move, Plan
from holoptic.units import Unit, show, show_set
from holoptic.units.spoken import on_rule, said
from holoptic.views.orthographic import VIEW_TITLES

_WORDS = {
    "lay": tr("sheet"),
    "firm in": tr("firm"),
    "join": tr("join"),
    "meet": tr("mark"),
    "nearest": tr("mark"),
    "plot": tr("offsets"),
    "curve": tr("curve"),
    "trammel": tr("ellipse"),
    "freehand": tr("by hand"),
    "touch": tr("touch"),
    "go over": tr("thin"),
    "head": tr("head"),
    "guides": tr("guides"),
    "letter": tr("letter"),
    "shade": tr("shade"),
}
_WORTH_SAYING_MM = 0.05


@dataclass(frozen=True)
class CardText:
    """What stands on the card."""

    figure: str
    unit: str
    instrument: str
    sentence: str
    details: tuple[str, ...]


def card_text(
    plan: Plan, index: int, unit: Unit, seconds: Mapping[int, float] | None = None, rubbed: int = 0
) -> CardText:
    """Return what the card says before move `index`; after the last move it says so.

    `seconds` are those that moves took before, by their number; `rubbed` is how many lines are to
    be rubbed out first.
    """
    if index >= len(plan.moves):
        gap: tuple[str, ...] = ()
        if plan.true_gap_mm >= _WORTH_SAYING_MM:
            figure = f"{show(plan.true_gap_mm, unit)} {unit.label}"
            gap = (
                tr(
                    "off the true ellipse by up to {figure}, at “{true_gap_at}”",
                    figure=figure,
                    true_gap_at=plan.true_gap_at,
                ),
            )
        return CardText(
            "✓", "", tr("finished"), tr("The drawing is done. Every stroke stands."), gap
        )
    move = plan.moves[index]
    details = _details(move, plan, unit)
    if rubbed:
        details = (*details, tr("rub out   the {count} dotted lines: they are in the way, and "
                                "needed no more", count=rubbed))  # fmt: skip
    if seconds and seconds.get(move.n, 0.0) >= 1:
        minute, second = divmod(round(seconds[move.n]), 60)
        details = (*details, tr("last time   {minute}:{second:02}", minute=minute, second=second))
    return CardText(*_figure(move, unit), tr(move.instrument), move.said(unit), details)


def _figure(move: Move, unit: Unit) -> tuple[str, str]:
    if move.setting_mm is not None:
        return show_set(move.setting_mm, unit), unit.label
    if move.angle_deg is not None and move.verb not in _WORDS:
        turn = move.angle_deg % 180
        return f"{min(turn, 180 - turn):.3g}°", ""
    return _WORDS.get(move.verb, "…"), ""


def _details(move: Move, plan: Plan, unit: Unit) -> tuple[str, ...]:
    details = []
    lift = move.lift
    if lift is not None:
        sum_words, given = show(lift.true_mm, unit), said(lift.words, unit)
        if given != sum_words and lift.words != on_rule(lift.true_mm):
            sum_words = f"{given} = {sum_words}"
        details.append(
            tr("worked out   {size}, which no view shows", size=sum_words)
            if lift.is_worked_out
            else tr("lift   {view_titles}, a to b: {sum_words}",
                    view_titles=VIEW_TITLES[lift.view], sum_words=sum_words)
        )  # fmt: skip
        details.append(
            tr(
                "lay off   from {uses} to the new point {makes}",
                uses=move.uses[0],
                makes=move.makes[0],
            )
        )
        scale = plan.setup.scale
        if scale != 1:
            figure = show_set(move.setting_mm or 0.0, unit)
            details.append(
                tr(
                    "on the rule   {figure}, true {true_mm} at {scale_text}",
                    figure=figure,
                    true_mm=show(lift.true_mm, unit),
                    scale_text=plan.setup.scale_text or f"× {scale:g}",
                )
            )
    elif move.tolerance_mm is not None:
        details.append(
            tr(
                "allow   ± {tolerance_mm}; if it reads more, look back",
                tolerance_mm=show(move.tolerance_mm, unit),
            )
        )
    elif move.verb == "plot":
        details += _table(move, unit)
    elif move.angle_deg is not None and move.setting_mm is None and move.verb not in _WORDS:
        details.append(tr("the line   {slant}", slant=_slant(move.angle_deg % 180)))
    return tuple(details)


_TABLE_LINES, _TABLE_LETTERS = 3, 84


def _table(move: Move, unit: Unit) -> list[str]:
    """Return the offsets of a move in a few lines: as many points as the card has room for."""
    lines = [""]
    for name, row in zip(move.makes, move.table, strict=True):
        words = f"{name}: {', '.join(show(value, unit) for value in row)}"
        if lines[-1] and len(lines[-1]) + len(words) > _TABLE_LETTERS:
            if len(lines) == _TABLE_LINES:
                lines[-1] += "  …"
                break
            lines.append("")
        lines[-1] += ("     " if lines[-1] else "") + words
    return lines


def _slant(turn: float) -> str:
    """Say how a line at an angle in [0, 180) runs, as one looks at the board."""
    if turn in (0.0, 90.0):
        return tr("level") if turn == 0.0 else tr("upright")
    return tr("rises to the right") if turn < 90 else tr("rises to the left")
