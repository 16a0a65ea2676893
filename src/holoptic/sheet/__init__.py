"""The finished sheet: paper, scale, placement, border, title block, check bar."""

from holoptic.sheet.drawing import Drawing, Ink, Words
from holoptic.sheet.papers import Paper
from holoptic.sheet.sheets import Sheet, TitleBlock, picture_sheet, plan_setup, views_sheet

__all__ = [
    "Drawing",
    "Ink",
    "Paper",
    "Sheet",
    "TitleBlock",
    "Words",
    "picture_sheet",
    "plan_setup",
    "views_sheet",
]
