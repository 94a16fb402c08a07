"""The threads that are made to a standard, and the pitches and diameters a hybrid may mix.

The pairs of diameter and pitch were set down from general knowledge of the
standards, not from their texts; check the edition on file before buying to them.
"""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Iterable
from fractions import Fraction
from functools import cache

from msgspec import Struct

from trebb.core.threads.forms import Form, ThreadSpec, ThreadSpecError
from trebb.core.units import INCH_MM


class Series(Struct, frozen=True):
    """A row of standard threads.

    `weight` is how often such a thread is met on a slide, a lead screw or a
    knee, beside the others; `pairs` are diameter and pitch in mm.
    """

    key: str
    label: str
    form: Form
    weight: float
    pairs: tuple[tuple[float, float], ...]
    source: str


def _inches(*rows: tuple[str, float]) -> tuple[tuple[float, float], ...]:
    return tuple(
        (float(sum(Fraction(part) for part in dia.split("-"))) * INCH_MM, INCH_MM / tpi) for dia, tpi in rows
    )


def _metric(rows: dict[int, tuple[float, ...]]) -> tuple[tuple[float, float], ...]:
    return tuple((float(dia), pitch) for dia, pitches in rows.items() for pitch in pitches)


# ASME B1.5, general-purpose pitches; stub Acme (B1.8) takes the same pairs.
_ACME = _inches(
    ("1/4", 16),
    ("5/16", 14),
    ("3/8", 12),
    ("7/16", 12),
    ("1/2", 10),
    ("5/8", 8),
    ("3/4", 6),
    ("7/8", 6),
    ("1", 5),
    ("1-1/8", 5),
    ("1-1/4", 5),
    ("1-3/8", 4),
    ("1-1/2", 4),
    ("1-3/4", 4),
    ("2", 4),
)
# Finer ones that machine tools use although the standard does not prefer them.
_ACME_MACHINE = _inches(
    ("1/2", 8),
    ("5/8", 10),
    ("3/4", 8),
    ("3/4", 10),
    ("7/8", 8),
    ("7/8", 10),
    ("1", 8),
    ("1", 6),
    ("1", 4),
    ("1-1/8", 8),
    ("1-1/8", 4),
    ("1-1/4", 4),
    ("1-1/4", 6),
    ("1-1/2", 5),
)
# ISO 2902 / 2904.
_TRAPEZOIDAL = _metric(
    {
        8: (1.5,),
        9: (1.5, 2),
        10: (1.5, 2),
        11: (2, 3),
        12: (2, 3),
        14: (2, 3),
        16: (2, 4),
        18: (2, 4),
        20: (2, 4),
        22: (3, 5, 8),
        24: (3, 5, 8),
        26: (3, 5, 8),
        28: (3, 5, 8),
        30: (3, 6, 10),
        32: (3, 6, 10),
        34: (3, 6, 10),
        36: (3, 6, 10),
        38: (3, 7, 10),
        40: (3, 7, 10),
        42: (3, 7, 10),
        44: (3, 7, 12),
        46: (3, 8, 12),
        48: (3, 8, 12),
        50: (3, 8, 12),
    }
)
# The square thread was never standardised; these were its usual pitches before 1900.
_SQUARE = _inches(
    ("1/4", 10),
    ("5/16", 9),
    ("3/8", 8),
    ("7/16", 7),
    ("1/2", 6.5),
    ("5/8", 5.5),
    ("3/4", 5),
    ("7/8", 4.5),
    ("1", 4),
    ("1-1/8", 3.5),
    ("1-1/4", 3.5),
    ("1-3/8", 3),
    ("1-1/2", 3),
    ("5/8", 6),
    ("3/4", 6),
    ("7/8", 5),
    ("1", 5),
    ("1-1/4", 4),
)
_SQUARE_METRIC = _metric(
    {14: (3,), 16: (4,), 18: (4,), 20: (4,), 22: (5,), 24: (5,), 26: (5,), 28: (5,), 30: (6,), 32: (6,)}
)
_WHITWORTH = _inches(  # BS 84, coarse and fine
    ("1/4", 20),
    ("5/16", 18),
    ("3/8", 16),
    ("7/16", 14),
    ("1/2", 12),
    ("9/16", 12),
    ("5/8", 11),
    ("3/4", 10),
    ("7/8", 9),
    ("1", 8),
    ("1-1/8", 7),
    ("1-1/4", 7),
    ("1-1/2", 6),
    ("1/4", 26),
    ("5/16", 22),
    ("3/8", 20),
    ("7/16", 18),
    ("1/2", 16),
    ("5/8", 14),
    ("3/4", 12),
    ("7/8", 11),
    ("1", 10),
)
_UNIFIED = _inches(  # ASME B1.1, coarse, fine, and the eight-thread series
    ("1/4", 20),
    ("5/16", 18),
    ("3/8", 16),
    ("7/16", 14),
    ("1/2", 13),
    ("9/16", 12),
    ("5/8", 11),
    ("3/4", 10),
    ("7/8", 9),
    ("1", 8),
    ("1-1/8", 7),
    ("1-1/4", 7),
    ("1-1/2", 6),
    ("1/4", 28),
    ("5/16", 24),
    ("3/8", 24),
    ("7/16", 20),
    ("1/2", 20),
    ("9/16", 18),
    ("5/8", 18),
    ("3/4", 16),
    ("7/8", 14),
    ("1", 12),
    ("1-1/8", 12),
    ("1-1/4", 12),
    ("1-1/8", 8),
    ("1-1/4", 8),
    ("1-1/2", 8),
)
_NUMBERED = _inches(  # ASME B1.1: a number is 0.060 in + 0.013 in for each; coarse and fine
    *(
        (str(Fraction(60 + 13 * number, 1000)), tpi)
        for number, pitches in {
            4: (40, 48), 5: (40, 44), 6: (32, 40), 8: (32, 36), 10: (24, 32), 12: (24, 28),
        }.items()
        for tpi in pitches
    )
)  # fmt: skip
# ASME B1.1: every sixteenth from where a pitch of the 12, 16 and 20 series begins, and the extra-fine series.
_UNIFIED_CONSTANT = tuple(
    pair
    for pair in dict.fromkeys(
        [
            (s / 16 * INCH_MM, INCH_MM / n)
            for n, first, last in ((8, 16, 64), (12, 9, 64), (16, 6, 64), (20, 4, 32))
            for s in range(first, last + 1)
        ]
        + list(
            _inches(
                ("5/16", 32), ("3/8", 32), ("7/16", 28), ("1/2", 28), ("9/16", 24), ("5/8", 24),
                ("1-1/16", 18), ("1-1/8", 18), ("1-3/16", 18), ("1-1/4", 18), ("1-5/16", 18), ("1-3/8", 18),
                ("1-7/16", 18), ("1-1/2", 18), ("1-5/8", 18), ("1-3/4", 5), ("2", 4.5), ("1-3/8", 6),
            )
        )
    )
    if pair not in _UNIFIED
)  # fmt: skip
_METRIC = _metric(
    {  # ISO 261, coarse and the finer ones met on machines
        6: (1,),
        8: (1.25, 1),
        10: (1.5, 1.25, 1),
        12: (1.75, 1.5, 1.25),
        14: (2, 1.5),
        16: (2, 1.5),
        18: (2.5, 2, 1.5),
        20: (2.5, 2, 1.5),
        22: (2.5, 2, 1.5),
        24: (3, 2, 1.5),
        27: (3, 2),
        30: (3.5, 2, 1.5),
        33: (3.5, 2),
        36: (4, 3, 2),
        42: (4.5, 3),
        48: (5, 3),
    }
)

