"""The practice bench from the shell: a hidden machine begun, read, struck out, judged; a class's results."""

from __future__ import annotations

import argparse
import csv
import io
from pathlib import Path
from typing import Any

from trebb.app.shell.base import FILE, Command, open_job, record, say
from trebb.core.errors import InputError, TrebbError
from trebb.core.units import show_minutes
from trebb.logbook.log.entries import NoteWritten, PracticeMarked, ReadingStruck

PUPIL = "pupil"  # the note that says who plays


def pieces(given: argparse.Namespace) -> int:
    """Set pieces, and one's record by trap."""
    from trebb.logbook.cases.practice_piece import set_pieces
    from trebb.logbook.memory.shop import read_shop
    from trebb.logbook.practice.record import by_trap, scores

    played = by_trap(scores(read_shop()[0]))
    told = {
        "pieces": {
            key: {"title": p.title, "ground": p.ground.key, "story": p.story}
            for key, p in set_pieces().items()
        },
        "record": played,
    }
    lines = [f"  {key}: {p.title} ({p.ground.label})" for key, p in set_pieces().items()]
    lines += [f"  {trap}: {', '.join(f'{t:.0f}' for t in totals)}" for trap, totals in played.items()]
    return say(given, told, lines)


def practise(given: argparse.Namespace) -> int:
    """Begin a hidden machine: by a code, a set piece's name, or its file."""
    from trebb.core.practice.piece import drawn, read_code
    from trebb.logbook.cases.practice_piece import read_piece, set_pieces
    from trebb.logbook.practice.begun import begin

    what = given.what
    if what in set_pieces():
        piece = set_pieces()[what]
    elif what.endswith(".toml"):
        piece = read_piece(Path(what))
    else:
        piece = drawn(*read_code(what))
    with begin(given.file, piece) as job_file:
        if given.pupil:
            job_file.append([NoteWritten(topic=PUPIL, text=given.pupil)])
    assembly = piece.ground.assembly
    told = {"title": piece.title, "assembly": assembly, "story": piece.story, "code": piece.code}
    lines = [f"{piece.title} {piece.code}".strip(), piece.story, f"It is read at “{assembly}”."]
    if piece.offer.words:
        told["offer"] = piece.offer.words
        lines.append(f"Offered: {piece.offer.words} Say at the verdict: --offer taken, or --offer left.")
    budget = [f"{show_minutes(piece.minutes)} at the bench"] if piece.minutes else []
    budget += [f"{piece.money:.0f} to spend, an hour counted at 20"] if piece.money else []
    return say(given, told, [*lines, *([f"At most {' and '.join(budget)}."] if budget else [])])


def take(given: argparse.Namespace) -> int:
    """Read a set-up of the hidden machine, every place as often as wanted; or make it ready first."""
    from trebb.core.practice.lies import PREPARATIONS
    from trebb.logbook.cases.casework import set_up_of
    from trebb.logbook.demo.jobs import simulated_reading
    from trebb.logbook.practice.begun import doing

    job_file, cases = open_job(given, writes=bool(given.what))
    with job_file:
        piece, case = _piece(cases)
        if not given.what:
            return _say_what_there_is(given, cases, piece)
        if given.what in PREPARATIONS:
            record(job_file, cases, doing(case, piece, given.what))
            return say(given, {"did": given.what}, [PREPARATIONS[given.what].words])
        owner = next(
            (
                c
                for key in (piece.ground.assembly, *piece.ground.also)
                for c in (cases.of(key),)
                if any(s.key == given.what for s in c.set_ups)
            ),
            None,
        )
        if owner is None:
            known = [s.key for s in case.set_ups]
            raise InputError(
                f"“{given.what}”", f"set-ups are {', '.join(known)}; made ready by {', '.join(PREPARATIONS)}"
            )
        s = set_up_of(given.what)
        bodies = [
            simulated_reading(owner, s.key, place.key, "before", after=i)
            for place in owner.places_left(s, "before")
            for i in range(max(1, s.wanted))
        ]
        if not bodies:
            would = "strike a reading out (trebb strike), or read another set-up"
            raise InputError(f"“{given.what}”: every place of it is read", would)
        record(job_file, cases, bodies)
    return say(
        given,
        {"set_up": s.key, "readings": {b.place: b.value for b in bodies}},
        [f"  {b.place}: {b.value:.7g} {b.unit}" for b in bodies],
    )


