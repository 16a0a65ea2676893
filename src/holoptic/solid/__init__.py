"""Exact solids. The modules that touch the geometry kernel are imported by name, never here,

so that `holoptic.solid.pieces`, plain data, can be used by every room and every process.
"""
