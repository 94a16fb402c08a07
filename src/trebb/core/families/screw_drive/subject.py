"""A slide moved by a screw: what is known of it, and its sources of error.

Lash of the slide at a station = nut clearance on unworn thread + wear of the
screw there + end float of the screw (+ key and handwheel, which only turning
shows). All play is total, both flanks, in mm of slide travel.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from functools import cached_property

from msgspec import Struct, field
from msgspec.structs import replace

from trebb.core.condition import ErrorModel, Source
from trebb.core.threads import Form, Hand, ThreadSpec, best_wire_mm, thread_limits
from trebb.core.threads.wires import one_wire_mm
from trebb.core.units import INCH_MM, DialScale

STATIONS = 5
# Wear changes gently along a screw: neighbouring stations share this much of it.
WEAR_REACH_STATIONS = 2.5
# A slide driven one way rides on one flank, which has half of the wear.
FLANK_SHARE = 0.5
WINDOW = 12  # points over a nut's length at which the wear under it is taken
# Wear is not a straight line between two stations: what the nut feels of that, sd.
UNEVEN_MM = 0.010
# Of the play that a tipping nut adds when the slide is shoved, what the handwheel feels.
TIP_AT_DIAL = 0.4


class ScrewDrive(Struct, frozen=True, dict=True):
    """A feed screw with its nut, dial and slide.

    Parameters
    ----------
    thread : as stated or as found.
    divisions : of the dial in one turn; `reads_diameter` its convention.
    travel_mm : of the slide. Stations lie at tenths 1, 3, 5, 7 and 9 of it.
    wire_mm : wires used on this thread; best wire if not given.
    gauge : "wires", "one_wire" (against the crests, where an anvil does not span two
        grooves) or "thickness", how wear of the screw is measured.
    crest_mm : crests as measured, which a single wire is measured against; the nominal major if not given.
    extra_mm : ways from station 1's end at which the bare screw is read besides its stations.
    turns : counted for turns against travel, of the handwheel.
    ratio : turns of the handwheel to one of the screw, where bevels, a worm or a belt lie between.
    what : the slide it moves, in words; `screw` the screw itself.
    has_dial : False where nothing but a train turns it (a lead screw).
    half_nuts : closed on the screw by a lever, instead of a nut that stays on.
    is_upright : the slide's weight rests on it and takes up the lash one way.
    limit_key : the rated limit its lash is judged by.
    nut_gone : the nut runs through: "yes"; file what a file did on the screw, a key of `FILES`.
    to_make : the thread of a new screw where it is to be unlike the old; None for the old one again.
    """

    thread: ThreadSpec = field(
        default_factory=lambda: ThreadSpec(Form.ACME, 0.75 * INCH_MM, INCH_MM / 8, 1, Hand.LEFT)
    )
    divisions: int = 125
    reads_diameter: bool = False
    travel_mm: float = 8.0 * INCH_MM
    nut_length_mm: float = 1.5 * INCH_MM
    wire_mm: float | None = None
    gauge: str = "wires"
    turns: int = 10
    crest_mm: float | None = None
    extra_mm: tuple[float, ...] = ()
    what: str = "cross slide"
    screw: str = "cross-slide screw"
    has_dial: bool = True
    half_nuts: bool = False
    is_upright: bool = False
    limit_key: str = "cross_lash"
    ratio: float = 1.0
    nut_gone: str = ""
    file: str = ""
    to_make: ThreadSpec | None = None

    @cached_property
    def dial(self) -> DialScale:
        """The handwheel dial, by the thread's nominal lead and what lies between it and the screw."""
        return DialScale(self.divisions, self.thread.lead_mm / self.ratio, self.reads_diameter)

    @cached_property
    def as_made(self) -> ScrewDrive:
        """The drive with the thread that is to be made, measured with wires that sit in it."""
        if self.to_make is None or self.to_make == self.thread:
            return self
        return replace(self, thread=self.to_make, to_make=None, wire_mm=None, crest_mm=None)

    @property
    def wire(self) -> float:
        """Wire diameter in use, mm."""
        if self.wire_mm:
            return self.wire_mm
        return best_wire_mm(self.thread) if self.thread.form is not Form.SQUARE else 0.0

    @property
    def measures_wires(self) -> bool:
        """False where wear is read as the ridge's thickness: by choice, or because no wire sits in a square
        thread.
        """
        return self.gauge in ("wires", "one_wire") and self.thread.form is not Form.SQUARE

    def over_three_mm(self, read_mm: float) -> float:
        """Size over three wires from what was read, which may be over one wire and the crests: M3 = 2 M1 −
        D, D as measured.
        """
        return 2 * read_mm - (self.crest_mm or self.thread.major_mm) if self.gauge == "one_wire" else read_mm

    def as_read_mm(self, over_three_mm: float) -> float:
        """Inverse of `over_three_mm`."""
        return (
            one_wire_mm(over_three_mm, self.crest_mm or self.thread.major_mm)
            if self.gauge == "one_wire"
            else over_three_mm
        )

    def wear_shares(self, way_mm: float) -> dict[str, float]:
        """The screw's wear at a way along the travel by station, between two in a straight line, level
        beyond the outermost. Coefficients by source, without unit.
        """
        position = min(max(way_mm / self.travel_mm * STATIONS + 0.5, 1.0), float(STATIONS))
        low = min(int(position), STATIONS - 1)
        share = position - low
        return {wear_key(k): s for k, s in ((low, 1 - share), (low + 1, share)) if s > 0}

    def wear_felt(self, station: int) -> Mapping[str, float]:
        """The screw's wear as its nut feels it with the slide at a station: the mean over the nut's length,
        by station. Coefficients by source, without unit.
        """
        return self._wear_felt[station]

    @cached_property
    def _wear_felt(self) -> dict[int, Mapping[str, float]]:
        return {k: self._wear_felt_at(k) for k in range(1, STATIONS + 1)}

    def _wear_felt_at(self, station: int) -> Mapping[str, float]:
        middle, half = self.station_mm(station), min(self.nut_length_mm, self.travel_mm) / 2
        felt: dict[str, float] = {}
        for i in range(WINDOW):
            way = middle + half * (2 * (i + 0.5) / WINDOW - 1)
            for key, share in self.wear_shares(way).items():
                felt[key] = felt.get(key, 0.0) + share / WINDOW
        return felt

    def flank_lag(self, way_mm: float) -> dict[str, float]:
        """How the slide lags at a way along the travel where the driving flank is gone, by station, against
        the start. Coefficients by source, without unit.
        """
        lag = {key: -FLANK_SHARE * share for key, share in self.wear_shares(way_mm).items()}
        lag[wear_key(1)] = lag.get(wear_key(1), 0.0) + FLANK_SHARE
        return lag

    @property
    def end_names(self) -> tuple[str, str]:
        """The two ends of the travel in words, station 1's first."""
        if self.half_nuts:
            return "headstock end", "tailstock end"
        return ("lowest", "highest") if self.is_upright else ("handwheel end", "far end")

    @property
    def seat_words(self) -> str:
        """What the screw is turned by, where it is seated: a dial and its wheel, the last change gear, a
        crank.
        """
        return "dial seat" if self.has_dial else "gear seat" if self.half_nuts else "crank seat"

    @property
    def driven_end(self) -> str:
        """The end at which the screw is turned, in words."""
        return "handwheel end" if self.has_dial else "driven end"

    @property
    def nut_words(self) -> str:
        """What runs on the screw."""
        return "half nuts" if self.half_nuts else "nut"

    def station_mm(self, station: int) -> float:
        """Distance of a station, 1 to 5, from the handwheel end of the travel, mm."""
        return self.travel_mm * (2 * station - 1) / (2 * STATIONS)


