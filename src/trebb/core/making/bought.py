"""A part bought instead of made: what to ask for by size, whether what is offered will do, what is still to
be cut, and its price and wait beside the hours of making it.

The sizes that count are those the part's own route works to; nothing else of a bought part can spoil the job.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.making.operations import Operation, SizeTarget
from trebb.core.parts.base import Check, Part, PartField
from trebb.core.safety import CLOTH
from trebb.core.units import UnitSystem, show_money, show_size, show_sizes
from trebb.core.words import large

BUY = "buy"
MOST_CUT_MM = 5.0  # more than this over its size is another part, not one to be cut down
OFFERED = "offer."
WAYS = {"make": "made here", BUY: "bought"}

# Operations of a part's own route that are done on the machine, or in place: a bought part needs them all the
# same, and their sizes are not the part's to be asked for. By part, or by part and construction.
ON_MACHINE: Mapping[str, frozenset[str]] = {
    key: frozenset(operations.split())
    for key, operations in {
        "screw": "fit",
        "nut": "oil try",
        "nut/hub": "hub press index bore test nut_thread oil try",
        "dial": "stamp",
        "thrust_collar": "face",
        "spacer": "stone",
        "coupler_sleeve": "bond pin",
        "sleeve": "hard seat on finish",
        "foot_shims": "in",
        "tail_key": "slide",
        "table_shim": "wedge",
        "saddle_liner": "off mill bond scrape height",
        "stub": "hold bore press end end_thread pin",
        "journal_sleeve": "journal press finished",
        "shaft_bush": "housing press reamed oil",
        "bush": "housing press reamed oil",
        "key": "corners",
        "taper_pin": "out line mouth drive",
        "straight_pin": "index drill hole drive",
        "square_plug": "hub press pin",
        "gear_spacer": "thickness",
        "gear_sleeve": "housing press reamed oil",
        "new_gear": "burr",
        "cone_lining": "old body drill fasten big blue",
        "cone_hub": "order pin bore",
        "bore_mandrel": "groove hold preheat braze cool out",
        "strap": "seat stop drill fit",
        "stitch_screw": "ends every between dress",
        "jaw_plate": "fit",
        "hole_plug": "bore press skim",
    }.items()
}

# What is done to what is there, or set up from what is at hand: nobody sells it.
NEVER_BOUGHT = frozenset({"bearing_seat", "cutter_grind", "feed_train"})

Values = Mapping[str, str | float]


def on_machine(part: Part) -> frozenset[str]:
    """Operations of a part that are done whether it is made or bought."""
    return ON_MACHINE.get(f"{part.key}/{part.construction}", ON_MACHINE.get(part.key, frozenset()))


class Offer(Struct, frozen=True):
    """What a seller says: price in the shop's money, wait in days, sizes in mm by the operation that would
    make them; None and absent where not said.
    """

    price: float | None
    wait_days: float | None
    sizes: Mapping[str, float]


def fitted(part: Part, route: Sequence[Operation]) -> dict[str, SizeTarget]:
    """Every size of its own that a part's route works to, by operation; of one worked to twice, the last."""
    stays = on_machine(part)
    last = {o.target: o.key for o in route if o.target is not None and o.key not in stays}
    return {key: target for target, key in last.items()}


def is_bought(facts: Values) -> bool:
    """Whether a part is to be bought."""
    return facts.get("get") == BUY


def as_bought(part: Part) -> Part:
    """A part as it is when it is bought: cut from nothing here."""
    return replace(part, stock="what a seller has, by the sizes on this page", blanks=1)


def buying_fields(key: str, facts: Values, targets: Mapping[str, SizeTarget]) -> tuple[PartField, ...]:
    """Made or bought; once bought, price, wait and the sizes offered. Nothing of what nobody sells."""
    if key in NEVER_BOUGHT:
        return ()
    choice = PartField("get", "This part is", "make", WAYS)
    if not is_bought(facts):
        return (choice,)
    return (
        choice,
        PartField("price", "Price", "", high_mm=1_000_000, is_figure=True),
        PartField("wait", "Wait, days", "", high_mm=2000, is_figure=True),
        *(
            PartField(f"{OFFERED}{key}", f"{large(t.what)}, offered", "", low_mm=0.01)
            for key, t in targets.items()
        ),
    )


def offer_of(facts: Values, targets: Mapping[str, SizeTarget]) -> Offer:
    """What was typed of an offer."""

    def figure(key: str) -> float | None:
        value = facts.get(key)
        return float(value) if isinstance(value, float | int) else None

    sizes = {key: figure(f"{OFFERED}{key}") for key in targets}
    return Offer(figure("price"), figure("wait"), {k: v for k, v in sizes.items() if v is not None})


