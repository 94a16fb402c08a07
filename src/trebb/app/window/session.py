"""The open job as the views see it: one call a gesture, one signal when something changed."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from trebb.app.window.thumbnails import Thumbnails
from trebb.core.memory.taught import USUAL, Taught
from trebb.core.survey import AnySetUp, Outlier, outlier
from trebb.core.survey.admitting import width_typed
from trebb.core.units import UnitSystem
from trebb.logbook.cases.asking import kind_of_place
from trebb.logbook.cases.casework import Case, Cases
from trebb.logbook.file.drafts import Drafts
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.looking import JobLookedAt
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import Body, Entry, ReadingKept, ReadingTaken, Redone, Undone, phase_of
from trebb.logbook.log.fold import Job
from trebb.logbook.practice.state import is_asked, is_silent

WAITS = "…"  # stands for a figure that is worked out a moment later
SEEN_AFTER_MS = 60  # a window that was painted is seen


class Session(QObject):
    """A job file, its fold and its case.

    `changed` is emitted once after each gesture and each change of view
    (units, chosen assembly); `refused` carries a sentence when a gesture could
    not be recorded: then nothing of it is shown as taken.
    """

    changed = Signal()
    refused = Signal(str)

    def __init__(
        self, job_file: JobFile, system: UnitSystem = UnitSystem.INCH, taught: Taught = USUAL
    ) -> None:
        super().__init__()
        self.file = job_file
        self.job = Job(job_file.entries())
        self.cases = Cases(self.job, taught)
        self.system = system
        self.assembly = self.cases.first().assembly_key
        self.thumbnails = Thumbnails()
        self._drafts: Drafts | None = None
        # A window that opens is seen with its readings; what is worked out of them follows a moment later.
        self.figures_wait = False
        self.steps: dict[str, float] = {}  # what each kind of instrument is said to read to, mm
        self._opened_at = job_file.newest
        # Asked before another assembly or unit is shown: what was typed belongs to what was on show.
        self.guards: list[Callable[[], bool]] = []

    @property
    def case(self) -> Case:
        """What the core says of the chosen part."""
        return self.cases.of(self.assembly)

    def teach(self, taught: Taught) -> None:
        """Go by other figures of the shop's own from now on."""
        if taught != self.cases.taught:
            self.cases = Cases(self.job, taught)
            self.changed.emit()

    @property
    def is_silent(self) -> bool:
        """Whether a hidden machine is being played: nothing is told then unless it is asked for."""
        return is_silent(self.job)

    def is_told(self, hint: str) -> bool:
        """Whether what a hint would tell may be shown: it was asked for since the last reading, or nothing is
        hidden.
        """
        return not self.is_silent or is_asked(self.job, hint)

    @property
    def path(self) -> Path:
        """Where the job is kept."""
        return self.file.path

    @property
    def drafts(self) -> Drafts:
        """Words half typed that no entry holds yet."""
        if self._drafts is None:
            from trebb.logbook.file.backups import job_key

            self._drafts = Drafts(job_key(self.file.first()))
        return self._drafts

    def record(
        self, *bodies: Body, photographs: Mapping[str, tuple[str, bytes]] | None = None
    ) -> list[Entry]:
        """Append one gesture and repaint; [] if it could not be recorded.

        Raises InputError, and records nothing, where an entry could not be used.
        """
        from trebb.logbook.cases.admitting import admit_together

        admit_together(self.cases, bodies)
        try:
            entries = self.file.append(bodies, photographs)
        except JobFileError as error:
            self.refused.emit(str(error))
            return []
        for entry in entries:
            self.job.apply(entry)
        if not self.job.machine.has(self.assembly):  # it was taken off
            self.assembly = self.cases.first().assembly_key
        self.changed.emit()
        return entries

    def follow(self) -> None:
        """Take in what another program added to a job that is only looked at."""
        if not isinstance(self.file, JobLookedAt):
            return
        with contextlib.suppress(JobFileError):  # read again in a moment
            entries = self.file.newer()
            for entry in entries:
                self.job.apply(entry)
            if entries:
                self.changed.emit()

    def undo(self) -> None:
        """Take back the last gesture; it stays in the logbook."""
        gesture = self.job.undoable
        if gesture is not None:
            self.record(Undone(gesture_id=gesture))

    def redo(self) -> None:
        """Restore the gesture taken back last."""
        gesture = self.job.redoable
        if gesture is not None:
            self.record(Redone(gesture_id=gesture))

    def show_in(self, system: UnitSystem) -> None:
        """Switch the unit system of the view; no stored number changes."""
        if system is not self.system and self._settled():
            self.system = system
            self.changed.emit()

    def choose(self, assembly: str) -> None:
        """Choose a part of the machine; not while something typed for the one before it is refused."""
        if assembly != self.assembly and self._settled() and self.job.machine.has(assembly):
            self.assembly = assembly
            self.changed.emit()

    def _settled(self) -> bool:
        return all(guard() for guard in self.guards)

    def take(
        self,
        s: AnySetUp,
        place: str,
        phase: str,
        raw: float,
        *,
        typed: str = "",
        instrument: str = "",
        is_sure: bool = False,
    ) -> Entry | None:
        """Record a reading in the set-up's unit; `is_sure`: it was asked about, and is so."""
        bodies: list[Body] = [self.reading(s, place, phase, raw, typed, instrument)]
        if is_sure:
            bodies.append(ReadingKept(reading=self.file.newest + 1))
        entries = self.record(*bodies)
        return entries[0] if entries else None

    def take_turn(self, s: AnySetUp, phase: str, found: Sequence[tuple[str, float]], typed: str) -> None:
        """Record a whole turn typed as one figure: a reading at each of its places, in one gesture."""
        self.record(*(self.reading(s, place, phase, raw, typed, "typed") for place, raw in found))

    def reading(
        self, s: AnySetUp, place: str, phase: str, raw: float, typed: str, instrument: str
    ) -> ReadingTaken:
        """A reading of the chosen part as it is recorded; `raw` in the set-up's own unit."""
        width = width_typed(s, self.case.read_as(phase), typed, self.system) if instrument == "typed" else 0.0
        return ReadingTaken(
            assembly=self.assembly,
            set_up=s.key,
            place=place,
            phase=phase_of(phase),
            value=raw,
            unit=s.unit,
            typed=typed,
            instrument=instrument,
            resolution_mm=(width or self.step_mm(s)) if instrument == "typed" else s.resolution_mm,
        )

    def step_mm(self, s: AnySetUp) -> float:
        """What the instrument of a set-up is said to read to, mm: as chosen, else as with the last reading by
        such an instrument; 0 where nobody said: then its figures tell.
        """
        if s.instrument.value not in self.steps:
            kinds = {one.key for one in self.case.set_ups if one.instrument is s.instrument}
            taken = (r.taken for r in reversed(self.job.all_readings()) if r.taken.set_up in kinds)
            last = next((t for t in taken if t.instrument == "typed"), None)
            self.steps[s.instrument.value] = last.resolution_mm if last is not None else 0.0
        return self.steps[s.instrument.value]

    def odd_reading(self, s: AnySetUp, phase: str) -> tuple[int, str, Outlier] | None:
        """The last reading of a set-up, if it stands far from its neighbours and was not yet kept: its id,
        place, proportion.
        """
        last = self.job.last_reading(self.assembly, phase)
        if last is None or last.taken.set_up != s.key or last.is_kept or s.is_signed:
            return None
        kind = kind_of_place(last.taken.place)
        known = self.case.place_keys(s.key)
        if last.taken.place not in known:
            return None
        subject = self.case.read_as(phase)
        about = set(s.row(subject, last.taken.place).coefficients)
        others: list[float] = []
        for p in self.job.standing(self.assembly, s.key, phase):
            if p.place not in known or kind_of_place(p.place) != kind:
                continue
            # Two sizes of different things are no neighbours.
            if not s.is_size or about & set(s.row(subject, p.place).coefficients):
                others += p.values[:-1] if p.place == last.taken.place else p.values
        found = outlier(s, subject, last.taken.value, others)
        return (last.id, last.taken.place, found) if found else None

    def close(self) -> None:
        """Let the file go; what was added to it has a back-up then, of a job of one's own."""
        is_own = not self.file.is_looked_at and not self.job.practice_marks("piece")
        wants_copy = is_own and self.file.newest > self._opened_at and not self.file.trouble()
        self.file.close()
        if wants_copy:
            from trebb.logbook.file.backups import back_up_closed

            back_up_closed(self.path)
