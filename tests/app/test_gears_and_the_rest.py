"""Gears, friction cones, castings, jaws, index plates and cutters, typed in the window from survey to
proof.
"""

from __future__ import annotations

import math

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.app.hand import Hand, add, choose, make_all, named, proof, set_part, wrong
from trebb.core.errors import InputError
from trebb.core.gears.naming import named as gear_named
from trebb.core.machine import State
from trebb.core.units import UnitSystem
from trebb.logbook.cases.quotes import quote_of
from trebb.logbook.log.entries import FactStated, PartSet

METRIC = UnitSystem.METRIC


@pytest.fixture
def hand(make_window):
    def make(kind="lathe", system=METRIC):
        return Hand(make_window, kind, system)

    return make


def rock(h, piece, teeth, lash, once=0.0, phase="before"):
    """A pair rocked at four quarters, its lash changing once a turn, µm."""
    for k in range(4):
        n = 1 + round(k * teeth / 4)
        value = lash + once * math.cos(2 * math.pi * (n - 1) / teeth)
        h.read(piece, "gear_rock", f"tooth {n}", f"{value:.0f} µm", phase=phase)


def fit_up(h, piece):
    """Every step of the assembly ticked in its order."""
    stop = h.frame.go_to("fitup" if "fitup" in [s.key for s in stops()] else "fit_up")
    QApplication.processEvents()
    assert stop.isVisible()
    return [step.title for step in h.case(piece).fit_order()]


def stops():
    from trebb.app.stops.register import STOPS

    return STOPS


# gears --------------------------------------------------------------------------------------------


def test_a_mill_heads_bevel_pair_is_spaced_and_proven(hand):
    h = hand("mill")
    bevel = add(h, "head", "gear", "Head bevel")
    h.state(bevel, kind="bevel", teeth="36", mate_teeth="18", name="m2 20", bore_mm="20", hub_mm="34",
            spacer_mm="3", lash_mm="0.1")  # fmt: skip
    rock(h, bevel, 36, 420, 20)
    assert "the bore" in h.said(bevel) or "play of its bore" in h.said(bevel)
    h.read(bevel, "gear_play", "push", "2 µm", "2 µm")
    # By hand: δ = atan(36/18) = 63.43°, 2 tan 20° sin δ = 0.6511; (0.4185 - 0.1)/0.6511 = 0.489 mm
    # toward the apex.
    said = h.said(bevel)
    assert "toward the apex" in said
    assert h.figure(bevel, "lash").state is State.BEYOND
    assert "3.4" in said
    assert h.case(bevel).advised().key == "spacer"
    choose(h, bevel, "spacer")
    part = h.case(bevel).part("gear_spacer", METRIC)
    assert part.band("thickness").middle_mm == pytest.approx(3.489, abs=0.015)
    assert not wrong(part)
    make_all(h, bevel, "gear_spacer")
    titles = fit_up(h, bevel)
    assert titles.index("Spacer on its seat, faces wiped") < titles.index(
        "Gear on its seat, the way round it came"
    )
    rock(h, bevel, 36, 105, 18, phase="after")
    h.read(bevel, "gear_play", "push", "2 µm", "2 µm", phase="after")
    state, head, _ = proof(h, bevel)
    assert "Lash" in head
    assert "it was 4" in head
    assert h.case(bevel).measures_of("after")[0].state is State.WITHIN
    assert state is not State.BEYOND


def test_a_spacer_of_less_than_nothing_is_refused_with_the_way_out(hand):
    h = hand("mill")
    bevel = add(h, "head", "gear")
    h.state(bevel, kind="bevel", teeth="24", mate_teeth="24", name="m2 20", lash_mm="0.3", spacer_mm="0")
    rock(h, bevel, 24, 50)
    h.read(bevel, "gear_play", "push", "2 µm", "2 µm")
    assert "less than nothing" in h.said(bevel)
    choose(h, bevel, "spacer")
    with pytest.raises(InputError, match="shim the mate"):
        h.case(bevel).part("gear_spacer", METRIC)
    stop = h.frame.go_to("parts")
    QApplication.processEvents()
    assert stop.isVisible()


