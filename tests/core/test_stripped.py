"""Assembly built from what came off, reversed; where it and the known order disagree."""

from __future__ import annotations

import pytest

from trebb.core.errors import InputError
from trebb.core.fitup import assembly_order, fit_steps
from trebb.core.fitup.order import FitStep
from trebb.core.fitup.stripped import Came, Rule, checked_rule, usual_next, with_came

KNOWN = (
    FitStep("marks", "Find the marks", (), ""),
    FitStep("screw_in", "Screw in", ("marks",), ""),
    FitStep("dial", "Dial on", ("screw_in",), "The thrust nut sits behind the dial."),
    FitStep("prove", "Ready", ("dial",), ""),
)


def titles(came, rules=()):
    steps, said = with_came(KNOWN, came, rules)
    return [s.title for s in assembly_order(steps)], said


def test_what_came_off_last_goes_on_first():
    came = [Came("a", "guard"), Came("b", "handwheel", "taper pin"), Came("c", "spring", step="")]
    order, said = titles(came)
    assert not said
    assert [t for t in order if t.endswith("back on")] == [
        "Spring back on",
        "Handwheel back on",
        "Guard back on",
    ]
    assert order[-1] == "Ready"


def test_known_steps_take_over_what_was_noted_of_their_part():
    came = [Came("a", "dial", "2 × M5", way="nought up", tray="3", shim="0.20 mm (8 thou)", step="dial")]
    steps, said = with_came(KNOWN, came)
    remind = next(s.remind for s in steps if s.key == "dial")
    for words in ("Held by 2 × M5", "Nought up", "In bag or tray 3", "0.20 mm"):
        assert words in remind
    assert len(steps) == len(KNOWN)
    assert not said


def test_a_disagreement_is_said_and_the_known_order_stands():
    came = [Came("a", "screw", step="screw_in"), Came("b", "dial", step="dial")]
    order, said = titles(came)
    assert order.index("Screw in") < order.index("Dial on")
    assert len(said) == 1
    assert "“Screw in” came off before “Dial on”" in said[0]
    assert "thrust nut" in said[0]
    assert not titles(list(reversed(came)))[1]


def test_a_learned_order_stays_and_one_that_cannot_be_is_refused():
    came = [Came("a", "guard"), Came("b", "spring")]
    steps, _ = with_came(KNOWN, came, [Rule("came_a", "screw_in", "It would not pass.")])
    order = [s.key for s in assembly_order(steps)]
    assert order.index("came_a") < order.index("screw_in")
    assert "It would not pass." in next(s.why for s in steps if s.key == "screw_in")
    checked_rule(steps, Rule("came_a", "dial"))
    for rule in (Rule("dial", "screw_in"), Rule("dial", "dial"), Rule("none", "dial")):
        with pytest.raises(InputError):
            checked_rule(KNOWN, rule)


def test_what_usually_comes_off_next_is_the_known_order_backwards():
    steps = assembly_order(fit_steps("pair_thrust"))
    first = usual_next(steps, [])
    assert first[0].key == "covers"
    after = usual_next(steps, [Came("a", "guard", step="covers")])
    assert "covers" not in [s.key for s in after]


def test_what_must_be_taken_before_is_taken_or_waived():
    assert not Came("a", "gib", first="how far it stands out").is_settled
    assert Came("a", "gib", first="how far it stands out", taken="12 mm").is_settled
    assert Came("a", "gib", first="how far it stands out", waived="scrap anyway").is_settled
