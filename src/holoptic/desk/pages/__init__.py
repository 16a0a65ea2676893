"""The pages of the desk, one for each stage of the work."""
