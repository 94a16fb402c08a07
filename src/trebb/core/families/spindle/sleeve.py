"""A sleeve on a worn journal or in a worn housing of a spindle."""

from __future__ import annotations

from msgspec import Struct

from trebb.core.dual_units import show_force
from trebb.core.families.spindle.subject import Spindle
from trebb.core.fits import (
    CAST_IRON,
    STEEL,
    cool_shaft_to_slip_c,
    fit,
    heat_hub_to_slip_c,
    hole_limits,
    it_um,
    press_fit,
    shaft_limits,
)
from trebb.core.fits.warming import Warming, warming
from trebb.core.metals import Material, material
from trebb.core.parts.base import (
    Check,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    band_of,
    facts_of,
    length_check,
    material_field,
    number,
)
from trebb.core.parts.turned import broken_ends
from trebb.core.threads import Band
from trebb.core.units import show_small

SLIP_MM = 0.02
ROOM_C = 20.0
REMINDER = (
    "The machine being repaired cannot cut its own spindle's parts while it is stripped: another lathe, or "
    "before it comes apart."
)
WHERE = {
    "front journal": "front journal",
    "rear journal": "rear journal",
    "front housing": "front housing",
    "quill": "quill's bore in the head",
}


def _sleeve_seat(s: Spindle, where: str) -> tuple[float, bool, float]:
    """Finished diameter, whether the sleeve goes inside something, length."""
    return {
        "front journal": (s.front_bore_mm, False, s.bearing_width_mm * 2),
        "rear journal": (s.rear_bore_mm, False, s.bearing_width_mm * 2),
        "front housing": (s.front_outside_mm, True, s.bearing_width_mm * 2),
        "quill": (min(120.0, s.front_outside_mm + 16), True, 120.0),
    }[where]


