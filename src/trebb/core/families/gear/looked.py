"""What is said of a gear beside its lash: what was looked at, its name, cone, contact and strength."""

from __future__ import annotations

import math
from collections.abc import Mapping

from trebb.core.dual_units import in_units, show_torque
from trebb.core.errors import TrebbError
from trebb.core.families.gear.name import naming_of, span_teeth
from trebb.core.families.gear.subject import Gear
from trebb.core.findings.base import Finding, Measure
from trebb.core.findings.judging import Known
from trebb.core.gears import bevel, strength
from trebb.core.gears.teeth import Spur
from trebb.core.machine import State
from trebb.core.survey.contact import tooth_contact
from trebb.core.units import show_size, show_small

MARKS = {
    "missing": (
        "gone or cracked",
        "Stop: what is broken off lies in the train. Find every piece before it turns.",
    ),
    "chipped": (
        "chipped at a corner",
        "Stone the burr; where the end only is off it still carries, by the rest of its face.",
    ),
    "stepped": (
        "stepped",
        "A step says where the mate ran: it stands off its place, or the mate is narrower.",
    ),
    "sharp": ("worn to a point", "A tooth worn sharp is at its end, and has worn its mate."),
}


def also(known: Known[Gear], measures: Mapping[str, Measure]) -> list[Finding]:
    """Verdicts beyond the measures: teeth looked at, name, what the teeth have lost, centres, cone, contact,
    strength.
    """
    found = [*_looked_at(known), *_named(known), *_contact(known)]
    for one in (_cone(known), _strength(known)):
        found += [one] if one is not None else []
    return found


def _looked_at(known: Known[Gear]) -> list[Finding]:
    gear, found = known.subject, []
    for mark, numbers in gear.marks.items():
        if numbers:
            words, move = MARKS[mark]
            listed = ", ".join(map(str, numbers))
            many = f"Teeth {listed} are" if len(numbers) > 1 else f"Tooth {listed} is"
            if mark == "missing" and gear.metal == "zinc":
                move += " A zinc wheel crumbles where a pin left in locks the train: look for it."
            found.append(
                Finding(
                    f"seen_{mark}",
                    State.BEYOND if mark in ("missing", "sharp") else State.NEAR,
                    f"{many} {words}.",
                    "looked at one by one",
                    move,
                    5.0 if mark == "missing" else 0.1,
                )
            )
    return found


def _named(known: Known[Gear]) -> list[Finding]:
    gear, read = known.subject, known.read("gear_name")
    naming = naming_of(gear, read)
    if naming is None:
        return []
    if naming.trouble:
        return [
            Finding(
                "name",
                State.UNKNOWN,
                "Its sizes fit no standard gear.",
                f"{len(read)} sizes",
                in_units(naming.trouble, known.system),
                0.2,
                (("Read the sizes again", "gear_name"),),
            )
        ]
    best, found = naming.best, list[Finding]()
    if not gear.name:
        sure = f"It is {best.words}." if naming.is_sure else f"Likeliest {best.words}: {best.likelihood:.0%}."
        ask = "Take the name at Survey, set-up N." if naming.is_sure else naming.tell_apart
        found.append(
            Finding("name", State.UNKNOWN, sure, f"{len(read)} sizes", in_units(ask, known.system), 0.05)
        )
        return found
    spur = gear.called.spur(gear.teeth)
    if "span" in read and gear.kind == "spur":
        found += _thinned(known, spur)
        if any(f.state is State.UNKNOWN for f in found):  # the name is not that one
            return found
    if "centres" in read and gear.kind == "spur":
        found += _centred(known, spur)
    return found


def _thinned(known: Known[Gear], spur: Spur) -> list[Finding]:
    """What the span says of the teeth."""
    gear, read = known.subject, known.read("gear_name")
    found: list[Finding] = []
    k = span_teeth(gear)
    lost = spur.thinning_of_span(k, read["span"])
    if not -0.1 * spur.module_mm < lost < 0.8 * spur.module_mm:
        found.append(
            Finding(
                "thin",
                State.UNKNOWN,
                f"Over {k} teeth a new one reads {show_size(spur.span_mm(k), known.system)}; read was "
                f"{show_size(read['span'], known.system)}.",
                "span against that of the name",
                "Count the teeth between the jaws again, or the name is another.",
                0.2,
            )
        )
        return found
    share = 1 - max(0.0, lost) / (math.pi * spur.module_mm / 2)
    state = State.BEYOND if share < 0.8 else State.NEAR if share < 0.9 else State.WITHIN
    found.append(
        Finding(
            "thin",
            state,
            f"Its teeth have lost {show_small(max(0.0, lost), known.system)} of their thickness at "
            f"the pitch "
            f"circle: {share:.0%} is left, and {share**2:.0%} of the strength.",
            "span against that of the name",
            "Inside what a light train bears."
            if state is State.WITHIN
            else "Turn it end for end where the other flanks are fresh; else another gear.",
            0.5 * max(0.0, lost),
        )
    )
    return found


