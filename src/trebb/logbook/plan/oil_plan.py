"""The oil plan of a machine as found."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.lubrication import Lines, grease_packed_cm3, grease_renewed_g, metered, usual_points
from trebb.core.stating.matters import OIL_HOW, OIL_KINDS, OIL_OFTEN
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import MatterStated

STATES = {
    "": "not tried",
    "open": "oil comes through",
    "blocked": "blocked",
    "cleared": "was blocked, is clear",
}


class Oiled(Struct, frozen=True):
    """A place as stated; words for showing, `grease` how much of it where sizes say."""

    key: str
    assembly: str
    label: str
    where: str
    kind: str
    how: str
    often: str
    state: str
    grease: str
    drops: float | None
    note: str

    @property
    def words(self) -> str:
        """What, how, how often."""
        parts = [OIL_KINDS.get(self.kind, ""), OIL_HOW.get(self.how, ""), OIL_OFTEN.get(self.often, "")]
        return ", ".join(p for p in parts if p and p != "not said")


def oil_points(cases: Cases) -> list[Oiled]:
    """Places that are oiled, in the machine's order."""
    names = {a.key: a.label for a in cases.kind.assemblies}
    order = {key: i for i, key in enumerate(names)}
    found = []
    for key, told in cases.job.matters("oil").items():
        if told.get("gone") == "yes" or not told.get("where"):
            continue
        sizes = [told.get(k) for k in ("bore", "outer", "wide")]
        drops = told.get("drops")
        assembly = str(told.get("assembly", ""))
        found.append(
            Oiled(
                key,
                assembly,
                names.get(assembly, ""),
                str(told["where"]),
                str(told.get("kind", "")),
                str(told.get("how", "")),
                str(told.get("often", "")),
                str(told.get("state", "")),
                _grease(sizes),
                float(drops) if isinstance(drops, int | float) else None,
                str(told.get("note", "")),
            )
        )
    return sorted(found, key=lambda o: order.get(o.assembly, len(order)))


def _grease(sizes: Sequence[object]) -> str:
    numbers = [float(s) for s in sizes if isinstance(s, int | float)]
    if len(numbers) != 3:
        return ""
    try:
        packed, renewed = grease_packed_cm3(*numbers), grease_renewed_g(numbers[1], numbers[2])
    except InputError as error:
        return f"{error}"
    return f"first {packed:.1f} cm³, then {renewed:.1f} g"


def pump_lines(points: list[Oiled]) -> Lines | None:
    """Lines of the pump, by what is stated; None where no point hangs on one."""
    lines = {f"{o.label}: {o.where}": o.drops for o in points if o.how == "pump"}
    return metered(lines) if lines else None


def oil_key(cases: Cases) -> str:
    """A key for another place."""
    taken = cases.job.matters("oil")
    return next(f"oil{i}" for i in range(1, 10_000) if f"oil{i}" not in taken)


def usual_entries(cases: Cases) -> list[MatterStated]:
    """Entries that state the usual places of this machine which are not stated yet."""
    known = {(o.assembly, o.where) for o in oil_points(cases)}
    taken = set(cases.job.matters("oil"))
    found: list[MatterStated] = []
    for assembly, point in usual_points([(a.key, a.family) for a in cases.kind.assemblies]):
        key = f"{assembly}.{point.key}"[:200]
        if (assembly, point.where) in known or key in taken:
            continue
        fields = {
            "assembly": assembly,
            "where": point.where,
            "kind": point.kind,
            "how": point.how,
            "often": point.often,
            "note": point.note,
        }
        found += [MatterStated("oil", key, k, v) for k, v in fields.items() if v]
    return found
