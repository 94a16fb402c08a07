"""A shop's own figures typed by hand in the window, on new jobs."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget

from trebb.core.survey import set_up
from trebb.core.units import UnitSystem
from trebb.logbook.log.entries import FactStated, PartSet, RemedyChosen

ANGLES = (0, 45, 90, 135, 180, 225, 270, 315)


class Hand:
    """Types in a window: readings in the pod's field, each with Enter; facts as their field would take
    them.
    """

    def __init__(self, make_window, kind: str = "lathe", system: UnitSystem = UnitSystem.INCH) -> None:
        self.window = make_window("new", machine_kind=kind)
        self.frame = self.window.frame
        self.session = self.frame.session
        self.session.show_in(system)

    def state(self, assembly: str, **typed: str) -> Hand:
        """Facts as typed."""
        self.session.choose(assembly)
        case = self.session.case
        for key, text in typed.items():
            fact = case.schema.fact(key)
            name = key if fact is case.schema.numbered else fact.key
            value = fact.typed(text, self.session.system)
            self.session.record(FactStated(assembly=case.holder, field=name, value=value))
        return self

    def read(self, assembly: str, key: str, place: str, *typed: object, phase: str = "before") -> Hand:
        """Readings at one place, typed; a bare number is thou or µm where a small length is read."""
        self.session.choose(assembly)
        stop = self.frame.go_to("survey" if phase == "before" else "prove")
        bench = stop.bench
        bench.choose_set_up(key)
        unit = "thou" if self.session.system is UnitSystem.INCH else "µm"
        small = set_up(key).unit == "mm" and not set_up(key).is_size
        for value in typed:
            bench.choose_place(place)
            entry = stop.pod.entry
            entry.setText(f"{value} {unit}" if small and isinstance(value, int | float) else str(value))
            QTest.keyClick(entry, Qt.Key.Key_Return)
            QApplication.processEvents()
            assert not stop.pod.refusal.isVisible(), stop.pod.refusal.text()
        return self

    def turn(self, key: str, plane: str, thou: float, at_deg: float = 0.0) -> Hand:
        """A whole turn of a runout of so many thou (TIR), high at an angle, on an indicator of tenths."""
        import math

        values = [thou / 2 * math.cos(math.radians(a - at_deg)) for a in ANGLES]
        for angle, value in zip(ANGLES, values, strict=True):
            self.read("spindle", key, f"{plane}, {angle}°", f"{value:.1f} thou")
        return self

    def case(self, assembly: str):
        """What is said of an assembly."""
        self.session.choose(assembly)
        return self.session.case

    def said(self, assembly: str) -> str:
        """All that Findings says, as one text; the stop is shown."""
        self.session.choose(assembly)
        self.frame.go_to("findings")
        QApplication.processEvents()
        found = self.session.case.findings(self.session.system)
        return " ".join(f"{f.sentence} {f.next_move}" for f in found)

    def head(self, assembly: str) -> str:
        """The headline as shown."""
        self.said(assembly)
        return self.frame.stop.banner.head.text()

    def figure(self, assembly: str, key: str):
        """A figure by its key; None where nothing is said of it."""
        return next((m for m in self.case(assembly).figures if m.key == key), None)


def named(stop, name):
    """The widget of that name, at the stop or its panels."""
    return next(w for w in stop.window().findChildren(QWidget) if w.objectName() == name)


def add(h, under, family, label=""):
    """A piece or an assembly, with the keys."""
    h.session.choose(under)
    QTest.keyClick(h.frame, Qt.Key.Key_Insert)
    form = h.frame.machine.add
    form.what.setCurrentIndex(form.what.findData(family))
    if label:
        form.name.selectAll()
        QTest.keyClicks(form.name, label)
    QTest.keyClick(form.name, Qt.Key.Key_Return)
    QApplication.processEvents()
    return h.session.assembly


def choose(h, piece, remedy):
    h.session.record(RemedyChosen(assembly=piece, remedy=remedy, reason="as found"))


def set_part(h, piece, key, **sizes):
    """Sizes at Parts, as their fields take them."""
    from trebb.core.parts import family

    case = h.case(piece)
    for name, text in sizes.items():
        field = next(f for f in family(key).fields(case.part_inputs(key, h.session.system)) if f.key == name)
        h.session.record(
            PartSet(part=case.part_name(key), field=name, value=field.typed(text, h.session.system))
        )


def wrong(part):
    return [c.sentence for c in part.checks if not c.is_ok]


def make_all(h, piece, key):
    """Every operation of a part's route, its size typed inside its band, ticked."""
    stop = h.frame.go_to("make")
    stop.show_part(key)
    case = h.case(piece)
    for operation in case.route(key, h.session.system):
        stop.show_step(operation.key)
        QApplication.processEvents()
        assert stop.title.text().endswith(operation.title)
        if operation.target is not None and operation.kind == "size":
            stop.entry.setText(f"{operation.target.band.middle_mm:.4f} mm")
            stop.entry.setModified(True)
            QTest.keyClick(stop.entry, Qt.Key.Key_Return)
            assert not stop.refusal.isVisible(), (operation.key, stop.refusal.text())
            assert h.session.job.sizes(case.part_name(key), operation.key)
        stop.toggle_done()
    assert len(h.session.job.steps_done(case.part_name(key))) == len(case.route(key, h.session.system))


def proof(h, piece):
    h.frame.go_to("prove")
    QApplication.processEvents()
    case = h.case(piece)
    return case.proof_head(case.comparisons(), h.session.system)
