"""Spread: an arrangement together and apart."""
