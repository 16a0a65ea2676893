"""The page on which views are read into a part."""