def test_every_tooth_read_tells_runout_from_an_odd_tooth(hand):
    h = hand("mill")
    gear = add(h, "head", "gear")
    h.state(gear, kind="spur", teeth="20", mate_teeth="13", name="m2 20", every="yes")
    for n in range(1, 21):
        value = 150 + 60 * math.cos(2 * math.pi * (n - 5) / 20) + (45 if n == 12 else 0) + (n * 7 % 3 - 1)
        h.read(gear, "gear_teeth", f"tooth {n}", f"{value:.0f} µm")
    once = h.figure(gear, "runout").value
    assert once.low <= 0.120 <= once.high
    assert once.value == pytest.approx(0.120, abs=0.02)
    assert "tooth 12" in h.said(gear)
    ring = h.frame.stop.pictures.picture().ring
    assert ring._odd == {12}


def test_four_quarters_do_not_vouch_for_the_teeth(hand):
    h = hand()
    gear = add(h, "gearbox", "gear")
    h.state(gear, teeth="40", mate_teeth="20")
    rock(h, gear, 40, 100, 5)
    runout = h.figure(gear, "runout")
    assert runout.state is State.UNKNOWN
    assert any("every tooth" in name for name, _ in runout.unread)


def test_a_zinc_back_gear_is_named_and_a_used_one_checked_before_it_is_bought(hand):
    h = hand()
    gear = add(h, "headstock", "gear", "Back gear")
    h.state(gear, teeth="41", mate_teeth="20", metal="zinc", missing="7 8", bore_mm="20", hub_mm="30")
    worn = gear_named("DP16 14.5 full").spur(40, 0.08)
    h.read(gear, "gear_name", "outside", "66.55")
    h.read(gear, "gear_name", "span", f"{worn.span_mm(4):.2f}").read(
        gear, "gear_name", "more", f"{worn.span_mm(5):.2f}"
    )
    assert "with 40 they fit DP 16" in h.said(gear)  # one too many was counted
    h.state(gear, teeth="40")
    h.frame.go_to("survey").bench.choose_set_up("gear_name")
    QApplication.processEvents()
    named(h.frame, "take_name").click()
    assert h.session.case.subject.name == "DP16 14.5 full"
    assert "Teeth 7, 8 are gone" in h.said(gear)
    assert h.case(gear).state is State.BEYOND
    assert h.case(gear).advised().key == "used"
    hindered = {r.key: r.hinder(h.case(gear).subject) for r, _ in h.case(gear).predictions()}
    assert "melts" in hindered["build_up"]
    choose(h, gear, "used")
    set_part(h, gear, "new_gear", bore="20")
    stop = h.frame.go_to("parts")
    box = named(stop, "new_gear_get")
    box.setCurrentIndex(box.findData("buy"))
    box.activated.emit(box.currentIndex())
    QApplication.processEvents()
    asked = named(stop, "ask_for").text()
    assert "bore" in asked
    assert "over pins" in asked
    assert "40 teeth, DP 16, 14½° full depth, to run with 20" in asked
    case = h.case(gear)
    for field, value in (
        ("price", 40.0),
        ("wait", 9.0),
        ("has_teeth", 41.0),
        ("has_name", "DP16 20 full"),
        ("has_face", 6.0),
    ):
        h.session.record(PartSet(part=case.part_name("new_gear"), field=field, value=value))
    said = " ".join(c.sentence for c in case.part_checks("new_gear", METRIC) if not c.is_ok)
    assert "41 teeth; wanted are 40" in said
    assert "does not mesh" in said
    assert "too narrow" in said
    for field, value in (("has_teeth", 40.0), ("has_name", "DP16 14.5 full"), ("has_face", 12.0)):
        h.session.record(PartSet(part=case.part_name("new_gear"), field=field, value=value))
    said = " ".join(c.sentence for c in case.part_checks("new_gear", METRIC) if not c.is_ok)
    assert "wanted are" not in said
    assert "does not mesh" not in said
    over = case.part("new_gear", METRIC).band("over_pins").middle_mm
    h.session.record(PartSet(part=case.part_name("new_gear"), field="offer.over_pins", value=over - 1.2))
    said = [c.sentence for c in case.part_checks("new_gear", METRIC) if not c.is_ok]
    assert any("over pins" in s and "too small" in s for s in said)  # another gear than was asked for
    h.session.record(PartSet(part=case.part_name("new_gear"), field="offer.over_pins", value=over))
    make_all(h, gear, "new_gear")
    costs = {r.key: (r.cost, r.wait_days) for r, _ in case.predictions()}
    assert costs["used"] == (40.0, 9.0)  # what it costs is what was asked for it
    titles = fit_up(h, gear)
    assert "Check what came: teeth, name, bore, face, key, hub" in titles
    assert "Every broken piece found and out of the train" in titles
    rock(h, gear, 40, 120, 5, phase="after")
    h.read(gear, "gear_play", "push", "20 µm", "20 µm", phase="after")
    assert h.case(gear).measures_of("after")


