"""Ends of a screw: how a new thread is joined to an old dial end, and how a worn journal is sleeved."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec.structs import replace

from trebb.core.dual_units import in_units, show_force
from trebb.core.errors import InputError
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.fits import fit, shaft_limits
from trebb.core.fits.joint import LEAD_IN_MM, Joint, bonded, pinned, pressed, reamed_bore_mm
from trebb.core.fits.warming import instead, warming
from trebb.core.parts.base import Check, PartField, PartInputs, Section, SizeRow, number, round_size
from trebb.core.threads import Band, thread_limits
from trebb.core.units import show_small

JOINTS = {
    "pressed": "pressed, pinned across",
    "bonded": "retaining compound, pinned across",
    "pinned": "sliding, taper pin alone",
}
# Where a new thread is cut: by the machine's own old screw, which then stays whole until it is, or elsewhere.
CUT_ON = {"own": "on this machine, its old screw in", "other": "on another lathe"}
LENGTHS = {"cut": "bar, thread cut on it", "bought": "bought threaded bar"}
FITS = {
    "running": "running in its bush",
    "g6": "g6, runs in a reamed H7",
    "h6": "h6, slides",
    "k6": "k6, bearing driven on",
}
FASTENINGS = {
    "nut": "thread and nut",
    "locking": "thread with a locking nut",
    "taper_pin": "taper pin across",
    "cross_pin": "roll pin across",
}
# A hand pushes 130 N on a wheel of about three screw diameters' radius; the joint must hold so many times
# that.
HAND_NM_PER_MM, MARGIN = 0.4, 3.0
DEPTH_SHARE = 3.5  # bore depth to bore: bonded, that holds three hands on a 3/4 in screw
CHILL_C = 100.0  # dry ice on a thin spigot, from room temperature


def joint_fields(inputs: PartInputs, journal: float, collar: float, *, inch: bool) -> tuple[PartField, ...]:
    """How the new length is held in the old dial end. Sizes in mm."""
    bore = round_size(min(0.72 * inputs.about(ScrewDrive).thread.screw_minor_max_mm, 0.68 * journal), inch)
    return (
        PartField("new_length", "New length from", "cut", LENGTHS),
        PartField("joint", "Joint", "bonded", JOINTS),
        PartField("socket_bore", "Reamer for the bore", bore, low_mm=3, high_mm=0.9 * collar),
        PartField("socket_measured", "Bore as measured", reamed_bore_mm(bore), low_mm=2.9, high_mm=collar),
        PartField("socket_depth", "Bore depth", round_size(DEPTH_SHARE * bore, inch), low_mm=5, high_mm=300),
        PartField("socket_outside", "Old end's outside there", journal, low_mm=5, high_mm=300),
        PartField("interference", "Interference", 0.0, low_mm=0.0, high_mm=0.2, is_small=True, is_free=True),
        PartField(
            "pin_dia", "Pin across", round_size(0.25 * bore, inch), low_mm=1.5, high_mm=20, is_free=True
        ),
    )


def bore_mm(inputs: PartInputs, f: Mapping[str, str | float]) -> float:
    """The socket's bore: measured at its operation, else as set by hand, else what its reamer usually
    leaves. Fields as stored: lengths in mm.
    """
    return inputs.measured.get("socket", number(f, "socket_measured"))


def joint_of(inputs: PartInputs, f: Mapping[str, str | float]) -> tuple[Joint, Joint]:
    """The joint as chosen, judged by the spigot as turned once it is measured; and the pin across it. Fields
    as stored: lengths in mm. Raises InputError for a bore too shallow.
    """
    bore, outside, length = (
        bore_mm(inputs, f),
        number(f, "socket_outside"),
        number(f, "socket_depth") - LEAD_IN_MM - 0.5,
    )
    kind, wanted = str(f["joint"]), number(f, "interference") or None
    if length <= 0.5 * bore:
        raise InputError(
            f"a bore {number(f, 'socket_depth'):.3g} mm deep",
            f"at least {0.5 * bore + LEAD_IN_MM + 0.5:.3g} mm: half its diameter in engagement",
        )
    pin = pinned(bore, outside, number(f, "pin_dia"))
    turned = inputs.measured.get("spigot")
    if kind == "pressed":
        return pressed(
            bore,
            length,
            outside,
            "carbon",
            wanted_mm=wanted,
            spigot_mm=turned,
            press_n=inputs.workshop.press_n,
        ), pin
    return (bonded(bore, length, None if turned is None else bore - turned) if kind == "bonded" else pin), pin


def spigot_mm(inputs: PartInputs, f: Mapping[str, str | float]) -> float:
    """What the spigot is to be turned to, whatever it measures now. Fields as stored: lengths in mm."""
    joint, _ = joint_of(
        replace(inputs, measured={k: v for k, v in inputs.measured.items() if k != "spigot"}), f
    )
    return joint.spigot_mm


def hand_nm(inputs: PartInputs) -> float:
    """Torque a hand puts on this screw, N·m."""
    return HAND_NM_PER_MM * inputs.about(ScrewDrive).thread.major_mm


def joint_rows(
    inputs: PartInputs, f: Mapping[str, str | float], joint: Joint, pin: Joint
) -> tuple[SizeRow, ...]:
    """What the bench needs of the joint. Fields as stored: lengths in mm."""
    rows = [
        SizeRow(
            "Reamer",
            "size",
            number(f, "socket_bore"),
            f"to a depth of {inputs.size(number(f, 'socket_depth'))}",
            key="reamer",
        ),
        SizeRow(
            "Bore in the old end, as reamed",
            "size",
            bore_mm(inputs, f),
            f"a {inputs.size(number(f, 'socket_bore'))} reamer usually leaves "
            f"{inputs.size(reamed_bore_mm(number(f, 'socket_bore')))}: measure it",
        ),
        SizeRow("Spigot, to turn", "size", spigot_mm(inputs, f), "from the measured bore", True),
        SizeRow("Lead-in on it", "size", LEAD_IN_MM, "at 15°, oiled"),
    ]
    _add_kind(inputs, joint, rows)
    rows += [
        SizeRow(
            "The joint holds",
            "text",
            inputs.torque(joint.torque_nm),
            f"a hand puts {inputs.torque(hand_nm(inputs))} on it",
        ),
        SizeRow(
            "Pin across", "size", number(f, "pin_dia"), f"holds {inputs.torque(pin.torque_nm)} by itself"
        ),
    ]
    return tuple(rows)


def _add_kind(inputs: PartInputs, joint: Joint, rows: list[SizeRow]) -> None:
    warm = warming(joint.warm_to_c, "untested")
    if joint.kind == "pressed":
        rows += [
            SizeRow(
                "Interference when pressed",
                "small",
                joint.interference_mm,
                "after the turning marks are flattened",
            ),
            SizeRow(
                "Press force, last of the way",
                "text",
                show_force(joint.force_n, inputs.system),
                f"press at hand {show_force(inputs.workshop.press_n, inputs.system)}",
                key="press",
            ),
            SizeRow(
                "Hoop stress in the old end",
                "text",
                f"{joint.hoop_mpa:.0f} MPa",
                f"allowed {joint.allowed_mpa:.0f} MPa",
            ),
            SizeRow(
                "Or with the spigot chilled by",
                "text",
                f"{-joint.chill_by_c:.0f} °C",
                "dry ice is enough" if -joint.chill_by_c <= CHILL_C else "more than dry ice gives",
            ),
            SizeRow(
                "Drops in when the outer is at",
                "text",
                f"{joint.warm_to_c:.0f} °C",
                "no more than that" if warm.is_allowed else f"too hot: {instead(joint.chill_by_c)}",
            ),
        ]
    elif joint.kind == "bonded":
        rows.append(SizeRow("Gap for the compound", "small", -joint.interference_mm, "on diameter"))


def joint_checks(
    inputs: PartInputs, f: Mapping[str, str | float], joint: Joint, pin: Joint
) -> tuple[Check, ...]:
    """What would spoil the joint. Fields as stored: lengths in mm."""
    held = joint.torque_nm + (pin.torque_nm if joint.kind != "pinned" else 0.0)
    hand = hand_nm(inputs)
    strong = held >= MARGIN * hand
    wall = (number(f, "socket_outside") - bore_mm(inputs, f)) / 2
    return (
        *_bought_checks(inputs, f, joint),
        Check(joint.verdict == "holds", joint.words),
        Check.of(
            strong,
            f"Joint and pin hold {inputs.torque(held)}, {held / hand:.1f} times a hand.",
            f"Joint and pin hold only {inputs.torque(held)}: deeper, thicker, or a larger pin; "
            f"{inputs.torque(MARGIN * hand)} is wanted.",
        ),
        Check(
            wall >= 0.15 * bore_mm(inputs, f),
            f"The wall round the bore is {wall:.1f} mm"
            + (
                "."
                if wall >= 0.15 * bore_mm(inputs, f)
                else ": too thin to bore for it; sleeve it, or make the screw whole."
            ),
        ),
    )


def smallest_root_mm(drive: ScrewDrive) -> float:
    """The smallest root that a bought bar of this thread and class may have, mm."""
    return thread_limits(drive.thread).screw_minor.low_mm


def _bought_checks(inputs: PartInputs, f: Mapping[str, str | float], joint: Joint) -> tuple[Check, ...]:
    """A bought bar's own end is turned to the spigot: it must clean up below the smallest root."""
    if f["new_length"] != "bought":
        return ()
    root = smallest_root_mm(inputs.about(ScrewDrive))
    clean = joint.spigot_mm <= root
    return (
        Check.of(
            clean,
            f"The spigot of {inputs.size(joint.spigot_mm)} cleans up below the bar's smallest root, "
            f"{inputs.size(root)}.",
            f"A spigot of {inputs.size(joint.spigot_mm)} keeps thread marks: the bar's smallest root is "
            f"{inputs.size(root)}. A smaller reamer.",
        ),
    )


