"""Figures of the work, their budgets and the choice of repairs against worked rows: 19_*.csv."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest

from tests.reference import misses, rows
from trebb.core.condition import ErrorModel, Estimate, Source
from trebb.core.errors import InputError
from trebb.core.families.bed import makes as bed_makes
from trebb.core.families.bed.subject import Bed, bed_model
from trebb.core.families.screw_drive import makes as screw_makes
from trebb.core.families.screw_drive.facts import usual_drive
from trebb.core.families.screw_drive.subject import drive_model
from trebb.core.families.spindle import makes as spindle_makes
from trebb.core.families.spindle.subject import USUAL, Spindle, spindle_model
from trebb.core.families.tram import makes as tram_makes
from trebb.core.families.tram.subject import Tram, tram_model
from trebb.core.register import FAMILIES
from trebb.core.work import Option, Piece, WorkRow, cheapest, joined_options, made_of, surest
from trebb.core.work.give import cutting_force_n, larger_mm, softness_um_n
from trebb.core.work.made import profile
from trebb.core.work.shares import shared_tolerance

BUDGET, TURNED, MILLED = "19_work_budget.csv", "19_work_turned.csv", "19_work_milled.csv"
CHOICE, TASKS = "19_work_choice_expected.csv", "19_work_choice_tasks.csv"


def numbers(text):
    return [float(x) for x in text.split(";")]


def as_known(model, values, sds=None, shared=""):
    """An estimate of these sources, with what their doubts share."""
    mean = np.array([values.get(s.key, 0.0) for s in model.sources])
    sd = np.array([(sds or {}).get(s.key, 0.0) for s in model.sources])
    cov = np.diag(sd**2)
    for term in filter(None, shared.split(";")):
        pair, rho = term.split(":")
        i, k = (model.position(name) for name in pair.split("+"))
        cov[i, k] = cov[k, i] = float(rho) * sd[i] * sd[k]
    return Estimate(model, mean, cov, {}, 0)


def budget_row(row):
    names = row["sources"].split(";")
    model = ErrorModel(tuple(Source(n, n, 0.0, 1.0) for n in names))
    values = dict(zip(names, numbers(row["values"]), strict=True)) if row["values"] else {}
    sds = dict(zip(names, numbers(row["sds"]), strict=True)) if row["sds"] else {}
    if row["shapes"]:
        shapes = [numbers(s) for s in row["shapes"].split(" / ")]
        places = tuple(dict(zip(names, at, strict=True)) for at in zip(*shapes, strict=True))
    else:
        places = (dict(zip(names, numbers(row["coefficients"]), strict=True)),)
    work = WorkRow("dia", places, {n: n for n in names}, {})
    now = as_known(model, values, sds, row["correlation"])
    return work, now, made_of(work, now, float(row["tolerance_mm"] or 1.0))


def share(row):
    made = budget_row(row)[2]
    return next(s.mm for s in made.budget if s.cause == row["source"]) / made.value.value


@pytest.mark.parametrize(
    ("quantity", "compute"),
    [
        ("systematic", lambda r: budget_row(r)[2].value.value),
        ("unknown_sd", lambda r: budget_row(r)[2].value.sd),
        ("share_of_systematic", share),
        ("inside_tolerance_chance", lambda r: budget_row(r)[2].chance),
        ("worst_of_profile", lambda r: budget_row(r)[2].value.value),
        ("share_of_profile", share),
        ("station_of_most", lambda r: numbers(r["stations"])[int(np.argmax(profile(*budget_row(r)[:2])))]),
    ],
)
def test_budgets(quantity, compute):
    assert misses(BUDGET, quantity, compute) == []


def turned(row, **sources):
    """The diameter of the far end less that of the near one, from the sources that are named."""
    stations = numbers(row["stations_mm"]) if row["stations_mm"] else [0.0, 200.0, 400.0, 600.0, 800.0]
    bed = Bed(
        base_mm=stations[1],
        steps=len(stations) - 1,
        gauge_mm=float(row["gauge_mm"] or 180.0),
        centre_mm=float(row["centre_mm"] or 190.0),
        nose_mm=float(row["nose_mm"] or 60.0),
        centres_mm=float(row["centres_mm"] or 500.0),
    )
    z1, z2 = float(row["z1_mm"]), float(row["z2_mm"])
    of = bed.work(z1, z2, between_centres=row["held"] == "between_centres")
    now = as_known(bed_model(bed), sources)
    return sum(c * float(now.mean[now.model.position(k)]) for k, c in of.items())


def worn(row):
    found = {}
    for way in ("front", "rear"):
        found.update({f"{way}.{k}": w for k, w in enumerate(numbers(row[f"wear_{way}_mm"]))})
    return found


def face(row):
    piece = Piece("p", "", "chuck", 2 * float(row["face_radius_mm"]), 20.0, 0.0, {"face": 0.01})
    (made,) = [r for r in bed_makes.rows(Bed(), piece) if r.figure == "face"]
    known = as_known(
        bed_model(Bed()), {"cross": float(row["cross_mrad"]), "yaw": float(row["yaw_mrad"] or 0)}
    )
    return made_of(made, known, 0.01).value.value


@pytest.mark.parametrize(
    ("quantity", "compute"),
    [
        ("dia_from_yaw", lambda r: turned(r, yaw=float(r["yaw_mrad"]))),
        ("dia_from_tail_side", lambda r: turned(r, tail_side=float(r["tail_side_mm"]))),
        ("dia_from_wear", lambda r: turned(r, **worn(r))),
        ("face_hollow", face),
    ],
)
def test_turned(quantity, compute):
    assert misses(TURNED, quantity, compute) == []


@pytest.mark.parametrize("quantity", ["taper_on_dia", "profile_range"])
def test_a_worn_bed_s_work_is_that_of_a_tool_carried_along_it_in_space(quantity):
    """The expected values are worked out in space; first order is as near as the tolerance of a tenth."""
    (row,) = [r for r in rows(TURNED, quantity) if r["case"] == "C2_worn_front"]
    z1, z2 = float(row["z1_mm"]), float(row["z2_mm"])
    at = [z1 + (z2 - z1) * i / 40 for i in range(41)]
    along = [turned({**row, "z1_mm": z1, "z2_mm": z}, yaw=float(row["yaw_mrad"]), **worn(row)) for z in at]
    got = along[-1] if quantity == "taper_on_dia" else max(along) - min(along)
    assert got == pytest.approx(float(row["expected"]), abs=1e-4)


def test_lobes_are_summed_as_a_curve_and_a_chuck_off_centre_leaves_the_work_round():
    """Two lobes of 2 µm and three of 1 µm: the curve's range by hand, 2 cos 2θ + cos 3θ over a turn. A chuck
    off by 20 µm, leaning 10 in 100 mm, 75 mm out: it shows when the piece is held anew, 2 (20 + 7.5 + 2.5).
    """
    piece = Piece("p", "", "chuck", 25.0, 75.0, 0.0, {"round": 0.01, "seat": 0.1})
    spindle = Spindle()
    found = {r.figure: r for r in spindle_makes.rows(spindle, piece)}
    model = spindle_model(spindle)
    known = as_known(model, {"lobe2.x": 0.002, "lobe3.x": 0.001, "chuck.x": 0.020, "chuck_lean.x": 0.010})
    curve = [2 * math.cos(2 * t) + math.cos(3 * t) for t in np.linspace(0, 2 * math.pi, 3601)]
    made = made_of(found["round"], known, 0.01)
    assert made.value.value == pytest.approx((max(curve) - min(curve)) / 1000, rel=2e-3)
    assert made_of(found["seat"], known, 0.1).value.value == pytest.approx(0.060)
    off = as_known(model, {"chuck.x": 0.5})
    assert made_of(found["round"], off, 0.01).value.value == 0
    assert spindle_makes.rows(USUAL["mill"], piece) == ()


def milled(row, figure, kind, dia, length, high=10.0):
    piece = Piece("p", "", kind, dia, length, high, {figure: 1.0})
    (made,) = [r for r in tram_makes.rows(Tram(), piece) if r.figure == figure]
    names = ("tilt_x", "tilt_y", "travel_x", "travel_y")
    values = {n: float(row[f"{n}_mrad"] or 0.0) for n in names}
    if row["feed_axis"] == "y":  # fed to the back: across and along change places
        values["tilt_x"], values["tilt_y"] = values["tilt_y"], values["tilt_x"]
    return made_of(made, as_known(tram_model(Tram()), values), 1.0).value.value


def cut(row):
    return float(row["cutter_dia_mm"]), float(row["width_mm"])


@pytest.mark.parametrize(
    ("quantity", "compute"),
    [
        ("bored_out_of_square", lambda r: milled(r, "hole", "bored", 30.0, float(r["depth_mm"]))),
        ("drilled_out_of_square", lambda r: milled(r, "hole", "drilled", 10.0, float(r["depth_mm"]))),
    ],
)
def test_milled(quantity, compute):
    assert misses(MILLED, quantity, compute) == []


def test_a_pass_is_hollow_by_the_sagitta_of_its_cutter():
    centred = [r for r in rows(MILLED, "hollow_of_one_pass") if not float(r["offset_mm"])]
    assert centred
    for row in centred:
        assert abs(milled(row, "hollow", "milled", *cut(row))) == pytest.approx(
            float(row["expected"]), abs=1e-6
        )


def test_a_cut_s_slope_and_its_side_wall_lean_with_the_head_across_the_feed():
    for row in rows(MILLED, "slope_across"):
        if row["feed_axis"] == "x":  # mrad over the whole width is mm a metre
            got = milled(row, "parallel", "milled", float(row["cutter_dia_mm"]), float(row["width_mm"]))
            assert got == pytest.approx(float(row["expected"]) * float(row["width_mm"]) / 1000)
    for row in rows(MILLED, "side_out_of_square"):
        if row["feed_axis"] == "x":
            got = milled(row, "side", "milled", 100.0, 10.0, float(row["side_height_mm"]))
            assert abs(got) == pytest.approx(abs(float(row["expected"])), abs=2e-6)


def test_a_thread_comes_out_long_by_what_its_screw_is():
    drive = usual_drive("lathe", "lead_screw")
    piece = Piece("t", "", "thread", 20.0, 300.0, 0.0, {"lead": 0.05})
    (row,) = screw_makes.rows(drive, piece)
    lead = drive.thread.lead_mm
    model = ErrorModel((Source("lead", "lead", lead, 0.1),))
    made = made_of(row, as_known(model, {"lead": lead * 1.0002}, {"lead": lead * 1e-5}), 0.05)
    assert made.value.value == pytest.approx(0.06)
    assert made.value.sd == pytest.approx(0.003)
    assert (made.value.low, made.value.high) == pytest.approx(
        (0.06 - 1.96 * 0.003, 0.06 + 1.96 * 0.003), abs=1e-5
    )
    assert screw_makes.rows(usual_drive("lathe", "cross_slide"), piece) == ()
    apart = Piece("t", "", "spaced", 8.0, 120.0, 0.0, {"place": 0.05})
    table = usual_drive("mill", "table_screw")
    row, _ = screw_makes.rows(table, apart)
    long = as_known(model, {"lead": table.thread.lead_mm * 1.0005})
    assert made_of(row, long, 0.05).value.value == pytest.approx(0.06)
    assert screw_makes.rows(usual_drive("mill", "knee_screw"), apart) == ()


# choosing ------------------------------------------------------------------------------------


class Task:
    """A case of the table: sources, figures, remedies; every set that may stand, with what it leaves."""

    def __init__(self, name):
        found = [r for r in rows(TASKS) if r["case"] == name]
        self.means = {
            r["quantity"]: float(r["expected"]) for r in found if r["quantity"] in ("money", "hours")
        }
        self.sources = {r["source"]: float(r["expected"]) for r in found if r["quantity"] == "source_size"}
        self.figures = [
            (r["figure"], r["combined"], pairs(r["of"]), float(r["expected"]))
            for r in found
            if r["quantity"] == "limit"
        ]
        self.remedies = [
            (
                r["remedy"],
                pairs(r["reduces"]),
                float(r["expected"]),
                float(r["hours"]),
                set(r["excludes"].split()),
            )
            for r in found
            if r["quantity"] == "cost"
        ]

    def options(self):
        apart = {(a[0], b) for a in self.remedies for b in a[4]}
        for n in range(len(self.remedies) + 1):
            for several in itertools.combinations(self.remedies, n):
                names = [r[0] for r in several]
                if any((a, b) in apart for a in names for b in names):
                    continue
                left = dict(self.sources)
                for _, factors, *_ in several:
                    for key, factor in factors.items():
                        left[key] *= factor
                ratios = {name: combined(how, of, left) / limit for name, how, of, limit in self.figures}
                yield Option(
                    sum(r[2] for r in several),
                    sum(r[3] for r in several),
                    {k: float(v <= 1 + 1e-9) for k, v in ratios.items()},
                    ratios,
                    {name: name for name in names},
                )


def pairs(text):
    return {k: float(v) for k, v in (term.split(":") for term in text.split())}


def combined(how, of, left):
    terms = [c * left[k] for k, c in of.items()]
    return {"sum": abs(sum(terms)), "worst": sum(map(abs, terms)), "rss": math.hypot(*terms)}[how]


def expected(case, quantity):
    return next((r["expected"] for r in rows(CHOICE, quantity) if r["case"] == case), None)


CASES = sorted({r["case"] for r in rows(CHOICE)})


@pytest.mark.parametrize("case", CASES)
def test_the_cheapest_set_is_that_of_trying_all(case):
    task = Task(case)
    options = list(task.options())
    assert len(options) == int(expected(case, "sets_allowed"))
    within = [o for o in options if o.money <= task.means["money"] and o.hours <= task.means["hours"]]
    assert len(within) == int(expected(case, "sets_within_means"))
    # What no other beats holds the cheapest, the quickest and the most accurate of all of them.
    kept = joined_options([options]).options
    able = [o for o in kept if o.money <= task.means["money"] and o.hours <= task.means["hours"]]
    best = cheapest(able, lambda o: o.worst <= 1 + 1e-9)
    if expected(case, "cheapest_set") in (None, "none"):
        assert best is None
        least = surest(kept, task.means["money"], task.means["hours"])
        assert least.worst == pytest.approx(float(expected(case, "least_worst_ratio")), abs=1e-7)
        return
    assert best.money == pytest.approx(float(expected(case, "cheapest_cost")))
    assert best.hours == pytest.approx(float(expected(case, "cheapest_hours")))
    assert set(best.remedies) == set(expected(case, "cheapest_set").split(";"))


def test_each_row_names_sources_and_set_ups_that_there_are():
    from trebb.core.survey import all_set_ups

    known = {s.key for s in all_set_ups()}
    for made, model, piece in (
        (bed_makes, bed_model(Bed()), Piece("p", "", "chuck", 50.0, 100.0, 0.0, {})),
        (bed_makes, bed_model(Bed()), Piece("p", "", "centres", 50.0, 300.0, 0.0, {})),
        (tram_makes, tram_model(Tram()), Piece("p", "", "milled", 50.0, 40.0, 10.0, {})),
        (tram_makes, tram_model(Tram()), Piece("p", "", "bored", 50.0, 40.0, 10.0, {})),
    ):
        subject = Bed() if made is bed_makes else Tram()
        found = made.rows(subject, piece)
        assert found
        for row in found:
            for key in {k for place in row.places for k in place}:
                assert model.position(key) >= 0
                assert row.reads[row.causes[key.split(".")[0]]] in known
    assert [key for key, record in FAMILIES.items() if record.work] == [
        "screw_drive",
        "spindle",
        "ways",
        "tram",
    ]


def test_work_that_cannot_be_is_refused_with_what_would_do():
    with pytest.raises(InputError, match="from the jaws"):
        bed_makes.rows(Bed(), Piece("p", "", "chuck", 50.0, 5000.0, 0.0, {}))
    with pytest.raises(InputError, match="one pass is no wider"):
        tram_makes.rows(Tram(), Piece("p", "", "milled", 20.0, 50.0, 10.0, {}))


def shared(row):
    names = row["sources"].split(";")
    present = dict(zip(names, row["present"].split(";"), strict=True)) if row["present"] else {}
    power = float(row["power"])
    costs = dict(zip(names, numbers(row["costs"]), strict=True))
    now = {n: float(v) for n, v in present.items() if v}
    found = shared_tolerance(
        float(row["tolerance_mm"]),
        dict(zip(names, numbers(row["coefficients"]), strict=True)),
        costs,
        now,
        power=power,
        squares=row["rule"] == "squares",
    )
    cost = sum(costs[n] / t**power for n, t in found.items()) - sum(
        costs[n] / v**power for n, v in now.items()
    )
    return found, cost


@pytest.mark.parametrize(
    ("quantity", "compute"),
    [
        ("tolerance_to_source", lambda r: shared(r)[0][r["source"]]),
        ("least_cost", lambda r: shared(r)[1]),
    ],
)
def test_a_tolerance_is_shared_by_what_it_costs(quantity, compute):
    assert misses(BUDGET, quantity, compute) == []


def test_a_share_is_never_below_what_a_remedy_leaves():
    found = shared_tolerance(0.1, {"a": 1.0, "b": 1.0}, {"a": 1.0, "b": 1.0}, {}, least={"a": 0.08})
    assert found["a"] == pytest.approx(0.08)
    assert found["b"] == pytest.approx(0.02)
    free = shared_tolerance(0.1, {"a": 1.0, "b": 1.0}, {"a": 1.0, "b": 1.0}, {"a": 0.01, "b": 0.02})
    assert free == {"a": 0.01, "b": 0.02}  # all may stay as they are


def given(row):
    """Larger at the last cut, relieved by what gives."""
    held = "centres" if row["held"] == "between_centres" else row["held"]
    stiff = {k: float(row[f"k_{k}_N_um"]) for k in ("tool", "head", "tail") if row[f"k_{k}_N_um"]}
    bar = 1000 * float(row["E_GPa"]) * math.pi * float(row["dia_mm"]) ** 4 / 64
    soft = softness_um_n(float(row["at_mm"]), float(row["length_mm"]), bar, held=held, **stiff)
    kc, depth, feed = (float(row[k]) for k in ("kc_MPa", "depth_mm", "feed_mm"))
    return larger_mm(float(row["radial_share"]) * cutting_force_n(kc, 1.0, feed), depth, soft)


def test_what_gives_under_the_cut_is_as_the_beams_say():
    forces = rows(TURNED, "cutting_force")
    assert len(forces) == 3
    for row in forces:
        kc, depth, feed = (float(row[k]) for k in ("kc_MPa", "depth_mm", "feed_mm"))
        assert cutting_force_n(kc, depth, feed) == pytest.approx(float(row["expected"]))
    held = [r for r in rows(TURNED, "dia_larger_relieved") if r["held"] in ("chuck", "between_centres")]
    assert len(held) == 2
    for row in held:
        assert given(row) == pytest.approx(float(row["expected"]), abs=float(row["tolerance"]))


def test_a_stated_cut_is_in_the_figure_the_budget_and_the_doubt():
    """Free-cutting steel 20 mm, 100 mm out, 0.5 deep at 0.1: some 20 µm at its end, by hand 2 F z³/3EI."""
    piece = Piece("p", "", "chuck", 20.0, 100.0, 0.0, {"dia": 0.01, "taper": 0.01})
    cut = Piece("p", "", "chuck", 20.0, 100.0, 0.0, {"dia": 0.01, "taper": 0.01}, "free_cutting", 0.5, 0.1)
    known = as_known(bed_model(Bed()), {"yaw": 0.05})
    for i in (0, 1):
        still, gives = (made_of(bed_makes.rows(Bed(), p)[i], known, 0.01) for p in (piece, cut))
        more = gives.value.value - still.value.value
        force = 0.4 * 2000 * 0.5 * 0.1
        by_hand = 2 * force * 100**3 / (3 * 207_000 * math.pi * 20**4 / 64)
        assert more == pytest.approx(by_hand, rel=0.05)
        assert sum(s.mm for s in gives.budget) == pytest.approx(gives.value.value)
        assert gives.value.sd == pytest.approx(0.4 * more, rel=1e-3)


def test_a_dial_turned_back_is_off_by_its_lash_on_diameter_twice():
    piece = Piece("p", "", "chuck", 25.0, 40.0, 0.0, {"back": 0.05})
    drive = usual_drive("lathe", "cross_slide")
    (row,) = [r for r in screw_makes.rows(drive, piece) if r.figure == "back"]
    model = drive_model(drive)
    backed = [
        r for r in rows(TURNED, "dia_error_from_lash") if r["approach"] == "out" and r["thrust_N"] == "0"
    ]
    assert len(backed) == 2
    for one in backed:
        known = as_known(model, {"nut": float(one["lash_mm"])})
        assert made_of(row, known, 0.05).value.value == pytest.approx(float(one["expected"]), abs=1e-9)
    assert not screw_makes.rows(usual_drive("lathe", "compound"), piece)
