"""The page on which kind, near corner and lines are chosen."""
