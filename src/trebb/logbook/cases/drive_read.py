"""What the readings of a feed screw say: its lash, its lead, its verdicts."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, Any

from trebb.core.condition import ErrorModel, Estimate, Quantity, Suggestion
from trebb.core.facts import Fact
from trebb.core.families.screw_drive.facts import MAKE, usual_drive
from trebb.core.families.screw_drive.lash_split import (
    KNOWN_SHARE,
    LashSplit,
    lash_measure,
    split_lash,
    split_parts,
)
from trebb.core.families.screw_drive.screw_lash import (
    error_measure,
    lash_findings,
    stripped_finding,
    suggestion_reason,
)
from trebb.core.families.screw_drive.subject import ScrewDrive, drive_model
from trebb.core.findings import Finding, Measure
from trebb.core.findings.base import NOTHING, judge
from trebb.core.machine import RatedLimit, State
from trebb.core.survey import AnySetUp
from trebb.core.units import UnitSystem
from trebb.logbook.cases.advising import Advice
from trebb.logbook.cases.case import Answer, Case, Question
from trebb.logbook.log.entries import FactStated
from trebb.logbook.log.tracking import derived

if TYPE_CHECKING:  # loaded when their stop is first opened
    pass


# What every lash hangs on stands beside the lash itself.
COUNTED_WEIGHT_MM = 9.0


LASH_PARTS = frozenset(("nut", "screw", "float"))


class DriveRead(Case):
    """A feed screw as stated and read."""

    family = "screw_drive"
    default_parts = ("screw", "nut")

    @property
    def usual(self) -> ScrewDrive:
        """What such a drive usually is, before anything is stated."""
        return usual_drive(self.kind.works_as, self.assembly_key)

    @property
    def drive(self) -> ScrewDrive:
        """The drive as stated."""
        found: ScrewDrive = self.subject
        return found

    @property
    def made_subject(self) -> ScrewDrive:
        return self.made_drive

    @property
    def made_drive(self) -> ScrewDrive:
        """The drive as it is made: with the new thread where a new screw is, else with the old one."""
        chosen = self.chosen
        return self.drive.as_made if chosen is None or "screw" in chosen.parts else self.drive

    def stated(self, fact: Fact) -> Any:
        drive = self.drive
        shown = {"wire_mm": drive.wire, "crest_mm": drive.crest_mm or drive.thread.major_mm}
        if fact.key in shown:
            return shown[fact.key]
        if fact.key.startswith(MAKE):
            return self.facts.get(fact.key)
        return getattr(drive.thread, fact.name) if hasattr(drive.thread, fact.name) else super().stated(fact)

    @property
    def is_stated(self) -> bool:
        """Whether somebody said which thread it is."""
        return "pitch_mm" in self.job.facts_of(self.assembly_key)

    def read_as(self, phase: str) -> ScrewDrive:
        chosen = self.chosen
        return self.drive if phase == "before" or chosen is None else self.made_drive

    def subject_for(self, phase: str) -> ScrewDrive:
        return self.read_as(phase)

    @derived
    def model_for(self, phase: str) -> ErrorModel:
        return drive_model(self.read_as(phase))

    @property
    def dial_is_stated(self) -> bool:
        """Whether the dial's convention was asked and answered."""
        return "reads" in self.job.facts_of(self.assembly_key)

    def question(self, s: AnySetUp, phase: str, system: UnitSystem) -> Question | None:
        if phase != "before" or s.key != "lash" or self.dial_is_stated:
            return super().question(s, phase, system)
        answers = tuple(
            Answer(
                f"dial_{key}",
                words,
                f"{words}; asked once",
                (FactStated(assembly=self.assembly_key, field="reads", value=key),),
            )
            for key, words in (("radius", "Counts the slide's travel"), ("diameter", "Counts the diameter"))
        )
        return Question(
            "dial",
            "How is this dial numbered?",
            "Turn the handwheel once and measure: does the dial count the slide's travel, or twice that (the "
            "work's diameter)?",
            answers,
        )

    def warning(self, s: AnySetUp, phase: str) -> tuple[str, str, tuple[tuple[str, str], ...]] | None:
        if (
            phase != "before"
            or self.is_stated
            or s.key == "which_thread"
            or (not self.job.facts_of(self.assembly_key) and self.planted() is None)
        ):
            return None
        return (
            "Nobody has said which thread this is.",
            f"Until it is named Trebb counts with a usual one, {self.drive.thread.designation}.",
            (("Name the thread", "which_thread"),),
        )

    @property
    def limit(self) -> RatedLimit:
        return self.job.limit(self.drive.limit_key)

    def limit_keys(self) -> Sequence[str]:
        return (self.drive.limit_key, "lead_error")

    @property
    def judged(self) -> Measure:
        """What its figures come to, or the lash as expected where nothing of it is read: a screw is not
        within for its lead alone.
        """
        return self._judged_of(self.figures) or self._usual()

    def _judged_of(self, figures: Sequence[Measure]) -> Measure | None:
        """The lash, or what else is over its limit where the lash is not; None where they tell neither."""
        lash = next((m for m in figures if m.key == "lash"), None)
        if lash is not None and lash.state is State.BEYOND:
            return lash
        return next((m for m in figures if m.state is State.BEYOND), lash)

    def _usual(self) -> Measure:
        """The lash as such a screw usually has it, where nothing of it is read."""
        unread = ((NOTHING, "lash"),)
        return Measure(
            "lash", "Lash at the worst", self.limit, self.split.worst.total, unread, is_expected=True
        )

    @property
    @derived
    def figures(self) -> Sequence[Measure]:
        return self._figures_of("before")

    def _figures_of(self, phase: str) -> Sequence[Measure]:
        lash = lash_measure(self.read_as(phase), self._split_of(phase), self.limit)
        error = self._lead_measure(self.read_as(phase), self.alone_of(phase))
        return tuple(m for m in (lash, error) if m is not None)

    def _lead_measure(self, drive: ScrewDrive, now: Estimate) -> Measure | None:
        """The screw's own error in 300 mm, where it was read."""
        return error_measure(drive, now, self.job.limit("lead_error"))

    def left_by(self, prediction: Any, figure: str = "") -> Quantity:
        """What a prediction leaves of the lash at its worst, or of the screw's own error."""
        if figure == "lead_error":
            left = self._lead_measure(self.drive, prediction.after)
            if left is not None:
                return left.value
        worst: Quantity = prediction.worst
        return worst

    def _left_judged(self, prediction: Any, measure: Measure) -> State:
        """The worst that any station is judged to be: one over the limit is enough, all must be inside."""
        if measure.key != "lash":
            return super()._left_judged(prediction, measure)
        states = {judge(q, measure.limit.limit_mm) for q in prediction.lash}
        order = (State.BEYOND, State.UNKNOWN, State.NEAR, State.WITHIN)
        state = next(state for state in order if state in states)
        if state is not State.BEYOND:
            return state
        # How much of a sum a repair takes out is not known while the sum is all that is: it may be all of it.
        # And of what it leaves only what is read can be over the limit: the rest may be nothing.
        told, mended = self.split.told, self._mended(prediction)
        stays = sum(q.low for key, q in told.items() if key not in mended)
        hangs = mended - set(told) or (LASH_PARTS - mended - set(told) and stays <= measure.limit.limit_mm)
        return State.UNKNOWN if hangs and self.split_is_open() else state

    def split_is_open(self) -> bool:
        """Whether a part of the lash is not told from the others, or not read."""
        return bool(LASH_PARTS - set(self.split.told))

    def _mended(self, prediction: Any) -> set[str]:
        """Parts of the lash, as it is split, that a repair changes."""
        now, then = self.alone, prediction.after
        changed = {
            source.key
            for source, was, is_ in zip(now.model.sources, now.mean, then.mean, strict=True)
            if abs(is_ - was) > 1e-9
        }
        parts = {"screw" if key.startswith("wear.") else key for key in changed}
        return parts & {*LASH_PARTS, "key"}

    def figure_now(self) -> Measure | None:
        return self._judged_of(self.figures_after) or super().figure_now()

    @property
    def figures_after(self) -> Sequence[Measure]:
        return self._figures_of("after") if self.progress("after")[0] else ()

    @property
    def fit_plan(self) -> str:
        return "fit" if self.assembly_key == "cross_slide" else f"fit.{self.assembly_key}"

    @property
    @derived
    def split(self) -> LashSplit:
        """The lash split among its sources."""
        return self._split_of("before")

    @property
    def is_told_apart(self) -> bool:
        return {"nut", "screw", "float"} <= set(self.split.told) and not self.split.stations_unread()

    @derived
    def _split_of(self, phase: str) -> LashSplit:
        return split_lash(
            self.read_as(phase), self.estimate_of(phase), self.alone_of(phase), self.limit.limit_mm
        )

    def _findings(self, system: UnitSystem) -> list[Finding]:
        found = lash_findings(
            self.drive, self.estimate, self.alone, self.limit, self.job.limit("lead_error"), system
        )
        gone = [stripped_finding(self.drive)] if self.seen_beyond else []
        return [*gone, *found[:1], *self._counted_by(system), *found[1:]]

    @property
    def seen_beyond(self) -> bool:
        return self.drive.nut_gone == "yes"

    @property
    def is_measured(self) -> bool:
        return super().is_measured or self.seen_beyond

    def advice_now(self) -> Advice:
        """A stripped nut is renewed in any case, by what else is read; what is not read of the screw decides
        whether it goes with it.
        """
        if not self.seen_beyond:
            return super().advice_now()
        wrong, fine = self._wrong_and_fine()
        if not self.job.standing(self.assembly_key, "thread_size"):
            return Advice()
        every = [*(r for r, _ in self._affordable()), *self._sets_of_use(wrong)]
        nuts = [r for r in every if "nut" in r.parts]
        enough = [r for r in nuts if self._brings_inside(r.key, wrong, fine)]
        if enough:
            return Advice(min(enough, key=lambda r: (r.hours, r.cost)))
        return Advice(min(nuts, key=lambda r: self._over(self.foretold(r.key)[1])))

    def advice_words(self) -> str:
        if self.seen_beyond and self.advice_now().remedy is None:
            return "Read first: the thread's size, worn and unworn. It decides whether a nut alone is enough."
        return super().advice_words()

    def _counted_by(self, system: UnitSystem) -> list[Finding]:
        """That a dial's divisions are counted by a dial or a pitch nobody stated, where they are."""
        drive, usual = self.drive, []
        if "divisions" not in self.facts:
            usual.append(f"{drive.divisions} divisions to a turn")
        if "pitch_mm" not in self.facts:
            usual.append(f"a pitch of {drive.thread.pitch_words}")
        if not usual or not drive.has_dial or not self.job.standing(self.assembly_key, "lash"):
            return []
        return [
            Finding(
                "dial_count",
                State.UNKNOWN,
                f"Its divisions are counted as {' and '.join(usual)}, which nobody stated.",
                "a usual dial",
                f"Count them and state {'them' if len(usual) > 1 else 'it'}: every lash here hangs on "
                f"{'them' if len(usual) > 1 else 'it'}, another dial makes it another lash.",
                COUNTED_WEIGHT_MM,
                (("Lash at the handwheel", "lash"),),
            )
        ]

    def questions(self) -> Mapping[str, Mapping[str, float]]:
        return split_parts(self.split if self.is_measured else None, dial=self.drive.has_dial)

    def doubt_scale_mm(self) -> float:
        return KNOWN_SHARE * self.limit.limit_mm

    def reason(self, suggestion: Suggestion, system: UnitSystem) -> str:
        return suggestion_reason(suggestion.most, suggestion.sd_before, suggestion.sd_after, system)
