"""A shaft with what sits on it and what it runs in: a dial's, a handle's, a gearbox's."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec import Struct

from trebb.core.condition import ErrorModel, Source
from trebb.core.errors import InputError
from trebb.core.metals import Material, material
from trebb.core.units import is_inch_size

SEATS = {"left": "left journal", "right": "right journal", "seat": "wheel's seat"}
DRIVES = {
    "key": "a key",
    "taper_pin": "a taper pin",
    "pin": "a straight pin",
    "spring_pin": "a spring pin",
    "shear_pin": "a shear pin",
    "square": "a square",
    "spline": "splines",
    "screw": "a set screw",
    "none": "nothing",
}
PINS = ("pin", "taper_pin", "spring_pin", "shear_pin")  # drives that go across hub and shaft
SHIFTS = {"vblocks": "V-blocks", "centres": "between centres"}


class Shaft(Struct, frozen=True):
    """A shaft as stated, mm; places along it from its left end.

    Parameters
    ----------
    a_mm, b_mm : where its journals are, and the V-blocks under them.
    at_mm : stations where it is read.
    dia_mm : where it would be pressed.
    held : "vblocks" or "centres".
    wheel_mm : radius of the wheel, dial or lever on it, where rocking is read.
    drive : what holds that wheel, a key of `DRIVES`.
    hub_mm : outside of the wheel's hub; hub_length_mm its length.
    key_length_mm, pin_mm, square_mm : of what holds it; 0 where not stated.
    torque_nm : what it has to carry; guards_nm what the weakest behind its shear pin stands; 0: not said.
    steel : a key of `MATERIALS`; file : what a file does on it, a key of `FILES`.
    end_angle : of the end thread by a gauge, "60" or "55"; "" where none was tried.
    is_broken : an end or a stub of it is off.
    bow_mm, bow_at_mm, press_mm : as read: what the press has to take out, where, and between which blocks; 0
        while nothing is read.
    """

    length_mm: float = 200.0
    a_mm: float = 40.0
    b_mm: float = 140.0
    at_mm: tuple[float, ...] = ()
    dia_mm: float = 16.0
    angles: tuple[float, ...] = tuple(45.0 * i for i in range(8))
    held: str = "vblocks"
    wheel_mm: float = 50.0
    drive: str = "key"
    hub_mm: float = 32.0
    hub_length_mm: float = 20.0
    key_length_mm: float = 0.0
    pin_mm: float = 0.0
    square_mm: float = 0.0
    torque_nm: float = 0.0
    guards_nm: float = 0.0
    steel: str = "carbon"
    file: str = ""
    is_broken: bool = False
    end_angle: str = ""
    bow_mm: float = 0.0
    bow_at_mm: float = 0.0
    press_mm: float = 0.0

    def __post_init__(self) -> None:
        if not 0 <= self.a_mm < self.b_mm <= self.length_mm:
            raise InputError(
                f"journals at {self.a_mm:g} and {self.b_mm:g} mm of {self.length_mm:g} mm",
                "the left one first, both on the shaft",
            )
        if any(not 0 <= z <= self.length_mm for z in self.at_mm):
            raise InputError(
                f"stations at {', '.join(f'{z:g}' for z in self.at_mm)} mm",
                f"from 0 to the shaft's {self.length_mm:g} mm",
            )

    @property
    def stations(self) -> tuple[float, ...]:
        """Where it is read: as stated, else five places spread over it and its two ends. Between centres the
        journals too, for the line is drawn through them. In mm.
        """
        usual = tuple(round(self.length_mm * share, 1) for share in (0.05, 0.28, 0.5, 0.72, 0.95))
        found = set(self.at_mm or usual)
        if self.held == "centres":
            found |= {self.a_mm, self.b_mm}
        return tuple(sorted(found))

    @property
    def free(self) -> tuple[float, ...]:
        """Stations off the journals: there it can be bent. In mm."""
        return tuple(z for z in self.stations if z not in (self.a_mm, self.b_mm))

    @property
    def metal(self) -> Material:
        """Its steel."""
        return material(self.steel)

    @property
    def is_inch(self) -> bool:
        """Whether its sizes are called in inches."""
        return is_inch_size(self.dia_mm)

    @property
    def span_mm(self) -> float:
        """Between the journals."""
        return self.b_mm - self.a_mm

    def station_words(self, z: float) -> str:
        """How a station is named in a place. `z` in mm."""
        return f"{z:g} mm"


def bend_key(z: float) -> str:
    """Source of the bend at a station; its parts are `.x` and `.y`. `z` in mm."""
    return f"bend@{z:g}"


def shaft_model(shaft: Shaft) -> ErrorModel:
    """Sources, mm: bend at each station off the journals, along the mark (x) and 90° on (y); each seat's
    unworn diameter, wear, out-of-round and play; end float; rock at the wheel's radius.
    """
    sources: list[Source] = []
    for z in shaft.free:
        for axis in ("x", "y"):
            sources.append(Source(f"{bend_key(z)}.{axis}", f"bend at {z:g} mm", 0.0, 0.05))
    if shaft.held == "centres":
        for end in ("a", "b"):
            for axis in ("x", "y"):
                sources.append(Source(f"centre_{end}.{axis}", "centre hole off the journal", 0.0, 0.10))
    for key, words in SEATS.items():
        sources += [
            Source(f"size.{key}", f"unworn size of the {words}", shaft.dia_mm, 4.0),
            Source(f"wear.{key}", f"wear of the {words}", 0.010, 0.030, True),
            Source(f"oval.{key}", f"out-of-round of the {words}", 0.0, 0.010),
            Source(f"play.{key}", f"play at the {words}", 0.020, 0.040),
        ]
    sources += [
        Source("float", "end float", 0.050, 0.100, True),
        Source("joint", "rock of the wheel on its shaft", 0.05, 0.20, True),
        Source("train", "rock of the shaft itself", 0.05, 0.20, True),
        Source("key", "width of the key", 4.0, 3.0),
        Source("slot.shaft", "shaft's slot over the key", 0.010, 0.040, True),
        Source("slot.hub", "wheel's slot over the key", 0.010, 0.040, True),
        Source("square", "square over its flats", shaft.square_mm or 8.0, 3.0),
        Source("socket", "socket over the square", 0.05, 0.20, True),
        Source("end.major", "end thread over its crests", 8.0, 6.0),
        Source("end.pitch", "pitch of the end thread", 1.25, 0.8),
        Source("mouth.large", "pin hole at its larger mouth", shaft.pin_mm or 5.0, 3.0),
        Source("mouth.small", "pin hole at its smaller mouth", shaft.pin_mm or 5.0, 3.0),
    ]
    return ErrorModel(tuple(sources))


def key_rock(shaft: Shaft) -> Mapping[str, float]:
    """What key and slots let the wheel rock, at its radius, both ways: 2c/d × radius. Coefficients by
    source, without unit.
    """
    share = 2 * shaft.wheel_mm / shaft.dia_mm
    return {"slot.shaft": share, "slot.hub": share}
