"""What a job teaches, line by line: worked out from its own entries, as usual figures would say it."""

from __future__ import annotations

import datetime
import hashlib
import math
from collections.abc import Iterator

import numpy as np
from msgspec import Struct

from trebb.core.condition import ReadingsOnly
from trebb.core.errors import TrebbError
from trebb.core.memory.blending import pooled_ratio
from trebb.core.memory.taught import USUAL
from trebb.core.parts import SizeRow
from trebb.core.stating.work import FIGURES
from trebb.core.survey import AnySetUp, PlaceReadings, set_up
from trebb.core.threads import Band
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import Case, Cases
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.fold import Job
from trebb.logbook.memory.shop import JobGiven, LessonKept, ThingKept
from trebb.logbook.plan.job_tasks import told_of
from trebb.logbook.plan.made_work import WORK, came_of, pieces_of
from trebb.logbook.plan.suspicion import causes_table, marks_of
from trebb.logbook.plan.task_gathering import gather
from trebb.logbook.plan.work import PLAN

LEAST_DEGREES = 3  # of freedom below which repeats teach nothing
STEP_SHARE = 0.29  # sd of a figure rounded to a step: 1/√12
WORK_SD = 0.35  # logarithmic spread of the hours of one task about its plan, beside the shop's own pace
WAIT_SD = 0.25
# A source was read where it is known to that share of how such machines differ: of two that only their
# sum is known of, each is known far less well.
KNOWN_SHARE, TIED = 0.5, -0.5
ANSWER_SD = 0.13
KINDS_OF_WORK = {
    "make": "making parts",
    "fit": "putting together",
    "prove": "proving",
    "strip": "taking down",
    "refit": "putting up again",
    "read": "reading",
    "own": "tasks of one's own",
}
DELIVERIES = {"comes": "parts that are ordered", "back": "work sent out"}


class Line(Struct, frozen=True):
    """One line to be given or kept back: what it is in words, and what is kept."""

    words: str
    lesson: LessonKept | None = None
    thing: ThingKept | None = None


def job_name(job_file: JobFile) -> str:
    """The name a job has in the memory: the same wherever its file is moved to."""
    entries = job_file.entries()
    first = f"{entries[0].at}/{entries[0].id}" if entries else str(job_file.path)
    started = next((e.body for e in entries if e.body.kind == "job.started"), None)
    machine = getattr(started, "machine", "job")
    return f"{machine[:60]} {hashlib.sha256(first.encode()).hexdigest()[:8]}"


def given(job_file: JobFile, job: Job) -> JobGiven:
    """The entry that a job gave."""
    started = job.started
    return JobGiven(
        job=job_name(job_file),
        machine=started.machine if started else job_file.path.stem,
        machine_kind=job.kind_key,
        shop=started.shop if started else "",
        path=str(job_file.path),
    )


def lessons(name: str, job: Job, now: datetime.datetime) -> list[Line]:
    """Everything a job teaches, in the order it is shown; a simulated machine teaches nothing."""
    cases = Cases(job)
    if any(job.planted(a.key) is not None for a in cases.kind.assemblies):
        return []
    found: list[Line] = []
    found += _noise(name, cases)
    for case in cases.measurable():
        try:
            found += _worn(name, case)
            found += _left(name, case)
        except TrebbError:  # it cannot be worked out as it stands: it teaches nothing
            continue
    found += _pieces(name, cases)
    found += _times(name, cases, now)
    found += _things(name, cases)
    return found


# instruments ----------------------------------------------------------------------------------


def _noise(name: str, cases: Cases) -> Iterator[Line]:
    """How readings of each kind of instrument repeat, pooled over the places read more than once."""
    pooled: dict[str, tuple[float, int]] = {}
    for case in cases.measurable():
        for s in case.set_ups:
            for phase in ("before", "after", "later"):
                for place in case.known_at(s.key, phase):
                    told = _scatter(case, s, place)
                    if told is not None:
                        squares, degrees = pooled.get(s.instrument.value, (0.0, 0))
                        pooled[s.instrument.value] = (squares + told[0], degrees + told[1])
    for kind, (squares, degrees) in pooled.items():
        if degrees >= LEAST_DEGREES:
            value, sd = pooled_ratio(squares / degrees, degrees, 1.0)
            yield Line(
                f"{kind}: {degrees + 1} repeats scatter {math.exp(value):.1f} times the usual",
                LessonKept(job=name, topic="noise", of=kind, value=value, sd=sd),
            )