def test_a_new_gear_is_cut_with_its_own_cutter_and_dividing(hand):
    h = hand(system=UnitSystem.INCH)
    gear = add(h, "gearbox", "gear")
    h.state(gear, teeth="51", mate_teeth="20", name="DP16 14.5", bore_mm="5/8", hub_mm="1 1/4")
    rock(h, gear, 51, 100)
    choose(h, gear, "new")
    part = h.case(gear).part("new_gear", UnitSystem.INCH)
    assert part.row("cutter").value == "No. 3"  # DP set, 35 to 54 teeth
    assert "49 circle" in str(part.row("dividing").value)  # no circle is exact for 51
    assert part.row("outside").value.high_mm == pytest.approx(53 / 16 * 25.4)
    assert any("wrong: round each division afresh" in c.sentence for c in part.checks)
    make_all(h, gear, "new_gear")


# trains -------------------------------------------------------------------------------------------


def test_a_reversing_train_of_bevels_goes_together_in_its_only_order(hand):
    h = hand()
    train = add(h, "gearbox", "train", "Reversing bevels")
    h.state(train, kind="bevels", positions="16-16")
    h.read(train, "train_rock", "mesh 1", "400 µm").read(train, "train_rock", "whole", "1.2 mm")
    choose(h, train, "together")
    titles = fit_up(h, train)
    order = [
        "Long shaft",
        "Far bevel",
        "Third bevel on its drawn shaft",
        "Third shaft home",
        "Near bevel",
        "Oil cap",
        "Cover",
    ]
    assert [t for t in titles if t in order] == order
    # One learned otherwise is kept; what cannot be is refused where it is typed.
    h.state(train, order="tube; fork after tube; gear after fork, tube")
    titles = fit_up(h, train)
    assert [t for t in titles if t in ("Tube", "Fork", "Gear")] == ["Tube", "Fork", "Gear"]
    with pytest.raises(InputError, match="wait for each other"):
        h.state(train, order="tube after fork; fork after tube")
    h.read(train, "train_rock", "mesh 1", "100 µm", phase="after").read(
        train, "train_rock", "whole", "0.2 mm", phase="after"
    )
    state, head, _ = proof(h, train)
    assert state is State.WITHIN
    assert "it was" in head


