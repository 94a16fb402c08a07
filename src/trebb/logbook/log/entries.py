"""What can be written in a logbook. Field names are the stored ones: see docs/FORMATS.md.

A body is made without being checked; `JobFile.append` reads back what it is
about to write, so that nothing is stored that could not be read again.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Annotated, Any, ClassVar, Literal, TypeVar

import msgspec
from msgspec import Struct

from trebb.core.units import ReadingUnit
from trebb.core.words import small

B = TypeVar("B", bound="Body")
Text = Annotated[str, msgspec.Meta(max_length=20_000)]
Name = Annotated[str, msgspec.Meta(max_length=200)]
Value = Annotated[str, msgspec.Meta(max_length=2_000)] | float
Phase = Literal["before", "after", "later"]  # the repair; later: looked at again, a month or a year on
Unit = ReadingUnit
Grade = Literal["good", "looks", "works", "accuracy", "stops"]
Machine = Literal["lathe", "mill", "drill", "grinder", "shaper", "own"]
Key = Annotated[str, msgspec.Meta(pattern="^[a-z][a-z0-9_]{0,60}$")]
Rated = Literal["toolroom", "ordinary", "rough"]


class Body(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Base of all entry bodies: frozen, and refusing fields it does not know."""

    kind: ClassVar[str] = ""

    def fields(self) -> dict[str, Any]:
        """Its fields with their values, as JSON has them."""
        found: dict[str, Any] = msgspec.to_builtins(self)
        return found


class JobStarted(Body, frozen=True, forbid_unknown_fields=True):
    """The machine that came through the door."""

    kind: ClassVar[str] = "job.started"
    shop: Name
    machine: Name
    machine_kind: Machine
    machine_class: Rated = "ordinary"


class CardChanged(Body, frozen=True, forbid_unknown_fields=True):
    """A line of the machine's card."""

    kind: ClassVar[str] = "card.changed"
    field: Name
    value: Value


class Graded(Body, frozen=True, forbid_unknown_fields=True):
    """The walk-round's grade of an assembly."""

    kind: ClassVar[str] = "assembly.graded"
    assembly: Name
    grade: Grade
    note: Text = ""


class AssemblyAdded(Body, frozen=True, forbid_unknown_fields=True):
    """An assembly or a piece that the shop adds to the machine; `gone` takes it off, its entries stay."""

    kind: ClassVar[str] = "assembly.added"
    assembly: Key
    label: Annotated[str, msgspec.Meta(min_length=1, max_length=60)]
    family: Name = ""
    under: Name = ""
    gone: bool = False


class NumberOneNamed(Body, frozen=True, forbid_unknown_fields=True):
    """The problem that stops the machine."""

    kind: ClassVar[str] = "number_one.named"
    assembly: Name


class PhotoAdded(Body, frozen=True, forbid_unknown_fields=True):
    """A photograph, or a recording (`audio/…`, its caption the phase it is of), its bytes kept in the job
    file under their SHA-256.
    """

    kind: ClassVar[str] = "photo.added"
    assembly: Name
    sha256: Name
    media_type: Name
    file_name: Name
    caption: Text = ""


class LimitSet(Body, frozen=True, forbid_unknown_fields=True):
    """A rated limit other than the class default, with its source."""

    kind: ClassVar[str] = "limit.set"
    key: Name
    limit_mm: Annotated[float, msgspec.Meta(gt=0)]
    source: Text


class FactStated(Body, frozen=True, forbid_unknown_fields=True):
    """One fact about an assembly: a feed screw's thread, a spindle's bearings."""

    kind: ClassVar[str] = "drive.stated"
    assembly: Name
    field: Name
    value: Value


class ReadingTaken(Body, frozen=True, forbid_unknown_fields=True):
    """A reading as it came, in the set-up's own unit."""

    kind: ClassVar[str] = "reading.taken"
    assembly: Name
    set_up: Name
    place: Name
    phase: Phase
    value: float
    unit: Unit
    typed: Text = ""
    instrument: Name = ""
    resolution_mm: Annotated[float, msgspec.Meta(ge=0)] = 0.0


class ReadingStruck(Body, frozen=True, forbid_unknown_fields=True):
    """A reading struck out; it stays readable."""

    kind: ClassVar[str] = "reading.struck"
    reading: int
    reason: Text


class ReadingKept(Body, frozen=True, forbid_unknown_fields=True):
    """A reading that looked odd and was kept after looking."""

    kind: ClassVar[str] = "reading.kept"
    reading: int


class RemedyChosen(Body, frozen=True, forbid_unknown_fields=True):
    """The repair chosen, and why."""

    kind: ClassVar[str] = "remedy.chosen"
    assembly: Name
    remedy: Name
    reason: Text


class PartSet(Body, frozen=True, forbid_unknown_fields=True):
    """A size or choice of a part, set by hand; numbers in mm."""

    kind: ClassVar[str] = "part.set"
    part: Name
    field: Name
    value: Value


class SizeTaken(Body, frozen=True, forbid_unknown_fields=True):
    """A size measured while making, and by what."""

    kind: ClassVar[str] = "size.taken"
    part: Name
    operation: Name
    what: Name
    value_mm: float
    typed: Text = ""
    instrument: Name = ""


class SizeStruck(Body, frozen=True, forbid_unknown_fields=True):
    """A measured size struck out."""

    kind: ClassVar[str] = "size.struck"
    size: int
    reason: Text


