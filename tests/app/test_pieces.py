"""Shafts, bores and machines of a shop's own, typed in the window from survey to proof."""

from __future__ import annotations

import cmath
import math

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit, QPushButton

from tests.app.hand import Hand, add, choose, make_all, named, proof, set_part, wrong
from trebb.core.errors import InputError
from trebb.core.machine import State
from trebb.core.units import UnitSystem
from trebb.logbook.log.entries import AssemblyAdded, CardChanged, NoteWritten, SizeTaken, StepDone

METRIC = UnitSystem.METRIC


@pytest.fixture
def hand(make_window):
    def make(kind="lathe", system=METRIC):
        return Hand(make_window, kind, system)

    return make


def turn_shaft(h, piece, off, phase="before"):
    """Every station of a shaft turned, its middle off by so much (complex, mm)."""
    for z in h.case(piece).subject.stations:
        for angle in range(0, 360, 45):
            y = (off(z) * cmath.exp(-1j * math.radians(angle))).real
            h.read(piece, "shaft_turn", f"{z:g} mm, {angle}°", f"{1000 * y:.0f} µm", phase=phase)


# pieces and machines ------------------------------------------------------------------------------


def test_a_piece_is_added_with_two_keys_and_taken_off_again(hand):
    h = hand()
    h.session.choose("apron")
    QTest.keyClick(h.frame, Qt.Key.Key_Insert)
    QTest.keyClick(h.frame.machine.add.name, Qt.Key.Key_Return)
    assert h.session.case.family == "shaft"
    assert h.session.case.assembly.under == "apron"
    assert [a.label for a in h.frame.machine.list.listed() if a.under] == ["Shaft"]
    h.frame.machine.add.off.click()
    assert not h.session.job.machine.has("shaft")
    h.session.undo()
    assert h.session.job.machine.has("shaft")


def test_what_cannot_be_added_says_why_at_its_field(hand):
    h = hand()
    add(h, "apron", "shaft", "Dial shaft")
    h.session.choose("apron")
    form = h.frame.machine.add
    QTest.keyClick(h.frame, Qt.Key.Key_Insert)
    form.what.setCurrentIndex(form.what.findData("shaft"))
    form.name.setText("dial shaft")
    QTest.keyClick(form.name, Qt.Key.Key_Return)
    assert "another name" in form.refusal.text()
    with pytest.raises(InputError, match="say which"):
        h.session.record(AssemblyAdded(assembly="loose", label="Loose", family="shaft"))
    with pytest.raises(InputError, match="is none of"):
        h.session.record(AssemblyAdded(assembly="odd", label="Odd", family="boat", under="apron"))
    with pytest.raises(InputError, match="only what was added"):
        h.session.record(AssemblyAdded(assembly="apron", label="Apron", gone=True))


def test_the_assembly_shows_the_worst_of_its_pieces(hand):
    from trebb.app.window.machine_panel import assembly_figure

    h = hand()
    piece = add(h, "gearbox", "shaft")
    h.read(piece, "shaft_float", "end", "500 µm", "500 µm", "510 µm")
    state, words = assembly_figure(h.session, h.session.case.kind.assembly("gearbox"))
    assert state is State.BEYOND
    assert words == "its shaft"  # the gearbox has no figure of its own


