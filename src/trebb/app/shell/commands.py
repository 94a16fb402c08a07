"""From the shell, whatever the window can do with figures: the same declarations and refusals, no Qt."""

from __future__ import annotations

import argparse
import os
import re
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from msgspec.structs import asdict

from trebb.app.shell.base import FILE, Argument, open_job, pairs_of, plainly, record, say, system_of
from trebb.app.shell.job import JOB_COMMANDS
from trebb.app.shell.made import MADE_COMMANDS
from trebb.app.shell.practice import PRACTICE_COMMANDS
from trebb.app.shell.shop import SHOP_COMMANDS
from trebb.core.dual_units import in_units
from trebb.core.errors import InputError, UnreadError
from trebb.core.facts import Schema
from trebb.core.machine import CLASS_LIMITS
from trebb.core.stating import card_schema, limit_fact
from trebb.core.survey import AnySetUp, readings_typed
from trebb.core.survey.admitting import width_typed
from trebb.core.survey.steps import read_step
from trebb.core.units import LARGE_MM, UnitSystem, show_size, show_small
from trebb.logbook.cases import telling
from trebb.logbook.cases.asking import asked_first
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases, own_set_up
from trebb.logbook.cases.composing import remedy_typed
from trebb.logbook.log.entries import (
    AssemblyAdded,
    Body,
    CardChanged,
    FactStated,
    LimitSet,
    PartSet,
    Phase,
    ReadingTaken,
    RemedyChosen,
)
from trebb.logbook.log.fold import Job
from trebb.logbook.log.fold_facts import key_for
from trebb.logbook.practice.state import is_silent

CARD, LIMITS = "card", "limits"
# What a key ends in is the unit of a bare number behind it, whatever the job's units are.
UNITS = {"_mm": "mm", "_deg": "", "_rpm": "", "_n": "N", "_kn": "kN", "_nm": "N·m"}
SUFFIXES = tuple(UNITS)


ASSEMBLY: Argument = ("assembly", {"help": "such as cross_slide"})
PART: Argument = ("part", {"help": "such as screw"})
OF_PART: Argument = ("--part", {"default": "", "metavar": "ASSEMBLY"})
PAIRS: Argument = ("pairs", {"nargs": "+", "metavar": "FIELD=VALUE"})


def commands(add: Any) -> None:
    """Every command of the shell, added to the parser's sub-commands; each carries what it runs."""
    for name, words, run, arguments in _commands():
        made = add.add_parser(name, help=words)
        for key, options in arguments:
            made.add_argument(key, **options)
        made.add_argument("--json", action="store_true", help="plain values: see docs/FORMATS.md")
        made.add_argument("--units", choices=("inch", "metric"), default="inch", help="of bare numbers")
        made.set_defaults(run=run)


