"""The desk: the Qt window. It shows what the core computes and holds no geometry of its own."""

PAGES = ("read", "carve", "picture", "spread", "sheet", "draw", "check", "register", "practice")
"""The pages in the order of the work, by the names that the command line knows."""
