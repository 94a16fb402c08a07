"""The oil plan of a machine as found."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.facts import Stored
from trebb.core.lubrication import (
    Lines,
    Pipe,
    by_pipe,
    grease_packed_cm3,
    grease_renewed_g,
    metered,
    meters_for,
    tray,
    usual_points,
)
from trebb.core.stating.matters import OIL_HOW, OIL_KINDS, OIL_OFTEN
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.plan.shopping import sawn

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
    pipe: Pipe | None = None

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
                _pipe(told),
            )
        )
    return sorted(found, key=lambda o: order.get(o.assembly, len(order)))


def _pipe(told: Mapping[str, Stored]) -> Pipe | None:
    bore, length, up = (told.get(key) for key in ("line_bore", "line_long", "line_up"))
    if not isinstance(bore, int | float) or not isinstance(length, int | float) or not bore or not length:
        return None
    return Pipe(float(bore), float(length), float(up) if isinstance(up, int | float) else 0.0)


def _grease(sizes: Sequence[object]) -> str:
    numbers = [float(s) for s in sizes if isinstance(s, int | float)]
    if len(numbers) != 3:
        return ""
    try:
        packed, renewed = grease_packed_cm3(*numbers), grease_renewed_g(numbers[1], numbers[2])
    except InputError as error:
        return f"{error}"
    return f"first {packed:.1f} cm³, then {renewed:.1f} g"


def piped(points: Sequence[Oiled]) -> dict[str, Pipe]:
    """Open lines of the pump whose pipe is stated: those without a meter."""
    return {
        f"{o.label}: {o.where}": o.pipe
        for o in points
        if o.how == "pump" and not o.drops and o.pipe is not None
    }


def piped_words(points: Sequence[Oiled]) -> str:
    """What the pipes alone would give each open line, and which meter each wants; "" for fewer than two."""
    pipes = piped(points)
    if len(pipes) < 2:
        return ""
    shares = by_pipe(pipes)
    meters = meters_for(shares, dict.fromkeys(shares, 1.0))
    lines = []
    for name, share in sorted(shares.items(), key=lambda one: -one[1]):
        through = meters.get(name)
        if through is None:
            meter = "none reaches it: it lies too high for the pump"
        else:
            meter = "no meter" if through > 0.95 else f"a meter that lets 1 in {1 / through:.0f} through"
        lines.append(f"{name} {share:.0%} ({meter})")
    return f"By their pipes alone, for oil alike to all: {'; '.join(lines)}."


def pump_lines(points: list[Oiled]) -> Lines | None:
    """Lines of the pump, by what is stated; None where no point hangs on one."""
    lines = {f"{o.label}: {o.where}": o.drops for o in points if o.how == "pump"}
    return metered(lines) if lines else None


US_PINT_L = 0.473176473
TRAY = "tray"  # what the matter of the tray is `of`


def tray_words(cases: Cases, system: UnitSystem) -> str:
    """What the tray that was stated holds, how long that lasts, from what blank it is folded; "" where its
    sizes are not all stated.
    """
    told = cases.job.matter("oil", TRAY)
    sizes = [told.get(key) for key in ("tray_long", "tray_wide", "tray_high")]
    numbers = [float(s) for s in sizes if isinstance(s, int | float) and s]
    if len(numbers) != len(sizes):
        return ""
    drops = sum(o.drops or 0.0 for o in oil_points(cases) if o.how == "pump")
    found = tray(numbers[0], numbers[1], numbers[2], drops)
    long, wide = (sawn(mm, system) for mm in found.blank_mm)
    litres = found.holds_cm3 / 1000
    much = f"{litres / US_PINT_L:.1f} US pt" if system is UnitSystem.INCH else f"{litres:.2f} L"
    holds = f"The tray holds {much} to two thirds of its height"
    lasts = (
        f": {drops:.0f} drops an hour fill that in {found.hours:.0f} hours of running"
        if found.hours
        else "; how long that lasts is said once meters have their drops"
    )
    return f"{holds}{lasts}. Folded from {long} × {wide}, each corner notched by its height."


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
