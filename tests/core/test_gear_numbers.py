"""Gears against certified rows: named, measured, cut, divided, loaded; bevels tooth by tooth."""

from __future__ import annotations

from collections import defaultdict

import numpy as np
import pytest

from tests.reference import misses, number, rows
from trebb.core.errors import InputError
from trebb.core.gears import bevel, cutting, dividing, naming, strength
from trebb.core.gears.teeth import Pair, Spur, play_of_indicator, play_of_rock

NAME, SIZE, CUT, LOAD = (f"14_gear_{n}.csv" for n in ("naming", "measure", "cutting", "strength"))
PAIR, TEETH, READ = "10_bevel_pair.csv", "14_bevel_teeth_expected.csv", "14_bevel_teeth_readings.csv"


def maybe(r, key):
    return number(r, key) if r[key] else None


def sizes(r):
    return naming.GearSizes(
        int(r["teeth"]),
        maybe(r, "outside_dia_mm"),
        maybe(r, "whole_depth_mm"),
        int(r["span_teeth"] or 0),
        maybe(r, "span_k_mm"),
        maybe(r, "span_k_plus_1_mm"),
        int(r["mate_teeth"] or 0),
        maybe(r, "centre_distance_mm"),
    )


def module_of(size):
    return 25.4 / float(size[2:]) if size.startswith("DP") else float(size[1:])


def nominal(r):
    a = maybe(r, "addendum_factor") or 1.0
    angle = maybe(r, "pressure_angle_deg") or 20.0
    depth = 1.8 if a < 1 else 2.157 if angle < 15 else 2.25
    return Spur(int(r["teeth"]), module_of(r["size"]), angle, a, depth)


def traced(r):
    return naming.helix_of_trace(
        number(r, "tip_trace_angle_deg"), number(r, "normal_module_mm"), number(r, "outside_dia_mm")
    )


def least_squares(r):
    found = naming.least_squares_name(
        naming.GearSizes(*(getattr(sizes(r), k) for k in ("teeth", "outside_mm", "depth_mm", "span_teeth",
                                                          "span_mm", "span_more_mm")))
    )  # fmt: skip
    return found.key


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("base_pitch", lambda r: sizes(r).base_pitch_mm),
        ("module_times_cos", lambda r: sizes(r).base_pitch_mm / np.pi),
        ("module_if_full_depth", lambda r: number(r, "outside_dia_mm") / (number(r, "teeth") + 2)),
        ("gear_name", least_squares),
        ("outside_dia_nominal", lambda r: nominal(r).outside_dia_mm),
        ("outside_dia_lost", lambda r: nominal(r).outside_dia_mm - number(r, "outside_dia_mm")),
        ("whole_depth_nominal", lambda r: nominal(r).depth * nominal(r).module_mm),
        (
            "tooth_thinning",
            lambda r: nominal(r).thinning_of_span(int(r["span_teeth"]), number(r, "span_k_mm")),
        ),
        ("module_from_centre_distance", lambda r: sizes(r).module_by_centres),
        (
            "centre_distance_over_nominal",
            lambda r: (
                number(r, "centre_distance_mm")
                - module_of(r["size"]) * (number(r, "teeth") + number(r, "mate_teeth")) / 2
            ),
        ),
        (
            "helix_from_outside_dia",
            lambda r: naming.helix_of_outside(
                int(r["teeth"]), number(r, "normal_module_mm"), number(r, "outside_dia_mm")
            ),
        ),
        ("helix_from_tip_trace", lambda r: traced(r)),
    ],
)
def test_naming_rows(quantity, value):
    assert not misses(NAME, quantity, value)


def test_every_naming_row_is_of_a_tested_quantity():
    left = {r["quantity"] for r in rows(NAME)} - {
        "base_pitch", "module_times_cos", "module_if_full_depth", "gear_name", "outside_dia_nominal",
        "outside_dia_lost", "whole_depth_nominal", "tooth_thinning", "module_from_centre_distance",
        "centre_distance_over_nominal", "helix_from_outside_dia", "helix_from_tip_trace",
        "module_if_stub", "diametral_pitch_if_full_depth", "pressure_angle_from_base_pitch",
    }  # fmt: skip
    assert left <= {"centre_distance_pair"}, left
    assert not misses(
        NAME, "module_if_stub", lambda r: number(r, "outside_dia_mm") / (number(r, "teeth") + 1.6)
    )
    assert not misses(
        NAME,
        "centre_distance_pair",
        lambda r: naming.helical_centres_mm(
            number(r, "normal_module_mm"),
            int(r["teeth"]),
            int(r["mate_teeth"]),
            traced(r),
        ),
    )
    assert not misses(
        NAME,
        "diametral_pitch_if_full_depth",
        lambda r: 25.4 * (number(r, "teeth") + 2) / number(r, "outside_dia_mm"),
    )
    assert not misses(
        NAME,
        "pressure_angle_from_base_pitch",
        lambda r: np.degrees(np.arccos(sizes(r).base_pitch_mm / (np.pi * module_of(r["size"])))),
    )


