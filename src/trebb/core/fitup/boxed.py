"""What arrived in boxes: what there should be, what was found of it, and the order it goes together in.

A list is text (`logbook/data/boxes`, and a shop's own): what there is, what each must follow, which way
round, what must turn free before the next. What was found is the job's.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from typing import Annotated, Literal

from msgspec import Meta, Struct
from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.fitup.order import FitStep, assembly_order
from trebb.core.safety import SLING
from trebb.core.words import large

BOXED = "box_"  # before the key of a thing, in the key of its step
ALONE_KG = 20.0  # more than this is not held with one hand while the other starts a screw (practice)
Key = Annotated[str, Meta(pattern="^[a-z][a-z0-9_]{0,40}$")]
Line = Annotated[str, Meta(min_length=1, max_length=240)]
Found = Literal["", "yes", "no", "hurt"]
FOUND_WORDS: dict[Found, str] = {"": "not looked for", "yes": "here", "no": "missing", "hurt": "hurt"}


class Thing(Struct, frozen=True, forbid_unknown_fields=True):
    """One thing of an assembly, or several alike.

    Parameters
    ----------
    key, what, many : its name, what it is called, how many there should be.
    do : putting it in, as a step.
    after : things that are in before it.
    why : what happens where that is not kept; a fastener that hides, an end that cannot pass later.
    way : how a thing that goes both ways sits.
    free : what must turn or slide before the next goes in.
    take : what is measured of it while it lies there.
    small : a spring, a ball, a pin: lost in the bottom of a box.
    kg, minutes : its weight, and putting it in (practice).
    """

    key: Key
    what: Line
    do: Line
    many: Annotated[int, Meta(ge=1, le=200)] = 1
    after: tuple[str, ...] = ()
    why: str = ""
    way: str = ""
    free: str = ""
    take: str = ""
    small: bool = False
    kg: Annotated[float, Meta(ge=0.0, le=5000.0)] = 0.0
    minutes: Annotated[float, Meta(gt=0.0, le=600.0)] = 10.0

    @property
    def words(self) -> str:
        """What it is, and how many."""
        return f"{self.many} × {self.what}" if self.many > 1 else self.what


class BoxList(Struct, frozen=True, forbid_unknown_fields=True):
    """What there should be of a usual assembly, in a usual order.

    `fits` are keys of assemblies that it may be, of machines of `kinds`; empty ones mean any. `lift` says how
    the whole is moved once it is together.
    """

    title: Line
    about: Line
    things: Annotated[tuple[Thing, ...], Meta(min_length=1, max_length=80)]
    fits: tuple[str, ...] = ()
    kinds: tuple[str, ...] = ()
    lift: str = ""

    def thing(self, key: str) -> Thing:
        """The thing of that key. Raises InputError for another."""
        for one in self.things:
            if one.key == key:
                return one
        raise InputError(f"“{key}”", f"{self.title} has {', '.join(t.key for t in self.things)}")

    def may_be(self, kind: str, assembly: str, *, is_added: bool = False) -> bool:
        """Whether an assembly of a kind of machine may be this; one that the shop added may be any."""
        return is_added or (
            (not self.kinds or kind in self.kinds) and (not self.fits or assembly in self.fits)
        )


class Looked(Struct, frozen=True):
    """What became of a thing: found, not, or hurt; what was measured and noted of it."""

    found: Found = ""
    measured: str = ""
    note: str = ""
    photo: str = ""


class Boxed(Struct, frozen=True):
    """A list with what was found of it, by key of the thing."""

    of: BoxList
    looked: Mapping[str, Looked]

    def at(self, key: str) -> Looked:
        """What became of a thing; nothing yet of one nobody looked for."""
        return self.looked.get(key, Looked())

    def those(self, found: Found) -> tuple[Thing, ...]:
        """Things by what became of them."""
        return tuple(t for t in self.of.things if self.at(t.key).found == found)

    @property
    def lacking(self) -> tuple[Thing, ...]:
        """What is missing, and what is hurt: neither can go in."""
        return tuple(t for t in self.of.things if self.at(t.key).found in ("no", "hurt"))

    def stops(self, step: str) -> str:
        """Why a step cannot be done: its thing is missing or hurt; "" where it can."""
        thing = next((t for t in self.lacking if f"{BOXED}{t.key}" == step), None)
        if thing is None:
            return ""
        return f"{large(thing.what)}: {'hurt' if self.at(thing.key).found == 'hurt' else 'missing'}"

    def goes_in_without(self) -> tuple[tuple[Thing, ...], tuple[Thing, ...]]:
        """What can go in although something is missing, and what must wait for it, each in its order.

        What waits, waits for a missing thing, or for a thing that waits.
        """
        lacks = {t.key for t in self.lacking}
        can, waits, held = [], [], set(lacks)
        for step in assembly_order(_bare_steps(self.of.things)):
            thing = self.of.thing(step.key)
            if step.key in lacks:
                continue
            if held & set(thing.after):
                held.add(step.key)
                waits.append(thing)
            else:
                can.append(thing)
        return tuple(can), tuple(waits)


def checked(boxes: BoxList) -> BoxList:
    """A list whose things can be put in: raises InputError for two of one key, for one that waits for what is
    not in the list, and for an order that goes in a circle.
    """
    keys = [t.key for t in boxes.things]
    twice = next((k for k in keys if keys.count(k) > 1), "")
    if twice:
        raise InputError(f"two things called “{twice}”", "a key of its own for each")
    assembly_order(_bare_steps(boxes.things))
    return boxes


def _bare_steps(things: Sequence[Thing]) -> list[FitStep]:
    return [FitStep(t.key, t.do, t.after, t.why) for t in things]


def with_boxed(steps: Sequence[FitStep], boxed: Boxed, done: Collection[str] = ()) -> tuple[FitStep, ...]:
    """Steps known for an assembly with those of what came in boxes: after what is cleaned and found, before
    what all else waits for. A thing that is missing says so in its step; one that is in (`done`) does not.
    """
    begun = tuple(s.key for s in steps if s.key in ("marks", "clean"))
    ends = {s.key for s in steps if not any(s.key in other.after for other in steps)}
    things = boxed.of.things
    put = [_step(t, boxed, begun, is_in=f"{BOXED}{t.key}" in done) for t in things]
    waited = {key for t in things for key in t.after}
    last = tuple(f"{BOXED}{t.key}" for t in things if t.key not in waited)
    opening = [s for s in steps if s.key in begun]
    rest = [replace(s, after=(*s.after, *last)) if s.key in ends else s for s in steps if s.key not in begun]
    return (*opening, *put, *rest)


def _step(thing: Thing, boxed: Boxed, begun: tuple[str, ...], *, is_in: bool) -> FitStep:
    looked = boxed.at(thing.key)
    lacks = "" if is_in else {"no": ": missing", "hurt": ": hurt, mended or new first"}.get(looked.found, "")
    told = (
        ("", thing.way),
        ("Before the next: ", thing.free),
        ("Measured: ", looked.measured),
        ("Noted: ", looked.note),
    )
    remind = "\n".join(f"{head}{words}" for head, words in told if words)
    return FitStep(
        f"{BOXED}{thing.key}",
        f"{thing.do}{lacks}",
        tuple(f"{BOXED}{key}" for key in thing.after) or begun,
        thing.why,
        remind,
        f"About {thing.kg:.0f} kg. {SLING}" if thing.kg > ALONE_KG else "",
        thing.minutes,
        "lifts" if thing.kg > ALONE_KG else "",
    )
