"""Open formats both ways, and files that will not do."""

from __future__ import annotations

import json
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from trebb.logbook.cases.casework import SCREW, Cases
from trebb.logbook.exchange.job_json import job_from_json, job_to_json, make_job
from trebb.logbook.exchange.readings_csv import (
    ExchangeError,
    as_text,
    from_text,
    readings_from_csv,
    readings_to_csv,
)
from trebb.logbook.file.store import JobFile, sha256_of
from trebb.logbook.log.entries import JobStarted, PhotoAdded, ReadingStruck, ReadingTaken
from trebb.logbook.log.fold import Job


def read(text: str, job: Job | None = None):
    return readings_from_csv(text, Cases(job if job is not None else Job())).readings


def test_a_job_survives_json_with_every_entry_time_and_photograph(demo, tmp_path):
    data = b"not really a picture"
    sha = sha256_of(data)
    demo.file.append(
        [PhotoAdded(assembly=SCREW, sha256=sha, media_type="image/png", file_name="a.png")],
        {sha: ("image/png", data)},
    )
    demo.survey()
    brought = job_from_json(job_to_json(demo.file))
    assert brought.set_aside == []
    make_job(tmp_path / "again.trebb", brought)
    with JobFile.open(tmp_path / "again.trebb") as again:
        assert again.entries() == demo.file.entries()
        assert again.photograph(sha)[1] == data
        assert job_to_json(again) == job_to_json(demo.file)


def broken(demo, change) -> str:
    document = json.loads(job_to_json(demo.file))
    change(document)
    return json.dumps(document)


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda d: d.update(format="other"), "“format” must be “trebb-job”"),
        (lambda d: d.update(version=9), "this Trebb reads version 1"),
        (lambda d: d.update(entries={}), "it must be a list"),
        (lambda d: d["entries"][0].update(machine_kind="boat"), "entry 1 of the file, field “machine_kind”"),
    ],
)
def test_a_json_that_is_no_job_says_why(demo, change, said):
    with pytest.raises(ExchangeError, match=said):
        job_from_json(broken(demo, change))


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda d: d["entries"][2].update(colour="red"), "entry 3 of the file, field “colour”"),
        (lambda d: d["entries"][1].update(id="two"), "entry 2 of the file: id and gesture must be whole"),
        (lambda d: d["entries"][1].update(id=True), "entry 2 of the file: id and gesture must be whole"),
        (lambda d: d["entries"][1].update(id=1), "its id 1 must be more than 1"),
        (lambda d: d["entries"].insert(3, "x"), "it must be an object"),
        (lambda d: d["entries"][1].update(kind="card.eaten"), "“card.eaten” is none of"),
        (lambda d: fact(d, travel_mm=0), "Travel: 0 mm: from 10 to 6000 mm"),
        (lambda d: fact(d, pitch_mm=0), "Pitch: 0 mm"),
        (lambda d: fact(d, pitch_mm=50), "cut the screw nearly through"),
        (lambda d: fact(d, hand="evil"), "one of right, left"),
        (lambda d: fact(d, read_at="abc"), "numbers in mm"),
        (lambda d: fact(d, divisions=1e12), "from 1 to 2000"),
        (lambda d: fact(d, colour="red"), "known here are form"),
        (
            lambda d: d["photographs"].append({"sha256": "0" * 64, "media_type": "x", "base64": "eA=="}),
            "what its name",
        ),
        (lambda d: d["photographs"].append({"sha256": "0"}), "must have sha256, media_type and base64"),
    ],
)
def test_what_cannot_be_used_is_set_aside_and_the_rest_opens(demo, tmp_path, change, said):
    whole = len(job_from_json(job_to_json(demo.file)).entries)
    brought = job_from_json(broken(demo, change))
    assert any(re.search(said, reason) for reason in brought.set_aside), brought.set_aside
    assert len(brought.entries) >= whole - 1
    make_job(tmp_path / "rest.trebb", brought)
    with JobFile.open(tmp_path / "rest.trebb") as job_file:
        assert Cases(Job(job_file.entries())).first().drive.travel_mm > 0


LIE = {"sha256": "0" * 64, "media_type": "x", "base64": "eA=="}


def fact(document, **fields) -> None:
    """A fact more about the cross slide, as another program might write it."""
    ((key, value),) = fields.items()
    last = document["entries"][-1]["id"]
    document["entries"].append({
        "id": last + 1, "at": "2026-01-01T00:00:00.000Z", "gesture": last + 1, "kind": "drive.stated",
        "assembly": SCREW, "field": key, "value": value,
    })  # fmt: skip


def test_words_are_not_json():
    with pytest.raises(ExchangeError, match="line 1: this is not JSON"):
        job_from_json("once upon a time")


def test_readings_survive_csv(demo):
    demo.survey()
    back = read(readings_to_csv(demo.job), demo.job)  # its pieces are there only in it
    assert [(r.set_up, r.place, r.value, r.unit, r.phase) for r in back] == [
        (r.taken.set_up, r.taken.place, r.taken.value, r.taken.unit, r.taken.phase)
        for r in demo.job.all_readings()
    ]


