"""What readings can tell, against exact answers."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache

from tests.exact import (
    Said,
    amplitude_on_average,
    at_least_nothing,
    least_cost,
    mean_posterior_variance,
    out_of_round,
    part_of,
    pays_from,
    read_first,
    said_between,
    straightness_of_three,
)
from tests.independent.scores import Scored, cover_interval, cover_p_value, most_wrong
from tests.reference import Row, misses, number, rows
from trebb.core.belief.bounds import at_odds, denied
from trebb.core.belief.curve import Curve
from trebb.core.belief.deciding import Doubt, Matter, Repair, ToRead
from trebb.core.belief.extremes import largest, straightness_of_noise, too_high
from trebb.core.belief.naming import Chances, Listed, Measured, chances
from trebb.core.belief.repeats import (
    Believed,
    Scatter,
    Slips,
    believed,
    mean_variance,
    step_chances,
)

ROUNDING, REPEATS, EXTREMES = "20_rounding.csv", "20_repeats_slips.csv", "20_extremes_bounds.csv"
TASKS, DECISIONS, NAMES = "20_decisions_tasks.csv", "20_decisions_expected.csv", "20_naming_scoring.csv"


def numbers(text: str, apart: str = ";") -> list[float]:
    return [float(x) for x in text.split(apart)] if text else []


def all_miss(name: str, how: dict[str, Callable[[Row], object]]) -> list[str]:
    return [miss for quantity, compute in how.items() for miss in misses(name, quantity, compute)]


def scatter_of(text: str) -> Scatter:
    kind, _, figures = text.partition(":")
    a = numbers(figures, ",")
    if kind == "lognormal":
        return Scatter(kind, a[0], spread=a[1])
    return Scatter(kind, a[-1], a[0] if len(a) > 1 else 3.0)


def of_curve(curve: Curve, what: str) -> float:
    return {
        "mean": lambda: curve.mean,
        "sd": lambda: curve.sd,
        "lo95": lambda: curve.quantile(0.025),
        "hi95": lambda: curve.quantile(0.975),
    }[what]()


@cache
def rounded(readings: str, step: str, noise: str, prior: str) -> Believed:
    values = [float(v) for part in readings.split(";") for v, n in [part.split(":")] for _ in range(int(n))]
    scatter = scatter_of(prior) if prior else float(noise)
    return believed(values, scatter=scatter, step=float(step))


def test_readings_written_to_a_step():
    def by(row: Row) -> Believed:
        return rounded(row["readings"], row["step_mm"], row["noise_mm"], row["noise_prior"])

    def about(row: Row) -> tuple[float, float, int]:
        return number(row, "noise_over_step"), 1.0, int(row["n"])

    def step_chance(row: Row) -> float:
        places = [numbers(place, ",") for place in row["places"].split(";")]
        found = step_chances(places, number(row, "noise_mm"), numbers(row["candidates"]))
        return found[float(row["quantity"].rsplit("_", 1)[1])]

    how: dict[str, Callable[[Row], object]] = {
        what: (lambda row, what=what: of_curve(by(row).curve, what))
        for what in ("mean", "sd", "lo95", "hi95")
    }
    how |= {
        row["quantity"]: step_chance for row in rows(ROUNDING) if row["quantity"].startswith("posterior_step")
    }
    how |= {
        "noise_mean": lambda row: by(row).scatter,
        "plain_mean_variance": lambda row: mean_variance(*about(row)),
        "posterior_variance_on_average": lambda row: mean_posterior_variance(*about(row)),
        "plain_over_exact": lambda row: mean_variance(*about(row)) / mean_posterior_variance(*about(row)),
    }
    assert not all_miss(ROUNDING, how)


@cache
def repeated(readings: str, step: str, freedom: str, prior: str) -> Believed:
    return believed(
        numbers(readings), scatter=scatter_of(prior), step=float(step or 0), freedom=float(freedom)
    )


@cache
def slipped(
    readings: str, noise: str, mean: str, sd: str, turn: str, kinds: str, weights: str, lift: str
) -> Believed:
    slips = Slips(
        dict(zip(kinds.split(";"), numbers(weights), strict=True)), float(turn or 0), float(lift or 0)
    )
    prior = (float(mean), float(sd))
    return believed(numbers(readings), scatter=float(noise), prior=prior, slips=slips)


def test_repeats_with_an_odd_one_and_slips_of_the_hand():
    def by(row: Row) -> Believed:
        if row["scale_prior"]:
            return repeated(row["readings"], row["step_mm"], row["nu"], row["scale_prior"])
        keys = ("readings", "noise_mm", "prior_mm", "prior_sd_mm", "turn_mm", "kinds", "weights", "lift_mm")
        return slipped(*(row[key] for key in keys))

    how: dict[str, Callable[[Row], object]] = {
        what: (lambda row, what=what: of_curve(by(row).curve, what))
        for what in ("mean", "sd", "lo95", "hi95")
    }
    how |= {
        "p_slip": lambda row: by(row).slip(int(row["reading"]) - 1),
        "p_kind": lambda row: by(row).slips[int(row["reading"]) - 1][row["kind"]],
        "verdict": lambda row: by(row).verdict(int(row["reading"]) - 1),
    }
    assert not all_miss(REPEATS, how)


@cache
def extreme(case: str) -> Curve:
    row = next(r for r in rows(EXTREMES) if r["case"] == case)
    rest = number(row, "slab_mm"), number(row, "p_all_sound")
    if case.startswith("O"):
        return out_of_round(number(row, "amplitude_mm"), number(row, "noise_mm"), int(row["angles"]), *rest)
    of = largest if case.startswith("M") else straightness_of_three
    return of(numbers(row["readings_mm"]), number(row, "noise_mm"), *rest)


def test_the_largest_of_several_and_what_may_be_nothing():
    how: dict[str, Callable[[Row], object]] = {
        f"{of}_{what}": (lambda row, what=what: of_curve(extreme(row["case"]), what))
        for of in ("largest", "out_of_round", "straightness")
        for what in ("mean", "sd", "lo95", "hi95")
    }
    how |= {
        "p_all_sound_after": lambda row: extreme(row["case"]).spike,
        "p_round": lambda row: extreme(row["case"]).spike,
        "p_within_limit": lambda row: extreme(row["case"]).below(number(row, "limit_mm")),
        "bias_of_naive_largest": lambda row: too_high(int(row["places"])),
        "naive_amplitude_on_average": lambda row: amplitude_on_average(
            number(row, "amplitude_mm"), number(row, "noise_mm"), int(row["angles"])
        ),
        "straightness_of_noise": lambda row: straightness_of_noise(int(row["steps"])),
    }
    assert not all_miss(EXTREMES, how)


def pair(row: Row, key: str) -> tuple[float, float]:
    return float(row[f"{key}_mm"] or 0), number(row, f"{key}_sd_mm")


def test_what_one_figure_bounds_another_by_and_readings_at_odds():
    def bounded(row: Row, of: str) -> Curve:
        if not row["y_mm"]:
            return at_least_nothing(*pair(row, "x"))
        found = part_of(
            pair(row, "x"), pair(row, "y"), number(row, "correlation"), is_positive="x>=0" in row["bounds"]
        )
        return {"x": found.x, "y": found.y, "rest": found.rest or found.x}[of]

    def odds(row: Row):
        return at_odds(pair(row, "x"), pair(row, "y"), number(row, "p_slip"), number(row, "slip_mm"))

    how: dict[str, Callable[[Row], object]] = {
        f"{of}_{what}": (lambda row, of=of, what=what: of_curve(bounded(row, of), what))
        for of in ("x", "y", "rest")
        for what in ("mean", "sd", "lo95", "hi95")
    }
    how |= {
        "p_bounds_before": lambda row: (
            part_of(
                pair(row, "x"),
                pair(row, "y"),
                number(row, "correlation"),
                is_positive="x>=0" in row["bounds"],
            ).chance
        ),
        "p_value_both_right": lambda row: odds(row).p_value,
        "bayes_factor_slip": lambda row: odds(row).factor,
        "p_one_slipped": lambda row: odds(row).chance,
        "name_contradiction": lambda row: odds(row).is_named,
        "difference_to_name": lambda row: odds(row).named_from,
    }
    assert not all_miss(EXTREMES, how)


@cache
def said(case: str) -> Curve:
    row = next(r for r in rows(EXTREMES) if r["case"] == case)
    between = []
    for part in row["between_mm"].split(";"):
        low, high = part.split(",")
        ends = (float(low) if low else None, float(high) if high else None)
        between.append(Said(*ends, number(row, "between_sd_mm")))
    read = list(zip(numbers(row["x_mm"]), numbers(row["x_sd_mm"]), strict=True))
    return said_between(between, pair(row, "prior"), read, is_positive="x>=0" in row["bounds"])


def test_a_size_said_to_lie_between_two():
    assert not all_miss(
        EXTREMES,
        {
            what: (lambda row, what=what: of_curve(said(row["case"]), what))
            for what in ("mean", "sd", "lo95", "hi95")
        },
    )


@cache
def matter(case: str) -> Matter:
    given = {
        r["quantity"]: float(r["expected"]) for r in rows(TASKS) if r["case"] == case and not r["source"]
    }
    sources: dict[str, dict] = {}
    repairs: dict[str, dict] = {}
    readings: dict[str, dict] = {}
    for row in rows(TASKS):
        quantity, source, repair, value = (row[k] for k in ("quantity", "source", "remedy", "expected"))
        if row["case"] != case or quantity in ("limit", "penalty", "hour_is_worth"):
            continue
        if quantity == "factor":
            repairs.setdefault(repair, {"factors": {}})["factors"][source] = float(value)
        elif repair:
            repairs.setdefault(repair, {"factors": {}})[quantity] = float(value)
        elif quantity.startswith("read_"):
            readings.setdefault(source, {})[quantity.removeprefix("read_")] = float(value)
        else:
            several = quantity in ("values", "chances")
            sources.setdefault(source, {})[quantity] = tuple(numbers(value)) if several else float(value)
    return Matter(
        given["limit"],
        given["penalty"],
        given["hour_is_worth"],
        {key: Doubt(**one) for key, one in sources.items()},
        {key: Repair(**one) for key, one in repairs.items()},
        {key: ToRead(**one) for key, one in readings.items()},
    )


def test_which_repair_to_take_and_what_to_read_first():
    def of(row: Row) -> Matter:
        return matter(row["case"])

    def pays(row: Row) -> object:
        found = pays_from(of(row), row["source"])
        return "none" if found is None else found

    how: dict[str, Callable[[Row], object]] = {
        "p_over": lambda row: of(row).over(row["remedy"]),
        "expected_cost": lambda row: of(row).cost(row["remedy"]),
        "best_now": lambda row: of(row).best,
        "value_of_knowing": lambda row: of(row).value(row["source"]),
        "value_of_reading": lambda row: of(row).value(row["source"], of(row).readings[row["source"]].sd),
        "gain_of_reading_first": lambda row: of(row).gain(row["source"]),
        "doubt_from_which_reading_pays": pays,
        "read_first": lambda row: read_first(of(row)) or "none",
        "least_expected_cost": lambda row: least_cost(of(row)),
    }
    assert not all_miss(DECISIONS, how)


def named(row: Row) -> Chances:
    listed = []
    for one in row["listed"].split(";"):
        name, *figures = one.split("|")
        major, pitch, angle, share = (float(f) for f in figures)
        listed.append(Listed(name, {"major": major, "pitch": pitch, "angle": angle}, share))
    values = {}
    for name, unit in (("major", "mm"), ("angle", "deg")):
        if row[f"{name}_{unit}"]:
            values[name] = (number(row, f"{name}_{unit}"), number(row, f"{name}_sd_{unit}"))
    box = numbers(row["unlisted_box"])
    over = (number(row, "over_turns_mm"), number(row, "over_turns_sd_mm"))
    measured = Measured(values, over, int(row["turns"]), number(row, "p_miscount"))
    ends = {"pitch": (box[0], box[1]), "major": (box[2], box[3]), "angle": (box[4], box[5])}
    return chances(listed, measured, number(row, "p_unlisted"), ends)


def scored(row: Row) -> object:
    """A figure of how well stated intervals keep to the truth."""
    stated = Scored(numbers(row["values"]), numbers(row["sds"]), numbers(row["truths"]))
    limit = number(row, "limit_mm")
    return {
        "covered": lambda: stated.covered,
        "cover": lambda: stated.covered / len(stated.values),
        "cover_lo95": lambda: cover_interval(stated.covered, len(stated.values))[0],
        "cover_hi95": lambda: cover_interval(stated.covered, len(stated.values))[1],
        "p_value_cover_95": lambda: cover_p_value(stated.covered, len(stated.values)),
        "sharpness": lambda: stated.sharpness,
        "rms_z": lambda: stated.rms_z,
        "log_score": lambda: stated.log_score,
        "crps": lambda: stated.crps,
        "interval_score": lambda: stated.interval_score,
        "brier": lambda: stated.brier(limit),
        "sure": lambda: len(stated.sure(limit)),
        "sure_and_wrong": lambda: sum(stated.sure(limit)),
        "sure_and_wrong_hi95": lambda: most_wrong(sum(stated.sure(limit)), len(stated.sure(limit))),
    }[row["quantity"]]()


def test_scores_of_what_is_stated():
    kept = (
        "covered",
        "cover",
        "cover_lo95",
        "cover_hi95",
        "p_value_cover_95",
        "sharpness",
        "rms_z",
        "log_score",
    )
    more = ("crps", "interval_score", "brier", "sure_and_wrong", "sure_and_wrong_hi95")
    assert not all_miss(NAMES, dict.fromkeys((*kept, *more), scored))


def test_a_listed_thread_or_none_of_them():
    assert not all_miss(
        NAMES,
        {
            "best": lambda row: named(row).order[0] or "unlisted",
            "second": lambda row: named(row).order[1] or "unlisted",
            "p_best": lambda row: named(row).by_name[named(row).order[0]],
            "p_unlisted": lambda row: named(row).by_name[""],
            "count_of_best": lambda row: named(row).count,
            "p_value_of_best": lambda row: named(row).p_value,
            "sure": lambda row: named(row).is_sure if row["listed"] else scored(row),
        },
    )


def test_a_bound_is_denied_where_it_hardly_held():
    for row in rows(EXTREMES, "p_bounds_before"):
        if "x>=0" not in row["bounds"]:
            x, y, r = pair(row, "x"), pair(row, "y"), number(row, "correlation")
            assert denied(x, y, r) == (float(row["expected"]) < 0.01) == part_of(x, y, r).is_contradiction
    assert denied((0.50, 0.01), (0.20, 0.01))
    assert not denied((0.20, 0.01), (0.20, 0.01))