def test_a_machine_is_put_together_and_its_feed_nut_surveyed(hand):
    h = hand("own")
    assert [a.key for a in h.session.case.kind.assemblies] == ["whole"]
    feed = add(h, "whole", "screw_drive", "Table feed")
    slide = add(h, "whole", "gib", "Table slide")
    add(h, "whole", "spindle", "Wheel spindle")
    add(h, "whole", "", "Dust hood")
    drawn = {item.part for item in h.session.case.kind.elevation.items if getattr(item, "part", "")}
    assert {feed, slide, "wheel_spindle", "dust_hood", "whole"} <= drawn
    h.state(feed, form="Acme", major_mm="16 mm", pitch_mm="4 mm", divisions="100", travel_mm="150 mm")
    for k in range(1, 6):
        h.read(feed, "lash", f"station {k}", "20 div", "20 div")
    assert h.case(feed).judged.state is State.BEYOND
    choose(h, feed, "nut")
    assert h.case(feed).part("nut", METRIC).bore is not None
    # its nut is a thread in a gear's hub: the gear stays, a bush goes in
    set_part(h, feed, "nut", style="in a gear's hub, as a bush")
    set_part(h, feed, "nut", hub_root="20 mm", hub_bore="24 mm")
    h.frame.go_to("parts").show_part("nut")
    assert any("cracks or opens the teeth" in s for s in wrong(h.case(feed).part("nut", METRIC)))
    set_part(h, feed, "nut", hub_root="38 mm", hub_bore="24.02 mm", hub_read="measured")
    part = h.case(feed).part("nut", METRIC)
    assert part.band("outside").low_mm == pytest.approx(24.02 + 0.02)
    assert not any("hub" in s for s in wrong(part))
    make_all(h, feed, "nut")
    for k in range(1, 6):
        h.read(feed, "lash", f"station {k}", "1 div", "1 div", phase="after")
    state, _, _ = proof(h, feed)
    assert state is State.WITHIN
    for stop in ("intake", "survey", "findings", "remedies", "parts", "make", "fit_up", "prove"):
        for assembly in h.session.case.kind.assemblies:
            h.frame.go_to(stop)
            h.session.choose(assembly.key)


def test_a_problem_without_a_model_is_no_dead_end(hand):
    h = hand()
    h.session.choose("gearbox")
    stop = h.frame.go_to("findings")
    own = stop.other.own.fields

    def typed(name, text):
        field = next(w for w in stop.findChildren(QLineEdit) if w.objectName() == name)
        field.setText(text)
        field.setModified(True)
        QTest.keyClick(field, Qt.Key.Key_Return)

    typed("own_finding", "selector fork cracked")
    typed("own_hours", "2,5")
    typed("own_steps", "drain; fork out; braze; fork in")
    typed("own_cost", "plenty")
    assert h.session.job.note("own.gearbox.hours") == "2.5"
    assert h.session.job.note("own.gearbox.cost") == ""
    assert any("a number" in line.refusal.text() for line in own._lines.values())
    stop.other.own._ticks.itemAt(0).widget().click()
    assert h.session.job.steps_done("own.gearbox") == {"drain"}
    from trebb.logbook.cases.telling import machine_told

    told = machine_told(h.session.cases, METRIC, "gearbox")["parts"][0]
    assert told["head"] == "selector fork cracked"
    assert told["own"]["steps"][0] == {"step": "drain", "is_done": True}


def test_what_is_only_written_or_copied_has_a_sheet_too(hand, tmp_path):
    from trebb.app.parts.report import sheet_facts

    h = hand()
    h.session.choose("apron")
    stop = h.frame.go_to("prove")
    assert not stop.sheet_button.isEnabled()
    h.session.record(
        NoteWritten(topic="own.apron.finding", text="Oil pump dead"),
        NoteWritten(topic="own.apron.hours", text="3"),
        NoteWritten(topic="own.apron.steps", text="Order seal; fit seal"),
        StepDone(plan="own.apron", step="Order seal"),
    )
    assert stop.sheet_button.isEnabled()
    stop.write_to(tmp_path / "apron.pdf")
    assert (tmp_path / "apron.pdf").read_bytes().startswith(b"%PDF")
    own = sheet_facts(h.case("apron"), METRIC)["own"]
    assert own == ["Found: Oil pump dead", "3 hours", "Done: Order seal", "Open: fit seal"]

    add(h, "apron", "copied", "Handle")
    piece = h.session.assembly
    assert not h.case(piece).is_written
    operation = next(o for o in h.case(piece).route("stepped_shaft", METRIC) if o.target is not None)
    high = operation.target.band.high_mm
    for value, is_off in ((high, False), (high + 0.2, True)):
        h.session.record(
            SizeTaken(
                part=h.case(piece).part_name("stepped_shaft"),
                operation=operation.key,
                what=operation.target.what,
                value_mm=value,
            )
        )
        h.session.record(StepDone(h.case(piece).part_name("stepped_shaft"), operation.key))
        (part,) = sheet_facts(h.case(piece), METRIC)["parts"]
        assert ("outside its limits" in part["measured"]) is is_off


