"""A shop's own figures typed by hand in the window, on new jobs."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from trebb.core.survey import set_up
from trebb.core.units import UnitSystem
from trebb.logbook.entries import FactStated

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