def _say_what_there_is(given: argparse.Namespace, cases: Any, piece: Any) -> int:
    """Set-ups with their minutes, before any is spent; what may be done first, and what was spent."""
    from trebb.core.practice.lies import preparations_of
    from trebb.logbook.practice.begun import used

    told, lines = [], []
    for key in (piece.ground.assembly, *piece.ground.also):
        case = cases.of(key)
        for s in case.set_ups:
            left = len(case.places_left(s, "before"))
            first = {p.key: p.minutes for p in preparations_of(s.key)}
            told.append(
                {
                    "set_up": s.key,
                    "setting": s.setting_minutes,
                    "a_place": s.minutes,
                    "left": left,
                    "first": first,
                }
            )
            ready = "".join(f"; first {name}, {minutes:g} min" for name, minutes in first.items())
            costs = f"{s.setting_minutes:g} min and {s.minutes:g} a place, {left} left"
            lines.append(f"  {s.key}: {s.title}, {costs}{ready}")
    spent = used(cases.of(piece.ground.assembly))
    lines.append(
        f"{show_minutes(spent.minutes) if spent.minutes else 'No minute'} used, {spent.readings} readings."
    )
    return say(given, {"set_ups": told, "minutes": spent.minutes, "readings": spent.readings}, lines)


def strike(given: argparse.Namespace) -> int:
    """Strike out the last reading of a place, with a reason; it stays readable."""
    job_file, cases = open_job(given, writes=True)
    with job_file:
        taken = cases.job.readings(given.assembly, given.set_up, "after" if given.after else "before")
        standing = [r for r in taken if r.struck is None and r.taken.place == given.place]
        if not standing:
            places = ", ".join(dict.fromkeys(r.taken.place for r in taken if r.struck is None))
            raise InputError(
                f"a reading of “{given.set_up}” at “{given.place}”", f"readings stand at: {places or 'none'}"
            )
        last = standing[-1]
        record(job_file, cases, [ReadingStruck(reading=last.id, reason=given.why or "no reason given")])
    told = {"reading": last.id, "value": last.taken.value, "unit": last.taken.unit}
    return say(given, told, [f"Struck out: {last.taken.value:.7g} {last.taken.unit} at {last.taken.place}."])


def results(given: argparse.Namespace) -> int:
    """What each of a class came to, from their files: one table."""
    from trebb.logbook.cases.casework import Cases
    from trebb.logbook.file.looking import JobLookedAt
    from trebb.logbook.log.fold import Job
    from trebb.logbook.practice.opened import opened

    rows = []
    for path in given.files:
        with JobLookedAt.look(path) as job_file:
            entries = list(job_file.entries())
        job = Job(entries)
        row: dict[str, object] = {"file": path.name, "pupil": job.note(PUPIL)}
        try:
            piece, _ = _piece(Cases(job))
            row |= {"machine": f"{piece.title} {piece.code}".strip(), "level": piece.level}
            found = opened(entries)
            score = found.score
            row |= {
                "total": round(score.total),
                "minutes": round(score.minutes),
                "verdict": round(score.verdict),
            }
            row |= {"money": round(score.money), "used_minutes": round(found.used.minutes, 1)}
            row |= {"said": found.said, "sure": found.sure, "was": found.truth.chief}
        except TrebbError as error:
            row["trouble"] = str(error)
        rows.append(row)
    rows.sort(key=lambda row: (str(row.get("pupil", "")).casefold(), str(row["file"])))
    if given.csv is not None:
        _write_table(given.csv, rows)
    lines = [
        f"  {row['pupil'] or row['file']}: "
        + (str(row["trouble"]) if "trouble" in row else f"{row['total']} of 100, {row['machine']}")
        for row in rows
    ]
    return say(given, rows, lines)


# Of the table, in order.
WHOSE = ("pupil", "file", "machine", "level")
POINTS = ("total", "minutes", "verdict", "money", "used_minutes")
COLUMNS = (*WHOSE, *POINTS, "said", "sure", "was", "trouble")


def _write_table(path: Path, rows: list[dict[str, object]]) -> None:
    from trebb.logbook.exchange.readings_csv import as_text
    from trebb.logbook.file.writing import write_whole

    held = io.StringIO()
    table = csv.writer(held)
    table.writerow(COLUMNS)
    for row in rows:
        table.writerow([as_text(str(row.get(c, ""))) for c in COLUMNS])
    write_whole(path, held.getvalue().encode("utf-8"))


