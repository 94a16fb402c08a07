"""The nut's thread in section with its bar; by what it is checked; the passes left."""

from __future__ import annotations

import math
from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import column, exclusive, label, row
from trebb.app.making.base import OperationView, Setting, SizeShown, Verdict
from trebb.app.parts.pass_rows import PassRow, PassRows
from trebb.app.parts.size_scale import SizeScale
from trebb.app.window.session import Session
from trebb.core.errors import InputError
from trebb.core.families.screw_drive.correction import nut_band_mm, nut_sentence
from trebb.core.families.screw_drive.nut import WANTED_PLAY_MM
from trebb.core.making.operations import Operation
from trebb.core.threads import Form, ThreadSpec, pitch_dia_from_balls_mm
from trebb.core.threads.section import nut_outline
from trebb.core.threads.tooling import largest_shank_mm, tap_or_cut, threading_bar
from trebb.core.units import THOU_MM, UnitSystem, parse_length, show_size, show_small
from trebb.logbook.log.entries import PartSet

MOST_PLAY_MM = 1.0
CHECKS = {
    "plug": ("By a plug", "The largest of stepped plugs, cut to known pitch diameters, that goes"),
    "screw": ("By its screw", "Play on the screw it is for: the mating part is the gauge"),
    "balls": ("Between balls", "Two balls in opposite grooves, a bore gauge between them"),
}


class NutThreadView(OperationView):
    """The nut's thread in section with its bar; by what it is checked; the passes left."""

    with_material = True

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column(spacing=6)
        self.setLayout(box)
        line = row(spacing=6)
        line.addWidget(label("Checked", "strong"))
        self.checks = exclusive(
            self,
            line,
            ((key, words, tip) for key, (words, tip) in CHECKS.items()),
            self._check,
            prefix="check",
        )
        line.addStretch()
        box.addLayout(line)
        self.picture = NutPicture()
        box.addWidget(self.picture, 3)
        self.bar = label("", "soft", wrap=True)
        box.addWidget(self.bar)
        self.scale = SizeScale()
        box.addWidget(self.scale)
        self.passes = PassRows()
        box.addWidget(self.passes, 2)

    def _check(self, key: str) -> None:
        self.session.record(PartSet(part=self.case.part_name("nut"), field="check", value=key))

    def show_operation(self, part: str, operation: Operation) -> Sequence[Setting]:
        case, system = self.case, self.session.system
        spec = case.made_drive.thread
        by_balls = case.nut_check == "balls"
        for key in ("balls", "plug"):
            self.checks[key].setEnabled(spec.form is not Form.SQUARE)
        self.checks[case.nut_check].setChecked(True)
        target = case.nut_target_mm
        self.picture.show_nut(spec, target, case.nut_pitch_dia(), system)
        length = case.part("nut").length_mm
        stiff = threading_bar(spec, length, "bronze") if largest_shank_mm(spec) >= 3 else None
        self.bar.setText(f"{tap_or_cut(stiff, spec, length, system)} The cut goes outward, toward you.")
        self.scale.setVisible(case.nut_check != "screw")
        if case.nut_check != "screw":
            self.scale.show_sizes(
                case.sizes_of("nut", "nut_thread"),
                nut_band_mm(case.made_drive, target, case.ball_mm if by_balls else None),
                system,
            )
        passes = case.passes(case.scheme, nut=True)
        self.passes.show_rows(
            [
                PassRow(
                    f"pass {p.number}",
                    "no infeed: spring pass" if p.is_spring else "outward",
                    "" if p.is_spring else show_small(p.step_mm, system),
                    "" if p.is_spring else f"depth {show_size(p.cross_mm, system, unit=False)}",
                    "",
                )
                for p in passes
            ]
        )
        settings: list[Setting] = []
        if by_balls:
            settings.append(("Balls", show_size(case.ball_mm, system), True))
        if stiff is not None:
            settings += [
                ("Bar, at most", show_size(stiff.shank_mm, system), False),
                ("Reach", show_size(stiff.overhang_mm, system), False),
                ("Swing of bar and tip", show_size(stiff.swing_mm, system), False),
            ]
        settings += [
            (line.label, show_size(line.value, system, unit=False), True)
            for line in case.part("nut").rows
            if line.is_key and isinstance(line.value, float)
        ]
        return settings

    # sizes ------------------------------------------------------------------------------------

    def what(self, operation: Operation) -> str:
        return self.case.nut_size_words

    def taken(self, operation: Operation) -> SizeShown:
        case, system = self.case, self.session.system
        sizes = case.sizes_of("nut", operation.key)
        if case.nut_check == "screw":
            unit = "thou" if system is UnitSystem.INCH else "µm"
            return SizeShown(
                case.nut_size_words,
                show_small(sizes[-1], system, unit=False) if sizes else "–",
                f"{unit}, indicator on the nut, pushed and pulled",
            )
        note = (
            "least reading, rocked both ways"
            if case.nut_check == "balls"
            else "its pitch diameter; goes with oil, without force"
        )
        return SizeShown(
            f"{case.nut_size_words}, {self.unit}",
            show_size(sizes[-1], system, unit=False) if sizes else "–",
            note if sizes else "not measured yet",
        )

    def read(self, text: str, operation: Operation) -> float:
        case, system = self.case, self.session.system
        if case.nut_check == "screw":
            value = parse_length(text, system, bare_mm=THOU_MM if system is UnitSystem.INCH else 0.001)
            if not 0 <= value < MOST_PLAY_MM:
                raise InputError(
                    f"“{text.strip()}”", "the play of a new nut is from nothing to 40 thou (1 mm)"
                )
            return value
        value = parse_length(text, system)
        middle = case.nut_target_mm
        if case.nut_check == "balls":
            pitch_dia_from_balls_mm(
                case.made_drive.thread, value, case.ball_mm
            )  # refuses what cannot be of this nut
        elif abs(value - middle) > 0.1 * middle:
            raise InputError(
                f"“{text.strip()}”",
                f"a plug of about {show_size(middle, system)} pitch diameter is expected; is the unit right?",
            )
        return value

    def verdict(self, operation: Operation) -> Verdict | None:
        case, system = self.case, self.session.system
        sizes = case.sizes_of("nut", operation.key)
        if not sizes:
            return None
        if case.nut_check != "screw":
            return nut_sentence(
                case.made_drive,
                sizes[-1],
                case.ball_mm if case.nut_check == "balls" else None,
                case.nut_target_mm,
                system,
            )
        more = sizes[-1] - float(case.part_inputs("nut").facts.get("play", WANTED_PLAY_MM))
        if more > THOU_MM:
            return (
                "near",
                f"{show_small(more, system)} more play than wanted.",
                "Keep it if the limit allows, or use the spare block.",
            )
        return "within", "The play is as wanted.", ""