def wheel(r, *, thin=True):
    a = maybe(r, "addendum_factor") or 1.0
    angle = number(r, "pressure_angle_deg")
    depth = 1.8 if a < 1 else 2.157 if angle < 15 else 2.25
    lost = (maybe(r, "thinning_mm") or 0.0) if thin else 0.0
    return Spur(int(r["teeth"]), number(r, "module_mm"), angle, a, depth, lost)


def pair(r):
    one = wheel(r)
    mate = Spur(
        int(r["mate_teeth"]), one.module_mm, one.angle_deg, one.addendum, one.depth,
        maybe(r, "mate_thinning_mm") or 0.0,
    )  # fmt: skip
    return Pair(one, mate)


C = "centre_distance_mm"


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("span_teeth_to_use", lambda r: wheel(r).span_teeth),
        ("span", lambda r: wheel(r).span_mm(int(r["span_teeth"]))),
        ("span_thinned", lambda r: wheel(r).span_mm(int(r["span_teeth"]))),
        (
            "thinning_from_span",
            lambda r: wheel(r).thinning_of_span(int(r["span_teeth"]), number(r, "span_mm")),
        ),
        ("chordal_thickness", lambda r: wheel(r).chordal_thickness_mm),
        ("chordal_addendum", lambda r: wheel(r).chordal_addendum_mm),
        ("tip_thickness", lambda r: wheel(r).tip_thickness_mm),
        ("over_pins", lambda r: wheel(r).over_pins_mm(number(r, "pin_dia_mm"))),
        ("over_pins_thinned", lambda r: wheel(r).over_pins_mm(number(r, "pin_dia_mm"))),
        (
            "thinning_from_pins",
            lambda r: wheel(r).thinning_of_pins(number(r, "pin_dia_mm"), number(r, "over_pins_mm")),
        ),
        ("centre_distance_nominal", lambda r: pair(r).centres_mm),
        ("working_pressure_angle", lambda r: pair(r).working_angle_deg(number(r, C))),
        ("backlash", lambda r: pair(r).lash_mm(number(r, C))),
        ("backlash_first_order", lambda r: pair(r).lash_first_order_mm(number(r, C))),
        ("backlash_normal", lambda r: pair(r).feeler_mm(number(r, C))),
        ("rock_angle", lambda r: pair(r).rock_deg(number(r, C))),
        ("play_from_rock", lambda r: play_of_rock(number(r, "rock_deg"), pair(r).other.pitch_dia_mm)),
        (
            "play_from_indicator",
            lambda r: play_of_indicator(
                number(r, "indicator_reading_mm"),
                number(r, "indicator_radius_mm"),
                pair(r).other.pitch_dia_mm,
            ),
        ),
        ("centre_for_backlash", lambda r: pair(r).centres_for(number(r, "backlash_mm"))),
        ("centre_shift_first_order", lambda r: pair(r).centre_shift_first_order_mm(number(r, "backlash_mm"))),
        (
            "tip_clearance_left",
            lambda r: pair(r).tip_clearance_mm(pair(r).centres_for(number(r, "backlash_mm"))),
        ),
    ],
)
def test_measuring_rows(quantity, value):
    assert not misses(SIZE, quantity, value)


def set_of(r):
    return r["cutter_set"] or "DP"


def circles(r):
    return [int(c) for c in r["hole_circles"].split(";")]


def divide(r):
    return int(r["divisions"]), int(r["head_ratio"]), circles(r)


def exact_words(r):
    found = dividing.exact_settings(*divide(r))
    if not found:
        return "none"
    return ";".join(f"{s.circle}:{s.holes}" if s.circle else "0" for s in found)


