"""Assembly of a spindle as a partial order."""

from __future__ import annotations

from msgspec.structs import replace

from trebb.core.families.spindle.lubrication import Lubrication, lubrication
from trebb.core.families.spindle.subject import Spindle
from trebb.core.fitup.order import FitStep
from trebb.core.safety import (
    HOT_BEARINGS,
    LOCK_OUT_CHUCK,
    LOCK_OUT_TAPER,
    SLING,
    SOLVENT,
    SPRING,
    UNDER_POWER,
)

_MARKS = FitStep(
    "marks",
    "Marks found: which way round, and at which angle",
    (),
    "Bearings, spacers and the chuck go back as they ran in; 180° out is another machine.",
    "Index marks are listed at Findings.",
    minutes=5,
)
_CLEAN = FitStep(
    "clean",
    "Housing, spindle and spacers washed twice, dried, oil ways blown through",
    (),
    "One chip under a ring leans the spindle for good.",
    "Keep paint off seats and faces.",
    SOLVENT,
    30,
)
_TRY = FitStep(
    "try_cold",
    "Each bearing tried cold on its journal and in its housing",
    ("clean",),
    "One that slides on cold will creep: stop here, not after the press.",
    "It should start and stop on the journal; the housing should take it by hand.",
    minutes=10,
)
_TURNS = FitStep(
    "turns",
    "Turned by hand: free, without a catch",
    ("preload",),
    "A preload that is felt as drag will be heat.",
    "Turn both ways, ten turns.",
    minutes=5,
)
_WARM = FitStep(
    "warm",
    "Run slow, then at middle speed, until it settles",
    ("covers", "turns"),
    "New grease and new bearings warm up once: let them.",
    "Warm run at Prove shows where it settles.",
    UNDER_POWER,
    60,
    "runs",
)
_COVERS = FitStep(
    "covers",
    "Covers, belt, guard",
    ("turns",),
    "The belt goes under the pulley before the cover.",
    "A cover on too soon comes off again.",
    minutes=15,
)
_READY = FitStep("prove", "Ready to prove: same angles, same set-ups", ("warm",), "", minutes=5)


def spindle_steps(remedy: str, spindle: Spindle | None) -> tuple[FitStep, ...]:
    """Steps for a chosen remedy, not yet sorted."""
    s = spindle or Spindle()
    if remedy in ("leave", "clean", "ream"):
        return _at_the_taper(remedy)
    if remedy in ("clock", "jaws", "backplate"):
        return _at_the_chuck(remedy)
    if remedy == "preload":
        preload = replace(_preload(), after=("marks",))
        return (_MARKS, preload, _TURNS, _COVERS, _WARM, _READY)
    if remedy == "coupler":
        return _at_the_coupler()
    if remedy == "cartridge":
        return _cartridge(s)
    return _strip_down(s, remedy)


def _preload() -> FitStep:
    return FitStep(
        "preload",
        "Nut run up until the play just goes, then what the spacers ask, locked",
        ("bearings_in",),
        "Too little rattles, too much burns.",
        "Push test at the nose: the step goes, the slope stays.",
        minutes=25,
    )


def _strip_down(s: Spindle, remedy: str) -> tuple[FitStep, ...]:
    oil = lubrication(s.front_bore_mm, s.front_outside_mm, s.bearing_width_mm, s.speed_rpm)
    steps = [
        _MARKS,
        _CLEAN,
        _TRY,
        *_bearings_back(oil),
        _preload(),
        _TURNS,
        _COVERS,
        _WARM,
        _READY,
    ]
    if remedy in ("coupler", "overhaul"):
        steps.insert(
            -3,
            FitStep(
                "coupler_on",
                "Coupler sleeve tried both ways, then pinned",
                ("turns",),
                "Pinned untried, it has to be drilled out.",
                "Index before pinning.",
                minutes=20,
            ),
        )
    if remedy == "grind":
        steps.insert(
            -1,
            FitStep(
                "tool_length",
                "The one tool's length measured again",
                ("warm",),
                "Every stored length shifts by the difference.",
                "Prove shifts the tool table.",
                minutes=10,
            ),
        )
    if s.has_quill:
        steps.insert(
            5,
            FitStep(
                "quill",
                "Quill wiped, oiled, run through its stroke by hand",
                ("clean",),
                "A burr on the quill jams half way.",
                "Rack pinion back on its marked tooth, or the scale lies.",
                SPRING,
                15,
            ),
        )
    return tuple(steps)


