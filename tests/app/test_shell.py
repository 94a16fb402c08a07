"""From the shell: the same declarations and refusals as in the window, and figures as plain values."""

from __future__ import annotations

import json

import pytest

from trebb.app.cli import main

TRAVEL = 203.2


@pytest.fixture
def shell(tmp_path, capsys):
    """Runs a command on a new mill's job; returns exit code, output (decoded where it is JSON) and errors."""
    path = tmp_path / "mill.trebb"
    main(["new", str(path), "--kind", "mill", "--no-window"])
    capsys.readouterr()

    def run(command: str, *words: str):
        needs_file = command != "name-thread"
        code = main([command, *([str(path)] if needs_file else []), *words])
        out, err = capsys.readouterr()
        return code, json.loads(out) if "--json" in words and code == 0 else out, err

    return run


def test_facts_are_stated_as_typed_and_shown_as_stored(shell):
    code, told, _ = shell(
        "state", "cross_screw", "travel=8in", "pitch_mm=5 tpi", "read_at=1; 2,5 in", "--json"
    )
    assert code == 0
    assert told[0] == {"field": "travel_mm", "value": pytest.approx(TRAVEL)}
    assert told[1]["value"] == pytest.approx(5.08)
    assert told[2] == {"field": "read_at", "value": "25.4 63.5"}
    assert shell("state", "card", "worth=£1,800", "wheels=20 24 127")[0] == 0
    assert shell("state", "limits", "mill_cross_lash=4 thou")[0] == 0
    _, told, _ = shell("findings", "--part", "cross_screw", "--json")
    assert told["set_aside"] == []
    assert shell("state", "cross_screw", "nut_length=1.75 in")[1] == "nut_length_mm = 44.45\n"


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("cross_screw", "travel_mm=0"), "from 0.394 in to 236 in"),
        (("cross_screw", "travel_mm=-5"), "from"),
        (("cross_screw", "travel_mm=nan"), "write a length"),
        (("cross_screw", "travel_mm=1e999"), "no unit of length"),
        (("cross_screw", "travel_mm=5 parsec"), "“parsec” is no unit of length known here"),
        (("cross_screw", "travel_mm=1 m**9**9**9"), "no unit of length known here"),
        (("cross_screw", "travel_mm=²0"), "write a length"),
        (("cross_screw", "divisions=12.5"), "a whole number from 1 to 2000"),
        (("cross_screw", "hand=evil"), "one of right, left"),
        (("cross_screw", "pitch_mm=50 mm"), "cut the screw nearly through"),
        (("cross_screw", "travel_mm=2 in", "read_at=3 in"), "the travel goes from nothing"),
        (("cross_screw", "colour=red"), "known here are form"),
        (("cross_screw", "travel_mm"), "an equals sign"),
        (("ram", "travel_mm=3"), "nothing can be read or stated"),
        (("attic", "travel_mm=3"), "this machine has spindle"),
        (("spindle", "angles=3"), "from 5 to 36"),
        (("card", "gear_ratio=1e9999999"), "write the lead screw's turns"),
        (("card", "wheels=20 24 28 1000000"), "list the wheels"),
        (("limits", "mill_cross_lash=0"), "from"),
        (("limits", "warp=1"), "limits are cross_lash"),
    ],
)
def test_what_will_not_do_is_one_sentence_and_records_nothing(shell, words, said):
    code, out, err = shell("state", *words)
    assert (code, out) == (1, "")
    assert said in err or ("= and its value" in err and said == "an equals sign")
    assert err.count("\n") == 1
    assert shell("findings", "--json")[1]["set_aside"] == []


def test_readings_are_taken_as_typed_and_judged(shell):
    for command in (("end_float", "collar", "20 thou", "20thou", "0.5 mm"), ("lash", "station 1", "12 div")):
        assert shell("read", "cross_screw", *command)[0] == 0
    _, told, _ = shell("findings", "--json", "--part", "cross_screw")
    (part,) = told["parts"]
    assert part["state"] == "beyond"
    assert part["figures"][0]["limit_mm"] == 0.12
    assert {s["key"]: s["is_read"] for s in part["sources"]}["float"] is True
    assert any(u["what"] == "screw wear at station 3" and u["set_up"] for u in part["unread"])
    assert {"set_up", "minutes", "settles"} <= set(part["advice"][0])
    assert (
        shell("read", "cross_screw", "end_float", "collar", "3 thou", "--after", "--json")[1]["phase"]
        == "after"
    )


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("cross_screw", "end_float", "collar", "-5"), "not less than nothing"),
        (("cross_screw", "end_float", "collar", "1500 mm"), "more than the slide's whole travel"),
        (("cross_screw", "end_float", "attic", "1"), "end_float has collar"),
        (("cross_screw", "warp", "collar", "1"), "set-ups of “cross_screw” are lash"),
        (("cross_screw", "nose", "register, 0°", "1"), "set-ups of “cross_screw” are lash"),
        (("table", "spots", "spots, middle", "7.5"), "whole number"),
    ],
)
def test_a_reading_that_cannot_be_is_refused(shell, words, said):
    code, _, err = shell("read", *words)
    assert code == 1
    assert said in err