SERIES: tuple[Series, ...] = (
    Series("acme", "Acme", Form.ACME, 0.26, _ACME, "ASME B1.5"),
    Series(
        "acme_machine",
        "Acme, finer than preferred",
        Form.ACME,
        0.16,
        _ACME_MACHINE,
        "ASME B1.5 form; pitch by practice",
    ),
    Series("stub", "stub Acme", Form.ACME_STUB, 0.04, _ACME, "ASME B1.8"),
    Series("trapezoidal", "trapezoidal", Form.TRAPEZOIDAL, 0.26, _TRAPEZOIDAL, "ISO 2902"),
    Series("square", "square", Form.SQUARE, 0.09, _SQUARE, "practice before standards"),
    Series("square_metric", "square, metric", Form.SQUARE, 0.02, _SQUARE_METRIC, "practice before standards"),
    Series("whitworth", "Whitworth", Form.WHITWORTH, 0.05, _WHITWORTH, "BS 84"),
    Series("unified", "Unified", Form.UNIFIED, 0.04, _UNIFIED, "ASME B1.1"),
    Series("numbered", "Unified, by number", Form.UNIFIED, 0.01, _NUMBERED, "ASME B1.1"),
    Series("unified_constant", "Unified, of one pitch", Form.UNIFIED, 0.02, _UNIFIED_CONSTANT, "ASME B1.1"),
    Series("metric", "ISO metric", Form.METRIC, 0.08, _METRIC, "ISO 261"),
)

