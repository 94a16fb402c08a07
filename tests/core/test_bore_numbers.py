"""Bores, bushes, tapers, keys and pins against certified rows."""

from __future__ import annotations

from collections import defaultdict

import pytest

from tests.reference import misses, number, rows
from trebb.core.bores import bushes, shape, tapers
from trebb.core.errors import InputError
from trebb.core.fits import drills, keys, machine_tapers, taper_pins
from trebb.core.fits.press import Elastic, press_fit

BORE, READ, BUSH = "16_bore_expected.csv", "16_bore_readings.csv", "16_bushes_sleeves.csv"
PIN, NEXT, KEY = "11_taper_pins.csv", "18_taper_pin_next.csv", "11_keys.csv"
TAPER, GROUND = "11_machine_tapers.csv", "18_taper_bores.csv"


def bores():
    found = defaultdict(lambda: defaultdict(list))
    for r in rows(READ):
        found[r["dataset"]][number(r, "depth_mm")].append((number(r, "angle_deg"), number(r, "expected")))
    return found


READINGS = bores()


def section(r):
    found = READINGS[r["dataset"]][number(r, "depth_mm")]
    return shape.section([a for a, _ in found], [d for _, d in found])


def means(r):
    depths = sorted(READINGS[r["dataset"]])
    return depths, [
        shape.section(
            [a for a, _ in READINGS[r["dataset"]][z]], [d for _, d in READINGS[r["dataset"]][z]]
        ).mean_mm
        for z in depths
    ]


def largest(r):
    return max(
        ((d, z, a) for z, found in READINGS[r["dataset"]].items() for a, d in found), key=lambda one: one[0]
    )


def radii(r):
    found = READINGS[r["dataset"]][number(r, "depth_mm")]
    return shape.radii([a for a, _ in found], [1000 * v for _, v in found])


def cleaned(r):
    found = [one for z in READINGS[r["dataset"]].values() for one in z]
    return shape.clean_up([a for a, _ in found], [v for _, v in found])


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("mean_dia", lambda r: section(r).mean_mm),
        ("ovality", lambda r: 1000 * section(r).spread_mm),
        ("ovality_fitted", lambda r: 1000 * section(r).oval_mm),
        ("long_axis", lambda r: section(r).long_deg),
        ("taper", lambda r: 1e5 * shape.taper_per_mm(*means(r))),
        ("taper_end_to_end", lambda r: 1000 * (means(r)[1][-1] - means(r)[1][0])),
        ("barrel", lambda r: 1000 * shape.barrel_mm(*means(r))),
        ("largest_dia", lambda r: largest(r)[0]),
        ("largest_dia_depth", lambda r: largest(r)[1]),
        ("largest_dia_direction", lambda r: largest(r)[2]),
        ("wear", lambda r: 1000 * shape.wear_mm(largest(r)[0], number(r, "unworn_dia_mm"))),
        (
            "swing_of_diameter",
            lambda r: shape.gauge_swing(
                int(r["lobes"]), number(r, "lobe_amplitude_um"), int(r["gauge_points"])
            ),
        ),
        ("centre_offset", lambda r: abs(radii(r).centre)),
        ("form_error", lambda r: radii(r).form),
        ("three_lobe_amplitude", lambda r: radii(r).three_lobes),
        ("cleanup_original_axis", lambda r: cleaned(r).about_axis_mm),
        ("cleanup_own_centre", lambda r: cleaned(r).own_centre_mm),
        ("axis_moves_x", lambda r: 1000 * cleaned(r).moves_mm.real),
        ("axis_moves_y", lambda r: 1000 * cleaned(r).moves_mm.imag),
        ("metal_saved", lambda r: 1000 * cleaned(r).saved_mm),
    ],
)
def test_shape_of_a_bore(quantity, value):
    assert not misses(BORE, quantity, value)


def elastic(r, which):
    return Elastic(1000 * number(r, f"E_{which}_GPa"), number(r, f"nu_{which}"), 0.0)


def pressed_in(r):
    return (
        number(r, "housing_bore_mm"),
        number(r, "housing_od_mm"),
    )


def closes(r):
    return bushes.closure_mm(
        *pressed_in(r),
        number(r, "bush_bore_mm"),
        number(r, "interference_um") / 1000,
        elastic(r, "bush"),
        elastic(r, "housing"),
    )


