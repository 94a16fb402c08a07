"""Shafts against certified rows: V-blocks, straightening, bending, what drives them, splines and squares."""

from __future__ import annotations

import cmath
import math
from collections import defaultdict

import pytest

from tests.reference import misses, number, rows
from trebb.core.errors import InputError
from trebb.core.shafts import driving, squares, straightening, vblocks
from trebb.core.shafts import splines as cut
from trebb.core.shafts.bending import BentShaft, pieces_of

VBLOCK, READ = "13_shaft_vblock_expected.csv", "13_shaft_vblock_readings.csv"
PRESS, BEND = "13_press_straightening.csv", "13_shaft_bending.csv"
JOINTS, SPLINES, SQUARES = "13_drive_joints.csv", "13_splines.csv", "13_square_drives.csv"


# V-blocks -----------------------------------------------------------------------------------------


def turns():
    found = defaultdict(lambda: defaultdict(lambda: ([], [])))
    for r in rows(READ, "reading"):
        angles, values = found[(r["dataset"], r["n_angles"])][number(r, "station_mm")]
        angles.append(number(r, "angle_deg"))
        values.append(number(r, "expected"))
    return found


TURNS = turns()


def shaft(r):
    turn = TURNS[(r["dataset"], r["n_angles"])]
    z = sorted(turn)
    return z, [vblocks.eccentricity(*turn[s]) for s in z]


def against_journals(r):
    z, v = shaft(r)
    if r["axis"] in ("best", "least_squares", "best_line"):
        c, m = vblocks.best_line(z, v)
        return z, [a - (c + m * s) for s, a in zip(z, v, strict=True)]
    a, b = number(r, "axis_a_mm"), number(r, "axis_b_mm")
    return z, list(vblocks.from_journals(z, v, a, b, v[z.index(a)], v[z.index(b)]))


def at(r):
    z, v = against_journals(r) if r["quantity"].startswith("rel_") else shaft(r)
    return v[z.index(number(r, "station_mm"))]


def degrees(v):
    return math.degrees(cmath.phase(v)) % 360


def largest(r):
    z, v = against_journals(r)
    return max(zip(z, v, strict=True), key=lambda one: abs(one[1]))


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        (
            "tir_sampled",
            lambda r: max(y := TURNS[(r["dataset"], r["n_angles"])][number(r, "station_mm")][1]) - min(y),
        ),
        ("ecc_amplitude", lambda r: abs(at(r))),
        ("ecc_direction", lambda r: degrees(at(r))),
        ("rel_ecc_amplitude", lambda r: abs(at(r))),
        ("rel_ecc_direction", lambda r: degrees(at(r))),
        ("rel_tir", lambda r: 2 * abs(at(r))),
        ("bow_size", lambda r: abs(largest(r)[1])),
        ("bow_station", lambda r: largest(r)[0]),
        ("bow_direction", lambda r: degrees(largest(r)[1])),
        ("kink_place", lambda r: vblocks.fit_kink(*shaft(r)).place_mm),
        ("kink_angle", lambda r: vblocks.fit_kink(*shaft(r)).angle),
        ("kink_direction", lambda r: vblocks.fit_kink(*shaft(r)).direction_deg),
        ("kink_fit_rms", lambda r: vblocks.fit_kink(*shaft(r)).rms),
        ("curve_sagitta", lambda r: curve(r).sagitta),
        ("curve_direction", lambda r: curve(r).direction_deg),
        ("curve_fit_rms", lambda r: curve(r).rms),
        ("shape", lambda r: vblocks.shape_of(vblocks.fit_kink(*shaft(r)), curve(r))),
    ],
)
def test_v_blocks(quantity, value):
    assert not misses(VBLOCK, quantity, value)


def curve(r):
    return vblocks.fit_curve(*shaft(r), number(r, "axis_a_mm"), number(r, "axis_b_mm"))


def lobes(r):
    return int(r["lobes"]), number(r, "v_included_deg"), number(r, "indicator_from_bisector_deg")


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("reading_factor", lambda r: vblocks.lobe_factor(*lobes(r))),
        ("reading_swing", lambda r: 2 * number(r, "lobe_amplitude_um") * vblocks.lobe_factor(*lobes(r))),
        ("lobe_not_seen", lambda r: vblocks.lobe_hidden(*lobes(r))),
    ],
)
def test_lobes_in_a_v(quantity, value):
    assert not misses("13_vblock_lobes.csv", quantity, value)


