"""Every tolerance of the program, once, with its dimension.

No other module writes a number with a negative exponent (`tests/test_repository.py`). A new
tolerance is taken from here, or comes here with what it tells apart.
"""

# --- lengths, mm ------------------------------------------------------------------------------

EXACT_MM = 1e-7
"""Places that were worked out from the same figures are one place within this."""

COINCIDENT_MM = 1e-6
"""Two points nearer than this are one point."""

KERNEL_MM = 1e-5
"""Places that the geometry kernel worked out are one place within this."""

GIVEN_MM = 1e-4
"""Sizes that somebody wrote down are the same within this: nobody writes finer."""

ON_PAPER_MM = 1e-4
"""Lines on paper nearer than this lie on each other.

Far below what a pencil or an eye can part, far above the kernel's own rounding.
"""

THOUSANDTHS_MM = 2e-4
"""A place that was read is meant in whole thousandths where it is nearer than this."""

SHOWN_MM = 5e-4
"""A length below this is shown as nothing, as figures have three places."""

APART_MM = 1e-3
"""Things further from each other than this have nothing to do with each other."""

READ_MM = 1.5e-3
"""Places of a part that was read from views are one place where nearer than this."""

ON_CURVE_MM = 1.5e-3
"""A stroke's end nearer to a curve than this lies on it."""

DRAWN_MM = 2e-3
"""Ends of drawn lines, and depths told by them, are one within this."""

NEAR_LINE_MM = 3e-3
"""A sample nearer to a drawn line than this may lie on either side of it."""

ROUGH_MM = 4e-3
"""Places told by what other lines leave are one within this."""

REGULAR_MM = 6e-3
"""A polygon is regular whose corners lie within this of where they would be."""

SAMPLE_CHORD_MM = 0.002
"""A curve of the kernel that has no closed form is sampled this near to it."""

FILE_CHORD_MM = 0.004
"""So is a free curve of a drawing file."""

BESIDE_MM = 2e-5
"""Lines that tell what lies before what run so far beside the edges of solids."""

CLEAR_MM = 0.02
"""Parts whose depths differ by less touch, and do not keep each other from moving."""

SEEN_MM = 0.005
"""A deviation below this is seen by nobody."""

CHORD_MM = 0.01
"""A polyline stands off its curve by no more than this."""

PROVED_MM = 0.01
"""The virtual drafter's paper equals the picture within this."""

SHORTEST_STROKE_MM = 2e-2
"""A visible piece shorter than this is a rounding sliver, not a line."""

# --- volumes, mm³ -----------------------------------------------------------------------------

SMALLEST_VOLUME_MM3 = 1e-6
"""What is left below this is nothing."""

CHANGED_VOLUME_MM3 = 1e-3
"""An operation that changes less than this changes nothing."""

# --- angles, radians ----------------------------------------------------------------------------

SAME_ANGLE = 2e-6
"""Angles along one ellipse are one within this."""

TURN = 1e-3
"""A turn that was read is the one it comes near to within this; twice that of drawn ends."""

# --- no dimension -------------------------------------------------------------------------------

PARALLEL = 1e-9
"""The sine of an angle below which two directions are parallel."""

ROUNDING = 1e-9
"""Figures that differ by less, of whatever dimension, differ by their rounding alone."""

FINE = 1e-7
"""Sines, and ends of a search, below this are nothing."""

SHARE = 1e-6
"""Two figures whose difference is a smaller share of them than this are the same."""

SAME_SHAPE = 2e-5
"""Two readings that differ by a smaller share than this mean one part."""

SLIGHT = 1e-4
"""A share or a sine so small that nobody sees it."""

LEANING = 4e-3
"""The sine below which two lines of a drawing run alike."""

SEARCHED = 1e-10
"""A search for the best figures ends when they change by less than this."""

SOLVED = 1e-12
"""A root is found to this; a divisor below it is none."""

SOLVED_SQUARE = 1e-14
"""The square of a root's error that need not be smaller."""

LEAST_SQUARE = 1e-18
"""The least square of a length that may be a divisor."""
