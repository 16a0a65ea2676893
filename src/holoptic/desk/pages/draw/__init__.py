"""The page on which a figure is drawn by hand, move by move."""
