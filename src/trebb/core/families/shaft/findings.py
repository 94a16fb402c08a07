"""What the readings of a shaft say, in sentences."""

from __future__ import annotations

from collections.abc import Mapping

from trebb.core.condition import ReadingsOnly
from trebb.core.dual_units import show_torque
from trebb.core.errors import InputError
from trebb.core.families.shaft.bend import bend_of, links, wanted_pin
from trebb.core.families.shaft.shear_pins import fuse_findings
from trebb.core.families.shaft.subject import DRIVES, SEATS, Shaft
from trebb.core.findings.base import Finding, Measure, hedged, size_words
from trebb.core.machine import State
from trebb.core.threads.fasteners import Fastener, name_fastener
from trebb.core.units import INCH_MM, UnitSystem, show_size, show_small


def shaft_findings(
    shaft: Shaft,
    alone: ReadingsOnly,
    measures: Mapping[str, Measure],
    lobes: Mapping[float, float],
    system: UnitSystem,
) -> list[Finding]:
    """Verdicts, the heaviest first. `lobes` is how far each station is out of round, mm."""
    found = []
    for key, m in measures.items():
        if key == "bend":
            found.append(_bend(shaft, alone, m, lobes, system))
        else:
            sentence, move = _words(shaft, key, m, measures, system)
            found.append(
                Finding(
                    key,
                    m.state,
                    sentence,
                    _RESTS[key.split(".")[0]],
                    move,
                    m.value.value * _WEIGHT.get(key.split(".")[0], 0.5),
                )
            )
    found = hedged(found, measures, system)
    found += _end_thread(shaft, alone, system) + _pin(shaft, alone, system) + _torque(shaft, alone, system)
    return sorted(found, key=lambda f: -f.weight_mm)


_RESTS = {
    "play": "push, or sizes of both", "wear": "sizes against unworn metal", "float": "push and pull",
    "rock": "rocked, as it is", "joint": "rocked, shaft held", "keyed": "widths of key and slots",
    "squared": "sizes of square and socket",
}  # fmt: skip
_WEIGHT = {"play": 1.0, "wear": 0.8, "float": 0.2, "rock": 0.2, "joint": 0.3, "keyed": 0.15, "squared": 0.15}


def _bend(
    shaft: Shaft, alone: ReadingsOnly, m: Measure, lobes: Mapping[float, float], system: UnitSystem
) -> Finding:
    bend = bend_of(shaft, alone, m.limit.limit_mm)
    assert bend is not None
    where = f"At {show_size(bend.worst_mm, system, resolution_mm=1)} from the left end"
    sentence = (
        f"{where} the shaft runs out {size_words(m, system)}, high at {bend.high_deg:.0f}° by its mark."
    )
    move = "Inside its limit."
    if m.state is not State.WITHIN:
        if bend.shape == "kink" and bend.kink is not None:
            place = show_size(bend.kink.place_mm, system, resolution_mm=1)
            move = f"It is kinked at {place}: press there, {bend.high_deg:.0f}° up."
        elif bend.shape == "curve":
            move = "It is bowed evenly: press in the middle and work outward."
        elif bend.shape:
            move = "Kink or even bow does not show: read more stations before it is pressed."
        else:
            move = "Five stations, the journals counted, would tell a kink from an even bow."
        move += " Straighten it, or make it new."
    out = [z for z, a in lobes.items() if a > m.limit.limit_mm / 2]
    if out:
        worst = max(out, key=lambda z: lobes[z])
        move += (
            f" It is out of round by {show_small(2 * lobes[worst], system)} at "
            f"{show_size(worst, system, resolution_mm=1)}: on V-blocks that reads too, between centres "
            f"it does not."
        )
    return Finding("bend", m.state, sentence, "turned under an indicator", move, 1.2 * m.value.value)