def test_a_part_is_copied_without_a_survey(hand):
    h = hand()
    piece = add(h, "apron", "copied", "Old pin")
    h.state(piece, what="plain_pin")
    h.session.record(CardChanged(field="spindle_bore_mm", value=35.0))
    set_part(h, piece, "plain_pin", bored="19.05 19.06 mm", length="80 mm")
    part = h.case(piece).part("plain_pin", METRIC)
    assert part.band("dia").high_mm < 19.05
    assert wrong(part) == []
    stop = h.frame.go_to("parts")
    assert stop.body.isVisible()
    assert stop.tabs.isVisible()
    make_all(h, piece, "plain_pin")
    assert not h.frame.go_to("survey").body.isVisible()


# shafts -------------------------------------------------------------------------------------------


def test_a_bent_dial_shaft_is_found_made_new_indexed_and_proven(hand):
    h = hand()
    piece = add(h, "apron", "shaft", "Dial shaft")
    h.state(
        piece, length_mm="180 mm", a_mm="30 mm", b_mm="120 mm", at_mm="10 60 90 140 170 mm", dia_mm="12 mm",
        drive="spring_pin", pin_mm="3 mm", hub_mm="25 mm", file="bites",
    )  # fmt: skip
    bent = lambda z: 0.004 * max(0.0, z - 120) * cmath.exp(1j * math.radians(60))  # noqa: E731
    turn_shaft(h, piece, bent)
    head = h.head(piece)
    assert "400" in head
    assert "170 mm" in head
    assert "60°" in head
    assert "kinked at 120 mm" in h.said(piece)
    for place in ("left", "right"):
        h.read(piece, "shaft_mates", place, "12.02 mm", "12.021 mm")
    choose(h, piece, "new")
    part = h.case(piece).part("stepped_shaft", METRIC)
    assert part.band("left").high_mm == pytest.approx(12.0205 - 0.006, abs=0.001)
    keys = [o.key for o in h.case(piece).route("stepped_shaft", METRIC)]
    assert keys.index("index") < keys.index("cross")
    make_all(h, piece, "stepped_shaft")
    order = [s.key for s in h.case(piece).fit_order()]
    assert order.index("wheel") < order.index("hold")
    turn_shaft(h, piece, lambda z: 0.004 * cmath.exp(1j * z), phase="after")
    state, sentence, _ = proof(h, piece)
    assert state is State.WITHIN
    assert "it was 400" in sentence


def test_a_shaft_is_pressed_only_once_a_file_was_tried_and_only_as_far_as_it_springs(hand):
    h = hand()
    piece = add(h, "apron", "shaft")
    h.state(
        piece, length_mm="600 mm", a_mm="50 mm", b_mm="550 mm", at_mm="150 250 300 350 450 mm", dia_mm="20 mm"
    )
    turn_shaft(h, piece, lambda z: 0.6 * (1 - ((z - 300) / 250) ** 2))
    case = h.case(piece)
    press = next(r for r, _ in case.predictions() if r.key == "press")
    assert "Try a file" in press.hinder(case.subject)
    h.state(piece, file="skates")
    assert "would crack" in press.hinder(h.case(piece).subject)
    h.state(piece, file="bites")
    case = h.case(piece)
    assert press.hinder(case.subject) == ""
    # By hand: 20 mm, 500 mm span, 0.6 mm of bow in steel of 340 MPa goes 5.3 mm past straight.
    assert case.subject.bow_mm == pytest.approx(0.6, abs=0.01)
    risk = press.risk(case.subject, None, None, METRIC)
    assert "5.3" in risk
    assert "bowed evenly" in h.said(piece)


