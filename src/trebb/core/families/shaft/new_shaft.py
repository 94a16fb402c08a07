"""A stepped shaft turned anew."""

from __future__ import annotations

from trebb.core.families.shaft.held import held, usual_pin_mm
from trebb.core.families.shaft.seats import seat_size
from trebb.core.families.shaft.subject import PINS, SEATS, Shaft
from trebb.core.fits import shaft_limits
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    Feature,
    Part,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    band_of,
    facts_of,
    material_field,
    number,
    round_size,
)
from trebb.core.parts.turned import (
    HOLDS,
    THREAD_CHOICES,
    bar_for,
    is_inch_made,
    journal,
    key_of,
    seat_band,
    shoulder_checks,
    undercuts,
    usual_thread,
)
from trebb.core.threads import Band
from trebb.core.threads.fasteners import LISTED, Fastener


def shaft_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Sections from the left end, what holds the wheel, the thread at its end."""
    s, inch = inputs.about(Shaft), is_inch_made(inputs)
    left, right, seat = (seat_size(inputs, k) for k in SEATS)
    wheel = round_size(s.hub_length_mm, inch)
    long = round_size(max(12.0, 0.9 * s.dia_mm), inch)
    thread = usual_thread(seat - 2.0, inch=inch)
    end = round_size(LISTED[thread].major_mm * 1.5, inch) if thread != "none" else 0.0
    stub = round_size(max(0.0, s.a_mm - long / 2), inch)
    between = max(5.0, round_size(s.span_mm - long, inch))
    tail = max(0.0, s.length_mm - stub - between - 2 * long - wheel - end)
    mid = max(left, right) + (0.0 if left == right else 1.0)
    return (
        material_field(s.steel),
        PartField("stub_len", "Left end, before it", stub, low_mm=0, high_mm=2000),
        PartField("left_dia", "Left journal", left, low_mm=2, high_mm=300),
        PartField("left_len", "Its length", long, low_mm=1, high_mm=2000),
        PartField("mid_dia", "Between journals", max(mid, left, right), low_mm=2, high_mm=300),
        PartField("mid_len", "Length between", between, low_mm=1, high_mm=4000),
        PartField("right_dia", "Right journal", right, low_mm=2, high_mm=300),
        PartField("right_len", "Its length", long, low_mm=1, high_mm=2000),
        PartField("tail_len", "From it to the wheel", round_size(tail, inch), low_mm=0, high_mm=2000),
        PartField("seat_dia", "Wheel's seat", seat, low_mm=2, high_mm=300),
        PartField("seat_len", "Its length", wheel, low_mm=1, high_mm=2000),
        PartField("thread", "Thread at the end", thread, THREAD_CHOICES),
        PartField("thread_len", "Thread's length", end, low_mm=0, high_mm=300),
        PartField("blanks", "Blanks sawn", "two", {"one": "one", "two": "two, one to spare"}),
        PartField("hold", "Wheel held by", s.drive if s.drive in HOLDS else "none", HOLDS),
        PartField("key_width", "Key's width", _key_width(inputs, _typed(inputs, seat)), low_mm=0, high_mm=60),
        PartField("pin_dia", "Pin", s.pin_mm or usual_pin_mm(s, seat, inch=inch), low_mm=0, high_mm=30),
        PartField(
            "square", "Square over flats", s.square_mm or round_size(0.66 * seat, inch), low_mm=0, high_mm=200
        ),
    )


def _typed(inputs: PartInputs, seat_mm: float) -> float:
    """The seat as it is typed here, where it is."""
    given = inputs.facts.get("seat_dia", seat_mm)
    return float(given) if isinstance(given, int | float) else seat_mm


def _key_width(inputs: PartInputs, seat_mm: float) -> float:
    found = key_of(seat_mm, inch=is_inch_made(inputs))
    return inputs.measured.get("slot.hub", found.width_mm if found is not None else 0.0)


def stepped_shaft(inputs: PartInputs) -> Part:
    """The shaft with its limits, from the bores as measured where they are.

    Raises InputError where a size set by hand will not do.
    """
    f = facts_of(shaft_fields(inputs), inputs.facts)
    left, left_note, lcheck = _journal(inputs, f, "left")
    right, right_note, rcheck = _journal(inputs, f, "right")
    dia = number(f, "seat_dia")
    band, note = seat_band(inputs, "seat", dia)
    if abs(band.middle_mm - dia) > 1.0:
        band, note = band_of(shaft_limits(dia, "h6")), "h6: the wheel's bore as measured is another"
    sections = [
        Section("left end", "plain", number(f, "stub_len"), left.middle_mm),
        Section("left journal", "plain", number(f, "left_len"), left.middle_mm, left),
        Section("between", "plain", number(f, "mid_len"), number(f, "mid_dia")),
        Section("right journal", "plain", number(f, "right_len"), right.middle_mm, right),
        Section("to the wheel", "plain", number(f, "tail_len"), max(right.middle_mm, band.middle_mm)),
        Section("wheel's seat", "plain", number(f, "seat_len"), band.middle_mm, band),
    ]
    sections = [one for one in sections if one.length_mm > 0]
    seat, start = sections[-1], sum(one.length_mm for one in sections[:-1])
    thread = LISTED.get(str(f["thread"]))
    if thread is not None and number(f, "thread_len") > 0:
        sections.append(Section(thread.name, "thread", number(f, "thread_len"), thread.major_mm))
    done = tuple(sections)
    features, rows, checks = held(inputs, f, seat, start)
    total = sum(s.length_mm for s in done)
    bar, passes = bar_for(inputs, max(s.diameter_mm for s in done), total)
    return Part(
        "stepped_shaft",
        "Stepped shaft",
        material(str(f["material"])),
        bar,
        done,
        None,
        _shaft_rows(total, left, left_note, right, right_note, band, note, start, rows),
        _shaft_checks(inputs, f, thread, done, lcheck, rcheck, band, seat, checks, passes),
        (
            "Copy lengths and the shoulder's distance from the old one before it is cut up.",
            "Die or thread started square from the tailstock.",
        ),
        construction=str(f["hold"]),
        ways=(str(f["blanks"]),),
        features=(*features, *undercuts(done), Feature("centre", 0.0), Feature("centre", total)),
        blanks=2 if f["blanks"] == "two" else 1,
    )


def _shaft_checks(
    inputs: PartInputs,
    f: dict[str, str | float],
    thread: Fastener | None,
    done: tuple[Section, ...],
    lcheck: Check,
    rcheck: Check,
    band: Band,
    seat: Section,
    checks: list[Check],
    passes: Check,
) -> tuple[Check, ...]:
    return (
        lcheck,
        rcheck,
        passes,
        *_length_check(inputs, done),
        *shoulder_checks(inputs, done),
        *_thread_checks(thread, band),
        _stop_check(inputs, done, seat, str(f["hold"])),
        *checks,
    )


OFF_LENGTH_MM = 1.0  # a length is copied with a rule


def _length_check(inputs: PartInputs, done: tuple[Section, ...]) -> tuple[Check, ...]:
    """Whether the sections come to the length that was stated; nothing where they do."""
    total, stated = sum(s.length_mm for s in done), inputs.about(Shaft).length_mm
    if abs(total - stated) <= OFF_LENGTH_MM:
        return ()
    return (
        Check(
            False,
            f"Its sections come to {inputs.size(total)}, the shaft is stated {inputs.size(stated)} long: "
            f"{inputs.size(abs(total - stated))} {'too much' if total > stated else 'too little'}.",
        ),
    )


def _shaft_rows(
    total: float,
    left: Band,
    left_note: str,
    right: Band,
    right_note: str,
    band: Band,
    note: str,
    start: float,
    rows: list[SizeRow],
) -> tuple[SizeRow, ...]:
    return (
        SizeRow("Left journal", "band", left, left_note, True, key="left"),
        SizeRow("Right journal", "band", right, right_note, True, key="right"),
        SizeRow("Wheel's seat", "band", band, note, True, key="seat"),
        SizeRow(
            "Shoulder for the wheel",
            "size",
            start,
            "from the left end",
            key="shoulder",
        ),
        SizeRow("Length over all", "size", total, key="length"),
        *rows,
    )


def _stop_check(inputs: PartInputs, sections: tuple[Section, ...], seat: Section, hold: str) -> Check:
    """Whether the wheel has a shoulder to stop on."""
    before = sections[sections.index(seat) - 1]
    high = (before.diameter_mm - seat.diameter_mm) / 2
    if high >= 0.5:
        return Check(True, f"The wheel stops on a shoulder {inputs.size(high)} high.")
    pinned = hold in (*PINS, "screw")
    words = (
        "No shoulder stops the wheel: its pin or screw does."
        if pinned
        else (
            f"No shoulder stops the wheel: {before.label} is {inputs.size(before.diameter_mm)}, its seat "
            f"{inputs.size(seat.diameter_mm)}. A step, a collar, or a pin across."
        )
    )
    return Check(pinned, words)


def _journal(inputs: PartInputs, f: dict[str, str | float], seat: str) -> tuple[Band, str, Check]:
    dia = number(f, f"{seat}_dia")
    band, note, check = journal(inputs, seat, dia, SEATS[seat])
    mate = inputs.measured.get(f"mate.{seat}")
    if mate is not None and abs(dia - mate) > 0.3:
        # A size set by hand for another bore than the one measured.
        band = Band(dia - 0.015, dia)
        word = "larger" if dia > mate else "smaller"
        check = Check(
            False,
            f"A {SEATS[seat]} of {inputs.size(dia)} is {word} than its bore, {inputs.size(mate)} as "
            f"measured: "
            + ("it does not go in; bush or bore that first." if dia > mate else "it rattles; bush the bore."),
        )
    return band, note, check


def _thread_checks(thread: Fastener | None, seat: Band) -> list[Check]:
    if thread is None:
        return []
    ok = thread.major_mm <= seat.low_mm - 0.2
    return [
        Check.of(
            ok,
            f"The wheel passes the thread of {thread.name}.",
            f"The wheel's bore does not pass the thread of {thread.name}: a smaller thread, or a "
            f"larger seat.",
        )
    ]