def _words(
    shaft: Shaft, key: str, m: Measure, measures: Mapping[str, Measure], system: UnitSystem
) -> tuple[str, str]:
    size, inside = size_words(m, system), m.state is State.WITHIN
    kind, _, seat = key.partition(".")
    fine = "Inside its limit."
    radius = show_size(shaft.wheel_mm, system, resolution_mm=0.5)
    if kind == "play":
        name = "wheel on its seat" if seat == "seat" else SEATS[seat]
        if m.value.value <= 0:
            return f"No play at the {name}: it is pressed, or near it.", fine
        worn = measures.get(f"wear.{seat}")
        blame = "Measure unworn metal beside journal and bore: it says which of the two wore."
        if worn is not None:
            shaft_part = worn.value.value
            blame = (
                f"The journal lost {show_small(shaft_part, system)} of it; the rest is the bore and what was "
                "always there."
            )
        return (
            f"Play of the {name}: {size}.",
            fine if inside else f"{blame} Bush the bore, or build up the shaft.",
        )
    if kind == "wear":
        return (
            f"The {SEATS[seat]} is worn by {size}.",
            fine if inside else "Turn it down and sleeve it, build it up and grind, or make it new.",
        )
    if key == "float":
        return (
            f"Along its axis the shaft floats {size}.",
            fine if inside else "A thicker washer, or a collar made to the stack of faces.",
        )
    if key == "rock":
        joint = measures.get("joint")
        whose = "Hold the shaft and rock again: it tells wheel and train apart."
        if joint is not None:
            beyond = max(0.0, m.value.value - joint.value.value)
            whose = f"{show_small(beyond, system)} of it lies beyond the shaft: gears, or what it drives."
        return f"As it is, the wheel rocks at {radius} by {size}.", fine if inside else whose
    if key == "joint":
        return (
            f"On its shaft alone the wheel rocks at {radius} by {size}.",
            fine
            if inside
            else f"It is held by {DRIVES[shaft.drive]}: {_joint_blame(shaft, m, measures, system)}",
        )
    if key == "keyed":
        return (
            f"Key and slots let it rock at {radius} by {size}.",
            fine if inside else "A key made to the slots, stepped where they differ.",
        )
    return (
        f"Before it drives, the square turns at {radius} by {size}.",
        fine if inside else "Plug the socket and broach it, or make the square new.",
    )


def _joint_blame(shaft: Shaft, m: Measure, measures: Mapping[str, Measure], system: UnitSystem) -> str:
    for key, words in (("keyed", "key and slots"), ("squared", "square and socket")):
        part = measures.get(key)
        if part is not None:
            rest = m.value.value - part.value.value
            if rest > 2 * m.value.sd:
                return (
                    f"{words} make {show_small(part.value.value, system)} of it, the rest is the "
                    f"wheel's bore "
                    "on its seat."
                )
            return f"{words} make all of it."
    seat = measures.get("play.seat")
    if seat is not None and seat.state is State.BEYOND:
        return "the wheel is loose on its seat as well."
    return "measure what holds it, and the seat's play, to tell them apart."


def end_threads(shaft: Shaft, alone: ReadingsOnly) -> list[tuple[Fastener, float]] | None:
    """What its end thread could be, likeliest first; None where it is not measured."""
    major, pitch = alone.source("end.major"), alone.source("end.pitch")
    if major.sd > 0.05 or pitch.sd > 0.02:
        return None
    return name_fastener(major.value, pitch.value, float(shaft.end_angle) if shaft.end_angle else None)


def _end_thread(shaft: Shaft, alone: ReadingsOnly, system: UnitSystem) -> list[Finding]:
    named = end_threads(shaft, alone)
    if named is None:
        return []
    way = (("Thread at its end", "shaft_end"),)
    if not named:
        words = "Its end thread is none of the usual ones."
        return [
            Finding(
                "end_thread",
                State.UNKNOWN,
                words,
                "crests and pitch",
                "Measure it again; else cut both, nut and thread.",
                0.0,
                way,
            )
        ]
    (first, sure), *others = named
    rival = next((f for f, share in others if share > 0.1), None)
    move, asks = "Try a nut of that name by hand before it is bought by the dozen.", tuple[str, ...]()
    if rival is not None and rival.angle_deg != first.angle_deg:
        move = (
            f"Or {rival.name}: their angles, {first.angle_deg:g}° and {rival.angle_deg:g}°, tell them "
            "apart. State which gauge sits."
        )
        asks = ("end_angle",)
    elif rival is not None:
        move = f"Or {rival.name}: measure both again, over more pitches."
    return [
        Finding(
            "end_thread",
            State.WITHIN,
            f"Its end thread is {first.name}, {100 * sure:.0f} % sure.",
            "crests and pitch",
            move,
            0.0,
            asks=asks,
        )
    ]


