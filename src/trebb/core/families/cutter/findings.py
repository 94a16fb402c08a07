"""A cutter: the hole it would make, whether it or its holder runs off, which flutes differ, what to grind."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from typing import TYPE_CHECKING

import numpy as np

from trebb.core.belief.sound import Kind, levels
from trebb.core.bores.tapers import shift_of_dia
from trebb.core.condition import Quantity
from trebb.core.condition.draws import quantity, vector_size
from trebb.core.condition.fixing import is_read
from trebb.core.families.cutter.reading import cutter_items
from trebb.core.families.cutter.subject import Cutter, cutter_model
from trebb.core.figure import Figure, Item, Label, Role
from trebb.core.findings.base import Finding, Measure
from trebb.core.findings.judging import Drawn, Judged, Judging, Known
from trebb.core.machine import State
from trebb.core.runout.flutes import FlutesRead, chips, read_flutes
from trebb.core.units import show_size, show_small

if TYPE_CHECKING:
    from numpy.typing import NDArray


def _edges(cutter: Cutter, drawn: Drawn) -> NDArray[np.float64]:
    """Each edge as held, (flutes, draws)."""
    found = []
    for k in range(1, cutter.count + 1):
        cos, sin = cutter.turn(k)
        found.append(drawn[f"edge.{k}"] + cos * drawn["holder.x"] + sin * drawn["holder.y"])
    return np.stack(found)


@cache
def _fit(cutter: Cutter) -> NDArray[np.float64]:
    """From edges to mean and off centre, least squares over the true angles, (3, flutes)."""
    theta = np.radians(np.asarray(cutter.angles_deg))
    return np.linalg.pinv(np.stack([np.ones(cutter.count), np.cos(theta), np.sin(theta)], axis=1))


def faults(cutter: Cutter) -> tuple[Kind, ...]:
    """Edges that stand out; how the cutter was set to nothing is none."""
    return (levels([f"edge.{k}" for k in range(1, cutter.count + 1)]),)


def hole(cutter: Cutter, drawn: Drawn) -> Quantity:
    """How much larger than its name the hole of a cutter held rigid is: twice its largest edge."""
    return quantity(2 * _edges(cutter, drawn).max(axis=0))


def runs(cutter: Cutter, drawn: Drawn) -> Quantity:
    """Off centre as held, total reading."""
    fit = _fit(cutter) @ _edges(cutter, drawn)
    return vector_size(fit[1] + 1j * fit[2], 2.0)


def own(cutter: Cutter, drawn: Drawn) -> Quantity:
    """Most less least of the flutes once being off centre is taken out."""
    edges = _edges(cutter, drawn)
    theta = np.radians(np.asarray(cutter.angles_deg))
    design = np.stack([np.ones(cutter.count), np.cos(theta), np.sin(theta)], axis=1)
    left = edges - design @ (_fit(cutter) @ edges)
    return quantity(left.max(axis=0) - left.min(axis=0))


def _held(cutter: Cutter) -> tuple[Mapping[str, float], ...]:
    found = []
    for k in range(1, cutter.count + 1):
        cos, sin = cutter.turn(k)
        found.append({f"edge.{k}": 1.0, "holder.x": cos, "holder.y": sin})
    return tuple(found)


def flutes_read(known: Known[Cutter], set_up: str = "flutes") -> FlutesRead | None:
    """The edges as read, mm; None until every flute is."""
    read = known.read(set_up)
    if len(read) < known.subject.count:
        return None
    return read_flutes(
        known.subject.angles_deg, [read[f"flute {k}"] for k in range(1, known.subject.count + 1)]
    )


def grind_mm(read: FlutesRead) -> tuple[float, ...]:
    """What comes off each flute so that all are alike about their own axis: down to the lowest."""
    low = min(read.own)
    return tuple(v - low for v in read.own)


def _hole_words(known: Known[Cutter], m: Measure, size: str) -> tuple[str, str, str]:
    cutter, read = known.subject, flutes_read(known)
    makes = f"a hole of {show_size(cutter.dia_mm + m.value.value, known.system)}"
    cutting = ""
    if read is not None:
        thick = chips(read.readings, cutter.feed_mm)
        busy = sum(c > 0 for c in thick)
        cutting = (
            f" At {show_small(cutter.feed_mm, known.system)} a tooth {busy} of {cutter.count} cut, the "
            f"thickest chip "
            f"{show_small(max(thick), known.system)}."
        )
    return (
        f"Held rigid it makes {makes}: {size} over its name.",
        "edges as they pass",
        f"A reamer that floats does better.{cutting}",
    )


def _runs_words(known: Known[Cutter], m: Measure, size: str) -> tuple[str, str, str]:
    cutter = known.subject
    toward = flutes_read(known)
    where = f", toward {toward.direction_deg:.0f}°" if toward is not None else ""
    return (
        f"As held it runs off centre by {size}, total reading{where}.",
        "edges as they pass",
        whose(known)
        or (
            "Of three flutes nothing tells runout from tooth error."
            if cutter.count <= 3
            else "Turn it half round in its holder and read again: that tells cutter from holder."
        ),
    )


def whose(known: Known[Cutter]) -> str:
    """Cutter's part and holder's, where both seatings were read."""
    at_0, at_180 = flutes_read(known), flutes_read(known, "flutes_turned")
    if at_0 is None or at_180 is None:
        return ""
    tool, holder = abs(at_0.once + at_180.once), abs(at_0.once - at_180.once)
    said = (
        f"Of it the cutter makes {show_small(tool, known.system)}, the holder or spindle "
        f"{show_small(holder, known.system)}, total readings. "
    )
    return said + (
        "It is the holder: clean it, turn the cutter to where they cancel."
        if holder > 1.5 * tool
        else "It is the cutter: ground off its shank."
        if tool > 1.5 * holder
        else "Both: turn the cutter to where they cancel."
    )


def _own_words(known: Known[Cutter], m: Measure, size: str) -> tuple[str, str, str]:
    cutter, read = known.subject, flutes_read(known)
    move = "It was ground between centres; hold it so, line up one flute, and grind all alike."
    if read is not None:
        each = ", ".join(
            f"{k}: {show_small(v, known.system, unit=False)}" for k, v in enumerate(grind_mm(read), 1)
        )
        move += f" Off each flute ({show_small(0.0, known.system).split()[-1]}): {each}."
        if cutter.ratio:
            off = 2 * max(grind_mm(read))
            move += (
                f" On a taper of 1 in {cutter.ratio:g} it then goes "
                f"{show_size(shift_of_dia(cutter.ratio, off), known.system)} "
                "deeper for the same size."
            )
    return f"Once that is taken out the flutes differ by {size}.", "edges as they pass", move


MEASURES: dict[str, Judged[Cutter]] = {
    "hole": Judged("Hole over its name", "cutter_hole", hole, _held, _hole_words),
    "runs": Judged("Runs off centre", "cutter_runs", runs, _held, _runs_words, weight=0.9),
    "own": Judged(
        "Flutes against each other",
        "cutter_own",
        own,
        _held,
        _own_words,
        weight=1.5,
        applies=lambda c: c.count > 3,
    ),
}


def also(known: Known[Cutter], measures: Mapping[str, Measure]) -> list[Finding]:
    """A hole that is too hard for it."""
    file = known.subject.hole_file
    if file == "skates":
        return [
            Finding(
                "hard",
                State.BEYOND,
                "A file skates in the hole it is for.",
                "a file, tried",
                "That ruins a reamer at once: grind the hole, or another way. The next one is no better.",
                1.0,
            )
        ]
    if file == "drags":
        return [
            Finding(
                "hard",
                State.NEAR,
                "A file only drags in the hole it is for.",
                "a file, tried",
                "A carbide reamer, or a lap; one of high-speed steel is soon blunt.",
                0.2,
            )
        ]
    return []


def picture(known: Known[Cutter]) -> Figure:
    """The cutter from its end with each edge's reading."""
    cutter, read = known.subject, known.read("flutes")
    items: list[Item] = cutter_items(cutter)
    half = (cutter.count + 1) // 2 if cutter.count > 5 else cutter.count
    for k in range(1, cutter.count + 1):
        words = show_small(read[f"flute {k}"], known.system) if f"flute {k}" in read else "not read"
        column, line = divmod(k - 1, half)
        items.append(
            Label(
                (300 + 165 * column, 30 + 22 * line),
                f"flute {k} at {cutter.angles_deg[k - 1]:g}°: {words}",
                Role.INK,
                "left",
            )
        )
    return Figure(640, 164, tuple(items))


def sizes(known: Known[Cutter]) -> dict[str, float]:
    """What may come off, by flute, where the edges are known. In mm."""
    if not all(is_read(known.alone, c, 0.01) for c in _held(known.subject)):
        return {}
    read = flutes_read(known)
    return {f"grind.{k}": v for k, v in enumerate(grind_mm(read), 1)} if read is not None else {}


JUDGING = Judging(
    decides="flutes",
    model=cutter_model,
    measures=MEASURES,
    questions=lambda c: {
        **{f"edge.{k}": (f"flute {k}", m) for k, m in enumerate(_held(c), 1)},
        "holder": ("what the holder makes", {"holder.x": 1.0}),
    },
    describe=lambda c: f"{c.kind.replace('_', ' ')}, {c.dia_mm:g} mm, {c.count} flutes",
    also=also,
    faults=faults,
    sizes=sizes,
    cures={"hard": ("other_way",)},
    picture=picture,
    default_parts=("cutter_grind",),
)
