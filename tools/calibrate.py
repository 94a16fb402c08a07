"""How often Trebb is right, family by family, on machines simulated without its own model: `make calibrate`.

COUNT machines a family. The columns are explained in tests/independent/scores.py.
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

import numpy as np
from tests.core.test_plan_calendar import THURSDAY, WEEK, assert_kept, random_job
from tests.independent.advice import FAMILIES, by_advice, minutes_against_best
from tests.independent.beds import score_beds
from tests.independent.bores import score_bores
from tests.independent.enough import advised_on_screws
from tests.independent.gears import score_gears
from tests.independent.gibs import recognised, score_gibs
from tests.independent.instruments import reading
from tests.independent.scores import COUNTS, Score
from tests.independent.screws import score_screws
from tests.independent.shafts import score_shafts
from tests.independent.spindles import score_spindles
from tests.independent.threads import score_threads
from tests.independent.work import score_choice, score_heads, score_spindles_work, score_work
from tests.players import beginner, follow_advice

from trebb.core.planning.evenings import by_week
from trebb.core.planning.schedule import fewest_evenings
from trebb.core.planning.solver import solved
from trebb.core.practice.piece import LEVELS, drawn
from trebb.logbook.practice.begun import truth_of
from trebb.logbook.practice.opened import score_of
from trebb.logbook.practice.trial import best_order

MOST_PRACTISED = 40  # the best order of each is searched for: minutes a level
LATHE = ("headstock", "ways", "tailstock")
Row = tuple[str, Callable[[range], Score]]
# How else the same machines are read: what a shop really has, and that half of what it looks at is sound.
BENCHES: tuple[tuple[str, dict[str, float | bool]], ...] = (
    ("half-thou needle", {"step_mm": 0.0127}),
    ("thou needle", {"step_mm": 0.0254}),
    ("0.01 mm needle", {"step_mm": 0.01}),
    ("0.02 mm needle", {"step_mm": 0.02}),
    ("a third of places slip", {"slips": 0.33}),
    ("half of them sound", {"sound": True}),
    ("all together", {"step_mm": 0.0127, "slips": 0.2, "sound": True}),
)
READ_WHOLE: tuple[Row, ...] = (
    ("screws", score_screws),
    ("spindles", score_spindles),
    ("beds", score_beds),
    ("gibs", score_gibs),
    ("shafts", score_shafts),
    ("bores", score_bores),
    ("gears", score_gears),
)
ROWS: tuple[Row, ...] = (
    ("screws, everything read", score_screws),
    ("screws, lash alone", lambda seeds: score_screws(seeds, only=("lash",))),
    ("screws, lash and end float", lambda seeds: score_screws(seeds, only=("lash", "end_float"))),
    ("screws, end float alone", lambda seeds: score_screws(seeds, only=("end_float",))),
    ("spindles, everything read", score_spindles),
    (
        "spindles, nose and one seating",
        lambda seeds: score_spindles(seeds, only=("nose", "test_bar"), seatings=1),
    ),
    ("spindles, two seatings", lambda seeds: score_spindles(seeds, only=("test_bar",), seatings=2)),
    ("spindles, push test alone", lambda seeds: score_spindles(seeds, only=("push_test",))),
    ("beds, everything read", score_beds),
    ("beds, two lands alone", lambda seeds: score_beds(seeds, only=("two_collar",))),
    ("beds, lands and level", lambda seeds: score_beds(seeds, only=("two_collar", "level_across"))),
    ("beds, long piece alone", lambda seeds: score_beds(seeds, only=("long_piece",))),
    ("gibs, everything read", score_gibs),
    ("shafts turned on V-blocks", score_shafts),
    ("bores by gauge", score_bores),
    ("gears, every tooth read", score_gears),
    ("screws, a tenth by advice", lambda seeds: score_screws(seeds, played=by_advice("cross_slide"))),
    ("spindles, a tenth by advice", lambda seeds: score_spindles(seeds, played=by_advice("spindle"))),
    ("beds, a tenth by advice", lambda seeds: score_beds(seeds, played=by_advice(*LATHE))),
    ("gibs, a tenth by advice", lambda seeds: score_gibs(seeds, played=by_advice("saddle"))),
    ("shafts, a tenth by advice", lambda seeds: score_shafts(seeds, played=by_advice("bar"))),
    ("bores, a tenth by advice", lambda seeds: score_bores(seeds, played=by_advice("hole"))),
    ("gears, a tenth by advice", lambda seeds: score_gears(seeds, played=by_advice("gear"))),
    ("threads, counted right", score_threads),
    ("threads, one turn in ten lost", lambda seeds: score_threads(seeds, miscounted=True)),
)


def plans(count: int) -> str:
    """Random jobs of sixty tasks: days by rule against the solver's, how many of them within 15 %, and the
    solver's distance from its own bound after 5 s.
    """
    rng = np.random.default_rng(7)
    ratios, gaps = [], []
    for _ in range(count):
        tasks = random_job(rng, 60)
        there = by_week(WEEK, THURSDAY)
        plan = fewest_evenings(tasks, there)
        assert_kept(tasks, plan)
        hands = {t.key: plan.starts[t.key] for t in tasks if not t.waits}
        told = solved(tasks, there, known=hands, known_days=plan.evenings)
        ratios.append(plan.evenings / told["days"])
        gaps.append(told["gap"])
    near = np.mean(np.array(ratios) <= 1.15)
    return (
        f"by rule {np.mean(ratios):.3f} × the solver's days, {100 * near:.1f} % within 1.15 ×, worst "
        f"{max(ratios):.2f} ×; solver from its bound: mean {100 * np.mean(gaps):.2f} %, worst "
        f"{100 * max(gaps):.2f} %"
    )


def practice(count: int, level: int) -> str:
    """Drawn practice machines of a level: mean score of following the advice blindly, and of a beginner's
    random order without preparations.
    """
    followed, random = [], []
    rng = np.random.default_rng(level)
    for number in range(count):
        piece = drawn(level, number)
        trial = follow_advice(piece)
        truth = truth_of(trial.case, piece)
        best = best_order(piece, truth)
        followed.append(score_of(trial.case, piece, truth, best).total)
        random.append(score_of(beginner(piece, rng).case, piece, truth, best).total)
    return f"advice {np.mean(followed):.1f}, a beginner {np.mean(random):.1f} of 100"


def main(count: int) -> None:
    """Print the table."""
    seeds = range(count)
    print(f"{count} machines a row; shares in %.\n")
    print(f"{'':32s}" + "  ".join(f"{name:>14s}" for name in COUNTS))
    for name, run in ROWS:
        print(f"{name:32s}" + "  ".join(f"{cell:>14s}" for cell in run(seeds).cells()), flush=True)
    for words, bench in BENCHES:
        for name, run in READ_WHOLE:
            with reading(**bench):  # type: ignore[arg-type]
                cells = run(seeds).cells()
            print(f"{f'{name}, {words}':32s}" + "  ".join(f"{cell:>14s}" for cell in cells), flush=True)
    advised = advised_on_screws(seeds)
    wrong = f"not enough {advised.not_enough}, more than enough {advised.too_much}"
    print(f"\nScrews, after every lot: advised {advised.tries} times, {wrong}; read first {advised.waits}")
    print(f"\nGibs 0.6 to 8 mm out of home recognised: {100 * recognised(seeds):.1f} %")
    for family in FAMILIES:
        ratio = minutes_against_best(family, seeds)
        print(f"Minutes to the verdict, {family}: {ratio:.2f} × the best order", flush=True)
    for level in LEVELS:
        few = min(count, MOST_PRACTISED)
        print(f"Practice, level {level}, {few} machines: {practice(few, level)}", flush=True)
    print(f"Lathes' work, by geometry: {score_work(seeds)}")
    print(f"Heads' work, by geometry: {score_heads(seeds)}")
    print(f"Spindles' work, by their outlines: {score_spindles_work(seeds)}")
    print(f"Lathes' repairs for it, read as advised: {score_choice(seeds, advised=True)}")
    print(f"Plans of 60 tasks: {plans(count)}")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 200)
