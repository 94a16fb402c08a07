"""Set-ups with their places, for the page of formats: what a row of the CSV may name.

python -m trebb.core.survey.page docs/FORMATS.md
"""

from __future__ import annotations

import sys
from pathlib import Path

from trebb.core.register import FAMILIES
from trebb.core.stating import usual_subject
from trebb.core.stating.page import HEADS, between, plural
from trebb.core.survey import AnySetUp, set_ups_of

MOST = 6  # places that are written out; a last one shows how they go on


def set_ups_page() -> str:
    """A table a family: key, what it is, what a raw reading is stored in, its places where all is usual."""
    parts, seen = [], set[str]()
    for family, record in FAMILIES.items():
        new = [s for s in set_ups_of(family) if s.key not in seen]
        seen |= {s.key for s in new}
        if not new:
            continue
        head = HEADS.get(family) or (plural(record.folder) if record.added else family.capitalize())
        rows = [f"| `{s.key}` | {s.title} | {s.unit} | {_places(s, family)} |" for s in new]
        top = [f"**{head}**", "", "| set-up | is | in | places |", "|---|---|---|---|"]
        parts.append("\n".join([*top, *rows]))
    return "\n\n".join(parts)


def _places(s: AnySetUp, family: str) -> str:
    keys = [p.key for p in s.places(usual_subject(family))]
    if not keys:
        return "painted, not typed" if s.view == "contact" else "as the piece has them"
    few = keys if len(keys) <= MOST + 1 else [*keys[:MOST], "…", keys[-1]]
    return ", ".join(key if key == "…" else f"`{key}`" for key in few)


def with_set_ups(text: str) -> str:
    """A page of formats with its set-ups as they are declared now."""
    return between(text, "set-ups", set_ups_page())


def main(path: Path) -> None:
    """Write the tables into a page."""
    path.write_text(with_set_ups(path.read_text(encoding="utf-8")), encoding="utf-8")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
