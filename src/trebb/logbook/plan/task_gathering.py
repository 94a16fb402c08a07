"""What there is to do on the whole machine, from what every assembly already says: readings, orders, what is
sent out, parts to make, what cures, fit-up, proofs; what waits for what. Nothing is typed twice.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Mapping, Sequence

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.fitup import FitStep, down_hours
from trebb.core.machine import MachineKind
from trebb.core.remedies import Remedy
from trebb.core.remedies import remedy as remedy_of
from trebb.core.words import small
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.quotes import quote_of
from trebb.logbook.plan.before_fit import before_fit
from trebb.logbook.plan.trade_order import in_trade_order, is_before, strip_groups
from trebb.logbook.plan.work import Gathered

ON = "/on"  # behind the key of one whose work is on another assembly
# How a machine is to look: hours of it, by the card's choice; and how long paint wants to be hard.
PAINTED = "full"
TOUCHED = {"clean": "Clean it down and oil it", "honest": "Touch in, honest marks left"}
LOOKS_HOURS = {"clean": 2.0, "honest": 5.0, PAINTED: 16.0}
PAINT_HOURS = 72.0
READ_MINUTES = 240.0  # no more of an assembly nobody has read yet: its first set-ups


def cuts_its_own(cases: Cases) -> bool:
    """Whether the machine cuts its own parts: a lathe does unless it is said not to."""
    stated = cases.job.matter("plan").get("cuts_own", "")
    return stated == "yes" if stated else cases.kind.key == "lathe"


class _Spot(Struct):
    """Work at one place of the trade's order: its first task and its last, and what it comes off with."""

    first: str
    last: str
    group: str


class _Unit(Struct):
    """An assembly with work of its own: tasks that its fit-up waits for (`ends`), what of it is made while
    the machine stands whole, its last task; `mended` what is done on the thing itself.
    """

    case: Case
    remedy: Remedy
    ends: list[str]
    whole: list[str]
    group: str = ""
    mended: str = ""
    last: str = ""

    @property
    def key(self) -> str:
        return self.case.assembly_key

    @property
    def place(self) -> str:
        """The assembly that is worked on: mostly its own."""
        on = self.remedy.works_on
        return on if self.case.kind.has(on) else self.key


def gather(cases: Cases) -> Gathered:
    """Work of every assembly, as each says it itself; done work too, with no hours left."""
    found = Gathered()
    units: dict[str, _Unit] = {}
    cuts = cuts_its_own(cases)
    for case in cases.measurable():
        if case.chosen is None:
            _still_to_read(case, found)
            continue
        remedy = case.quoted(case.chosen)
        found.costs[case.assembly_key] = remedy.cost
        if case.chosen.key != "leave":
            units[case.assembly_key] = _Unit(case, remedy, [], [])
    kind = cases.kind
    groups = strip_groups(kind, {kind.root_of(u.place) for u in units.values() if not u.remedy.in_place})
    for u in units.values():
        u.group = "" if u.remedy.in_place else groups[kind.root_of(u.place)]
        u.ends, u.whole = before_fit(u.case, u.remedy, found, u.group, cuts=cuts)
    order = in_trade_order(kind, {key: key for key in units})
    down = {
        root: [units[k] for k in order if units[k].group == root] for root in dict.fromkeys(groups.values())
    }
    reads = [w.task.key for w in found.work if w.kind == "read"]
    for root, members in down.items():
        _add_strip(cases, found, root, members, reads)
    painted = _add_paint(cases, found)
    for u in units.values():
        u.ends += painted if u.group else []
    _add_in_order(kind, found, units, down)
    for key in order:
        u = units[key]
        _add_prove(u.case, found, down[u.group][-1].last if u.group else u.last)
    _add_touch(cases, found, [u.last for u in units.values()])
    _put_from_boxes(cases, found, units)
    return _told_apart(cases, found)


def _add_paint(cases: Cases, found: Gathered) -> list[str]:
    """Stripping, filling and painting of what is apart, and the days until it is hard: what goes together
    waits for both. Nothing where the card asks for no more than clean.
    """
    if cases.job.card("looks", "") != PAINTED:
        return []
    strips = [w.task.key for w in found.work if w.kind == "strip"]
    found.add("looks", "Strip, fill and paint", LOOKS_HOURS[PAINTED], "mend", "intake", "", strips)
    return [
        found.add("looks.hard", "Paint hardens", PAINT_HOURS, "wait", "intake", "", ("looks",), waits=True)
    ]