def test_the_lost_motion_of_a_train_is_shared_out(hand):
    h = hand()
    train = add(h, "gearbox", "train")
    h.state(train, positions="slow: 20-40 24-35-48; fast: 40-20 24-48", lead_mm="3.175", backwards="35")
    assert "the wrong way round" in h.said(train)
    # In "slow" a play of 300 µm at the first driven wheel is 300 × 48/40 × 24/48 at the last: 180 µm.
    h.read(train, "train_rock", "mesh 1", "300 µm").read(train, "train_rock", "mesh 2", "60 µm")
    h.read(train, "train_rock", "mesh 3", "60 µm").read(train, "train_rock", "whole", "900 µm")
    from trebb.core.families.train.findings import shares

    found = dict(shares(h.case(train).known("before", METRIC)))
    assert found["20 with 40"] == pytest.approx(0.180, abs=0.01)
    assert found["keys, pins and shafts"] == pytest.approx(
        0.9 - 0.180 - 0.060 * 48 / 35 * 35 / 48 - 0.06, abs=0.03
    )
    assert "slow 1/4" in h.said(train)
    assert "fast 1/1, turns against" not in h.said(train)


def test_feeds_are_halved_twice_from_the_wheels_at_hand(hand):
    h = hand()
    train = add(h, "gearbox", "train", "Feed train")
    h.state(train, positions="60-60", feed_mm="0.2")
    for wanted in ("0.1 mm", "0.05 mm"):
        set_part(h, train, "feed_train", wanted=wanted)
        part = h.case(train).part("feed_train", METRIC)
        assert part.row("feed").value == pytest.approx(float(wanted.split()[0]), rel=0.02)
        assert not wrong(part)
        assert part.views
    make_all(h, train, "feed_train")
    with pytest.raises(InputError, match="list more wheels"):
        set_part(h, train, "feed_train", wanted="0.0006 mm")
    assert h.case(train).part("feed_train", METRIC) == part  # nothing of it was kept


# friction -----------------------------------------------------------------------------------------


def test_a_brake_cone_is_relined_only_once_the_old_lining_is_known(hand):
    h = hand()
    cone = add(h, "headstock", "cone", "Brake cone")
    h.state(cone, kind="brake", force_n="300 N", torque_nm="6", draw_mm="2 mm")
    assert "asbestos" in h.said(cone).lower()
    h.read(cone, "cone_draw", "draw", "0.6", "0.7")
    assert h.case(cone).advised() is None or h.case(cone).advised().key not in ("reline", "skim")
    h.state(cone, asbestos="no")
    for angle, over in zip((0, 90, 180, 270), ("0.3 mm", "0.25 mm", "-0.1 mm", "0.2 mm"), strict=True):
        h.read(cone, "cone_lining", f"over, {angle}°", over)
    sizes = {"cone.big": "59.4", "cone.small": "47.6", "cone.apart": "27", "cup.big": "60.1",
    "cup.small": "48.2",
             "cup.apart": "26.5"}  # fmt: skip
    for place, size in sizes.items():
        h.read(cone, "cone_sizes", place, size)
    said = h.said(cone)
    assert "proud" in said
    # By hand: half angles atan(5.9/27) and atan(5.95/26.5).
    assert f"{math.degrees(math.atan(5.9 / 27)):.2f}°" in said
    assert f"{math.degrees(math.atan(5.95 / 26.5)):.2f}°" in said
    assert h.case(cone).advised().key == "reline"
    choose(h, cone, "reline")
    lining = h.case(cone).part("cone_lining", METRIC)
    assert not wrong(lining)
    assert lining.size_mm("start") == pytest.approx(3 + (60.1 - 48.2) / 2 + 0.5)  # t + (D - d)/2 + allowance
    make_all(h, cone, "cone_lining")
    set_part(h, cone, "cone_lining", form="pattern")
    flat = h.case(cone).part("cone_lining", METRIC)
    assert math.degrees(flat.size_mm("sweep")) == pytest.approx(
        360 * math.sin(math.atan(5.95 / 26.5)), abs=0.1
    )
    set_part(h, cone, "cone_lining", form="straight", least="1 mm")
    thin = h.case(cone).part("cone_lining", METRIC)
    assert any("thinner than its rivets" in s for s in wrong(thin))
    fit_up(h, cone)
    h.read(cone, "cone_draw", "draw", "3.0", "3.1", phase="after")
    for angle in (0, 90, 180, 270):
        h.read(cone, "cone_lining", f"over, {angle}°", "1.1 mm", phase="after")
    state, head, _ = proof(h, cone)
    assert state is State.WITHIN
    assert "it was" in head


