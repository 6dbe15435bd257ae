"""Keeping labels apart: the smallest moves that leave a clear gap between neighbours."""

from __future__ import annotations


def spread(wanted: list[float], gap: float, low: float, high: float) -> list[float]:
    """Positions near ``wanted``, in its order, at least ``gap`` apart and within low…high.

    Neighbours that would touch move as one block, centred on where they wanted to be, so the
    sum of squared moves is the least possible (isotonic regression by pooling). If the room is
    too small for the gap, they share it evenly.
    """
    count = len(wanted)
    if not count:
        return []
    if count > 1:
        gap = min(gap, (high - low) / (count - 1))
    order = sorted(range(count), key=lambda i: wanted[i])
    blocks: list[list[float]] = []  # [sum of offsets-free wishes, how many]
    for rank, index in enumerate(order):
        blocks.append([wanted[index] - rank * gap, 1.0])
        while len(blocks) > 1 and blocks[-2][0] / blocks[-2][1] >= blocks[-1][0] / blocks[-1][1]:
            total, number = blocks.pop()
            blocks[-1][0] += total
            blocks[-1][1] += number
    placed = [0.0] * count
    rank = 0
    for total, number in blocks:
        base = min(max(total / number, low), high - (count - 1) * gap)
        for _ in range(int(number)):
            placed[order[rank]] = base + rank * gap
            rank += 1
    return placed