def _commands() -> tuple[tuple[str, str, Callable[[argparse.Namespace], int], tuple[Argument, ...]], ...]:
    """Name, help, what it runs, its arguments."""
    drawings = tuple((f"--{suffix}", {"type": Path, "metavar": "OUT"}) for suffix in ("dxf", "svg", "pdf"))
    maybe = ("pairs", {**PAIRS[1], "nargs": "*"})
    set_up: Argument = ("set_up", {"metavar": "set-up"})
    place: Argument = ("place", {})
    values = ("values", {"nargs": "+", "metavar": "value"})
    after = ("--after", {"action": "store_true", "help": "after the repair"})
    later = ("--later", {"action": "store_true", "help": "looked at again, a month or a year on"})
    sure = ("--sure", {"action": "store_true", "help": "it is what the instrument shows: nothing is asked"})
    step = (
        "--step",
        {"default": "", "help": "what it is read to: .5 thou; as its figures fall if not given"},
    )
    why = ("--why", {"default": ""})
    kind = ("--kind", {"choices": ("nut", "tap", "bar"), "default": "nut"})
    any_assembly = ("assembly", {"nargs": "?", "default": ""})
    one_part = ("--part", {**OF_PART[1], "required": True})
    label_ = ("label", {"help": "what it is called, such as “dial shaft”"})
    under = ("--under", {"default": "", "metavar": "ASSEMBLY", "help": "what a piece belongs to"})
    return (
        ("add", "add a piece or an assembly to the machine", add, (FILE, ("family", {}), label_, under)),
        ("state", "state facts of an assembly, of “card” or “limits”", state, (FILE, ASSEMBLY, PAIRS)),
        (
            "read",
            "take readings as typed",
            read,
            (FILE, ASSEMBLY, set_up, place, values, after, later, sure, step),
        ),
        ("findings", "every figure against its limit, and what to read next", findings, (FILE, OF_PART)),
        ("remedies", "what each repair would leave", remedies, (FILE, one_part)),
        ("choose", "choose a remedy", choose, (FILE, ASSEMBLY, ("remedy", {}), why)),
        *(*JOB_COMMANDS, *MADE_COMMANDS, *PRACTICE_COMMANDS, *SHOP_COMMANDS),
        (
            "quote",
            "what a firm asks for a remedy: price, days, firm; both empty take it back",
            quote,
            (
                FILE,
                ASSEMBLY,
                ("remedy", {}),
                ("price", {}),
                ("days", {}),
                ("firm", {"nargs": "?", "default": ""}),
            ),
        ),
        ("part", "sizes and checks; a field sets one", part_sizes, (FILE, ASSEMBLY, PART, maybe, *drawings)),
        ("route", "the operations of a part", route, (FILE, ASSEMBLY, PART)),
        (
            "paper",
            "as PDF: part (drawing, sizes, route), route, readings, acceptance",
            paper,
            (FILE, ("kind", {}), ASSEMBLY, ("out", {"type": Path}), ("--part", {"default": ""})),
        ),
        ("name-thread", "which thread was measured", name_thread, (PAIRS,)),
        ("will-it-fit", "whether what is offered fits", will_it_fit, (FILE, ASSEMBLY, ("marking", {}), kind)),
        ("set-ups", "the set-ups of a machine with their places", set_ups, (FILE, any_assembly)),
    )


# what a command stands on -----------------------------------------------------------------------


def _case(cases: Cases, assembly: str, *, or_copy: bool = False) -> Case:
    case = cases.of(assembly)
    if not case.has_set_ups and not (or_copy and case.has_parts):
        raise InputError(f"“{assembly}”", "nothing can be read or stated of it yet")
    return case


def _key(known: Sequence[str], key: str) -> str:
    """A field's key as declared; its unit's suffix may be left away."""
    plain = key.replace("-", "_")
    return next((plain + s for s in ("", *SUFFIXES) if plain + s in known), plain)


def with_unit(key: str, text: str) -> str:
    """A bare number, or several, with the unit that its key names: `force_n=340` are newtons."""
    unit = next((unit for suffix, unit in UNITS.items() if key.endswith(suffix)), "")
    return f"{text.strip()} {unit}" if unit and re.search(r"^[-+−\d.,;/\s]*\d\s*$", text) else text


# commands ---------------------------------------------------------------------------------------


def add(given: argparse.Namespace) -> int:
    """Add a piece, or an assembly; says the key that it goes by."""
    job_file, cases = open_job(given, writes=True)
    with job_file:
        key = key_for(cases.job.machine, given.label)
        body = AssemblyAdded(assembly=key, label=given.label[:60], family=given.family, under=given.under)
        record(job_file, cases, [body])
    told = {"assembly": key, "label": body.label, "family": body.family, "under": body.under}
    return say(given, told, [f"{key}: {body.label}"])


def state(given: argparse.Namespace) -> int:
    """State facts as typed."""
    job_file, cases = open_job(given, writes=True)
    with job_file:
        bodies = [_stated(given, cases, key, text) for key, text in pairs_of(given.pairs)]
        record(job_file, cases, bodies)
    told = [{"field": key, "value": value} for key, value in map(_field_of, bodies)]
    return say(given, told, [f"{one['field']} = {plainly(one['value'])}" for one in told])


def _stated(given: argparse.Namespace, cases: Cases, key: str, text: str) -> Body:
    system = system_of(given)
    if given.assembly == CARD:
        schema = card_schema()
        fact = schema.fact(_key([f.key for f in schema.facts], key))
        return CardChanged(field=fact.key, value=fact.typed(with_unit(key, text), system))
    if given.assembly == LIMITS:
        if key not in CLASS_LIMITS["ordinary"]:
            raise InputError(f"limit “{key}”", f"limits are {', '.join(CLASS_LIMITS['ordinary'])}")
        label = CLASS_LIMITS["ordinary"][key].label
        limit_mm = float(limit_fact(label).typed(text, system))
        return LimitSet(key=key, limit_mm=limit_mm, source="from this machine's own card")
    case = _case(cases, given.assembly, or_copy=True)
    schema = case.schema or Schema((), lambda *_: None)
    fact = schema.fact(_key([f.key for f in schema.facts], key))
    value = fact.typed(with_unit(key, text), system)
    return FactStated(assembly=case.holder, field=key if fact is schema.numbered else fact.key, value=value)


