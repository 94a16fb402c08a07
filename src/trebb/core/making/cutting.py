"""What of a part an operation cuts, and how the part is held meanwhile: for the picture of the operation.

Keys: "section 0" …, "outside", "ends", "sawn", "plunged", "bore", a feature's kind; "on centres",
"in jaws", "on a vee".
"""

from __future__ import annotations

from trebb.core.making.operations import Operation
from trebb.core.parts.base import Part

# Operation's key → what it cuts, where its size does not say so; and how the part is held.
_CUTS: dict[str, tuple[str, ...]] = {
    "blank": ("ends", "sawn"), "centre": ("ends", "centre"), "face": ("ends",), "rough": ("outside",),
    "part": ("ends",),
    "relief": ("undercut", "chamfer"), "keyway": ("keyway",), "spline": ("spline",), "gang": ("spline",),
    "ridges": ("spline",), "square": ("square",), "flat": ("flats",), "cross": ("cross_hole", "taper_hole"),
    "index": ("cross_hole", "taper_hole"), "polish": ("outside",), "drill": ("bore",), "before": ("bore",),
    "reamed": ("bore",), "bore": ("bore",), "groove": ("groove",), "tap": ("tap",), "finished": ("outside",),
    "outside": ("outside",), "end_rough": ("section 1",), "end": ("section 1",), "faced": ("ends",),
    "oil": ("bore",), "blanks": ("ends", "sawn"), "turn": ("outside", "ends"), "finish": ("outside",),
    "bored": ("bore",), "bar": ("outside",), "knurl": ("outside",), "pin": ("cross_hole", "taper_hole"),
}  # fmt: skip
# The kind of section that an operation cuts, the first that the part has.
_SECTIONS = {"groove": ("groove",), "end_thread": ("end thread", "thread")}
_HELD: dict[str, str] = {
    "rough": "on centres", "relief": "on centres", "polish": "on centres", "finished": "on centres",
    "journal": "on centres", "centre": "in jaws", "before": "in jaws",
    "outside": "in jaws", "bore": "in jaws", "part": "in jaws", "spigot": "in jaws", "keyway": "on a vee",
    "finish": "on centres", "turn": "in jaws", "face": "in jaws", "bored": "in jaws", "pin": "on a vee",
    "cross": "on a vee", "flat": "on a vee", "tap": "on a vee",
}  # fmt: skip


HELD = frozenset({"on centres", "in jaws", "on a vee"})
# What stands at a cut, the first that is cut: a tool from the side, into a bore, at a face; else a cutter.
_TOOLS = (
    ("boring", {"bore", "tap"}),
    ("facing", {"ends", "centre"}),
    ("milling", {"keyway", "flats", "square", "spline", "cross_hole", "taper_hole"}),
    ("turning", {"outside", "undercut", "chamfer", "groove"}),
)


def tool_of(cut: frozenset[str]) -> str:
    """What cuts such: "turning", "parting", "boring", "facing", "milling"; "" for nothing and a saw."""
    if "sawn" in cut:
        return ""
    if "plunged" in cut:
        return "parting"
    if any(key.startswith("section") for key in cut):
        return "turning"
    return next((tool for tool, keys in _TOOLS if keys & cut), "")


def cut_by(part: Part, operation: Operation) -> frozenset[str]:
    """What an operation cuts of a turned part: the sections or the bore whose limits are its size, else by
    its key.
    """
    found: set[str] = set()
    target = operation.target
    own = operation.key.removeprefix("turn_")
    if own.isdecimal():
        found.add(f"section {own}")
    elif target is not None:
        found |= {
            f"section {i}"
            for i, s in enumerate(part.sections)
            if s.size is not None and s.size == target.band and target.side > 0
        }
        if part.bore is not None and part.bore.size == target.band and target.side < 0:
            found.add("bore")
    if not found:
        found |= set(_CUTS.get(operation.key, ()))
    if operation.key in _SECTIONS:
        kinds = {s.kind for s in part.sections}
        kind = next((k for k in _SECTIONS[operation.key] if k in kinds), "")
        found |= {f"section {i}" for i, s in enumerate(part.sections) if s.kind == kind}
    if operation.key in ("groove", "relief"):
        found.add("plunged")
    held = "on centres" if operation.key.startswith("turn_") else _HELD.get(operation.key, "")
    return frozenset(found | ({held} if held else set()))
