"""Putting a machine back in line: feet, ways, headstock, tailstock, gibs and heads, each as a partial
order.
"""

from __future__ import annotations

from trebb.core.families.bed.subject import Bed
from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import WIPED, ready
from trebb.core.safety import ADHESIVE, LEVER, SCRAPERS, UNDER_POWER


def _settle(*after: str) -> FitStep:
    return FitStep(
        "settle",
        "Left to stand over night, read again",
        after,
        "A bed creeps into a new pack for hours; in a week and a month read it once more.",
        "Write the date of the next reading on the card.",
        minutes=15,
    )


def _feet(*after: str) -> tuple[FitStep, ...]:
    return (
        FitStep(
            "slack",
            "One bolt slackened at a time, that foot levered up",
            after,
            "Two slack bolts at one end rock the machine.",
            "",
            LEVER,
            10,
        ),
        FitStep(
            "pack",
            "Pack in: largest leaf below, as large as the foot",
            ("slack",),
            "A small leaf tips the foot and crushes.",
            "Fewest leaves; no oil between them.",
            minutes=10,
        ),
        FitStep(
            "tight",
            "Bolts drawn down in turns, as tight as before",
            ("pack",),
            "The bed answers to the bolts as to the shims: the same torque each time.",
            minutes=10,
        ),
        FitStep(
            "foot_check",
            "Each foot tried again with its bolt slackened",
            ("tight",),
            "A foot that still springs up stands on its bolt.",
            minutes=10,
        ),
    )


def stand_steps(remedy: str, bed: Bed | None) -> tuple[FitStep, ...]:
    """Feet packed, stand braced."""
    if remedy == "leave":
        return (WIPED, ready("clean"))
    steps = [WIPED, *_feet("clean")]
    if remedy == "brace":
        steps.append(
            FitStep(
                "brace",
                "Anchors set, plate across the back bolted up dry, then drawn down",
                ("foot_check",),
                "Bolted last, or it holds the twist in.",
                "",
                "Drilling concrete: eyes, ears, dust; look for pipes.",
                180,
            )
        )
    return (*steps, ready(steps[-1].key))


def ways_steps(remedy: str, bed: Bed | None) -> tuple[FitStep, ...]:
    """Levelled by the feet; scraped first where it is chosen."""
    if remedy == "leave":
        return (WIPED, ready("clean"))
    if remedy == "level":
        return (
            WIPED,
            *_feet("clean"),
            FitStep(
                "level",
                "Level across read at both ends, turned once",
                ("foot_check",),
                "A level that was not turned carries its own zero.",
                minutes=20,
            ),
            _settle("level"),
            ready("settle"),
        )
    return (
        WIPED,
        *_ways_scraped(),
        FitStep(
            "liner",
            "Saddle lined, back to its height",
            ("front",),
            "Rack, lead screw and rod are where they were.",
            "Liner's thickness at Parts.",
            ADHESIVE,
            360,
        ),
        FitStep(
            "oil",
            "Oil ways cut in the lining, wipers renewed",
            ("liner",),
            "A lining without oil sticks and slips.",
            minutes=60,
        ),
        FitStep("level", "Levelled again by its feet", ("tail_ways", "oil"), "Weight has moved.", minutes=60),
        _settle("level"),
        ready("settle"),
    )


def _ways_scraped() -> tuple[FitStep, ...]:
    return (
        FitStep(
            "level_first",
            "Bed levelled as it stands before a scraper touches it",
            ("clean",),
            "Scraped twisted, it is true only twisted.",
            minutes=60,
        ),
        FitStep(
            "rear",
            "The less worn way scraped first, to the plane of its unworn ends",
            ("level_first",),
            "The plan's least metal starts from the least worn way.",
            "Map at Parts: passes by station.",
            SCRAPERS,
            900,
        ),
        FitStep(
            "front",
            "The worn way to it: level across must read alike at every station",
            ("rear",),
            "A way true by itself can still be wound against the other.",
            "Blue, scrape, level; in that order.",
            SCRAPERS,
            1200,
        ),
        FitStep(
            "tail_ways",
            "Tailstock's ways brought to the same height at their end",
            ("front",),
            "The tailstock stands too high by what was taken.",
            minutes=240,
        ),
    )


def headstock_steps(remedy: str, bed: Bed | None) -> tuple[FitStep, ...]:
    """Shims by trial cuts, or the headstock set over."""
    if remedy == "leave":
        return (WIPED, ready("clean"))
    steps: list[FitStep] = [WIPED]
    if remedy in ("shim", "level_over"):
        steps += _feet("clean")
    if remedy == "level_over":
        steps.append(
            FitStep(
                "level",
                "Level across read at both ends, turned once",
                ("foot_check",),
                "The headstock comes after the bed, never before.",
                minutes=20,
            )
        )
    if remedy in ("set_over", "level_over"):
        before = steps[-1].key
        steps += [
            FitStep(
                "free",
                "Headstock's bolts eased, dowels found and drawn",
                (before,),
                "A dowel left in bends the casting back.",
                "Belt off.",
                "A headstock is heavy: it stays on its ways, bolts never out.",
                30,
            ),
            FitStep(
                "over",
                "Swung by its jacking screws, indicator at the lever's end",
                ("free",),
                "Guesses cost a cut each.",
                "How far is said at Findings.",
                minutes=20,
            ),
            FitStep(
                "down",
                "Bolts drawn down crosswise, indicator watched",
                ("over",),
                "Drawing down moves it: set it off by that.",
                minutes=15,
            ),
        ]
    last = steps[-1].key
    steps.append(
        FitStep(
            "cut",
            "Two lands cut and measured again",
            (last,),
            "Only the cut says what the tool and the work do together.",
            "",
            UNDER_POWER,
            30,
        )
    )
    return (*steps, _settle("cut"), ready("settle"))


_TAIL_KEY: tuple[FitStep, ...] = (
    FitStep(
        "strip",
        "Tailstock off the bed, key and slot cleaned and measured at both ends",
        ("clean",),
        "A slot wears where it is used most.",
        "",
        "Stop block off last; two hands, or a hoist.",
        30,
        takes_apart=True,
    ),
    FitStep(
        "strip_glued",
        "Strip each side of the key, or the new key, fixed at one end",
        ("strip",),
        "Both sides alike, or it stands askew.",
        minutes=40,
    ),
    FitStep(
        "try_key",
        "Slid along the whole bed: free everywhere, no shake",
        ("strip_glued",),
        "Tight at the unworn end it will never be used there again.",
        minutes=15,
    ),
)


def tailstock_steps(remedy: str, bed: Bed | None) -> tuple[FitStep, ...]:
    """Key, height and across, in this order."""
    steps: list[FitStep] = [WIPED, *(_TAIL_KEY if remedy in ("key", "all") else ())]
    if remedy in ("raise", "all"):
        before = "try_key" if remedy == "all" else "clean"
        steps += [
            FitStep(
                "shim_base",
                "Shim under the whole base, as large as it, corners square",
                (before,),
                "A shim short of the corners rocks.",
                "Thickness at Parts.",
                minutes=40,
            ),
        ]
    if remedy != "leave":
        steps += [
            FitStep(
                "across",
                "Set across with a bar between centres, tightened each time",
                (steps[-1].key,),
                "Loose it tells where it does not cut.",
                "Aim off by its habit, if it has one.",
                minutes=30,
            ),
            FitStep(
                "again",
                "Slackened and tightened four times, read each",
                ("across",),
                "Once right is luck.",
                minutes=15,
            ),
        ]
    return (*steps, ready(steps[-1].key))