def test_four_angles_do_not_tell_three_lobes_and_the_set_up_says_so(hand):
    h = hand()
    piece = add(h, "apron", "shaft")
    h.frame.go_to("survey")
    assert "four angles three lobes" in h.session.case.set_ups[0].cannot_tell
    with pytest.raises(InputError, match="from 5 to 36"):
        h.state(piece, angles="4")


def test_a_broken_handle_stub_is_bored_pressed_and_proven(hand):
    h = hand()
    piece = add(h, "apron", "shaft", "Handle shaft")
    h.state(piece, dia_mm="16 mm", is_broken="yes", hub_length_mm="18 mm")
    assert "broken off" in h.said(piece)
    choose(h, piece, "stub")
    assert any("not measured" in s for s in wrong(h.case(piece).part("stub", METRIC)))
    set_part(h, piece, "stub", hole="9.06 9.07 9.06 mm", depth="22 mm", end_dia="12.7 mm", outside="16 mm")
    part = h.case(piece).part("stub", METRIC)
    assert wrong(part) == []
    assert part.band("spigot").low_mm > 9.06
    make_all(h, piece, "stub")
    h.read(piece, "shaft_push", "seat", "10 µm", "10 µm", "12 µm", phase="after")
    h.read(piece, "shaft_push", "seat", "90 µm")
    assert proof(h, piece)[0] is State.WITHIN


def test_a_rocking_gear_with_sheared_keys_gets_six_splines(hand):
    h = hand()
    piece = add(h, "gearbox", "shaft", "Third shaft")
    h.state(piece, length_mm="260 mm", a_mm="30 mm", b_mm="180 mm", dia_mm="25 mm", wheel_mm="40 mm",
            drive="key", key_length_mm="20 mm", torque_nm="120")  # fmt: skip
    h.read(piece, "shaft_rock", "free", "900 µm", "910 µm", "900 µm")
    h.read(piece, "shaft_rock", "held", "620 µm", "630 µm", "620 µm")
    for place, width in (("key", "8.00 mm"), ("shaft", "8.05 mm"), ("hub", "8.03 mm")):
        h.read(piece, "shaft_keys", place, width, width)
    said = h.said(piece)
    # 2c/d × radius = 2 × 0.08/25 × 40 = 0.256 mm of it is the key's.
    assert "key and slots make 25" in said or "key and slots make 26" in said
    assert "the rest is the wheel's bore" in said
    assert "weakest link is the key" in said
    for seat in ("left", "right"):
        h.read(piece, "shaft_mates", seat, "25.02 mm", "25.02 mm")
    choose(h, piece, "new")
    set_part(h, piece, "stepped_shaft", hold="spline", mid_dia="30 mm", tail_len="20 mm")
    part = h.case(piece).part("stepped_shaft", METRIC)
    assert part.size_mm("root") == pytest.approx(0.9 * 24.994, abs=0.02)
    assert any("index on a 40:1 head" in c.sentence for c in part.checks)
    keys = [o.key for o in h.case(piece).route("stepped_shaft", METRIC)]
    assert keys.index("gang") < keys.index("spline") < keys.index("ridges")
    make_all(h, piece, "stepped_shaft")
    h.read(piece, "shaft_rock", "held", "30 µm", "30 µm", "30 µm", phase="after")
    assert "30" in proof(h, piece)[1]


def test_a_square_socket_is_plugged_and_broached(hand):
    h = hand()
    piece = add(h, "apron", "shaft", "Handle")
    h.state(piece, drive="square", square_mm="8 mm", hub_mm="28 mm", hub_length_mm="20 mm", wheel_mm="90 mm")
    h.read(piece, "shaft_square", "square", "8.00 mm", "8.00 mm")
    h.read(piece, "shaft_square", "socket", "8.40 mm", "8.40 mm")
    assert h.case(piece).judged.state is State.BEYOND
    choose(h, piece, "plug")
    set_part(h, piece, "square_plug", bored="15.52 15.52 mm", square="8 mm")
    part = h.case(piece).part("square_plug", METRIC)
    assert wrong(part) == []
    make_all(h, piece, "square_plug")
    set_part(h, piece, "square_plug", bored="12.0 12.0 mm")
    assert any("at the corners" in s for s in wrong(h.case(piece).part("square_plug", METRIC)))


