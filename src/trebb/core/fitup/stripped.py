"""What came off, in the order it did: assembly built from it, reversed, with the order known for such parts.

What came off last goes on first. Where that and a known order disagree, the known order stands and the
disagreement is told: one of the two is remembered wrongly, or this machine is another.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Mapping, Sequence

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.fitup.order import FitStep
from trebb.core.safety import LEAD_PAINT, RUST_REMOVER, SPRINGS
from trebb.core.words import large, small

OWN = "came_"  # before the key of what has no step of its own
MINUTES = 8.0  # putting one part back (practice)

# What must be taken before an assembly comes apart, because it cannot be taken afterwards; by family: key,
# words, why.
TAKE_FIRST: Mapping[str, tuple[tuple[str, str, str], ...]] = {
    "spindle": (
        (
            "tool_length",
            "Length of one tool against a fixed face",
            "Every stored length shifts by its difference.",
        ),
        ("preload", "Preload nut: turns and angle from tight", "It is where the bearings ran warm or cold."),
        ("gap", "Face of the nose to the housing", "A bearing or spacer of another width shows here."),
    ),
    "gib": (("stand_out", "How far the gib stands out, fully home", "It says how much thickness it lacks."),),
    "screw_drive": (
        ("nut", "Where the nut stands on its slide, from a face", "It must find its own line again."),
        ("turns", "Adjusting nut: turns from tight", "The end float that was there."),
        ("shim", "Thickness of the collar's shim", "A lost shim is an evening."),
    ),
    "tailstock": (("shim", "Shims under it, by place and thickness", "Two places are rarely alike."),),
    "headstock": (("shim", "Shims under it, by place and thickness", "Two places are rarely alike."),),
    "stand": (("feet", "Height of each foot's screw or shim", "The bed was level on them, or twisted."),),
    "shaft": (("end_float", "End float of the shaft", "A collar put back the wrong way changes it."),),
    "gear": (("mesh", "Lash of the pair, and which teeth were together", "They ran in as a pair."),),
    "train": (("mesh", "Which wheel on which stud, lever's positions", "They fit in one order only."),),
    "cone": (("draw", "Draw of the cone at its lever", "It is what the lining lost."),),
}

# What is marked before it comes apart, and where.
MARKS: Mapping[str, str] = {
    "spindle": "Bearings' outer rings against the housing; spindle against drive key; which spacer is which.",
    "gib": "Gib: thick end and which face runs on the way. Screw at each end counted in turns.",
    "screw_drive": "Bracket and casting, two dots each; nut's front; dial's nought against the wheel's "
    "tooth.",
    "tailstock": "Base against top; each shim with its corner.",
    "headstock": "Each bolt's hole; shims with their corner.",
    "ways": "Saddle's wings left and right; each clamp under the ways with its place.",
    "shaft": "Collars and gears: which face looks to the wheel; punch across gear and shaft before a "
    "pin goes.",
    "bore": "Bush and housing: one line across both.",
    "gear": "One tooth and the two it runs between, by punch; which face looks outward.",
    "train": "One tooth and the two it runs between, on every pair; which way each cluster slides.",
    "cone": "Pin's large end on the hub; hub's pieces across their joints.",
    "tram": "Head against its ring; each bolt back in its own hole.",
}


# What hurts while anything comes apart and is cleaned.
CAUTIONS = f"{SPRINGS} {LEAD_PAINT} {RUST_REMOVER}"


class Came(Struct, frozen=True):
    """A part as it came off; `step` is the known step that puts it back, "" where there is none."""

    key: str
    what: str
    held: str = ""
    hidden: str = ""
    way: str = ""
    mark: str = ""
    shim: str = ""
    stuck: str = ""
    tray: str = ""
    step: str = ""
    first: str = ""
    taken: str = ""
    waived: str = ""
    photo: str = ""

    @property
    def remind(self) -> str:
        """What is to be remembered when it goes back, a line each."""
        told = (
            ("", self.way),
            ("Marks: ", self.mark),
            ("Shim: ", self.shim),
            ("Held by ", self.held),
            ("Hidden: ", self.hidden),
            ("It was stuck: ", self.stuck),
            ("In bag or tray ", self.tray),
        )
        lines = [f"{head}{words}" for head, words in told if words]
        return "\n".join(large(x) + ("" if x.endswith(".") else ".") for x in lines)

    @property
    def is_settled(self) -> bool:
        """Whether what had to be taken before was taken, or waived with a reason."""
        return not self.first or bool(self.taken or self.waived)


class Rule(Struct, frozen=True):
    """An order learned by doing it twice: `before` goes before `then`, keys of steps."""

    before: str
    then: str
    why: str = ""


def step_key(one: Came) -> str:
    """Key of the step that puts a part back."""
    return one.step or f"{OWN}{one.key}"


def with_came(
    steps: Sequence[FitStep], came: Sequence[Came], rules: Iterable[Rule] = ()
) -> tuple[tuple[FitStep, ...], tuple[str, ...]]:
    """Known steps with those of what came off and what was learned, and where the two disagree, in
    sentences. `came` in the order it came off.
    """
    known = {s.key: s for s in steps}
    told: dict[str, list[Came]] = {}
    for one in came:
        key = step_key(one)
        if key not in known:
            key = f"{OWN}{one.key}"
            known[key] = FitStep(key, f"{large(one.what)} back on", (), "", minutes=MINUTES)
        told.setdefault(key, []).append(one)
    for key, ones in told.items():
        step = known[key]
        remind = "\n".join(filter(None, (step.remind, *(one.remind for one in ones))))
        known[key] = replace(step, remind=remind)
    ends = [s.key for s in steps if not any(s.key in other.after for other in steps)]
    said: list[str] = []
    for rule in rules:
        if rule.before in known and rule.then in known:
            _join(known, rule.before, rule.then, rule.why or "Learned here.")
    order = list(dict.fromkeys(_found(known, one) for one in reversed(came)))
    for earlier, later in itertools.pairwise(order):
        if earlier in _all_before(known, later):
            continue
        if not _join(known, earlier, later, ""):
            a, b = known[earlier].title, known[later].title
            why = known[earlier].why
            said.append(
                f"“{b}” came off before “{a}”, so it would go on after it; the known order has “{b}” first"
                f"{f' ({small(why).rstrip(chr(46))})' if why else ''}. "
                "Look at the photographs which it was."
            )
    said += _before_it_runs(known, order)
    for end in ends:
        for key in order:
            if key != end and key.startswith(OWN):
                _join(known, key, end, "")
    return tuple(known.values()), tuple(said)


def _before_it_runs(known: dict[str, FitStep], order: Sequence[str]) -> list[str]:
    """Whatever came off goes back before anything turns under power: nobody says of each whether it holds,
    guards or locks. Sentences of those that were learned, or are known, to go on only after a run.
    """
    said = []
    for run in [s.key for s in known.values() if s.act == "runs"]:
        for key in order:
            if key == run or key in _all_before(known, run):
                continue
            if not _join(known, key, run, ""):
                said.append(
                    f"“{known[key].title}” goes on only after “{known[run].title}”: make sure that it "
                    "neither holds, guards nor locks, or put it on before anything turns."
                )
    return said


def _found(known: Mapping[str, FitStep], one: Came) -> str:
    return one.step if one.step in known else f"{OWN}{one.key}"


def _all_before(known: Mapping[str, FitStep], key: str) -> set[str]:
    found: set[str] = set()
    left = [key]
    while left:
        for a in known[left.pop()].after:
            if a in known and a not in found:
                found.add(a)
                left.append(a)
    return found


def _join(known: dict[str, FitStep], before: str, then: str, why: str) -> bool:
    """Make one step wait for another; False where it would wait for itself."""
    if before == then or then in _all_before(known, before):
        return False
    step = known[then]
    if before not in step.after:
        words = f"{step.why} {why}".strip() if why else step.why
        known[then] = replace(step, after=(*step.after, before), why=words)
    return True


def checked_rule(steps: Sequence[FitStep], rule: Rule) -> None:
    """Refuse a rule that cannot be: raises InputError naming both steps."""
    known = {s.key: s for s in steps}
    for key in (rule.before, rule.then):
        if key not in known:
            raise InputError(f"step “{key}”", "it is none of this assembly's")
    a, b = known[rule.before].title, known[rule.then].title
    if rule.before == rule.then:
        raise InputError(f"“{a}” before itself", "choose two steps")
    if rule.then in _all_before(known, rule.before):
        raise InputError(f"“{a}” before “{b}”", f"“{a}” waits for “{b}” already: it cannot come first")


def usual_next(steps: Sequence[FitStep], came: Sequence[Came]) -> list[FitStep]:
    """Known steps backwards, those that nothing on the record undoes yet: what usually comes off next."""
    done = {one.step for one in came}
    quiet = {"marks", "clean", "prove", "oil", "settle", "lubricate", "turns", "warm", "again", "travel"}
    return [s for s in reversed(steps) if s.key not in done and s.key not in quiet]
