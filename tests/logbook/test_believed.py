"""A shop's real indicators: coarse needles, slips, readings that deny each other, and what is sound."""

from __future__ import annotations

import itertools

import pytest

from tests.independent.bores import WornBore
from tests.independent.gibs import GibAtBench
from tests.independent.job import TypedJob
from tests.independent.screws import Screw, facts
from trebb.core.machine import State
from trebb.core.units import UnitSystem
from trebb.logbook.log.entries import AssemblyAdded

THOU = 0.0254
SLIDE = "cross_slide"


def screw() -> TypedJob:
    return facts(TypedJob())


def said(job: TypedJob, assembly: str = SLIDE) -> str:
    return " ".join(f"{f.sentence} {f.next_move}" for f in job.of(assembly).findings(UnitSystem.INCH))


def test_a_half_thou_needle_is_not_believed_to_a_tenth():
    job = screw().read(SLIDE, "end_float", "collar", *[0.5 * THOU] * 3)
    (lash,) = (m for m in job.of(SLIDE).figures if m.key == "lash")
    assert lash.value.half_width > 0.24 * THOU
    fine = screw().read(SLIDE, "end_float", "collar", 0.5 * THOU, 0.4 * THOU, 0.5 * THOU)
    (lash,) = (m for m in fine.of(SLIDE).figures if m.key == "lash")
    assert lash.value.half_width < 0.23 * THOU


def test_a_needle_that_stands_at_nothing_is_as_coarse_as_it_is_elsewhere():
    job = screw().read(SLIDE, "end_float", "collar", 0.0, 0.0, 0.0)
    for k in range(1, 6):
        job.read(SLIDE, "push_pull", f"station {k}", *[k * THOU] * 2)
    known = job.of(SLIDE).known_at("end_float", "before")
    assert known[0].step == pytest.approx(THOU)


def test_one_of_four_a_little_off_widens_what_is_said():
    job = TypedJob().read("spindle", "spindle_float", "nose face", *[20 * THOU] * 3, 22 * THOU)
    (float_,) = (m for m in job.of("spindle").figures if m.key == "float")
    assert float_.value.low < 20 * THOU < float_.value.value
    assert float_.value.half_width > 0.5 * THOU


def test_a_whole_turn_among_ten_is_named_and_the_rest_stands():
    job = screw().read(SLIDE, "lash", "station 3", *[9] * 9, 9 + 125, unit="div")
    (lash,) = (m for m in job.of(SLIDE).figures if m.key == "lash")
    assert lash.value.value == pytest.approx(9 * THOU, abs=0.3 * THOU)
    assert lash.value.half_width < THOU
    assert "134.0 div disagrees with its repeats, 9.0 div: a whole turn" in said(job)


@pytest.mark.parametrize("odd", [22.0, 19.0, 17.0, 15.0])
def test_one_of_three_that_is_off_is_named_and_moves_nothing(odd):
    job = screw()
    for k, value in enumerate((20.0, 24.0, 26.0, 23.0, 19.0), start=1):
        job.read(SLIDE, "push_pull", f"station {k}", *[value * THOU] * 2)
    job.read(SLIDE, "push_pull", "station 3", 26.4 * THOU, 26.6 * THOU, odd * THOU)
    names = {o.place: o for o in job.of(SLIDE).odd("before")}
    assert "station 3" in names
    assert names["station 3"].value == pytest.approx(odd * THOU)
    means = dict(job.of(SLIDE).means_at("push_pull", "before"))
    assert means["station 3"].value == pytest.approx(26.2 * THOU, abs=0.5 * THOU)


def test_two_that_cannot_both_be_are_asked_about_and_never_averaged_as_sure():
    job = TypedJob().read("spindle", "spindle_float", "nose face", 1.0 * THOU, 12.0 * THOU)
    case = job.of("spindle")
    (odd,) = case.odd("before")
    assert not odd.is_sure
    assert "at odds" in odd.sentence(UnitSystem.INCH)
    (_, mean) = case.means_at("spindle_float", "before")[0]
    assert mean.row.noise_sd > 3.5 * THOU


