"""Spindle findings, remedies, parts, sizes while making, order of assembly, tool table."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.core.test_spindle_survey import known, taken
from trebb.core.condition import Estimate, ReadingsOnly, estimate
from trebb.core.errors import InputError, UnreadError
from trebb.core.families.spindle.findings import best_clocking, draw, runout_along, split_spindle
from trebb.core.families.spindle.journals import seat_states
from trebb.core.families.spindle.lubrication import lubrication
from trebb.core.families.spindle.sizes import measure_limits
from trebb.core.families.spindle.subject import ONE_BEARING_LEVER, USUAL, spindle_model
from trebb.core.families.spindle.words import spindle_findings
from trebb.core.fits import STEEL, heat_hub_to_slip_c, press_fit
from trebb.core.fitup import assembly_order, blocked_by, fit_steps
from trebb.core.machine import State, class_limit
from trebb.core.machine.workshop import Workshop
from trebb.core.making.correction import size_sentence
from trebb.core.making.operations import SizeTarget
from trebb.core.making.routes import route
from trebb.core.parts import PartInputs, family
from trebb.core.practice.trials import SpindleTrial
from trebb.core.proof.tool_table import read_table, shift_table
from trebb.core.remedies import predict, remedies_of, remedy
from trebb.core.survey import observations
from trebb.core.threads import Band
from trebb.core.units import UnitSystem

INCH = UnitSystem.INCH
LATHE, MILL, DRILL = USUAL["lathe"], USUAL["mill"], USUAL["drill"]
SHOP = Workshop()


def limits(spindle):
    return {key: class_limit("ordinary", key) for _, key in measure_limits(spindle).values()}


def surveyed(spindle, condition, *sets):
    spindle = replace(spindle, journals_read="journals" in sets)
    return known(spindle, *[(key, taken(key, spindle, condition)) for key in sets])


def part(key, spindle=MILL, facts=None, **measured):
    return family(key).build(PartInputs(spindle, SHOP, facts or {}, measured={"float": 0.01, **measured}))


def failed(made):
    return [c.sentence for c in made.checks if not c.is_ok]


def row(made, label):
    return next(r.value for r in made.rows if r.label == label)


def as_read(now):
    """A condition taken as if readings alone told it."""
    return ReadingsOnly(*(getattr(now, name) for name in Estimate.__struct_fields__))


# findings -------------------------------------------------------------------------------------


def findings(spindle, *sets, condition, contact=None):
    spindle = replace(spindle, journals_read="journals" in sets)
    trial = SpindleTrial.drawn(1, spindle)
    machine = replace(trial.machine, condition={**dict.fromkeys(trial.truth, 0.0), **condition})
    trial = replace(trial, machine=machine)
    seated, scatter, now = trial.survey([(s, lot) for s, lot in trial.lots() if s.key in sets])
    split = split_spindle(seated, now, limits(spindle), scatter, as_read(now))
    seats = (
        seat_states(
            spindle, [p for s, lot in trial.lots() if s.key == "journals" for p in trial.read(s, lot)]
        )
        if "journals" in sets
        else []
    )
    return split, spindle_findings(
        seated, now, split, limits(spindle), INCH, seats=seats, contact=contact, warm=None
    )


def test_a_seat_that_does_not_repeat_stands_first_with_two_ways_on():
    split, found = findings(LATHE, "nose", "taper_bore", "test_bar", condition={"seat": 0.006})
    assert not split.trusts_seat
    assert found[0].key == "seat"
    assert "does not repeat" in found[0].sentence
    assert [key for _, key in found[0].set_ups] == ["contact", "taper_bore"]


@pytest.mark.parametrize(("seat", "words"), [(0.0, "repeats well enough"), (0.0010, "seat it twice more")])
def test_a_trusted_seat_says_whether_that_is_known_or_only_not_refuted(seat, words):
    split, found = findings(LATHE, "nose", "test_bar", condition={"seat": seat})
    assert split.trusts_seat
    assert words in next(f for f in found if f.key == "seat").next_move


def test_a_sound_seat_is_trusted_and_taken_off():
    split, found = findings(LATHE, "nose", "taper_bore", "test_bar", condition={"taper.x": 0.02})
    assert split.trusts_seat
    assert split.named == ("taper",)
    assert "Most of it is the taper." in found[0].sentence


def test_worn_journals_under_good_bearings_are_named_as_such():
    split, found = findings(
        MILL,
        "nose",
        "push_test",
        "journals",
        "taper_bore",
        condition={"loose.front": 0.03, "loose.rear": 0.02},
    )
    assert split.slack_part == "journals"
    assert "loose on their journals" in " ".join(f.sentence for f in found)
    assert any("Neither preload nor new bearings" in f.next_move for f in found)


def test_what_the_indicator_cannot_show_is_not_shown_rather_than_none():
    _, found = findings(LATHE, "push_test", condition={})
    slack = next(f for f in found if f.key in ("slack", "whole"))
    assert slack.state is State.WITHIN


def test_bar_and_taper_after_one_seating_are_said_to_be_one_sum():
    trial = SpindleTrial.drawn(4, LATHE)
    lots = [(s, lot) for s, lot in trial.lots() if lot.key.startswith("seat 1")]
    seated, scatter, now = trial.survey(lots)
    read = [o for s, lot in lots for o in observations(s, seated, trial.read(s, lot))]
    alone = estimate(spindle_model(seated).loosened, read)
    split = split_spindle(seated, now, limits(LATHE), scatter, alone)
    found = spindle_findings(seated, now, split, limits(LATHE), INCH, seats=[], contact=None, warm=None)
    assert any(f.key == "tangle" or "the bar's own" in f.next_move for f in found)
    assert not {"bar", "taper"} & set(split.named)


# clocking -------------------------------------------------------------------------------------


def test_clocked_best_the_errors_oppose():
    now = surveyed(MILL, {"bearing.x": 0.008, "chuck.y": 0.02}, "nose", "chuck_pin", "taper_bore")
    best = best_clocking(MILL, draw(now), MILL.pin_near_mm, "chuck")
    assert best.after.value < best.before.value < best.worst.value
    turned = runout_along(MILL, draw(now), [MILL.pin_near_mm], holder="chuck", turned_deg=best.turn_deg)[0]
    assert turned.value == pytest.approx(best.after.value, rel=1e-6)
    others = [
        runout_along(MILL, draw(now), [MILL.pin_near_mm], holder="chuck", turned_deg=float(d))[0].value
        for d in range(0, 360, 30)
    ]
    assert turned.value <= min(others) + 1e-4


# remedies -------------------------------------------------------------------------------------


def left(key, spindle, now, measure):
    return predict(remedy(key, "spindle"), spindle, now).measures[measure].value


def test_preload_takes_out_slack_but_not_a_loose_journal():
    slack = surveyed(LATHE, {"slack": 0.03}, "push_test", "journals")
    loose = surveyed(LATHE, {"loose.front": 0.03}, "push_test", "journals")
    assert left("preload", LATHE, slack, "slack") < 0.008
    assert left("preload", LATHE, loose, "slack") > 0.02
    assert left("bearings", LATHE, loose, "slack") > 0.02
    assert left("sleeve", LATHE, loose, "slack") < 0.008


def test_a_second_bearing_takes_the_lever_away():
    one = replace(DRILL, bearing_count=1)
    now = surveyed(one, {"slack": 0.03}, "push_test")
    assert left("second_bearing", one, now, "slack") < 0.5 * left("leave", one, now, "slack")
    assert one.lever == ONE_BEARING_LEVER
    assert not remedy("second_bearing", "spindle").applies(DRILL)


def test_grinding_leaves_less_than_reaming_and_reaming_less_than_nothing_on_a_bad_taper():
    now = surveyed(LATHE, {"taper.x": 0.02, "taper_lean.y": 0.01}, "nose", "taper_bore", "test_bar")
    assert (
        left("grind", LATHE, now, "work")
        < left("ream", LATHE, now, "work")
        < left("leave", LATHE, now, "work")
    )


@pytest.mark.parametrize(
    ("hardness", "said"), [("", "file lightly"), ("hard", "reamer would be ruined"), ("soft", "")]
)
def test_a_taper_is_never_reamed_untested_or_hard(hardness, said):
    why = remedy("ream", "spindle").hinder(replace(LATHE, hardness=hardness))
    assert said in why
    assert bool(why) == bool(said)


def test_cleaning_promises_by_what_the_blue_showed():
    now = surveyed(LATHE, {"seat": 0.006}, "test_bar")
    burr, worn = (
        left("clean", replace(LATHE, contact=c), now, "seat") for c in ("one side", "the back only")
    )
    assert burr < 0.6 * worn


def test_the_backplate_takes_the_offset_and_leaves_the_lean():
    now = surveyed(LATHE, {"chuck.x": 0.04, "chuck_lean.x": 0.0}, "chuck_pin", "nose")
    assert left("backplate", LATHE, now, "chuck") < 0.4 * left("leave", LATHE, now, "chuck")
    assert left("backplate", LATHE, now, "work") == pytest.approx(left("leave", LATHE, now, "work"), rel=0.05)


@pytest.mark.parametrize("r", remedies_of("spindle"), ids=lambda r: r.key)
def test_every_remedy_says_needs_risk_and_a_band(r):
    spindle = replace(DRILL, bearing_count=1) if r.applies(replace(DRILL, bearing_count=1)) else LATHE
    now = surveyed(spindle, {"slack": 0.01}, "push_test", "nose")
    scatter = SpindleTrial.drawn(0, spindle).survey([])[1]
    split = split_spindle(spindle, now, limits(spindle), scatter, as_read(now))
    prediction = predict(r, spindle, now)
    assert r.needs
    assert r.risk(spindle, split, prediction, INCH).endswith(".")
    assert all(0 <= q.low <= q.value <= q.high for q in prediction.measures.values())


# lubrication ----------------------------------------------------------------------------------


def test_grease_by_the_handbook_rule_and_less_of_it_where_it_is_fast():
    slow, fast = lubrication(35, 62, 14, 300), lubrication(35, 62, 14, 9000)
    assert slow.relube_g == pytest.approx(0.005 * 62 * 14)
    assert slow.grease_g > 1.5 * fast.grease_g
    assert slow.viscosity_cst > fast.viscosity_cst
    assert "oil that drains through" in fast.prefers
    assert "Oil:" in slow.words()
    assert "Grease:" in slow.words()


# parts ----------------------------------------------------------------------------------------


def test_a_sleeve_follows_the_seat_as_measured():
    planned, cut = part("sleeve"), part("sleeve", turned=31.40)
    interference = row(planned, "Interference")
    assert row(cut, "Sleeve bore").middle_mm == pytest.approx(31.40 - interference)
    assert row(planned, "Sleeve bore").middle_mm == pytest.approx(
        row(planned, "Seat, turned down").middle_mm - interference
    )


def test_the_heat_and_force_of_a_sleeve_are_lame_s():
    made = part("sleeve", facts={"interference": 0.02, "length": 28.0})
    seat = row(made, "Seat, turned down").middle_mm
    fit = press_fit(
        dia_mm=seat,
        shaft_bore_mm=0.4 * seat,
        hub_outside_mm=row(made, "Sleeve outside before"),
        length_mm=28.0,
        interference_mm=0.02,
    )
    assert row(made, "To press it, dry").startswith(f"{fit.force_n / 2000 / 4.44822:.1f} tons")
    assert row(made, "Warm the outer by").startswith(
        f"{heat_hub_to_slip_c(seat, 0.02, 0.02, STEEL.expansion_per_c):.0f} °C"
    )
    assert row(made, "grows to") == pytest.approx(row(made, "Sleeve outside before") + fit.outside_growth_mm)


def test_a_sleeve_in_a_housing_closes_and_is_finished_in_place():
    made = part("sleeve", facts={"where": "front housing"})
    assert row(made, "closes to") < row(made, "Sleeve bore before")
    assert row(made, "Sleeve outside").middle_mm > row(made, "Seat, bored out").middle_mm


@pytest.mark.parametrize(
    ("key", "facts", "said"),
    [
        ("sleeve", {"interference": 0.15, "wall": 4.0}, "is more than"),
        ("sleeve", {"press": "2", "length": 250.0, "interference": 0.05}, "is too small for"),
        ("sleeve", {"wall": 0.8}, "springs when it is held"),
        ("sleeve", {"interference": 0.004}, "works loose"),
        ("spacer", {"preload": 0.03}, "More approach"),
        ("spacer", {"wall": 20.0}, "touches the outer rings"),
        ("locking_collar", {"hole": 12.0}, "break into the thread"),
        ("locking_collar", {"hole_depth": 20.0}, "come through the back"),
        ("locking_collar", {"major": 60.0, "outside": 90.0}, "does not pass over"),
        ("pin_spanner", {"hole": 2.0, "length": 600.0}, "shears a pin"),
        ("bearing_seat", {"quill": 64.0}, "of wall is left"),
        ("coupler_sleeve", {"drive": 40.0}, "slides and does not knock"),
        ("coupler_sleeve", {"pin": 15.0}, "weakens it"),
    ],
)
def test_a_part_that_would_spoil_the_job_says_so(key, facts, said):
    assert any(said in s for s in failed(part(key, facts=facts)))


@pytest.mark.parametrize("arrangement", ["back", "face"])
def test_spacers_differ_by_float_and_preload_the_right_one_shorter(arrangement):
    made = part("spacer", facts={"arrangement": arrangement, "gap": 0.02, "preload": 0.004, "length": 20.0})
    inner, outer = row(made, "Inner spacer").middle_mm, row(made, "Outer spacer").middle_mm
    assert abs(outer - inner) == pytest.approx(0.024)
    assert (inner < outer) == (arrangement == "back")


def test_a_pin_spanner_from_two_measured_holes():
    assert row(
        part("pin_spanner", facts={"over": 46.0, "hole": 5.0}), "Between pin centres"
    ) == pytest.approx(41.0)


def test_no_spacer_is_sized_until_the_float_is_read_or_typed():
    with pytest.raises(UnreadError, match="end float"):
        family("spacer").build(PartInputs(MILL, SHOP, {}))
    typed = family("spacer").build(PartInputs(MILL, SHOP, {"gap": 0.02}))
    assert row(typed, "Difference") == pytest.approx(0.02 + 0.004)


def test_the_second_bearing_stands_at_the_quill_s_other_end_and_the_rack_thins_its_wall():
    facts = {"quill": 80.0, "outside": 62.0, "rack": 4.5, "quill_length": 300.0, "width": 14.0}
    made = part("bearing_seat", facts=facts)
    labels = [s.label for s in made.sections]
    assert labels[0] == "second bearing"
    assert labels[-1] == "first bearing, at the nose"
    assert sum(s.length_mm for s in made.sections) == pytest.approx(300.0)
    assert made.bore.length_mm == 14.0
    assert row(made, "Wall left under the rack") == pytest.approx((80 - 62) / 2 - 4.5)
    assert not failed(made)
    deep = part("bearing_seat", facts={**facts, "rack": 5.5})
    assert any("3.5 mm of wall" in s or "0.1378 in of wall" in s for s in failed(deep))
    unread = {k: v for k, v in facts.items() if k != "rack"}
    assert any("depth is not measured" in s for s in failed(part("bearing_seat", facts=unread)))


@pytest.mark.parametrize(("kind", "has_drawbar"), [("mill", True), ("lathe", False), ("drill", False)])
def test_a_cartridge_is_caught_freed_first_and_its_tool_read_before_and_after(kind, has_drawbar):
    steps = assembly_order(fit_steps("cartridge", "spindle", USUAL[kind]))
    keys = [s.key for s in steps]
    assert ("drawbar" in keys) is has_drawbar
    order = [
        k for k in ("tool_before", "belt_off", "drawbar", "box", "out", "in", "tool_length") if k in keys
    ]
    assert [k for k in keys if k in order] == order
    assert not any(word in s.title.lower() for s in steps for word in ("spacer", "preload"))


# making ---------------------------------------------------------------------------------------

OUTSIDE, BORE = SizeTarget("seat", Band(31.492, 31.508), 1), SizeTarget("bore", Band(62.0, 62.019), -1)


@pytest.mark.parametrize(
    ("target", "value", "tone", "said"),
    [
        (OUTSIDE, 31.6, "near", "still to take off"),
        (OUTSIDE, 31.5, "within", "stop"),
        (OUTSIDE, 31.45, "beyond", "too small"),
        (BORE, 61.9, "near", "still to take off"),
        (BORE, 62.01, "within", "stop"),
        (BORE, 62.05, "beyond", "too large"),
    ],
)
def test_a_size_on_its_way_says_what_is_left_or_gone(target, value, tone, said):
    found, head, text = size_sentence(target, value, INCH)
    assert found == tone
    assert said in head
    if tone == "near":
        assert "on radius" in text


@pytest.mark.parametrize(
    "key", ["spacer", "sleeve", "coupler_sleeve", "bearing_seat", "locking_collar", "pin_spanner"]
)
def test_every_route_is_in_order_with_sizes_to_reach(key):
    operations = route(part(key), MILL, SHOP)
    assert [o.number for o in operations] == [10 * (i + 1) for i in range(len(operations))]
    assert any(o.target is not None for o in operations)
    assert all((o.kind == "size") == (o.target is not None) for o in operations)


def test_hardness_and_earlier_repairs_come_before_any_tool():
    assert "file" in route(part("sleeve"), MILL, SHOP)[0].title
    assert "earlier sleeve" in route(part("sleeve"), MILL, SHOP)[0].title


# fit-up ---------------------------------------------------------------------------------------


@pytest.mark.parametrize("spindle", [LATHE, DRILL], ids=lambda s: s.kind)
@pytest.mark.parametrize("key", [r.key for r in remedies_of("spindle")])
def test_every_repair_goes_together_in_some_order(key, spindle):
    steps = assembly_order(fit_steps(key, "spindle", spindle))
    done = set()
    for step in steps:
        assert not blocked_by(step, steps, done)
        done.add(step.key)
    assert steps[-1].key == "prove"


def test_bearings_are_tried_cold_warmed_and_greased_once_they_are_cold_again():
    steps = [s.key for s in assembly_order(fit_steps("bearings", "spindle", MILL))]
    assert (
        steps.index("try_cold")
        < steps.index("bearings_on")
        < steps.index("lubricate")
        < steps.index("preload")
        < steps.index("covers")
    )


def test_a_bond_is_cured_before_it_is_drilled():
    titles = {o.key: i for i, o in enumerate(route(part("coupler_sleeve", DRILL), DRILL, SHOP))}
    assert titles["bond"] < titles["pin"]


# tool table -----------------------------------------------------------------------------------

TABLE = "Tool,Note,Length\nT1,drill,4.2510\nT2,face mill,3.1\nT3,spare,\nT4,x,n/a\n"


def test_every_length_shifts_and_nothing_else():
    table = read_table(TABLE)
    assert table.usual_columns == (0, 2)
    shifted, text = shift_table(table, 0, 2, 0.254, "in")
    assert [s.new for s in shifted] == ["4.2610", "3.1100", "", "n/a"]
    assert [s.problem for s in shifted] == ["", "", "no length", "“n/a” is not a number"]
    assert text == "Tool,Note,Length\nT1,drill,4.2610\nT2,face mill,3.1100\nT3,spare,\nT4,x,n/a\n"


def test_decimal_commas_stay_commas():
    _, text = shift_table(read_table("Nr;Länge\n1;107,95\n2;80\n"), 0, 1, -0.5, "mm")
    assert text == "Nr;Länge\n1;107,450\n2;79,500\n"


@given(st.lists(st.decimals(1, 300, places=3), min_size=1, max_size=9), st.floats(-2, 2))
def test_shifting_there_and_back_restores_the_lengths(lengths, by):
    by = round(by, 3)
    table = read_table("tool,length\n" + "".join(f"{i},{v}\n" for i, v in enumerate(lengths)))
    _, there = shift_table(table, 0, 1, by, "mm")
    shifted, _ = shift_table(read_table(there), 0, 1, -by, "mm")
    assert [float(s.new) for s in shifted] == pytest.approx([float(v) for v in lengths], abs=1e-9)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "without rows"),
        ("tool,length\n", "without rows"),
        ("tool\n1\n", "one column"),
        ("tool,length\n1,2,3\n", "line 2 of the table: it has 3 cells"),
    ],
)
def test_what_is_no_table_is_refused(text, said):
    with pytest.raises(InputError, match=said):
        read_table(text)


@pytest.mark.parametrize(("column", "unit"), [(9, "mm"), (1, "cubits")])
def test_a_column_or_unit_that_is_not_there_is_refused(column, unit):
    with pytest.raises(InputError):
        shift_table(read_table(TABLE), 0, column, 0.1, unit)