# The drives that a machine has, with what such a screw usually is; a job states its own.
USUAL_DRIVES: dict[tuple[str, str], ScrewDrive] = {
    ("lathe", "cross_slide"): ScrewDrive(),
    ("lathe", "compound"): ScrewDrive(
        ThreadSpec(Form.ACME, 0.5 * INCH_MM, INCH_MM / 10),
        100,
        False,
        4.0 * INCH_MM,
        1.0 * INCH_MM,
        what="compound",
        screw="compound screw",
        limit_key="compound_lash",
    ),
    ("lathe", "lead_screw"): ScrewDrive(
        ThreadSpec(Form.ACME, 1.125 * INCH_MM, INCH_MM / 8),
        1,
        False,
        30.0 * INCH_MM,
        2.0 * INCH_MM,
        what="carriage",
        screw="lead screw",
        has_dial=False,
        half_nuts=True,
        limit_key="lead_play",
    ),
    ("mill", "table_screw"): ScrewDrive(
        ThreadSpec(Form.TRAPEZOIDAL, 30.0, 6.0, 1, Hand.LEFT),
        120,
        False,
        600.0,
        60.0,
        what="table",
        screw="table screw",
        limit_key="table_lash",
    ),
    ("mill", "cross_screw"): ScrewDrive(
        ThreadSpec(Form.TRAPEZOIDAL, 28.0, 5.0, 1, Hand.LEFT),
        100,
        False,
        220.0,
        50.0,
        what="saddle",
        screw="cross screw",
        limit_key="mill_cross_lash",
    ),
    ("mill", "knee_screw"): ScrewDrive(
        ThreadSpec(Form.TRAPEZOIDAL, 36.0, 6.0),
        60,
        False,
        380.0,
        70.0,
        what="knee",
        screw="knee screw",
        is_upright=True,
        limit_key="knee_lash",
    ),
    ("grinder", "head_screw"): ScrewDrive(
        ThreadSpec(Form.TRAPEZOIDAL, 24.0, 4.0),
        200,
        False,
        280.0,
        60.0,
        what="wheel head",
        screw="down-feed screw",
        is_upright=True,
        limit_key="mill_cross_lash",
    ),
    ("shaper", "tool_screw"): ScrewDrive(
        ThreadSpec(Form.TRAPEZOIDAL, 20.0, 4.0),
        100,
        False,
        130.0,
        35.0,
        what="tool slide",
        screw="tool slide's screw",
        is_upright=True,
        limit_key="mill_cross_lash",
    ),
    ("shaper", "rail_screw"): ScrewDrive(
        ThreadSpec(Form.TRAPEZOIDAL, 28.0, 5.0),
        1,
        False,
        320.0,
        50.0,
        what="cross rail",
        screw="lifting screw",
        has_dial=False,
        is_upright=True,
        limit_key="lift_lash",
    ),
    ("drill", "table_screw"): ScrewDrive(
        ThreadSpec(Form.ACME, 1.0 * INCH_MM, INCH_MM / 6),
        1,
        False,
        350.0,
        45.0,
        what="table",
        screw="lifting screw",
        has_dial=False,
        is_upright=True,
        limit_key="lift_lash",
    ),
}


