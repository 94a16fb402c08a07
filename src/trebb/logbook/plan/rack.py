"""The shop's rack: bars and offcuts by length, one file for all jobs, the user's own."""

from __future__ import annotations

import json
import math
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import platformdirs
from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.making.stock import SHAPES, Bar
from trebb.core.metals import MATERIALS
from trebb.logbook.file.given_files import MB, read_given
from trebb.logbook.file.holding import Hold
from trebb.logbook.file.writing import write_whole

FORMAT, VERSION = "trebb rack", 1
MOST_BARS, MOST_MM = 2000, 10_000.0


class RackError(InputError):
    """A rack file that cannot be read or written; what is in it stands."""


def rack_path() -> Path:
    """Where the rack is kept."""
    return platformdirs.user_data_path("trebb", appauthor=False) / "rack.json"


class Rack(Struct, frozen=True):
    """Bars as read, and what the file held then: so that nobody's change is written over."""

    bars: tuple[Bar, ...]
    read: bytes = b""

    def new_key(self) -> str:
        """A key for another bar."""
        taken = {b.key for b in self.bars}
        return next(f"b{i}" for i in range(1, 100_000) if f"b{i}" not in taken)


def read_rack(path: Path | None = None) -> Rack:
    """The rack; an empty one where there is none yet. Raises RackError."""
    place = path or rack_path()
    try:
        if not place.exists():
            return Rack(())
        data = read_given(place, 16 * MB, RackError)
        told = json.loads(data)
    except RackError:
        raise
    except (ValueError, RecursionError):
        raise RackError(str(place), "it is no rack of Trebb's: move it away to begin another") from None
    if not isinstance(told, dict) or told.get("format") != FORMAT:
        raise RackError(str(place), "it is no rack of Trebb's: move it away to begin another")
    version = told.get("version")
    if not isinstance(version, int) or version > VERSION:
        raise RackError(str(place), f"it is of a newer Trebb (version {version}); this one reads {VERSION}")
    bars = told.get("bars")
    if not isinstance(bars, list) or len(bars) > MOST_BARS:
        raise RackError(str(place), f"“bars” must be a list of {MOST_BARS} at most")
    return Rack(tuple(_bar(entry, place) for entry in bars), data)


def _bar(entry: Any, place: Path) -> Bar:
    if not isinstance(entry, dict):
        raise RackError(str(place), f"a bar that is none: {str(entry)[:60]}")
    try:
        bar = Bar(
            str(entry["key"]),
            str(entry["metal"]),
            str(entry["shape"]),
            float(entry["size_mm"]),
            float(entry["length_mm"]),
            float(entry.get("width_mm", 0.0)),
            str(entry.get("note", "")),
        )
    except (KeyError, TypeError, ValueError) as error:
        raise RackError(str(place), f"a bar without its sizes ({error}): {str(entry)[:60]}") from None
    return checked_bar(bar)


def checked_bar(bar: Bar) -> Bar:
    """A bar that can be. Raises RackError."""
    if bar.metal not in MATERIALS:
        raise RackError(f"metal “{bar.metal}”", f"known are {', '.join(MATERIALS)}")
    if bar.shape not in SHAPES:
        raise RackError(f"shape “{bar.shape}”", f"known are {', '.join(SHAPES)}")
    for mm in (bar.size_mm, bar.length_mm):
        if not (math.isfinite(mm) and 0 < mm <= MOST_MM):
            raise RackError(f"{mm:g} mm", f"more than nothing, {MOST_MM:g} mm at most")
    if not 0 <= bar.width_mm <= MOST_MM:
        raise RackError(f"{bar.width_mm:g} mm wide", f"from 0 to {MOST_MM:g} mm")
    return bar


def write_rack(rack: Rack, bars: Sequence[Bar], path: Path | None = None) -> Rack:
    """Write the rack with other bars. Raises RackError where another Trebb writes it just now, or changed it
    since it was read: nothing is lost of either.
    """
    place = path or rack_path()
    place.parent.mkdir(parents=True, exist_ok=True)
    try:
        hold = Hold(place.with_suffix(".lock"))
    except BlockingIOError:
        raise RackError(str(place), "another Trebb is writing it: try again in a moment") from None
    except OSError as error:
        raise RackError(str(place), f"it cannot be written ({error.strerror})") from None
    try:
        if read_rack(place).read != rack.read:
            raise RackError(str(place), "it was changed since it was read: read it again, then once more")
        told = {
            "format": FORMAT,
            "version": VERSION,
            "bars": [
                {
                    "key": b.key,
                    "metal": b.metal,
                    "shape": b.shape,
                    "size_mm": round(b.size_mm, 3),
                    "width_mm": round(b.width_mm, 3),
                    "length_mm": round(b.length_mm, 2),
                    "note": b.note,
                }
                for b in map(checked_bar, bars)
            ],
        }
        data = (json.dumps(told, indent=1, ensure_ascii=False) + "\n").encode()
        write_whole(place, data)
        return Rack(tuple(bars), data)
    finally:
        hold.release()
