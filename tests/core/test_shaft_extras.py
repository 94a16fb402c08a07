"""Woodruff keys, a screw with a nose, and what slides over a shaft from which end."""

from __future__ import annotations

import math

import pytest

from trebb.core.errors import InputError
from trebb.core.families.shaft.subject import Shaft
from trebb.core.fits.keys import woodruff
from trebb.core.fitup.pieces import slide_words, slides_to
from trebb.core.machine.workshop import Workshop
from trebb.core.making.routes import route
from trebb.core.parts import family
from trebb.core.parts.base import PartInputs, Section

INCH = 25.4


def made(key, **facts):
    f = family(key)
    subject = Shaft(dia_mm=19.05, length_mm=200)
    part = f.build(PartInputs(subject, Workshop(), facts))
    return part, route(part, subject, Workshop())


# ASME B17.2: number, width, cutter, height of the key, in.
@pytest.mark.parametrize(
    ("shaft", "number", "width", "cutter", "height"),
    [
        (0.375, "No. 204", 1 / 16, 1 / 2, 0.203),
        (0.5, "No. 305", 3 / 32, 5 / 8, 0.250),
        (0.75, "No. 406", 1 / 8, 3 / 4, 0.313),
        (0.875, "No. 507", 5 / 32, 7 / 8, 0.375),
        (1.0, "No. 608", 3 / 16, 1.0, 0.438),
        (1.25, "No. 809", 1 / 4, 1 + 1 / 8, 0.484),
        (1.75, "No. 1010", 5 / 16, 1.25, 0.547),
    ],
)
def test_woodruff_keys_by_their_numbers(shaft, number, width, cutter, height):
    key = woodruff(shaft * INCH, inch=True)
    assert key.name == number
    assert key.width_mm / INCH == pytest.approx(width)
    assert key.cutter_mm / INCH == pytest.approx(cutter)
    assert key.height_mm / INCH == pytest.approx(height, abs=0.001)
    # Half its width stands out of the seat's side: seat and key together make the height.
    arc = (shaft - math.sqrt(shaft**2 - width**2)) / 2
    assert key.depth_mm / INCH - arc + width / 2 == pytest.approx(key.height_mm / INCH)
    assert 0 < key.length_mm <= key.cutter_mm


def test_metric_woodruff_keys_and_shafts_without_one():
    assert woodruff(20, inch=False).name == "5 × 7.5"
    assert woodruff(20, inch=False).depth_mm == 5.5
    for shaft, inch in ((3.0, False), (60.0, False), (4.0, True), (60.0, True)):
        with pytest.raises(InputError, match="Woodruff"):
            woodruff(shaft, inch=inch)


def test_a_shaft_with_a_woodruff_seat_is_drawn_and_cut():
    part, own = made("stepped_shaft", hold="woodruff", seat_len=30.0, blanks="one")
    assert part.row("key").value == "No. 406"
    seat = next(f for f in part.features if f.kind == "keyway")
    assert seat.words == "Woodruff No. 406"
    assert any("Woodruff cutter, straight down" in o.detail for o in own)
    assert own[0].title == "Saw the blank"
    assert "spare" not in part.stock
    short, _ = made("stepped_shaft", hold="woodruff", seat_len=10.0)
    assert any("it shows" in c.sentence for c in short.checks if not c.is_ok)


def test_a_nose_goes_in_through_its_thread():
    part, own = made("dog_screw", thread="m6", nose=4.0, groove=4.05)
    assert [s.kind for s in part.sections] == ["thread", "plain"]
    assert all(c.is_ok for c in part.checks)
    assert "nose" in [o.key for o in own]
    loose, _ = made("dog_screw", thread="m6", nose=4.0, groove=5.0)
    assert any("shakes" in c.sentence for c in loose.checks if not c.is_ok)
    with pytest.raises(InputError, match="through the thread"):
        made("dog_screw", thread="m6", nose=5.5)


def section(label, dia):
    return Section(label, "plain", 10.0, dia)