def bevel_of(r):
    return bevel.bevel_blank(int(r["teeth"]), int(r["mate_teeth"]), maybe(r, "module_mm") or 1.0)


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("cutter_number", lambda r: cutting.cutter_words(number(r, "teeth"), set_of(r))),
        (
            "cutter_number_half_set",
            lambda r: cutting.cutter_words(number(r, "teeth"), set_of(r), halves=True),
        ),
        ("pitch_angle_90", lambda r: bevel_of(r).pitch_angle_deg),
        ("virtual_teeth", lambda r: bevel_of(r).virtual_teeth),
        ("bevel_cutter", lambda r: cutting.cutter_words(bevel_of(r).virtual_teeth)),
        ("bevel_cutter_if_actual_teeth", lambda r: cutting.cutter_words(number(r, "teeth"))),
        ("bevel_outside_dia", lambda r: bevel_of(r).outside_dia_mm),
        ("bevel_face_angle", lambda r: bevel_of(r).face_angle_deg),
        ("bevel_cutting_angle", lambda r: bevel_of(r).cutting_angle_deg),
        (
            "bevel_module_small_end",
            lambda r: bevel_of(r).small_module_mm(number(r, "module_mm"), number(r, "face_mm")),
        ),
        ("bevel_face_greatest", lambda r: bevel_of(r).greatest_face_mm),
        (
            "virtual_teeth_helical",
            lambda r: cutting.virtual_teeth_helical(int(r["teeth"]), number(r, "helix_deg")),
        ),
        (
            "helical_cutter",
            lambda r: cutting.cutter_words(
                cutting.virtual_teeth_helical(int(r["teeth"]), number(r, "helix_deg"))
            ),
        ),
        (
            "turns_per_division",
            lambda r: dividing.turns_per_division(int(r["divisions"]), int(r["head_ratio"])),
        ),
        ("exact_settings", exact_words),
        ("whole_turns", lambda r: int(r["head_ratio"]) // int(r["divisions"])),
        (
            "nearest_setting",
            lambda r: "{0.circle}:{0.holes}".format(dividing.nearest_setting(*divide(r))),
        ),
        ("step_error", lambda r: dividing.nearest_setting(*divide(r)).step_arcsec),
        ("closing_error", lambda r: dividing.nearest_setting(*divide(r)).closing_arcsec / 60),
        (
            "closing_error_at_radius",
            lambda r: dividing.arc_mm(
                dividing.nearest_setting(*divide(r)).closing_arcsec, number(r, "radius_mm")
            ),
        ),
        ("rounding_each_circle", lambda r: str(dividing.rounded_settings(*divide(r)).circle)),
        ("rounding_each_worst_error", lambda r: dividing.rounded_settings(*divide(r)).worst_arcsec),
    ],
)
def test_cutting_rows(quantity, value):
    assert not misses(CUT, quantity, value)


def test_rounded_settings_come_round_to_the_start():
    found = dividing.rounded_settings(127)
    assert len(found.settings) == 127
    assert sum(s.whole * found.circle + s.holes for s in found.settings) == 40 * found.circle


def lewis(r, teeth="teeth"):
    return strength.lewis_y(number(r, teeth), r["form"])


def factor(r):
    speed = strength.pitch_speed_m_s(number(r, "module_mm"), number(r, "teeth"), number(r, "rpm"))
    return strength.velocity_factor(speed, "cast" if r["tooth_maker"] == "cast" else "cut")


def loaded(r):
    m = number(r, "module_mm")
    return strength.pair_strength(
        Spur(int(r["teeth"]), m),
        Spur(int(r["mate_teeth"]), m),
        r["form"],
        number(r, "face_mm"),
        number(r, "allow_MPa"),
        number(r, "mate_allow_MPa"),
        maybe(r, "rpm") or 0.0,
        "cast" if r["tooth_maker"] == "cast" else "cut",
    )


