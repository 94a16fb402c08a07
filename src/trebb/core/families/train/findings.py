"""A train: the lost motion at its end and where it is, the ratio of each position, what keeps it from
driving.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from trebb.core.condition import Quantity
from trebb.core.condition.draws import quantity
from trebb.core.condition.fixing import is_read
from trebb.core.families.train.reading import WHOLE, chain_items
from trebb.core.families.train.subject import KINDS, Train, train_model
from trebb.core.figure import Figure, Label, Role
from trebb.core.findings.base import Finding, Measure
from trebb.core.findings.judging import Drawn, Judged, Judging, Known
from trebb.core.machine import State
from trebb.core.units import show_small


def _combination(train: Train) -> dict[str, float]:
    now = train.now
    return {**{f"lash.{k}": now.share_at_end(k) for k in range(len(now.meshes))}, "joints": 1.0}


def whole(train: Train, drawn: Drawn) -> Quantity:
    """Lost motion at the last wheel's pitch circle."""
    return quantity(np.asarray(sum(c * drawn[k] for k, c in _combination(train).items())))


def worst_mesh(train: Train, drawn: Drawn) -> Quantity:
    """Lash of the widest mesh."""
    return quantity(np.max([drawn[f"lash.{k}"] for k in range(len(train.now.meshes))], axis=0))


def shares(known: Known[Train]) -> list[tuple[str, float]]:
    """What each mesh and the joints give at the end, as far as they are read, largest first, mm."""
    now, found = known.subject.now, []
    for k, (a, b) in enumerate(now.meshes):
        if is_read(known.alone, {f"lash.{k}": 1.0}, 0.05):
            found.append((f"{a} with {b}", now.share_at_end(k) * known.alone.source(f"lash.{k}").value))
    if is_read(known.alone, {"joints": 1.0}, 0.10):
        found.append(("keys, pins and shafts", known.alone.source("joints").value))
    return sorted(found, key=lambda pair: -pair[1])


def _whole_words(known: Known[Train], m: Measure, size: str) -> tuple[str, str, str]:
    train = known.subject
    turn = train.degrees(m.value.value)
    travel = ""
    if train.lead_mm:
        travel = f" and {show_small(train.lead_mm * turn / 360, known.system)} of the screw’s travel"
    listed = shares(known)
    where = (
        "Of it: " + ", ".join(f"{name} {show_small(v, known.system)}" for name, v in listed) + "."
        if len(listed) > 1
        else "Rock each mesh by itself: it tells where."
    )
    return f"The train loses {size} at its last wheel, {turn:.1f}°{travel}.", "first held, last rocked", where


TOLD_SHARE = 0.25  # of its limit: with a wider ± one mesh is not told from another


def _mesh_words(known: Known[Train], m: Measure, size: str) -> tuple[str, str, str]:
    now = known.subject.now
    each = {k: known.alone.source(f"lash.{k}") for k in range(len(now.meshes))}
    k = max(each, key=lambda k: each[k].value)
    a, b = now.meshes[k]
    if len(each) > 1 and max(q.half_width for q in each.values()) > TOLD_SHARE * m.limit.limit_mm:
        return (
            f"The widest mesh gives {size}; which it is, is not told.",
            "the train as a whole",
            "Rock each mesh by itself: it tells which.",
        )
    return (
        f"The widest mesh is {a} with {b}: {size}.",
        "each mesh rocked",
        "Set its stud closer with paper between; does that not help, a wheel is worn: look at its teeth.",
    )


def _all_meshes(train: Train) -> tuple[Mapping[str, float], ...]:
    return tuple({f"lash.{k}": 1.0} for k in range(len(train.now.meshes)))


MEASURES: dict[str, Judged[Train]] = {
    "whole": Judged(
        "Lost motion at the end", "train_whole", whole, lambda t: (_combination(t),), _whole_words
    ),
    "mesh": Judged("Widest mesh", "train_mesh", worst_mesh, _all_meshes, _mesh_words, weight=0.9),
}


def also(known: Known[Train], measures: Mapping[str, Measure]) -> list[Finding]:
    """Ratios, missing wheels, wheels put on backwards, a position that is none."""
    train, found = known.subject, list[Finding]()
    _add_gone(train, found)
    for z in train.backwards:
        found.append(
            Finding(
                f"backwards.{z}",
                State.BEYOND,
                f"The wheel of {z} sits the wrong way round.",
                "looked at",
                "Its hub keeps the shaft from going home, or another from engaging: the end play tells. "
                "Turn it before "
                "anything is pinned.",
                3.0,
            )
        )
    if train.engaged and train.engaged not in {p.name for p in train.positions}:
        names = ", ".join(p.name for p in train.positions)
        found.append(
            Finding(
                "engaged",
                State.UNKNOWN,
                f"No position is called “{train.engaged}”.",
                "as stated",
                f"There are: {names}.",
                0.5,
            )
        )
    if found or known.read("train_rock"):
        lines = "; ".join(
            f"{p.name} {p.ratio.numerator}/{p.ratio.denominator}{', turns against' if p.reverses else ''}"
            for p in train.positions
        )
        found.append(
            Finding(
                "ratios",
                State.WITHIN,
                f"Turns of its last wheel for one of its first: {lines}.",
                "wheels counted",
                "Idlers do not count, but for the way it turns.",
                0.0,
            )
        )
    return found


def _add_gone(train: Train, found: list[Finding]) -> None:
    for z in train.gone:
        broken = [p.name for p in train.positions if z in p.wheels]
        if broken:
            found.append(
                Finding(
                    f"gone.{z}",
                    State.BEYOND,
                    f"Without the wheel of {z} nothing drives in {', '.join(broken)}.",
                    "wheels counted",
                    "Add it as a gear of its own: named, bought used and checked, or cut.",
                    4.0,
                )
            )
        else:
            found.append(
                Finding(
                    f"gone.{z}",
                    State.NEAR,
                    f"A wheel of {z} is gone, and no position uses it.",
                    "wheels counted",
                    "Count again, or state the position that needs it.",
                    0.1,
                    asks=("positions",),
                )
            )


def picture(known: Known[Train]) -> Figure:
    """The chain with what each mesh loses."""
    items = chain_items(known.subject)
    read = known.read("train_rock")
    words = f"whole {show_small(read[WHOLE], known.system)}" if WHOLE in read else "whole not read"
    return Figure(640, 164, (*items, Label((320, 14), f"{known.subject.now.name}: {words}", Role.INK)))


def questions(train: Train) -> dict[str, tuple[str, Mapping[str, float]]]:
    """What is to be known. Coefficients by source, without unit."""
    found: dict[str, tuple[str, Mapping[str, float]]] = {
        f"lash.{k}": (f"lash of {a} with {b}", {f"lash.{k}": 1.0})
        for k, (a, b) in enumerate(train.now.meshes)
    }
    return {**found, "joints": ("what keys and pins add", {"joints": 1.0})}


JUDGING = Judging(
    decides="train_rock",
    model=train_model,
    measures=MEASURES,
    questions=questions,
    describe=lambda t: (
        f"{KINDS[t.kind]}, {len(t.positions)} position{'s' if len(t.positions) > 1 else ''}, "
        f"{t.now.ratio.numerator}:{t.now.ratio.denominator}"
    ),
    also=also,
    picture=picture,
    default_parts=("feed_train",),
)