def test_a_ring_passes_only_what_is_smaller_than_its_bore():
    shaft = (section("left", 20.0), section("between", 18.0), section("right", 16.0))
    assert slides_to(shaft, "between", 18.0) == (False, True)
    assert slides_to(shaft, "between", 20.0) == (True, True)
    assert slides_to(shaft, "between", 15.0) == (False, False)
    assert slides_to(shaft, "left", 10.0)[0] is True
    with pytest.raises(KeyError):
        slides_to(shaft, "middle", 10.0)
    assert "cannot pass from either end" in slide_words(False, False, "Collar")
    assert "right end only" in slide_words(False, True, "Collar")


def test_a_knurl_is_made_to_the_bore_as_measured():
    f = family("stepped_shaft")
    inputs = PartInputs(
        Shaft(dia_mm=19.05, length_mm=200), Workshop(), {"hold": "knurl"}, measured={"mate.seat": 16.0}
    )
    part = f.build(inputs)
    over = part.band("knurl")
    assert 16.05 < over.low_mm < over.high_mm < 16.25
    assert part.size_mm("before_knurl") < 16.0
    assert any("indexed twice" in c.sentence for c in part.checks)
    unread = f.build(PartInputs(Shaft(), Workshop(), {"hold": "knurl"}))
    assert any("not measured: a knurl" in c.sentence for c in unread.checks if not c.is_ok)


def test_a_taper_pin_s_hole_goes_by_the_hub_it_crosses_in_the_machine_s_own_standard():
    from tests.independent.job import TypedJob
    from trebb.core.units import UnitSystem
    from trebb.logbook.log.entries import AssemblyAdded

    def rows_of(system, **facts):
        job = TypedJob()
        job.record(AssemblyAdded(assembly="bar", label="Shaft", family="shaft", under="apron"))
        job.state("bar", drive="taper_pin", **facts)
        part = job.of("bar").part("stepped_shaft", system)
        return {r.key: r.value for r in part.rows}, part

    inch, part = rows_of(UnitSystem.INCH, dia_mm=19.05, hub_mm=31.75, pin_mm=5.563)  # No. 3, .219 large
    assert inch["taper_pin"].startswith("ASME B18.8.2 No. 3 × 1.5")
    assert inch["pin"] == pytest.approx(5.563, abs=1e-6)
    assert inch["small"] == pytest.approx(5.563 - 31.75 / 48, abs=1e-6)  # not by the seat's length
    assert inch["pin_drill"] <= inch["small"]
    metric, part = rows_of(UnitSystem.METRIC, dia_mm=20.0, hub_mm=35.0, pin_mm=5.0)
    assert metric["taper_pin"].startswith("ISO 2339 5 × 40")
    assert metric["small"] == pytest.approx(5.0, abs=1e-6)  # metric pins are named by it
    assert metric["pin"] == pytest.approx(5.0 + 35.0 / 50, abs=1e-6)
    _, part = rows_of(UnitSystem.METRIC, dia_mm=20.0, hub_mm=35.0, pin_mm=5.4)
    assert any("No taper pin of 5.4 mm is listed: the nearest is 5 mm" in c.sentence for c in part.checks)


def test_a_stated_length_is_held_against_its_sections_and_a_key_goes_by_the_seat_as_typed():
    from tests.independent.job import TypedJob
    from trebb.core.units import UnitSystem
    from trebb.logbook.log.entries import AssemblyAdded, PartSet

    job = TypedJob()
    job.record(AssemblyAdded(assembly="bar", label="Shaft", family="shaft", under="apron"))
    job.state("bar", drive="key", dia_mm=20.0, length_mm=200.0)

    def part():
        return job.of("bar").part("stepped_shaft", UnitSystem.METRIC)

    assert not [c for c in part().checks if "sections come to" in c.sentence]
    job.record(PartSet(part=job.of("bar").part_name("stepped_shaft"), field="seat_len", value=70.8))
    (long,) = [c for c in part().checks if "sections come to" in c.sentence]
    assert not long.is_ok
    assert "50.8 mm too much" in long.sentence
    was = part().size_mm("key")
    job.record(PartSet(part=job.of("bar").part_name("stepped_shaft"), field="seat_dia", value=32.0))
    assert part().size_mm("key") > was  # DIN 6885: 6 wide at 20, 10 at 32