class NutPicture(painting.Painted, QWidget):
    """Three grooves of the nut in section: finished, and as it now is."""

    def __init__(self) -> None:
        super().__init__()
        self._spec: ThreadSpec | None = None
        self._target = 0.0
        self._now: float | None = None
        self._system = UnitSystem.METRIC
        self.setMinimumHeight(96)
        self.setToolTip("The nut's thread in section, bore side down, to scale")

    def show_nut(self, spec: ThreadSpec, target_mm: float, now_mm: float | None, system: UnitSystem) -> None:
        """Show the nut to be cut to a pitch diameter, and as it stands."""
        self._spec, self._target, self._now, self._system = spec, target_mm, now_mm, system
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._spec is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        spec = self._spec
        deep = (spec.nut_major_min_mm - spec.nut_minor_mm) / 2
        scale = min(
            (self.width() - 20) / (3 * spec.pitch_mm), (self.height() - 30) / (deep + 0.4 * spec.pitch_mm)
        )
        left = self.width() / 2 - scale * 1.5 * spec.pitch_mm
        top = 8 + scale * (0.3 * spec.pitch_mm + spec.clearance_dia_mm / 2)
        roof = top - scale * (0.3 * spec.pitch_mm + spec.clearance_dia_mm / 2)
        clip = QRectF(left, roof, scale * 3 * spec.pitch_mm, self.height() - roof - 18)
        slope = math.tan(spec.form.half_angle)

        def points(pitch_dia: float) -> list[QPointF]:
            play = (pitch_dia - spec.pitch_dia_mm) * slope
            return [
                QPointF(left + scale * x, top + scale * d)
                for x, d in nut_outline(spec, spec.pitch_dia_mm, play, 3)
            ]

        painter.save()
        painter.setClipRect(clip)
        shape = points(self._target)
        painting.fill_profile(painter, shape, roof - 4, theme.colour("metal"))
        painter.setPen(painting.pen("within", 1.8))
        painter.drawPolyline(QPolygonF(shape))
        if self._now is not None:
            painter.setPen(painting.dashed_pen("blue", 1.6))
            painter.drawPolyline(QPolygonF(points(self._now)))
        painter.restore()
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("within"))
        painter.drawText(
            QPointF(8, self.height() - 4), f"finished: pitch diameter {show_size(self._target, self._system)}"
        )
        if self._now is not None:
            painter.setPen(theme.colour("blue"))
            left_to_go = (self._target - self._now) / 2
            painter.drawText(
                QRectF(0, self.height() - 18, self.width() - 8, 18),
                Qt.AlignmentFlag.AlignRight,
                f"now: {show_small(left_to_go, self._system)} to go on radius"
                if left_to_go > 0.002
                else "now: there",
            )
