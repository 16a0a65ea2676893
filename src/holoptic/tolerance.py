"""Every tolerance of the program, once, with its dimension."""

COINCIDENT_MM = 1e-6
"""Two points nearer than this are one point (length, mm)."""

ON_PAPER_MM = 1e-4
"""Lines on paper nearer than this lie on each other (length, mm).

Far below what a pencil or an eye can part, far above the kernel's own rounding.
"""

SHORTEST_STROKE_MM = 2e-2
"""A visible piece shorter than this is a rounding sliver, not a line (length, mm)."""

READ_MM = 1.5e-3
"""Places of a part that was read from views are one place where nearer than this (length, mm)."""

THOUSANDTHS_MM = 2e-4
"""A place that was read is meant in whole thousandths where it is nearer than this (length, mm)."""

CHORD_MM = 0.01
"""A polyline stands off its curve by no more than this (length, mm)."""

PROVED_MM = 0.01
"""The virtual drafter's paper equals the picture within this (length, mm)."""

PARALLEL = 1e-9
"""The sine of an angle below which two directions are parallel (no dimension)."""
