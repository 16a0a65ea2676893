"""The Register page: what was drawn and checked, over time."""
