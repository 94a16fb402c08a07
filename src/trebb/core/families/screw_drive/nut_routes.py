"""The route of a nut: blank, bore, thread, then what its style needs."""

from __future__ import annotations

from trebb.core.families.screw_drive.nut_hub import HUB
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Row, SizeTarget
from trebb.core.parts import Part
from trebb.core.safety import CHUCK_KEY, DRILLING, FOUNDRY, PRESS, STOP_BAR

FROM_UNDERSIDE = "Measure from the slide's underside with the screw at both ends of the travel."
FROM_HALF_NUT_SLIDE = "From the half nut slide, with the lead screw in both brackets."

CAST_BLANK: tuple[Row, ...] = (
    (
        "mould",
        "Make the mould: base, draft, core",
        "Drilled or turned from steel or iron, two degrees of draft, a base that knocks out; sooted, "
        "dried over a flame.",
        "bench",
        "lathe",
        90,
        "",
        "plain",
    ),
    (
        "melt",
        "Melt and pour",
        "Mould warm and dry; pour without a stop; leave it till it is black.",
        "sand floor",
        "crucible, tongs",
        60,
        FOUNDRY,
        "plain",
    ),
    (
        "knock",
        "Knock it out; saw riser and gate off",
        "Look for blow holes now, not at the last pass: the second casting is the spare.",
        "vice",
        "drift, saw",
        20,
        "",
        "plain",
    ),
)
FLANGED_BLANK: tuple[Row, ...] = (
    (
        "turn",
        "Turn flange and body in one setting",
        "Body to its hole as measured.",
        "three-jaw",
        "turning tools",
        45,
        CHUCK_KEY,
        "plain",
    ),
)
# Half nuts are bored as one.
PACKED: tuple[Row, ...] = (
    (
        "pack",
        "Saw it through, pack the cut, bolt it together again",
        "Packing as thick as the saw took: closed, the halves then fit round the screw. Mark one "
        "side of both.",
        "mill vice",
        "slitting saw, shim",
        35,
        "",
        "plain",
    ),
)
TEST_THREAD: Row = (
    "test",
    "Cut a test thread in a steel ring",
    "Same tool, same dial settings, before the one block.",
    "three-jaw",
    "internal threading tool",
    30,
    "",
    "plain",
)
# After the thread, by the nut's style.
AFTER_THREAD: dict[str, tuple[Row, ...]] = {
    "split": (
        (
            "slit",
            "Saw the slot, drill and tap for the adjuster",
            "Drill and tap before sawing.",
            "mill vice",
            "slitting saw",
            30,
            "",
            "plain",
        ),
    ),
    "two_piece": (
        (
            "part",
            "Part it in two; key and spring seat",
            "Marked along one line before parting: they must go back in step.",
            "mill vice",
            "slitting saw",
            45,
            "Springs under load: clamp before a screw is drawn.",
            "plain",
        ),
    ),
    "half": (
        (
            "halve",
            "Take the packing out; fit the halves to their slide",
            "Close them on the screw by the lever: full depth, no jump.",
            "bench",
            "file, scraper",
            60,
            "",
            "plain",
        ),
    ),
    "flanged": (
        (
            "holes",
            "Drill the bolt holes; knurl or press where it is held so",
            "Spot through from the casting.",
            "drill press",
            "drill",
            20,
            "",
            "plain",
        ),
    ),
}
LAST: tuple[Row, ...] = (
    (
        "oil",
        "Drill the oil hole",
        "Clear of the thread's ends; deburr inside.",
        "drill press",
        "drill",
        10,
        "",
        "plain",
    ),
    (
        "try",
        "Try it on its screw along the whole length",
        "Free from end to end, no shake that an indicator shows.",
        "bench",
        "indicator",
        15,
        "",
        "plain",
    ),
)