def test_four_angles_take_three_lobes_for_eccentricity_and_eight_do_not():
    few = [0, 90, 180, 270]
    many = [45.0 * i for i in range(8)]
    lobed = lambda angles: [10 * math.cos(3 * math.radians(a)) for a in angles]  # noqa: E731
    assert abs(vblocks.eccentricity(few, lobed(few))) == pytest.approx(10)
    assert abs(vblocks.eccentricity(many, lobed(many))) == pytest.approx(0, abs=1e-9)


def test_too_few_stations_say_what_would_do():
    with pytest.raises(InputError, match="five or more"):
        vblocks.fit_kink([0, 1, 2], [0, 1, 0])
    with pytest.raises(InputError, match="two places"):
        vblocks.from_journals([0, 1], [0, 0], 5, 5, 0, 0)


# the press ----------------------------------------------------------------------------------------

SAID = {
    "": "yes", "hinge": "folds at one point", "strain": "strain over limit", "hard": "hardened",
    "press": "press too small", "service": "goes back in service",
}  # fmt: skip


def pressed(r):
    one = next(x for x in rows(PRESS, "may_be_straightened") if x["case"] == r["case"])
    return straightening.straighten(
        number(one, "dia_mm"),
        number(one, "span_mm"),
        number(one, "bow_mm"),
        number(one, "yield_MPa"),
        modulus_mpa=1000 * number(one, "E_GPa"),
        press_kn=number(one, "press_kN"),
        strain_limit=number(one, "strain_limit"),
        hardness_hrc=number(one, "hardness_HRC"),
        hardest_hrc=number(one, "hardness_limit_HRC"),
        service_mpa=number(one, "service_stress_MPa"),
        safety=number(one, "safety"),
    )


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("load_at_first_yield", lambda p: p.first_yield_kn),
        ("load_fully_plastic", lambda p: p.fully_plastic_kn),
        ("deflection_at_first_yield", lambda p: p.first_yield_mm),
        ("largest_springback", lambda p: p.largest_springback_mm),
        ("set_at_full_hinge", lambda p: p.set_at_hinge_mm),
        ("hinge_needed", lambda p: p.hinge_needed),
        ("press_load", lambda p: p.press_kn),
        ("springback", lambda p: p.springback_mm),
        ("press_travel_from_touch", lambda p: p.travel_mm),
        ("outer_fibre_strain", lambda p: p.outer_strain),
        ("residual_outer_stress", lambda p: p.residual_mpa),
        ("reverse_yield_margin", lambda p: p.margin_mpa),
        ("may_be_straightened", lambda p: SAID[p.why_not]),
    ],
)
def test_straightening(quantity, value):
    assert not misses(PRESS, quantity, lambda r: value(pressed(r)))


def test_a_bar_that_is_not_there_is_refused():
    with pytest.raises(InputError, match="more than nothing"):
        straightening.straighten(0, 100, 1, 300)


# bending ------------------------------------------------------------------------------------------


def bent(r):
    found = [tuple(map(float, s.split("x"))) for s in r["segments_length_od_id_mm"].split(";")]
    loads = tuple(tuple(map(float, s.split(":"))) for s in r["loads_at_mm_N"].split(";") if s)
    extra = {}
    if r["torque_Nm"]:
        extra = {
            "torque_nm": number(r, "torque_Nm"),
            "torque_from_mm": number(r, "torque_from_mm"),
            "torque_to_mm": number(r, "torque_to_mm"),
        }
    if r["G_GPa"]:
        extra["shear_modulus_mpa"] = 1000 * number(r, "G_GPa")
    return BentShaft(
        pieces_of(found),
        number(r, "support_a_mm"),
        number(r, "support_b_mm"),
        loads,
        1000 * number(r, "E_GPa"),
        **extra,
    )


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("reaction_a", lambda b, r: b.reactions_n[0]),
        ("reaction_b", lambda b, r: b.reactions_n[1]),
        ("deflection", lambda b, r: 1000 * b.deflection_mm(number(r, "station_mm"))),
        ("max_deflection_between_supports", lambda b, r: 1000 * b.most_between()[1]),
        ("max_deflection_place", lambda b, r: b.most_between()[0]),
        ("slope_a", lambda b, r: 1000 * b.slope_rad(b.a_mm)),
        ("slope_b", lambda b, r: 1000 * b.slope_rad(b.b_mm)),
        ("stiffness_at_load", lambda b, r: b.stiffness_n_um(number(r, "station_mm"))),
        ("max_bending_stress", lambda b, r: b.most_bending_mpa()[0]),
        ("max_bending_stress_place", lambda b, r: b.most_bending_mpa()[1]),
        ("twist", lambda b, r: b.twist_deg()),
        ("max_torsion_stress", lambda b, r: b.most_torsion_mpa()),
        ("max_von_mises", lambda b, r: b.most_von_mises_mpa()),
    ],
)
def test_bending(quantity, value):
    assert not misses(BEND, quantity, lambda r: value(bent(r), r))