def _bearings_back(oil: Lubrication) -> list[FitStep]:
    return [
        FitStep(
            "lubricate",
            "Bearings greased once they are cold, or the oil feed and drain opened",
            ("bearings_on",),
            f"{oil.words()} Greased before it is warmed, it is cooked."
            if oil.words().endswith(".")
            else oil.words(),
            "Not both: oil washes grease out.",
            minutes=15,
        ),
        FitStep(
            "seals",
            "Oil throwers, seals and spacers on the spindle first",
            ("clean",),
            "They only go on before the bearings.",
            "The oil-return cap that everybody forgets.",
            minutes=10,
        ),
        FitStep(
            "bearings_on",
            "Bearings warmed and dropped on, right way round, spacers between",
            ("try_cold", "seals", "marks"),
            "A bearing driven on by its outer ring is marked on every ball.",
            "Matched pair: follow the marks across both rings.",
            HOT_BEARINGS,
            30,
        ),
        FitStep(
            "bearings_in",
            "Spindle into its housing, straight",
            ("lubricate",),
            "Cocked once, the housing is scored.",
            "The belt, if it runs inside: before this step.",
            SLING,
            25,
            "lifts",
        ),
    ]


def _cartridge(s: Spindle) -> tuple[FitStep, ...]:
    """One thing out and one in: what hangs on it comes off first, and its weight is caught."""
    bar = (
        (
            FitStep(
                "drawbar",
                "Drawbar out, its nut and washers in a tray",
                ("tool_before",),
                "Left in, the cartridge hangs on it with the bolts already out.",
                minutes=10,
                takes_apart=True,
            ),
            FitStep(
                "drawbar_back",
                "Drawbar back; a tool drawn up and let go, five times",
                ("belt_back",),
                "A new seat draws deeper the first few times.",
                minutes=10,
            ),
        )
        if s.kind == "mill"
        else ()
    )
    off = ("belt_off", "drawbar") if bar else ("belt_off",)
    return (
        FitStep(
            "tool_before",
            "One tool's length read, before anything is slackened",
            (),
            "Without it every stored length is lost with the old cartridge.",
            "Prove shifts the tool table by the difference.",
            minutes=10,
            takes_apart=True,
        ),
        FitStep(
            "belt_off",
            "Belt slackened and off, then the pulley and its key",
            ("tool_before",),
            "A pulley left on comes down with the cartridge, or holds it up half way.",
            "Mark pulley to spindle.",
            LOCK_OUT_TAPER,
            25,
            takes_apart=True,
        ),
        *bar[:1],
        *_cartridge_swapped(off),
        *bar[1:],
        *_cartridge_run(bar),
        replace(_READY, after=("tool_length",)),
    )


def _cartridge_run(bar: tuple[FitStep, FitStep] | tuple[()]) -> tuple[FitStep, ...]:
    return (
        FitStep(
            "turns",
            "Turned by hand: free, without a catch",
            ("belt_back",),
            "A catch now is a bearing hurt on the way in.",
            "Turn both ways, ten turns.",
            minutes=5,
        ),
        replace(_WARM, after=("turns", "drawbar_back") if bar else ("turns",)),
        FitStep(
            "tool_length",
            "The same tool's length read again",
            ("warm",),
            "Every stored length shifts by the difference.",
            "Prove shifts the tool table.",
            minutes=10,
        ),
    )


