"""JSON Schemas of what goes out and comes in, made from the declarations: `make formats` writes them to
`docs/schemas`.
"""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

import msgspec

from trebb.logbook.exchange.job_json import JSON_FORMAT, JSON_VERSION
from trebb.logbook.exchange.readings_csv import CSV_COLUMNS
from trebb.logbook.log.entries import KINDS

DRAFT = "https://json-schema.org/draft/2020-12/schema"
NUMBER = {"type": "number"}
TEXT = {"type": "string"}
OPTIONAL_NUMBER = {"type": ["number", "null"]}
STATE = {"enum": ["within", "near", "beyond", "unknown"]}

Plain = dict[str, Any]


def _list(of: Plain) -> Plain:
    return {"type": "array", "items": of}


def _object(fields: Plain, *, more: bool = False) -> Plain:
    return {
        "type": "object",
        "properties": fields,
        "required": list(fields),
        **({} if more else {"additionalProperties": False}),
    }


def job_schema() -> Plain:
    """A whole job: entries of every kind, photographs."""
    bodies, parts = msgspec.json.schema_components(list(KINDS.values()), ref_template="#/$defs/{name}")
    kinds = []
    for (kind, _), body in zip(KINDS.items(), bodies, strict=True):
        fields = parts[body["$ref"].rsplit("/", 1)[1]]
        fields = {k: v for k, v in fields.items() if k not in ("title", "description")}
        head = {
            "id": {"type": "integer", "minimum": 1},
            "at": TEXT,
            "gesture": {"type": "integer", "minimum": 1},
            "kind": {"const": kind},
        }
        kinds.append(
            {
                **fields,
                "title": kind,
                "properties": {**head, **fields.get("properties", {})},
                "required": [*head, *fields.get("required", [])],
            }
        )
    used = {body["$ref"].rsplit("/", 1)[1] for body in bodies}
    definitions = {name: part for name, part in parts.items() if name not in used}
    photograph = _object(
        {
            "sha256": {"type": "string", "pattern": "^[0-9a-f]{64}$"},
            "media_type": TEXT,
            "base64": {"type": "string", "contentEncoding": "base64"},
        }
    )
    return {
        "$schema": DRAFT,
        "title": "A job, as trebb export --json writes it",
        **_object(
            {
                "format": {"const": JSON_FORMAT},
                "version": {"const": JSON_VERSION},
                "entries": _list({"oneOf": kinds}),
                "photographs": _list(photograph),
            }
        ),
        **({"$defs": definitions} if definitions else {}),
    }


def readings_schema() -> Plain:
    """A row of readings as CSV, an object of its cells as text; one of the value columns holds the value."""
    number = {"type": "string", "pattern": r"^$|^[+-]?[0-9.,]+([eE][+-]?[0-9]+)?$"}
    cells = {name: number if name.startswith("value_") else TEXT for name in CSV_COLUMNS}
    return {
        "$schema": DRAFT,
        "title": "A row of readings, as trebb export --csv writes it",
        "type": "object",
        "properties": {**cells, "phase": {"enum": ["before", "after", "later"]}},
        "required": ["set_up", "place"],
        "anyOf": [{"required": [name]} for name in CSV_COLUMNS if name.startswith("value_")],
    }


def findings_schema() -> Plain:
    """What `trebb findings --json` prints."""
    interval = {"value_mm": NUMBER, "low_mm": NUMBER, "high_mm": NUMBER}
    named = {"key": TEXT, "label": TEXT}
    part = _object(
        {
            "assembly": TEXT,
            "label": TEXT,
            "state": STATE,
            "head": TEXT,
            "figures": _list(_object({**named, **interval, "limit_mm": NUMBER, "state": STATE})),
            "sources": _list(_object({**named, **interval, "is_read": {"type": "boolean"}})),
            "findings": _list(_object({"key": TEXT, "state": STATE, "sentence": TEXT, "next": TEXT})),
            "unread": _list(_object({"what": TEXT, "up_to_mm": OPTIONAL_NUMBER, "set_up": TEXT}, more=True)),
            "set_aside": _list(TEXT),
            "advice": _list(_object({"set_up": TEXT, "minutes": NUMBER, "settles": TEXT}, more=True)),
        },
        more=True,
    )
    told = _object({"machine": TEXT, "parts": _list(part), "set_aside": _list(TEXT)})
    return {"$schema": DRAFT, "title": "What trebb findings --json prints", **told}


def set_ups_schema() -> Plain:
    """What `trebb set-ups --json` prints."""
    one = _object(
        {
            "assembly": TEXT,
            "set_up": TEXT,
            "unit": TEXT,
            "wanted": {"type": "integer"},
            "places": _list(TEXT),
        },
        more=True,
    )
    return {"$schema": DRAFT, "title": "What trebb set-ups --json prints", **_list(one)}


SCHEMAS = {
    "job": job_schema,
    "readings-row": readings_schema,
    "findings": findings_schema,
    "set-ups": set_ups_schema,
}


def schema_text(key: str) -> str:
    """A schema as its file holds it."""
    return json.dumps(SCHEMAS[key](), indent=1, ensure_ascii=False) + "\n"


def write_schemas(folder: Path) -> None:
    """All of them, a file each."""
    folder.mkdir(parents=True, exist_ok=True)
    for key in SCHEMAS:
        (folder / f"{key}.schema.json").write_text(schema_text(key), encoding="utf-8")


if __name__ == "__main__":
    write_schemas(Path(sys.argv[1]))