def nut_route(part: Part, drive: ScrewDrive, shop: Workshop) -> list[Row]:
    """Blank, bore, thread, then what its style needs."""
    style = part.construction
    return [
        *(CAST_BLANK if part.is_cast else ()),
        *(FLANGED_BLANK if style == "flanged" else _in_hub(part) if style == HUB else _block(part)),
        *(PACKED if style == "half" else ()),
        *_seat(part),
        *_thread(part, drive),
        *AFTER_THREAD.get(style, ()),
        *LAST,
    ]


def _block(part: Part) -> tuple[Row, ...]:
    return (
        (
            "block",
            "Saw and square the block, and a spare",
            part.stock_words,
            "mill vice",
            "end mill",
            40,
            "Bronze grabs: keep tools sharp with no rake.",
            "plain",
        ),
        (
            "index",
            "Mark the axis from the old nut's seat",
            FROM_HALF_NUT_SLIDE if part.construction == "half" else FROM_UNDERSIDE,
            "surface plate",
            "height gauge",
            20,
            "",
            "plain",
        ),
    )


def _in_hub(part: Part) -> tuple[Row, ...]:
    """The hub bored, the bush turned to it, pressed and kept from turning, then threaded as one."""
    return (
        (
            "hub",
            "Bore the hub true to its teeth",
            "Indicate over a pin in every few spaces, not on the old thread. Leave the wall at Parts; "
            "read the "
            "bore several ways and set it there.",
            "four-jaw chuck, soft jaws on the teeth",
            "boring bar",
            45,
            CHUCK_KEY,
            "plain",
        ),
        (
            "turn",
            "Turn the bush's outside to the hub",
            "A pilot hole only: the thread comes after pressing. A small lead at one end.",
            "three-jaw",
            "turning tool",
            30,
            CHUCK_KEY,
            "size",
            SizeTarget("bush's outside", part.band("outside"), 1),
        ),
        (
            "press",
            "Press it in; keep it from turning",
            "Square, oiled, on a plate under the hub, never on the teeth. Then bond or pin across the joint: "
            "bonded first, drilled after.",
            "press, packing under the hub",
            "press",
            20,
            PRESS,
            "plain",
        ),
        (
            "index",
            "Chuck the gear again, true to its teeth",
            "Over the same pins: the thread's axis is the teeth's.",
            "four-jaw chuck, soft jaws on the teeth",
            "indicator",
            20,
            "",
            "plain",
        ),
    )


def _seat(part: Part) -> list[Row]:
    """What finds and holds its seat, before the bore is placed from it."""
    kinds = {f.kind for f in part.features}
    rows: list[Row] = []
    if "spigot" in kinds:
        rows.append(
            (
                "spigot",
                "Turn the spigot square to the base",
                "Base faced in the same setting: the bore's height is measured from it.",
                "four-jaw chuck",
                "turning tool",
                30,
                CHUCK_KEY,
                "size",
                SizeTarget("spigot", part.band("spigot"), 1),
            )
        )
    if "bolt" in kinds:
        rows.append(
            (
                "bolts",
                "Spot, drill and tap the base",
                "Spotted through the slide's own holes with the nut on its seat; stop at the depth at Parts.",
                "drill press vice",
                "drill and tap",
                20,
                DRILLING,
                "plain",
            )
        )
    return rows


def _thread(part: Part, drive: ScrewDrive) -> tuple[Row, ...]:
    assert part.bore is not None
    minor = part.bore.size
    assert minor is not None
    return (
        (
            "bore",
            "Bore to the minor diameter",
            "Indicate the marked axis in the four-jaw. Bore, do not drill to size.",
            "four-jaw chuck",
            "boring bar",
            35,
            "",
            "size",
            SizeTarget("minor bore", minor, -1),
        ),
        TEST_THREAD,
        (
            "nut_thread",
            "Cut the nut's thread to its screw",
            "Infeed until the new screw enters with oil and turns free without shake. Left snug by tapping "
            "from both ends is the other school.",
            "four-jaw chuck",
            "internal threading tool, shank as thick as enters",
            60 * drive.thread.starts,
            STOP_BAR,
            "nut_thread",
        ),
    )
