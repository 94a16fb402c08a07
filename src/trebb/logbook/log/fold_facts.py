"""What is stated of a job: its machine, card, limits and facts, and what of it cannot be used."""

from __future__ import annotations

from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.facts import Schema, Stored
from trebb.core.machine import KINDS, Assembly, MachineKind, RatedLimit, class_limit, kind_of, with_added
from trebb.core.register import FAMILIES
from trebb.core.stating import card_schema, limit_fact, schema_of
from trebb.logbook.log.entries import (
    AssemblyAdded,
    CardChanged,
    FactStated,
    Graded,
    JobStarted,
    LimitSet,
    MatterStated,
    NumberOneNamed,
    Unreadable,
)
from trebb.logbook.log.fold_log import JobLog, SetAside
from trebb.logbook.log.tracking import derived


class JobFacts(JobLog):
    """A job as stated."""

    @property
    def started(self) -> JobStarted | None:
        """The job's first entry, or None in an empty file."""
        self._saw("started")
        return self._latest(JobStarted)

    @property
    def identity(self) -> str:
        """What tells this job from every other, wherever its file lies and whatever it is called: when it was
        begun, and as what. "" for a file with no beginning.
        """
        self._saw("started")
        first = next(iter(self._slots.get((JobStarted,), ())), None)
        return f"{first.at} {first.body}" if first is not None else ""

    @property
    def kind_key(self) -> str:
        """The kind of machine; a file with no beginning counts as a lathe's."""
        return self.started.machine_kind if self.started else "lathe"

    @property
    def machine(self) -> MachineKind:
        """The machine: its kind, with the assemblies and pieces that were added."""
        return self._find_machine()

    def was_added(self, assembly: str) -> bool:
        """Whether an assembly is there because the shop added it."""
        return self.machine.has(assembly) and not kind_of(self.kind_key).has(assembly)

    @derived
    def _find_machine(self) -> MachineKind:
        self._saw("assemblies")
        kind = kind_of(self.kind_key)
        found: list[tuple[int, Assembly]] = []
        for slot, entries in self._slots.items():
            if slot[0] is AssemblyAdded:
                since, newest = 0, None  # taken off and added again it stands last, under what came meanwhile
                for entry in (e for e in entries if self.stands(e)):
                    if isinstance(body := entry.body, AssemblyAdded):
                        since = 0 if body.gone else since or entry.id
                        newest = body
                if since and newest is not None:
                    one = Assembly(newest.assembly, newest.label, newest.family, newest.under)
                    found.append((since, one))
        for _, one in sorted(found, key=lambda f: f[0]):
            if why_not_added(kind, one) is None:
                kind = replace(kind, assemblies=(*kind.assemblies, one))
        return with_added(kind_of(self.kind_key), kind.assemblies[len(kind_of(self.kind_key).assemblies) :])

    def _card(self, field: str) -> Stored | None:
        """The newest line of the card that stands and will do."""
        self._saw("card", field)
        schema = card_schema()
        for entry in reversed(self._slots.get((CardChanged, field), ())):
            body = entry.body
            if self.stands(entry) and isinstance(body, CardChanged) and _why(schema, body) is None:
                return body.value
        return None

    def card(self, field: str, default: str = "") -> str:
        """A line of the machine's card as text."""
        value = self._card(field)
        return default if value is None else str(value)

    def card_number(self, field: str, default: float) -> float:
        """A number of the machine's card."""
        value = self._card(field)
        return default if value is None or isinstance(value, str) else float(value)

    def grade(self, assembly: str) -> Graded | None:
        """The walk-round's grade of an assembly."""
        self._saw("grade", assembly)
        return self._latest(Graded, assembly)

    @property
    def number_one(self) -> str | None:
        """The assembly named as the number one problem."""
        self._saw("number one")
        body = self._latest(NumberOneNamed)
        known = body is not None and self.machine.has(body.assembly)
        return body.assembly if body and known else None

    def limit(self, key: str) -> RatedLimit:
        """A rated limit: as set, or the class default."""
        default = class_limit(self.started.machine_class if self.started else "ordinary", key)
        self._saw("limit", key)
        for entry in reversed(self._slots.get((LimitSet, key), ())):
            body = entry.body
            if self.stands(entry) and isinstance(body, LimitSet) and _limit_trouble(body) is None:
                return RatedLimit(key, default.label, body.limit_mm, body.source)
        return default

    def facts_of(self, assembly: str) -> dict[str, Stored]:
        """Facts stated of an assembly that will do, alone and together; see `set_aside` for the others."""
        return self._accept(assembly)[0]

    @derived
    def _accept(self, assembly: str) -> tuple[dict[str, Stored], list[SetAside]]:
        """Facts of an assembly, checked, and those that will not do."""
        self._saw("facts", assembly)
        family = next((a.family for a in self.machine.assemblies if a.key == assembly), "")
        aside: list[SetAside] = []
        newest: dict[str, tuple[int, Stored]] = {}
        schema = schema_of(family) if family else None
        for slot in self._by_first.get((FactStated, assembly), ()):
            for entry in reversed(self._slots[slot]):
                body = entry.body
                if not self.stands(entry) or not isinstance(body, FactStated):
                    continue
                why = _why(schema, body) if schema else f"this machine has no “{assembly}” with facts"
                if why is None:
                    newest[body.field] = (entry.id, body.value)
                    break
                aside.append(SetAside(entry.id, f"{assembly}, {body.field}", why))
        values = {key: value for key, (_, value) in sorted(newest.items(), key=lambda kv: kv[1][0])}
        while schema is not None and values:
            try:
                schema.subject(self.machine.works_as, assembly, values)
                break
            except InputError as error:
                last = max(values, key=lambda key: newest[key][0])
                aside.append(SetAside(newest[last][0], f"{assembly}, {last}", str(error)))
                del values[last]
        return values, aside

    def set_aside(self) -> list[SetAside]:
        """Entries that stand but cannot be used, each with its reason: nothing is dropped in silence."""
        found = [
            SetAside(e.id, f"entry of kind {e.body.stored_kind}", e.body.reason)
            for e in self._unreadable
            if isinstance(e.body, Unreadable)
        ]
        for assembly in dict.fromkeys(slot[1] for slot in self._slots if slot[0] is FactStated):
            found += self._accept(str(assembly))[1]
        for entries in self._slots.values():
            for entry in entries:
                why = None
                if isinstance(entry.body, CardChanged):
                    why = _why(card_schema(), entry.body)
                elif isinstance(entry.body, LimitSet):
                    why = _limit_trouble(entry.body)
                elif isinstance(entry.body, MatterStated):
                    why = no_matter(entry.body)
                elif isinstance(entry.body, AssemblyAdded) and not entry.body.gone:
                    why = self._not_added(entry.body)
                if why is not None and self.stands(entry):
                    found.append(SetAside(entry.id, entry.body.kind, why))
        return sorted(found, key=lambda one: one.entry)

    def _not_added(self, body: AssemblyAdded) -> str | None:
        """Why an added assembly is not part of the machine; None where it is, or was taken off since."""
        newest = self._latest(AssemblyAdded, body.assembly)
        if newest is None or newest.gone or newest is not body or self.machine.has(body.assembly):
            return None
        one = Assembly(body.assembly, body.label, body.family, body.under)
        return why_not_added(self.machine, one) or "what it is part of is not there"

    def first_stated(self, assembly: str, field: str) -> int | None:
        """Id of the entry that first stated a fact and still stands; None where none does."""
        self._saw("facts", assembly)
        return next(
            (e.id for e in self._slots.get((FactStated, assembly, field), ()) if self.stands(e)), None
        )


