"""Small steel parts hardened: what the fire wants, what is left for grinding, what stays soft."""

from __future__ import annotations

import pytest

from trebb.core.errors import InputError
from trebb.core.heat_treatment import STEELS, growth_mm, hardening_steel, soak_minutes, temper_for
from trebb.core.machine.workshop import Workshop
from trebb.core.making.heat import (
    GRIND_MM,
    hardened_route,
    hardening_check,
    hardening_fields,
    is_hardened,
)
from trebb.core.making.routes import route
from trebb.core.parts import family
from trebb.core.parts.base import PartInputs
from trebb.core.stating import usual_subject
from trebb.core.units import UnitSystem

FACTS = {"harden": "oil", "hrc": 58.0}


def made(key):
    f = family(key)
    subject = usual_subject(f.assembly)
    part = f.build(PartInputs(subject, Workshop(), {}, system=UnitSystem.METRIC))
    return part, route(part, subject, Workshop())


@pytest.mark.parametrize("steel", STEELS.values(), ids=lambda s: s.key)
def test_a_hotter_temper_is_softer_and_none_is_harder_than_the_quench(steel):
    hardness = [hrc for _, _, hrc in steel.tempers]
    heats = [c for _, c, _ in steel.tempers]
    assert heats == sorted(heats)
    assert hardness == sorted(hardness, reverse=True)
    assert hardness[0] <= steel.full_hrc
    assert steel.harden_c[0] < steel.harden_c[1]


def test_the_temper_nearest_to_what_is_wanted():
    assert temper_for(hardening_steel("oil"), 58)[0] == "dark straw"
    assert temper_for(hardening_steel("medium"), 20)[2] == 35
    assert soak_minutes(2) == 5
    assert growth_mm(hardening_steel("water"), 100) == pytest.approx(0.2)
    with pytest.raises(InputError, match="known are"):
        hardening_steel("butter")


def test_fitted_sizes_are_left_for_grinding_and_ground_after_the_fire():
    part, own = made("plain_pin")
    hard = hardened_route(part, own, FACTS)
    keys = [o.key for o in hard]
    turned = next(o for o in own if o.target is not None)
    assert keys.index(turned.key) < keys.index("relieve") < keys.index("harden") < keys.index("temper")
    assert keys.index("temper") < keys.index(f"ground.{turned.key}")
    left = next(o for o in hard if o.key == turned.key).target
    ground = next(o for o in hard if o.key == f"ground.{turned.key}").target
    assert ground == turned.target
    grows = growth_mm(hardening_steel("oil"), turned.target.band.middle_mm)
    assert left.band.low_mm - turned.target.band.low_mm == pytest.approx(2 * GRIND_MM + grows)
    assert [o.number for o in hard] == [10 * (i + 1) for i in range(len(hard))]


def test_a_bore_is_left_smaller():
    part, own = made("journal_sleeve")
    hard = hardened_route(part, own, FACTS)
    bore = next(o for o in own if o.key == "bore")
    before = next(o for o in hard if o.key == "bore")
    assert before.target.band.high_mm < bore.target.band.low_mm


def test_only_small_parts_without_a_thread_are_offered_it():
    assert hardening_fields("screw", {}) == ()
    assert [f.key for f in hardening_fields("key", {})] == ["harden"]
    assert [f.key for f in hardening_fields("key", FACTS)] == ["harden", "hrc"]
    assert not is_hardened("key", {"harden": "no"})
    part, own = made("plain_pin")
    with pytest.raises(InputError, match="choose a steel"):
        hardened_route(part, own, {})
    assert hardening_check(part, FACTS).is_ok
