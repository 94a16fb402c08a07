"""Which way: machines leant over in space, indicators put where the set-ups say, and what Trebb then says.

One fault is planted at a time; what the indicators show is worked out by `rigid`,
typed as a shop would, and the sentence and the picture's figure must name the
side that was planted. A repair that is advised is made in space and read again.
"""

from __future__ import annotations

import re

import numpy as np
import pytest

from tests.independent.heads import SIDES, Head
from tests.independent.job import TypedJob
from tests.independent.rigid import (
    BACK,
    DOWN,
    FRONT,
    LEFT,
    RIGHT,
    UP,
    Cylinder,
    Vector,
    leaning,
    read,
    turned,
)
from trebb.core.units import UnitSystem

LEAN = 0.0006  # 0.18 mm in 300
NOSE, NEAR, FAR, CENTRES = 60.0, 25.0, 275.0, 700.0
HIGH, CENTRE, GAUGE, ALONG, ACROSS = 620.0, 190.0, 180.0, 1100.0, 320.0
BASE, LENGTH = 152.4, 8 * 152.4


def said(job: TypedJob, assembly: str, key: str) -> str:
    """The sentence and the next move of a finding."""
    (found,) = [f for f in job.of(assembly).findings(UnitSystem.METRIC) if f.key == key]
    return f"{found.sentence} {found.next_move}"


# a head over its table ------------------------------------------------------------------------


@pytest.mark.parametrize("kind", ["mill", "drill"])
@pytest.mark.parametrize("to", SIDES)
def test_a_head_leans_the_way_it_was_leant(kind, to):
    head = Head(kind)
    head.spindle = leaning(SIDES[to], LEAN)
    job = head.swept(TypedJob(kind))
    key = "tram_x" if to in ("left", "right") else "tram_y"
    assert f"to the {to} by" in said(job, head.assembly, key)


@pytest.mark.parametrize("to", ["front", "back"])
def test_a_table_run_out_drops_where_it_was_dropped(to):
    head = Head("mill")
    head.run_out = leaning(SIDES[to], LEAN)
    assert f"drops to the {to} by" in said(head.swept(TypedJob("mill")), "head", "run_out")


@pytest.mark.parametrize("kind", ["mill", "drill"])
@pytest.mark.parametrize("to", SIDES)
def test_travel_leans_the_way_it_was_leant(kind, to):
    head = Head(kind)
    head.travel = leaning(SIDES[to], LEAN)
    job = head.squared(TypedJob(kind))
    key = "square_x" if to in ("left", "right") else "square_y"
    assert f"leans to the {to} by" in said(job, head.assembly, key)


@pytest.mark.parametrize("to", SIDES)
def test_a_column_leans_the_way_it_was_leant(to):
    head = Head("drill")
    head.column = leaning(SIDES[to], LEAN)
    job = head.by_square(TypedJob("drill"))
    key = "column_x" if to in ("left", "right") else "column_y"
    assert f"leans to the {to} by" in said(job, head.assembly, key)


@pytest.mark.parametrize("to", SIDES)
def test_the_wedge_under_a_table_brings_it_square(to):
    head = Head("drill")
    head.spindle = leaning(SIDES[to], LEAN)
    case = head.swept(TypedJob("drill")).of("table")
    thin, thick = case.part("table_shim").rows[:2]
    side, rise = SIDES[re.search(r"toward the (\w+)", thick.note).group(1)], thick.value - thin.value
    head.table = turned(np.cross(side, UP), rise / 180.0)  # lifted on that side
    again = head.swept(TypedJob("drill")).of("table")
    assert max(m.value.value for m in again.figures if m.key.startswith("tram")) < 0.01 < 300 * LEAN


# a lathe --------------------------------------------------------------------------------------


