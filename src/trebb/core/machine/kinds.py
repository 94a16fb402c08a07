"""The kinds of machine, each with its assemblies and its elevation."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.figure import Circle, Figure, Label, Shape, box, line

WHOLE = "whole"  # of a machine that is put together: what is no assembly of its own
Parts = dict[str, list[Shape | Circle]]


class Assembly(Struct, frozen=True):
    """A part of the machine that one surveys and mends as a whole.

    `family` names the set-ups that apply; "" where it is only graded, or holds pieces.
    `under` is the assembly that it is a piece of.
    `stands_on` is the assembly that it comes off with where both are taken down.
    `after` are those put right before it: what it is set, scraped or measured from, or cut with.
    """

    key: str
    label: str
    family: str = ""
    under: str = ""
    stands_on: str = ""
    after: tuple[str, ...] = ()


class MachineKind(Struct, frozen=True):
    """A kind of machine: its assemblies in the order they are listed, and its elevation.

    `like` is the kind whose usual limits and subjects apply, where it has none of its own.
    """

    key: str
    label: str
    assemblies: tuple[Assembly, ...]
    elevation: Figure
    like: str = ""

    @property
    def works_as(self) -> str:
        """The kind whose usual limits and subjects apply."""
        return self.like or self.key

    def has(self, key: str) -> bool:
        """Whether the machine has an assembly of that key."""
        return any(a.key == key for a in self.assemblies)

    def pieces_of(self, key: str) -> tuple[Assembly, ...]:
        """The pieces of an assembly, in the order they were added."""
        return tuple(a for a in self.assemblies if a.under == key)

    def root_of(self, key: str) -> str:
        """The assembly that a piece belongs to in the end; of what is no piece itself."""
        while under := self.assembly(key).under:
            key = under
        return key

    def carried_by(self, key: str) -> tuple[str, ...]:
        """What an assembly stands on, the nearest first, down to the ground."""
        found: list[str] = []
        while (key := self.assembly(key).stands_on) and key not in found:
            found.append(key)
        return tuple(found)

    def settled_before(self, key: str) -> frozenset[str]:
        """All that is put right before an assembly, and what is put right before that."""
        found: set[str] = set()
        left = [*self.assembly(key).after]
        while left:
            one = left.pop()
            if one not in found and self.has(one):
                found.add(one)
                left += self.assembly(one).after
        return frozenset(found)

    def assembly(self, key: str) -> Assembly:
        """The assembly of that key; raises InputError if the machine has none."""
        for assembly in self.assemblies:
            if assembly.key == key:
                return assembly
        raise InputError(f"assembly “{key}”", f"this machine has {', '.join(a.key for a in self.assemblies)}")


def _lathe() -> Figure:
    p: Parts = {
        "headstock": [
            box(8, 22, 78, 56),
            line((20, 34), (52, 34)),
            line((20, 40), (52, 40)),
            Circle((66, 60), 5),
        ],
        "spindle": [box(86, 36, 12, 28), box(98, 30, 11, 40)],
        "ways": [box(4, 78, 264, 14), line((4, 84), (268, 84))],
        "saddle": [Shape(((120, 78), (124, 69), (176, 69), (180, 78)), True)],
        "cross_slide": [box(130, 59, 40, 10), line((136, 64), (164, 64))],
        "cross_gib": [box(130, 65, 40, 4)],
        "compound": [box(138, 47, 26, 12), box(144, 39, 14, 8)],
        "compound_gib": [box(138, 55, 26, 4)],
        "tailstock": [
            Shape(((214, 78), (218, 38), (256, 38), (262, 78)), True),
            box(202, 48, 16, 10),
            Circle((262, 53), 6),
        ],
        "lead_screw": [box(52, 98, 178, 4), box(230, 95, 6, 10)],
        "apron": [box(122, 92, 56, 30), Circle((138, 108), 8), Circle((166, 106), 4)],
        "gearbox": [box(10, 92, 42, 22), line((18, 99), (44, 99)), line((18, 106), (44, 106))],
        "stand": [
            Shape(((14, 114), (58, 114), (62, 158), (8, 158)), True),
            Shape(((212, 92), (258, 92), (264, 158), (206, 158)), True),
        ],
    }
    return _elevation(272, 164, p)


def _mill() -> Figure:
    p: Parts = {
        "head": [box(92, 18, 46, 58), line((98, 30), (132, 30)), Circle((115, 48), 9)],
        "spindle": [box(104, 76, 22, 16), box(110, 92, 10, 10)],
        "ram": [box(138, 28, 84, 16)],
        "column": [Shape(((176, 44), (232, 44), (238, 146), (176, 146)), True)],
        "table": [box(38, 106, 148, 11), line((38, 111), (186, 111)), Circle((30, 111), 7)],
        "table_screw": [box(46, 117, 132, 4)],
        "saddle": [box(86, 121, 70, 9)],
        "cross_screw": [Circle((80, 126), 5)],
        "knee": [Shape(((84, 130), (176, 130), (176, 148), (112, 148)), True)],
        "knee_screw": [box(126, 148, 6, 10)],
        "stand": [box(70, 156, 176, 7)],
    }
    return _elevation(272, 166, p)


def _drill() -> Figure:
    p: Parts = {
        "head": [Shape(((96, 14), (190, 10), (196, 44), (96, 48)), True), Circle((176, 28), 8)],
        "spindle": [box(112, 48, 16, 26), box(108, 74, 24, 12)],
        "quill": [line((104, 48), (104, 68), (136, 68), (136, 48)), Circle((146, 56), 5)],
        "column": [box(166, 46, 14, 104)],
        "table": [box(86, 106, 86, 8), Shape(((110, 114), (166, 114), (166, 124)), True)],
        "table_screw": [
            box(144, 124, 5, 26),
            line((144, 130), (149, 127)),
            line((144, 137), (149, 134)),
            line((144, 144), (149, 141)),
        ],
        "stand": [box(66, 150, 132, 11)],
    }
    return _elevation(272, 166, p)


def _grinder() -> Figure:
    p: Parts = {
        "column": [Shape(((150, 20), (196, 20), (202, 118), (150, 118)), True)],
        "wheel_head": [box(92, 30, 66, 26), Circle((142, 43), 6)],
        "spindle": [Circle((96, 43), 20), Circle((96, 43), 6)],
        "head_screw": [box(170, 8, 5, 12), box(162, 4, 21, 5)],
        "chuck": [box(58, 82, 100, 8), line((58, 86), (158, 86))],
        "table": [box(40, 90, 140, 9)],
        "cross_saddle": [box(74, 99, 76, 10)],
        "cross_screw": [Circle((66, 104), 5)],
        "stand": [Shape(((44, 118), (206, 118), (212, 160), (38, 160)), True)],
    }
    return _elevation(250, 166, p)


def _shaper() -> Figure:
    p: Parts = {
        "ram": [box(74, 24, 150, 16), line((84, 32), (206, 32))],
        "head": [box(52, 16, 20, 44)],
        "tool_screw": [box(59, 6, 5, 10), box(52, 2, 19, 5)],
        "clapper": [box(52, 60, 16, 16), line((60, 76), (60, 86))],
        "column": [Shape(((140, 40), (226, 40), (232, 146), (140, 146)), True)],
        "drive": [Circle((186, 92), 24), Circle((186, 92), 5)],
        "rail": [box(112, 84, 28, 26)],
        "rail_screw": [box(124, 110, 5, 34)],
        "cross_screw": [Circle((118, 97), 4)],
        "table": [box(44, 92, 68, 34), line((44, 100), (112, 100))],
        "stand": [box(36, 146, 204, 12)],
    }
    return _elevation(262, 164, p)


def _elevation(width: float, height: float, parts: Parts) -> Figure:
    items: list[Shape | Circle] = []
    for part, shapes in parts.items():
        for shape in shapes:
            if isinstance(shape, Circle):
                items.append(Circle(shape.centre, shape.radius, shape.role, part))
            else:
                items.append(Shape(shape.points, shape.closed, shape.role, part))
    return Figure(width, height, tuple(items))


KINDS: dict[str, MachineKind] = {
    kind.key: kind
    for kind in (
        MachineKind(
            "lathe",
            "Lathe",
            (
                Assembly("spindle", "Spindle & taper", "spindle", stands_on="headstock"),
                Assembly(
                    "headstock",
                    "Headstock on bed",
                    "headstock",
                    stands_on="ways",
                    after=("ways", "spindle", "cross_slide", "compound", "apron"),
                ),
                Assembly("ways", "Ways", "ways", after=("stand",)),
                Assembly("saddle", "Saddle & gibs", "gib", stands_on="ways", after=("ways",)),
                Assembly(
                    "cross_slide",
                    "Cross-slide screw",
                    "screw_drive",
                    stands_on="saddle",
                    after=("saddle", "cross_gib"),
                ),
                Assembly("cross_gib", "Cross-slide gib", "gib", stands_on="cross_slide", after=("saddle",)),
                Assembly(
                    "compound",
                    "Compound screw",
                    "screw_drive",
                    stands_on="cross_slide",
                    after=("compound_gib",),
                ),
                Assembly("compound_gib", "Compound gib", "gib", stands_on="compound"),
                Assembly("tailstock", "Tailstock", "tailstock", stands_on="ways", after=("headstock",)),
                Assembly(
                    "lead_screw",
                    "Lead screw & half nuts",
                    "screw_drive",
                    stands_on="ways",
                    after=("saddle", "apron"),
                ),
                Assembly("apron", "Apron", stands_on="saddle", after=("saddle",)),
                Assembly("gearbox", "Gearbox", stands_on="ways"),
                Assembly("stand", "Stand & feet", "stand"),
            ),
            _lathe(),
        ),
        MachineKind(
            "mill",
            "Knee mill",
            (
                Assembly("spindle", "Spindle & taper", "spindle", stands_on="head"),
                Assembly(
                    "head", "Head & tram", "tram", stands_on="ram", after=("spindle", "ram", "knee", "table")
                ),
                Assembly("ram", "Ram", after=("column",)),
                Assembly("column", "Column ways", "way", after=("stand",)),
                Assembly("table", "Table & gibs", "gib", stands_on="saddle", after=("saddle",)),
                Assembly("table_screw", "Table screw", "screw_drive", stands_on="table", after=("table",)),
                Assembly("saddle", "Saddle & gibs", "gib", stands_on="knee", after=("knee",)),
                Assembly("cross_screw", "Cross screw", "screw_drive", stands_on="saddle", after=("saddle",)),
                Assembly("knee", "Knee & gibs", "gib", stands_on="column", after=("column",)),
                Assembly("knee_screw", "Knee screw", "screw_drive", stands_on="knee", after=("knee",)),
                Assembly("stand", "Base & feet"),
            ),
            _mill(),
        ),
        MachineKind(
            "drill",
            "Pillar drill",
            (
                Assembly("spindle", "Spindle & chuck", "spindle", stands_on="quill", after=("quill",)),
                Assembly("quill", "Quill & coupler", stands_on="head", after=("head",)),
                Assembly("head", "Head & drive", stands_on="column", after=("column",)),
                Assembly("column", "Column", after=("stand",)),
                Assembly(
                    "table",
                    "Table, square to the quill",
                    "tram",
                    stands_on="column",
                    after=("spindle", "column"),
                ),
                Assembly("table_screw", "Table's lifting screw", "screw_drive", stands_on="table"),
                Assembly("stand", "Base & feet"),
            ),
            _drill(),
        ),
        MachineKind(
            "grinder",
            "Surface grinder",
            (
                Assembly(
                    "spindle", "Wheel spindle", "spindle", stands_on="wheel_head", after=("wheel_head",)
                ),
                Assembly("wheel_head", "Wheel head & gib", "gib", stands_on="column", after=("column",)),
                Assembly(
                    "head_screw",
                    "Down-feed screw",
                    "screw_drive",
                    stands_on="wheel_head",
                    after=("wheel_head",),
                ),
                Assembly("column", "Column ways", "way", after=("stand",)),
                Assembly("chuck", "Magnetic chuck", stands_on="table", after=("table", "spindle")),
                Assembly("table", "Table ways", "way", stands_on="cross_saddle", after=("cross_saddle",)),
                Assembly("cross_saddle", "Saddle & gibs", "gib", after=("stand",)),
                Assembly(
                    "cross_screw",
                    "Cross screw",
                    "screw_drive",
                    stands_on="cross_saddle",
                    after=("cross_saddle",),
                ),
                Assembly("stand", "Base & feet"),
            ),
            _grinder(),
            like="lathe",
        ),
        MachineKind(
            "shaper",
            "Shaper",
            (
                Assembly("ram", "Ram & gibs", "gib", stands_on="column", after=("column",)),
                Assembly("head", "Tool slide & gib", "gib", stands_on="ram", after=("ram",)),
                Assembly(
                    "tool_screw", "Tool slide's screw", "screw_drive", stands_on="head", after=("head",)
                ),
                Assembly("clapper", "Clapper box", stands_on="head", after=("head",)),
                Assembly("column", "Column ways", "way", after=("stand",)),
                Assembly("drive", "Bull wheel & rocker", stands_on="column"),
                Assembly("rail", "Cross rail & gibs", "gib", stands_on="column", after=("column",)),
                Assembly("rail_screw", "Rail's lifting screw", "screw_drive", after=("rail",)),
                Assembly("cross_screw", "Cross screw", "screw_drive", stands_on="rail", after=("rail",)),
                Assembly("table", "Table & support", stands_on="rail", after=("rail", "ram")),
                Assembly("stand", "Base & feet"),
            ),
            _shaper(),
            like="lathe",
        ),
        MachineKind(
            "own",
            "Machine of your own",
            (Assembly(WHOLE, "Machine as a whole"),),
            _elevation(272, 40, {}),
            like="lathe",
        ),
    )
}


def with_added(kind: MachineKind, added: Sequence[Assembly]) -> MachineKind:
    """A kind of machine with assemblies and pieces that a shop added: a piece stands after the ones before it
    of its assembly.
    """
    if not added and kind.key != "own":
        return kind
    assemblies = list(kind.assemblies)
    for one in added:
        at = len(assemblies)
        if one.under:
            at = 1 + max(i for i, a in enumerate(assemblies) if one.under in (a.key, a.under))
        assemblies.insert(at, one)
    blocks = [a for a in added if not a.under]
    return replace(kind, assemblies=tuple(assemblies), elevation=_with_blocks(kind, blocks))


def _with_blocks(kind: MachineKind, added: Sequence[Assembly]) -> Figure:
    """The elevation with a block for each added assembly: below it, or for a machine that is put together
    the whole of it.
    """
    own = kind.key == "own"
    if not added and not own:
        return kind.elevation
    width, across = kind.elevation.width, 3 if len(added) > 4 else 2
    step, high, gap = width / across, 30.0, 6.0
    rows = -(-len(added) // across)
    top = 8.0 if own else kind.elevation.height + gap
    items = [] if own else list(kind.elevation.items)
    for i, a in enumerate(added):
        x, y = (i % across) * step + gap, top + (i // across) * (high + gap)
        items.append(box(x, y, step - 2 * gap, high, part=a.key))
        items.append(Label((x + step / 2 - gap, y + high / 2 + 5), _short(a.label, across)))
    foot = top + rows * (high + gap)
    if own:
        items.append(box(gap, foot, width - 2 * gap, high + 6, part=WHOLE))
        items.append(Label((width / 2, foot + high / 2 + 8), "the machine"))
        foot += high + 6 + gap
    return Figure(width, max(foot, 60.0), tuple(items))


def _short(words: str, across: int) -> str:
    most = 48 // across
    return words if len(words) <= most else f"{words[: most - 1].rstrip()}…"


def kind_of(key: str) -> MachineKind:
    """The kind of machine by its key; raises InputError for another."""
    try:
        return KINDS[key]
    except KeyError:
        raise InputError(f"machine kind “{key}”", f"kinds are {', '.join(KINDS)}") from None


KINDS["own"] = with_added(KINDS["own"], ())