def _pin(shaft: Shaft, alone: ReadingsOnly, system: UnitSystem) -> list[Finding]:
    if shaft.drive != "taper_pin":
        return []
    inch = shaft.is_inch
    try:
        pin = wanted_pin(shaft, alone, inch=inch)
    except InputError as error:
        return [
            Finding(
                "pin",
                State.UNKNOWN,
                f"No pin fits this hole: {error}.",
                "both mouths",
                "Measure the mouths again; weld the hole and drill it anew, or pin beside it.",
                0.0,
                (("Both mouths", "shaft_pin_hole"),),
            )
        ]
    if pin is None:
        return []
    n, unit = (48.0, INCH_MM) if inch else (50.0, 1.0)
    usual = 1 / n
    odd = (
        ""
        if abs(pin.hole_taper - usual) < 0.25 * usual
        else " The hole is no longer a taper pin's: it is worn at a mouth."
    )
    return [
        Finding(
            "pin", State.WITHIN,
            f"The next pin is a No. {pin.size}, {show_size(pin.length * unit, system)} long." if inch
            else f"The next pin is {pin.size} × {pin.length:g} mm.",
            "both mouths of its hole",
            f"A reamer put in stands at {show_size(pin.rests_at * unit, system)}; ream "
            f"{show_size(pin.deeper * unit, system)} deeper, until the larger mouth is "
            f"{show_size(pin.mouth * unit, system)}.{odd}",
            0.0,
        )
    ]  # fmt: skip


def _torque(shaft: Shaft, alone: ReadingsOnly, system: UnitSystem) -> list[Finding]:
    if not shaft.torque_nm or shaft.drive == "shear_pin":
        return []
    key = alone.source("key")
    found = links(shaft, key.value if key.sd < 0.1 else 0.0)
    weak = min(found, key=lambda k: found[k])
    carries = found[weak]
    enough = carries >= shaft.torque_nm
    if len(found) < 2:
        return [
            Finding("torque", State.UNKNOWN, f"Whether {DRIVES[shaft.drive]} carries "
            f"{show_torque(shaft.torque_nm, system)} cannot be said yet.",
                    "what is stated", "State or measure the sizes of what holds the wheel.", 0.0)
        ]  # fmt: skip
    return [
        Finding(
            "torque", State.WITHIN if enough else State.BEYOND,
            f"The weakest link is {weak}: it carries {show_torque(carries, system)} of the "
            f"{show_torque(shaft.torque_nm, system)} asked.",
            "sizes stated, usual stresses",
            "It holds." if enough else "A longer key, a larger pin, or splines; and look for what "
            "caught once.",
            0.0 if enough else 1.0,
        )
    ]  # fmt: skip


def stated_findings(shaft: Shaft, dia_mm: float | None, system: UnitSystem) -> list[Finding]:
    """What needs no reading: an end that is off, a pin that is to go first. `dia_mm` under the hub, mm; None
    where nobody stated or measured it.
    """
    return _broken(shaft) + fuse_findings(shaft, dia_mm, system)


def _broken(shaft: Shaft) -> list[Finding]:
    if not shaft.is_broken:
        return []
    return [
        Finding(
            "broken", State.BEYOND, "An end of it is broken off.", "looked at",
            "Bore it and press a stub in, or make the shaft new; ask first for an earlier repair in the "
            "way.", 2.0,
        )
    ]  # fmt: skip
