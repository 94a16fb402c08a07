"""What is wrong with how a headstock stands, in sentences."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct

from trebb.core.condition import Estimate, Quantity, ReadingsOnly, size_of
from trebb.core.families.bed.shims import Cut, ShimAdvice
from trebb.core.families.bed.subject import ACROSS_FROM, FEET, REACH_MM, Bed
from trebb.core.findings.base import Finding, Measure, hedged, judge, size_words
from trebb.core.machine import State
from trebb.core.units import UnitSystem, show_shim, show_size, show_small, show_uncertain
from trebb.core.words import large, small


def headstock_findings(
    bed: Bed,
    alone: ReadingsOnly,
    measures: Mapping[str, Measure],
    advice: ShimAdvice | None,
    system: UnitSystem,
    *,
    in_air: bool = False,
    levelled: bool = False,
) -> list[Finding]:
    """Which end is large, whether twist or headstock explains it, which foot, and what the next cut will
    read. `alone` is the condition by readings alone; `in_air` that shims change nothing; `levelled` that the
    level was read across the bed.
    """
    found = (
        _taper(bed, alone, advice, measures["taper"], system, in_air=in_air, levelled=levelled)
        if "taper" in measures
        else None,
        _axis_rise(alone, measures["axis_rise"], system) if "axis_rise" in measures else None,
        _facing(alone, measures["facing"], system) if "facing" in measures else None,
    )
    return hedged([f for f in found if f is not None], measures, system)


def _taper(
    bed: Bed,
    alone: ReadingsOnly,
    advice: ShimAdvice | None,
    m: Measure,
    system: UnitSystem,
    *,
    in_air: bool,
    levelled: bool,
) -> Finding:
    whole = alone.combination(bed.taper())
    end = "far" if whole.value > 0 else "near"
    blame = who_makes_it(bed, alone, m, levelled)
    state, sentence = m.state, _taper_sentence(m, end, system)
    if bed.shims and advice is not None:
        state = judge(size_of(advice.now), advice.limit_mm)
        sentence = (
            "With the shims in, the far land differs from the near one by "
            f"{show_uncertain(advice.now.value, advice.now.half_width, system)}, limit "
            f"{show_small(advice.limit_mm, system)};"
            f" before, work came out {show_small(m.value.value, system)} larger at the {end} end "
            f"{in_reach(system)}."
        )
    shims = (
        _shim_words(bed, advice, system)
        if advice is not None
        and not in_air
        and not blame.is_heads
        and (blame.is_told or bed.shims or not levelled)
        and (m.state in (State.NEAR, State.BEYOND) or bed.shims)
        else ""
    )
    give = bed.spring_mm(bed.far_mm) * alone.source("spring").value
    spring = (
        f" The stub's own give under the tool, {show_small(give, system)} at {bed.stub_mm:.0f} mm, is taken "
        "out."
        if system is UnitSystem.METRIC
        else f" The stub's own give under the tool, {show_small(give, system)} at "
        f"{show_size(bed.stub_mm, system)}, is taken out."
    )
    blamed = "" if m.state is State.WITHIN and not bed.shims else blame.words(bed, alone, system)
    if shims and not blame.is_told and not bed.shims:
        shims = f"Or go by trial cuts: {small(shims)}"
    move = f"{blamed}{shims}{spring if give > GIVE_SHOWN_MM else ''}".strip()
    return Finding(
        "taper",
        state,
        sentence,
        "two lands, test bar and level together",
        move or "Leave it.",
        abs(whole.value),
        blame.ways if blamed else (),
    )


GIVE_SHOWN_MM = 0.001  # a stub that gives less is not spoken of


def in_reach(system: UnitSystem) -> str:
    """The length that tapers are given for, in words."""
    return "in 12 in" if system is UnitSystem.INCH else f"in {REACH_MM:.0f} mm"


class Blame(Struct, frozen=True):
    """Whether bed or headstock makes the taper: by source what each gives in `REACH_MM`; `unread` is what
    must be read first, "" where they are told apart.
    """

    bedded: Quantity
    head: Quantity
    unread: str
    ways: tuple[tuple[str, str], ...]

    @property
    def is_told(self) -> bool:
        """Whether the readings tell them apart."""
        return not self.unread

    @property
    def remedy(self) -> str:
        """Key of the remedy that mends what makes it; where nothing tells, the trial shim, which will."""
        if self.is_heads:
            return "set_over"
        is_beds = abs(self.bedded.value) > 2 * abs(self.head.value)
        return "shim" if is_beds or not self.is_told else "level_over"

    @property
    def is_heads(self) -> bool:
        """Whether it is nearly all the headstock's."""
        return self.is_told and abs(self.head.value) > 2 * abs(self.bedded.value)

    def words(self, bed: Bed, alone: ReadingsOnly, system: UnitSystem) -> str:
        """Who it is, and what first."""
        if not self.is_told:
            return f"Bed or headstock: they are not told apart yet. {self.unread} "
        bedded = show_uncertain(self.bedded.value, self.bedded.half_width, system)
        head = show_uncertain(self.head.value, self.head.half_width, system)
        said = f"Bed (twist and wear) gives {bedded}, the headstock {head}: "
        if abs(self.bedded.value) > 2 * abs(self.head.value):
            return said + "shim the feet. "
        if self.is_heads:
            return said + f"set the headstock over by {_jack(bed, alone, system)}; the bed stands well. "
        return said + "both; the feet first. "


