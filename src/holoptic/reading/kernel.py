"""What reading asks of the geometry kernel, which it does not know itself."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from holoptic.curves.vectors import Vec3
from holoptic.part.walls import Panel
from holoptic.part.whole import PartSource
from holoptic.reading.lines import DrawnView

Show = Callable[[PartSource, tuple[str, ...]], tuple[Sequence[DrawnView], float]]
"""Returns views of a part by their names, and its volume in mm³. Raises HolopticError for one that
cannot be made."""
Bound = Callable[[str, Vec3, Sequence[Panel], Callable[[np.ndarray], np.ndarray]], PartSource]
"""Makes the solid of a name, in a crate of a size (mm), that lies between walls where a function
says for points (n × 3) that it is full. Raises HolopticError where none comes of it."""


@dataclass(frozen=True)
class Kernel:
    """The two services."""

    show: Show
    bound: Bound