def test_a_collar_closes_a_stack_and_a_face_left_out_says_so(hand):
    h = hand()
    piece = add(h, "apron", "shaft")
    h.read(piece, "shaft_float", "end", "600 µm", "610 µm", "600 µm")
    choose(h, piece, "collar")
    assert any("Not measured" in s for s in wrong(h.case(piece).part("stack_collar", METRIC)))
    set_part(
        h,
        piece,
        "stack_collar",
        room="42.31 42.30 42.32 mm",
        first="30.02 30.01 30.02 mm",
        second="0.80 0.80 0.81 mm",
    )
    part = h.case(piece).part("stack_collar", METRIC)
    assert wrong(part) == []
    # 42.31 - 30.017 - 0.803 - 0.05 of float = 11.44.
    assert part.size_mm("left") == pytest.approx(11.44, abs=0.005)
    make_all(h, piece, "stack_collar")
    with pytest.raises(InputError, match="counted on the wrong side"):
        set_part(h, piece, "stack_collar", first="42.9 42.9 42.9 mm")
    assert h.case(piece).part("stack_collar", METRIC) == part  # nothing of it was kept


def test_the_next_taper_pin_is_named_by_both_mouths(hand):
    h = hand(system=UnitSystem.INCH)
    piece = add(h, "apron", "shaft")
    h.state(piece, dia_mm="3/4 in", drive="taper_pin", hub_mm="1.25 in", pin_mm=".219 in")
    h.read(piece, "shaft_pin_hole", "large", ".222 in", ".222 in")
    h.read(piece, "shaft_pin_hole", "small", ".198 in", ".198 in")
    assert "No. 4" in h.said(piece)
    choose(h, piece, "next_pin")
    part = h.case(piece).part("taper_pin", UnitSystem.INCH)
    assert part.row("ask").value.startswith("ASME B18.8.2 No. 4")
    h.state(piece, file="skates")
    pin = next(r for r, _ in h.case(piece).predictions() if r.key == "next_pin")
    assert "no reamer" in pin.hinder(h.case(piece).subject)


@pytest.mark.parametrize(
    ("facts", "said"),
    [
        ({"seat_dia": "14 mm", "thread": "m16"}, "does not pass the thread"),
        ({"pin_dia": "6 mm", "hold": "pin"}, "more than a third"),
        ({"hold": "square", "square": "13 mm"}, "has no flats"),
        ({"left_dia": "13 mm"}, "does not go in"),
        ({"mid_dia": "12.6 mm"}, "rides over it"),
    ],
)
def test_a_shaft_that_would_spoil_the_job_says_so(hand, facts, said):
    h = hand()
    piece = add(h, "apron", "shaft")
    h.state(piece, dia_mm="12 mm")
    for place in ("left", "right", "seat"):
        h.read(piece, "shaft_mates", place, "12.02 mm", "12.02 mm")
    set_part(h, piece, "stepped_shaft", **facts)
    assert any(said in s for s in wrong(h.case(piece).part("stepped_shaft", METRIC)))