def why_not_added(machine: MachineKind, one: Assembly) -> str | None:
    """Why an assembly cannot be added to a machine; None where it can."""
    can = [key for key, family in FAMILIES.items() if family.added]
    if machine.has(one.key):
        return f"the machine has “{one.key}” already"
    if any(
        a.label.casefold() == one.label.strip().casefold() and a.under == one.under
        for a in machine.assemblies
    ):
        return f"there is a “{one.label}” already: another name would do"
    if one.family and one.family not in can:
        return f"“{one.family}” is none of {', '.join(can)}"
    if one.under and not machine.has(one.under):
        return f"the machine has no “{one.under}” that it could be part of"
    if one.under and machine.assembly(one.under).under:
        return f"“{one.under}” is a piece itself"
    if one.family and FAMILIES[one.family].is_piece and not one.under:
        return "a piece belongs to an assembly: say which"
    return None


def _why(schema: Schema, body: CardChanged | FactStated) -> str | None:
    """Why a stated value will not do; None where it does, or where nobody knows the field."""
    try:
        fact = schema.fact(body.field)
    except InputError as error:
        return None if isinstance(body, CardChanged) else str(error)
    try:
        fact.admitted(body.value)
    except InputError as error:
        return str(error)
    return None


def no_matter(body: MatterStated) -> str | None:
    """Why a matter's fact will not do; None where it does."""
    from trebb.core.stating.matters import matter_schema

    try:
        matter_schema(body.matter).fact(body.field).admitted(body.value)
    except InputError as error:
        return str(error)
    return None


def _limit_trouble(body: LimitSet) -> str | None:
    try:
        limit_fact(body.key).admitted(body.limit_mm)
    except InputError as error:
        return str(error)
    return None


def key_for(machine: MachineKind, label: str) -> str:
    """A key for an assembly to add, from its name: none that this or another kind of machine has."""
    plain = "".join(c if c.isascii() and c.isalnum() else "_" for c in label.strip().lower()).strip("_")
    base = (plain if plain[:1].isalpha() else f"part_{plain}".strip("_"))[:50]
    taken = {a.key for a in machine.assemblies} | {a.key for k in KINDS.values() for a in k.assemblies}
    found = (key for i in range(1, 1000) if (key := base if i == 1 else f"{base}_{i}") not in taken)
    return next(found)
