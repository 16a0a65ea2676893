"""The Check page: the drawn sheet laid beside its plan."""