def test_a_cone_whose_two_ends_are_alike_is_refused_where_it_is_typed(hand):
    h = hand()
    cone = add(h, "headstock", "cone")
    with pytest.raises(InputError, match="no angle"):
        h.state(cone, small_mm="60")
    for place, size in {"cone.big": "50", "cone.small": "50", "cone.apart": "20", "cup.big": "50",
    "cup.small": "48",
                        "cup.apart": "20"}.items():  # fmt: skip
        h.read(cone, "cone_sizes", place, size)
    assert "give no angle" in h.said(cone)


# castings -----------------------------------------------------------------------------------------


def test_a_cracked_dial_bracket_is_brazed_with_its_bore_held(hand):
    h = hand()
    bracket = add(h, "apron", "casting", "Dial bracket")
    h.state(bracket, earlier="weld", holds="load", bore_mm="20", boss_mm="40", section_mm="10")
    h.read(bracket, "crack", "length", "32 mm").read(bracket, "crack", "open", "0.1 mm")
    for angle, size in zip((0, 45, 90, 135), ("20.02", "20.03", "20.01", "20.02"), strict=True):
        h.read(bracket, "casting_bore", f"{angle}°", size)
    for k, off in enumerate((0, 0, 0, 80), 1):
        h.read(bracket, "casting_faces", f"corner {k}", f"{off} µm")
    said = h.said(bracket)
    assert "beside a weld" in said
    hindered = {r.key: r.hinder(h.case(bracket).subject) for r, _ in h.case(bracket).predictions()}
    assert "both ends" in hindered["braze"]
    assert "looks" in hindered["glue"]
    h.state(bracket, ends_found="yes")
    assert h.case(bracket).advised().key == "braze"
    choose(h, bracket, "braze")
    mandrel = h.case(bracket).part("bore_mandrel", METRIC)
    # By hand: steel grows 1e-6 × 310 K × 20 mm = 6 µm more than iron, and 15 µm of slide fit.
    assert mandrel.band("mandrel").high_mm == pytest.approx(20.01 - 0.0062 - 0.015, abs=0.001)
    make_all(h, bracket, "bore_mandrel")
    fit_up(h, bracket)
    h.read(bracket, "crack", "length", "0", phase="after")
    for angle, size in zip((0, 45, 90, 135), ("20.01", "20.01", "20.01", "20.01"), strict=True):
        h.read(bracket, "casting_bore", f"{angle}°", size, size, phase="after")
    for k in range(1, 5):
        h.read(bracket, "casting_faces", f"corner {k}", "0 µm", phase="after")
    state, head, _ = proof(h, bracket)
    assert state is not State.BEYOND
    assert "Crack" in head


def test_a_closed_hollow_and_what_can_fall_are_not_mended_by_fire(hand):
    h = hand()
    arm = add(h, "apron", "casting")
    h.state(arm, is_closed="yes", is_through="yes", holds="lifts", metal="zinc")
    said = h.said(arm)
    assert "bursts" in said
    assert "licensed" in said
    keys = {r.key: r.hinder(h.case(arm).subject) for r, _ in h.case(arm).predictions()}
    assert keys["braze"]
    assert keys["stitch"]
    assert h.case(arm).advised().key == "new"


def type_over(edit, text: str) -> None:
    """Another text instead of what stands there, entered."""
    edit.setFocus()
    edit.selectAll()
    QTest.keyClick(edit, Qt.Key.Key_Backspace)
    QTest.keyClicks(edit, text)
    QTest.keyClick(edit, Qt.Key.Key_Return)


