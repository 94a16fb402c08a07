"""What a case stands on: the assembly, its stated facts, the lathe that makes its parts, its limits."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from fractions import Fraction
from typing import Any, Protocol

from trebb.core.condition import ErrorModel
from trebb.core.facts import Fact, Schema, Stored
from trebb.core.findings import Measure
from trebb.core.machine import Assembly, MachineKind, RatedLimit
from trebb.core.machine.workshop import Workshop, ratio_from, wheels_from
from trebb.core.memory.taught import Taught
from trebb.core.stating import schema_of
from trebb.core.survey import AnySetUp, Place, set_up, set_ups_of
from trebb.logbook.log.fold import Job
from trebb.logbook.log.tracking import Node, derived


class Neighbours(Protocol):
    """The other assemblies of the job, for what one rests on of another; and what other jobs taught."""

    taught: Taught

    def of(self, assembly: str) -> Any:
        """The case of an assembly; raises InputError where the machine has none."""
        ...


class StatedCase:
    """An assembly of a job as stated. Families fill in what differs."""

    family = ""

    default_parts: tuple[str, ...] = ()
    optional_parts: tuple[str, ...] = ()  # made along with them where one asks for it

    def __init__(self, job: Job, assembly: str, cases: Neighbours | None = None) -> None:
        self.job = job
        self.assembly_key = assembly
        self.cases = cases
        self.nodes: dict[tuple[object, ...], Node] = {}

    @property
    def kind(self) -> MachineKind:
        """The kind of machine."""
        return self.job.machine

    @property
    def assembly(self) -> Assembly:
        """The assembly this case is about."""
        return self.kind.assembly(self.assembly_key)

    @property
    def has_set_ups(self) -> bool:
        """Whether there is anything to read on this assembly."""
        return bool(self.family)

    @property
    def has_parts(self) -> bool:
        """Whether parts of it can be made here."""
        return self.has_set_ups

    @property
    def holder(self) -> str:
        """The assembly that its facts are kept under."""
        return (self.schema.holder if self.schema else "") or self.assembly_key

    @property
    def schema(self) -> Schema | None:
        """The facts that may be stated of it; None where there are none."""
        return schema_of(self.family) if self.family else None

    @property
    def facts(self) -> dict[str, Stored]:
        """What is stated of it and will do, as stored."""
        return self.job.facts_of(self.holder)

    @property
    @derived
    def subject(self) -> Any:
        """What the core is told of the assembly: a screw drive, a spindle."""
        return self.as_stated()

    def as_stated(self) -> Any:
        """The subject by what is stated alone, its other sizes usual; None where nothing can be."""
        schema = self.schema
        if schema is None:
            return None
        stated = {schema.fact(key).name for key in self.facts}
        return self.in_own_units(
            schema.subject(self.kind.works_as, self.assembly_key, self.facts), frozenset(stated)
        )

    def in_own_units(self, subject: Any, stated: frozenset[str] = frozenset()) -> Any:
        """A subject with its usual sizes called as this machine's are, where that is said."""
        called = self.job.card("units")
        if not called:
            return subject
        from trebb.core.stating.own_units import in_own_units

        return in_own_units(subject, stated, inch=called == "inch")

    def stated(self, fact: Fact) -> Any:
        """The value of a fact, for showing: as stated, else as usual; None where neither is."""
        found = getattr(self.subject, fact.name, None)
        return self.facts.get(fact.key) if found is None else found

    def model_for(self, phase: str) -> ErrorModel:
        """Sources of error with their prior."""
        raise NotImplementedError

    def read_as(self, phase: str) -> Any:
        """The subject by which what an instrument shows in a phase is understood: after the repair what was
        made stands in the machine.
        """
        return self.subject

    def subject_for(self, phase: str) -> Any:
        """The subject with what its readings of a phase say of themselves."""
        return self.subject

    @property
    @derived
    def set_ups(self) -> tuple[AnySetUp, ...]:
        """The set-ups this assembly has, in order."""
        return tuple(s for s in set_ups_of(self.family) if s.applies(self.subject)) if self.family else ()

    @derived
    def places(self, key: str) -> tuple[Place, ...]:
        """The places of a set-up, in order."""
        return tuple(set_up(key).places(self.subject))

    def proving(self) -> tuple[AnySetUp, ...]:
        """The set-ups taken again after the repair."""
        return tuple(s for s in self.set_ups if s.is_proof)

    def set_ups_in(self, phase: str) -> tuple[AnySetUp, ...]:
        """The set-ups of a phase: "before" the repair, "after" it, or "later"."""
        return self.set_ups if phase == "before" else self.proving()

    @property
    @derived
    def workshop(self) -> Workshop:
        """The lathe that makes the parts: this machine, if it is one."""
        job, plain = self.job, Workshop()
        inch = job.card("lead_screw_unit", "inch") == "inch"
        number = Fraction(job.card_number("lead_screw", 8.0)).limit_denominator(1000)
        if not job.card("lead_screw") and (lead := self._named_lead()) is not None:
            turns = Fraction(254, 10) / lead
            inch = turns.denominator <= 2
            number = turns if inch else lead
        wheels, ratio = job.card("wheels"), job.card("gear_ratio")
        return Workshop(
            1 / number if inch else number,
            inch,
            int(job.card_number("dial_gear", plain.dial_gear_teeth)),
            int(job.card_number("dial_marks", plain.dial_marks)),
            job.card_number("spindle_bore_mm", plain.spindle_bore_mm),
            job.card("compound_from", "cross slide") == "bed axis",
            job.card_number("compound_division_mm", plain.compound_division_mm),
            self.dial_reads_diameter(),
            wheels=wheels_from(wheels) if wheels else plain.wheels,
            wheel_module_mm=job.card_number("wheel_module_mm", plain.wheel_module_mm),
            stud_to_screw_mm=job.card_number("stud_to_screw_mm", plain.stud_to_screw_mm),
            press_n=1000 * job.card_number("press_kn", plain.press_n / 1000),
            gear_ratio=ratio_from(ratio) if ratio else plain.gear_ratio,
            is_bore_known=bool(job.card("spindle_bore_mm")),
        )

    def _named_lead(self) -> Fraction | None:
        """The lead of the lathe's own lead screw, mm, where survey named it; None where it did not."""
        stated = self.job.facts_of("lead_screw")
        if "pitch_mm" not in stated:
            return None
        from trebb.core.gears.trains import exact_lead

        return exact_lead(float(stated["pitch_mm"]) * float(stated.get("starts", 1.0)))

    def dial_reads_diameter(self) -> bool:
        """Whether the lathe's cross-slide dial counts the diameter."""
        return self.job.facts_of("cross_slide").get("reads") == "diameter"

    @property
    def figures(self) -> Sequence[Measure]:
        """What is known of it against its limits, the worst against its limit first."""
        return ()

    @property
    def figures_after(self) -> Sequence[Measure]:
        """The same by what was read after the repair; none where nothing was."""
        return ()

    def limit_keys(self) -> Sequence[str]:
        """Keys of the limits this assembly is judged by."""
        return ()

    @property
    def judged(self) -> Measure:
        """The figure remedies are compared by: the one furthest toward or over its limit."""
        raise NotImplementedError

    @property
    def limit(self) -> RatedLimit:
        """The limit of the judged figure."""
        return self.judged.limit

    def turn_limit(self, s: AnySetUp) -> RatedLimit:
        """The limit that a turn read at a set-up is drawn against."""
        return self.usual_limit

    def part_name(self, key: str) -> str:
        """Name of a part in the logbook: two slides of one machine each have their own gib."""
        return key if self.assembly_key in ("cross_slide", "spindle") else f"{key}.{self.assembly_key}"

    def part_facts(self, key: str) -> Mapping[str, str | float]:
        """What was set by hand of a part."""
        return self.job.part_facts(self.part_name(key))

    @property
    def usual_limit(self) -> RatedLimit:
        """The limit of the family's first measure."""
        return self.limit
