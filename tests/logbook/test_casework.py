"""From a job to what the core says of it, and the demo from end to end."""

from __future__ import annotations

import io
import math
import struct
import zlib

import pytest
from PIL import Image

from trebb.core.machine import State
from trebb.core.making.infeed import InfeedScheme
from trebb.core.stating import schema_of
from trebb.core.survey import set_up
from trebb.core.threads import Form
from trebb.core.units import THOU_MM, UnitSystem
from trebb.logbook.cases.casework import SCREW, set_up_of
from trebb.logbook.cases.verdict import proof_verdict
from trebb.logbook.demo.machines import PLANTED
from trebb.logbook.file.photographs import PhotographError, read_photograph, thumbnail
from trebb.logbook.log.entries import (
    FactStated,
    LimitSet,
    PartSet,
    ReadingStruck,
    ReadingTaken,
    RemedyChosen,
    SizeTaken,
    StepDone,
)

INCH = UnitSystem.INCH


def choose(demo, remedy):
    demo.record(RemedyChosen(assembly=SCREW, remedy=remedy, reason="test"))


def cut(demo, inches):
    demo.record(SizeTaken(part="screw", operation="thread", what="over wires", value_mm=inches * 25.4))


def test_the_demo_opens_part_of_the_way_with_something_to_settle(demo):
    assert demo.case.progress("before") == (7, 20)
    assert demo.case.state is State.BEYOND
    assert demo.case.suggestions()[0].key == "end_float"


def test_the_planted_condition_is_found_within_its_stated_interval(demo):
    demo.survey()
    for key in ("nut", "float", "key", *(f"wear.{k}" for k in range(1, 6))):
        q = demo.case.estimate.source(key)
        assert q.low <= PLANTED[key] <= q.high, key


def test_the_demo_goes_from_survey_to_a_proof_within_limit_and_as_predicted(demo):
    demo.through()
    rows = demo.case.comparisons()
    assert len(rows) == 11
    assert all(r.is_shown for r in rows)
    assert sum(r.as_predicted is False for r in rows) <= 1
    tone, head, _ = proof_verdict(demo.case, INCH)
    assert tone == "within"
    assert "limit 6.0 thou" in head


def test_the_next_place_is_the_one_with_fewest_readings(demo):
    lash = set_up("lash")
    assert demo.case.next_place(lash, "before").key == "station 4"
    reading = demo.job.readings(SCREW, "lash", place="station 2")
    demo.record(*(ReadingStruck(reading=r.id, reason="bumped") for r in reading))
    assert demo.case.next_place(lash, "before").key == "station 2"


def test_a_reading_changes_the_estimate_and_striking_it_changes_it_back(demo):
    before = demo.case.estimate.source("nut").value
    (entry,) = demo.record(ReadingTaken(SCREW, "end_float", "collar", "before", 0.15, "mm"))
    assert demo.case.estimate.source("nut").value != before
    demo.record(ReadingStruck(reading=entry.id, reason="misread"))
    assert demo.case.estimate.source("nut").value == pytest.approx(before)


def test_what_is_computed_is_kept_until_what_it_rests_on_changes(demo):
    kept = demo.case.estimate
    demo.record(LimitSet(key="cross_lash", limit_mm=0.1, source="card"))
    assert demo.case.estimate is kept


def test_restating_the_dial_reads_the_old_divisions_anew(demo):
    before = demo.case.worst_mm
    demo.record(FactStated(assembly=SCREW, field="divisions", value=250.0))
    assert demo.case.worst_mm < 0.8 * before


def test_the_last_size_rewrites_the_passes_left(demo):
    demo.survey()
    choose(demo, "new_pair")
    fresh = demo.case.passes(InfeedScheme.COMPOUND)
    cut(demo, 0.7800)
    fewer = demo.case.passes(InfeedScheme.COMPOUND)
    assert 0 < len(fewer) < len(fresh)
    cut(demo, 0.7540)
    assert all(p.is_spring for p in demo.case.passes(InfeedScheme.COMPOUND))


def test_after_roughing_the_list_starts_where_it_stopped(demo):
    demo.survey()
    choose(demo, "new_pair")
    fresh = demo.case.passes(InfeedScheme.COMPOUND)
    demo.record(StepDone(plan=demo.case.part_name("screw"), step="thread_rough"))
    left = demo.case.passes(InfeedScheme.COMPOUND)
    assert left[0].cross_mm > demo.case.touches_mm > 0.5 * demo.case.rough_depth_mm
    assert len(left) < len(fresh)
    assert left[-1].cross_mm == fresh[-1].cross_mm


def test_a_nut_measured_by_its_screw_is_cut_on_until_it_has_its_play(demo):
    demo.survey()
    choose(demo, "new_pair")
    part = demo.case.part_name("nut")
    for play, done in ((0.010, False), (0.038, True)):
        demo.record(
            SizeTaken(part=part, operation="nut_thread", what=demo.case.nut_size_words, value_mm=play)
        )
        passes = demo.case.passes(InfeedScheme.STRAIGHT, nut=True)
        assert all(p.is_spring for p in passes) is done
    demo.record(PartSet(part=part, field="play", value=0.1))
    left = [p for p in demo.case.passes(InfeedScheme.STRAIGHT, nut=True) if not p.is_spring]
    slope = math.tan(math.radians(14.5))
    assert sum(p.step_mm for p in left) == pytest.approx((0.1 - 0.038) / (2 * slope), abs=1e-6)


def test_the_nut_follows_the_screw_as_made(demo):
    demo.survey()
    choose(demo, "new_pair")
    planned = next(r.value for r in demo.case.part("nut").rows if r.label == "Pitch diameter to suit")
    cut(demo, 0.7400)
    suited = next(r for r in demo.case.part("nut").rows if r.label == "Pitch diameter to suit")
    assert suited.value < planned - 0.1
    assert "as measured" in suited.note