def _add_touch(cases: Cases, found: Gathered, last: Sequence[str]) -> None:
    """Cleaning, or touching in with the honest marks left, once all stands together."""
    looks = cases.job.card("looks", "")
    if looks in TOUCHED:
        after = [key for key in last if key]
        found.add("looks", TOUCHED[looks], LOOKS_HOURS[looks], "mend", "intake", "", after)


def _add_in_order(
    kind: MachineKind, found: Gathered, units: Mapping[str, _Unit], down: Mapping[str, Sequence[_Unit]]
) -> None:
    """Work of each in the trade's order. What is done on another assembly stands in that one's place, putting
    together in its own.
    """
    elsewhere = {f"{u.key}{ON}": u.place for u in units.values() if u.place != u.key}
    places = {**{key: key for key in units}, **elsewhere}
    spots: dict[str, _Spot] = {}
    for name in in_trade_order(kind, places):
        u = units[name.removesuffix(ON)]
        before = [s for o, s in spots.items() if is_before(kind, places[o], places[name])]
        if name in elsewhere:
            _add_mend(found, u, before)
            spots[name] = _Spot(u.mended, u.mended, u.group)
        else:
            spots[name] = _add_work(found, u, before, down)


def _put_from_boxes(cases: Cases, found: Gathered, units: Collection[str]) -> None:
    """What came in boxes and is not mended goes together all the same."""
    for assembly in cases.kind.assemblies:
        case = cases.of(assembly.key)
        if assembly.key not in units and case.boxed is not None:
            _add_fit(found, case)


def _told_apart(cases: Cases, found: Gathered) -> Gathered:
    """Tasks of one name are told apart by whose they are."""
    titles = Counter(w.task.title for w in found.work)
    labels = {a.key: a.label for a in cases.kind.assemblies}
    found.work = [
        replace(w, task=replace(w.task, title=f"{w.task.title} ({labels[w.assembly]})"))
        if titles[w.task.title] > 1 and w.assembly in labels
        else w
        for w in found.work
    ]
    return found


def _add_strip(
    cases: Cases, found: Gathered, root: str, members: Sequence[_Unit], reads: Sequence[str]
) -> None:
    """One taking down of all that comes off together."""
    hosts = dict.fromkeys(cases.kind.root_of(u.place) for u in members)
    names = [cases.kind.assembly(host).label for host in sorted(hosts, key=lambda h: h != root)]
    planned = left = 0.0
    begun = False
    for u in members:
        done, steps = cases.job.steps_done(u.case.fit_plan), u.case.fit_order()
        begun |= any(s.key in done for s in steps if not s.takes_apart)
        begun |= bool(cases.job.matter("outside", u.key).get("refused"))  # it was away already
        begun |= any(of.startswith(f"{u.key}.") for of in cases.job.matters("returned"))
        begun |= u.case.boxed is not None  # it came apart
        hours = down_hours(steps)
        planned += hours
        left += hours if not any(s.takes_apart for s in steps) else _hours(_off(steps, done))
    is_off = begun or left <= 0
    found.add(
        f"strip.{root}",
        f"Take {_listed(names)} down, marks and photographs first",
        0.0 if is_off else left,
        "strip",
        "strip_down",
        root,
        # What is still worth reading is read before anything is out of its place, and what the machine must
        # cut for itself is made: the old part stays in until then.
        (*reads, *(key for u in members for key in u.whole)),
        strips=root,
        planned=planned,
        is_done=is_off,
    )


def _off(steps: Sequence[FitStep], done: Collection[str], *, apart: bool = True) -> list[tuple[str, float]]:
    """Steps not done that take apart, or that do not: title and hours."""
    return [(s.title, s.minutes / 60) for s in steps if s.takes_apart is apart and s.key not in done]


def _hours(steps: Sequence[tuple[str, float]]) -> float:
    return sum(hours for _, hours in steps)


def _listed(names: Sequence[str]) -> str:
    """ "A", "A and B", "A, B and C"."""
    return " and ".join(filter(None, (", ".join(names[:-1]), names[-1])))


def _add_mend(found: Gathered, u: _Unit, before: Sequence[_Spot]) -> None:
    """What is done on the thing itself once it is off: after all that is put right before it."""
    given_out = quote_of(u.case.job, u.key, u.remedy.key) is not None
    hours = 0.0 if given_out else u.remedy.on_it_hours
    if not hours or u.mended:
        return
    same = [b.first if b.group == u.group else b.last for b in before]
    u.mended = found.add(
        f"mend.{u.key}",
        _on_it_title(u),
        hours,
        "mend",
        "fit_up",
        u.key,
        (*u.ends, f"strip.{u.group}", *same),
        is_done=bool(u.case.job.steps_done(u.case.fit_plan)),
        planned=hours,
    )