def test_a_quote_stands_beside_making_it(hand):
    h = hand()
    bracket = add(h, "apron", "casting")
    h.read(bracket, "crack", "length", "20 mm")
    stop = h.frame.go_to("remedies")
    stop.look_at("weld")
    for name, text in (("price", "95"), ("days", "12"), ("firm", "welder in town")):
        type_over(named(stop, f"quote_{name}"), text)
    quote = quote_of(h.session.job, bracket, "weld")
    assert (quote.price, quote.days, quote.firm) == (95, 12, "welder in town")
    weld = next(r for r, _ in h.case(bracket).predictions() if r.key == "weld")
    assert (weld.cost, weld.wait_days, weld.hours) == (95, 12, 1.0)
    assert "Made here" in stop.quote_said.text()
    type_over(named(stop, "quote_price"), "a lot")
    assert "a figure alone" in stop.quote_said.text()
    assert quote_of(h.session.job, bracket, "weld") == quote  # nothing recorded is lost
    choose(h, bracket, "weld")
    assert h.case(bracket).chosen_prediction() is not None
    for name in ("price", "days", "firm"):
        type_over(named(stop, f"quote_{name}"), "")
    assert quote_of(h.session.job, bracket, "weld") is None


# jaws, plates, cutters ----------------------------------------------------------------------------


def test_jaw_plates_with_a_vee_are_made_as_a_pair(hand):
    h = hand("mill")
    vise = add(h, "table", "jaws", "Vise")
    h.state(
        vise, long_mm="120", high_mm="40", thick_mm="14", screw="M10", apart_mm="70", up_mm="12", marks="3"
    )
    for corner, off in zip(
        ("front left", "front right", "back left", "back right"), (0, 30, 12, 45), strict=True
    ):
        h.read(vise, "jaw_top", corner, f"{off} µm")
    for place, size in zip(
        ("fixed, left", "fixed, right", "moving, left", "moving, right"),
        ("13.98", "14.00", "13.90", "13.99"),
        strict=True,
    ):
        h.read(vise, "jaw_plates", place, size)
    h.read(vise, "jaw_marks", "deepest", "0.8")
    said = h.said(vise)
    assert "45 µm front left, 15 µm front right, 33 µm back left" in said  # what goes under each corner
    assert "0.5" in said or "500" in said
    assert "plug it" in said
    choose(h, vise, "plates")
    plate = h.case(vise).part("jaw_plate", METRIC)
    assert not wrong(plate)
    # By hand: the vee's lower corner stands 1.5 mm over the counterbore of 17 mm whose middle is 12 mm up.
    assert plate.size_mm("vee") <= 40 - 1.5 - (12 + 8.5 + 1.5)
    make_all(h, vise, "jaw_plate")
    route = [o.key for o in h.case(vise).route("jaw_plate", METRIC)]
    assert route.index("relieve") < route.index("harden") < route.index("temper") < route.index("grind")
    set_part(h, vise, "jaw_plate", vee="30 mm")
    assert any("meets the counterbores" in s for s in wrong(h.case(vise).part("jaw_plate", METRIC)))
    fit_up(h, vise)
    for place in ("fixed, left", "fixed, right", "moving, left", "moving, right"):
        h.read(vise, "jaw_plates", place, "15.002", phase="after")
    state, head, _ = proof(h, vise)
    assert state is not State.BEYOND
    assert "pair" in head


def test_an_index_plate_of_fourteen_is_made_since_no_other_closes(hand):
    h = hand("mill")
    plate = add(h, "table", "index_plate", "Index plate")
    h.state(plate, holes="12", divisions="14", circle_mm="90", detent_mm="5", work_mm="50")
    assert "does not close: 14 holes would" in h.said(plate)
    assert h.case(plate).advised().key == "new"
    choose(h, plate, "new")
    part = h.case(plate).part("index_plate", METRIC)
    assert part.row("step").value == "2 turns and 18 holes of the 21 circle"  # 40/14 = 2 6/7
    assert part.size_mm("chord") == pytest.approx(90 * math.sin(math.pi / 14))
    assert not wrong(part)
    make_all(h, plate, "index_plate")
    with pytest.raises(InputError, match=r"they meet|stand clear"):
        set_part(h, plate, "index_plate", circle="20 mm")
    fit_up(h, plate)
    h.state(plate, holes="14")
    for k in range(1, 15):
        h.read(
            plate,
            "plate_holes",
            f"hole {k}",
            f"{6 * math.sin(2 * math.pi * (k - 1) / 14):.0f} µm",
            phase="after",
        )
    h.read(plate, "plate_pin", "play", "8 µm", "9 µm", "8 µm", phase="after")
    state, head, _ = proof(h, plate)
    assert state is State.WITHIN, head


