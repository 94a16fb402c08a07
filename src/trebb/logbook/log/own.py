"""What was written of an assembly in one's own words: the topics of its notes, and its steps."""

from __future__ import annotations

from trebb.logbook.log.fold import Job

STATES = {"": "not said", "within": "good enough", "near": "watch it", "beyond": "must be mended"}
MOST_STEPS, STEP_LETTERS = 40, 200


def own_topic(assembly: str, what: str) -> str:
    """Topic of a note: "finding", "state", "remedy", "cost", "hours", "wait" or "steps"."""
    return f"own.{assembly}.{what}"


def own_plan(assembly: str) -> str:
    """Name of the plan that its steps are ticked in."""
    return f"own.{assembly}"


def own_steps(job: Job, assembly: str) -> list[str]:
    """Its steps in order, each once."""
    words = (s.strip()[:STEP_LETTERS] for s in job.note(own_topic(assembly, "steps")).split(";"))
    return list(dict.fromkeys(w for w in words if w))[:MOST_STEPS]


def own_told(job: Job, assembly: str) -> dict[str, object]:
    """All of it, for whoever reads the job from outside; empty where nothing was written."""
    found = {
        what: job.note(own_topic(assembly, what))
        for what in ("finding", "state", "remedy", "cost", "hours", "wait")
    }
    told: dict[str, object] = {key: value for key, value in found.items() if value}
    steps = own_steps(job, assembly)
    if steps:
        done = job.steps_done(own_plan(assembly))
        told["steps"] = [{"step": step, "is_done": step in done} for step in steps]
    return told
