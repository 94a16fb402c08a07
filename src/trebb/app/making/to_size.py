"""A diameter or a length coming to its band, of any part."""

from __future__ import annotations

from collections.abc import Sequence

from trebb.app.look.widgets import column
from trebb.app.making.base import OperationView, Setting, SizeShown, Verdict
from trebb.app.parts.size_scale import SizeScale
from trebb.app.window.session import Session
from trebb.core.errors import InputError
from trebb.core.making.correction import size_sentence
from trebb.core.making.operations import Operation, SizeTarget
from trebb.core.units import parse_length, show_size, show_sizes

MOST_OFF = 0.2  # of the size: more is a slip of the unit


class ToSizeView(OperationView):
    """The sizes taken, on a scale to the band."""

    with_material = True
    leaves_room = True

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column()
        self.setLayout(box)
        self.scale = SizeScale()
        box.addWidget(self.scale)
        box.addStretch(1)
        self._part = ""

    def _sizes(self, operation: Operation) -> list[float]:
        name = self.session.case.part_name(self._part)
        return [s.taken.value_mm for s in self.session.job.sizes(name, operation.key) if s.struck is None]

    @staticmethod
    def _target(operation: Operation) -> SizeTarget:
        assert operation.target is not None
        return operation.target

    def show_operation(self, part: str, operation: Operation) -> Sequence[Setting]:
        self._part = part
        target = self._target(operation)
        self.scale.show_sizes(self._sizes(operation), target.band, self.session.system)
        return (
            (
                f"{target.what.capitalize()}, to",
                show_sizes(target.band.low_mm, target.band.high_mm, self.session.system, unit=False),
                True,
            ),
        )

    def what(self, operation: Operation) -> str:
        return self._target(operation).what

    def taken(self, operation: Operation) -> SizeShown:
        sizes = self._sizes(operation)
        none = (
            "not measured yet; simulated by Space"
            if self.session.case.practice("before")
            else "not measured yet"
        )
        return SizeShown(
            f"{self.what(operation)}, {self.unit}",
            show_size(sizes[-1], self.session.system, unit=False) if sizes else "–",
            "mean of three places; also for taper" if sizes else none,
        )

    def read(self, text: str, operation: Operation) -> float:
        value, middle = parse_length(text, self.session.system), self._target(operation).band.middle_mm
        if abs(value - middle) > MOST_OFF * middle:
            raise InputError(
                f"“{text.strip()}”",
                f"about {show_size(middle, self.session.system)} is expected here; is the unit right?",
            )
        return value

    def verdict(self, operation: Operation) -> Verdict | None:
        sizes = self._sizes(operation)
        return size_sentence(self._target(operation), sizes[-1], self.session.system) if sizes else None
