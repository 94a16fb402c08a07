"""One reading, two, a whole place at every set-up of every machine, in a new job: every stop stands it."""

from __future__ import annotations

import pytest
from PySide6.QtWidgets import QApplication

from trebb.app.look import painting
from trebb.app.stops.register import STOPS
from trebb.core.machine import KINDS, State
from trebb.core.survey import InstrumentKind, set_ups_of
from trebb.core.units import UnitSystem
from trebb.logbook.log.entries import AssemblyAdded, FactStated, ReadingStruck

SET_UPS = [(kind.key, a.key, a.family) for kind in KINDS.values() for a in kind.assemblies if a.family]
# The first of each family is gone over in every step, the others of it with one look at each set-up.
FIRST = {family: (kind, assembly) for kind, assembly, family in reversed(SET_UPS)}


def usual(case, s, place: str) -> float:
    """A reading that such a place could show: about what the usual condition gives."""
    row = s.row(case.subject, place)
    means = {source.key: source.mean for source in case.model_for("before").sources}
    mm = row.offset + sum(c * means[k] for k, c in row.coefficients.items())
    raw = s.restore(case.subject, place, mm)
    return (
        max(0.0, round(raw)) if s.unit == "count" else raw if s.is_signed or s.unit == "C" else max(raw, 0.0)
    )


SHORT = ("survey", "findings", "remedies", "prove")


def visit(frame, only=()) -> None:
    """Every stop, or some, shows the job without an exception and without an empty screen."""
    for stop in (s for s in STOPS if s.key in only or not only):
        frame.go_to(stop.key)
        QApplication.processEvents()
        assert frame.stop.isVisible()
        assert stop.words(frame.session)
    assert painting.TROUBLES == []


@pytest.mark.parametrize(("kind", "assembly", "family"), SET_UPS)
def test_few_readings_anywhere_are_shown_at_every_stop(make_window, kind, assembly, family):
    painting.TROUBLES.clear()
    frame = make_window("new", machine_kind=kind).frame
    try_every_set_up(frame, assembly, is_first=FIRST[family] == (kind, assembly))


PIECES = [
    ("shaft", {"drive": "key"}),
    ("shaft", {"drive": "taper_pin", "held": "centres"}),
    ("shaft", {"drive": "square"}),
    ("bore", {"use": "slides"}),
    ("bore", {"use": "fixed"}),
    ("gear", {"kind": "spur", "teeth": 24.0, "missing": "3 4"}),
    ("gear", {"kind": "bevel", "teeth": 16.0, "mate_teeth": 24.0, "every": "yes", "read_as": "gauge"}),
    ("cone", {"asbestos": "no"}),
    ("cone", {"rivets": 0.0, "force_n": 300.0, "torque_nm": 5.0, "face": "leather"}),
    ("casting", {"bore_mm": 20.0, "ends_found": "yes"}),
    ("casting", {"is_through": "yes", "metal": "zinc", "is_closed": "yes"}),
    ("jaws", {}),
    ("index_plate", {"holes": 12.0, "divisions": 14.0}),
    ("cutter", {"angles_deg": "0 58 121 180 238 301", "kind": "taper", "ratio": 48.0, "hole_file": "skates"}),
    ("cutter", {"angles_deg": "3", "kind": "end_mill"}),
    ("train", {"positions": "low: 20-60 24-30-48; high: 30-50 24-48", "lead_mm": 3.175}),
    ("train", {"kind": "bevels", "positions": "16-16", "gone": "16"}),
    ("way", {"along": 4.0, "across": 3.0}),
    ("way", {"along": 3.0, "across": 1.0}),
    ("gear", {"kind": "worm", "mate_teeth": 2.0}),
    ("gear", {"kind": "helical", "trace_deg": 20.0, "every": "yes", "name": "m2 20 full"}),
]


@pytest.mark.parametrize(("family", "facts"), PIECES)
def test_few_readings_of_a_piece_are_shown_at_every_stop(make_window, family, facts):
    painting.TROUBLES.clear()
    frame = make_window("new").frame
    frame.session.record(AssemblyAdded(assembly="piece", label="Piece", family=family, under="apron"))
    frame.session.record(
        *[FactStated(assembly="piece", field=key, value=value) for key, value in facts.items()]
    )
    try_every_set_up(frame, "piece", is_first=next(f for k, f in PIECES if k == family) is facts)


def intervals_hold(case) -> None:
    """Every figure lies in its own interval, as wide as its doubt; and what is beyond is not also sound."""
    for m in case.figures:
        q = m.value
        assert q.low - 1e-9 <= q.value <= q.high + 1e-9, (m.key, q)
        is_cut = q.high == q.low == 0  # wholly on the other side of nothing
        assert is_cut or 0 <= q.sd <= 1.02 * max(q.high - q.value, q.value - q.low) + 1e-9, (m.key, q)
    if case.is_measured:
        assert case.state is not State.WITHIN or all(m.state is not State.BEYOND for m in case.figures)


def try_every_set_up(frame, assembly, is_first: bool = True) -> None:
    session = frame.session
    session.choose(assembly)
    visit(frame)
    for number, s in enumerate(set_ups_of(session.case.family)):
        if s not in session.case.set_ups or s.instrument is InstrumentKind.EYE:
            continue
        places = [p.key for p in session.case.places(s.key)]
        if not places:  # a trial wants its shim first
            continue
        for count, taken in enumerate(([places[0]], [places[0]], places[: min(len(places), 3)])):
            for place in taken:
                if place in session.case.place_keys(s.key):
                    session.take(s, place, "before", usual(session.case, s, place))
            intervals_hold(session.case)
            session.show_in(UnitSystem.METRIC if session.system is UnitSystem.INCH else UnitSystem.INCH)
            # the same place once more shows nothing new at most of them, nor do others of a family
            if (is_first and count != 1) or (number % 3 == 0 and (is_first or count == 2)):
                visit(frame, SHORT if count or number % 10 else ())
        if s.key not in session.case.distrusted("before"):
            assert not session.case.set_aside()
        for reading in session.job.readings(assembly, s.key):
            session.record(ReadingStruck(reading=reading.id, reason="tried only"))
        if is_first and number % 3 == 0:
            visit(frame, SHORT)
        assert not session.case.known_places(s, "before")
