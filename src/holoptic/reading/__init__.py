"""Orthographic views become the part: what is drawn, what contradicts it, what it can mean."""