HYBRID_WEIGHT = 0.10
# Inch on inch that no table lists: every sixteenth by every usual number of threads.
UNLISTED_INCH_WEIGHT = 0.06
_INCH_SIXTEENTHS = (*range(6, 25), 26, 28, 30, 32)
_INCH_TPI = (4, 5, 6, 7, 8, 9, 10, 11, 12, 14, 16)
# Millimetres on millimetres that no table lists: bars as they are sold by every usual pitch.
UNLISTED_METRIC_WEIGHT = 0.06
UNLISTED_METRIC_FORMS: dict[Form, float] = {Form.TRAPEZOIDAL: 0.85, Form.SQUARE: 0.15}
# A hybrid: some form, a usual pitch of either system, a usual diameter of either, and no series that has the
# pair.
HYBRID_FORMS: dict[Form, float] = {Form.ACME: 0.45, Form.TRAPEZOIDAL: 0.35, Form.SQUARE: 0.20}
_TPI = (4, 5, 6, 8, 10, 12)
_PITCHES = (2.0, 2.5, 3.0, 4.0, 5.0, 6.0)
_SIXTEENTHS = (8, 10, 12, 14, 16, 18, 20, 24)
_DIAMETERS = (12, 14, 15, 16, 18, 20, 22, 24, 25, 26, 28, 30, 32, 35, 36, 40)


def _cut(form: Form, pairs: Iterable[tuple[float, float]]) -> list[ThreadSpec]:
    """Threads of a form by major diameter and pitch, mm; not those so coarse that nobody cut them."""
    found = []
    for major, pitch in pairs:
        with contextlib.suppress(ThreadSpecError):
            found.append(ThreadSpec(form, major, pitch))
    return found


COARSEST = 0.36  # of the diameter: the coarsest pitch that is looked for beside the tables


def _unlisted(form: Form, pairs: Iterable[tuple[float, float]]) -> list[ThreadSpec]:
    """Of these, those that no series of the form has."""
    listed = {(round(d, 2), round(p, 3)) for s in SERIES if s.form is form for d, p in s.pairs}
    return _cut(
        form,
        ((d, p) for d, p in pairs if (round(d, 2), round(p, 3)) not in listed and p <= COARSEST * d),
    )


@cache
def hybrids() -> tuple[ThreadSpec, ...]:
    """Every thread that mixes the two systems: an inch pitch on a metric diameter, or the other way about."""
    pairs = [(float(d), INCH_MM / n) for d in _DIAMETERS for n in _TPI] + [
        (s / 16 * INCH_MM, p) for s in _SIXTEENTHS for p in _PITCHES
    ]
    return tuple(spec for form in HYBRID_FORMS for spec in _cut(form, pairs))


