"""What of the product nothing in the product reaches: `make check` lets no more of it come in.

    python tools/unreached.py          refuse what is unreached and does not stand in tools/unreached.txt
    python tools/unreached.py --write  write that list anew, when something of it was dropped or wired in

Names that a family's record says in words ("lash.SET_UP") are reached; so is what a part is found by.
"""

from __future__ import annotations

import re
import sys
from pathlib import Path

from vulture import Vulture

HERE = Path(__file__).parent
SOURCE, LIST = HERE.parent / "src" / "trebb", HERE / "unreached.txt"
KINDS = {"function", "class", "method", "property"}
# Called by Qt, by msgspec, by the help of the shell: not by name.
BY_OTHERS = re.compile(r"^[a-z]+[A-Z]|^__|^visit_|^do_|^on_")


def said_in_records() -> set[str]:
    """Names that stand in words in the families' records and registers."""
    registers = ("app/views/__init__.py", "app/pictures/__init__.py", "app/stops/register.py")
    found: set[str] = set()
    for path in (
        *SOURCE.glob("core/families/*/__init__.py"),
        *(SOURCE / name for name in (*registers, "logbook/cases/casework.py")),
    ):
        found |= set(re.findall(r'"(?:\w+\.)*(\w+)"', path.read_text(encoding="utf-8")))
    return found


def unreached() -> list[str]:
    """Each as "path: name", in order."""
    looked = Vulture(verbose=False)
    looked.scavenge([str(SOURCE)])
    known = said_in_records()
    return sorted(
        f"{Path(item.filename).relative_to(SOURCE)}: {item.name}"
        for item in looked.get_unused_code(min_confidence=60)
        if item.typ in KINDS and item.name not in known and not BY_OTHERS.search(item.name)
    )


def main(given: list[str]) -> int:
    found = unreached()
    if given == ["--write"]:
        LIST.write_text("\n".join(found) + "\n", encoding="utf-8")
        print(len(found), "unreached")
        return 0
    listed = set(LIST.read_text(encoding="utf-8").split("\n"))
    new = [line for line in found if line not in listed]
    for line in new:
        print(f"{line}: nothing reaches it. Wire it in, or drop it.")
    for line in sorted(listed - set(found) - {""}):
        print(f"{line}: reached or gone: take it off tools/unreached.txt")
    return 1 if new or listed - set(found) - {""} else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