def tooth(r, teeth="teeth", allow="allow_MPa"):
    return strength.tooth_load_n(
        number(r, allow), number(r, "face_mm"), number(r, "module_mm"), lewis(r, teeth)
    )


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("lewis_Y", lewis),
        ("lewis_Y_mate", lambda r: lewis(r, "mate_teeth")),
        ("lewis_Y_by_formula", lambda r: strength.lewis_y_by_formula(number(r, "teeth"), r["form"])),
        (
            "pitch_line_speed",
            lambda r: strength.pitch_speed_m_s(number(r, "module_mm"), number(r, "teeth"), number(r, "rpm")),
        ),
        ("velocity_factor", factor),
        ("tooth_load_at_rest", tooth),
        ("mate_tooth_load_at_rest", lambda r: tooth(r, "mate_teeth", "mate_allow_MPa")),
        ("weak_member", lambda r: loaded(r).weak),
        ("torque_limit", lambda r: loaded(r).torque_running_nm),
        ("mate_torque_limit", lambda r: loaded(r).mate_torque_running_nm),
        ("torque_limit_at_rest", lambda r: loaded(r).torque_at_rest_nm),
        ("tooth_load_worn", lambda r: strength.worn_load_n(tooth(r), number(r, "thickness_ratio"))),
        (
            "face_for_torque",
            lambda r: strength.face_for_torque(
                number(r, "torque_Nm"), number(r, "module_mm"), number(r, "teeth"), number(r, "allow_MPa"),
                lewis(r), factor(r),
            ),
        ),
    ],
)  # fmt: skip
def test_strength_rows(quantity, value):
    assert not misses(LOAD, quantity, value)


def around():
    found = defaultdict(list)
    for r in rows(READ):
        found[r["dataset"], r["seating_deg"]].append((int(r["tooth"]), number(r, "expected")))
    return {key: [v for _, v in sorted(values)] for key, values in found.items()}


AROUND = around()


def read_of(r, *, both=False):
    readings = AROUND[r["dataset"], r["seating_deg"]]
    z = int(r["gear_teeth"])
    return bevel.split_teeth(z, range(z), readings, int(r["pinion_teeth"]) if both else 0)


def seats(r):
    z = int(r["gear_teeth"])
    return bevel.reseated(*(bevel.once_round(z, AROUND[r["dataset"], s]) for s in ("0", "180")))


def quarters(r):
    z = int(r["gear_teeth"])
    return bevel.once_of_quarters([AROUND[r["dataset"], r["seating_deg"]][n] for n in bevel.quarter_teeth(z)])


def at(r):
    return number(r, "pressure_angle_deg"), number(r, "pitch_angle_deg")


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("mean", lambda r: read_of(r).mean),
        ("spread", lambda r: read_of(r).spread),
        ("tightest_tooth", lambda r: read_of(r).tightest),
        ("first_harmonic", lambda r: abs(read_of(r).once)),
        ("first_harmonic_tooth", lambda r: read_of(r).once_tooth),
        ("tooth_to_tooth_spread", lambda r: read_of(r).own_spread),
        ("tooth_to_tooth_rms", lambda r: read_of(r).own_rms),
        ("greatest_step", lambda r: read_of(r).greatest_step),
        ("gear_harmonic_beside_pinion", lambda r: abs(read_of(r, both=True).once)),
        ("pinion_harmonic", lambda r: abs(read_of(r, both=True).pinion)),
        ("spread_after_both", lambda r: read_of(r, both=True).own_spread),
        ("eccentricity_equivalent", lambda r: bevel.eccentricity_of(abs(read_of(r).once), *at(r))),
        ("face_wobble_equivalent", lambda r: bevel.wobble_of(abs(read_of(r).once), *at(r))),
        (
            "spacer_change",
            lambda r: bevel.shift_toward_apex_mm(read_of(r).mean, number(r, "target_um"), *at(r)),
        ),
        (
            "least_after_shift",
            lambda r: bevel.after_shift(
                np.array(read_of(r).readings), read_of(r).mean, number(r, "target_um")
            ),
        ),
        ("first_harmonic_from_quarters", quarters),
        ("gear_part", lambda r: abs(seats(r)[0])),
        ("seat_part", lambda r: abs(seats(r)[1])),
    ],
)
def test_bevel_teeth_rows(quantity, value):
    assert not misses(TEETH, quantity, value)


def cones(r):
    return bevel.pitch_angles_deg(int(r["z_pinion"]), int(r["z_gear"]), number(r, "shaft_angle_deg"))


def listed(r):
    return np.array([float(v) for v in r["readings_um"].split(";")])