def _field_of(body: Body) -> tuple[str, Any]:
    match body:
        case CardChanged(field=field, value=value) | FactStated(field=field, value=value):
            return field, value
        case LimitSet(key=key, limit_mm=value):
            return key, value
        case PartSet(field=field, value=value):
            return field, value
    raise TypeError(type(body).__name__)


def read(given: argparse.Namespace) -> int:
    """Take readings as typed, all at one place, in one gesture."""
    job_file, cases = open_job(given, writes=True)
    with job_file:
        case = _case(cases, given.assembly)
        s = own_set_up(case, given.set_up)
        phase: Phase = "later" if given.later else "after" if given.after else "before"
        bodies: list[ReadingTaken] = []
        step = read_step(s, case.subject, given.step, system_of(given)) if given.step else 0.0
        for text in given.values:
            known = case.place_keys(s.key)
            place = next((p for p in known if p.casefold() == given.place.casefold()), given.place)
            if place in known:
                found = readings_typed(s, case.read_as(phase), place, text, system_of(given))
            else:
                # The sentence about the place comes from where every reading is admitted.
                found = [(place, 0.0)]
            if not given.sure:
                _refuse_asked(case, s, phase, text, found, bodies, system_of(given))
            width = width_typed(s, case.subject, text, system_of(given)) or step
            bodies += [
                ReadingTaken(given.assembly, s.key, at, phase, raw, s.unit, text.strip(), "typed", width)
                for at, raw in found
            ]
        record(job_file, cases, bodies)
    told = {
        "assembly": given.assembly,
        "set_up": s.key,
        "place": given.place,
        "phase": phase,
        "unit": s.unit,
        "values": [body.value for body in bodies],
    }
    return say(given, told, [f"{len(bodies)} taken at {s.title.lower()}, {given.place}"])


def _refuse_asked(
    case: Case,
    s: AnySetUp,
    phase: Phase,
    text: str,
    found: Sequence[tuple[str, float]],
    before: Sequence[ReadingTaken],
    system: UnitSystem,
) -> None:
    """Raises InputError for readings that are asked about before they count."""
    for place, raw in found:
        also = [body.value for body in before if body.place == place]
        doubt = asked_first(case, s, phase, place, raw, text, system, also)
        if doubt:
            raise InputError(f"“{text.strip()}” at {place}", f"{doubt} With --sure it is taken as it is")


def findings(given: argparse.Namespace) -> int:
    """What the readings say."""
    job_file, cases = open_job(given)
    with job_file:
        if is_silent(cases.job):
            raise InputError(
                "a hidden machine", "what is wrong is yours to say: trebb verdict FILE CAUSE SURE"
            )
        told = telling.machine_told(cases, system_of(given), given.part)
    lines = [told["machine"]]
    for part in told["parts"]:
        lines.append(f"{part['label']}: {part['state']}. {part['head']}")
        for m in part["figures"]:
            show = show_size if m["value_mm"] > LARGE_MM else show_small
            size, low, high = (show(m[k], system_of(given)) for k in ("value_mm", "low_mm", "high_mm"))
            lines.append(
                f"  {in_units(m['label'], system_of(given))}: {size}, {low} to {high}, limit "
                f"{show_small(m['limit_mm'], system_of(given))}"
            )
        lines += [f"  {f['sentence']} {f['next']}" for f in part["findings"][1:]]
        lines += [f"  set aside: {reason}" for reason in part["set_aside"]]
        lines += [f"  next: {a['set_up']}, {a['minutes']:g} min: {a['settles']}" for a in part["advice"][:3]]
    lines += [f"set aside: {reason}" for reason in told["set_aside"]]
    return say(given, told, lines)


