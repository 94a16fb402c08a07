"""What the machine turns: the two-collar cut, the cuts after each shim, the facing test, a long piece
between centres.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

from trebb.core.condition import Z95, Row
from trebb.core.families.bed.figure import AXIS, bed_front, carriage, tailstock
from trebb.core.families.bed.subject import FEET, REACH_MM, Bed, plus
from trebb.core.figure import Arrow, Figure, Item, Label, Role, box
from trebb.core.safety import LEVER, UNDER_POWER
from trebb.core.survey.base import InstrumentKind, Lot, Place, PlaceReadings, Result, SetUp
from trebb.core.survey.ground import frame, words_at
from trebb.core.survey.reduction import place_means
from trebb.core.survey.sharing import Unknowns, observe_sharing
from trebb.core.survey.sizes import TURN_MOST_MM, beyond_indicator
from trebb.core.units import UnitSystem, show_size

# A micrometer on a turned land repeats to this, by a careful hand.
MICROMETER_SD = 0.0016
CUT_MM, LONG_MM = 0.4, 32.0
LANDS = ("near land", "far land")


def _diameter(bed: Bed, place: str) -> Unknowns:
    """What the cut was set to: unknown, and the same on both lands."""
    return {place.split(",")[0]: (1.0, 60.0)}


def size_refusal(bed: Bed, place: str, raw: float, system: UnitSystem) -> str:
    """A land is a stub that stands unsupported. `raw` in the set-up's own unit."""
    low, high = 6.0, 160.0
    return (
        ""
        if low <= raw <= high
        else f"a land is from {show_size(low, system)} to {show_size(high, system)}; is the unit right?"
    )


def _difference(
    set_up: Callable[[], SetUp[Bed]], combined: Callable[[Bed, str], Row], what: str
) -> Callable[[Bed, Sequence[PlaceReadings]], list[Result]]:
    """Far less near of each cut that has both lands."""

    def results(bed: Bed, taken: Sequence[PlaceReadings]) -> list[Result]:
        means = dict(place_means(set_up(), bed, taken))
        found = []
        for cut in dict.fromkeys(place.split(",")[0] for place in means):
            lands = [means.get(f"{cut}, {land}") for land in LANDS]
            if lands[0] is not None and lands[1] is not None:
                sd = (lands[0].row.noise_sd ** 2 + lands[1].row.noise_sd ** 2) ** 0.5
                row = combined(bed, cut)
                found.append(
                    Result(
                        f"{cut}, {what}", lands[1].value - lands[0].value, Z95 * sd, Row(row.coefficients, sd)
                    )
                )
        return found

    return results


# two collars ----------------------------------------------------------------------------------


def taper_row(bed: Bed, trials: int) -> Row:
    """Far less near diameter with the first so many shims in, mm: the bed as it stood, what the shims did,
    the stub's spring.
    """
    give = bed.spring_mm(bed.far_mm) - bed.spring_mm(bed.near_mm)
    coefficients = plus(bed.work(bed.near_mm, bed.far_mm), {"spring": give})
    if trials:
        coefficients["answer"] = (
            2 * bed.tool_height_mm * bed.shimmed(trials) * bed.apart_mm / bed.along_mm / 1000
        )
    return Row(coefficients, 2**0.5 * MICROMETER_SD)


def collar_places(bed: Bed) -> tuple[Place, ...]:
    """The two lands of the first cut, before anything was shimmed."""
    return tuple(
        Place(
            f"cut, {land}",
            land.capitalize(),
            f"{bed.near_mm if land == LANDS[0] else bed.far_mm:.0f} mm from the nose",
            "cut",
        )
        for land in LANDS
    )


def _land_row(bed: Bed, place: str, trials: int) -> Row:
    base = bed.stub_mm - CUT_MM * trials
    return (
        Row(taper_row(bed, trials).coefficients, MICROMETER_SD, base)
        if place.endswith(LANDS[1])
        else Row({}, MICROMETER_SD, base)
    )


def collar_figure(bed: Bed, place: str) -> Figure:
    """A stub in the chuck with two lands and nothing at its end."""
    x0, here = 160.0, place.rsplit(", ", 1)[1]
    items: list[Item] = [*bed_front(bed), box(142, AXIS - 22, 18, 44), box(x0, AXIS - 9, 190, 18)]
    for land, x in zip(LANDS, (x0 + 16, x0 + 160), strict=True):
        on = land == here
        items += [
            box(x, AXIS - 12, 22, 24, role=Role.BLUE if on else Role.INK, wash=on),
            Label((x + 11, AXIS - 20), "near" if land == LANDS[0] else "far", Role.BLUE if on else Role.SOFT),
        ]
        if on:
            items += [
                Arrow((x + 11, AXIS + 40), (x + 11, AXIS + 14)),
                words_at(x + 18, AXIS + 38, "micrometer, several places round"),
            ]
    items += [
        *carriage(440, tool=True),
        words_at(392, 42, "no tailstock; light cut; sharp tool; one setting"),
    ]
    return frame(items)


