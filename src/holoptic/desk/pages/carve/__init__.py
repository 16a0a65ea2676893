"""The page on which a part is made of operations."""
