"""The trials of a job: which there are for its kind of machine, how each came, what all of them say."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from pathlib import Path

from msgspec import Struct, json

from trebb.core.suspects.trials import Told, Trial, told_by
from trebb.core.words import small
from trebb.logbook.cases.casework import Cases

TABLE = Path(__file__).parents[1] / "data" / "trials.json"


class Table(Struct, frozen=True):
    """Trials, the words of what they hang on, the complaints they are about."""

    trials: tuple[Trial, ...]
    parts: Mapping[str, str]
    complaints: Mapping[str, str]


@cache
def trials_table() -> Table:
    """The table that ships."""
    return json.decode(TABLE.read_bytes(), type=Table)


def trials_of(cases: Cases) -> dict[str, list[Trial]]:
    """Trials for this kind of machine, by complaint."""
    found: dict[str, list[Trial]] = {}
    for trial in trials_table().trials:
        if cases.kind.key in trial.kinds:
            found.setdefault(trial.about, []).append(trial)
    return found


def came_of(cases: Cases) -> dict[str, bool]:
    """How the trials that were done came: True for good."""
    return {
        key: told["came"] == "good"
        for key, told in cases.job.matters("trial").items()
        if told.get("came") in ("good", "bad")
    }


def told_of_trials(cases: Cases) -> dict[str, Told]:
    """What the trials done say, by complaint."""
    came = came_of(cases)
    found = {about: told_by(trials, came) for about, trials in trials_of(cases).items()}
    return {about: told for about, told in found.items() if told is not None}


def told_words(told: Told) -> str:
    """What the trials of a complaint say, in sentences."""
    names = trials_table().parts
    words = []
    if told.is_denied:
        words.append("These deny each other: one came bad though all it hangs on came good. Try it again.")
    if told.cleared:
        words.append(f"Cleared: {', '.join(names[p] for p in told.cleared)}.")
    if told.left:
        left = " or ".join(f"{names[p]} ({told.chances[p]:.0%})" for p in told.left[:4])
        words.append(f"Left: {left}.")
    elif not told.is_denied:
        words.append("Nothing stands out yet.")
    if told.following is not None:
        words.append(f"Next: {small(told.following.words).rstrip('?')} ({told.following.minutes:.0f} min).")
    return " ".join(words)