@pytest.mark.parametrize(
    ("readings", "words"),
    [
        ({"push_pull": ("station 2", 20 * THOU, "mm")}, "what push and pull find is part of the lash"),
        ({"end_float": ("collar", 14 * THOU, "mm")}, "the end float is part of the lash"),
    ],
)
def test_a_part_larger_than_its_whole_is_named_and_nothing_is_advised_on_it(readings, words):
    job = screw().read(SLIDE, "lash", "station 2", 8, 8, unit="div")
    for key, (place, value, unit) in readings.items():
        job.read(SLIDE, key, place, value, value, unit=unit)
    case = job.of(SLIDE)
    first = case.findings(UnitSystem.INCH)[0]
    assert words in first.sentence
    assert "8.0 thou" in first.sentence
    assert case.advised() is None
    assert "deny each other" in case.advice_words()


def test_wires_that_fit_no_thread_of_that_size_are_doubted():
    job = screw().read(SLIDE, "thread_size", "wires, unworn", 21.3)
    assert "Are the wires those that are stated?" in said(job)
    assert not job.of(SLIDE).contradictions("after")


def test_what_agrees_denies_nothing():
    job = screw().read(SLIDE, "lash", "station 2", 8, 8.5, unit="div")
    job.read(SLIDE, "push_pull", "station 2", 8 * THOU, 8.4 * THOU)
    job.read(SLIDE, "end_float", "collar", 3 * THOU, 3 * THOU, 3.1 * THOU)
    assert not job.of(SLIDE).contradictions("before")


DENIED = {
    "a journal larger than its bore": (
        "shaft",
        (("shaft_sizes", "left, 0°", 18.02), ("shaft_mates", "left", 17.98)),
        "what runs in a bore is not larger than it",
    ),
    "worn thicker than unworn": (
        "shaft",
        (("shaft_sizes", "left, 90°", 18.10), ("shaft_sizes", "left, unworn", 18.00)),
        "is not thicker than the unworn metal",
    ),
    "a push larger than the room": (
        "shaft",
        (
            ("shaft_sizes", "right, 0°", 17.95),
            ("shaft_mates", "right", 18.00),
            ("shaft_push", "right", 0.50),
        ),
        "what is felt is not more than bore less journal",
    ),
    "unworn wider than worn": (
        "bore",
        (("bore_gauge", "middle, 45°", 30.00), ("bore_gauge", "ridge", 30.25)),
        "unworn metal is not wider than worn",
    ),
    "a mate larger than its bore": (
        "bore",
        (("bore_gauge", "mouth, 0°", 30.00), ("bore_mate", "0°", 30.06)),
        "what runs in a bore is not larger than it",
    ),
    "a blade thicker than what rocks": (
        "gib",
        (("feelers", "thin end", 0.20), ("rock", "mid, thin end", 0.04)),
        "a blade goes in no further than the slide rocks there",
    ),
    "play larger than what it rocks": (
        "gear",
        (("gear_play", "push", 0.90), ("gear_rock", "tooth 1", 0.10)),
        "the play of its bore is part of what it rocks",
    ),
}


@pytest.mark.parametrize("named", DENIED)
def test_what_cannot_both_be_is_named_with_both_figures_in_every_family(named):
    family, readings, words = DENIED[named]
    job = TypedJob()
    if family != "gib":
        job.record(AssemblyAdded(assembly="piece", label="Piece", family=family, under="apron"))
        facts = {"shaft": {"dia_mm": 18.0}, "bore": {"dia_mm": 30.0, "outside_mm": 60.0}}
        job.state("piece", **facts.get(family, {}))
    assembly = "cross_gib" if family == "gib" else "piece"
    for set_up, place, value in readings:
        job.read(assembly, set_up, place, value, value)
    case = job.of(assembly)
    first = case.findings(UnitSystem.METRIC)[0]
    assert words in first.sentence
    assert case.advised() is None
    assert {key for _, key in first.set_ups} == {set_up for set_up, _, _ in readings}


def sound_bore(seed: int) -> WornBore:
    bore = WornBore(seed)
    bore.mouth = bore.inner = bore.three = 0.0
    bore.mate = bore.unworn - 0.012
    return bore


def test_a_sound_bore_is_sound():
    for seed in range(30):
        for m in sound_bore(seed).typed().of("hole").figures:
            assert m.state is State.WITHIN, (seed, m)
            if m.key in ("wear", "oval"):
                assert m.value.low == pytest.approx(0.0, abs=1e-6)