def test_supports_off_the_shaft_are_refused():
    with pytest.raises(InputError, match="both on the shaft"):
        BentShaft(pieces_of([(100, 20, 0)]), 10, 120, ((50, 1),))


# what drives --------------------------------------------------------------------------------------


def n(r, *keys):
    return [number(r, key) for key in keys]


def points(text):
    return [tuple(map(float, p.split(":"))) for p in text.split(";")]


def shares(r):
    return (
        driving.share_at(number(r, "gap_dia_mm"), points(r["gap_factors"])),
        driving.share_at(number(r, "temperature_C"), points(r["temperature_factors"])),
    )


def bears(r):
    """Shaft, hub and pin as it bears: of a taper pin the mean of its planes."""
    d, pin = n(r, "shaft_dia_mm", "pin_dia_mm")
    hub = float(r["hub_od_mm"] or 0)
    if r["pin_taper_1_to"]:
        pin = driving.taper_pin_mean_mm(pin, hub, d, number(r, "pin_taper_1_to"))
    return d, hub, pin


def limit_of_pin(r):
    d, hub, pin = n(r, "shaft_dia_mm", "hub_od_mm", "pin_dia_mm")
    tau, sigma = n(r, "shear_allow_MPa", "bearing_allow_MPa")
    if r["pin_taper_1_to"]:
        shear = driving.taper_pin_shear_torque(pin, hub, d, number(r, "pin_taper_1_to"), tau)
    else:
        shear = driving.pin_shear_torque(d, pin, int(r["shear_planes"]), tau)
    return driving.pin_limit(
        shear, driving.pin_bearing_in_shaft(d, pin, sigma), driving.pin_bearing_in_hub(d, hub, pin, sigma)
    )


def fuse(r):
    return driving.shear_pin(
        number(r, "shaft_dia_mm"),
        int(r["shear_planes"]),
        number(r, "shear_allow_MPa"),
        float(r["weakest_torque_Nm"] or 1e9),
        float(r["working_torque_Nm"] or 0),
        [float(s) for s in r["sizes_mm"].split(";") if s],
        safety_weak=float(r["safety_weak"] or 1.5),
        safety_work=float(r["safety_work"] or 1.5),
    )


