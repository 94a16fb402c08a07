"""The quill, the tailstock’s key, the feet of a lathe and how its stand gives."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.bed.figure import AXIS, WAY, bed_front, carriage, tailstock
from trebb.core.families.bed.subject import FEET, Bed
from trebb.core.families.bed.sweep import FOOT_SD, KEY_SD, SWEEP_SD, few
from trebb.core.figure import Arrow, Figure, Item, Label, Role
from trebb.core.safety import LOCK_OUT
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.survey.ground import frame, indicator_on, words_at
from trebb.core.survey.sharing import observe_sharing, one_zero, stirred_zero


def quill_places(bed: Bed) -> tuple[Place, ...]:
    """The quill's outside, in and run out, on front and top."""
    return tuple(
        Place(
            f"{side}, {how}",
            how.capitalize(),
            f"on the quill's {side}" if how == "quill in" else f"run out {bed.quill_mm:.0f} mm and clamped",
            side,
        )
        for side in ("front", "top")
        for how in ("quill in", "quill out")
    )


def quill_row(bed: Bed, place: str) -> Row:
    """The carriage stands; the quill runs out past its indicator."""
    side, how = place.split(", ")
    if how == "quill in":
        return Row({}, SWEEP_SD)
    return Row(
        {
            "quill_side" if side == "front" else "quill_high": (-1.0 if side == "front" else 1.0)
            * bed.quill_mm
            / 1000
        },
        SWEEP_SD,
    )


def quill_figure(bed: Bed, place: str) -> Figure:
    """Indicator on the quill, which is run out under it."""
    side, how = place.split(", ")
    items: list[Item] = [
        *bed_front(bed),
        *tailstock(440, wash=True, quill=20 if how == "quill in" else 80),
        *carriage(400),
    ]
    items += indicator_on(
        430 if how == "quill in" else 400, AXIS - 6 if side == "top" else AXIS + 6, top=side == "top"
    )
    items.append(words_at(130, 44, f"{how}, on its {side}; the carriage goes with it"))
    return frame(items)


QUILL: SetUp[Bed] = SetUp(
    key="quill",
    measure=lambda bed, place: ("quill", bed.quill_mm / 100),
    letter="B",
    short="Quill",
    title="Quill run out",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.6,
    setting_minutes=5,
    wanted=2,
    places=quill_places,
    row=quill_row,
    figure=quill_figure,
    observe=observe_sharing(lambda: QUILL, one_zero),
    stir=stirred_zero,
    refusal=few,
    is_signed=True,
    is_proof=False,
    steps=(
        "Indicator on the carriage, on the quill's front near its nose; zero, quill in and clamped.",
        "Run the quill out, the carriage as far; clamp; read.",
        "The same on its top.",
    ),
    cautions=(LOCK_OUT,),
    tells="Where the quill points: a drill fed by it goes there.",
    cannot_tell="Wear of the quill in its bore shows as droop too.",
    settles="direction of the quill",
    family="tailstock",
)
KEY: SetUp[Bed] = SetUp(
    key="tail_key",
    measure=lambda bed, place: ("tail_key", 1.0),
    letter="C",
    short="Key",
    title="Tailstock's key in its slot",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.7,
    setting_minutes=5,
    wanted=3,
    places=lambda bed: (Place("key", "Pushed to and fro", "bolts slack, at the tailstock's foot"),),
    row=lambda bed, place: Row({"tail_key": 1.0}, KEY_SD),
    figure=lambda bed, place: frame(
        [
            *bed_front(bed),
            *tailstock(440, wash=True),
            Arrow((520, 84), (560, 84), both_ways=True),
            words_at(420, 44, "push to the front, zero; push to the rear, read", anchor="right"),
            *indicator_on(470, 92, top=False),
        ]
    ),
    refusal=few,
    steps=(
        "Slacken the bolts; indicator on the bed, on the tailstock's foot, across.",
        "Push it to the front, zero; push it to the rear, read.",
        "At the place of the bed where it is used.",
    ),
    cautions=("A tailstock that comes off the bed's end falls: stop block on.",),
    tells="How much room the key has: it may land anywhere within.",
    cannot_tell="Not whether key or slot is worn: measure both.",
    settles="play of the tailstock's key",
    family="tailstock",
)


def feet_places(bed: Bed) -> tuple[Place, ...]:
    """Each foot as its bolt is slackened."""
    return tuple(
        Place(f"foot, {foot}", words.capitalize(), "indicator beside the bolt, from the floor", "feet")
        for foot, words in FEET.items()
    )


def feet_figure(bed: Bed, place: str) -> Figure:
    """An indicator from the floor on the foot whose bolt is slackened."""
    head = "head" in place
    x = 96.0 if head else 558.0
    items: list[Item] = [*bed_front(bed, wash="feet"), Arrow((x, 136), (x, 152))]
    items.append(
        words_at(
            x + 70 if head else x - 70,
            148,
            f"slacken this bolt alone, {'front' if 'front' in place else 'rear'}; read, tighten",
            anchor="left" if head else "right",
        )
    )
    return frame(items)


SOFT_FEET: SetUp[Bed] = SetUp(
    key="soft_feet",
    measure=lambda bed, place: ("soft_foot", 1.0),
    letter="A",
    short="Feet",
    title="Each foot tight?",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=2.0,
    setting_minutes=5,
    wanted=1,
    places=feet_places,
    row=lambda bed, place: Row({f"foot.{place.split(', ')[1]}": 1.0}, FOOT_SD),
    figure=feet_figure,
    refusal=few,
    steps=(
        "All bolts tight. Indicator from the floor on one foot.",
        "Slacken that bolt alone: what the foot moves is what the bolt was holding down.",
        "Tighten again before the next.",
    ),
    cautions=("One bolt at a time: a machine on three slack bolts can tip.",),
    tells="A foot that springs up was pulled down onto nothing: it bends the bed.",
    cannot_tell="Not which way the bed is twisted: the level does.",
    settles="feet that do not stand",
    family="stand",
)
STAND_FLEX: SetUp[Bed] = SetUp(
    key="stand_flex",
    measure=lambda bed, place: ("stand_flex", 1.0),
    letter="B",
    short="Give",
    title="Give of the stand when pushed",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=1.0,
    setting_minutes=4,
    wanted=2,
    places=lambda bed: (
        Place("stand", "Pushed at the headstock", "200 N (45 lbf), from the front, against the floor"),
    ),
    row=lambda bed, place: Row({"stand_flex": 1.0}, FOOT_SD),
    refusal=few,
    figure=lambda bed, place: frame(
        [
            *bed_front(bed, wash="feet"),
            Arrow((30, 70), (60, 70)),
            Label((30, 56), "push", Role.BLUE),
            words_at(150, 50, "indicator from the floor, at the bed's height"),
            *indicator_on(130, WAY, top=True),
        ]
    ),
    steps=(
        "Indicator from the floor on the bed at its headstock end, across; zero.",
        "Push with about 200 N at the headstock; read.",
        "Let go: it must come back to zero, or a bolt is loose.",
    ),
    cautions=("Push, do not rock it over: stand clear on the other side.",),
    tells="Whether levelling it is worth anything: a stand that gives does not hold a twist.",
    cannot_tell="Stand or bolts: slacken and tighten them first.",
    settles="give of the stand",
    family="stand",
)
