"""Curves in space and on paper; serves every other room."""
