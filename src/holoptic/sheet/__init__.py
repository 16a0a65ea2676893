"""The finished sheet: paper, scale, placement, border, title block, check bar."""

from holoptic.sheet.drawing import Drawing, Ink, Words
from holoptic.sheet.frames import TitleBlock
from holoptic.sheet.papers import Paper
from holoptic.sheet.planning import Layout
from holoptic.sheet.sheets import (
    Sheet,
    compose,
    full_sheet,
    picture_item,
    picture_sheet,
    plan_setup,
    views_item,
    views_sheet,
)

__all__ = [
    "Drawing",
    "Ink",
    "Layout",
    "Paper",
    "Sheet",
    "TitleBlock",
    "Words",
    "compose",
    "full_sheet",
    "picture_item",
    "picture_sheet",
    "plan_setup",
    "views_item",
    "views_sheet",
]