def once_a_turn(angle: float) -> dict[str, float]:
    """What comes back every turn, at an angle of the screw (rad), against where it started, by source."""
    return {"drunk.c": math.cos(angle) - 1, "drunk.s": math.sin(angle)}


def wear_key(station: int) -> str:
    """Source key of the screw's wear at a station."""
    return f"wear.{station}"


def felt_when_shoved(drive: ScrewDrive, station: int) -> dict[str, float]:
    """Play of the slide when it is pushed and pulled at a station, the screw held, by source. Coefficients
    by source, without unit.
    """
    return {"nut": 1.0, **drive.wear_felt(station), uneven_key(station): 1.0, "float": 1.0, "tip": 1.0}


def felt_at_dial(drive: ScrewDrive, station: int) -> dict[str, float]:
    """What is lost between hand and slide at a station, by source. Coefficients by source, without unit."""
    return {
        "nut": 1.0,
        **drive.wear_felt(station),
        uneven_key(station): 1.0,
        "float": 1.0,
        "float.turn": 1.0,
        "key": 1.0,
        "tip": TIP_AT_DIAL,
    }


def uneven_key(station: int) -> str:
    """Source key of what the nut feels at a station besides the wear as drawn between the stations."""
    return f"uneven.{station}"


def drive_model(drive: ScrewDrive) -> ErrorModel:
    """Sources of error of a screw drive with their prior.

    The prior is wide: what decades do to a slide that was never adjusted. The
    pitch diameter of the unworn thread and the lead start at what the stated
    thread allows.
    """
    limits = thread_limits(drive.thread)
    band = limits.screw_pitch
    wear = [
        Source(wear_key(k), f"screw wear at station {k}", 0.10, 0.16, True) for k in range(1, STATIONS + 1)
    ]
    sources = (
        Source("nut", "nut clearance", 0.15, 0.16, True),
        *wear,
        Source("float", "end float", 0.08, 0.12, True),
        Source("key", "key and handwheel", 0.02, 0.03, True)
        if drive.ratio == 1
        else Source("key", "key, handwheel and what drives the screw", 0.05, 0.08, True),
        Source("give", "give of the slide when pushed", 0.005, 0.005, True, loose=1),
        Source("tip", "tipping of the nut when the slide is shoved", 0.004, 0.020, True, loose=1),
        *[
            Source(uneven_key(k), f"wear between the stations, at station {k}", 0.0, UNEVEN_MM, loose=1)
            for k in range(1, STATIONS + 1)
        ],
        Source("float.turn", "end float otherwise when turned than when pushed", 0.0, 0.012, loose=1),
        Source("unworn", "unworn thread", band.middle_mm, max(band.width_mm, 0.1)),
        Source(
            "ridge",
            "unworn ridge thickness",
            drive.thread.pitch_mm / 2 - limits.axial_play_mm.middle_mm / 2,
            0.08,
        ),
        Source("lead", "lead", drive.thread.lead_mm, 0.02 * drive.thread.lead_mm),
        Source("major", "major diameter", limits.screw_major.middle_mm, 0.25),
        Source("crest", "crest wear at the middle", 0.02, 0.04, True, loose=4),
        Source("drunk.c", "once a turn, cosine", 0.0, 0.008, loose=6, group="drunk"),
        Source("drunk.s", "once a turn, sine", 0.0, 0.008, loose=6, group="drunk"),
        Source("bend", "bend, as a dial swings over a turn", 0.08, 0.15, True),
    )
    if drive.half_nuts:
        depth = drive.thread.basic_height_mm
        sources += (
            Source("standoff", "half nuts short of full depth", 0.15 * depth, 0.25 * depth, True),
            Source("dial_slack", "thread dial's slack", 0.15, 0.25, True),
            Source("dial_drop", "thread dial's jump over the keyway", 0.05, 0.25, True),
        )
    ties = {
        (wear_key(a), wear_key(b)): math.exp(-abs(a - b) / WEAR_REACH_STATIONS)
        for a in range(1, STATIONS + 1)
        for b in range(a + 1, STATIONS + 1)
    }
    return ErrorModel(sources, ties)