def test_a_nut_alone_is_cut_to_the_old_screw(demo):
    demo.survey()
    choose(demo, "made_nut")
    made = next(r for r in demo.case.part("nut").rows if r.label == "Pitch diameter to suit")
    assert made.note == "to the old screw as measured"
    assert demo.case.part_keys() == ("nut",)


def test_a_split_nut_is_longer_and_closed_on_the_least_worn_thread(demo):
    demo.survey()
    choose(demo, "split_nut")
    part = demo.case.part("nut")
    assert part.title.endswith("split")
    assert part.length_mm > demo.case.drive.nut_length_mm


def test_the_play_really_cut_shows_in_the_proof(demo):
    demo.survey()
    choose(demo, "pair_thrust")
    demo.record(SizeTaken(part="nut", operation="nut_thread", what="play on its screw", value_mm=9 * THOU_MM))
    machine = demo.case.practice("after")
    assert machine.condition["nut"] == pytest.approx(9 * THOU_MM, abs=1 * THOU_MM)


def test_a_real_job_has_no_simulated_machine_behind_it(demo):
    demo.job._slots = {k: v for k, v in demo.job._slots.items() if k[0].__name__ != "Planted"}
    assert demo.case.practice("before") is None
    assert demo.case.simulated_size("screw", InfeedScheme.COMPOUND) is None


def test_a_part_set_by_hand_that_cannot_be_is_refused_in_words(demo):
    demo.record(PartSet(part="screw", field="journal_dia", value=9000.0))
    with pytest.raises(ValueError, match="Bearing journal"):
        demo.case.part("screw")


def test_facts_make_a_drive_and_a_wrong_form_is_refused():
    drive = schema_of("screw_drive")
    stated = {"form": "square", "pitch_mm": 6.35, "major_mm": 25.4}
    assert drive.subject("lathe", SCREW, stated).thread.form is Form.SQUARE
    with pytest.raises(ValueError, match="round"):
        drive.subject("lathe", SCREW, {"form": "round"})


def test_a_set_up_that_is_none_is_named():
    with pytest.raises(ValueError, match="known are lash"):
        set_up_of("warp")


def test_a_picture_is_known_by_its_content(tmp_path):
    Image.new("RGB", (8, 8)).save(tmp_path / "a.png")
    sha, media_type, data = read_photograph(tmp_path / "a.png")
    assert (len(sha), media_type, data[:4]) == (64, "image/png", b"\x89PNG")


@pytest.mark.parametrize(
    ("name", "content", "said"),
    [
        ("a.jpg", b"words", "this is not a photograph"),
        ("b.png", b"\x89PNG\r\n\x1a\n", "this is not a photograph"),
        (
            "c.heic",
            b"\0\0\0\x18ftypheic\0\0\0\0mif1heic",
            "this is a HEIC photograph, which is not read here",
        ),
        (None, b"", "it cannot be read"),
    ],
)
def test_what_is_no_picture_is_refused(tmp_path, name, content, said):
    path = tmp_path / (name or "none.png")
    if name:
        path.write_bytes(content)
    with pytest.raises(ValueError, match=said):
        read_photograph(path)


def test_readings_of_a_thread_stated_otherwise_are_set_aside_and_said_not_dropped(demo):
    demo.survey()
    assert demo.case.set_aside() == []
    demo.record(
        FactStated(assembly=SCREW, field="major_mm", value=7.0),
        FactStated(assembly=SCREW, field="pitch_mm", value=1.5),
    )
    assert any(
        "Thread size along the screw, wires, station 3" in line and "reads about" in line
        for line in demo.case.set_aside()
    )
    assert demo.case.estimate.readings > 0
    assert len(demo.job.readings(SCREW, "thread_size")) == 8


def test_a_square_thread_has_no_size_over_wires_to_take(demo):
    demo.survey()
    choose(demo, "new_pair")
    cut(demo, 0.7540)
    demo.record(FactStated(assembly=SCREW, field="form", value="square"))
    assert demo.case.made_screw_pitch_dia() is None
    assert (
        demo.case.simulated_size("screw", InfeedScheme.STRAIGHT) < demo.case.full_depth_mm()
    )  # the depth of its groove instead
    assert demo.case.passes(InfeedScheme.STRAIGHT)


def test_a_drawing_and_a_picture_of_too_many_pixels_are_refused(tmp_path):
    drawing = tmp_path / "a.png"
    drawing.write_text('<svg xmlns="http://www.w3.org/2000/svg"><image href="file:///etc/passwd"/></svg>')
    with pytest.raises(PhotographError, match="not a photograph"):
        read_photograph(drawing)

    def chunk(name: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))

    bomb = tmp_path / "b.png"
    head = chunk(b"IHDR", struct.pack(">IIBBBBB", 60_000, 60_000, 8, 2, 0, 0, 0))
    bomb.write_bytes(b"\x89PNG\r\n\x1a\n" + head + chunk(b"IDAT", zlib.compress(b"0")) + chunk(b"IEND", b""))
    with pytest.raises(PhotographError, match="pixels"):
        read_photograph(bomb)


def test_a_thumbnail_is_small_and_turned_as_the_camera_was_held():
    from PIL import Image

    out = io.BytesIO()
    image = Image.new("RGB", (3000, 1500), "red")
    exif = image.getexif()
    exif[0x0112] = 6  # held on its side
    image.save(out, "JPEG", exif=exif)
    small = Image.open(io.BytesIO(thumbnail(out.getvalue())))
    assert max(small.size) <= 900
    assert small.size[1] > small.size[0]
    with pytest.raises(PhotographError, match="cannot be shown"):
        thumbnail(out.getvalue()[:200])
