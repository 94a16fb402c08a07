"""What stands once for every part: metals, bonds, sizes found by key."""

from __future__ import annotations

import math
from collections import Counter

import pytest

from tests.core.test_parts_and_making import BY_HAND, EVERY_PART, WORN, inputs
from trebb.core.errors import InputError
from trebb.core.fits.bond import GAP_MM, MOST_GAP_MM, SHEAR_MPA, bond_thrust_n, gap_share
from trebb.core.fits.joint import bonded
from trebb.core.making.operations import material_of
from trebb.core.metals import MATERIALS, material
from trebb.core.threads import Band, Form, ThreadSpec
from trebb.core.threads.tooling import work_spring_mm


def test_a_wall_is_never_loaded_with_all_its_metal_stands():
    for metal in MATERIALS.values():
        assert 0 < metal.allowed_mpa < metal.stands_mpa
        assert metal.stands_mpa < metal.cutting_mpa, "what cuts it must break it"
        assert 8e-6 < metal.expansion_per_c < 25e-6


def test_harder_steel_stands_more_and_cuts_harder():
    steels = [MATERIALS[k] for k in ("free_cutting", "carbon", "alloy_ht")]
    for figure in ("hardness_hb", "stands_mpa", "cutting_mpa"):
        values = [getattr(metal, figure) for metal in steels]
        assert values == sorted(values), figure
    assert [m.speed_m_min for m in steels] == sorted((m.speed_m_min for m in steels), reverse=True)


def test_a_metal_nobody_has_is_named_and_what_would_do():
    with pytest.raises(InputError, match=r"mithril.*free_cutting"):
        material("mithril")


def test_a_long_thin_screw_springs_by_the_cube_of_its_length_and_with_its_metal():
    spec = ThreadSpec(Form.ACME, 25.4, 5.08)
    one, twice = (work_spring_mm(20.0, length, spec, "carbon", 0.05) for length in (300.0, 600.0))
    assert twice == pytest.approx(8 * one)
    bronze = work_spring_mm(20.0, 300.0, spec, "bronze", 0.05)
    assert bronze / one == pytest.approx(MATERIALS["bronze"].cutting_mpa / MATERIALS["carbon"].cutting_mpa)


def test_a_bond_holds_by_its_area_and_less_the_wider_its_gap():
    # by hand: π · 20 · 30 · 15 N
    assert bond_thrust_n(20.0, 30.0, 0.04) == pytest.approx(math.pi * 20 * 30 * SHEAR_MPA)
    assert gap_share(GAP_MM[1]) == pytest.approx(0.96)
    shares = [gap_share(g) for g in (0.03, 0.07, 0.12, 0.2, 0.25)]
    assert shares == sorted(shares, reverse=True)
    assert gap_share(0.4) == gap_share(0.25), "level beyond, as the sheet's last point"


@pytest.mark.parametrize(
    ("gap", "verdict"), [(0.005, "weak"), (0.03, "holds"), (0.09, "holds"), (MOST_GAP_MM + 0.02, "weak")]
)
def test_a_gap_too_narrow_or_too_wide_is_called_weak(gap, verdict):
    found = bonded(16.0, 25.0, gap)
    assert found.verdict == verdict
    assert found.spigot_mm == pytest.approx(16.0 - gap)
    assert ("0.02" in found.words) == (verdict == "weak")


@pytest.mark.parametrize(("fam", "subject"), EVERY_PART)
def test_every_key_of_a_part_names_one_size(fam, subject):
    part = fam.build(inputs(subject, BY_HAND.get(fam.key), measured=WORN))
    keys = Counter(row.key for row in part.rows if row.key)
    assert [key for key, times in keys.items() if times > 1] == []
    for key in keys:
        row = part.row(key)
        if isinstance(row.value, Band):
            assert part.band(key).low_mm <= part.band(key).high_mm
        elif isinstance(row.value, float):
            assert part.size_mm(key) == row.value
    for ask in (part.row, part.band, part.size_mm):
        with pytest.raises(InputError, match="none of that name"):
            ask("no such size")


@pytest.mark.parametrize(("fam", "subject"), EVERY_PART)
def test_speeds_are_known_for_what_is_cut_and_refused_for_what_is_not(fam, subject):
    part = fam.build(inputs(subject, BY_HAND.get(fam.key), measured=WORN))
    if part.material in {m.label for m in MATERIALS.values()}:
        assert material_of(part).label == part.material
    else:
        with pytest.raises(InputError, match="cut from bar or casting"):
            material_of(part)