def _centred(known: Known[Gear], spur: Spur) -> list[Finding]:
    """What the centre distance says of the name."""
    gear, read = known.subject, known.read("gear_name")
    found: list[Finding] = []
    off = read["centres"] - spur.module_mm * (gear.teeth + gear.mate_teeth) / 2
    if abs(off) > 0.3 * spur.module_mm:
        found.append(
            Finding(
                "centres",
                State.UNKNOWN,
                f"A pair of {gear.teeth} and {gear.mate_teeth} of this name stands "
                f"{show_size(read['centres'] - off, known.system)} apart; read was "
                f"{show_size(read['centres'], known.system)}.",
                "centres against teeth",
                "Count the mate's teeth again: a pair whose ratio is not its centre distance’s is no pair.",
                0.3,
            )
        )
    else:
        found.append(
            Finding(
                "centres",
                State.NEAR if off > 0.05 else State.WITHIN,
                f"Its centres stand {show_small(abs(off), known.system)} "
                f"{'over' if off > 0 else 'under'} those of its name.",
                "centre distance",
                f"Worth "
                f"{show_small(2 * abs(off) * math.tan(math.radians(gear.angle_deg)), known.system)} "
                f"of lash.",
                0.2 * abs(off),
            )
        )
    return found


def _cone(known: Known[Gear]) -> Finding | None:
    read = known.read("gear_cone").get("traverse")
    gear = known.subject
    if read is None:
        return None
    angle = math.degrees(math.atan(read / gear.far_mm))
    fine = abs(angle) <= 0.1
    return Finding(
        "cone",
        State.WITHIN if fine else State.NEAR,
        f"The teeth lie {abs(angle):.2f}° {'steeper than' if read < 0 else 'flatter than'} the pitch cone, "
        f"{show_small(abs(read), known.system)} over {show_size(gear.far_mm, known.system)}.",
        "traverse of the gauge",
        "Level: the heights can be believed."
        if fine
        else "See that the gauge seats and the head stands at the pitch angle; else it was cut so, and "
        "bears at "
        "one end.",
        0.3 * abs(read),
    )


def _contact(known: Known[Gear]) -> list[Finding]:
    head, words = tooth_contact(known.painted)
    if not head:
        return []
    good = words.startswith("In the middle")
    return [
        Finding(
            "contact",
            State.WITHIN if good else State.NEAR,
            f"Blue on the tooth: {words.split(':')[0]}.",
            head,
            words,
            0.03,
        )
    ]


def _strength(known: Known[Gear]) -> Finding | None:
    gear = known.subject
    torque = gear.torque_nm
    if not torque or not gear.name or gear.kind == "worm":
        return None
    try:
        pair = strength_of(gear)
    except TrebbError:
        return None
    share = torque / pair.torque_running_nm
    state = State.BEYOND if share > 1 else State.NEAR if share > 0.8 else State.WITHIN
    weak = "it" if pair.weak == "gear" else "its mate"
    return Finding(
        "strength",
        state,
        f"Its motor gives {show_torque(torque, known.system)} here; the pair carries "
        f"{show_torque(pair.torque_running_nm, known.system)} running, "
        f"{show_torque(pair.torque_at_rest_nm, known.system)} at rest: {weak} is the weaker.",
        f"Lewis, {gear.stuff.label}, load at the tip of one tooth",
        "Inside what it carries."
        if state is State.WITHIN
        else "A jam breaks it first. A belt that slips or a pin that shears before it is what saves a train.",
        0.5 * max(0.0, share - 0.8),
    )


def strength_of(gear: Gear) -> strength.PairStrength:
    """What the pair carries by Lewis; of a bevel by its virtual teeth and the mean of its face. Raises
    InputError under twelve teeth.
    """
    called = gear.called
    own, mate = called.spur(gear.teeth), called.spur(max(12, gear.mate_teeth))
    face = gear.face_mm
    if gear.is_bevel:
        # The small end carries less: first order, by the cone distance left at the middle of the face.
        cone = bevel.cone_distance_mm(gear.module_mm, gear.teeth, gear.pitch_angles_deg[0])
        face *= max(0.3, 1 - face / cone)
    return strength.pair_strength(
        own,
        mate,
        called.form.key,
        face,
        gear.stuff.allowed_mpa,
        strength.GEAR_METALS[gear.mate_metal].allowed_mpa,
        gear.rpm,
        gear.made,
    )
