"""The register of families: a record in each folder says where facts, set-ups, remedies and parts stand.

A record names modules and loads none: what belongs to a family is loaded when
one of its assemblies is first opened. The case that joins them to a job is
named in `logbook/casework.py`, its pictures in `app/pictures`.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from importlib import import_module
from typing import Any

from msgspec import Struct
from msgspec.structs import replace


class Family(Struct, frozen=True, kw_only=True):
    """One record. A name is "module.NAME" in the family's folder, or "room.module.NAME" in core.

    Parameters
    ----------
    set_ups : in the order they are offered.
    remedies : the tuple of them.
    facts : the schema of what is stated of it.
    parts : a name may be one part family or a tuple of them.
    routes : each a part's key → what makes its operations.
    bounds : subject → what its set-ups bound each other by.
    fit_up : remedy and subject → the steps of putting it together; "" for those every assembly has.
    added : what an assembly of it is called where a shop adds one; "" where only a kind of machine has it.
    is_piece : one of several that an assembly may hold: a shaft, a bore.
    judging : how its pieces are judged, where one record says it; "" where its case does.
    work : subject and piece of work → the rows by which it makes that; "" where nothing is known of it.
    folder : in `core/families`; the register fills it in.
    """

    set_ups: tuple[str, ...]
    remedies: str
    facts: str = "facts.SCHEMA"
    parts: tuple[str, ...] = ()
    routes: tuple[str, ...] = ()
    bounds: str = ""
    fit_up: str = ""
    added: str = ""
    is_piece: bool = False
    judging: str = ""
    work: str = ""
    folder: str = ""

    @property
    def one(self) -> str:
        """One of what may be added, in a sentence: "a shaft", "an index plate", "ways by map"."""
        words = self.added.lower()
        if words.split(" ")[0].endswith("s"):
            return words
        return f"{'an' if words[0] in 'aeiou' else 'a'} {words}"

    def named(self, name: str) -> Any:
        """What a name of the record stands for, loaded now: `named("lash.SET_UP")`."""
        module, _, attribute = name.rpartition(".")
        place = module if "." in module else f"families.{self.folder}.{module}"
        return getattr(import_module(f"trebb.core.{place}"), attribute)

    def each(self, names: tuple[str, ...]) -> Iterator[Any]:
        """What each of several names stands for; a tuple one after another."""
        for name in names:
            found = self.named(name)
            yield from found if isinstance(found, tuple) else (found,)


# In the order they are offered and looked through.
FOLDERS = (
    "screw_drive",
    "spindle",
    "bed",
    "gib",
    "tram",
    "shaft",
    "bore",
    "gear",
    "train",
    "cone",
    "casting",
    "jaws",
    "index_plate",
    "cutter",
    "way",
    "copied",
)


class _Families(Mapping[str, Family]):
    """Every record by the family's key, its folder asked when the first is wanted."""

    def __init__(self) -> None:
        self._records: dict[str, Family] = {}

    def _known(self) -> dict[str, Family]:
        if not self._records:
            self._records = {
                key: replace(record, folder=folder)
                for folder in FOLDERS
                for key, record in import_module(f"trebb.core.families.{folder}").RECORDS.items()
            }
        return self._records

    def __getitem__(self, key: str) -> Family:
        return self._known()[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._known())

    def __len__(self) -> int:
        return len(self._known())


FAMILIES: Mapping[str, Family] = _Families()
