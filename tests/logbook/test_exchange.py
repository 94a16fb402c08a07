"""Open formats both ways, and files that will not do."""

from __future__ import annotations

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from trebb.logbook.casework import SCREW, Cases, known_places
from trebb.logbook.entries import PhotoAdded
from trebb.logbook.exchange import (
    ExchangeError,
    job_from_json,
    job_to_json,
    readings_from_csv,
    readings_to_csv,
)
from trebb.logbook.fold import Job
from trebb.logbook.store import JobFile, sha256_of

KNOWN = {c.assembly_key: known_places(c) for c in Cases(Job()).measurable()}


def read(text: str):
    return readings_from_csv(text, KNOWN, SCREW)


def test_a_job_survives_json_with_every_entry_time_and_photograph(demo, tmp_path):
    data = b"not really a picture"
    sha = sha256_of(data)
    demo.file.append(
        [PhotoAdded(assembly=SCREW, sha256=sha, media_type="image/png", file_name="a.png")],
        {sha: ("image/png", data)},
    )
    demo.survey()
    entries, photographs = job_from_json(job_to_json(demo.file))
    with JobFile.create(tmp_path / "again.trebb") as again:
        again.restore(entries, photographs)
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
        (lambda d: d["entries"][0].update(machine_kind="boat"), "entry 1 of the file, field “machine_kind”"),
        (lambda d: d["entries"][2].update(colour="red"), "entry 3 of the file, field “colour”"),
        (
            lambda d: d["entries"][1].update(id="two"),
            "entry 2 of the file: id and gesture must be whole numbers",
        ),
        (lambda d: d["entries"][1].update(id=1), "its id 1 must be more than 1"),
        (lambda d: d["entries"].insert(0, "x"), "it must be an object"),
        (
            lambda d: d["photographs"].append({"sha256": "0" * 64, "media_type": "x", "base64": "eA=="}),
            "its bytes are not what its name says",
        ),
        (lambda d: d["photographs"].append({"sha256": "0"}), "must have sha256, media_type and base64"),
    ],
)
def test_a_json_that_will_not_do_names_entry_and_field(demo, change, said):
    with pytest.raises(ExchangeError, match=said):
        job_from_json(broken(demo, change))


def test_words_are_not_json():
    with pytest.raises(ExchangeError, match="line 1: this is not JSON"):
        job_from_json("once upon a time")


def test_readings_survive_csv(demo):
    demo.survey()
    back = read(readings_to_csv(demo.job))
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
        ("set_up,place,value_mm\nwarp,collar,1\n", "line 2: “warp” is no set-up here"),
        ("set_up,place,value_mm\nlash,attic,1\n", "line 2: “attic” is no place of lash"),
        ("set_up,place,value_mm\nlash,station 1,1\n", "line 2: lash is read in divisions"),
        ("set_up,place,value_mm\nend_float,collar,much\n", "line 2: “much” is not a number"),
        ("set_up,place,value_mm\nend_float,collar,nan\n", "not a finite number"),
        ("set_up,place,value_mm,value_in\nend_float,collar,1,1\n", "exactly one of value_mm, value_in"),
        ("set_up,place,value_mm,phase\nend_float,collar,1,later\n", "no phase; write before or after"),
    ],
)
def test_a_csv_that_will_not_do_names_the_line(text, said):
    with pytest.raises(ExchangeError, match=said):
        read(text)


def test_entries_are_only_restored_into_an_empty_job(demo):
    with pytest.raises(Exception, match="only be restored into an empty job"):
        demo.file.restore(demo.file.entries(), {})


def test_a_job_folded_from_json_is_the_same_job(demo):
    demo.survey()
    entries, _ = job_from_json(job_to_json(demo.file))
    assert Job(entries).card("make") == demo.job.card("make")
