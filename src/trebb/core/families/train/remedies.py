"""Remedies for a train: leave, set its studs, another wheel, keys and pins made good, put together anew."""

from __future__ import annotations

from functools import partial

from trebb.core.condition import Change, Estimate, Shift
from trebb.core.families.train.findings import JUDGING
from trebb.core.families.train.subject import Train
from trebb.core.findings.judging import outcome_by
from trebb.core.remedies.base import BY_ITSELF, Remedy, always, leave
from trebb.core.safety import DRIFT, LOCK_OUT

SET_MM, SET_SD_MM = 0.10, 0.03


def studs(train: Train, now: Estimate) -> Change:
    """Every stud that can move set with paper: a mesh that was wider comes to a tenth, one that was closer
    stays.
    """
    found = {}
    for k in range(len(train.now.meshes)):
        lash = now.source(f"lash.{k}").value
        found[f"lash.{k}"] = Shift(min(lash, SET_MM), SET_SD_MM)
    return Change(found)


def wheel(train: Train, now: Estimate) -> Change:
    """Another wheel in the widest mesh."""
    each = {k: now.source(f"lash.{k}").value for k in range(len(train.now.meshes))}
    widest = max(each, key=lambda k: each[k])
    return Change({f"lash.{widest}": Shift(SET_MM, SET_SD_MM)})


def joints(train: Train, now: Estimate) -> Change:
    """Keys stepped, pins of the next size."""
    return Change({"joints": Shift(0.05, 0.03)})


def everything(train: Train, now: Estimate) -> Change:
    """Taken apart, worn wheels and keys made good, put together in its order."""
    found = {f"lash.{k}": Shift(SET_MM, SET_SD_MM) for k in range(len(train.now.meshes))}
    return Change({**found, "joints": Shift(0.05, 0.03)})


_train = partial(Remedy, family="train", outcome=outcome_by(JUDGING))

TRAIN_REMEDIES: tuple[Remedy, ...] = (
    _train(
        "leave",
        "Leave it",
        "Write down why.",
        leave,
        0,
        0,
        0,
        "Nothing.",
        always("It delays the pick-up, no more."),
    ),
    _train(
        "studs",
        "Set the studs",
        "Paper between the teeth of each mesh.",
        studs,
        0,
        0.7,
        0,
        "Paper, a spanner.",
        always("Only where a stud can move; too close it howls."),
        applies=lambda t: t.kind == "spur",
        caution=LOCK_OUT,
        in_place=BY_ITSELF,
    ),
    _train(
        "wheel",
        "Another wheel in the widest mesh",
        "A gear of its own: add it, name it, buy or cut it.",
        wheel,
        35,
        4,
        7,
        "Its wheel, as a gear piece.",
        always("Its mate is as old."),
        caution=DRIFT,
        on_it_hours=3.0,
    ),
    _train(
        "joints",
        "Keys and pins made good",
        "Stepped keys, pins of the next size.",
        joints,
        6,
        3,
        0,
        "Key steel, a taper reamer.",
        always("What the wheels lose stays."),
        caution=DRIFT,
        on_it_hours=3.0,
    ),
    _train(
        "together",
        "Apart, made good, and together in its order",
        "The only order it goes in.",
        everything,
        50,
        9,
        7,
        "Its wheels, keys, pins, and the order written down.",
        always("Learned in several tries: state it, and it stays."),
        caution=DRIFT,
        on_it_hours=9.0,
    ),
)
