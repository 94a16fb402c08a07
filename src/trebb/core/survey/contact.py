"""Taper contact with marking blue: where it rubs, and what each pattern means."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from trebb.core.condition import Observation, Row
from trebb.core.figure import Arrow, Figure, Label, Role
from trebb.core.machine import Spindle
from trebb.core.survey.base import InstrumentKind, PlaceReadings, SetUp
from trebb.core.survey.spindle_figure import AXIS, frame, nose

# The taper unrolled: rows from mouth to back, columns round the turn.
ROWS, COLUMNS = 8, 24
# Shop practice for a taper that is to hold by friction alone.
WANTED_SHARE = 0.70


@dataclass(frozen=True)
class Contact:
    """What the rubbed patches say: shares 0 to 1 of the whole, of the mouth's half, of the back's; how one-sided, and toward which dial angle.

    `one_sided` is 0 for contact spread evenly round the turn, 1 for all at one angle.
    """

    share: float
    mouth: float
    back: float
    one_sided: float
    toward_deg: float
    pattern: str
    meaning: str


def cells_of(text: str) -> frozenset[int]:
    """Painted cells from their stored text: one character a cell, row by row, "1" rubbed."""
    return frozenset(i for i, c in enumerate(text[: ROWS * COLUMNS]) if c == "1")


def text_of(cells: frozenset[int]) -> str:
    """Painted cells as stored."""
    return "".join("1" if i in cells else "0" for i in range(ROWS * COLUMNS))


def contact_of(cells: frozenset[int]) -> Contact:
    """Grade a pattern.

    Cells are equal in height and angle; those nearer the mouth stand for a
    little more metal, which is left out: it is under a tenth on slow tapers.
    """
    import cmath
    import math

    whole = ROWS * COLUMNS
    share = len(cells) / whole
    mouth = sum(i // COLUMNS < ROWS // 2 for i in cells) / (whole / 2)
    back = sum(i // COLUMNS >= ROWS // 2 for i in cells) / (whole / 2)
    pull = sum((cmath.rect(1, 2 * math.pi * (i % COLUMNS + 0.5) / COLUMNS) for i in cells), 0j)
    one_sided = abs(pull) / len(cells) if cells else 0.0
    toward = math.degrees(cmath.phase(pull)) % 360 if cells else 0.0
    pattern, meaning = _pattern(share, mouth, back, one_sided)
    return Contact(share, mouth, back, one_sided, toward, pattern, meaning)


def _pattern(share: float, mouth: float, back: float, one_sided: float) -> tuple[str, str]:
    if share == 0:
        return "nothing painted", "Paint where the blue rubbed."
    if one_sided > 0.35:
        return "one side", "It sits on one side: a burr, dirt, or a bent or bruised bar. Clean, stone the burr, blue again with another bar before cutting anything."
    if mouth > 2 * back and mouth - back > 0.25:
        return "the mouth only", "It bears at the mouth and rocks at the back: the bore is bell-mouthed the other way, or the angle is wrong. Each seating leans as it likes."
    if back > 2 * mouth and back - mouth > 0.25:
        return "the back only", "It bears deep and is free at the mouth: worn bell-mouthed. The bar leans over its whole length; this is the usual worn taper."
    if share >= WANTED_SHARE:
        return "all round and along", "It bears as it should. If the bar does not repeat, look at the bar, the cleaning and the bearings first."
    return "patches", "Scored or galled: high patches carry it. Stone the high ones with care; ream only a taper that a file cuts."


def observe(spindle: Spindle, taken: Sequence[PlaceReadings]) -> list[Observation]:
    """Contact is painted, not read."""
    return []


def figure(spindle: Spindle, place: str) -> Figure:
    """Blue on the bar, a light twist, out again."""
    items = [*nose(bar=True, wash="bar"), Arrow((300, AXIS - 26), (240, AXIS - 26)), Label((310, AXIS - 22), "thin blue on three lines along the bar; seat, a quarter turn, out", Role.SOFT, "left")]
    return frame(items)


SET_UP = SetUp[Spindle](
    key="contact",
    letter="I",
    short="Blue",
    title="Taper contact with marking blue",
    instrument=InstrumentKind.EYE,
    unit="mm",
    resolution_mm=0.001,
    minutes=10,
    setting_minutes=5,
    wanted=1,
    places=lambda spindle: (),
    row=lambda spindle, place: Row({}, 1.0),
    figure=figure,
    observe=observe,
    steps=(
        "Clean both tapers dry. Blue the bar as thin as a breath.",
        "Seat it lightly, turn a quarter, draw it out straight.",
        "Paint below where the taper took blue: mouse, or arrows and space.",
        "Once more with the bar turned half round: what turns with it is the bar's.",
    ),
    cautions=("Blue is for finding, not for fitting by: never lap a spindle with its bar.",),
    tells="Where the bar bears, and so why it does not repeat.",
    cannot_tell="How far out anything is.",
    settles="why the seat does not repeat",
    family="spindle",
    view="contact",
)