def sleeve_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Where it goes, wall, length, interference, the press at hand."""
    s = inputs.about(Spindle)
    loose = {
        seat: inputs.measured[f"loose.{seat}"]
        for seat in ("front journal", "rear journal", "front housing")
        if f"loose.{seat}" in inputs.measured
    }
    where = str(inputs.facts.get("where", max(loose, key=lambda k: loose[k]) if loose else "front journal"))
    finished, inside, length = _sleeve_seat(s, where if where in WHERE else "front journal")
    wall = max(1.5, 0.05 * finished)
    seat = finished + 2 * wall if inside else finished - 2 * wall
    usual = -fit(min(seat, 120.0), "H7", "p6").mean_clearance_um / 1000
    return (
        material_field("carbon"),
        PartField("where", "Where", where, WHERE),
        PartField("finished", "Finished diameter", finished, low_mm=5, high_mm=120),
        PartField("wall", "Wall, finished", wall, low_mm=0.8, high_mm=20, is_free=True),
        PartField("length", "Length", length, low_mm=5, high_mm=300),
        PartField(
            "interference", "Interference", usual, low_mm=0.0, high_mm=0.3, is_small=True, is_free=True
        ),
        PartField("allowance", "Left to finish", 0.3, low_mm=0.0, high_mm=2, is_free=True),
        PartField(
            "press",
            "Press at hand",
            "5",
            {"2": "2 tonnes", "5": "5 tonnes", "10": "10 tonnes", "20": "20 tonnes"},
        ),
    )


class _Sleeve(Struct, frozen=True):
    """A sleeve worked out: sizes mm on diameter, stress MPa, temperatures °C, force N."""

    where: str
    inside: bool
    metal: Material
    finished: float
    wall: float
    length: float
    delta: float
    left: float
    seat: float
    turned: float
    ready: float
    after: float
    stress: float
    force_n: float
    pressure: float
    warm: float
    chill: float
    press_t: float

    @property
    def tolerance(self) -> float:
        """Half of what a turned seat is held within, mm: half IT6."""
        return it_um(min(self.turned, 120.0), 6) / 2000

    @property
    def mating(self) -> float:
        """Size of the sleeve where it meets the seat as it is, mm."""
        return self.turned + self.delta if self.inside else self.turned - self.delta

    @property
    def warming(self) -> Warming:
        """What warming the outer so far comes to: the sleeve on a journal, the housing or quill round one."""
        outer = "untested" if self.where == "quill" else "iron" if self.inside else self.metal.key
        return warming(ROOM_C + self.warm, outer)

    @property
    def zone(self) -> str:
        """ISO 286 zone that the bearing wants of it."""
        return {"quill": "H7", "front housing": "JS6"}.get(self.where, "k5")


def _worked_out(inputs: PartInputs) -> _Sleeve:
    """On a journal the sleeve is Lamé's hub, in a housing its shaft, and its bore closes by nearly the
    interference: so it is finished after it is in.
    """
    f = facts_of(sleeve_fields(inputs), inputs.facts)
    where = str(f["where"])
    finished, wall, length, delta, left = (
        number(f, k) for k in ("finished", "wall", "length", "interference", "allowance")
    )
    _, inside, _ = _sleeve_seat(inputs.about(Spindle), where)
    seat = finished + 2 * wall if inside else finished - 2 * wall
    turned = inputs.measured.get("turned", seat)
    if inside:
        result = press_fit(
            dia_mm=turned, shaft_bore_mm=finished - left, hub_outside_mm=turned + 40, length_mm=length,
            interference_mm=delta, hub=CAST_IRON,
        )  # fmt: skip
        hub, stress, ready = CAST_IRON, abs(result.shaft_hoop_inside_mpa), finished - left
        after = ready - result.bore_closure_mm
    else:
        result = press_fit(
            dia_mm=turned, shaft_bore_mm=0.4 * turned, hub_outside_mm=finished + left, length_mm=length,
            interference_mm=delta,
        )  # fmt: skip
        hub, stress, ready = STEEL, result.von_mises_mpa, finished + left
        after = ready + result.outside_growth_mm
    return _Sleeve(
        where, inside, material(str(f["material"])), finished, wall, length, delta, left, seat, turned,
        ready, after, stress, result.force_n,
        result.pressure_mpa, heat_hub_to_slip_c(turned, delta, SLIP_MM, hub.expansion_per_c),
        cool_shaft_to_slip_c(turned, delta, SLIP_MM, STEEL.expansion_per_c), float(str(f["press"])),
    )  # fmt: skip


def sleeve(inputs: PartInputs) -> Part:
    """A sleeve on a worn journal or in a worn housing: wall, interference, what it does to both, heat and
    force.
    """
    s = _worked_out(inputs)
    outer, inner = (s.mating, s.ready) if s.inside else (s.ready, s.mating)
    own = Band(s.mating - s.tolerance, s.mating + s.tolerance)
    return Part(
        "sleeve",
        f"Sleeve for the {WHERE[s.where]}",
        s.metal,
        f"bar {inputs.bar(outer + 3)}, {inputs.size(s.length)} long",
        (Section("sleeve", "plain", s.length, outer, own if s.inside else None),),
        Section("bore", "plain", s.length, inner, None if s.inside else own),
        _sleeve_rows(s, inputs),
        _sleeve_checks(s, inputs),
        (
            "Look for an earlier sleeve before cutting: ring it with a fingernail.",
            "Finish in place, on the spindle's own centres or the housing's own bore.",
        ),
        construction="inside" if s.inside else "outside",
        features=broken_ends(s.length),
        blanks=2,
    )


def _sleeve_rows(s: _Sleeve, inputs: PartInputs) -> tuple[SizeRow, ...]:
    limits = hole_limits(s.finished, s.zone) if s.zone[0].isupper() else shaft_limits(s.finished, s.zone)
    measured = "measured" if "turned" in inputs.measured else "planned; measure it as cut and this follows"
    return (
        SizeRow(
            "Seat, turned down" if not s.inside else "Seat, bored out",
            "band",
            Band(s.seat - s.tolerance, s.seat + s.tolerance),
            "clean it up, then measure",
            True,
            key="seat",
        ),
        SizeRow(
            "Sleeve bore" if not s.inside else "Sleeve outside",
            "band",
            Band(s.mating - s.tolerance, s.mating + s.tolerance),
            f"to the seat as {measured}",
            True,
            key="sleeve",
        ),
        SizeRow("Interference", "small", s.delta, "on diameter"),
        SizeRow(
            "Sleeve bore before" if s.inside else "Sleeve outside before",
            "size",
            s.ready,
            f"{show_small(s.left, inputs.system)} left to finish",
        ),
        SizeRow(
            "closes to" if s.inside else "grows to",
            "size",
            s.after,
            f"by {show_small(abs(s.after - s.ready), inputs.system)}",
        ),
        SizeRow("Finished in place", "band", band_of(limits), f"ISO 286 {s.zone}", True, key="finished"),
        SizeRow("Pressure", "text", f"{s.pressure:.0f} MPa"),
        SizeRow("Hoop stress in the sleeve", "text", f"{s.stress:.0f} of {s.metal.stands_mpa:.0f} MPa"),
        SizeRow("To press it, dry", "text", show_force(s.force_n, inputs.system)),
        SizeRow(
            "Warm the outer by" if s.warming.is_allowed else "Warming alone will not do",
            "text",
            f"{s.warm:.0f} °C over the inner",
            f"{show_small(SLIP_MM, inputs.system)} of slip; {s.warming.most_c:.0f} °C at the most",
            True,
        ),
        SizeRow("or chill the inner by", "text", f"{-s.chill:.0f} °C"),
    )


def _sleeve_checks(s: _Sleeve, inputs: PartInputs) -> tuple[Check, ...]:
    press_kn = s.press_t * 9.80665
    fits_press = s.force_n / 1000 <= 0.8 * press_kn
    thick = s.wall >= 0.03 * s.finished
    strong = s.stress <= 0.8 * s.metal.stands_mpa
    return (
        length_check(inputs, "sleeve", s.length, s.finished),
        Check.of(
            strong,
            f"The sleeve stands the pressure: {s.stress:.0f} of {s.metal.stands_mpa:.0f} MPa.",
            f"{s.stress:.0f} MPa is more than {s.metal.label} stands ({s.metal.stands_mpa:.0f}): "
            "less interference, a stronger metal, or retaining compound.",
        ),
        Check.of(
            fits_press,
            f"The press of {show_force(1000 * press_kn, inputs.system)} does it with "
            f"{show_force(1000 * press_kn - s.force_n, inputs.system)} over.",
            f"The press of {show_force(1000 * press_kn, inputs.system)} is too small for "
            f"{show_force(s.force_n, inputs.system)}: "
            "warm the outer instead.",
        ),
        Check(
            s.warming.is_allowed,
            s.warming.words(s.chill),
        ),
        Check.of(
            thick,
            f"The wall of {inputs.size(s.wall)} will not spring in the lathe.",
            f"A wall of {inputs.size(s.wall)} "
            f"springs when it is held: {inputs.size(0.03 * s.finished)} at least.",
        ),
        Check.of(
            s.delta > 0.008,
            "Interference enough to hold.",
            "Less than 8 µm works loose: knurl it, "
            "use retaining compound (let it cure), or a tighter sleeve.",
        ),
        Check.of(
            s.left > abs(s.after - s.ready),
            "What is left to finish is more than the size changes in place.",
            "It changes by more than is left to finish: leave more.",
        ),
    )


FAMILY = PartFamily("sleeve", "Sleeve", sleeve_fields, sleeve, "spindle", REMINDER, made_on_it=True)