def remedies(given: argparse.Namespace) -> int:
    """What each repair would leave."""
    job_file, cases = open_job(given)
    with job_file:
        case = _case(cases, given.part)
        told = telling.remedies_told(case, system_of(given))
        waits = case.advice_words() if case.has_set_ups and not is_silent(cases.job) else ""
        if is_silent(cases.job):
            told = [{**r, "is_advised": False} for r in told if r["is_chosen"] or not r["together"]]
    lines = []
    for r in told:
        mark = "chosen: " if r["is_chosen"] else "advised: " if r["is_advised"] else ""
        left = "; ".join(
            f"{x['figure']} cannot be told"
            if x["state"] == "unknown"
            else f"{x['figure']} {show_small(x['value_mm'], system_of(given))}, {x['state']}"
            for x in r["left"]
        )
        hinder = f" ({r['hinder']})" if r["hinder"] else ""
        lines.append(
            f"{mark}{r['key']}: {r['title']}, {r['hours']:g} h, {r['cost']:g}; leaves {left}{hinder}"
        )
    if waits:
        lines.append(waits)
    return say(given, told, lines)


def choose(given: argparse.Namespace) -> int:
    """Choose a remedy."""
    job_file, cases = open_job(given, writes=True)
    with job_file:
        case = _case(cases, given.assembly)
        chosen = remedy_typed(case, given.remedy)
        hinder = chosen.hinder(case.subject)
        if hinder:
            raise InputError(f"remedy “{given.remedy}”", hinder)
        record(job_file, cases, [RemedyChosen(given.assembly, chosen.key, given.why)])
    told = {"assembly": given.assembly, "remedy": chosen.key, "why": given.why}
    return say(given, told, [f"Chosen: {chosen.title}"])


def quote(given: argparse.Namespace) -> int:
    """Record what a firm asks for a remedy."""
    from trebb.logbook.cases.quotes import quote_read, quote_typed

    job_file, cases = open_job(given, writes=True)
    with job_file:
        case = _case(cases, given.assembly)
        quoted = remedy_typed(case, given.remedy)
        body = quote_typed(given.assembly, quoted.key, given.price, given.days, given.firm)
        record(job_file, cases, [body])
    found = quote_read(body.text)
    said = found.words if found is not None else "no quote"
    return say(given, {"remedy": quoted.key, "quote": said}, [f"{quoted.title}: {said}"])


def part_sizes(given: argparse.Namespace) -> int:
    """A part's sizes and checks, set by hand where fields are given; drawn where a file is named."""
    from trebb.core.parts import all_families

    job_file, cases = open_job(given, writes=bool(given.pairs))
    with job_file:
        case, system = _case(cases, given.assembly, or_copy=True), system_of(given)
        _known_part(case, given.part, [f.key for f in all_families()])
        fields = {f.key: f for f in case.part_fields(given.part, system)}
        bodies: list[Body] = []
        for key, text in pairs_of(given.pairs):
            if _key(list(fields), key) not in fields:
                raise InputError(f"field “{key}”", f"fields of this part are {', '.join(fields)}")
            field = fields[_key(list(fields), key)]
            value = field.typed(with_unit(key, text), system)
            bodies.append(PartSet(case.part_name(given.part), field.key, value))
        if bodies:
            record(job_file, cases, bodies)
            cases = Cases(Job(job_file.entries()))
            case = cases.of(given.assembly)
        told = telling.part_told(case, given.part, system)
        for suffix in ("dxf", "svg", "pdf"):
            if getattr(given, suffix) is not None:
                _draw(case, given.part, system, getattr(given, suffix), f".{suffix}")
    lines = [f"{told['title']}, {told['material']}, from {told['stock']}"]
    lines += [f"  ?   {told['usual']}"] if told["usual"] else []
    lines += [f"  {'ok ' if c['is_ok'] else 'NO '} {c['sentence']}" for c in told["checks"]]
    return say(given, told, lines)


def _known_part(case: Case, key: str, families: Sequence[str]) -> None:
    known = dict.fromkeys((*case.part_keys(), *case.default_parts, *case.extra_parts()))
    made_here = key in families and case.makes(key)
    if key not in known and not made_here:
        raise InputError(f"part “{key}”", f"parts of this assembly are {', '.join(known) or 'none'}")


