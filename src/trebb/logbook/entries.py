"""What can be written in a logbook. Field names are the stored ones: see docs/FORMATS.md."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, FiniteFloat


class Body(BaseModel):
    """Base of all entry bodies: frozen, and refusing fields it does not know."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)


class JobStarted(Body):
    """The machine that came through the door."""

    kind: Literal["job.started"] = "job.started"
    shop: str
    machine: str
    machine_kind: Literal["lathe", "mill", "drill"]
    machine_class: Literal["toolroom", "ordinary", "rough"] = "ordinary"


class CardChanged(Body):
    """A line of the machine's card."""

    kind: Literal["card.changed"] = "card.changed"
    field: str
    value: str | FiniteFloat


class Graded(Body):
    """The walk-round's grade of an assembly."""

    kind: Literal["assembly.graded"] = "assembly.graded"
    assembly: str
    grade: Literal["good", "looks", "works", "accuracy", "stops"]
    note: str = ""


class NumberOneNamed(Body):
    """The problem that stops the machine."""

    kind: Literal["number_one.named"] = "number_one.named"
    assembly: str


class PhotoAdded(Body):
    """A photograph, its bytes kept in the job file under their SHA-256."""

    kind: Literal["photo.added"] = "photo.added"
    assembly: str
    sha256: str
    media_type: str
    file_name: str
    caption: str = ""


class LimitSet(Body):
    """A rated limit other than the class default, with its source."""

    kind: Literal["limit.set"] = "limit.set"
    key: str
    limit_mm: FiniteFloat = Field(gt=0)
    source: str


class DriveStated(Body):
    """One fact about an assembly: a feed screw's thread, a spindle's bearings."""

    kind: Literal["drive.stated"] = "drive.stated"
    assembly: str
    field: str
    value: str | FiniteFloat


class ReadingTaken(Body):
    """A reading as it came, in the set-up's own unit."""

    kind: Literal["reading.taken"] = "reading.taken"
    assembly: str
    set_up: str
    place: str
    phase: Literal["before", "after"]
    value: FiniteFloat
    unit: Literal["mm", "div", "C", "mm/m", "count"]
    typed: str = ""
    instrument: str = ""
    resolution_mm: FiniteFloat = Field(default=0.0, ge=0)


class ReadingStruck(Body):
    """A reading struck out; it stays readable."""

    kind: Literal["reading.struck"] = "reading.struck"
    reading: int
    reason: str


class ReadingKept(Body):
    """A reading that looked odd and was kept after looking."""

    kind: Literal["reading.kept"] = "reading.kept"
    reading: int


class RemedyChosen(Body):
    """The repair chosen, and why."""

    kind: Literal["remedy.chosen"] = "remedy.chosen"
    assembly: str
    remedy: str
    reason: str


class PartSet(Body):
    """A size or choice of a part, set by hand; numbers in mm."""

    kind: Literal["part.set"] = "part.set"
    part: str
    field: str
    value: str | FiniteFloat


class SizeTaken(Body):
    """A size measured while making."""

    kind: Literal["size.taken"] = "size.taken"
    part: str
    operation: str
    what: str
    value_mm: FiniteFloat
    typed: str = ""


class SizeStruck(Body):
    """A measured size struck out."""

    kind: Literal["size.struck"] = "size.struck"
    size: int
    reason: str


class StepDone(Body):
    """A step of a route or of the assembly, done or taken back."""

    kind: Literal["step.done"] = "step.done"
    plan: str
    step: str
    done: bool = True


class PowerLocked(Body):
    """Whether power is locked out."""

    kind: Literal["power.locked"] = "power.locked"
    locked: bool


class NoteWritten(Body):
    """Words on a topic: "left" for what is left to do, "noise.ASSEMBLY.PHASE" for its noise."""

    kind: Literal["note.written"] = "note.written"
    topic: str
    text: str


class ContactPainted(Body):
    """Where marking blue rubbed: the taper unrolled, 8 rows from mouth to back of 24 cells, "1" rubbed."""

    kind: Literal["contact.painted"] = "contact.painted"
    assembly: str
    phase: Literal["before", "after"]
    cells: str = Field(pattern="^[01]{192}$")


class MarkScribed(Body):
    """An index mark for something that always goes back one way round."""

    kind: Literal["mark.scribed"] = "mark.scribed"
    assembly: str
    what: str
    angle_deg: FiniteFloat
    note: str = ""


class Planted(Body):
    """A practice machine's hidden condition."""

    kind: Literal["practice.planted"] = "practice.planted"
    assembly: str
    seed: int
    condition: dict[str, FiniteFloat]


class Undone(Body):
    """A gesture taken back; its entries stay readable."""

    kind: Literal["undone"] = "undone"
    gesture_id: int


class Redone(Body):
    """A gesture taken back, restored."""

    kind: Literal["redone"] = "redone"
    gesture_id: int


AnyBody = (
    JobStarted
    | CardChanged
    | Graded
    | NumberOneNamed
    | PhotoAdded
    | LimitSet
    | DriveStated
    | ReadingTaken
    | ReadingStruck
    | ReadingKept
    | RemedyChosen
    | PartSet
    | SizeTaken
    | SizeStruck
    | StepDone
    | PowerLocked
    | NoteWritten
    | ContactPainted
    | MarkScribed
    | Planted
    | Undone
    | Redone
)

# Each kind's class by its stored name; a class's validator is built when its kind first occurs.
KINDS: dict[str, type[AnyBody]] = {
    str(kind.model_fields["kind"].default): kind
    for kind in (
        JobStarted,
        CardChanged,
        Graded,
        NumberOneNamed,
        PhotoAdded,
        LimitSet,
        DriveStated,
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
        Planted,
        Undone,
        Redone,
    )
}


@dataclass(frozen=True, slots=True)
class Entry:
    """A body as stored: its number, its time (UTC, ISO 8601), and the gesture it belongs to."""

    id: int
    at: str
    gesture: int
    body: AnyBody
