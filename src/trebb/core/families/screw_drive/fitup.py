"""A slide put on its screw again, a lead screw with its half nuts, step by step."""

from __future__ import annotations

from trebb.core.fitup.order import FitStep
from trebb.core.safety import APRON, BLOCKS_LAST, SOLVENT

_CLEAN = FitStep(
    "clean",
    "Clean screw, nut, bore and oil ways; twice",
    (),
    "Swarf in a new nut laps it out in a week.",
    "Blow the oil way through both ends.",
    SOLVENT,
    20,
)


_COMMON = (
    FitStep(
        "marks",
        "Find the marks made at strip-down",
        (),
        "Gib, bracket and nut go in two ways round.",
        "Photographs at Intake.",
        minutes=5,
    ),
    FitStep(
        "slide_on",
        "Slide on its ways, gib in from its thick end",
        ("marks", "clean"),
        "The nut is bolted up through the slide.",
        "Keep paint off seats and ways.",
        "A slide is heavier than it looks: lift square, fingers clear of the dovetail.",
        15,
    ),
    FitStep(
        "gib",
        "Gib set: fully home, then eased until the slide moves with a light drag",
        ("slide_on",),
        "A loose gib lets the nut rock and reads as lash.",
        "Gib fully home before the screw at its thin end is touched.",
        minutes=15,
    ),
    FitStep(
        "nut_in",
        "Nut under the slide, bolts finger tight",
        ("slide_on", "clean"),
        "It must find its own line on the screw before it is tightened.",
        "Oil hole of the nut in line with the slide's. An oiler that reaches into the thread cuts a groove.",
        minutes=10,
    ),
    FitStep(
        "screw_in",
        "Screw through the bearing into the nut",
        ("nut_in", "bracket"),
        "The bracket carries the screw in line.",
        "A left-hand screw goes in the other way round.",
        minutes=10,
    ),
    FitStep(
        "bracket",
        "Bearing bracket on its dowels",
        ("clean", "marks"),
        "Dowels set the screw's line; bolts alone do not.",
        "Hidden fastener behind the apron flange.",
        minutes=10,
    ),
    FitStep(
        "key",
        "Key fitted in the dial end, tight in the shaft, sliding in the wheel",
        ("screw_in",),
        "A loose key is lash that no nut can cure.",
        "Index the wheel's mark to the dial's before pinning anything.",
        minutes=20,
    ),
    FitStep(
        "dial",
        "Dial and handwheel on, friction spring in its groove",
        ("key", "thrust_set"),
        "The thrust nut sits behind the dial.",
        "Dial the right way round: numbers rise as the tool goes in.",
        minutes=15,
    ),
    FitStep(
        "align",
        "Slide to the handwheel end, then tighten the nut's bolts",
        ("screw_in", "gib", "thrust_set"),
        "Tightened elsewhere, the nut is pulled off the screw's line and binds at this end.",
        "Run the full travel by hand before and after tightening.",
        minutes=15,
    ),
    FitStep(
        "oil",
        "Oil the screw, nut, bearing and ways",
        ("align",),
        "The first dry turn scores a new nut.",
        "The oil cap everybody forgets.",
        minutes=5,
    ),
    FitStep(
        "covers",
        "Chip guard and covers",
        ("dial", "oil"),
        "The guard hides the nut's bolts.",
        "It must come off again for a check in a month.",
        minutes=10,
    ),
    FitStep("prove", "Ready to prove: travel free from end to end", ("covers",), "", minutes=5),
)


_PLAIN_THRUST = FitStep(
    "thrust_set",
    "Collar and faces in, end float set with the old shim",
    ("screw_in",),
    "End float set after the dial cannot be reached.",
    "Collar on backwards has no oil groove.",
    minutes=15,
)


_ADJUSTABLE = FitStep(
    "thrust_set",
    "Thrust washers in, nut run up until play goes, eased, locked",
    ("screw_in",),
    "The adjusting nut sits behind the dial.",
    "Tighten until play goes, then check that it still turns free.",
    minutes=25,
)


_SPLIT = FitStep(
    "split_set",
    "Split nut closed at the least worn place until it drags, then eased and locked",
    ("align",),
    "Closed before the bolts are tight it sets itself crooked.",
    "Try the whole travel: it must not bind at the ends.",
    minutes=20,
)


