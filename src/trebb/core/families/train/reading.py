"""A train's lost motion: each mesh rocked with the one before held, and the whole from its first to its
last.
"""

from __future__ import annotations

import itertools

from trebb.core.condition import Row
from trebb.core.families.train.subject import Train, mesh_words
from trebb.core.figure import Arrow, Circle, Figure, Indicator, Item, Label, Role
from trebb.core.safety import LOCK_OUT
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.survey.sizes import beyond_indicator

WIDTH, HEIGHT = 640.0, 164.0
MESH_SD_MM, WHOLE_SD_MM, MOST_MM = 0.012, 0.03, 20.0
WHOLE = "whole"


def rock_places(train: Train) -> tuple[Place, ...]:
    """Each mesh of the engaged position, then the whole."""
    now = train.now
    found = [
        Place(mesh_words(now, k), f"{a} with {b}", f"{a} held, {b} rocked")
        for k, (a, b) in enumerate(now.meshes)
    ]
    return (*found, Place(WHOLE, "The whole", "first shaft held, last wheel rocked"))


def rock_row(train: Train, place: str) -> Row:
    """Lash of a mesh; of the whole each at the last wheel's pitch circle, and what the joints add."""
    now = train.now
    if place != WHOLE:
        return Row({f"lash.{int(place.split()[1]) - 1}": 1.0}, MESH_SD_MM)
    row = {f"lash.{k}": now.share_at_end(k) for k in range(len(now.meshes))}
    return Row({**row, "joints": 1.0}, WHOLE_SD_MM)


def chain_items(train: Train, blue: int = -1) -> list[Item]:
    """The wheels side by side as they mesh, each named by its teeth; two on one shaft about one middle."""
    groups = train.now.groups
    # Room: half of the first and of the last, and both of every mesh.
    run = sum(a + b for a, b in train.now.meshes) + groups[0][0] + groups[-1][-1]
    scale = min(36.0 / max(train.now.wheels), 540.0 / run)
    middle, n = 40.0 + scale * groups[0][0], 0
    items: list[Item] = []
    names: dict[float, str] = {}
    for group in groups:
        items.append(Circle((middle, 80), scale * group[0]))
        names[middle] = f"{names[middle]} + {group[0]}" if middle in names else str(group[0])
        for driver, driven in itertools.pairwise(group):
            middle += scale * (driver + driven)
            role = Role.BLUE if n == blue else Role.INK
            items.append(Circle((middle, 80), scale * driven, role))
            names[middle] = str(driven)
            n += 1
    items += [Circle((x, 80), 3, Role.SOFT) for x in names]
    return items + [Label((x, 150), words, Role.SOFT) for x, words in names.items()]


def _figure(train: Train, place: str) -> Figure:
    k = -1 if place == WHOLE else int(place.split()[1]) - 1
    items = chain_items(train, k)
    items += [Indicator((606, 60), (1, 0.0001)), Arrow((618, 92), (618, 44), both_ways=True)]
    words = "first shaft held, last wheel rocked" if k < 0 else "the wheel before held fast, this one rocked"
    return Figure(WIDTH, HEIGHT, (*items, Label((320, 14), f"{words}, at its pitch circle", Role.BLUE)))


ROCK: SetUp[Train] = SetUp(
    key="train_rock",
    letter="R",
    short="Rock",
    title="The train rocked, mesh by mesh",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.01,
    minutes=2.0,
    setting_minutes=6,
    wanted=1,
    places=rock_places,
    row=rock_row,
    figure=_figure,
    refusal=lambda train, place, raw, system: beyond_indicator(raw, MOST_MM, system),
    steps=(
        "Engage the position that is stated; see that nothing is half in mesh.",
        "Each mesh: the wheel before it wedged or held, this one rocked lightly, at its pitch circle.",
        "Then the whole: first shaft held, last wheel rocked. What is over is in keys, pins and shafts.",
    ),
    cautions=(LOCK_OUT,),
    tells="Where the lost motion is, mesh by mesh, and what the joints add.",
    cannot_tell="One mesh alone: what the rest adds.",
    settles="where the lost motion is",
    family="train",
    measure=lambda train, place: ("whole" if place == WHOLE else "mesh", 1.0),
)
