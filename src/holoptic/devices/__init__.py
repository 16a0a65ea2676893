"""Simulated instruments: small programs that stand in for devices on the bench."""
