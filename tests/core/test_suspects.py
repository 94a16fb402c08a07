"""Suspects: Bayes by hand on a small table, drawn machines on the one that ships, tables that will not do."""

from __future__ import annotations

import copy
import json

import numpy as np
import pytest

from trebb.core.errors import InputError
from trebb.core.machine import KINDS
from trebb.core.suspects.ranking import Marked, Weighing
from trebb.core.suspects.table import table_from
from trebb.logbook.plan.suspicion import SHIPPED

DATA = json.loads(SHIPPED.read_text(encoding="utf-8"))
TABLE = table_from(DATA, "causes.json")
LATHE = tuple((a.key, a.family) for a in KINDS["lathe"].assemblies)

SMALL = {
    "format": "trebb causes 1",
    "symptoms": [{"key": "growl", "words": "Growls", "leak": 0.1}],
    "causes": [
        {"key": "bearing", "words": "Bearing", "at": ["spindle"], "share": 0.2, "shows": {"growl": 0.8}},
        {"key": "belt", "words": "Belt", "at": ["machine"], "share": 0.1, "shows": {}},
    ],
    "looks": [
        {
            "key": "hear",
            "words": "Hear",
            "minutes": 5,
            "at": ["spindle"],
            "tells": {"bearing": 0.9},
            "leak": 0.05,
        }
    ],
}


def test_two_causes_by_hand():
    w = Weighing(table_from(SMALL, "small"), (("spindle", "spindle"),))
    assert w.rank({}, {}).chance("bearing@spindle") == pytest.approx(0.2)
    # P(growl | bearing) = 1 − 0.9 × 0.2 = 0.82; without it 0.1.
    marked = w.rank({"growl": Marked(True)}, {})
    assert marked.chance("bearing@spindle") == pytest.approx(0.2 * 0.82 / (0.2 * 0.82 + 0.8 * 0.1))
    assert marked.chance("belt@") == 0.1  # nothing said speaks of it
    assert [x.is_backed for x in marked.suspects] == [True, False]
    looked = w.rank({"growl": Marked(True)}, {"hear@spindle": False})
    a, b = 0.2 * 0.82 * (0.95 * 0.1), 0.8 * 0.1 * 0.95
    assert looked.chance("bearing@spindle") == pytest.approx(a / (a + b))
    (advice,) = marked.advice
    p = marked.chance("bearing@spindle")
    yes = p * (1 - 0.95 * 0.1) + (1 - p) * 0.05

    def h(q):
        return -(q * np.log2(q) + (1 - q) * np.log2(1 - q))

    assert advice.bits == pytest.approx(h(yes) - p * h(1 - 0.95 * 0.1) - (1 - p) * h(0.05), rel=1e-6)
    assert advice.per_minute == advice.bits / 5


def test_a_feed_that_comes_and_goes_is_a_sheared_pin_before_a_half_nut():
    r = Weighing(TABLE, LATHE).rank({"feed_stops": Marked(True)}, {})
    assert r.suspects[0].cause.key == "shear_pin"
    assert r.place("shear_pin@lead_screw") < r.place("half_nuts@lead_screw")


def test_what_is_not_marked_counts_for_nothing_and_what_came_suddenly_is_no_wear():
    w = Weighing(TABLE, LATHE)
    nothing = w.rank({}, {})  # one of three screws, to the belt, as their odds
    odds = (0.22 / 3 / (1 - 0.22 / 3)) / (0.14 / 0.86)
    assert nothing.chance("nut@compound") / nothing.chance("belt@") == pytest.approx(odds, rel=0.2)
    slow = w.rank({"tight_spots": Marked(True, grew="slowly")}, {})
    sudden = w.rank({"tight_spots": Marked(True, grew="suddenly")}, {})
    assert sudden.chance("screw_bent@compound") > 2 * slow.chance("screw_bent@compound")
    here = w.rank({"handle_nothing": Marked(True, "cross_slide")}, {})
    assert here.place("nut@cross_slide") < here.place("nut@compound")
    # An owner's “no” on a noise that creeps up counts half.
    growl = w.rank({"growl": Marked(False)}, {}).chance("spindle_bearings@spindle")
    hot = w.rank({"chatter": Marked(False)}, {}).chance("spindle_bearings@spindle")
    assert hot < growl < nothing.chance("spindle_bearings@spindle")


def drawn(rng, w):
    """A machine with one known fault, or two, and what its owner says: shares off by up to a third from
    the table's. It comes in because of something: one fault shows.
    """
    while True:
        faults, marks = drawn_once(rng, w)
        shown = {s for i in faults for s in w.candidates[i][0].shows}
        if any(m.there and k in shown for k, m in marks.items()):
            return faults, marks


def drawn_once(rng, w):
    p = w.shares / w.shares.sum()
    faults = [int(rng.choice(len(p), p=p))]
    if rng.random() < 0.25:
        other = int(rng.choice(len(p), p=p))
        faults += [other] if other not in faults else []
    marks = {}
    for s in TABLE.symptoms:
        miss = 1 - s.leak / 2
        for i in faults:
            miss *= 1 - np.clip(w.candidates[i][0].shows.get(s.key, 0.0) * rng.uniform(0.67, 1.33), 0, 0.98)
        if rng.random() < 1 - miss:
            of = [i for i in faults if w.candidates[i][0].shows.get(s.key)]
            where = w.candidates[of[0]][1] if of and rng.random() < 0.8 else ""
            marks[s.key] = Marked(True, where)
        elif rng.random() < 0.7:
            marks[s.key] = Marked(False)
    return faults, marks


