"""The trials of a job: which there are for its kind of machine, how each came, what all of them say."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from pathlib import Path

from msgspec import Struct, json

from trebb.core.errors import InputError
from trebb.core.suspects.trials import Told, Trial, told_by
from trebb.core.words import small
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.log.fold import Job

OWN_MINUTES = 5.0  # of a trial of one's own, to weigh the next by (practice)
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
    """Trials for this kind of machine, by complaint; those of one's own last."""
    found: dict[str, list[Trial]] = {}
    for trial in trials_table().trials:
        if cases.kind.key in trial.kinds:
            found.setdefault(trial.about, []).append(trial)
    for trial in own_trials(cases.job):  # about a complaint that there is none of: with the first
        found[trial.about if trial.about in found else next(iter(found))].append(trial)
    return found


def own_trials(job: Job) -> list[Trial]:
    """Trials that the shop thought of: what they hang on is what it says, and nothing where it says
    nothing.
    """
    parts = trials_table().parts
    return [
        Trial(
            key,
            str(told["words"]),
            OWN_MINUTES,
            str(told.get("about", "")),
            tuple(p for p in str(told.get("hangs_on", "")).split() if p in parts),
            "good",
            "bad",
        )
        for key, told in job.matters("trial").items()
        if told.get("words") and told.get("gone") != "yes"
    ]


def own_trial(cases: Cases, words: str, about: str) -> list[MatterStated]:
    """Entries of another trial of one's own. Raises InputError for one without words, or about no complaint
    that such a machine has.
    """
    known = trials_of(cases)
    if not words.strip():
        raise InputError("a trial without words", "say what was tried: skimmed a bar in the collet")
    if about not in known:
        names = ", ".join(f"{key} ({trials_table().complaints[key]})" for key in known)
        raise InputError(f"complaint “{about}”", f"there are {names}")
    taken = cases.job.matters("trial")
    key = next(f"own{i}" for i in range(1, 100_000) if f"own{i}" not in taken)
    return [MatterStated("trial", key, "words", words.strip()), MatterStated("trial", key, "about", about)]


def parts_about(cases: Cases, about: str) -> dict[str, str]:
    """What a trial of a complaint may hang on, with its words."""
    known = dict.fromkeys(p for t in trials_of(cases).get(about, ()) for p in t.hangs_on)
    return {key: trials_table().parts[key] for key in known}


def hangs_on(cases: Cases, trial: Trial, part: str) -> MatterStated:
    """The entry that a trial of one's own hangs on a part, or no longer does. Raises InputError for another
    part.
    """
    known = parts_about(cases, trial.about)
    if part not in known:
        raise InputError(f"“{part}”", f"such a trial hangs on {', '.join(known)}")
    now = [p for p in trial.hangs_on if p != part]
    return MatterStated(
        "trial", trial.key, "hangs_on", " ".join(now if part in trial.hangs_on else [*now, part])
    )


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
    found = {
        about: told_by([t for t in trials if t.hangs_on], came) for about, trials in trials_of(cases).items()
    }
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
