"""The page on which paper, scale and places are planned."""
