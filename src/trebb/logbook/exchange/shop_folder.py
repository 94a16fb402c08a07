"""What is the shop's and not a job's, in one folder: preferences, memory, rack, its own causes and lists.

    preferences.json  how the window looks and sounds
    memory.json       as `trebb shop-json` writes it
    rack.json         bars at hand
    causes.json       the shop's own table of causes
    boxes/*.toml      its own lists of what comes in boxes

Written to take along or to keep; brought in again here or in another shop. What is brought in is read first
as it will be used, and what stood here before is kept beside it as NAME.before.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from pathlib import Path

from msgspec import Struct

from trebb.core.errors import InputError, TrebbError
from trebb.logbook.cases.boxes import SUFFIX, own_folder, read_list
from trebb.logbook.file.given_files import MB, read_given, read_text
from trebb.logbook.file.writing import WriteError, write_whole
from trebb.logbook.memory.joining import bring_in
from trebb.logbook.memory.shop import export_shop
from trebb.logbook.memory.shop_place import has_memory, shop_path
from trebb.logbook.plan.rack import rack_path, read_rack
from trebb.logbook.plan.suspicion import own_table_path, read_causes

PREFERENCES, MEMORY, RACK, CAUSES, BOXES = (
    "preferences.json",
    "memory.json",
    "rack.json",
    "causes.json",
    "boxes",
)
FORMAT, MOST_BYTES, MOST_LISTS = "trebb preferences", 16 * MB, 200
Preferences = Mapping[str, str | float | bool]


class Carried(Struct, frozen=True):
    """What went or came: its name in the folder and a few words; `trouble` why it did not."""

    name: str
    words: str
    trouble: str = ""


def places() -> dict[str, Path]:
    """Where each stands on this machine, by its name in the folder, the preferences aside."""
    return {MEMORY: shop_path(), RACK: rack_path(), CAUSES: own_table_path(), BOXES: own_folder()}


def write_shop(folder: Path, preferences: Preferences) -> list[Carried]:
    """All of it into a folder, made where there is none; what is not there is not written.

    Raises WriteError where nothing can be written there.
    """
    try:
        (folder / BOXES).mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise WriteError(str(folder), f"not written: {error.strerror}; choose another folder") from None
    told = {"format": FORMAT, "version": 1, "preferences": dict(preferences)}
    write_whole(folder / PREFERENCES, (json.dumps(told, indent=1) + "\n").encode())
    went = [Carried(PREFERENCES, f"{len(preferences)} chosen")]
    if has_memory():
        went.append(Carried(MEMORY, f"{export_shop(folder / MEMORY)} entries"))
    for name in (RACK, CAUSES):
        place = places()[name]
        if place.is_file():
            write_whole(folder / name, read_given(place, MOST_BYTES, InputError))
            went.append(Carried(name, "as it stands here"))
    lists = sorted(own_folder().glob(f"*{SUFFIX}"))
    for one in lists:
        write_whole(folder / BOXES / one.name, one.read_bytes())
    if lists:
        went.append(Carried(BOXES, f"{len(lists)} lists"))
    return went


def read_preferences(folder: Path) -> Preferences:
    """The preferences of a folder; none where it has none. Raises InputError for what is none of Trebb's."""
    place = folder / PREFERENCES
    if not place.is_file():
        return {}
    try:
        told = json.loads(read_text(place))
    except (ValueError, RecursionError):
        raise InputError(PREFERENCES, "it is no JSON; it is written by Trebb") from None
    if not isinstance(told, dict) or told.get("format") != FORMAT or told.get("version") != 1:
        raise InputError(PREFERENCES, f"its format is not “{FORMAT}”, version 1")
    found = told.get("preferences")
    if not isinstance(found, dict) or not all(isinstance(v, str | float | int) for v in found.values()):
        raise InputError(f"{PREFERENCES}: “preferences”", "it is names with a word, a number, true or false")
    return found


def take_shop(folder: Path) -> list[Carried]:
    """Bring in what a folder holds, the preferences aside, each by itself: one that will not do leaves what
    stands here and says why. Raises InputError for a folder with nothing of it.
    """
    readers: tuple[tuple[str, Callable[[Path], str]], ...] = (
        (MEMORY, lambda path: bring_in(path).words),
        (RACK, _take_rack),
        (CAUSES, _take_causes),
    )
    came = [_tried(name, folder / name, take) for name, take in readers if (folder / name).is_file()]
    lists = sorted((folder / BOXES).glob(f"*{SUFFIX}"))[:MOST_LISTS]
    came += [_tried(f"{BOXES}/{one.name}", one, _take_list) for one in lists]
    if not came and not (folder / PREFERENCES).is_file():
        known = ", ".join((PREFERENCES, MEMORY, RACK, CAUSES, f"{BOXES}/*{SUFFIX}"))
        raise InputError(str(folder), f"there is nothing of a shop in it: {known}")
    return came


def _tried(name: str, path: Path, take: Callable[[Path], str]) -> Carried:
    try:
        return Carried(name, take(path))
    except (TrebbError, OSError) as error:
        return Carried(name, "", f"{error}")


def _put(path: Path, place: Path) -> None:
    """A file that was found good in its place; what stood there is kept beside it."""
    data = read_given(path, MOST_BYTES, InputError)
    place.parent.mkdir(parents=True, exist_ok=True)
    if place.is_file() and place.read_bytes() != data:
        write_whole(place.with_name(f"{place.name}.before"), place.read_bytes())
    write_whole(place, data)


def _take_rack(path: Path) -> str:
    bars = len(read_rack(path).bars)
    _put(path, rack_path())
    return f"{bars} bars"


def _take_causes(path: Path) -> str:
    count = len(read_causes(path).causes)
    _put(path, own_table_path())
    return f"{count} causes"


def _take_list(path: Path) -> str:
    title = read_list(path).title
    _put(path, own_folder() / path.name)
    return title