class Lathe:
    """Bed, carriage, spindle and tailstock in space. `rolled` is how the far end of the bed rolls to the
    front, rad; `worn` what each way has lost at the far end, growing evenly toward it; the carriage follows
    the ways.
    """

    def __init__(self) -> None:
        self.spindle, self.slide, self.quill = np.eye(3), np.eye(3), np.eye(3)
        self.rolled, self.worn, self.tail = 0.0, {"front": 0.0, "rear": 0.0}, np.zeros(3)

    def way(self, way: str, x: float) -> Vector:
        """The middle of a way at x."""
        out = -GAUGE / 2 if way == "front" else GAUGE / 2
        unworn = np.array([0, out, HIGH - CENTRE])
        sunk = self.worn[way] * x / LENGTH * DOWN
        return np.array([x, 0, 0]) + turned(RIGHT, self.rolled * x / ALONG) @ (unworn + sunk)

    def carried(self, x: float, at: Vector) -> Vector:
        """A point that the carriage carries: `at` from the line of centres above it."""
        front, rear = self.way("front", x), self.way("rear", x)
        across = (rear - front) / np.linalg.norm(rear - front)
        return (
            (front + rear) / 2 + at[1] * across + (CENTRE + at[2]) * np.cross(RIGHT, across) + at[0] * RIGHT
        )

    def axis(self, radius: float = 20.0) -> Cylinder:
        """What turns with the spindle, from the nose at centre height."""
        return Cylinder(np.array([NOSE, 0, HIGH]), self.spindle @ RIGHT, radius)

    def between(self, radius: float = 20.0, *, add: Vector = 0.0 * RIGHT) -> Cylinder:
        """A bar from the spindle's centre to the tailstock's."""
        a = np.array([NOSE, 0, HIGH])
        return Cylinder(a, CENTRES * RIGHT + self.tail + add, radius)

    def bar(self, bar: Cylinder, x: float, side: str) -> float:
        """The carriage's indicator at x on a bar's front or top."""
        out = FRONT if side == "front" else UP
        return read(bar, self.carried(x, 40.0 * out), -out, 20)

    def levelled(self, job: TypedJob) -> TypedJob:
        """A level across the ways, + where the rear is high; ways without a ridge unless they are worn."""
        for k in range(9):
            front, rear = (self.way(way, k * BASE) for way in ("front", "rear"))
            slope = 1000 * (rear[2] - front[2]) / (rear[1] - front[1])
            job.read("ways", "level_across", f"across, station {k}", *[slope] * 4, unit="mm/m")
            for way in self.worn:
                job.read("ways", "ridge", f"{way} way, station {k}", self.worn[way] * k * BASE / LENGTH)
                if k:
                    rise = self.way(way, k * BASE)[2] - self.way(way, (k - 1) * BASE)[2]
                    job.read(
                        "ways", "level_along", f"{way} way, step {k}", *[1000 * rise / BASE] * 4, unit="mm/m"
                    )
        return job

    def turned(self, job: TypedJob) -> TypedJob:
        """A stub in the chuck turned on two lands, on its diameter, by a tool at the front."""
        for land, z in (("near", NEAR), ("far", FAR)):
            size = 2 * self.axis().off_axis(self.carried(NOSE + z, 15.0 * FRONT)) - 2 * 15.0 + 50.0
            job.read("headstock", "two_collar", f"cut, {land} land", *[size] * 4)
        return job

    def faced(self, job: TypedJob) -> TypedJob:
        """A disc faced along the cross slide's path, then an indicator in the tool's place run past it."""
        path, axis, rim = self.slide @ BACK, self.spindle @ RIGHT, 100.0
        went = [t * path for t in np.linspace(0, rim, 201)]  # the tool, from the rim to the middle
        middle = rim * path
        cut = sorted(
            (np.linalg.norm(p - middle - ((p - middle) @ axis) * axis), (p - middle) @ axis) for p in went
        )
        radii, heights = np.array(cut).T
        far = 2 * rim * path
        here = np.linalg.norm(far - middle - ((far - middle) @ axis) * axis)
        value = float(np.interp(here, radii, heights)) - float((far - middle) @ axis)
        job.read("headstock", "facing", "rim past the centre", *[value] * 4)
        return job

    def swept(self, job: TypedJob) -> TypedJob:
        """The carriage's indicator along a bar in the spindle, whose seat comes back; the ways straight."""
        for seat, mark in ((1, 0), (2, 0), (3, 180)):
            for plane in ("near", "far"):
                for degrees in range(0, 360, 45):
                    job.read("spindle", "test_bar", f"seat {seat} at {mark}°, {plane}, {degrees}°", 0.0)
        self.levelled(job)
        for side in ("top", "front"):
            for angle in (0, 180):
                for end, x in (("near", NOSE + NEAR), ("far", NOSE + NEAR + 250.0)):
                    value = self.bar(self.axis(), x, side)
                    job.read("headstock", "bar_sweep", f"{side}, bar at {angle}°, {end}", *[value] * 2)
        return job

    def centred(self, job: TypedJob, *, loose: Vector = 0.0 * RIGHT) -> TypedJob:
        """A bar between centres, zeroed at the headstock's end, read at the other: loose, then tight."""
        for state in ("loose", "tight 1", "tight 2", "tight 3"):
            bar = self.between(add=loose if state == "loose" else 0.0 * RIGHT)
            for side in ("front", "top"):
                value = self.bar(bar, NOSE + CENTRES, side) - self.bar(bar, NOSE, side)
                job.read("tailstock", "centres", f"{state}, {side}", *[value] * 2)
        return job

    def long_turned(self, job: TypedJob) -> TypedJob:
        """A piece turned between centres."""
        for land, x in (("near", 0.0), ("far", CENTRES)):
            size = 2 * self.between().off_axis(self.carried(NOSE + x, 15.0 * FRONT)) - 2 * 15.0 + 32.0
            job.read("tailstock", "long_piece", f"long piece, {land} land", *[size] * 4)
        return job