def test_a_shaft_is_bought_measured_as_it_came_and_only_what_is_left_is_cut(hand):
    h = hand(system=UnitSystem.INCH)
    piece = add(h, "apron", "shaft") or h.session.assembly
    h.state(piece, dia_mm='1/2"', length_mm='8"')
    for place in ("left", "right", "seat"):
        h.read(piece, "shaft_mates", place, ".501", ".501")
    choose(h, piece, "new")
    stop = h.frame.go_to("parts")
    box = named(stop, "stepped_shaft_get")
    box.setCurrentIndex(box.findData("buy"))
    box.activated.emit(box.currentIndex())
    QApplication.processEvents()
    asked = named(stop, "ask_for").text()
    assert "3/8-16 UNC" in asked
    assert "left journal" in asked

    def type_in(field, text):
        edit = named(stop, f"stepped_shaft_{field}")
        edit.setFocus()
        edit.selectAll()
        QTest.keyClick(edit, Qt.Key.Key_Delete)
        QTest.keyClicks(edit, text)
        QTest.keyClick(edit, Qt.Key.Key_Return)
        QApplication.processEvents()

    type_in("price", "85")
    type_in("wait", "12")
    type_in("wait", "soon")  # is refused at its field, and the 12 stays
    type_in("offer.turn_1", ".53")
    type_in("offer.turn_3", ".49")
    facts = h.session.job.part_facts(h.case(piece).part_name("stepped_shaft"))
    assert facts["wait"] == 12
    said = {c.sentence: c.is_ok for c in h.case(piece).part_checks("stepped_shaft", UnitSystem.INCH)}
    assert any("Bought: 85, 12 days' wait." in s for s in said)
    assert any(ok and "still to be cut here" in s and "0.53" in s for s, ok in said.items())
    assert any(not ok and "too small" in s and "it will not do" in s for s, ok in said.items())
    assert any(not ok and s.startswith("Not said of the offer: wheel's seat") for s, ok in said.items())
    route = h.case(piece).route("stepped_shaft", UnitSystem.INCH)
    assert [o.key for o in route][:3] == ["bought.order", "bought.turn_1", "bought.turn_3"]
    assert route[1].title == "Bring its left journal to size"
    assert route[2].title == "Measure its right journal as it came"
    type_in("offer.turn_3", "")  # the seller never said it
    assert "right journal" in next(
        c.sentence
        for c in h.case(piece).part_checks("stepped_shaft", UnitSystem.INCH)
        if "Not said" in c.sentence
    )
    make_all(h, piece, "stepped_shaft")


# bores --------------------------------------------------------------------------------------------


def test_an_end_thread_is_named_and_the_angle_asked_for(hand):
    h = hand(system=UnitSystem.INCH)
    add(h, "apron", "shaft")
    piece = h.session.assembly
    h.state(piece, dia_mm='5/16"', length_mm='6"')
    for crests, ten in (('0.247"', '0.5"'), ('0.248"', '0.501"')):
        h.read(piece, "shaft_end", "Over its crests", crests)
        h.read(piece, "shaft_end", "Over ten pitches", ten)
    finding = next(f for f in h.case(piece).findings(UnitSystem.INCH) if f.key == "end_thread")
    assert "1/4-20" in finding.sentence
    assert "55°" in finding.next_move
    assert "60°" in finding.next_move
    h.state(piece, end_angle="55°")
    finding = next(f for f in h.case(piece).findings(UnitSystem.INCH) if f.key == "end_thread")
    assert "1/4-20 BSW" in finding.sentence
    assert "Or " not in finding.next_move


def test_an_end_thread_that_nobody_sells_is_no_finding_of_a_name(hand):
    h = hand()
    add(h, "apron", "shaft")
    piece = h.session.assembly
    h.state(piece, dia_mm="12", length_mm="150")
    for _ in range(2):
        h.read(piece, "shaft_end", "Over its crests", "7.1")
        h.read(piece, "shaft_end", "Over ten pitches", "17")
    finding = next(f for f in h.case(piece).findings(METRIC) if f.key == "end_thread")
    assert finding.state is State.UNKNOWN
    assert "none of the usual ones" in finding.sentence


def test_a_shaft_that_nobody_measured_has_no_end_thread(hand):
    h = hand()
    add(h, "apron", "shaft")
    assert not any(f.key == "end_thread" for f in h.case(h.session.assembly).findings(METRIC))


def gauge(h, piece, sizes, phase="before"):
    for depth, found in sizes.items():
        for angle, size in zip((0, 45, 90, 135), found, strict=True):
            h.read(piece, "bore_gauge", f"{depth}, {angle}°", f"{size:.3f} mm", phase=phase)


