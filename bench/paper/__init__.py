"""Exercise sheets printed as paper and as pages of lines, and read again."""