@cache
def unlisted_inch() -> tuple[ThreadSpec, ...]:
    """Every sixteenth of an inch by every usual number of threads that no series of that form has."""
    pairs = [(s / 16 * INCH_MM, INCH_MM / n) for s in _INCH_SIXTEENTHS for n in _INCH_TPI]
    forms = (form for form in HYBRID_FORMS if form is not Form.TRAPEZOIDAL)
    return tuple(spec for form in forms for spec in _unlisted(form, pairs))


@cache
def unlisted_metric() -> tuple[ThreadSpec, ...]:
    """Every usual metric bar by every usual metric pitch that no series of that form has: 25 × 5 is cut on
    small machines, though ISO 2902 goes from 24 to 26.
    """
    pairs = [(float(d), p) for d in _DIAMETERS for p in _PITCHES]
    return tuple(spec for form in UNLISTED_METRIC_FORMS for spec in _unlisted(form, pairs))


# What no usual mixture has: any size a bar is sold in by any pitch that a lathe cuts. Looked for only near
# what was measured, for there are tens of thousands; `RARE_WEIGHT` is shared among all of them.
RARE_WEIGHT = 0.03
RARE_FORMS: dict[Form, float] = {
    Form.ACME: 0.3, Form.TRAPEZOIDAL: 0.25, Form.SQUARE: 0.15, Form.UNIFIED: 0.1, Form.METRIC: 0.1,
    Form.WHITWORTH: 0.1,
}  # fmt: skip
_LATHE_TPI = (
    4, 4.5, 5, 5.5, 5.75, 6, 6.5, 6.75, 7, 7.5, 8, 9, 10, 11, 11.5, 12, 13, 13.5, 14, 15, 16, 18, 19, 20, 22,
    23, 24, 26, 27, 28, 30, 32, 36, 40, 44, 48, 56, 64, 72, 80,
)  # fmt: skip
_LATHE_MM = (
    0.35, 0.4, 0.45, 0.5, 0.6, 0.7, 0.75, 0.8, 1.0, 1.25, 1.5, 1.75, 2.0, 2.25, 2.5, 2.75, 3.0, 3.5, 4.0, 4.5,
    5.0, 5.5, 6.0, 7.0, 8.0, 9.0, 10.0, 12.0, 14.0, 16.0,
)  # fmt: skip
_LETTERED_IN = (
    0.234, 0.238, 0.242, 0.246, 0.257, 0.261, 0.266, 0.272, 0.277, 0.29, 0.295, 0.302, 0.316, 0.323, 0.332,
    0.339, 0.348, 0.358, 0.368, 0.377, 0.386, 0.397, 0.404, 0.413,
)  # fmt: skip
RARE_UP_TO_MM = 100.0
MIXED_SHARE = 0.08  # of inch on metric, beside one system throughout
_SIXTEENTH, _WHOLE, _FINER, _LETTERED = 3.0, 3.0, 1.0, 0.3  # how much more usual a rounder bar is


@cache
def rare_bars() -> tuple[tuple[float, float], ...]:
    """Sizes that bars are sold in, mm, each with how usual it is beside the others: inches by thirty-seconds,
    by number and by letter, and millimetres by halves.
    """
    found: dict[float, float] = {}
    for s in range(6, int(RARE_UP_TO_MM / INCH_MM * 32)):
        found[s / 32 * INCH_MM] = _FINER if s % 2 else _SIXTEENTH
    for size in (*_LETTERED_IN, *((60 + 13 * n) / 1000 for n in range(15))):
        found.setdefault(size * INCH_MM, _LETTERED)
    for half in range(6, int(RARE_UP_TO_MM * 2)):
        found.setdefault(half / 2, _FINER if half % 2 else _WHOLE)
    return tuple(sorted(found.items()))