def pin_torque(r):
    d, hub, pin, tau = n(r, "shaft_dia_mm", "hub_od_mm", "pin_dia_mm", "shear_allow_MPa")
    if r["pin_taper_1_to"]:
        return driving.taper_pin_shear_torque(pin, hub, d, number(r, "pin_taper_1_to"), tau)
    if r["joint"] == "spring_pin":
        return driving.spring_pin_force_kn(pin, number(r, "pin_wall_mm"), tau) * d / 2
    return driving.pin_shear_torque(d, pin, int(r["shear_planes"]), tau)


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        (
            "key_shear_torque",
            lambda r: driving.key_shear_torque(
                *n(r, "shaft_dia_mm", "key_width_mm", "key_length_mm", "shear_allow_MPa")
            ),
        ),
        (
            "key_bearing_torque",
            lambda r: driving.key_bearing_torque(
                *n(r, "shaft_dia_mm", "bearing_height_mm", "key_length_mm", "bearing_allow_MPa")
            ),
        ),
        (
            "key_weak_side",
            lambda r: driving.key_weak_side(
                *n(
                    r,
                    "shaft_dia_mm",
                    "key_width_mm",
                    "bearing_height_mm",
                    "key_length_mm",
                    "shear_allow_MPa",
                    "bearing_allow_MPa",
                )
            ),
        ),
        (
            "key_length_for_torque",
            lambda r: driving.key_length_mm(
                *n(
                    r,
                    "torque_Nm",
                    "shaft_dia_mm",
                    "key_width_mm",
                    "bearing_height_mm",
                    "shear_allow_MPa",
                    "bearing_allow_MPa",
                )
            ),
        ),
        ("key_lash", lambda r: driving.key_lash_deg(*n(r, "shaft_dia_mm", "width_clearance_mm"))),
        (
            "key_lash_tight_in_shaft",
            lambda r: driving.key_lash_tight_deg(
                *n(r, "shaft_dia_mm", "key_width_mm", "key_height_mm", "width_clearance_mm")
            ),
        ),
        (
            "lash_at_radius",
            lambda r: driving.lash_mm(
                driving.key_lash_deg(*n(r, "shaft_dia_mm", "width_clearance_mm")), number(r, "radius_mm")
            ),
        ),
        (
            "width_clearance_from_lash",
            lambda r: driving.clearance_of_lash_mm(*n(r, "lash_deg", "shaft_dia_mm")),
        ),
        (
            "shaft_torque_capacity",
            lambda r: driving.shaft_torque(*n(r, "shaft_dia_mm", "shaft_bore_mm", "shear_allow_MPa")),
        ),
        (
            "shaft_torque_capacity_keyed",
            lambda r: driving.shaft_torque(
                *n(r, "shaft_dia_mm", "shaft_bore_mm", "shear_allow_MPa"), keyed=True
            ),
        ),
        ("shaft_dia_for_torque", lambda r: driving.shaft_dia_mm(*n(r, "torque_Nm", "shear_allow_MPa"))),
        (
            "greatest_shear_stress",
            lambda r: driving.greatest_shear_mpa(*n(r, "shaft_dia_mm", "torque_Nm", "bending_moment_Nm")),
        ),
        (
            "von_mises_stress",
            lambda r: driving.von_mises_mpa(*n(r, "shaft_dia_mm", "torque_Nm", "bending_moment_Nm")),
        ),
        (
            "shaft_dia_for_both",
            lambda r: driving.shaft_dia_mm(*n(r, "torque_Nm", "shear_allow_MPa", "bending_moment_Nm")),
        ),
        ("pin_shear_torque", pin_torque),
        (
            "pin_bearing_torque_shaft",
            lambda r: driving.pin_bearing_in_shaft(bears(r)[0], bears(r)[2], number(r, "bearing_allow_MPa")),
        ),
        (
            "pin_bearing_torque_hub",
            lambda r: driving.pin_bearing_in_hub(*bears(r), number(r, "bearing_allow_MPa")),
        ),
        ("pin_joint_limit", limit_of_pin),
        ("cross_hole_torsion_left", lambda r: driving.cross_hole_left(*n(r, "shaft_dia_mm", "pin_dia_mm"))),
        (
            "pin_dia_at_near_plane",
            lambda r: driving.taper_pin_planes_mm(
                *n(r, "pin_dia_mm", "hub_od_mm", "shaft_dia_mm", "pin_taper_1_to")
            )[0],
        ),
        (
            "pin_dia_at_far_plane",
            lambda r: driving.taper_pin_planes_mm(
                *n(r, "pin_dia_mm", "hub_od_mm", "shaft_dia_mm", "pin_taper_1_to")
            )[1],
        ),
        ("pin_double_shear_force", lambda r: driving.spring_pin_force_kn(*n(r, "pin_dia_mm", "pin_wall_mm"))),
        (
            "joint_screw_shear_torque",
            lambda r: driving.joint_screw_torque(
                *n(r, "shaft_dia_mm", "screw_minor_mm", "engaged_length_mm", "shear_allow_MPa"), 1
            )[0],
        ),
        (
            "joint_screw_bearing_torque",
            lambda r: driving.joint_screw_torque(
                *n(r, "shaft_dia_mm", "screw_minor_mm", "engaged_length_mm"),
                1,
                number(r, "bearing_allow_MPa"),
            )[1],
        ),
        (
            "joint_screw_torque",
            lambda r: min(
                driving.joint_screw_torque(
                    *n(
                        r,
                        "shaft_dia_mm",
                        "screw_minor_mm",
                        "engaged_length_mm",
                        "shear_allow_MPa",
                        "bearing_allow_MPa",
                    )
                )
            ),
        ),
        ("bond_gap_factor", lambda r: driving.share_at(number(r, "gap_dia_mm"), points(r["gap_factors"]))),
        (
            "bond_temperature_factor",
            lambda r: driving.share_at(number(r, "temperature_C"), points(r["temperature_factors"])),
        ),
        (
            "bond_press_out_force",
            lambda r: driving.bond_force_kn(
                *n(r, "shaft_dia_mm", "engaged_length_mm", "bond_MPa"), *shares(r)
            ),
        ),
        (
            "bond_length_for_torque",
            lambda r: driving.bond_length_mm(*n(r, "torque_Nm", "shaft_dia_mm", "bond_MPa"), *shares(r)),
        ),
        ("shear_pin_largest", lambda r: fuse(r).largest_mm),
        ("shear_pin_smallest", lambda r: fuse(r).smallest_mm),
        ("shear_pin_choice", lambda r: "none" if fuse(r).choice_mm is None else f"{fuse(r).choice_mm:g}"),
        ("shear_pin_possible", lambda r: fuse(r).is_possible),
    ],
)
def test_what_turns_a_wheel(quantity, value):
    assert not misses(JOINTS, quantity, value)


