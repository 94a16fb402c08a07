"""Cones and linings, cutters' flutes and index plates against certified rows."""

from __future__ import annotations

from collections import defaultdict

import numpy as np
import pytest

from tests.reference import misses, number, rows
from trebb.core.errors import InputError
from trebb.core.friction import cones
from trebb.core.gears import dividing
from trebb.core.runout import flutes
from trebb.core.runout.harmonics import reversal

CONE, PLATE, FLUTE, READ = (
    "15_friction_cones.csv", "18_index_plate.csv", "18_flute_expected.csv", "18_flute_readings.csv",
)  # fmt: skip


def cone(r):
    return cones.Cone(number(r, "big_dia_mm"), number(r, "small_dia_mm"), number(r, "half_angle_deg"))


def rivets(r):
    return int(number(r, "rivets_per_row") * number(r, "rivet_rows"))


def band(r):
    gap = number(r, "butt_gap_mm") if r["butt_gap_mm"] else 0.0
    return cones.straight_band(cone(r), number(r, "lining_min_mm"), number(r, "turning_allowance_mm"), gap)


def pattern(r):
    return cones.flat_pattern(cone(r), number(r, "strip_thickness_mm") if r["strip_thickness_mm"] else 0.0)


F, MU, T, WEAR = "axial_force_N", "mu", "torque_Nm", "lining_wear_mm"


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("axial_width", lambda r: cone(r).axial_mm),
        ("face_width", lambda r: cone(r).face_mm),
        ("contact_area", lambda r: cone(r).area_mm2 / 100),
        ("torque_uniform_wear", lambda r: cone(r).torque_worn_nm(number(r, MU), number(r, F))),
        ("torque_uniform_pressure", lambda r: cone(r).torque_new_nm(number(r, MU), number(r, F))),
        ("torque_axial_friction", lambda r: cone(r).torque_pushed_nm(number(r, MU), number(r, F))),
        ("greatest_pressure_uniform_wear", lambda r: cone(r).greatest_pressure_mpa(number(r, F))),
        ("mean_pressure", lambda r: cone(r).mean_pressure_mpa(number(r, F))),
        ("axial_force_for_torque", lambda r: cone(r).force_for_nm(number(r, T), number(r, MU))),
        ("lets_go_by_itself", lambda r: cone(r).lets_go(number(r, MU))),
        ("least_half_angle", lambda r: cones.least_half_deg(number(r, MU))),
        ("angle_margin", lambda r: cone(r).half_deg - cones.least_half_deg(number(r, MU))),
        ("pull_out_force", lambda r: cone(r).pull_out_n(number(r, MU), number(r, F))),
        ("travel_per_wear", lambda r: cone(r).travel_of_wear(number(r, WEAR))),
        ("dia_change_at_plane", lambda r: cone(r).dia_of_wear(number(r, WEAR))),
        ("wear_left", lambda r: cone(r).wear_of_travel(number(r, "travel_left_mm"))),
        ("engaged_axial_width_after_wear", lambda r: cone(r).engaged_after(number(r, WEAR))),
        ("cylinder_dia_under_band", lambda r: cone(r).small_mm - 2 * number(r, "lining_min_mm")),
        ("band_start_thickness", lambda r: band(r).start_mm),
        ("band_length", lambda r: band(r).length_mm),
        ("band_cut_away", lambda r: band(r).cut_away),
        ("pattern_outer_radius", lambda r: pattern(r).outer_mm),
        ("pattern_inner_radius", lambda r: pattern(r).inner_mm),
        ("pattern_angle", lambda r: pattern(r).angle_deg),
        ("pattern_outer_radius_thick", lambda r: pattern(r).outer_mm),
        ("pattern_inner_radius_thick", lambda r: pattern(r).inner_mm),
        ("blank_width", lambda r: pattern(r).blank_mm(int(r["pieces"]))[0]),
        ("blank_height", lambda r: pattern(r).blank_mm(int(r["pieces"]))[1]),
        ("rivets_needed", lambda r: cone(r).rivets_needed(number(r, "rivet_pitch_max_mm"))),
        ("rivet_pitch", lambda r: cone(r).rivet_pitch_mm(int(r["rivets_per_row"]))),
        ("lining_area_net", lambda r: cone(r).net_area_mm2(rivets(r), number(r, "rivet_head_mm")) / 100),
        (
            "pressure_on_net_area",
            lambda r: cone(r).net_pressure_mpa(number(r, F), rivets(r), number(r, "rivet_head_mm")),
        ),
        ("shear_per_rivet", lambda r: cone(r).rivet_load_n(number(r, T), rivets(r))),
        (
            "rivet_shear_stress",
            lambda r: cones.rivet_shear_mpa(
                cone(r).rivet_load_n(number(r, T), rivets(r)), number(r, "rivet_dia_mm")
            ),
        ),
    ],
)
def test_cone_rows(quantity, value):
    assert not misses(CONE, quantity, value)


