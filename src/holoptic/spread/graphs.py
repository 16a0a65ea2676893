"""What holds what, as a graph of numbers: groups that hold each other, and orders that agree."""

from __future__ import annotations

import heapq
from collections import defaultdict
from collections.abc import Callable, Iterable, Sequence
from typing import Any

from holoptic.linked import group_numbers

Edges = Iterable[tuple[int, int]]


def strong_groups(nodes: Sequence[int], edges: Edges) -> list[tuple[int, ...]]:
    """Return the nodes by groups in which each leads to each other one, sorted."""
    at = {node: k for k, node in enumerate(nodes)}
    pairs = [(at[a], at[b]) for a, b in edges]
    numbers = group_numbers(len(nodes), pairs, both_ways=True)
    groups: dict[int, list[int]] = defaultdict(list)
    for node, label in zip(nodes, numbers.tolist(), strict=True):
        groups[label].append(node)
    return sorted(tuple(sorted(group)) for group in groups.values())


def in_order(count: int, edges: Edges, key: Callable[[int], Any]) -> list[int]:
    """Return 0 … count - 1 so that every edge leads onward; what is free goes by its key.

    Edges must not lead round in a ring.
    """
    after: dict[int, list[int]] = defaultdict(list)
    before = [0] * count
    for a, b in set(edges):
        after[a].append(b)
        before[b] += 1
    ready = [(key(k), k) for k in range(count) if not before[k]]
    heapq.heapify(ready)
    order = []
    while ready:
        _, node = heapq.heappop(ready)
        order.append(node)
        for other in after[node]:
            before[other] -= 1
            if not before[other]:
                heapq.heappush(ready, (key(other), other))
    return order


def leads_to(edges: Edges, start: int, end: int) -> bool:
    """Say whether one can get from one node to another along edges."""
    after: dict[int, set[int]] = defaultdict(set)
    for a, b in edges:
        after[a].add(b)
    seen, waiting = {start}, [start]
    while waiting:
        node = waiting.pop()
        if node == end:
            return True
        waiting += after[node] - seen
        seen |= after[node]
    return False