CUT_STEPS = (
    "A stiff stub in the chuck, no tailstock; relieve the middle, leave two lands.",
    "One light cut over both lands at one setting of the cross slide, feed by power, sharp tool.",
    "Let it cool; measure each land at several places round, in the lathe.",
    "Near is the chuck's end. Exchanging the two turns the answer round.",
)

TWO_COLLAR: SetUp[Bed] = SetUp(
    key="two_collar",
    measure=lambda bed, place: ("taper", bed.apart_mm / REACH_MM),
    letter="A",
    short="Two lands",
    title="Two-collar cut",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.5,
    setting_minutes=25,
    wanted=3,
    places=collar_places,
    row=lambda bed, place: _land_row(bed, place, 0),
    figure=collar_figure,
    observe=observe_sharing(lambda: TWO_COLLAR, _diameter),
    results=_difference(lambda: TWO_COLLAR, lambda bed, cut: taper_row(bed, 0), "far less near"),
    refusal=size_refusal,
    steps=CUT_STEPS,
    cautions=(f"{UNDER_POWER} A stub stands out twice its diameter or so, no more than it can carry.",),
    tells="Taper on diameter: twist and headstock together, as the work feels it. It needs no test bar and "
    "no taper.",
    cannot_tell="Twist and headstock look alike on the lands. The level across decides.",
    settles="taper in the chuck",
    family="headstock",
    is_size=True,
)


# trials ---------------------------------------------------------------------------------------


def trial_places(bed: Bed) -> tuple[Place, ...]:
    """Two lands after each shim."""
    found = []
    for i, (foot, mm) in enumerate(bed.shims, start=1):
        words = f"{abs(mm):.2f} mm {'under' if mm > 0 else 'out from under'} {FEET[foot]}"
        found += [Place(f"trial {i}, {land}", land.capitalize(), words, f"trial {i}") for land in LANDS]
    return tuple(found)


def trial_of(place: str) -> int:
    """Number of a trial: "trial 2, far land" → 2."""
    return int(place.split(",")[0].rsplit(" ", 1)[1])


def trial_row(bed: Bed, place: str) -> Row:
    """A land after a shim."""
    return _land_row(bed, place, trial_of(place))


def trial_figure(bed: Bed, place: str) -> Figure:
    """The same cut, and where the last shim lies."""
    if not bed.shims:
        return collar_figure(bed, f"cut, {LANDS[0]}")
    foot, mm = bed.shims[(trial_of(place) if place else len(bed.shims)) - 1]
    items = list(collar_figure(bed, place or f"cut, {LANDS[0]}").items)
    x = 96.0 if foot.startswith("head") else 558.0
    items.append(Arrow((x, 180), (x, 160)) if mm > 0 else Arrow((x, 160), (x, 180)))
    head = foot.startswith("head")
    items.append(
        words_at(
            x + 40 if head else x - 40,
            148,
            f"shim {'in' if mm > 0 else 'out'}, {foot.split('_')[1]}",
            anchor="left" if head else "right",
        )
    )
    return frame(items)


TRIALS: SetUp[Bed] = SetUp(
    key="trials",
    measure=lambda bed, place: ("taper", bed.apart_mm / REACH_MM),
    letter="B",
    short="Shim, cut",
    title="Shim and cut again",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.5,
    setting_minutes=15,
    wanted=3,
    places=trial_places,
    row=trial_row,
    figure=trial_figure,
    observe=observe_sharing(lambda: TRIALS, _diameter),
    refusal=size_refusal,
    view="ladder",
    is_proof=False,
    is_size=True,
    lots=lambda bed: tuple(
        Lot(
            f"trial {i}",
            f"Cut after shim {i}",
            tuple(p.key for p in trial_places(bed) if p.group == f"trial {i}"),
        )
        for i in range(1, len(bed.shims) + 1)
    ),
    steps=("Slacken the foot's bolt, lever, slide the pack in, tighten as before.", *CUT_STEPS[1:]),
    cautions=(LEVER,),
    tells="What this bed does for a shim: the next shim is worked out from that, not from a book.",
    cannot_tell="A shim under the wrong foot looks like a bed that answers the wrong way: Trebb asks.",
    settles="how this bed answers to a shim",
    family="headstock",
)


# facing ---------------------------------------------------------------------------------------


def facing_places(bed: Bed) -> tuple[Place, ...]:
    """The rim on the far side of the centre."""
    return (
        Place(
            "rim past the centre",
            "Rim, past the centre",
            f"at radius {bed.face_radius_mm:.0f} mm; zero at the near rim",
            "face",
        ),
    )


def facing_row(bed: Bed, place: str) -> Row:
    """The slide's path shows twice what the face is out: + hollow."""
    reach = 2 * bed.face_radius_mm / 1000
    return Row({"cross": reach, "yaw": -reach}, 0.0025)