def test_a_reading_less_than_nothing_is_a_value_and_no_option(shell):
    assert shell("read", "head", "square", "side face, start", "-0.3 thou")[0] == 0


def test_a_repair_goes_from_choice_to_route(shell, tmp_path):
    shell("read", "cross_screw", "end_float", "collar", "20 thou")
    _, told, _ = shell("remedies", "--part", "cross_screw", "--json")
    assert not any(r["is_advised"] for r in told)  # the float alone is read: what else there is may be enough
    assert "Read first: " in shell("remedies", "--part", "cross_screw")[1]
    assert shell("choose", "cross_screw", "warp")[0] == 1
    assert shell("choose", "cross_screw", "pair_thrust", "--why", "worn")[0] == 0
    out = tmp_path / "nut.dxf"
    _, told, _ = shell("part", "cross_screw", "nut", "length=60 mm", "--json", "--dxf", str(out))
    assert next(f for f in told["fields"] if f["key"] == "length")["value"] == pytest.approx(60)
    assert out.read_bytes().rstrip().endswith(b"EOF")
    assert shell("part", "cross_screw", "nut", "length=9000 mm")[0] == 1
    assert shell("part", "cross_screw", "spacer")[0] == 1
    _, told, _ = shell("route", "cross_screw", "nut", "--json")
    assert [o["number"] for o in told] == [10 * (i + 1) for i in range(len(told))]


def test_a_thread_is_named_and_an_offer_is_judged(shell):
    _, told, _ = shell("name-thread", "pitch=5", "major=27.8", "angle=30", "--units", "metric", "--json")
    assert told["candidates"][0]["designation"] == "Tr 28 × 5"
    assert told["candidates"][0]["is_standard"]
    assert shell("name-thread", "pitch=5")[0] == 1
    assert "measure a pitch" in shell("will-it-fit", "cross_screw", "Tr 28 x 6 LH")[2]
    shell("state", "cross_screw", "form=trapezoidal", "major_mm=28 mm", "pitch_mm=5 mm", "hand=left")
    _, told, _ = shell("will-it-fit", "cross_screw", "Tr 28 x 6 LH", "--json")
    assert told["verdict"] == "never"
    assert shell("will-it-fit", "cross_screw", "what")[0] == 1


def test_set_ups_are_listed_with_their_places(shell):
    _, told, _ = shell("set-ups", "head", "--json")
    edges = next(s for s in told if s["set_up"] == "table_edges")
    assert edges["places"] == ["front edge", "middle", "back edge"]
    assert {"assembly", "set_up", "unit", "wanted", "places"} <= set(edges)
    assert shell("set-ups")[1].count("thread_size") == 3


def test_a_piece_is_added_stated_read_and_judged(shell):
    code, told, _ = shell("add", "shaft", "Quill pinion", "--under", "head", "--json")
    assert (code, told["assembly"]) == (0, "quill_pinion")
    assert shell("state", "quill_pinion", "dia=20 mm", "file=bites")[0] == 0
    assert shell("read", "quill_pinion", "shaft_float", "end", "0.5 mm", "0.51 mm")[0] == 0
    _, told, _ = shell("findings", "--part", "quill_pinion", "--json")
    assert told["parts"][0]["state"] == "beyond"
    code, _, err = shell("add", "boat", "Dinghy", "--under", "head")
    assert code != 0
    assert "none of" in err
    code, _, err = shell("add", "bore", "Loose hole")
    assert "say which" in err


