"""Pieces from bars: the fewest bars, the longest offcut with them, remnants of the rack. mm.

Each piece takes one cut: Σ(piece + kerf) ≤ bar − end waste.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct

from trebb.core.errors import InputError

TINY = 1e-6


class CutList(Struct, frozen=True):
    """Pieces of each bar used, longest first; what is left of each, end waste not counted."""

    bars: tuple[tuple[float, ...], ...]
    lengths: tuple[float, ...]
    left: tuple[float, ...]

    @property
    def longest_offcut(self) -> float:
        """The longest single remnant. All in one unit of length."""
        return max(self.left, default=0.0)


def _room(bar: float, waste: float) -> float:
    return bar - waste


def bars_by_length(pieces: Sequence[float], bar: float, kerf: float, waste: float) -> int:
    """Summed length over the bar's: a lower bound, no more. All in one unit of length."""
    return math.ceil(sum(p + kerf for p in pieces) / _room(bar, waste) - TINY)


def first_fit_decreasing(pieces: Sequence[float], bar: float, kerf: float, waste: float) -> CutList:
    """Longest first, into the first bar with room. Raises InputError for a piece longer than a bar. All in
    one unit of length.
    """
    _check(pieces, bar, kerf, waste)
    room = _room(bar, waste)
    bars: list[list[float]] = []
    for piece in sorted(pieces, reverse=True):
        for cut in bars:
            if sum(p + kerf for p in cut) + piece + kerf <= room + TINY:
                cut.append(piece)
                break
        else:
            bars.append([piece])
    return _list(bars, [bar] * len(bars), kerf, waste)


def _check(pieces: Sequence[float], bar: float, kerf: float, waste: float) -> None:
    if not pieces:
        raise InputError("no pieces", "list what is to be cut")
    longest = max(pieces)
    if longest + kerf > _room(bar, waste) + TINY:
        raise InputError(
            f"a piece of {longest:g} mm from a bar of {bar:g} mm",
            f"with kerf and end waste a bar gives {_room(bar, waste) - kerf:g} mm: a longer bar",
        )


def _list(bars: Sequence[Sequence[float]], lengths: Sequence[float], kerf: float, waste: float) -> CutList:
    left = [length - waste - sum(p + kerf for p in cut) for cut, length in zip(bars, lengths, strict=True)]
    return CutList(tuple(tuple(sorted(cut, reverse=True)) for cut in bars), tuple(lengths), tuple(left))


def fewest_bars(pieces: Sequence[float], bar: float, kerf: float, waste: float) -> CutList:
    """The fewest bars, and of the ways with so many the one with the longest single offcut. Raises
    InputError for a piece longer than a bar. All in one unit of length.

    Every way is tried, alike pieces and alike bars once: small jobs only, as a shop has.
    """
    upper = first_fit_decreasing(pieces, bar, kerf, waste)
    count = len(upper.bars)
    for n in range(bars_by_length(pieces, bar, kerf, waste), count + 1):
        found = _pack(sorted(pieces, reverse=True), [_room(bar, waste)] * n, kerf)
        if found is not None:
            return _list(found, [bar] * n, kerf, waste)
    return upper


def _pack(pieces: Sequence[float], rooms: list[float], kerf: float) -> list[list[float]] | None:
    """A way to cut all pieces from rooms, the longest single room left in the end; None where there is
    none.
    """
    best: list[list[list[float]] | None] = [None]
    most = [-1.0]
    cuts: list[list[float]] = [[] for _ in rooms]
    total = sum(rooms) - sum(p + kerf for p in pieces)
    seen: set[tuple[int, tuple[float, ...]]] = set()

    def go(i: int) -> None:
        if most[0] >= total - TINY:  # everything that can be left is in one piece already
            return
        if i == len(pieces):
            if max(rooms) > most[0]:
                most[0], best[0] = max(rooms), [list(c) for c in cuts]
            return
        if max(rooms) <= most[0] + TINY:
            return
        key = (i, tuple(sorted(round(r, 6) for r in rooms)))
        if key in seen:
            return
        seen.add(key)
        tried: set[float] = set()
        for b in range(len(rooms)):
            if rooms[b] + TINY >= pieces[i] + kerf and round(rooms[b], 6) not in tried:
                tried.add(round(rooms[b], 6))
                rooms[b] -= pieces[i] + kerf
                cuts[b].append(pieces[i])
                go(i + 1)
                cuts[b].pop()
                rooms[b] += pieces[i] + kerf

    go(0)
    return best[0]


def waste_share(pieces: Sequence[float], cut: CutList) -> float:
    """1 − pieces / (bars × length). Without unit."""
    return 1 - sum(pieces) / sum(cut.lengths)


def from_rack(pieces: Sequence[float], rack: Sequence[float], kerf: float, waste: float) -> CutList | None:
    """The remnants of least summed length from which all pieces can be had; None where the rack does not do.
    All in one unit of length.
    """
    order = sorted(range(len(rack)), key=lambda i: rack[i])
    wanted = sum(p + kerf for p in pieces)
    sets: list[tuple[float, tuple[int, ...]]] = [(0.0, ())]
    for i in order:
        sets += [(length + rack[i], (*chosen, i)) for length, chosen in sets]
    for length, chosen in sorted(sets):
        if length - waste * len(chosen) + TINY < wanted:
            continue
        rooms = [_room(rack[i], waste) for i in chosen]
        found = _fits(sorted(pieces, reverse=True), rooms, kerf)
        if found is not None:
            return _list(found, [rack[i] for i in chosen], kerf, waste)
    return None


def _fits(pieces: Sequence[float], rooms: list[float], kerf: float) -> list[list[float]] | None:
    cuts: list[list[float]] = [[] for _ in rooms]
    seen: set[tuple[int, tuple[float, ...]]] = set()

    def go(i: int) -> bool:
        if i == len(pieces):
            return True
        key = (i, tuple(sorted(round(r, 6) for r in rooms)))
        if key in seen:
            return False
        seen.add(key)
        for b in range(len(rooms)):
            if rooms[b] + TINY >= pieces[i] + kerf:
                rooms[b] -= pieces[i] + kerf
                cuts[b].append(pieces[i])
                if go(i + 1):
                    return True
                cuts[b].pop()
                rooms[b] += pieces[i] + kerf
        return False

    return cuts if go(0) else None


def rack_by_length(pieces: Sequence[float], rack: Sequence[float], kerf: float, waste: float) -> bool:
    """Whether the summed length would do: can say yes where it is no. All in one unit of length."""
    return sum(p + kerf for p in pieces) <= sum(_room(r, waste) for r in rack) + TINY
