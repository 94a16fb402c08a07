"""A train of gears from one shaft to another: its positions, its meshes, what goes in before what."""

from __future__ import annotations

import itertools
import math
from fractions import Fraction

from msgspec import Struct

from trebb.core.condition import ErrorModel, Source
from trebb.core.errors import InputError

# A gearbox's reversing bevels on two shafts, as such a nest can only be put together.
BEVELS = (
    "long shaft; far bevel after long shaft; third bevel on its drawn shaft after far bevel; third "
    "shaft home "
    "after third bevel on its drawn shaft; near bevel after third shaft home; oil cap after near bevel; "
    "cover "
    "after oil cap"
)
KINDS = {"spur": "spur wheels", "bevels": "reversing bevels"}
FEWEST, MOST = 5, 400


class Position(Struct, frozen=True):
    """One way the train can be engaged: groups of wheels in mesh, each group from its driver over idlers
    to its driven; the next group's driver sits on the last one's shaft.
    """

    name: str
    groups: tuple[tuple[int, ...], ...]

    @property
    def meshes(self) -> tuple[tuple[int, int], ...]:
        """Driver and driven of each mesh, in order."""
        return tuple(pair for group in self.groups for pair in itertools.pairwise(group))

    @property
    def ratio(self) -> Fraction:
        """Turns of the last for one of the first; idlers do not count."""
        found = Fraction(1)
        for group in self.groups:
            found *= Fraction(group[0], group[-1])
        return found

    @property
    def reverses(self) -> bool:
        """Whether the last turns against the first: an odd number of meshes."""
        return len(self.meshes) % 2 == 1

    @property
    def wheels(self) -> tuple[int, ...]:
        """Teeth of every wheel in it."""
        return tuple(z for group in self.groups for z in group)

    def share_at_end(self, mesh: int) -> float:
        """How much a play of one at a mesh's pitch circle is at that of the last wheel, one module all
        through. Without unit.
        """
        meshes = self.meshes
        driven = meshes[mesh][1]
        share = meshes[-1][1] / driven
        for _, after in _after(self.groups, mesh):
            share *= after
        return share


def _after(groups: tuple[tuple[int, ...], ...], mesh: int) -> list[tuple[int, float]]:
    """Ratios driver/driven of the meshes after one, each with its number."""
    found, n = [], 0
    for group in groups:
        for a, b in itertools.pairwise(group):
            if n > mesh:
                found.append((n, a / b))
            n += 1
    return found


def positions_from(text: str) -> tuple[Position, ...]:
    """Positions as written: "low: 20-60 24-48; high: 30-50 24-48"; an idler stands between: "40-30-60".
    Raises InputError saying what would do.
    """
    found = []
    for i, part in enumerate(p for p in text.split(";") if p.strip()):
        name, colon, wheels = part.rpartition(":")
        groups = []
        for word in wheels.split():
            teeth = word.split("-")
            if len(teeth) < 2 or not all(t.isdecimal() and FEWEST <= int(t) <= MOST for t in teeth):
                raise InputError(
                    f"“{word}”", "wheels that mesh, driver first: 20-60, or with an idler 20-35-60"
                )
            groups.append(tuple(int(t) for t in teeth))
        if not groups:
            raise InputError(f"“{part.strip()}”", "wheels that mesh, such as low: 20-60 24-48")
        found.append(Position(name.strip() if colon else f"position {i + 1}", tuple(groups)))
    if not found:
        raise InputError("a train without wheels", "such as 20-60 24-48")
    if len({p.name for p in found}) < len(found):
        raise InputError(f"“{text.strip()[:60]}”", "each position by a name of its own")
    return tuple(found)


class Placed(Struct, frozen=True):
    """A part that goes in after others; by name."""

    name: str
    after: tuple[str, ...]


def order_from(text: str) -> tuple[Placed, ...]:
    """What goes in after what: "long shaft; far bevel after long shaft". Raises InputError where one
    waits for what is not there, or they wait for each other.
    """
    found: list[Placed] = []
    for part in (p.strip() for p in text.split(";")):
        if part:
            name, _, after = part.partition(" after ")
            found.append(Placed(name.strip(), tuple(a.strip() for a in after.split(",") if a.strip())))
    names = {p.name for p in found}
    for p in found:
        missing = [a for a in p.after if a not in names]
        if missing:
            raise InputError(f"“{p.name} after {missing[0]}”", f"name {missing[0]} as a part of its own too")
    placed: set[str] = set()
    left = list(found)
    while left:
        ready = [p for p in left if set(p.after) <= placed]
        if not ready:
            raise InputError(
                f"{' and '.join(p.name for p in left[:3])}",
                "they wait for each other: none of them could go in",
            )
        placed |= {p.name for p in ready}
        left = [p for p in left if p.name not in placed]
    return tuple(found)


class Train(Struct, frozen=True):
    """A train as stated.

    Parameters
    ----------
    positions : each way it can be engaged; engaged the name of the one that is, "" the first.
    gone, backwards : teeth of wheels that are missing, or sit the wrong way round.
    module_mm : of its wheels; lead_mm of the screw at its end, 0 where none is.
    turns_mm : carriage feed per turn of its first shaft with the position engaged, as measured; 0 where not.
    order : what goes in after what.
    """

    kind: str = "spur"
    positions: tuple[Position, ...] = (Position("position 1", ((40, 20), (24, 48))),)
    engaged: str = ""
    gone: tuple[int, ...] = ()
    backwards: tuple[int, ...] = ()
    module_mm: float = 1.5875
    lead_mm: float = 0.0
    feed_mm: float = 0.0
    order: tuple[Placed, ...] = ()

    @property
    def now(self) -> Position:
        """The position that is engaged."""
        return next((p for p in self.positions if p.name == self.engaged), self.positions[0])

    @property
    def end_radius_mm(self) -> float:
        """Pitch radius of the last wheel."""
        return self.module_mm * self.now.meshes[-1][1] / 2

    @property
    def parts(self) -> tuple[Placed, ...]:
        """What goes in, in what order: as stated, of reversing bevels as such a nest can only be built."""
        return self.order or (order_from(BEVELS) if self.kind == "bevels" else ())

    def degrees(self, play_mm: float) -> float:
        """Turn of the last wheel for a play at its pitch circle."""
        return math.degrees(play_mm / self.end_radius_mm)

    @property
    def is_inch(self) -> bool:
        """Whether its wheels are called by diametral pitch."""
        return abs(25.4 / self.module_mm - round(25.4 / self.module_mm)) < 1e-3


def mesh_words(position: Position, mesh: int) -> str:
    """How a mesh is named: "mesh 2"."""
    return f"mesh {mesh + 1}"


def train_model(train: Train) -> ErrorModel:
    """Sources, mm at the pitch circles: lash of each mesh of the engaged position; what keys and pins add, at
    the last wheel's.
    """
    now = train.now
    sources = [
        Source(f"lash.{k}", f"lash of {a} with {b}", 0.15, 0.20, True) for k, (a, b) in enumerate(now.meshes)
    ]
    sources.append(Source("joints", "keys, pins and shafts", 0.10, 0.30, True))
    return ErrorModel(tuple(sources))
