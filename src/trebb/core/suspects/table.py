"""The table of causes: what shows when, how often; its data are a file, so that a shop can edit them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from msgspec import Struct, field

from trebb.core.errors import InputError

FORMAT = "trebb causes 1"
MACHINE = "machine"  # a place for what is of no assembly
FAMILY = "family:"


GROUPS = {"heard": "Heard", "felt": "Felt", "work": "Seen in the work", "runs": "How it runs"}


class Symptom(Struct, frozen=True):
    """Something an owner can mark; `leak` is how often it shows without any cause of the table. Of what a
    `fitter_hears` better an owner's “no” counts half: noise creeps up. `group` is one of `GROUPS`; `kinds` of
    machine it is asked of, all where there are none.
    """

    key: str
    words: str
    leak: float
    fitter_hears: bool = False
    group: str = "runs"
    kinds: tuple[str, ...] = ()


class Piece(Struct, frozen=True):
    """A piece that a cause is worked on as: its family, what to call it, facts as typed."""

    family: str
    label: str
    facts: Mapping[str, str]


class Cause(Struct, frozen=True):
    """Something that can be wrong: its `share` of machines, how often it `shows` as which symptom, why.

    It leads to `set_up`, which proves it, and its usual `remedies`: of the assembly it is at, or of the
    `piece` that is added there.
    """

    key: str
    words: str
    at: tuple[str, ...]
    share: float
    shows: Mapping[str, float]
    why: str = ""
    sudden: bool = False
    kinds: tuple[str, ...] = ()
    set_up: str = ""
    remedies: tuple[str, ...] = ()
    piece: Piece | None = None


class LookAt(Struct, frozen=True):
    """Something to look at: minutes, how often it says yes to which cause, the set-up that reads it."""

    key: str
    words: str
    minutes: float
    at: tuple[str, ...]
    tells: Mapping[str, float]
    leak: float
    set_up: str = ""
    kinds: tuple[str, ...] = ()


class Table(Struct, frozen=True):
    """All of it."""

    symptoms: tuple[Symptom, ...]
    causes: tuple[Cause, ...]
    looks: tuple[LookAt, ...]
    by_key: Mapping[str, Symptom] = field(default_factory=dict)

    def of_kind(self, kind: str) -> Table:
        """What of it is asked of a kind of machine."""
        symptoms = tuple(s for s in self.symptoms if not s.kinds or kind in s.kinds)
        causes = tuple(c for c in self.causes if not c.kinds or kind in c.kinds)
        looks = tuple(x for x in self.looks if not x.kinds or kind in x.kinds)
        return Table(symptoms, causes, looks, {s.key: s for s in symptoms})


def table_from(data: Any, name: str) -> Table:
    """A table from what its file holds. Raises InputError naming the entry that will not do."""
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise InputError(name, f"its “format” must be “{FORMAT}”")
    symptoms = tuple(
        Symptom(
            _key(e, name),
            str(e.get("words", "")),
            _share(e, "leak", name),
            bool(e.get("fitter_hears")),
            _group(e, name),
            _names(e, "kinds", name),
        )
        for e in _list(data, "symptoms", name)
    )
    known = {s.key for s in symptoms}
    causes = tuple(
        Cause(
            _key(e, name),
            str(e.get("words", "")),
            _places(e, name),
            _share(e, "share", name),
            _shares(e, "shows", known, name),
            str(e.get("why", "")),
            bool(e.get("sudden")),
            _names(e, "kinds", name),
            str(e.get("set_up", "")),
            _names(e, "remedies", name),
            _piece(e, name),
        )
        for e in _list(data, "causes", name)
    )
    of = {c.key for c in causes}
    looks = tuple(
        LookAt(
            _key(e, name),
            str(e.get("words", "")),
            _minutes(e, name),
            _places(e, name),
            _shares(e, "tells", of, name),
            _share(e, "leak", name),
            str(e.get("set_up", "")),
            _names(e, "kinds", name),
        )
        for e in _list(data, "looks", name)
    )
    return Table(symptoms, causes, looks, {s.key: s for s in symptoms})


def _list(data: Mapping[str, Any], key: str, name: str) -> Sequence[Mapping[str, Any]]:
    found = data.get(key)
    if not isinstance(found, list) or not all(isinstance(e, dict) for e in found):
        raise InputError(name, f"“{key}” must be a list of entries")
    return found


def _key(entry: Mapping[str, Any], name: str) -> str:
    key = entry.get("key")
    if not isinstance(key, str) or not key:
        raise InputError(name, f"an entry without a “key”: {str(dict(entry))[:60]}")
    return key


def _group(entry: Mapping[str, Any], name: str) -> str:
    group = entry.get("group", "runs")
    if group not in GROUPS:
        raise InputError(f"{name}, “{entry.get('key')}”: group {group}", f"one of {', '.join(GROUPS)}")
    return str(group)


def _names(entry: Mapping[str, Any], field_: str, name: str) -> tuple[str, ...]:
    found = entry.get(field_, [])
    if not isinstance(found, list):
        raise InputError(f"{name}, “{entry.get('key')}”", f"“{field_}” is a list of keys")
    return tuple(map(str, found))


def _piece(entry: Mapping[str, Any], name: str) -> Piece | None:
    found = entry.get("piece")
    if found is None:
        return None
    facts = found.get("facts", {}) if isinstance(found, dict) else None
    if not isinstance(facts, dict) or not found.get("family") or not found.get("label"):
        raise InputError(
            f"{name}, “{entry.get('key')}”", "“piece” has a family, a label and facts, each as it is typed"
        )
    return Piece(str(found["family"]), str(found["label"]), {str(k): str(v) for k, v in facts.items()})


def _share(entry: Mapping[str, Any], field_: str, name: str) -> float:
    value = entry.get(field_)
    if isinstance(value, bool) or not isinstance(value, int | float) or not 0 < value < 1:
        raise InputError(f"{name}, “{entry.get('key')}”: {field_} {value}", "a share between 0 and 1")
    return float(value)


def _minutes(entry: Mapping[str, Any], name: str) -> float:
    value = entry.get("minutes")
    if isinstance(value, bool) or not isinstance(value, int | float) or not 0 < value <= 600:
        raise InputError(f"{name}, “{entry.get('key')}”: minutes {value}", "more than 0, 600 at most")
    return float(value)


def _places(entry: Mapping[str, Any], name: str) -> tuple[str, ...]:
    at = entry.get("at")
    if not isinstance(at, list) or not at:
        raise InputError(f"{name}, “{entry.get('key')}”", "“at” is a list of assemblies, family:… or machine")
    return tuple(map(str, at))


def _shares(entry: Mapping[str, Any], field_: str, known: set[str], name: str) -> dict[str, float]:
    found = entry.get(field_)
    if not isinstance(found, dict):
        raise InputError(f"{name}, “{entry.get('key')}”", f"“{field_}” says how often, by key")
    for key, value in found.items():
        if key not in known:
            raise InputError(f"{name}, “{entry.get('key')}”: “{key}”", f"it is none of the table's {field_}")
        if isinstance(value, bool) or not isinstance(value, int | float) or not 0 < value < 1:
            raise InputError(f"{name}, “{entry.get('key')}”: {key} {value}", "a share between 0 and 1")
    return {str(k): float(v) for k, v in found.items()}