def test_a_cone_that_is_none_is_said():
    for call in (
        lambda: cones.Cone(50, 50, 12),
        lambda: cones.Cone(60, 48, 0),
        lambda: cones.half_angle_deg(60, 48, 0),
        lambda: cones.straight_band(cones.Cone(60, 10, 12), 6, 0.5),
        lambda: cones.Cone(60, 58, 30).net_pressure_mpa(300, 40, 12),
    ):
        with pytest.raises(InputError):
            call()


def test_half_angle_and_width_agree():
    c = cones.Cone(60, 48, 12.5)
    assert cones.half_angle_deg(60, 48, c.axial_mm) == pytest.approx(12.5)


def errors(r):
    return dividing.plate_read([float(v) for v in r["errors_arcsec"].split(";")])


RADIUS, WORK, RATIO, OFF = "hole_circle_radius_mm", "work_radius_mm", "worm_ratio", "plate_off_centre_mm"


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("arc_from_angle", lambda r: dividing.arc_mm(number(r, "angle_error_arcsec"), number(r, WORK))),
        ("angle_from_arc", lambda r: dividing.angle_arcsec(number(r, "arc_error_mm"), number(r, WORK))),
        (
            "angle_from_pin_clearance",
            lambda r: dividing.pin_play_arcsec(
                number(r, "pin_clearance_mm"), number(r, RADIUS), number(r, RATIO)
            ),
        ),
        (
            "arc_from_pin_clearance",
            lambda r: dividing.arc_mm(
                dividing.pin_play_arcsec(number(r, "pin_clearance_mm"), number(r, RADIUS), number(r, RATIO)),
                number(r, WORK),
            ),
        ),
        (
            "worst_error_off_centre_plate",
            lambda r: dividing.off_centre_arcsec(number(r, OFF), number(r, RADIUS), number(r, RATIO)),
        ),
        (
            "worst_space_off_centre_plate",
            lambda r: dividing.off_centre_space_arcsec(
                number(r, OFF), number(r, RADIUS), int(r["divisions"])
            ),
        ),
        ("total_error", lambda r: errors(r).total),
        ("worst_space", lambda r: errors(r).worst_space),
        ("first_harmonic", lambda r: abs(errors(r).once)),
        ("total_error_if_centred", lambda r: errors(r).total_if_centred),
        ("plate_off_centre_implied", lambda r: 1000 * errors(r).off_centre_mm(number(r, RADIUS))),
        ("arc_of_total_error", lambda r: dividing.arc_mm(errors(r).total, number(r, WORK))),
    ],
)
def test_plate_rows(quantity, value):
    assert not misses(PLATE, quantity, value)


def read():
    found = defaultdict(list)
    for r in rows(READ):
        found[r["dataset"], r["seating_deg"]].append((number(r, "angle_deg"), number(r, "expected")))
    return found


FLUTES = read()


def flute(r, seat=None):
    found = FLUTES[r["dataset"], seat or r["seating_deg"]]
    return flutes.read_flutes([a for a, _ in found], [v for _, v in found])


def listed(r):
    return [v for _, v in FLUTES[r["dataset"], r["seating_deg"]]]


def over(r):
    found = FLUTES[r["dataset"], r["seating_deg"]]
    return flutes.over_two_flutes(
        [a for a, _ in found], [v / 1000 for _, v in found], number(r, "nominal_dia_mm")
    )


def chips(r):
    return flutes.chips([v / 1000 for v in listed(r)], number(r, "feed_per_tooth_mm"))


def parts(r):
    return reversal(flute(r, "0").once, flute(r, "180").once)


def evenly(r):
    y = listed(r)
    return abs(2 / len(y) * np.sum(np.array(y) * np.exp(2j * np.pi * np.arange(len(y)) / len(y))))


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("off_centre", lambda r: flute(r).off_centre),
        ("off_centre_direction", lambda r: flute(r).direction_deg),
        ("flute_spread", lambda r: flute(r).own_spread),
        ("tir", lambda r: flute(r).tir),
        ("can_tell_apart", lambda r: flute(r).can_tell),
        ("hole_or_slot_oversize", lambda r: flute(r).oversize),
        ("hole_dia", lambda r: number(r, "nominal_dia_mm") + flute(r).oversize / 1000),
        ("largest_over_two_flutes", over),
        ("thickest_chip", lambda r: max(chips(r))),
        ("flutes_cutting", lambda r: sum(c > 0 for c in chips(r))),
        ("off_centre_if_spaced_evenly", evenly),
        ("tool_part", lambda r: abs((flute(r, "0").once + flute(r, "180").once) / 2)),
        ("holder_part", lambda r: abs((flute(r, "0").once - flute(r, "180").once) / 2)),
    ],
)
def test_flute_rows(quantity, value):
    assert not misses(FLUTE, quantity, value)
