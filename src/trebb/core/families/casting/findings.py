"""A cracked casting: how long, how open, what it did to bore and seat, and what may be done to it."""

from __future__ import annotations

from collections.abc import Mapping

from trebb.core.belief.sound import Kind
from trebb.core.condition import Quantity
from trebb.core.condition.draws import quantity, signed_size, vector_size
from trebb.core.families.casting.reading import LENGTH_SD_MM, bracket
from trebb.core.families.casting.subject import CORNERS, EARLIER, HOLDS, METALS, Casting, casting_model
from trebb.core.figure import Figure, Item, Label, Role
from trebb.core.findings.base import Finding, Measure
from trebb.core.findings.judging import Drawn, Judged, Judging, Known
from trebb.core.machine import State
from trebb.core.units import show_size

BORE_DOUBT_MM = 0.02


def crack(casting: Casting, drawn: Drawn) -> Quantity:
    """Its length; one shorter than a reading of it scatters is none."""
    q = quantity(drawn["crack"])
    return Quantity(0.0, q.sd, 0.0, q.high) if q.value < LENGTH_SD_MM else q


def oval(casting: Casting, drawn: Drawn) -> Quantity:
    """Largest less smallest diameter of the bore."""
    if not casting.bore_mm:
        return Quantity(0.0, 0.0, 0.0, 0.0)
    return vector_size(drawn["oval.x"] + 1j * drawn["oval.y"], 2.0)


def faults(casting: Casting) -> tuple[Kind, ...]:
    """A bore out of round, and a face off its plane: a common level and tilts are none."""
    tilts = ((1.0,) * 4, (1.0, 1.0, -1.0, -1.0), (1.0, -1.0, -1.0, 1.0))
    return Kind(("oval.x", "oval.y")), Kind(tuple(CORNERS), tilts)


def warp(casting: Casting, drawn: Drawn) -> Quantity:
    """How far the fourth corner is off the plane of the other three."""
    a, b, c, d = (drawn[corner] for corner in CORNERS)
    return signed_size(a - b + c - d)


def _crack_words(known: Known[Casting], m: Measure, size: str) -> tuple[str, str, str]:
    casting = known.subject
    ends = (
        "Drill a stop at either end before anything is heated."
        if casting.ends_found
        else "Find both ends first, and mark them: a crack is longer than it shows."
    )
    return f"A crack of {show_size(m.value.value, known.system)} draws.", "chalk or penetrant", ends


def _bore_words(known: Known[Casting], m: Measure, size: str) -> tuple[str, str, str]:
    return (
        f"The bore beside it is out of round by {size}.",
        "bore gauge in four directions",
        "Bored and bushed after the repair, not before: heat moves it again.",
    )


def _face_words(known: Known[Casting], m: Measure, size: str) -> tuple[str, str, str]:
    return (
        f"Its seat is warped: the fourth corner lies {size} off the plane of the others.",
        "four corners on a plate",
        "Bolted down it bends the bore out of line: scrape or mill the seat after the repair.",
    )


MEASURES: dict[str, Judged[Casting]] = {
    "crack": Judged(
        "Crack that draws", "crack", crack, lambda c: ({"crack": 1.0},), _crack_words, weight=0.1
    ),
    "bore": Judged(
        "Bore out of round",
        "bore_oval",
        oval,
        lambda c: ({"oval.x": 1.0}, {"oval.y": 1.0}),
        _bore_words,
        applies=lambda c: c.bore_mm > 0,
    ),
    "face": Judged(
        "Warp of its seat", "cast_face", warp, lambda c: tuple({k: 1.0} for k in CORNERS), _face_words
    ),
}


def also(known: Known[Casting], measures: Mapping[str, Measure]) -> list[Finding]:
    """What may not be done to it, and why."""
    casting, found = known.subject, list[Finding]()
    if not known.read("crack") and not casting.is_through:
        return []
    _add_seen(casting, found)
    if casting.is_oily:
        found.append(
            Finding(
                "oily",
                State.NEAR,
                "It is soaked with oil.",
                "as stated",
                "Boiled out in washing soda, then warmed until it smokes no more, outdoors: braze and "
                "weld do not "
                "take on oil.",
                0.1,
            )
        )
    if casting.metal == "zinc":
        found.append(
            Finding(
                "zinc",
                State.NEAR,
                "It is zinc: it neither brazes nor welds as iron does.",
                METALS["zinc"],
                "A plate, a glue for its shape, or a new piece.",
                0.2,
            )
        )
    return found