def journal_band(inputs: PartInputs, dia_mm: float, kind: str) -> Band:
    """Limits of a journal: shop practice for a plain bush, else ISO 286 by its letter."""
    if kind == "running":
        return Band(dia_mm - 0.020, dia_mm - 0.0075)
    limits = shaft_limits(dia_mm, kind)
    return Band(dia_mm + limits.low_um / 1000, dia_mm + limits.high_um / 1000)


def fit_words(inputs: PartInputs, dia_mm: float, kind: str) -> str:
    """What a journal's fit comes to in its hole."""
    if kind == "running":
        return in_units("8 to 20 µm (0.3 to 0.8 thou) under its bush", inputs.system)
    found = fit(dia_mm, "H7", kind)
    low, high = found.min_clearance_um / 1000, found.max_clearance_um / 1000
    return (
        f"{kind} in H7: {show_small(low, inputs.system, unit=False)} to "
        f"{show_small(high, inputs.system)} clear"
    )


SLEEVE_WALL_MM = 1.6


def sleeve_fields(journal: float, *, inch: bool) -> tuple[PartField, ...]:
    """A worn journal turned down and sleeved. Sizes in mm."""
    return (
        PartField("worn_to", "Journal worn to", journal - 0.1, low_mm=2, high_mm=200),
        PartField("sleeve_wall", "Sleeve's wall", SLEEVE_WALL_MM, low_mm=0.8, high_mm=10),
        PartField("interference", "Interference", 0.0, low_mm=0.0, high_mm=0.2, is_small=True, is_free=True),
    )


