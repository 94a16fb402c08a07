"""Facts declared once: read as typed, shown again, refused with a sentence, whoever brings them."""

from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from trebb.core.errors import InputError
from trebb.core.facts import Choice, Length, Number
from trebb.core.families.gear.facts import name_from
from trebb.core.machine import KINDS
from trebb.core.register import FAMILIES
from trebb.core.stating import card_schema, schema_of
from trebb.core.stating.page import with_page
from trebb.core.survey import all_set_ups
from trebb.core.survey.page import with_set_ups
from trebb.core.units import UnitSystem, parse_list

ROOT = Path(__file__).parents[2]
FACTS = [(family, fact) for family in FAMILIES for fact in schema_of(family).facts]
FACTS += [("card", fact) for fact in card_schema().facts]
NASTY = (
    *("nan", "inf", "-inf", "1e999", "²0", "-5", "1000000", "5 parsec", "1 m**9**9**9", "", " ", "\0"),
    *("9" * 80, "½", "1_0", "0x10", "１２"),
)
TYPED = st.one_of(st.sampled_from(NASTY), st.text(max_size=60))
BROUGHT = st.one_of(st.floats(), st.text(max_size=40), st.sampled_from(NASTY), st.booleans())


@pytest.mark.parametrize(("family", "fact"), FACTS, ids=lambda v: v if isinstance(v, str) else v.key)
def test_what_is_usual_is_taken_and_reads_back_as_shown(family, fact):
    if family == "card" or not isinstance(fact, Length | Number):
        return
    for kind in KINDS.values():
        for assembly in (a for a in kind.assemblies if a.family == family):
            subject = schema_of(family).subject(kind.works_as, assembly.key, {})
            value = getattr(subject, fact.name, getattr(getattr(subject, "thread", None), fact.name, None))
            if value is None:
                continue
            fact.admitted(value)
            for system in UnitSystem:
                assert fact.typed(fact.shown(value, system), system) == pytest.approx(value, abs=0.0013)


@settings(max_examples=300, deadline=None)
@given(st.sampled_from(FACTS), TYPED, st.sampled_from(UnitSystem))
def test_whatever_is_typed_ends_in_a_value_within_bounds_or_in_one_sentence(named, text, system):
    _, fact = named
    try:
        value = fact.typed(text, system)
    except InputError:
        return
    fact.admitted(value)
    assert not isinstance(value, float) or abs(value) < 1e9


@settings(max_examples=300, deadline=None)
@given(st.sampled_from(FACTS), BROUGHT)
def test_whatever_a_file_brings_is_admitted_or_refused(named, value):
    _, fact = named
    try:
        found = fact.admitted(value)
    except InputError:
        return
    if isinstance(fact, Length | Number):
        assert fact.low <= found <= fact.high
    if isinstance(fact, Choice):
        assert value in fact.choices or f"{value:g}" in fact.choices


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("58,5 64", [58.5, 64.0]),
        ("12,70 12,71", [12.7, 12.71]),
        ("58,5; 64", [58.5, 64.0]),
        ("0, 40, 95", [0.0, 40.0, 95.0]),
        ("0,40,95", [0.0, 40.0, 95.0]),
        ("1-1/8 .5", [1.125, 0.5]),
        ("", []),
    ],
)
def test_a_list_is_read_one_way_everywhere(text, found):
    assert [number for number, _ in parse_list(text)] == found


@pytest.mark.parametrize(
    ("text", "said"),
    [("1,250 3", "misread"), ("1 1/8", "together"), ("x", "no number"), ("1/0", "over nothing")],
)
def test_a_list_that_reads_two_ways_is_refused(text, said):
    with pytest.raises(InputError, match=said):
        parse_list(text)


def test_facts_that_cannot_be_together_are_refused_though_each_alone_could():
    drive = schema_of("screw_drive")
    with pytest.raises(InputError, match="the travel goes from nothing to 50 mm"):
        drive.subject("lathe", "cross_slide", {"travel_mm": 50.0, "read_at": "60"})
    with pytest.raises(InputError, match="takes 3 mm in all"):
        schema_of("ways").subject("lathe", "ways", {"shim.1": "tail_front 4.0"})


def test_a_lathe_s_saddle_is_asked_more_than_a_mill_s():
    assert schema_of("gib").subject("lathe", "saddle", {}).is_saddle
    assert not schema_of("gib").subject("mill", "saddle", {}).is_saddle


def test_the_page_of_formats_has_the_facts_as_they_are_declared():
    page = (ROOT / "docs" / "FORMATS.md").read_text(encoding="utf-8")
    assert with_page(page) == page, "run: make formats"


@pytest.mark.parametrize(
    ("typed", "kept"),
    [
        ("16 DP 14.5", "DP16 14.5 full"),
        ("DP 16 14½°", "DP16 14.5 full"),
        ("16 diametral pitch 14 1/2", "DP16 14.5 full"),
        ("10dp, 20 stub", "DP10 20 stub"),
        ("DP16 14.5 full", "DP16 14.5 full"),
        ("m2", "m2 20 full"),
        ("2 mod", "m2 20 full"),
        ("Module 2,5", "m2.5 20 full"),
        (" ", ""),
    ],
)
def test_a_gear_is_named_as_a_shop_says_it(typed, kept):
    assert name_from(typed) == kept
    assert not kept or name_from(kept) == kept


@pytest.mark.parametrize(
    ("typed", "said"),
    [
        ("16 DP", "“16 DP”: its pressure angle behind it, 14.5 or 20"),
        ("16 DP 99", "“16 DP 99”: such as"),
        ("m2.3 20", "“m2.3 20”: such as"),
        ("cheese", "“cheese”: such as"),
        ("14.5", "“14.5”: such as"),
    ],
)
def test_a_gear_s_name_that_will_not_do_is_said_as_it_was_typed(typed, said):
    with pytest.raises(InputError) as refused:
        name_from(typed)
    assert said in str(refused.value)


def test_a_screw_s_lead_is_stated_in_threads_an_inch_too():
    lead = schema_of("train").fact("lead_mm")
    assert lead.typed("8 tpi", UnitSystem.INCH) == pytest.approx(3.175)
    assert lead.shown(3.175, UnitSystem.METRIC) == "8 tpi"
    assert lead.typed("0", UnitSystem.METRIC) == 0
    assert "0" in lead.shown(0.0, UnitSystem.INCH)


def test_the_page_of_formats_has_every_set_up_with_its_places():
    page = (ROOT / "docs" / "FORMATS.md").read_text(encoding="utf-8")
    assert with_set_ups(page) == page, "run: make formats"
    assert all(f"| `{s.key}` |" in page for s in all_set_ups())
