"""The strip-down as recorded: what came off each assembly, what had to be taken before, rules learned."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct

from trebb.core.facts import Stored
from trebb.core.fitup.marks import judged
from trebb.core.fitup.stripped import TAKE_FIRST, Came, Rule
from trebb.core.machine import State
from trebb.core.units import THOU_MM
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.log.fold import Job

MEET = "meet."  # before the key of marks that must meet
MEETS_WHY = "Read before anything comes out; it must meet again before anything fixes it for good."
# Operations of a route and steps of fit-up after which what goes on stands for good.
FIXES = frozenset({"drill", "hole", "drive", "pin", "press", "bond", "ream"})
FIRST = "first."  # before the key of what must be taken before an assembly comes apart


def came_off(job: Job, assembly: str) -> list[Came]:
    """What came off an assembly, in the order it did."""
    found: list[tuple[float, int, Came]] = []
    for i, (key, told) in enumerate(job.matters("strip").items()):
        if told.get("assembly") == assembly and told.get("gone") != "yes" and told.get("what"):
            at = told.get("at")
            found.append((float(at) if isinstance(at, int | float) else float(i), i, _came(key, told)))
    return [one for _, _, one in sorted(found, key=lambda f: f[:2])]


def _came(key: str, told: Mapping[str, Stored]) -> Came:
    words = {k: str(v) for k, v in told.items()}
    shim = told.get("shim")
    thick = f"{shim:.2f} mm ({shim / THOU_MM:.0f} thou)" if isinstance(shim, int | float) and shim else ""
    return Came(
        key,
        words.get("what", ""),
        words.get("held", ""),
        words.get("hidden", ""),
        words.get("way", ""),
        words.get("mark", ""),
        " ".join(filter(None, (thick, words.get("shim_at", "")))),
        words.get("stuck", ""),
        words.get("tray", ""),
        words.get("step", ""),
        words.get("first", ""),
        words.get("taken", ""),
        words.get("waived", ""),
        words.get("photo", ""),
    )


def rules_of(job: Job, assembly: str) -> list[Rule]:
    """Orders learned of an assembly."""
    return [
        Rule(str(told.get("before", "")), str(told.get("then", "")), str(told.get("why", "")))
        for told in job.matters("rule").values()
        if told.get("assembly") == assembly and told.get("gone") != "yes"
    ]


def to_take(job: Job, assembly: str, family: str) -> list[tuple[str, str, str, str, str]]:
    """What must be taken before an assembly comes apart: key of the record, words, why, what was taken, why
    it was waived.
    """
    found = []
    for key, words, why in TAKE_FIRST.get(family, ()):
        of = f"{FIRST}{assembly}.{key}"
        told = job.matter("strip", of)
        found.append((of, words, why, str(told.get("taken", "")), str(told.get("waived", ""))))
    found += [
        (m.of, f"Must meet again: {m.what}", MEETS_WHY, m.before, m.waived) for m in meetings(job, assembly)
    ]
    return found


class Meeting(Struct, frozen=True):
    """Marks that must meet again: a dial's nought at its index when the half nut drops in. How they stood
    before, or why that was not read; whether they were seen to meet before anything fixed them; read again.
    """

    of: str
    what: str
    before: str
    waived: str
    meets: bool
    again: str
    allowed: str = ""

    @property
    def state(self) -> State:
        """Whether they meet, by what was read again and what may be left."""
        return judged(self.again, self.allowed)

    @property
    def words(self) -> str:
        """How they stood before, stand again, and what that is against what may be left."""
        may = f", may be off by {self.allowed}" if self.allowed else ""
        said = {State.WITHIN: ": within it", State.BEYOND: ": beyond it"}.get(self.state, "")
        again = self.again or "not read yet"
        return f"{self.what}: before {self.before or 'not read'}, again {again}{may}{said}"


def meetings(job: Job, assembly: str) -> list[Meeting]:
    """What must meet again on an assembly."""
    return [
        Meeting(
            of,
            str(told.get("first", "")),
            str(told.get("taken", "")),
            str(told.get("waived", "")),
            told.get("meets") == "yes",
            str(told.get("again", "")),
            str(told.get("allowed", "")),
        )
        for of, told in job.matters("strip").items()
        if of.startswith(MEET) and told.get("assembly") == assembly and told.get("gone") != "yes"
    ]


def meeting_words(job: Job, assembly: str) -> list[str]:
    """What must meet, how it stood before and stands again, a sentence each."""
    return [m.words for m in meetings(job, assembly)]


def not_met(job: Job, assembly: str) -> list[str]:
    """What was not seen to meet yet, and is not waived: nothing may be fixed for good before."""
    return [m.what for m in meetings(job, assembly) if not m.meets and not m.waived]


def meet_key(job: Job) -> str:
    """A key for another pair of marks."""
    taken = job.matters("strip")
    return next(f"{MEET}{i}" for i in range(1, 100_000) if f"{MEET}{i}" not in taken)


def fixes_for_good(step: str) -> bool:
    """Whether an operation or a step of such a key fixes what goes on it for good."""
    return step in FIXES


def not_settled(job: Job, assembly: str, family: str) -> list[str]:
    """What stops an assembly from coming apart: words of what was neither taken nor waived."""
    missing = [
        words for _, words, _, taken, waived in to_take(job, assembly, family) if not taken and not waived
    ]
    missing += [one.first for one in came_off(job, assembly) if not one.is_settled]
    return missing


def strip_key(job: Job) -> str:
    """A key for another part that came off."""
    taken = job.matters("strip")
    return next(f"off{i}" for i in range(1, 100_000) if f"off{i}" not in taken)


def rule_key(job: Job) -> str:
    """A key for another rule."""
    taken = job.matters("rule")
    return next(f"rule{i}" for i in range(1, 100_000) if f"rule{i}" not in taken)


def stated(of: str, **fields: Stored) -> list[MatterStated]:
    """Entries that state fields of a part that came off."""
    return [MatterStated("strip", of, key, value) for key, value in fields.items()]