def before(r):
    d = number(r, "finished_dia_mm")
    return bushes.bore_before_pressing_mm(
        d,
        bushes.ream_allowance_mm(d),
        *pressed_in(r),
        number(r, "interference_um") / 1000,
        elastic(r, "bush"),
        elastic(r, "housing"),
    )


def speed(r):
    return bushes.speed_m_s(number(r, "finished_dia_mm"), number(r, "rpm"))


def fit_of(r):
    return bushes.running_fit(speed(r), by_hand=r["by_hand"] == "true")


def turned(r, *, before="journal_dia_mm"):
    return number(r, before), number(r, "turned_dia_mm"), number(r, "shaft_bore_mm")


def sleeve(r):
    return press_fit(
        dia_mm=number(r, "turned_dia_mm"),
        shaft_bore_mm=number(r, "shaft_bore_mm"),
        hub_outside_mm=number(r, "sleeve_od_mm"),
        length_mm=1,
        interference_mm=number(r, "interference_um") / 1000,
        shaft=elastic(r, "shaft"),
        hub=elastic(r, "sleeve"),
    )


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("ream_allowance", lambda r: bushes.ream_allowance_mm(number(r, "finished_dia_mm"))),
        (
            "hand_ream_allowance",
            lambda r: bushes.ream_allowance_mm(number(r, "finished_dia_mm"), by_hand=True),
        ),
        (
            "bush_od",
            lambda r: bushes.bush_outside_mm(
                number(r, "housing_bore_mm"), number(r, "interference_um") / 1000
            ),
        ),
        ("bore_closes", lambda r: 1000 * closes(r)),
        ("bore_closes_share", lambda r: 1000 * closes(r) / number(r, "interference_um")),
        ("bore_after_pressing", lambda r: number(r, "bush_bore_mm") - closes(r)),
        ("bore_before_pressing", before),
        ("surface_speed", speed),
        ("running_fit", fit_of),
        (
            "running_clearance_min",
            lambda r: bushes.running_clearance_um(number(r, "finished_dia_mm"), fit_of(r))[0],
        ),
        (
            "running_clearance_max",
            lambda r: bushes.running_clearance_um(number(r, "finished_dia_mm"), fit_of(r))[1],
        ),
        (
            "clearance_by_speed",
            lambda r: bushes.clearance_by_speed_um(number(r, "finished_dia_mm"), speed(r)),
        ),
        ("oil_groove_straight", lambda r: bushes.groove_mm(number(r, "length_mm"), number(r, "land_mm"))),
        (
            "oil_groove_helical",
            lambda r: bushes.groove_mm(
                number(r, "length_mm"),
                number(r, "land_mm"),
                number(r, "finished_dia_mm"),
                number(r, "groove_turns"),
            ),
        ),
        (
            "hone_finished_least",
            lambda r: bushes.hone_to_mm(number(r, "cleanup_dia_mm"), number(r, "roughness_Rz_um")),
        ),
        (
            "hone_stock_at_smallest",
            lambda r: (
                1000
                * (
                    bushes.hone_to_mm(number(r, "cleanup_dia_mm"), number(r, "roughness_Rz_um"))
                    - number(r, "smallest_dia_mm")
                )
            ),
        ),
        ("torsion_strength_left", lambda r: bushes.torsion_left(*turned(r))),
        ("stiffness_left", lambda r: bushes.stiffness_left(*turned(r))),
        (
            "torque_left",
            lambda r: bushes.torque_left_nm(
                number(r, "turned_dia_mm"), number(r, "shear_allow_MPa"), number(r, "shaft_bore_mm")
            ),
        ),
        (
            "least_turned_dia",
            lambda r: bushes.least_turned_mm(
                number(r, "torque_Nm"), number(r, "shear_allow_MPa"), number(r, "shaft_bore_mm")
            ),
        ),
        ("sleeve_hoop_stress", lambda r: sleeve(r).hub_hoop_mpa),
        ("sleeve_pressure", lambda r: sleeve(r).pressure_mpa),
        ("sleeve_od_growth", lambda r: 1000 * sleeve(r).outside_growth_mm),
    ],
)
def test_bushes_and_sleeves(quantity, value):
    assert not misses(BUSH, quantity, value)


