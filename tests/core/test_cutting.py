"""What an operation is shown to cut: the section it is about, and no other."""

from __future__ import annotations

import pytest

from trebb.core.making.cutting import HELD, cut_by, tool_of
from trebb.core.making.operations import Operation, SizeTarget
from trebb.core.parts.base import Part, Section
from trebb.core.threads import Band

SEAT = Band(15.983, 15.994)


def part(*sections: Section, bore: Section | None = None) -> Part:
    return Part("it", "It", "steel", "bar", sections, bore, (), (), ())


SHAFT = part(
    Section("left journal", "plain", 20.0, 16.0, SEAT),
    Section("between", "plain", 60.0, 18.0),
    Section("groove", "groove", 3.0, 14.0),
    Section("right journal", "plain", 20.0, 16.0, SEAT),
    Section("end", "end thread", 15.0, 12.0),
)


def operation(key: str, target: SizeTarget | None = None) -> Operation:
    return Operation(10, key, "Do it", "", "", "", 5, target=target)


@pytest.mark.parametrize(
    ("key", "target", "cut", "tool"),
    [
        ("turn_0", SizeTarget("left journal", SEAT, 1), {"section 0"}, "turning"),
        ("turn_3", SizeTarget("right journal", SEAT, 1), {"section 3"}, "turning"),
        ("journals", SizeTarget("journals", SEAT, 1), {"section 0", "section 3"}, "turning"),
        ("groove", None, {"section 2", "groove", "plunged"}, "parting"),
        ("end_thread", None, {"section 4"}, "turning"),
        ("face", None, {"ends"}, "facing"),
        ("blank", None, {"ends", "sawn"}, ""),
        ("keyway", None, {"keyway"}, "milling"),
        ("fit", None, set(), ""),
    ],
)
def test_an_operation_cuts_what_it_is_about(key, target, cut, tool):
    found = cut_by(SHAFT, operation(key, target)) - HELD
    assert found == cut
    assert tool_of(found) == tool


def test_a_bore_is_cut_by_the_size_it_is_to_reach():
    limits = Band(10.0, 10.018)
    bush = part(Section("body", "plain", 20.0, 16.0), bore=Section("bore", "plain", 20.0, 10.0, limits))
    found = cut_by(bush, operation("ream", SizeTarget("bore", limits, -1)))
    assert found - HELD == {"bore"}
    assert tool_of(found - HELD) == "boring"
