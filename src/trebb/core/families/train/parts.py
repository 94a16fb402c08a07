"""Wheels for another feed: the train that comes nearest, whatever the lathe's own ratio, drawn as it
stands.
"""

from __future__ import annotations

import math

from trebb.core.errors import InputError
from trebb.core.families.train.subject import Train
from trebb.core.gears.trains import Banjo, feeds_near
from trebb.core.gears.trains import Train as Wheels
from trebb.core.machine.workshop import banjo_of
from trebb.core.parts.base import (
    Check,
    Measured,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    SizeRow,
    View,
    facts_of,
    number,
)
from trebb.core.units import show_small

STEPS = 36  # of a wheel's circle as drawn
CLOSE = 0.02  # of a feed: nearer than this nobody sees on the work


def train_of(inputs: PartInputs) -> Train:
    """The train a part is for."""
    assert isinstance(inputs.subject, Train)
    return inputs.subject


def feed_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Feed now, as measured, and the one wanted."""
    train = train_of(inputs)
    now = train.feed_mm or 0.1
    return (
        PartField("now", "Feed now, a turn", now, low_mm=0.001, high_mm=20),
        PartField("wanted", "Feed wanted, a turn", now / 2, low_mm=0.0005, high_mm=20, is_free=True),
        PartField("pick", "Which of those found", 1.0, low_mm=1, high_mm=12, is_figure=True),
    )


def feed_train(inputs: PartInputs) -> Part:
    """The wheels for a feed, drawn as they mesh. Raises InputError where none of those at hand comes near."""
    train, f = train_of(inputs), facts_of(feed_fields(inputs), inputs.facts)
    now, wanted = number(f, "now"), number(f, "wanted")
    banjo = banjo_of(inputs.workshop)
    found = [
        t for t in feeds_near(now, train.now.ratio, wanted, inputs.workshop.wheels, banjo) if not t.trouble
    ]
    if not found:
        raise InputError(
            f"a feed of {inputs.size(wanted)} a turn",
            "no train of the wheels at hand comes near and meshes: list more wheels at Intake, or a "
            "feed nearer to "
            f"{inputs.size(now)}",
        )
    pick = min(int(number(f, "pick")), len(found))
    best = found[pick - 1]
    off = best.pitch_mm / wanted - 1
    share = best.pitch_mm / now
    measured = bool(train.feed_mm) or "now" in inputs.facts
    return Part(
        "feed_train",
        "Wheels for another feed",
        "wheels at hand",
        best.words,
        (),
        None,
        _train_rows(found, best, share, train),
        _train_checks(inputs, best, off, measured, wanted),
        (
            "No screw is cut by it: the half nuts stay open while the feed rod drives.",
            "Paper between the teeth, oil on the stud, guard shut.",
        ),
        construction="train",
        views=(chain_view(best, banjo),),
    )


def _train_checks(
    inputs: PartInputs, best: Wheels, off: float, measured: bool, wanted: float
) -> tuple[Check, ...]:
    return (
        Check.of(
            measured,
            "It is counted from the feed as measured.",
            "The feed as it is was not measured: turn the spindle by hand ten times, read the "
            "carriage, state it.",
            ("feed_mm",),
        ),
        Check.of(
            abs(off) <= CLOSE,
            f"{show_small(best.pitch_mm, inputs.system)} a turn for {show_small(wanted, inputs.system)}.",
            f"Nearest is {show_small(best.pitch_mm, inputs.system)} a turn, {off:+.0%} off "
            f"{show_small(wanted, inputs.system)}.",
        ),
        Check(True, "Each wheel clears its neighbours' shafts."),
    )


def _train_rows(found: list[Wheels], best: Wheels, share: float, train: Train) -> tuple[SizeRow, ...]:
    return (
        SizeRow("Train", "text", best.words, "driver over driven, spindle's stud first", True, key="train"),
        SizeRow("Feed then", "small", best.pitch_mm, f"{share:.3g} of what it is", True, key="feed"),
        SizeRow(
            "Ratio",
            "text",
            f"{best.ratio.numerator}:{best.ratio.denominator}",
            f"now {train.now.ratio.numerator}:{train.now.ratio.denominator}",
        ),
        SizeRow(
            "Others that mesh",
            "text",
            ", ".join(t.words for t in found[:4] if t is not best) or "none",
            "nearest first",
        ),
    )


def _circle(x: float, y: float, radius: float) -> tuple[tuple[float, float], ...]:
    return tuple(
        (x + radius * math.cos(2 * math.pi * k / STEPS), y + radius * math.sin(2 * math.pi * k / STEPS))
        for k in range(STEPS)
    )


def chain_view(train: Wheels, banjo: Banjo) -> View:
    """The wheels by their pitch circles: stud at the left, screw or feed shaft at the right, the pair between
    where both reach.
    """
    m, span = banjo.module_mm / 2, banjo.span_mm
    first, last = m * train.drivers[0], m * train.driven[-1]
    if train.is_simple:
        idler = max((span - first - last) / 2, m * 20)
        a, b = first + idler, idler + last
        sizes = [(idler, "idler")]
    else:
        a, b = m * (train.drivers[0] + train.driven[0]), m * (train.drivers[1] + train.driven[1])
        sizes = [(m * train.driven[0], str(train.driven[0])), (m * train.drivers[1], str(train.drivers[1]))]
    x = (span**2 + a**2 - b**2) / (2 * span)
    y = math.sqrt(max(0.0, a**2 - x**2))
    outlines = [_circle(0, 0, first), _circle(span, 0, last)]
    outlines += [_circle(x, y, radius) for radius, _ in sizes]
    between = " on one stud with ".join(words for _, words in sizes)
    return View(
        f"stud {train.drivers[0]}, {between}, screw or feed shaft {train.driven[-1]}",
        tuple(outlines),
        holes=((0.0, 0.0, 8.0), (span, 0.0, 8.0), (x, y, 8.0)),
        measured=(Measured((0.0, 0.0), (span, 0.0), -2.2),),
    )


FAMILY = PartFamily(
    "feed_train",
    "Wheels for another feed",
    feed_fields,
    feed_train,
    "train",
    "Power off and spindle in neutral before the guard is opened.",
)
