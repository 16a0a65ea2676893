"""Colours, pens and lettering of the desk. Paper is light, lines are ink; the desk is calm."""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor, QFont, QFontDatabase, QFontInfo, QPalette, QPen
from PyQt6.QtWidgets import QApplication

_ASSETS = Path(__file__).parents[2] / "assets"
FONTS = _ASSETS / "fonts"
_DOWN = (_ASSETS / "icons" / "down.svg").as_posix()

AXIS_COLOURS = ("#1465a3", "#a84f08", "#8a2f79")
"""Length, depth, height: told apart by the colour-blind, and never by colour alone."""
AXIS_TONES = dict(zip(("length", "depth", "height"), AXIS_COLOURS, strict=True))
"""By the name of the axis, as the table of layers has it."""
AXIS_DASHES = ((10.0, 3.0), (4.0, 2.5), (1.5, 2.5))


class Theme(NamedTuple):
    """The colours of one look of the desk (no dataclass: that import delays the first paint)."""

    name: str
    desk: str
    panel: str
    raised: str
    line: str
    text: str
    quiet: str
    accent: str
    accent_text: str
    trouble: str
    trouble_back: str
    paper: str = "#fdfcf7"
    paper_edge: str = "#c9c5b8"
    ink: str = "#1b1d22"
    light_ink: str = "#8f98a3"
    hidden_ink: str = "#5a626d"
    ghost: str = "#c2371f"
    marker: str = "#ffcf4a"
    lift: str = "#0c7a68"
    glass: str = "#5c7f99"

    @property
    def off(self) -> str:
        """The colour of what cannot be pressed now."""
        return self.light_ink if self.line == self.text else self.line


LIGHT = Theme(
    "light", desk="#dfe1dc", panel="#eceeea", raised="#f8f9f6", line="#c4c8c0",
    text="#23262b", quiet="#5d646c", accent="#0c6b5c", accent_text="#ffffff",
    trouble="#8c1d18", trouble_back="#f7ded8",
)  # fmt: skip
DARK = Theme(
    "dark", desk="#1d2125", panel="#262b30", raised="#31373d", line="#444c54",
    text="#e8eae6", quiet="#a3abb2", accent="#4db6a2", accent_text="#0d1f1b",
    trouble="#ffb4a5", trouble_back="#4a2722", paper="#f3f0e6", paper_edge="#101214",
)  # fmt: skip

CONTRAST = Theme(
    "contrast", desk="#ffffff", panel="#ffffff", raised="#ffffff", line="#000000",
    text="#000000", quiet="#1a1a1a", accent="#00402f", accent_text="#ffffff",
    trouble="#7a0000", trouble_back="#ffffff", paper="#ffffff", paper_edge="#000000",
    ink="#000000", light_ink="#5a5a5a", hidden_ink="#303030", ghost="#8f1500", lift="#00513f",
    glass="#2d4a5e",
)  # fmt: skip

SIGN = LIGHT.accent
"""The colour of the mark and of what is chosen on paper, the same on every desk."""

_current = LIGHT
_letters = 1.0
TEXT_PIXELS = 13
"""How large usual words are with letters of the usual size."""
_LARGEST_LETTERS = 1.6


def theme() -> Theme:
    """Return the theme in use."""
    return _current


def load_fonts() -> None:
    """Make the lettering that ships with Holoptic known to Qt."""
    for file in sorted(FONTS.glob("*.?tf")):
        QFontDatabase.addApplicationFont(str(file))


def px(pixels: float) -> int:
    """Return a size that holds words, in pixels, grown with the letters of the desk."""
    return round(pixels * _letters)


def use_letters(size: float) -> None:
    """Make all letters larger, by 1 to 1.6; before the first widget is made."""
    global _letters  # noqa: PLW0603 - one size for all widgets, set in one place
    _letters = min(max(size, 1.0), _LARGEST_LETTERS)