def test_a_bore_the_same_everywhere_is_worn_by_nothing():
    from tests.independent.bores import ANGLES, DEPTHS
    from trebb.logbook.log.entries import AssemblyAdded

    job = TypedJob()
    job.record(AssemblyAdded(assembly="hole", label="Bore", family="bore", under="apron"))
    job.state("hole", dia_mm=25.0, length_mm=60.0, outside_mm=60.0)
    for depth in DEPTHS:
        for angle in ANGLES:
            job.read("hole", "bore_gauge", f"{depth}, {angle:g}°", 25.0)
    job.read("hole", "bore_gauge", "ridge", 25.0)
    wear = next(m for m in job.of("hole").figures if m.key == "wear")
    assert wear.value.value == pytest.approx(0.0, abs=0.001)
    assert wear.state is State.WITHIN


@pytest.mark.parametrize("blade", [0.5 * THOU, THOU, 2 * THOU])
def test_a_gib_at_home_is_not_accused_however_coarse_the_blades(blade, monkeypatch):
    monkeypatch.setattr("tests.independent.gibs.BLADE", blade)
    found = [bool(GibAtBench(seed).type_all(TypedJob()).of("saddle").backed_off()) for seed in range(60)]
    assert sum(found) <= 4


def test_a_gib_rocked_again_once_home_counts_again():
    job = TypedJob()
    job.read("saddle", "stand_out", "as it ran", 2.54).read("saddle", "stand_out", "stand-out", 0.0)
    for end in ("thin", "thick"):
        job.read("saddle", "rock", f"mid, {end} end", 2.54 / 60 + 0.03)
    job.state("saddle", home="yes")
    for end in ("thin", "thick"):
        job.read("saddle", "feelers", f"{end} end", 0.03)
    assert job.of("saddle").backed_off()
    assert (
        "± " in next(f for f in job.of("saddle").findings(UnitSystem.INCH) if f.key == "backed_off").sentence
    )
    for end in ("thin", "thick"):
        job.read("saddle", "rock", f"mid, {end} end", 0.031)
    case = job.of("saddle")
    assert not case.backed_off()
    assert any("rocked again" in reason for reason in case.set_aside())


def test_an_even_level_says_nothing_of_sideways():
    job = TypedJob()
    for k in range(9):
        job.read("ways", "level_across", f"across, station {k}", 0.0, 0.0, unit="mm/m")
    assert "straight_side" not in {m.key for m in job.of("ways").figures}


def test_end_float_alone_asks_for_the_lash_before_it_buys_a_screw():
    job = screw().read(SLIDE, "end_float", "collar", *[8 * THOU] * 3)
    case = job.of(SLIDE)
    assert case.advised() is None
    assert case.advice_words().startswith("Read first: ")
    assert case.advice_now().lot
    assert case.advice_now().few.hours < case.advice_now().dear.hours


def test_a_level_walked_one_way_may_have_drifted_and_the_way_back_tells():
    def twist(passes: int):
        job = TypedJob()
        for k in range(9):
            job.read("ways", "level_across", f"across, station {k}", *[0.004 * k] * passes, unit="mm/m")
        return next(m for m in job.of("ways").figures if m.key == "twist")

    assert twist(1).value.half_width > 2 * twist(2).value.half_width
    assert twist(1).value.half_width > 0.02


def test_a_seat_that_does_not_repeat_is_said_and_cleaned_before_it_is_ground():
    from tests.independent.spindles import SpindleAtBench

    spindle = SpindleAtBench(1)
    spindle.seat = 0.03
    job = spindle.type_all(TypedJob(), ("test_bar",))
    assert "The seat does not repeat" in said(job, "spindle")
    assert job.of("spindle").advised().key == "clean"
    job.state("spindle", cleaned="yes")
    assert job.of("spindle").advised().key != "clean"


def test_what_only_a_sum_is_known_of_is_not_read():
    from trebb.logbook.cases.telling import read_sources

    job = screw()
    for k in range(1, 6):
        job.read(SLIDE, "lash", f"station {k}", 12, 12, unit="div")
    assert not any(read_sources(job.of(SLIDE))[key] for key in ("nut", "float", "wear.3"))
    job.read(SLIDE, "end_float", "collar", 3 * THOU, 3.1 * THOU, 3 * THOU)
    assert read_sources(job.of(SLIDE))["float"]