def _add_work(
    found: Gathered, u: _Unit, before: Sequence[_Spot], down: Mapping[str, Sequence[_Unit]]
) -> _Spot:
    """Work on the thing itself, and putting it together; in place both are one. What is put right before it
    in the trade's order is done by then.
    """
    earlier = [b.last for b in before]
    if u.remedy.in_place:
        title = f"{u.case.assembly.label}: {small(u.remedy.title)}"
        u.last = _add_fit(found, u.case, (*u.ends, *earlier), key=f"do.{u.key}", title=title)
        return _Spot(u.last, u.last, u.group)
    is_here = u.place == u.key
    _add_mend(found, u, before)
    after = (*u.ends, f"strip.{u.group}", *filter(None, (u.mended,)))
    members = down[u.group]
    is_last = members[-1] is u
    others = [m.last for m in members[:-1]] if is_last else []
    waits_for = tuple(dict.fromkeys((*after, *earlier, *others)))
    u.last = _add_fit(found, u.case, waits_for, refits=u.group if is_last else "")
    return _Spot((u.mended if is_here else "") or u.last, u.last, u.group)


def _add_fit(
    found: Gathered,
    case: Case,
    after: Sequence[str] = (),
    *,
    key: str = "",
    title: str = "",
    refits: str = "",
) -> str:
    """Steps of putting an assembly together that are left, as one task."""
    done, steps = case.job.steps_done(case.fit_plan), case.fit_order()
    left = _off(steps, done, apart=False)
    planned = _hours(_off(steps, (), apart=False))
    return found.add(
        key or f"fit.{case.assembly_key}",
        title or f"Put {case.assembly.label} together",
        _hours(left),
        "fit",
        "fit_up",
        case.assembly_key,
        after,
        steps=tuple(left),
        planned=planned,
        is_done=planned > 0 and not left,
        refits=refits,
        missing=_missing(case) if left else "",
    )


def _missing(case: Case) -> str:
    """What came in no box."""
    if case.boxed is None:
        return ""
    from trebb.logbook.cases.boxes import missing_words

    return missing_words(case.boxed)


def _on_it_title(u: _Unit) -> str:
    """What is done on the thing itself, by name: "Cross-slide screw: straighten the screw"."""
    titles = [r.title for r in (remedy_of(k, u.case.family) for k in u.remedy.members) if r.on_it_hours]
    words = "; ".join(map(small, titles))
    return f"{u.case.assembly.label}: {words}"


def _add_prove(case: Case, found: Gathered, after: str) -> None:
    hours, done = _prove_left(case)
    key = case.assembly_key
    found.add(
        f"prove.{key}", f"Prove {case.assembly.label}", hours, "prove", "prove", key, (after,), is_done=done
    )


def _still_to_read(case: Case, found: Gathered) -> None:
    """What is worth reading of an assembly nobody decided on."""
    key, label = case.assembly_key, case.assembly.label
    grade = case.job.grade(key)
    is_bad = grade is not None and grade.grade in ("accuracy", "stops")
    if case.is_measured:
        if case.state.value == "beyond":
            found.undecided.append(label)
        if case.state.value != "unknown" or not case.seen_beyond:
            return
    elif not is_bad and case.job.number_one != key:
        return
    minutes, steps = 0.0, []
    for suggestion in case.suggestions()[:3]:
        _, lot = case.lot_of(suggestion.key)
        if minutes + suggestion.minutes <= READ_MINUTES:
            minutes += suggestion.minutes
            steps.append((lot.title, suggestion.minutes / 60))
    if steps:
        found.add(f"read.{key}", f"Read {label}", minutes / 60, "read", "survey", key, steps=tuple(steps))


def _prove_left(case: Case) -> tuple[float, bool]:
    """Hours of taking again what was read before; whether all of it is."""
    minutes, left, any_before = 0.0, 0, False
    for s in case.proving():
        places = len(case.job.standing(case.assembly_key, s.key, "before"))
        again = len(case.job.standing(case.assembly_key, s.key, "after"))
        any_before |= bool(places)
        if places and again < places:
            left += places - again
            minutes += s.setting_minutes + s.minutes * (places - again)
    done = any_before and not left
    return (0.0 if done else max(0.25, minutes / 60)), done