def _scatter(case: Case, s: AnySetUp, place: PlaceReadings) -> tuple[float, int] | None:
    """Sum of squares about the mean of a place's repeats in usual standard deviations, and its degrees of
    freedom; of no place does it come to less than what rounding hides.
    """
    if len(place.values) < 2:
        return None
    subject = case.subject_for("before")
    try:
        usual = s.row(subject, place.place).noise_sd
        reduced = [s.reduce(subject, place.place, v) for v in place.values]
    except (TrebbError, KeyError, ValueError):
        return None
    if usual <= 0:
        return None
    mean = sum(reduced) / len(reduced)
    degrees = len(reduced) - 1
    step = abs(s.reduce(subject, place.place, s.step(subject)) - s.reduce(subject, place.place, 0.0))
    hidden = (STEP_SHARE * step) ** 2 * degrees
    return (max(sum((v - mean) ** 2 for v in reduced), hidden) / usual**2, degrees)


# machines -------------------------------------------------------------------------------------


def _worn(name: str, case: Case) -> Iterator[Line]:
    """Wear, play and float as they were found, and a bed's answer to its shims."""
    if case.holder != case.assembly_key:
        return  # a lathe's bed is one in space: its ways say it
    alone, model = case.alone, case.model_for("before")
    if not alone.readings:
        return
    kind = case.kind.works_as
    for s in model.sources:
        is_answer = s.key == "answer"
        if (not s.is_clearance and not is_answer) or (s.loose <= 1 and not is_answer):
            continue
        q = alone.source(s.key)
        # Kept by how well it is known and never by how much it is: what is well told is the larger wear.
        if q.sd > (ANSWER_SD if is_answer else KNOWN_SHARE * s.sd) or _is_tied(alone, s.key):
            continue  # of a part of a sum nothing is learned
        if is_answer:
            words = f"the bed answers a shim by {q.value:.2f} ± {2 * q.sd:.2f}"
            yield Line(
                words, LessonKept(job=name, topic="answer", of=f"{kind}/ways/answer", value=q.value, sd=q.sd)
            )
            continue
        yield Line(
            f"{case.assembly.label}, {s.label}: {q.value:.3f} ± {2 * q.sd:.3f} mm",
            LessonKept(
                job=name,
                topic="wear",
                of=f"{kind}/{case.family}/{s.key}",
                value=q.value,
                sd=q.sd,
                words=s.label[:200],
            ),
        )


def _is_tied(alone: ReadingsOnly, key: str) -> bool:
    """Whether a source is known only together with another: more of one is less of the other."""
    i = alone.model.position(key)
    sds = np.sqrt(np.diag(alone.covariance))
    tied = alone.covariance[i] / np.maximum(sds * sds[i], 1e-300)
    return bool((np.delete(tied, i) < TIED).any())


def _left(name: str, case: Case) -> Iterator[Line]:
    """What was left against what was foretold: how many of its standard deviations it came out away."""
    if case.chosen is None:
        return
    for row in case.comparisons():
        if row.predicted_mm is None or not row.predicted_half_mm:
            continue
        sd = row.predicted_half_mm / 1.96
        z = (row.after_mm - row.predicted_mm) / sd
        title = set_up(row.set_up).title
        yield Line(
            f"{case.assembly.label}, {title.lower()}, {row.place}: {row.predicted_mm:.3f} ± "
            f"{row.predicted_half_mm:.3f} mm foretold, {row.after_mm:.3f} came",
            LessonKept(
                job=name, topic="left", of=case.family, value=z, sd=1.0, words=f"{title}, {row.place}"[:200]
            ),
        )


def _pieces(name: str, cases: Cases) -> Iterator[Line]:
    """What pieces of work came out as against what was foretold of them."""
    for piece in pieces_of(cases):
        for came in came_of(cases, piece, USUAL):
            q = came.foretold.value
            label = FIGURES[came.figure].label.lower()
            yield Line(
                f"{piece.title}, {label}: {q.value:.3f} ± {q.half_width:.3f} mm foretold, "
                f"{came.made_mm:.3f} came",
                LessonKept(
                    job=name,
                    topic="left",
                    of=WORK,
                    value=came.away,
                    sd=1.0,
                    words=f"{piece.title}, {label}"[:200],
                ),
            )


# time and money -------------------------------------------------------------------------------