def yawed(to: str, angle: float = 0.0002) -> np.ndarray:
    """What points along the bed, swung to the front or the back."""
    return turned(UP, angle if to == "back" else -angle)


@pytest.mark.parametrize(("to", "end", "put"), [("back", "far", "front"), ("front", "near", "rear")])
def test_a_headstock_is_set_over_against_the_way_it_points(to, end, put):
    lathe = Lathe()
    lathe.spindle = yawed(to)
    text = said(lathe.turned(lathe.levelled(TypedJob())), "headstock", "taper")
    assert f"large at the {end} end" in text
    assert f"to the {put} at its nose" in text
    job = lathe.swept(TypedJob())
    assert (job.of("headstock").alone.source("yaw").value > 0) == (to == "back")


@pytest.mark.parametrize(("angle", "word"), [(-0.0002, "rises"), (0.0002, "drops")])
def test_an_axis_that_rises_is_said_to(angle, word):
    lathe = Lathe()
    lathe.spindle = turned(BACK, angle)
    assert f"axis {word} by" in said(lathe.swept(TypedJob()), "headstock", "axis_rise")


@pytest.mark.parametrize(("swung", "word"), [(0.0002, "proud"), (-0.0002, "hollow")])
@pytest.mark.parametrize("what", ["slide", "spindle"])
def test_a_face_is_hollow_or_proud_as_it_was_cut(what, swung, word):
    # A slide that goes from the headstock on its way to the middle leaves the middle standing; so does an
    # axis that points to the back.
    lathe = Lathe()
    if what == "slide":
        lathe.slide = turned(UP, -swung)
    else:
        lathe.spindle = turned(UP, swung)
    assert f"faces {word} by" in said(lathe.faced(TypedJob()), "headstock", "facing")


@pytest.mark.parametrize("rolled", [0.0006, -0.0006])
def test_the_foot_that_is_shimmed_takes_the_twist_out(rolled):
    lathe = Lathe()
    lathe.rolled = rolled
    job = lathe.turned(lathe.levelled(TypedJob()))
    text = said(job, "headstock", "taper")
    assert f"large at the {'far' if rolled > 0 else 'near'} end" in text
    mm, end, side = re.search(r"Put (\S+) mm .*?under the foot at the (\w+) end, (\w+);", text).groups()
    lifted = float(mm) / ACROSS * (1 if side == "rear" else -1) * (1 if end == "tailstock" else -1)
    lathe.rolled += lifted
    assert abs(lathe.rolled) < 0.6 * abs(rolled)


