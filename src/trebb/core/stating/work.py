"""What is stated of a piece of work: kind, sizes, what its figures may be off by, what they came out as."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct

from trebb.core.facts import Choice, Fact, Length, Number, Small, Words
from trebb.core.metals import MATERIALS
from trebb.core.stating.card import Money

MOST_MM, MOST_MADE_MM = 2.0, 5.0


class Figure(Struct, frozen=True):
    """A figure of the work: what it is called, and what it is by. `by_hand` : how what is known of it is
    offset at each piece, and `by_hand_mm` what that itself leaves (sd, practice); nothing where it cannot be.
    """

    label: str
    about: str
    by_hand: str = ""
    by_hand_mm: float = 0.0


FIGURES: Mapping[str, Figure] = {
    "dia": Figure(
        "Diameter along it",
        "largest less smallest diameter from end to end",
        "the dial, at each place by what it comes out there",
        0.002,
    ),
    "taper": Figure(
        "Taper",
        "diameter at the far end less that at the near one; + is larger away",
        "the top slide, or the tailstock set over for this piece",
        0.004,
    ),
    "round": Figure("Round", "highest less lowest of its outline, by what the spindle does in a turn"),
    "seat": Figure(
        "Held anew",
        "runout of what was turned before, once it is held in the chuck anew",
        "four jaws, trued by indicator",
        0.006,
    ),
    "face": Figure("Face flat", "how hollow a face comes out; less than nothing is crowned"),
    "lead": Figure("Lead over its length", "how much longer a thread comes out than it should"),
    "place": Figure(
        "Spacing by the dial",
        "how much further apart two places come out, come at one way",
        "the dial, by what the screw is long or short over the way",
        0.006,
    ),
    "back": Figure(
        "Dial turned back",
        "how far off a place comes that is come at from the other side: the lash, on diameter twice",
        "come at each place one way, past it and back",
        0.003,
    ),
    "parallel": Figure(
        "Level across the cut",
        "one side of a milled face higher than the other",
        "a shim below one side",
        0.005,
    ),
    "hollow": Figure("Hollow in a pass", "how hollow one pass of the cutter is"),
    "side": Figure(
        "Side square", "a side wall out of square over its height", "a shim below one side", 0.005
    ),
    "hole": Figure("Hole square", "a hole's lean over its depth", "shims below two sides", 0.005),
}


class Kind(Struct, frozen=True):
    """A kind of work: its figures, the first judged first, and what its sizes mean; `machines` that do it."""

    label: str
    figures: tuple[str, ...]
    machines: tuple[str, ...]
    dia: str
    length: str
    high: str = ""


KINDS: Mapping[str, Kind] = {
    "chuck": Kind(
        "Turned in the chuck",
        ("dia", "taper", "round", "face", "seat", "back"),
        ("lathe",),
        "Diameter",
        "Length",
    ),
    "centres": Kind("Turned between centres", ("dia", "taper", "back"), ("lathe",), "Diameter", "Length"),
    "thread": Kind("Thread", ("lead",), ("lathe",), "Diameter", "Length"),
    "milled": Kind(
        "Milled flat",
        ("parallel", "hollow", "side"),
        ("mill",),
        "Cutter",
        "Width of the cut",
        "Height of the side",
    ),
    "bored": Kind("Bored on the mill", ("hole",), ("mill",), "Diameter", "Depth"),
    "spaced": Kind("Spaced along the table", ("place", "back"), ("mill",), "Diameter", "Spacing"),
    "drilled": Kind("Drilled", ("hole",), ("mill", "drill"), "Diameter", "Depth"),
}


MEANS = "means"  # what the matter of money and hours is `of`
OFFSET, SELL = "offset", "sell"  # ways that mend nothing
METHODS: Mapping[str, str] = {
    "": "mended",
    OFFSET: "left, what is known of it offset by hand",
    SELL: "sold, and another found that makes it",
}
WORK_FACTS: tuple[Fact, ...] = (
    Words("title", "Called", "What the piece is called", (), most=60),
    Choice(
        "kind",
        "Kind",
        "How it is made",
        (),
        choices={"": "not said", **{key: kind.label.lower() for key, kind in KINDS.items()}},
    ),
    Length("dia_mm", "Diameter", "Of the piece; of milled work the cutter's", (), high=2000.0),
    Length("length_mm", "Length", "Of the piece; of a hole its depth, of a cut its width", (), high=5000.0),
    Length("high_mm", "Side high", "Of milled work the side wall's height", (), high=500.0),
    Choice(
        "material",
        "Metal",
        "What it is turned of",
        (),
        choices={"": "not said", **{key: m.label for key, m in MATERIALS.items()}},
    ),
    Length("depth_mm", "Last cut, deep", "Depth of the last cut, on the radius", (), high=10.0),
    Length("feed_mm", "Last cut, feed", "Its feed in one turn", (), high=3.0),
    *(Small(f"tol_{key}", f.label, f.about.capitalize(), (), high=MOST_MM) for key, f in FIGURES.items()),
    *(
        Small(
            f"made_{key}",
            f"{f.label}, as made",
            f"Of the piece as made: {f.about}",
            (),
            low=-MOST_MADE_MM,
            high=MOST_MADE_MM,
        )
        for key, f in FIGURES.items()
    ),
    Money("money", "Money there is", "What may be spent on it, of the means", (), high=1e8),
    Money("brings", "It would bring", "What it would be sold for as it stands, of the means", (), high=1e8),
    Money("another", "Another costs", "What one costs that makes the work, of the means", (), high=1e8),
    Choice("method", "How", "How the machine is brought to make it, of the means", (), choices=METHODS),
    Number(
        "hours", "Hours there are", "Bench hours there are for it, of the means", (), high=1000.0, unit=" h"
    ),
)