_LEAD = (
    FitStep(
        "marks",
        "Find the marks made at strip-down",
        (),
        "Brackets, taper pins and change gears go back as they came.",
        "Photographs at Intake.",
        minutes=5,
    ),
    FitStep(
        "halves_in",
        "Half nuts in their slide, gib snug, lever's cam oiled",
        ("marks", "clean"),
        "They go in before the apron closes the way.",
        "Upper and lower half are a pair: same marks up.",
        minutes=25,
    ),
    FitStep(
        "apron",
        "Apron up, its bolts finger tight",
        ("halves_in",),
        "It must find the screw's line before it is tightened.",
        "Hidden bolt from above through the saddle.",
        f"{APRON} Its handle swings.",
        25,
    ),
    FitStep(
        "screw_in",
        "Screw through apron and bearings, tailstock bracket last",
        ("apron", "bracket"),
        "It goes in from the tailstock's end.",
        "Oil cap on the bracket.",
        minutes=20,
    ),
    FitStep(
        "bracket",
        "Gearbox end: shear pin or coupling fitted",
        ("marks", "clean"),
        "The pin is the fuse: never a stronger one.",
        "The taper pin's large end up.",
        minutes=15,
    ),
    FitStep(
        "align",
        "Half nuts closed near each bracket in turn, bolts then tightened",
        ("screw_in", "thrust_set"),
        "Tightened with the carriage in the middle, the screw is bent at both ends.",
        "Close and open: no jump of the screw.",
        minutes=25,
    ),
    FitStep(
        "stop",
        "Half nut stop set: full depth, not hard on the screw",
        ("align",),
        "Hard on the screw they wear in a month; short of depth they strip.",
        minutes=10,
    ),
    FitStep(
        "dial_gear",
        "Thread dial meshed, indexed to a line",
        ("align",),
        "A line must stand at the mark where a thread is picked up.",
        "A keyway in the screw lets its gear drop in: a sleeve bridges it.",
        minutes=15,
    ),
    FitStep("oil", "Oil screw, halves and bearings", ("stop",), "The first dry turn scores them.", minutes=5),
    FitStep(
        "covers",
        "Gear cover on",
        ("oil", "dial_gear"),
        "Fingers and change gears.",
        "",
        "Never run the train open.",
        10,
    ),
    FitStep(
        "prove", "Ready to prove: carriage free from end to end, halves open", ("covers",), "", minutes=5
    ),
)


_LIFT = (
    FitStep(
        "block",
        "Table blocked from below on timber",
        (),
        "Nothing but the screw holds it up.",
        "",
        BLOCKS_LAST,
        10,
    ),
    FitStep(
        "marks",
        "Find the marks made at strip-down",
        (),
        "The bevel gears run in as a pair; the nut has a lower side.",
        "Photographs at Intake.",
        minutes=5,
    ),
    FitStep(
        "nut_in",
        "Nut in the bracket, bolts finger tight",
        ("clean", "block"),
        "It must find its own line on the screw before it is tightened.",
        "Oil hole up.",
        minutes=10,
    ),
    FitStep(
        "screw_in",
        "Screw up through nut and thrust washer",
        ("nut_in", "marks"),
        "The washer goes on before the gear.",
        "Grease on the washer's both faces.",
        minutes=15,
    ),
    FitStep(
        "gear",
        "Bevel gears meshed, crank on",
        ("screw_in",),
        "Too deep they bind where they are high: turn once round.",
        "Taper pin's large end up; index before pinning.",
        minutes=20,
    ),
    FitStep(
        "align",
        "Table at its lowest, then tighten the nut's bolts",
        ("gear",),
        "Tightened high up, the nut is pulled off the screw's line and binds at the bottom.",
        "Whole travel by hand before and after.",
        minutes=15,
    ),
    FitStep(
        "oil", "Grease screw, nut and gears", ("align",), "The first dry turn scores a new nut.", minutes=5
    ),
    FitStep(
        "prove",
        "Ready to prove: blocks out, table up and down freely",
        ("oil",),
        "",
        "Column clamp eased.",
        minutes=5,
    ),
)


_SPLIT_LIFT = FitStep(
    "split_set",
    "Split nut closed at the least worn place until it drags, then eased and locked",
    ("align",),
    "Closed before the bolts are tight it sets itself crooked.",
    "Try the whole travel: it must not bind at the ends.",
    minutes=20,
)


def screw_steps(remedy: str, subject: object = None) -> tuple[FitStep, ...]:
    """Steps for a feed screw and a chosen remedy, in the order they are listed, not yet sorted."""
    thrust = _ADJUSTABLE if remedy in ("thrust", "pair_thrust") else _PLAIN_THRUST
    if getattr(subject, "half_nuts", False):
        steps = [_CLEAN, *_LEAD, thrust]
        if remedy == "leave":
            steps = [_CLEAN, FitStep("prove", "Ready to prove", ("clean",), "", minutes=5)]
        return tuple(steps)
    if getattr(subject, "is_upright", False) and not getattr(subject, "has_dial", True):
        return (_CLEAN, *_LIFT, _SPLIT_LIFT) if remedy == "split_nut" else (_CLEAN, *_LIFT)
    steps = list(_slide_steps(remedy))
    if getattr(subject, "is_upright", False):
        block = FitStep(
            "block",
            "Weight blocked from below",
            (),
            "Nothing but the screw holds it up.",
            "",
            BLOCKS_LAST,
            10,
        )
        steps = [
            block,
            *[
                FitStep(s.key, s.title, (*s.after, "block"), s.why, s.remind, s.caution, s.minutes)
                if s.key == "nut_in"
                else s
                for s in steps
            ],
        ]
    return tuple(steps)


def _slide_steps(remedy: str) -> tuple[FitStep, ...]:
    steps = [_CLEAN, *_COMMON, _ADJUSTABLE if remedy in ("thrust", "pair_thrust") else _PLAIN_THRUST]
    if remedy == "split_nut":
        steps = [
            FitStep(s.key, s.title, (*s.after, "split_set"), s.why, s.remind, s.caution, s.minutes)
            if s.key == "oil"
            else s
            for s in steps
        ]
        steps.append(_SPLIT)
    return tuple(steps)