def rare_pitches() -> tuple[float, ...]:
    """Pitches that lathes cut, mm: by the inch and by the millimetre."""
    return (*(INCH_MM / n for n in _LATHE_TPI), *_LATHE_MM)


def rare_near(
    is_pitch: Callable[[float], bool], least_mm: float, most_mm: float
) -> list[tuple[ThreadSpec, None, float]]:
    """Every such thread with a pitch that could be and a diameter from one to another, mm, that no table has;
    each with its share of what is met.
    """
    bars = rare_bars()
    pairs = (
        sum(share for _, share in bars) * len(rare_pitches()) / 3
    )  # a third is too coarse or fine to be cut
    pitches = [p for p in rare_pitches() if is_pitch(p)]
    listed = _in_tables()
    found: list[tuple[ThreadSpec, None, float]] = []
    for major, share in bars:
        if not least_mm <= major <= most_mm:
            continue
        for pitch in pitches:
            is_inch = any(abs(INCH_MM / n - pitch) < 1e-9 for n in _LATHE_TPI)
            for form, part in RARE_FORMS.items():
                if (form is Form.METRIC) is is_inch and form in (Form.METRIC, Form.UNIFIED):
                    continue
                if form in (Form.UNIFIED, Form.WHITWORTH) and not is_inch:
                    continue
                if pitch > COARSEST * major or (form, round(major, 2), round(pitch, 3)) in listed:
                    continue
                for spec in _cut(form, [(major, pitch)]):
                    usual = share * (MIXED_SHARE if spec.is_mixed else 1.0)
                    found.append((spec, None, RARE_WEIGHT * part * usual / pairs))
    return found


@cache
def _in_tables() -> frozenset[tuple[Form, float, float]]:
    return frozenset((s.form, round(s.major_mm, 2), round(s.pitch_mm, 3)) for s, _, _ in weighted_threads())


def _shared(
    specs: tuple[ThreadSpec, ...], forms: dict[Form, float], weight: float
) -> list[tuple[ThreadSpec, Series | None, float]]:
    """Threads of no series with a weight shared among them: by form, then evenly."""
    number = {form: sum(h.form is form for h in specs) for form in forms}
    total = sum(share for form, share in forms.items() if number[form])
    return [(h, None, weight * forms[h.form] / total / number[h.form]) for h in specs]


@cache
def weighted_threads() -> tuple[tuple[ThreadSpec, Series | None, float], ...]:
    """Every thread Trebb can name, single start and right hand: thread, its series (None: a hybrid), and its
    share of what is met. Shares sum to 1 with `RARE_WEIGHT`.
    """
    found: list[tuple[ThreadSpec, Series | None, float]] = []
    total = sum(s.weight for s in SERIES)
    listed = 1 - HYBRID_WEIGHT - UNLISTED_INCH_WEIGHT - UNLISTED_METRIC_WEIGHT - RARE_WEIGHT
    for s in SERIES:
        specs = []
        for major, pitch in s.pairs:
            try:
                specs.append(ThreadSpec(s.form, major, pitch))
            except ThreadSpecError:
                continue
        found += [(spec, s, listed * s.weight / total / len(specs)) for spec in specs]
    found += _shared(unlisted_inch(), HYBRID_FORMS, UNLISTED_INCH_WEIGHT)
    found += _shared(unlisted_metric(), UNLISTED_METRIC_FORMS, UNLISTED_METRIC_WEIGHT)
    found += _shared(hybrids(), HYBRID_FORMS, HYBRID_WEIGHT)
    return tuple(found)


def series_of(spec: ThreadSpec) -> Series | None:
    """The series that has this thread, whatever its starts and hand; None where no standard has it."""
    for s in SERIES:
        if s.form is spec.form and any(
            abs(d - spec.major_mm) < 0.01 and abs(p - spec.pitch_mm) < 1e-3 for d, p in s.pairs
        ):
            return s
    return None