def facing_figure(bed: Bed, place: str) -> Figure:
    """An indicator on the cross slide run over the face past its centre, from above."""
    items: list[Item] = [
        box(150, 20, 26, 130),
        Label((163, 164), "face, from above", Role.SOFT),
        box(60, 60, 90, 50),
        Label((104, 90), "chuck", Role.SOFT),
    ]
    items += [
        Arrow((200, 140), (200, 30)),
        words_at(210, 140, "zero at the front rim, as the tool went"),
        words_at(210, 36, "read at the rear rim: twice the error"),
    ]
    return frame(items)


FACING: SetUp[Bed] = SetUp(
    key="facing",
    measure=lambda bed, place: ("facing", 2 * bed.face_radius_mm / 150),
    letter="C",
    short="Facing",
    title="Facing test",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=1.0,
    setting_minutes=20,
    wanted=2,
    places=facing_places,
    row=facing_row,
    figure=facing_figure,
    refusal=lambda bed, place, raw, system: beyond_indicator(raw, TURN_MOST_MM, system),
    is_signed=True,
    steps=(
        "Face a disc of the largest diameter that holds well, one light cut, carriage locked.",
        "Indicator where the tool was; zero at the near rim. On the tool's own path it must stay at zero to "
        "the centre.",
        "Go on past the centre to the far rim: what it shows there is twice what the face is out.",
    ),
    cautions=(UNDER_POWER,),
    tells="Cross slide against the spindle: hollow or proud. Hollow is allowed, proud is not.",
    cannot_tell="A headstock that points aside shows the same as a slide out of square; the two-collar cut "
    "and the level decide.",
    settles="squareness of the cross slide",
    family="headstock",
)


# long piece -----------------------------------------------------------------------------------


def long_row(bed: Bed, place: str) -> Row:
    """A land of a piece turned between centres."""
    return (
        Row(bed.work(*_long(bed), between_centres=True), MICROMETER_SD, LONG_MM)
        if place.endswith(LANDS[1])
        else Row({}, MICROMETER_SD, LONG_MM)
    )


def _long(bed: Bed) -> tuple[float, float]:
    """The lands of a long piece: at its two ends."""
    return 0.0, bed.centres_mm


def long_places(bed: Bed) -> tuple[Place, ...]:
    """Both ends of the long piece."""
    return tuple(
        Place(f"long piece, {land}", land.capitalize(), f"at the {end}'s end", "long piece")
        for land, end in zip(LANDS, ("headstock", "tailstock"), strict=True)
    )


def long_figure(bed: Bed, place: str) -> Figure:
    """A long piece between centres with a land at both ends."""
    items: list[Item] = [*bed_front(bed), *tailstock(470), box(142, AXIS - 7, 306, 14)]
    for land, x in zip(LANDS, (170.0, 404.0), strict=True):
        on = place.endswith(land)
        items.append(box(x, AXIS - 10, 22, 20, role=Role.BLUE if on else Role.INK, wash=on))
    items += [
        *carriage(300, tool=True),
        words_at(300, 44, "between centres, tailstock tightened as for work", anchor="middle"),
    ]
    return frame(items)


def _landed(bed: Bed, place: str) -> Unknowns:
    """The cut's setting, and where this tightening let the tailstock land."""
    at_tail = place.endswith(LANDS[1])
    return {**_diameter(bed, place), **({"landed": (2.0, bed.wander_mm)} if at_tail else {})}


LONG_PIECE: SetUp[Bed] = SetUp(
    key="long_piece",
    measure=lambda bed, place: ("tail_side", 2.0),
    letter="D",
    short="Long piece",
    title="Long piece between centres",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.5,
    setting_minutes=30,
    wanted=3,
    places=long_places,
    row=long_row,
    figure=long_figure,
    observe=observe_sharing(lambda: LONG_PIECE, _landed),
    results=_difference(
        lambda: LONG_PIECE,
        lambda bed, cut: Row(bed.work(*_long(bed), between_centres=True), 0.002),
        "far less near",
    ),
    refusal=size_refusal,
    is_size=True,
    steps=(
        "Turn a long stiff piece between centres, two lands, one setting.",
        "Tailstock tightened as for work, quill in by the usual amount.",
        "Measure both lands several times.",
    ),
    cautions=("Under power: a dead centre wants grease; back it off as the work grows warm.",),
    tells="Where the tailstock stands when it is tightened, as the work feels it.",
    cannot_tell="The bed's twist and wear are in it too: it is exact only together with the level.",
    settles="tailstock across, tightened",
    family="tailstock",
)

__all__ = [
    "CUT_STEPS",
    "FACING",
    "LANDS",
    "LONG_PIECE",
    "TRIALS",
    "TWO_COLLAR",
    "facing_row",
    "taper_row",
    "trial_of",
]