def test_a_key_wider_than_its_shaft_is_refused():
    with pytest.raises(InputError, match="less than the shaft"):
        driving.key_lash_tight_deg(10, 10, 10, 0.1)


# splines and squares ------------------------------------------------------------------------------


def splined(r):
    return cut.splines(int(r["splines"]), r["fit"], number(r, "outer_dia"))


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("tooth_width", lambda s, r: s.width),
        ("tooth_height", lambda s, r: s.height),
        ("root_dia", lambda s, r: s.root),
        ("torque", lambda s, r: s.torque(number(r, "engaged_length"), number(r, "pressure"))),
        ("space_chord_at_root", lambda s, r: s.chord_at_root),
        ("space_chord_at_top", lambda s, r: s.chord_at_top),
        ("form_cutter_included_angle", lambda s, r: s.cutter_angle_deg),
        ("form_cutter_bottom_radius", lambda s, r: s.root / 2),
        ("collar_width", lambda s, r: s.width),
        ("cut_depth_from_crown", lambda s, r: s.depth),
        ("flank_height", lambda s, r: s.flank),
        ("side_mill_least_width", lambda s, r: s.least_mill),
        ("side_mill_greatest_width", lambda s, r: s.most_mill),
        ("ridge_left_in_space", lambda s, r: s.ridge),
        ("index_turns", lambda s, r: s.turns(number(r, "head_ratio"))),
    ],
)
def test_splines(quantity, value):
    assert not misses(SPLINES, quantity, lambda r: value(splined(r), r))


def test_splines_off_the_table_and_heads_that_do_not_index():
    with pytest.raises(InputError, match="the table has 4, 6, 10, 16"):
        cut.splines(8, "A", 25)
    with pytest.raises(InputError, match="4 splines have A, B"):
        cut.splines(4, "C", 25)
    assert cut.indexes(40 / 6, (15, 16, 18)) == (15, 10)
    assert cut.indexes(40 / 7, (15, 16)) is None


def corners(r):
    return number(r, "across_corners_mm") if r["across_corners_mm"] else None


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("across_sharp_corners", lambda r: squares.across_corners_mm(number(r, "square_mm"))),
        ("flat_depth", lambda r: squares.flat_depth_mm(number(r, "bar_dia_mm"), number(r, "square_mm"))),
        ("largest_square_in_bar", lambda r: squares.largest_square_mm(number(r, "bar_dia_mm"))),
        ("slop", lambda r: squares.slop_deg(number(r, "square_mm"), number(r, "socket_mm"), corners(r))),
        (
            "slop_first_order",
            lambda r: squares.slop_first_order_deg(
                number(r, "square_mm"), number(r, "socket_mm"), corners(r)
            ),
        ),
        (
            "slop_at_radius",
            lambda r: driving.lash_mm(
                squares.slop_deg(number(r, "square_mm"), number(r, "socket_mm"), corners(r)),
                number(r, "radius_mm"),
            ),
        ),
        (
            "socket_size_from_slop",
            lambda r: squares.socket_of_slop_mm(number(r, "square_mm"), number(r, "slop_deg"), corners(r)),
        ),
        (
            "plug_corner_wall",
            lambda r: squares.plug_corner_wall_mm(number(r, "plug_dia_mm"), number(r, "square_mm")),
        ),
        (
            "plug_least_dia",
            lambda r: squares.plug_least_mm(number(r, "square_mm"), number(r, "corner_wall_mm")),
        ),
        (
            "plug_possible",
            lambda r: squares.plug_possible(
                number(r, "square_mm"), number(r, "shaft_dia_mm"), number(r, "corner_wall_mm")
            ),
        ),
        (
            "flat_width_on_bar",
            lambda r: squares.flat_width_mm(number(r, "bar_dia_mm"), number(r, "square_mm")),
        ),
    ],
)
def test_squares(quantity, value):
    assert not misses(SQUARES, quantity, value)


def test_a_square_that_spins_and_one_that_does_not_move():
    assert squares.slop_deg(10, 14.2) == 360
    assert squares.slop_deg(10, 9.9) == 0
    with pytest.raises(InputError, match="less than the bar"):
        squares.flat_width_mm(10, 10)
