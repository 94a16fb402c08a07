"""What each remedy would leave of a case, and which is advised."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from msgspec.structs import replace

from trebb.core.condition import Candidate, Estimate, Quantity
from trebb.core.condition.normal import upper_normal
from trebb.core.findings import Measure
from trebb.core.findings.base import judge
from trebb.core.findings.judging import none_below
from trebb.core.machine import State
from trebb.core.remedies import (
    JOINED,
    Prediction,
    Remedy,
    is_idle,
    predict,
    remedies_of,
    remedy,
    sets_of,
    together,
    why_apart,
)
from trebb.core.words import small
from trebb.logbook.cases.advising import HOUR_WORTH, LEAST_SD, Advice, weighed
from trebb.logbook.cases.case_read import ReadCase
from trebb.logbook.log.tracking import derived

INSIDE = (State.WITHIN, State.NEAR)
UNTOUCHED_SD = 0.1  # a figure that a remedy moves by less than this share of its sd is not touched by it
AS_IF_READ, OF_ITS_OWN = (
    1e-6,
    0.5,
)  # of the doubt: what is as good as none, and what a remedy's own is most of
ADVICE_WAITS = "a repair of fewer hours may be enough, and what it leaves hangs on what is not read."
IN_DOUBT = 0.5  # of the limit
DENIED = "two readings deny each other; one of them is to be read again first."
BET = 0.5  # of what is surely enough: what costs more, failing included, is no bargain
OF_USE = 0.02  # of a figure: what takes less of it is no part of a repair
MORE_SHARE = 0.1  # of a figure's ±: what a repair leaves more than there is by less is as much
HARDLY_MORE = 0.05  # of the limit: what leaves less by that alone is no reason to mend (practice)


class MendedCase(ReadCase):
    """An assembly and its remedies."""

    @derived
    def predictions(self) -> list[tuple[Remedy, Any]]:
        """Each remedy this machine could have, by itself, with what it would leave, by readings and
        expectation.
        """
        return [self.foretold(r.key) for r in self.possible()]

    def offered(self) -> list[tuple[Remedy, Any]]:
        """Those, and before them what is done together: as chosen, as advised, and next better."""
        advised = self.advised() if self.is_measured else None
        better = self.next_better(advised.key) if advised is not None else None
        several = dict.fromkeys(
            r.key for r in (self.chosen, advised, better) if r is not None and len(r.members) > 1
        )
        return [*(self.foretold(key) for key in several), *self.predictions()]

    def possible(self) -> list[Remedy]:
        """The remedies this machine could have, each by itself."""
        return [r for r in remedies_of(self.family) if r.applies(self.subject_for("before"))]

    def quoted(self, r: Remedy) -> Remedy:
        """A remedy with what it costs here: as a firm quoted it, or by the price of parts that are bought; of
        several together, each so.
        """
        from trebb.logbook.cases.quotes import as_quoted, quote_of

        if len(r.members) > 1 and quote_of(self.job, self.assembly_key, r.key) is None:
            return together([self.quoted(remedy(key, self.family)) for key in r.members])
        return as_quoted(r, self.job, self.assembly_key, {key: self.part_facts(key) for key in r.parts})

    def priced(self, r: Remedy) -> Remedy:
        """The same as this shop's other jobs took: hours, days and money; a firm's quote stands. The plan
        takes its tasks one by one, each by its own kind of work.
        """
        from trebb.logbook.cases.quotes import quote_of

        asked, shop = self.quoted(r), self.taught
        if not shop.is_own_cost or quote_of(self.job, self.assembly_key, r.key):
            return asked
        return replace(
            asked,
            cost=shop.prices * asked.cost,
            hours=shop.pace * asked.hours,
            wait_days=shop.delivery * asked.wait_days,
        )

    def of_one_condition(self) -> Sequence[MendedCase]:
        """The assemblies whose errors are one condition with this one's, in the order things are done to
        them.
        """
        return (self,)

    @derived
    def foretold(self, key: str) -> tuple[Remedy, Any]:
        """A remedy, or several together, with what it would leave, by readings and expectation; raises
        KeyError for one that there is not.
        """
        r = remedy(key, self.family)
        return self.priced(r), self.foretold_of(r, self.mended_from)

    @derived
    def foretold_alone(self, key: str) -> Any:
        """The same by the readings alone: what of it can be promised."""
        return self.foretold_of(remedy(key, self.family), self.mended_from_alone)

    @property
    def mended_from(self) -> Estimate:
        """The condition that a repair starts from, by readings and expectation."""
        return self.estimate

    @property
    def mended_from_alone(self) -> Estimate:
        """The same by the readings alone."""
        return self.alone

    def foretold_of(self, r: Remedy, now: Estimate) -> Any:
        """What a remedy would leave of a condition."""
        return predict(r, self.subject_for("before"), now)

    def why_apart(self, one: str, other: str) -> str:
        """Why two remedies cannot be done together, in a sentence; "" where they can."""
        first, second = (remedy(key, self.family) for key in (one, other))
        return why_apart(first, second, self.subject_for("before"), self.mended_from)

    def set_with(self, keys: Sequence[str]) -> str:
        """The key of these remedies done together, in the order of the list, however they are given."""
        return remedy(JOINED.join(keys), self.family).key

    @property
    def is_told_apart(self) -> bool:
        """Whether the parts of the judged figure are told apart, so that they can be drawn."""
        return True

    def left_by(self, prediction: Prediction, figure: str = "") -> Quantity:
        """What a prediction leaves of a figure, by default the judged one."""
        return prediction.worst

    def left_of(self, prediction: Prediction, figure: str = "") -> Quantity:
        """What a remedy leaves of a figure, for showing: as it was read, where it does not touch it."""
        key = figure or self.judged.key
        read = next((m.value for m in self.figures if m.key == key), None)
        left = none_below(self.taught.widened(self.family, self.left_by(prediction, key)))
        if read is None or self.along_with():
            return left
        as_it_is = next((self.left_by(p, key) for r, p in self.predictions() if r.key == "leave"), None)
        # Draws of their own differ by a little.
        same = as_it_is is not None and abs(left.value - as_it_is.value) <= UNTOUCHED_SD * max(left.sd, 1e-9)
        return read if same else left

    @derived
    def left_state(self, remedy: str, figure: str = "") -> State:
        """How what a remedy leaves of a figure stands to its limit; `UNKNOWN` where it hangs on what was not
        read: of nothing read nothing is foretold, and of a figure that cannot be told at most that a remedy
        brings it inside whatever it is now.
        """
        if not self.is_measured or not self.figures:
            return State.UNKNOWN
        measure = next((m for m in self.figures if m.key == figure), self.judged)
        if remedy == "leave" and not self.along_with():
            return measure.state
        state = self._left_judged(self.foretold_alone(remedy), measure)
        if measure.state is State.UNKNOWN and state is not State.WITHIN:
            return State.UNKNOWN
        return state

    def _left_judged(self, prediction: Any, measure: Measure) -> State:
        return judge(self.left_by(prediction, measure.key), measure.limit.limit_mm)

    def advised(self) -> Remedy | None:
        """The remedy that is advised; None where none is, or something is to be read first."""
        return self.advice_now().remedy

    def advice_now(self) -> Advice:
        """What to do about what is wrong."""
        return self._advice()

    @derived
    def _advice(self) -> Advice:
        """The remedy, or the set of them, of least money and hours that brings inside every figure that is
        beyond its limit, and none out of it; else the one that leaves least. What takes fewer hours and may
        do is not passed over because nobody read what it leaves: what decides is to be read first, where that
        is worth its minutes.

        Not what is hindered, nor what costs more than a third of what the machine is worth, nor what leaves
        more than there is; and nothing while readings deny each other.
        """
        wrong, fine = self._wrong_and_fine()
        is_open = State.UNKNOWN in (*(m.state for m in self.figures), self.judged.state)
        if not self.figures or (not wrong and is_open):
            return Advice()
        if wrong and self.contradictions("before"):
            return Advice(is_denied=True)
        possible = [r for r, _ in self._affordable() if not self._leaves_more(r.key, wrong)]
        inside = [r for r in possible if self._brings_inside(r.key, wrong, fine)]
        alone = min(inside, key=self._worth, default=None)
        several = self._least_set(wrong, fine, self._worth(alone) if alone is not None else math.inf)
        best = several or alone or (self.least_left() if wrong else None)
        if best is None:
            return Advice()
        trial = next((r for r in possible if r.key == best.first(self.subject)), None)
        if trial is not None and any(self.left_state(trial.key, key) is not State.BEYOND for key in wrong):
            return Advice(trial)
        fewer = [r for r in possible if r.hours < best.hours and self._may_do(r.key, wrong)]
        if not fewer:
            return Advice(self._bet(best, possible, wrong, fine))
        return weighed(self, fewer, best, [m for m in self.figures if m.key in wrong], self.hour_worth())

    def _wrong_and_fine(self) -> tuple[tuple[str, ...], tuple[str, ...]]:
        """Keys of the figures beyond their limits, and of those inside."""
        return (
            tuple(m.key for m in self.figures if m.state is State.BEYOND),
            tuple(m.key for m in self.figures if m.state in INSIDE),
        )

    def _bet(
        self, best: Remedy, possible: Sequence[Remedy], wrong: tuple[str, ...], fine: tuple[str, ...]
    ) -> Remedy:
        """What is likely enough, and so much cheaper that where it is not the dear one after it still costs
        little: a bed is levelled before it is scraped. Else the dear one.
        """

        def expected(r: Remedy) -> float:
            return self._worth(r) + self._missed(r.key, wrong) * self._worth(best)

        cheap = [
            r
            for r in possible
            if self._worth(r) < BET * self._worth(best)
            and self._missed(r.key, wrong) < 0.5
            and all(self.left_state(r.key, figure) is not State.BEYOND for figure in fine)
        ]
        least = min(cheap, key=expected, default=best)
        return least if least is not best and expected(least) < BET * self._worth(best) else best

    def _missed(self, key: str, wrong: tuple[str, ...]) -> float:
        """The chance that a remedy is not enough for what is wrong, by readings and expectation."""
        left = {m: self.left_by(self.foretold(key)[1], m.key) for m in self.figures if m.key in wrong}
        misses = (upper_normal((m.limit.limit_mm - q.value) / max(q.sd, LEAST_SD)) for m, q in left.items())
        return max(misses, default=0.0)

    def hour_worth(self) -> float:
        """What an hour is worth here."""
        return self.job.plan_number("hour_worth", 0.0) or HOUR_WORTH

    def _worth(self, r: Remedy) -> float:
        """Money and hours of a remedy as one."""
        return r.cost + r.hours * self.hour_worth()

    def _brings_inside(self, key: str, wrong: tuple[str, ...], fine: tuple[str, ...]) -> bool:
        """Whether every figure that is wrong comes inside its limit, more likely than not where it is near,
        and none that is not goes out of it.
        """
        limits = {m.key: m.limit.limit_mm for m in self.figures}
        return all(
            self.left_state(key, figure) in INSIDE
            and self.left_by(self.foretold(key)[1], figure).value <= limits[figure]
            for figure in wrong
        ) and all(self.left_state(key, figure) is not State.BEYOND for figure in fine)

    @derived
    def _least_set(self, wrong: tuple[str, ...], fine: tuple[str, ...], below: float) -> Remedy | None:
        """Of remedies done together those of least money and hours that bring everything inside, if they come
        to less than so much; every set is tried, in order, until one does.
        """
        for several in self._sets_of_use(wrong):
            if self._worth(several) >= below:
                return None
            if not self._is_dear(several) and self._brings_inside(several.key, wrong, fine):
                return several
        return None

    @derived
    def _sets_of_use(self, wrong: tuple[str, ...]) -> list[Remedy]:
        """The sets whose every member betters something that is wrong, by their money and hours."""
        subject = self.subject_for("before")
        as_it_is = self._as_it_is(wrong)
        useful = [
            r
            for r, p in self._affordable()
            if not is_idle(r)
            and any(
                now.value - self.left_by(p, key).value > OF_USE * now.value for key, now in as_it_is.items()
            )
        ]
        found = [together(members) for members in sets_of(useful, subject, self.mended_from)]
        return sorted(found, key=lambda r: (self._worth(r), r.wait_days))

    @derived
    def next_better(self, key: str) -> Remedy | None:
        """What takes fewest hours, alone or together, of all that brings everything inside and leaves less
        than a remedy; None where nothing does.
        """
        wrong, fine = self._wrong_and_fine()
        if not wrong:
            return None
        left = self._over(self.foretold(key)[1])
        others = [*(r for r, _ in self._affordable() if not is_idle(r)), *self._sets_of_use(wrong)]
        for r in sorted(others, key=self._worth):
            if self._over(self.foretold(r.key)[1]) < left - HARDLY_MORE and self._brings_inside(
                r.key, wrong, fine
            ):
                return r
        return None

    def _leaves_more(self, remedy: str, wrong: tuple[str, ...]) -> bool:
        """Whether a repair, by readings and expectation, leaves more than there is of a figure that is
        wrong.
        """
        if remedy == "leave":
            return False
        return any(
            self.left_by(self.foretold(remedy)[1], key).value > now.value + MORE_SHARE * now.half_width
            for key, now in self._as_it_is(wrong).items()
        )

    def _as_it_is(self, wrong: tuple[str, ...]) -> dict[str, Quantity]:
        """What there is of each figure, by readings and expectation."""
        return {key: self.left_by(self.foretold("leave")[1], key) for key in wrong}

    def could_be_read(self) -> Sequence[Candidate]:
        """What could be read next, lot by lot."""
        return self._next_lots([c for s in self.set_ups for c in self._candidates_of(s.key)])

    @derived
    def _may_do(self, remedy: str, wrong: tuple[str, ...]) -> bool:
        """Whether a remedy is ruled out by no figure that is wrong, and what it leaves of one of them hangs
        on what was not read: in doubt by half its limit or more, and not by how the remedy may come out.
        """
        states = {key: self.left_state(remedy, key) for key in wrong}
        open_ = [m for m in self.figures if states.get(m.key) is State.UNKNOWN]
        if State.BEYOND in states.values() or not open_:
            return False
        known = replace(self.alone, covariance=AS_IF_READ * self.alone.covariance, cavity={})
        own = predict(self.foretold(remedy)[0], self.subject_for("before"), known)
        return any(
            (doubt := self.left_by(self.foretold_alone(remedy), m.key).half_width)
            > IN_DOUBT * m.limit.limit_mm
            and self.left_by(own, m.key).half_width < OF_ITS_OWN * doubt
            for m in open_
        )

    def advice_words(self) -> str:
        """Why there is no advice yet, and what to read first; "" where there is, or nothing is wrong."""
        advice = self.advice_now()
        if not self.is_measured or not advice.waits:
            return ""
        if advice.few is None or advice.dear is None:
            return f"No advice yet: {DENIED}"
        between = (
            f"between “{advice.few.title}” ({advice.few.hours:g} h) and “{advice.dear.title}” "
            f"({advice.dear.hours:g} h)"
        )
        if not advice.lot:
            return f"No advice yet, {between}: {ADVICE_WAITS}"
        s, lot = self.lot_of(advice.lot)
        what = lot.title if lot.title == s.title else f"{s.title}: {small(lot.title)}"
        return f"Read first: {what}, {advice.minutes:g} min. It decides {between}."

    def least_words(self) -> str:
        """What is to be read first; else the least that is enough and the next better, where more than one
        remedy is in question; "" where there is nothing to say.
        """
        waits, advised = self.advice_words(), self.advised() if self.is_measured else None
        if waits or advised is None or is_idle(advised):
            return waits
        better = self.next_better(advised.key)
        if better is None and len(advised.members) == 1:
            return ""
        words = f"The least that is enough: “{advised.title}”, {advised.hours:g} h."
        return words if better is None else f"{words} Next better: “{better.title}”, {better.hours:g} h."

    def least_left(self) -> Remedy:
        """The remedy that by all that is known and expected leaves least against the limits; of those that
        leave hardly more, the one of fewest hours, then of least money.
        """
        over = [(self._over(prediction), remedy) for remedy, prediction in self._affordable()]
        least = min(share for share, _ in over)
        alike = [remedy for share, remedy in over if share <= least + HARDLY_MORE]
        return min(alike, key=lambda remedy: (remedy.hours, remedy.cost))

    def _affordable(self) -> list[tuple[Remedy, Any]]:
        return [
            (r, p)
            for r, p in self.predictions()
            if not r.hides and not r.hinder(self.subject) and not self._is_dear(r)
        ]

    def _is_dear(self, r: Remedy) -> bool:
        """Whether it costs more than a third of what the machine is worth, where that is stated."""
        worth = self.job.card_number("worth", 0.0)
        return bool(worth) and r.cost > worth / 3

    def _over(self, prediction: Any) -> float:
        """The figure that a prediction leaves largest against its limit, as a share of it."""
        figures = list(self.figures) or [self.judged]
        return max(self.left_by(prediction, m.key).value / m.limit.limit_mm for m in figures)

    def along_with(self) -> list[str]:
        """Other assemblies whose chosen remedy is part of these predictions."""
        return []

    @property
    def chosen(self) -> Remedy | None:
        """The remedy chosen, if one is."""
        body = self.job.chosen(self.assembly_key)
        try:
            return remedy(body.remedy, self.family) if body else None
        except KeyError:  # chosen by a newer Trebb
            return None

    def chosen_prediction(self) -> Any:
        """What the chosen remedy was predicted to leave; None where none is chosen."""
        chosen = self.chosen
        if chosen is None or not chosen.applies(self.subject_for("before")):
            return None
        return self.foretold(chosen.key)[1]

    @property
    def predicted_after(self) -> Estimate | None:
        """The condition predicted after the chosen remedy."""
        prediction = self.chosen_prediction()
        return prediction.after if prediction else None