def moved(r):
    return number(r, "pressure_angle_deg"), cones(r)[0 if r["member_moved"] == "pinion" else 1]


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("pitch_cone_angle_pinion", lambda r: cones(r)[0]),
        ("pitch_cone_angle_gear", lambda r: cones(r)[1]),
        (
            "cone_distance",
            lambda r: bevel.cone_distance_mm(number(r, "module_mm"), int(r["z_pinion"]), cones(r)[0]),
        ),
        ("mean_backlash", lambda r: listed(r).mean()),
        ("backlash_variation", lambda r: np.ptp(listed(r))),
        (
            "axial_shift_toward_apex",
            lambda r: bevel.shift_toward_apex_mm(
                listed(r).mean(), number(r, "target_backlash_um"), *moved(r)
            ),
        ),
        ("backlash_change_per_10um_axial", lambda r: -10 * bevel.lash_per_mm(*moved(r))),
        (
            "min_backlash_after_shift",
            lambda r: bevel.after_shift(listed(r), listed(r).mean(), number(r, "target_backlash_um")),
        ),
    ],
)
def test_bevel_pair_rows(quantity, value):
    assert not misses(PAIR, quantity, value)


def test_what_cannot_be_is_said():
    for call in (
        lambda: Spur(3, 2.0),
        lambda: Spur(20, -1.0),
        lambda: Pair(Spur(20, 2.0), Spur(30, 2.5)),
        lambda: Pair(Spur(20, 2.0), Spur(30, 2.0)).lash_mm(40.0),
        lambda: Spur(20, 2.0).thinning_of_pins(3.5, 30.0),
        lambda: bevel.pitch_angles_deg(20, 40, 0.0),
        lambda: bevel.split_teeth(20, (0, 1), (1.0, 2.0)),
        lambda: dividing.direct_step(14, 60),
        lambda: naming.name_gear(naming.GearSizes(20)),
        lambda: strength.lewis_y(8, "20 full"),
    ):
        with pytest.raises(InputError):
            call()


def test_teeth_miscounted_by_one_fit_nothing_and_it_says_so():
    true = naming.named("DP16 14.5 full").spur(40)
    found = naming.name_gear(
        naming.GearSizes(41, true.outside_dia_mm, None, 4, true.span_mm(4), true.span_mm(5))
    )
    assert not found.is_sure
    assert "with 40" in found.trouble


def worn_gears(count, rng):
    """Worn gears drawn without the weights that name them: every size, every system, wear one-sided."""
    names = list(naming.candidates())
    for _ in range(count):
        name = names[rng.integers(len(names))]
        z = int(rng.integers(14, 90))
        gear = name.spur(z)
        k = gear.span_teeth
        lost = rng.uniform(0, 0.06) * gear.module_mm
        tip = rng.uniform(0, 0.004) * gear.outside_dia_mm
        read = rng.normal(0, 0.008, 2)
        thin = name.spur(z, lost)
        yield (
            name,
            naming.GearSizes(
                z,
                gear.outside_dia_mm - tip + rng.normal(0, 0.02),
                name.form.depth * name.module_mm * (1 + rng.normal(0, 0.03)),
                k,
                thin.span_mm(k) + read[0],
                thin.span_mm(k + 1) + read[1],
            ),
        )


def test_worn_gears_are_named_and_never_surely_wrong():
    rng = np.random.default_rng(4)
    right = sure_wrong = total = 0
    for name, read in worn_gears(2000, rng):
        found = naming.name_gear(read)
        total += 1
        hit = found.best.key == name.key
        right += hit
        sure_wrong += found.is_sure and not hit
    print(f"first {right / total:.3f}, sure and wrong {sure_wrong / total:.4f}")
    assert right >= 0.97 * total
    assert sure_wrong <= 0.01 * total


def test_runout_is_told_from_the_teeth_with_an_honest_interval():
    """500 gears: the interval on what goes once a turn holds the truth."""
    rng = np.random.default_rng(9)
    inside = 0
    for _ in range(500):
        z, zp = int(rng.integers(16, 60)), int(rng.integers(12, 30))
        once = rng.uniform(0, 60) * np.exp(2j * np.pi * rng.random())
        pinion = rng.uniform(0, 25) * np.exp(2j * np.pi * rng.random())
        if z % zp == 0 or zp % z == 0:
            pinion = 0
        turn = 2 * np.pi * np.arange(z) / z
        own = rng.laplace(0, rng.uniform(2, 9), z)
        y = 150 + (once * np.exp(-1j * turn)).real + (pinion * np.exp(-1j * turn * z / zp)).real + own
        found = bevel.split_teeth(z, range(z), y, zp)
        inside += found.once_size.low <= abs(once) <= found.once_size.high
    assert 0.90 <= inside / 500 <= 0.99