def ask_for(part: Part, targets: Mapping[str, SizeTarget], system: UnitSystem) -> tuple[str, ...]:
    """What to tell a seller, line by line."""
    known = next((str(r.value) for r in part.rows if r.key == "ask"), "")
    lines = [known or f"{part.title}, {part.material}"]
    threads = [s.label for s in part.sections if s.kind == "thread"]
    if part.thread is not None and part.thread.designation not in threads:
        threads.append(part.thread.designation)
    lines += [f"thread {words}" for words in threads]
    lines += [f"{t.what}: {show_sizes(t.band.low_mm, t.band.high_mm, system)}" for t in targets.values()]
    if not targets:  # a screw's journals are turned by its drawing, not by operations of their own
        lines += [
            f"{s.label}: {show_sizes(s.size.low_mm, s.size.high_mm, system)}"
            for s in part.sections
            if s.size is not None and s.kind == "plain"
        ]
    if part.sections:
        lines.append(f"length over all {show_size(part.length_mm, system)}, or longer")
    if targets:
        lines.append("metal left on any of them does, where it is not hard")
    return tuple(lines)


def over_mm(target: SizeTarget, size_mm: float) -> float:
    """How much metal is left on a size, mm on the diameter; negative where it is cut too far; 0 inside."""
    if target.band.low_mm <= size_mm <= target.band.high_mm:
        return 0.0
    near = target.band.high_mm if size_mm > target.band.high_mm else target.band.low_mm
    return target.side * (size_mm - near)


def judged(offer: Offer, targets: Mapping[str, SizeTarget], system: UnitSystem) -> tuple[Check, ...]:
    """Whether what is offered will do, size by size; what was not said of it is named."""
    found = []
    for key, size in offer.sizes.items():
        target = targets[key]
        over, limits = over_mm(target, size), show_sizes(target.band.low_mm, target.band.high_mm, system)
        words = f"Offered {target.what} of {show_size(size, system)}"
        if over == 0:
            found.append(Check(True, f"{words}: inside {limits}, it fits as it comes."))
        elif 0 < over <= MOST_CUT_MM:
            left = show_size(over, system)
            found.append(Check(True, f"{words}: {left} is still to be cut here, unless it is hard."))
        elif over > 0:
            found.append(Check(False, f"{words}: far from {limits}; ask for another, or see the unit."))
        else:
            gone = "too large" if target.side < 0 else "too small"
            by = show_size(-over, system)
            found.append(Check(False, f"{words}: {by} {gone} for {limits}; it will not do."))
    unsaid = [t.what for key, t in targets.items() if key not in offer.sizes]
    if unsaid:
        found.append(Check(False, f"Not said of the offer: {', '.join(unsaid)}. Ask before it is paid."))
    return tuple(found)


def beside(part: Part, offer: Offer, own: Sequence[Operation]) -> Check:
    """Price and wait beside the hours of making it; what is done on the machine is done either way."""
    hours = sum(o.minutes for o in own if o.key not in on_machine(part)) / 60
    price = "no price said" if offer.price is None else show_money(offer.price)
    wait = "no wait said" if offer.wait_days is None else f"{offer.wait_days:g} days' wait"
    return Check(
        offer.price is not None and offer.wait_days is not None,
        f"Bought: {price}, {wait}. Made here: {hours:.1f} h by its route, and the stock.",
    )


def bought_route(
    part: Part, offer: Offer, own: Sequence[Operation], system: UnitSystem
) -> tuple[Operation, ...]:
    """Order it, measure what came, cut what is left on it, and what is done on the machine all the same:
    instead of a part's own route.
    """
    targets, stays = fitted(part, own), on_machine(part)
    asked = ask_for(part, targets, system)
    rows = [
        Operation(
            10,
            "bought.order",
            "Order it",
            f"Ask for: {'; '.join(asked)}.",
            "",
            "telephone, and this page",
            15,
        )
    ]
    if not targets and stays < {o.key for o in own}:
        rows.append(
            Operation(
                20,
                "bought.measure",
                "Measure what came against the drawing",
                "Before it is paid, or cut: what is outside its limits goes back whole.",
                "on the bench",
                "micrometer, and this page",
                15,
            )
        )
    _add_own(offer, own, rows, targets, stays)
    if stays:
        return tuple(rows)
    rows.append(
        Operation(
            10 * (len(rows) + 1),
            "bought.try",
            "Try it by hand where it goes",
            "The old part is kept until the new one has turned, slid and locked through all of its travel.",
            "in place",
            "by hand",
            15,
        )
    )
    return tuple(rows)


def _add_own(
    offer: Offer,
    own: Sequence[Operation],
    rows: list[Operation],
    targets: dict[str, SizeTarget],
    stays: frozenset[str],
) -> None:
    for by in own:
        if by.key in stays:
            rows.append(replace(by, number=10 * (len(rows) + 1)))
            continue
        key, target = by.key, targets.get(by.key)
        if target is None:
            continue
        size = offer.sizes.get(key)
        cuts = size is not None and 0 < over_mm(target, size) <= MOST_CUT_MM
        rows.append(
            Operation(
                10 * (len(rows) + 1),
                f"bought.{key}",
                f"Bring its {target.what} to size" if cuts else f"Measure its {target.what} as it came",
                "Indicate it true to what is not cut; a file tells first whether it is hard."
                if cuts
                else "Before it is paid, or cut: what is outside its limits goes back whole.",
                by.hold if cuts else "on the bench",
                by.tool if cuts else "micrometer or bore gauge",
                by.minutes + 15 if cuts else 3,
                (by.caution or CLOTH) if cuts else "",
                "size",
                target,
            )
        )
