"""What arrived in boxes, as recorded: which list an assembly is checked by, and what was found of it.

The list is kept in the job as text, so that a job says the same wherever it is opened and whatever becomes
of the list. A shop's own lists lie beside its memory.
"""

from __future__ import annotations

import tomllib
from functools import cache, lru_cache
from importlib import resources
from pathlib import Path

import msgspec
import platformdirs

from trebb.core.errors import InputError, TrebbError
from trebb.core.facts import Stored
from trebb.core.fitup.boxed import Boxed, BoxList, Looked, Thing, checked
from trebb.logbook.file.given_files import read_text
from trebb.logbook.log.entries import MatterStated, NoteWritten, why_not
from trebb.logbook.log.fold import Job

SUFFIX = ".toml"
MOST_BYTES = 100_000
TOPIC = "box."  # before the key of the assembly, of the note that keeps its list
FIELDS = ("found", "measured", "note", "photo")


def own_folder() -> Path:
    """Where a shop puts its own lists."""
    return platformdirs.user_data_path("trebb", appauthor=False) / "boxes"


@cache
def usual_lists() -> dict[str, BoxList]:
    """The lists that come with Trebb, by key."""
    folder = resources.files("trebb.logbook") / "data" / "boxes"
    return {
        one.name.removesuffix(SUFFIX): _parsed(one.name, one.read_text(encoding="utf-8"))
        for one in sorted(folder.iterdir(), key=lambda one: one.name)
        if one.name.endswith(SUFFIX)
    }


def all_lists() -> tuple[dict[str, BoxList], list[str]]:
    """The lists there are by key, a shop's own before the usual one of that name, and what is wrong with a
    shop's own that will not do, a sentence each.
    """
    found, wrong = dict(usual_lists()), []
    for path in sorted(own_folder().glob(f"*{SUFFIX}")):
        try:
            found[path.stem] = read_list(path)
        except InputError as error:
            wrong.append(f"{error}.")
    return found, wrong


def read_list(path: Path) -> BoxList:
    """A list from its file. Raises InputError naming what will not do, and what would."""
    return _parsed(path.name, read_text(path, most_bytes=MOST_BYTES))


def _parsed(name: str, text: str) -> BoxList:
    try:
        return checked(msgspec.convert(tomllib.loads(text), BoxList))
    except msgspec.ValidationError as error:
        field, why = why_not(error)
        raise InputError(f"{name}: {field or 'as a whole'}", why) from None
    except (tomllib.TOMLDecodeError, RecursionError) as error:
        raise InputError(f"{name}: {error}", "a list is a TOML file; see docs/FORMATS.md") from None
    except TrebbError as error:
        raise InputError(f"{name}: {error}", "see docs/FORMATS.md") from None


def lists_for(job: Job, assembly: str) -> dict[str, BoxList]:
    """The lists that an assembly may be checked by."""
    return {key: one for key, one in all_lists()[0].items() if _may_be(job, assembly, one)}


def _may_be(job: Job, assembly: str, one: BoxList) -> bool:
    return one.may_be(job.kind_key, assembly, is_added=job.was_added(assembly))


def arrived_as(job: Job, assembly: str, key: str) -> NoteWritten:
    """The entry that an assembly came in boxes, to be checked by a list; "" : it came whole.

    Raises InputError for a list there is none of, and for one of another assembly.
    """
    topic = f"{TOPIC}{assembly}"
    if not key:
        return NoteWritten(topic, "")
    lists, wrong = all_lists()
    if key not in lists:
        raise InputError(f"list “{key}”", "; ".join([f"there are {', '.join(lists)}", *wrong]))
    if not _may_be(job, assembly, lists[key]):
        mine = ", ".join(lists_for(job, assembly)) or f"none yet: write one into {own_folder()}"
        raise InputError(
            f"“{lists[key].title}” for {job.machine.assembly(assembly).label}", f"lists for it: {mine}"
        )
    return NoteWritten(topic, msgspec.json.encode(lists[key]).decode())


@lru_cache(maxsize=32)
def _kept(text: str) -> BoxList | None:
    try:
        return checked(msgspec.json.decode(text, type=BoxList)) if text else None
    except (msgspec.MsgspecError, TrebbError):
        return None  # of a newer Trebb: the note stays, and is not shown


def list_of(job: Job, assembly: str) -> BoxList | None:
    """The list that an assembly is checked by; None of one that came whole."""
    return _kept(job.note(f"{TOPIC}{assembly}"))


def boxed_of(job: Job, assembly: str) -> Boxed | None:
    """What came in boxes of an assembly; None of one that came whole."""
    kept = list_of(job, assembly)
    if kept is None:
        return None
    told = job.matters("box")
    return Boxed(kept, {t.key: _looked(told.get(thing_key(assembly, t.key), {})) for t in kept.things})


def _looked(told: dict[str, Stored]) -> Looked:
    words = [str(told.get(field, "")) for field in FIELDS]
    return Looked(*words)  # type: ignore[arg-type]


def thing_key(assembly: str, thing: str) -> str:
    """What the matter of a thing is `of`."""
    return f"{assembly}.{thing}"


def refuse_unlisted(job: Job, body: MatterStated) -> None:
    """Raises InputError where something is said of a thing that the assembly's list does not have."""
    assembly, _, thing = body.of.partition(".")
    kept = list_of(job, assembly)
    if kept is None:
        raise InputError(f"“{assembly}” in boxes", "say first by which list it is checked")
    kept.thing(thing)


def looked_at(assembly: str, thing: str, **fields: str) -> list[MatterStated]:
    """Entries of what became of a thing."""
    of = thing_key(assembly, thing)
    return [MatterStated("box", of, field, value) for field, value in fields.items()]


def missing_words(boxed: Boxed) -> str:
    """What is missing or hurt, with how many of each: what must come before it can go together."""
    return ", ".join(_lacks(boxed, t) for t in boxed.lacking)


def _lacks(boxed: Boxed, thing: Thing) -> str:
    return thing.words if boxed.at(thing.key).found == "no" else f"{thing.words} (hurt)"


def told_of_boxes(boxed: Boxed) -> dict[str, object]:
    """The list with what was found, as JSON has it."""
    can, waits = boxed.goes_in_without()
    return {
        "list": boxed.of.title,
        "things": [
            {"key": t.key, "what": t.what, "many": t.many, **msgspec.structs.asdict(boxed.at(t.key))}
            for t in boxed.of.things
        ],
        "missing": [t.key for t in boxed.lacking],
        "goes_in_without": [t.key for t in can],
        "waits": [t.key for t in waits],
    }


def state_words(boxed: Boxed) -> str:
    """How far the search is, and what that leaves, in sentences."""
    things, found = boxed.of.things, boxed.those("yes")
    said = [f"{len(found)} of {len(things)} found."]
    if boxed.lacking:
        can, waits = boxed.goes_in_without()
        wait = f"; {len(waits)} must wait, first “{waits[0].do}”" if waits else ""
        said.append(f"Missing or hurt: {missing_words(boxed)}. Without it {len(can)} go in{wait}.")
    small = [t.what for t in boxed.those("") if t.small]
    if small:
        said.append(f"Small, and not found yet: {', '.join(small)}: look in the bottom of each box.")
    return " ".join(said)