def test_a_plate_off_centre_is_told_from_a_bad_hole(hand):
    h = hand("mill")
    plate = add(h, "table", "index_plate")
    h.state(plate, holes="12", divisions="12", circle_mm="100", work_mm="50")
    for k in range(1, 13):
        h.read(plate, "plate_holes", f"hole {k}", f"{60 * math.sin(2 * math.pi * (k - 1) / 12):.0f} µm")
    said = h.said(plate)
    assert "60 µm off centre" in said
    left = {r.key: p.measures["total"].value for r, p in h.case(plate).predictions()}
    assert left["centre"] < 0.2 * left["leave"]


def test_a_reamer_is_read_at_its_true_angles_and_ground_again(hand):
    h = hand("mill")
    reamer = add(h, "table", "cutter", "Taper reamer")
    h.state(reamer, angles_deg="0 58 121 180 238 301", kind="taper", ratio="48", dia_mm="12")
    own = (0, 14, 3, 0, 9, 20)
    for k, (angle, extra) in enumerate(zip((0, 58, 121, 180, 238, 301), own, strict=True), 1):
        value = extra + 12 * math.cos(math.radians(angle - 40))
        h.read(reamer, "flutes", f"flute {k}", f"{value:.0f} µm")
    said = h.said(reamer)
    assert "Off each flute" in said
    assert "deeper for the same size" in said
    for k, (angle, extra) in enumerate(zip((0, 58, 121, 180, 238, 301), own, strict=True), 1):
        value = extra - 12 * math.cos(math.radians(angle - 40))
        h.read(reamer, "flutes_turned", f"flute {k}", f"{value:.0f} µm")
    assert "It is the holder" in h.said(reamer)
    assert h.case(reamer).advised().key in ("grind", "new")
    choose(h, reamer, "grind")
    part = h.case(reamer).part("cutter_grind", METRIC)
    assert part.row("flute.6").value == pytest.approx(
        max(part.row(f"flute.{k}").value for k in range(1, 7)), abs=0.001
    )
    make_all(h, reamer, "cutter_grind")
    fit_up(h, reamer)
    for k in range(1, 7):
        h.read(reamer, "flutes", f"flute {k}", "-2 µm", phase="after")
    state, head, _ = proof(h, reamer)
    assert state is State.WITHIN
    assert "it was" in head


def test_three_flutes_tell_nothing_apart_and_a_hard_hole_stops_it(hand):
    h = hand("mill")
    mill = add(h, "table", "cutter")
    h.state(mill, angles_deg="3", kind="end_mill", hole_file="skates")
    for k, value in enumerate((0, 20, -5), 1):
        h.read(mill, "flutes", f"flute {k}", f"{value} µm")
    said = h.said(mill)
    assert "Of three flutes nothing tells" in said
    assert h.figure(mill, "own") is None
    assert "ruins a reamer" in said
    assert h.case(mill).advised().key == "other_way"


def test_a_taper_is_tried_by_a_file_before_any_reamer(hand):
    h = hand()
    taper = add(h, "tailstock", "bore", "Tailstock taper")
    h.state(taper, is_taper="yes", use="fixed")
    assert "bore_contact" in [s.key for s in h.case(taper).set_ups]
    hindered = {r.key: r.hinder(h.case(taper).subject) for r, _ in h.case(taper).predictions()}
    assert "file in its mouth" in hindered["bush"]
    h.session.record(FactStated(assembly=taper, field="file", value="bites"))
    assert not next(
        r.hinder(h.case(taper).subject) for r, _ in h.case(taper).predictions() if r.key == "bush"
    )