def letters_of_system(font: QFont) -> float:
    """Return how much larger than usual the font of the user's desktop is."""
    return QFontInfo(font).pixelSize() / TEXT_PIXELS


def apply_theme(app: QApplication, chosen: Theme) -> None:
    """Dress the whole application."""
    global _current  # noqa: PLW0603 - one look for all widgets, set in one place
    _current = chosen
    font = QFont("Inter")
    font.setPixelSize(px(TEXT_PIXELS))
    app.setFont(font)
    app.setPalette(_palette(chosen))
    app.setStyleSheet(_style(chosen))


def lettering(pixels: float, bold: bool = False) -> QFont:
    """Return the interface's font at a size in pixels."""
    font = QFont("Inter")
    font.setPixelSize(px(pixels))
    font.setWeight(QFont.Weight.DemiBold if bold else QFont.Weight.Normal)
    return font


def drafting_lettering(pixels: float) -> QFont:
    """Return the technical lettering, for what stands on paper."""
    font = QFont("Routed Gothic")
    font.setPixelSize(max(1, px(pixels)))
    return font


def pen(colour: str, width: float, dashes: tuple[float, ...] = (), alpha: int = 255) -> QPen:
    """Return a round-ended pen; widths and dashes in pixels."""
    shade = QColor(colour)
    shade.setAlpha(alpha)
    made = QPen(shade, width)
    made.setCapStyle(Qt.PenCapStyle.FlatCap if dashes else Qt.PenCapStyle.RoundCap)
    # round joins of bent lines show as dots where they run level
    made.setJoinStyle(Qt.PenJoinStyle.BevelJoin)
    if dashes:
        made.setDashPattern([dash / width for dash in dashes])
    return made


def axis_pen(axis: int, width: float = 2.0) -> QPen:
    """Return the pen of length, depth or height: its own colour and its own dashes."""
    return pen(AXIS_COLOURS[axis], width, AXIS_DASHES[axis])


def shade(colour: str, alpha: int) -> QColor:
    """Return a colour made see-through."""
    made = QColor(colour)
    made.setAlpha(alpha)
    return made


def _palette(chosen: Theme) -> QPalette:
    palette = QPalette()
    roles = QPalette.ColorRole
    for role, colour in (
        (roles.Window, chosen.panel), (roles.WindowText, chosen.text),
        (roles.Base, chosen.raised), (roles.Text, chosen.text),
        (roles.Button, chosen.raised), (roles.ButtonText, chosen.text),
        (roles.Highlight, chosen.accent), (roles.HighlightedText, chosen.accent_text),
        (roles.ToolTipBase, chosen.raised), (roles.ToolTipText, chosen.text),
        (roles.PlaceholderText, chosen.quiet),
    ):  # fmt: skip
        palette.setColor(role, QColor(colour))
    return palette


