"""Readings as people say them: what they are, and how far apart the two between which they lie."""

from __future__ import annotations

import pytest

from tests.independent.job import TypedJob
from trebb.core.errors import InputError
from trebb.core.survey import set_up
from trebb.core.survey.admitting import readings_typed, width_typed
from trebb.core.units import THOU_MM, UnitSystem

FLOAT = set_up("end_float")


def said(text: str, system: UnitSystem = UnitSystem.INCH) -> tuple[float, float]:
    """Value and width in thou."""
    subject = TypedJob().of("cross_slide").read_as("before")
    ((_, mm),) = readings_typed(FLOAT, subject, "collar", text, system)
    return mm / THOU_MM, width_typed(FLOAT, subject, text, system) / THOU_MM


@pytest.mark.parametrize(
    ("text", "value", "width"),
    [
        ("a good 3", 3.25, 0.5),
        ("a good 3 thou", 3.25, 0.5),
        ("3+", 3.25, 0.5),
        ("3 scant", 2.75, 0.5),
        ("just under 3", 2.75, 0.5),
        ("about 2", 2.0, 1.0),
        ("~3", 3.0, 1.0),
        ("2 thou or so", 2.0, 1.0),
        ("about half a thou", 0.5, 0.5),
        ("a good 3.5", 3.525, 0.05),
        ("2-3", 2.5, 1.0),
        ("2-3 thou", 2.5, 1.0),
        ("1 to 2 tenths", 0.15, 0.1),
        ("under 2 thou", 1.0, 2.0),
        ("1½ thou", 1.5, 0.0),
        ("½", 0.5, 0.0),
        ("half", 0.5, 0.0),
        ("two thou", 2.0, 0.0),
        ("3 thou 2 tenths", 3.2, 0.0),
        ("nothing", 0.0, 0.0),
        ("no play", 0.0, 0.0),
        ("3,5", 3.5, 0.0),
    ],
)
def test_what_people_say_is_a_reading(text, value, width):
    assert said(text) == (pytest.approx(value), pytest.approx(width, abs=1e-9))


def test_said_in_metric_it_is_of_what_its_last_place_counts():
    value, width = said("a good 0.05 mm")
    assert value == pytest.approx(0.0525 / THOU_MM)
    assert width == pytest.approx(0.005 / THOU_MM)


@pytest.mark.parametrize("text", ["3-2", "good", "about", "a good", "some play", "two"[:2]])
def test_what_is_no_figure_is_refused(text):
    with pytest.raises(InputError):
        said(text)
