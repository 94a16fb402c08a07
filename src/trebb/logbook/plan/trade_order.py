"""What comes off together, and what is put right before what: the trade's order over a machine's assemblies.

Feet before the bed, the bed before what stands on it, ways before their gibs, a casting and its bores before
the shafts that run in them; pieces before what they are pieces of. What a kind of machine says of it stands
with its assemblies.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping

from trebb.core.machine import MachineKind

# Of pieces of one assembly, by family, what is put right first; of others any.
_PIECES = ("casting", "way", "bore", "shaft", "gear", "train", "cone")


def strip_groups(kind: MachineKind, hosts: Collection[str]) -> Mapping[str, str]:
    """Of each assembly that is taken down the lowest one that it comes off with: one strip and one refit for
    all that stand on one another.
    """
    found = {}
    for host in hosts:
        below = [key for key in kind.carried_by(host) if key in hosts]
        found[host] = below[-1] if below else host
    return found


def is_before(kind: MachineKind, one: str, other: str) -> bool:
    """Whether one assembly or piece is put right before another."""
    a, b = kind.root_of(one), kind.root_of(other)
    if a != b:
        return a in kind.settled_before(b)
    return _rank(kind, one) < _rank(kind, other)


def _rank(kind: MachineKind, key: str) -> int:
    """Among those of one assembly: its pieces by their family, then itself."""
    a = kind.assembly(key)
    if not a.under:
        return len(_PIECES) + 1
    return _PIECES.index(a.family) if a.family in _PIECES else len(_PIECES)


def in_trade_order(kind: MachineKind, places: Mapping[str, str]) -> list[str]:
    """Names so that each stands behind all that are put right before it; else as the machine lists them.
    `places` says at which assembly or piece each is.
    """
    listed = {a.key: i for i, a in enumerate(kind.assemblies)}
    left, found = sorted(places, key=lambda name: listed[places[name]]), []
    while left:
        free = (k for k in left if not any(is_before(kind, places[o], places[k]) for o in left if o != k))
        found.append(next(free, left[0]))
        left.remove(found[-1])
    return found
