"""From the shell: the shop's memory."""

from __future__ import annotations

import argparse
from pathlib import Path

from trebb.app.shell.base import FILE, Command, open_job, say
from trebb.core import clock
from trebb.core.errors import InputError


def shop(given: argparse.Namespace) -> int:
    """What the memory holds: every figure with where it comes from, the jobs, what was foretold."""
    from trebb.logbook.memory.asked import memory_of
    from trebb.logbook.memory.shop import read_shop
    from trebb.logbook.memory.shop_place import in_use, memories, use

    if given.use:
        use(given.use)
    entries, trouble = read_shop()
    if trouble:
        raise InputError("the shop’s memory", trouble)
    memory = memory_of(entries)
    figures = memory.figures()
    told = {
        "memory": in_use(),
        "memories": memories(),
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
    lines = lines or ["No job has taught anything yet."]
    if len(memories()) > 1:
        lines = [f"In use: {in_use()}; there are {', '.join(memories())}", *lines]
    return say(given, told, lines)


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
    (
        "shop",
        "what the shop's memory holds, with where each figure comes from",
        shop,
        (
            (
                "--use",
                {"metavar": "NAME", "help": "this memory from now on; begun where there is none"},
            ),
        ),
    ),
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