def test_a_bevel_goes_from_rocking_to_its_spacer_and_a_quote_stands_beside_it(shell):
    shell("add", "gear", "Knee bevel", "--under", "knee")
    stated = ("kind=bevel", "teeth=24", "mate_teeth=24", "name=DP 10 14.5", "spacer_mm=.125in")
    assert shell("state", "knee_bevel", *stated)[0] == 0
    for tooth in (1, 7, 13, 19):
        assert shell("read", "knee_bevel", "gear_rock", f"tooth {tooth}", "14 thou")[0] == 0
    shell("read", "knee_bevel", "gear_play", "push", "1 thou", ".8 thou")
    _, told, _ = shell("quote", "knee_bevel", "both", "240", "21", "gear cutter", "--json")
    assert told["quote"] == "240, 21 d, gear cutter"
    code, _, err = shell("quote", "knee_bevel", "both", "much", "3")
    assert code == 1
    assert "a figure alone, from 0 to 1000000" in err
    _, told, _ = shell("remedies", "--part", "knee_bevel", "--json")
    both = next(r for r in told if r["key"] == "both")
    assert (both["cost"], both["wait_days"], both["quote"]) == (240, 21, "240, 21 d, gear cutter")
    assert shell("choose", "knee_bevel", "spacer")[0] == 0
    _, told, _ = shell("part", "knee_bevel", "gear_spacer", "--json")
    thick = next(row for row in told["rows"] if row["label"] == "Thickness")
    # 13.5 thou of lash to 4.4, a mitre of 14.5 degrees: 9.1 / (2 tan 14.5 sin 45) = 25 thou more.
    assert (thick["low_mm"] + thick["high_mm"]) / 2 / 25.4 == pytest.approx(0.150, abs=0.002)
    assert shell("state", "knee_bevel", "missing=99")[0] == 1
    assert shell("state", "knee_bevel", "name=DP 17")[0] == 1


def test_figures_are_listed_in_the_units_asked_for(tmp_path, capsys):
    path = str(tmp_path / "lathe.trebb")
    main(["new", path, "--kind", "lathe", "--no-window"])
    for place, value in (("front, quill in", "0"), ("front, quill out", "3 thou")):
        main(["read", path, "tailstock", "quill", place, value])
    main(["add", path, "casting", "Broken lug", "--under", "apron"])
    main(["read", path, "broken_lug", "crack", "length", "2.5 in"])
    capsys.readouterr()
    main(["findings", path, "--units", "inch"])
    said = capsys.readouterr().out
    assert "Quill, in 4 in: 3." in said
    assert "Crack that draws: 2.4" in said
    main(["findings", path, "--units", "metric"])
    said = capsys.readouterr().out
    assert "Quill, in 100 mm: " in said
    assert "Crack that draws: 63." in said


def test_a_reading_far_from_the_others_is_asked_about_and_taken_when_it_is_sure(shell):
    for station in ("station 1", "station 2", "station 4"):
        assert shell("read", "cross_screw", "lash", station, "5", "5")[0] == 0
    code, _, err = shell("read", "cross_screw", "lash", "station 3", "150")
    assert code == 1
    assert "the others read about" in err
    assert "--sure" in err
    assert shell("read", "cross_screw", "lash", "station 3", "150", "--sure")[0] == 0
    code, _, err = shell("read", "cross_screw", "lash", "station 5", "5", "150")  # within one command too
    assert code == 1
    assert "here before" in err


def test_pulls_typed_as_magnitudes_are_asked_about(shell):
    assert shell("read", "spindle", "push_test", "quill in, pulled full", "5")[0] == 0
    code, _, err = shell("read", "spindle", "push_test", "quill in, pushed full", "5")
    assert code == 1
    assert "toward the indicator is +" in err
    assert shell("read", "spindle", "push_test", "quill in, pushed full", "+5", "--sure")[0] == 0


def test_a_key_with_a_unit_says_what_a_bare_number_is_in(shell):
    _, told, _ = shell("state", "spindle", "pull_n=340", "--json")
    assert told == [{"field": "pull_n", "value": 340.0}]
    _, told, _ = shell("state", "spindle", "pull=76.4 lbf", "--json")
    assert told[0]["value"] == pytest.approx(340, abs=0.5)
    _, told, _ = shell("state", "cross_screw", "travel_mm=200", "--json")
    assert told == [{"field": "travel_mm", "value": 200.0}]
    _, told, _ = shell("state", "cross_screw", "travel=8", "--json")
    assert told[0]["value"] == pytest.approx(203.2)
    _, told, _ = shell("state", "cross_screw", "travel_mm=8in", "--json")
    assert told[0]["value"] == pytest.approx(203.2)
