"""The column beside the register: the drawing in hand, and one's own hand."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPaintEvent

from holoptic.catalogue import ntr, tr
from holoptic.checking.own_hand import OwnHand, Spread
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import lettering, px, theme
from holoptic.desk.widgets.column import Column
from holoptic.desk.widgets.spoken_roles import Depiction
from holoptic.plan.hand import Hand
from holoptic.plan.words import phase_title
from holoptic.register.entries import CheckKept, Drawn
from holoptic.register.tables import outcome, progress

_WIDTH = 304
_BAR_ROW, _NAME_WIDTH = 17, 118
_MOST_CAUSES, _MOST_BARS = 6, 12
_LIKELY = 0.2


class PhaseBars(Depiction):
    """A bar for each phase, as long as its moves took."""

    def __init__(self) -> None:
        super().__init__()
        self._bars: list[tuple[str, float]] = []
        self.setAccessibleName(tr("time by phase"))

    def show_phases(self, by_phase: dict[str, float]) -> None:
        """Show the seconds of phases; of many the longest."""
        longest = sorted(by_phase, key=lambda phase: -by_phase[phase])[:_MOST_BARS]
        self._bars = [(phase_title(phase, short=True), seconds)
                      for phase, seconds in by_phase.items() if phase in longest]  # fmt: skip
        self.setFixedHeight(px(_BAR_ROW) * len(self._bars))
        self.setAccessibleDescription(
            "; ".join(f"{name} {_clock(seconds)}" for name, seconds in self._bars)
        )
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint names, bars and times."""
        del event
        with painting(self) as painter:
            painter.setFont(lettering(11))
            most = max((seconds for _, seconds in self._bars), default=1.0) or 1.0
            high, name_room = px(_BAR_ROW), px(_NAME_WIDTH)
            room = self.width() - name_room - px(44)
            for row, (name, seconds) in enumerate(self._bars):
                y = row * high
                painter.setPen(QColor(theme().text))
                words = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight,
                                                         name_room - 6)  # fmt: skip
                painter.drawText(QRectF(0, y, name_room, high), Qt.AlignmentFlag.AlignVCenter,
                                 words)  # fmt: skip
                long = max(2.0, room * seconds / most)
                painter.fillRect(QRectF(name_room, y + 4, long, high - 8), QColor(theme().accent))
                painter.setPen(QColor(theme().quiet))
                painter.drawText(QRectF(name_room + long + 5, y, px(44), high),
                                 Qt.AlignmentFlag.AlignVCenter, _clock(seconds))  # fmt: skip


class RegisterColumn(Column):
    """What is known of the drawing in hand, what checks found, and the hand that draws."""

    def __init__(self) -> None:
        super().__init__(_WIDTH)
        self.title = self.label("heading")
        self.state = self.label()
        self.layers.addWidget(self.title)
        self.layers.addWidget(self.state)
        self.bars = PhaseBars()
        self.bars_title = self.label("quiet")
        self.bars_title.setText(tr("Time by phase"))
        self.layers.addWidget(self.bars_title)
        self.layers.addWidget(self.bars)
        self.found_title = self.label("quiet")
        self.found_title.setText(tr("What checks found"))
        self.found = self.label()
        self.layers.addWidget(self.found_title)
        self.layers.addWidget(self.found)
        self.layers.addSpacing(8)
        self.hand_title = self.label("heading")
        self.hand_title.setText(tr("Your own hand"))
        self.layers.addWidget(self.hand_title)
        self.hand = self.label()
        self.layers.addWidget(self.hand)

    # --- showing ----------------------------------------------------------------------------

    def show_drawing(self, drawn: Drawn | None, checks: Sequence[CheckKept]) -> None:
        """Show a drawing with its checks; None: there is none."""
        by_phase = drawn.by_phase if drawn is not None else {}
        for widget in (self.bars, self.bars_title):
            widget.setVisible(bool(by_phase))
        self.bars.show_phases(by_phase)
        self.title.setText(_title(drawn, checks))
        words = progress(drawn) if drawn is not None else ""
        self.state.setText(f"{words[:1].upper()}{words[1:]}")
        self.state.setVisible(bool(words))
        found = _found(checks)
        self.found.setText(found)
        for label in (self.found, self.found_title):
            label.setVisible(bool(found))

    def show_hand(self, hand: OwnHand | None, reckoned: Hand) -> None:
        """Show one's own hand as the checks tell it, and the one that plans reckon with."""
        if hand is None:
            self.hand.setText(tr("Each sheet that is checked from a picture tells a little of the "
                                 "hand that drew it: how far its settings scatter."))  # fmt: skip
            return
        rows = [
            tr("setting {spread}", spread=_spread(hand.setting, " mm")),
            tr("angle {spread}", spread=_spread(hand.angle, "°")),
            tr("compass {spread}", spread=_spread(hand.compass, " mm")),
            ntr("told by {count} checked sheet", "told by {count} checked sheets", hand.sheets),
            tr(
                "plans reckon with {setting} mm, {angle}°, {compass} mm",
                setting=f"{reckoned.setting_mm:g}",
                angle=f"{reckoned.angle_deg:g}",
                compass=f"{reckoned.compass_mm:g}",
            ),
        ]
        self.hand.setText("\n".join(rows))


def _title(drawn: Drawn | None, checks: Sequence[CheckKept]) -> str:
    subject = drawn.subject if drawn is not None else (checks[0].subject if checks else None)
    if subject is None:
        return tr("Nothing is kept yet")
    if drawn is not None and drawn.round > 1:
        return tr("{title}, drawn {count} times", title=subject.title, count=drawn.round)
    return subject.title


def _found(checks: Sequence[CheckKept]) -> str:
    lines = []
    for check in checks[:2]:
        words = outcome(check)
        lines.append(f"{check.made:%Y-%m-%d}: {words}")
        likely = [cause for cause in check.causes if cause.weight >= _LIKELY]
        lines += [f"·  {cause.story[:1].upper()}{cause.story[1:]}"
                  for cause in likely[:_MOST_CAUSES]]  # fmt: skip
    return "\n".join(lines)


def _spread(spread: Spread, unit: str) -> str:
    if not spread.is_sure:
        return tr("not known yet")
    return tr("{value}{unit}, surely {low} to {high}", value=f"{spread.value:.2f}", unit=unit,
              low=f"{spread.low:.2f}", high=f"{spread.high:.2f}")  # fmt: skip


def _clock(seconds: float) -> str:
    minute, second = divmod(round(seconds), 60)
    return f"{minute}:{second:02}"