# Told apart where either part is known to this share of the limit (sd).
TOLD_SHARE = 0.4


def who_makes_it(bed: Bed, alone: ReadingsOnly, m: Measure, levelled: bool) -> Blame:
    """Bed or headstock, by what readings fix; and if they do not, which set-up does."""
    parts = bed.taper()
    head = alone.combination({"yaw": parts.pop("yaw")})
    bedded = alone.combination(parts)
    doubt = TOLD_SHARE * m.limit.limit_mm
    if min(head.sd, bedded.sd) <= max(doubt, 0.25 * abs(m.value.value)):
        return Blame(bedded, head, "", ())
    twist = alone.combination({"twist": parts.pop("twist")})
    if twist.sd > doubt and not levelled:
        return Blame(
            bedded,
            head,
            "Level the bed across first; what then remains is the headstock's or wear.",
            (("Level across", "level_across"),),
        )
    return Blame(
        bedded,
        head,
        "The twist is read; what is left is wear under the saddle or the headstock: read the ridge.",
        (("Read the ridge", "ridge"), ("Test bar swept", "bar_sweep")),
    )


def _axis_rise(now: Estimate, m: Measure, system: UnitSystem) -> Finding:
    rises = "rises" if now.source("pitch").value > 0 else "drops"
    return Finding(
        "axis_rise",
        m.state,
        f"{in_reach(system).capitalize()} from the headstock the spindle's axis {rises} by "
        f"{size_words(m, system)}.",
        "test bar, on top",
        "Up to its limit it may rise, for the work's weight. Height errors hardly show on diameter; "
        "they do in boring.",
        m.value.value * 0.3,
    )


def _facing(now: Estimate, m: Measure, system: UnitSystem) -> Finding:
    face = now.combination({"cross": 1.0, "yaw": -1.0})
    hollow, is_sure = face.value > 0, abs(face.value) > face.half_width
    state = m.state if hollow or m.state is State.BEYOND or not is_sure else State.NEAR
    move = (
        "Hollow is allowed."
        if hollow
        else "Proud is not allowed: a face must never stand on its middle. Set the headstock over before "
        "the cross slide is touched."
    )
    return Finding(
        "facing",
        state,
        f"It faces {'hollow' if hollow else 'proud'} by {size_words(m, system)}.",
        "facing test",
        move if is_sure else "Flat as far as this was read.",
        m.value.value,
    )