def _cartridge_swapped(off: tuple[str, str] | tuple[str]) -> tuple[FitStep, ...]:
    return (
        FitStep(
            "box",
            "A wooden box or a jack under it, up against the nose",
            off,
            "With its bolts out it falls by its own weight, on the table or on a foot.",
            "Nose wrapped; the table wound up to just under the box.",
            SLING,
            15,
            "lifts",
            takes_apart=True,
        ),
        FitStep(
            "out",
            "Bolts out evenly, jacking screws in, lowered on the box",
            ("box",),
            "Prised at one side it jams and scores the head.",
            "",
            SLING,
            30,
            "lifts",
            takes_apart=True,
        ),
        FitStep(
            "seat",
            "Seat and face in the head wiped, stoned, tried with blue",
            ("out",),
            "A chip under the flange leans the new spindle for good.",
            "",
            SOLVENT,
            25,
        ),
        FitStep(
            "in",
            "New one in on the box, bolts by hand, then crosswise to the same pull",
            ("seat",),
            "Drawn up on one side first, it stands crooked.",
            "Its own bearings and preload: nothing in it is opened.",
            SLING,
            35,
            "lifts",
        ),
        FitStep(
            "belt_back",
            "Pulley on its key and mark, belt, guard",
            ("in",),
            "A tight belt pulls the new spindle to one side.",
            minutes=20,
        ),
    )


def _at_the_taper(remedy: str) -> tuple[FitStep, ...]:
    steps = [
        FitStep(
            "wash",
            "Both tapers washed and wiped dry, twice",
            (),
            "A hair is two tenths.",
            "Run a fingertip round: it feels what the eye does not see.",
            LOCK_OUT_TAPER,
            10,
        ),
        FitStep(
            "burrs",
            "Burrs stoned off, high spots only",
            ("wash",),
            "A burr on the bar is pressed into the taper.",
            minutes=20,
        ),
        FitStep("blue", "Blued once more", ("burrs",), "To see that it was the cause.", minutes=15),
        FitStep(
            "mark",
            "Index mark on the nose at the bar's mark",
            ("blue",),
            "Seated the same way each time, what is left repeats.",
            minutes=5,
        ),
        FitStep("prove", "Ready to prove", ("mark",), "", minutes=5),
    ]
    if remedy == "ream":
        steps.insert(
            2,
            FitStep(
                "ream",
                "Reamed by hand, spindle turned slowly, a light cut",
                ("burrs",),
                "Stop at the first full turn of clean metal.",
                "The tool stands deeper afterwards: tool length changes.",
                minutes=60,
            ),
        )
        steps[3] = replace(steps[3], after=("ream",))
    return tuple(steps)


def _at_the_chuck(remedy: str) -> tuple[FitStep, ...]:
    return (
        FitStep(
            "faces",
            "Register and faces wiped, stoned",
            (),
            "A chip behind the chuck leans it.",
            "",
            LOCK_OUT_CHUCK,
            10,
        ),
        FitStep(
            "set",
            {
                "clock": "Chuck turned to its new mark",
                "jaws": "Jaws ground under load",
                "backplate": "Chuck tapped true on a ground pin",
            }[remedy],
            ("faces",),
            "Drawn up evenly, a little at a time.",
            minutes=25,
        ),
        FitStep(
            "mark",
            "Mark scribed on nose and chuck",
            ("set",),
            "It holds only while it goes back the same way.",
            minutes=5,
        ),
        FitStep("prove", "Ready to prove", ("mark",), "", minutes=5),
    )


def _at_the_coupler() -> tuple[FitStep, ...]:
    return (
        _MARKS,
        FitStep(
            "off",
            "Spindle drawn out of the drive, splines washed",
            ("marks",),
            "The sleeve goes over clean metal.",
            "",
            SPRING,
            20,
        ),
        FitStep(
            "sleeve_on",
            "Sleeve on, tried in the drive through the whole stroke",
            ("off",),
            "Tight at one end, it jams with the drill in the work.",
            minutes=20,
        ),
        FitStep(
            "pin",
            "Pinned or bonded",
            ("sleeve_on",),
            "Bonded before it is drilled, or it turns and binds the drill.",
            "Index before pinning.",
            minutes=20,
        ),
        FitStep("prove", "Ready to prove", ("pin",), "", minutes=5),
    )