def _times(name: str, cases: Cases, now: datetime.datetime) -> Iterator[Line]:
    """Hours, days and money against what was planned."""
    try:
        gathered = gather(cases)
        work = told_of(cases, gathered, now)
    except TrebbError:
        return
    hours: dict[str, tuple[float, float, int]] = {}
    for w in work:
        if w.is_done and not w.task.waits and w.spent > 0.05 and w.planned > 0.1:
            planned, spent, count = hours.get(w.kind, (0.0, 0.0, 0))
            hours[w.kind] = (planned + w.planned, spent + w.spent, count + 1)
    for kind, (planned, spent, count) in hours.items():
        yield Line(
            f"{KINDS_OF_WORK.get(kind, kind)}: {spent:.1f} h for {planned:.1f} h planned",
            LessonKept(
                job=name,
                topic="hours",
                of=kind,
                value=math.log(spent / planned),
                sd=WORK_SD / math.sqrt(count),
            ),
        )
    befores = {w.task.key: w.task.after for w in gathered.work}
    for w in work:
        head = w.task.key.split(".")[0]
        if head not in DELIVERIES or not w.is_done or w.planned < 12:
            continue
        here = cases.job.done_at(PLAN, w.task.key)
        asked = [at for k in befores.get(w.task.key, ()) if (at := cases.job.done_at(PLAN, k))]
        if here is None or not asked:
            continue
        took = (_time(here) - max(map(_time, asked))).total_seconds() / 3600
        if took > 1:
            yield Line(
                f"{w.task.title}: {took / 24:.0f} days for {w.planned / 24:.0f}",
                LessonKept(job=name, topic="wait", of=head, value=math.log(took / w.planned), sd=WAIT_SD),
            )
    costs = sum(gathered.costs.values())
    paid = sum(w.paid for w in work)
    if costs > 0 and paid > 0 and all(w.is_done for w in work):
        yield Line(
            f"{paid:.0f} paid for {costs:.0f} planned",
            LessonKept(job=name, topic="price", of="remedies", value=math.log(paid / costs), sd=0.2),
        )


def _time(text: str) -> datetime.datetime:
    return datetime.datetime.fromisoformat(text)


# to be found again ----------------------------------------------------------------------------


def _things(name: str, cases: Cases) -> Iterator[Line]:
    """Parts with what was set of them, threads as named, symptoms with what it was."""
    for case in cases.measurable():
        spec = getattr(case.subject, "thread", None)
        if spec is not None and "pitch_mm" in case.facts:
            words = f"{case.assembly.label}: {spec.designation}"
            yield _thing(name, "thread", case.assembly_key, words, dict(case.facts))
        if case.chosen is None:
            continue
        for key in case.part_keys():
            try:
                part, facts = case.part(key), _sizes_of(case, key)
            except TrebbError:
                continue
            # What it was made to, beside what its fields had: found, not copied.
            facts |= {f"made {row.label}": v for row in part.rows if (v := _made_to(row)) is not None}
            yield _thing(name, "part", f"{case.family}/{key}", f"{part.title}, {case.assembly.label}", facts)
        if case.is_measured:
            found = case.findings(UnitSystem.METRIC)
            if found:
                yield _thing(
                    name, "machine", case.assembly_key, f"{case.assembly.label}: {found[0].sentence}", {}
                )
    yield from _symptoms(name, cases)


def _sizes_of(case: Case, key: str) -> dict[str, str | float]:
    """What a part's fields had, set by hand or worked out; not what was only usual."""
    usual, own = case.usual_fields(key), case.part_facts(key)
    return {
        f.key: value
        for f in case.part_fields(key)
        if f.key not in usual and isinstance(value := own.get(f.key, f.default), str | float)
    }


def _made_to(row: SizeRow) -> float | None:
    """A size of a part's list, mm, of a limited one its middle."""
    if isinstance(row.value, Band):
        return row.value.middle_mm
    return float(row.value) if row.kind in ("size", "small") and isinstance(row.value, int | float) else None


def _symptoms(name: str, cases: Cases) -> Iterator[Line]:
    """What the owner heard, felt or saw, with what it was: what was found beyond its limit where it was
    said to be, or at the number one problem.
    """
    table, _ = causes_table()
    words = {s.key: s.words for s in table.symptoms}
    for key, marked in marks_of(cases).items():
        if not marked.there:
            continue
        at = marked.assembly or cases.job.number_one or ""
        was = ""
        if at and cases.kind.has(at):
            case = cases.of(at)
            beyond = case.findings(UnitSystem.METRIC)[:1] if case.is_measured else []
            was = f"; it was: {beyond[0].sentence}" if beyond else ""
        yield _thing(name, "symptom", key, f"{words.get(key, key)}{was}", {})


def _thing(name: str, what: str, of: str, words: str, facts: dict[str, str | float]) -> Line:
    kept = ThingKept(job=name, what=what, of=of[:200], words=words[:2000], facts=facts)  # type: ignore[arg-type]
    return Line(f"to be found again, {what}: {words}", thing=kept)