def _add_seen(casting: Casting, found: list[Finding]) -> None:
    if casting.earlier != "none":
        found.append(
            Finding(
                "earlier",
                State.NEAR,
                f"It was {EARLIER[casting.earlier]} there before.",
                "looked at",
                "It cracks again beside a weld: the old metal is hard and shrunk there. Cut the old "
                "repair out, or "
                "cross it with a plate; do not drill into it unseen.",
                0.3,
            )
        )
    if casting.is_closed:
        found.append(
            Finding(
                "closed",
                State.BEYOND,
                "There is a closed hollow in it.",
                "as stated",
                "It bursts in the fire: drill a vent first, or do it cold.",
                3.0,
            )
        )
    if casting.holds == "lifts":
        found.append(
            Finding(
                "lifts",
                State.BEYOND,
                "Something can fall when it breaks again.",
                HOLDS["lifts"],
                "Not a repair for this bench: a new piece, or a licensed welder's with a test.",
                4.0,
            )
        )


def preheat_c(casting: Casting) -> tuple[int, int]:
    """From which temperature to which it is warmed for brazing, °C: grey iron by its section, 200 at 6
    mm to 450 over 25 mm (shop practice of brazing handbooks), the others less.
    """
    if casting.metal != "iron":
        return (150, 250)
    share = min(1.0, max(0.0, (casting.section_mm - 6) / 19))
    low = 200 + 150 * share
    return int(round(low, -1)), int(round(low + 100, -1))


def cooling_hours(casting: Casting) -> float:
    """How long it stays buried in dry sand or lime: an hour for each 3 mm of section, four at least."""
    return max(4.0, casting.section_mm / 3)


def stitches(length_mm: float, screw_mm: float, *, through: bool = False) -> int:
    """Screws that overlap along a crack, each a third into its neighbour, one past either end."""
    if length_mm <= 0:
        return 0
    extra = 0 if through else 2
    return max(2, -int(-length_mm // (2 * screw_mm / 3))) + extra


def picture(known: Known[Casting]) -> Figure:
    """The casting with what was read of it."""
    read, system = known.read("crack"), known.system
    items = bracket()
    lines = []
    if "length" in read:
        lines.append(
            f"crack {show_size(read['length'], system)}, opens {show_size(read.get('open', 0.0), system)}"
        )
    else:
        lines.append("crack not read")
    sizes_ = list(known.read("casting_bore").values())
    if known.subject.bore_mm:
        lines.append(
            f"bore {show_size(min(sizes_), system, unit=False)} to {show_size(max(sizes_), system)}"
            if sizes_
            else "bore not read"
        )
    lines.append("ends marked" if known.subject.ends_found else "ends not found yet")
    more: list[Item] = [Label((340, 50 + 24 * i), words, Role.INK, "left") for i, words in enumerate(lines)]
    return Figure(640, 164, (*items, *more))


def sizes(known: Known[Casting]) -> dict[str, float]:
    """The bore's mean and its smallest, and the crack's length. In mm."""
    found = {}
    for key, doubt in (("bore", BORE_DOUBT_MM), ("crack", 5.0)):
        value = known.source(key, doubt) if key != "bore" or known.subject.bore_mm else None
        if value is not None:
            found[key] = value
    read = known.read("casting_bore")
    if read:
        found["least"] = min(read.values())
    return found


JUDGING = Judging(
    decides="crack",
    model=casting_model,
    measures=MEASURES,
    questions=lambda c: {
        "crack": ("the crack's length", {"crack": 1.0}),
        **({"bore": ("the bore", {"oval.x": 1.0})} if c.bore_mm else {}),
        "face": ("the seat", {CORNERS[3]: 1.0}),
    },
    describe=lambda c: f"{METALS[c.metal]}, section {c.section_mm:g} mm, holds {HOLDS[c.holds]}",
    also=also,
    faults=faults,
    sizes=sizes,
    cures={"lifts": ("new",), "closed": ("stitch", "plate", "new")},
    picture=picture,
    default_parts=("bore_mandrel",),
    optional_parts=("strap", "stitch_screw"),
)
