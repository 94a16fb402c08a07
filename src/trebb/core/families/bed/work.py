"""What the bed does to the work: its error by source, and the machine's shape for a picture."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

from msgspec import Struct

from trebb.core.condition import Estimate, Quantity
from trebb.core.families.bed.subject import REACH_MM, Bed, Coefficients


class WorkError(Struct, frozen=True):
    """Diameter against position from the headstock's end of the piece, mm: as it would be turned, with ±,
    and what each source gives.
    """

    at_mm: tuple[float, ...]
    total: tuple[Quantity, ...]
    parts: Mapping[str, tuple[float, ...]]


_PARTS = {
    "twist": "twist",
    "front": "wear",
    "rear": "wear",
    "side": "side bend",
    "yaw": "headstock",
    "tail_side": "tailstock",
    "answer": "shims",
}


def by_cause(coefficients: Mapping[str, float]) -> dict[str, Coefficients]:
    """A figure of the work taken apart by what makes it. Coefficients by source, without unit."""
    found: dict[str, Coefficients] = {}
    for key, value in coefficients.items():
        found.setdefault(_PARTS[key.split(".")[0]], {})[key] = value
    return found


def work_error(
    bed: Bed, now: Estimate, length_mm: float, *, between_centres: bool, points: int = 13
) -> WorkError:
    """Error of a piece of a length, held in the chuck or between centres; nothing at its headstock end."""
    at = tuple(length_mm * i / (points - 1) for i in range(points))
    total, parts = [], {name: [0.0] * points for name in dict.fromkeys(_PARTS.values())}
    for i, z in enumerate(at):
        coefficients = bed.work(0.0, z, between_centres=between_centres)
        total.append(now.combination(coefficients))
        for name, of_cause in by_cause(coefficients).items():
            parts[name][i] = sum(
                value * float(now.mean[now.model.position(key)]) for key, value in of_cause.items()
            )
    return WorkError(
        at,
        tuple(total),
        {name: tuple(values) for name, values in parts.items() if any(abs(v) > 1e-6 for v in values)},
    )


# the machine's shape --------------------------------------------------------------------------

Profile = tuple[float, ...]


class BedShape(Struct, frozen=True):
    """How far the machine stands from a straight one, mm, for a picture.

    `front`, `rear`: height of each way at each station, the twist in it; `path`
    the tool's, + to the front, `below` the metal each way has lost. `axis`: the
    spindle's at `REACH_MM` from the nose, to the rear and up; `tail`: the
    tailstock's point, to the rear and up; `work`: diameter along a piece of
    `REACH_MM` in the chuck, nothing at the chuck; `roll` of the bed over its feet, mrad.
    """

    front: Profile
    rear: Profile
    path: Profile
    below_front: Profile
    below_rear: Profile
    axis: Profile
    tail: Profile
    work: Profile
    roll: Profile

    @property
    def twist_mrad(self) -> float:
        """Twist over the feet, + to the front."""
        return self.roll[0]

    def toward(self, other: BedShape, share: float) -> BedShape:
        """A shape on the way to another: 0 this one, 1 the other."""

        def mix(a: Profile, b: Profile) -> Profile:
            return tuple(x + share * (y - x) for x, y in zip(a, b, strict=True))

        return BedShape(*(mix(getattr(self, name), getattr(other, name)) for name in self.__struct_fields__))

    @property
    def most_mm(self) -> float:
        """The largest displacement, for a scale."""
        return max(
            abs(v)
            for profile in (self.front, self.rear, self.path, self.axis, self.tail, self.work)
            for v in profile
        )


def bed_shape(bed: Bed, now: Estimate) -> BedShape:
    """The machine as it is expected to stand; all of it is linear in the sources, so shapes may be mixed."""

    def value(coefficients: Mapping[str, float]) -> float:
        return float(sum(c * float(now.mean[now.model.position(key)]) for key, c in coefficients.items()))

    def along(of: Callable[[float], Coefficients], at: Sequence[float] = bed.stations) -> Profile:
        return tuple(value(of(x)) for x in at)

    lean = tuple(value({"twist": 1.0}) * x / bed.along_mm * bed.gauge_mm / 2000 for x in bed.stations)
    front, rear = (along(lambda x, way=way: bed.height(way, x)) for way in ("front", "rear"))  # type: ignore[misc]
    worn = {way: tuple(value({f"{way}.{k}": 1.0}) for k in range(bed.steps + 1)) for way in ("front", "rear")}
    places = tuple(REACH_MM * i / 12 for i in range(13))
    return BedShape(
        tuple(z - d for z, d in zip(front, lean, strict=True)),
        tuple(z + d for z, d in zip(rear, lean, strict=True)),
        along(bed.tool_out),
        worn["front"],
        worn["rear"],
        (value({"yaw": REACH_MM / 1000}), value({"pitch": REACH_MM / 1000})),
        (value({"tail_side": 1.0}), value({"tail_high": 1.0})),
        along(lambda z: bed.work(0.0, z), places),
        (value({"twist": 1.0}),),
    )
