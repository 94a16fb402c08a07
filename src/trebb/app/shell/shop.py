"""From the shell: the practice bench, and the shop's memory."""

from __future__ import annotations

import argparse
from collections.abc import Callable
from pathlib import Path
from typing import Any

from trebb.app.shell.base import FILE, Argument, open_job, record, say
from trebb.core import clock
from trebb.core.errors import InputError
from trebb.core.units import show_minutes

Command = tuple[str, str, Callable[[argparse.Namespace], int], tuple[Argument, ...]]


# practice -------------------------------------------------------------------------------------


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
    with begin(given.file, piece):
        pass
    assembly = piece.ground.assembly
    return say(
        given,
        {"title": piece.title, "assembly": assembly, "story": piece.story, "code": piece.code},
        [f"{piece.title} {piece.code}".strip(), piece.story, f"It is read at “{assembly}”."],
    )


def take(given: argparse.Namespace) -> int:
    """Read a set-up of the hidden machine, every place as often as wanted; or make it ready first."""
    from trebb.core.practice.lies import PREPARATIONS
    from trebb.logbook.cases.casework import set_up_of
    from trebb.logbook.demo.jobs import simulated_reading
    from trebb.logbook.practice.begun import doing

    job_file, cases = open_job(given, writes=True)
    with job_file:
        piece, case = _piece(cases)
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
        record(job_file, cases, bodies)
    return say(
        given,
        {"set_up": s.key, "readings": {b.place: b.value for b in bodies}},
        [f"  {b.place}: {b.value:.4g} {b.unit}" for b in bodies],
    )


def _piece(cases: Any) -> tuple[Any, Any]:
    from trebb.logbook.cases.practice_piece import piece_of

    piece = piece_of(cases.job)
    if piece is None:
        raise InputError("this job", "it is no practice: begin one with trebb practise FILE CODE")
    return piece, cases.of(piece.ground.assembly)


def verdict(given: argparse.Namespace) -> int:
    """Say what is wrong and how sure one is; the machine is opened and scored."""
    from trebb.core.practice.ground_records import NOTHING
    from trebb.logbook.log.entries import PracticeMarked
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
        job_file.append([PracticeMarked(what="verdict", of=given.cause, share=given.sure / 100)])
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
    }
    lines = [
        f"{score.total:.0f} of 100: minutes {score.minutes:.0f}, verdict {score.verdict:.0f}, money "
        f"{score.money:.0f}",
        piece.ground.label_of(found.truth.chief),
        f"best order {show_minutes(found.best.minutes)}",
        *filter(None, (found.wrong_why, f"not kept: {trouble}" if trouble else "")),
    ]
    return say(given, told, lines)


# memory ---------------------------------------------------------------------------------------


def shop(given: argparse.Namespace) -> int:
    """What the memory holds: every figure with where it comes from, the jobs, what was foretold."""
    from trebb.logbook.memory.asked import memory_of
    from trebb.logbook.memory.shop import read_shop

    entries, trouble = read_shop()
    if trouble:
        raise InputError("the shop’s memory", trouble)
    memory = memory_of(entries)
    figures = memory.figures()
    told = {
        "figures": [
            {
                "topic": k.topic,
                "of": k.of,
                "usual": k.usual_words,
                "now": k.now.value,
                "low": k.now.low,
                "high": k.now.high,
                "jobs": k.now.jobs,
                "source": k.source,
                "is_used": k.is_used,
            }
            for k in figures
        ],
        "jobs": [
            {"job": name, "machine": j.given.machine, "lines": j.lines, "left_out": j.is_out}
            for name, j in memory.jobs.items()
        ],
        "foretold": [
            {"family": f.family, "count": len(f.z), "inside": f.cover, "wider": f.wider}
            for f in memory.foretold()
        ],
    }
    lines = [f"  {k.words}: {k.now_words} (usual {k.usual_words}), {k.source}" for k in figures]
    lines += [f"  {name}{', left out' if j.is_out else ''}" for name, j in memory.jobs.items()]
    lines += [f"  {f.family}: {f.cover:.0%} of {len(f.z)} inside" for f in memory.foretold()]
    return say(given, told, lines or ["No job has taught anything yet."])


def shop_give(given: argparse.Namespace) -> int:
    """What a job teaches; with --yes it is kept."""
    from trebb.logbook.memory.lessons import given as given_of
    from trebb.logbook.memory.lessons import job_name, lessons
    from trebb.logbook.memory.shop import remember

    job_file, cases = open_job(given)
    with job_file:
        name = job_name(job_file)
        found = lessons(name, cases.job, clock.now())
        start = given_of(job_file, cases.job)
    if given.yes and found:
        bodies = [line.lesson or line.thing for line in found]
        remember([start, *(b for b in bodies if b is not None)])
    tail = "Kept." if given.yes and found else "Nothing is kept yet: add --yes." if found else "Nothing."
    return say(
        given,
        {"job": name, "lines": [line.words for line in found], "kept": bool(given.yes and found)},
        [*(f"  {line.words}" for line in found), tail],
    )


