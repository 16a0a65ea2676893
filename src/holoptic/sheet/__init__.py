"""The finished sheet: paper, scale, placement, border, title block, check bar."""

from holoptic.sheet.drawing import Drawing, Ink, Words
from holoptic.sheet.papers import Paper
from holoptic.sheet.planning import Layout
from holoptic.sheet.sheets import (
    ComposedSheet,
    compose,
    full_sheet,
    picture_item,
    picture_sheet,
    plan_setup,
    views_item,
    views_sheet,
)

__all__ = [
    "ComposedSheet",
    "Drawing",
    "Ink",
    "Layout",
    "Paper",
    "Words",
    "compose",
    "full_sheet",
    "picture_item",
    "picture_sheet",
    "plan_setup",
    "views_item",
    "views_sheet",
]
