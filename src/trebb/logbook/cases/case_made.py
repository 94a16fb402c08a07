"""The parts of a case: as worked out, bought or made, and their operations."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Any

from msgspec.structs import replace

from trebb.core.dual_units import in_units
from trebb.core.errors import TrebbError
from trebb.core.units import UnitSystem
from trebb.logbook.cases.case_mended import MendedCase
from trebb.logbook.log.own import own_told
from trebb.logbook.log.tracking import derived

if TYPE_CHECKING:  # loaded when their stop is first opened
    from trebb.core.making.bought import Offer
    from trebb.core.making.infeed import InfeedScheme
    from trebb.core.making.operations import Operation, SizeTarget
    from trebb.core.parts import Check, Part, PartField, PartInputs


class MadeCase(MendedCase):
    """An assembly and what is made for it."""

    @property
    def is_written(self) -> bool:
        """Whether a part without set-ups has something to show: own words, or a part copied and sized."""
        if self.has_set_ups:
            return False
        if own_told(self.job, self.assembly_key):
            return True
        return self.has_parts and any(self._has_sizes(key) for key in self.part_keys())

    def _has_sizes(self, key: str) -> bool:
        try:
            return any(self.job.sizes(self.part_name(key), o.key) for o in self.route(key))
        except TrebbError:  # it cannot be worked out as set by hand
            return False

    def part_keys(self) -> tuple[str, ...]:
        """Parts of the chosen remedy, or the family's usual ones before one is chosen; and what is made
        too.
        """
        chosen = self.chosen
        too = tuple(key for key in self.optional_parts if self.is_made_too(key))
        return (chosen.parts if chosen else self.default_parts) + too

    def parts_here(self) -> tuple[str, ...]:
        """Parts that the shop makes or buys itself: of what is given out none, unless the work outside is on
        the thing itself; then what goes with it is made here.
        """
        from trebb.logbook.cases.quotes import quote_of

        chosen = self.chosen
        if chosen is None or chosen.on_it_hours or quote_of(self.job, self.assembly_key, chosen.key) is None:
            return self.part_keys()
        return ()

    def extra_parts(self) -> tuple[str, ...]:
        """Parts that may be made along with them, looked at before they are wanted."""
        return tuple(key for key in self.optional_parts if not self.is_made_too(key))

    def part_facts(self, key: str) -> Mapping[str, str | float]:
        """What was set by hand of a part; that it is bought, where the chosen remedy buys it and nobody said
        otherwise.
        """
        from trebb.core.making.bought import BUY

        facts, chosen = super().part_facts(key), self.chosen
        return {"get": BUY, **facts} if chosen is not None and key in chosen.buys else facts

    def is_made_too(self, key: str) -> bool:
        """Whether one asked for an optional part."""
        return self.part_facts(key).get("make") == "yes"

    def makes(self, key: str) -> bool:
        """Whether a part family is of this family of assemblies."""
        from trebb.core.parts import family

        return family(key).assembly == self.family

    def reminder(self, key: str) -> str:
        """What is easily forgotten while making a part."""
        from trebb.core.parts import family

        return family(key).reminder

    @property
    def scheme(self) -> InfeedScheme:
        """The school of infeed in use: as chosen by hand, else by the compound."""
        from trebb.core.making.infeed import InfeedScheme

        return InfeedScheme[
            str(self.job.part_facts(self.part_name("screw")).get("infeed", InfeedScheme.COMPOUND.name))
        ]

    def part_inputs(self, key: str, system: UnitSystem = UnitSystem.INCH) -> PartInputs:
        """What a part is worked out from."""
        from trebb.core.parts import PartInputs

        return PartInputs(
            self._part_subject(key),
            self.workshop,
            self.part_facts(key),
            measured=self._measured_for(key),
            system=system,
        )

    def _part_subject(self, key: str) -> Any:
        """What a part is for."""
        return self.subject

    def _measured_for(self, key: str) -> dict[str, float]:
        """Sizes that readings fix for a part, by name, mm."""
        return {}

    @property
    def made_subject(self) -> Any:
        """The subject as its parts are made."""
        return self.subject

    @derived
    def part(self, key: str, system: UnitSystem = UnitSystem.INCH) -> Part:
        """A part worked out; raises InputError where a size set by hand will not do."""
        from trebb.core.making.bought import as_bought, is_bought
        from trebb.core.parts import family

        made = family(key).build(self.part_inputs(key, system))
        usual = tuple(f.label for f in self._usual_sizes(key, system))
        checks = (*self._unknown(key, system, usual), *made.checks)
        made = replace(made, usual=usual, checks=tuple(c.said_in(system) for c in checks))
        return as_bought(made) if is_bought(self.part_facts(key)) else made

    @derived
    def _usual_sizes(self, key: str, system: UnitSystem) -> tuple[PartField, ...]:
        from trebb.core.parts import family
        from trebb.core.parts.base import usual_of

        inputs = self.part_inputs(key, system)
        fields = family(key).fields(inputs)
        schema = self.schema
        nothing = inputs.subject
        if schema is not None and nothing is self.subject:
            nothing = self.in_own_units(schema.subject(self.kind.works_as, self.assembly_key, {}))
        hand = {f.key: inputs.facts[f.key] for f in fields if f.choices and f.key in inputs.facts}
        try:
            bare = family(key).fields(replace(inputs, subject=nothing, facts=hand, measured={}))
        except TrebbError:  # of nothing stated it cannot be
            bare = ()
        known = [v for v in (*self.facts.values(), *inputs.measured.values()) if isinstance(v, float | int)]
        return usual_of(fields, inputs.facts, {f.key: f.default for f in bare}, known)

    def usual_fields(self, key: str, system: UnitSystem = UnitSystem.INCH) -> frozenset[str]:
        """Keys of the fields of a part whose size nobody stated, read or set."""
        return frozenset(f.key for f in self._usual_sizes(key, system))

    def _unknown(self, key: str, system: UnitSystem, usual: tuple[str, ...]) -> tuple[Check, ...]:
        """That nothing of a part is known, where that is so: it shows what to measure, and is no part yet."""
        from trebb.core.parts import Check

        facts = set(self.part_facts(key)) - {"get", "make"}
        if not usual or facts or self.facts or (self.has_set_ups and self.estimate.readings):
            return ()
        return (
            Check(
                False,
                "Nobody stated or measured a size of it: every one here is a usual one, for measuring by.",
            ),
        )

    @derived
    def _purchase(
        self, key: str, system: UnitSystem
    ) -> tuple[Part, tuple[Operation, ...], Mapping[str, SizeTarget], Offer] | None:
        """A part that is bought, its own route, the sizes asked for and the offer; None for one made here."""
        from trebb.core.making.bought import fitted, is_bought, offer_of

        facts = self.part_facts(key)
        if not is_bought(facts):
            return None
        part, own = self.part(key, system), self.own_route(key, system)
        targets = fitted(part, own)
        return part, own, targets, offer_of(facts, targets)

    @derived
    def part_fields(self, key: str, system: UnitSystem = UnitSystem.INCH) -> tuple[PartField, ...]:
        """What may be set by hand of a part, and of its being bought."""
        from trebb.core.making.bought import buying_fields
        from trebb.core.making.heat import hardening_fields
        from trebb.core.parts import family

        try:
            purchase = self._purchase(key, system)
        except TrebbError:  # no size to ask for yet
            purchase = None
        targets = purchase[2] if purchase is not None else {}
        fields = family(key).fields(self.part_inputs(key, system))
        facts = self.part_facts(key)
        return buying_fields(key, facts, targets) + fields + hardening_fields(key, facts)

    @derived
    def asked_for(self, key: str, system: UnitSystem = UnitSystem.INCH) -> tuple[str, ...]:
        """What to tell a seller of a part that is bought, line by line; empty for one made here."""
        from trebb.core.making.bought import ask_for

        purchase = self._purchase(key, system)
        if purchase is None:
            return ()
        part, _, targets, _ = purchase
        return ask_for(part, targets, system)

    @derived
    def part_checks(self, key: str, system: UnitSystem = UnitSystem.INCH) -> tuple[Check, ...]:
        """What would spoil a part, made or bought."""
        from trebb.core.making.bought import beside, judged

        purchase = self._purchase(key, system)
        if purchase is None:
            return self._made_checks(key, system)
        part, own, targets, offer = purchase
        return (beside(part, offer, own), *judged(offer, targets, system), *part.checks)

    def _made_checks(self, key: str, system: UnitSystem) -> tuple[Check, ...]:
        from trebb.core.making.heat import hardening_check, is_hardened

        part, facts = self.part(key, system), self.part_facts(key)
        return (*part.checks, hardening_check(part, facts)) if is_hardened(key, facts) else part.checks

    @derived
    def route(self, key: str, system: UnitSystem = UnitSystem.INCH) -> tuple[Operation, ...]:
        """The operations of a part: its own, or those of one that is bought."""
        from trebb.core.making.bought import bought_route

        purchase = self._purchase(key, system)
        if purchase is None:
            return self.own_route(key, system)
        part, own, _, offer = purchase
        return bought_route(part, offer, own, system)

    @derived
    def own_route(self, key: str, system: UnitSystem = UnitSystem.INCH) -> tuple[Operation, ...]:
        """The operations of a part made here."""
        from trebb.core.making.heat import hardened_route, is_hardened
        from trebb.core.making.routes import route

        operations = route(self.part(key, system), self.made_subject, self.workshop)
        if is_hardened(key, self.part_facts(key)):
            operations = hardened_route(self.part(key, system), operations, self.part_facts(key))
        return tuple(
            replace(
                o,
                title=in_units(o.title, system),
                detail=in_units(o.detail, system),
                hold=in_units(o.hold, system),
                tool=in_units(o.tool, system),
            )
            for o in operations
        )