def _taper_sentence(m: Measure, end: str, system: UnitSystem) -> str:
    if m.state is State.WITHIN:
        within = size_words(m, system)
        return f"Work in the chuck comes out parallel enough, {in_reach(system)} within {within}."
    return (
        f"Work in the chuck comes out tapered, large at the {end} end, {in_reach(system)} by "
        f"{size_words(m, system)}."
    )


def _jack(bed: Bed, now: Estimate, system: UnitSystem) -> str:
    """How far the headstock's end at its jacking screw is moved, and which way: its axis points to the rear
    where yaw is more than nothing.
    """
    yaw = now.source("yaw").value
    return (
        f"{show_small(abs(yaw) * bed.lever_mm / 1000, system)} at "
        f"{show_size(bed.lever_mm, system, resolution_mm=1)} from its pivot, to the "
        f"{'front' if yaw > 0 else 'rear'} at its nose"
    )


def _shim_words(bed: Bed, advice: ShimAdvice, system: UnitSystem) -> str:
    if advice.is_done:
        return (
            "Leave the feet." if abs(advice.now.value) <= advice.limit_mm else "No shim at hand betters it."
        )
    size = show_shim(abs(advice.mm), system)
    how = f"Put {size} under" if advice.mm > 0 else f"Take {size} out from under"
    return (
        f"{how} the foot at the {FEET[advice.foot]}; the next cut will read "
        f"{show_uncertain(advice.next.value, advice.next.half_width, system)} far less near."
    )


def in_air_finding(bed: Bed, system: UnitSystem) -> Finding:
    """Shims that change nothing."""
    foot, _ = bed.shims[-1]
    return Finding(
        "in_air",
        State.BEYOND,
        "Twice the cut did not answer to its shim: a foot is in the air.",
        "the change from one cut to the next, less than a sixth of what was foretold",
        f"No more shim. Slacken each bolt in turn, an indicator on its foot: the one that does not move, or "
        f"springs up, carries nothing; look at the {FEET[foot]} first. Pack it to the floor, then cut again.",
        1.2,
        (("Each foot tight?", "soft_feet"),),
    )


def wrong_foot_finding(bed: Bed, number: int, system: UnitSystem) -> Finding:
    """A shim that answers the wrong way round."""
    foot, mm = bed.shims[number - 1]
    return Finding(
        "wrong_foot",
        State.NEAR,
        f"Cut {number} answers as if the shim lay under the other foot.",
        "the change from one cut to the next",
        f"{show_shim(abs(mm), system)} are logged under the foot at the {FEET[foot]}; the work changed as if "
        f"it were the {FEET[ACROSS_FROM[foot]]}. Look, then log it there, or take it out and begin anew.",
        1.0,
        (("Look at the trials", "trials"),),
    )


def exchanged_finding(read: Cut, foretold: Quantity, system: UnitSystem) -> Finding:
    """Near and far look exchanged."""
    return Finding(
        "exchanged",
        State.NEAR,
        f"Were near and far exchanged? Read {show_small(read.difference_mm, system, signed=True)} far less "
        f"near; all else foretells {show_small(foretold.value, system, signed=True)} ± "
        f"{show_small(foretold.half_width, system)}.",
        "the cut against level and test bar",
        "Near is the chuck's end. Measure both lands again; strike the old ones out if they were exchanged.",
        1.1,
        (("Measure again", "two_collar"),),
    )


def seat_finding(why: str) -> Finding:
    """The test bar's sweep does not count."""
    return Finding(
        "bar_aside",
        State.NEAR,
        "The test bar's sweep is set aside.",
        "the spindle's survey",
        f"{large(why)}. The two-collar cut needs no taper; take the bar again when the spindle is mended.",
        0.02,
        (("Cut two lands", "two_collar"),),
    )
