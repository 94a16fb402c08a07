"""A part bought instead of made: what is asked for, what will do, what is still to be cut."""

import pytest

from trebb.core.machine.workshop import Workshop
from trebb.core.making.bought import (
    ON_MACHINE,
    Offer,
    ask_for,
    beside,
    bought_route,
    buying_fields,
    fitted,
    is_bought,
    judged,
    offer_of,
    on_machine,
    over_mm,
)
from trebb.core.making.operations import Operation, SizeTarget
from trebb.core.making.routes import route
from trebb.core.parts import PartInputs, family
from trebb.core.parts.base import Part, Section
from trebb.core.stating import usual_subject
from trebb.core.threads import Band
from trebb.core.units import UnitSystem

OUT = SizeTarget("journal", Band(11.98, 12.00), 1)
IN = SizeTarget("bore", Band(8.00, 8.02), -1)
OWN = (
    Operation(10, "saw", "Saw", "", "vise", "saw", 10),
    Operation(20, "rough", "Rough", "", "chuck", "tool", 20, "", "size", OUT),
    Operation(30, "turn", "Turn", "", "centres", "tool", 20, "", "size", OUT),
    Operation(40, "bore", "Bore", "", "chuck", "bar", 40, "", "size", IN),
)
PART = Part("p", "Sleeve", "bronze", "", (Section("body", "plain", 40, 12),), None, (), (), ())
MM = UnitSystem.METRIC


def test_a_size_worked_to_twice_is_asked_for_once():
    assert fitted(PART, OWN) == {"turn": OUT, "bore": IN}


@pytest.mark.parametrize(
    ("target", "size", "over"),
    [
        (OUT, 11.99, 0),
        (OUT, 12.30, 0.30),
        (OUT, 11.90, -0.08),
        (IN, 8.01, 0),
        (IN, 7.50, 0.50),
        (IN, 8.10, -0.08),
    ],
)
def test_metal_left_is_more_outside_and_less_inside(target, size, over):
    assert over_mm(target, size) == pytest.approx(over, abs=1e-9)


@pytest.mark.parametrize(
    ("sizes", "ok", "said"),
    [
        ({"turn": 11.99}, True, "fits as it comes"),
        ({"turn": 12.3}, True, "0.300 mm is still to be cut"),
        ({"bore": 7.5}, True, "0.500 mm is still to be cut"),
        ({"turn": 11.9}, False, "0.080 mm too small"),
        ({"bore": 8.1}, False, "0.080 mm too large"),
        ({"turn": 120.0}, False, "see the unit"),
    ],
)
def test_an_offer_is_judged_by_what_it_says(sizes, ok, said):
    checks = judged(Offer(None, None, sizes), fitted(PART, OWN), MM)
    assert checks[0].is_ok is ok
    assert said in checks[0].sentence
    assert not checks[-1].is_ok
    assert checks[-1].sentence.startswith("Not said of the offer")


def test_nothing_is_missing_of_a_whole_offer():
    assert all(c.is_ok for c in judged(Offer(1, 1, {"turn": 11.99, "bore": 8.01}), fitted(PART, OWN), MM))


def test_price_and_wait_stand_beside_the_hours():
    assert beside(PART, Offer(45, 10, {}), OWN).sentence == (
        "Bought: 45, 10 days' wait. Made here: 1.5 h by its route, and the stock."
    )
    assert not beside(PART, Offer(None, 10, {}), OWN).is_ok


def test_only_what_is_left_is_cut():
    route = bought_route(PART, Offer(1, 1, {"turn": 12.3}), OWN, MM)
    assert [o.title for o in route] == [
        "Order it",
        "Bring its journal to size",
        "Measure its bore as it came",
        "Try it by hand where it goes",
    ]
    assert [o.number for o in route] == [10, 20, 30, 40]


def test_fields_come_once_it_is_bought():
    targets = fitted(PART, OWN)
    assert [f.key for f in buying_fields("stepped_shaft", {}, targets)] == ["get"]
    facts = {"get": "buy", "price": 45.0, "wait": "", "offer.turn": 12.3}
    assert is_bought(facts)
    assert [f.key for f in buying_fields("stepped_shaft", facts, targets)] == [
        "get",
        "price",
        "wait",
        "offer.turn",
        "offer.bore",
    ]
    assert offer_of(facts, targets) == Offer(45.0, None, {"turn": 12.3})


def test_a_seller_is_told_limits_in_the_shop_s_units():
    inch = "; ".join(ask_for(PART, fitted(PART, OWN), UnitSystem.INCH))
    assert "journal: 0.4717 to 0.4724 in" in inch
    assert " mm" not in inch


def own_of(key, **facts):
    f = family(key)
    subject = usual_subject(f.assembly)
    part = f.build(PartInputs(subject, Workshop(), facts, measured={"float": 0.05, "lash": 0.9}, system=MM))
    return part, route(part, subject, Workshop())


@pytest.mark.parametrize("key", ON_MACHINE)
def test_what_is_done_on_the_machine_is_an_operation_of_the_part(key):
    name, _, style = key.partition("/")
    part, own = own_of(name, **({"style": style} if style else {}))
    assert on_machine(part) <= {o.key for o in own}
    assert on_machine(part) == ON_MACHINE[key]


def test_a_bought_bush_is_still_pressed_and_reamed_in_its_housing():
    part, own = own_of("bush")
    assert list(fitted(part, own)) == ["before", "outside"]
    keys = [o.key for o in bought_route(part, Offer(1, 1, {}), own, MM)]
    assert keys == [
        "bought.order", "housing", "bought.before", "bought.outside", "press", "reamed", "oil",
    ]  # fmt: skip


def test_no_hole_of_the_machine_is_asked_for_with_a_pin():
    part, own = own_of("taper_pin")
    assert fitted(part, own) == {}
    assert not any("mouth" in line for line in ask_for(part, fitted(part, own), MM))


def test_a_screw_is_asked_for_by_thread_and_journals_measured_as_it_came_and_fitted():
    part, own = own_of("screw")
    asked = "; ".join(ask_for(part, fitted(part, own), MM))
    assert "thread 3/4-8 Acme left hand" in asked
    assert asked.count(" to ") >= 2  # its journals' limits
    keys = [o.key for o in bought_route(part, Offer(1, 1, {}), own, MM)]
    assert keys == ["bought.order", "bought.measure", "fit"]