def test_the_next_reading_a_hair_further_off_moves_nothing_by_more_than_a_hair():
    from trebb.core.condition import ErrorModel, Observation, Row, Source, estimate

    model = ErrorModel((Source("it", "it", 0.0, 1000.0),))

    def at(x: float) -> float:
        readings = [Observation(Row({"it": 1.0}, 1.0), v) for v in (0.0, 0.0, x)]
        return estimate(model, readings).source("it").value

    steps = [at(3.0 + 0.02 * i) for i in range(200)]
    assert max(abs(b - a) for a, b in itertools.pairwise(steps)) < 0.05


def test_twice_a_clearance_has_twice_its_interval():
    job = screw().read(SLIDE, "end_float", "collar", 0.2 * THOU, 0.3 * THOU, 0.2 * THOU)
    alone = job.of(SLIDE).alone
    once, twice = alone.combination({"float": 1.0}), alone.combination({"float": 2.0})
    assert (twice.low, twice.high) == (pytest.approx(2 * once.low), pytest.approx(2 * once.high))
    nearly = alone.combination({"float": 1.0000001})
    assert nearly.high == pytest.approx(once.high, rel=1e-5)


def test_a_nut_that_runs_through_is_said_first_and_renewed_in_any_case():
    job = screw().state(SLIDE, nut_gone="yes")
    case = job.of(SLIDE)
    assert case.state is State.BEYOND
    first = case.findings(UnitSystem.INCH)[0]
    assert "runs through: its thread is gone" in first.sentence
    assert first.set_ups == (("Measure the thread", "thread_size"),)
    assert case.advised() is None
    assert "the thread's size, worn and unworn" in case.advice_words()
    worn = Screw(3).type_all(facts(TypedJob())).state(SLIDE, nut_gone="yes").of(SLIDE)
    assert "nut" in worn.advised().parts
    assert not worn.advice_words()
    job.state(SLIDE, nut_gone="")
    assert job.of(SLIDE).state is State.UNKNOWN


def geared(ratio: float | None) -> TypedJob:
    """A down-feed screw of ten to the inch behind bevels: two turns of the handle to one of the screw, a
    hundred lines round.
    """
    job = TypedJob().state(SLIDE, pitch_mm=2.54, major_mm=19.05, divisions=100, reads="radius")
    if ratio is not None:
        job.state(SLIDE, ratio=ratio)
    job.read(SLIDE, "lash", "station 3", 10, 10.5, unit="div")
    return job.read(SLIDE, "turns_travel", "travel", 12.70, 12.71, 12.69)  # ten turns of the handle


def test_bevels_between_handle_and_screw_halve_what_a_line_is():
    (lash,) = (m for m in geared(2).of(SLIDE).figures if m.key == "lash")
    assert lash.value.value == pytest.approx(10.25 * 2.54 / 2 / 100, rel=0.15)
    assert not [f for f in geared(2).of(SLIDE).findings(UnitSystem.INCH) if f.key == "lead"]
    (plain,) = (m for m in geared(None).of(SLIDE).figures if m.key == "lash")
    assert plain.value.value > 1.7 * lash.value.value


def test_half_a_lead_asks_for_bevels_before_the_thread_is_corrected():
    (lead,) = (f for f in geared(None).of(SLIDE).findings(UnitSystem.INCH) if f.key == "lead")
    assert "turns of the handle make one of the screw, 2 by this" in lead.next_move
    case = geared(2).of(SLIDE)
    assert case.subject.dial.division_mm == pytest.approx(0.0127)
    by_station = next(p for p in case.places("lead_error") if p.key == "travel, station 3")
    assert by_station.note.split(" ")[0] == str(2 * round(case.subject.station_mm(3) / 2.54))


def test_a_new_dial_behind_bevels_is_divided_for_its_own_turn():
    from trebb.core.families.screw_drive.dial import rings

    (ring,) = rings(geared(2).of(SLIDE).subject, "inch")
    assert ring.lines == 50  # a turn of the handle moves 50 thou
    assert ring.true_mm == pytest.approx(0.0254)