def test_drawn_machines_are_found_by_marks_and_the_looks_advised():
    w = Weighing(TABLE, LATHE)
    rng = np.random.default_rng(2)
    first = third = 0
    count = 80
    for _ in range(count):
        faults, marks = drawn(rng, w)
        keys = [f"{w.candidates[i][0].key}@{w.candidates[i][1]}" for i in faults]
        looked: dict[str, bool] = {}
        r = w.rank(marks, looked)
        while r.suspects[0].chance < 0.9 and len(looked) < 5 and r.advice[0].bits > 0.02:
            a = r.advice[0]
            miss = 1 - a.look.leak
            for i in faults:
                cause, at = w.candidates[i]
                told = a.look.tells.get(cause.key, 0.0)
                if at == a.assembly or a.assembly not in w.places[cause.key]:
                    miss *= 1 - told
            looked[a.key] = bool(rng.random() < 1 - miss)
            r = w.rank(marks, looked)
        place = min(r.place(k) for k in keys)
        first += place == 1
        third += place <= 3
    assert first / count >= 0.7
    assert third / count >= 0.9


def test_every_look_and_cause_of_the_shipped_table_stands_somewhere():
    from trebb.core.survey import all_set_ups

    known = {s.key for s in all_set_ups()}
    assert {look.set_up for look in TABLE.looks} - {""} <= known
    told = {key for look in TABLE.looks for key in look.tells}
    assert told == {c.key for c in TABLE.causes}
    assert {s for c in TABLE.causes for s in c.shows} == {s.key for s in TABLE.symptoms}
    assert len(TABLE.causes) >= 60
    assert all(c.why for c in TABLE.causes)
    for kind in KINDS.values():
        Weighing(TABLE, tuple((a.key, a.family) for a in kind.assemblies)).rank({"growl": Marked(True)}, {})


@pytest.mark.parametrize(
    ("spoil", "said"),
    [
        (lambda d: d.pop("format"), "format"),
        (lambda d: d["causes"][0].update(share=1.5), "share"),
        (lambda d: d["causes"][0]["shows"].update(moan=0.5), "moan"),
        (lambda d: d["looks"][0].update(minutes=0), "minutes"),
        (lambda d: d["looks"][0]["tells"].update(ghost=0.5), "ghost"),
        (lambda d: d["symptoms"].append("growl"), "list of entries"),
        (lambda d: d["causes"][0].update(at="spindle"), "list of assemblies"),
        (lambda d: d["symptoms"][0].pop("key"), "key"),
    ],
)
def test_a_table_that_will_not_do_names_what(spoil, said):
    data = copy.deepcopy(SMALL)
    spoil(data)
    with pytest.raises(InputError, match=said):
        table_from(data, "mine.json")


def test_each_cause_leads_to_set_ups_remedies_and_pieces_that_there_are():
    from trebb.core.register import FAMILIES
    from trebb.core.remedies import remedies_of
    from trebb.core.stating import schema_of
    from trebb.core.survey import set_ups_of
    from trebb.core.units import UnitSystem

    at: dict[str, set[str]] = {}
    for kind in KINDS.values():
        for a in kind.assemblies:
            at.setdefault(a.key, set()).add(a.family)
            at.setdefault(f"family:{a.family}", set()).add(a.family)
    for cause in TABLE.causes:
        of = (
            {cause.piece.family} if cause.piece else set().union(*(at.get(p, set()) for p in cause.at)) - {""}
        )
        if cause.set_up:
            assert any(cause.set_up in {s.key for s in set_ups_of(f)} for f in of), cause.key
        known = {r.key for f in of for r in remedies_of(f)}
        assert set(cause.remedies) <= known, cause.key
        if cause.piece:
            assert FAMILIES[cause.piece.family].is_piece
            for key, text in cause.piece.facts.items():
                schema_of(cause.piece.family).fact(key).typed(text, UnitSystem.METRIC)


def test_what_is_asked_follows_the_kind_of_machine():
    for kind, has, lacks in (
        ("lathe", "parting", "head_drops"),
        ("mill", "facets", "parting"),
        ("drill", "through", "taper"),
        ("own", "burnt", ""),
    ):
        asked = TABLE.of_kind(kind).by_key
        assert has in asked
        assert lacks not in asked
    assert len(TABLE.of_kind("own").symptoms) == len(TABLE.symptoms)


def test_looks_answer_what_was_marked():
    """Of a machine that only growls with its feed, no look at the belt or the floor comes first."""
    w = Weighing(TABLE.of_kind("lathe"), LATHE)
    for key in (
        "growl_feed",
        "taper",
        "jumps",
        "no_oil",
        "tail_off",
        "handle_nothing",
        "tight_spots",
        "no_stop",
    ):
        r = w.rank({key: Marked(True)}, {})
        first = r.advice[0].look
        backed = {s.cause.key for s in r.suspects if s.is_backed}
        assert set(first.tells) & backed, key
        assert all(a.is_backed >= b.is_backed for a, b in zip(r.suspects, r.suspects[1:], strict=False))
        assert first.key != "belt_look"