def _without_window() -> None:
    """Fonts and pages come from Qt, whether there is a display or not."""
    if not (os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY")):
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")


def paper(given: argparse.Namespace) -> int:
    """A paper of the job as PDF."""
    _without_window()
    from trebb.app.papers.of_job import paper_of
    from trebb.app.papers.paper import write_pdf
    from trebb.app.window.gui import application

    job_file, cases = open_job(given)
    with job_file:
        application()
        made = paper_of(cases, cases.of(given.assembly), given.kind, given.part, system_of(given))
        pages = write_pdf(made, given.out)
    words = f"Written: {given.out} ({pages} page{'s' if pages > 1 else ''})"
    return say(given, {"written": str(given.out), "title": made.title, "pages": pages}, [words])


def _draw(case: Case, key: str, system: UnitSystem, path: Path, suffix: str) -> None:
    _without_window()
    from trebb.app.parts.drawing_title import title_of
    from trebb.app.parts.drawing_view import WRITERS
    from trebb.app.window.gui import application

    application()
    WRITERS[suffix](case.part(key, system), system, path, title_of(case))


def route(given: argparse.Namespace) -> int:
    """The operations of a part."""
    from trebb.core.parts import all_families

    job_file, cases = open_job(given)
    with job_file:
        case = _case(cases, given.assembly, or_copy=True)
        _known_part(case, given.part, [f.key for f in all_families()])
        told = telling.route_told(case, given.part, system_of(given))
    return say(given, told, [f"{o['number']:4d}  {o['title']}: {o['detail']}" for o in told])


def name_thread(given: argparse.Namespace) -> int:
    """Which thread was measured, likeliest first."""
    from trebb.core.families.screw_drive.seen_thread import SCHEMA
    from trebb.core.threads.naming import name_thread as named

    known = [f.key for f in SCHEMA.facts]
    stated = {}
    for key, text in pairs_of(given.pairs):
        fact = SCHEMA.fact(_key(known, key))
        stated[fact.key] = fact.typed(with_unit(key, text), system_of(given))
    seen = SCHEMA.subject("", "", stated)
    if not seen.is_enough:
        raise InputError("too little to go by", "give pitch_mm or lead_mm, and major_mm or worn_major_mm")
    found = named(seen)
    first = found.candidates[:6]
    telling_apart = None
    if found.telling is not None and len(first) > 1:
        one, other = (c.spec.designation for c in first[:2])
        telling_apart = found.telling.words(system_of(given), one, other)
    told = {
        "is_sure": found.is_sure,
        "candidates": [
            {
                "designation": c.spec.designation,
                "likelihood": c.likelihood,
                "form": c.spec.form.value,
                "major_mm": c.spec.major_mm,
                "pitch_mm": c.spec.pitch_mm,
                "starts": c.spec.starts,
                "hand": c.spec.hand.value,
                "is_standard": c.series is not None,
            }
            for c in first
        ],
        "tells_apart": telling_apart,
    }
    lines = [f"{c.likelihood:6.1%}  {c.spec.designation}" for c in first]
    return say(given, told, [*lines, *([telling_apart] if telling_apart else [])])


def will_it_fit(given: argparse.Namespace) -> int:
    """Whether something offered fits the screw that is there."""
    from trebb.core.threads.marking import parse_marking
    from trebb.core.threads.offered import Offered, will_fit
    from trebb.logbook.cases.drive_case import DriveCase

    job_file, cases = open_job(given)
    with job_file:
        case = _case(cases, given.assembly)
        if not isinstance(case, DriveCase):
            raise InputError(f"“{given.assembly}”", "it is no feed screw")
        offered = parse_marking(given.marking, case.drive.thread)
        there = case.thread_there
        if there is None:
            raise UnreadError(
                "Nothing to hold it against", "measure a pitch and a diameter, or state the thread"
            )
        found = will_fit(there, offered, Offered(given.kind), system_of(given))
    told = {"marking": given.marking, "read_as": offered.designation, "kind": given.kind, **asdict(found)}
    return say(given, told, [f"{offered.designation}: {found.head} {found.text}"])


def set_ups(given: argparse.Namespace) -> int:
    """The set-ups of a machine with their places."""
    job_file, cases = open_job(given)
    with job_file:
        if given.assembly:
            _case(cases, given.assembly)
        told = telling.set_ups_told(cases, given.assembly)
    lines = []
    for one in told:
        lines.append(
            f"{one['assembly']} {one['set_up']}: {one['title']}, in {one['unit']}, {one['wanted']} times"
        )
        lines += [f"    {place}" for place in one["places"]]
    return say(given, told, lines)
