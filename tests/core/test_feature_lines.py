"""A turned part written line by line: what is read, what it comes to, what is refused and where."""

from __future__ import annotations

import random
import re

import numpy as np
import pytest

from tests.lists import random_list
from trebb.core.errors import InputError
from trebb.core.families.copied.built import FAMILY
from trebb.core.families.copied.built_checks import solid_mm3
from trebb.core.families.copied.built_route import built_route
from trebb.core.families.copied.subject import Copied
from trebb.core.machine.workshop import Workshop
from trebb.core.parts.base import PartInputs
from trebb.core.parts.drawing import Title, laid_out
from trebb.core.parts.feature_lines import parse_list, write_list
from trebb.core.units import UnitSystem

METRIC, INCH = UnitSystem.METRIC, UnitSystem.INCH


def made(lines: str, system: UnitSystem = METRIC, **more):
    inputs = PartInputs(Copied("built"), Workshop(), {}, system=system)
    (field,) = (f for f in FAMILY.fields(inputs) if f.is_list)
    facts = {"lines": field.typed(lines, system), **more}
    return FAMILY.build(PartInputs(Copied("built"), Workshop(), facts, system=system))


def profile(lines: str) -> tuple[np.ndarray, np.ndarray, float]:
    """Outside and inside diameters by hundredths of a millimetre along it, read by nothing of Trebb's."""
    found, bores, pockets = [], [], []
    for line in lines.splitlines():
        thread = re.match(r"thread M(\d+) x (\d+)", line)
        plain = re.match(r"(?:plain|shoulder|journal|seat) (\d+).* x (\d+)$", line)
        if thread or plain:
            dia, long = map(int, (thread or plain).groups())
            found += [dia] * (100 * long)
        elif line.startswith("bore"):
            bores.append(int(line.split()[1]))
        elif line.startswith("pocket"):
            pockets.append(tuple(map(int, re.findall(r"\d+", line))))
    inner = np.full(len(found), float(max(bores, default=0)))
    for dia, deep in pockets:
        inner[-100 * deep :] = np.maximum(inner[-100 * deep :], dia)
    return np.array(found, float), inner, len(found) / 100


def test_five_hundred_lists_come_to_the_length_and_the_metal_that_they_are():
    rng, tried, unnamed = random.Random(4), 0, 0
    for _ in range(500):
        lines = random_list(rng)
        try:
            part = made(lines)
        except InputError as refused:  # a feature that its section has no room for
            unnamed += not str(refused).startswith("line ")
            continue
        tried += 1
        outside, inside, long = profile(lines)
        assert part.length_mm == pytest.approx(long)
        metal = float((np.pi / 4 * (outside**2 - inside**2)).sum() / 100)
        assert solid_mm3(part.sections, part.inner) == pytest.approx(metal, rel=0.006)  # limits, not names
        walls = (outside - inside)[inside > 0] / 2
        thin = [c for c in part.checks if "wall" in c.sentence]
        assert bool(thin) == bool(len(walls))
        if thin:
            assert thin[0].is_ok == (walls.min() >= 1.5 - 0.011)
        assert len({row.key for row in part.rows if row.key}) == sum(bool(row.key) for row in part.rows)
        keys = [row[0] for row in built_route(part, None, Workshop())]
        assert len(set(keys)) == len(keys)
    assert tried > 300
    assert not unnamed


def test_what_comes_on_from_neither_end_is_what_stands_between_two_larger():
    rng = random.Random(9)
    for _ in range(200):
        dias = [rng.randint(10, 40) for _ in range(rng.randint(1, 6))]
        lines = "\n".join(f"seat {d} h6 x 10" for d in dias)
        caught = [
            i
            for i, d in enumerate(dias)
            if max(dias[:i], default=0) > d and max(dias[i + 1 :], default=0) > d
        ]
        said = [c for c in made(lines).checks if c.sentence.startswith("No ring comes onto")]
        assert len(said) == len(caught), dias


@pytest.mark.parametrize("system", UnitSystem)
def test_a_list_is_written_again_as_it_was_read(system):
    rng = random.Random(3)
    for _ in range(100):
        items = parse_list(random_list(rng), METRIC)
        again = parse_list(write_list(items, system), system)
        for one, other in zip(items, again, strict=True):
            assert (one.kind, one.fit, one.name, one.count) == (
                other.kind,
                other.fit,
                other.name,
                other.count,
            )
            assert other.size_mm == pytest.approx(one.size_mm, abs=0.002)
            assert other.long_mm == pytest.approx(one.long_mm, abs=0.002)
            assert other.at_mm == pytest.approx(one.at_mm, abs=0.002) if one.at_mm else True


def test_inches_and_fractions_are_read_and_the_key_is_the_seat_s_own():
    part = made("seat 3/4 h6 x 1-1/8; keyway; thread 1/2-13 x .75", INCH)
    assert part.length_mm == pytest.approx((1.125 + 0.75) * 25.4)
    keyway = next(f for f in part.features if f.kind == "keyway")
    assert keyway.width_mm == pytest.approx(3 / 16 * 25.4, abs=0.01)  # ASME B17.1: 3/16 on 3/4
    assert part.sections[-1].label == "1/2-13 Unified"


