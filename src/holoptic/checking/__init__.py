"""The drawn sheet laid beside the plan: what is there, what is off, and which move caused it."""
