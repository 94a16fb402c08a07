"""Lists of features drawn at random, as lines somebody might type."""

from __future__ import annotations

import random

FITS = {"journal": ("g6", "f7", ""), "seat": ("h6", "k6", "m6", ""), "plain": ("",), "shoulder": ("",)}


def random_list(rng: random.Random) -> str:
    """From one section to six, a feature in some, bored or not; metric."""
    lines: list[str] = []
    least = 100
    for _ in range(rng.randint(1, 6)):
        kind, long = rng.choice([*FITS, "thread"]), rng.randint(6, 60)
        if kind == "thread":
            dia = rng.choice((12, 16, 20, 24))
            lines.append(f"thread M{dia} x {long}")
        else:
            dia = rng.randint(14, 60)
            lines.append(f"{kind} {dia} {rng.choice(FITS[kind])} x {long}".replace("  ", " "))
            if rng.random() < 0.4:
                lines.append(feature(rng, dia, long))
        least = min(least, dia)
    if rng.random() < 0.4 and least > 14:
        bore = rng.randint(4, least - 9)
        lines.append(f"bore {bore}{rng.choice((' H7', ''))}")
        if rng.random() < 0.5:
            lines.append(f"pocket {bore + 2} x 3")
    return "\n".join(lines)


def feature(rng: random.Random, dia: int, long: int) -> str:
    """Something cut in a section of that diameter and length."""
    return rng.choice(
        (
            "keyway",
            f"keyway 4 x {max(4, long - 2)}",
            f"square {round(0.75 * dia)}",
            f"flat deep 1 x {max(2, long // 2)}",
            "spline 6",
            f"hole 3 at {long // 2}",
            f"pin 3 at -{long // 2}",
            f"tap M4 at {long // 2}",
            "groove 1.5 deep 0.8 at 1",
            "knurl",
        )
    )