@pytest.mark.parametrize(
    ("lines", "given", "would"),
    [
        ("keyway 6 x 20", "line 1, “keyway 6 x 20”", "below the section"),
        ("wheel 20 x 5", "line 1, “wheel 20 x 5”", "a line begins with plain, shoulder"),
        ("seat 20 h6", "line 1, “seat 20 h6”", "seat 22 h6 x 30"),
        ("seat 20 h6 x wide", "line 1", "seat 22 h6 x 30"),
        ("seat 20 q6 x 10", "line 1", ""),
        ("seat 20 h6 x 30; keyway 6 x 40", "line 2, keyway 40 mm long", "its section is 30 mm long"),
        ("seat 20 h6 x 30; keyway 6 x 10 at 25", "line 2, keyway 10 mm long", "must lie inside"),
        ("seat 20 h6 x 30; square 22", "line 2, square 22 mm", "at most 18 mm"),
        ("seat 20 h6 x 30; pin 5 at 40", "line 2, pin 5 mm", "must lie inside"),
        ("plain 20 x 30; bore 20", "line 2, bore 20 mm", "no wall is left"),
        ("plain 30 x 30; pocket 20 x 40", "line 2, pocket 40 mm deep", "the part is 30 mm long"),
        ("plain 40 x 5; bore 20; holes 3 x 5 on 24", "line 3, holes on 24 mm", "from 27 mm to 33 mm"),
        ("plain 20 x 30; spline 7", "line 2, spline 7", "the table has"),
        ("plain 20 x 30; thread wild x 5", "line 2", ""),
        ("", "“”", "begin with a section"),
    ],
)  # fmt: skip
def test_a_line_that_will_not_do_is_named_with_what_would(lines, given, would):
    with pytest.raises(InputError) as refused:
        made(lines)
    assert given in str(refused.value)
    assert would in str(refused.value)


@pytest.mark.parametrize(
    ("lines", "said"),
    [
        ("thread M24 x 20; plain 20 x 30", "M24 × 3 is larger than the 20 mm beside it"),
        ("plain 30 x 10; thread M16 x 20; plain 25 x 10", "No nut comes onto M16 × 2"),
        ("seat 25 h6 x 40; keyway 8 x 20 at 2; pin 5 at 15", "lie on one another"),
        ("plain 20 x 30; bore 18", "A wall of 1 mm springs"),
    ],
)
def test_what_would_spoil_the_job_is_a_red_check(lines, said):
    assert any(said in c.sentence and not c.is_ok for c in made(lines).checks), [
        c.sentence for c in made(lines).checks
    ]


def test_a_dial_bushing_has_its_pockets_from_either_end_and_its_thread_outside():
    part = made("shoulder 40 x 6; holes 3 x 4 on 32; seat 30 h6 x 8; thread M24x1.5 x 14; "
                "bore 10 H7; pocket 16 H7 x 8; inside M14x1.5 x 5")  # fmt: skip
    assert [round(s.length_mm) for s in part.inner] == [5, 15, 8]
    assert [round(s.diameter_mm) for s in part.inner] == [12, 10, 16]
    assert len(part.holes) == 3
    assert {r.label for r in part.rows} >= {"Bore", "Pocket from the right", "M14 × 1.5, bored for it"}


@pytest.mark.parametrize(
    ("metal", "kg_dm3"), [("carbon", 7.85), ("brass", 8.5), ("bronze", 8.9), ("iron", 7.2)]
)
def test_its_weight_is_of_its_own_metal(metal, kg_dm3):
    part = made("seat 60 x 100; bore 20", material=metal)
    kg = np.pi / 4 * (6.0**2 - 2.0**2) * 10.0 * kg_dm3 / 1000
    row = next(r for r in part.rows if r.label.startswith("Weight"))
    assert row.value == f"{kg:.2f} kg"


@pytest.mark.parametrize("bore", ["", "; bore 15"])
def test_a_groove_outside_is_drawn_to_its_ground_and_no_edge_runs_through_the_cut_half(bore):
    page, scale = laid_out(made(f"seat 30 x 20; seat 40 x 10; groove 3 deep 1.5 at 4{bore}"), METRIC, Title())
    outlines = [line.points for line in page.lines if line.layer == "OUTLINE"]
    top = next(points for points in outlines if len(points) > 7)
    axis, low = top[0][1], max(y for _, y in top) - 1.5 * scale
    ground = [x for x, y in top if y == pytest.approx(low)]
    assert len(ground) == 2
    assert ground[1] - ground[0] == pytest.approx(3 * scale)
    edges = [p for p in outlines if len(p) == 2 and p[0][0] == p[1][0] and p[0][1] < axis < p[1][1] + 1e-6]
    assert all((p[1][1] <= axis + 1e-6) == bool(bore) for p in edges)
    assert len(edges) >= 3