def test_a_worn_housing_is_bored_bushed_and_proven(hand):
    h = hand()
    piece = add(h, "gearbox", "bore", "Lever bush")
    h.state(piece, dia_mm="25 mm", length_mm="40 mm", outside_mm="60 mm")
    gauge(h, piece, {
        "mouth": (25.090, 25.080, 25.060, 25.070), "middle": (25.040, 25.038, 25.030, 25.034),
        "inner end": (25.012, 25.012, 25.010, 25.010),
    })  # fmt: skip
    h.read(piece, "bore_gauge", "ridge", "25.005 mm")
    h.read(piece, "bore_mate", "0°", "24.98 mm", "24.98 mm")
    said = h.said(piece)
    assert "worn by 8" in said
    assert "wider at the mouth" in said
    choose(h, piece, "bush")
    set_part(h, piece, "bush", housing="31.01 31.01 31.02 mm")
    part = h.case(piece).part("bush", METRIC)
    assert wrong(part) == []
    # Bored before pressing under the reamed size by the reamer's allowance less what it closes.
    assert part.band("before").middle_mm == pytest.approx(
        part.band("reamed").middle_mm - 0.25 + 0.02, abs=0.01
    )
    make_all(h, piece, "bush")
    gauge(
        h,
        piece,
        dict.fromkeys(("mouth", "middle", "inner end"), (24.998, 24.998, 24.998, 25.0)),
        phase="after",
    )
    h.read(piece, "bore_gauge", "ridge", "24.998 mm", phase="after")
    h.read(piece, "bore_mate", "0°", "24.98 mm", "24.98 mm", phase="after")
    assert proof(h, piece)[0] is State.WITHIN


def test_one_depth_read_is_said_to_be_one_depth(hand):
    h = hand()
    piece = add(h, "gearbox", "bore")
    h.state(piece, dia_mm="25 mm")
    gauge(h, piece, {"mouth": (25.004, 25.002, 25.004, 25.002)})
    h.read(piece, "bore_gauge", "ridge", "25.000 mm")
    wear = next(m for m in h.case(piece).figures if m.key == "wear")
    assert wear.state is State.UNKNOWN
    assert [words for words, _ in wear.unread] == ["the middle", "the inner end"]


def test_an_earlier_repair_is_asked_for_before_it_is_bored(hand):
    h = hand()
    piece = add(h, "gearbox", "bore")
    h.state(piece, has_repair="yes")
    case = h.case(piece)
    bush = next(r for r, _ in case.predictions() if r.key == "bush")
    assert "find out what of first" in bush.hinder(case.subject)


def test_pieces_come_back_from_the_file_and_from_json(hand, tmp_path):
    from trebb.logbook.exchange.job_json import job_from_json, job_to_json, make_job
    from trebb.logbook.file.store import JobFile
    from trebb.logbook.log.fold import Job

    h = hand()
    piece = add(h, "apron", "bore", "Ö-lever bore / 2")
    h.state(piece, dia_mm="30 mm")
    path = tmp_path / "again.trebb"
    make_job(path, job_from_json(job_to_json(h.session.file)))
    with JobFile.open(path) as job_file:
        job = Job(job_file.entries())
        assert job.machine.assembly(piece).label == "Ö-lever bore / 2"
        assert job.facts_of(piece)["dia_mm"] == 30.0
        assert job.set_aside() == []


def test_only_what_the_machine_has_can_be_chosen(frame):
    before = frame.session.assembly
    frame.session.choose("no_such_part")
    assert frame.session.assembly == before


def test_what_may_be_added_is_called_as_one_would_say_it(make_window):
    window = make_window("lathe")
    window.frame.session.choose("gearbox")
    stop = window.frame.go_to("survey")
    words = [b.text() for b in stop.other.findChildren(QPushButton) if b.objectName().startswith("add_")]
    assert {"Add a shaft", "Add an index plate", "Add ways by map"} <= set(words)