def shop_leave(given: argparse.Namespace) -> int:
    """Leave a job out of the memory, or count it again."""
    from trebb.logbook.memory.asked import memory_of
    from trebb.logbook.memory.shop import JobLeftOut, read_shop, remember

    memory = memory_of(read_shop()[0])
    begun = [job for job in memory.jobs if job.casefold().startswith(given.job.casefold())]
    named = [given.job] if given.job in memory.jobs else begun
    if len(named) != 1:
        raise InputError(f"job “{given.job}”", f"known are {', '.join(begun or memory.jobs) or 'none yet'}")
    remember([JobLeftOut(job=named[0], out=not given.again)])
    return say(given, {"job": named[0], "left_out": not given.again}, [f"Kept: {named[0]}."])


def shop_find(given: argparse.Namespace) -> int:
    """Search all jobs."""
    from trebb.logbook.memory.asked import memory_of
    from trebb.logbook.memory.shop import read_shop

    found = memory_of(read_shop()[0]).search(" ".join(given.words))
    told = [
        {"what": t.what, "words": t.words, "facts": t.facts, "job": t.job, "path": j.given.path if j else ""}
        for t, j in found
    ]
    return say(given, told, [f"  {t.what}: {t.words} [{t.job}]" for t, _ in found] or ["Nothing found."])


def shop_export(given: argparse.Namespace) -> int:
    """Write the memory as JSON."""
    from trebb.logbook.memory.shop import export_shop

    count = export_shop(Path(given.out))
    return say(given, {"written": given.out, "entries": count}, [f"Written: {given.out}, {count} entries"])


def shop_join(given: argparse.Namespace) -> int:
    """Another shop's memory into this one."""
    from trebb.logbook.memory.joining import bring_in

    found = bring_in(Path(given.other))
    told = {"jobs": found.jobs, "checks": found.checks, "scores": found.scores, "known": found.known}
    return say(given, told, [found.words])


def shop_out(given: argparse.Namespace) -> int:
    """All that is the shop's and not a job's into one folder."""
    from trebb.app.window import preferences
    from trebb.logbook.exchange.shop_folder import write_shop

    went = write_shop(Path(given.folder), preferences.told(preferences.settings_at_home()))
    told = {"folder": given.folder, "written": {c.name: c.words for c in went}}
    return say(given, told, [f"  {c.name}: {c.words}" for c in went])


def shop_in(given: argparse.Namespace) -> int:
    """What such a folder holds into this shop's own, each by itself."""
    from trebb.app.window import preferences
    from trebb.logbook.exchange.shop_folder import read_preferences, take_shop

    folder = Path(given.folder)
    chosen, came = read_preferences(folder), take_shop(folder)
    preferences.take(preferences.settings_at_home(), chosen)
    told = {"taken": {c.name: c.words for c in came if not c.trouble}, "preferences": len(chosen),
            "not_taken": {c.name: c.trouble for c in came if c.trouble}}  # fmt: skip
    lines = [f"  {c.name}: {c.trouble or c.words}" for c in came]
    return say(given, told, [*lines, f"  preferences: {len(chosen)}"])


def feed(given: argparse.Namespace) -> int:
    """Readings as lines of JSON for other programs, as they come; until it is stopped, or so many."""
    import json

    from trebb.logbook.file.watching import watch

    after = 0 if given.all else None
    for i, told in enumerate(watch(given.file, after=after), start=1):
        print(json.dumps(told, ensure_ascii=False), flush=True)
        if given.count and i >= given.count:
            break
    return 0


SHOP_COMMANDS: tuple[Command, ...] = (
    ("pieces", "set pieces of the practice bench, and your record", pieces, ()),
    (
        "practise",
        "begin a hidden machine: a code such as 2-ABCX, a set piece, or its file",
        practise,
        (FILE, ("what", {"metavar": "code|piece|file.toml"})),
    ),
    (
        "take",
        "read a set-up of a hidden machine by its simulated instruments, or make it ready",
        take,
        (FILE, ("what", {"metavar": "set-up|preparation"})),
    ),
    (
        "verdict",
        "say what is wrong with a hidden machine and how sure you are, in per cent: it is opened",
        verdict,
        (FILE, ("cause", {}), ("sure", {"type": float})),
    ),
    ("shop", "what the shop's memory holds, with where each figure comes from", shop, ()),
    (
        "teach",
        "what a job teaches the shop's memory; --yes keeps it",
        shop_give,
        (FILE, ("--yes", {"action": "store_true"})),
    ),
    (
        "leave-out",
        "leave a job out of the memory; --again counts it again",
        shop_leave,
        (("job", {}), ("--again", {"action": "store_true"})),
    ),
    ("find", "search all jobs: a thread, a part, a machine", shop_find, (("words", {"nargs": "+"}),)),
    (
        "watch",
        "readings as lines of JSON on standard output, as they come; --all those before too, --count stops",
        feed,
        (FILE, ("--all", {"action": "store_true"}), ("--count", {"type": int, "default": 0})),
    ),
    ("shop-json", "the memory as JSON", shop_export, (("out", {}),)),
    (
        "shop-out",
        "preferences, memory, rack, own causes and lists into one folder",
        shop_out,
        (("folder", {}),),
    ),
    (
        "shop-in",
        "bring in what such a folder holds; what stands here is kept beside it",
        shop_in,
        (("folder", {}),),
    ),
    (
        "shop-join",
        "take another shop's memory (or its JSON) into this one, each lesson once",
        shop_join,
        (("other", {}),),
    ),
)