def test_a_bush_without_a_wall_is_refused():
    with pytest.raises(InputError, match="a bush needs a wall"):
        bushes.bore_before_pressing_mm(
            32.5, 0.1, 32, 60, 0.03, Elastic(110e3, 0.34, 0), Elastic(100e3, 0.26, 0)
        )
    with pytest.raises(InputError, match="less than half"):
        bushes.groove_mm(20, 10)


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("half_angle", lambda r: tapers.half_deg(number(r, "ratio_1_to"))),
        (
            "shift_from_dia",
            lambda r: tapers.shift_of_dia(number(r, "ratio_1_to"), number(r, "dia_removed_mm")),
        ),
        (
            "shift_from_normal_stock",
            lambda r: tapers.shift_of_stock(number(r, "ratio_1_to"), number(r, "normal_stock_mm")),
        ),
        ("dia_from_shift", lambda r: tapers.dia_of_shift(number(r, "ratio_1_to"), number(r, "shift_mm"))),
        (
            "normal_stock_from_shift",
            lambda r: tapers.stock_of_shift(number(r, "ratio_1_to"), number(r, "shift_mm")),
        ),
        (
            "dia_to_run_true",
            lambda r: tapers.dia_to_run_true(number(r, "tir_near_um"), number(r, "tir_far_um")) / 1000,
        ),
        ("shift_to_run_true", lambda r: shift(r)),
        ("tool_deeper_from_nose", lambda r: shift(r) - number(r, "face_removed_mm")),
        (
            "may_be_ground",
            lambda r: tapers.may_be_ground(
                shift(r), number(r, "shift_limit_mm"), number(r, "face_removed_mm")
            ),
        ),
        ("gap_at_free_end", lambda r: tapers.gap_at_end(*pair(r))),
        ("plug_touches_at", lambda r: tapers.touches_at(*pair(r)[:2])),
        ("rock_angle", lambda r: tapers.rock_deg(*pair(r))),
    ],
)
def test_tapers_ground_again(quantity, value):
    assert not misses(GROUND, quantity, value)


def shift(r):
    return tapers.shift_to_run_true(
        number(r, "ratio_1_to"),
        number(r, "tir_near_um") / 1000,
        number(r, "tir_far_um") / 1000,
        number(r, "allowance_mm"),
    )


def pair(r):
    return number(r, "ratio_1_to"), number(r, "plug_ratio_1_to"), number(r, "length_mm")


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("key_size_square", lambda r: keys.square_key_width_in(number(r, "shaft_dia"))),
        ("chord_height_Y", lambda r: keys.chord_height(number(r, "shaft_dia"), number(r, "key_width"))),
        (
            "keyseat_bottom_to_opposite_side_S",
            lambda r: keys.seat_to_far_side(
                number(r, "shaft_dia"), number(r, "key_width"), number(r, "key_height")
            ),
        ),
        (
            "hub_keyway_T",
            lambda r: keys.hub_to_far_side_in(
                number(r, "shaft_dia"), number(r, "key_width"), number(r, "key_height")
            ),
        ),
        ("key_width", lambda r: keys.din_key(number(r, "shaft_dia"))[0]),
        ("key_height", lambda r: keys.din_key(number(r, "shaft_dia"))[1]),
        ("shaft_depth_t1", lambda r: keys.din_key(number(r, "shaft_dia"))[2]),
        ("hub_depth_t2", lambda r: keys.din_key(number(r, "shaft_dia"))[3]),
        (
            "shaft_measure_d_minus_t1",
            lambda r: keys.key_seat(number(r, "shaft_dia"), inch=False).over_shaft_mm,
        ),
        ("hub_measure_d_plus_t2", lambda r: keys.key_seat(number(r, "shaft_dia"), inch=False).over_hub_mm),
    ],
)
def test_keys(quantity, value):
    assert not misses(KEY, quantity, value)


def test_keys_off_the_table_say_what_would_do():
    with pytest.raises(InputError, match="pin it"):
        keys.din_key(6)
    with pytest.raises(InputError, match="table ends"):
        keys.square_key_width_in(4)
    with pytest.raises(InputError, match="takes one under"):
        keys.seat_for_width(20, 15)


def pin_series(r):
    return taper_pins.METRIC if r["length_unit"] == "mm" else taper_pins.INCH