class StepDone(Body, frozen=True, forbid_unknown_fields=True):
    """A step of a route or of the assembly, done or taken back."""

    kind: ClassVar[str] = "step.done"
    plan: Name
    step: Name
    done: bool = True


class PowerLocked(Body, frozen=True, forbid_unknown_fields=True):
    """Whether power is locked out."""

    kind: ClassVar[str] = "power.locked"
    locked: bool


class NoteWritten(Body, frozen=True, forbid_unknown_fields=True):
    """Words on a topic: "left" for what is left to do, "noise.ASSEMBLY.PHASE" for its noise."""

    kind: ClassVar[str] = "note.written"
    topic: Name
    text: Text


class ContactPainted(Body, frozen=True, forbid_unknown_fields=True):
    """Where marking blue rubbed: the taper unrolled, 8 rows from mouth to back of 24 cells, "1" rubbed."""

    kind: ClassVar[str] = "contact.painted"
    assembly: Name
    phase: Phase
    cells: Annotated[str, msgspec.Meta(pattern="^[01]{192}$")]


class MarkScribed(Body, frozen=True, forbid_unknown_fields=True):
    """An index mark for something that always goes back one way round."""

    kind: ClassVar[str] = "mark.scribed"
    assembly: Name
    what: Name
    angle_deg: float
    note: Text = ""


class MatterStated(Body, frozen=True, forbid_unknown_fields=True):
    """One fact of the job as a whole: of its plan, a task, a part that came off, a place that is oiled."""

    kind: ClassVar[str] = "matter.stated"
    matter: Key
    of: Name
    field: Name
    value: Text | float  # the fact says how long it may be: an order of many tasks is


class Planted(Body, frozen=True, forbid_unknown_fields=True):
    """A practice machine's hidden condition."""

    kind: ClassVar[str] = "practice.planted"
    assembly: Name
    seed: Annotated[int, msgspec.Meta(ge=0)]
    condition: dict[str, float]


class PracticeMarked(Body, frozen=True, forbid_unknown_fields=True):
    """What was done on the practice bench: the piece it is played on, a preparation, a hint that was asked
    for, the place that the indicator stood at, the verdict with how sure it is, the machine opened.
    """

    kind: ClassVar[str] = "practice.marked"
    what: Literal["piece", "did", "hint", "stood", "offer", "verdict", "opened"]
    of: Name = ""
    text: Text = ""
    share: Annotated[float, msgspec.Meta(ge=0, le=1)] = 0.0


class Undone(Body, frozen=True, forbid_unknown_fields=True):
    """A gesture taken back; its entries stay readable."""

    kind: ClassVar[str] = "undone"
    gesture_id: int


class Redone(Body, frozen=True, forbid_unknown_fields=True):
    """A gesture taken back, restored."""

    kind: ClassVar[str] = "redone"
    gesture_id: int


class Unreadable(Body, frozen=True, forbid_unknown_fields=True):
    """An entry that this Trebb cannot understand: kept as it stands, and said; never written."""

    kind: ClassVar[str] = ""
    stored_kind: str
    text: str
    reason: str


def phase_of(text: str) -> Phase:
    """A phase by its name; "before" for what is none."""
    return text if text in ("after", "later") else "before"  # type: ignore[return-value]


KINDS: dict[str, type[Body]] = {
    body.kind: body
    for body in (
        JobStarted,
        CardChanged,
        Graded,
        AssemblyAdded,
        NumberOneNamed,
        PhotoAdded,
        LimitSet,
        FactStated,
        ReadingTaken,
        ReadingStruck,
        ReadingKept,
        RemedyChosen,
        PartSet,
        SizeTaken,
        SizeStruck,
        StepDone,
        PowerLocked,
        NoteWritten,
        ContactPainted,
        MarkScribed,
        MatterStated,
        Planted,
        PracticeMarked,
        Undone,
        Redone,
    )
}


def read_body(kind: type[B], fields: Mapping[str, Any]) -> B:
    """A body from its fields. Raises msgspec.ValidationError; `why_not` makes a sentence of it."""
    return msgspec.json.decode(msgspec.json.encode(dict(fields)), type=kind)


def why_not(error: msgspec.MsgspecError) -> tuple[str, str]:
    """The field that will not do ("" for the entry as a whole) and why, in plain words."""
    text, _, path = str(error).partition(" - at ")
    field = path.strip("`").removeprefix("$").lstrip(".")
    if text.startswith("Object missing required field"):
        return text.split("`")[1], "it is missing"
    if text.startswith("Object contains unknown field"):
        return text.split("`")[1], "it is no field of this kind of entry"
    words = small(text)
    for theirs, ours in _WORDS:
        words = words.replace(theirs, ours)
    return field, words.replace("`", "")


_WORDS = (
    ("`null`", "nothing, or no finite number"),
    ("`str | float`", "text or a finite number"),
    ("`float`", "a finite number"),
    ("`int`", "a whole number"),
    ("`str`", "text"),
    ("`bool`", "true or false"),
    ("`object`", "an object"),
    ("`array`", "a list"),
    ("number out of range", "no finite number"),
)


class Entry(Struct, frozen=True):
    """A body as stored: its number, its time (UTC, ISO 8601), and the gesture it belongs to."""

    id: int
    at: str
    gesture: int
    body: Body


def gesture_of(bodies: Sequence[Body], first: int, at: str) -> list[Entry]:
    """Bodies as the entries of one gesture, numbered from its own number on."""
    return [Entry(first + i, at, first, body) for i, body in enumerate(bodies)]
