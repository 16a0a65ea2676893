"""The book of the work: what was drawn when and how long it took, what checks found; in SQLite."""