def drill_of(r):
    return taper_pins.drill_for_in(taper_pins.INCH_PINS[r["size"]], number(r, "hole_depth"))


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("large_end_dia", lambda r: pin_series(r).large_end(r["size"], float(r["pin_length"] or 0))),
        ("small_end_dia", lambda r: pin_series(r).small_end(r["size"], number(r, "pin_length"))),
        (
            "hole_small_dia_at_depth",
            lambda r: taper_pins.hole_at_depth(
                pin_series(r).large_end(r["size"], 0), number(r, "hole_depth")
            ),
        ),
        ("largest_drill_not_exceeding_small_dia", lambda r: drill_of(r)[1]),
        ("largest_drill_designation", lambda r: drill_of(r)[0]),
        (
            "pin_drop_for_ream_oversize",
            lambda r: taper_pins.drop(number(r, "ream_oversize"), pin_series(r).ratio),
        ),
        (
            "pin_standout_above_surface",
            lambda r: taper_pins.stand_out(taper_pins.INCH_PINS[r["size"]], number(r, "hole_dia_at_surface")),
        ),
    ],
)
def test_taper_pins(quantity, value):
    assert not misses(PIN, quantity, value)


def next_pin(r):
    mine = [x for x in rows(NEXT) if x["case"] == r["case"]]

    def of(key):
        return float(next(x[key] for x in mine if x[key]))

    lengths = [float(x) for x in next(x["lengths"] for x in mine if x["lengths"]).split(";")]
    return taper_pins.next_pin(
        pin_series(r),
        of("hub_dia"),
        of("mouth_large_side"),
        of("mouth_small_side"),
        of("clean_up"),
        of("stand_out"),
        of("project"),
        lengths,
    )


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("hole_taper", lambda r, p: p.hole_taper * (12 if r["length_unit"] == "in" else 1)),
        ("reamer_rests_at_dia", lambda r, p: p.rests_at),
        ("mouth_dia_to_clean", lambda r, p: p.to_clean),
        ("pin_length", lambda r, p: p.length),
        ("next_size", lambda r, p: p.size),
        ("mouth_dia_to_ream", lambda r, p: p.mouth),
        ("ream_deeper", lambda r, p: p.deeper),
        ("far_mouth_dia", lambda r, p: p.far),
        ("stock_each_side", lambda r, p: p.stock_each_side),
    ],
)
def test_the_next_pin(quantity, value):
    assert not misses(NEXT, quantity, lambda r: value(r, next_pin(r)))


def test_pins_that_cannot_be():
    with pytest.raises(InputError, match="swap them"):
        taper_pins.next_pin(taper_pins.INCH, 1, 0.2, 0.22, 0.002, 0.05, 0.05)
    with pytest.raises(InputError, match="largest pin is 10"):
        taper_pins.next_pin(taper_pins.INCH, 1, 0.9, 0.88, 0.002, 0.05, 0.05)
    with pytest.raises(InputError, match="no drill is so small"):
        taper_pins.drill_for_in(0.0625, 2.5)
    assert taper_pins.is_pin_taper(0.2708, 0.25, 1.0, taper_pins.INCH)
    assert not taper_pins.is_pin_taper(0.26, 0.26, 1.0, taper_pins.INCH)
    assert drills.drill_under(5.27, inch=False) == ("5.2 mm", 5.2)
    assert drills.drill_under(6.35, inch=True)[0] == "1/4 in"


def per_foot(r):
    return number(r, "taper_per_foot_in") if r["taper_per_foot_in"] else 12 / number(r, "ratio_1_to")


def taper_of(r):
    return (machine_tapers.morse if r["series"] == "morse" else machine_tapers.jarno)(int(r["size"]))


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        (
            "dia_at_axial_distance",
            lambda r: machine_tapers.dia_at(per_foot(r), number(r, "large_dia"), number(r, "axial_distance")),
        ),
        (
            "included_angle",
            lambda r: (
                machine_tapers.included_deg(per_foot(r))
                if r["taper_per_foot_in"] or r["ratio_1_to"]
                else machine_tapers.COLLET_DEG
            ),
        ),
        ("half_angle_compound_setting", lambda r: machine_tapers.half_deg(per_foot(r))),
        ("sine_bar_height", lambda r: machine_tapers.sine_bar_in(per_foot(r), number(r, "sine_bar_length"))),
        ("ratio_1_to_N", lambda r: machine_tapers.ratio_of(per_foot(r))),
        ("large_end_dia", lambda r: taper_of(r).large_in),
        ("small_end_dia", lambda r: taper_of(r).small_in),
        ("taper_length", lambda r: taper_of(r).length_in),
    ],
)
def test_machine_tapers(quantity, value):
    found = [r for r in rows(TAPER, quantity) if r["length_unit"] == "in" and r["expected"]]
    assert found
    for r in found:
        assert value(r) == pytest.approx(
            number(r, "expected"), abs=float(r["tolerance"]) if r["tolerance"] != "exact" else 1e-9
        ), r
