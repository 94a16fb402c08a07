"""The screw's thread: school of infeed, groove, scale down to the band, passes left, dial settings for this
lathe.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from trebb.app.look.widgets import column, exclusive, label, row
from trebb.app.making.base import OperationView, Setting, SizeShown, Verdict
from trebb.app.parts.groove_picture import GroovePicture
from trebb.app.parts.pass_rows import PassRow, PassRows
from trebb.app.parts.size_scale import SizeScale
from trebb.app.window.session import Session
from trebb.core.families.screw_drive.correction import state_sentence, thread_state
from trebb.core.families.screw_drive.nut import WANTED_PLAY_MM
from trebb.core.families.screw_drive.screw import WORKING_CLEARANCE
from trebb.core.families.screw_drive.thread_rows import lathe_dial_rule
from trebb.core.making.correction import warm_reading_mm
from trebb.core.making.infeed import InfeedScheme, Pass, run_out_mm, spindle_rpm
from trebb.core.making.operations import Operation
from trebb.core.threads import Form, Hand, flank_clearance, size_over_wires_mm, thread_limits
from trebb.core.threads.groove import groove_of, pitch_dia_at_depth_mm
from trebb.core.units import parse_length, show_size, show_small
from trebb.core.words import large
from trebb.logbook.log.entries import PartSet

WHY = {
    InfeedScheme.STRAIGHT: "Straight in: shallow threads and small tools; both flanks cut, the chip jams in "
    "deep ones.",
    InfeedScheme.COMPOUND: "Compound at the half angle: the chip clears, one flank cuts; the usual way for a "
    "deep thread.",
    InfeedScheme.ALTERNATE: "Alternate flanks: set over either way in turn; wears both corners alike, kind "
    "to a light machine.",
}
THREAD_SPEED_M_MIN = 6.0
WARM_C = 20.0


class ScrewThreadView(OperationView):
    """Everything between the first pass and the band."""

    with_words = False

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column(spacing=5)
        self.setLayout(box)
        line = row(spacing=6)
        self.schemes = exclusive(
            self,
            line,
            ((s, s.value.capitalize(), WHY[s]) for s in InfeedScheme),
            self._school,
            prefix="infeed",
            kind="",
        )
        line.addStretch()
        box.addLayout(line)
        self.why = label("", "soft", wrap=True)
        box.addWidget(self.why)
        self.groove = GroovePicture()
        box.addWidget(self.groove, 3)
        self.scale_head = label("", "strong")
        box.addWidget(self.scale_head)
        self.scale = SizeScale()
        box.addWidget(self.scale)
        self.left_head = label("What is left", "strong")
        box.addWidget(self.left_head)
        self.passes = PassRows()
        box.addWidget(self.passes, 2)

    def _school(self, scheme: InfeedScheme) -> None:
        self.session.record(PartSet(part=self.case.part_name("screw"), field="infeed", value=scheme.name))

    def set_low(self, low: bool) -> None:
        self.why.setHidden(low)
        self.scale_head.setHidden(low)

    def _sizes(self) -> list[float]:
        case = self.case
        known = case.made_drive.thread.form is Form.SQUARE or case.made_screw_pitch_dia() is not None
        return case.sizes_of("screw", "thread") if known else []

    # showing ----------------------------------------------------------------------------------

    def show_operation(self, part: str, operation: Operation) -> Sequence[Setting]:
        case, system, scheme = self.case, self.session.system, self.case.scheme
        drive = case.made_drive
        for key, choice in self.schemes.items():
            choice.setChecked(key is scheme)
        self.why.setText(WHY[scheme])
        self.groove.show_thread(drive, case.made_screw_pitch_dia(), system)
        spec = drive.thread
        square = spec.form is Form.SQUARE
        self.scale_head.setText(
            "Depth of the groove, to the band, then stop"
            if square
            else f"{case.thread_size_words.capitalize()}, down to the band, then stop"
        )
        middle = (
            spec.depth_mm
            if square
            else drive.as_read_mm(
                size_over_wires_mm(spec, thread_limits(spec).screw_pitch.middle_mm, drive.wire)
            )
        )
        self.scale.show_sizes(self._sizes(), thread_state(drive, middle).band, system)
        passes = case.passes(scheme)
        self.passes.show_rows([self._pass_row(p, scheme) for p in passes])
        cuts = sum(not p.is_spring for p in passes)
        self.left_head.setText(
            f"What is left: {cuts} pass{'es' if cuts > 1 else ''}, then spring passes"
            if cuts
            else "What is left: spring passes only"
        )
        if case.is_roughed and not self._sizes() and cuts:
            first = show_size(case.touches_mm, system)
            self.left_head.setText(
                f"{self.left_head.text()}; the finisher first touches at {first}, where roughing left off"
            )
        return self._settings(passes, scheme)

    def _pass_row(self, p: Pass, scheme: InfeedScheme) -> PassRow:
        system, spec = self.session.system, self.case.made_drive.thread
        if p.is_spring:
            return PassRow(f"pass {p.number}", "no infeed: spring pass", "", "", "")
        move = "compound in" if scheme is InfeedScheme.COMPOUND else "cross slide in"
        moved = p.compound_mm if scheme is InfeedScheme.COMPOUND else p.cross_mm
        total = f"total {show_size(moved, system, unit=False)}"
        if scheme is InfeedScheme.ALTERNATE and p.sideways_mm:
            side = "tailstock" if p.sideways_mm > 0 else "headstock"
            total += f", {show_small(abs(p.sideways_mm), system)} to {side}"
        expect = ""
        if spec.form is not Form.SQUARE:
            pitch_dia = pitch_dia_at_depth_mm(spec, p.cross_mm, groove_of(spec).flat_mm)
            if pitch_dia < spec.major_mm:
                over = size_over_wires_mm(spec, pitch_dia, self.case.made_drive.wire)
                expect = f"expect {show_size(self.case.made_drive.as_read_mm(over), system, unit=False)}"
        return PassRow(f"pass {p.number}", move, show_small(p.step_mm, system), total, expect)

    def _settings(self, passes: list[Pass], scheme: InfeedScheme) -> list[Setting]:
        case, system = self.case, self.session.system
        drive, shop = case.made_drive, case.workshop
        spec = drive.thread
        angle = spec.form.half_angle if scheme is InfeedScheme.COMPOUND else 0.0
        shown = math.pi / 2 - angle if shop.compound_from_bed else angle
        settings: list[Setting] = [
            (
                "Compound, on its scale" if shop.compound_from_bed else "Compound, off the cross slide",
                f"{math.degrees(shown):.1f}°",
                False,
            )
        ]
        if passes and not passes[0].is_spring:
            move = "Compound, this pass" if scheme is InfeedScheme.COMPOUND else "Cross slide, this pass"
            factor = 2 if shop.cross_reads_diameter and scheme is not InfeedScheme.COMPOUND else 1
            settings.append(
                (
                    move + (", dial shows" if factor == 2 else ""),
                    f"+{show_size(passes[0].step_mm * factor, system, unit=False)}",
                    True,
                )
            )
        rule = lathe_dial_rule(shop, drive)
        rpm = shop.speed_at_most(spindle_rpm(spec.major_mm, THREAD_SPEED_M_MIN))
        clearance = flank_clearance(spec, WORKING_CLEARANCE)
        return [
            *settings,
            ("Full depth on radius", show_size(case.full_depth_mm(), system, unit=False), False),
            (
                "Thread dial",
                "any line"
                if rule.any_position
                else rule.sentence
                if len(rule.sentence) < 24
                else "see below",
                False,
            ),
            ("Spindle", f"{rpm} rpm", False),
            ("Run-on in half a second", show_size(run_out_mm(spec.lead_mm, rpm), system, unit=False), False),
            (
                "Tip flat",
                show_size(groove_of(spec).flat_mm, system, unit=False),
                True,
            ),
            ("Included angle", f"{2 * math.degrees(spec.form.half_angle):.1f}°", False),
            (f"Clearance, {clearance.leading_side} side", f"{math.degrees(clearance.leading):.1f}°", False),
            (
                f"Clearance, {clearance.trailing_side} side",
                f"{math.degrees(clearance.trailing):.1f}°".replace("-", "−"),
                False,
            ),
        ]

    def remark(self) -> str:
        rule = lathe_dial_rule(self.case.workshop, self.case.made_drive)
        words = (
            rule.sentence
            if not rule.any_position
            else "Half nuts may close anywhere: this lead goes whole into the lead screw's."
        )
        if self.case.made_drive.thread.hand is Hand.LEFT:
            words = words.rstrip(".") + ". Left hand: carriage runs away from the headstock."
        return large(words)

    # sizes ------------------------------------------------------------------------------------

    def what(self, operation: Operation) -> str:
        return self.case.thread_size_words

    def taken(self, operation: Operation) -> SizeShown:
        sizes, system = self._sizes(), self.session.system
        none = "not measured yet; simulated by Space" if self.case.practice("before") else "not measured yet"
        return SizeShown(
            f"{self.case.thread_size_words}, {self.unit}",
            show_size(sizes[-1], system, unit=False) if sizes else "–",
            f"±{show_small(0.005, system)}" if sizes else none,
        )

    def read(self, text: str, operation: Operation) -> float:
        value = parse_length(text, self.session.system)
        thread_state(self.case.made_drive, value)  # refuses what cannot be of this thread
        return value

    def verdict(self, operation: Operation) -> Verdict | None:
        sizes = self._sizes()
        if not sizes:
            return None
        case, system = self.case, self.session.system
        state = thread_state(case.made_drive, sizes[-1])
        sentence = state_sentence(
            case.made_drive, state, float(case.part_inputs("nut").facts.get("play", WANTED_PLAY_MM)), system
        )
        if state.verdict == "within":
            return "within", sentence, ""
        if case.made_drive.thread.form is Form.SQUARE:
            return "near", sentence, ""
        if state.verdict == "small":
            return "beyond", "Under the band.", sentence
        warm = show_small(warm_reading_mm(case.made_drive.thread.major_mm, WARM_C), system)
        return (
            "near",
            sentence,
            f"Let it cool before the last passes: {WARM_C:.0f} °C of warmth reads {warm} large.",
        )