@pytest.mark.parametrize(("way", "end"), [("front", "far"), ("rear", "near")])
def test_a_worn_way_makes_the_end_large_that_it_makes(way, end):
    lathe = Lathe()
    lathe.worn[way] = 0.3
    job = lathe.turned(lathe.levelled(TypedJob()))
    assert f"large at the {end} end" in said(job, "headstock", "taper")
    assert abs(job.of("headstock").alone.source("yaw").value) < 0.02  # nothing is left for the headstock


@pytest.mark.parametrize(("by", "toward"), [(0.1 * BACK, "front"), (0.1 * FRONT, "rear")])
@pytest.mark.parametrize("how", ["centred", "long_turned"])
def test_a_tailstock_is_set_over_against_the_way_it_stands(how, by, toward):
    lathe = Lathe()
    lathe.tail = by
    job = getattr(lathe, how)(lathe.levelled(TypedJob()))
    text = said(job, "tailstock", "tail_side")
    assert f"toward the {toward}" in text
    assert f"comes out {'larger' if toward == 'front' else 'smaller'} at the tailstock's end" in text


@pytest.mark.parametrize(("by", "word"), [(0.1 * UP, "high"), (0.1 * DOWN, "low")])
def test_a_tailstock_stands_high_or_low_as_it_does(by, word):
    lathe = Lathe()
    lathe.tail = by
    assert f"stands {word} by" in said(lathe.centred(lathe.levelled(TypedJob())), "tailstock", "tail_high")


@pytest.mark.parametrize(("loose", "to"), [(0.08 * FRONT, "rear"), (0.08 * BACK, "front")])
def test_tightening_takes_a_tailstock_where_it_took_it(loose, to):
    lathe = Lathe()
    job = lathe.centred(lathe.levelled(TypedJob()), loose=loose)
    assert re.search(rf"tightening takes it .* to the {to} each time", said(job, "tailstock", "habit"))


def test_a_carriage_along_a_reference_bar_shows_the_way_its_tool_goes():
    lathe = Lathe()
    lathe.worn["front"] = 0.3
    bar = Cylinder(np.array([0, 0, HIGH]), RIGHT, 20.0)
    job = TypedJob()
    for k in range(9):
        lathe.worn["front"] = 0.3 * (1 - abs(k - 4) / 4) * LENGTH / max(k * BASE, 1.0)  # hollow half way
        job.read("ways", "reference_bar", f"side, station {k}", *[lathe.bar(bar, k * BASE, "front")] * 2)
    tool = job.of("ways").subject.tool_out(4 * BASE)
    assert job.of("ways").alone.combination(tool).value > 0  # rolled to the front, where the front way is low


@pytest.mark.parametrize(
    ("source", "by", "plus"),
    [
        ("quill_side", turned(UP, 0.002), True),
        ("quill_side", turned(UP, -0.002), False),
        ("quill_high", turned(BACK, 0.002), True),
        ("quill_high", turned(BACK, -0.002), False),
    ],
)
def test_a_quill_points_where_it_points(source, by, plus):
    # It runs out toward the headstock; + is to the rear and up. The carriage goes along with its end.
    lathe, job = Lathe(), TypedJob()
    for how, out in (("quill in", 0.0), ("quill out", 80.0)):
        quill = Cylinder(np.array([NOSE + CENTRES, 0, HIGH]), by @ LEFT, 20.0)
        for side in ("front", "top"):
            job.read(
                "tailstock", "quill", f"{side}, {how}", *[lathe.bar(quill, NOSE + CENTRES - out, side)] * 2
            )
    found = job.of("tailstock").alone.source(source).value
    back_or_up = (by @ LEFT) @ (BACK if source == "quill_side" else UP)
    assert (found > 0) == (back_or_up > 0)
    assert found == pytest.approx(1000 * back_or_up, rel=0.1)
