"""Which of many things hang together."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np


def group_numbers(
    count: int, pairs: np.ndarray | Sequence[tuple[int, int]], *, both_ways: bool = False
) -> np.ndarray:
    """Return for each of `count` things the number of its group (n); pairs (m × 2) hang together.

    With `both_ways` a pair leads from its first to its second, and a group holds what leads to each
    other.
    """
    # loading these takes longer than a desk has before it is there, and few need them at once
    from scipy.sparse import coo_array  # noqa: PLC0415
    from scipy.sparse.csgraph import connected_components  # noqa: PLC0415

    ends = np.asarray(pairs, int).reshape(-1, 2)
    graph = coo_array((np.ones(len(ends), np.int8), (ends[:, 0], ends[:, 1])), (count, count))
    _, labels = connected_components(graph, directed=both_ways, connection="strong")
    numbers: np.ndarray = labels
    return numbers