@given(st.floats(0, 1000, allow_nan=False))
def test_a_value_survives_csv_to_its_last_bit(value):
    assert read(f"set_up,place,value_mm\nend_float,collar,{value!r}\n")[0].value == value


def test_a_spreadsheet_with_semicolons_and_decimal_commas_is_understood():
    text = "\ufeffset_up;place;value_thou;value_div\nend_float;collar;6,1;\nlash;station 3;;27,5\n"
    assert [(r.value, r.unit) for r in read(text)] == [(pytest.approx(6.1 * 0.0254), "mm"), (27.5, "div")]


def test_struck_rows_are_left_out():
    assert (
        read("set_up,place,value_mm,struck\nend_float,collar,0.1,bumped\nend_float,collar,0.2,\n")[0].value
        == 0.2
    )


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "an empty file"),
        ("place,value_mm\n", "no column “set_up”"),
        ("set_up,place,value\n", "no column says value and unit"),
        ("set_up,place,value_mm\nend_float,collar\n", "line 2: it has 2 cells, the header 3"),
        (
            "set_up,place,value_mm\nwarp,collar,1\n",
            "line 2, set-up “warp”: set-ups of “cross_slide” are lash",
        ),
        ("set_up,place,value_div\nlash,attic,1\n", "line 2, place “attic”: lash has station 1"),
        ('set_up,place,value_mm\nnose,"register, 0°",1\n', "set-ups of “cross_slide” are lash"),
        ("set_up,place,value_mm,assembly\nend_float,collar,1,attic\n", "assembly “attic”"),
        ("set_up,place,value_mm\nlash,station 1,1\n", "line 2: lash is read in divisions"),
        ("set_up,place,value_mm\nend_float,collar,much\n", "line 2: “much” is not a number"),
        ("set_up,place,value_mm\nend_float,collar,nan\n", "is not a number"),
        ("set_up,place,value_mm,value_in\nend_float,collar,1,1\n", "exactly one of value_mm, value_in"),
        ("set_up,place,value_mm,phase\nend_float,collar,1,soon\n", "no phase; write before, after or later"),
        ("set_up,place,value_in\nend_float,collar,1e308\n", "no instrument shows that"),
        ("set_up,place,value_in\nend_float,collar,1e30\n", "no instrument shows that"),
        ("set_up,place,value_mm\nend_float,collar,-5\n", "not less than nothing"),
        ("set_up,place,value_mm\nend_float,collar,1_0\n", "“1_0” is not a number"),
        ('set_up,place,value_mm\nend_float,collar,"1,234"\n', "can be read two ways"),
        ("set_up,place,value_mm,resolution_mm\nend_float,collar,1,-1\n", "no instrument's"),
        pytest.param(
            f"set_up,place,value_mm\nend_float,{'x' * 140_000},1\n", "field larger", id="a huge cell"
        ),
    ],
)
def test_a_csv_that_will_not_do_names_the_line(text, said):
    with pytest.raises(ExchangeError, match=said):
        read(text)


def test_a_line_that_cannot_be_used_is_set_aside_and_the_others_come_in():
    text = "set_up,place,value_mm\nend_float,collar,0.1\nend_float,collar,much\nend_float,collar,0.2\n"
    found = readings_from_csv(text, Cases(Job()))
    assert [r.value for r in found.readings] == [0.1, 0.2]
    assert found.set_aside == ["line 3: “much” is not a number; write it like 0.0125 or 0,0125"]


def test_entries_are_only_restored_into_an_empty_job(demo):
    with pytest.raises(Exception, match="only be restored into an empty job"):
        demo.file.restore(demo.file.entries(), {})


def test_a_job_folded_from_json_is_the_same_job(demo):
    demo.survey()
    entries = job_from_json(job_to_json(demo.file)).entries
    assert Job(entries).card("make") == demo.job.card("make")


@pytest.mark.parametrize("text", ["=1+1", "+x", "-x", "@sum", "'=x", "plain", "'quoted", ""])
def test_a_cell_of_words_is_never_a_formula_and_comes_back_as_it_was(text):
    cell = as_text(text)
    assert not cell.startswith(("=", "+", "-", "@"))
    assert from_text(cell) == text


def test_a_reason_that_is_a_formula_is_written_as_words(tmp_path):
    with JobFile.create(tmp_path / "a.trebb") as job_file:
        job_file.append([JobStarted(shop="s", machine="m", machine_kind="lathe")])
        job_file.append([ReadingTaken("cross_slide", "end_float", "collar", "before", 0.1, "mm")])
        job_file.append([ReadingStruck(reading=2, reason='=HYPERLINK("x")')])
        text = readings_to_csv(Job(job_file.entries()))
    assert "'=HYPERLINK" in text
    assert ",=HYPERLINK" not in text