def _style(c: Theme) -> str:
    return f"""
    QWidget {{ color: {c.text}; }}
    QMainWindow, QWidget#body {{ background: {c.desk}; }}
    QWidget#strip, QWidget#column, QWidget#footer {{ background: {c.panel}; }}
    QWidget#strip {{ border-bottom: 1px solid {c.line}; }}
    QWidget#column {{ border-left: 1px solid {c.line}; }}
    QWidget#footer {{ border-top: 1px solid {c.line}; }}
    QLabel#quiet {{ color: {c.quiet}; }}
    QLabel#heading {{ font-weight: 600; font-size: {px(14)}px; }}
    QLabel#title {{ font-weight: 600; font-size: {px(19)}px; }}
    QLabel#next {{ font-weight: 600; color: {c.accent}; }}
    QLabel#key {{ font-weight: 600; }}
    QFrame#card {{ background: {c.raised}; border: 1px solid {c.line}; border-radius: 7px; }}
    QToolButton#tool {{ font-size: {px(10)}px; padding: 2px 3px; }}
    QLabel#problem {{ color: {c.trouble}; }}
    QFrame#notice {{ background: {c.trouble_back}; border-bottom: 1px solid {c.line}; }}
    QFrame#notice QLabel {{ color: {c.trouble}; font-weight: 600; }}
    QFrame#hint, QFrame#question {{ background: {c.raised};
        border-bottom: 1px solid {c.line}; }}
    QFrame#question {{ border-bottom: 2px solid {c.accent}; }}
    QFrame#question QLabel {{ font-weight: 600; }}
    QLabel#slip {{ background: {c.trouble_back}; color: {c.trouble}; border: 1px solid {c.trouble};
        border-radius: 4px; padding: 1px 5px; }}
    QPushButton {{ background: {c.raised}; border: 1px solid {c.line}; border-radius: 6px;
        padding: 5px 10px; }}
    QPushButton#entry {{ text-align: left; }}
    QPushButton[tight="true"] {{ padding: 5px 4px; }}
    QPushButton:hover {{ border-color: {c.accent}; }}
    QPushButton:checked {{ background: {c.accent}; color: {c.accent_text};
        border-color: {c.accent}; }}
    QPushButton:disabled {{ color: {c.off}; }}
    QPushButton:focus {{ border: 2px solid {c.accent}; padding: 4px 9px; }}
    QToolButton {{ background: transparent; border: 1px solid transparent; border-radius: 6px;
        padding: 4px; }}
    QToolButton:hover, QToolButton:focus {{ background: {c.raised}; border-color: {c.line}; }}
    QToolButton::menu-indicator {{ image: none; }}
    QToolButton#page {{ padding: 6px 14px; font-weight: 600; font-size: {px(14)}px;
        border-radius: 0; border-bottom: 3px solid transparent; background: transparent; }}
    QToolButton#page:checked {{ border-bottom: 3px solid {c.accent}; color: {c.accent}; }}
    QToolButton#page:focus {{ background: {c.raised}; }}
    QToolButton#footer {{ padding: 0 8px; border-color: {c.line}; border-radius: 4px; }}
    QLineEdit, QComboBox {{ background: {c.raised}; border: 1px solid {c.line};
        border-radius: 6px; padding: 4px 7px; selection-background-color: {c.accent};
        selection-color: {c.accent_text}; }}
    QSpinBox, QDoubleSpinBox {{ min-height: {px(22)}px; }}
    QLineEdit:focus, QComboBox:focus {{ border: 2px solid {c.accent}; padding: 3px 6px; }}
    QLineEdit[bad="true"] {{ border: 2px solid {c.trouble}; padding: 3px 6px;
        background: {c.trouble_back}; }}
    QComboBox::drop-down {{ border: 0; width: 20px; }}
    QComboBox::down-arrow {{ image: url({_DOWN}); width: 12px; height: 12px; }}
    QComboBox QAbstractItemView {{ background: {c.raised}; border: 1px solid {c.line};
        selection-background-color: {c.accent}; selection-color: {c.accent_text}; }}
    QMenu {{ background: {c.raised}; border: 1px solid {c.line}; padding: 4px; }}
    QMenu::item {{ padding: 5px 22px; border-radius: 4px; }}
    QMenu::item:selected {{ background: {c.accent}; color: {c.accent_text}; }}
    QToolTip {{ background: {c.raised}; color: {c.text}; border: 1px solid {c.line};
        padding: 4px; }}
    QSplitter::handle {{ background: {c.desk}; }}
    QListWidget {{ background: {c.raised}; border: 1px solid {c.line}; border-radius: 6px;
        outline: 0; }}
    QListWidget:focus {{ border: 2px solid {c.accent}; }}
    QScrollArea {{ background: transparent; border: 0; }}
    QScrollBar:vertical {{ background: transparent; width: 10px; }}
    QScrollBar::handle:vertical {{ background: {c.line}; border-radius: 5px; min-height: 24px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; width: 0; }}
    """
