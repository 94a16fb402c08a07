"""What of a part an operation cuts, and how the part is held meanwhile: for the picture of the operation.

Keys: "section 0" …, "outside", "ends", "bore", a feature's kind; "on centres", "in jaws", "on a vee".
"""

from __future__ import annotations

from trebb.core.making.operations import Operation
from trebb.core.parts.base import Part

# Operation's key → what it cuts, where its size does not say so; and how the part is held.
_CUTS: dict[str, tuple[str, ...]] = {
    "blank": ("ends",), "centre": ("ends", "centre"), "face": ("ends",), "rough": ("outside",),
    "part": ("ends",),
    "relief": ("undercut", "chamfer"), "keyway": ("keyway",), "spline": ("spline",), "gang": ("spline",),
    "ridges": ("spline",), "square": ("square",), "flat": ("flats",), "cross": ("cross_hole", "taper_hole"),
    "index": ("cross_hole", "taper_hole"), "polish": ("outside",), "drill": ("bore",), "before": ("bore",),
    "reamed": ("bore",), "bore": ("bore",), "groove": ("groove",), "tap": ("tap",), "finished": ("outside",),
    "outside": ("outside",), "end_rough": ("section 1",), "end": ("section 1",), "faced": ("ends",),
    "oil": ("bore",),
}  # fmt: skip
_HELD: dict[str, str] = {
    "rough": "on centres", "relief": "on centres", "polish": "on centres", "finished": "on centres",
    "journal": "on centres", "centre": "in jaws", "end_thread": "in jaws", "before": "in jaws",
    "outside": "in jaws", "bore": "in jaws", "part": "in jaws", "spigot": "in jaws", "keyway": "on a vee",
    "cross": "on a vee", "flat": "on a vee", "tap": "on a vee",
}  # fmt: skip


def cut_by(part: Part, operation: Operation) -> frozenset[str]:
    """What an operation cuts of a turned part: the sections or the bore whose limits are its size, else by
    its key.
    """
    found: set[str] = set()
    target = operation.target
    if target is not None:
        found |= {
            f"section {i}"
            for i, s in enumerate(part.sections)
            if s.size is not None and s.size == target.band and target.side > 0
        }
        if part.bore is not None and part.bore.size == target.band and target.side < 0:
            found.add("bore")
    if not found:
        found |= set(_CUTS.get(operation.key, ()))
    if operation.key == "end_thread":
        found |= {f"section {i}" for i, s in enumerate(part.sections) if s.kind == "thread"}
    held = "on centres" if operation.key.startswith("turn_") else _HELD.get(operation.key, "")
    return frozenset(found | ({held} if held else set()))