def sleeve(
    inputs: PartInputs, f: Mapping[str, str | float]
) -> tuple[tuple[Section, ...], Section, tuple[SizeRow, ...], tuple[Check, ...]]:
    """The sleeve of a worn journal: sections, bore, sizes, checks. Fields as stored: lengths in mm. Raises
    InputError for a wall too thick.
    """
    journal, length, wall = number(f, "journal_dia"), number(f, "journal_length"), number(f, "sleeve_wall")
    core = inputs.measured.get("bore", journal - 2 * wall)
    if core < 0.6 * journal:
        raise InputError(
            f"a sleeve with a wall of {wall:.3g} mm",
            f"at most {0.2 * journal:.3g} mm: the journal keeps three fifths of its diameter",
        )
    joint = pressed(
        core,
        length,
        journal,
        "carbon",
        wanted_mm=number(f, "interference") or max(0.012, 0.0006 * core),
        press_n=inputs.workshop.press_n,
    )
    band = journal_band(inputs, journal, str(f["journal_fit"]))
    rows = _sleeve_rows(inputs, f, core, joint, band)
    enough = number(f, "worn_to") >= joint.spigot_mm + 0.05
    checks = (
        Check(joint.verdict == "holds", joint.words),
        Check.of(
            enough,
            "The worn journal still has metal to clean up.",
            f"The journal is worn below {inputs.size(joint.spigot_mm)}: a thicker sleeve, or a new end.",
        ),
    )
    return (
        (Section("sleeve", "plain", length, journal, band),),
        Section("bore", "plain", length, core),
        rows,
        checks,
    )


def _sleeve_rows(
    inputs: PartInputs, f: Mapping[str, str | float], core: float, joint: Joint, band: Band
) -> tuple[SizeRow, ...]:
    return (
        SizeRow(
            "Turn the worn journal to",
            "size",
            joint.spigot_mm,
            f"it stands at {inputs.size(number(f, 'worn_to'))}",
            True,
            key="journal",
        ),
        SizeRow(
            "Sleeve's bore, measured",
            "size",
            core,
            "bore it first, then turn the journal to suit",
            True,
            key="bore",
        ),
        SizeRow("Interference", "small", joint.interference_mm),
        SizeRow(
            "Press force",
            "text",
            show_force(joint.force_n, inputs.system),
            f"or warm the sleeve to {joint.warm_to_c:.0f} °C"
            if warming(joint.warm_to_c, "plain_steel").is_allowed
            else "cold: warming the sleeve will not do",
        ),
        SizeRow(
            "Outside, turned after pressing", "band", band, "it grows when pressed: finish it there", True
        ),
        SizeRow(
            "Hoop stress in the sleeve",
            "text",
            f"{joint.hoop_mpa:.0f} MPa",
            f"allowed {joint.allowed_mpa:.0f} MPa",
        ),
    )