def _piece(cases: Any) -> tuple[Any, Any]:
    from trebb.logbook.cases.practice_piece import piece_of

    piece = piece_of(cases.job)
    if piece is None:
        raise InputError("this job", "it is no practice: begin one with trebb practise FILE CODE")
    return piece, cases.of(piece.ground.assembly)


def verdict(given: argparse.Namespace) -> int:
    """Say what is wrong and how sure one is; the machine is opened and scored."""
    from trebb.core.practice.ground_records import NOTHING
    from trebb.logbook.practice.opened import look_for_best, opened, opening
    from trebb.logbook.practice.record import keep_score

    job_file, cases = open_job(given, writes=True)
    with job_file:
        piece, _ = _piece(cases)
        causes = [*(c.key for c in piece.ground.causes), NOTHING]
        if given.cause not in causes:
            raise InputError(f"“{given.cause}”", f"one of {', '.join(causes)}")
        if not 50 <= given.sure <= 99:
            raise InputError(f"{given.sure:g} %", "from 50 to 99")
        if cases.job.practice_marks("opened"):
            raise InputError("this machine", "it is open already")
        if piece.offer.words and not given.offer:
            raise InputError(f"what is offered: {piece.offer.words}", "say --offer taken, or --offer left")
        said = [PracticeMarked(what="verdict", of=given.cause, share=given.sure / 100)]
        said += [PracticeMarked(what="offer", of=given.offer)] if given.offer else []
        job_file.append(said)
        job_file.append([opening(look_for_best(job_file.entries()))])
        found = opened(job_file.entries())
        trouble = keep_score(found, str(job_file.path))
    score = found.score
    told = {
        "total": score.total,
        "minutes": score.minutes,
        "verdict": score.verdict,
        "money": score.money,
        "hints": score.hints,
        "damage": list(score.damage),
        "over": list(score.over),
        "was": found.truth.chief,
        "shares": dict(found.truth.shares),
        "best_minutes": found.best.minutes,
        "wrong_at": found.wrong_at,
        "why": found.wrong_why,
        "earned": score.earned,
        "never_read": found.lesson.never,
        "on_nothing": list(found.lesson.on_nothing),
    }
    lines = [
        f"{score.total:.0f} of 100: minutes {score.minutes:.0f}, verdict {score.verdict:.0f}, money "
        f"{score.money:.0f}",
        piece.ground.label_of(found.truth.chief),
        f"best order {show_minutes(found.best.minutes)}",
        *filter(None, (found.wrong_why, found.lesson.never, *found.lesson.on_nothing)),
        *([f"not kept: {trouble}"] if trouble else []),
    ]
    return say(given, told, lines)


PRACTICE_COMMANDS: tuple[Command, ...] = (
    ("pieces", "set pieces of the practice bench, and your record", pieces, ()),
    (
        "practise",
        "begin a hidden machine: a code such as 2-ABCX, a set piece, or its file; --pupil says who plays",
        practise,
        (FILE, ("what", {"metavar": "code|piece|file.toml"}), ("--pupil", {"default": ""})),
    ),
    (
        "take",
        "read a set-up of a hidden machine by its simulated instruments, or make it ready; of neither: what "
        "there is, with its minutes",
        take,
        (FILE, ("what", {"metavar": "set-up|preparation", "nargs": "?", "default": ""})),
    ),
    (
        "strike",
        "strike out the last reading of a place; it stays readable",
        strike,
        (
            FILE,
            ("assembly", {}),
            ("set_up", {"metavar": "set-up"}),
            ("place", {}),
            ("--why", {"default": ""}),
            ("--after", {"action": "store_true", "help": "of those after the repair"}),
        ),
    ),
    (
        "verdict",
        "say what is wrong with a hidden machine and how sure you are, in per cent: it is opened",
        verdict,
        (
            FILE,
            ("cause", {}),
            ("sure", {"type": float}),
            (
                "--offer",
                {"choices": ("taken", "left"), "default": "", "help": "what is done with what is offered"},
            ),
        ),
    ),
    (
        "results",
        "what each of a class came to, from their practice files; --csv writes the table",
        results,
        (
            ("files", {"nargs": "+", "type": Path, "metavar": "FILE"}),
            ("--csv", {"type": Path, "metavar": "OUT", "default": None}),
        ),
    ),
)
